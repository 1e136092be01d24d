"""Passes and layers, laid together by other means than those that took them apart."""

import io
import json
import zipfile
from pathlib import Path
from xml.etree import ElementTree

import cv2
import numpy as np
import OpenEXR
import pytest

from mabrel import Renderer, parse_title, read_title
from mabrel.colour import covering
from mabrel.colour.spaces import light_of
from mabrel.export.openraster import openraster_bytes
from mabrel.export.order import Order, as_ordered
from mabrel.export.passes import DATA, LIGHT, group_of, pass_pictures, passes_bytes, passes_of
from mabrel.render.data import NOTHING
from mabrel.title import Step, Title
from tests.engine.trial_titles import ALL, step, titled

TITLES = Path(__file__).parents[2] / "demo" / "titles"
SCALE = 0.2


def demo(name: str) -> Title:
    return read_title(TITLES / f"{name}.title.json")


def channels(content: bytes, folder: Path) -> dict[str, np.ndarray]:
    """Every channel of an OpenEXR file by its own name."""
    path = folder / "read.exr"
    path.write_bytes(content)
    found = OpenEXR.File(str(path), separate_channels=True).channels()
    return {name: channel.pixels for name, channel in found.items()}


@pytest.mark.parametrize("name", ["foghorn", "tide-table", "gull", "salt", "lantern"])
@pytest.mark.parametrize("bare", [False, True])
def test_light_passes_add_up_to_the_picture(name: str, bare: bool, tmp_path: Path) -> None:
    title = as_ordered(demo(name), Order(backdrop=False)) if bare else demo(name)
    renderer = Renderer()
    picture = light_of(renderer.render(title, time=2.5, scale=SCALE).pixels)
    found = channels(
        passes_bytes(passes_of(renderer, title, time=2.5, scale=SCALE), "float"), tmp_path
    )
    for place, channel in enumerate("RGBA"):
        total = sum(found[f"{each}.{channel}"] for each in LIGHT if f"{each}.{channel}" in found)
        assert np.abs(total - picture[..., place]).max() < 1e-3
        assert np.abs(found[channel] - picture[..., place]).max() < 1e-3
    assert ("ground.R" in found) != bare


def test_each_pass_holds_what_its_steps_add() -> None:
    passes = passes_of(Renderer(), titled(ALL))
    there = {name for name, pixels in passes.light.items() if np.abs(pixels).max() > 0.01}
    assert there == {"face", "diffuse", "highlight", "sides", "shadow", "glow"}
    solid = passes.data["matte"] > 0.99
    assert np.abs(passes.light["shadow"][solid]).max() < 1e-3  # it lies behind
    assert passes.light["face"][solid][:, 3].min() > 0.99


@pytest.mark.parametrize(
    ("kind", "group"),
    [("surface.flat", "face"), ("tone.levels", "face"), ("light.shade", "diffuse"),
     ("light.gleam", "highlight"), ("depth.extrude", "sides"), ("ground.contact", "shadow"),
     ("ground.reflection", "reflection"), ("lens.glow", "glow")],
)  # fmt: skip
def test_every_step_belongs_to_a_pass(kind: str, group: str) -> None:
    assert group_of(Step(step=kind)) == group


def test_data_tell_where_the_letters_stand() -> None:
    build = [step("relief.bevel", width=6, height=10)]
    title = titled(build, word="IO", size=90, lettering={"placement": {"z": 500}})
    data = Renderer().data(title)
    covered = data.matte > 0.5
    middle = data.depth[covered].max()
    assert middle == pytest.approx(title.camera.distance - 500, abs=1)
    assert data.depth[covered].min() < middle  # its relief comes nearer
    assert (data.depth[~covered] == NOTHING).all()
    columns = np.flatnonzero(covered.any(axis=0))
    assert set(np.unique(data.letter)) == {0, 1, 2}
    assert data.letter[:, columns[0]].max() == 1
    assert data.letter[:, columns[-1]].max() == 2
    lengths = np.linalg.norm(data.normals[data.matte > 0.999], axis=-1)
    assert lengths == pytest.approx(np.ones(len(lengths)), abs=1e-3)


def test_a_card_that_is_turned_lies_nearer_on_one_side() -> None:
    title = titled(word="HHHH", lettering={"placement": {"turn_y": 50}})
    data = Renderer().data(title)
    covered = np.where(data.matte > 0.5, data.depth, np.nan)
    across = np.nanmean(covered, axis=0)
    across = across[~np.isnan(across)]
    assert abs(across[0] - across[-1]) > 50
    assert set(np.unique(data.letter)) == {0, 1, 2, 3, 4}


def test_letters_keep_their_numbers_where_they_have_moved() -> None:
    in_turn = {"by": "letter", "y": 40, "delay": 0}
    still, moved = titled(word="AB"), titled(word="AB", lettering={"source": {
        "text": "AB", "size": 60, "in_turn": in_turn}})  # fmt: skip
    before, after = Renderer().data(still).letter, Renderer().data(moved).letter
    for number in (1, 2):
        rows = [np.flatnonzero((each == number).any(axis=1)).mean() for each in (before, after)]
        assert rows[1] - rows[0] == pytest.approx(40, abs=2)


def test_passes_can_be_files_of_their_own(tmp_path: Path) -> None:
    passes = passes_of(Renderer(), titled(ALL))
    files = {name: channels(write("half"), tmp_path) for name, write in pass_pictures(passes)}
    assert set(files) == {*passes.light, *DATA}
    assert set(files["shadow"]) == set("RGBA")
    assert set(files["normals"]) == set("XYZ")
    assert set(files["depth"]) == {"Z"}
    assert files["letter"]["Y"].dtype == np.uint32


# OpenRaster, laid together by its specification


def laid_together(content: bytes) -> np.ndarray:
    archive = zipfile.ZipFile(io.BytesIO(content))
    image = ElementTree.fromstring(archive.read("stack.xml"))
    size = (int(image.get("h", 0)), int(image.get("w", 0)), 4)

    def layer(node: ElementTree.Element) -> np.ndarray:
        content = np.frombuffer(archive.read(node.get("src", "")), np.uint8)
        pixels = cv2.imdecode(content, cv2.IMREAD_UNCHANGED)[..., [2, 1, 0, 3]] / 65535
        pixels[..., :3] *= pixels[..., 3:]
        x, y = int(node.get("x", 0)), int(node.get("y", 0))
        out = np.zeros(size)
        out[y : y + pixels.shape[0], x : x + pixels.shape[1]] = pixels
        return out

    def stack(node: ElementTree.Element) -> np.ndarray:
        out = np.zeros(size)
        for child in reversed(list(node)):  # the first one is in front
            if child.get("visibility") != "hidden":
                source = stack(child) if child.tag == "stack" else layer(child)
                out = composed(out, source, child.get("composite-op", ""))
        return out

    return stack(image.find("stack") or image)


def composed(backdrop: np.ndarray, source: np.ndarray, mode: str) -> np.ndarray:
    """By the W3C's formulas."""
    below, above = backdrop[..., 3:], source[..., 3:]
    if mode == "svg:src-over":
        return source + backdrop * (1 - above)
    if mode == "svg:plus":
        return np.minimum(source + backdrop, 1)
    b, s = (each[..., :3] / np.maximum(each[..., 3:], 1e-9) for each in (backdrop, source))
    mixed = {"svg:multiply": b * s, "svg:screen": b + s - b * s, "svg:darken": np.minimum(b, s)}
    colour = above * (1 - below) * s + above * below * mixed[mode] + (1 - above) * below * b
    return np.dstack([colour, above + below - above * below])


@pytest.mark.parametrize("name", ["foghorn", "tide-table", "buoy", "lantern"])
def test_openraster_is_the_picture(name: str) -> None:
    renderer, title = Renderer(), demo(name)
    picture = renderer.render(title, time=2.5, scale=SCALE).pixels
    content = openraster_bytes(renderer, title, time=2.5, scale=SCALE)
    assert np.abs(laid_together(content) - np.clip(picture, 0, 1)).max() < 1e-3


@pytest.mark.parametrize("mode", ["multiply", "screen", "darken", "linear-burn"])
@pytest.mark.parametrize("opacity", [1.0, 0.6])
def test_blend_modes_are_kept_or_laid_in(mode: str, opacity: float) -> None:
    ground = {"kind": "backdrop", "source": {"colour": "#a08060"}}
    build = [step("surface.flat", colour="#3080f0"), step("ground.drop_shadow")]
    title = titled(build, beneath=[ground], lettering={"blend": mode, "opacity": opacity})
    content = openraster_bytes(Renderer(), title)
    assert np.abs(laid_together(content) - Renderer().render(title).pixels).max() < 1e-3
    stacks = ElementTree.fromstring(zipfile.ZipFile(io.BytesIO(content)).read("stack.xml"))[0]
    assert len(stacks) == (3 if mode == "linear-burn" else 2)  # with what is hidden then


def test_openraster_has_what_others_look_for() -> None:
    title = titled([step("surface.flat"), step("ground.drop_shadow")], word="Rg")
    archive = zipfile.ZipFile(io.BytesIO(openraster_bytes(Renderer(), title)))
    assert archive.namelist()[0] == "mimetype"
    assert archive.infolist()[0].compress_type == zipfile.ZIP_STORED
    assert archive.read("mimetype") == b"image/openraster"
    assert {"stack.xml", "mergedimage.png", "Thumbnails/thumbnail.png"} <= set(archive.namelist())
    names = [each.get("name") for each in ElementTree.fromstring(archive.read("stack.xml")).iter()]
    assert any(name and name.endswith("face") for name in names)
    assert any(name and name.endswith("behind") for name in names)


def test_motion_blur_and_turned_cards_are_kept_whole() -> None:
    document = json.loads(titled(ALL, lettering={"placement": {"turn_y": 40}}).model_dump_json())
    for changes in ({}, {"blur": {"angle": 180}}):
        title = parse_title(document | changes)
        picture = covering(np.clip(Renderer().render(title).pixels, 0, 1))
        content = openraster_bytes(Renderer(), title)
        assert np.abs(laid_together(content) - picture).max() < 1e-3
