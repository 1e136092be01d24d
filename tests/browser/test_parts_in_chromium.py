"""A title broken apart, as a browser draws it: where the picture has its parts, without cracks."""

import base64

import cv2
import numpy as np
import pytest
import shapely
from playwright.sync_api import Page

from mabrel import Renderer, parse_title
from mabrel.export.parts import Sheet, parts_sheet
from mabrel.export.parts_svg import svg_text
from mabrel.steps.parts.areas import coverage
from tests.engine.test_parts import FONTS, TILTS, agreement, document

FRAME = (900, 420)
_SHOWN = (
    "<style>html,body{margin:0;background:none}img{position:absolute;left:%dpx;top:%dpx}</style>"
    '<img width="%d" height="%d" src="data:image/svg+xml;base64,%s">'
)


def drawn(page: Page, sheet: Sheet, zoom: int, corner: tuple[int, int], size: tuple[int, int]):
    """(H, W, 4), premultiplied: a part of the drawing, as large as is asked."""
    page.set_viewport_size({"width": size[0], "height": size[1]})
    packed = base64.b64encode(svg_text(sheet).encode()).decode()
    left, top = corner
    wide = (FRAME[0] * zoom, FRAME[1] * zoom)
    page.set_content(_SHOWN % (-left * zoom, -top * zoom, *wide, packed))
    page.wait_for_function("() => document.images[0].complete")
    png = page.screenshot(omit_background=True)
    pixels = cv2.imdecode(np.frombuffer(png, np.uint8), cv2.IMREAD_UNCHANGED)
    found = cv2.cvtColor(pixels, cv2.COLOR_BGRA2RGBA).astype(np.float32) / 255
    found[..., :3] *= found[..., 3:]
    return found


@pytest.mark.parametrize("font", FONTS)
@pytest.mark.parametrize("tilt", TILTS, ids=["level", "tilted"])
@pytest.mark.parametrize("bevelled", [False, True], ids=["flat", "bevelled"])
def test_a_browser_shows_the_parts_where_the_picture_has_them(
    page: Page, font: str, tilt: dict, bevelled: bool
) -> None:
    title, renderer = parse_title(document(font, bevelled, "FO", **tilt)), Renderer()
    picture = np.clip(renderer.render(title, scale=2).pixels, 0, 1)
    # Its edges have few levels, so it draws them twice as large.
    fine = drawn(page, parts_sheet(title, renderer), 4, (0, 0), (3600, 1680))
    seen = cv2.resize(fine, (1800, 840), interpolation=cv2.INTER_AREA)
    for channel in (0, 1, 3):  # faces and facets, sides, all of it
        assert agreement(seen[..., channel], picture[..., channel]) > 0.995, channel


@pytest.mark.parametrize("zoom", [1, 2, 3, 4, 6, 8, 12, 16])
@pytest.mark.parametrize("tilt", TILTS, ids=["level", "tilted"])
def test_a_browser_shows_no_crack_at_any_zoom(page: Page, tilt: dict, zoom: int) -> None:
    sheet = parts_sheet(parse_title(document("Titan One", True, **tilt)), Renderer())
    size = (min(FRAME[0] * zoom, 1600), min(FRAME[1] * zoom, 900))
    corner = (0, 0) if zoom == 1 else (330, 130)
    alpha = drawn(page, sheet, zoom, corner, size)[..., 3]
    whole = shapely.union_all([part.shard.area for part in sheet.parts]).buffer(-0.75 / zoom)
    larger = shapely.transform(whole, lambda places: (places - corner) * zoom)
    inside = coverage(larger, (0, 0, *size)) > 0.999
    assert inside.sum() > 0.1 * inside.size
    assert alpha[inside].min() > 0.97
