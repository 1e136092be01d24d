"""Ground: what the lettering throws on its surroundings."""
