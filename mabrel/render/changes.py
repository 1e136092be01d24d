"""What of a title changes over time, and when: whatever the time that is rendered."""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from mabrel.steps import kind_of, varying_settings
from mabrel.steps.kind import StepSettings
from mabrel.steps.settings import settings_at
from mabrel.title import Floor, Layer, Moment, Placed, Step, Title
from mabrel.title.varying import Varying, is_varying, values_of, varying_in

_MOST_STOPS = 16  # times at which it is looked for where letters touch a floor


@dataclass(frozen=True)
class Changes:
    """The values over time of a title's parts, each looked for once."""

    title: Title
    _known: dict[object, list[Varying[Any]]] = field(default_factory=dict)
    _still: dict[int, StepSettings] = field(default_factory=dict)
    """Of steps, all of which the title holds, by their identity."""

    def settings(self, step: Step, time: Moment) -> StepSettings:
        """The settings of a step at a time; those that never change are read once."""
        found = self._still.get(id(step))
        if found is None:
            found = settings_at(step, time)
            if not any(is_varying(raw) for raw in step.settings.values()):
                self._still[id(step)] = found
        return found

    def of_step(self, step: Step) -> list[Varying[Any]]:
        """Those of its settings, of how strong it is and where."""
        return self._found(
            id(step), lambda: [*varying_settings(step), *varying_in([step.strength, step.where])]
        )

    def of_lights(self) -> list[Varying[Any]]:
        return self._found("lights", lambda: varying_in([self.title.lights, self.title.rig]))

    def of_place(self, layer: Layer) -> list[Varying[Any]]:
        """Those that put a layer where it is."""
        return self._found(("placed", layer.id), lambda: self._of_place(layer))

    def stops(self, floor: Floor, time: Moment) -> list[Moment]:
        """The times at which what stands on a floor that is seen at this `time` may stand highest.
        On one that hides, what rises from beneath it or sinks into it touches it there: these are
        its pegs."""
        if not any(values_of(floor.hides)):
            return [time]
        pegs = {peg.at for value in self._of_standing(floor) for peg in value.pegs or []}
        return [Moment(at, time.loop) for at in sorted(pegs)[:_MOST_STOPS]] or [time]

    def _found(self, key: object, look: Callable[[], list[Varying[Any]]]) -> list[Varying[Any]]:
        if key not in self._known:
            self._known[key] = look()
        return self._known[key]

    def _of_place(self, layer: Layer) -> list[Varying[Any]]:
        title = self.title
        if isinstance(layer, Floor):
            fixed = layer.level is not None or any(values_of(layer.hides))
            stands = [] if fixed else self._of_standing(layer)
            return [*varying_in([title.camera, layer.level]), *stands]
        if not isinstance(layer, Placed):
            return []
        floors = [each.hides for each in title.layers if isinstance(each, Floor)]
        return varying_in([title.camera, layer.placement, title.handle(layer.handle), floors])

    def _of_standing(self, floor: Floor) -> list[Varying[Any]]:
        """Those by which the lowest ink before a floor moves."""
        before = self.title.layers[self.title.layers.index(floor) + 1 :]
        placed = [layer for layer in before if isinstance(layer, Placed)]
        steps = [step for layer in placed for step in layer.build if kind_of(step.step).reshapes]
        moving = [value for step in steps for value in varying_settings(step)]
        for layer in placed:
            moving += varying_in([layer.source, *self.of_place(layer)])
        return moving
