"""File formats that a title is exported to."""

from mabrel.export.png import png_bytes

__all__ = ["png_bytes"]
