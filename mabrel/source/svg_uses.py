"""How far `use` multiplies the parts of a drawing."""

from collections import Counter, defaultdict

_OPEN = -1  # what a part's count is while it is still being added up
Sum = tuple[str, str | int]


class Uses:
    """The parts of a drawing that have an id, and what is used within them.

    Elements are told in the order of the document: `enter` and `leave` for each, `use` for each
    reference. Everything takes time linear in their number.
    """

    def __init__(self) -> None:
        self._owners: list[int] = []  # the parts that the next element lies in
        self._elements: list[int] = []
        self._children: list[list[int]] = []
        self._used: list[list[str]] = []
        self._named: dict[str, list[int]] = defaultdict(list)
        self._enter()

    def enter(self, name: str) -> None:
        """An element begins; its id, or "" for none."""
        self._elements[self._owners[-1]] += 1
        if name:
            self._children[self._owners[-1]].append(len(self._elements))
            self._named[name].append(len(self._elements))
            self._enter()

    def leave(self, name: str) -> None:
        """It ends."""
        if name:
            inner = self._owners.pop()
            self._elements[self._owners[-1]] += self._elements[inner]

    def use(self, target: str) -> None:
        """The element that was entered last uses the part with this id."""
        self._used[self._owners[-1]].append(target)

    def total(self, most: int, deepest: int) -> int:
        """How many elements the drawing stands for, counted up to about `most`. Raises ValueError
        where a part is used inside itself, or through more than `deepest` others."""
        sums: dict[Sum, int] = {}
        depths: dict[Sum, int] = {}
        todo: list[Sum] = [("within", 0)]
        while todo:
            current = todo[-1]
            if sums.get(current, _OPEN) != _OPEN:
                todo.pop()
                continue
            times = Counter(self._needs(current))
            if current not in sums:
                sums[current] = _OPEN
                todo += [each for each in times if each not in sums]
                if any(sums.get(each) == _OPEN for each in times):
                    raise ValueError("uses a part inside itself")
                continue
            todo.pop()
            inner = sum(sums[each] * count for each, count in times.items())
            sums[current] = min(self._own(current) + inner, 2 * most)
            below = max((depths[each] for each in times), default=0)
            depths[current] = below + (current[0] == "part")
            if depths[current] > deepest:
                raise ValueError(f"uses parts through more than {deepest} others")
        return self._elements[0] + sums["within", 0]

    def _enter(self) -> None:
        self._owners.append(len(self._elements))
        self._elements.append(0)
        self._children.append([])
        self._used.append([])

    def _needs(self, current: Sum) -> list[Sum]:
        """What a sum is made of: a part's of what is used within it, and that of all that is used
        directly in it and in the parts inside."""
        kind, of = current
        if kind == "part":
            return [("within", index) for index in self._named.get(str(of), ())]
        index = int(of)
        return [
            *(("part", target) for target in self._used[index]),
            *(("within", child) for child in self._children[index]),
        ]

    def _own(self, current: Sum) -> int:
        kind, of = current
        if kind == "part":
            return sum(self._elements[index] + 1 for index in self._named.get(str(of), ()))
        return 0
