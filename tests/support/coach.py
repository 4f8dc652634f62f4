"""The coach over the API, for what a browser test needs to be there."""

from __future__ import annotations

import json
import urllib.request
import uuid
from typing import Any


class Coach:
    """The same coach over the API, for what a test needs to be there."""

    def __init__(self, url: str) -> None:
        self.url = url
        with urllib.request.urlopen(f"{url}/api/me") as answer:
            self.cookies = "; ".join(v.split(";")[0] for k, v in answer.headers.items() if k.lower() == "set-cookie")
            self.csrf = json.loads(answer.read())["csrf_token"]

    def call(self, path: str, body: object | None = None, method: str | None = None) -> Any:
        headers = {"Cookie": self.cookies, "X-CSRFToken": self.csrf, "Content-Type": "application/json"}
        headers["Idempotency-Key"] = uuid.uuid4().hex
        data = json.dumps(body).encode() if body is not None else None
        with urllib.request.urlopen(urllib.request.Request(f"{self.url}/api/{path}", data, headers, method=method)) as answer:
            return json.loads(answer.read())
