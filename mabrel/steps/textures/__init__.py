"""Made textures, and pictures laid over a piece."""
