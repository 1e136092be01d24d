"""The work on an export, as a task: begun anew it goes on from the pieces that are there."""

import errno
import logging
import time
from uuid import UUID

from django.conf import settings
from django.utils import timezone
from django_tasks import task

from studio.engine import exporting
from studio.engine.outcome import LimitReached
from studio.engine.shipped import Order
from studio.exports.models import UNDERWAY, Export, State
from studio.web.disk import enough_disk

_LOG = logging.getLogger(__name__)
_TOO_MUCH = "A frame takes more memory than a process may have: export it smaller."
_DISK_FULL = "The disk is full. Make room and take it up again: what is made is kept."


@task()
def make_export(export_id: str) -> None:
    """Make an export that waits. What goes wrong is told by its state and fault."""
    export = Export.objects.filter(pk=UUID(export_id)).first()
    if export is None or export.state not in UNDERWAY:
        return
    export.folder.mkdir(parents=True, exist_ok=True)
    _set(export, state=State.RUNNING, stopping=False, fault="", spent=0, counted=0)
    try:
        _make(export)
    except Exception as error:  # noqa: BLE001 - whatever it is, the page hears of it
        _end_early(export, error)
    else:
        size = export.path.stat().st_size
        _set(export, state=State.DONE, done=export.all, size=size)


def _make(export: Export) -> None:
    means = exporting.workers()
    began = time.monotonic()
    first: int | None = None

    def done(frames: int) -> None:
        nonlocal first, began
        if first is None:  # what lies there already took no time
            first, began = frames, time.monotonic()
        enough_disk()
        _set(export, done=frames, counted=frames - first, spent=time.monotonic() - began)

    def stopped() -> bool:
        return Export.objects.filter(pk=export.pk, stopping=False).first() is None

    try:
        order = Order.model_validate(export.order)
        how = {"means": means, "folder": export.folder, "done": done, "stopped": stopped}
        if export.members:
            exporting.exported_set(
                export.members, settings.LIBRARY_DIR, order, export.path, sheet=export.sheet, **how
            )
        else:
            exporting.exported(export.document, settings.LIBRARY_DIR, order, export.path, **how)
    finally:
        means.close()


def _end_early(export: Export, error: Exception) -> None:
    if isinstance(error, exporting.Stopped):
        _set(export, state=State.STOPPED)
    elif isinstance(error, OSError) and error.errno == errno.ENOSPC:
        _set(export, state=State.FAILED, fault=_DISK_FULL)
    elif isinstance(error, MemoryError):
        _set(export, state=State.FAILED, fault=_TOO_MUCH)
    elif isinstance(error, ValueError | OSError | LimitReached):
        _set(export, state=State.FAILED, fault=str(error)[:2000])
    else:
        _LOG.error("an export could not be made", exc_info=error)
        _set(export, state=State.FAILED, fault="It could not be made: see the studio's log.")


def _set(export: Export, **values: object) -> None:
    """Nothing but these columns, so that what the page asks for meanwhile is not lost."""
    for name, value in values.items():
        setattr(export, name, value)
    Export.objects.filter(pk=export.pk).update(changed_at=timezone.now(), **values)


def take_up() -> None:
    """Queue all that is to be made: after a start nobody works on anything."""
    from django_tasks_db.models import DBTaskResult

    DBTaskResult.objects.all().delete()
    for export in Export.objects.filter(state__in=UNDERWAY).order_by("asked_at"):
        _set(export, state=State.WAITING)
        make_export.enqueue(str(export.pk))
