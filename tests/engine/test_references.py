"""What layers and steps refer to must be there, and must not go round in a circle."""

import pytest

from mabrel import TitleError, check_title, parse_title
from tests.engine.trial_titles import step


def checked(*layers: dict, **changes) -> None:
    check_title(parse_title({"mabrel": 1, "layers": list(layers)} | changes))


def word(id: str, *build: dict, **changes) -> dict:
    return {"kind": "lettering", "id": id, "source": {"text": "A"}, "build": list(build)} | changes


def copy(id: str, of: str) -> dict:
    return {"kind": "copy", "id": id, "source": {"layer": of}}


def group(id: str, *members: str) -> dict:
    return {"kind": "group", "id": id, "source": {"layers": list(members)}}


SHOWS_B = step("surface.picture", picture="layer:b")
WITHIN_B = step("surface.flat") | {"where": {"kind": "matte", "layer": "b"}}


@pytest.mark.parametrize(
    ("layers", "said"),
    [
        ([word("a", matte_from="b")], r"layers\[0\]\.matte_from: there is no layer 'b'"),
        ([word("a", matte_from="a")], r"layers\[0\]\.matte_from: must not be the layer itself"),
        ([copy("a", "b")], r"layers\[0\]\.source\.layer: there is no layer 'b'"),
        ([group("a", "b")], r"layers\[0\]\.source\.layers\[0\]: there is no layer 'b'"),
        ([word("a", SHOWS_B)], r"layers\[0\]\.build\[0\]\.settings\.picture: there is no layer"),
        ([word("a", WITHIN_B)], r"layers\[0\]\.build\[0\]\.where\.layer: there is no layer 'b'"),
    ],
)
def test_a_layer_that_is_not_there_is_refused(layers: list[dict], said: str) -> None:
    with pytest.raises(TitleError, match=said):
        checked(*layers)


@pytest.mark.parametrize(
    "layers",
    [
        [copy("a", "b"), copy("b", "a")],
        [word("a", matte_from="b"), word("b", matte_from="a")],
        [word("a", SHOWS_B), copy("b", "a")],
        [word("a", WITHIN_B), group("b", "a")],
        [copy("a", "b"), group("b", "c"), word("c", step("relief.emboss", picture="layer:a"))],
    ],
)
def test_circles_are_refused(layers: list[dict]) -> None:
    with pytest.raises(TitleError, match=r"must not go round in a circle: a needs b"):
        checked(*layers)


def test_many_may_use_one_layer_and_chains_may_be_long() -> None:
    chain = [copy(f"c{n}", f"c{n - 1}" if n else "a") for n in range(30)]
    checked(word("a"), word("b", matte_from="a"), *chain, group("g", "a", "b"))


def test_a_layer_is_in_one_group_only() -> None:
    with pytest.raises(TitleError, match=r"layers\[2\].source.layers\[0\]: 'a' is in the group"):
        checked(word("a"), group("g", "a"), group("h", "a"))


def test_a_step_lights_what_an_earlier_step_of_its_own_build_added() -> None:
    bevel = step("relief.bevel") | {"id": "rim"}
    shade = step("light.shade", relief="rim")
    checked(word("a", bevel, shade))
    for build in ([shade, bevel], [shade]):
        with pytest.raises(TitleError, match=r"settings\.relief: must be an earlier step"):
            checked(word("a", *build))
    with pytest.raises(TitleError, match="earlier step"):
        checked(word("b", bevel), word("a", shade))


def test_a_light_that_is_not_there_is_refused() -> None:
    one = word("a", step("light.shade", light="one", which="rim"))
    checked(one, lights=[{"id": "rim"}])
    with pytest.raises(TitleError, match=r"settings\.which: there is no light 'rim'"):
        checked(one)


def test_what_a_setting_refers_to_stays_the_same_over_time() -> None:
    pegs = {"pegs": [{"at": 0, "value": ""}, {"at": 1, "value": "shipped/chart.png"}]}
    with pytest.raises(TitleError, match=r"settings\.picture: must stay the same over time"):
        checked(word("a", step("surface.picture", picture=pegs)))


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"where": {"kind": "circle"}}, r"build\[0\]\.where: must be one of"),
        (
            {"where": {"kind": "polygon", "points": [[0, 0]]}},
            r"points: must have at least 3",
        ),
        ({"where": {"kind": "ellipse", "width": -1}}, r"where\.width: must be at least 0"),
    ],
)
def test_the_errors_of_where_name_the_place(change: dict, said: str) -> None:
    with pytest.raises(TitleError, match=said):
        checked(word("a", step("surface.flat") | change))


def test_the_errors_of_sources_name_the_place() -> None:
    cut = {"kind": "colours", "picks": [{"x": 2, "y": 0}]}
    picture = {"kind": "picture", "source": {"picture": "a.png", "cut": cut}}
    with pytest.raises(TitleError, match=r"\[0\]\.source\.cut\.picks\[0\]\.x: must be at most"):
        checked(picture)
    with pytest.raises(TitleError, match=r"layers\[0\]\.source\.picture: is missing"):
        checked({"kind": "picture", "source": {}})
