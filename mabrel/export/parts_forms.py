"""The formats in which a title broken apart can be had."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import shapely

from mabrel.export.exr import channels_bytes
from mabrel.export.parts import Sheet, index_of
from mabrel.export.parts_pdf import pdf_bytes
from mabrel.export.parts_svg import svg_text


@dataclass(frozen=True)
class PartsForm:
    """One format of parts."""

    name: str
    label: str
    suffix: str
    media: str
    write: Callable[[Sheet, float], bytes]
    """From a sheet, and how many pixels a frame pixel becomes where it has any."""
    scales: bool
    """Whether it has pixels."""


def _index_bytes(sheet: Sheet, scale: float) -> bytes:
    """An OpenEXR whose ``part.Y`` is the number of the part that is seen at each pixel, counted
    from 1 as they stand in the drawing, 0 for none."""
    width, height = max(round(sheet.width * scale), 1), max(round(sheet.height * scale), 1)
    shards = [
        part.shard._replace(area=shapely.transform(part.shard.area, lambda places: places * scale))
        for part in sheet.parts
    ]
    return channels_bytes({"part.Y": index_of(shards, width, height).astype(np.uint32)})


PARTS: dict[str, PartsForm] = {
    each.name: each
    for each in (
        PartsForm(
            "svg", "SVG 1.1", ".svg", "image/svg+xml",
            lambda sheet, scale: svg_text(sheet).encode(), scales=False,
        ),
        PartsForm(
            "pdf", "PDF", ".pdf", "application/pdf",
            lambda sheet, scale: pdf_bytes(sheet), scales=False,
        ),
        PartsForm(
            "exr-index", "OpenEXR, the number of each part", ".exr", "image/x-exr", _index_bytes,
            scales=True,
        ),
    )
}  # fmt: skip
