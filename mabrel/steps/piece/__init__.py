"""The piece: what flows along a build.

A step gets a new piece from the one that it was given by one of its operations, each of which
keeps all fields in step with one another: colours of every plane, faces with what was painted on
them, a matte with its outline, box and distance. `fields` is what it holds, `place` where that
lies, `shape` what its matte is, `colours` what is seen of it.
"""

from mabrel.steps.piece.colours import Piece
from mabrel.steps.piece.fields import Array

__all__ = ["Array", "Piece"]
