"""Settings of all tests."""

from hypothesis import settings

# The first example may compile or load something: machines here are shared and slow at times.
settings.register_profile("mabrel", deadline=None, max_examples=60)
settings.load_profile("mabrel")
