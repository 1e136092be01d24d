"""What the lettering casts on its surroundings."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from mabrel.colour import over
from mabrel.steps.region import Region


@dataclass(frozen=True)
class Cast:
    """What the lettering casts on floors and walls: shadows and reflections.

    It lies in the picture as the viewer sees it, not on the card: however the card is turned, it
    is no larger than what the frame shows.
    """

    region: Region
    """In the picture's own render pixels, from the layer's origin."""
    pixels: NDArray[np.float32]
    """(H, W, 4), over `region`."""

    def grown_to(self, region: Region) -> "Cast":
        """The same over a region that holds its own."""
        if region == self.region:
            return self
        wide = np.zeros((region.height, region.width, 4), np.float32)
        wide[self.region.within(region)] = self.pixels
        return Cast(region, wide)

    def over(self, below: "Cast | None") -> "Cast":
        """Both, over a region that holds them."""
        if below is None:
            return self
        region = self.region.joined(below.region)
        return Cast(region, over(below.grown_to(region).pixels, self.grown_to(region).pixels))
