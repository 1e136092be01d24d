"""A studio with a state of its own, for tests, attacks and screenshots."""

import os
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
CHROMIUM = {
    "executable_path": "/usr/bin/chromium",
    "args": ["--no-sandbox", "--disable-gpu", "--disable-background-networking"],
}


class RunningStudio:
    """A server process that can be stopped and started again; `state` is its folder."""

    def __init__(self, state: Path) -> None:
        self.state = state
        self.port = _free_port()
        self.url = f"http://127.0.0.1:{self.port}"
        self._process: subprocess.Popen[bytes] | None = None

    def prepare(self, demo: bool = True) -> None:
        """A new database, with the demo titles or with none."""
        self._manage("migrate", "--verbosity", "0")
        if demo:
            self._manage("load_demo")

    def start(self) -> None:
        command = [sys.executable, "-m", "studio", "--port", str(self.port)]
        self._process = subprocess.Popen(command, cwd=ROOT, env=self._environment)
        for _ in range(240):
            try:
                urllib.request.urlopen(f"{self.url}/api/catalogue", timeout=1)
                return
            except OSError:
                time.sleep(0.25)
        raise RuntimeError("the studio did not start")

    @property
    def pid(self) -> int:
        assert self._process is not None
        return self._process.pid

    def kill(self) -> None:
        """End it as a power cut would."""
        if self._process is not None:
            self._process.kill()
            self._process.wait(20)
            self._process = None

    def stop(self) -> None:
        if self._process is not None:
            self._process.terminate()
            self._process.wait(20)
            self._process = None

    def _manage(self, *command: str) -> None:
        subprocess.run(
            [sys.executable, "manage.py", *command], cwd=ROOT, env=self._environment, check=True
        )

    @property
    def _environment(self) -> dict[str, str]:
        return os.environ | {"MABREL_STATE": str(self.state)}


@contextmanager
def passing_studio() -> Iterator[RunningStudio]:
    """One with the demo titles, that leaves nothing behind."""
    with tempfile.TemporaryDirectory() as state:
        studio = RunningStudio(Path(state))
        studio.prepare()
        studio.start()
        try:
            yield studio
        finally:
            studio.stop()


def _free_port() -> int:
    with socket.socket() as listener:
        listener.bind(("127.0.0.1", 0))
        return int(listener.getsockname()[1])
