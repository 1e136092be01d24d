"""Exports in pieces: every format of clips, who makes them, and what happens when they die."""

import json
import os
import zipfile
from collections.abc import Callable
from concurrent.futures import Future
from concurrent.futures.process import BrokenProcessPool
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from pydantic import ValidationError

from mabrel import parse_title
from mabrel.export.making import TRIES, Stopped, export, make_pieces, pieces_of
from mabrel.export.order import PRESETS, Order
from mabrel.export.stills import still_bytes
from mabrel.export.worker import FrameError
from mabrel.export.workers import Here, Processes, workers_at
from mabrel.render import Picture
from mabrel.title import Title
from tests.engine.test_clips import DOCUMENT


@pytest.fixture(scope="module")
def title() -> Title:
    """A letter that crosses the frame in 40 frames."""
    return parse_title(DOCUMENT.replace('"duration": 0.2', '"duration": 1.6'))


class TestOrders:
    @pytest.mark.parametrize(
        ("asked", "said"),
        [
            ({"kind": "clip", "form": "png"}, "one of these forms"),
            ({"kind": "picture", "form": "webm"}, "one of these forms"),
            ({"kind": "layers", "form": "png"}, "ora"),
            ({"form": "png", "depth": "half"}, "depths"),
            ({"form": "png", "passes": "together"}, "exr"),
            ({"kind": "clip", "form": "webm", "passes": "apart"}, "exr"),
            ({"kind": "clip", "form": "webm", "start": 2, "end": 2}, "end after"),
            ({"kind": "clip", "form": "webm", "rate": "0"}, "rate"),
            ({"scale": 0.01}, "scale"),
            ({"quality": 0}, "quality"),
            ({"time": float("nan")}, "time"),
            ({"size": 3}, "size"),
        ],
    )
    def test_what_contradicts_itself_is_refused(self, asked: dict, said: str) -> None:
        with pytest.raises(ValidationError, match=said):
            Order.model_validate(asked)

    @pytest.mark.parametrize("name", PRESETS)
    def test_presets_are_whole(self, name: str) -> None:
        order = PRESETS[name].order
        assert Order.model_validate(order.model_dump()) == order
        assert PRESETS[name].says.endswith(".")

    def test_a_picture_is_of_when_the_title_stands(self, title) -> None:
        assert Order().frames(title)[0].time == 0.8
        assert Order(time=0.2).frames(title)[0].time == 0.2

    def test_pieces_are_the_same_whoever_makes_them(self, title) -> None:
        lossy = pieces_of(title, Order(kind="clip", form="webm"))
        whole = pieces_of(title, Order(kind="clip", form="ffv1"))
        assert [len(each.frames) for each in lossy] == [24, 16]
        assert [len(each.frames) for each in whole] == [8] * 5
        assert [frame.number for each in lossy for frame in each.frames] == list(range(40))


class Failing:
    """Workers whose pieces fail in some way, the first so many times."""

    count = 1

    def __init__(self, error: Exception, times: int) -> None:
        self.error, self.times, self.renewed, self.begun = error, times, 0, 0

    def share(self, title: Title) -> Any:
        return Here().share(title)

    def submit(self, job: Callable[..., bytes], *args: Any) -> "Future[bytes]":
        self.begun += 1
        if self.begun <= self.times:
            failed: Future[bytes] = Future()
            failed.set_exception(self.error)
            return failed
        return Here().submit(job, *args)

    def renew(self) -> None:
        self.renewed += 1

    def close(self) -> None:
        pass


class TestMaking:
    ORDER = Order(kind="clip", form="ffv1", end=0.8)

    def made(self, title: Title, folder: Path, workers: Any = None) -> bytes:
        path, pieces = folder / "out.mkv", folder / "pieces"
        pieces.mkdir(parents=True)
        export(title, self.ORDER, path, workers, folder=pieces)
        assert not list(pieces.iterdir())
        return path.read_bytes()

    def test_a_worker_that_dies_costs_its_piece_once_more(self, title, tmp_path: Path) -> None:
        dying = Failing(BrokenProcessPool("gone"), 1)
        assert self.made(title, tmp_path / "a", dying) == self.made(title, tmp_path / "b")
        assert dying.renewed == 1

    def test_a_piece_that_fails_three_times_fails_all(self, title, tmp_path: Path) -> None:
        dying = Failing(BrokenProcessPool("gone"), 99)
        with pytest.raises(FrameError, match=r"frame 0: its worker died 3 times"):
            make_pieces(title, self.ORDER, tmp_path, dying)
        assert dying.renewed == TRIES - 1

    def test_what_a_cluster_makes_of_a_dead_worker_counts_as_well(self, title, tmp_path) -> None:
        dying = Failing(RuntimeError("killed"), 2)
        make_pieces(title, self.ORDER, tmp_path, dying)
        assert len(list(tmp_path.iterdir())) == 3

    def test_a_frame_that_cannot_be_made_is_named(self, tmp_path: Path) -> None:
        huge = parse_title(DOCUMENT.replace('"width": 61', '"width": 8000').replace(
            '"height": 41', '"height": 4000'))  # fmt: skip
        order = Order(kind="clip", form="ffv1", scale=4)
        with pytest.raises(FrameError, match=r"frame 0: .*million"):
            make_pieces(huge, order, tmp_path)
        assert not list(tmp_path.iterdir())

    def test_a_plate_that_is_taken_away_is_named_and_may_come_back(self, tmp_path: Path) -> None:
        home, pieces = tmp_path / "home", tmp_path / "pieces"
        home.mkdir()
        pieces.mkdir()
        for number in range(20):
            (home / f"shot.{number:04d}.png").write_bytes(
                still_bytes(
                    Picture(np.full((41, 61, 4), (number / 20,) * 3 + (1,), np.float32)), "png"
                )
            )
        shot = {"kind": "plate", "source": {"picture": "shot.####.png"}}
        document = json.loads(DOCUMENT)
        document["layers"].insert(0, shot)
        title = parse_title(document).at_home(home)
        whole = tmp_path / "whole.mkv"
        export(title, self.ORDER, whole, folder=pieces)
        last = home / "shot.0018.png"

        def take_away(frames: int) -> None:
            if frames == 8:
                last.rename(tmp_path / "away.png")
                (home / "shot.0018.png").write_bytes(b"gone")

        with pytest.raises(FrameError, match=r"frame 18: picture 'shot.0018.png'"):
            make_pieces(title, self.ORDER, pieces, done=take_away)
        assert len(list(pieces.iterdir())) == 2
        (tmp_path / "away.png").rename(last)
        again = tmp_path / "again.mkv"
        export(title, self.ORDER, again, folder=pieces)
        assert again.read_bytes() == whole.read_bytes()

    def test_what_is_made_is_not_made_again(self, title, tmp_path: Path) -> None:
        heard: list[int] = []
        with pytest.raises(Stopped):
            make_pieces(title, self.ORDER, tmp_path, done=heard.append,
                        stopped=lambda: len(heard) > 1)  # fmt: skip
        kept = {path.name: path.stat().st_mtime_ns for path in tmp_path.iterdir()}
        assert kept
        make_pieces(title, self.ORDER, tmp_path, done=heard.append)
        assert heard[-1] == 20
        for name, when in kept.items():
            assert (tmp_path / name).stat().st_mtime_ns == when

    def test_a_full_disk_is_told_and_leaves_nothing_half(
        self, title, tmp_path, monkeypatch
    ) -> None:
        def full(path: Path, content: bytes) -> None:
            raise OSError(28, "No space left on device", str(path))

        monkeypatch.setattr("mabrel.export.making.write_atomically", full)
        with pytest.raises(OSError, match="No space"):
            make_pieces(title, self.ORDER, tmp_path)
        assert not list(tmp_path.iterdir())

    def test_processes_make_the_same_and_survive_a_kill(self, title, tmp_path: Path) -> None:
        workers = Processes(2)
        try:
            first = self.made(title, tmp_path / "a", workers)
            for process in list(workers._pool._processes.values()):
                os.kill(process.pid, 9)
            second = self.made(title, tmp_path / "b", workers)
        finally:
            workers.close()
        assert first == second == self.made(title, tmp_path / "c")

    def test_frames_and_passes_are_a_zip(self, title, tmp_path: Path) -> None:
        for order, names in (
            (Order(kind="frames", form="png", end=0.08), ["frame-0000.png", "frame-0001.png"]),
            (Order(form="exr", passes="apart", time=0.4), ["frame-0000.face.exr"]),
        ):
            path = tmp_path / "out.zip"
            export(title, order, path, folder=tmp_path)
            with zipfile.ZipFile(path) as archive:
                assert set(names) <= set(archive.namelist())

    def test_an_address_at_which_nobody_answers_is_told(self) -> None:
        with pytest.raises(OSError, match="no scheduler answers at tcp"):
            workers_at("tcp://127.0.0.1:9", 1)
