"""What the cells of a surface can be set to."""

from typing import ClassVar, Literal

from mabrel.steps.kind import StepSettings
from mabrel.title import kinds
from mabrel.title.layers import BlendMode
from mabrel.title.painted import Painted

PARTS = {"whole": 1, "halves": 2, "quarters": 4, "eighths": 8}
_PATTERNED = "edges|lit|shaded|cracks|corners|dither|noise"


class Cells(StepSettings):
    GROUPS: ClassVar = {
        "Grid": ("fit", "columns", "rows", "width", "height", "origin", "gap"),
        "By itself": (
            "pattern", "divided", "colour", "second", "amount", "reach", "seed",
            "rise", "second_rise",
        ),
        "Laid on": ("blend", "opacity", "softness", "side_shading"),
    }  # fmt: skip

    painted: Painted = kinds.painted(
        Painted(), "Cells painted by hand, in the proof: they stay with their letters."
    )
    pattern: Literal["none", "edges", "lit", "shaded", "cracks", "corners", "dither", "noise"] = (
        kinds.choice("edges", "What paints cells by itself, beneath those painted by hand.")
    )
    divided: Literal["whole", "halves", "quarters", "eighths"] = kinds.choice(
        "halves",
        "Whether it paints whole cells, or parts whose side is so much of theirs.",
        label="Fineness",
        when={"pattern": _PATTERNED},
    )
    colour: kinds.Colour = kinds.colour(
        "#fff6dc",
        "Of the cells it paints.",
        when={"pattern": "edges|lit|cracks|corners|dither|noise"},
        called={"pattern": {"edges": "Facing the light", "dither": "Towards the light"}},
    )
    second: kinds.Colour = kinds.colour(
        "#1c1426",
        "Of the other cells.",
        when={"pattern": "edges|shaded|dither|noise"},
        called={"pattern": {"edges": "Turned away", "shaded": "Colour", "dither": "Turned away"}},
    )
    amount: float = kinds.fraction(
        0.5,
        "How much of it.",
        when={"pattern": "cracks|corners|dither|noise"},
        called={"pattern": {"dither": "Middle"}},
    )
    reach: int = kinds.count(
        1,
        1,
        64,
        "How many cells deep it goes.",
        when={"pattern": "edges|lit|shaded|cracks|corners"},
        called={"pattern": {"cracks": "Length"}},
    )
    seed: int = kinds.seed(1, "Another draw.", when={"pattern": "cracks|corners|noise"})
    rise: float = kinds.length(
        0,
        -200,
        200,
        "How far cells of the first colour stand up; below 0 they are dents.",
        when={"pattern": "edges|lit|cracks|corners|dither|noise"},
    )
    second_rise: float = kinds.length(
        0,
        -200,
        200,
        "How far the other cells stand up.",
        when={"pattern": "edges|shaded|dither|noise"},
    )
    fit: Literal["letters", "box", "size"] = kinds.choice(
        "letters",
        "The grid: the unit that each letter of a blocky font is built of, so many cells in the "
        "box of all the ink, or cells of a given size.",
    )
    columns: int = kinds.count(24, 1, 512, "How many across.", when={"fit": "box"})
    rows: int = kinds.count(6, 1, 512, "How many down.", when={"fit": "box"})
    width: float = kinds.length(
        0, 0, 1000, "Of a cell; 0 is as the letters have it.", when={"fit": "letters|size"}
    )
    height: float = kinds.length(
        0, 0, 1000, "Of a cell; 0 is as the letters have it.", when={"fit": "letters|size"}
    )
    origin: tuple[float, float] = kinds.point((0, 0), "How far the grid is shifted.", grip=None)
    gap: float = kinds.fraction(0.0, "How much of a cell stays free around it.", high=0.95)
    blend: BlendMode = kinds.choice("normal", "How cells are laid on the face.")
    opacity: float = kinds.fraction(0.62, "How much of them.")
    softness: float = kinds.length(2, 0, 100, "How wide the slopes of cells are that stand up.")
    side_shading: float = kinds.fraction(
        0.85, "How much of the light and shade of a side the cells keep that are painted on it."
    )
