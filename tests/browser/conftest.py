"""The real application in Debian's headless Chromium: a uvicorn process of its own on a small demo database."""

from __future__ import annotations

import json
import os
import re
import signal
import socket
import sqlite3
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from contextlib import closing, suppress
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect
from support.browser import CHROMIUM
from support.demo_file import ROOT, copy_demo, environment

expect.set_options(timeout=20_000)  # a loaded machine is slow, not wrong


PLAIN = "--host-resolver-rules=MAP hall.test 127.0.0.1"  # a name under which plain http is no safe context


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args):
    return {
        **browser_type_launch_args,
        "executable_path": CHROMIUM,
        "args": ["--no-sandbox", "--disable-dev-shm-usage", "--disable-gpu", "--disable-background-networking", PLAIN],
    }


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args):
    return {
        **browser_context_args,
        "viewport": {"width": 1280, "height": 800},
        "locale": "en-GB",
        "color_scheme": "light",
        "reduced_motion": "reduce",
        "service_workers": "block",  # what is kept for a day without a network has tests of its own
    }


@pytest.fixture(scope="module")
def context(browser, browser_context_args):
    """One browser profile a file: a new one for each test would compile every script again."""
    context = browser.new_context(**browser_context_args)
    yield context
    context.close()


@pytest.fixture
def page(context):
    """A tab of its own, with nothing kept in the browser."""
    page = context.new_page()
    page.add_init_script("if (!sessionStorage.begun) { localStorage.clear(); sessionStorage.begun = 1; }")
    yield page
    page.close()


@pytest.fixture
def page_with_clock(browser, browser_context_args):
    """A tab in a profile of its own whose time the test moves."""
    page = browser.new_context(**browser_context_args).new_page()
    yield page
    page.context.close()


COME_BACK = "window.dispatchEvent(new Event('visibilitychange'))"


def come_back_later(page: Page) -> None:
    """The tab comes back after two minutes, reads what it shows again, and gives up after its four tries."""
    page.clock.fast_forward(120_000)
    page.evaluate(COME_BACK)
    for _ in range(4):
        page.wait_for_timeout(60)
        page.clock.fast_forward(10_000)


class Nursery:
    """Forks servers from one process that has loaded the application."""

    def __init__(self, folder: Path) -> None:
        copy_demo(folder)
        command = [sys.executable, str(ROOT / "tests" / "support" / "nursery.py")]
        self.process = subprocess.Popen(
            command, env=environment(folder), stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True
        )

    def fork(self, database: Path, port: int, max_pages: str, is_demo: bool, is_copy: bool) -> int:
        assert self.process.stdin is not None
        assert self.process.stdout is not None
        order = {"database": str(database), "port": port, "max_pages": max_pages, "is_demo": is_demo, "is_copy": is_copy}
        self.process.stdin.write(json.dumps(order) + "\n")
        self.process.stdin.flush()
        return int(self.process.stdout.readline())


class Server:
    """A server process that a test may kill and start again."""

    def __init__(self, folder: Path, nursery: Nursery) -> None:
        self.folder, self.nursery = folder, nursery
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        self.url = f"http://127.0.0.1:{self.port}"
        self.env = environment(folder)
        self.pid: int | None = None
        self.is_demo = True  # signs its coach in by itself
        self.is_copy = False  # begins as a copy of the demo centre

    def manage(self, *args: str) -> None:
        subprocess.run([sys.executable, str(ROOT / "manage.py"), *args], env=self.env, check=True, stdout=subprocess.DEVNULL)

    def output(self, *args: str) -> str:
        command = [sys.executable, str(ROOT / "manage.py"), *args]
        return subprocess.run(command, env=self.env, check=True, capture_output=True, text=True).stdout

    def start(self) -> None:
        self.pid = self.nursery.fork(
            self.folder / "test.sqlite3", self.port, self.env.get("JARVOK_MAX_PAGES", ""), self.is_demo, self.is_copy
        )
        for _ in range(400):
            try:
                urllib.request.urlopen(f"{self.url}/api/me", timeout=2).read()
                return
            except OSError:
                time.sleep(0.05)
        raise RuntimeError("the server did not start")

    def kill(self) -> None:
        assert self.pid is not None
        with suppress(ProcessLookupError):  # a test may have killed it already
            os.kill(self.pid, signal.SIGKILL)
        while Path(f"/proc/{self.pid}").exists():
            time.sleep(0.01)


@pytest.fixture(scope="session")
def nursery(tmp_path_factory) -> Iterator[Nursery]:
    nursery = Nursery(tmp_path_factory.mktemp("nursery"))
    yield nursery
    nursery.process.kill()


def demo_server(tmp_path_factory, nursery: Nursery) -> Server:
    """A server on a copy of its own of the small demo centre."""
    server = Server(folder := tmp_path_factory.mktemp("jarvok"), nursery)
    copy_demo(folder)
    server.is_copy = True
    server.start()
    server.is_copy = False  # what it has by the next start it has of its own
    return server


@pytest.fixture(scope="module")
def server(tmp_path_factory, nursery: Nursery) -> Iterator[Server]:
    server = demo_server(tmp_path_factory, nursery)
    yield server
    server.kill()


@pytest.fixture(autouse=True)
def same_beginning(request) -> None:
    """A test that is run once more begins where it began: what its first run stored is gone."""
    if "server" not in request.fixturenames:
        return
    server: Server = request.getfixturevalue("server")
    running, kept = server.folder / "test.sqlite3", server.folder / "before.sqlite3"
    if getattr(request.node, "execution_count", 1) == 1:
        with closing(sqlite3.connect(running)) as now, closing(sqlite3.connect(kept)) as before:
            now.backup(before)
        return
    server.kill()
    with closing(sqlite3.connect(running)) as now, closing(sqlite3.connect(kept)) as before:
        before.backup(now)
    server.start()


def pytest_terminal_summary(terminalreporter) -> None:
    """Why a test had to be run once more is said, whether or not it passed then."""
    for report in terminalreporter.stats.get("rerun", []):
        terminalreporter.section(f"first run of {report.nodeid}")
        terminalreporter.write_line(str(report.longrepr)[-3000:])


@pytest.fixture
def problems(page) -> Iterator[list[str]]:
    """What the page's console complained of; a failed answer the test asked for is not a complaint."""
    seen: list[str] = []
    page.on("pageerror", lambda error: seen.append(str(error)))
    page.on("console", lambda m: seen.append(m.text) if m.type == "error" and "Failed to load resource" not in m.text else None)
    yield seen
    assert seen == []


@pytest.fixture
def newcomer(server, page: Page, request) -> int:
    """An athlete and a season made by hand; the day is that of the server."""
    name = f"Sanna New{len(request.node.name)}"
    page.goto(f"{server.url}/athletes")
    page.get_by_role("button", name="Add an athlete").click()
    page.get_by_label("Name", exact=True).fill(name)
    page.get_by_label("Squad", exact=True).fill(f"Court of {name}")
    page.get_by_label("Sport of the new squad").fill("handball")
    page.get_by_role("button", name="Add and plan").click()
    expect(page.get_by_role("heading", name=f"{name}: no season yet")).to_be_visible()
    form = page.get_by_role("form", name="A block of weeks")
    form.get_by_role("button", name="Plan the block").click()
    expect(page.get_by_role("heading", name=re.compile("^Block 1"))).to_be_visible()
    found = re.search(r"/athletes/(\d+)/", page.url)
    assert found
    return int(found[1])
