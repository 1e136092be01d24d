"""Twenty pages ask at once: what the one notices whose hand is on a slider.

Nineteen pages open titles, with all that the bench asks for then, and look at the shelf; one drags
a slider of FOGHORN. Printed: how long its previews took alone and among the others, whether
everything was answered, and what the processes took. Its table stands in docs/performance.md.
"""

import argparse
import json
import random
import statistics
import sys
import threading
import time
from collections import Counter
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from typing import Any

from tools.fuzzing.sending import Answer, Request, Sender
from tools.fuzzing.watching import MB, Watch
from tools.running_studio import RunningStudio, passing_studio

OTHERS = 19
_SHOWN = 748  # pixels that a proof is wide on the bench at 1280 × 800
_WORDS = ("HARBOUR", "KELP", "MAST", "ROPE", "TIDE", "GULL")


@dataclass
class Told:
    """What came back, to all pages together."""

    statuses: Counter[int] = field(default_factory=Counter)
    longest: dict[str, float] = field(default_factory=dict)
    _lock: threading.Lock = field(default_factory=threading.Lock)

    def add(self, name: str, answer: Answer) -> None:
        with self._lock:
            self.statuses[answer.status] += 1
            self.longest[name] = max(self.longest.get(name, 0.0), answer.seconds)


class Page:
    """One window of a browser, which has six connections."""

    def __init__(self, number: int, port: int, told: Told) -> None:
        self._name = f"page {number}"
        self._draw = random.Random(number)
        self._sender = Sender(port)
        self._told = told

    def goes_on(self, titles: list[str], finishes: list[str], going: Callable[[], bool]) -> None:
        """Open one title after another, and look at the shelf between them."""
        with ThreadPoolExecutor(6) as connections:
            while going():
                if self._draw.random() < 0.3:
                    asked = self._shelf(finishes)
                else:
                    asked = self._bench(self._draw.choice(titles))
                list(connections.map(self._ask, asked))

    def _ask(self, request: Request) -> None:
        self._told.add(request.label, self._sender.send(request))

    def _shelf(self, finishes: list[str]) -> list[Request]:
        word = f"{self._draw.choice(_WORDS)} {self._draw.randrange(99)}".replace(" ", "%20")
        chosen = self._draw.sample(finishes, 6)
        paths = [
            f"/api/finishes/{name}/picture?session={self._name}&text={word}".replace(" ", "%20")
            for name in chosen
        ]
        return [Request("GET", path, label="strips") for path in paths]

    def _bench(self, id: str) -> list[Request]:
        opened = self._sender.send(Request("GET", f"/api/titles/{id}", label="titles"))
        self._told.add("titles", opened)
        document = json.loads(opened.content)["document"]
        words = [each for each in document["layers"] if each["kind"] == "lettering"]
        layer = (words or document["layers"])[-1]["id"]
        about = {"session": self._name, "document": document}
        of_layer = about | {"layer": layer}
        scale = round(_SHOWN / document["frame"]["width"], 3)
        return [
            _post("/preview", "previews", about | {"scale": scale}),
            _post("/boxes", "boxes", of_layer),
            _post("/section", "sections", of_layer | {"at": document["frame"]["height"] / 2}),
            _post("/build-pictures", "small pictures", of_layer),
            _post("/readings", "readings", of_layer),
        ]


def _post(path: str, label: str, body: dict[str, Any]) -> Request:
    return Request("POST", f"/api{path}", json.dumps(body).encode(), label=label)


def dragged(sender: Sender, document: dict[str, Any], seconds: float) -> list[float]:
    """Previews of a title whose shadow is dragged, one after the other: seconds each."""
    steps = document["layers"][-1]["build"]
    shadow = next(each for each in steps if each["step"] == "ground.drop_shadow")
    took = []
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        shadow["settings"]["blur"] = 5 + len(took) % 60
        body = {"session": "hand", "document": document, "scale": round(_SHOWN / 1920, 3)}
        answer = sender.send(_post("/preview", "", body))
        if answer.status != 200:
            raise RuntimeError(f"{answer.status} {answer.content[:200]!r}")
        took.append(answer.seconds)
        time.sleep(0.015)
    return took


def measured(seconds: float, others: int = OTHERS) -> tuple[str, bool]:
    """The table, and whether it is as it must be."""
    with passing_studio() as studio:
        return _measured(studio, seconds, others)


def _measured(studio: RunningStudio, seconds: float, others: int) -> tuple[str, bool]:
    sender, told = Sender(studio.port), Told()
    titles = json.loads(sender.send(Request("GET", "/api/titles")).content)
    finishes = [
        each["name"] for each in json.loads(sender.send(Request("GET", "/api/finishes")).content)
    ]
    foghorn = next(each["id"] for each in titles if each["name"] == "Foghorn")
    opened = sender.send(Request("GET", f"/api/titles/{foghorn}"))
    document = json.loads(opened.content)["document"]
    dragged(sender, document, 3)  # its kernels and its title are there
    alone = dragged(sender, document, 5)
    going = True
    ids = [each["id"] for each in titles]
    with Watch(studio.pid) as watch:
        threads = [
            threading.Thread(
                target=Page(number, studio.port, told).goes_on, args=(ids, finishes, lambda: going)
            )
            for number in range(others)
        ]
        for thread in threads:
            thread.start()
        among = dragged(sender, document, seconds)
        listed = [sender.send(Request("GET", "/api/titles")).seconds for _ in range(20)]
        going = False
        for thread in threads:
            thread.join()
    median = statistics.median(among)
    answered = set(told.statuses) <= {200, 204}
    lines = [
        "| what | alone | among twenty pages |",
        "|---|---|---|",
        f"| previews of the page whose hand is on a slider | {len(alone)} in 5 s "
        f"| {len(among)} in {seconds:.0f} s |",
        f"| median | {statistics.median(alone) * 1000:.0f} ms | {median * 1000:.0f} ms |",
        f"| nine of ten within | {_ninth(alone) * 1000:.0f} ms | {_ninth(among) * 1000:.0f} ms |",
        f"| longest | {max(alone) * 1000:.0f} ms | {max(among) * 1000:.0f} ms |",
        f"| the list of titles, median | | {statistics.median(listed) * 1000:.0f} ms |",
        "",
        f"The others were answered {sum(told.statuses.values())} times "
        f"({', '.join(f'{status}: {count}' for status, count in sorted(told.statuses.items()))}); "
        "they waited at most "
        + ", ".join(f"{longest:.0f} s for {name}" for name, longest in sorted(told.longest.items()))
        + f". The largest engine process took {watch.most_of_worker / MB:.0f} MB, the web process "
        f"{max(watch.web) / MB:.0f} MB.",
    ]
    return "\n".join(lines), median < 0.5 and answered


def _ninth(times: list[float]) -> float:
    return statistics.quantiles(times, n=10)[-1]


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--seconds", type=float, default=60)
    chosen = parser.parse_args()
    table, good = measured(chosen.seconds)
    print(table)
    return 0 if good else 1


if __name__ == "__main__":
    sys.exit(main())
