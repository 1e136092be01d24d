"""Run the studio: ``python -m studio``."""

import argparse
import os
import sys

import django
import uvicorn
from django.core.exceptions import ImproperlyConfigured

from studio.web.limits import MOST_CONNECTIONS
from studio.web.protocol import BoundedProtocol


def main() -> int:
    parser = argparse.ArgumentParser(prog="python -m studio", description="Run the studio.")
    parser.add_argument("--host", default="127.0.0.1", help="the address to listen at")
    parser.add_argument("--port", type=int, default=8000)
    chosen = parser.parse_args()
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "studio.settings")
    django.setup()
    from studio.opening import open_studio

    try:
        open_studio()
    except ImproperlyConfigured as why:
        print(f"studio: {why}", file=sys.stderr)
        return 2
    uvicorn.run(
        "studio.asgi:application",
        http=BoundedProtocol,
        ws="none",
        host=chosen.host,
        port=chosen.port,
        log_level="warning",
        limit_concurrency=MOST_CONNECTIONS,
        timeout_keep_alive=15,
        timeout_graceful_shutdown=5,
        server_header=False,
        proxy_headers=False,
    )
    return 0


if __name__ == "__main__":
    sys.exit(main())
