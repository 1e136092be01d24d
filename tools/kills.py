"""Kill a studio again and again while it saves, uploads, deletes and exports.

100 times the web process or one of the engine's is killed at a random moment. After each start
nothing that was acknowledged may be lost, no file may be half, and nothing may be left over.
``--times 3`` is a short one.
"""

import argparse
import io
import json
import random
import sqlite3
import sys
import tempfile
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

import psutil
from PIL import Image

from mabrel import new_title
from tools.fuzzing.sending import Request, Sender, upload
from tools.running_studio import RunningStudio

_LONGEST_LIFE = 8.0  # seconds; its engine comes up in half of that
_SHARED = "plate"  # the name that many uploads want at once
_OF_WEB = 0.6  # share of the kills that meet the web process


@dataclass
class Promises:
    """What the studio has acknowledged, and what it may or may not have done."""

    titles: dict[str, int] = field(default_factory=dict)
    """By id the number of the last save that was acknowledged; it stands in the name."""
    files: dict[str, bytes] = field(default_factory=dict)
    deleting: set[str] = field(default_factory=set)
    deleted: set[str] = field(default_factory=set)
    exports: int = 0
    faults: list[str] = field(default_factory=list)


class Studio:
    """A studio under fire, and the pages that work with it."""

    def __init__(self, state: Path, number: int) -> None:
        self.running = RunningStudio(state)
        self.promises = Promises()
        self._draw = random.Random(number)
        self._going = True

    def begin(self) -> None:
        self.running.prepare(demo=False)
        self.running.start()

    def work(self, times: int) -> None:
        """Let the pages work, and kill what they work with."""
        acts = (self._save, self._upload, self._upload, self._delete, self._export)
        threads = [threading.Thread(target=self._page, args=(act, n)) for n, act in enumerate(acts)]
        for thread in threads:
            thread.start()
        try:
            for _ in range(times):
                time.sleep(self._draw.uniform(0.2, _LONGEST_LIFE))
                self._kill_one()
        finally:
            self._going = False
            for thread in threads:
                thread.join()

    def _kill_one(self) -> None:
        if self._draw.random() < _OF_WEB:
            self.running.kill()
            self.running.start()
        else:
            self._kill_an_engine_process()

    def _kill_an_engine_process(self) -> None:
        children = psutil.Process(self.running.pid).children()
        workers = [each for each in children if "spawn_main" in " ".join(each.cmdline())]
        if workers:
            self._draw.choice(workers).kill()

    def _page(self, act: Callable[[Sender, random.Random], None], number: int) -> None:
        sender, draw = Sender(self.running.port), random.Random(number)
        while self._going:
            try:
                act(sender, draw)
            except OSError:
                time.sleep(0.2)  # it is down just now

    def _save(self, sender: Sender, draw: random.Random) -> None:
        if len(self.promises.titles) < 5:
            body = json.dumps({"text": "KELP", "width": 160, "height": 90}).encode()
            made = sender.send(Request("POST", "/api/titles", body))
            if made.status == 201:
                self.promises.titles[json.loads(made.content)["id"]] = 0
            return
        id = draw.choice(list(self.promises.titles))
        opened = sender.send(Request("GET", f"/api/titles/{id}"))
        if opened.status != 200:
            self._see(opened.status, opened.content)
            return
        saved = json.loads(opened.content)
        number = self.promises.titles[id] + draw.randrange(1, 4)
        document = saved["document"] | {"name": f"Save {number}"}
        body = json.dumps({"version": saved["version"], "document": document}).encode()
        answer = sender.send(Request("PUT", f"/api/titles/{id}", body))
        if answer.status == 200:
            self.promises.titles[id] = number
        self._see(answer.status, answer.content)

    def _upload(self, sender: Sender, draw: random.Random) -> None:
        """Half of them want the same name; only the others are deleted, since a name that is free
        again may be taken by the next one."""
        content = _picture(draw)
        name = _SHARED if draw.random() < 0.5 else f"{draw.getrandbits(40):010x}"
        answer = sender.send(upload("/api/library", f"{name}.png", content))
        if answer.status == 201:
            self.promises.files[json.loads(answer.content)["name"]] = content
        self._see(answer.status, answer.content)

    def _delete(self, sender: Sender, draw: random.Random) -> None:
        own = (name for name in list(self.promises.files) if not name.startswith(_SHARED))
        names = [name for name in own if name not in self.promises.deleting]
        if len(names) < 5:
            time.sleep(0.05)
            return
        name = draw.choice(names)
        self.promises.deleting.add(name)
        answer = sender.send(Request("DELETE", f"/api/library?name={name}"))
        if answer.status == 204:
            self.promises.deleted.add(name)
        self._see(answer.status, answer.content)

    def _export(self, sender: Sender, draw: random.Random) -> None:
        document = new_title("MAST", frame=(320, 180)).model_dump(mode="json")
        if draw.random() < 0.3:
            body = json.dumps({"documents": [document] * 3, "order": {"scale": 0.5}}).encode()
            answer = sender.send(Request("POST", "/api/exports/set", body))
        else:
            body = json.dumps({"document": document}).encode()
            answer = sender.send(Request("POST", "/api/export", body))
            if answer.status == 200:
                self._whole(answer.content)
        self.promises.exports += answer.status in (200, 201)
        self._see(answer.status, answer.content)

    def _whole(self, content: bytes) -> None:
        try:
            Image.open(io.BytesIO(content)).load()
        except OSError as broken:
            self.promises.faults.append(f"an export came back broken: {broken}")

    def _see(self, status: int, content: bytes) -> None:
        if status >= 500 and (status != 503 or not json.loads(content).get("message")):
            self.promises.faults.append(f"{status}: {content[:200]!r}")

    def broken_promises(self) -> list[str]:
        """After one more kill and start: what is not as it must be."""
        self.running.kill()
        self.running.start()
        return [*self.promises.faults, *self._lost(), *self._left_over()]

    def _lost(self) -> list[str]:
        found = []
        sender, library = Sender(self.running.port), self.running.state / "library"
        for id, number in self.promises.titles.items():
            answer = sender.send(Request("GET", f"/api/titles/{id}"))
            name = json.loads(answer.content).get("document", {}).get("name", "")
            there = int(name.removeprefix("Save ")) if name.startswith("Save ") else 0
            if answer.status != 200 or there < number:
                found.append(f"save {number} of {id} is lost: {answer.status} {name!r}")
        for name, content in self.promises.files.items():
            path = library / name
            if name in self.promises.deleting:
                continue
            if not path.is_file() or path.read_bytes() != content:
                found.append(f"{name} is lost or another one")
        deleted = self.promises.deleted
        found += [f"{name} is still there" for name in deleted if (library / name).exists()]
        with sqlite3.connect(self.running.state / "mabrel.sqlite3") as database:
            (checked,) = database.execute("PRAGMA integrity_check").fetchone()
        return found if checked == "ok" else [*found, f"the database: {checked}"]

    def _left_over(self) -> list[str]:
        found = []
        passing = self.running.state / "passing"
        found += [f"left over: {path.name}" for path in passing.iterdir()]
        for path in (self.running.state / "library").iterdir():
            if path.name.startswith("."):
                found.append(f"half a file: {path.name}")
            else:
                self._whole(path.read_bytes())
        return found


def _picture(draw: random.Random) -> bytes:
    out = io.BytesIO()
    side = draw.randrange(20, 200)
    Image.frombytes("RGB", (side, side), draw.randbytes(3 * side * side)).save(out, "PNG")
    return out.getvalue()


def killed(times: int, number: int = 1) -> list[str]:
    """What went wrong in so many kills; it says how much was promised."""
    with tempfile.TemporaryDirectory() as state:
        studio = Studio(Path(state), number)
        studio.begin()
        try:
            studio.work(times)
            found = studio.broken_promises()
        finally:
            studio.running.stop()
    kept = studio.promises
    saves = sum(kept.titles.values())
    print(
        f"{times} kills: {saves} saves of {len(kept.titles)} titles, {len(kept.files)} uploads, "
        f"{len(kept.deleted)} deletions and {kept.exports} exports were acknowledged"
    )
    return found


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--times", type=int, default=100)
    parser.add_argument("--seed", type=int, default=1)
    chosen = parser.parse_args()
    found = killed(chosen.times, chosen.seed)
    print("\n".join(found) or "nothing was lost, half or left over")
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
