"""How much may be sent, and how many may send."""

_MB = 2**20
LARGEST_JSON = 8 * _MB
"""A document, or two hundred of them."""
_FORM = 64 * 1024  # what a form adds to its file
UPLOAD_LIMITS = {
    "/api/library": 64 * _MB + _FORM,
    "/api/titles/import": 256 * _MB + _FORM,
}
MOST_UPLOADS = 4
LONGEST_PAUSE = 30
"""Seconds in which something of a request must come."""
MOST_CONNECTIONS = 250
LONGEST_NAME = 200
"""Bytes of a file's name: most file systems have 255."""
