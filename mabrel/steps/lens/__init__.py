"""Lens: what the camera adds."""
