"""A page that has been read stays, with what is typed in it, when it cannot be read again."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from .conftest import come_back_later

GONE = '{"title": "There is no such athlete."}'


@pytest.fixture
def athlete(server, page: Page) -> int:
    page.goto(f"{server.url}/athletes")
    found = re.search(r"/athletes/(\d+)", page.get_by_role("link", name="Perrin Aldous").first.get_attribute("href") or "")
    assert found
    return int(found[1])


def test_a_page_says_since_when_it_stands_and_is_read_again_when_asked(server, page_with_clock: Page, athlete: int) -> None:
    page = page_with_clock
    page.clock.install()
    page.goto(f"{server.url}/athletes/{athlete}/season")
    page.get_by_role("button", name="Add a competition").click()
    page.get_by_label("Competition", exact=True).fill("Harbour Cup")
    said = page.get_by_text(re.compile("^Could not be read again, as it stood"))
    expect(said).to_have_count(0)
    page.route("**/api/athletes/**", lambda road: road.fulfill(status=500, content_type="application/problem+json", body="{}"))
    come_back_later(page)
    expect(said).to_be_visible()
    expect(page.get_by_label("Competition", exact=True)).to_have_value("Harbour Cup")
    page.unroute("**/api/athletes/**")
    page.get_by_role("button", name="Read again").click()
    expect(said).to_have_count(0)
    expect(page.get_by_label("Competition", exact=True)).to_have_value("Harbour Cup")


def test_what_may_not_be_seen_any_more_goes(server, page_with_clock: Page, athlete: int) -> None:
    page = page_with_clock
    page.clock.install()
    page.goto(f"{server.url}/athletes/{athlete}/season")
    expect(page.get_by_role("button", name="Add a competition")).to_be_visible()
    page.route(
        f"**/api/athletes/{athlete}/season",
        lambda road: road.fulfill(
            status=404, content_type="application/problem+json", body='{"title": "There is no such athlete."}'
        ),
    )
    come_back_later(page)
    expect(page.get_by_role("alert")).to_contain_text("There is no such athlete.")
    expect(page.get_by_role("button", name="Add a competition")).to_have_count(0)
