"""OpenEXR files: linear light, premultiplied, half or float; several layers in one."""

import tempfile
from collections.abc import Mapping
from pathlib import Path
from typing import Any

import numpy as np
import OpenEXR
from numpy.typing import NDArray

from mabrel.colour.spaces import light_of
from mabrel.render import Picture

_BT709 = (0.64, 0.33, 0.30, 0.60, 0.15, 0.06, 0.3127, 0.3290)
_TYPES = {"half": np.float16, "float": np.float32}
_MOST = {np.float16: 65504.0, np.float32: 3.4e38}

Plane = NDArray[np.float32] | NDArray[np.uint32]


def exr_bytes(picture: Picture, depth: str = "half") -> bytes:
    """The picture as an OpenEXR file with the chromaticities of BT.709.

    `depth` is ``half`` or ``float``. Raises ValueError for another.
    """
    light = light_of(picture.pixels)
    return channels_bytes({name: light[..., i] for i, name in enumerate("RGBA")}, depth)


def channels_bytes(channels: Mapping[str, Plane], depth: str = "half") -> bytes:
    """One OpenEXR file of these channels ((H, W) each), by their names: ``R``, ``shadow.R``, ``Z``.

    Whole numbers (uint32) stay so; ``Z`` is always float. Raises ValueError for another depth.
    """
    if depth not in _TYPES:
        raise ValueError(f"an OpenEXR has half or float, not {depth}")
    header: dict[str, Any] = {
        "compression": OpenEXR.ZIP_COMPRESSION,
        "type": OpenEXR.scanlineimage,
        "chromaticities": _BT709,
    }
    made = {name: _typed(name, plane, depth) for name, plane in channels.items()}
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "picture.exr"
        OpenEXR.File(header, made).write(str(path))
        return path.read_bytes()


def _typed(name: str, plane: Plane, depth: str) -> NDArray[Any]:
    if plane.dtype == np.uint32:
        return np.ascontiguousarray(plane)
    kind = np.float32 if name.rpartition(".")[2] == "Z" else _TYPES[depth]
    most = _MOST[kind]
    return np.ascontiguousarray(np.clip(plane, -most, most).astype(kind))
