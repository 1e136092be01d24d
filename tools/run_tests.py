"""Run the Python tests: those in the browser beside the others, since each waits a lot.

Arguments go to both. Prints what each run says, one after the other, and fails where one does.
"""

import os
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
RUNS = (("tests/engine", "tests/studio"), ("tests/browser",))


def main(arguments: list[str]) -> int:
    """The worst exit code of both runs."""
    command = [sys.executable, "-m", "pytest", *arguments]
    # Studios that load all kernels while they have nothing else to do would take turns from tests.
    os.environ.setdefault("MABREL_WARM", "0")
    with tempfile.TemporaryFile("w+") as said:  # a pipe that nobody reads yet would fill up
        first, second = (
            subprocess.Popen(
                [*command, "-o", f"cache_dir=.pytest_cache/{number}", *folders],
                cwd=ROOT,
                stdout=said if number else None,
                stderr=subprocess.STDOUT,
            )
            for number, folders in enumerate(RUNS)
        )
        codes = [first.wait(), second.wait()]
        said.seek(0)
        print(f"{' '.join(RUNS[1])}:\n{said.read()}", flush=True)
    return max(codes)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
