"""The settings of an extrusion."""

from typing import ClassVar, Literal

from mabrel.light import SHOULDER
from mabrel.steps.kind import StepSettings
from mabrel.title import kinds
from mabrel.title.kinds import Stop, Stops

_AROUND = [
    Stop(place=0, colour="#6b4a2a"),
    Stop(place=0.25, colour="#2a1a10"),
    Stop(place=0.5, colour="#a8743c"),
    Stop(place=0.75, colour="#e0a862"),
    Stop(place=1, colour="#6b4a2a"),
]
_ALONG = [
    Stop(place=0, colour="#c98a4b"),
    Stop(place=0.5, colour="#6b3f1c"),
    Stop(place=1, colour="#140a05"),
]


class Extrude(StepSettings):
    GROUPS: ClassVar[dict[str, tuple[str, ...]]] = {
        "Form": ("eye", "taper", "swell", "edge", "edge_shape", "corners", "soften"),
        "Colour": (
            "paint",
            "colour",
            "up",
            "left",
            "right",
            "down",
            "compass",
            "depths",
            "fade",
            "fade_colour",
        ),
        "Texture": ("texture", "picture", "size", "textured", "seed"),
        "Back": ("back", "back_colour"),
        "Light": ("lit", "wrap", "shoulder", "response"),
        "Highlight": ("gloss", "tightness", "metal"),
    }

    towards: Literal["direction", "point", "back"] = kinds.choice(
        "direction",
        "Straight in one direction, towards a vanishing point, or straight back through the "
        "card, which stays right however the card and the camera turn.",
    )
    angle: float = kinds.angle(
        90,
        -360,
        360,
        "Direction in which the sides run.",
        when={"towards": "direction"},
        grip="turn",
    )
    point: tuple[float, float] = kinds.point(
        (0, 900),
        "The vanishing point, from the lettering's centre.",
        when={"towards": "point"},
    )
    length: float = kinds.length(60, 0, 4000, "How deep the lettering is.", grip="tip")
    eye: float = kinds.length(
        2000,
        10,
        100_000,
        "How far away the eye is: the nearer, the sooner the sides narrow.",
        when={"towards": "point"},
    )
    taper: float = kinds.length(0, -400, 400, "How much narrower it is at the far end.")
    swell: float = kinds.length(0, -400, 400, "How much it bulges half way, or draws in.")
    edge: float = kinds.length(
        0, 0, 400, "A bevelled front edge of that width, which goes over into the sides."
    )
    edge_shape: Literal["flat", "round"] = kinds.choice("round", "How that edge is cut.")
    corners: Literal["round", "mitred"] = kinds.choice(
        "round",
        "How sides that stand out beyond the face, or shrink, go round corners: rounded, or in a "
        "crease.",
    )
    soften: float = kinds.length(0, 0, 200, "Rounds hard corners between facets.")
    paint: Literal["one", "sides", "around", "depth"] = kinds.choice(
        "one",
        "One colour, one for each way that a side faces, stops once around, or stops along the "
        "depth.",
    )
    colour: kinds.Colour = kinds.colour(
        "#8a4f22", "Colour of the sides at the face.", when={"paint": "one"}
    )
    up: kinds.Colour = kinds.colour("#d69a5c", "Sides that face up.", when={"paint": "sides"})
    left: kinds.Colour = kinds.colour("#a8672f", "That face left.", when={"paint": "sides"})
    right: kinds.Colour = kinds.colour("#6e3f1b", "That face right.", when={"paint": "sides"})
    down: kinds.Colour = kinds.colour("#3c200d", "That face down.", when={"paint": "sides"})
    compass: Stops = kinds.stops(
        _AROUND, "Once around, from right over down, left and up.", when={"paint": "around"}
    )
    depths: Stops = kinds.stops(_ALONG, "From the face to the far end.", when={"paint": "depth"})
    fade: float = kinds.fraction(
        0.85,
        "How far it has gone over to the other colour at the end.",
        when={"paint": "one|sides|around"},
    )
    fade_colour: kinds.Colour = kinds.colour(
        "#140a05",
        "Colour that it fades to; with alpha, it fades away.",
        when={"paint": "one|sides|around"},
    )
    texture: Literal["none", "face", "streaks", "layers", "clouds", "picture"] = kinds.choice(
        "none",
        "Runs along the outline: as the face, which goes on over its edge; streaks into the depth, "
        "layers around, or a picture.",
    )
    picture: kinds.FileOrLayer = kinds.image(
        "", "The picture that runs along the outline.", when={"texture": "picture"}
    )
    size: float = kinds.length(
        40, 0.5, 4000, "How wide a tile or a blotch is.",
        when={"texture": "streaks|layers|clouds|picture"},
    )  # fmt: skip
    textured: float = kinds.fraction(
        0.5, "How strongly it shows.", when={"texture": "face|streaks|layers|clouds|picture"}
    )
    seed: int = kinds.seed(1, "Another draw.", when={"texture": "streaks|layers|clouds"})
    back: Literal["plain", "face"] = kinds.choice(
        "plain",
        "What one sees from behind: one colour, or the face, mirrored.",
        when={"towards": "back"},
    )
    back_colour: kinds.Colour = kinds.colour(
        "#2c1a0e", "Colour of the back.", when={"towards": "back", "back": "plain"}
    )
    lit: float = kinds.fraction(0.6, "How much the lights model the sides.")
    wrap: float = kinds.fraction(
        1.0, "How far light reaches around to what is turned away, so that it is modelled too."
    )
    shoulder: float = kinds.fraction(
        SHOULDER, "How far the picture comes back where lights add up; at 0 it burns out."
    )
    response: kinds.CurvePoints = kinds.curve(
        [(0.0, 0.0), (1.0, 1.0)], "From how much light falls there to how light it looks."
    )
    gloss: float = kinds.fraction(0.0, "Highlights on them.", high=4)
    tightness: float = kinds.number(24, 1, 1000, "How small those highlights are.")
    metal: float = kinds.fraction(
        0.0, "How much highlights take the sides' own hue, as on gold and copper."
    )
