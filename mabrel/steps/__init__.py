"""Steps: a folder per stage, a file per step."""

from mabrel.steps.cast import Cast
from mabrel.steps.catalogue import catalogue, kind_of, kinds
from mabrel.steps.extent import Bound, Extent
from mabrel.steps.kind import STAGES, StepKind, StepSettings
from mabrel.steps.mixing import mixed
from mabrel.steps.named_files import files_of, files_of_build, with_files
from mabrel.steps.piece import Array, Piece
from mabrel.steps.references import build_refers_to, layers_referred_to, settings_of_kind
from mabrel.steps.region import Margin, Region
from mabrel.steps.scaling import scaled_build
from mabrel.steps.scene import Scene, Surroundings
from mabrel.steps.settings import check_build, check_title, settings_at, varying_settings
from mabrel.steps.where import weights, where_at

__all__ = [
    "STAGES",
    "Array",
    "Bound",
    "Cast",
    "Extent",
    "Margin",
    "Piece",
    "Region",
    "Scene",
    "StepKind",
    "StepSettings",
    "Surroundings",
    "build_refers_to",
    "catalogue",
    "check_build",
    "check_title",
    "files_of",
    "files_of_build",
    "kind_of",
    "kinds",
    "layers_referred_to",
    "mixed",
    "scaled_build",
    "settings_at",
    "settings_of_kind",
    "varying_settings",
    "weights",
    "where_at",
    "with_files",
]
