"""Pictures that were rendered on an earlier day, and facts of files, kept on disk by their key.

A key is made from all that the content depends on, the engine's own version too, so an entry is
never stale. `diskcache` keeps to the size and throws away what was not looked at for longest.
"""

import hashlib
import json
import logging
import sqlite3
from functools import cache
from pathlib import Path
from typing import Any

import diskcache
from asgiref.sync import sync_to_async
from django.conf import settings

from studio.engine.shipped import engine_version

_LOG = logging.getLogger(__name__)
_LOST = (OSError, sqlite3.Error, diskcache.Timeout, ValueError)


class Kept:
    """A store of bytes; one that can't be read or written is as good as empty."""

    def __init__(self, folder: Path, limit: int) -> None:
        self._folder, self._limit = folder, limit
        self._cache: diskcache.Cache | None = None

    def get(self, key: str) -> bytes | None:
        try:
            found = self._opened().get(key)
        except _LOST as error:
            _LOG.warning("what is kept on disk can't be read: %s", error)
            return None
        return found if isinstance(found, bytes) else None

    def put(self, key: str, content: bytes) -> None:
        try:
            self._opened().set(key, content)
        except _LOST as error:
            _LOG.warning("nothing more can be kept on disk: %s", error)

    async def aget(self, key: str) -> bytes | None:
        return await sync_to_async(self.get)(key)

    async def aput(self, key: str, content: bytes) -> None:
        await sync_to_async(self.put)(key, content)

    def _opened(self) -> diskcache.Cache:
        if self._cache is None:
            self._cache = diskcache.Cache(
                str(self._folder),
                size_limit=self._limit,
                eviction_policy="least-recently-used",
                timeout=2,
            )
        return self._cache


def key_of(*parts: Any) -> str:
    """Of this engine, and of all that it was asked."""
    text = json.dumps([engine_version(), *parts], sort_keys=True, default=str)
    return hashlib.sha256(text.encode()).hexdigest()


@cache
def _kept_in(folder: Path) -> Kept:
    return Kept(folder, settings.KEPT_BYTES)


def kept_on_disk() -> Kept:
    return _kept_in(Path(settings.KEPT_DIR))
