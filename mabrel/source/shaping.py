"""From words to placed glyphs: direction, fallback among fonts, HarfBuzz, lines, alignment."""

import unicodedata
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from unicodedata import bidirectional

import uharfbuzz as hb
from bidi import algorithm as bidi

from mabrel.source.fonts import Face, Family, families

_NOT_KNOWN = ("LRI", "RLI", "FSI", "PDI", "")  # bidirectional classes that python-bidi stops at
_NEUTRAL = "\N{OBJECT REPLACEMENT CHARACTER}"
# Letters of these scripts are joined: spacing them apart would tear them (CSS Text 3, 8.2.1).
_JOINED = ("ARABIC", "SYRIAC", "MONGOLIAN", "DEVANAGARI", "BENGALI", "NKO")


@dataclass(frozen=True)
class PlacedGlyph:
    """A glyph of a face; x and y in ems from the start of the text's first baseline, y down.

    `line` and `word` count from 0 in the text, `letter` is the place in its line of the character
    that it belongs to; letters that are joined to one another have that of their word's first.
    `character` is the one that it shows.
    """

    face: Face
    glyph: int
    x: float
    y: float
    line: int = 0
    word: int = 0
    letter: int = 0
    character: str = ""


@dataclass(frozen=True)
class ShapedText:
    glyphs: list[PlacedGlyph]
    missing: list[str]
    """Characters that no font has: they are left out."""
    borrowed: dict[str, str]
    """Characters that the font lacks, with the family that they were drawn from."""


@dataclass(frozen=True)
class _Run:
    text: str
    face: Face
    rtl: bool
    places: tuple[int, ...]
    """Of each character, in its line."""


def shape_text(
    text: str,
    family: Family,
    style: str,
    *,
    letter_spacing: float = 0.0,
    line_spacing: float = 1.0,
    align: str = "centre",
) -> ShapedText:
    """Shape `text`, lines parted by a line break. Spacing is in ems; see `LetteringSource`."""
    faces = family.faces(style)
    lacking = _Lacking(faces)
    written = unicodedata.normalize("NFC", text).splitlines()
    lines = [_shape_line(list(_runs(line, lacking)), letter_spacing) for line in written]
    words = _words(written)
    widest = max((width for _, width in lines), default=0.0)
    pitch = line_spacing * faces[0].line_height / faces[0].units
    share = {"left": 0.0, "centre": 0.5, "right": 1.0}[align]
    glyphs = [
        PlacedGlyph(
            glyph.face,
            glyph.glyph,
            glyph.x + share * (widest - width),
            glyph.y + n * pitch,
            n,
            words[n][glyph.letter],
            _first_joined(written[n], words[n], glyph.letter),
            written[n][glyph.letter],
        )
        for n, (line, width) in enumerate(lines)
        for glyph in line
    ]
    return ShapedText(glyphs, lacking.missing, lacking.borrowed)


def _words(lines: Sequence[str]) -> list[list[int]]:
    """For each character of each line, which word it belongs to; counted through all lines."""
    count, found = -1, []
    for line in lines:
        numbers = []
        for at, character in enumerate(line):
            if not character.isspace() and (at == 0 or line[at - 1].isspace()):
                count += 1
            numbers.append(max(count, 0))
        found.append(numbers)
    return found


def _first_joined(line: str, words: Sequence[int], place: int) -> int:
    """The letter itself, or the first one of its word where its letters are joined."""
    return words.index(words[place]) if _is_joined(line[place]) else place


class _Lacking:
    """Finds a face for each character and remembers what the font didn't have."""

    def __init__(self, faces: Sequence[Face]) -> None:
        self._own = faces
        self.missing: list[str] = []
        self.borrowed: dict[str, str] = {}

    def face_for(self, character: str, previous: Face | None) -> Face | None:
        code = ord(character)
        if previous is not None and (
            code in previous.characters or unicodedata.category(character) in ("Mn", "Cf")
        ):
            return previous
        for face in self._own:
            if code in face.characters:
                return face
        if character.isspace() or unicodedata.category(character).startswith("C"):
            return previous or self._own[0]
        for other in families().values():
            for face in other.faces():
                if code in face.characters:
                    self.borrowed[character] = other.name
                    return face
        if character not in self.missing:
            self.missing.append(character)
        return None


def _runs(line: str, lacking: _Lacking) -> Iterator[_Run]:
    """Stretches of one direction and one face, in the order in which they stand on the line."""
    if not line:
        return
    levels = _levels(line)
    for start, end in _visual_order(levels):
        rtl = levels[start] % 2 == 1
        stretches = list(_by_face(line, range(start, end), lacking, rtl))
        yield from reversed(stretches) if rtl else stretches


def _by_face(line: str, places: range, lacking: _Lacking, rtl: bool) -> Iterator[_Run]:
    face: Face | None = None
    gathered: list[int] = []

    def run(of: Face) -> _Run:
        return _Run("".join(line[place] for place in gathered), of, rtl, tuple(gathered))

    for place in places:
        found = lacking.face_for(line[place], face)
        if found is None:
            continue
        if face is not None and found is not face and gathered:
            yield run(face)
            gathered = []
        face = found
        gathered.append(place)
    if face is not None and gathered:
        yield run(face)


def _levels(line: str) -> list[int]:
    """Embedding levels of the Unicode Bidirectional Algorithm (UAX 9), one a character.

    What the algorithm takes out, such as embedding marks, has the level of what stands before it
    (section 5.2). Isolates and characters that are not assigned count as neutral.
    """
    known = "".join(_NEUTRAL if bidirectional(each) in _NOT_KNOWN else each for each in line)
    storage = bidi.get_empty_storage()
    storage["base_level"] = bidi.get_base_level(known)
    storage["base_dir"] = ("L", "R")[storage["base_level"]]
    bidi.get_embedding_levels(known, storage)
    bidi.explicit_embed_and_overrides(storage)
    bidi.resolve_weak_types(storage)
    bidi.resolve_neutral_types(storage, False)
    bidi.resolve_implicit_levels(storage, False)
    kept = iter(storage["chars"])
    levels = [storage["base_level"]]
    for each in known:
        taken_out = bidirectional(each) in bidi.X9_REMOVED
        levels.append(levels[-1] if taken_out else next(kept)["level"])
    return levels[1:]


def _visual_order(levels: list[int]) -> list[tuple[int, int]]:
    """Runs of one level, reordered for display (UAX 9, rule L2)."""
    runs: list[tuple[int, int]] = []
    start = 0
    for i in range(1, len(levels) + 1):
        if i == len(levels) or levels[i] != levels[start]:
            runs.append((start, i))
            start = i
    least_odd = min((level for level in levels if level % 2), default=None)
    if least_odd is None:
        return runs
    for level in range(max(levels), least_odd - 1, -1):
        i = 0
        while i < len(runs):
            j = i
            while j < len(runs) and levels[runs[j][0]] >= level:
                j += 1
            runs[i:j] = reversed(runs[i:j])
            i = max(j, i + 1)
    return runs


def _shape_line(runs: list[_Run], spacing: float) -> tuple[list[PlacedGlyph], float]:
    """The line's glyphs from x = 0, and its width; spacing stands between letters only."""
    glyphs: list[PlacedGlyph] = []
    x = 0.0
    for run in runs:
        buffer = hb.Buffer()
        buffer.add_str(run.text)
        buffer.guess_segment_properties()
        buffer.direction = "rtl" if run.rtl else "ltr"
        # Ligatures would swallow the space between their letters.
        features = {"liga": False, "clig": False} if spacing else {}
        hb.shape(run.face.shaper, buffer, features)
        joined = any(_is_joined(character) for character in run.text)
        clusters = [info.cluster for info in buffer.glyph_infos]
        for i, (info, at) in enumerate(
            zip(buffer.glyph_infos, buffer.glyph_positions, strict=True)
        ):
            em = 1 / run.face.units
            glyphs.append(
                PlacedGlyph(
                    run.face,
                    info.codepoint,
                    x + at.x_offset * em,
                    -at.y_offset * em,
                    letter=run.places[info.cluster],
                )
            )
            x += at.x_advance * em
            ends_letter = i + 1 == len(clusters) or clusters[i + 1] != info.cluster
            if ends_letter and not joined:
                x += spacing
    return glyphs, x


def _is_joined(character: str) -> bool:
    return unicodedata.name(character, "").startswith(_JOINED)
