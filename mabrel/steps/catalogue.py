"""The catalogue: every step that there is, found in the folders of the stages."""

import importlib
import pkgutil
from functools import cache
from typing import Any

from mabrel.steps.kind import STAGES, StepKind


@cache
def kinds() -> dict[str, StepKind]:
    """All steps by name, in working order of their stages."""
    found: dict[str, StepKind] = {}
    for stage in STAGES:
        package = importlib.import_module(f"mabrel.steps.{stage}")
        for module in pkgutil.iter_modules(package.__path__):
            contents = importlib.import_module(f"{package.__name__}.{module.name}")
            for each in vars(contents).values():
                if isinstance(each, StepKind):
                    found[each.name] = each
    return found


def kind_of(name: str) -> StepKind:
    """The step of this name. Raises KeyError where there is none."""
    return kinds()[name]


def catalogue() -> list[dict[str, Any]]:
    """Every step with stage, help and settings; the interface builds its controls from this.

    Each entry has `step`, `stage`, `label`, `help`, `words` (what it is looked for by), `reads`,
    `writes`, `lit` and `settings`, a list of objects with `name`, `label`, `kind`, `unit`, `low`,
    `high`, `default`, `choices`, `help`, `when` (the other settings' values beside which it
    counts, or null) and `grip` (how it is dragged on the picture, or null; see `kinds`).
    """
    return [
        {
            "step": kind.name,
            "stage": kind.stage,
            "label": kind.label,
            "help": kind.help,
            "reads": list(kind.reads),
            "writes": list(kind.writes),
            "lit": kind.lit,
            "words": kind.words,
            "settings": _settings(kind),
        }
        for kind in kinds().values()
    ]


def _settings(kind: StepKind) -> list[dict[str, Any]]:
    properties = kind.settings.model_json_schema()["properties"]
    defaults = kind.settings().model_dump(mode="json")
    return [
        {
            "name": name,
            "label": name.replace("_", " ").capitalize(),
            "kind": schema["kind"],
            "unit": schema.get("unit", ""),
            "low": schema.get("minimum"),
            "high": schema.get("maximum"),
            "default": defaults[name],
            "choices": schema.get("enum"),
            "help": schema.get("description", ""),
            "when": schema.get("when"),
            "grip": schema.get("grip", "place" if schema["kind"] == "point" else None),
        }
        for name, schema in properties.items()
    ]
