"""The engine's calculations against Chromium's own: blend modes, tables, maps, blur, light.

Chromium draws an SVG with a filter, or layers with a blend mode, from the same 8-bit pixels.
Both ends are rounded to 8 bits, so nothing can agree better than to 1/255; each test says what
more it allows, and why.
"""

import base64

import cv2
import numpy as np
import pytest
from playwright.sync_api import Page

from mabrel.colour import apply_table, blend, blending
from mabrel.field import gaussian_blur, normals
from mabrel.light import Light, Material, Shading, shade_normals
from mabrel.steps import Piece, Region
from mabrel.steps.outlines.warping import looked_up

SIZE = 128
ONE = 1 / 255


def smooth_picture(seed: int) -> np.ndarray:
    """Opaque, smooth and colourful: straight RGBA, 8 bits."""
    noise = np.random.default_rng(seed).uniform(0, 255, (9, 9, 3)).astype(np.float32)
    picture = cv2.resize(noise, (SIZE, SIZE), interpolation=cv2.INTER_CUBIC)
    out = np.full((SIZE, SIZE, 4), 255, np.uint8)
    out[..., :3] = np.clip(picture, 0, 255)
    return out


def grey(values: np.ndarray) -> np.ndarray:
    out = np.full((*values.shape, 4), 255, np.uint8)
    out[..., :3] = np.round(np.clip(values, 0, 1) * 255)[..., None]
    return out


def floats(picture: np.ndarray) -> np.ndarray:
    """Premultiplied, as the engine has it."""
    out = picture.astype(np.float32) / 255
    out[..., :3] *= out[..., 3:]
    return out


def address(picture: np.ndarray) -> str:
    png = cv2.imencode(".png", cv2.cvtColor(picture, cv2.COLOR_RGBA2BGRA))[1]
    return "data:image/png;base64," + base64.b64encode(png).decode()


def drawn(page: Page, body: str) -> np.ndarray:
    """What Chromium shows of a page of SIZE × SIZE pixels: RGB, 0..1."""
    page.set_viewport_size({"width": SIZE, "height": SIZE})
    style = "<style>*{margin:0}body{background:#000;overflow:hidden}img,svg{display:block}</style>"
    page.set_content(style + body)
    page.wait_for_function("[...document.images].every(i => i.complete)")
    shot = np.frombuffer(page.screenshot(), np.uint8)
    return cv2.imdecode(shot, cv2.IMREAD_COLOR)[..., ::-1].astype(np.float32) / 255


def filtered(page: Page, picture: np.ndarray, primitives: str) -> np.ndarray:
    return drawn(
        page,
        f'<svg width="{SIZE}" height="{SIZE}"><filter id="f" x="0" y="0" width="1" height="1" '
        f'color-interpolation-filters="sRGB">{primitives}</filter>'
        f'<image href="{address(picture)}" width="{SIZE}" height="{SIZE}" filter="url(#f)"/></svg>',
    )


MODES = blending.MODES[:17]  # those of the W3C; the others are unknown to browsers


@pytest.mark.parametrize("mode", MODES)
def test_blend_modes(page: Page, mode: str) -> None:
    """Over all alphas. Chromium keeps 8-bit premultiplied layers: where little is covered, one
    step there is several steps of straight colour, which dodge and burn multiply once more, and
    which turn the hue of a grey: two pixels in a thousand may be further off."""
    below, above = smooth_picture(1), smooth_picture(2)
    above[..., 3] = np.linspace(0, 255, SIZE)[None, :]
    layers = (
        f'<div style="isolation:isolate;position:relative"><img src="{address(below)}">'
        f'<img src="{address(above)}" style="position:absolute;top:0;mix-blend-mode:{mode}"></div>'
    )
    seen = drawn(page, layers)
    ours = np.clip(blend(mode, floats(below), floats(above))[..., :3], 0, 1)
    assert np.abs(ours - seen).mean() < 0.8 * ONE
    assert np.percentile(np.abs(ours - seen), 99.8) < 5 * ONE


def test_component_transfer_by_a_table(page: Page) -> None:
    """Both are linear between entries: no more than rounding."""
    picture = smooth_picture(3)
    table = [0.1, 0.9, 0.2, 0.4, 1.0]
    values = " ".join(map(str, table))
    functions = "".join(f'<feFunc{c} type="table" tableValues="{values}"/>' for c in "RGB")
    seen = filtered(page, picture, f"<feComponentTransfer>{functions}</feComponentTransfer>")
    ours = apply_table(floats(picture)[..., :3], np.array(table, np.float32))
    assert np.abs(ours - seen).max() < 1.5 * ONE


@pytest.mark.parametrize("sigma", [1.5, 4.0, 12.0])
def test_gaussian_blur(page: Page, sigma: float) -> None:
    """Chromium may use three box blurs, which the specification allows and which are some 3 %
    off the Gaussian; at the border it takes what is outside as transparent, so the middle is
    compared."""
    picture = smooth_picture(4)
    picture[40:70, 30:90, :3] = 255
    picture[60:100, 50:60, :3] = 0
    seen = filtered(page, picture, f'<feGaussianBlur stdDeviation="{sigma}"/>')
    ours = gaussian_blur(floats(picture), sigma)[..., :3]
    edge = int(3 * sigma) + 1
    middle = (slice(edge, -edge), slice(edge, -edge))
    assert np.abs(ours - seen)[middle].mean() < 1.5 * ONE
    assert np.abs(ours - seen)[middle].max() < 12 * ONE


def test_displacement_map(page: Page) -> None:
    """Chromium takes the nearest pixel, the engine interpolates: half a pixel of a smooth
    picture, some 2/255 here; and the map has 256 steps."""
    picture = smooth_picture(5)
    x = np.linspace(0, 4 * np.pi, SIZE)
    push = 0.5 + 0.5 * np.sin(x)[None, :] * np.cos(x)[:, None]
    scale = 18
    seen = filtered(
        page,
        picture,
        f'<feImage href="{address(grey(push))}" x="0" y="0" width="{SIZE}" height="{SIZE}" '
        f'result="map"/><feDisplacementMap in="SourceGraphic" in2="map" scale="{scale}" '
        f'xChannelSelector="R" yChannelSelector="G"/>',
    )
    rows, columns = np.mgrid[0:SIZE, 0:SIZE].astype(np.float32)
    step = scale * (np.round(push * 255) / 255 - 0.5).astype(np.float32)
    matte = np.ones((SIZE, SIZE), np.float32)
    piece = Piece(Region(0, 0, SIZE, SIZE), (0, 0, SIZE, SIZE), matte, floats(picture), matte * 0)
    ours = looked_up(piece, (columns + step, rows + step)).face[..., :3]
    middle = (slice(12, -12), slice(12, -12))
    assert np.abs(ours - seen)[middle].mean() < 3 * ONE
    assert np.abs(ours - seen)[middle].max() < 20 * ONE


def bump() -> np.ndarray:
    """A smooth hill: 0..1, in 8-bit steps as Chromium has them."""
    y, x = np.mgrid[0:SIZE, 0:SIZE] - (SIZE - 1) / 2
    hill = 0.95 * np.exp(-(x * x + y * y) / (2 * 24**2))
    return (np.round(hill * 255) / 255).astype(np.float32)


LIGHTS = {
    "distant": (
        '<feDistantLight azimuth="225" elevation="50"/>',
        Light(225, 50),
    ),
    "point": ('<fePointLight x="30" y="40" z="60"/>', Light(place=(30, 40, 60))),
    "spot": (
        '<feSpotLight x="30" y="40" z="70" pointsAtX="70" pointsAtY="70" pointsAtZ="0" '
        'specularExponent="4" limitingConeAngle="50"/>',
        Light(place=(30, 40, 70), aim=(70, 70, 0), cone=50, gathered=4),
    ),
}
SCALE = 22


def hill_as_alpha() -> np.ndarray:
    out = np.zeros((SIZE, SIZE, 4), np.uint8)
    out[..., 3] = np.round(bump() * 255)
    return out


def lit_as_specified(light: Light, material: Material) -> Shading:
    """The specification's normals (Filter Effects 1, feDiffuseLighting) lean twice as far as the
    surface: the weights of its Sobel kernels sum to 8 over a distance of 2, and are divided by 4.
    """
    height = bump() * SCALE
    return shade_normals(normals(2 * height), [light], material, height)


@pytest.mark.parametrize("kind", LIGHTS)
def test_diffuse_lighting(page: Page, kind: str) -> None:
    """The specification takes normals by Sobel's 3 × 3 pixels of 8-bit height, the engine by
    central differences; in steps of 22/255 pixel both are rough, by some 4 % of the light."""
    element, light = LIGHTS[kind]
    seen = filtered(
        page,
        hill_as_alpha(),
        f'<feDiffuseLighting surfaceScale="{SCALE}" diffuseConstant="0.9" '
        f'lighting-color="#ffffff">{element}</feDiffuseLighting>',
    )
    lit = lit_as_specified(light, Material(diffuse=0.9, highlight=0)).diffuse
    _alike(np.clip(lit, 0, 1), seen)


@pytest.mark.parametrize("kind", LIGHTS)
def test_highlights(page: Page, kind: str) -> None:
    """As for diffuse light; the exponent 12 makes what is rough rougher. The page is black, so
    what is seen is the highlight times its own alpha, which is its greatest channel."""
    element, light = LIGHTS[kind]
    seen = filtered(
        page,
        hill_as_alpha(),
        f'<feSpecularLighting surfaceScale="{SCALE}" specularConstant="0.8" specularExponent="12" '
        f'lighting-color="#ffffff">{element}</feSpecularLighting>',
    )
    lit = lit_as_specified(light, Material(0, 0, 0.8, 12)).highlight
    _alike(np.clip(lit, 0, 1), seen, rougher=1.6)


def _alike(ours: np.ndarray, seen: np.ndarray, rougher: float = 1.0) -> None:
    middle = (slice(4, -4), slice(4, -4))
    assert seen[middle].max() > 0.3
    assert np.abs(ours - seen)[middle].mean() < 3 * rougher * ONE
    assert np.percentile(np.abs(ours - seen)[middle], 99) < 14 * rougher * ONE
