"""Making titles: a new one from a word and a finish, another word in the same look."""

from mabrel.compose.bundle import Bundle, bundled, unbundled
from mabrel.compose.finishes import finish_named, finishes
from mabrel.compose.making import apply_finish, new_title, swap
from mabrel.compose.sizing import look_height, resized_look
from mabrel.compose.words import Made, titles_from, word_list

__all__ = [
    "Bundle",
    "Made",
    "apply_finish",
    "bundled",
    "finish_named",
    "finishes",
    "look_height",
    "new_title",
    "resized_look",
    "swap",
    "titles_from",
    "unbundled",
    "word_list",
]
