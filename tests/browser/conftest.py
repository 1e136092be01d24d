"""A studio of its own for the browser tests: the real server, an empty state, the demo titles."""

import os
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args: dict) -> dict:
    return browser_type_launch_args | {
        "executable_path": "/usr/bin/chromium",
        "args": ["--no-sandbox", "--disable-gpu", "--disable-background-networking"],
    }


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args: dict) -> dict:
    return browser_context_args | {"viewport": {"width": 1280, "height": 800}}


class Studio:
    """A server process that can be stopped and started again."""

    def __init__(self, state: Path) -> None:
        self.state = state
        self.port = _free_port()
        self.url = f"http://127.0.0.1:{self.port}"
        self._process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        command = ["-m", "uvicorn", "studio.asgi:application", "--port", str(self.port)]
        self._process = subprocess.Popen(
            [sys.executable, *command, "--log-level", "warning"], cwd=ROOT, env=self._environment
        )
        for _ in range(240):
            try:
                urllib.request.urlopen(f"{self.url}/api/catalogue", timeout=1)
                return
            except OSError:
                time.sleep(0.25)
        raise RuntimeError("the studio did not start")

    def stop(self) -> None:
        if self._process is not None:
            self._process.terminate()
            self._process.wait(20)
            self._process = None

    def manage(self, *command: str) -> None:
        subprocess.run(
            [sys.executable, "manage.py", *command], cwd=ROOT, env=self._environment, check=True
        )

    @property
    def _environment(self) -> dict[str, str]:
        return os.environ | {"MABREL_STATE": str(self.state)}


def _free_port() -> int:
    with socket.socket() as listener:
        listener.bind(("127.0.0.1", 0))
        return int(listener.getsockname()[1])


@pytest.fixture(scope="session")
def studio(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Studio]:
    server = Studio(tmp_path_factory.mktemp("state"))
    server.manage("migrate", "--verbosity", "0")
    server.manage("load_demo")
    server.start()
    yield server
    server.stop()


@pytest.fixture(scope="session")
def base_url(studio: Studio) -> str:
    return studio.url
