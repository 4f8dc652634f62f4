"""The real application in Debian's headless Chromium: a uvicorn process of its own on a small demo database."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
TODAY = "2026-11-24"


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args):
    return {
        **browser_type_launch_args,
        "executable_path": "/usr/bin/chromium",
        "args": ["--no-sandbox", "--disable-dev-shm-usage", "--disable-gpu", "--disable-background-networking"],
    }


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args):
    return {**browser_context_args, "viewport": {"width": 1280, "height": 800}, "locale": "en-GB", "color_scheme": "light"}


class Server:
    """A server process that a test may kill and start again."""

    def __init__(self, folder: Path) -> None:
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        self.url = f"http://127.0.0.1:{self.port}"
        self.env = {
            **os.environ,
            "PYTHONPATH": str(ROOT / "src"),
            "JARVOK_VAR": str(folder),
            "JARVOK_DB": str(folder / "test.sqlite3"),
            "JARVOK_LOCAL_DEMO": "1",
            "JARVOK_TODAY": TODAY,
        }
        self.process: subprocess.Popen[bytes] | None = None

    def manage(self, *args: str) -> None:
        subprocess.run([sys.executable, str(ROOT / "manage.py"), *args], env=self.env, check=True, stdout=subprocess.DEVNULL)

    def output(self, *args: str) -> str:
        command = [sys.executable, str(ROOT / "manage.py"), *args]
        return subprocess.run(command, env=self.env, check=True, capture_output=True, text=True).stdout

    def start(self) -> None:
        self.process = subprocess.Popen(
            [sys.executable, "-m", "uvicorn", "jarvok.app.asgi:application", "--host", "127.0.0.1", "--port", str(self.port),
             "--lifespan", "off", "--timeout-graceful-shutdown", "1", "--log-level", "warning"],
            env=self.env,
        )  # fmt: skip
        for _ in range(200):
            try:
                urllib.request.urlopen(f"{self.url}/api/me", timeout=2).read()
                return
            except OSError:
                time.sleep(0.1)
        raise RuntimeError("the server did not start")

    def kill(self) -> None:
        assert self.process is not None
        self.process.send_signal(signal.SIGKILL)
        self.process.wait()


@pytest.fixture(scope="session")
def server(tmp_path_factory) -> Iterator[Server]:
    server = Server(tmp_path_factory.mktemp("jarvok"))
    server.manage("migrate", "-v0")
    server.manage("demo_data", "--small")
    server.start()
    yield server
    server.kill()


@pytest.fixture
def problems(page) -> Iterator[list[str]]:
    """What the page's console complained of; a failed answer the test asked for is not a complaint."""
    seen: list[str] = []
    page.on("pageerror", lambda error: seen.append(str(error)))
    page.on("console", lambda m: seen.append(m.text) if m.type == "error" and "Failed to load resource" not in m.text else None)
    yield seen
    assert seen == []
