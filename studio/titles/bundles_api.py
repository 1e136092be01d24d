"""Titles as `*.mabrel` files, with their pictures and fonts."""

from urllib.parse import quote
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import File, Router, Status
from ninja.files import UploadedFile

from mabrel.compose import bundled, unbundled
from mabrel.compose.bundle import LARGEST_BUNDLE
from mabrel.steps import with_file
from mabrel.title import TitleError
from studio.errors import Fault
from studio.library.files import keep
from studio.titles.api import TitleSummary, present_title
from studio.titles.documents import at_home
from studio.titles.models import Title

router = Router(tags=["bundles"])


@router.get("/titles/{title_id}/file", response={200: None, 422: Fault}, operation_id="title_file")
def title_file(request: HttpRequest, title_id: UUID):
    """A title with all that it needs, as one file."""
    title = present_title(title_id)
    response = HttpResponse(bundled(title.parsed), content_type="application/zip")
    name = quote((title.name or "title").replace("/", "-"))
    response["Content-Disposition"] = f"attachment; filename*=UTF-8''{name}.mabrel"
    return response


@router.post(
    "/titles/import", response={201: TitleSummary, 422: Fault}, operation_id="import_title"
)
def import_title(request: HttpRequest, file: File[UploadedFile]):
    """Put the title of a `*.mabrel` file on the shelf, and its files in the library.

    A file of the same name but another content is kept under another name, which the title then
    uses.
    """
    if (file.size or 0) > LARGEST_BUNDLE:
        raise TitleError(file.name or "", f"is larger than {LARGEST_BUNDLE // 2**20} MiB")
    try:
        title, files = unbundled(file.read())
    except TitleError as fault:
        raise TitleError(file.name or "", str(fault)) from None
    renamed = {name: keep(name, content) for name, content in files.items()}
    for before, after in renamed.items():
        title = with_file(title, before, after)
    return Status(201, TitleSummary.of(Title.keep(at_home(title))))
