"""Documents without some of what they show."""

from mabrel import Title
from mabrel.title import Backdrop, Floor


def without_backdrops(document: Title) -> Title:
    """Its backdrops and floors hidden, not taken away: others may show one or take its matte."""
    layers = [
        layer.model_copy(update={"visible": False})
        if isinstance(layer, Backdrop | Floor)
        else layer
        for layer in document.layers
    ]
    return document.model_copy(update={"layers": layers})
