"""Cards, the camera that sees them, and the lights that fall on them."""

from mabrel.camera.card import Card, Matrix, card_at, floor_card, rows_of, swung
from mabrel.camera.rig import light_at, lights_at

__all__ = [
    "Card",
    "Matrix",
    "card_at",
    "floor_card",
    "light_at",
    "lights_at",
    "rows_of",
    "swung",
]
