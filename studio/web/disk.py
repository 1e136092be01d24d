"""Room on the disk: what is large leaves some for what must be saved."""

import shutil

from django.conf import settings

from studio.engine.outcome import LimitReached
from studio.web.limits import LEAST_FREE


def enough_disk() -> None:
    """Raises LimitReached where there is little left."""
    if shutil.disk_usage(settings.STATE_DIR).free < LEAST_FREE:
        raise LimitReached(
            f"The studio's disk has less than {LEAST_FREE // 2**20} MiB left. Titles can still be "
            "saved; make room before anything large is kept."
        )
