"""Send a studio random requests and damaged files, and see that it stays whole.

10,000 requests, half made from the OpenAPI document, half with mutated demo titles, and 2,000
damaged files. It fails where an answer is a server error other than a named limit, a worker takes
more than it may, or the web process grows. ``--requests 200 --files 50`` is a short one.
"""

import argparse
import contextlib
import itertools
import json
import random
import sys
from collections.abc import Iterator
from typing import Any
from urllib.parse import quote

import requests
import schemathesis
from hypothesis import HealthCheck, Phase, given, seed, settings
from hypothesis.errors import Unsatisfiable
from schemathesis import GenerationMode

from studio.engine.limits import WORKER_BYTES
from tools.fuzzing.damaged import as_upload, damaged_files
from tools.fuzzing.documents import mutated_titles
from tools.fuzzing.sending import Report, Request, Sender
from tools.fuzzing.watching import MB, Watch
from tools.running_studio import RunningStudio, passing_studio

_MOST_GROWTH = 50
_NOT_ASKED = {"GET /api/person"}


def main(arguments: list[str] | None = None) -> int:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--requests", type=int, default=10_000)
    parser.add_argument("--files", type=int, default=2000)
    parser.add_argument("--seed", type=int, default=1)
    chosen = parser.parse_args(arguments)
    with passing_studio() as studio:
        return 0 if fuzzed(studio, chosen.requests, chosen.files, chosen.seed) else 1


def fuzzed(studio: RunningStudio, requests: int, files: int, number: int = 1) -> bool:
    """Whether the studio stayed whole; what came of it is printed."""
    draw = random.Random(number)
    sender = Sender(studio.port)
    titles = itertools.islice(mutated_titles(draw), requests // 2)
    damage = itertools.islice(damaged_files(draw), files)
    with Watch(studio.pid) as watch:
        reports = {
            "mutated demo titles": sender.send_all(titles),
            "damaged files": _files(sender, damage),
            "the OpenAPI document": sender.send_all(_described(sender, requests // 2, number)),
        }
    for name, report in reports.items():
        print(f"{name}\n{report}")
    largest, growth = watch.most_of_worker / MB, watch.grown()
    print(f"largest engine process {largest:.0f} MB, web process {growth:+.0f} MB", flush=True)
    good = not any(report.bad for report in reports.values())
    return good and watch.most_of_worker < WORKER_BYTES and growth < _MOST_GROWTH


def _files(sender: Sender, damage: Iterator[tuple[str, bytes]]) -> Report:
    """Each is sent; what was kept is looked at."""
    report = Report()

    def both() -> Iterator[Request]:
        for name, content in damage:
            sent = as_upload(name, content)
            answer = sender.send(sent)
            report.add(sent, answer)
            kept = json.loads(answer.content).get("name", "") if answer.status == 201 else ""
            if kept and not name.endswith(".mabrel"):
                yield Request("GET", f"/api/library/picture?name={quote(kept)}&side=64")

    looked = sender.send_all(both())
    report.bad += looked.bad
    report.statuses.update(looked.statuses)
    return report


def _described(sender: Sender, count: int, number: int) -> Iterator[Request]:
    """Requests that the OpenAPI document allows, and such as it doesn't."""
    schema = schemathesis.openapi.from_dict(
        json.loads(sender.send(Request("GET", "/api/openapi.json")).content)
    )
    operations = [found.ok() for found in schema.get_all_operations()]
    operations = [each for each in operations if each.label not in _NOT_ASKED]
    each = max(count // (2 * len(operations)), 1)
    for operation in operations:
        for mode in (GenerationMode.POSITIVE, GenerationMode.NEGATIVE):
            yield from _cases(operation, mode, each, number)


def _cases(operation: Any, mode: GenerationMode, count: int, number: int) -> list[Request]:
    found: list[Request] = []

    @seed(number)
    @settings(
        max_examples=count,
        phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
        database=None,
        deadline=None,
    )
    @given(case=operation.as_strategy(generation_mode=mode))
    def gather(case: Any) -> None:
        found.append(_request(case))

    with contextlib.suppress(Unsatisfiable):  # nothing can be wrong where nothing is asked
        gather()
    return found


def _request(case: Any) -> Request:
    sent = case.as_transport_kwargs(base_url="http://studio")
    prepared = requests.Request(**{k: v for k, v in sent.items() if k != "timeout"}).prepare()
    body = prepared.body or b""
    kind = prepared.headers.get("Content-Type", "application/json")
    content = body if isinstance(body, bytes) else str(body).encode(errors="replace")
    return Request(str(prepared.method), str(prepared.path_url), content, str(kind))


if __name__ == "__main__":
    sys.exit(main())
