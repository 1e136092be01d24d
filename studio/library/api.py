"""The library: pictures and fonts, where they are used, and what may be done with them."""

from typing import Annotated, Literal
from uuid import UUID

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from ninja import File, Query, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import Field

from mabrel.source import FontError, LibraryError, PictureError, picture_size, shipped_pictures
from mabrel.source.library import LARGEST_FILE, SHIPPED_PREFIX, library_at
from studio.errors import Fault
from studio.library import files
from studio.library.pictures import as_png, font_sample
from studio.library.uses import Use, replace_everywhere, uses_of_files
from studio.titles.many import Changed

router = Router(tags=["library"])

FileName = Annotated[str, Field(min_length=1, max_length=200)]


class User(Schema):
    """A title, or without an id a finish."""

    name: str
    title: UUID | None


class LibraryFile(Schema):
    """`fault` says why a file that was damaged since can't be used. Fonts have no size."""

    name: str
    kind: Literal["picture", "font"]
    shipped: bool
    bytes: int
    version: str
    width: int | None = None
    height: int | None = None
    used_by: list[User]
    fault: str = ""


class Replace(Schema):
    name: FileName
    by: FileName


@router.get("/library", response=list[LibraryFile], operation_id="list_library")
def list_library(request: HttpRequest) -> list[LibraryFile]:
    uses = uses_of_files()
    named = [*files.own_files(), *shipped_pictures()]
    return [_entry(name, uses.get(name, [])) for name in named]


@router.post("/library", response={201: LibraryFile, 422: Fault}, operation_id="upload_file")
def upload_file(request: HttpRequest, file: File[UploadedFile]):
    """Keep a picture or font. A name that is taken gets a number; nothing is overwritten."""
    if (file.size or 0) > LARGEST_FILE:
        raise LibraryError(f"{file.name!r} is larger than {LARGEST_FILE // 2**20} MiB")
    return Status(201, _entry(files.keep(file.name or "file", file.read()), []))


@router.get("/library/picture", operation_id="library_picture", response={200: None, 422: Fault})
def library_picture(
    request: HttpRequest,
    name: Query[FileName],
    side: Annotated[int, Field(ge=16, le=4096)] = 240,
    text: Annotated[str, Field(max_length=40)] = "Aa",
    version: Annotated[str, Field(max_length=100)] = "",
):
    """A picture as PNG, at most `side` pixels on a side; of a font a word as SVG. With the file's
    `version` the answer may be kept."""
    home = settings.LIBRARY_DIR
    now = library_at(home).version(name)
    if files.is_font(name):
        response = HttpResponse(font_sample(home, name, text), content_type="image/svg+xml")
    else:
        response = HttpResponse(as_png(home, name, now, side), content_type="image/png")
    kept = version == _short(now)
    response["Cache-Control"] = "private, max-age=31536000, immutable" if kept else "no-cache"
    response["Content-Security-Policy"] = "default-src 'none'; style-src 'unsafe-inline'; sandbox"
    return response


@router.delete("/library", response={204: None, 422: Fault}, operation_id="delete_file")
def delete_file(request: HttpRequest, name: Query[FileName]):
    """Delete a file that no title and no finish uses."""
    uses = uses_of_files().get(name, [])
    if uses:
        names = ", ".join(each.name for each in uses)
        raise LibraryError(f"{name!r} is used by {names}: replace it there first")
    files.delete(name)
    return Status(204, None)


@router.post(
    "/library/replace", response={200: list[Changed], 422: Fault}, operation_id="replace_file"
)
def replace_file(request: HttpRequest, act: Replace) -> list[Changed]:
    """Another file in every title that uses `name`; the answer is what undoes it."""
    library_at(settings.LIBRARY_DIR).version(act.by)
    if files.is_font(act.name) != files.is_font(act.by):
        raise LibraryError("a picture can't take the place of a font, nor a font that of a picture")
    return replace_everywhere(act.name, act.by)


def _short(version: str) -> str:
    """Without the folder, which is nobody's business."""
    return version.rpartition("/")[2]


def _entry(name: str, uses: list[Use]) -> LibraryFile:
    library = library_at(settings.LIBRARY_DIR)
    content = library.read(name)
    entry = LibraryFile(
        name=name,
        kind="font" if files.is_font(name) else "picture",
        shipped=name.startswith(SHIPPED_PREFIX),
        bytes=len(content),
        version=_short(library.version(name)),
        used_by=[User(name=use.name, title=use.title) for use in uses],
    )
    try:
        if entry.kind == "picture":
            entry.width, entry.height = picture_size(content, name)
        else:
            files.check(name, content)
    except (PictureError, FontError, LibraryError) as fault:
        entry.fault = str(fault)
    return entry
