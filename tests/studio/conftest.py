"""Fixtures of the API tests."""

import json
from pathlib import Path
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from mabrel import new_title
from studio.titles.models import Title


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


@pytest.fixture(autouse=True)
def library(settings, tmp_path: Path) -> Path:
    """The studio's pictures and fonts: none but what a test puts there."""
    settings.LIBRARY_DIR = tmp_path / "library"
    settings.LIBRARY_DIR.mkdir()
    return settings.LIBRARY_DIR


@pytest.fixture
def api(db: None) -> Api:
    return Api()


@pytest.fixture
def document() -> dict:
    return new_title("KELP", frame=(320, 180)).model_dump(mode="json")


@pytest.fixture
def kept(db: None) -> Title:
    return Title.keep(new_title("KELP", frame=(320, 180)))
