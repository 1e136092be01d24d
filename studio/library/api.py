"""The library: pictures and fonts, where they are used, and what may be done with them."""

from collections.abc import Container
from pathlib import Path
from typing import Annotated, Literal
from uuid import UUID

from asgiref.sync import sync_to_async
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from ninja import File, Query, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import Field

from studio.engine.asking import answer
from studio.engine.kept import kept_on_disk, key_of
from studio.engine.outcome import Refused
from studio.engine.shipped import SHIPPED_PREFIX, shipped_pictures
from studio.engine.work import FILE_PICTURE
from studio.library import files
from studio.library.facts import facts_of
from studio.library.runs import run_of
from studio.library.uses import Use, Where, replace_everywhere, uses_of_files
from studio.titles.bulk_changes import Changed
from studio.titles.documents import home
from studio.web.disk import enough_disk
from studio.web.errors import Fault

router = Router(tags=["library"])

FileName = Annotated[str, Field(min_length=1, max_length=200)]


class User(Schema):
    """What uses a file; without an id it is a finish."""

    name: str
    where: Where
    title: UUID | None


class LibraryFile(Schema):
    """`fault` says why a file that was damaged since can't be used. Fonts have no size; clips have
    `frames`, and but for numbered pictures `seconds` and a `rate` of frames a second; each of
    those is `part_of` them."""

    name: str
    kind: Literal["picture", "font"]
    shipped: bool
    bytes: int
    version: str
    width: int | None = None
    height: int | None = None
    part_of: str | None = None
    frames: int | None = None
    seconds: float | None = None
    rate: float | None = None
    used_by: list[User]
    fault: str = ""


class Replace(Schema):
    name: FileName
    by: FileName


@router.get("/library", response=list[LibraryFile], operation_id="list_library")
def list_library(request: HttpRequest) -> list[LibraryFile]:
    uses = uses_of_files()
    named = [*files.own_files(), *shipped_pictures()]
    runs = set(filter(files.is_numbered, named))
    entries = (entry_of(name, uses.get(name, []), runs) for name in named)
    return [entry for entry in entries if entry is not None]


@router.post("/library", response={201: LibraryFile, 422: Fault}, operation_id="upload_file")
def upload_file(request: HttpRequest, file: File[UploadedFile]):
    """Keep a picture or font. A name that is taken gets a number; nothing is overwritten."""
    enough_disk()
    name = files.plain_name(file.name or "file")
    files.known_kind(name)
    files.not_too_large(name, file.size or 0)
    path = Path(file.temporary_file_path())
    return Status(201, entry_of(kept_as(name, path), []))


def kept_as(name: str, path: Path) -> str:
    """The name under which a file is in the library, once it was looked into. Raises Refused."""
    facts = facts_of(name, path)
    if facts["fault"]:
        raise Refused("file", facts["fault"])
    called = facts.get("called")  # what moves in a file whose name does not say so
    kept, _ = files.keep(name.rpartition(".")[0] + called if called else name, path)
    return kept


@router.get("/library/picture", operation_id="library_picture", response={200: None, 422: Fault})
async def library_picture(
    request: HttpRequest,
    name: Query[FileName],
    side: Annotated[int, Field(ge=16, le=4096)] = 240,
    text: Annotated[str, Field(max_length=40)] = "Aa",
    version: Annotated[str, Field(max_length=300)] = "",
    frames: Annotated[int, Field(ge=1, le=24)] = 1,
):
    """A picture as PNG, at most `side` pixels on a side; of a font a word as SVG; of a clip so many
    of its frames beside one another. With the file's `version` the answer may be kept."""
    now = await sync_to_async(files.version_named)(name)
    font = files.is_font(name)
    key = key_of("picture", name, now, text if font else f"{side} {frames}")
    content = await kept_on_disk().aget(key)
    if content is None:
        content = await answer(
            FILE_PICTURE, "library", home=home(), name=name, side=side, text=text, frames=frames
        )
        await kept_on_disk().aput(key, content)
    response = HttpResponse(content, content_type="image/svg+xml" if font else "image/png")
    kept = version == now
    response["Cache-Control"] = "private, max-age=31536000, immutable" if kept else "no-cache"
    response["Content-Security-Policy"] = "default-src 'none'; style-src 'unsafe-inline'; sandbox"
    return response


@router.delete("/library", response={204: None, 422: Fault}, operation_id="delete_file")
def delete_file(request: HttpRequest, name: Query[FileName]):
    """Delete a file that no title, no mark and no finish uses."""
    if name.startswith(SHIPPED_PREFIX):
        raise Refused("name", f"{name!r} ships with Mabrel and stays")
    files.place_of(name)
    # Nothing can be saved or imported between the look and the deed.
    with files.library_lock, transaction.atomic():
        used = uses_of_files()
        uses = [use for each in _meant(name) for use in used.get(each, [])]
        if uses:
            names = ", ".join(dict.fromkeys(map(_said, uses)))
            raise Refused("name", f"{name!r} is used by {names}: replace it there first")
        files.delete([name])
    return Status(204, None)


def _meant(name: str) -> list[str]:
    """A name, and those of numbered pictures that it stands for."""
    if not files.is_numbered(name):
        return [name]
    return [name, *(path.name for path in files.places_of(name))]


def _said(use: Use) -> str:
    return {"removed": f"{use.name} (removed)", "mark": f"the mark {use.name}"}.get(
        use.where, use.name
    )


@router.post(
    "/library/replace", response={200: list[Changed], 422: Fault}, operation_id="replace_file"
)
def replace_file(request: HttpRequest, act: Replace) -> list[Changed]:
    """Another file in every title that uses `name`; the answer is what undoes it."""
    files.place_of(act.by)
    if files.is_font(act.name) != files.is_font(act.by):
        raise Refused("by", "a picture can't take a font's place, nor a font a picture's")
    return replace_everywhere(act.name, act.by)


def entry_of(name: str, uses: list[Use], runs: Container[str] = ()) -> LibraryFile | None:
    """What is said of a file; None for a file that was deleted a moment ago."""
    try:
        path = files.place_of(name)
        facts = facts_of(name, path)
        size = sum(each.stat().st_size for each in files.places_of(name))
        version = files.version_named(name)
    except (Refused, FileNotFoundError):
        return None
    return LibraryFile(
        name=name,
        kind="font" if files.is_font(name) else "picture",
        shipped=name.startswith(SHIPPED_PREFIX),
        bytes=size,
        version=version,
        width=facts.get("width"),
        height=facts.get("height"),
        part_of=run if (run := run_of(name)) in runs else None,
        frames=facts.get("frames"),
        seconds=facts.get("seconds"),
        rate=facts.get("rate"),
        used_by=[User(name=use.name, where=use.where, title=use.title) for use in uses],
        fault=facts["fault"],
    )
