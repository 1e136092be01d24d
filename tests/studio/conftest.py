"""Fixtures of the API tests."""

import json
from pathlib import Path
from typing import Any

import pytest
from asgiref.sync import async_to_sync
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from mabrel import Title as EngineTitle
from mabrel import new_title, parse_title
from studio.engine.jobs.documents import checked
from studio.titles.models import Title


def keep(title: EngineTitle, series: str = "") -> Title:
    """Put a title on the shelf."""
    return Title.keep(checked(title), series)


def parsed(kept: Any) -> EngineTitle:
    """The document of a title, a mark or a revision."""
    return parse_title(kept.document)


class Api:
    """The API as a page sees it."""

    def __init__(self) -> None:
        self._client = Client()

    def get(self, path: str, **query: Any):
        return self._client.get(f"/api{path}", query)

    def send(self, method: str, path: str, body: Any = None, **headers: str):
        content = body if isinstance(body, bytes) else json.dumps(body)
        return self._client.generic(
            method, f"/api{path}", content, content_type="application/json", headers=headers
        )

    def upload(self, path: str, name: str, content: bytes):
        return self._client.post(f"/api{path}", {"file": SimpleUploadedFile(name, content)})

    def post(self, path: str, body: Any = None, **headers: str):
        return self.send("POST", path, body, **headers)


def body(answer: Any) -> bytes:
    """What an answer holds, all of it."""
    return async_to_sync(_gathered)(answer) if answer.streaming else answer.content


async def _gathered(answer: Any) -> bytes:
    return b"".join([piece async for piece in answer])


@pytest.fixture(autouse=True)
def library(settings, tmp_path: Path) -> Path:
    """The studio's pictures and fonts: none but what a test puts there."""
    settings.LIBRARY_DIR = tmp_path / "library"
    settings.PASSING_DIR = settings.FILE_UPLOAD_TEMP_DIR = tmp_path / "passing"
    settings.KEPT_DIR = tmp_path / "kept"
    settings.LIBRARY_DIR.mkdir()
    settings.PASSING_DIR.mkdir()
    return settings.LIBRARY_DIR


@pytest.fixture
def api(db: None) -> Api:
    return Api()


@pytest.fixture
def document() -> dict:
    return new_title("KELP", frame=(320, 180)).model_dump(mode="json")


@pytest.fixture
def kept(db: None) -> Title:
    return keep(new_title("KELP", frame=(320, 180)))
