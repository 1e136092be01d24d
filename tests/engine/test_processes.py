"""Processes that compute for others keep out of their way."""

import subprocess
import sys
from pathlib import Path

import pytest

_TELL = """
import os
from pathlib import Path
from mabrel.processes import step_back
began = os.getsid(0)
step_back({nice})
group = Path("/proc/self/autogroup")
print(os.nice(0), os.getsid(0) != began, group.read_text().split()[-1] if group.exists() else "")
"""
_SHARED = Path("/proc/self/autogroup").exists() and sys.platform == "linux"


def told(nice: int, **how: bool) -> list[str]:
    """How nice a process is then, whether its session is another one, and how nice that is."""
    code = _TELL.format(nice=nice)
    done = subprocess.run(
        [sys.executable, "-c", code], capture_output=True, text=True, check=True, **how
    )
    return done.stdout.split()


@pytest.mark.skipif(not _SHARED, reason="this system shares its processors among processes")
@pytest.mark.parametrize("nice", [0, 7])
def test_one_steps_back_as_a_session_of_its_own(nice: int) -> None:
    assert told(nice) == [str(nice), "True", str(nice)]


@pytest.mark.skipif(not _SHARED, reason="this system shares its processors among processes")
def test_who_leads_a_session_steps_back_within_it_alone() -> None:
    assert told(7, start_new_session=True) == ["7", "False", "0"]
