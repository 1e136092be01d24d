"""Pictures without alpha: laid over a colour."""

import numpy as np

from mabrel.colour import over, rgb_and_alpha
from mabrel.render import Picture


def laid_over(picture: Picture, code: str) -> Picture:
    """A picture over one colour, whose own alpha is of no account: opaque all over.

    Raises ValueError for a code that is none.
    """
    colour, _ = rgb_and_alpha(code)
    ground = np.ones(picture.pixels.shape, np.float32)
    ground[..., :3] = colour
    return Picture(over(ground, picture.pixels), notices=picture.notices)
