"""How much room the steps of a build may add to a piece."""

from dataclasses import replace
from typing import NamedTuple

from mabrel.render.pieces import LONGEST_PIECE
from mabrel.render.setting import Setting
from mabrel.steps import Bound, Margin, Region, Scene, StepKind, StepSettings

BEYOND = ("depth", "ground", "lens")
"""What these reach beyond the frame is seen by few later steps, so it is left out."""
_WIDEST = 2.0  # times what it would be on a level card, that a turned one may become
_SMALL = 0.5  # of a frame, that a turned one may always have


class Room(NamedTuple):
    """What a step needs, and where it learns that."""

    setting: Setting
    """The step's setting, which says whether its card is too narrow for what it needs."""
    scene: Scene
    """That of the setting; it knows what was asked to tell how much is needed."""
    needed: Margin
    most: Margin
    """The most that it may add."""

    @property
    def given(self) -> Margin:
        return Margin(*map(min, self.needed, self.most))


def room_of(kind: StepKind, bound: Bound, settings: StepSettings, setting: Setting) -> Room:
    """How much room a step needs around a bound, and how much it may have."""
    scene = Scene(setting.plan.scale, setting.around)
    needed, level = kind.room(bound, settings, scene), None
    if kind.stage in BEYOND and setting.plan.card.turned and not setting.around.fills_frame:
        level = kind.room(bound, settings, Scene(setting.plan.scale, setting.level))
        if _is_crowded(bound, needed, level, setting):
            setting = replace(setting, around=replace(setting.around, crowded=True))
            scene = Scene(setting.plan.scale, setting.around)
            needed = kind.room(bound, settings, scene)
    return Room(setting, scene, needed, _most(kind, bound, setting, needed, level))


def _is_crowded(bound: Bound, needed: Margin, level: Margin, setting: Setting) -> bool:
    if setting.visible is None:
        return False
    shown = bound.region.room_within(needed, setting.visible)
    return bound.region.grown(shown).area > _limit(bound, level, setting)


def _most(
    kind: StepKind, bound: Bound, setting: Setting, needed: Margin, level: Margin | None
) -> Margin:
    """The most room that a step may add: what fills the frame has nothing beyond it, of what
    reaches far only as much is made as the frame can show, and on a card that is turned not much
    more than the `level` room, on one that is not."""
    if setting.around.fills_frame:
        return Margin()
    far = Margin(LONGEST_PIECE, LONGEST_PIECE, LONGEST_PIECE, LONGEST_PIECE)
    if kind.stage not in BEYOND or setting.visible is None:
        return far
    most = bound.region.room_within(far, setting.visible)
    if level is None:
        return most
    most = Margin(*map(min, most, needed))
    if bound.stretch is not None:  # what is seen beside it stands where it would on a level card
        most = Margin(*map(max, most, map(min, level, needed)))
    limit = _limit(bound, level, setting)
    while any(most) and bound.region.grown(most).area > limit:
        most = Margin(*(side * 3 // 4 for side in most))
    return most


def _limit(bound: Bound, level: Margin, setting: Setting) -> float:
    """Pixels that a step may need on a card that is turned."""
    frame: Region = setting.level.frame or bound.region
    flat = bound.region.grown(level).common(frame.joined(bound.region))
    return max(_WIDEST * flat.area, _SMALL * frame.area)
