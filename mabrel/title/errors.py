"""Errors in documents: always the place, always the rule."""

from collections.abc import Iterable
from typing import Any

from pydantic import ValidationError

# Pydantic puts the branch of a union into an error's place; a reader of the document knows none.
_ALWAYS = frozenset({"plain", "varying"})
_KINDS = frozenset(
    {"lettering", "picture", "shapes", "group", "copy", "backdrop", "plate", "floor", "wash"}
    | {"distant", "point", "spot", "colours", "screen"}
    | {"ellipse", "rectangle", "polygon", "tones", "matte"}
)
_EASES = frozenset({"bezier", "hold", "steps", "bounce", "spring"})
_OF_KINDS = frozenset({"where", "cut"})

_RULES = {
    "missing": "is missing",
    "extra_forbidden": "is not a known field",
    "finite_number": "must be a finite number",
    "float_type": "must be a number",
    "float_parsing": "must be a number",
    "int_type": "must be a whole number",
    "int_parsing": "must be a whole number",
    "int_from_float": "must be a whole number",
    "string_type": "must be text",
    "bool_type": "must be true or false",
    "bool_parsing": "must be true or false",
    "list_type": "must be a list",
    "tuple_type": "must be a list",
    "dict_type": "must be an object",
    "model_type": "must be an object",
    "model_attributes_type": "must be an object",
}

_LIMITS = {
    "greater_than_equal": ("must be at least {}", "ge"),
    "greater_than": ("must be more than {}", "gt"),
    "less_than_equal": ("must be at most {}", "le"),
    "less_than": ("must be less than {}", "lt"),
    "string_too_long": ("must be at most {} characters long", "max_length"),
    "string_too_short": ("must be at least {} characters long", "min_length"),
    "too_long": ("must have at most {} entries", "max_length"),
    "too_short": ("must have at least {} entries", "min_length"),
    "literal_error": ("must be one of {}", "expected"),
    "union_tag_invalid": ("must be one of {}", "expected_tags"),
}


class TitleError(ValueError):
    """A document breaks a rule.

    `place` is a path such as ``layers[1].build[3].settings.width`` (empty for the whole
    document), `rule` says what must hold. `str()` joins the two.
    """

    def __init__(self, place: str, rule: str) -> None:
        self.place = place
        self.rule = rule
        super().__init__(f"{place}: {rule}" if place else rule)


def place_of(parts: Iterable[int | str]) -> str:
    """Write a path as one would in a program: ``("layers", 1, "name")`` is ``layers[1].name``."""
    path = ""
    before: int | str = ""
    for part in parts:
        if isinstance(part, int):
            path += f"[{part}]"
        elif not _is_branch(part, before):
            path += f".{part}" if path else part
        before = part
    return path


def _is_branch(part: str, before: int | str) -> bool:
    """Whether a part names no field but which kind an entry of a list, or a field, is of."""
    if before == "ease" and part in _EASES:
        return True
    return part in _ALWAYS or (part in _KINDS and (isinstance(before, int) or before in _OF_KINDS))


def error_of(invalid: ValidationError, prefix: tuple[int | str, ...] = ()) -> TitleError:
    """The first fault that pydantic found, in this project's words."""
    fault = invalid.errors(include_url=False, include_input=False)[0]
    return TitleError(place_of((*prefix, *fault["loc"])), rule_of(fault))


def rule_of(fault: object) -> str:
    """Say in plain words what must hold, from one entry of `ValidationError.errors()`."""
    assert isinstance(fault, dict)
    kind, context = fault["type"], fault.get("ctx", {})
    if kind in _RULES:
        return _RULES[kind]
    if kind in _LIMITS:
        words, limit = _LIMITS[kind]
        bound = context[limit]
        if isinstance(bound, float) and bound.is_integer():
            bound = int(bound)
        return words.format(bound)
    if kind == "union_tag_not_found":
        return f"must have a {context['discriminator']}"
    if kind == "value_error":
        return str(context["error"])
    return str(fault["msg"])


def check_switches(raw: Any, read: Any, place: tuple[int | str, ...] = ()) -> None:
    """Hold what was read against what was written: `true` is no number, though it can be read as
    one. Raises TitleError with the place."""
    if isinstance(raw, bool):
        if type(read) in (int, float):
            raise TitleError(place_of(place), "must be a number")
    elif isinstance(raw, dict):
        inside = read if isinstance(read, dict) else getattr(read, "__dict__", {})
        for name, value in raw.items():
            check_switches(value, inside.get(name), (*place, name))
    elif isinstance(raw, list) and isinstance(read, list | tuple):
        for index, (value, found) in enumerate(zip(raw, read, strict=False)):
            check_switches(value, found, (*place, index))
