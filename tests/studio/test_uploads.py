"""The library: uploads, thumbnails, where files are used, replacing and deleting."""

from pathlib import Path

import cv2
import numpy as np
import pytest

from mabrel import new_title
from studio.titles.models import Title
from tests.studio.conftest import Api, keep, parsed

DISC = (
    b'<svg xmlns="http://www.w3.org/2000/svg" width="100" height="60">'
    b'<circle cx="50" cy="30" r="25"/></svg>'
)
FONT = Path(__file__).parents[2] / "mabrel/source/fonts"


def png(width: int = 40, height: int = 30, level: int = 200) -> bytes:
    return cv2.imencode(".png", np.full((height, width, 4), level, np.uint8))[1].tobytes()


def own_font() -> bytes:
    return next(FONT.rglob("*.ttf")).read_bytes()


def own(api: Api) -> list[dict]:
    return [each for each in api.get("/library").json() if not each["shipped"]]


@pytest.fixture
def user(db: None, library: Path) -> Title:
    """A title that shows disc.svg."""
    (library / "disc.svg").write_bytes(DISC)
    return keep(new_title("X", picture="disc.svg", frame=(320, 180), home=library))


def test_a_picture_is_uploaded_listed_and_shown(api: Api) -> None:
    answer = api.upload("/library", "plate.png", png())
    assert answer.status_code == 201, answer.content
    [listed] = own(api)
    assert (listed["name"], listed["kind"], listed["width"], listed["height"]) == (
        *("plate.png", "picture"),
        *(40, 30),
    )
    shown = api.get("/library/picture", name="plate.png", side=20)
    pixels = cv2.imdecode(np.frombuffer(shown.content, np.uint8), cv2.IMREAD_UNCHANGED)
    assert pixels.shape == (15, 20, 4)
    assert abs(int(pixels[..., 0].mean()) - 200) <= 1


def test_a_drawing_is_shown_at_the_size_asked_for(api: Api) -> None:
    api.upload("/library", "disc.svg", DISC)
    shown = api.get("/library/picture", name="disc.svg", side=300)
    assert cv2.imdecode(np.frombuffer(shown.content, np.uint8), -1).shape[:2] == (180, 300)
    assert "sandbox" in shown["Content-Security-Policy"]


def test_a_font_is_uploaded_chosen_and_used(api: Api) -> None:
    assert api.upload("/library", "Own face.ttf", own_font()).status_code == 201
    families = [font["family"] for font in api.get("/catalogue").json()["fonts"]]
    assert families[0] == "Own face.ttf"
    assert api.get("/fonts/samples", text="HI").json()[0]["family"] == "Own face.ttf"
    assert b"<path" in api.get("/library/picture", name="Own face.ttf", text="HI").content
    made = api.post("/titles", {"text": "HI", "font": "Own face.ttf", "width": 320, "height": 180})
    assert made.status_code == 201
    [listed] = own(api)
    assert [use["name"] for use in listed["used_by"]] == ["Hi"]


def test_nothing_is_overwritten_and_the_same_content_is_kept_once(api: Api) -> None:
    names = [
        api.upload("/library", "plate.png", content).json()["name"]
        for content in (png(), png(level=10), png())
    ]
    assert names == ["plate.png", "plate-2.png", "plate.png"]
    assert len(own(api)) == 2


@pytest.mark.parametrize(
    ("name", "kept"),
    [
        ("../../etc/plate.png", "plate.png"),
        ("C:\\pictures\\plate.PNG", "plate.png"),
        ("a<b>:c?.png", "a-b-c.png"),
        ("…/.png", None),
    ],
)
def test_names_are_made_plain(api: Api, library: Path, name: str, kept: str | None) -> None:
    answer = api.upload("/library", name, png())
    if kept is None:
        assert answer.status_code == 422
        return
    assert answer.json()["name"] == kept
    assert [path.name for path in library.rglob("*") if path.is_file()] == [kept]


@pytest.mark.parametrize(
    ("name", "content", "said"),
    [
        ("plate.png", b"Dear diary", "is no PNG"),
        ("plate.png", png()[:60], "plate.png"),
        ("face.ttf", b"\0\1\0\0" + bytes(40), "is damaged"),
        ("song.mp3", b"x", "is no picture or font"),
    ],
)
def test_what_can_not_be_used_is_refused_and_not_kept(
    api: Api, library: Path, name: str, content: bytes, said: str
) -> None:
    answer = api.upload("/library", name, content)
    if answer.status_code == 201:  # a header that is whole passes; its picture says the rest
        assert api.get("/library/picture", name=name).status_code == 422
        return
    assert answer.status_code == 422
    assert said in answer.json()["message"]
    assert list(library.iterdir()) == []


def test_a_full_disk_is_told_and_leaves_no_half_file(
    api: Api, library: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def full(content: Path, path: Path) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("studio.library.files._put", full)
    answer = api.upload("/library", "plate.png", png())
    assert answer.status_code == 503
    assert "No space left" in answer.json()["message"]
    assert list(library.iterdir()) == []


def test_a_file_in_use_is_not_deleted_but_replaced_everywhere(api: Api, user: Title) -> None:
    refused = api.send("DELETE", "/library?name=disc.svg")
    assert refused.status_code == 422
    assert "used by Disc" in refused.json()["message"]
    api.upload("/library", "plate.png", png())
    changed = api.post("/library/replace", {"name": "disc.svg", "by": "plate.png"}).json()
    assert [each["name"] for each in changed] == ["Disc"]
    user.refresh_from_db()
    assert parsed(user).layers[-1].source.picture == "plate.png"
    assert api.send("DELETE", "/library?name=disc.svg").status_code == 204


def test_replacing_is_taken_back_unless_the_title_was_changed_since(api: Api, user: Title) -> None:
    api.upload("/library", "plate.png", png())
    changed = api.post("/library/replace", {"name": "disc.svg", "by": "plate.png"}).json()
    back = api.post("/titles/take-back", {"changed": changed})
    assert back.json() == {"left": []}
    user.refresh_from_db()
    assert parsed(user).layers[-1].source.picture == "disc.svg"
    again = api.post("/titles/take-back", {"changed": changed})
    assert again.json() == {"left": ["Disc"]}


def test_a_font_does_not_take_the_place_of_a_picture(api: Api, user: Title) -> None:
    api.upload("/library", "face.ttf", own_font())
    for by, said in (("face.ttf", "font"), ("gone.png", "no file")):
        answer = api.post("/library/replace", {"name": "disc.svg", "by": by})
        assert answer.status_code == 422
        assert said in answer.json()["message"]


def test_a_finish_guards_its_pictures_too(api: Api, user: Title) -> None:
    look = {"step": "surface.picture", "settings": {"picture": "disc.svg"}}
    finish = {"name": "mine", "label": "Mine", "letter_height": 100, "build": [look]}
    assert api.post("/finishes/import", finish).status_code == 201
    user.remove()
    answer = api.send("DELETE", "/library?name=disc.svg")
    assert "used by Disc (removed), Mine" in answer.json()["message"]


def test_what_ships_is_not_deleted(api: Api) -> None:
    answer = api.send("DELETE", "/library?name=shipped/planks.jpg")
    assert answer.status_code == 422
