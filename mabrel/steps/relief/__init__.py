"""Relief: height from flat."""
