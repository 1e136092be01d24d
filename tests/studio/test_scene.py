"""Scenes through the API: kept as finishes, exported, refused where they don't hold together."""

import copy

import cv2
import numpy as np
import pytest

from mabrel import new_title
from tests.studio.conftest import Api, body

ASK = {"session": "tests"}


@pytest.fixture
def scene() -> dict:
    return new_title("KELP", finish="tide-table", frame=(320, 180)).model_dump(mode="json")


def layer_of(document: dict, kind: str) -> dict:
    return next(layer for layer in document["layers"] if layer["kind"] == kind)


def exported(api: Api, ask: dict) -> np.ndarray:
    answer = api.post("/export", ask)
    assert answer.status_code == 200
    return cv2.imdecode(np.frombuffer(body(answer), np.uint8), cv2.IMREAD_UNCHANGED)


def test_a_kept_finish_brings_floor_lens_and_camera_to_a_new_title(api: Api, scene: dict) -> None:
    word = layer_of(scene, "lettering")
    word["placement"]["turn_y"] = -18
    scene["camera"]["swing"] = 7
    ask = {"document": scene, "layer": word["id"], "label": "Low water"}
    assert api.post("/finishes", ask).json()["name"] == "low-water"
    made = api.post("/titles", {"text": "EBB", "finish": "low-water", "width": 640, "height": 360})
    document = api.get(f"/titles/{made.json()['id']}").json()["document"]
    assert [layer["kind"] for layer in document["layers"]] == [
        "backdrop", "floor", "lettering", "wash",
    ]  # fmt: skip
    assert document["camera"]["swing"] == 7
    assert layer_of(document, "lettering")["placement"]["turn_y"] == -18
    assert document["camera"]["distance"] > 1.3 * scene["camera"]["distance"]


def test_without_its_grounds_a_scene_has_clean_alpha(api: Api, scene: dict) -> None:
    whole = exported(api, {"document": scene})
    bare = exported(api, {"document": scene, "backdrop": False})
    assert (whole[..., 3] == 255).all()
    assert bare[2, 2, 3] < 12, "no more than what the wide glow leaves there"
    assert bare[90, 80:240, 3].max() == 255
    assert 0.05 < (bare[..., 3] > 128).mean() < 0.6


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (lambda d: layer_of(d, "lettering").update(handle="gone"), "there is no handle 'gone'"),
        (lambda d: layer_of(d, "floor").update(far=-5), "far"),
        (lambda d: layer_of(d, "floor").update(placement={}), "placement"),
        (lambda d: d["camera"].update(distance=0), "camera.distance"),
        (lambda d: d.update(handles=[{"name": "nameless"}]), "handles[0].id"),
    ],
)
def test_a_scene_that_does_not_hold_together_is_refused_with_its_place(
    api: Api, scene: dict, change, said: str
) -> None:
    broken = copy.deepcopy(scene)
    change(broken)
    answer = api.post("/export", {"document": broken})
    assert answer.status_code == 422
    assert said in answer.json()["message"]


def test_every_tap_of_a_floor_is_a_picture(api: Api, scene: dict) -> None:
    floor = layer_of(scene, "floor")["id"]
    for tap in ("picture", "matte", "height", "normals", "light", "face"):
        ask = ASK | {"document": scene, "layer": floor, "tap": tap, "scale": 0.5}
        answer = api.post("/preview", ask)
        assert answer.status_code == 200, tap


def test_readings_speak_of_tilt_and_mirror(api: Api, scene: dict) -> None:
    word = layer_of(scene, "lettering")
    word["placement"]["turn_y"] = 70
    layer_of(scene, "floor")["source"]["colour"] = "#ffffff"
    said = api.post("/readings", ASK | {"document": scene, "layer": word["id"]}).json()["said"]
    assert any(each["gauge"] == "tilt" and each["warns"] for each in said)
