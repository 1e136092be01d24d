"""Small titles to try the renderer on."""

from mabrel import parse_title
from mabrel.title import Title


def titled(build=(), *, word="Rg", size=60, frame=(240, 160), **changes) -> Title:
    lettering = {
        "kind": "lettering",
        "id": "word",
        "source": {"text": word, "size": size},
        "build": list(build),
    }
    layers = [*changes.pop("beneath", []), lettering | changes.pop("lettering", {})]
    frame_ = {"width": frame[0], "height": frame[1]}
    return parse_title({"mabrel": 1, "frame": frame_, "layers": layers} | changes)


def step(kind: str, **settings) -> dict:
    return {"step": kind, "settings": settings}


ALL = [step("relief.inflate"), step("relief.bevel"), step("light.shade", gloss=0.4),
       step("tone.gradient_map"), step("depth.extrude", length=30), step("ground.drop_shadow"),
       step("lens.grain")]  # fmt: skip
