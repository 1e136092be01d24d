"""Light that a lens adds, and the places that it starts from."""
