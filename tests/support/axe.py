"""axe-core in the page: nothing may be found."""

from __future__ import annotations

from pathlib import Path

from playwright.sync_api import Page

from support.waiting import until

AXE = Path(__file__).resolve().parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js"


# nothing is said of a page that is still being read, before or after: another one was opened in this moment
LOOK = """async () => {
  const isRead = () => !document.querySelector('[aria-busy=true]');
  if (!isRead()) return null;
  const found = await axe.run({resultTypes: ['violations']});
  return isRead() ? found.violations.map(v => v.id + ': ' + v.nodes.map(n => n.target).join(' | ')) : null;
}"""
TRIES = 5


def check_axe(page: Page) -> None:
    found = None
    for _ in range(TRIES):
        until(page, "!document.querySelector('[aria-busy=true]')")
        if not page.evaluate("window.axe !== undefined"):
            page.evaluate(AXE.read_text("utf-8"))
        found = page.evaluate(LOOK)
        if found is not None:
            break
    assert found == [], f"{page.url}: {found}"
