"""The first page: who trains together, the way to the room, and who has come meanwhile."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect
from support.axe import check_axe


def test_a_room_is_opened_and_arrivals_come_by_themselves(server, page: Page, context) -> None:
    page.goto(server.url)
    today = page.get_by_role("list", name="Training today")
    row = today.get_by_role("listitem").filter(has_text="Kittiwake Sound wrestling").first
    expect(row).to_contain_text("not open yet")
    expect(row.get_by_role("link", name=re.compile("Noor Vasko.*not here yet"))).to_be_visible()
    expect(page.get_by_role("region", name="Competitions ahead").get_by_role("link", name="Gannet Sound Open")).to_be_visible()
    expect(page.get_by_role("complementary", name="What needs a decision")).to_contain_text("Ilka Brandvold")
    check_axe(page)
    row.get_by_role("button", name="Open arrival").click()
    expect(page).to_have_url(re.compile(r"/room/\d+$"))
    expect(page.get_by_role("button", name="Noor Vasko not here")).to_be_visible()
    other = context.new_page()
    other.goto(server.url)
    row = (
        other.get_by_role("list", name="Training today")
        .get_by_role("listitem")
        .filter(has_text="Kittiwake Sound wrestling")
        .first
    )
    expect(row.get_by_role("link", name="To the floor")).to_be_visible()
    expect(row).to_contain_text("0 of 7 here")
    page.get_by_role("button", name="Noor Vasko not here").click()
    expect(row.get_by_role("link", name=re.compile("Noor Vasko ?, here"))).to_be_visible()
    expect(row).to_contain_text("1 of 7 here")
    check_axe(other)
    other.set_viewport_size({"width": 390, "height": 844})
    assert other.evaluate("document.documentElement.scrollWidth") <= 390
    other.close()


def test_a_proposal_is_answered_on_the_first_page(server, page: Page) -> None:
    page.goto(server.url)
    waits = page.get_by_role("complementary", name="What needs a decision")
    asked = waits.locator(".note", has_text="raise from").first
    who = asked.locator("b").inner_text()
    what = asked.inner_text().splitlines()[0]
    asked.get_by_text("What it may be").click()
    expect(asked.get_by_role("list")).to_contain_text("Fast progress")
    asked.get_by_role("button", name="Refuse it").click()
    expect(waits.locator(".note", has_text=what)).to_have_count(0)
    assert who
