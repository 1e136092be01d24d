"""What is looked at: a part of the frame, at a scale, with all steps or some of them."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from mabrel.steps import Region, kind_of
from mabrel.title import Frame, Group, Layer, Step, Title

SHAPE_STAGES = ("shape", "relief", "depth")
"""What can change a layer's matte."""


@dataclass(frozen=True)
class Part:
    """Which steps of each build count.

    `until` is the id of the last one, `before` that of the first which doesn't count, `stages`
    the only ones from which they are; `solid` leaves those alone that change what is solid.
    """

    until: str | None = None
    before: str | None = None
    stages: tuple[str, ...] | None = None
    solid: bool = False

    def of(self, build: Sequence[Step]) -> list[Step]:
        """Those that are on, in their order."""
        ids = [step.id for step in build]
        end = len(build)
        if self.until in ids:
            end = ids.index(self.until) + 1
        if self.before in ids:
            end = min(end, ids.index(self.before))
        return [step for step in build[:end] if step.on and self._counts(step)]

    def _counts(self, step: Step) -> bool:
        kind = kind_of(step.step)
        in_stage = self.stages is None or kind.stage in self.stages
        return in_stage and (kind.reshapes or not self.solid)


WHOLE_BUILD = Part()


@dataclass(frozen=True)
class View:
    """`region` is the part of the frame that is rendered, at `scale` render pixels a frame pixel.

    Where it is not `framed`, layers are used elsewhere too, and nothing beyond the frame is left
    out.
    """

    scale: float
    region: Region
    part: Part = WHOLE_BUILD
    framed: bool = True


def whole_frame(frame: Frame, scale: float) -> Region:
    """All of the frame, in render pixels from its centre."""
    width, height = frame.width * scale, frame.height * scale
    left, top = math.floor(0.5 - width / 2), math.floor(0.5 - height / 2)
    return Region(left, top, max(round(width), 1), max(round(height), 1))


def drawn_layers(title: Title, layers: Sequence[Layer] | None = None) -> list[Layer]:
    """Those of a title's layers that are seen, and drawn by themselves: not the members of
    groups."""
    groups = (layer for layer in title.layers if isinstance(layer, Group))
    members = {member for group in groups for member in group.source.layers}
    chosen = title.layers if layers is None else layers
    return [layer for layer in chosen if layer.visible and layer.id not in members]
