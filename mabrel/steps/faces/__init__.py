"""Colours on a piece's planes: painting, recolouring, laying together."""
