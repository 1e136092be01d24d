"""What the user looks at besides the picture."""

from mabrel.reading.motion import motion_readings
from mabrel.reading.readings import Readings, readings
from mabrel.reading.said import Reading
from mabrel.reading.section import Section, cut
from mabrel.reading.strip import closeup_window, strip_window
from mabrel.reading.strokes import StrokeWidths, stroke_widths
from mabrel.reading.tones import Tones, tones_before

__all__ = [
    "Reading",
    "Readings",
    "Section",
    "StrokeWidths",
    "Tones",
    "closeup_window",
    "cut",
    "motion_readings",
    "readings",
    "strip_window",
    "stroke_widths",
    "tones_before",
]
