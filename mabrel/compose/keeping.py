"""An arrival or a departure made of how a layer moves in a title."""

from typing import Any

from mabrel.compose.sizing import look_height
from mabrel.steps import kind_of, settings_at
from mabrel.title import Lettering, Placed, Step, Title, TitleError, Varying, value_at
from mabrel.title.arrival import Arrival, Motion, MotionPeg, Way
from mabrel.title.describing import Setting, setting_of
from mabrel.title.varying import Peg, is_varying

_PARTS = ("", "placement", "source")
_WHOLE = ("camera", "rig")


def arrival_of(
    title: Title, layer: str, *, name: str, label: str, way: Way, start: float, end: float
) -> Arrival:
    """What of a layer, of its steps, of the camera and of the rig moves between two times, as
    something that any layer can take. Raises TitleError where nothing does."""
    chosen = title.layer(layer)
    if not isinstance(chosen, Placed):
        raise TitleError("layer", "has no size that its motion could be measured by")
    if not start < end:
        raise TitleError("end", "must be later than the start")
    letters = look_height(title, chosen)
    rest = end if way == "arrival" else start
    span = (start, end, rest, letters)
    motions = [
        motion for place, model in _models(title, chosen) for motion in _motions(place, model, span)
    ]
    steps = []
    for step in chosen.build:
        moving = _step_motions(step, span)
        if moving:
            motions += moving
            still = settings_at(step, rest).model_dump(mode="json")
            steps.append(step.model_copy(update={"settings": still, "where": None}))
    in_turn = chosen.source.in_turn if isinstance(chosen, Lettering) else None
    if not motions and in_turn is None:
        raise TitleError("layer", "does not move in that time")
    return Arrival(
        name=name, label=label, way=way, length=end - start, letter_height=letters,
        motions=motions, steps=steps, in_turn=in_turn,
    )  # fmt: skip


_Span = tuple[float, float, float, float]


def _models(title: Title, layer: Placed) -> list[tuple[str, Any]]:
    found = [(part, getattr(layer, part) if part else layer) for part in _PARTS]
    return found + [(f"title/{name}", getattr(title, name)) for name in _WHOLE]


def _motions(place: str, model: Any, span: _Span) -> list[Motion]:
    found = []
    for name in type(model).model_fields:
        value, setting = getattr(model, name), setting_of(type(model), name)
        if isinstance(value, Varying) and setting is not None:
            at = f"{place}.{name}" if place else name
            found.append(_motion(at, setting, value, span))
    return [motion for motion in found if motion is not None]


def _step_motions(step: Step, span: _Span) -> list[Motion]:
    kind = kind_of(step.step)
    found = []
    for name, raw in step.settings.items():
        setting = setting_of(kind.settings, name)
        if is_varying(raw) and setting is not None:
            value = Varying[Any].model_validate(raw)
            found.append(_motion(f"{step.step}/{name}", setting, value, span))
    return [motion for motion in found if motion is not None]


def _motion(place: str, setting: Setting, value: Varying[Any], span: _Span) -> Motion | None:
    start, end, rest_time, letters = span
    pegs = [peg for peg in value.pegs or [] if start - 1e-6 <= peg.at <= end + 1e-6]
    if not pegs:
        return None
    numeric = isinstance(pegs[0].value, int | float)
    rest = float(value_at(value, rest_time)) if numeric else None  # type: ignore[arg-type]
    in_letters = setting.kind == "length"
    return Motion(
        place=place,
        unit="letters" if in_letters else "plain",
        pegs=[_peg(peg, span, rest, letters if in_letters else 1.0) for peg in pegs],
        drift=value.drift,
    )


def _peg(peg: Peg[Any], span: _Span, rest: float | None, unit: float) -> MotionPeg:
    """By how much it is away from where it rests, so that others can take it too."""
    share = min(max((peg.at - span[0]) / (span[1] - span[0]), 0.0), 1.0)
    if rest is None:
        return MotionPeg(share=share, to=peg.value, ease=peg.ease)
    if unit == 1.0 and rest not in (0, 0.0) and abs(peg.value / rest) <= 100:
        return MotionPeg(share=share, times=peg.value / rest, ease=peg.ease)
    return MotionPeg(share=share, plus=(peg.value - rest) / unit, ease=peg.ease)
