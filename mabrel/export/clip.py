"""Clips: VP9 in WebM, with alpha."""

import contextlib
import os
import tempfile
from collections.abc import Callable, Iterable
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.export.frames import ClipError
from mabrel.source.images import spread_colour

Rgba = NDArray[np.uint8]
LARGEST_SIDE = 8192
_QUALITY = "18"  # of VP9's 0 (best) to 63
_BT709 = {"colorspace": "bt709", "color_primaries": "bt709", "color_trc": "bt709"}


def write_clip(
    path: Path,
    pictures: Iterable[Rgba],
    rate: Fraction,
    told: Callable[[int], None] = lambda frames: None,
) -> None:
    """Write pictures of one size ((H, W, 4), straight RGBA) as a clip; `told` hears how many are
    in it.

    8 bits, 4:2:0, BT.709; the alpha beside it. Where nothing covers, the colour of what is nearest
    goes on, so that half the chroma leaves no fringe. The file is there whole or not at all.
    Raises ClipError for a size that VP9 can't have, OSError.
    """
    beside = _beside(path)
    try:
        with av.open(str(beside), "w", format="webm") as file:
            _encode(file, pictures, rate, told)
        mask = os.umask(0)
        os.umask(mask)
        beside.chmod(0o666 & ~mask)
        beside.replace(path)
    except BaseException:
        with contextlib.suppress(FileNotFoundError):
            beside.unlink()
        raise


def _beside(path: Path) -> Path:
    descriptor, name = tempfile.mkstemp(dir=path.parent, prefix=f".{path.stem}.", suffix=".webm")
    os.close(descriptor)
    return Path(name)


def _encode(
    file: Any, pictures: Iterable[Rgba], rate: Fraction, told: Callable[[int], None]
) -> None:
    stream = None
    for number, picture in enumerate(pictures):
        height, width = picture.shape[:2]
        if stream is None:
            if max(height, width) > LARGEST_SIDE:
                raise ClipError(f"a clip is at most {LARGEST_SIDE} pixels on a side")
            stream = _stream(file, width, height, rate)
        frame = _frame(picture)
        frame.pts, frame.time_base = number, 1 / rate
        file.mux(stream.encode(frame))
        told(number + 1)
    if stream is None:
        raise ClipError("a clip has at least one frame")
    file.mux(stream.encode(None))


def _stream(file: Any, width: int, height: int, rate: Fraction) -> Any:
    stream = file.add_stream("libvpx-vp9", rate=rate)
    stream.width, stream.height = width, height
    stream.pix_fmt = "yuva420p"
    stream.time_base = 1 / rate
    stream.options = {
        "crf": _QUALITY, "b": "0", "deadline": "good", "cpu-used": "4", "row-mt": "1",
        "auto-alt-ref": "0",  # alternate references and alpha can't be had together
        **_BT709,
    }  # fmt: skip
    return stream


def _frame(straight: Rgba) -> Any:
    """A picture as Y, U, V and alpha (BT.709, limited range, 4:2:0)."""
    shares = straight.astype(np.float32) / np.float32(255)
    shares[..., :3] *= shares[..., 3:]
    spread = np.clip(spread_colour(shares)[..., :3], 0, 1)
    covered = straight[..., 3:] > 0
    rgb = np.where(covered, straight[..., :3] / np.float32(255), spread).astype(np.float32)
    y = rgb @ np.array([0.2126, 0.7152, 0.0722], np.float32)
    half = ((y.shape[1] + 1) // 2, (y.shape[0] + 1) // 2)
    u = cv2.resize((rgb[..., 2] - y) / np.float32(1.8556), half, interpolation=cv2.INTER_AREA)
    v = cv2.resize((rgb[..., 0] - y) / np.float32(1.5748), half, interpolation=cv2.INTER_AREA)
    frame = av.VideoFrame(straight.shape[1], straight.shape[0], "yuva420p")
    planes = (y * 219 + 16, u * 224 + 128, v * 224 + 128, straight[..., 3])
    for plane, values in zip(frame.planes, planes, strict=True):
        _fill(plane, np.rint(values).astype(np.uint8))
    return frame


def _fill(plane: Any, values: np.ndarray) -> None:
    """Rows of a plane may be padded."""
    rows = np.frombuffer(plane, np.uint8).reshape(-1, plane.line_size)
    rows[: values.shape[0], : values.shape[1]] = values
