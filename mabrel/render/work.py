"""One step, applied to the piece before it: with its images and mattes, weighed by its strength."""

from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from mabrel.render.layer import LayerPlan, Plans
from mabrel.render.node import Node
from mabrel.render.pieces import washed_piece
from mabrel.render.placing import in_picture, on_card
from mabrel.render.setting import Setting
from mabrel.render.view import whole_frame
from mabrel.source import Image
from mabrel.steps import (
    Array,
    Margin,
    Piece,
    Region,
    Scene,
    StepKind,
    StepSettings,
    mixed,
    weights,
)
from mabrel.steps.faces.flattening import flattened
from mabrel.steps.part import NamedPart
from mabrel.title import Play, Where

TREATING = ("tone", "light")
"""In a wash these treat what is there; all others may add to it."""


@dataclass(frozen=True)
class Images:
    """What the image settings of a step name: layers as nodes, files by their versions."""

    names: tuple[str, ...]
    nodes: tuple[Node[Image], ...]
    versions: tuple[str, ...]
    runs: bool
    """Whether a clip is among them."""


@dataclass(frozen=True)
class Work:
    """One step, ready to be applied to the piece before it."""

    kind: StepKind
    settings: StepSettings
    strength: float
    where: Where | None
    keeps: str | None
    most: Margin
    setting: Setting
    scene: Scene
    images: Images
    play: Play
    matte: LayerPlan | None
    plans: Plans
    sees_overview: bool

    def __call__(self, piece: Piece, *others: Any) -> Piece:
        self.plans.pause()
        count = len(self.images.nodes)
        images = dict(zip(self.images.names, others[:count], strict=True))
        rest = list(others[count:])
        matte = rest.pop(0) if self.matte else None
        overview = rest.pop(0) if self.sees_overview else None
        scene = self._scene(images, overview, rest[0].parts if rest else ())
        if self.kind.stage == "lens" and not self.setting.plan.card.turned:
            piece = piece.settled()
        room = Margin(*map(min, self.kind.room(piece, self.settings, scene), self.most))
        before = piece.grown(room)
        after = self.kind.apply(before, self.settings, scene)
        after = self._weighed(before, after, matte)
        if self.keeps is not None:
            after = after.keeping(self.keeps, before)
        if not self.setting.beneath:
            return after
        return _whole(_on_what_is_there(before, after) if self.kind.stage in TREATING else after)

    def _scene(
        self, images: dict[str, Image], overview: Any, parts: tuple[NamedPart, ...]
    ) -> Scene:
        def image(name: str, size: float) -> Image:
            return (
                images[name]
                if name in images
                else self.plans.reader.file(name, size, self.plans.time, self.play)
            )

        around = replace(self.setting.around, parts=lambda: parts)
        if overview is not None:
            frame = whole_frame(self.plans.title.frame, self.setting.view.scale)
            around = replace(around, overview=lambda: (overview, frame))
        known = Scene(self.setting.plan.scale, around, self.plans.pause, image)
        return known.held_to(frozenset(self.scene.asked))

    def _weighed(self, before: Piece, after: Piece, matte: Piece | None) -> Piece:
        """As much of a step's result as its strength and its `where` let through."""
        if self.where is None:
            return after if self.strength == 1 else mixed(before, after, self.strength)

        def share(region: Region) -> Array:
            if region == before.region:
                return self._shares(before, matte)
            return self._on_surroundings(before, region, matte)

        return mixed(before, after, share)

    def _shares(self, piece: Piece, matte: Piece | None) -> Array:
        """(H, W): over the piece's own region."""
        plan, scale = self.setting.plan, self.setting.view.scale

        def coverage(layer: str, region: Region) -> Array:
            assert matte is not None
            assert self.matte is not None
            other, covered = self.matte, matte

            def seen(part: Region) -> Array:
                return in_picture(other, covered.region, covered.matte, part, scale)

            return on_card(plan, region, scale, seen)

        found = weights(self.where, piece, plan.scale, coverage)
        return np.asarray(found * np.float32(self.strength), np.float32)

    def _on_surroundings(self, piece: Piece, region: Region, matte: Piece | None) -> Array:
        """(H, W): over a part of the picture, where the piece casts something."""
        plan, scale = self.setting.plan, self.setting.view.scale
        if not plan.card.turned:
            wide = piece.grown(piece.region.room_for(region))
            return self._shares(wide, matte)[region.within(wide.region)]
        return in_picture(plan, piece.region, self._shares(piece, matte), region, scale)


def _on_what_is_there(before: Piece, after: Piece) -> Piece:
    """No place covered more than before: what is empty stays empty."""
    if after.face is before.face:
        return after
    was, now = before.face[..., 3:], after.face[..., 3:]
    share = np.minimum(was / np.maximum(now, np.float32(1e-6)), np.float32(1))
    return replace(after, face=after.face * share)


def _whole(piece: Piece) -> Piece:
    """What a step made of all that lies beneath, as one plane again."""
    if piece.is_plane:
        return piece
    done = piece.settled()
    return washed_piece(done.region, done.box, flattened(done))
