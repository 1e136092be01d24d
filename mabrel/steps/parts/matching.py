"""Which paint falls on which part."""

from collections.abc import Sequence
from typing import Protocol

from mabrel.steps.part import Kind

ALIKE = 30.0
"""Degrees within which parts face the same way."""
_SAME = 60.0  # degrees that a single part may have turned, to be still the same


class Address(Protocol):
    """What a paint is for; see `mabrel.title.part_paints.PartPaint`."""

    @property
    def kind(self) -> Kind: ...

    @property
    def letter(self) -> str: ...

    @property
    def facing(self) -> float | None: ...

    @property
    def place(self) -> tuple[float, float] | None: ...


class Located(Address, Protocol):
    """What tells a part from others; see `mabrel.steps.part.NamedPart`."""

    @property
    def place(self) -> tuple[float, float]: ...


def owners_of(
    paints: Sequence[Address], parts: Sequence[Located]
) -> tuple[list[int | None], list[int]]:
    """For each part the index of the paint that it gets; and of the paints that find no part.

    Paints without a place fall on all that they fit, the later ones over the earlier; those with
    one each on the part of their letter that faces nearest their way and lies nearest there.
    """
    owners: list[int | None] = [None] * len(parts)
    lost = []
    for index, paint in enumerate(paints):
        if paint.place is not None:
            continue
        fitting = [n for n, part in enumerate(parts) if _fits(paint, part)]
        for number in fitting:
            owners[number] = index
        if not fitting:
            lost.append(index)
    single = _single(paints, parts)
    for number, index in single.items():
        owners[number] = index
    placed = set(single.values())
    lost += [i for i, each in enumerate(paints) if each.place is not None and i not in placed]
    return owners, sorted(lost)


def apart(a: float | None, b: float | None) -> float:
    """Degrees between two ways, 0..180; 0 where both face none, 180 where one does."""
    if a is None or b is None:
        return 0.0 if a is b else 180.0
    return abs((a - b + 180) % 360 - 180)


def _fits(paint: Address, part: Located) -> bool:
    if paint.kind != part.kind or paint.letter not in ("", part.letter):
        return False
    return paint.facing is None or apart(paint.facing, part.facing) <= ALIKE


def _single(paints: Sequence[Address], parts: Sequence[Located]) -> dict[int, int]:
    """By part, the paint that is for it alone: the nearest pairs first, each but once; of two
    paints for one place the later one. Pieces of one side are painted as one."""
    same: dict[tuple[object, ...], list[int]] = {}
    for number, part in enumerate(parts):
        same.setdefault((part.kind, part.letter, part.facing, part.place), []).append(number)
    candidates: dict[tuple[object, ...], list[list[int]]] = {}
    for key, numbers in same.items():
        candidates.setdefault(key[:2], []).append(numbers)
    pairs = []
    for index, paint in enumerate(paints):
        if paint.place is None:
            continue
        for numbers in candidates.get((paint.kind, paint.letter), []):
            part = parts[numbers[0]]
            turned = apart(paint.facing, part.facing)
            if turned <= _SAME or None in (paint.facing, part.facing):
                x, y = part.place
                away = abs(x - paint.place[0]) + abs(y - paint.place[1]) + turned / 90
                pairs.append((round(away, 6), -index, numbers))
    found: dict[int, int] = {}
    taken: set[int] = set()
    for _, negative, numbers in sorted(pairs):
        if numbers[0] not in found and -negative not in taken:
            found |= dict.fromkeys(numbers, -negative)
            taken.add(-negative)
    return found
