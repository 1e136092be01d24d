"""A plane that faces the viewer, for what is drawn around a body beside its card."""

import math

import numpy as np

from mabrel.steps.body import Beside, Stretch
from mabrel.steps.planes.projections import Array, Matrix, shown
from mabrel.steps.region import Margin, Region

_LEAST = math.sin(math.radians(9))  # of its height, that the card's seen width counts at least
_LARGEST = 4_000_000  # pixels of such a plane


class FacingPlane:
    """Here lengths are as long as on the card of a body, however that is turned, at `scale`.

    A card from whose edge one sees counts as if it were turned a little less, so that an outline
    keeps some of its width all around.
    """

    def __init__(self, body: Beside, reach: float) -> None:
        """With room for what reaches so far, in render pixels of the card, beyond the body."""
        across, lengths, _ = np.linalg.svd(np.array(body.stretch))
        lengths = np.maximum(lengths, lengths[0] * _LEAST)
        self.target = _around(body.region, body.stretch, reach)
        wide = self.target.area / float(lengths.prod())
        self.scale = min(1.0, math.sqrt(_LARGEST / max(wide, 1.0)))
        self._matrix: Matrix = np.eye(3)
        self._matrix[:2, :2] = np.diag(self.scale / lengths) @ across.T
        self.region = _bounds(self._matrix, self.target)

    def laid(self, plane: Array, region: Region) -> Array:
        """What lies in a region of the picture, here."""
        return shown(plane, self._matrix, region, self.region)

    def seen(self, plane: Array) -> Array:
        """What lies here, over the target in the picture."""
        back = np.asarray(np.linalg.inv(self._matrix), np.float64)
        return shown(plane, back, self.region, self.target)


def room_around(stretch: Stretch, reach: float) -> Margin:
    """The room in the picture for what reaches so far on the card."""
    most = math.ceil(reach * float(np.linalg.norm(np.array(stretch), 2))) + 3
    return Margin(most, most, most, most)


def _around(region: Region, stretch: Stretch, reach: float) -> Region:
    return region.grown(room_around(stretch, reach))


def _bounds(matrix: Matrix, region: Region) -> Region:
    """All that a region is after `matrix`."""
    corners = [(x, y, 1) for x in (region.left, region.right) for y in (region.top, region.bottom)]
    x, y = (np.array(corners) @ matrix.T)[:, :2].T
    left, top = math.floor(x.min()), math.floor(y.min())
    return Region(left, top, math.ceil(x.max()) - left, math.ceil(y.max()) - top)
