"""What the studio's processes take while something is done to them."""

import threading
import time
from dataclasses import dataclass, field

import psutil

MB = 2**20


@dataclass
class Watch:
    """Looks at a web process and its engine processes twice a second. Bytes."""

    pid: int
    web: list[int] = field(default_factory=list)
    most_of_worker: int = 0
    _going: bool = True

    def __enter__(self) -> "Watch":
        self._thread = threading.Thread(target=self._look, daemon=True)
        self._thread.start()
        return self

    def __exit__(self, *_: object) -> None:
        self._going = False
        self._thread.join()

    def _look(self) -> None:
        web = psutil.Process(self.pid)
        while self._going:
            try:
                self.web.append(web.memory_info().rss)
                for child in web.children(recursive=True):
                    self.most_of_worker = max(self.most_of_worker, child.memory_info().rss)
            except psutil.Error:
                pass  # it is being begun anew
            time.sleep(0.5)

    def grown(self) -> float:
        """MB that the web process has gained, from when it had settled to the end: the middle of
        the second tenth of the time against that of the last."""
        tenth = max(len(self.web) // 10, 1)
        early, late = sorted(self.web[tenth : 2 * tenth] or self.web), sorted(self.web[-tenth:])
        return (late[len(late) // 2] - early[len(early) // 2]) / MB
