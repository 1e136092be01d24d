"""The formats of clips: read back by what did not write them, without a fringe over anything."""

from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import cv2
import numpy as np
import pytest
from PIL import Image, ImageSequence

from mabrel import Renderer, parse_title
from mabrel.colour import over
from mabrel.export.clip import join_clips, write_clip
from mabrel.export.clip_forms import CLIPS
from mabrel.export.frames import ClipError
from mabrel.export.order import Order, as_ordered
from mabrel.render import Picture
from mabrel.title import Title
from tests.engine.test_clips import DOCUMENT, frames_of

RATE = Fraction(24000, 1001)


@pytest.fixture(scope="module")
def title() -> Title:
    """A letter that crosses the frame in 40 frames."""
    return parse_title(DOCUMENT.replace('"duration": 0.2', '"duration": 1.6'))


@pytest.fixture(scope="module")
def pictures(title: Title) -> list[Picture]:
    renderer = Renderer()
    return [renderer.render(title, time=n / 25, scale=2) for n in range(6)]


def decoded(path: Path) -> list[np.ndarray]:
    """Frames by PyAV's own decoders, RGBA of 16 bits."""
    with av.open(str(path)) as file:
        return [_rgba16(frame) for frame in file.decode(video=0)]


def _rgba16(frame: Any) -> np.ndarray:
    green, blue, red, alpha = (
        np.frombuffer(plane, np.uint16).reshape(frame.height, -1)[:, : frame.width]
        for plane in frame.planes
    )
    return np.dstack([red, green, blue, alpha])


class TestForms:
    def test_ffv1_comes_back_exactly(self, pictures, tmp_path: Path) -> None:
        write_clip(tmp_path / "a.mkv", pictures, RATE, "ffv1")
        for found, picture in zip(decoded(tmp_path / "a.mkv"), pictures, strict=True):
            assert np.array_equal(found, picture.to_uint16())

    @pytest.mark.parametrize("form", ["apng", "animated-webp"])
    def test_moving_pictures_of_the_web_are_read_by_another_library(
        self, pictures, form: str, tmp_path: Path
    ) -> None:
        path = tmp_path / f"a{CLIPS[form].suffix}"
        write_clip(path, pictures, Fraction(25), form)
        image = Image.open(path)
        frames = [np.asarray(each.convert("RGBA")) for each in ImageSequence.Iterator(image)]
        assert len(frames) == len(pictures)
        assert image.info["loop"] == 0
        for found, picture in zip(frames, pictures, strict=True):
            own = picture.to_uint8()
            if form == "apng":
                seen = own[..., 3] > 0
                assert np.array_equal(found[seen], own[seen])
            assert np.abs(found[..., 3].astype(int) - own[..., 3]).mean() < 1

    @pytest.mark.parametrize("form", [name for name, form in CLIPS.items() if form.joins])
    def test_rate_and_time_stamps_are_exact(self, pictures, form: str, tmp_path: Path) -> None:
        path = tmp_path / f"a{CLIPS[form].suffix}"
        write_clip(path, pictures, RATE, form)
        with av.open(str(path)) as file:
            stream = file.streams.video[0]
            assert stream.average_rate == RATE
            stamps = [
                packet.pts * stream.time_base for packet in file.demux(video=0) if packet.size
            ]
        assert [round(stamp * RATE) for stamp in stamps] == list(range(len(pictures)))
        assert max(abs(stamp - n / RATE) for n, stamp in enumerate(stamps)) <= Fraction(1, 1000)

    @pytest.mark.parametrize("form", ["webm", "webm-vp9", "webm-av1"])
    def test_colour_is_marked_as_bt709(self, pictures, form: str, tmp_path: Path) -> None:
        path = tmp_path / "a.webm"
        write_clip(path, pictures, RATE, form)
        with av.open(str(path)) as file:
            context = file.streams.video[0].codec_context
            assert (context.colorspace, context.color_primaries, context.color_trc) == (1, 1, 1)

    @pytest.mark.parametrize("form", ["webm-vp9", "webm-av1"])
    def test_opaque_clips_lie_over_their_ground(self, pictures, form: str, tmp_path: Path) -> None:
        path = tmp_path / "a.webm"
        write_clip(path, pictures, RATE, form, ground="#2050a0")
        with av.open(str(path)) as file:
            first = next(file.decode(video=0)).to_ndarray(format="rgb24")
        assert np.abs(first[3, 3].astype(int) - [0x20, 0x50, 0xA0]).max() < 8

    @pytest.mark.parametrize("form", CLIPS)
    def test_the_same_frames_are_the_same_file(self, pictures, form: str, tmp_path: Path) -> None:
        paths = [tmp_path / f"{n}{CLIPS[form].suffix}" for n in range(2)]
        for path in paths:
            write_clip(path, pictures, RATE, form)
        assert paths[0].read_bytes() == paths[1].read_bytes()

    def test_parts_are_put_together_without_a_change(self, pictures, tmp_path: Path) -> None:
        whole, joined = tmp_path / "whole.mkv", tmp_path / "joined.mkv"
        write_clip(whole, pictures, RATE, "ffv1")
        parts = [tmp_path / f"{n}.part" for n in range(2)]
        for part, first in zip(parts, (0, 4), strict=True):
            write_clip(part, pictures[first : first + 4], RATE, "ffv1")
        join_clips(joined, parts, RATE, "ffv1")
        for one, other in zip(decoded(joined), decoded(whole), strict=True):
            assert np.array_equal(one, other)
        with pytest.raises(ClipError, match="can't be joined"):
            join_clips(joined, parts, RATE, "apng")

    def test_frames_of_another_size_are_refused(self, pictures, tmp_path: Path) -> None:
        odd = Picture(np.zeros((10, 10, 4), np.float32))
        with pytest.raises(ClipError, match="frame 1 has another size"):
            write_clip(tmp_path / "a.mkv", [pictures[0], odd], RATE, "ffv1")
        with pytest.raises(ClipError, match="no clip format"):
            write_clip(tmp_path / "a.gif", pictures, RATE, "gif")
        assert not list(tmp_path.iterdir())


@pytest.mark.parametrize("ground", [(0, 0, 0), (1, 1, 1), (1, 0, 0), "photo"])
@pytest.mark.parametrize("form", ["webm", "ffv1"])
def test_nothing_shows_a_fringe_over_anything(form: str, ground, tmp_path: Path) -> None:
    """In the band along the edges, against the exact picture: 16 bits to a level of 8; 8 bits with
    half the chroma within 6 of 255 in the mean, 26 for 99 of 100 and 50 at the worst pixel, over
    whatever it lies."""
    from mabrel import read_title

    path = Path(__file__).parents[2] / "demo" / "titles" / "foghorn.title.json"
    shot = as_ordered(read_title(path), Order(backdrop=False))
    exact = Renderer().render(shot, time=2.5, scale=0.5)
    out = tmp_path / f"a{CLIPS[form].suffix}"
    write_clip(out, [exact], RATE, form)
    straight = frames_of(out)[0] / 255 if form == "webm" else decoded(out)[0] / 65535
    found = np.asarray(straight, np.float32)
    found[..., :3] *= found[..., 3:]
    backdrop = np.ones(exact.pixels.shape, np.float32)
    if ground == "photo":
        rows, columns = exact.pixels.shape[:2]
        noise = np.random.default_rng(1).random((rows // 8 + 1, columns // 8 + 1, 3))
        backdrop[..., :3] = cv2.resize(noise.astype(np.float32), (columns, rows))
    else:
        backdrop[..., :3] = ground
    want, got = over(backdrop, np.clip(exact.pixels, 0, 1)), over(backdrop, found)
    alpha = exact.pixels[..., 3]
    band = cv2.dilate(((alpha > 0.02) & (alpha < 0.98)).astype(np.uint8), np.ones((5, 5))) > 0
    error = np.abs(want - got)[band]
    limits = (6, 26, 50) if form == "webm" else (0.02, 0.1, 1)
    for found, most in zip(
        (error.mean(), np.percentile(error, 99), error.max()), limits, strict=True
    ):
        assert found * 255 < most
