"""Every page fits where it stands, and stays when it cannot be read again.

On a phone and a tablet nothing widens the page, and no choice is cut; a page whose readings fail is not taken away.
"""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from .conftest import come_back_later

WIDTHS = (390, 820)
WHOSE = {
    "an athlete": ("{a}", "{a}/standing", "{a}/tests", "{a}/trials", "{a}/record"),
    "what an athlete will do": ("{a}/season", "{a}/tapers", "{a}/contest", "{a}/calendar", "{a}/week", "learning/athlete/{n}"),
    "a squad": (
        "squads/1/season",
        "squads/1/week",
        "squads/1/calendar",
        "squads/1/test-day",
        "learning/squad/1",
        "report/squad/1",
    ),
    "the centre": ("", "athletes", "athletes/import", "squads", "calendar", "history", "library", "templates"),
    "what a centre has": ("arrangements", "settings", "people", "data", "shorthand", "sensors", "floor"),
}
# what stands wider than the page, and lists whose choice is cut
LOOK = """() => {
  const doc = document.documentElement;
  const found = doc.scrollWidth > doc.clientWidth ? [`page ${doc.scrollWidth} of ${doc.clientWidth}`] : [];
  const canvas = document.createElement('canvas').getContext('2d');
  for (const list of document.querySelectorAll('main select')) {
    if (!list.offsetParent || !list.selectedOptions.length) continue;
    const style = getComputedStyle(list);
    canvas.font = style.font;
    const room = list.clientWidth - parseFloat(style.paddingLeft) - parseFloat(style.paddingRight);
    const words = list.selectedOptions[0].innerText.trim();
    if (!list.id.startsWith('narrow') && words.length < 24 && canvas.measureText(words).width > room + 1) {
      found.push(`cut: ${words}`);
    }
  }
  return found;
}"""


@pytest.mark.parametrize("whose", list(WHOSE))
def test_no_page_is_wider_than_its_window_no_choice_is_cut_and_none_goes(server, page_with_clock: Page, whose: str) -> None:
    page = page_with_clock
    page.clock.install()
    page.goto(f"{server.url}/athletes")
    link = page.get_by_role("link", name="Perrin Aldous").first
    athlete = re.search(r"athletes/(\d+)", link.get_attribute("href") or "")
    assert athlete
    paths = [x.format(a=athlete[0], n=athlete[1]) for x in WHOSE[whose]]
    wrong: list[str] = []
    for path in paths:
        page.goto(f"{server.url}/{path}")
        for width in WIDTHS:
            page.set_viewport_size({"width": width, "height": 844})
            expect(page.get_by_role("main")).not_to_contain_text("Reading ")
            wrong += [f"/{path} at {width}: {x}" for x in page.evaluate(LOOK)]
        page.evaluate("document.querySelector('main :is(h1, h2)').dataset.kept = 'yes'")
        page.route("**/api/**", lambda road: road.abort())
        come_back_later(page)
        if page.locator("main [data-kept]").count() == 0 or page.get_by_role("alert").count() > 0:
            wrong.append(f"/{path} goes when it cannot be read again")
        page.unroute("**/api/**")
    assert not wrong, "\n".join(wrong)
