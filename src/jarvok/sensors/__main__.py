"""Send one simulated set to a stream, in real time: `python -m jarvok.sensors < order.json`.

The order is a JSON object: url, exercise_id, velocities_mps, rate_hz, noise_m, seed, speed. Like a real bridge it keeps
every sample until the server says it is durable, and sends again from where the server asks after a break.
"""

from __future__ import annotations

import http.client
import json
import sys
import time
from collections import deque
from typing import Any
from urllib.parse import urlsplit

import numpy as np

from jarvok.core.library.exercises import exercise
from jarvok.core.sensors.stream import write_samples
from jarvok.core.sensors.trace import Pattern, simulate_set

BATCH_S = 0.02
GIVE_UP_S = 40.0


class Bridge:
    """Sends samples in order and survives a server that goes away for a while."""

    def __init__(self, url: str) -> None:
        parts = urlsplit(url)
        self.host, self.path = parts.netloc, parts.path
        self.kept: deque[tuple[int, float, float]] = deque()
        self.sent = -1
        self.failing_since: float | None = None
        self._connection: http.client.HTTPConnection | None = None

    def send(self) -> bool:
        """Send what is kept and not yet sent; False when the stream is over or the server stays away too long."""
        waiting = [s for s in self.kept if s[0] > self.sent]
        if not waiting:
            return True
        answer = self._request("POST", write_samples(waiting[:400]))
        if answer is None:
            return self.failing_since is None or time.monotonic() - self.failing_since < GIVE_UP_S
        if "resume_from" not in answer:
            return False
        self.sent = int(answer["resume_from"]) - 1
        while self.kept and self.kept[0][0] <= int(answer["durable_seq"]):
            self.kept.popleft()
        return True

    def finish(self) -> None:
        """Send the rest and end the stream."""
        until = time.monotonic() + GIVE_UP_S
        while any(s[0] > self.sent for s in self.kept) and time.monotonic() < until:
            if not self.send():
                return
            if self.failing_since is not None:
                time.sleep(0.3)
        self._request("DELETE", "")

    def _request(self, method: str, body: str) -> dict[str, Any] | None:
        try:
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


def main() -> None:
    """Read the order and send the set."""
    order = json.load(sys.stdin)
    lift = exercise(order["exercise_id"])
    trace = simulate_set(
        lift.simulated_pattern or Pattern.SQUAT,
        order["velocities_mps"],
        lift.simulated_range_m,
        order["rate_hz"],
        order["noise_m"],
        np.random.default_rng(order["seed"]),
    )
    bridge = Bridge(order["url"])
    samples = [(n, t, x) for n, (t, x) in enumerate(trace.samples())]
    speed = float(order.get("speed", 1.0))
    began, at = time.monotonic(), 0
    while at < len(samples):
        now_s = (time.monotonic() - began) * speed
        while at < len(samples) and samples[at][1] <= now_s:
            bridge.kept.append(samples[at])
            at += 1
        if not bridge.send():
            return
        time.sleep(BATCH_S if bridge.failing_since is None else 0.3)
    bridge.finish()


if __name__ == "__main__":
    main()
