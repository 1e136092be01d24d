"""Memory between arrays is kept for the next ones; that of very large ones is not."""

import subprocess
import sys

import pytest

MEASURE = """
import sys
import numpy as np
import psutil
from mabrel.allocation import keep_freed

if sys.argv[1] == "kept":
    keep_freed()

def held():
    return psutil.Process().memory_info().rss

before = held()
array = np.ones((int(sys.argv[2]), 1920, 4), np.float32)
filled = held()
del array
print((held() - before) / (filled - before))
"""


def share_kept(how, rows):
    call = [sys.executable, "-c", MEASURE, how, str(rows)]
    return float(subprocess.run(call, capture_output=True, text=True, check=True).stdout)


@pytest.mark.skipif(sys.platform != "linux", reason="only glibc has it")
def test_the_next_array_takes_the_memory_of_the_last_one():
    assert share_kept("kept", 1080) > 0.8
    assert share_kept("given back", 1080) < 0.2


@pytest.mark.skipif(sys.platform != "linux", reason="only glibc has it")
def test_very_large_arrays_go_back_to_the_system():
    assert share_kept("kept", 4320) < 0.2
