"""Keeps the process that makes exports alive, as long as the studio runs."""

import logging
import os
import subprocess
import sys
import threading

from django.conf import settings

_LOG = logging.getLogger(__name__)
_PAUSE = 2.0  # seconds before one that has died is begun anew


class Keeper:
    """Begins the process, begins it anew where it dies, and ends it."""

    def __init__(self) -> None:
        self._ending = threading.Event()
        self._process: subprocess.Popen[bytes] | None = None
        self._thread: threading.Thread | None = None

    @property
    def pid(self) -> int | None:
        return None if self._process is None else self._process.pid

    def start(self) -> None:
        self._ending.clear()
        # The process ends with the thread that began it: that one lasts as long as the studio.
        self._thread = threading.Thread(target=self._keep, name="exports", daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """At once: what is made is kept, and it goes on at the next start."""
        self._ending.set()
        if self._process is not None:
            self._process.kill()
        if self._thread is not None:
            self._thread.join(10)

    def _keep(self) -> None:
        command = [sys.executable, "-m", "django", "make_exports", "--parent", str(os.getpid())]
        around = os.environ | {
            "DJANGO_SETTINGS_MODULE": "studio.settings",
            "PYTHONWARNINGS": "ignore::UserWarning:multiprocessing.resource_tracker",
        }
        while not self._ending.is_set():
            try:
                self._process = subprocess.Popen(command, cwd=settings.BASE_DIR, env=around)
            except OSError:
                _LOG.exception("the process that makes exports could not be begun")
            else:
                code = self._process.wait()
                if not self._ending.is_set():
                    _LOG.error("the process that makes exports ended with %s; it begins anew", code)
            self._ending.wait(_PAUSE)


keeper = Keeper()
