"""Where the letters stand: how far below the frame's centre a floor without a level of its own
lies."""

from mabrel.camera import rows_of
from mabrel.render.layer import LayerPlan, Plans
from mabrel.render.running import Measure
from mabrel.render.view import Part, View, whole_frame
from mabrel.steps import STAGES, Extent, Scene, Surroundings
from mabrel.steps.planes.projections import floor_level
from mabrel.title import Layer, Placed

_STAGES = tuple(stage for stage in STAGES if stage not in ("ground", "lens"))
_COARSE = 800  # pixels along the longer side of the frame at which ink is looked for


def touched_level(plans: Plans, measure: Measure, floor: Layer) -> float:
    """How far below the frame's centre the lowest ink before a floor lies, in frame pixels.

    An outline and its placement tell. Only where steps change the shape in a way that no outline
    follows are those steps made, and no others, on a coarse grid.
    """
    layers = plans.title.layers
    before = layers[layers.index(floor) + 1 :]
    reached = [
        found
        for layer in before
        if isinstance(layer, Placed) and layer.visible
        if (found := _reach(plans, measure, layer)) is not None
    ]
    return max(reached, default=0.0)


def _reach(plans: Plans, measure: Measure, layer: Layer) -> float | None:
    plan = _solid(plans, layer, None)
    extent: Extent = plan.bound
    if not _tells(plan):
        frame = plans.title.frame
        plan = _solid(plans, layer, min(_COARSE / max(frame.width, frame.height), 1.0))
        extent = measure(plan.node)
    scene = Scene(plan.scale, Surroundings(upright=rows_of(plan.card.upright)))
    reach = floor_level(extent, scene)
    if reach is None or plan.scale <= 0:
        return None
    return plan.card.level + (reach - plan.shift[1]) / plan.scale * plan.card.scale


def _tells(plan: LayerPlan) -> bool:
    """Whether the bound of a layer is as low as its ink."""
    upright = abs(plan.card.down[0]) < 1e-6
    return plan.bound.exact and (plan.bound.outline is not None or upright)


def _solid(plans: Plans, layer: Layer, scale: float | None) -> LayerPlan:
    """A layer with nothing but the steps that change what is solid of it; without a `scale` as
    large as its own settings say, wherever a camera that moves sees it from."""
    card = plans.card(layer)
    if scale is None:
        scale = 1 / card.magnification if card.magnification > 0 else 1.0
    part = Part(stages=_STAGES, solid=True)
    view = View(scale, whole_frame(plans.title.frame, scale), part, framed=False)
    return plans.layer(view, layer, card)
