"""Giving up a render that nobody waits for any more."""


class Cancelled(Exception):  # noqa: N818 - not a fault: somebody asked for it
    """The render was given up on request."""


class Cancel:
    """A token that is looked at between steps and inside long ones."""

    def __init__(self) -> None:
        self.requested = False

    def cancel(self) -> None:
        self.requested = True

    def check(self) -> None:
        """Raises Cancelled once `cancel` was called."""
        if self.requested:
            raise Cancelled
