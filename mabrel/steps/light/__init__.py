"""Light on the relief."""
