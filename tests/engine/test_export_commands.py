"""Exporting, sets and readings in a terminal: endings are honoured or refused."""

import json
from pathlib import Path

import cv2
import numpy as np
import pytest

from mabrel import parse_title
from mabrel.cli import main
from tests.engine.test_clips import DOCUMENT


class TestCommands:
    @pytest.fixture
    def document(self, tmp_path: Path) -> Path:
        path = tmp_path / "a.title.json"
        path.write_text(DOCUMENT)
        return path

    @pytest.mark.parametrize(("more", "alpha"), [([], 255), (["--no-plate"], 0)])
    def test_export_has_the_plate_or_leaves_it_out(self, document, tmp_path, more, alpha) -> None:
        cv2.imwrite(str(tmp_path / "wall.png"), np.full((41, 61, 3), 90, np.uint8))
        raw = json.loads(document.read_text())
        raw["layers"].insert(0, {"kind": "plate", "source": {"picture": "wall.png"}})
        document.write_text(json.dumps(raw))
        out = tmp_path / "a.png"
        assert main(["export", str(document), "-o", str(out), "--time", "0", *more]) == 0
        assert cv2.imread(str(out), cv2.IMREAD_UNCHANGED)[2, 2, 3] == alpha

    @pytest.mark.parametrize(
        ("name", "more", "files"),
        [
            ("a.mkv", ["--preset", "over-a-shot"], ["a.mkv"]),
            ("a.webm", ["--preset", "over-a-shot", "--frames", "1-3"], ["a.webm"]),
            ("a.webm", ["--form", "webm-av1"], ["a.webm"]),
            ("a.webp", ["--to", "0.1"], ["a.webp"]),
            ("a.jpg", ["--quality", "50", "--ground", "#ffffff"], ["a.jpg"]),
            ("a.ora", [], ["a.ora"]),
            ("a.exr", ["--passes"], ["a.exr"]),
            ("a.exr", ["--passes", "apart"], ["a.matte.exr", "a.face.exr"]),
            ("f-##.exr", ["--preset", "for-compositing", "--frames", "2-2"], ["f-02.exr"]),
            ("a.png", ["--preset", "for-print"], ["a.png"]),
        ],
    )  # fmt: skip
    def test_export_honours_its_ending(self, document, tmp_path, name, more, files) -> None:
        out = tmp_path / "out"
        assert main(["export", str(document), "-o", str(out / name), *more]) == 0
        written = {path.name for path in out.iterdir()}
        assert set(files) <= written
        assert "passes" in "".join(more) or len(written) == len(files)

    @pytest.mark.parametrize(
        ("name", "more", "said"),
        [
            ("a.gif", [], "no ending that anything is exported to"),
            ("a.png", ["--to", "1"], "one picture"),
            ("a.webm", ["--time", "1"], "no single picture"),
            ("a.webm", ["--form", "exr"], "another ending"),
            ("a.png", ["--passes"], "exr"),
            ("a.webm", ["--frames", "4-2"], "frames are written 0-124"),
            ("a.webm", ["--fps", "fast"], "a rate is written"),
            ("a.png", ["--scale", "90"], "at most 4"),
            ("a.webm", ["--depth", "16"], "depth of its own"),
            ("a.ora", ["--depth", "8"], "depth of its own"),
            ("a.mkv", ["--quality", "50"], "no quality to choose"),
            ("a.png", ["--quality", "50"], "no quality to choose"),
            ("a.mkv", ["--ground", "#ffffff"], "has alpha"),
        ],
    )
    def test_what_an_ending_cannot_be_is_refused(
        self, document, tmp_path, name, more, said, capsys
    ) -> None:
        assert main(["export", str(document), "-o", str(tmp_path / name), *more]) == 2
        assert said in capsys.readouterr().err
        assert [path.name for path in tmp_path.iterdir()] == ["a.title.json"]

    def test_a_set_has_one_size_and_a_sheet(self, document, tmp_path: Path) -> None:
        words, out = tmp_path / "words.txt", tmp_path / "set"
        words.write_text("I\nLONG WORDS\n")
        asked = ["set", str(document), str(words), "-o", str(out), "--one-size", "--sheet"]
        assert main(asked) == 0
        names = {path.name for path in out.iterdir()}
        assert names == {
            "I.png",
            "Long words.png",
            "I.title.json",
            "Long words.title.json",
            "sheet.png",
        }
        sizes = [parse_title((out / name).read_text()).layers[-1].source.size
                 for name in ("I.title.json", "Long words.title.json")]  # fmt: skip
        assert sizes[0] == pytest.approx(sizes[1])
        assert sizes[0] < 30

    def test_each_of_a_set_keeps_within_its_margin(self, document, tmp_path: Path) -> None:
        words, out = tmp_path / "words.txt", tmp_path / "set"
        words.write_text("I\nLONG WORDS\n")
        assert main(["set", str(document), str(words), "-o", str(out), "--margin", "0.1"]) == 0
        sizes = [parse_title((out / name).read_text()).layers[-1].source.size
                 for name in ("I.title.json", "Long words.title.json")]  # fmt: skip
        assert sizes[0] == 30 > sizes[1]

    def test_read_says_what_is_seen(self, document, capsys) -> None:
        assert main(["read", str(document)]) == 0
        said = capsys.readouterr().out
        assert "Strokes are" in said
        assert main(["read", str(document), "--json", "--layer", "I"]) == 2

    def test_a_title_without_a_finish_is_bare(self, tmp_path: Path) -> None:
        path = tmp_path / "bare.title.json"
        assert main(["new", "--text", "OAR", "--finish", "none", "-o", str(path)]) == 0
        (layer,) = parse_title(path.read_text()).layers
        assert (layer.kind, layer.build) == ("lettering", [])
