"""How much room the steps of a build may add to a piece."""

from dataclasses import replace

from mabrel.render.pieces import LONGEST_PIECE
from mabrel.render.setting import Setting
from mabrel.steps import Bound, Margin, Region, Scene, StepKind, StepSettings

BEYOND = ("depth", "ground", "lens")
"""What these reach beyond the frame is seen by few later steps, so it is left out."""
_WIDEST = 2.0  # times what it would be on a level card, that a turned one may become
_SMALL = 0.5  # of a frame, that a turned one may always have


def told_of_room(kind: StepKind, bound: Bound, settings: StepSettings, setting: Setting) -> Setting:
    """A step's setting that says whether its card is too narrow for what it needs."""
    level = _level_room(kind, bound, settings, setting)
    if level is None or setting.visible is None:
        return setting
    needed = bound.region.room_within(_needed(kind, bound, settings, setting), setting.visible)
    crowded = bound.region.grown(needed).area > _limit(bound, level, setting)
    return replace(setting, around=replace(setting.around, crowded=True)) if crowded else setting


def most_room(kind: StepKind, bound: Bound, settings: StepSettings, setting: Setting) -> Margin:
    """The most room that a step may add: what fills the frame has nothing beyond it, of what
    reaches far only as much is made as the frame can show, and on a card that is turned not much
    more than on one that is not."""
    if setting.around.fills_frame:
        return Margin()
    far = Margin(LONGEST_PIECE, LONGEST_PIECE, LONGEST_PIECE, LONGEST_PIECE)
    if kind.stage not in BEYOND or setting.visible is None:
        return far
    most = bound.region.room_within(far, setting.visible)
    level = _level_room(kind, bound, settings, setting)
    if level is None:
        return most
    most = Margin(*map(min, most, _needed(kind, bound, settings, setting)))
    if bound.stretch is not None:  # what is seen beside it stands where it would on a level card
        most = Margin(*map(max, most, map(min, level, _needed(kind, bound, settings, setting))))
    limit = _limit(bound, level, setting)
    while any(most) and bound.region.grown(most).area > limit:
        most = Margin(*(side * 3 // 4 for side in most))
    return most


def _needed(kind: StepKind, bound: Bound, settings: StepSettings, setting: Setting) -> Margin:
    return kind.room(bound, settings, Scene(setting.plan.scale, setting.around))


def _level_room(
    kind: StepKind, bound: Bound, settings: StepSettings, setting: Setting
) -> Margin | None:
    """What it would need on a card that lies as the frame does; None where its card does."""
    if kind.stage not in BEYOND or setting.around.fills_frame or not setting.plan.card.turned:
        return None
    return kind.room(bound, settings, Scene(setting.plan.scale, setting.level))


def _limit(bound: Bound, level: Margin, setting: Setting) -> float:
    """Pixels that a step may need on a card that is turned."""
    frame: Region = setting.level.frame or bound.region
    flat = bound.region.grown(level).common(frame.joined(bound.region))
    return max(_WIDEST * flat.area, _SMALL * frame.area)
