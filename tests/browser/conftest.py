"""A studio of its own for the browser tests: the real server, an empty state, the demo titles."""

import urllib.request
from collections.abc import Iterator

import pytest
from playwright.sync_api import Page, expect

from tests.browser.looking import api_title
from tools.running_studio import CHROMIUM, RunningStudio

expect.set_options(timeout=180_000)  # machines here are shared: slow is not broken


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args: dict) -> dict:
    return browser_type_launch_args | CHROMIUM


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args: dict) -> dict:
    return browser_context_args | {"viewport": {"width": 1280, "height": 800}}


@pytest.fixture(scope="session")
def studio(tmp_path_factory: pytest.TempPathFactory) -> Iterator[RunningStudio]:
    server = RunningStudio(tmp_path_factory.mktemp("state"))
    server.prepare()
    server.start()
    warm = f"{server.url}/api/finishes/ship-brass/picture?session=warm"
    urllib.request.urlopen(warm, timeout=120).read()  # kernels are read in once, not in a test
    yield server
    server.stop()


@pytest.fixture(scope="session")
def base_url(studio: RunningStudio) -> str:
    return studio.url


@pytest.fixture
def bench(page: Page) -> Page:
    """A word in brass, with time in sight, at its beginning."""
    api_title(page, "ROPE")
    page.keyboard.press("y")
    expect(page.get_by_role("region", name="Timing")).to_be_visible()
    return page
