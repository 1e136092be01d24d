"""Painting cells in the proof, on the tilted face, with the pointer and with the keys."""

from collections.abc import Iterable

import numpy as np
import pytest
from playwright.sync_api import Locator, Page, expect

from mabrel import Renderer, parse_title
from mabrel.camera import card_at
from tests.browser.looking import choose, proof_pixels, settled

FONT = "Press Start 2P"
SIZE = 150
UNIT = SIZE / 8
INK = (32, 255, 64)
FRAME = (1280, 720)
Cell = tuple[int, int]


def document(sides: bool = False) -> dict:
    """A tilted, extruded word in the pixel font, with a step of cells that paints nothing yet:
    before it has `sides`, or behind."""
    inks = [{"colour": "#20ff40"}, {"colour": "#102030"}]
    settings = {"pattern": "none", "opacity": 1, "side_shading": 0, "painted": {"inks": inks}}
    cells = {"step": "surface.cells", "id": "cells", "settings": settings}
    body = {"step": "depth.extrude", "settings": {"length": 40}}
    if sides:
        body["settings"] = {"towards": "back", "length": 3 * UNIT}
    flat = {"step": "surface.flat", "settings": {"colour": "#c2662e"}}
    build = [flat, body, cells] if sides else [flat, cells, body]
    word = {
        "kind": "lettering",
        "id": "word",
        "name": "DEPTH",
        "source": {"text": "DEPTH", "font": FONT, "size": SIZE},
        "placement": {"turn_y": 26, "turn_x": -10},
        "build": build,
    }
    ground = {"kind": "backdrop", "id": "ground", "source": {"colour": "#20506a"}}
    frame = {"width": FRAME[0], "height": FRAME[1]}
    lights = [{"id": "key", "azimuth": 225, "elevation": 45}]
    return {
        "mabrel": 1,
        "name": "Depth",
        "frame": frame,
        "lights": lights,
        "layers": [ground, word],
    }


class Bench:
    """The page, and where cells of its title are seen in it."""

    def __init__(self, page: Page, document: dict) -> None:
        made = page.request.post("/api/titles", data={"text": "DEPTH"}).json()
        self.page, self.id = page, made["id"]
        body = {"version": made["version"], "document": document}
        assert page.request.put(f"/api/titles/{self.id}", data=body).ok
        title = parse_title(document)
        self.card = card_at(title.layers[1].placement, title.camera, 0.0)
        self.grids = Renderer().cells(title, "word", "cells", divided=1)
        page.goto(f"/bench/{self.id}")
        settled(page)
        page.get_by_role("button", name="Cells", exact=True).click()
        self.panel = page.get_by_role("group", name="By hand")
        expect(self.panel).to_contain_text("on 5 letters")

    def take(self, tool: str, brush: str = "Whole") -> None:
        button = self.panel.get_by_role("button", name=tool, exact=True)
        if button.get_attribute("aria-pressed") != "true":
            button.click()
        if self.panel.get_by_role("combobox", name="Brush").last.input_value() != brush:
            choose(self.page, self.panel.locator(".v-field"), brush)
        self.page.wait_for_timeout(500)  # the grid of that fineness comes from the engine

    @property
    def board(self) -> Locator:
        return self.page.get_by_role("application", name="Cells.")

    def ink(self, letter: int) -> list[Cell]:
        """The whole cells of a letter, as columns and rows from its upper left."""
        return [(int(x), int(y)) for y, x in np.argwhere(self.grids[letter].ink)]

    def frame_place(self, letter: int, column: float, row: float) -> tuple[float, float]:
        """Where the font has that place in the frame: eight units from letter to letter."""
        left = (-19.5 + 8 * letter) * UNIT + (UNIT if letter == 3 else 0)  # T begins a cell later
        x, y, w = self.card.homography @ [left + column * UNIT, (row - 3.5) * UNIT, 1]
        return x / w + FRAME[0] / 2, y / w + FRAME[1] / 2

    def place(self, letter: int, cell: Cell, parts: int = 1) -> tuple[float, float]:
        box = self.page.locator("canvas.picture").first.bounding_box()
        assert box is not None
        x, y = self.frame_place(letter, (cell[0] + 0.5) / parts, (cell[1] + 0.5) / parts)
        return box["x"] + x * box["width"] / FRAME[0], box["y"] + y * box["height"] / FRAME[1]

    def side_place(self, grid: int, cell: Cell) -> tuple[float, float]:
        """Where the middle of a cell of a side is in the frame."""
        column, row = cell
        ((x, y),) = self.grids[grid].grid.places_of(np.array([[column + 0.5, row + 0.5]]))
        u, v, w = self.card.homography @ [x, y, 1]
        return u / w + FRAME[0] / 2, v / w + FRAME[1] / 2

    def place_on(self, grid: int, cell: Cell) -> tuple[float, float]:
        box = self.page.locator("canvas.picture").first.bounding_box()
        assert box is not None
        x, y = self.side_place(grid, cell)
        return box["x"] + x * box["width"] / FRAME[0], box["y"] + y * box["height"] / FRAME[1]

    def click(self, letter: int, cell: Cell, parts: int = 1) -> None:
        self.page.mouse.click(*self.place(letter, cell, parts))

    def drag(self, letter: int, start: Cell, end: Cell, parts: int = 1) -> None:
        self.page.mouse.move(*self.place(letter, start, parts))
        self.page.mouse.down()
        self.page.mouse.move(*self.place(letter, end, parts), steps=4)
        self.page.mouse.up()

    def painted(self) -> dict[int, dict[Cell, str]]:
        """What the saved document has, in halves of cells."""
        settled(self.page)
        saved = self.page.request.get(f"/api/titles/{self.id}").json()["document"]
        found: dict[int, dict[Cell, str]] = {}
        for patch in saved["layers"][1]["build"][1]["settings"]["painted"].get("letters", []):
            parts = 2 // patch.get("divided", 1)
            top = -8 * patch.get("divided", 1)
            cells = found.setdefault(patch.get("letter", 0), {})
            for row, line in enumerate(patch["rows"]):
                for column, ink in enumerate(line):
                    if ink != ".":
                        x = (patch.get("left", 0) + column) * parts
                        y = (patch.get("top", 0) - top + row) * parts
                        cells |= {(x + i, y + j): ink for i in range(parts) for j in range(parts)}
        return found


@pytest.fixture
def bench(page: Page) -> Bench:
    return Bench(page, document())


def halves(cells: Iterable[Cell]) -> set[Cell]:
    return {(2 * x + i, 2 * y + j) for x, y in cells for i in range(2) for j in range(2)}


def test_three_hundred_cells_are_painted_on_the_tilted_face(bench: Bench) -> None:
    page = bench.page
    bench.take("Paint cells in the proof")
    for cell in bench.ink(0):
        bench.click(0, cell)  # D, cell by cell
    assert set(bench.painted()[0]) == halves(bench.ink(0))

    bench.take("Paint a rectangle of cells")
    bench.drag(1, (0, 0), (6, 6))  # E: what lies between its arms is not painted
    assert set(bench.painted()[1]) == halves(bench.ink(1))

    bench.take("Fill cells that hang together", "Halves")
    bench.click(2, (1, 1), 2)  # P
    bench.take("Paint cells in the proof", "Halves")
    bench.drag(4, (0, 0), (0, 13), 2)  # a leg of H, and one of its cells in the other ink
    bench.panel.get_by_role("radio", name="Ink 2").click()
    bench.click(4, (0, 5), 2)
    found = bench.painted()
    assert set(found[2]) == halves(bench.ink(2))
    assert set(found[4]) == {(0, row) for row in range(14)}
    assert found[4][0, 5] == "b"

    # T by the keys: its bar, stroke by stroke, from the cell that the pointer was at last.
    bench.panel.get_by_role("radio", name="Ink 1").click()
    bench.board.focus()
    page.keyboard.press("ArrowLeft")
    expect(page.get_by_role("status").filter(has_text="T, column")).to_be_visible()
    for _ in range(14):
        page.keyboard.press("ArrowUp")
    for _ in range(12):
        if "column 1," in page.locator(".said").inner_text():
            break
        page.keyboard.press("ArrowLeft")
    page.keyboard.down("Shift")
    for _ in range(11):
        page.keyboard.press("ArrowRight")
    page.keyboard.up("Shift")
    found = bench.painted()
    assert set(found[3]) == {(column, 0) for column in range(12)}
    assert sum(len(cells) for cells in found.values()) >= 300

    # Each lies where it should, in the picture that is shown.
    seen = proof_pixels(page)
    scale = seen.shape[1] / FRAME[0]
    for letter, cells in found.items():
        for (column, row), ink in cells.items():
            x, y = bench.frame_place(letter, (column + 0.5) / 2, (row + 0.5) / 2)
            pixel = seen[int(y * scale), int(x * scale), :3]
            wanted = INK if ink == "a" else (16, 32, 48)
            assert np.abs(pixel - wanted).max() < 90, (letter, column, row)

    # Another word: D, E and P keep theirs, which is nearly all; the second E has none.
    before, was = bench.painted(), green(seen)
    page.get_by_role("button", name="Lettering", exact=True).first.click()
    page.get_by_role("textbox", name="Words").fill("DEEP")
    settled(page)
    now = green(proof_pixels(page))
    assert 0.5 * was < now < was
    assert bench.painted() == before  # nothing is lost: the old word has it all again


def green(seen: np.ndarray) -> int:
    """How many pixels have the first ink."""
    return int((np.abs(seen[..., :3] - INK).max(axis=-1) < 60).sum())


def test_each_stroke_is_one_undo_and_an_eraser_takes_away(bench: Bench) -> None:
    page = bench.page
    bench.take("Paint cells in the proof")
    bench.drag(0, (0, 0), (0, 6))
    bench.drag(0, (1, 0), (1, 6))
    assert set(bench.painted()[0]) == halves((x, y) for x in range(2) for y in range(7))
    page.get_by_role("button", name="Undo").click()
    assert set(bench.painted()[0]) == halves((0, y) for y in range(7))
    bench.take("Erase cells")
    bench.drag(0, (0, 2), (0, 4))
    assert set(bench.painted()[0]) == halves((0, y) for y in (0, 1, 5, 6))
    bench.board.focus()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    assert set(bench.painted()[0]) == halves((0, y) for y in (0, 1, 6))
    page.get_by_role("button", name="Undo").click()
    page.get_by_role("button", name="Undo").click()
    assert set(bench.painted()[0]) == halves((0, y) for y in range(7))


def test_mirrors_the_picker_and_inks(bench: Bench) -> None:
    bench.take("Paint cells in the proof")
    bench.panel.get_by_role("button", name="Paint the other half of the letter too, left").click()
    bench.click(4, (0, 0))  # H
    assert set(bench.painted()[4]) == halves([(0, 0), (6, 0)])
    bench.panel.get_by_role("radio", name="Ink 2").click()
    bench.take("Take the ink of a cell")
    bench.click(4, (6, 0))
    expect(bench.panel.get_by_role("radio", name="Ink 1")).to_be_checked()
    expect(bench.panel.get_by_role("button", name="Paint cells in the proof")).to_have_attribute(
        "aria-pressed", "true"
    )
    bench.panel.get_by_role("radio", name="Ink 2").click()
    bench.click(4, (0, 3))
    bench.panel.get_by_role("radio", name="Ink 1").click()
    bench.panel.get_by_role("button", name="Remove this ink and its cells").click()
    assert bench.painted()[4] == dict.fromkeys(halves([(0, 3), (6, 3)]), "a")
    bench.page.keyboard.press("Escape")
    bench.panel.get_by_role("button", name="Take away all").click()
    assert bench.painted() == {}


def test_sides_are_painted_with_the_pointer_and_over_the_edge_with_the_keys(page: Page) -> None:
    bench = Bench(page, document(sides=True))
    left = next(
        number
        for number, grid in enumerate(bench.grids)
        if grid.of == 0 and grid.side and grid.side.facing == 180 and grid.grid.columns == 7
    )
    expect(bench.panel).to_contain_text(f"on 5 letters and {len(bench.grids) - 5} sides")
    bench.take("Paint cells in the proof")
    cells = [(column, row) for row in range(3) for column in range(7)]
    for cell in cells[:7]:
        page.mouse.click(*bench.place_on(left, cell))
    page.mouse.move(*bench.place_on(left, (0, 2)))
    page.mouse.down()
    page.mouse.move(*bench.place_on(left, (6, 2)), steps=6)
    page.mouse.up()
    # The row between them with the keys: from the face over the edge.
    bench.click(0, (0, 3))
    bench.board.focus()
    page.keyboard.press("ArrowLeft")
    expect(page.get_by_role("status").filter(has_text="D, side, facing left")).to_be_visible()
    page.keyboard.press("ArrowLeft")
    for _ in range(3):
        page.keyboard.press("ArrowUp")
    page.keyboard.down("Shift")
    for _ in range(6):
        page.keyboard.press("ArrowDown")
    page.keyboard.up("Shift")
    settled(page)
    saved = page.request.get(f"/api/titles/{bench.id}").json()["document"]
    patches = saved["layers"][1]["build"][2]["settings"]["painted"]["letters"]
    (on_side,) = [each for each in patches if each.get("side")]
    assert on_side["rows"] == ["aaaaaaa"] * 3
    assert on_side["side"]["facing"] == 180
    (on_face,) = [each for each in patches if not each.get("side")]
    assert on_face["rows"] == ["a"]

    seen = proof_pixels(page)
    scale = seen.shape[1] / FRAME[0]
    for cell in cells:
        x, y = bench.side_place(left, cell)
        pixel = seen[int(y * scale), int(x * scale), :3]
        assert np.abs(pixel - INK).max() < 90, cell
    page.get_by_role("button", name="Undo").click()
    settled(page)
    saved = page.request.get(f"/api/titles/{bench.id}").json()["document"]
    patches = saved["layers"][1]["build"][2]["settings"]["painted"]["letters"]
    (on_side,) = [each for each in patches if each.get("side")]
    assert on_side["rows"] == ["aaaaaaa", ".......", "aaaaaaa"]
