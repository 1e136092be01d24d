"""A program of its own: reads a drawing from standard input and writes it as PNG.

Arguments: width in pixels, bytes of memory, seconds, the family for words without one, font files.
It imports nothing of ours, since it starts anew for each drawing.
"""

import resource
import sys

import resvg_py


def main() -> None:
    width, memory, seconds, family, *fonts = sys.argv[1:]
    resource.setrlimit(resource.RLIMIT_AS, (int(memory), int(memory)))
    resource.setrlimit(resource.RLIMIT_CPU, (int(seconds), int(seconds)))
    try:
        png = resvg_py.svg_to_bytes(
            svg_string=sys.stdin.buffer.read().decode("utf-8-sig"),
            width=int(width),
            dpi=96,
            skip_system_fonts=True,
            font_files=fonts,
            font_family=family,
            serif_family=family,
            sans_serif_family=family,
            monospace_family=family,
        )
    except ValueError as broken:
        sys.exit(str(broken).splitlines()[0])
    sys.stdout.buffer.write(png)


if __name__ == "__main__":
    main()
