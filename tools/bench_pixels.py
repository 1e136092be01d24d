"""How pixels get from an engine process to the web process: through a pipe, or by memory that both
share, into which one copies them and out of which the other does."""

import multiprocessing
import statistics
import time
from collections.abc import Callable
from functools import partial
from multiprocessing.connection import Connection
from typing import Any

import numpy as np

from studio.engine.limits import PREVIEW_PIXELS

_SIZES = ((748, 421), (1920, 1080), (3840, 2160))
_REPEATS = 15


def pixels_table() -> str:
    """Milliseconds, medians of both ways in turn."""
    context = multiprocessing.get_context("spawn")
    shared = context.RawArray("B", 4 * PREVIEW_PIXELS)
    here, there = context.Pipe()
    process = context.Process(target=_answer, args=(there, shared), daemon=True)
    process.start()
    lines = [
        "| pixels | MB | through a pipe, ms | shared memory, ms | ratio |",
        "|---|---|---|---|---|",
    ]
    for width, height in _SIZES:
        size = 4 * width * height
        pipe, memory = _in_turn(partial(_piped, here, size), partial(_shared, here, shared, size))
        lines.append(
            f"| {width} × {height} | {size / 1e6:.1f} | {pipe:.2f} | {memory:.2f} "
            f"| {memory / pipe:.2f} |"
        )
    here.send(None)
    process.join()
    return "\n".join(lines)


def _answer(pipe: Connection, shared: Any) -> None:
    """The other process: gives as many bytes as it is asked for, in the way that it is asked."""
    block = np.frombuffer(shared, np.uint8)
    pixels = np.random.default_rng(1).integers(0, 255, block.size, np.uint8)
    while (asked := pipe.recv()) is not None:
        way, size = asked
        if way == "pipe":
            pipe.send(pixels[:size].tobytes())
        else:
            block[:size] = pixels[:size]
            pipe.send(size)


def _piped(pipe: Connection, size: int) -> bytes:
    pipe.send(("pipe", size))
    return bytes(pipe.recv())


def _shared(pipe: Connection, shared: Any, size: int) -> bytes:
    pipe.send(("shared", size))
    return bytes(memoryview(shared).cast("B")[: pipe.recv()])


def _in_turn(*ways: Callable[[], bytes]) -> list[float]:
    times: list[list[float]] = [[] for _ in ways]
    for number in range(_REPEATS + 1):
        for way, kept in zip(ways, times, strict=True):
            began = time.perf_counter()
            way()
            if number:  # the first one warms up
                kept.append((time.perf_counter() - began) * 1000)
    return [statistics.median(kept) for kept in times]
