"""What stands between a sensor and the server: sends in order, keeps what is not durable, survives a server that goes away."""

from __future__ import annotations

import http.client
import json
import time
from collections import deque
from collections.abc import Callable, Sequence
from typing import Any
from urllib.parse import urlsplit

GIVE_UP_S = 40.0
MOST_A_BATCH = 400
Row = tuple[int, float, Any]


class Bridge:
    """Sends rows `(n, time_s, value)` to one address. `write` makes the lines of a batch."""

    def __init__(self, url: str, write: Callable[[Sequence[Row]], str]) -> None:
        parts = urlsplit(url)
        self.host, self.path, self.write = parts.netloc, parts.path, write
        self.kept: deque[Row] = deque()
        self.sent = -1
        self.failing_since: float | None = None
        self.cut_until = 0.0  # a connection lost on purpose
        self._connection: http.client.HTTPConnection | None = None

    def send(self) -> bool:
        """Send what is kept and not yet sent; False when the stream is over or the server stays away too long."""
        waiting = [r for r in self.kept if r[0] > self.sent]
        if not waiting:
            return True
        answer = self._request("POST", self.write(waiting[:MOST_A_BATCH]))
        if answer is None:
            return self.failing_since is None or time.monotonic() - self.failing_since < GIVE_UP_S
        if "resume_from" not in answer:
            if "accepted" not in answer:
                return False
            self.sent = waiting[:MOST_A_BATCH][-1][0]  # messages are stored as they come
            self.kept.clear()
            return True
        self.sent = int(answer["resume_from"]) - 1
        while self.kept and self.kept[0][0] <= int(answer["durable_seq"]):
            self.kept.popleft()
        return True

    def finish(self) -> None:
        """Send the rest and end; a server that could not take the end is sent what is kept again, and then the end."""
        until = time.monotonic() + GIVE_UP_S
        while time.monotonic() < until:
            if any(r[0] > self.sent for r in self.kept):
                if not self.send():
                    return
            elif self._request("DELETE", "") is not None:
                return
            if self.failing_since is not None:
                time.sleep(0.3)

    def _request(self, method: str, body: str) -> dict[str, Any] | None:
        try:
            if time.monotonic() < self.cut_until:
                raise OSError("cut")
            if self._connection is None:
                self._connection = http.client.HTTPConnection(self.host, timeout=5)
            self._connection.request(method, self.path, body.encode(), {"Content-Type": "application/x-ndjson"})
            response = self._connection.getresponse()
            text = response.read()
            if response.status >= 500:
                raise OSError("server error")
            self.failing_since = None
            answer: dict[str, Any] = json.loads(text)
            return answer
        except (OSError, http.client.HTTPException, ValueError):
            self._connection = None
            self.failing_since = self.failing_since or time.monotonic()
            self.sent = -1 if not self.kept else self.kept[0][0] - 1  # a new server knows only what is durable
            return None


def send_in_time(bridge: Bridge, rows: Sequence[Row], speed: float, batch_s: float) -> None:
    """Send rows when their time has come, sped up by `speed`, then end."""
    began, at = time.monotonic(), 0
    first_s = min((r[1] for r in rows), default=0.0)
    due = [max(0.0, r[1] - first_s) for r in rows]
    for i in range(1, len(due)):  # a clock that jumped back does not stop the sender
        due[i] = max(due[i], due[i - 1])
    while at < len(rows):
        now_s = (time.monotonic() - began) * speed
        while at < len(rows) and due[at] <= now_s:
            bridge.kept.append(rows[at])
            at += 1
        if not bridge.send():
            return
        time.sleep(batch_s if bridge.failing_since is None else 0.3)
    bridge.finish()
