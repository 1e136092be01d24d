"""What runs inside an engine process: one job after another."""

import ctypes
import gc
import resource
import signal
import sys
import traceback
from collections import OrderedDict
from dataclasses import dataclass, field
from hashlib import sha256
from pathlib import Path
from typing import Any

import numpy as np
import psutil
from pydantic import ValidationError

from mabrel import Title, TitleError, check_title, parse_title
from mabrel.allocation import keep_freed
from mabrel.compose.finishes import FinishError
from mabrel.processes import end_with, step_back
from mabrel.render import Cache, Cancel, Cancelled, Renderer, RenderError
from mabrel.source import FontError, LibraryError, PictureError
from mabrel.title.errors import error_of
from studio.engine.outcome import End, Outcome, Pixels

_TITLES_KEPT = 16
_FULL = ("Failed to allocate", "OutOfMemory", "can't start new thread")
"""How OpenCV and threads say that there is no memory left, for arrays or for a stack."""
_SAID = (FontError, PictureError, LibraryError, FinishError, RenderError)


@dataclass(frozen=True)
class Limits:
    """Bytes. `nice` is how far the process steps back for others."""

    memory: int
    cache: int
    nice: int = 0


class FlagCancel(Cancel):
    """Looks at a number that the web process writes: this run and all before it are given up."""

    def __init__(self, flag: Any, run: int) -> None:
        self._flag, self._run = flag, run

    @property
    def requested(self) -> bool:  # type: ignore[override]
        return bool(self._flag.value >= self._run)


@dataclass
class Tools:
    """What a job works with. A process has one for its whole life."""

    renderer: Renderer
    cancel: Cancel = field(default_factory=Cancel)
    _titles: "OrderedDict[str, Title]" = field(default_factory=OrderedDict)

    def title(self, document: bytes, home: str) -> Title:
        """A document as it was sent, read and checked. Raises TitleError."""
        key = sha256(document).hexdigest() + home
        title = self._titles.get(key)
        if title is None:
            title = check_title(parse_title(document).at_home(Path(home)))
            self._titles[key] = title
            while len(self._titles) > _TITLES_KEPT:
                self._titles.popitem(last=False)
        self._titles.move_to_end(key)
        return title


def new_tools(limits: Limits) -> Tools:
    return Tools(Renderer(Cache(limits.cache)))


class _Process:
    """The state of this process."""

    tools: Tools
    limits: Limits
    flag: Any
    shared: "np.ndarray[Any, np.dtype[np.uint8]]"


def begin(limits: Limits, flag: Any, shared: Any, parent: int) -> None:
    """The first thing that an engine process does. `flag` and `shared` are memory that it shares
    with the process `parent`: which jobs are given up, and the pixels of the last picture."""
    end_with(parent)
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # the web process ends it
    step_back(limits.nice)
    resource.setrlimit(resource.RLIMIT_DATA, (limits.memory, limits.memory))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    keep_freed()
    _Process.tools, _Process.limits = new_tools(limits), limits
    _Process.flag, _Process.shared = flag, np.frombuffer(shared, np.uint8)


def do(name: str, run: int, ask: dict[str, Any]) -> Outcome:
    """Do one job, the `run`th of this process."""
    from studio.engine.jobs import JOBS

    outcome = _done(JOBS[name], run, ask)
    if outcome.end is End.MEMORY:
        _let_go()
        return Outcome(End.MEMORY, _is_full())
    return _with_pixels_shared(outcome)


def _done(job: Any, run: int, ask: dict[str, Any]) -> Outcome:
    tools = _Process.tools
    tools.cancel = FlagCancel(_Process.flag, run)
    return outcome_of(lambda: job(tools, **ask))


def _let_go() -> None:
    """Forget all that was made, and give what is free back to the system."""
    _Process.tools = new_tools(_Process.limits)
    gc.collect()
    if sys.platform == "linux":
        trim = getattr(ctypes.CDLL(None), "malloc_trim", None)  # glibc has it
        if trim is not None:
            trim(0)


def _is_full() -> bool:
    """Whether this process holds on to memory that it doesn't need: another one begins better."""
    return psutil.Process().memory_info().rss > _Process.limits.memory / 2


def _with_pixels_shared(outcome: Outcome) -> Outcome:
    """Pixels go by way of the shared memory; through a pipe they take three times as long."""
    pixels = outcome.value
    if not isinstance(pixels, Pixels):
        return outcome
    flat = pixels.rgba.reshape(-1)
    if flat.size > _Process.shared.size:
        return outcome._replace(value=pixels._replace(rgba=flat.tobytes()))
    _Process.shared[: flat.size] = flat
    return Outcome(outcome.end, pixels._replace(rgba=b""), flat.size)


def outcome_of(job: Any) -> Outcome:
    """Call a job; what it raises as an outcome."""
    try:
        return Outcome(End.DONE, job())
    except Cancelled:
        return Outcome(End.CANCELLED)
    except TitleError as fault:
        return Outcome(End.REFUSED, (fault.place, fault.rule))
    except ValidationError as invalid:
        fault = error_of(invalid)
        return Outcome(End.REFUSED, (fault.place, fault.rule))
    except _SAID as fault:
        return Outcome(End.REFUSED, ("", str(fault)))
    except MemoryError:
        return Outcome(End.MEMORY)
    except Exception as error:  # noqa: BLE001 - it goes to the one who asked, and into the log
        if any(said in str(error) for said in _FULL):
            return Outcome(End.MEMORY)
        return Outcome(End.FAULT, traceback.format_exc())
