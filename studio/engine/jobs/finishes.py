"""Finishes of one's own: read and checked, and made of a layer."""

import json
from typing import Any

from mabrel import check_title, new_title
from mabrel.compose import look_height
from mabrel.compose.finishes import FinishError, parse_finish
from mabrel.source import is_font_file
from mabrel.steps import build_refers_to, files_of_build
from mabrel.title import Backdrop, Camera, Finish, Floor, Lettering, Placed, Placement, Wash
from studio.engine.jobs.pictures import layer_of
from studio.engine.process import Tools


def check(tools: Tools, *, finish: bytes) -> dict[str, Any]:
    """A finish from elsewhere, tried on a word. Raises TitleError."""
    return _kept(parse_finish(finish, ""))


def _kept(finish: Finish) -> dict[str, Any]:
    check_title(new_title("Aa", finish=finish))
    builds = [finish.build, *(layer.build for layer in (*finish.grounds, *finish.washes))]
    files = sorted({name for build in builds for name in files_of_build(build)})
    text = json.dumps(finish.model_dump(mode="json"), ensure_ascii=False)
    return {"text": text, "files": files, "scene": finish.camera is not None}


def _suits(layer: Placed) -> str:
    """The font of lettering that a look was made on; a font file is not brought along."""
    font = layer.source.font if isinstance(layer, Lettering) else ""
    return "" if is_font_file(font) else font


def from_layer(
    tools: Tools, *, document: bytes, home: str, layer: str, name: str, label: str
) -> dict[str, Any]:
    """A finish made of a layer's build and the title's lights, grounds, washes and camera.

    Raises FinishError and TitleError.
    """
    title = tools.title(document, home)
    lettering = layer_of(title, layer, Placed)
    grounds = [each for each in title.layers if isinstance(each, Backdrop | Floor)]
    washes = [each for each in title.layers if isinstance(each, Wash)]
    for each in (lettering, *grounds, *washes):
        if next(build_refers_to(each.build, ()), None) is not None:
            raise FinishError("this look shows another layer, which a finish can't bring along")
    stands = title.camera != Camera() or lettering.placement != Placement()
    return _kept(
        Finish(
            name=name,
            label=label,
            letter_height=look_height(title, lettering),
            font=_suits(lettering),
            lights=title.lights,
            build=lettering.build,
            grounds=grounds,
            washes=washes,
            camera=title.camera if stands else None,
            placement=lettering.placement if stands else None,
        )
    )
