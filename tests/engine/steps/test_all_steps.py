"""What holds for every step."""

from pathlib import Path

import numpy as np
import pytest

from mabrel.light import Light
from mabrel.steps import Bound, Piece, catalogue, kinds
from tests.engine.steps.trial import RADIUS, piece, run, scene


def test_no_step_changes_what_it_was_given() -> None:
    lit = run("light.shade", run("relief.inflate"))
    for kind in kinds().values():
        given = kind.settings()
        before = lit.grown(kind.room(lit, given, scene()))
        copies = {name: getattr(before, name).copy() for name in ("matte", "face", "height")}
        kind.apply(before, given, scene())
        for name, copied in copies.items():
            assert np.array_equal(getattr(before, name), copied), (kind.name, name)


def test_every_step_writes_what_it_declares_and_nothing_else() -> None:
    fields = ("matte", "face", "height", "behind", "front", "body", "cast")
    inflated = run("relief.inflate")
    for kind in kinds().values():
        given = kind.settings()
        before = inflated.grown(kind.room(inflated, given, scene()))
        after = kind.apply(before, given, scene())
        for name in fields:
            same = getattr(before, name) is getattr(after, name)
            assert same or name in kind.writes, (kind.name, name)


def full_piece() -> Piece:
    """A piece that has everything: a relief, what was painted kept apart, planes, an outline."""
    turns = np.linspace(0, 2 * np.pi, 200)
    x, y = RADIUS * np.cos(turns), RADIUS * np.sin(turns)
    lines = np.stack([x[:-1], y[:-1], x[1:], y[1:]], axis=1)
    begun = run("relief.inflate", piece().tracking())
    begun = begun.reshaped(begun.matte, lines)
    begun = run("surface.flat", begun, colour="#4080c0", opacity=0.5)
    for name in ("light.shade", "depth.extrude", "lens.glow"):
        begun = run(name, begun)
    return begun


def test_every_step_keeps_all_fields_of_a_piece_in_step() -> None:
    """Arrays of one shape, a box that is the outline's, and what was painted changed with the
    face: none is forgotten."""
    begun = full_piece()
    for kind in kinds().values():
        given = kind.settings()
        before = begun.grown(kind.room(begun, given, scene()))
        done = kind.apply(before, given, scene()).settled()
        shape = (done.region.height, done.region.width)
        planes = (
            done.matte,
            done.face,
            done.height,
            done.behind,
            done.front,
            done.body,
            done.added,
        )
        assert {plane.shape[:2] for plane in planes if plane is not None} == {shape}, kind.name
        if done.outline is not None:
            bounds = [*done.outline[:, :2].min(axis=0), *done.outline[:, :2].max(axis=0)]
            assert done.box == pytest.approx(bounds, abs=1), kind.name
        assert done.added is not None
        if done.face.shape == before.face.shape and not np.array_equal(done.face, before.face):
            assert not np.array_equal(done.added, before.added), kind.name


def test_no_step_asks_for_what_it_did_not_say() -> None:
    """With every choice of every setting."""
    begun = full_piece()
    for kind in kinds().values():
        fields = catalogue_of(kind.name)
        choices = [{each["name"]: one} for each in fields for one in each["choices"] or []]
        for changes in [{}, *choices]:
            given = kind.settings.model_validate(changes)
            asking = scene()
            bound = bound_of(begun)
            kind.planned(bound, given, asking, kind.room(bound, given, asking))
            where = asking.held_to(frozenset(asking.asked))
            before = begun.grown(kind.room(begun, given, where))
            kind.apply(before, given, where)


def catalogue_of(name: str) -> list[dict]:
    return next(entry["settings"] for entry in catalogue() if entry["step"] == name)


def bound_of(begun: Piece) -> Bound:
    return Bound(begun.region, begun.box, begun.outline, begun.depth, begun.rise)


def test_only_steps_that_say_so_depend_on_the_rig() -> None:
    lit = run("light.shade", run("relief.inflate"))
    for kind in kinds().values():
        given = kind.settings()
        results = []
        for light in (Light(0, 30), Light(180, 60)):
            there = scene([light])
            before = lit.grown(kind.room(lit, given, there))
            done = kind.apply(before, given, there)
            done = done.settled()
            results.append([done.face, done.height, done.behind])
        same = all(
            (a is None and b is None) or (a.shape == b.shape and np.array_equal(a, b))
            for a, b in zip(*results, strict=True)
        )
        assert same != kind.lit, kind.name


def test_the_page_of_steps_is_up_to_date() -> None:
    page = (Path(__file__).resolve().parents[3] / "docs" / "steps.md").read_text()
    for entry in catalogue():
        assert f"(`{entry['step']}`)" in page
        for setting in entry["settings"]:
            assert f"| `{setting['name']}` |" in page
            assert setting["help"] in page
