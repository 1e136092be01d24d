"""The process that makes exports: one for each state folder."""

import fcntl
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError

from mabrel.processes import end_with, step_back
from studio.exports.tasks import take_up


class Command(BaseCommand):
    help = "Make the exports that wait, and all that are asked for from now on."

    def add_arguments(self, parser: Any) -> None:
        parser.add_argument("--parent", type=int, help="the process with which this one ends")

    def handle(self, *args: Any, **options: Any) -> None:
        if options["parent"]:
            end_with(options["parent"])
        with (settings.STATE_DIR / "exports.lock").open("w") as lock:
            try:
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except BlockingIOError:
                raise CommandError("another process makes the exports of this studio") from None
            step_back(5)
            take_up()
            call_command("db_worker", interval=0.3, startup_delay=False, verbosity=0)
