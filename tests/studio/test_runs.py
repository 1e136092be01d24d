"""Numbered pictures: one entry of the library, each by itself too; in bundles, with other names."""

from pathlib import Path

import pytest

from mabrel import new_title, parse_title
from studio.library import files
from studio.library.runs import member, numbered_run, run_of, with_runs
from studio.titles.models import Title
from tests.studio.conftest import Api, body, keep, parsed
from tests.studio.test_uploads import png

RUN = "wall.####.png"


def put(library: Path, levels: range, name: str = "wall") -> None:
    for number, level in enumerate(levels, 1):
        (library / f"{name}.{number:04d}.png").write_bytes(png(level=level))


def over(picture: str, home: Path) -> Title:
    title = new_title("X", frame=(320, 180), home=home)
    document = title.model_dump(mode="json")
    document["layers"].insert(0, {"kind": "plate", "source": {"picture": picture}})
    return keep(parse_title(document).at_home(home))


@pytest.fixture
def listed(api: Api, library: Path, db: None) -> dict[str, dict]:
    put(library, range(10, 15))
    (library / "other.0001.png").write_bytes(png())
    return {each["name"]: each for each in api.get("/library").json() if not each["shipped"]}


def test_a_run_is_an_entry_and_knows_its_pictures(listed: dict) -> None:
    assert list(listed) == [
        "other.0001.png", RUN, *(f"wall.000{number}.png" for number in range(1, 6)),
    ]  # fmt: skip
    run = listed[RUN]
    assert (run["frames"], run["width"], run["seconds"], run["fault"]) == (5, 40, None, "")
    assert run["bytes"] == sum(
        listed[name]["bytes"] for name in listed if name.startswith("wall.0")
    )
    assert listed["wall.0003.png"]["part_of"] == RUN
    assert run["part_of"] is listed["other.0001.png"]["part_of"] is None


def test_its_picture_is_a_strip_and_changes_with_any_of_it(api: Api, listed: dict, library) -> None:
    assert api.get("/library/picture", name=RUN, side=40, frames=3).status_code == 200
    before = listed[RUN]["version"]
    (library / "wall.0004.png").write_bytes(png(level=99))
    now = {each["name"]: each["version"] for each in api.get("/library").json()}
    assert now[RUN] != before
    assert now["wall.0003.png"] == listed["wall.0003.png"]["version"]


@pytest.mark.parametrize("used", [RUN, "wall.0002.png"])
def test_what_is_used_of_it_keeps_all_of_it(
    api: Api, listed: dict, library: Path, used: str
) -> None:
    title = over(used, library)
    answer = api.send("DELETE", f"/library?name={RUN.replace('#', '%23')}")
    assert answer.status_code == 422
    assert "is used by" in answer.json()["message"]
    title.delete()
    assert api.send("DELETE", f"/library?name={RUN.replace('#', '%23')}").status_code == 204
    assert [path.name for path in library.iterdir()] == ["other.0001.png"]


def test_a_bundle_brings_all_of_it_and_never_mixes_two(
    api: Api, listed: dict, library: Path
) -> None:
    title = over(RUN, library)
    bundle = body(api.get(f"/titles/{title.id}/file"))
    before = {path.name for path in library.iterdir()}
    again = api.upload("/titles/import", "a.mabrel", bundle)
    assert again.status_code == 201, again.content
    assert {path.name for path in library.iterdir()} == before
    put(library, range(50, 53))  # other pictures under three of the names
    (library / "wall.0005.png").unlink()
    other = api.upload("/titles/import", "a.mabrel", bundle).json()
    shown = parsed(Title.objects.get(pk=other["id"])).layers[0].source.picture
    assert shown == "wall-2.####.png"
    assert len([path for path in library.iterdir() if path.name.startswith("wall-2.")]) == 5
    assert files.places_of(shown)[3].read_bytes() == png(level=13)


@pytest.mark.parametrize(
    ("name", "run"),
    [
        ("wall.0001.png", RUN),
        ("a-001.EXR", "a-###.EXR"),
        ("a1.png", None),
        ("a-01.png", None),
        ("0001.tif", "####.tif"),
        ("clip.0001.webm", None),
        ("wall.0001.svg", None),
    ],
)
def test_which_run_a_picture_may_belong_to(name: str, run: str | None) -> None:
    assert run_of(name) == run


def test_runs_have_three_or_more() -> None:
    assert with_runs(["a.001.png", "a.002.png"]) == ["a.001.png", "a.002.png"]
    names = ["a.001.png", "a.002.png", "a.003.png", "b.png"]
    assert with_runs(names) == ["a.###.png", *names]


@pytest.mark.parametrize(
    ("run", "other"),
    [
        (RUN, "wall-2.####.png"),
        ("####.png", "pictures-2.####.png"),
        ("a_###.png", "a-2_###.png"),
    ],
)
def test_another_name_for_a_run(run: str, other: str) -> None:
    assert numbered_run(run, 2) == other
    digits = "0007"[-run.count("#") :]
    signs = "#" * run.count("#")
    assert member(run, run.replace(signs, digits), other) == other.replace(signs, digits)


@pytest.mark.parametrize(
    ("wanted", "kept"),
    [
        ("sea/wall.###.PNG", "wall.###.png"),
        ("wa~ll.##.png", "wa-ll.##.png"),
        ("-.###.png", "###.png"),
    ],
)
def test_a_run_gets_a_name_that_a_file_system_takes(
    library: Path, tmp_path: Path, wanted: str, kept: str
) -> None:
    signs = "#" * wanted.count("#")
    contents = {}
    for number in range(1, 4):
        name = wanted.replace(signs, str(number).zfill(len(signs)))
        contents[name] = tmp_path / f"{number}"
        contents[name].write_bytes(png(level=number))
    run, new = files.keep_run(wanted, contents)
    assert run == kept
    assert len(new) == 3
    assert [path.read_bytes() for path in files.places_of(run)] == [
        png(level=number) for number in range(1, 4)
    ]
