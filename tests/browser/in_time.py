"""Helpers of the tests of time: going to a moment, setting a number, finding pegs and lanes."""

import numpy as np
from playwright.sync_api import Locator, Page

from tests.browser.looking import proof_pixels, settled

FILM = "document.querySelector('#app').__vue_app__.config.globalProperties.$pinia._s.get('film')"
"""The page's store of what is played."""
FRAMES = FILM.replace("film", "frames")
"""That of the frames that are there."""


def go_to(page: Page, seconds: float) -> None:
    field = page.get_by_role("textbox", name="Time", exact=True)
    field.fill(str(seconds))
    field.press("Enter")
    settled(page)


def number(page: Page, label: str, value: float) -> None:
    """Type a number into a field of the settings."""
    field = page.locator(".settings").get_by_role("textbox", name=f"{label}, ").first
    field.fill(str(value))
    field.press("Enter")
    settled(page)


def peg(page: Page, label: str) -> Locator:
    return (
        page.locator(".settings")
        .get_by_role("button", name=f"{label}", exact=False)
        .and_(page.locator(".peg"))
    )


def document(page: Page) -> dict:
    settled(page)
    address = page.url.rsplit("/", 1)[1]
    return page.request.get(f"/api/titles/{address}").json()["document"]


def word(page: Page) -> dict:
    layers = document(page)["layers"]
    return next(layer for layer in layers if layer["kind"] == "lettering")


def lane(page: Page, name: str) -> Locator:
    return page.get_by_role("button", name=f"{name}, ").and_(page.locator(".lane"))


def ink(page: Page, time: float) -> np.ndarray:
    """The proof at a time, brightness (H, W)."""
    go_to(page, time)
    return proof_pixels(page)[..., :3].mean(axis=2)


def differs(a: np.ndarray, b: np.ndarray) -> float:
    return float(np.abs(a - b).mean())
