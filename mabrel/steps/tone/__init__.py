"""Tone: where metal happens."""
