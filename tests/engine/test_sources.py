"""What gets the look: pictures, groups, copies; hidden ones still feed."""

from pathlib import Path

import cv2
import numpy as np
import pytest

from mabrel import LibraryError, PictureError, Title, Window, parse_title, render
from tests.engine.trial_titles import step

DISC = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100">'
    '<circle cx="60" cy="50" r="20" fill="#c03020"/></svg>'
)


@pytest.fixture
def home(tmp_path: Path) -> Path:
    (tmp_path / "disc.svg").write_text(DISC)
    ramp = np.tile(np.linspace(0, 255, 64, dtype=np.uint8), (32, 1))
    cv2.imwrite(str(tmp_path / "ramp.png"), ramp)
    return tmp_path


def titled(home: Path, *layers: dict, frame=(240, 160)) -> Title:
    width, height = frame
    document = {"mabrel": 1, "frame": {"width": width, "height": height}, "layers": list(layers)}
    return parse_title(document).at_home(home)


def picture(file: str = "disc.svg", *build: dict, height: float = 80, **source) -> dict:
    return {
        "kind": "picture",
        "id": "picture",
        "source": {"picture": file, "height": height} | source,
        "build": list(build),
    }


def word(*build: dict, **changes) -> dict:
    return {
        "kind": "lettering",
        "id": "word",
        "source": {"text": "Rg", "size": 70},
        "build": list(build),
    } | changes


def matte(title: Title, **how) -> np.ndarray:
    return render(title, tap="matte", **how).pixels[..., 0]


class TestPictures:
    def test_its_ink_is_as_high_as_it_says_and_stands_in_the_middle(self, home: Path) -> None:
        seen = matte(titled(home, picture(height=80)))
        rows, columns = np.nonzero(seen > 0.5)
        assert rows.max() - rows.min() + 1 == pytest.approx(80, abs=1)
        assert (rows.min() + rows.max() + 1) / 2 == pytest.approx(80, abs=1)
        assert (columns.min() + columns.max() + 1) / 2 == pytest.approx(120, abs=1)
        assert seen.sum() == pytest.approx(np.pi * 40**2, rel=0.01)

    def test_an_svg_is_as_sharp_when_it_is_large(self, home: Path) -> None:
        edge = matte(titled(home, picture(height=140)), scale=4)
        soft = (edge > 0.02) & (edge < 0.98)
        assert soft.sum() < 2.2 * np.pi * 560  # an edge one to two pixels wide

    def test_it_keeps_its_colours_without_a_dirty_edge(self, home: Path) -> None:
        pixels = render(titled(home, picture())).pixels
        seen = pixels[..., 3] > 0.02
        colour = pixels[seen][:, :3] / pixels[seen][:, 3:]
        assert np.abs(colour - np.array([0xC0, 0x30, 0x20]) / 255).max() < 0.02

    def test_brightness_or_darkness_can_be_the_shape(self, home: Path) -> None:
        bright = matte(titled(home, picture("ramp.png", matte="brightness")))
        dark = matte(titled(home, picture("ramp.png", matte="darkness")))
        middle = 80
        assert bright[middle, 60] < 0.2 < 0.8 < bright[middle, 180]
        assert dark[middle, 60] > 0.8 > 0.2 > dark[middle, 180]

    def test_every_step_works_on_it_as_on_words(self, home: Path) -> None:
        build = [step("relief.inflate"), step("light.shade"), step("depth.extrude"),
                 step("ground.drop_shadow")]  # fmt: skip
        pixels = render(titled(home, picture("disc.svg", *build))).pixels
        plain = render(titled(home, picture())).pixels
        assert np.abs(pixels - plain).mean() > 0.02

    def test_a_picture_that_is_not_there_or_broken_is_a_clear_error(self, home: Path) -> None:
        with pytest.raises(LibraryError, match=r"there is no file 'gone.png'"):
            render(titled(home, picture("gone.png")))
        (home / "broken.png").write_bytes(b"\x89PNG\r\n\x1a\nnonsense")
        with pytest.raises(PictureError, match=r"'broken.png'"):
            render(titled(home, picture("broken.png")))

    def test_an_empty_picture_is_nothing(self, home: Path) -> None:
        (home / "empty.svg").write_text(DISC.replace("<circle", "<desc"))
        assert render(titled(home, picture("empty.svg", step("relief.bevel")))).pixels.max() == 0


class TestCopies:
    def test_a_copy_follows_live_and_builds_on(self, home: Path) -> None:
        red = word(step("surface.flat", colour="#ff0000"), visible=False)
        copy = {"kind": "copy", "source": {"layer": "word"}, "build": [step("tone.invert")]}
        pixels = render(titled(home, red, copy)).pixels
        inside = pixels[pixels[..., 3] > 0.99]
        assert np.abs(inside[:, :3] / inside[:, 3:] - [0, 1, 1]).max() < 1e-5
        other = red | {"source": {"text": "O", "size": 90}}
        assert not np.array_equal(render(titled(home, other, copy)).pixels, pixels)

    def test_an_outline_starts_with_a_fresh_face_and_no_relief(self, home: Path) -> None:
        build = [step("surface.flat", colour="#ff0000"), step("relief.inflate")]
        hidden = word(*build, visible=False)
        bare = {"kind": "copy", "source": {"layer": "word", "take": "outline"}}
        face = render(titled(home, hidden, bare)).pixels
        assert np.abs(face[face[..., 3] > 0.99][:, :3] - 0.5).max() < 0.006
        assert render(titled(home, hidden, bare), tap="height").pixels[..., 0].max() == 0
        whole = {"kind": "copy", "source": {"layer": "word"}}
        assert render(titled(home, hidden, whole), tap="height").pixels[..., 0].max() == 1

    def test_it_stands_at_its_own_place(self, home: Path) -> None:
        copy = {"kind": "copy", "source": {"layer": "word"}, "placement": {"x": 40}}
        hidden = word(visible=False)
        apart = matte(titled(home, hidden, copy))
        assert np.roll(matte(titled(home, word())), 40, axis=1) == pytest.approx(apart, abs=1e-5)


class TestGroups:
    def group(self, *build: dict, **changes) -> dict:
        return {
            "kind": "group",
            "id": "group",
            "source": {"layers": ["word", "picture"]},
            "build": list(build),
        } | changes

    def test_it_looks_as_its_members_do_one_over_the_other(self, home: Path) -> None:
        members = [picture(), word(step("surface.flat", colour="#2040c0"))]
        apart = render(titled(home, *members)).pixels
        together = render(titled(home, *members, self.group())).pixels
        assert together == pytest.approx(apart, abs=0.002)

    def test_its_members_are_drawn_in_it_only(self, home: Path) -> None:
        moved = self.group(placement={"x": 60})
        seen = matte(titled(home, picture(), word(), moved))
        alone = matte(titled(home, picture(), word(), self.group()))
        assert seen == pytest.approx(np.roll(alone, 60, axis=1), abs=0.01)
        pixels = render(titled(home, picture(), word(), moved)).pixels
        assert pixels[..., 3].sum() == pytest.approx(seen.sum(), rel=0.01)

    def test_a_step_treats_all_of_it_as_one_shape(self, home: Path) -> None:
        stroke = step("surface.stroke", side="outside", width=6, colour="#ffffff")
        pixels = render(titled(home, picture(), word(), self.group(stroke))).pixels
        union = matte(titled(home, picture(), word(), self.group()))
        white = (pixels[..., :3].min(axis=-1) > 0.95) & (pixels[..., 3] > 0.95)
        assert white.sum() > 500
        assert (white & (union > 0.9)).sum() == 0  # no stroke between its members

    def test_what_a_member_refers_to_follows_the_size_of_the_group(self, home: Path) -> None:
        """A member painted where another layer is stays so when the group is half as large."""
        white = step("surface.flat", colour="#ffffff") | {
            "where": {"kind": "matte", "layer": "picture"}
        }
        layers = [picture(), word(step("surface.flat", colour="#000000"), white)]
        whole = render(titled(home, *layers, self.group()), scale=0.5).pixels
        small = render(titled(home, *layers, self.group(placement={"scale": 0.5}))).pixels
        assert small[40:120, 60:180] == pytest.approx(whole, abs=0.05)

    def test_hidden_members_are_left_out(self, home: Path) -> None:
        hidden = matte(titled(home, picture(), word(visible=False), self.group()))
        assert hidden == pytest.approx(matte(titled(home, picture())), abs=0.01)

    def test_groups_within_groups_and_turned_members(self, home: Path) -> None:
        turned = word(placement={"turn_y": 40, "x": -30})
        outer = {"kind": "group", "source": {"layers": ["group"]}, "placement": {"y": 20}}
        inner = self.group()
        seen = matte(titled(home, picture(), turned, inner, outer))
        flat = matte(titled(home, picture(), turned, inner))
        assert seen[20:] == pytest.approx(flat[:-20], abs=0.02)


def test_a_hidden_layer_still_feeds_a_surface_a_matte_and_a_map(home: Path) -> None:
    ground = {
        "kind": "backdrop",
        "id": "ground",
        "visible": False,
        "build": [step("surface.made", pattern="checker", width=8, height=8, opacity=1)],
    }
    shown = word(step("surface.picture", picture="layer:ground"))
    plain = render(titled(home, word())).pixels
    assert np.abs(render(titled(home, ground, shown)).pixels - plain).mean() > 0.02
    pushed = word(step("shape.displace", map="layer:ground", across=30))
    assert np.abs(matte(titled(home, ground, pushed)) - matte(titled(home, word()))).mean() > 0.01
    cut = {"kind": "backdrop", "matte_from": "word", "source": {"colour": "#ffffff"}}
    alpha = render(titled(home, word(visible=False), cut)).pixels[..., 3]
    assert alpha == pytest.approx(matte(titled(home, word())), abs=1e-5)


def test_a_layer_used_as_picture_is_the_same_in_any_part_of_the_frame(home: Path) -> None:
    marble = step("surface.made", pattern="marble", width=60, height=60, opacity=1)
    ground = {"kind": "backdrop", "id": "ground", "visible": False, "build": [marble]}
    title = titled(home, ground, word(step("surface.picture", picture="layer:ground")))
    whole = render(title).pixels
    part = render(title, window=Window(100, 50, 60, 40)).pixels
    assert np.array_equal(part, whole[50:90, 100:160])
