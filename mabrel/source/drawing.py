"""The one place where Skia is imported.

Its font manager starts fontconfig, which reads the system's files and grumbles about them on
standard error; Mabrel only draws fonts of its own, so it is given an empty file to read.
"""

import os
from pathlib import Path

_VARIABLE = "FONTCONFIG_FILE"

_before = os.environ.get(_VARIABLE)
os.environ[_VARIABLE] = str(Path(__file__).with_name("fonts.conf"))
try:
    import skia

    skia.FontMgr().countFamilies()
except ImportError as missing:  # pragma: no cover
    raise ImportError(
        "Skia can't be loaded. On Debian it needs the packages libegl1 and libgl1: "
        f"apt-get install libegl1 libgl1 ({missing})"
    ) from missing
finally:
    del os.environ[_VARIABLE]
    if _before is not None:
        os.environ[_VARIABLE] = _before

__all__ = ["skia"]
