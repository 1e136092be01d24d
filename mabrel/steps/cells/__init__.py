"""Grids of cells that lie on letters, and what is painted in them."""
