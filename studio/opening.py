"""What must hold before a studio takes requests, and what is begun then."""

import fcntl
from concurrent.futures import ThreadPoolExecutor
from typing import IO

from django.conf import settings
from django.core.exceptions import ImproperlyConfigured

from studio.accounts.people import accounts_there
from studio.engine.asking import desk
from studio.exports.keeper import keeper
from studio.passing import sweep

_lock: IO[str] | None = None


def open_studio() -> None:
    """Take hold of the state folder, sweep it, and begin the engine's processes; once.

    Raises ImproperlyConfigured where another studio runs on the same folder, or where others may
    come in and nobody has an account.
    """
    global _lock
    if _lock is not None:
        return
    held = _taken_hold()
    if settings.LOGIN_NEEDED and not _anybody():
        held.close()
        raise ImproperlyConfigured(
            "MABREL_HOSTS lets other machines in, but nobody has an account yet: make the first "
            "one with `python manage.py add_account NAME`"
        )
    _lock = held
    sweep()
    desk().start()
    if settings.EXPORTS_WORK:
        keeper.start()


def close_studio() -> None:
    """End the engine's processes, and that of exports."""
    keeper.stop()
    desk().stop()


def _taken_hold() -> IO[str]:
    """The system gives the lock back when the process ends, however it ends."""
    file = (settings.STATE_DIR / "studio.lock").open("w")
    try:
        fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        file.close()
        raise ImproperlyConfigured(
            f"another studio runs on {settings.STATE_DIR.name}: stop it, or set MABREL_STATE"
        ) from None
    return file


def _anybody() -> bool:
    """Whether there is an account. In a thread: a server may import this in its event loop."""
    with ThreadPoolExecutor(1) as thread:
        return thread.submit(accounts_there).result()
