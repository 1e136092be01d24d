"""Changing one setting from the command line: ``LAYER.STEP.SETTING=VALUE``."""

import json

from mabrel.steps import check_title, kind_of
from mabrel.title import Layer, Title, TitleError, parse_title


def with_setting(title: Title, assignment: str) -> Title:
    """The title with one setting changed.

    LAYER is an id or name, STEP a kind such as ``bevel``, ``relief.bevel`` or ``bevel#2`` for
    the second of that kind. The value is JSON; what is no JSON counts as text. Raises
    TitleError where something is not there or the value is out of its limits.
    """
    path, equals, written = assignment.partition("=")
    parts = path.rsplit(".", 1)
    if not equals or len(parts) != 2:
        raise TitleError("--set", f"is written LAYER.STEP.SETTING=VALUE, not {assignment!r}")
    target, setting = parts
    layer, number = _found(title, target, assignment)
    document = title.model_dump(mode="json")
    index = [each.id for each in title.layers].index(layer.id)
    step = document["layers"][index]["build"][number]
    if setting not in kind_of(step["step"]).settings.model_fields:
        raise TitleError("--set", f"step {step['step']} has no setting {setting!r}")
    step["settings"][setting] = _value(written)
    return check_title(parse_title(document).at_home(title.home))


def _value(written: str) -> object:
    try:
        return json.loads(written)
    except json.JSONDecodeError:
        return written


def _found(title: Title, target: str, assignment: str) -> tuple[Layer, int]:
    """The layer and the number of its step; layer names may have dots in them too."""
    for cut in (i for i, character in enumerate(target) if character == "."):
        try:
            layer = title.layer(target[:cut])
        except KeyError:
            continue
        return layer, _step_number(layer, target[cut + 1 :])
    raise TitleError("--set", f"there is no layer for {assignment!r}")


def _step_number(layer: Layer, named: str) -> int:
    kind, _, which = named.partition("#")
    if which and not which.isdigit():
        raise TitleError("--set", f"a second step is written {kind}#2, not {named!r}")
    matching = [
        number
        for number, step in enumerate(layer.build)
        if step.step == kind or step.step.split(".")[-1] == kind
    ]
    wanted = int(which or 1)
    if not 1 <= wanted <= len(matching):
        raise TitleError("--set", f"layer {layer.name or layer.id!r} has no step {named!r}")
    return matching[wanted - 1]
