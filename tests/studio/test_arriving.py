"""Files that are sent in pieces: broken off, gone on with, refused, forgotten."""

import base64
import os
import time
from typing import Any

import pytest
from django.test import Client

from studio.library import arriving
from tests.studio.conftest import Api
from tests.studio.test_uploads import png

KIND = "application/offset+octet-stream"


class Sender:
    """Speaks tus 1.0.0."""

    def __init__(self) -> None:
        self._client = Client()

    def expect(self, name: str, length: object) -> Any:
        packed = base64.b64encode(name.encode()).decode()
        return self._client.post(
            "/api/library/arriving",
            content_type="application/json",
            headers={"Upload-Length": str(length), "Upload-Metadata": f"filename {packed}"},
        )

    def send(self, place: str, offset: object, content: bytes, kind: str = KIND) -> Any:
        return self._client.generic(
            "PATCH", place, content, kind, headers={"Upload-Offset": str(offset)}
        )

    def there(self, place: str) -> int:
        return int(self._client.head(place)["Upload-Offset"])

    def post(self, place: str) -> Any:
        return self._client.post(place, content_type="application/json")

    def delete(self, place: str) -> Any:
        return self._client.delete(place)


@pytest.fixture
def sender(db: None, settings, tmp_path) -> Sender:
    settings.STATE_DIR = tmp_path
    return Sender()


def test_a_file_comes_in_pieces_and_is_kept(sender: Sender, api: Api, library) -> None:
    content = png(400, 300)
    begun = sender.expect("wall.png", len(content))
    assert begun.status_code == 201
    place = begun["Location"]
    half = len(content) // 2
    assert sender.send(place, 0, content[:half])["Upload-Offset"] == str(half)
    assert sender.there(place) == half
    assert sender.post(f"{place}/keep").status_code == 409
    assert sender.send(place, half, content[half:]).status_code == 204
    kept = sender.post(f"{place}/keep")
    assert (kept.status_code, kept.json()["name"], kept.json()["width"]) == (201, "wall.png", 400)
    assert (library / "wall.png").read_bytes() == content
    assert sender.send(place, 0, b"more").status_code == 404


def test_a_piece_that_comes_twice_or_too_early_changes_nothing(sender: Sender) -> None:
    content = png(400, 300)
    place = sender.expect("wall.png", len(content))["Location"]
    sender.send(place, 0, content[:100])
    for offset in (0, 101, 10**14):
        answer = sender.send(place, offset, content[:100])
        assert answer.status_code == 409
        assert "100 bytes are there" in answer.json()["message"]
    assert sender.there(place) == 100


def test_no_more_is_taken_than_was_announced(sender: Sender) -> None:
    place = sender.expect("wall.png", 10)["Location"]
    assert sender.send(place, 0, b"x" * 500)["Upload-Offset"] == "10"


@pytest.mark.parametrize(
    ("name", "length", "said"),
    [
        ("wall.exe", 10, "is no picture or font"),
        ("wall.png", 65 * 2**20, "is larger than 64 MiB"),
        ("wall.mp4", 4 * 2**30 + 1, "is larger than 4096 MiB"),
        ("wall.png", "many", "must be a number of bytes"),
        ("wall.png", "9" * 20, "must be a number of bytes"),
        ("wall.png", 0, "is empty"),
        ("", 10, "must hold the file's name"),
    ],
)
def test_what_can_not_be_kept_is_refused_before_it_comes(
    sender: Sender, name: str, length: object, said: str
) -> None:
    answer = sender.expect(name, length)
    assert answer.status_code == 422
    assert said in answer.json()["message"]


def test_a_broken_file_is_told_and_forgotten(sender: Sender, library) -> None:
    place = sender.expect("wall.mp4", 9)["Location"]
    sender.send(place, 0, b"no clip !")
    answer = sender.post(f"{place}/keep")
    assert answer.status_code == 422
    assert "wall.mp4" in answer.json()["message"]
    assert sender.post(f"{place}/keep").status_code == 404
    assert not list(library.iterdir())


def test_a_file_may_be_given_up(sender: Sender) -> None:
    place = sender.expect("wall.mp4", 9)["Location"]
    assert sender.delete(place).status_code == 204
    assert sender.send(place, 0, b"x").status_code == 404


def test_two_at_once_do_not_mix(sender: Sender) -> None:
    place = sender.expect("wall.mp4", 9)["Location"]
    found = arriving.arriving(arriving.UUID(place.split("/")[-1]))
    with found.held():
        assert sender.send(place, 0, b"x").status_code == 423
        assert sender.post(f"{place}/keep").status_code == 423
    assert sender.there(place) == 0


def test_what_nobody_goes_on_with_is_swept_away(sender: Sender, monkeypatch) -> None:
    place = sender.expect("old.mp4", 9)["Location"]
    found = arriving.arriving(arriving.UUID(place.split("/")[-1]))
    long_ago = time.time() - 2 * 24 * 3600
    os.utime(found.path, (long_ago, long_ago))
    monkeypatch.setattr(arriving, "MOST_ARRIVING", 1)
    assert sender.expect("new.mp4", 9).status_code == 201
    assert not found.path.exists()
    assert sender.expect("third.mp4", 9).status_code == 503


def test_a_piece_must_say_that_it_is_one(sender: Sender) -> None:
    place = sender.expect("wall.mp4", 9)["Location"]
    assert sender.send(place, 0, b"x", "text/plain").status_code == 415
    assert sender.send(place, 0, b"x", "application/json").status_code == 415


def test_what_a_killed_studio_left_half_written_is_not_there(sender: Sender, tmp_path) -> None:
    place = sender.expect("wall.mp4", 9)["Location"]
    (told,) = (tmp_path / "arriving").glob("*.json")
    told.write_text('{"name": "wa')
    assert sender.send(place, 0, b"x").status_code == 404
    assert sender.post(f"{place}/keep").status_code == 404
