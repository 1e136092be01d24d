"""Cells on the sides of a body: where they lie, what they keep, and what they never cover."""

import cv2
import numpy as np
import pytest

from mabrel import Renderer, parse_title, swap
from mabrel.camera import card_at
from mabrel.render.cells import CellGrid
from mabrel.source import LetteringStyle, outline_text
from mabrel.source.letter_places import letter_places
from mabrel.steps.cells.grid import Grid
from tests.engine.polygons import area_and_centre

RENDERER = Renderer()
FONT = "Press Start 2P"
SIZE = 160
UNIT = SIZE / 8
DEPTH = 3 * UNIT
FRAME = (900, 420)


def document(hand: dict | None = None, word: str = "LT", place: dict | None = None, **more) -> dict:
    body = {"towards": "back", "length": DEPTH, "lit": 0, "fade": 0, "colour": "#000000"}
    cells = {"pattern": "none", "opacity": 1, "painted": hand or {}, "side_shading": 0}
    build = [
        {"step": "surface.flat", "settings": {"colour": "#000000"}},
        {"step": "depth.extrude", "settings": body | more.pop("body", {})},
        {"step": "surface.cells", "id": "cells", "settings": cells | more},
    ]
    word_layer = {
        "kind": "lettering", "id": "word", "build": build,
        "source": {"text": word, "font": FONT, "size": SIZE},
        "placement": place or {"turn_y": 34, "turn_x": -22},
    }  # fmt: skip
    frame = {"width": FRAME[0], "height": FRAME[1]}
    return {"mabrel": 1, "frame": frame, "layers": [word_layer]}


def sides(doc: dict, divided: int = 1) -> list[CellGrid]:
    found = RENDERER.cells(parse_title(doc), "word", "cells", divided=divided)
    return [each for each in found if each.side]


def painting(*patches: dict, words: str = "LT", inks: int = 1) -> dict:
    colours = ["#ffffff", "#ff0000"]
    return {
        "words": words, "inks": [{"colour": each} for each in colours[:inks]],
        "letters": list(patches),
    }  # fmt: skip


def patch(of: CellGrid, *rows: str, **more) -> dict:
    assert of.side is not None
    return {"letter": of.of, "side": of.side.model_dump(), "rows": list(rows)} | more


def pixels(doc: dict, **how) -> np.ndarray:
    return RENDERER.render(parse_title(doc), **how).pixels


@pytest.mark.parametrize(
    "place",
    [
        {"turn_y": 34, "turn_x": -22},
        {"turn_y": -50, "turn_x": 18, "turn_z": 12, "x": 60},
        {"turn_y": 62, "scale": 1.3},
    ],
    ids=["from above", "from below", "steep"],
)
def test_each_cell_lies_on_its_cell_of_the_body_in_space(place: dict) -> None:
    """Where each is seen and how large, against corners that are projected from space: of those
    between others, since where a side ends its edge is that of the body."""
    doc = document(place=place, word="EL")
    title = parse_title(doc)
    card = card_at(title.layers[0].placement, title.camera, 0.0)
    project = card.seen(1.0, 3.0)
    checked = 0
    letters = letter_places(outline_text("EL", LetteringStyle(FONT, size=SIZE)))
    for side, fine in zip(sides(doc), sides(doc, divided=8), strict=True):
        left, top, right, bottom = letters[side.of].box
        row = 1
        for column in range(1, side.grid.columns - 1):
            if not fine.ink[7:17, 8 * column - 1 : 8 * column + 9].all():
                continue  # others hide a part of it
            rows = ["." * column + "a" if each == row else "." * (column + 1) for each in range(3)]
            hand = painting(patch(side, *rows), words="EL")
            seen = pixels(document(hand, "EL", place), scale=3)[..., 0]
            facing = round(side.side.facing)
            along = side.side.place[0] * (right - left), side.side.place[1] * (bottom - top)
            x, y = left + along[0], top + along[1]
            half = side.grid.columns * UNIT / 2
            ends = {90: [(x - half, y), (x + half, y)], 270: [(x - half, y), (x + half, y)]}
            ends |= {0: [(x, y - half), (x, y + half)], 180: [(x, y - half), (x, y + half)]}
            start, end = np.array(ends[facing])
            step = (end - start) / side.grid.columns
            corners = [
                (*(start + step * (column + i)), -UNIT * (row + j))
                for i, j in [(0, 0), (1, 0), (1, 1), (0, 1)]
            ]
            quad = np.array([_seen(project, each) for each in corners])
            quad += np.array(FRAME) * 3 / 2
            area, centre = area_and_centre(quad)
            v, u = np.mgrid[: seen.shape[0], : seen.shape[1]] + 0.5
            total = seen.sum()
            found = np.array([(seen * u).sum(), (seen * v).sum()]) / total
            around = np.hypot(*(quad - np.roll(quad, 1, axis=0)).T).sum()
            assert np.abs(found - centre).max() < 0.1 * 3
            assert abs(total - area) < 0.1 * 3 * around
            checked += 1
    assert checked >= 6


def _seen(project: np.ndarray, place: tuple[float, ...]) -> np.ndarray:
    x, y, w = project @ [*place, 1]
    return np.array([x / w, y / w])


@pytest.mark.parametrize("body", [{}, {"towards": "direction", "angle": 50}, {"towards": "point"}])
def test_a_side_is_covered_whole_and_nothing_else(body: dict) -> None:
    """All cells of all sides in white: then nothing but the face is black, and no edge is dark."""
    bare = document(body=body)
    every = [patch(each, *["a" * each.grid.columns] * each.grid.rows) for each in sides(bare)]
    seen, before = pixels(document(painting(*every), body=body)), pixels(bare)
    assert np.array_equal(seen[..., 3], before[..., 3])
    face = RENDERER.render(parse_title(document(body={"length": 0.0})), scale=1).pixels[..., 3]
    beside = (face == 0) & (before[..., 3] == 1)
    assert beside.sum() > 4000
    assert seen[beside][:, :3].min() > 0.98
    assert not seen[face == 1][:, :3].any()
    near = cv2.dilate(face, np.ones((7, 7)))
    edge = (near == 0) & (before[..., 3] > 0.02) & (before[..., 3] < 0.98)
    assert np.abs(seen[edge][:, 0] - seen[edge][:, 3]).max() < 0.02


def test_cells_are_as_wide_as_those_of_the_face_and_as_deep() -> None:
    found = sides(document())
    assert {each.grid.letter for each in found} == {"L", "T"}
    for each in found:
        assert (each.grid.across, each.grid.down) == pytest.approx((UNIT, UNIT))
        assert each.grid.rows == 3
    foot = next(each for each in found if each.of == 0 and each.side.facing == 270)
    assert foot.grid.columns in (2, 4)
    wider = sides(document(width=10, height=20))
    assert {round(each.grid.down, 3) for each in wider} == {round(200**0.5, 3)}


def test_the_grid_of_a_side_turns_as_its_letter_does() -> None:
    doc = document()
    doc["layers"][0]["source"]["in_turn"] = {"by": "letter", "about": "middle", "turn": 30}
    facing = {each.side.facing for each in sides(doc)}
    assert facing <= {0, 90, 180, 270}


def test_fine_cells_lie_over_coarse_ones() -> None:
    side = next(each for each in sides(document()) if each.grid.columns == 7)
    hand = painting(
        patch(side, "aaaaaaa", "aaaaaaa", "aaaaaaa"), patch(side, "b", divided=4), inks=2
    )
    seen = pixels(document(hand))
    red = seen[..., 0] - seen[..., 1]
    white = np.minimum(seen[..., 0], seen[..., 1])
    assert 0 < red.sum() < white.sum() / 100


def test_what_is_painted_on_a_hidden_side_shows_on_no_other() -> None:
    """Every side of L from the left, seen from the right, where none of them is."""
    left = {"turn_y": 40, "turn_x": 0.0}
    own = [each for each in sides(document(place=left)) if each.side.facing == 180]
    assert len(own) >= 2
    hand = painting(*(patch(each, *["a" * each.grid.columns] * 3) for each in own))
    assert pixels(document(hand, place=left))[..., 0].max() > 0.9
    right = {"turn_y": -40, "turn_x": 0.0}
    assert not pixels(document(hand, place=right))[..., 0].any()
    assert all(each.kept is None for each in sides(document(hand, place=right)))


def test_a_letter_keeps_its_sides_when_the_word_is_swapped() -> None:
    side = next(each for each in sides(document()) if each.of == 0 and each.side.facing == 180)
    doc = document(painting(patch(side, "a" * side.grid.columns)))
    there = pixels(doc)[..., 0].sum()
    moved = RENDERER.render(swap(parse_title(doc), text="TL")).pixels[..., 0]
    assert there > 100
    assert moved.sum() == pytest.approx(there, rel=0.2)  # nearer or farther in the same view
    assert np.flatnonzero(moved.max(axis=0) > 0.5)[0] > FRAME[0] / 2
    assert not RENDERER.render(swap(parse_title(doc), text="TO")).pixels[..., 0].any()


def test_a_grid_over_all_keeps_sides_by_their_letter() -> None:
    size = {"fit": "size", "width": 10, "height": 10}
    found = [each for each in sides(document(**size)) if each.side.facing == 180]
    assert {each.side.letter for each in found} == {"L1", "T1"}
    assert {each.of for each in found} == {0}
    own = next(each for each in found if each.side.letter == "T1")
    hand = painting(patch(own, "a" * own.grid.columns), words="")
    seen = pixels(document(hand, **size))[..., 0]
    assert np.flatnonzero(seen.max(axis=0) > 0.5)[0] > FRAME[0] / 2


def test_cells_keep_the_light_of_their_side() -> None:
    lit = {"lit": 1, "colour": "#303030"}
    place = {"turn_y": 34, "turn_x": -22}

    def tones(shading: float) -> tuple[float, float]:
        doc = document(place=place, body=lit)
        doc["lights"] = [{"azimuth": 270, "elevation": 30}]
        found = {each.side.facing: each for each in sides(doc) if each.of == 0}
        whole = [patch(found[way], *["a" * found[way].grid.columns] * 3) for way in (270, 180)]
        bright = []
        for each in whole:
            with_cells = document(painting(each), place=place, body=lit, side_shading=shading)
            with_cells["lights"] = doc["lights"]
            without = pixels(doc)
            seen = pixels(with_cells)
            changed = np.abs(seen - without).max(axis=-1) > 0.05
            bright.append(float(np.median(seen[changed][:, 0])))
        return bright[0], bright[1]

    level, shaded = tones(0.0), tones(1.0)
    assert level[0] == pytest.approx(level[1], abs=0.02)
    assert shaded[0] > shaded[1] + 0.2


def test_round_and_bulging_sides_have_no_cells() -> None:
    assert not sides(document(body={"swell": 8}))
    doc = document(word="O", fit="size", width=12)
    doc["layers"][0]["source"]["font"] = "Archivo Black"
    assert not sides(doc)


def test_nothing_is_painted_from_behind_or_without_a_body() -> None:
    side = sides(document())[0]
    hand = painting(patch(side, "a" * side.grid.columns))
    assert not sides(document(place={"turn_y": 180}))
    behind = {"turn_y": 150}
    bare, seen = (pixels(document(each, place=behind)) for each in ({}, hand))
    assert np.array_equal(bare, seen)
    flat = document(hand)
    del flat["layers"][0]["build"][1]
    assert not sides(flat)
    assert not pixels(flat)[..., 0].any()


def test_places_on_a_grid_seen_from_aslant_come_back() -> None:
    grid = Grid(
        "L", (2.0, 3.0), 10.0, 12.0, 0, 0, 5, 4, (0.8, -0.3, 0.1, 0.5), (40.0, -7.0), (0.001, 0.004)
    )
    cells = np.array([[0, 0], [5, 4], [2.5, 1.25]])
    places = grid.places_of(cells)
    assert pytest.approx(cells) == grid.cells_at(*places.T).T
    assert grid.scaled(2).places_of(cells) == pytest.approx(2 * places)
