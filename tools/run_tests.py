"""Run the Python tests in two lanes side by side, since those in the browser wait a lot.

Arguments go to all. Prints what each run says, one after the other, and fails where one does.
"""

import os
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
LANES = (("tests/engine",), ("tests/browser", "tests/studio"))
"""What stands in a lane runs one after the other."""


def main(arguments: list[str]) -> int:
    """The worst exit code of all runs."""
    # Studios that load all kernels while they have nothing else to do would take turns from tests.
    os.environ.setdefault("MABREL_WARM", "0")
    with ThreadPoolExecutor(len(LANES)) as lanes:
        codes = list(lanes.map(lambda lane: [_run(folder, arguments) for folder in lane], LANES))
    return max(code for lane in codes for code in lane)


def _run(folder: str, arguments: list[str]) -> int:
    cache = f"cache_dir=.pytest_cache/{Path(folder).name}"
    command = [sys.executable, "-m", "pytest", *arguments, "-o", cache, folder]
    ended = subprocess.run(
        command, cwd=ROOT, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, check=False
    )
    print(f"{folder}:\n{ended.stdout}", flush=True)
    return ended.returncode


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
