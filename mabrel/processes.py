"""How a process that computes for another one behaves: it ends with that one, and keeps out of the
way of others."""

import ctypes
import errno
import os
import signal
import sys
import time
from pathlib import Path

_PR_SET_PDEATHSIG = 1
_AUTOGROUP = Path("/proc/self/autogroup")
_TRIES, _APART = 10, 0.1  # the system lets one process at a time do that, and seconds lie between


def end_with(parent: int) -> None:
    """From now on this process ends when `parent` does, even in the middle of a kernel."""
    if sys.platform == "linux":
        ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGKILL)
    if os.getppid() != parent:
        os._exit(1)


def step_back(nice: int = 0) -> None:
    """Compute beside what began this process, and `nice` (0..19) steps behind everything else.

    Linux shares its processors among sessions first, and `nice` counts within one alone: what
    computes in the session of a server takes from the server's own share, and as much from a
    browser as that gets. So this process becomes a session of its own, which steps back as a whole;
    where it can't, it steps back within the one that it is in.

    References
    ----------
    sched(7), "The autogroup feature", https://man7.org/linux/man-pages/man7/sched.7.html
    """
    os.nice(nice)
    try:
        os.setsid()
    except PermissionError:  # it leads a session, or a group of others
        return
    if nice:
        _session_steps_back(nice)


def _session_steps_back(nice: int) -> None:
    for _ in range(_TRIES):
        try:
            _AUTOGROUP.write_text(str(nice))
        except OSError as error:
            if error.errno != errno.EAGAIN:
                return  # the system has none
            time.sleep(_APART)
        else:
            return
