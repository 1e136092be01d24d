"""Titles broken apart: vector shapes that lie where the picture has its faces and sides."""

import re
import xml.etree.ElementTree as ElementTree

import cv2
import numpy as np
import OpenEXR
import pytest
import resvg_py
import shapely

from mabrel import Renderer, new_title, parse_title
from mabrel.cli import main
from mabrel.export.parts import index_of, parts_sheet
from mabrel.export.parts_pdf import pdf_bytes
from mabrel.export.parts_svg import svg_text
from mabrel.field.fill import fill
from mabrel.field.fitting import fitted
from mabrel.title import write_title

FACE, SIDES = "#ff0000", "#00ff00"
FONTS = ["Titan One", "Archivo Black", "Alfa Slab One", "Lobster", "Press Start 2P"]
TILTS = [{}, {"turn_y": 24, "turn_x": -10}]


def document(
    font: str = "Titan One", bevelled: bool = False, word: str = "FOG", **placement
) -> dict:
    build = [{"step": "surface.flat", "settings": {"colour": FACE}}]
    if bevelled:
        build.append({"step": "relief.bevel", "settings": {"width": 9, "height": 6}})
    sides = {"towards": "direction", "angle": 62, "length": 46, "lit": 0, "fade": 0}
    build.append(
        {"step": "depth.extrude", "settings": sides | {"colour": SIDES, "back_colour": SIDES}}
    )
    source = {"text": word, "font": font, "size": 190}
    layer = {"kind": "lettering", "id": "word", "source": source, "build": build}
    layer["placement"] = placement
    return {"mabrel": 1, "frame": {"width": 900, "height": 420}, "layers": [layer]}


def drawn(svg: str, zoom: int = 1) -> np.ndarray:
    """(H, W, 4), premultiplied, as resvg draws it; its edges have few levels, so it is drawn four
    times as large."""
    png = bytes(resvg_py.svg_to_bytes(svg_string=svg, width=900 * zoom * 4))
    pixels = (
        cv2.imdecode(np.frombuffer(png, np.uint8), cv2.IMREAD_UNCHANGED).astype(np.float32) / 255
    )
    pixels = cv2.cvtColor(pixels, cv2.COLOR_BGRA2RGBA)
    pixels[..., :3] *= pixels[..., 3:]
    return cv2.resize(pixels, (900 * zoom, 420 * zoom), interpolation=cv2.INTER_AREA)


def agreement(a: np.ndarray, b: np.ndarray) -> float:
    """Intersection over union of what two coverages cover."""
    a, b = a > 0.5, b > 0.5
    return float((a & b).sum() / (a | b).sum())


@pytest.mark.parametrize("font", FONTS)
@pytest.mark.parametrize("tilt", TILTS, ids=["level", "tilted"])
@pytest.mark.parametrize("bevelled", [False, True], ids=["flat", "bevelled"])
def test_parts_cover_what_the_picture_shows(font: str, tilt: dict, bevelled: bool) -> None:
    title = parse_title(document(font, bevelled, "FO", **tilt))
    renderer = Renderer()
    picture = np.clip(renderer.render(title, scale=2).pixels, 0, 1)  # twice as large as seen
    sheet = parts_sheet(title, renderer)
    kinds = {part.shard.kind for part in sheet.parts}
    assert kinds == {"back", "side", "front"} | ({"facet"} if bevelled else set())
    seen = drawn(svg_text(sheet), 2)
    assert agreement(seen[..., 0], picture[..., 0]) > 0.995  # faces and facets
    assert agreement(seen[..., 1], picture[..., 1]) > 0.995
    assert agreement(seen[..., 3], picture[..., 3]) > 0.995


@pytest.mark.parametrize("zoom", [1, 2, 4, 16])
def test_no_crack_is_seen_at_any_zoom(zoom: int) -> None:
    """Inside of all of it together nothing of what lies beneath shows: at 16 in a part of it."""
    sheet = parts_sheet(parse_title(document("Titan One", True)), Renderer())
    whole = shapely.union_all([part.shard.area for part in sheet.parts]).buffer(-0.75 / zoom)
    left, top = (200, 100) if zoom == 16 else (0, 0)
    size = (200, 150) if zoom == 16 else (900, 420)
    box = f'viewBox="{left} {top} {size[0]} {size[1]}"'
    svg = re.sub(r'width="900" height="420" viewBox="[^"]*"', box, svg_text(sheet))
    png = bytes(resvg_py.svg_to_bytes(svg_string=svg, width=size[0] * zoom))
    alpha = cv2.imdecode(np.frombuffer(png, np.uint8), cv2.IMREAD_UNCHANGED)[..., 3] / 255
    larger = shapely.transform(whole, lambda places: (places - [left, top]) * zoom)
    lines = [
        np.hstack([ring, np.roll(ring, -1, axis=0)])
        for part in shapely.get_parts(shapely.orient_polygons(larger))
        for ring in (
            shapely.get_coordinates(each)[:-1] for each in (part.exterior, *part.interiors)
        )
    ]
    inside = fill(np.concatenate(lines), (0, 0, size[0] * zoom, size[1] * zoom)) > 0.999
    assert inside.any()
    assert alpha[inside].min() > 0.97


def test_parts_have_names_of_their_letters_and_one_path_each() -> None:
    sheet = parts_sheet(parse_title(document(word="FOO", bevelled=True)), Renderer())
    svg = svg_text(sheet)
    root = ElementTree.fromstring(svg)
    paths = root.findall(".//{http://www.w3.org/2000/svg}path")
    assert len(paths) == len(sheet.parts)
    names = [path.get("id") for path in paths]
    assert len(set(names)) == len(names)
    assert {"word-F1-front-1", "word-O1-front-1", "word-O2-front-1"} <= set(names)
    assert any(name.startswith("word-O2-side") for name in names)
    assert any(name.startswith("word-F1-facet") for name in names)


def test_a_word_takes_few_points() -> None:
    sheet = parts_sheet(new_title("FOGHORN"), Renderer())
    assert sum(len(curves) for part in sheet.parts for curves in part.outlines) < 2000


def test_each_part_has_a_number_in_the_index() -> None:
    title = parse_title(document())
    shards = Renderer().parts(title)
    index = index_of(shards, 900, 420)
    fronts = [n for n, shard in enumerate(shards, 1) if shard.kind == "front"]
    picture = Renderer().render(title).pixels
    assert agreement(np.isin(index, fronts).astype(float), picture[..., 0]) > 0.99


def test_outline_and_shadow_are_parts_too() -> None:
    doc = document()
    doc["lights"] = [{"azimuth": 225, "elevation": 45}]
    doc["layers"][0]["build"] += [
        {"step": "depth.outline", "settings": {"width": 8, "colour": "#0000ff"}},
        {"step": "ground.drop_shadow", "settings": {"offset": 30, "blur": 0, "opacity": 0.8}},
    ]
    title = parse_title(doc)
    sheet = parts_sheet(title, Renderer())
    kinds = {part.shard.kind: part for part in sheet.parts}
    assert kinds["outline"].paint.colours[0] == pytest.approx((0, 0, 1, 1), abs=0.02)
    assert kinds["shadow"].paint.colours[0][3] == pytest.approx(0.8, abs=0.03)
    picture = np.clip(Renderer().render(title).pixels, 0, 1)
    assert agreement(drawn(svg_text(sheet))[..., 3], picture[..., 3]) > 0.98


def test_a_flat_word_is_its_letters_and_no_word_is_nothing() -> None:
    flat = document()
    flat["layers"][0]["build"] = []
    sheet = parts_sheet(parse_title(flat), Renderer())
    assert [part.shard.name for part in sheet.parts] == ["F1-front-1", "O1-front-1", "G1-front-1"]
    assert parts_sheet(parse_title(document(word=" ")), Renderer()).parts == ()


def test_sides_that_taper_are_traced_and_letters_that_move_keep_their_names() -> None:
    tapered = document()
    tapered["layers"][0]["build"][1]["settings"]["taper"] = 14
    title = parse_title(tapered)
    sheet = parts_sheet(title, Renderer())
    assert sum(part.shard.kind == "side" for part in sheet.parts) < 12
    picture = np.clip(Renderer().render(title).pixels, 0, 1)
    assert agreement(drawn(svg_text(sheet))[..., 3], picture[..., 3]) > 0.98
    moved = document()
    moved["layers"][0]["source"] |= {"letter_spacing": 40, "in_turn": {"turn": 20, "by": "letter"}}
    names = {part.shard.name for part in parts_sheet(parse_title(moved), Renderer()).parts}
    assert {"F1-front-1", "O1-front-1", "G1-front-1"} <= names


@pytest.mark.parametrize("turn", [120, 180])
def test_what_is_seen_from_behind_can_not_be_broken_apart(turn: float) -> None:
    with pytest.raises(Exception, match="seen from behind"):
        Renderer().parts(parse_title(document(turn_y=turn)))


def test_curves_stay_near_their_places_and_corners_stay_corners() -> None:
    angles = np.linspace(0, 2 * np.pi, 400, endpoint=False)
    circle = 100 * np.stack([np.cos(angles), np.sin(angles)], axis=1)
    curves = fitted(circle, 0.1)
    assert len(curves) <= 12
    t = np.linspace(0, 1, 50)[:, None]
    for start, out, back, end in curves:
        on = (1 - t) ** 3 * start + 3 * (1 - t) ** 2 * t * out
        on = on + 3 * (1 - t) * t**2 * back + t**3 * end
        assert np.abs(np.hypot(*on.T) - 100).max() < 0.15
    square = np.array([[0.0, 0], [50, 0], [50, 50], [0, 50]])
    assert len(fitted(square, 0.1)) == 4
    assert fitted(square[:2], 0.1) == []


@pytest.mark.parametrize("ending", [".svg", ".pdf"])
def test_the_command_writes_parts(tmp_path, ending: str) -> None:
    write_title(parse_title(document()), tmp_path / "fog.title.json")
    out = tmp_path / f"parts{ending}"
    main(["export", str(tmp_path / "fog.title.json"), "-o", str(out)])
    assert out.read_bytes().startswith(b"<?xml" if ending == ".svg" else b"%PDF")


def test_the_command_writes_the_number_of_each_part(tmp_path) -> None:
    title = parse_title(document())
    write_title(title, tmp_path / "fog.title.json")
    out = tmp_path / "parts.exr"
    command = ["export", str(tmp_path / "fog.title.json"), "-o", str(out), "--form", "exr-index"]
    main([*command, "--scale", "2"])
    numbers = OpenEXR.File(str(out), separate_channels=True).channels()["part.Y"].pixels
    assert numbers.dtype == np.uint32
    assert numbers.shape == (840, 1800)
    parts = parts_sheet(title, Renderer()).parts
    fronts = [n for n, part in enumerate(parts, 1) if part.shard.kind == "front"]
    picture = Renderer().render(title, scale=2).pixels
    assert agreement(np.isin(numbers, fronts).astype(float), picture[..., 0]) > 0.99


@pytest.mark.parametrize(
    ("name", "more", "said"),
    [
        ("a.svg", ["--scale", "2"], "frame pixels"),
        ("a.png", ["--hidden", "whole"], "must be parts"),
        ("a.exr", ["--form", "exr-index", "--hidden", "whole"], "parts that are drawn"),
        ("a.svg", ["--frames", "0-3"], "one picture"),
        ("a.pdf", ["--ground", "#ff0000"], "alpha"),
        ("a.pdf", ["--form", "svg"], "another ending"),
        ("a.svg", ["--passes"], "passes"),
        ("a.svg", ["--no-backdrop"], "no grounds"),
    ],
)
def test_what_parts_can_not_be_is_said(
    tmp_path, capsys, name: str, more: list[str], said: str
) -> None:
    write_title(parse_title(document()), tmp_path / "fog.title.json")
    command = ["export", str(tmp_path / "fog.title.json"), "-o", str(tmp_path / name)]
    assert main([*command, *more]) == 2
    assert said in capsys.readouterr().err
    assert not (tmp_path / name).exists()


def test_hidden_parts_can_stay_whole_and_nothing_changes_to_the_eye() -> None:
    title = parse_title(document(bevelled=True))
    renderer = Renderer()
    cut, whole = (parts_sheet(title, renderer, whole=each) for each in (False, True))

    def area(sheet) -> float:
        return sum(part.shard.area.area for part in sheet.parts if part.shard.kind == "side")

    assert area(whole) > 1.1 * area(cut)
    assert np.abs(drawn(svg_text(whole)) - drawn(svg_text(cut))).mean() < 0.004
    root = ElementTree.fromstring(svg_text(whole))
    names = [each.get("id") for each in root.iter() if each.get("id")]
    assert len(names) == len(set(names))


def test_a_pdf_has_one_page_as_large_as_the_frame() -> None:
    content = pdf_bytes(parts_sheet(parse_title(document()), Renderer()))
    assert b"/MediaBox [0 0 900 420]" in content
