"""resvg in a process of its own, with a limit on time and memory.

Searching a drawing finds what is known to do harm; what isn't known yet ends here. A stack that
overflows or a filter without end takes that process with it and nothing else.
"""

import functools
import subprocess
import sys
from pathlib import Path

from mabrel.source.fonts import FOLDER
from mabrel.source.picture_error import PictureError

LONGEST = 2  # seconds of computing
_PATIENCE = 20  # seconds altogether, on a machine that is busy with other things
_MOST_MEMORY = 3 * 2**30
_FALLBACK = "Archivo Black"

_WORKER = Path(__file__).with_name("svg_worker.py")


@functools.lru_cache(maxsize=24)
def drawn_png(content: bytes, name: str, width: int, has_text: bool) -> bytes:
    """The drawing as a PNG of that width; its words in the fonts that ship; the last ones are
    kept. Raises PictureError where it can't be drawn, or not in time."""
    # Of a family in parts only the first has the plain letters, and resvg would take any of them.
    files = sorted(str(path) for path in FOLDER.rglob("*.ttf") if "-ext-" not in path.name)
    limits = [str(_MOST_MEMORY), str(LONGEST)]
    command = [sys.executable, "-P", str(_WORKER), str(width), *limits, _FALLBACK]
    command += files if has_text else []
    try:
        done = subprocess.run(
            command, input=content, capture_output=True, timeout=_PATIENCE, check=False
        )
    except subprocess.TimeoutExpired:
        raise PictureError(name, "takes too long to draw") from None
    if done.returncode < 0:
        raise PictureError(name, f"takes more than {LONGEST} seconds, or too much memory, to draw")
    if done.returncode or not done.stdout:
        said = done.stderr.decode(errors="replace").strip().splitlines()
        raise PictureError(name, f"can't be drawn: {said[-1] if said else 'no reason is known'}")
    return done.stdout
