"""Answers that are made of what is there already: JSON text, and files."""

import json
from collections.abc import AsyncIterator
from pathlib import Path
from typing import Any
from urllib.parse import quote

from asgiref.sync import sync_to_async
from django.http import HttpResponse, StreamingHttpResponse

_PIECE = 2**18


class Text(str):
    """JSON that is written already, and goes into an answer as it is."""

    __slots__ = ()


def json_answer(content: Any, status: int = 200) -> HttpResponse:
    """JSON; `Text` in it is not written again."""
    return HttpResponse(_written(content), content_type="application/json", status=status)


def _written(content: Any) -> str:
    if isinstance(content, Text):
        return content
    if isinstance(content, dict):
        return "{" + ",".join(f"{json.dumps(k)}:{_written(v)}" for k, v in content.items()) + "}"
    if isinstance(content, list | tuple):
        return "[" + ",".join(map(_written, content)) + "]"
    return json.dumps(content, ensure_ascii=False)


async def file_answer(path: Path, name: str, kind: str, passing: bool = False) -> HttpResponse:
    """A file to be saved under a name, piece by piece; a `passing` one is gone once it is open."""
    file = await sync_to_async(path.open)("rb")
    size = path.stat().st_size
    if passing:
        path.unlink()

    async def pieces() -> AsyncIterator[bytes]:
        try:
            while piece := await sync_to_async(file.read)(_PIECE):
                yield piece
        finally:
            file.close()

    response = StreamingHttpResponse(pieces(), content_type=kind)
    response["Content-Length"] = str(size)
    response["Content-Disposition"] = attachment(name)
    return response


def attachment(name: str) -> str:
    """A header that gives a file its name, whatever stands in it (RFC 6266)."""
    plain = "".join("-" if c in '\\/:*?"<>|' or ord(c) < 32 else c for c in name).strip()
    return f"attachment; filename*=UTF-8''{quote(plain or 'title', safe='')}"
