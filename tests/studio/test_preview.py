"""Previews, readings and exports of documents that are not saved."""

import base64
import copy
import json
from contextlib import AbstractContextManager
from pathlib import Path
from urllib.parse import unquote

import cv2
import numpy as np
import pytest

from mabrel import parse_title, render
from studio.engine.jobs import files
from studio.engine.jobs.pictures import preview
from studio.engine.limits import LIMITS
from studio.engine.process import new_tools
from studio.engine.work import Role
from studio.titles.models import Title
from tests.engine.source.test_own_fonts import shipped
from tests.studio.conftest import Api, body

ASK = {"session": "test"}


def lettering(document: dict) -> dict:
    return document["layers"][-1]


def test_a_preview_is_the_engines_own_picture(api: Api, document: dict) -> None:
    answer = api.post("/preview", ASK | {"document": document, "scale": 0.5})
    assert answer["X-Size"] == "160 90"
    pixels = np.frombuffer(answer.content, np.uint8).reshape(90, 160, 4)
    truth = render(parse_title(document), scale=0.5).to_uint8()
    assert np.array_equal(pixels, truth)


@pytest.mark.parametrize("rests", [None, False, True])
def test_whether_a_picture_rests_changes_nothing_in_it(
    api: Api, document: dict, rests: bool | None
) -> None:
    more = {} if rests is None else {"rests": rests}
    answer = api.post("/preview", ASK | {"document": document, "scale": 0.5} | more)
    truth = render(parse_title(document), scale=0.5).to_uint8()
    assert answer.content == truth.tobytes()


@pytest.mark.parametrize("rests", [None, 7, "perhaps", [True], {}])
def test_whether_a_picture_rests_is_yes_or_no(api: Api, document: dict, rests: object) -> None:
    ask = ASK | {"document": document, "rests": rests}
    assert api.post("/preview", ask).status_code == 422


def test_the_engine_is_told_whether_a_picture_rests(
    document: dict, monkeypatch: pytest.MonkeyPatch
) -> None:
    tools, told = new_tools(LIMITS[Role.HAND]), []
    resting = tools.renderer.cache.resting

    def noted(rests: bool) -> AbstractContextManager[None]:
        told.append(rests)
        return resting(rests)

    monkeypatch.setattr(tools.renderer.cache, "resting", noted)
    sent = {"document": json.dumps(document).encode(), "home": ""}
    for rests in (True, False):
        preview(tools, **sent, scale=0.5, rests=rests)
    assert told == [True, False]


def test_notices_come_with_the_preview(api: Api, document: dict) -> None:
    lettering(document)["source"]["text"] = "A日"
    answer = api.post("/preview", ASK | {"document": document})
    assert json.loads(unquote(answer["X-Notices"])) == ["No font here has 日: left out."]


def test_pictures_of_all_steps_and_layers(api: Api, document: dict) -> None:
    answer = api.post(
        "/build-pictures", ASK | {"document": document, "layer": lettering(document)["id"]}
    ).json()
    assert [each["step"] for each in answer["steps"]] == [
        step["id"] for step in lettering(document)["build"]
    ]
    assert [each["step"] for each in answer["layers"]] == [
        each["id"] for each in document["layers"]
    ]
    shapes = {
        cv2.imdecode(np.frombuffer(base64.b64decode(png), np.uint8), cv2.IMREAD_UNCHANGED).shape
        for png in [answer["source"], *(each["png"] for each in answer["steps"])]
    }
    assert shapes == {(100, 180, 4)}


def test_a_section_has_height_and_tone_inside_the_letters_only(api: Api, document: dict) -> None:
    ask = ASK | {"document": document, "layer": lettering(document)["id"], "at": 90, "samples": 160}
    section = api.post("/section", ask).json()
    assert len(section["height"]) == len(section["tone"]) == len(section["colours"]) == 160
    inside = [height is not None for height in section["height"]]
    assert inside == [tone is not None for tone in section["tone"]]
    assert 20 < sum(inside) < 140
    assert max(height for height in section["height"] if height is not None) > 5


def test_a_section_shows_the_tone_that_a_step_is_given(api: Api, document: dict) -> None:
    layer = lettering(document)
    ask = ASK | {"document": document, "layer": layer["id"], "at": 90, "samples": 160}
    tone_map = next(step for step in layer["build"] if step["step"] == "tone.gradient_map")
    before = api.post("/section", ask | {"before": tone_map["id"]}).json()["tone"]
    plain = copy.deepcopy(document)
    lettering(plain)["build"] = layer["build"][: layer["build"].index(tone_map)]
    assert before == api.post("/section", ask | {"document": plain}).json()["tone"]
    assert before != api.post("/section", ask).json()["tone"]


def test_tones_before_a_step_add_up_and_have_their_places(api: Api, document: dict) -> None:
    layer = lettering(document)
    ask = ASK | {"document": document, "layer": layer["id"], "step": layer["build"][2]["id"]}
    tones = api.post("/tones", ask | {"scale": 0.5}).json()
    assert sum(tones["histogram"]) == pytest.approx(1, abs=1e-3)
    places = np.frombuffer(base64.b64decode(tones["places"]), np.uint8)
    assert places.size == tones["width"] * tones["height"] == 160 * 90
    inside = places[places < 255] / 254
    counts, _ = np.histogram(inside, bins=64, range=(0, 1))
    assert counts / counts.sum() == pytest.approx(np.array(tones["histogram"]), abs=0.02)


@pytest.mark.parametrize(("bits", "kind"), [(8, np.uint8), (16, np.uint16)])
@pytest.mark.parametrize("scale", [0.5, 1, 4])
def test_export_with_and_without_the_backdrop(
    api: Api, document: dict, bits: int, kind: type, scale: float
) -> None:
    for backdrop in (True, False):
        ask = {"document": document, "bits": bits, "scale": scale, "backdrop": backdrop}
        answer = api.post("/export", ask)
        assert answer["Content-Type"] == "image/png"
        pixels = cv2.imdecode(np.frombuffer(body(answer), np.uint8), cv2.IMREAD_UNCHANGED)
        assert pixels.dtype == kind
        assert pixels.shape == (180 * scale, 320 * scale, 4)
        assert (pixels[0, 0, 3] == 0) != backdrop


@pytest.mark.parametrize("scale", [0.1, 5, float("inf")])
def test_export_at_another_scale_is_refused(api: Api, document: dict, scale: float) -> None:
    assert api.post("/export", {"document": document, "scale": scale}).status_code in (400, 422)


def test_a_word_in_a_finish_as_a_strip(api: Api) -> None:
    ask = {"session": "s", "text": "KELP", "width": 300, "height": 84}
    answer = api.get("/finishes/ship-brass/picture", **ask)
    pixels = cv2.imdecode(np.frombuffer(answer.content, np.uint8), cv2.IMREAD_UNCHANGED)
    assert pixels.shape == (84, 300, 4)
    assert pixels[..., :3].std() > 20


def test_a_title_as_a_strip_is_kept_by_the_browser_for_its_version(api: Api, kept: Title) -> None:
    current = api.get(f"/titles/{kept.id}/strip", version=1, width=400, height=112)
    assert "immutable" in current["Cache-Control"]
    old = api.get(f"/titles/{kept.id}/strip", version=7, width=400, height=112)
    assert not old.has_header("Cache-Control")
    missing = "00000000-0000-0000-0000-000000000000"
    assert api.get(f"/titles/{missing}/strip").status_code == 404


def test_fonts_of_ones_own_are_read_a_few_at_a_time(
    library: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    names = [f"own {number}.ttf" for number in range(3)]
    for name in names:
        (library / name).write_bytes(shipped())
    (library / "broken.ttf").write_bytes(b"no font")
    tools = new_tools(LIMITS[Role.CLERK])
    ask = {"home": str(library), "names": [*names, "broken.ttf"], "text": "Ag"}
    own = {each["family"]: each["path"] for each in files.font_samples(tools, **ask)}
    assert all(own[name] for name in names)
    assert "broken.ttf" not in own
    monkeypatch.setattr(files, "_READING", -1)
    late = {each["family"]: each["path"] for each in files.font_samples(tools, **ask)}
    assert [late[name] for name in names] == [""] * 3
    assert late["Anton"]


def test_each_font_shows_its_own_shape(api: Api) -> None:
    samples = {each["family"]: each for each in api.get("/fonts/samples", text="Ag").json()}
    assert len(samples) >= 14
    assert len({each["path"] for each in samples.values()}) == len(samples)
    arabic = {each["family"]: each for each in api.get("/fonts/samples", text="ش").json()}
    assert arabic["Lalezar"]["complete"]
    assert not arabic["Anton"]["complete"]


def test_the_catalogue_has_what_the_controls_need(api: Api) -> None:
    catalogue = api.get("/catalogue").json()
    assert {"relief.bevel", "light.shade"} <= {entry["step"] for entry in catalogue["steps"]}
    assert "multiply" in catalogue["blend_modes"]
    assert catalogue["taps"][0] == "picture"
