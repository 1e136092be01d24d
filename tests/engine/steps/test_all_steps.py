"""What holds for every step."""

from pathlib import Path

import numpy as np

from mabrel.light import Light
from mabrel.steps import catalogue, kinds
from tests.engine.steps.trial import run, scene


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
