"""What the engine can be asked to do: where it is done, how urgent it is, how long it may take."""

from enum import IntEnum, StrEnum
from typing import NamedTuple


class Role(StrEnum):
    """What a process is for. The two quick ones stand in for one another."""

    HAND = "hand"
    """What somebody waits for with the hand on a slider: all cores, and the title's results."""
    CLERK = "clerk"
    """Documents and files: short, and never behind a picture."""
    BACKGROUND = "background"
    """All else, at the lowest priority that the operating system has."""


class Urgency(IntEnum):
    """Lower comes first."""

    MOVING = 0
    """A preview of a page that asks for one after the other."""
    PROOF = 1
    LOOK = 2
    DOCUMENT = 3
    FILE = 4
    MOVED = 5
    """A preview that gave way to another page's, and goes on in the background."""
    AHEAD = 6
    """A frame of a title that moves, made before it is shown."""
    EXPORT = 7
    THUMBNAIL = 8
    GAUGE = 9
    SHELF = 10
    SCENE = 11
    IDLE = 12


class Work(NamedTuple):
    """`deadline` is in seconds of running, without the time that it waits."""

    name: str
    role: Role
    urgency: Urgency
    deadline: float
    what: str
    """How it is named to the one who asked."""


PREVIEW = Work("preview", Role.HAND, Urgency.PROOF, 90, "this picture")
FRAME = Work("preview", Role.HAND, Urgency.AHEAD, 90, "this frame")
NEAR_FRAME = Work("preview", Role.HAND, Urgency.LOOK, 90, "this frame")
SECTION = Work("section", Role.HAND, Urgency.LOOK, 60, "the section")
TONES = Work("tones", Role.HAND, Urgency.LOOK, 60, "the tones before this step")
RELIEF = Work("relief", Role.HAND, Urgency.LOOK, 60, "the values under the pointer")
BOXES = Work("boxes", Role.HAND, Urgency.LOOK, 30, "the places of the layers")
CELLS = Work("cells", Role.HAND, Urgency.LOOK, 30, "the cells of this step")
PARTS = Work("parts", Role.HAND, Urgency.LOOK, 60, "the parts of this layer")

CHECK = Work("check", Role.CLERK, Urgency.DOCUMENT, 15, "reading this document")
MAKE = Work("make", Role.CLERK, Urgency.DOCUMENT, 15, "making this title")
SWAP = Work("swap", Role.CLERK, Urgency.DOCUMENT, 15, "this swap")
RESIZE = Work("resize", Role.CLERK, Urgency.DOCUMENT, 15, "this resize")
ADD_STEP = Work("add_step", Role.CLERK, Urgency.DOCUMENT, 15, "adding this step")
ADD_LAYER = Work("add_layer", Role.CLERK, Urgency.DOCUMENT, 15, "adding this layer")
ARRIVE = Work("arrive", Role.CLERK, Urgency.DOCUMENT, 15, "laying this motion")
CHECK_ARRIVAL = Work("check_arrival", Role.CLERK, Urgency.DOCUMENT, 15, "reading this arrival")
KEEP_ARRIVAL = Work("keep_arrival", Role.CLERK, Urgency.DOCUMENT, 15, "keeping this arrival")
FINISH = Work("finish", Role.CLERK, Urgency.DOCUMENT, 60, "putting the finish on")
WORDS = Work("words", Role.CLERK, Urgency.DOCUMENT, 60, "this list of words")
REPLACE = Work("replace", Role.CLERK, Urgency.DOCUMENT, 60, "replacing this file")
CHECK_FINISH = Work("check_finish", Role.CLERK, Urgency.DOCUMENT, 15, "reading this finish")
KEEP_FINISH = Work("keep_finish", Role.CLERK, Urgency.DOCUMENT, 15, "keeping this finish")

FILE = Work("file", Role.CLERK, Urgency.FILE, 15, "reading this file")
CLIP_FILE = Work("file", Role.CLERK, Urgency.FILE, 60, "reading this clip")
FILE_PICTURE = Work("file_picture", Role.CLERK, Urgency.FILE, 30, "the picture of this file")
FONT_SAMPLES = Work("font_samples", Role.CLERK, Urgency.FILE, 30, "the samples of the fonts")
FONTS = Work("fonts", Role.CLERK, Urgency.FILE, 30, "reading the fonts")
PACK = Work("pack", Role.CLERK, Urgency.FILE, 60, "packing this title")
UNPACK = Work("unpack", Role.CLERK, Urgency.FILE, 60, "unpacking this title")

EXPORT = Work("export", Role.BACKGROUND, Urgency.EXPORT, 900, "this export")
BUILD_PICTURES = Work("build_pictures", Role.BACKGROUND, Urgency.THUMBNAIL, 240, "these pictures")
READINGS = Work("readings", Role.BACKGROUND, Urgency.GAUGE, 120, "the readings")
MOTION = Work("motion", Role.BACKGROUND, Urgency.SHELF, 240, "the readings of time")
ARRIVAL_FILM = Work("arrival_film", Role.BACKGROUND, Urgency.THUMBNAIL, 120, "this film")
ESTIMATE = Work("estimate", Role.BACKGROUND, Urgency.GAUGE, 300, "this estimate")
STRIP = Work("strip", Role.BACKGROUND, Urgency.SHELF, 120, "this strip")
FINISH_STRIP = Work("finish_strip", Role.BACKGROUND, Urgency.SHELF, 120, "this strip")
WARM = Work("warm", Role.CLERK, Urgency.IDLE, 120, "loading")
