"""Strips that were rendered before are not rendered again."""

from pathlib import Path
from typing import Any

import pytest
from django.core.management import call_command
from PIL import Image

from mabrel import new_title, parse_title
from studio.engine.kept import Kept
from studio.engine.work import Work
from studio.preview import strips_api
from studio.preview.management.commands import keep_pictures
from studio.titles.models import Title
from tests.studio.conftest import Api, keep

STRIP = {"session": "s", "width": 300, "height": 84}


def picture(path: Path, colour: tuple[int, int, int]) -> None:
    Image.new("RGB", (60, 40), colour).save(path)


@pytest.fixture
def asked(monkeypatch: pytest.MonkeyPatch) -> list[Work]:
    """What the engine is asked from now on."""
    found: list[Work] = []
    render = strips_api.png

    async def noted(work: Work, *args: Any, **ask: Any) -> Any:
        found.append(work)
        return await render(work, *args, **ask)

    monkeypatch.setattr(strips_api, "png", noted)
    return found


def test_a_strip_is_rendered_once(api: Api, kept: Title, asked: list[Work]) -> None:
    first = api.get(f"/titles/{kept.id}/strip", **STRIP)
    again = api.get(f"/titles/{kept.id}/strip", **STRIP)
    assert first.content == again.content
    assert len(asked) == 1
    other = api.get(f"/titles/{kept.id}/strip", **STRIP | {"width": 200})
    assert (len(asked), other.content == first.content) == (2, False)


def test_a_strip_is_rendered_anew_where_a_file_of_its_title_has_changed(
    api: Api, library: Path, asked: list[Work]
) -> None:
    picture(library / "badge.png", (40, 90, 160))
    document = new_title("H", frame=(320, 180)).model_dump(mode="json")
    document["layers"].append(
        {"kind": "picture", "id": "b", "source": {"picture": "badge.png", "height": 80}}
    )
    title = keep(parse_title(document).at_home(library))
    first = api.get(f"/titles/{title.id}/strip", **STRIP)
    picture(library / "badge.png", (220, 30, 20))
    second = api.get(f"/titles/{title.id}/strip", **STRIP)
    assert (len(asked), first.content == second.content) == (2, False)


def test_what_the_shelf_shows_first_can_be_rendered_at_set_up(
    api: Api, kept: Title, asked: list[Work], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(keep_pictures, "finish_strip", lambda tools, **ask: b"a finish")
    monkeypatch.setattr(keep_pictures, "strip", lambda tools, **ask: b"a title")
    call_command("keep_pictures")
    word = {"text": "HARBOUR", "font": "Titan One", "frame_width": 1920, "frame_height": 1080}
    size = {"width": 600, "height": 168}
    finish = api.get("/finishes/enamel/picture", session="shelf", **word, **size)
    assert finish.content == b"a finish"
    assert api.get(f"/titles/{kept.id}/strip").content == b"a title"
    assert asked == []


def test_a_store_that_is_damaged_is_as_good_as_empty(tmp_path: Path) -> None:
    (tmp_path / "kept").write_text("no folder")
    store = Kept(tmp_path / "kept", 1000)
    store.put("key", b"content")
    assert store.get("key") is None


def test_the_store_keeps_to_its_size(tmp_path: Path) -> None:
    store = Kept(tmp_path / "kept", 2_000_000)
    for number in range(100):
        store.put(str(number), bytes(100_000))
    there = sum(path.stat().st_size for path in (tmp_path / "kept").rglob("*") if path.is_file())
    assert there < 4_000_000  # of ten; a few are thrown away at a time
    assert store.get("99") is not None
    assert store.get("0") is None
