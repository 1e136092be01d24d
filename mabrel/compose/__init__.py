"""Making titles: a new one from a word and a finish, another word in the same look."""

from mabrel.compose.adding import with_layer, with_step
from mabrel.compose.arrivals import arrival_named, arrivals, parse_arrival
from mabrel.compose.bundle import Bundle, bundled, unbundled
from mabrel.compose.finishes import finish_named, finishes
from mabrel.compose.keeping import arrival_of
from mabrel.compose.making import apply_finish, new_title, swap
from mabrel.compose.moving import lay
from mabrel.compose.sizing import lights_along, look_height, resized_look
from mabrel.compose.words import Made, titles_from, word_list

__all__ = [
    "Bundle",
    "Made",
    "apply_finish",
    "arrival_named",
    "arrival_of",
    "arrivals",
    "bundled",
    "finish_named",
    "finishes",
    "lay",
    "lights_along",
    "look_height",
    "new_title",
    "parse_arrival",
    "resized_look",
    "swap",
    "titles_from",
    "unbundled",
    "with_layer",
    "with_step",
    "word_list",
]
