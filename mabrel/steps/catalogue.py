"""The catalogue: every step that there is, found in the folders of the stages."""

import importlib
import pkgutil
from functools import cache
from typing import Any

from mabrel.steps.kind import STAGES, StepKind
from mabrel.title.describing import settings_of


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
    `writes`, `lit` and `settings`, a list of objects as `mabrel.title.describing.Setting` has
    them.
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
            "settings": [each._asdict() for each in settings_of(kind.settings, moving=True)],
        }
        for kind in kinds().values()
    ]
