"""Cut-outs: letters from an emblem, a figure from before a green wall."""

import cv2
import numpy as np
import pytest

from mabrel.source.cutting import cut_by_colours, cut_from_screen
from tests.engine.shapes import disc

NAVY, CREAM = np.array([0.09, 0.2, 0.29]), np.array([0.95, 0.92, 0.84])
GREEN = np.array([0.0, 0.69, 0.25])


def opaque(colour: np.ndarray) -> np.ndarray:
    return np.dstack([colour, np.ones(colour.shape[:2])]).astype(np.float32)


def two_discs() -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Two cream discs, antialiased, on navy: the picture and the coverage of each."""
    left, right = disc(14, 80, 20, 40), disc(12, 80, 60, 40)
    share = (left + right)[..., None]
    return opaque(CREAM * share + NAVY * (1 - share)), left, right


def test_picked_colours_are_taken_everywhere_with_exact_edges() -> None:
    picture, left, right = two_discs()
    cut = cut_by_colours(picture, [(0.25, 0.5)], tolerance=0.1, contiguous=False)
    assert cut[..., 3] == pytest.approx(left + right, abs=0.03)
    seen = cut[..., 3] > 0.02
    pure = cut[seen][:, :3] / cut[seen][:, 3:]
    assert np.abs(pure - CREAM).max() < 0.02, "navy has stayed in the edge"


def test_contiguous_takes_what_hangs_together_with_the_pick() -> None:
    picture, left, _ = two_discs()
    cut = cut_by_colours(picture, [(0.25, 0.5)], tolerance=0.1, contiguous=True)
    assert cut[..., 3] == pytest.approx(left, abs=0.03)


def test_more_picks_add_and_the_rest_is_the_opposite() -> None:
    picture, left, right = two_discs()
    picks = [(0.25, 0.5), (0.75, 0.5)]
    both = cut_by_colours(picture, picks, tolerance=0.1, contiguous=True)
    assert both[..., 3] == pytest.approx(left + right, abs=0.03)
    rest = cut_by_colours(picture, picks, tolerance=0.1, contiguous=True, rest=True)
    assert rest[..., 3] == pytest.approx(1 - left - right, abs=0.03)


def test_tolerance_is_a_distance_that_the_eye_would_judge() -> None:
    ramp = np.linspace(0, 1, 200)[None, :, None] * np.ones((20, 1, 3))
    narrow = cut_by_colours(opaque(ramp), [(0.5, 0.5)], tolerance=0.05, contiguous=False)
    wide = cut_by_colours(opaque(ramp), [(0.5, 0.5)], tolerance=0.2, contiguous=False)
    assert 0.05 < narrow[..., 3].mean() < 0.5 * wide[..., 3].mean()


def test_a_soft_edge_is_soft() -> None:
    picture, left, _ = two_discs()
    cut = cut_by_colours(picture, [(0.25, 0.5)], tolerance=0.1, contiguous=True, soft=3)
    assert cut[..., 3].sum() == pytest.approx(left.sum(), rel=0.03)
    assert ((cut[..., 3] > 0.1) & (cut[..., 3] < 0.9)).sum() > 3 * (
        (left > 0.1) & (left < 0.9)
    ).sum()


def figure_before_green() -> tuple[np.ndarray, np.ndarray]:
    """A head with hair a pixel and less wide, before an unevenly lit green wall."""
    size = 240
    matte = disc(52, size, 120, 130)
    hair = np.zeros((size * 4, size * 4), np.uint8)
    draw = np.random.default_rng(5)
    for angle in draw.uniform(np.pi, 2 * np.pi, 90):
        start = np.array([480, 520]) + 200 * np.array([np.cos(angle), np.sin(angle)])
        end = start + draw.uniform(60, 180) * np.array([np.cos(angle + 0.3), np.sin(angle + 0.3)])
        cv2.line(hair, tuple(start.astype(int)), tuple(end.astype(int)), 255, 2, cv2.LINE_AA)
    fine = cv2.resize(hair, (size, size), interpolation=cv2.INTER_AREA) / 255
    matte = np.maximum(matte, fine).astype(np.float32)
    skin = np.where(fine > matte * 0.5, 1, 0)[..., None] * np.array([0.22, 0.13, 0.08])
    own = np.where(disc(52, size, 120, 130)[..., None] > 0.5, [0.78, 0.58, 0.48], skin)
    own = np.where(own.sum(axis=-1, keepdims=True) == 0, [0.22, 0.13, 0.08], own)
    light = 0.92 + 0.08 * np.linspace(0, 1, size)[None, :, None]
    return opaque(own * matte[..., None] + GREEN * light * (1 - matte[..., None])), matte


def test_a_figure_leaves_the_green_wall_with_its_hair_and_without_a_green_rim() -> None:
    picture, matte = figure_before_green()
    cut = cut_from_screen(picture, tuple(GREEN), tolerance=0.1)
    alpha = cut[..., 3]
    assert np.abs(alpha - matte).mean() < 0.02
    assert alpha[:20, :20].max() == 0, "the wall is not clean"
    hair = (matte > 0.15) & (matte < 0.9)
    assert hair.sum() > 800
    assert np.corrcoef(alpha[hair], matte[hair])[0, 1] > 0.95
    over_white = cut[..., :3] + (1 - alpha[..., None])
    green_rim = over_white[..., 1] - np.maximum(over_white[..., 0], over_white[..., 2])
    assert green_rim[matte > 0.02].max() < 0.03


def test_a_blue_screen_works_like_a_green_one() -> None:
    blue = np.array([0.1, 0.25, 0.85])
    matte = disc(30, 100, 50, 50)[..., None]
    red = np.array([0.8, 0.2, 0.1])
    cut = cut_from_screen(opaque(red * matte + blue * (1 - matte)), tuple(blue), tolerance=0.02)
    assert cut[..., 3] == pytest.approx(matte[..., 0], abs=0.05)


def test_spill_is_taken_out_as_far_as_one_says() -> None:
    grey_in_green_light = opaque(np.ones((8, 8, 3)) * np.array([0.5, 0.56, 0.5]))
    kept = cut_from_screen(grey_in_green_light, tuple(GREEN), softness=0.5, spill=0)
    clean = cut_from_screen(grey_in_green_light, tuple(GREEN), softness=0.5, spill=1)

    def green(cut: np.ndarray) -> float:
        colour = cut[4, 4, :3] / cut[4, 4, 3]
        return float(colour[1] - max(colour[0], colour[2]))

    assert green(clean) < 0.005 < green(kept)


def test_half_covered_hair_has_its_own_colour() -> None:
    """What came out as (77, 75, 48) where (74, 57, 44) is right."""
    picture, matte = figure_before_green()
    cut = cut_from_screen(picture, tuple(GREEN), tolerance=0.1)
    hair = (matte > 0.2) & (matte < 0.8) & (cut[..., 3] > 0.1)
    hair[100:] = False  # the head
    pure = cut[hair][:, :3] / cut[hair][:, 3:]
    wrong = np.abs(np.median(pure, axis=0) - [0.22, 0.13, 0.08]) * 255
    assert wrong.max() < 8
    stronger = cut_from_screen(picture, tuple(GREEN), tolerance=0.1, balance=1)
    was = np.median(stronger[hair][:, 1] / stronger[hair][:, 3])
    assert was > np.median(pure[:, 1])


def test_the_edge_is_choked_and_coloured_from_inside() -> None:
    picture, matte = figure_before_green()
    plain = cut_from_screen(picture, tuple(GREEN))
    tight = cut_from_screen(picture, tuple(GREEN), choke=0.4)
    full = cut_from_screen(picture, tuple(GREEN), choke=-0.4)
    assert tight[..., 3].sum() < plain[..., 3].sum() < full[..., 3].sum()
    faint = (plain[..., 3] > 0) & (plain[..., 3] < 0.38)
    assert tight[faint][:, 3].max() == 0
    ring = (disc(54, 240, 120, 130) > 0.5) & (matte > 0.1) & (matte < 0.6)
    ring[:120] = False  # without the hair
    lit = picture.copy()
    lit[ring, :3] += np.array(
        [0.25, 0.25, 0.25]
    )  # light from behind, which is no colour of its own
    off = [
        np.abs(each[ring][:, :3] / each[ring][:, 3:] - [0.78, 0.58, 0.48]).mean()
        for each in (cut_from_screen(lit, tuple(GREEN), inside=amount) for amount in (0, 1))
    ]
    assert off[1] < 0.8 * off[0]


def test_two_picked_neighbours_leave_no_crack() -> None:
    blue, yellow = np.array([0.15, 0.3, 0.75]), np.array([0.95, 0.8, 0.2])
    side = np.clip(np.arange(100)[None, :, None] - 49.4, 0, 1)  # half a pixel of both
    inside = disc(30, 100, 50, 50)[..., None]
    picture = opaque((blue * (1 - side) + yellow * side) * inside + NAVY * (1 - inside))
    cut = cut_by_colours(picture, [(0.3, 0.5), (0.7, 0.5)], tolerance=0.08, contiguous=True)
    assert cut[30:70, 45:55, 3].min() > 0.99
    assert cut[..., 3] == pytest.approx(inside[..., 0], abs=0.06)


def test_a_grey_wall_can_not_be_told_apart() -> None:
    with pytest.raises(ValueError, match="hue"):
        cut_from_screen(opaque(np.ones((4, 4, 3)) * 0.5), (0.5, 0.5, 0.5))
