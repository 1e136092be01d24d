"""Titles as `*.mabrel` files, with their pictures and fonts."""

from pathlib import Path
from uuid import UUID

from asgiref.sync import sync_to_async
from django.http import HttpRequest
from ninja import File, Router, Status
from ninja.files import UploadedFile

from studio.engine.asking import answer, answer_now
from studio.engine.outcome import Refused
from studio.engine.work import PACK, REPLACE, UNPACK
from studio.library import files
from studio.library.facts import facts_of
from studio.passing import passing_folder, passing_place
from studio.titles.api import TitleSummary, present_title
from studio.titles.documents import home
from studio.titles.models import Title
from studio.web.answers import file_answer
from studio.web.disk import enough_disk
from studio.web.errors import Fault

router = Router(tags=["bundles"])


@router.get("/titles/{title_id}/file", response={200: None, 422: Fault}, operation_id="title_file")
async def title_file(request: HttpRequest, title_id: UUID):
    """A title with all that it needs, as one file."""
    title = await sync_to_async(present_title)(title_id)
    path = passing_place(".mabrel")
    document = title.document.encode()
    try:
        await answer(PACK, str(title_id), document=document, home=home(), path=str(path))
    except BaseException:
        path.unlink(missing_ok=True)
        raise
    return await file_answer(path, f"{title.name or 'title'}.mabrel", "application/zip", True)


@router.post(
    "/titles/import", response={201: TitleSummary, 422: Fault}, operation_id="import_title"
)
def import_title(request: HttpRequest, file: File[UploadedFile]):
    """Put the title of a `*.mabrel` file on the shelf, and its files in the library, or nothing.

    A file of the same name but another content is kept under another name, which the title then
    uses.
    """
    enough_disk()
    with passing_folder() as folder:
        sent = file.temporary_file_path()
        found = answer_now(UNPACK, path=sent, name=file.name or "this file", folder=str(folder))
        for name, place in found["files"].items():
            _check(file.name or "", name, Path(place))
        with files.library_lock:
            return Status(201, _keep_all(found["document"].encode(), found["files"], found["runs"]))


def _keep_all(document: bytes, unpacked: dict[str, str], runs: dict[str, list[str]]) -> Title:
    """The title, and its files in the library; where anything fails, none of them."""
    names: dict[str, str] = {}
    new: list[str] = []
    try:
        for run, members in runs.items():
            inside = {name: Path(unpacked[name]) for name in members}
            names[run], kept = files.keep_run(run, inside)
            new += kept
        for name, place in unpacked.items():
            if any(name in members for members in runs.values()):
                continue
            names[name], is_new = files.keep(name, Path(place))
            new += [names[name]] if is_new else []
        (checked,) = answer_now(REPLACE, documents=[document], home=home(), files=names)
        return Title.keep(checked)
    except BaseException:
        files.delete(new)
        raise


def _check(bundle: str, name: str, path: Path) -> None:
    files.known_kind(name)
    fault = facts_of(name, path)["fault"]
    if fault:
        raise Refused(bundle, fault)
