"""The command line: what it prints, what it writes, what it refuses."""

import json
import subprocess
import sys
from pathlib import Path

import cv2
import numpy as np
import pytest

from mabrel import read_title
from mabrel.cli import main

ROOT = Path(__file__).resolve().parents[2]
FOGHORN = ROOT / "demo" / "titles" / "foghorn.title.json"


@pytest.fixture
def kelp(tmp_path: Path) -> Path:
    path = tmp_path / "kelp.title.json"
    assert main(["new", "--text", "KELP", "--frame", "320x180", "-o", str(path)]) == 0
    return path


def read(path: Path) -> np.ndarray:
    return cv2.imread(str(path), cv2.IMREAD_UNCHANGED)


def test_new_and_render(kelp: Path, tmp_path: Path) -> None:
    picture = tmp_path / "kelp.png"
    assert main(["render", str(kelp), "-o", str(picture)]) == 0
    pixels = read(picture)
    assert pixels.shape == (180, 320, 4)
    assert pixels[..., 3].min() == 255


def test_transparent_sixteen_bits_and_scale(tmp_path: Path) -> None:
    title, picture = tmp_path / "t.title.json", tmp_path / "t.png"
    main(["new", "--text", "A", "--frame", "160x90", "--transparent", "-o", str(title)])
    arguments = ["render", str(title), "-o", str(picture), "--bits", "16", "--scale", "2"]
    assert main(arguments) == 0
    pixels = read(picture)
    assert pixels.dtype == np.uint16
    assert pixels.shape == (180, 320, 4)
    assert pixels[0, 0, 3] == 0
    assert b"sRGB" in picture.read_bytes()[:60]


def test_taps_and_settings_from_the_command_line(kelp: Path, tmp_path: Path) -> None:
    plain, changed, height = (tmp_path / name for name in ("a.png", "b.png", "c.png"))
    main(["render", str(kelp), "-o", str(plain)])
    assert main(["render", str(kelp), "-o", str(changed), "--set", "KELP.extrude.length=0"]) == 0
    assert main(["render", str(kelp), "-o", str(height), "--tap", "height", "--layer", "KELP"]) == 0
    assert not np.array_equal(read(plain), read(changed))
    tapped = read(height)
    assert (tapped[..., 0] == tapped[..., 1]).all()


def test_swap_keeps_the_look(kelp: Path, tmp_path: Path) -> None:
    rust = tmp_path / "rust.title.json"
    assert main(["swap", str(kelp), "--text", "RUST", "--font", "Anton", "-o", str(rust)]) == 0
    before, after = (json.loads(path.read_text())["layers"][-1] for path in (kelp, rust))
    assert after["source"]["text"] == "RUST"
    assert after["source"]["font"] == "Anton"
    assert [step["step"] for step in after["build"]] == [step["step"] for step in before["build"]]


def test_swap_a_word_for_a_picture_and_back(kelp: Path, tmp_path: Path) -> None:
    svg = '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><path d="M1 1h7v7z"/></svg>'
    (tmp_path / "wedge.svg").write_text(svg)
    emblem, back = tmp_path / "wedge.title.json", tmp_path / "back.title.json"
    assert main(["swap", str(kelp), "--picture", "wedge.svg", "-o", str(emblem)]) == 0
    layer = read_title(emblem).layers[-1]
    assert (layer.kind, layer.source.picture, layer.name) == ("picture", "wedge.svg", "wedge")
    assert main(["render", str(emblem), "-o", str(tmp_path / "wedge.png"), "--scale", "0.1"]) == 0
    flat = ["render", str(emblem), "-o", str(tmp_path / "flat.png"), "--scale", "0.1"]
    assert main([*flat, "--set", "wedge.extrude.length=0"]) == 0
    assert not np.array_equal(read(tmp_path / "flat.png"), read(tmp_path / "wedge.png"))
    assert main(["swap", str(emblem), "--text", "RUST", "-o", str(back)]) == 0
    word, first = read_title(back).layers[-1], read_title(kelp).layers[-1]
    assert (word.kind, word.source.text) == ("lettering", "RUST")
    assert [step.step for step in word.build] == [step.step for step in first.build]


def test_swap_for_a_picture_that_is_not_there(kelp: Path, tmp_path: Path, capsys) -> None:
    out = tmp_path / "x.title.json"
    assert main(["swap", str(kelp), "--picture", "gone.png", "-o", str(out)]) == 2
    assert capsys.readouterr().err == "mabrel: there is no file 'gone.png'\n"
    assert not out.exists()


def test_lists_have_one_a_line_with_the_name_first(capsys: pytest.CaptureFixture[str]) -> None:
    for command, name in (
        ("steps", "relief.bevel"),
        ("finishes", "ship-brass"),
        ("fonts", "Titan One"),
    ):
        assert main([command]) == 0
        lines = capsys.readouterr().out.splitlines()
        assert name in [line.split("\t")[0] for line in lines]
        assert all(line.count("\t") == 1 for line in lines)


def test_the_catalogue_as_json(capsys: pytest.CaptureFixture[str]) -> None:
    main(["steps", "--json"])
    entries = json.loads(capsys.readouterr().out)
    assert all({"step", "stage", "settings", "help"} <= entry.keys() for entry in entries)
    bevel = next(entry for entry in entries if entry["step"] == "relief.bevel")
    width = next(setting for setting in bevel["settings"] if setting["name"] == "width")
    assert {"kind": "length", "unit": "px", "low": 0}.items() <= width.items()
    assert all(entry["help"] for entry in entries)
    assert all(setting["help"] for entry in entries for setting in entry["settings"])


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (["render", "nowhere.json", "-o", "x.png"], "nowhere.json: no such file"),
        (["new", "--text", "A", "--frame", "wide", "-o", "x"], "1920x1080"),
        (["new", "--text", "A", "--frame", "100000x100000", "-o", "x"], "at most 16384"),
        (["new", "--text", "A", "--frame=-5x9", "-o", "x"], "at least 1"),
        (["new", "--text", "A" * 10_000, "-o", "x"], "at most 2000 characters"),
        (["new", "--text", "A", "--font", "Nope", "-o", "x"], "no font 'Nope'"),
        (["new", "--text", "A", "--finish", "nope", "-o", "x"], "no finish 'nope'"),
        (["new", "--text", "A", "-o", "nowhere/x.json"], "nowhere/x.json: no such file"),
        (["render", str(FOGHORN), "-o", "x.png", "--scale", "nan"], "scale"),
        (["render", str(FOGHORN), "-o", "x.png", "--tap", "matte", "--layer", "Z"], "layer 'Z'"),
        (["render", str(FOGHORN), "-o", "x.png", "--set", "nonsense"], "LAYER.STEP.SETTING"),
        (["render", str(FOGHORN), "-o", "x.png", "--set", "Z.bevel.width=1"], "no layer"),
        (["render", str(FOGHORN), "-o", "x.png", "--set", "FOGHORN.bevel.width=1"], "no step"),
        (["render", str(FOGHORN), "-o", "x.png", "--set", "FOGHORN.shade.warmth=1"], "no setting"),
        (["render", str(FOGHORN), "-o", "x.png", "--set", "FOGHORN.shade.gloss=99"], "at most 4"),
        (["swap", str(FOGHORN), "-o", "x"], "--text, --font or --picture"),
    ],
)
def test_bad_input_is_one_line_on_standard_error_and_status_2(
    arguments: list[str],
    said: str,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
    capsys: pytest.CaptureFixture[str],
) -> None:
    monkeypatch.chdir(tmp_path)
    assert main(arguments) == 2
    error = capsys.readouterr().err
    assert said in error
    assert error.count("\n") == 1
    assert list(tmp_path.iterdir()) == []  # nothing half written


@pytest.mark.parametrize(
    "content", [b"{", b'{"mabrel": NaN}', b"\x00\xff", b'{"mabrel": 1, "x": 1}']
)
def test_a_broken_file_is_named(
    content: bytes, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "broken.title.json"
    path.write_bytes(content)
    assert main(["render", str(path), "-o", str(tmp_path / "x.png")]) == 2
    assert capsys.readouterr().err.startswith("mabrel: broken.title.json: ")
    assert not (tmp_path / "x.png").exists()


def test_a_letter_that_no_font_has_is_told(tmp_path: Path, capsys) -> None:
    title = tmp_path / "t.title.json"
    main(["new", "--text", "A日", "--frame", "160x90", "-o", str(title)])
    assert main(["render", str(title), "-o", str(tmp_path / "t.png")]) == 0
    assert "No font here has 日" in capsys.readouterr().err


def test_the_engine_renders_without_django(tmp_path: Path) -> None:
    picture = tmp_path / "f.png"
    program = (
        "import sys\n"
        "class No:\n"
        "    def find_spec(self, name, *rest):\n"
        "        if name.split('.')[0] in ('django', 'ninja', 'studio'): raise ImportError(name)\n"
        "sys.meta_path.insert(0, No())\n"
        "from mabrel.cli import main\n"
        f"sys.exit(main(['render', {str(FOGHORN)!r}, '-o', {str(picture)!r}, '--scale', '0.2']))\n"
    )
    done = subprocess.run(
        [sys.executable, "-c", program], capture_output=True, cwd=tmp_path, check=False
    )
    assert (done.returncode, done.stderr) == (0, b"")
    assert read(picture).shape == (216, 384, 4)


@pytest.mark.parametrize("name", ["x.exr", "x.tif", "x.jpg", "x.svg", "x"])
def test_formats_that_are_not_there_are_refused_and_nothing_is_written(
    kelp: Path, tmp_path: Path, name: str, capsys: pytest.CaptureFixture
) -> None:
    assert main(["render", str(kelp), "-o", str(tmp_path / name)]) == 2
    assert f"{name}: pictures are written as .png" in capsys.readouterr().err
    assert not (tmp_path / name).exists()


@pytest.mark.parametrize("words", [["--time", "nan"], ["--time", "-1"], ["--scale", "nan"]])
def test_times_and_scales_that_are_none_are_refused(
    kelp: Path, tmp_path: Path, words: list[str], capsys: pytest.CaptureFixture
) -> None:
    assert main(["render", str(kelp), "-o", str(tmp_path / "x.png"), *words]) == 2
    assert "must be" in capsys.readouterr().err
