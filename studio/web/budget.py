"""How much of something may be held at the same time."""


class Budget:
    """Bytes that all requests together may hold. For one event loop."""

    def __init__(self, most: int) -> None:
        self._left = most

    def take(self, size: int) -> bool:
        """Whether there is room for so many more; then they are taken."""
        if size > self._left:
            return False
        self._left -= size
        return True

    def give_back(self, size: int) -> None:
        self._left += size
