"""What a step may ask besides its piece and settings, and what it has asked for."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, fields
from typing import Any

import numpy as np
from numpy.typing import NDArray

from mabrel.light import Light
from mabrel.source import Image, LibraryError
from mabrel.source.letter_places import LetterPlace
from mabrel.steps.part import NamedPart
from mabrel.steps.region import Region

Rows = tuple[tuple[float, float, float], ...]
Overview = tuple[NDArray[np.float32], Region]
_LEVEL: Rows = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
_ONE = "light:"  # before the name of a single light


def _no_image(name: str, size: float) -> Image:
    raise LibraryError(f"there is no file {name!r}")


def _no_overview() -> Overview:
    return np.zeros((1, 1, 4), np.float32), Region(0, 0, 1, 1)


def _on_level_card(viewer: tuple[float, float, float]) -> NDArray[np.float64]:
    x, y, z = viewer
    return np.array([[z, 0, -x, 0], [0, z, -y, 0], [0, 0, -1.0, z]])


def _no_letters() -> tuple[LetterPlace, ...]:
    return ()


def _no_parts() -> tuple[NamedPart, ...]:
    return ()


@dataclass(frozen=True)
class Surroundings:
    """All that can be asked. Lengths are in render pixels from the layer's centre."""

    lights: Sequence[Light] = ()
    """The rig, turned into the card's own frame; the first is the key light."""
    turn: Rows = _LEVEL
    """Rotation from the card's axes to those of the frame, row by row."""
    viewer: tuple[float, float, float] = (0.0, 0.0, 2000.0)
    """Where the viewer stands, in the card's axes."""
    upright: Rows = _LEVEL
    """Rotation from the card's axes to those of the scene, row by row, whatever the camera does:
    in the card's axes, what runs to the right, where things fall, what comes nearer."""
    seen: NDArray[np.float64] | None = None
    """3 × 4: from (x, y, z, 1) in the card's axes to where it is seen in the picture's own pixels
    from the layer's origin; None for a card that lies as the frame does."""
    frame: Region | None = None
    """The part of the picture, in those pixels, beyond which nothing is shown."""
    picture: Region | None = None
    """All of the frame, in those pixels."""
    crowded: bool = False
    """Whether a step would need more room on its card, which is turned, than that may have."""
    fills_frame: bool = False
    """Whether the layer has no edge of its own: backdrops, floors and washes."""
    letters: Callable[[], tuple[LetterPlace, ...]] = _no_letters
    """Where each letter of a lettering stands, in reading order; none of what is no lettering."""
    parts: Callable[[], tuple[NamedPart, ...]] = _no_parts
    """What the lettering breaks into as the steps before have built it."""
    overview: Callable[[], Overview] = _no_overview
    """All that lies beneath, coarse ((H, W, 4)), and the region in this render's pixels that it
    covers: for what treats the whole frame though only a part of it is rendered."""


@dataclass(frozen=True)
class Scene:
    """What a step is told about where it works.

    What a step asks for is noted in `asked`, and becomes a part of its result's key. Once
    `allowed` is set, it can ask for nothing else: a result can't depend on what its key doesn't
    know.
    """

    scale: float
    """Render pixels for one pixel of length in the settings."""
    around: Surroundings = field(default_factory=Surroundings)
    pause: Callable[[], None] = lambda: None
    """To be called now and then by long calculations; raises to give up."""
    image: Callable[[str, float], Image] = _no_image
    """What an image setting names; drawings are drawn about that many pixels large."""
    asked: dict[str, Any] = field(default_factory=dict)
    allowed: frozenset[str] | None = None

    def _ask(self, name: str, value: Any) -> Any:
        if self.allowed is not None and name not in self.allowed:
            raise LookupError(f"asks for {name!r} only after its result has got its key")
        self.asked[name] = value
        return value

    @property
    def lights(self) -> tuple[Light, ...]:
        found: tuple[Light, ...] = self._ask("lights", tuple(self.around.lights))
        return found

    @property
    def key(self) -> Light | None:
        """The first light."""
        found: Light | None = self._ask("key", next(iter(self.around.lights), None))
        return found

    def light(self, name: str) -> Light | None:
        """The one with this id; the key light where there is none."""
        named = (each for each in self.around.lights if each.name == name)
        first = next(iter(self.around.lights), None)
        found: Light | None = self._ask(f"{_ONE}{name}", next(named, first))
        return found

    @property
    def turn(self) -> Rows:
        found: Rows = self._ask("turn", self.around.turn)
        return found

    @property
    def viewer(self) -> tuple[float, float, float]:
        found: tuple[float, float, float] = self._ask("viewer", self.around.viewer)
        return found

    @property
    def upright(self) -> Rows:
        found: Rows = self._ask("upright", self.around.upright)
        return found

    @property
    def down(self) -> tuple[float, float, float]:
        """Unit vector in the card's axes: where things fall."""
        return self.upright[1]

    @property
    def seen(self) -> NDArray[np.float64]:
        matrix = self.around.seen
        found: NDArray[np.float64] = self._ask(
            "seen", _on_level_card(self.around.viewer) if matrix is None else matrix
        )
        return found

    @property
    def turned(self) -> bool:
        """Whether its card doesn't lie as the frame does."""
        found: bool = self._ask("turned", self.around.seen is not None)
        return found

    @property
    def crowded(self) -> bool:
        """Whether its card, which is turned, may not have as much room as the step would need."""
        found: bool = self._ask("crowded", self.around.crowded)
        return found

    @property
    def frame(self) -> Region | None:
        found: Region | None = self._ask("frame", self.around.frame)
        return found

    @property
    def picture(self) -> Region | None:
        found: Region | None = self._ask("picture", self.around.picture)
        return found

    @property
    def letters(self) -> tuple[LetterPlace, ...]:
        found: tuple[LetterPlace, ...] = self._ask("letters", self.around.letters())
        return found

    @property
    def parts(self) -> tuple[NamedPart, ...]:
        """None before there is a piece."""
        self._ask("parts", True)
        return self.around.parts()

    @property
    def fills_frame(self) -> bool:
        return self.around.fills_frame  # follows from the layer's kind, which every key knows

    def overview(self) -> Overview:
        """Raises LookupError outside what fills the frame."""
        self._ask("overview", True)
        return self.around.overview()

    def held_to(self, allowed: frozenset[str]) -> "Scene":
        """The same scene, in which nothing else can be asked for."""
        values = {each.name: getattr(self, each.name) for each in fields(self)}
        return Scene(**{**values, "asked": {}, "allowed": allowed})


def depends_on_lights(asked: dict[str, Any]) -> bool:
    """Whether any light was among what was asked for."""
    return any(name in ("lights", "key") or name.startswith(_ONE) for name in asked)
