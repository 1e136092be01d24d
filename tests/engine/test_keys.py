"""What is kept is never stale: a change is seen wherever it counts, and made nowhere else."""

import copy
import os
from collections.abc import Iterator
from typing import Any, ClassVar

import numpy as np

from mabrel import Renderer, parse_title
from mabrel.render import RenderError, nodes_of
from mabrel.source import FontError, LibraryError, PictureError
from mabrel.steps import check_title, kind_of
from mabrel.title import Title, TitleError
from tests.engine.trial_titles import step

WORD = {"text": "Ab", "font": "Titan One", "size": 34}
RICH: dict[str, Any] = {
    "mabrel": 1,
    "frame": {"width": 96, "height": 64},
    "lights": [
        {"id": "key", "azimuth": 220, "elevation": 40},
        {"id": "lamp", "kind": "point", "x": 30, "y": -20, "z": 60, "colour": "#ff8040"},
    ],
    "camera": {"distance": 300, "lift": -40, "swing": 4},
    "handles": [{"id": "rig", "placement": {"x": 3, "turn_z": 2}}],
    "layers": [
        {
            "kind": "backdrop",
            "id": "sky",
            "source": {"colour": "#405060"},
            "build": [step("surface.gradient", blend="multiply")],
        },
        {"kind": "floor", "id": "ground", "build": [step("surface.made", width=20, height=20)]},
        {
            "kind": "lettering",
            "id": "hidden",
            "visible": False,
            "source": WORD | {"text": "O"},
            "build": [step("shape.edge", grow=2), step("surface.flat", colour="#20c060")],
        },
        {
            "kind": "lettering",
            "id": "member",
            "source": WORD | {"text": "x", "size": 20},
            "placement": {"x": -30, "y": 12},
            "matte_from": "hidden",
            "build": [step("relief.soft", radius=2, height=4), step("light.shade")],
        },
        {"kind": "group", "id": "both", "source": {"layers": ["member"]}, "opacity": 0.8},
        {
            "kind": "lettering",
            "id": "word",
            "source": WORD,
            "handle": "rig",
            "face_opacity": 0.7,
            "placement": {"y": -6, "turn_y": 20},
            "build": [
                step("relief.inflate") | {"id": "swell", "strength": 0.9},
                step("light.shade", light="one", which="lamp", relief="swell"),
                step("surface.picture", picture="layer:hidden", blend="multiply")
                | {"where": {"kind": "ellipse", "width": 60, "height": 30, "feather": 4}},
                step("tone.gradient_map")
                | {"where": {"kind": "matte", "layer": "hidden"}, "strength": 0.5},
                step("depth.extrude", towards="back", length=8, edge=1),
                step("ground.contact", reach=4, blur=2),
                step("ground.cast_shadow", onto="floor", blur=1),
                step("ground.reflection", gone_at=20, ripples=2, size=8),
            ],
        },
        {
            "kind": "copy",
            "id": "again",
            "source": {"layer": "word", "take": "face"},
            "placement": {"x": 26, "y": 20, "scale": 0.4},
            "blend": "screen",
        },
        {
            "kind": "wash",
            "id": "lens",
            "opacity": 0.9,
            "build": [step("lens.glow", radius=4), step("lens.flare", size=6), step("lens.grade")],
        },
    ],
}

Place = tuple[str | int, ...]


def leaves(value: Any, place: Place = ()) -> Iterator[tuple[Place, Any]]:
    """Every single field of a document, with its place."""
    if isinstance(value, dict):
        for name, each in value.items():
            yield from leaves(each, (*place, name))
    elif isinstance(value, list):
        for index, each in enumerate(value):
            yield from leaves(each, (*place, index))
    else:
        yield place, value


def others(value: Any) -> list[Any]:
    """What a field may be changed to, the first that the title accepts."""
    if isinstance(value, bool):
        return [not value]
    if isinstance(value, int | float):
        return [value + 1, value * 0.5 + 0.01, value - 1]
    if isinstance(value, str) and value.startswith("#"):
        return ["#c03090"]
    if value is None:
        return ["hidden", 3.0]
    words = ["multiply", "own", "key", "sides", "lines", "behind", "alone", "point", "wall"]
    words += ["sunk", "stretch", "oklab", "radial", "clouds", "checker", "smooth", "matte", "Q"]
    return [word for word in words if word != value]


def changed(place: Place, value: Any) -> Title | None:
    document = copy.deepcopy(FULL)
    part = document
    for name in place[:-1]:
        part = part[name]
    for other in others(value):
        part[place[-1]] = other
        try:
            return check_title(parse_title(copy.deepcopy(document)))
        except (TitleError, ValueError):
            continue
    return None


def written_out() -> dict[str, Any]:
    """The rich title with every setting, also those that are left to their defaults."""
    document = parse_title(copy.deepcopy(RICH)).model_dump(mode="json")
    for layer in document["layers"]:
        for each in layer["build"]:
            defaults = kind_of(each["step"]).settings().model_dump(mode="json")
            each["settings"] = defaults | each["settings"]
    return document


FULL = written_out()
FIELDS = [field for field in leaves(FULL) if field[0][0] not in ("mabrel", "name")]


# All of them with MABREL_SWEEP=full, which `make keys` sets; else every ninth.
REFUSED = (FontError, LibraryError, PictureError, RenderError)
SWEEP = 1 if os.environ.get("MABREL_SWEEP") == "full" else 9


def test_whatever_field_is_changed_nothing_stale_is_shown() -> None:
    renderer = Renderer()
    renderer.render(parse_title(copy.deepcopy(FULL)))
    tried = 0
    for place, value in FIELDS[::SWEEP]:
        title = changed(place, value)
        if title is None:
            continue
        try:
            warm = renderer.render(title).pixels
        except REFUSED:
            continue
        tried += 1
        assert np.array_equal(warm, Renderer().render(title).pixels), place
    assert tried > len(FIELDS) / SWEEP / 2


def names(renderer: Renderer, *kinds: str) -> list[str]:
    return [node.name for node in renderer.made if not kinds or node.kind in kinds]


def after(**changes: Any) -> Renderer:
    """A renderer that has rendered the rich title, and then it with changes: by the place of a
    field, its parts parted by two underscores."""
    renderer = Renderer()
    renderer.render(parse_title(copy.deepcopy(RICH)))
    document = copy.deepcopy(RICH)
    for place, value in changes.items():
        part: Any = document
        *way, last = place.split("__")
        for name in way:
            part = part[int(name)] if name.isdigit() else part[name]
        part[int(last) if last.isdigit() else last] = value
    renderer.render(parse_title(document))
    return renderer


WASH = ["lens.glow", "lens.flare", "lens.grade"]
OF_WORD = [each["step"] for each in RICH["layers"][5]["build"]]


class TestWhatDependsOnWhat:
    """What is made again after one change, beside what is laid together anew."""

    def steps(self, **changes: Any) -> list[str]:
        return sorted(set(names(after(**changes), "step")) - set(WASH))

    def test_nothing_where_nothing_changed(self) -> None:
        assert self.steps() == []
        assert names(after(), "source", "step", "image", "matte", "card", "floor") == []

    def test_a_name_changes_nothing(self) -> None:
        assert names(after(layers__5__name="Other"), "source", "step", "card") == []

    def test_of_a_backdrop_itself_alone(self) -> None:
        assert self.steps(layers__0__source__colour="#102030") == ["surface.gradient"]

    def test_of_a_matte_who_takes_it(self) -> None:
        """The word looks at the hidden layer twice; the member only takes its matte."""
        found = self.steps(layers__2__build__0=step("shape.edge", grow=3))
        again = OF_WORD[OF_WORD.index("surface.picture") :]
        assert found == sorted({"shape.edge", "surface.flat", *again})

    def test_of_a_colour_only_who_looks_at_it(self) -> None:
        found = self.steps(layers__2__build__1=step("surface.flat", colour="#aa0000"))
        again = OF_WORD[OF_WORD.index("surface.picture") :]
        assert found == sorted({"surface.flat", *again})

    def test_of_a_group_its_members_and_it(self) -> None:
        found = after(layers__3__build__0=step("relief.soft", radius=2, height=5))
        assert set(names(found, "step")) - set(WASH) == {"relief.soft", "light.shade"}
        assert "both" in names(found, "source")
        assert "word" not in names(found, "source", "card")

    def test_of_a_copied_layer_its_copy_too(self) -> None:
        found = after(layers__5__build__7=step("ground.reflection", gone_at=30))
        assert "again" in names(found, "source")
        assert set(names(found, "step")) - set(WASH) == {"ground.reflection"}

    def test_of_a_handle_what_hangs_on_it(self) -> None:
        found = after(handles__0__placement__x=5)
        assert "word" in names(found, "card")
        assert not {"member", "hidden", "sky"} & set(names(found, "source"))

    def test_of_a_light_what_it_lights(self) -> None:
        """The lamp lights the word's shading and its sides; the member is lit by both."""
        lamp = after(lights__1__x=20)
        assert "light.shade" in names(lamp, "step")
        assert "relief.inflate" not in names(lamp, "step")
        key = set(self.steps(lights__0__azimuth=200))
        assert {"light.shade", "depth.extrude", "ground.cast_shadow"} <= key
        assert not {"relief.soft", "relief.inflate", "surface.picture"} & key

    def test_a_light_of_its_own_keeps_a_step_apart(self) -> None:
        build = [step("light.shade", light="one", which="lamp")]
        title = {**RICH, "layers": [{**RICH["layers"][5], "build": build}]}
        renderer = Renderer()
        renderer.render(parse_title(copy.deepcopy(title)))
        turned = copy.deepcopy(title)
        turned["lights"][0]["azimuth"] = 100
        renderer.render(parse_title(turned))
        assert names(renderer, "step") == []

    def test_of_the_camera_what_the_viewer_is_asked_for(self) -> None:
        found = self.steps(camera__lift=-50)
        assert {"depth.extrude", "ground.contact", "ground.reflection"} <= set(found)
        assert "relief.inflate" not in found
        assert "surface.gradient" not in found

    def test_where_the_floor_lies_follows_the_outline_alone(self) -> None:
        found = after(layers__5__build__2=step("surface.flat"))
        assert "ground" not in names(found, "floor")

    def test_the_overview_is_made_again_with_what_lies_beneath(self) -> None:
        assert "frame" in names(after(layers__0__source__colour="#102030"), "overview")
        assert "frame" not in names(after(layers__7__build__2=step("lens.grade", contrast=2)))

    def test_of_the_last_step_of_a_wash_that_alone(self) -> None:
        found = after(layers__7__build__2=step("lens.grade", contrast=2))
        assert names(found, "step") == ["lens.grade"]


class TestOverTime:
    """Without rendering, a plan says what changes over a span of time."""

    SLIDE: ClassVar = {"pegs": [{"at": 1, "value": 0}, {"at": 2, "value": 20}]}

    def moving(self, start: float, end: float, **changes: Any) -> set[str]:
        document = copy.deepcopy(RICH)
        for place, value in changes.items():
            part: Any = document
            *way, last = place.split("__")
            for name in way:
                part = part[int(name)] if name.isdigit() else part[name]
            part[last] = value
        plan = Renderer().plan(parse_title(document))
        nodes = [node for node in nodes_of([plan]) if node.kind in ("source", "step")]
        return {node.name for node in nodes if node.changes(start, end)}

    def test_what_has_no_pegs_never_does(self) -> None:
        assert self.moving(0, 60) == set()

    def test_a_setting_moves_its_step_and_those_after_it(self) -> None:
        place = {"layers__5__build__4__settings__taper": self.SLIDE}
        found = self.moving(0.5, 1.5, **place)
        assert {"depth.extrude", "ground.contact", "again"} <= found
        assert not {"relief.inflate", "word", "sky"} & found
        assert self.moving(3, 5, **place) == set()
        assert self.moving(0, 1, **place) == set()

    def test_a_light_that_drifts_moves_what_it_lights(self) -> None:
        drift = {"value": 220, "drift": {"amount": 5}}
        found = self.moving(0, 1, lights__0__azimuth=drift)
        assert "depth.extrude" in found
        assert "relief.inflate" not in found
