"""Renders that can't be made."""


class RenderError(ValueError):
    """What was asked for can't be rendered; the text says what and why."""
