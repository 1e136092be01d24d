"""Rendering a title."""

from dataclasses import dataclass, field, replace
from typing import Any, NamedTuple

import numpy as np

from mabrel.render.apart import Planes, planes_node
from mabrel.render.asked import Asked, Window, chosen_layer, layer_plan, picture_node, region_of
from mabrel.render.cache import Cache
from mabrel.render.cancel import Cancel
from mabrel.render.cells import CellGrid, cell_grids, has_cells
from mabrel.render.changes import Changes
from mabrel.render.data import Data, data_node
from mabrel.render.errors import RenderError
from mabrel.render.fields import Field, field_node
from mabrel.render.node import Node
from mabrel.render.parts import BROKEN_APART, MOST_PARTS, Breaking, Shard, card_parts, parts_of
from mabrel.render.picture import Picture
from mabrel.render.planner import Planner
from mabrel.render.reading import Reader
from mabrel.render.running import Estimate, Rates, Run
from mabrel.render.taps import TAPS, shown
from mabrel.render.view import SHAPE_STAGES, WHOLE_BUILD, Part, View
from mabrel.source import library_at
from mabrel.steps import STAGES, Array, check_title
from mabrel.steps.part import NamedPart
from mabrel.title import Floor, Moment, Title
from mabrel.title.varying import LATEST

FIELD_STAGES = tuple(stage for stage in STAGES if stage != "ground")
"""What can change a layer's matte, relief or face."""
Box = tuple[float, float, float, float]


class Fields(NamedTuple):
    """A layer's fields over a part of the frame; see `Piece`. `height` is in frame pixels."""

    matte: Array
    height: Array
    face: Array


@dataclass
class Renderer:
    """Renders titles and keeps what may be used again. One render at a time."""

    cache: Cache = field(default_factory=Cache)
    rates: Rates = field(default_factory=Rates)
    made: list[Node[Any]] = field(default_factory=list, repr=False)
    """The nodes that the last render made, in their order."""
    _changes: Changes | None = field(default=None, repr=False)
    """Of the title that was rendered last."""

    def render(
        self,
        title: Title,
        *,
        time: float = 0.0,
        scale: float = 1.0,
        tap: str = "picture",
        layer: str | None = None,
        alone: bool = False,
        until: str | None = None,
        window: Window | None = None,
        rests: bool = False,
        cancel: Cancel | None = None,
    ) -> Picture:
        """Render `title` at `time` seconds and `scale` render pixels a frame pixel.

        `tap` shows a field instead of the picture, of the layer with the id or name `layer`,
        or else of the front lettering; `alone` shows the picture of that layer without the others.
        With `until`, the id of a step, the work is shown as it
        stands after that step: without the later ones and the layers over it. A picture that
        `rests`, and does not follow a hand or the time, is looked at for a while: what it is made
        from is kept, though others have to go for it.
        Raises TitleError, FontError, PictureError, LibraryError, RenderError, and Cancelled
        after `cancel`.
        """
        asked = self._asked(title, time, scale, window, cancel)
        if tap not in TAPS:
            raise RenderError(f"there is no tap {tap!r}; there are {', '.join(TAPS)}")
        node = picture_node(asked, tap, layer, alone, until)
        with self.cache.resting(rests):
            pixels = asked.run.result(node)
        if tap not in ("picture", "light"):
            pixels = shown(tap, pixels)
        return Picture(pixels, notices=tuple(dict.fromkeys(asked.planner.reader.notices)))

    def plan(
        self, title: Title, *, time: float = 0.0, scale: float = 1.0, window: Window | None = None
    ) -> Node[Array]:
        """The last node of a picture's plan: all others are its inputs. Nothing is rendered.

        Raises what `render` raises.
        """
        return picture_node(self._asked(title, time, scale, window, None), "picture")

    def expected(
        self, title: Title, *, time: float = 0.0, scale: float = 1.0, window: Window | None = None
    ) -> Estimate:
        """What a picture would take to render now, by what its nodes took so far. Raises what
        `render` raises."""
        asked = self._asked(title, time, scale, window, None)
        return asked.run.expected(picture_node(asked, "picture"))

    def _asked(
        self,
        title: Title,
        time: float,
        scale: float,
        window: Window | None,
        cancel: Cancel | None,
        part: Part = WHOLE_BUILD,
    ) -> Asked:
        if self._changes is None or self._changes.title is not title:
            self._changes = Changes(check_title(title))
        if not 0 <= time <= LATEST:
            raise RenderError(f"the time must be from 0 to {LATEST} seconds, not {time:g}")
        view = View(scale, region_of(title, scale, window), part)
        pause = (cancel or Cancel()).check
        run = Run(self.cache, self.rates, pause)
        self.made = run.made
        reader = Reader(library_at(title.home), self.cache)
        moment = Moment(time, title.frame.duration if title.frame.loops else None)
        return Asked(Planner(self._changes, moment, reader, run.result, pause), run, view)

    def data(
        self,
        title: Title,
        *,
        time: float = 0.0,
        scale: float = 1.0,
        cancel: Cancel | None = None,
    ) -> Data:
        """What stands in the picture as numbers, whatever the shutter does. Raises what `render`
        raises."""
        asked = self._asked(title, time, scale, None, cancel)
        return asked.run.result(data_node(asked.planner, asked.view))

    def planes(
        self,
        title: Title,
        layer: str,
        *,
        time: float = 0.0,
        scale: float = 1.0,
        cancel: Cancel | None = None,
    ) -> Planes:
        """What lies behind a layer's face, the face, and what lies before it, at their place in
        the picture. Raises what `render` raises."""
        asked = self._asked(title, time, scale, None, cancel)
        return asked.run.result(planes_node(asked.planner, asked.view, chosen_layer(title, layer)))

    def fields(
        self,
        title: Title,
        layer: str,
        *,
        time: float = 0.0,
        scale: float = 1.0,
        window: Window | None = None,
        before: str | None = None,
        cancel: Cancel | None = None,
    ) -> Fields:
        """The fields of one layer at their place in the frame, as numbers.

        With `before`, the id of a step, they are what that step is given. Raises what `render`
        raises.
        """
        part = Part(before=before, stages=FIELD_STAGES)
        asked = self._asked(title, time, scale, window, cancel, part)
        plan = layer_plan(asked, chosen_layer(title, layer))
        own = scale if not isinstance(plan.layer, Floor) else None

        def of(name: str, found: Field) -> Array:
            return asked.run.result(field_node(asked.planner, asked.view, plan, found, name))

        return Fields(
            of("matte", lambda piece, _: piece.matte),
            of("height", lambda piece, fine: _in_frame_pixels(piece.height, own or fine)),
            of("plain face", lambda piece, _: piece.face),
        )

    def box(
        self,
        title: Title,
        layer: str,
        *,
        before: str | None = None,
        time: float = 0.0,
        scale: float = 0.25,
        cancel: Cancel | None = None,
    ) -> Box:
        """Left, top, right and bottom of a layer's ink, in frame pixels from its own centre,
        before its card is placed. Raises what `render` raises."""
        part = Part(before=before, stages=SHAPE_STAGES)
        asked = self._asked(title, time, scale, None, cancel, part)
        plan = layer_plan(asked, chosen_layer(title, layer))
        piece = asked.run.result(plan.node)
        own = plan.scale if plan.scale > 0 else scale
        left, top, right, bottom = (side / own for side in piece.box)
        return left, top, right, bottom

    def parts(
        self,
        title: Title,
        *,
        layer: str | None = None,
        before: str | None = None,
        whole: bool = False,
        unseen: bool = False,
        time: float = 0.0,
        cancel: Cancel | None = None,
    ) -> list[Shard]:
        """The flat shapes that a title breaks apart into, from the back to the front: of each
        visible layer of lettering, shapes or a picture, or of one `layer`, as the steps before
        the one with the id `before` have built it; sides that are `whole` are not cut where
        others hide them, and with `unseen` sides that are not seen are there as empty ones. Raises
        what `render` raises, and RenderError where they are more than anyone can use."""
        asked = self._asked(title, time, 1.0, None, cancel)
        breaking = Breaking(asked.planner, asked.run)
        layers = (
            [each for each in title.layers if each.visible]
            if layer is None
            else [chosen_layer(title, layer)]
        )
        found: list[Shard] = []
        for each in layers:
            if isinstance(each, BROKEN_APART):
                around = asked.planner.setting(asked.view, layer_plan(asked, each)).around
                parts = parts_of(breaking, each, around, before, whole)
                found += parts if unseen else [part for part in parts if not part.area.is_empty]
        if len(found) > MOST_PARTS:
            raise RenderError(f"it breaks into {len(found):,} parts, more than {MOST_PARTS:,}")
        return found

    def cells(
        self,
        title: Title,
        layer: str,
        step: str,
        *,
        divided: int = 1,
        time: float = 0.0,
        cancel: Cancel | None = None,
    ) -> list[CellGrid]:
        """The grids in which the step with the id `step` paints cells, each cell `divided` into
        parts: one for each letter, or one for all, and one for each flat side that is seen. Empty
        where the step paints none. Raises what `render` raises."""
        asked = self._asked(title, time, 1.0, None, cancel)
        chosen = chosen_layer(title, layer)
        found = next((each for each in chosen.build if each.id == step), None)
        settings = found and has_cells(found, asked.planner.time)
        if not settings:
            return []
        breaking = Breaking(asked.planner, asked.run)
        plan, piece = breaking.piece(chosen, step)
        if plan.scale <= 0:
            return []
        around = asked.planner.setting(asked.view, plan).around

        def parts() -> tuple[NamedPart, ...]:
            if not isinstance(chosen, BROKEN_APART) or plan.card.seen_from[2] <= 0:
                return ()
            return tuple(card_parts(breaking, chosen, around, step)[1])

        return cell_grids(plan, replace(around, parts=parts), piece, settings, divided)


def _in_frame_pixels(height: Array, scale: float) -> Array:
    return np.asarray(height / np.float32(scale), np.float32)
