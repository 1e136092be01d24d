"""What the user looks at besides the picture."""

from mabrel.reading.section import Section, cut
from mabrel.reading.strip import closeup_window, strip_window
from mabrel.reading.tones import Tones, tones_before

__all__ = ["Section", "Tones", "closeup_window", "cut", "strip_window", "tones_before"]
