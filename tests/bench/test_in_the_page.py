"""What a hand at the page waits for: a session moved, a boundary of the season pushed, until the page has drawn the answer.

The bound beside each is the same page asking the server for nothing but the time.
"""

from __future__ import annotations

import re
import socket
import statistics
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, sync_playwright
from support.browser import CHROMIUM
from support.demo_file import ROOT, copy_demo, environment

TIMES, BETWEEN_MS = 15, 300
WHO = "Perrin Aldous"

# acts `TIMES` times, each time waiting until `root` has changed by the answer and the frame after it is drawn
MEASURE = """async ([root, act, times, between]) => {
  const drawn = () => new Promise((done) => requestAnimationFrame(() => setTimeout(done)));
  const taken = [];
  for (let i = 0; i < times; i += 1) {
    const [element, before] = [document.querySelector(root), window.answers];
    const changed = new Promise((done) => {
      const watch = new MutationObserver(() => {
        if (window.answers === before) return;
        watch.disconnect();
        done();
      });
      watch.observe(element, { subtree: true, childList: true, characterData: true, attributes: true });
    });
    const began = performance.now();
    ACTS[act](i);
    await changed;
    await drawn();
    const drawnAt = performance.now() - began;
    const asked = performance.getEntriesByType('resource').filter((e) => e.name.includes('/api/') && e.startTime >= began)[0];
    taken.push([drawnAt, asked.responseEnd - asked.requestStart]);
    await new Promise((done) => setTimeout(done, between));
  }
  return taken;
}"""
ACTS = """
const ask = window.fetch;
window.answers = 0;
window.fetch = async (...asked) => {
  const answer = await ask(...asked);
  window.answers += 1;
  return answer;
};
window.ACTS = {
  move: (i) => {
    const select = [...document.querySelectorAll('select')].find((s) => s.ariaLabel?.startsWith('Move Day'));
    const days = [...select.options].map((o) => o.value).filter((v) => v.startsWith('|'));
    Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set.call(select, days[i % 2]);
    select.dispatchEvent(new Event('change', { bubbles: true }));
  },
  push: (i) => {
    const edge = [...document.querySelectorAll('[role=slider]')].find((e) => e.ariaLabel?.startsWith('Boundary of'));
    edge.dispatchEvent(new KeyboardEvent('keydown', { key: i % 2 ? 'ArrowRight' : 'ArrowLeft', bubbles: true }));
  },
};
"""
TIME_ALONE = """async (times) => {
  const taken = [];
  for (let i = 0; i < times; i += 1) {
    const began = performance.now();
    await (await fetch('/api/now')).json();
    taken.push(performance.now() - began);
    await new Promise((done) => setTimeout(done, 50));
  }
  return taken;
}"""


@pytest.fixture(scope="module")
def address(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """A server as it is started for work, on the demo centre."""
    copy_demo(folder := tmp_path_factory.mktemp("in_the_page"))
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    command = [sys.executable, "-m", "uvicorn", "jarvok.app.asgi:application", "--port", str(port), "--lifespan", "off"]
    quiet = ["--no-access-log", "--log-level", "warning"]
    server = subprocess.Popen([*command, *quiet], env=environment(Path(folder)), cwd=ROOT)
    for _ in range(400):
        try:
            urllib.request.urlopen(f"http://127.0.0.1:{port}/api/me", timeout=2).read()
            break
        except OSError:
            time.sleep(0.05)
    yield f"http://127.0.0.1:{port}"
    server.kill()
    server.wait()


@pytest.fixture(scope="module")
def page(address: str) -> Iterator[Page]:
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path=CHROMIUM, args=["--no-sandbox", "--disable-gpu"])
        context = browser.new_context(viewport={"width": 1280, "height": 800}, service_workers="block", bypass_csp=True)
        context.add_init_script(ACTS)
        yield context.new_page()
        browser.close()


def athlete_at(page: Page, address: str) -> str:
    page.goto(f"{address}/athletes")
    page.get_by_role("link", name=WHO).first.click()
    found = re.search(r"/athletes/(\d+)", page.url)
    assert found
    return f"{address}/athletes/{found[1]}"


def said(what: str, page: Page, taken: list[tuple[float, float]]) -> None:
    alone = statistics.median(page.evaluate(TIME_ALONE, TIMES))
    drawn, asked = zip(*taken, strict=True)
    middle, server = statistics.median(drawn), statistics.median(asked)
    print(
        f"\n{what}: median {middle:.0f} ms (the request {server:.0f}), best {min(drawn):.0f}, worst {max(drawn):.0f} "
        f"· the time alone {alone:.0f} ms"
    )


def test_a_session_moved(page: Page, address: str) -> None:
    page.goto(f"{athlete_at(page, address)}/week")
    page.get_by_role("navigation", name=re.compile("^Days to ")).wait_for()
    page.wait_for_timeout(1500)
    said("a session moved, drawn", page, page.evaluate(MEASURE, [".week", "move", TIMES, BETWEEN_MS]))


def test_a_boundary_pushed(page: Page, address: str) -> None:
    page.goto(f"{athlete_at(page, address)}/season")
    page.get_by_role("slider").first.wait_for()
    page.wait_for_timeout(1500)
    said("a boundary of the season pushed, drawn", page, page.evaluate(MEASURE, ["main", "push", TIMES, BETWEEN_MS]))
