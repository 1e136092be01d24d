"""Depth: out of the picture plane."""
