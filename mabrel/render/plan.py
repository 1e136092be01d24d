"""From a title at a time to what has to be calculated, with a key for each result."""

import math
from collections.abc import Sequence
from dataclasses import asdict, dataclass, replace
from typing import Any

import numpy as np

from mabrel.colour import rgb_and_alpha
from mabrel.light import Light
from mabrel.render.camera import Card, card_at, floor_card, swung
from mabrel.render.planned import (
    CopyPlan,
    GroundPlan,
    GroupPlan,
    PicksPlan,
    PicturePlan,
    PlannedLayer,
    PlannedStep,
    ScreenPlan,
    SourcePlan,
    WordsPlan,
    key_of,
)
from mabrel.source import LetteringStyle, Library, is_font_file
from mabrel.steps import (
    STAGES,
    Margin,
    Region,
    StepSettings,
    kind_of,
    settings_at,
    settings_of_kind,
    where_at,
)
from mabrel.title import (
    Backdrop,
    Camera,
    ColourCut,
    Copy,
    DistantLight,
    Floor,
    Group,
    Layer,
    LayerMatte,
    LetteringSource,
    Picture,
    PictureSource,
    Placed,
    Placement,
    PointLight,
    ScreenCut,
    SpotLight,
    Step,
    Title,
    TitleLight,
    Wash,
    value_at,
)
from mabrel.title.kinds import IMAGE_OF_LAYER

LIGHT_STAGES = ("shape", "relief", "light")
FIELD_STAGES = tuple(stage for stage in STAGES if stage != "ground")
"""What can change a layer's matte, relief or face."""
SHAPE_STAGES = ("shape", "relief", "depth")
"""What can change its matte."""
SEEN_STAGES = ("ground", "lens")
"""What these reach beyond the frame is seen by no later step, so it is left out."""
_ROOM = 32  # pixels around the frame that are kept all the same
_WIDEST = 4.0  # a plane of which the frame shows more than that many times its own size: all
FINEST_IMAGE = 2.0
"""Layers as images for a step are rendered at no larger scale: they are looked up, not shown."""


@dataclass(frozen=True)
class Planner:
    """Plans layers of one title at one time.

    `region` is the part of the frame that is rendered, at `scale` render pixels a frame pixel.
    `until` is the id of the last step that counts, `before` that of the first which doesn't,
    `stages` the only ones that do. Where it is not `framed`, layers are used elsewhere too, and
    nothing beyond the frame is left out.
    """

    title: Title
    library: Library
    time: float
    scale: float
    region: Region
    until: str | None = None
    before: str | None = None
    framed: bool = True
    stages: Sequence[str] | None = None

    def layer(self, layer: Layer, card: Card | None = None) -> PlannedLayer:
        """Raises FontError, PictureError and LibraryError for files that can't be used."""
        placed = isinstance(layer, Placed)
        card = card or self._card(layer)
        unit = self.scale * (card.magnification if placed else 1.0)
        origin, shift = _place(card, self.scale)
        lights = tuple(light.scaled(unit) for light in card.lights(self._rig(layer)))
        face = value_at(layer.face_opacity, self.time) if isinstance(layer, Placed) else 1.0
        source = self._source(layer, card, unit)
        key = key_of(
            {
                "kind": layer.kind,
                "source": _source_key(source),
                "shift": shift if placed else None,
                "region": None if placed else self.region,
                "frame": [self.title.frame.width, self.title.frame.height, self.scale],
                "added": face < 1,
            }
        )
        planned = PlannedLayer(
            layer=layer,
            opacity=value_at(layer.opacity, self.time),
            face_opacity=face,
            card=card,
            scale=unit,
            origin=origin,
            shift=shift,
            lights=lights,
            visible=self._visible(card, unit, origin) if placed and self.framed else None,
            source=source,
            key=key,
            steps=(),
        )
        return replace(planned, steps=self._steps(planned))

    def _rig(self, layer: Layer) -> list[Light]:
        """The lights as the camera has them before it; a backdrop's stay as they are."""
        lights = [evaluated(each, self.title, self.time) for each in self.title.lights]
        if not isinstance(layer, Placed | Floor):
            return lights
        swing = swung(self.title.camera, self.time)
        level = np.allclose(swing, np.eye(3))
        return lights if level else [light.turned(swing) for light in lights]

    def _card(self, layer: Layer) -> Card:
        if isinstance(layer, Placed):
            handle = self.title.handle(layer.handle)
            return card_at(layer.placement, self.title.camera, self.time, handle)
        if isinstance(layer, Floor):
            level = 0.0 if layer.level is None else value_at(layer.level, self.time)
            return floor_card(level, self.title.camera, self.time)
        return card_at(Placement(), Camera(), self.time)  # it stays whatever the camera does

    def _visible(self, card: Card, unit: float, origin: tuple[int, int]) -> Region | None:
        """All of a card's plane that the frame shows, in render pixels from the card's centre."""
        frame = self.whole(self.scale).joined(self.region)
        room = Margin(_ROOM, _ROOM, _ROOM, _ROOM)
        if not card.turned:
            return frame.grown(room).moved(-origin[0], -origin[1])
        if unit <= 0:
            return None
        x, y = [frame.left, frame.right, frame.right, frame.left], [frame.top] * 2
        corners = np.array([x, [*y, frame.bottom, frame.bottom], [self.scale] * 4])
        back = card.homography()
        if abs(np.linalg.det(back)) < 1e-9:
            return None
        u, v, w = np.linalg.inv(back) @ corners
        if (w <= 1e-9).any():
            return None
        u, v = u / w * unit, v / w * unit
        left, top = math.floor(min(u)), math.floor(min(v))
        region = Region(left, top, math.ceil(max(u)) - left, math.ceil(max(v)) - top)
        return region.grown(room) if region.area < _WIDEST * max(frame.area, 10_000) else None

    def _source(self, layer: Layer, card: Card, unit: float) -> SourcePlan:
        if isinstance(layer, Picture):
            return self._picture(layer.source, unit)
        if isinstance(layer, Group):
            inner = self.at_scale(unit)
            members = [each for each in self.title.layers if each.id in layer.source.layers]
            return GroupPlan(tuple(inner.layer(each) for each in members if each.visible))
        if isinstance(layer, Copy):
            return CopyPlan(
                self.layer(self.title.layer(layer.source.layer), card), layer.source.take
            )
        if isinstance(layer, Backdrop | Floor):
            return GroundPlan(value_at(layer.source.colour, self.time))
        if isinstance(layer, Wash):
            return GroundPlan(None)
        axes = {tag: value_at(value, self.time) for tag, value in layer.source.axes.items()}
        font = layer.source.font
        return WordsPlan(
            layer.source.text,
            _style(layer.source, self.time, unit),
            tuple(sorted(axes.items())),
            self.library.version(font) if is_font_file(font) else "",
        )

    def _picture(self, source: PictureSource, unit: float) -> PicturePlan:
        height = value_at(source.height, self.time) * unit
        version = self.library.version(source.picture)
        cut = _cut(source.cut, self.time) if source.cut else None
        return PicturePlan(source.picture, version, height, source.matte, cut)

    def whole(self, scale: float) -> Region:
        """All of the frame, in render pixels from its centre."""
        width, height = self.title.frame.width * scale, self.title.frame.height * scale
        left, top = math.floor(0.5 - width / 2), math.floor(0.5 - height / 2)
        return Region(left, top, max(round(width), 1), max(round(height), 1))

    def shown_key(self, planned: PlannedLayer) -> str:
        """Stands for a layer as it is laid on others: its place, opacity and blending too."""
        layer = planned.layer
        seen: dict[str, Any] = {
            "picture": planned.picture_key,
            "place": [planned.origin, planned.card.homography(), planned.scale],
            "opacity": planned.opacity,
            "blend": layer.blend,
        }
        if isinstance(layer, Floor):
            seen["far"] = value_at(layer.far, self.time)
        if layer.matte_from is not None:
            matte = self.layer(self.title.layer(layer.matte_from))
            seen["matte"] = [matte.result_key, matte.origin, matte.card.homography()]
        return key_of(seen)

    def patch(self, scale: float) -> Region:
        """The part of a floor that counts as its box: two frames wide, under the lettering."""
        side = max(round(self.title.frame.width * 2 * scale), 2)
        return Region(-side // 2, -side // 2, side, side)

    def image_layer(self, layer_id: str) -> PlannedLayer:
        """A layer as an image for a step: whole, whatever part of the frame is rendered."""
        whole = self.at_scale(min(self.scale, FINEST_IMAGE))
        return whole.layer(self.title.layer(layer_id))

    def at_scale(self, scale: float) -> "Planner":
        """The whole frame and every step, at another scale."""
        whole = self.whole(scale)
        return replace(self, scale=scale, region=whole, until=None, before=None, framed=False)

    def _steps(self, planned: PlannedLayer) -> tuple[PlannedStep, ...]:
        """The steps evaluated; each one's key holds all that its result depends on."""
        key = planned.key
        part = self._part(planned.layer.build)
        asked = {id for step in part for _, id in settings_of_kind(step, "step")}
        found = []
        for step in part:
            kind = kind_of(step.step)
            strength = value_at(step.strength, self.time)
            if strength <= 0:
                continue
            settings = settings_at(step, self.time)
            where = where_at(step.where, self.time)
            seen: dict[str, Any] = {
                "after": key,
                "step": kind.name,
                "settings": settings.model_dump(mode="json"),
                "strength": strength,
                "where": where and where.model_dump(mode="json"),
                "scale": planned.scale,
                "refers to": self._referred_to(step, settings),
                "keeps": step.id if step.id in asked else None,
            }
            if isinstance(where, LayerMatte):
                other = self.layer(self.title.layer(where.layer))
                seen["matte"] = [other.result_key, other.origin, other.card.homography()]
                seen["place"] = [planned.origin, planned.card.homography()]
            if kind.viewed:
                seen["view"] = [planned.card.turn, planned.viewer, planned.card.stand]
            if kind.stage in SEEN_STAGES:
                seen["visible"] = planned.visible
            if kind.lit:
                seen["lights"] = [asdict(light) for light in planned.lights]
            key = key_of(seen)
            found.append(
                PlannedStep(step.id, kind, settings, strength, where, step.id in asked, key)
            )
        return tuple(found)

    def _referred_to(self, step: Step, settings: StepSettings) -> list[str]:
        """Keys of the images that a step asks for."""
        keys = []
        for _, name in settings_of_kind(step, "image"):
            if name.startswith(IMAGE_OF_LAYER):
                keys.append(self.image_layer(name.removeprefix(IMAGE_OF_LAYER)).picture_key)
            else:
                keys.append(self.library.version(name))
        return keys

    def _part(self, build: Sequence[Step]) -> list[Step]:
        ids = [step.id for step in build]
        end = len(build)
        if self.until in ids:
            end = ids.index(self.until) + 1
        if self.before in ids:
            end = min(end, ids.index(self.before))
        part = [step for step in build[:end] if step.on]
        return [
            step for step in part if self.stages is None or kind_of(step.step).stage in self.stages
        ]


def _cut(cut: ColourCut | ScreenCut, time: float) -> PicksPlan | ScreenPlan:
    tolerance = value_at(cut.tolerance, time)
    if isinstance(cut, ColourCut):
        picks = tuple((pick.x, pick.y) for pick in cut.picks)
        soft, rest = value_at(cut.soft, time), cut.keep == "rest"
        return PicksPlan(picks, tolerance, cut.contiguous, soft, rest)
    colour, _ = rgb_and_alpha(value_at(cut.colour, time))
    return ScreenPlan(colour, tolerance, value_at(cut.softness, time), value_at(cut.spill, time))


def _source_key(source: SourcePlan) -> Any:
    if isinstance(source, GroupPlan):
        return [
            [m.picture_key, m.origin, m.opacity, m.layer.blend, m.card.homography(), m.scale]
            for m in source.members
        ]
    if isinstance(source, CopyPlan):
        return [source.layer.result_key, source.take, source.layer.face_opacity]
    if isinstance(source, PicturePlan):
        return [source.cut_key, source.height]
    return asdict(source)


def _place(card: Card, scale: float) -> tuple[tuple[int, int], tuple[float, float]]:
    if card.turned:
        return (0, 0), (0.0, 0.0)
    x, y = (axis * scale for axis in card.centre)
    whole = math.floor(x + 0.5), math.floor(y + 0.5)
    return whole, (round(x - whole[0], 6), round(y - whole[1], 6))


def evaluated(light: TitleLight, title: Title, time: float) -> Light:
    """A light at a time, after the rig was turned. Places are in frame pixels from the centre."""
    colour, alpha = rgb_and_alpha(value_at(light.colour, time))
    strength = value_at(light.strength, time) * alpha * value_at(title.rig.strength, time)
    if isinstance(light, DistantLight):
        plain = Light(
            value_at(light.azimuth, time), value_at(light.elevation, time), colour, strength
        )
    else:
        plain = _placed(light, time, colour, strength)
    plain = replace(plain, name=light.id)
    return plain.rigged(value_at(title.rig.turn, time), value_at(title.rig.raised, time))


def _placed(
    light: PointLight | SpotLight, time: float, colour: tuple[float, float, float], strength: float
) -> Light:
    place = (value_at(light.x, time), value_at(light.y, time), value_at(light.z, time))
    if isinstance(light, PointLight):
        return Light(colour=colour, strength=strength, place=place)
    return Light(
        colour=colour,
        strength=strength,
        place=place,
        aim=(value_at(light.to_x, time), value_at(light.to_y, time), value_at(light.to_z, time)),
        cone=value_at(light.cone, time),
        gathered=value_at(light.tightness, time),
    )


def _style(source: LetteringSource, time: float, unit: float) -> LetteringStyle:
    return LetteringStyle(
        source.font,
        source.style,
        value_at(source.size, time) * unit,
        value_at(source.letter_spacing, time) * unit,
        value_at(source.line_spacing, time),
        source.align,
    )
