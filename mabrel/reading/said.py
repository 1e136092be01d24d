"""What a gauge says: a sentence, and what in the title it speaks of."""

from dataclasses import dataclass

from mabrel.steps import kind_of
from mabrel.title import Layer, Step, Title


@dataclass(frozen=True)
class Reading:
    """One sentence about the work. `layer`, `step` and `light` are ids, or None; `time` is in
    seconds, where it speaks of a time, and `place` leads to what moves, where it speaks of that."""

    gauge: str
    text: str
    warns: bool = False
    layer: str | None = None
    step: str | None = None
    light: str | None = None
    time: float | None = None
    place: str | None = None


def label_of(step: Step) -> str:
    return kind_of(step.step).label


def px(value: float) -> str:
    """A length in words: whole pixels, tenths below ten."""
    return f"{value:.0f} px" if value >= 10 else f"{value:.1f} px"


def joined(words: list[str]) -> str:
    """A list as it is spoken: a, b and c."""
    if len(words) < 2:
        return "".join(words)
    return f"{', '.join(words[:-1])} and {words[-1]}"


def with_build(title: Title, layer: Layer, build: list[Step]) -> Title:
    """The title with another build on one layer, to compare with."""
    changed = layer.model_copy(update={"build": build})
    layers = [changed if each.id == layer.id else each for each in title.layers]
    return title.model_copy(update={"layers": layers})
