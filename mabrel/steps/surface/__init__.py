"""Surface: what it is made of."""
