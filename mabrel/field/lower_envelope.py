"""The lower envelope of parabolas over one line of pixels: how far each is from what is nearest.

Felzenszwalb and Huttenlocher, Distance transforms of sampled functions, Theory of Computing 8,
2012, doi:10.4086/toc.2012.v008a019.
"""

import numpy as np

from mabrel.field.edge_pieces import PAD
from mabrel.kernels import kernel

FAR = np.float32(1e9)
"""As far as nothing is."""


@kernel(fastmath={"contract", "reassoc"})
def lower_envelope(places, here, sites, among, heights, starts):  # type: ignore[no-untyped-def]
    """Of the parabolas above one line of centres, at the first `among` of `sites`, those that are
    lowest somewhere: in order, that at `sites[i]`, `heights[i]` high, from `starts[i]` on. Returns
    how many. `places` are those of the crossings across the line, which lies at `here`."""
    half = np.float32(0.5)
    count = 0
    starts[0] = FAR
    for candidate in range(among):
        at = sites[candidate]
        drop = places[int(at)] - here
        if abs(drop) >= half * FAR:
            continue
        rise = drop * drop
        start = -FAR
        while count > 0:
            before = sites[count - 1]
            start = half * ((rise - heights[count - 1]) / (at - before) + (at + before))
            if start > starts[count - 1]:
                break
            count -= 1
            start = -FAR
        sites[count], heights[count], starts[count] = at, rise, start
        count += 1
        starts[count] = FAR
    return count


@kernel()
def look_up(sites, heights, starts, squared):  # type: ignore[no-untyped-def]
    """The height of a lower envelope at each centre of its line, and anything in the `PAD` places
    beyond."""
    if starts[0] == FAR:
        squared[:] = FAR * FAR
        return
    x, site, end = 0, 0, squared.shape[0] - PAD
    while x < end:
        last = end_of(starts, site, end)
        ahead, rise = np.float32(x) - sites[site], heights[site]
        here = squared[x : x + PAD]
        for i in range(PAD):  # at once: most parabolas are the lowest in a few places only
            over = ahead + np.float32(i)
            here[i] = over * over + rise
        here = squared[x:last]
        for i in range(PAD, last - x):
            over = ahead + np.float32(i)
            here[i] = over * over + rise
        x = max(last, x)
        site += 1


@kernel(inline="always")
def end_of(starts, site, end):  # type: ignore[no-untyped-def]
    """Where the next parabola becomes the lowest one."""
    return min(int(max(np.ceil(starts[site + 1]), np.float32(0))), end)
