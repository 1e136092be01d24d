"""Shape steps: the outline grown, bent, pushed aside, joined and backed."""

import cv2
import numpy as np
import pytest

from mabrel import render
from tests.engine.steps.trial import RADIUS, piece, run
from tests.engine.trial_titles import step, titled


class TestEdge:
    def radius_of(self, **settings) -> float:
        return float(np.sqrt(run("shape.edge", **settings).matte.sum() / np.pi))

    @pytest.mark.parametrize("grow", [-12, 0, 9])
    def test_it_grows_and_shrinks(self, grow: float) -> None:
        assert self.radius_of(grow=grow, radius=0) == pytest.approx(RADIUS + grow, abs=0.1)

    def test_a_disc_has_no_corners_to_round(self) -> None:
        assert self.radius_of(grow=0, radius=10) == pytest.approx(RADIUS, abs=0.25)

    def test_corners_become_arcs_of_their_radius(self) -> None:
        square = np.zeros((120, 120), np.float32)
        square[30:90, 30:90] = 1
        done = run("shape.edge", piece(square), grow=0, radius=15)
        lost = 60 * 60 - done.matte.sum()
        assert lost == pytest.approx((4 - np.pi) * 15**2, rel=0.12)  # the edge rounds a little too

    def test_inner_corners_fill_and_narrow_gaps_close(self) -> None:
        notched = np.zeros((120, 120), np.float32)
        notched[30:90, 30:90] = 1
        notched[30:60, 56:64] = 0
        apart = run("shape.edge", piece(notched), grow=0, radius=0, inner=0)
        joined = run("shape.edge", piece(notched), grow=0, radius=0, inner=6)
        room = (joined.matte.shape[0] - 120) // 2
        middle = (slice(40 + room, 55 + room), slice(58 + room, 62 + room))
        assert joined.matte[middle].min() > 0.99
        assert apart.matte.sum() == pytest.approx(notched.sum(), rel=5e-3)

    def test_all_the_way_in_nothing_is_left(self) -> None:
        assert run("shape.edge", grow=-60, radius=0).matte.max() == 0


def outlined(build, word="HO", tap="matte", **how) -> np.ndarray:
    title = titled([build] if isinstance(build, dict) else build, word=word, **how)
    return render(title, tap=tap).pixels[..., 0]


class TestWarps:
    """Bend, wobble, corners and stretch move every point of the outline."""

    WARPS = (
        step("shape.bend", amount=80),
        step("shape.bend", amount=-80),
        step("shape.bend", form="swell"),
        step("shape.bend", form="wave", height=12, length=80),
        step("shape.bend", form="twist", twist=40),
        step("shape.wobble"),
        step("shape.corners", top_left=[10, 6], bottom_right=[0, 12]),
        step("shape.stretch", amount=20),
    )

    @pytest.mark.parametrize("warp", WARPS)
    def test_a_picture_is_bent_as_an_outline_is(self, warp: dict) -> None:
        """By inverse lookup where there is no outline, by moving points where there is one."""
        from_outline = outlined(warp)
        without = outlined([step("shape.edge", grow=0, radius=0), warp])
        assert np.abs(from_outline - without).mean() < 0.004

    @pytest.mark.parametrize("warp", WARPS)
    def test_edges_stay_as_sharp_as_they_were(self, warp: dict) -> None:
        plain, bent = outlined([]), outlined(warp)

        def soft(matte: np.ndarray) -> int:
            return int(((matte > 0.02) & (matte < 0.98)).sum())

        assert soft(bent) < 1.8 * soft(plain)

    @pytest.mark.parametrize("warp", WARPS)
    def test_nothing_is_cut_off_at_a_box(self, warp: dict) -> None:
        room = outlined(warp, frame=(400, 300))
        bounds = np.nonzero(room > 0.5)
        done = render(titled([warp], word="HO", frame=(400, 300)), scale=1).pixels[..., 3]
        assert done[room > 0.99].min() > 0.98
        assert min(bounds[0]) > 0
        assert max(bounds[1]) < 399

    def test_an_arc_keeps_lengths_along_the_middle(self) -> None:
        bar = outlined(step("shape.bend", amount=90), word="—", size=120, frame=(300, 200))
        flat = outlined([], word="—", size=120, frame=(300, 200))
        assert bar.sum() == pytest.approx(flat.sum(), rel=0.02)

    def test_a_full_circle_closes(self) -> None:
        ring = outlined(
            step("shape.bend", amount=340), word="HHHHHHHHHH", size=40, frame=(400, 300)
        )
        rows, columns = np.nonzero(ring > 0.5)
        tall, wide = np.ptp(rows), np.ptp(columns)
        assert tall == pytest.approx(wide, rel=0.12)

    def test_the_surface_bends_along(self) -> None:
        ramp = step("surface.gradient", angle=0)
        plain = outlined([ramp], tap="face")
        bent = outlined([ramp, step("shape.bend", amount=120)], tap="face")
        assert np.abs(plain - bent).max() > 0.1

    def test_corners_that_would_fold_the_lettering_are_held_back(self) -> None:
        folded = step("shape.corners", top_left=[400, 400], bottom_right=[-400, -400])
        seen = outlined(folded)
        assert np.isfinite(seen).all()
        assert seen.sum() > 100

    def test_stretch_leaves_what_lies_beyond_the_band_as_it_is(self) -> None:
        plain = outlined([], word="I", size=80)
        longer = outlined(step("shape.stretch", amount=30, blend=0), word="I", size=80)
        assert longer.sum() > plain.sum()
        tops = [np.nonzero(m.max(axis=1) > 0.5)[0].min() for m in (plain, longer)]
        assert tops[0] - tops[1] == pytest.approx(15, abs=1)
        assert longer[tops[1] : tops[1] + 8] == pytest.approx(
            plain[tops[0] : tops[0] + 8], abs=0.02
        )


class TestDisplace:
    def test_grey_leaves_all_where_it_is_and_white_pushes_right(self) -> None:
        def ground(colour: str) -> dict:
            return {"kind": "backdrop", "id": "map", "visible": False, "source": {"colour": colour}}

        pushed = step("shape.displace", map="layer:map", across=40, down=0, soften=0)
        plain = outlined([])
        grey = outlined(pushed, beneath=[ground("#808080")])
        white = outlined(pushed, beneath=[ground("#ffffff")])
        black = outlined(pushed, beneath=[ground("#000000")])
        assert grey == pytest.approx(plain, abs=0.1)
        assert white == pytest.approx(np.roll(plain, 20, axis=1), abs=0.01)
        assert black == pytest.approx(np.roll(plain, -20, axis=1), abs=0.01)

    def test_two_maps_push_in_two_directions(self) -> None:
        white = {"kind": "backdrop", "id": "map", "visible": False, "source": {"colour": "#ffffff"}}
        grey = white | {"id": "down", "source": {"colour": "#000000"}}
        both = step("shape.displace", map="layer:map", map_down="layer:down", across=20, down=20,
                    soften=0)  # fmt: skip
        seen = outlined(both, beneath=[white, grey])
        assert seen == pytest.approx(np.roll(outlined([]), (-10, 10), axis=(0, 1)), abs=0.01)


class TestOrnament:
    @pytest.mark.parametrize("form", ["drop", "splat", "star", "gear", "ring"])
    def test_joined_there_is_more_and_cut_there_is_less(self, form: str) -> None:
        how = {"form": form, "size": 14, "count": 6, "place": "field"}
        plain = outlined([]).sum()
        assert outlined(step("shape.ornament", **how)).sum() > plain + 50
        assert outlined(step("shape.ornament", combine="cut", **how)).sum() < plain - 50

    def test_an_ornament_takes_the_same_look(self) -> None:
        star = step(
            "shape.ornament", form="star", place="point", centre=[90, -50], count=1, size=20
        )
        height = outlined([star, step("relief.inflate")], tap="height")
        assert height[20:40, 200:220].max() > 0.2

    def test_a_picture_takes_ornaments_too(self) -> None:
        """Where there is no outline to join them to, coverage is joined."""
        star = step("shape.ornament", form="star", place="point", count=1, size=30)
        joined = outlined(star)
        without = outlined([step("shape.edge", grow=0, radius=0), star])
        assert np.abs(joined - without).mean() < 0.003

    def test_drops_hang_from_the_letters(self) -> None:
        plain, dripping = outlined([]), outlined(step("shape.ornament", size=16, count=8))
        added = np.clip(dripping - plain, 0, 1)
        rows = np.nonzero(added > 0.5)[0]
        assert rows.mean() > 80, "they hang down"
        count = cv2.connectedComponents((dripping > 0.5).astype(np.uint8))[0]
        assert count <= cv2.connectedComponents((plain > 0.5).astype(np.uint8))[0]


class TestBacking:
    def test_it_lies_behind_and_closes_narrow_gaps(self) -> None:
        pixels = render(titled([step("shape.backing", grow=8, inner=12)], word="HO")).pixels
        plain = outlined([], word="HO")
        assert pixels[..., 3].sum() > 1.3 * plain.sum()
        behind = render(titled([step("shape.backing", offset=[30, 0])]), tap="behind").pixels
        level = render(titled([step("shape.backing")]), tap="behind").pixels
        assert behind[..., 3] == pytest.approx(np.roll(level[..., 3], 30, axis=1), abs=0.01)
