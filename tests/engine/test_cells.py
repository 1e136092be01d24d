"""Cells: grids that fit letters, what is painted in them, and where it lies when the card turns."""

import numpy as np
import pytest

from mabrel import Renderer, TitleError, Window, parse_title, swap
from mabrel.camera import card_at
from mabrel.field import cell_patterns
from mabrel.field.cells import laid_out, overlaps, shares
from mabrel.source import LetteringStyle, families, outline_text
from mabrel.source.cell_unit import cell_unit
from mabrel.source.letter_places import letter_places
from mabrel.steps.cells.inks import kept_letters
from mabrel.steps.settings import check_title
from mabrel.title.painted import Painted
from tests.engine.polygons import area_and_centre

FONT = "Press Start 2P"
SIZE = 160
UNIT = SIZE / 8
LIGHTS = [{"azimuth": 225, "elevation": 45}]
WHITE = [{"colour": "#ffffff"}]


def patch(letter: int, *rows: str, **more) -> dict:
    """Cells of a letter, from the upper left of a capital on."""
    return {"letter": letter, "left": 0, "top": -8, "rows": list(rows)} | more


def document(word: str = "DEPTH", cells: dict | None = None, **more) -> dict:
    placement, source = more.pop("placement", {}), more.pop("source", {})
    build = [{"step": "surface.flat", "settings": {"colour": "#000000"}}]
    if cells is not None:
        build.append({"id": "cells", "step": "surface.cells", "settings": cells})
    layer = {
        "kind": "lettering",
        "source": {"text": word, "font": FONT, "size": SIZE, **source},
        "placement": placement,
        "build": [*build, *more.pop("after", [])],
    }
    frame = {"width": 1000, "height": 400}
    return {"mabrel": 1, "frame": frame, "lights": LIGHTS, "layers": [layer]} | more


def painted(words: str, *letters: dict, inks=WHITE, **settings) -> dict:
    hand = {"words": words, "inks": inks, "letters": list(letters)}
    return {"painted": hand, "pattern": "none", "opacity": 1} | settings


def pixels(doc: dict, **how) -> np.ndarray:
    return Renderer().render(parse_title(doc), **how).pixels


# The grid


def test_the_unit_of_a_blocky_font_is_found_and_no_other_font_has_one() -> None:
    unit = cell_unit(families()[FONT].faces()[0])
    assert unit is not None
    assert (unit.across, unit.down) == pytest.approx((125, 125))
    others = [family for name, family in families().items() if name != FONT]
    assert not any(cell_unit(family.faces()[0]) for family in others)


def test_letters_are_whole_cells_of_their_own_grid() -> None:
    for place in letter_places(outline_text("DEPTH 40", LetteringStyle(FONT, size=SIZE))):
        left, top, right, bottom = place.box
        cells = [(left - place.corner[0]) / UNIT, (right - left) / UNIT, (bottom - top) / UNIT]
        cells.append((top - place.corner[1]) / UNIT)
        assert np.allclose(cells, np.round(cells), atol=1e-6)
        assert cells[0] == pytest.approx(0)


def test_what_pixels_have_of_cells_is_exact() -> None:
    across, down = overlaps(3, 40, 4.3, 2.7, 0, 12), overlaps(0, 30, 1.5, 3.25, -1, 8)
    assert across[2:33].sum(axis=1) == pytest.approx(np.ones(31))
    assert across.sum(axis=0) == pytest.approx(np.full(12, 2.7), abs=1e-5)
    cells = np.random.default_rng(1).random((8, 12)).astype(np.float32)
    assert laid_out(down, across, cells).sum() == pytest.approx(
        (down.sum(axis=0) @ cells @ across.sum(axis=0)), rel=1e-5
    )
    assert shares(down, across, np.ones((30, 40), np.float32)) == pytest.approx(np.ones((8, 12)))


@pytest.mark.parametrize(
    "placement",
    [{}, {"turn_y": 35, "turn_x": -14}, {"turn_y": -58, "turn_z": 9, "x": 40, "scale": 1.4}],
    ids=["level", "tilted", "steep"],
)
def test_each_painted_cell_lies_on_its_cell(placement: dict) -> None:
    """Centre and extent of cells that stand apart, against the projected grid."""
    rows = ["a.a....", ".....a.", "a......", ".....a.", "a......", "", "a.a.a.."]
    rows = [row.ljust(7, ".") for row in rows]
    doc = document(cells=painted("D", patch(0, *rows)), placement=placement, word="D")
    title = parse_title(doc)
    seen = Renderer().render(title, scale=2).pixels[..., 0].astype(float)
    card = card_at(title.layers[0].placement, title.camera, 0.0)
    checked = 0
    for row, line in enumerate(rows):
        for column, cell in enumerate(line):
            if cell == ".":
                continue
            left, top = -3.5 * UNIT + column * UNIT, -3.5 * UNIT + row * UNIT
            corners = [
                (left, top),
                (left + UNIT, top),
                (left + UNIT, top + UNIT),
                (left, top + UNIT),
            ]
            quad = np.array([_projected(card, corner) for corner in corners]) * 2 + [1000, 400]
            area, centre = area_and_centre(quad)
            low, high = quad.min(axis=0).astype(int) - 3, quad.max(axis=0).astype(int) + 4
            part = seen[low[1] : high[1], low[0] : high[0]]
            y, x = np.mgrid[low[1] : high[1], low[0] : high[0]] + 0.5
            found = np.array([(part * x).sum(), (part * y).sum()]) / part.sum()
            assert np.abs(found - centre).max() < 0.1
            around = np.hypot(*(quad - np.roll(quad, 1, axis=0)).T).sum()
            assert abs(part.sum() - area) < 0.1 * around  # each side within a tenth of a pixel
            checked += 1
    assert checked == 9


def _projected(card, place) -> np.ndarray:
    x, y, w = card.homography @ [*place, 1]
    return np.array([x / w, y / w])


def test_cells_turn_with_letters_that_turn_by_themselves() -> None:
    turned = {"in_turn": {"by": "letter", "about": "middle", "turn": 30}}
    doc = document("D", painted("D", patch(0, "a", divided=1, left=3, top=-8)), source=turned)
    seen = pixels(doc)[..., 0]
    y, x = np.mgrid[:400, :1000] + 0.5
    found = np.array([(seen * x).sum(), (seen * y).sum()]) / seen.sum() - [500, 200]
    angle = np.radians(30)
    expected = (
        3 * UNIT * np.array([np.sin(angle), -np.cos(angle)])
    )  # the topmost cell of its middle
    assert np.abs(found - expected).max() < 0.1


def test_nothing_is_painted_outside_the_letters() -> None:
    full = ["a" * 20] * 20
    every = painted("DEPTH", *(patch(letter, *full, left=-6, top=-14) for letter in range(5)))
    how = {"placement": {"turn_y": 30}}
    bare, covered = pixels(document(**how)), pixels(document(cells=every, **how))
    assert np.array_equal(bare[..., 3], covered[..., 3])
    assert not covered[bare[..., 3] == 0].any()
    inside = bare[..., 3] == 1
    assert covered[inside][:, :3].min() > 0.99


def test_what_lies_on_the_edge_of_the_ink_has_the_colour_of_its_cell_alone() -> None:
    full = painted("D", patch(0, *["a" * 7] * 7))
    seen = pixels(document("D", full, source={"size": 157.3}))
    edge = (seen[..., 3] > 0.05) & (seen[..., 3] < 0.95)
    assert edge.any()
    assert seen[edge][:, 0] == pytest.approx(seen[edge][:, 3], abs=1 / 255)


@pytest.mark.parametrize(
    ("settings", "count"),
    [
        ({"fit": "box", "columns": 12, "rows": 3}, 1),
        ({"fit": "size", "width": 30, "height": 20}, 1),
        ({"fit": "letters"}, 5),
        ({"fit": "letters", "width": 10}, 5),
    ],
)
def test_grids_fit_letters_the_box_or_a_size(settings: dict, count: int) -> None:
    title = parse_title(document(cells=settings))
    found = Renderer().cells(title, title.layers[0].id, "cells")
    assert len(found) == count
    grid = found[0].grid
    if settings["fit"] == "box":
        assert (grid.columns, grid.rows) == (12, 3)
    if settings["fit"] == "size":
        assert (grid.across, grid.down) == (30, 20)
    if settings["fit"] == "letters":
        assert grid.across == pytest.approx(settings.get("width", UNIT))
        assert grid.down == pytest.approx(UNIT)
        assert grid.letter == "D"


def test_the_ink_of_cells_is_told_in_parts() -> None:
    title = parse_title(document("L", {}))
    (found,) = Renderer().cells(title, title.layers[0].id, "cells", divided=2)
    assert found.ink.shape == (found.grid.rows * 2, found.grid.columns * 2)
    assert found.ink[0, 0]
    assert not found.ink[0, -1]
    assert found.ink[-1].all()


@pytest.mark.parametrize("size", [157.3, 150, 83])
@pytest.mark.parametrize("divided", [1, 2, 8])
def test_cells_beside_the_ink_have_none(size: float, divided: int) -> None:
    """Whatever the size, no pixel on the edge of a letter lends its ink to the next cell."""
    title = parse_title(document("P", {}, source={"size": size}))
    (found,) = Renderer().cells(title, title.layers[0].id, "cells", divided=divided)
    rows = ["######.", "##...##", "##...##", "##...##", "######.", "##.....", "##....."]
    wanted = np.array([[cell == "#" for cell in row] for row in rows])
    assert np.array_equal(found.ink, np.kron(wanted, np.ones((divided, divided))) > 0)


def test_too_many_cells_are_refused_with_what_to_do() -> None:
    title = parse_title(document("DEPTH" * 20, {"width": 0.2, "height": 0.2}))
    with pytest.raises(Exception, match="too many to paint in"):
        Renderer().cells(title, title.layers[0].id, "cells", divided=8)


# By hand


def test_letters_keep_their_cells_when_the_word_is_swapped() -> None:
    def kept(was: str, now: str) -> dict[int, int]:
        return kept_letters(Painted(words=was), now)

    assert kept("DEPTH", "DEEP") == {0: 0, 1: 1, 2: 3}
    assert kept("FOGHORN", "HORN") == {3: 0, 4: 1, 5: 2, 6: 3}
    assert kept("BUOY", "YOB") == {0: 2, 2: 1, 3: 0}
    assert kept("ABC", "XYZ") == {}


def test_a_swap_keeps_what_can_be_kept() -> None:
    rows = ["a.a.a.a", ".a.a.a.", "a.a.a.a"]
    doc = document(cells=painted("DEPTH", *(patch(letter, *rows) for letter in range(5))))
    swapped = swap(parse_title(doc), text="DROP")
    seen = Renderer().render(swapped).pixels
    whole = seen[..., 0] > 0.5
    columns = np.flatnonzero(seen[..., 3].max(axis=0) > 0.5)
    quarters = np.array_split(np.arange(columns[0], columns[-1] + 1), 4)
    painted_letters = [bool(whole[:, quarter].any()) for quarter in quarters]
    assert painted_letters == [True, False, False, True]  # D and P were there, R and O were not


def test_fine_cells_lie_over_coarse_ones_of_one_letter() -> None:
    two = [{"colour": "#ff0000"}, {"colour": "#00ff00"}]
    cells = painted("D", patch(0, "aa", "aa"), patch(0, "b", divided=4, left=0, top=-32), inks=two)
    seen = pixels(document("D", cells))
    left, top = 500 - 3.5 * UNIT, 200 - 3.5 * UNIT
    assert seen[int(top + 2), int(left + 2), 1] == 1
    assert seen[int(top + 8), int(left + 2), 0] == 1


def test_cells_rise_and_light_takes_that_up() -> None:
    def standing(height: float) -> dict:
        inks = [{"colour": "#808080", "height": height}]
        return document(
            "D", painted("D", patch(0, "..a"), inks=inks), after=[{"step": "light.shade"}]
        )

    title = parse_title(standing(6))
    fields = Renderer().fields(title, title.layers[0].id)
    assert fields.height.max() == pytest.approx(6, abs=0.05)
    assert np.abs(pixels(standing(6)) - pixels(standing(0))).max() > 0.1


def test_cells_run_on_over_the_sides() -> None:
    sides = {"towards": "direction", "angle": 90, "length": 40, "texture": "face", "textured": 1}
    sides |= {"lit": 0, "fade": 0, "colour": "#000000"}
    after = [{"step": "depth.extrude", "settings": sides}]
    bottom = painted("D", patch(0, "aaa", top=-2))
    seen = pixels(document("D", bottom, after=after))
    below = seen[int(200 + 3.5 * UNIT) + 4, int(500 - 3.5 * UNIT) + 5 : int(500 - UNIT)]
    assert below[:, 0].min() > 0.9


@pytest.mark.parametrize(
    ("hand", "said"),
    [
        ({"inks": WHITE, "letters": [{"rows": ["ab"]}]}, "an ink for 'b'"),
        ({"inks": WHITE, "letters": [{"rows": ["a", "aa"]}]}, "rows of one length"),
        ({"inks": WHITE, "letters": [{"rows": ["a?"]}]}, "pattern"),
        ({"inks": WHITE, "letters": [{"rows": ["a"], "divided": 3}]}, "divided"),
        ({"inks": WHITE, "letters": [{"rows": ["a" * 4000] * 101}]}, "at most 400,000 cells"),
        ({"inks": WHITE * 63}, "inks"),
        ({"inks": WHITE, "letters": [{"rows": []}]}, "rows"),
        ([1], "painted"),
    ],
)
def test_what_is_no_painting_is_refused_with_its_place(hand, said: str) -> None:
    with pytest.raises(TitleError) as refused:
        check_title(parse_title(document(cells={"painted": hand})))
    assert "layers[0].build[1].settings" in str(refused.value)
    assert said in str(refused.value)


def test_a_hundred_thousand_cells_are_drawn() -> None:
    rows = ["ab" * 112] * 224
    cells = painted(
        "DEPTH", *(patch(n, *rows, divided=8, top=-64) for n in range(2)), inks=WHITE * 2
    )
    assert sum(len(row) for _ in range(2) for row in rows) > 100_000
    assert pixels(document(cells=cells))[..., 0].max() == 1


# By itself


def test_edges_face_the_light_or_not() -> None:
    ink = np.ones((5, 7), bool)
    marks = cell_patterns.edges(ink, (-1.0, -1.0), 1)
    assert (marks[0, :-1] == 1).all()
    assert (marks[:-1, 0] == 1).all()
    assert (marks[-1, 1:] == 2).all()
    assert (marks[1:, -1] == 2).all()
    assert not marks[1:-1, 1:-1].any()
    assert not cell_patterns.edges(ink, (-1.0, 0.0), 1)[0, 1:-1].any()


def test_cracks_begin_at_edges_and_stay_in_the_ink() -> None:
    ink = np.zeros((30, 40), bool)
    ink[4:26, 5:35] = True
    marks = cell_patterns.cracks(ink, 12, 0.5, np.random.default_rng(3)) > 0
    assert marks.any()
    assert not (marks & ~ink).any()
    inner = np.zeros_like(ink)
    inner[5:25, 6:34] = True
    assert (marks & ink & ~inner).any()
    assert (marks & inner).sum() > (marks & ~inner).sum()


def test_corners_wear_where_two_sides_are_open() -> None:
    ink = np.ones((20, 20), bool)
    marks = cell_patterns.corners(ink, 4, 1.0, np.random.default_rng(1)) > 0
    assert marks[0, 0]
    assert marks[-1, -1]
    assert not marks[8:12].any()
    assert not cell_patterns.corners(ink, 4, 0.0, np.random.default_rng(1)).any()


def test_dither_mixes_two_colours_evenly_from_light_to_shade() -> None:
    ink = np.ones((16, 64), bool)
    first = cell_patterns.dither(ink, (-1.0, 0.0), 0.5) == 1
    shares_of_first = first.reshape(16, 8, 8).mean(axis=(0, 2))
    assert (np.diff(shares_of_first) < 0).all()
    assert shares_of_first.mean() == pytest.approx(0.5, abs=0.02)


@pytest.mark.parametrize("pattern", ["cracks", "corners", "noise"])
def test_a_letter_keeps_its_draw_when_the_word_is_swapped(pattern: str) -> None:
    """The letters of BOB, alone and in another word, and another seed for another draw."""
    settings = {"pattern": pattern, "divided": "quarters", "reach": 8, "amount": 0.7, "opacity": 1}

    def letter(word: str, seed: int = 1) -> np.ndarray:
        seen = pixels(document(word, settings | {"seed": seed}))
        columns = np.flatnonzero(seen[..., 3].max(axis=0) > 0.5)
        return seen[:, columns[-1] - int(7 * UNIT) + 1 : columns[-1] + 1]

    assert np.abs(letter("AB") - letter("CDB")).max() < 1e-6
    assert np.abs(letter("AB") - letter("AB", seed=2)).max() > 0.5


def test_a_part_of_the_frame_is_painted_as_the_whole() -> None:
    cells = {"fit": "size", "width": 24, "pattern": "edges", "reach": 2, "amount": 0.4}
    ground = {"kind": "backdrop", "source": {"colour": "#204060"}}
    ground["build"] = [{"step": "surface.cells", "settings": cells}]
    doc = {"mabrel": 1, "frame": {"width": 400, "height": 240}, "layers": [ground]}
    whole = pixels(doc)
    part = pixels(doc, window=Window(100, 60, 120, 90))
    assert np.abs(part - whole[60:150, 100:220]).max() < 1e-5
