"""Gauges: what the engine says about strokes, light, tone, frame and legibility."""

import numpy as np
import pytest

from mabrel import Renderer, new_title, parse_title
from mabrel.reading import readings, stroke_widths
from mabrel.reading.legibility import Form, form_of
from mabrel.title import Title


def plate(*boxes: tuple[int, int, int, int], size: int = 200) -> np.ndarray:
    """Coverage of some rectangles: left, top, width, height."""
    coverage = np.zeros((size, size), np.float32)
    for left, top, width, height in boxes:
        coverage[top : top + height, left : left + width] = 1
    return coverage


def document(text: str = "HOOK", build: list[dict] | None = None, **more) -> dict:
    word = {
        "kind": "lettering",
        "id": "word",
        "name": text,
        "source": {"text": text, "size": 160},
        "build": build or [],
    }
    return {
        "mabrel": 1,
        "frame": {"width": 800, "height": 400},
        "layers": [word | more.pop("layer", {})],
    } | more


def said(raw: dict | Title, gauge: str) -> list:
    title = raw if isinstance(raw, Title) else parse_title(raw)
    front = title.layers[-1].id
    return [each for each in readings(Renderer(), title, front).said if each.gauge == gauge]


def step(kind: str, id: str = "it", **settings) -> dict:
    return {"step": kind, "id": id, "settings": settings}


@pytest.mark.parametrize("width", [7, 20, 61])
def test_a_bar_is_as_wide_as_it_is(width: int) -> None:
    found = stroke_widths(plate((20, 30, 160, width)))
    assert found.median == pytest.approx(width, abs=0.8)
    assert found.thickest == pytest.approx(width, abs=0.8)
    assert sum(found.shares) == pytest.approx(1)


def test_thin_and_thick_strokes_are_told_apart() -> None:
    found = stroke_widths(plate((10, 10, 180, 12), (10, 60, 180, 50)))
    assert found.thinnest == pytest.approx(12, abs=0.8)
    assert found.thickest == pytest.approx(50, abs=0.8)


def test_nothing_has_no_strokes() -> None:
    assert stroke_widths(plate()) is None
    assert readings(Renderer(), parse_title(document(" ")), "word").strokes is None


def test_widths_are_those_of_the_lettering_however_it_is_placed() -> None:
    plain = readings(Renderer(), parse_title(document()), "word").strokes
    placed = document(layer={"placement": {"x": 300, "turn_y": 40, "scale": 0.5}})
    assert readings(Renderer(), parse_title(placed), "word").strokes == plain


def test_a_bevel_that_closes_over_the_strokes_is_named() -> None:
    narrow = said(document(build=[step("relief.bevel", width=4)]), "strokes")
    assert not any(each.warns for each in narrow)
    wide = said(document(build=[step("relief.bevel", "rim", width=70)]), "strokes")
    assert (wide[0].warns, wide[0].step) == (True, "rim")
    assert "too thin for bevel" in wide[0].text
    outside = said(document(build=[step("relief.bevel", width=70, side="outside")]), "strokes")
    assert not any(each.warns for each in outside)


def test_a_hairline_font_is_too_thin_to_inflate() -> None:
    hairline = document("I", build=[step("relief.inflate")])
    hairline["layers"][0]["source"] |= {"font": "Abril Fatface", "text": "LANTERN", "size": 120}
    assert any("wire" in each.text for each in said(hairline, "strokes"))
    bold = document("I", build=[step("relief.inflate")])
    assert not any("wire" in each.text for each in said(bold, "strokes"))


def test_shadows_and_shading_agree_until_one_has_a_light_of_its_own() -> None:
    build = [step("light.shade", "shade"), step("ground.drop_shadow", "shadow")]
    agree = said(document(build=build), "light")
    assert [(each.warns, each.text) for each in agree] == [
        (False, "Shade and drop shadow agree: their light is Key.")
    ]
    build[1]["settings"] = {"light": "own", "angle": 200}
    [apart] = said(document(build=build), "light")
    assert (apart.warns, apart.step) == (True, "shadow")
    assert "lit from 20°, 155° away from Key" in apart.text


def test_a_rim_light_of_highlights_alone_may_differ_and_a_near_direction_too() -> None:
    rim = step("light.shade", "rim", light="own", azimuth=45, parts="highlights")
    near = step("ground.drop_shadow", "near", light="own", angle=60)
    assert not any(each.warns for each in said(document(build=[rim, near]), "light"))


def test_agreement_follows_a_turned_rig() -> None:
    build = [step("ground.drop_shadow", light="own", angle=45)]
    assert not any(each.warns for each in said(document(build=build), "light"))
    turned = said(document(build=build, rig={"turn": 90}), "light")
    assert turned[0].warns


def test_a_light_behind_the_lettering_lights_nothing() -> None:
    lights = [{"id": "key", "name": "Key", "azimuth": 225, "elevation": -20}]
    [behind] = said(document(lights=lights), "light")
    assert (behind.light, behind.warns) == ("key", True)
    assert "behind" in behind.text
    [unlit] = said(document(lights=[], build=[step("light.shade")]), "light")
    assert "no light" in unlit.text


def test_burnt_out_and_crushed_tone_name_the_step() -> None:
    white = [step("surface.flat", "grey", colour="#808080"), step("tone.levels", "l", white=0.3)]
    [burnt] = said(document(build=white), "tone")
    assert burnt.step == "l"
    assert "burnt out to white" in burnt.text
    black = [step("surface.flat", "grey", colour="#202020"), step("tone.levels", "l", black=0.4)]
    [crushed] = said(document(build=black), "tone")
    assert crushed.text == "100% of HOOK is black, most of it by levels."
    assert said(document(build=white[:1]), "tone") == []


def test_what_the_frame_cuts_off_is_said_with_side_and_amount() -> None:
    assert said(document(), "frame") == []
    [cut] = said(document(layer={"placement": {"x": 300}}), "frame")
    assert "HOOK is cut off by the frame at the right by" in cut.text
    shadow = [step("ground.drop_shadow", offset=300, blur=0)]
    [around] = said(document(build=shadow), "frame")
    assert "lies around HOOK" in around.text
    assert "bottom" in around.text


def test_forms_are_counted() -> None:
    ring = plate((20, 20, 80, 80))
    ring[40:80, 40:80] = 0
    assert form_of(ring) == Form(1, 1)
    assert form_of(plate((10, 10, 30, 30), (60, 10, 30, 30))) == Form(2, 0)
    assert form_of(plate()) == Form(0, 0)


@pytest.mark.parametrize(
    ("settings", "expected"),
    [
        ({"grow": 40, "radius": 0}, "fills 2 of 2 counters"),
        ({"grow": 40, "radius": 0}, "closes gaps: 4 pieces run into 1"),
        ({"grow": -200, "radius": 0}, "leaves nothing"),
    ],
)
def test_an_edge_that_spoils_the_word_is_named(settings: dict, expected: str) -> None:
    found = said(document(build=[step("shape.edge", "grown", **settings)]), "legibility")
    assert any(expected in each.text and each.step == "grown" for each in found)


def test_a_finish_that_suits_its_word_warns_of_nothing() -> None:
    title = new_title("FOGHORN", finish="ship-brass", frame=(960, 540))
    found = readings(Renderer(), title, title.layers[-1].id)
    assert not any(each.warns for each in found.said), found.said
    assert found.strokes.thinnest < found.strokes.thickest


def test_a_ground_has_no_strokes_but_its_title_a_light() -> None:
    title = new_title("FOGHORN", frame=(640, 360))
    found = readings(Renderer(), title, title.layers[0].id)
    assert found.strokes is None
    assert {each.gauge for each in found.said} == {"light"}
    with pytest.raises(KeyError):
        readings(Renderer(), title, "nobody")


INFLATED = [step("relief.inflate"), step("light.shade", "lit")]


class TestTilt:
    def turned(self, angle: float, *build: dict) -> list:
        layer = {"placement": {"turn_y": angle}}
        return said(document(build=[*INFLATED, *build], layer=layer), "tilt")

    def test_a_flat_card_says_nothing_of_it(self) -> None:
        assert self.turned(0) == []

    def test_relief_on_a_card_that_turned_too_far_is_named(self) -> None:
        [mild], [steep] = self.turned(15), self.turned(50)
        assert not mild.warns
        assert steep.warns
        assert "Turned by 50°" in steep.text
        assert steep.step == "it"

    def test_parallax_holds_longer(self) -> None:
        [reading] = self.turned(50, step("depth.parallax", "lean", view="camera"))
        assert not reading.warns

    def test_sides_that_do_not_turn_along_give_it_away(self) -> None:
        [reading] = self.turned(25, step("depth.extrude", "sides", length=120))
        assert reading.warns
        assert reading.step == "sides"
        [right] = self.turned(25, step("depth.extrude", "sides", length=120, towards="back"))
        assert not right.warns

    def test_the_camera_counts_as_much_as_the_card(self) -> None:
        raw = document(build=INFLATED, camera={"swing": 50})
        [reading] = said(raw, "tilt")
        assert reading.warns


class TestMirror:
    def on_floor(self, floor: str, **settings) -> list:
        build = [
            step("surface.flat", "face", colour="#f0f0f0"),
            step("ground.reflection", **settings),
        ]
        raw = document(build=build)
        ground = {"kind": "backdrop", "source": {"colour": floor}}
        return said(raw | {"layers": [ground, *raw["layers"]]}, "mirror")

    def test_on_a_dark_floor_it_is_seen(self) -> None:
        assert self.on_floor("#202428") == []

    def test_on_one_as_bright_as_the_letters_it_is_not_and_a_tone_is_named(self) -> None:
        tint = {"tinted": 0, "opacity": 0.5}
        [reading] = self.on_floor("#eeeeee", **tint)
        assert reading.warns
        assert reading.step == "it"
        tone = reading.text.split("as dark as ")[1][:7]
        assert self.on_floor(tone, **tint) == []

    def test_what_is_too_faint_is_called_that(self) -> None:
        [reading] = self.on_floor("#808080", opacity=0.02)
        assert "faint" in reading.text or "dark" in reading.text
