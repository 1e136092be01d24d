"""Documents: what is read, what is refused and where, what is written."""

import json
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mabrel import TitleError, check_title, parse_title, read_title, write_title
from mabrel.cli import schema
from mabrel.title import files, title_to_json
from mabrel.title.errors import place_of

ROOT = Path(__file__).resolve().parents[2]


def document(**changes) -> dict:
    return {
        "mabrel": 1,
        "frame": {"width": 320, "height": 180},
        "layers": [
            {"kind": "backdrop", "name": "Ground"},
            {
                "kind": "lettering",
                "name": "Word",
                "source": {"text": "KELP", "size": 60},
                "build": [
                    {"step": "relief.bevel", "settings": {"width": 8}},
                    {"step": "light.shade"},
                ],
            },
        ],
    } | changes


def with_setting(name: str, value) -> dict:
    broken = document()
    broken["layers"][1]["build"][0]["settings"] = {name: value}
    return broken


def refusal(raw) -> str:
    with pytest.raises(TitleError) as caught:
        check_title(parse_title(raw))
    return str(caught.value)


@pytest.mark.parametrize(
    ("name", "value", "rule"),
    [
        ("width", -3, "must be at least 0"),
        ("width", "wide", "must be a number"),
        ("width", float("nan"), "must be a finite number"),
        ("width", None, "must be a number"),
        ("breadth", 3, "is not a known field"),
        ("profile", [[0, 0]], "must have at least 2 entries"),
        ("direction", "sideways", "must be one of 'raised' or 'sunk'"),
    ],
)
def test_a_wrong_setting_is_named_with_its_place_and_rule(name: str, value, rule: str) -> None:
    assert refusal(with_setting(name, value)) == f"layers[1].build[0].settings.{name}: {rule}"


def test_a_wrong_value_in_a_peg_is_named_there() -> None:
    pegs = [{"at": 0, "value": 4}, {"at": 1, "value": -4}]
    place = "layers[1].build[0].settings.width.pegs[1].value"
    assert refusal(with_setting("width", {"pegs": pegs})) == f"{place}: must be at least 0"


def test_pegs_out_of_order_are_refused() -> None:
    pegs = [{"at": 1, "value": 4}, {"at": 1, "value": 5}]
    assert "in order of time" in refusal(with_setting("width", {"pegs": pegs}))


@pytest.mark.parametrize(
    ("changes", "said"),
    [
        ({"frame": {"width": 100_000, "height": 100_000}}, "frame.width: must be at most 16384"),
        ({"frame": {"width": 16_000, "height": 16_000}}, "frame: must have at most 40 million"),
        ({"frame": {"width": -5, "height": 9}}, "frame.width: must be at least 1"),
        ({"mabrel": 2}, "mabrel: is 2, newer than this program"),
        ({"mabrel": None}, "mabrel: must be the version"),
        ({"colour": "red"}, "colour: is not a known field"),
        ({"lights": [{"colour": "red"}]}, "lights[0].colour: must be a colour code"),
        ({"lights": [{}, {}]}, "has the light id 'key' twice"),
        ({"layers": [{"kind": "cloud"}]}, "layers[0]: must be one of"),
        ({"layers": [{"kind": "lettering"}]}, "layers[0].source: is missing"),
        ({"layers": 7}, "layers: must be a list"),
    ],
)
def test_a_broken_document_is_refused_with_place_and_rule(changes: dict, said: str) -> None:
    assert refusal(document(**changes)).startswith(said)


def test_an_unknown_step_is_named() -> None:
    broken = document()
    broken["layers"][1]["build"][1]["step"] = "light.moon"
    assert refusal(broken).startswith("layers[1].build[1].step: there is no step 'light.moon'")


def test_ten_thousand_letters_are_too_many() -> None:
    broken = document()
    broken["layers"][1]["source"]["text"] = "A" * 10_000
    assert refusal(broken) == "layers[1].source.text: must be at most 2000 characters long"


def test_a_matte_from_nowhere_or_from_itself_is_refused() -> None:
    broken = document()
    broken["layers"][1] |= {"id": "word", "matte_from": "elsewhere"}
    assert "there is no layer 'elsewhere'" in refusal(broken)
    broken["layers"][1]["matte_from"] = "word"
    assert "must not be the layer itself" in refusal(broken)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("{", "line 1, column 1: is not valid JSON"),
        ('{"mabrel": NaN}', "line 1, column 12: is not valid JSON"),
        ('{"mabrel": ' + "9" * 5000 + "}", "is not valid JSON: number out of range"),
        ('{"name": "\\ud800"}', "is not valid JSON: unexpected end of hex escape"),
        ('{"name": "\ud800"}', "must be JSON text in UTF-8"),
        ("[1, 2]", "must be a JSON object"),
        ("[" * 100_000, "is nested too deeply"),
        ("[" + "[]," * 150_001 + "1]", "must have at most 150,000 values"),
        (b"\xff\xfe{", "must be JSON text in UTF-8"),
    ],
)
def test_broken_json_is_refused(text, said: str) -> None:
    assert said in refusal(text)


@pytest.mark.parametrize(
    ("place", "value", "rule"),
    [
        (("camera", "pan"), "junk", "must be a number"),
        (("layers", 0, "opacity"), 99, "must be at most 1"),
        (("layers", 0, "source", "colour"), "nocolour", "must be a colour code"),
        (("lights", 0, "strength"), -1, "must be at least 0"),
        (("layers", 1, "build", 0, "strength"), 2, "must be at most 1"),
        (("layers", 1, "build", 0, "settings", "width"), "wide", "must be a number"),
    ],
)
def test_a_value_over_time_is_held_against_its_setting(place: tuple, value, rule: str) -> None:
    raw = document() | {"camera": {}, "lights": [{"kind": "distant"}]}
    raw["layers"][0]["source"] = {}
    *way, last = place
    inner = raw
    for part in way:
        inner = inner[part]
    inner[last] = {"pegs": [{"at": 0, "value": value}]}
    said = refusal(raw)
    assert f"{place_of(place)}.pegs[0].value: {rule}" in said


def test_a_title_has_a_bound_on_its_steps_and_is_read_in_a_moment() -> None:
    raw = document()
    raw["layers"][1]["build"] = [{"step": "tone.invert"}] * 200
    assert len(parse_title(raw).layers[1].build) == 200
    raw["layers"] = [raw["layers"][1] | {"id": f"layer {n}"} for n in range(200)]
    assert "must have at most 2000 steps" in refusal(raw)


def test_what_a_document_leaves_out_takes_its_default_and_ids_are_given() -> None:
    title = parse_title(document())
    assert title.camera.distance == 2000
    ids = [layer.id for layer in title.layers] + [step.id for step in title.steps()]
    assert len(set(ids)) == 4
    assert all(ids)


def test_a_title_survives_writing_and_reading(tmp_path: Path) -> None:
    title = parse_title(document())
    path = tmp_path / "kelp.title.json"
    write_title(title, path)
    assert read_title(path) == title.at_home(tmp_path)
    assert list(tmp_path.iterdir()) == [path]  # nothing half written is left


def test_the_error_of_a_file_names_the_file(tmp_path: Path) -> None:
    path = tmp_path / "broken.title.json"
    path.write_text("{")
    with pytest.raises(TitleError, match=r"broken\.title\.json: line 1, column 1"):
        read_title(path)


def test_an_older_document_is_migrated(monkeypatch: pytest.MonkeyPatch) -> None:
    def renamed(raw: dict) -> dict:
        return {"mabrel": 2, "name": raw["title"], "layers": []}

    monkeypatch.setattr(files, "VERSION", 2)
    monkeypatch.setattr(files, "MIGRATIONS", {1: renamed})
    assert files._migrated({"mabrel": 1, "title": "Old"}) == renamed({"title": "Old"})


def test_the_published_schema_is_the_models_own() -> None:
    assert json.loads((ROOT / "docs" / "title.schema.json").read_text()) == schema()


@given(
    st.recursive(
        st.none() | st.booleans() | st.floats() | st.text(max_size=5),
        lambda inner: (
            st.lists(inner, max_size=3)
            | st.dictionaries(
                st.sampled_from(["mabrel", "layers", "kind", "source", "text", "frame", "pegs"]),
                inner,
                max_size=4,
            )
        ),
        max_leaves=12,
    )
)
def test_whatever_is_read_is_a_title_or_a_clear_refusal(raw) -> None:
    whole = {"mabrel": 1, "layers": raw} if not isinstance(raw, dict) else raw
    try:
        title = parse_title(whole)
    except TitleError as error:
        refused = error
    else:
        assert parse_title(title_to_json(title)) == title
        return
    assert str(refused)
    assert "\n" not in refused.rule


@pytest.mark.parametrize(
    ("place", "value"),
    [
        ("frame.fps", {"frame": {"fps": True}}),
        ("layers[0].opacity", {"layers": [{"kind": "wash", "opacity": False}]}),
        (
            "layers[0].opacity.pegs[0].value",
            {"layers": [{"kind": "wash", "opacity": {"pegs": [{"at": 0, "value": True}]}}]},
        ),
        (
            "layers[0].build[0].settings.amount",
            {"layers": [{"kind": "wash", "build": [
                {"step": "tone.sharpen", "settings": {"amount": True}}]}]},
        ),
        ("lights[0].azimuth", {"lights": [{"azimuth": True}]}),
    ],
)  # fmt: skip
def test_a_switch_is_no_number(place: str, value: dict) -> None:
    with pytest.raises(TitleError) as refused:
        check_title(parse_title({"mabrel": 1} | value))
    assert (refused.value.place, refused.value.rule) == (place, "must be a number")
