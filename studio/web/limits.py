"""How much may be sent, and how many may send."""

_MB = 2**20
LARGEST_JSON = 8 * _MB
"""A document, or two hundred of them."""
MOST_VALUES = 300_000
"""In a request's JSON."""
_FORM = 64 * 1024  # what a form adds to its file
UPLOAD_LIMITS = {
    "/api/library": 64 * _MB + _FORM,
    "/api/titles/import": 256 * _MB + _FORM,
}
ARRIVING = "/api/library/arriving/"
"""Where files come in pieces."""
LARGEST_PIECE = 16 * _MB
MOST_ARRIVING = 100
"""Files that are on their way in pieces, those that nobody goes on with among them."""
LARGE_JSON = _MB // 4
"""What is larger counts among the large ones."""
MOST_LARGE_JSON = 32 * _MB
"""Of large bodies that are being answered, together: read, they take 25 times as much."""
MOST_UPLOADS = 4
LONGEST_PAUSE = 30
"""Seconds in which something of a request must come."""
LONGEST_SENDING = 600
"""Seconds in which all of it must come."""
LARGEST_HEAD = 64 * 1024
LONGEST_HEAD = 20
"""Seconds in which a request's head must come, from when its connection is open."""
LONGEST_UNREAD = 60
"""Seconds in which something of an answer must be read."""
MOST_UNREAD = 512 * _MB
"""Of large answers that are being sent, together."""
MOST_CONNECTIONS = 250
LONGEST_NAME = 200
"""Bytes of a file's name: most file systems have 255."""
LEAST_FREE = 256 * _MB
"""Of the disk: below it only titles are saved, no files and no sets."""
