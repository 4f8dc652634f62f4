"""An empty centre of one's own, started as the README says."""

from __future__ import annotations

import os
import socket
import subprocess
import time
import urllib.request
from pathlib import Path

from support.demo_file import ROOT


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def started(folder: Path, port: int) -> subprocess.Popen[bytes]:
    """Start a server on an empty folder, and return when it answers."""
    env = {k: v for k, v in os.environ.items() if not k.startswith("JARVOK_")} | {
        "CENTRE": str(folder), "PYTHONPATH": "src", "JARVOK_HOUSEKEEPING_S": "1",
    }  # fmt: skip
    process = subprocess.Popen(
        ["scripts/start", str(port)], cwd=ROOT, env=env, start_new_session=True, stdout=subprocess.PIPE, stderr=subprocess.STDOUT
    )
    for _ in range(600):
        try:
            urllib.request.urlopen(f"http://127.0.0.1:{port}/api/me", timeout=2).read()
            return process
        except OSError:
            time.sleep(0.1)
    raise RuntimeError("the centre did not start")
