"""How large a font file really is once it is unpacked, without unpacking more than that.

TrueType and OpenType (ISO/IEC 14496-22), WOFF 1.0 and WOFF 2.0 (W3C). A header may say anything;
only what is really in the file counts.
"""

import struct
import zlib
from collections.abc import Iterator
from typing import NamedTuple

import brotli
import numpy as np

_MOST_TABLES = 256
_MOST_SUBTABLES = 64
_MOST_CHARACTERS = 4 * 0x110000
_PIECE = 2**20
_BROKEN = (struct.error, zlib.error, brotli.error, IndexError, ValueError)


class PackingError(ValueError):
    """What is wrong with a font file."""


def check_packing(content: bytes, most: int) -> None:
    """Raises PackingError where a font's tables are not what its directory says, or take more than
    `most` bytes together."""
    try:
        if content.startswith(b"wOFF"):
            _check_woff(content, most)
        elif content.startswith(b"wOF2"):
            _check_woff2(content, most)
        else:
            count = _table_count(content, 4)
            sizes = [struct.unpack_from(">II", content, 12 + 16 * n + 8) for n in range(count)]
            _check_total((size for _, size in sizes), most)
            if any(start + size > len(content) for start, size in sizes):
                raise PackingError("it ends too early")
    except PackingError:
        raise
    except _BROKEN as broken:
        raise PackingError(str(broken) or "it ends too early") from None


def _table_count(content: bytes, place: int) -> int:
    (count,) = struct.unpack_from(">H", content, place)
    if not 0 < count <= _MOST_TABLES:
        raise PackingError(f"it says that it has {count} tables")
    return int(count)


def _check_total(sizes: Iterator[int], most: int) -> int:
    total = sum(sizes)
    if total > most:
        raise PackingError(f"it is far too large unpacked: {total // 2**20} MiB")
    return total


def _check_woff(content: bytes, most: int) -> None:
    count = _table_count(content, 12)
    tables = [struct.unpack_from(">III", content, 44 + 20 * n + 4) for n in range(count)]
    _check_total((whole for _, _, whole in tables), most)
    for start, packed, whole in tables:
        part = content[start : start + packed]
        if packed < whole and len(zlib.decompressobj().decompress(part, whole + 1)) != whole:
            raise PackingError("a table is not as large as it says")


def _check_woff2(content: bytes, most: int) -> None:
    if content[4:8] == b"ttcf":
        raise PackingError("it holds a collection of fonts: take one of them")
    directory = _Woff2Directory(content)
    whole = _check_total(iter(directory.sizes()), most)
    (packed,) = struct.unpack_from(">I", content, 20)
    stream = content[directory.place : directory.place + packed]
    unpacker = brotli.Decompressor()
    found = len(unpacker.process(stream, output_buffer_limit=_PIECE))
    while found <= whole and not unpacker.is_finished():
        piece = unpacker.process(b"", output_buffer_limit=_PIECE)
        if not piece:
            break
        found += len(piece)
    if found != whole:
        raise PackingError("its tables are not as large as it says")


class _Woff2Directory:
    """The table directory (WOFF 2.0, section 4.1); `place` is where it was read to."""

    def __init__(self, content: bytes) -> None:
        self.content = content
        self.place = 48

    def sizes(self) -> list[int]:
        """The bytes of each table in the packed stream."""
        return [self._size() for _ in range(_table_count(self.content, 12))]

    def _size(self) -> int:
        flags = self.content[self.place]
        self.place += 1
        known = flags & 0x3F
        glyphs = known in (10, 11)  # glyf and loca stand at these places in the list of known tags
        if known == 0x3F:
            glyphs = self.content[self.place : self.place + 4] in (b"glyf", b"loca")
            self.place += 4
        version = flags >> 6
        whole = self._number()
        transformed = version != 3 if glyphs else version != 0
        return self._number() if transformed else whole

    def _number(self) -> int:
        """UIntBase128."""
        value = 0
        for _ in range(5):
            byte = self.content[self.place]
            self.place += 1
            value = value << 7 | byte & 0x7F
            if byte < 0x80:
                return value
        raise PackingError("a number in its directory never ends")


class _Subtable(NamedTuple):
    format: int
    start: int


def check_characters(cmap: bytes) -> None:
    """Raises PackingError where a table of characters (cmap) stands for more than there can be:
    a few bytes may name ranges of millions."""
    try:
        total = sum(_characters(cmap, subtable) for subtable in _subtables(cmap))
    except _BROKEN as broken:
        raise PackingError(f"its characters can't be read: {broken}") from None
    if total > _MOST_CHARACTERS:
        raise PackingError("it says that it has more characters than there are")


def _subtables(cmap: bytes) -> set[_Subtable]:
    (count,) = struct.unpack_from(">H", cmap, 2)
    if count > _MOST_SUBTABLES:
        raise PackingError(f"it has {count} tables of characters")
    starts = {struct.unpack_from(">I", cmap, 4 + 8 * n + 4)[0] for n in range(count)}
    return {_Subtable(struct.unpack_from(">H", cmap, start)[0], start) for start in starts}


def _characters(cmap: bytes, subtable: _Subtable) -> int:
    start = subtable.start
    if subtable.format == 4:
        (doubled,) = struct.unpack_from(">H", cmap, start + 6)
        ends = np.frombuffer(cmap, ">u2", doubled // 2, start + 14).astype(np.int64)
        starts = np.frombuffer(cmap, ">u2", doubled // 2, start + 16 + doubled).astype(np.int64)
        return int(np.maximum(ends - starts + 1, 0).sum())
    if subtable.format in (8, 12, 13):
        head = start + (12 + 8192 if subtable.format == 8 else 12)
        (count,) = struct.unpack_from(">I", cmap, head)
        groups = np.frombuffer(cmap, ">u4", 3 * count, head + 4).astype(np.int64).reshape(-1, 3)
        return int(np.maximum(groups[:, 1] - groups[:, 0] + 1, 0).sum())
    if subtable.format == 10:
        return int(struct.unpack_from(">I", cmap, start + 16)[0])
    return 0
