"""Steps: a folder per stage, a file per step."""

from mabrel.steps.catalogue import catalogue, kind_of, kinds
from mabrel.steps.kind import STAGES, Scene, StepKind, StepSettings
from mabrel.steps.piece import Array, Piece, mixed
from mabrel.steps.region import Margin, Region
from mabrel.steps.scaling import scaled_build
from mabrel.steps.settings import check_build, check_title, settings_at

__all__ = [
    "STAGES",
    "Array",
    "Margin",
    "Piece",
    "Region",
    "Scene",
    "StepKind",
    "StepSettings",
    "catalogue",
    "check_build",
    "check_title",
    "kind_of",
    "kinds",
    "mixed",
    "scaled_build",
    "settings_at",
]
