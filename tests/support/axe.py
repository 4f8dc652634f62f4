"""axe-core in the page: nothing may be found."""

from __future__ import annotations

from pathlib import Path

from playwright.sync_api import Page

from support.waiting import until

AXE = Path(__file__).resolve().parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js"


def check_axe(page: Page) -> None:
    until(page, "!document.querySelector('[aria-busy=true]')")
    if not page.evaluate("window.axe !== undefined"):
        page.evaluate(AXE.read_text("utf-8"))
    found = page.evaluate(
        "axe.run({resultTypes: ['violations']})"
        ".then(r => r.violations.map(v => v.id + ': ' + v.nodes.map(n => n.target).join(' | ')))"
    )
    assert found == [], f"{page.url}: {found}"
