"""A lettering broken apart in the page: spread, picked with pointer or keys, painted by parts."""

import re

import numpy as np
import pytest
from playwright.sync_api import Locator, Page, expect

from mabrel import Renderer, parse_title
from mabrel.render import Shard
from tests.browser.looking import choose, proof_pixels, settled

FRAME = (1280, 640)
GREEN = "#00C040"


def document(word: str = "HE") -> dict:
    build = [
        {"step": "surface.flat", "settings": {"colour": "#b0a080"}},
        {"step": "relief.bevel", "settings": {"width": 22, "height": 16, "corners": "mitred"}},
        {"step": "light.shade", "settings": {}},
        {"step": "depth.extrude", "settings": {"angle": 60, "length": 80}},
        {"step": "surface.parts", "id": "parts", "settings": {"by": "none"}},
    ]
    source = {"text": word, "font": "Archivo Black", "size": 330}
    layer = {"kind": "lettering", "id": "word", "name": word, "source": source, "build": build}
    layer["placement"] = {"turn_y": 18, "turn_x": -8}
    ground = {"kind": "backdrop", "id": "ground", "source": {"colour": "#20303a"}}
    return {
        "mabrel": 1, "name": "Parts", "frame": {"width": FRAME[0], "height": FRAME[1]},
        "lights": [{"id": "key", "azimuth": 225, "elevation": 45}], "layers": [ground, layer],
    }  # fmt: skip


class Bench:
    """The page, and where the parts of its title are seen in it."""

    def __init__(self, page: Page) -> None:
        made = page.request.post("/api/titles", data={"text": "HE"}).json()
        self.page, self.id = page, made["id"]
        body = {"version": made["version"], "document": document()}
        assert page.request.put(f"/api/titles/{self.id}", data=body).ok
        self.parts = {
            each.name: each
            for each in Renderer().parts(parse_title(document()), layer="word", before="parts")
        }
        page.goto(f"/bench/{self.id}")
        settled(page)
        page.get_by_role("button", name="Painted parts", exact=True).click()
        self.panel = page.get_by_role("group", name="By hand")
        expect(self.panel).to_contain_text(re.compile(r"\d+ parts"))

    @property
    def board(self) -> Locator:
        return self.page.get_by_role("application", name="Parts.")

    def place(self, part: Shard) -> tuple[float, float]:
        """Where it is seen in the page."""
        box = self.page.locator("canvas.picture").first.bounding_box()
        assert box is not None
        inside = part.area.buffer(-2).representative_point()
        x, y = inside.x / FRAME[0] * box["width"], inside.y / FRAME[1] * box["height"]
        return box["x"] + x, box["y"] + y

    def click(self, name: str, more: bool = False) -> None:
        if more:
            self.page.keyboard.down("Shift")
        self.page.mouse.click(*self.place(self.parts[name]))
        if more:
            self.page.keyboard.up("Shift")

    def paint(self, fill: str) -> None:
        choose(self.page, self.panel.locator(".v-field").first, fill)

    def colour(self, code: str, label: str = "Colour") -> None:
        field = self.panel.get_by_role("textbox", name=re.compile(f"^{label}")).first
        field.fill(code)
        field.press("Enter")

    def paints(self) -> list[dict]:
        settled(self.page)
        saved = self.page.request.get(f"/api/titles/{self.id}").json()["document"]
        step = saved["layers"][1]["build"][4]
        return step["settings"].get("paints", {}).get("parts", [])

    def green_at(self, name: str) -> float:
        """How much greener than red the proof is in the middle of a part."""
        pixels = proof_pixels(self.page)
        inside = self.parts[name].area.buffer(-2).representative_point()
        x = round(inside.x / FRAME[0] * pixels.shape[1])
        y = round(inside.y / FRAME[1] * pixels.shape[0])
        return float(pixels[y, x, 1] - pixels[y, x, 0])


@pytest.fixture
def bench(page: Page) -> Bench:
    return Bench(page)


def largest(bench: Bench, kind: str, letter: str) -> str:
    found = [each for each in bench.parts.values() if (each.kind, each.letter) == (kind, letter)]
    return max(found, key=lambda each: each.area.area).name


def to_the_right(part: Shard) -> bool:
    return part.facing is not None and min(part.facing, 360 - part.facing) < 5


def test_parts_are_picked_and_painted_one_by_one(bench: Bench) -> None:
    names = [largest(bench, kind, "H1") for kind in ("front", "facet", "side")]
    before = [bench.green_at(name) for name in names]
    for name in names:
        bench.click(name)
        bench.paint("Colour")
        bench.colour(GREEN)
        settled(bench.page)
    paints = bench.paints()
    assert [(each["kind"], each["letter"]) for each in paints] == [
        ("front", "H1"), ("facet", "H1"), ("side", "H1"),
    ]  # fmt: skip
    assert all(each["colour"].lower() == GREEN.lower() for each in paints)
    for name, was in zip(names, before, strict=True):
        assert bench.green_at(name) > was + 40, name
    other = largest(bench, "front", "E1")
    assert bench.green_at(other) < 10
    bench.board.focus()
    bench.page.keyboard.press("Control+z")  # the colour is the last one's already: one act
    assert len(bench.paints()) == 2


def test_several_are_painted_at_once_and_a_paint_can_hold_for_all_alike(bench: Bench) -> None:
    sides = [each for each in bench.parts.values() if each.kind == "side" and to_the_right(each)]
    alike = [each for each in sides if each.area.area > 400]
    assert {each.letter for each in alike} == {"H1", "E1"}
    bench.click(largest(bench, "front", "H1"))
    bench.click(largest(bench, "front", "E1"), more=True)
    expect(bench.panel).to_contain_text("2 parts")
    bench.paint("Gradient")
    assert [each["letter"] for each in bench.paints()] == ["H1", "E1"]
    assert all(each["fill"] == "gradient" for each in bench.paints())
    bench.click(alike[0].name)
    bench.paint("Colour")
    bench.colour(GREEN)
    settled(bench.page)
    choose(bench.page, bench.panel.locator(".v-field").last, "All that face its way")
    paint = bench.paints()[-1]
    assert paint["kind"] == "side"
    assert "letter" not in paint
    assert "place" not in paint
    for each in alike:
        assert bench.green_at(each.name) > 40, each.name


def test_all_of_it_works_with_the_keys(bench: Bench) -> None:
    bench.board.focus()
    said = bench.page.locator(".said")
    expect(said).to_contain_text(re.compile("side|facet|face"))
    seen = set()
    for _ in range(len(bench.parts)):
        bench.page.keyboard.press("PageDown")
        seen.add(said.inner_text())
    pickable = sum(each.kind in ("front", "facet", "side") for each in bench.parts.values())
    assert len(seen) == pickable
    first = said.inner_text()
    bench.page.keyboard.press("ArrowRight")
    assert said.inner_text() != first
    bench.page.keyboard.press("Enter")
    assert len(bench.paints()) == 1
    bench.page.keyboard.press("Shift+ArrowLeft")
    expect(bench.panel).to_contain_text("2 parts")
    bench.page.keyboard.press("Enter")
    assert len(bench.paints()) == 2
    bench.page.keyboard.press("Delete")
    assert bench.paints() == []
    bench.page.keyboard.press("Escape")
    expect(bench.panel).to_contain_text("Click a part in the proof")


def test_a_swap_keeps_what_it_can_and_tells_what_it_cannot(bench: Bench) -> None:
    for name in (largest(bench, "front", "H1"), largest(bench, "front", "E1")):
        bench.click(name)
        bench.paint("Colour")
        settled(bench.page)
    page = bench.page
    made = page.request.get(f"/api/titles/{bench.id}").json()
    made["document"]["layers"][1]["source"]["text"] = "OH"
    body = {"version": made["version"], "document": made["document"]}
    assert page.request.put(f"/api/titles/{bench.id}", data=body).ok
    page.reload()
    settled(page)
    page.get_by_role("button", name="Painted parts", exact=True).click()
    alert = bench.panel.get_by_role("alert")
    expect(alert).to_contain_text("One paint finds no part in these words: face of E1")
    alert.get_by_role("button", name="Take them away").click()
    assert [each["letter"] for each in bench.paints()] == ["H1"]
    expect(alert).to_be_hidden()


def test_parts_are_spread_in_the_colours_of_the_picture(bench: Bench) -> None:
    front = bench.page.locator(f"[data-part='{largest(bench, 'front', 'H1')}']")
    before = front.bounding_box()
    spread = bench.panel.get_by_role("textbox", name="Spread")
    spread.fill("80")
    spread.press("Enter")
    expect(front).to_have_attribute("style", re.compile("fill"))
    moved = front.bounding_box()
    assert before
    assert moved
    assert moved["width"] < 0.8 * before["width"]  # all of it stays in sight
    fill = front.evaluate("each => getComputedStyle(each).fill")
    red, green, blue = (int(each) for each in re.findall(r"\d+", fill)[:3])
    assert np.allclose([red, green, blue], [176, 160, 128], atol=40)
    bench.page.mouse.click(moved["x"] + 4, moved["y"] + moved["height"] / 2)
    expect(bench.panel).to_contain_text("H1, face 1")
    spread.fill("0")
    spread.press("Enter")
    expect(front).not_to_have_attribute("style", re.compile("fill"))
