"""The formats of clips, each with what it can hold and how it is encoded."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from mabrel.export import planes
from mabrel.render import Picture

_BT709 = {"colorspace": "bt709", "color_primaries": "bt709", "color_trc": "bt709"}
_EXACT = {"flags": "+bitexact"}


@dataclass(frozen=True)
class ClipForm:
    """One format of clips."""

    name: str
    label: str
    suffix: str
    media: str
    container: str
    codec: str
    pixels: str
    frame: Callable[[Picture], Any]
    options: dict[str, str]
    alpha: bool
    lossless: bool
    joins: bool
    """Whether parts of a clip become one without being encoded again."""
    most: int = 8192
    """Pixels on a side."""


CLIPS: dict[str, ClipForm] = {
    each.name: each
    for each in (
        ClipForm(
            "webm", "WebM, VP9 with alpha", ".webm", "video/webm", "webm", "libvpx-vp9",
            "yuva420p", planes.with_alpha_420,
            {
                "crf": "18", "b": "0", "deadline": "good", "cpu-used": "4", "row-mt": "1",
                "auto-alt-ref": "0",  # alternate references and alpha can't be had together
                **_BT709,
            },
            alpha=True, lossless=False, joins=True,
        ),
        ClipForm(
            "ffv1", "Matroska, FFV1", ".mkv", "video/x-matroska", "matroska", "ffv1",
            "gbrap16le", planes.whole_16,
            {"level": "3", "slices": "16", "slicecrc": "1", "g": "1", "coder": "1", "context": "0"},
            alpha=True, lossless=True, joins=True,
        ),
        ClipForm(
            "apng", "APNG", ".apng", "image/apng", "apng", "apng", "rgba", planes.whole_8,
            {"pred": "paeth"}, alpha=True, lossless=True, joins=False,
        ),
        ClipForm(
            "animated-webp", "Animated WebP", ".webp", "image/webp", "webp", "libwebp_anim",
            "bgra", planes.whole_8_reversed,
            {"lossless": "0", "quality": "88", "compression_level": "4"},
            alpha=True, lossless=False, joins=False,
        ),
        ClipForm(
            "webm-vp9", "WebM, VP9", ".webm", "video/webm", "webm", "libvpx-vp9", "yuv420p",
            planes.opaque_420,
            {
                "crf": "18", "b": "0", "deadline": "good", "cpu-used": "4", "row-mt": "1",
                "auto-alt-ref": "0", **_BT709,
            },
            alpha=False, lossless=False, joins=True,
        ),
        ClipForm(
            "webm-av1", "WebM, AV1", ".webm", "video/webm", "webm", "libsvtav1", "yuv420p10le",
            planes.opaque_420_of_10, {"preset": "8", "crf": "22", **_BT709},
            alpha=False, lossless=False, joins=True,
        ),
    )
}  # fmt: skip
