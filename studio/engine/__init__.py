"""The engine at arm's length: processes of its own, and what they are asked to do.

The web process reads no picture, font or drawing that somebody sent, and renders nothing. It asks
here; `desk` decides which process does it and when, `jobs` are what runs there.
"""
