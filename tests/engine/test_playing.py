"""Clips in titles: the frame that is due, whatever the way to it; colours; what moves with them."""

import contextlib
import random
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import cv2
import numpy as np
import pytest
from PIL import Image

from mabrel import Renderer, parse_title
from mabrel.source import (
    Folder,
    LibraryError,
    PictureError,
    animated_ending,
    decoded_picture,
    moving,
    picture_size,
)
from mabrel.source.clips import Clip, looks_like_clip
from mabrel.title import Title
from mabrel.title.motion import moves, moving_spans
from mabrel.title.playing import Play, is_numbered, named_as_clip

WIDE, TALL, BITS = 160, 96, 8
COUNT = 180
FORMS = {
    "a.webm": ("libvpx-vp9", "yuv420p", Fraction(25)),
    "a.mp4": ("libx264", "yuv420p", Fraction(24000, 1001)),
    "a.mov": ("mjpeg", "yuvj420p", Fraction(30)),
    "a.mkv": ("ffv1", "bgr0", Fraction(50)),
    "a.gif": ("gif", "rgb8", Fraction(25)),
    "a.apng": ("apng", "rgba", Fraction(24)),
}


def bars(number: int) -> np.ndarray:
    """A picture whose columns are the number's binary digits."""
    picture = np.zeros((TALL, WIDE, 3), np.uint8)
    each = WIDE // BITS
    for bit in range(BITS):
        picture[:, bit * each : (bit + 1) * each] = 255 * (number >> bit & 1)
    return picture


def number_in(pixels: np.ndarray) -> int:
    rows, columns = pixels.shape[:2]
    each = columns / BITS
    row = pixels[rows // 2, :, 1]
    return sum(1 << bit for bit in range(BITS) if row[int((bit + 0.5) * each)] > 0.5)


def write(
    path: Path, codec: str, form: str, rate: Fraction, count: int = COUNT, **more: Any
) -> Path:
    options = {"g": "60"} if codec in ("libvpx-vp9", "libx264") else {}
    with av.open(str(path), "w") as file:
        stream = file.add_stream(codec, rate=rate)
        stream.width, stream.height, stream.pix_fmt = WIDE, TALL, form
        stream.options = options | more
        for number in range(count):
            frame = av.VideoFrame.from_ndarray(bars(number), format="rgb24")
            frame.pts, frame.time_base = number, 1 / rate
            file.mux(stream.encode(frame))
        file.mux(stream.encode(None))
    return path


@pytest.fixture(scope="module")
def folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    place = tmp_path_factory.mktemp("clips")
    for name, (codec, form, rate) in FORMS.items():
        write(place / name, codec, form, rate)
    return place


@pytest.mark.parametrize("name", FORMS)
def test_the_frame_that_is_due_is_found_wherever_one_comes_from(folder: Path, name: str) -> None:
    rate = FORMS[name][2]
    clip = Clip((folder / name).read_bytes(), name)
    assert (clip.count, clip.width, clip.height) == (COUNT, WIDE, TALL)
    assert clip.rate == pytest.approx(float(rate), rel=1e-6)
    draw = random.Random(name)
    times = [draw.uniform(0, COUNT / float(rate)) for _ in range(60)]
    times += [n * factor / float(rate) for factor in (0.5, 1, 2) for n in range(25)]
    times += [n / 24 for n in reversed(range(30))]
    for seconds in times:
        want = min(int(Fraction(seconds) * rate + Fraction(1, 10**6)), COUNT - 1)
        assert number_in(clip.frame(clip.due(seconds))) == want, seconds


@pytest.fixture(scope="module")
def library(folder: Path) -> Folder:
    """The same as an animated WebP, and as numbered pictures of which some are missing."""
    pictures = [Image.fromarray(bars(number)) for number in range(40)]
    lengths = [40, 80] * 20
    pictures[0].save(
        folder / "flag.anim.webp",
        save_all=True, append_images=pictures[1:], duration=lengths, lossless=True,
    )  # fmt: skip
    for number in set(range(30)) - {7, 8}:
        cv2.imwrite(str(folder / f"wall.{number + 98:02d}.png"), bars(number)[..., ::-1])
    return Folder(folder)


def test_animated_webp_shows_what_its_own_times_say(library: Folder) -> None:
    clip = moving(library, "flag.anim.webp")
    assert (clip.count, clip.width, clip.height) == (40, WIDE, TALL)
    assert clip.lasts(25) == pytest.approx(2.4)
    ends = np.cumsum([0.04, 0.08] * 20)
    draw = random.Random(3)
    for seconds in [draw.uniform(0, 2.4) for _ in range(60)]:
        want = int(np.searchsorted(ends, seconds, side="right"))
        assert number_in(clip.frame(clip.due(seconds, 25))) == want
    assert clip.due(99, 25) == 39


def test_numbered_pictures_run_at_the_rate_that_is_asked_for(library: Folder) -> None:
    clip = moving(library, "wall.##.png")
    assert (clip.count, clip.lasts(10)) == (30, 3.0)
    shown = [number_in(clip.frame(clip.due(n / 10, 10))) for n in range(30)]
    assert shown == [6 if n in (7, 8) else n for n in range(30)]  # a missing one holds the last


def test_numbered_pictures_of_another_size_are_named(library: Folder, tmp_path: Path) -> None:
    for number, wide in ((1, 20), (2, 20), (3, 24)):
        cv2.imwrite(str(tmp_path / f"a.{number:03d}.png"), np.zeros((10, wide, 3), np.uint8))
    clip = moving(Folder(tmp_path), "a.###.png")
    with pytest.raises(PictureError, match=r"'a.003.png' has 24 × 10 .* 20 × 10"):
        clip.frame(2)
    with pytest.raises(LibraryError, match=r"there is no file 'b.###.png'"):
        moving(Folder(tmp_path), "b.###.png")
    with pytest.raises(LibraryError, match="must lie beside"):
        moving(Folder(tmp_path), "../a.###.png")


@pytest.mark.parametrize(
    ("name", "numbered"),
    [
        *[("wall.####.png", True), ("a/b##c.exr", True), ("wall.png", False)],
        *[("wall#1.png", False), ("##/wall.png", False), ("a.##.##.png", False)],
    ],
)
def test_numbered_names(name: str, numbered: bool) -> None:
    assert named_as_clip(name) == is_numbered(name) == numbered


def test_what_moves_under_a_name_that_hides_it_is_told(library: Folder, folder: Path) -> None:
    assert animated_ending((folder / "flag.anim.webp").read_bytes()) == ".anim.webp"
    assert animated_ending((folder / "a.apng").read_bytes()) == ".apng"
    assert animated_ending((folder / "wall.99.png").read_bytes()) == ""


def test_lists_of_other_files_are_no_clips(tmp_path: Path) -> None:
    """Some formats only name files, anywhere on the machine: what a file is comes first."""
    write(tmp_path / "secret.mkv", "ffv1", "bgr0", Fraction(25), 3)
    lists = [
        f"ffconcat version 1.0\nfile {tmp_path}/secret.mkv\n",
        f"#EXTM3U\n#EXTINF:1,\n{tmp_path}/secret.mkv\n",
    ]
    for text in lists:
        (tmp_path / "list.mkv").write_text(text)
        with pytest.raises(PictureError, match="no clip"):
            moving(Folder(tmp_path), "list.mkv")


def test_before_its_beginning_and_after_its_end_a_clip_holds(folder: Path) -> None:
    clip = Clip((folder / "a.webm").read_bytes(), "a.webm")
    assert (clip.due(-3), clip.due(999)) == (0, COUNT - 1)


@pytest.mark.parametrize(
    ("play", "times", "found"),
    [
        (Play(), (0, 1.5, 2, 3.5), (0, 1.5, 0, 1.5)),
        (Play(after="hold"), (1, 2, 9), (1, 2, 2)),
        (Play(after="there and back"), (1.5, 2.5, 3.5, 4.5), (1.5, 1.5, 0.5, 0.5)),
        (Play(start=0.5, speed=2), (0, 0.5, 0.9), (0.5, 1.5, 0.3)),
        (Play(speed=0, start=1.2), (0, 5), (1.2, 1.2)),
        (Play(start=-1, after="hold"), (0, 1.5), (0, 0.5)),
        (
            Play.model_validate(
                {
                    "speed": 0,
                    "start": {
                        "pegs": [{"at": 0, "value": 0, "ease": [0, 0, 1, 1]}, {"at": 2, "value": 1}]
                    },
                }
            ),
            (0, 1, 2),
            (0, 0.5, 1),
        ),
    ],
)
def test_a_clip_of_two_seconds_runs(play: Play, times: tuple, found: tuple) -> None:
    assert [play.time_at(time, 2.0) for time in times] == pytest.approx(list(found), abs=1e-6)


def titled(folder: Path, name: str = "a.webm", **source: Any) -> Title:
    picture = {
        "kind": "picture",
        "id": "shot",
        "source": {"picture": name, "height": TALL} | source,
    }
    frame = {"width": WIDE, "height": TALL, "fps": 50, "duration": 3}
    return parse_title({"mabrel": 1, "frame": frame, "layers": [picture]}).at_home(folder)


def test_a_layer_shows_the_frame_of_its_time(folder: Path) -> None:
    title, renderer = titled(folder), Renderer()
    for time in (0, 0.5, 2.96, 0.02, 1.0):  # twice the rate of the clip
        assert number_in(renderer.render(title, time=time).pixels) == int(time * 25 + 1e-6)
    faster = titled(folder, play={"start": 1, "speed": 2})
    assert number_in(renderer.render(faster, time=0.4).pixels) == 45


def test_a_step_and_another_layer_see_it_too(folder: Path) -> None:
    word = {"kind": "lettering", "id": "word", "source": {"text": "I", "font": "Anton", "size": 90},
            "build": [{"step": "surface.picture", "settings": {"picture": "a.mov"}}]}  # fmt: skip
    title = parse_title({"mabrel": 1, "frame": {"width": 160, "height": 96}, "layers": [word]})
    title = title.at_home(folder)
    renderer = Renderer()
    first, second = (renderer.render(title, time=time).pixels for time in (0, 0.8))
    assert not np.array_equal(first, second)
    plan = renderer.plan(title)
    assert plan.changes(0, 1)
    assert np.array_equal(Renderer().render(title, time=0.8).pixels, second)


def test_a_title_with_a_clip_moves_all_the_time(folder: Path) -> None:
    title = titled(folder)
    assert moves(title)
    assert moving_spans(title) == [(0, 3)]
    assert Renderer().plan(title).changes(1, 1.1)
    still = titled(folder, play={"speed": 0, "start": 1})
    pictures = [Renderer().render(still, time=time).pixels for time in (0, 2)]
    assert np.array_equal(*pictures)


@pytest.mark.parametrize(("matrix", "code"), [("bt709", 1), ("smpte170m", 6)])
def test_colours_are_by_what_the_file_says(tmp_path: Path, matrix: str, code: int) -> None:
    rgb = np.array([[[200, 60, 30]]], np.uint8).repeat(64, 0).repeat(64, 1)
    path = tmp_path / "a.mkv"
    with av.open(str(path), "w") as file:
        stream = file.add_stream("ffv1", rate=25)
        stream.width = stream.height = 64
        stream.pix_fmt = "yuv444p"
        stream.options = {"colorspace": matrix}
        frame = av.VideoFrame.from_ndarray(rgb, format="rgb24")
        frame = frame.reformat(format="yuv444p", dst_colorspace=code, dst_color_range="MPEG")
        frame.pts = 0
        file.mux(stream.encode(frame))
        file.mux(stream.encode(None))
    found = decoded_picture(path.read_bytes(), "a.mkv")[32, 32, :3] * 255
    assert found == pytest.approx([200, 60, 30], abs=2.5)


def test_alpha_of_a_clip_is_kept(tmp_path: Path) -> None:
    from mabrel.export.clip import write_clip
    from mabrel.render import Picture

    pixels = np.zeros((40, 60, 4), np.float32)
    pixels[10:30, 10:50] = (0.8, 0.4, 0.1, 1)
    for name, form in (("a.webm", "webm"), ("a.mkv", "ffv1"), ("a.apng", "apng")):
        write_clip(tmp_path / name, [Picture(pixels)] * 3, Fraction(25), form)
        found = Clip((tmp_path / name).read_bytes(), name).frame(1)
        assert found[20, 30] == pytest.approx([0.8, 0.4, 0.1, 1], abs=0.03)
        assert found[2, 2, 3] < 0.02


def test_a_keyed_clip_keeps_its_edge_still(tmp_path: Path) -> None:
    """A disc before a green wall that goes by whole pixels: its matte is the same in each frame."""
    from tests.engine.shapes import disc

    path = tmp_path / "screen.mkv"
    with av.open(str(path), "w") as file:
        stream = file.add_stream("ffv1", rate=25)
        stream.width = stream.height = 96
        stream.pix_fmt = "bgr0"
        for number in range(4):
            matte = disc(20, 96, 40 + 4 * number, 48)[..., None]
            rgb = np.array([0.7, 0.4, 0.3]) * matte + np.array([0, 0.69, 0.25]) * (1 - matte)
            frame = av.VideoFrame.from_ndarray(np.rint(rgb * 255).astype(np.uint8), format="rgb24")
            frame.pts = number
            file.mux(stream.encode(frame))
        file.mux(stream.encode(None))
    picture = {"kind": "picture", "source": {"picture": "screen.mkv", "height": 96,
               "cut": {"kind": "screen", "colour": "#00b040"}}}  # fmt: skip
    document = {"mabrel": 1, "frame": {"width": 96, "height": 96}, "layers": [picture]}
    title = parse_title(document).at_home(tmp_path)
    mattes = [Renderer().render(title, time=n / 25).pixels[..., 3] for n in range(4)]
    for number, matte in enumerate(mattes):
        assert np.abs(np.roll(matte, -4 * number, axis=1) - mattes[0]).max() < 0.03
        assert matte == pytest.approx(disc(20, 96, 40 + 4 * number, 48), abs=0.06)


@pytest.mark.parametrize("name", FORMS)
def test_broken_clips_are_refused_with_a_sentence(folder: Path, name: str) -> None:
    whole = (folder / name).read_bytes()
    assert looks_like_clip(whole)
    assert named_as_clip(name)
    assert picture_size(whole, name) == (WIDE, TALL)
    draw = random.Random(7)
    for cut in (10, 40, len(whole) // 3):
        _refused_or_read(whole[:cut], name)
    for _ in range(12):
        broken = bytearray(whole)
        for _ in range(8):
            broken[draw.randrange(len(broken))] = draw.randrange(256)
        _refused_or_read(bytes(broken), name)


def test_clips_of_absurd_shape_are_refused_before_they_are_decoded(tmp_path: Path) -> None:
    path = tmp_path / "many.mkv"
    with av.open(str(path), "w") as file:
        streams = [file.add_stream("mjpeg", rate=25) for _ in range(40)]
        for stream in streams:
            stream.width, stream.height, stream.pix_fmt = 16, 16, "yuvj420p"
        frame = av.VideoFrame.from_ndarray(np.zeros((16, 16, 3), np.uint8), format="rgb24")
        for stream in streams:
            file.mux(stream.encode(frame))
    with pytest.raises(PictureError, match="too many streams"):
        Clip(path.read_bytes(), "many.mkv")
    gif = b"GIF89a" + (65_000).to_bytes(2, "little") * 2 + b"\x00\x00\x00"
    gif += b"\x2c\x00\x00\x00\x00\x01\x00\x01\x00\x00\x02\x02D\x01\x00;"
    with pytest.raises(PictureError, match=r"million|broken"):
        Clip(gif, "wide.gif")


def _refused_or_read(content: bytes, name: str) -> None:
    """Nothing but a PictureError comes of it."""
    with contextlib.suppress(PictureError):
        clip = Clip(content, name)
        clip.frame(clip.count // 2)
