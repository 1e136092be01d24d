"""What is wrong with a picture file."""


class PictureError(ValueError):
    """A picture that can't be used: `str()` names the file and says what is wrong in it."""

    def __init__(self, name: str, fault: str) -> None:
        self.name = name
        self.fault = fault
        super().__init__(f"picture {name!r} {fault}")
