"""Readings of time: what the engine has to say about how a title moves."""

import itertools
import math
from collections.abc import Iterator, Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from mabrel.reading.flashes import MOST, flashes_in, red_flashes_in
from mabrel.reading.moving import Moving, moving_in, still
from mabrel.reading.pace import pace_readings
from mabrel.reading.said import Reading
from mabrel.render import Cancel, Renderer
from mabrel.steps import check_title
from mabrel.title import Lettering, Title
from mabrel.title.motion import moves, moving_spans
from mabrel.title.varying import values_of

_SIDE = 192  # render pixels along the frame's longer side: what flashes is large
_MOST_FRAMES = 1000  # that differ; what comes after them has no readings
_WORDS_A_MINUTE = 238.0
"""Silent reading of English by adults: Brysbaert, "How many words do we read per minute?", Journal
of Memory and Language 109, 2019, https://doi.org/10.1016/j.jml.2019.104047."""
_NOTICED = 0.5  # seconds until the eye has found a word that has appeared
_STANDS = 0.6  # share of what words change in the picture at most, from which they stand there
_SEEN = 0.004  # mean difference of a picture with its letters from one without, that is seen
_SEAM = 0.01
_CHECKED = 9  # times at which a setting that moves is looked at


class _Frames(NamedTuple):
    """Those that differ from the one before; each stands until the next."""

    numbers: list[int]
    end: int
    """The number after the last one that was looked at."""
    pixels: list[NDArray[np.float32]]
    """Each (H, W, 4), premultiplied."""
    rate: float

    @property
    def times(self) -> list[float]:
        return [number / self.rate for number in self.numbers]


class _Run(NamedTuple):
    """The longest run of frames: when it begins, its seconds, and whether others follow."""

    start: float
    seconds: float
    goes_on: bool


def motion_readings(
    renderer: Renderer, title: Title, cancel: Cancel | None = None
) -> list[Reading]:
    """Sentences about reading time, flashes, pace, the seam of a loop, and what moves in vain;
    warnings first, none for a title that doesn't move. Raises what `Renderer.render` raises."""
    check_title(title)
    if not moves(title):
        return []
    frames = _rendered(renderer, title, cancel)
    said = [
        *_standing(renderer, title, frames, cancel),
        *_flashing(frames),
        *pace_readings(title, frames.times),
        *_seam(renderer, title, frames, cancel),
        *_in_vain(renderer, title, cancel),
        *_left(title, frames),
    ]
    return sorted(said, key=lambda each: not each.warns)


def _rendered(renderer: Renderer, title: Title, cancel: Cancel | None) -> _Frames:
    rate = title.frame.fps
    count = max(round(title.frame.duration * rate), 1)
    changing = _changing(title, count)
    numbers = list(itertools.islice(changing, _MOST_FRAMES))
    end = next(changing, count)
    sharp = title.model_copy(update={"blur": title.blur.model_copy(update={"angle": 0.0})})
    pixels = [
        _small(renderer, sharp.at_home(title.home), number / rate, cancel) for number in numbers
    ]
    return _Frames(numbers, end, pixels, rate)


def _changing(title: Title, count: int) -> Iterator[int]:
    """The first frame, and all that may differ from the one before."""
    yield 0
    last = 0
    for start, end in moving_spans(title):
        first = max(math.floor(start * title.frame.fps), last) + 1
        after = min(math.ceil(end * title.frame.fps) + 1, count)
        yield from range(first, after)
        last = max(after - 1, last)


def _left(title: Title, frames: _Frames) -> list[Reading]:
    """What was not looked at."""
    end = frames.end / frames.rate
    if end >= title.frame.duration - 0.5 / frames.rate:
        return []
    text = f"More moves than can be looked at: what is after {end:.1f} s has no readings of time."
    return [Reading("left", text, False, time=end)]


def _small(
    renderer: Renderer, title: Title, time: float, cancel: Cancel | None
) -> NDArray[np.float32]:
    scale = _SIDE / max(title.frame.width, title.frame.height)
    picture = renderer.render(title, time=time, scale=scale, cancel=cancel)
    return np.asarray(picture.pixels, np.float32)


def _standing(
    renderer: Renderer, title: Title, frames: _Frames, cancel: Cancel | None
) -> list[Reading]:
    """How long the words stand there, against what they take to read."""
    words = [each for each in title.layers if isinstance(each, Lettering) and each.visible]
    count = sum(max(len(said.split()) for said in values_of(each.source.text)) for each in words)
    if not count:
        return []
    hidden = {each.id for each in words}
    bare = title.model_copy(
        update={
            "layers": [
                each.model_copy(update={"visible": False}) if each.id in hidden else each
                for each in title.layers
            ]
        }
    ).at_home(title.home)
    shares = [
        float(np.abs(pixels - _small(renderer, bare, time, cancel)).mean())
        for time, pixels in zip(frames.times, frames.pixels, strict=True)
    ]
    most = max(shares)
    if most < _SEEN:
        return [Reading("standing", "No word is ever to be seen.", True)]
    found = _empty(frames, [share < _SEEN * 0.1 for share in shares])
    there = [share >= _STANDS * most for share in shares]
    first, stands, _ = _longest(frames, there)
    needs = _NOTICED + count * 60 / _WORDS_A_MINUTE
    plural = "word takes" if count == 1 else "words take"
    text = f"{count} {plural} {needs:.1f} s to read; the title stands for {stands:.1f} s"
    if stands < needs:
        found.append(Reading("standing", f"{text}: too short.", True, words[-1].id, time=first))
    else:
        found.append(Reading("standing", f"{text}.", False, words[-1].id, time=first))
    return found


def _empty(frames: _Frames, nothing: Sequence[bool]) -> list[Reading]:
    """Frames before, between or after which there is something to be seen."""
    if not any(nothing):
        return []
    start, seconds, goes_on = _longest(frames, nothing)
    text = f"No word is to be seen for {seconds:.2f} s from {start:.2f} s on."
    gap = goes_on and start > 0  # one in the middle was hardly meant
    return [Reading("empty", text, gap, time=start)] if seconds > 0.5 / frames.rate else []


def _longest(frames: _Frames, there: Sequence[bool]) -> _Run:
    """The longest time for which something is so without a break."""
    best, start = _Run(0.0, 0.0, False), None
    for number, yes in zip([*frames.numbers, frames.end], [*there, False], strict=True):
        if yes and start is None:
            start = number
        elif not yes and start is not None:
            seconds = (number - start) / frames.rate
            if seconds > best.seconds:
                best = _Run(start / frames.rate, seconds, number < frames.end)
            start = None
    return best


def _flashing(frames: _Frames) -> list[Reading]:
    shown = [pixels[..., :3] for pixels in frames.pixels]
    found = []
    for kind, flashes in (
        ("General", flashes_in(shown, frames.rate, frames.numbers)),
        ("Red", red_flashes_in(shown, frames.rate, frames.numbers)),
    ):
        if flashes.most > MOST:
            text = (
                f"{kind} flashes: {flashes.most} in the second from {flashes.start:.2f} s on. "
                f"More than {MOST} can bring on seizures (WCAG 2.3.1)."
            )
            found.append(Reading("flashes", text, True, time=flashes.start))
    return found


def _seam(
    renderer: Renderer, title: Title, frames: _Frames, cancel: Cancel | None
) -> list[Reading]:
    if not title.frame.loops:
        return []
    after = _small(renderer, title, title.frame.duration, cancel)
    apart = float(np.abs(after - frames.pixels[0]).mean())
    text = f"Where it runs round, the pictures differ by {apart * 100:.1f} %"
    if apart > _SEAM:
        return [Reading("seam", f"{text}: the seam shows.", True, time=title.frame.duration)]
    return [Reading("seam", f"{text}.", False, time=title.frame.duration)]


def _in_vain(renderer: Renderer, title: Title, cancel: Cancel | None) -> list[Reading]:
    """Settings that move without anything to be seen of it: the plans are the same without."""
    count = title.frame.duration
    times = [count * (part + 0.5) / _CHECKED for part in range(_CHECKED)]
    moving = [renderer.plan(title, time=time, scale=0.1).key for time in times]
    found = []
    for each in moving_in(title):
        if cancel is not None:
            cancel.check()
        without = still(title, each)
        if [renderer.plan(without, time=time, scale=0.1).key for time in times] == moving:
            found.append(_vain(each))
    return found


def _vain(each: Moving) -> Reading:
    text = f"{each.label} moves, but nothing of it is to be seen."
    return Reading("in vain", text, True, each.layer, each.step, each.light, place=each.place)
