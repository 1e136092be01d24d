"""Files sent in pieces, by tus 1.0.0 (tus.io): a transfer that breaks off goes on where it was.

Its core protocol, with creation and termination. When all is there, `keep_arrived` looks into the
file and puts it in the library.
"""

import base64
import binascii
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from studio.engine.outcome import Refused
from studio.engine.shipped import LARGEST_CLIP
from studio.library.api import LibraryFile, entry_of, kept_as
from studio.library.arriving import Arriving, Busy, arriving, expect
from studio.web.disk import enough_disk
from studio.web.errors import Fault
from studio.web.limits import ARRIVING

router = Router(tags=["library"])
_PATH = "/library/arriving"
_VERSION = "1.0.0"
_MOST_DIGITS = 15


@router.api_operation(["OPTIONS"], _PATH, include_in_schema=False)
def what_is_spoken(request: HttpRequest) -> HttpResponse:
    return _told(
        204,
        **{
            "Tus-Version": _VERSION,
            "Tus-Extension": "creation,termination",
            "Tus-Max-Size": str(LARGEST_CLIP),
        },
    )


@router.post(_PATH, response={201: None, 422: Fault}, operation_id="expect_file")
def expect_file(request: HttpRequest) -> HttpResponse:
    """Make room for a file of ``Upload-Length`` bytes; its name is in ``Upload-Metadata``."""
    length = _number(request, "Upload-Length")
    if length == 0:
        raise Refused("file", "is empty")
    found = expect(_name(request), length)
    return _told(201, Location=f"{ARRIVING}{found.id}", **{"Upload-Offset": "0"})


@router.api_operation(["HEAD"], f"{_PATH}/{{uuid:file_id}}", include_in_schema=False)
def how_much(request: HttpRequest, file_id: UUID) -> HttpResponse:
    found = arriving(file_id)
    return _told(200, **{"Upload-Offset": str(found.there), "Upload-Length": str(found.length)})


@router.patch(
    f"{_PATH}/{{uuid:file_id}}",
    response={204: None, 409: Fault, 423: Fault},
    operation_id="take_piece",
)
def take_piece(request: HttpRequest, file_id: UUID):
    """What comes after the ``Upload-Offset`` bytes that are there already."""
    offset = _number(request, "Upload-Offset")
    enough_disk()
    found = arriving(file_id)
    try:
        with found.held() as file:
            if found.there != offset:
                return Status(409, _fault(f"{found.there:,} bytes are there, not {offset:,}."))
            there = found.take(file, request)  # type: ignore[arg-type]  # it can be read
    except Busy:
        return Status(423, _fault("Another piece of this file is just coming."))
    return _told(204, **{"Upload-Offset": str(there)})


@router.delete(
    f"{_PATH}/{{uuid:file_id}}", response={204: None}, operation_id="forget_arriving_file"
)
def forget(request: HttpRequest, file_id: UUID) -> HttpResponse:
    arriving(file_id).forget()
    return _told(204)


@router.post(
    f"{_PATH}/{{uuid:file_id}}/keep",
    response={201: LibraryFile, 409: Fault, 422: Fault, 423: Fault},
    operation_id="keep_arrived_file",
)
def keep_arrived(request: HttpRequest, file_id: UUID):
    """Put a file that is all there in the library. A name that is taken gets a number; one that
    can't be used is not kept."""
    found = arriving(file_id)
    try:
        with found.held():
            if found.there < found.length:
                return Status(409, _fault("Not all of it has come yet."))
            return Status(201, entry_of(_kept(found), []))
    except Busy:
        return Status(423, _fault("This file is just being looked at."))


def _kept(found: Arriving) -> str:
    """What can't be used is forgotten; where the disk is full it stays, to be kept later."""
    try:
        kept = kept_as(found.name, found.path)
    except Refused:
        found.forget()
        raise
    found.forget()
    return kept


def _told(status: int, **headers: str) -> HttpResponse:
    told = {"Tus-Resumable": _VERSION, "Cache-Control": "no-store"} | headers
    return HttpResponse(status=status, headers=told)


def _fault(said: str) -> Fault:
    return Fault(message=said, rule=said)


def _number(request: HttpRequest, name: str) -> int:
    told = request.headers.get(name, "")
    if not told.isascii() or not told.isdigit() or len(told) > _MOST_DIGITS:
        raise Refused(name, "must be a number of bytes")
    return int(told)


def _name(request: HttpRequest) -> str:
    """The file's name, as the protocol packs it: pairs of a key and Base64, parted by commas."""
    pairs = (each.strip().partition(" ") for each in _header(request).split(","))
    packed = {key: value for key, _, value in pairs}.get("filename", "")
    try:
        name = base64.b64decode(packed, validate=True).decode()
    except (binascii.Error, UnicodeDecodeError):
        name = ""
    if not name:
        raise Refused("Upload-Metadata", "must hold the file's name")
    return name


def _header(request: HttpRequest) -> str:
    return request.headers.get("Upload-Metadata", "")
