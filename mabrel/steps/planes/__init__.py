"""Floor and wall: where the lettering stands and what is seen on them."""
