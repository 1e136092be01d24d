"""What the files of exports are called."""

from collections.abc import Iterable, Iterator


def file_stems(titles: Iterable[str]) -> Iterator[str]:
    """A name for each, none twice whatever the case, in the order of the list."""
    taken: set[str] = set()
    for title in titles:
        stem = name = file_stem(title)
        number = 2
        while name.casefold() in taken:
            name, number = f"{stem} {number}", number + 1
        taken.add(name.casefold())
        yield name


def file_stem(title: str) -> str:
    """A title's name as one that a file may have."""
    stem = "".join("-" if c in '\\/:*?"<>|' or ord(c) < 32 else c for c in title)
    return stem.strip(" .")[:150] or "title"
