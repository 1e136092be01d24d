"""Sides of an extrusion: their colours, and how far along the outline they run."""
