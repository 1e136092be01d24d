"""Making titles: a new one from a word and a finish, another word in the same look."""

from mabrel.compose.finishes import finish_named, finishes
from mabrel.compose.making import apply_finish, new_title, resized_look, swap

__all__ = ["apply_finish", "finish_named", "finishes", "new_title", "resized_look", "swap"]
