"""From a title at a time to what has to be calculated, with a key for each result."""

import math
from collections.abc import Sequence
from dataclasses import asdict, dataclass, replace
from typing import Any

from mabrel.colour import rgb_and_alpha
from mabrel.light import Light
from mabrel.render.camera import Card, card_at
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
from mabrel.steps import Region, StepSettings, kind_of, settings_at, settings_of_kind, where_at
from mabrel.title import (
    Backdrop,
    ColourCut,
    Copy,
    DistantLight,
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
FINEST_IMAGE = 2.0
"""Layers as images for a step are rendered at no larger scale: they are looked up, not shown."""


@dataclass(frozen=True)
class Planner:
    """Plans layers of one title at one time.

    `region` is the part of the frame that is rendered, at `scale` render pixels a frame pixel.
    `until` is the id of the last step that counts, `before` that of the first which doesn't,
    `stages` the only ones that do.
    """

    title: Title
    library: Library
    time: float
    scale: float
    region: Region
    until: str | None = None
    before: str | None = None
    stages: Sequence[str] | None = None

    def layer(self, layer: Layer, card: Card | None = None) -> PlannedLayer:
        """Raises FontError, PictureError and LibraryError for files that can't be used."""
        placed = isinstance(layer, Placed)
        if card is None:
            placement = layer.placement if isinstance(layer, Placed) else Placement()
            card = card_at(placement, self.title.camera, self.time)
        unit = self.scale * (card.magnification if placed else 1.0)
        origin, shift = _place(card, self.scale)
        lights = card.lights([evaluated(each, self.title, self.time) for each in self.title.lights])
        lights = tuple(light.scaled(unit) for light in lights)
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
            source=source,
            key=key,
            steps=(),
        )
        return replace(planned, steps=self._steps(planned))

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
        if isinstance(layer, Backdrop):
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

    def image_layer(self, layer_id: str) -> PlannedLayer:
        """A layer as an image for a step: whole, whatever part of the frame is rendered."""
        whole = self.at_scale(min(self.scale, FINEST_IMAGE))
        return whole.layer(self.title.layer(layer_id))

    def at_scale(self, scale: float) -> "Planner":
        """The whole frame and every step, at another scale."""
        return replace(self, scale=scale, region=self.whole(scale), until=None, before=None)

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
                "turn": planned.card.turn,
                "refers to": self._referred_to(step, settings),
                "keeps": step.id if step.id in asked else None,
            }
            if isinstance(where, LayerMatte):
                other = self.layer(self.title.layer(where.layer))
                seen["matte"] = [other.result_key, other.origin, other.card.homography()]
                seen["place"] = [planned.origin, planned.card.homography()]
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
