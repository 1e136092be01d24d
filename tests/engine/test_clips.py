"""Frames and clips: their times, their names, and what is in the file."""

from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest

from mabrel.cli import main
from mabrel.export import ClipError, frame_times, numbered, rate_of, write_clip
from mabrel.render import Picture

DOCUMENT = """{"mabrel": 1, "frame": {"width": 61, "height": 41, "fps": 25, "duration": 0.2},
 "layers": [{"kind": "lettering", "source": {"text": "I", "font": "Anton", "size": 30},
  "placement": {"x": {"pegs": [{"at": 0, "value": -20}, {"at": 0.2, "value": 20}]}},
  "build": [{"step": "surface.flat", "settings": {"colour": "#e04020"}}]}]}"""


@pytest.fixture
def document(tmp_path: Path) -> Path:
    path = tmp_path / "a.title.json"
    path.write_text(DOCUMENT)
    return path


def frames_of(path: Path) -> list[np.ndarray]:
    """Straight RGBA of each frame; the decoder of libvpx reads alpha too."""
    found = []
    with av.open(str(path)) as file:
        decoder = av.CodecContext.create("libvpx-vp9", "r")
        for packet in file.demux(video=0):
            found += [frame.to_ndarray(format="rgba") for frame in decoder.decode(packet)]
    return found


@pytest.mark.parametrize(
    ("written", "rate"),
    [
        ("25", Fraction(25)),
        (25.0, Fraction(25)),
        ("24000/1001", Fraction(24000, 1001)),
        (23.976, Fraction(24000, 1001)),
        ("29.97", Fraction(30000, 1001)),
        (24000 / 1001, Fraction(24000, 1001)),
    ],
)
def test_rates_are_exact(written: float | str, rate: Fraction) -> None:
    assert rate_of(written) == rate


@pytest.mark.parametrize("written", ["fast", "0", "-25", "1/0", "241", "inf", "nan"])
def test_rates_that_are_none_are_refused(written: str) -> None:
    with pytest.raises(ClipError, match="rate"):
        rate_of(written)


def test_frames_are_at_their_own_times_wherever_a_clip_begins() -> None:
    rate = Fraction(24000, 1001)
    whole, part = frame_times(0, 2, rate), frame_times(1, 2, rate)
    assert len(whole) == 48
    assert part == whole[24:]
    assert part[0].time >= 1


@pytest.mark.parametrize(("start", "end"), [(1, 1), (2, 1), (-1, 1), (0, 1e9)])
def test_clips_without_an_end_are_refused(start: float, end: float) -> None:
    with pytest.raises(ClipError, match="clip"):
        frame_times(start, end, Fraction(25))


def test_files_are_named_by_their_frame() -> None:
    times = frame_times(0.4, 0.5, Fraction(25))
    names = [path.name for path in numbered(Path("shot#2/frame-####.png"), times)]
    assert names == ["frame-0010.png", "frame-0011.png", "frame-0012.png"]
    for pattern in ("frame.png", "frame-#.png"):
        with pytest.raises(ClipError, match="#"):
            list(numbered(Path(pattern), times))


def test_the_command_writes_every_frame(document: Path, tmp_path: Path) -> None:
    out = tmp_path / "frames" / "f-###.png"
    assert main(["render", str(document), "-o", str(out)]) == 0
    names = sorted(path.name for path in out.parent.iterdir())
    assert names == [f"f-{n:03d}.png" for n in range(5)]
    alone = tmp_path / "alone.png"
    assert main(["render", str(document), "--time", "0.08", "-o", str(alone)]) == 0
    assert (out.parent / "f-002.png").read_bytes() == alone.read_bytes()


def test_a_clip_keeps_size_rate_and_alpha(document: Path, tmp_path: Path) -> None:
    out = tmp_path / "clip.webm"
    asked = ["--to", "0.2", "--fps", "30000/1001", "-o", str(out)]
    assert main(["render", str(document), *asked]) == 0
    with av.open(str(out)) as file:
        stream = file.streams.video[0]
        assert stream.average_rate == Fraction(30000, 1001)
        assert (stream.width, stream.height) == (61, 41)
        assert stream.metadata["alpha_mode"] == "1"
    frames = frames_of(out)
    assert len(frames) == 6
    inside = frames[0][..., 3] > 250
    assert inside.any()
    assert (frames[0][..., 3] < 5).mean() > 0.5
    mean = frames[0][inside][:, :3].mean(axis=0)
    assert np.abs(mean - [0xE0, 0x40, 0x20]).max() < 6
    assert (out.stat().st_mode & 0o777) != 0o600


def test_the_colour_goes_on_beyond_the_edge(tmp_path: Path) -> None:
    pixels = np.zeros((32, 32, 4), np.float32)
    pixels[8:24, 8:24] = (1, 0.2, 0, 1)
    out = tmp_path / "clip.webm"
    write_clip(out, [Picture(pixels)], Fraction(25))
    (frame,) = frames_of(out)
    edge = frame[8:24, 8:24, :3].astype(int)
    assert np.abs(edge - [255, 51, 0]).max() < 12


def test_a_broken_run_leaves_nothing_behind(tmp_path: Path) -> None:
    def pictures():
        yield Picture(np.zeros((8, 8, 4), np.float32))
        raise RuntimeError("stopped")

    with pytest.raises(RuntimeError, match="stopped"):
        write_clip(tmp_path / "clip.webm", pictures(), Fraction(25))
    assert list(tmp_path.iterdir()) == []
    with pytest.raises(ClipError, match="at least one"):
        write_clip(tmp_path / "clip.webm", [], Fraction(25))


@pytest.mark.parametrize(
    ("more", "said"),
    [
        (["--from", "3", "--to", "1", "-o", "f-##.png"], "a clip ends after it begins"),
        (["--to", "1", "-o", "f.png"], "####"),
        (["--fps", "x", "-o", "f.webm"], "a rate is written"),
        (["--to", "1", "-o", "f.gif"], "clips as .webm"),
    ],
)
def test_what_cannot_be_a_clip_is_said(document, more, said, capsys) -> None:
    assert main(["render", str(document), *more]) == 2
    assert said in capsys.readouterr().err
