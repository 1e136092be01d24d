"""The one place where Skia is imported."""

try:
    import skia
except ImportError as missing:  # pragma: no cover
    raise ImportError(
        "Skia can't be loaded. On Debian it needs the packages libegl1 and libgl1: "
        f"apt-get install libegl1 libgl1 ({missing})"
    ) from missing

# A manager that knows no system fonts: the usual one would start fontconfig, which grumbles on
# standard error about files that are none of Mabrel's business.
_FONTS = skia.FontMgr.New_Custom_Empty()


def typeface(content: bytes) -> "skia.Typeface | None":
    """The typeface in a font file's content, or None where it isn't one."""
    return _FONTS.makeFromData(skia.Data.MakeWithCopy(content))


__all__ = ["skia", "typeface"]
