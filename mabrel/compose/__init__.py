"""Making titles: a new one from a word and a finish, another word in the same look."""

from mabrel.compose.finishes import finish_named, finishes
from mabrel.compose.making import apply_finish, new_title, swap
from mabrel.compose.sizing import look_height, resized_look

__all__ = [
    "apply_finish",
    "finish_named",
    "finishes",
    "look_height",
    "new_title",
    "resized_look",
    "swap",
]
