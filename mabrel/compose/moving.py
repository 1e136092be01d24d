"""Laying an arrival or a departure into a title: as ordinary pegs, which anybody may move."""

from typing import Any, NamedTuple

from pydantic import BaseModel

from mabrel.compose.running_back import backwards
from mabrel.compose.sizing import ink_size, look_height
from mabrel.source import FontError, LibraryError, PictureError
from mabrel.steps import check_title, kind_of, scaled_build, settings_at
from mabrel.steps.kind import STAGES
from mabrel.title import Lettering, Placed, Step, Title, TitleError, parse_title, value_at
from mabrel.title.arrival import Arrival, Motion, MotionPeg
from mabrel.title.describing import Setting, setting_of
from mabrel.title.letters import InTurn
from mabrel.title.scaling import scaled
from mabrel.title.varying import is_varying

_FILLED = ("surface", "relief", "light", "tone")
_CLEAR = "#00000000"
Document = dict[str, Any]


class _Span(NamedTuple):
    """When it is laid, in seconds, and how much longer it is than it was made."""

    start: float
    length: float
    stretch: float
    rest: float
    """The time at which all is as it rests."""


def lay(
    title: Title,
    layer: str,
    arrival: Arrival,
    *,
    at: float = 0.0,
    length: float | None = None,
    run_back: bool = False,
) -> Title:
    """A title in which a layer arrives from `at` seconds on, or departs; `run_back` makes the one
    of the other. Pegs that the moved settings have within that time give way.

    Raises TitleError for a layer that can't move so, or a length that is none.
    """
    chosen = _chosen(title, layer)
    if run_back:
        arrival = backwards(arrival)
    length = arrival.length if length is None else length
    if not 0 < length <= 3600 or not 0 <= at <= 3600:
        raise TitleError("length", "must be more than 0 and at most 3600 seconds")
    leaves = arrival.way == "departure"
    span = _Span(at, length, length / arrival.length, at if leaves else at + length)
    work = _Laying(title, chosen, arrival, span)
    return work.done()


class _Laying:
    """One document on its way to moving."""

    def __init__(self, title: Title, layer: Placed, arrival: Arrival, span: _Span) -> None:
        self.title, self.layer, self.arrival, self.span = title, layer, arrival, span
        self.document: Document = title.model_dump(mode="json")
        self.index = [each.id for each in title.layers].index(layer.id)
        self.letters = _letters(title, layer)
        self.factor = self.letters / arrival.letter_height

    @property
    def own(self) -> Document:
        found: Document = self.document["layers"][self.index]
        return found

    def done(self) -> Title:
        self._add_steps()
        for motion in self.arrival.motions:
            self._move(motion)
        if self.arrival.in_turn is not None:
            self._part(self.arrival.in_turn)
        if self.arrival.fills:
            self._fill()
        if self.arrival.floor:
            self._stand()  # the last: it may add a layer
        return check_title(parse_title(self.document).at_home(self.title.home))

    def _add_steps(self) -> None:
        """In the order of the stages, those of a kind that is there already are left out."""
        build: list[Document] = self.own["build"]
        there = {step["step"] for step in build}
        for step in scaled_build(self.arrival.steps, self.factor):
            if step.step in there:
                continue
            stage = STAGES.index(kind_of(step.step).stage)
            later = (i for i, each in enumerate(build) if _stage(each) > stage)
            fresh = step.model_copy(update={"id": ""}).model_dump(mode="json")
            build.insert(next(later, len(build)), fresh)
        self.document = parse_title(self.document).model_dump(mode="json")  # which gives them ids

    def _move(self, motion: Motion) -> None:
        for node, name, setting, rest in self._targets(motion.place):
            pegs = [self._peg(motion, peg, rest, setting) for peg in motion.pegs]
            moving = _joined(node.get(name), pegs, self.span)
            if motion.drift is not None:
                moving["drift"] = motion.drift.model_dump(mode="json")
            node[name] = moving

    def _targets(self, place: str) -> list[tuple[Document, str, Setting, Any]]:
        """Where a place leads: the model in the document, the field's name, what it is, and what
        it rests at."""
        head, _, tail = place.rpartition("/")
        if head and head != "title":
            return self._in_steps(head, tail)
        model: Any = self.title if head else self.layer
        node = self.document if head else self.own
        *way, name = tail.split(".")
        for part in way:
            model, node = getattr(model, part, None), node.get(part) or {}
        setting = setting_of(type(model), name) if isinstance(model, BaseModel) else None
        if setting is None or not setting.moves:
            return []  # a picture has no letter spacing
        return [(node, name, setting, value_at(getattr(model, name), self.span.rest))]

    def _in_steps(self, kind: str, name: str) -> list[tuple[Document, str, Setting, Any]]:
        found = []
        for raw in self.own["build"]:
            setting = setting_of(kind_of(kind).settings, name) if raw["step"] == kind else None
            if setting is not None:
                settings = settings_at(Step.model_validate(raw), self.span.rest)
                found.append((raw["settings"], name, setting, getattr(settings, name)))
        return found

    def _peg(self, motion: Motion, peg: MotionPeg, rest: Any, setting: Setting) -> Document:
        value = rest if peg.to is None else peg.to
        if peg.to is None and isinstance(rest, int | float):
            value = _held(rest * peg.times + peg.plus * self._unit(motion), setting)
        ease = peg.model_dump(mode="json")["ease"]
        return {"at": self._time(peg.share * self.arrival.length), "value": value, "ease": ease}

    def _unit(self, motion: Motion) -> float:
        if motion.unit == "letters":
            return self.letters
        return self._ink()[1] if motion.unit == "ink" else 1.0

    def _ink(self) -> tuple[float, float]:
        return ink_size(self.title, self.layer, self.span.rest)

    def _time(self, seconds: float) -> float:
        return round(self.span.start + seconds * self.span.stretch, 4)

    def _part(self, in_turn: InTurn) -> None:
        """Letters that move apart. Those that do already keep their order, and get more pegs."""
        if not isinstance(self.layer, Lettering):
            return
        fresh = scaled(in_turn, self.factor).model_dump(mode="json")
        fresh["delay"] = round(fresh["delay"] * self.span.stretch, 4)
        there = self.own["source"].get("in_turn")
        into = there or fresh | _STILL
        for name, rest in _STILL.items():
            if not is_varying(fresh[name]):
                continue
            pegs = [{**peg, "at": self._time(peg["at"])} for peg in fresh[name]["pegs"]]
            into[name] = _joined(into.get(name, rest), pegs, self.span)
        self.own["source"]["in_turn"] = into

    def _fill(self) -> None:
        """The steps that colour the face come in from the left, or leave to the right."""
        wide, high = self._ink()
        feather = round(self.letters * 0.25, 1)
        width = round(wide + 4 * feather, 1)
        away = -(wide + width) / 2 - feather
        ends = (0.0, -away) if self.arrival.way == "departure" else (away, 0.0)
        pegs = [
            {"at": self._time(share * self.arrival.length), "value": round(x, 1)}
            for share, x in zip((0, 1), ends, strict=True)
        ]
        for step in self.own["build"]:
            if step["where"] is None and kind_of(step["step"]).stage in _FILLED:
                step["where"] = {
                    "kind": "rectangle", "x": {"pegs": pegs}, "y": 0.0, "width": width,
                    "height": round(high * 3 + 4 * feather, 1), "feather": feather,
                }  # fmt: skip

    def _stand(self) -> None:
        """On the nearest floor behind it, which hides from now on; else on one that is laid."""
        layers: list[Document] = self.document["layers"]
        for each in reversed(layers[: self.index]):
            if each["kind"] == "floor":
                each["hides"] = True
                return
        floor = {"kind": "floor", "name": "Floor", "source": {"colour": _CLEAR}, "hides": True}
        layers.insert(self.index, floor)


_STILL = {"x": 0.0, "y": 0.0, "turn": 0.0, "scale": 1.0, "opacity": 1.0}


def _joined(before: Any, pegs: list[Document], span: _Span) -> Document:
    """A value with new pegs; the ones it has before and after them stay."""
    first, last = pegs[0]["at"], pegs[-1]["at"]
    old = (before.get("pegs") or []) if is_varying(before) else []
    kept = [peg for peg in old if not first - 1e-3 < peg["at"] < last + 1e-3]
    joined = {"pegs": sorted([*kept, *pegs], key=lambda peg: float(peg["at"]))}
    drift = before.get("drift") if is_varying(before) else None
    return joined | ({"drift": drift} if drift else {})


def _held(value: float, setting: Setting) -> float:
    low = value if setting.low is None else max(value, setting.low)
    return round(low if setting.high is None else min(low, setting.high), 4)


def _stage(step: Document) -> int:
    return STAGES.index(kind_of(step["step"]).stage)


def _chosen(title: Title, layer: str) -> Placed:
    try:
        found = title.layer(layer)
    except KeyError:
        found = None
    if not isinstance(found, Placed):
        raise TitleError("layer", f"there is no layer {layer!r} that could arrive")
    return found


def _letters(title: Title, layer: Placed) -> float:
    try:
        return look_height(title, layer)
    except (KeyError, ValueError, FontError, PictureError, LibraryError):
        return title.frame.height / 5
