"""Grip, rack and equipment by the interface alone: a mark that is not as usual counts after one tap, a line takes its own max."""

import re

from playwright.sync_api import Page, expect
from support.axe import check_axe

WHO = "Maren Tolliver"


def max_of(page: Page, lift: str) -> str:
    return page.get_by_role("row", name=re.compile(f"^{lift}")).first.inner_text()


def test_a_mark_under_other_conditions_is_not_compared_until_it_is_usual(server, page: Page) -> None:
    page.goto(f"{server.url}/athletes")
    page.get_by_role("link", name=WHO).click()
    expect(page.get_by_role("button", name="Add a result")).to_be_visible()
    before = max_of(page, "Front squat")
    page.get_by_role("button", name="Add a result").click()
    page.get_by_label("Kind").select_option(label="tested 1RM")
    page.get_by_label("Lift", exact=True).select_option(label="Front squat")
    page.get_by_label("Load", exact=True).fill("95")
    page.get_by_label("Rack position").select_option(label="arms crossed")
    page.get_by_role("button", name="Save", exact=True).click()
    mark = page.get_by_role("row", name=re.compile("95 kg, arms crossed"))
    expect(mark).to_contain_text("not as usual")
    check_axe(page)
    assert max_of(page, "Front squat") == before
    mark.get_by_role("button", name=re.compile("^it is usual")).click()
    expect(mark).not_to_contain_text("not as usual")
    expect(page.get_by_text("usually: arms crossed.")).to_be_visible()
    assert max_of(page, "Front squat") != before
    page.get_by_role("button", name="Follow the results again: Front squat").click()
    expect(mark).to_contain_text("not as usual")
    assert max_of(page, "Front squat") == before


def test_a_line_says_its_conditions_and_takes_its_load_from_marks_under_them(server, page: Page) -> None:
    page.goto(f"{server.url}/athletes")
    page.get_by_role("link", name=WHO).click()
    page.get_by_role("link", name="Week", exact=True).click()
    page.locator(".session-card a").last.click()
    more = page.get_by_role("button", name=re.compile("^A1 .*: more")).first
    more.click()
    page.get_by_role("button", name="Grip, rack, equipment …").click()
    form = page.get_by_role("form", name=re.compile("^Grip, rack and equipment"))
    form.get_by_label("Equipment").select_option(label="belt")
    check_axe(page)
    form.get_by_role("button", name="Save").click()
    expect(form).to_have_count(0)
    expect(page.get_by_text("belt", exact=True).first).to_be_visible()
    page.get_by_role("button", name=re.compile("^Set 1: .* show the working")).first.click()
    expect(page.locator(".working-panel")).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("button", name=re.compile("^Undo: grip, rack or equipment")).click()
    expect(page.get_by_text("belt", exact=True)).to_have_count(0)
