"""Two people have one session open: each sees what the other does, and neither writes over it unseen."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect
from support.axe import check_axe


@pytest.fixture
def pair(server, page: Page, context, newcomer: int):
    """The same session open twice."""
    page.goto(f"{server.url}/athletes/{newcomer}/session")
    expect(page.get_by_role("button", name=re.compile(r"^A1: .*, change$"))).to_be_visible()
    other = context.new_page()
    other.goto(page.url)
    expect(other.get_by_role("button", name=re.compile(r"^A1: .*, change$"))).to_be_visible()
    yield page, other
    other.close()


def write(page: Page, text: str) -> None:
    page.get_by_role("button", name=re.compile(r"^A1: .*, change$")).click()
    typed = page.get_by_role("textbox", name=re.compile("^A1 .*sets, reps and load"))
    typed.fill(text)
    typed.press("Enter")


def line(page: Page, text: str):
    return page.get_by_role("button", name=f"A1: {text}, change")


def test_each_sees_what_the_other_does(pair) -> None:
    one, other = pair
    write(other, "2 × 4 @ 70 %")
    expect(line(other, "2 × 4 @ 70 %")).to_be_visible()
    expect(line(one, "2 × 4 @ 70 %")).to_be_visible(timeout=5000)
    write(one, "2 × 3 @ 75 %")  # it was seen, so it may be changed
    expect(line(one, "2 × 3 @ 75 %")).to_be_visible()


def test_who_was_typing_meanwhile_chooses(pair) -> None:
    one, other = pair
    one.get_by_role("button", name=re.compile(r"^A1: .*, change$")).click()
    typed = one.get_by_role("textbox", name=re.compile("^A1 .*sets, reps and load"))
    typed.fill("5 × 2 @ 82 %")
    write(other, "3 × 3 @ 77 %")
    expect(line(other, "3 × 3 @ 77 %")).to_be_visible()
    one.wait_for_timeout(1000)
    typed.press("Enter")
    asked = one.get_by_role("dialog", name="Changed by somebody else")
    expect(asked).to_contain_text(re.compile(r"changed this plan at \d\d:\d\d.*: A1 written as 3 × 3 @ 77 %"))
    check_axe(one)
    asked.get_by_role("button", name="Show theirs").click()
    expect(asked).to_have_count(0)
    expect(typed).to_be_enabled()
    expect(typed).to_have_value("5 × 2 @ 82 %")  # what was typed is still there
    expect(line(other, "3 × 3 @ 77 %")).to_be_visible()
    typed.press("Enter")
    expect(line(one, "5 × 2 @ 82 %")).to_be_visible()
    one.get_by_role("button", name=re.compile(r"^A1: .*, change$")).click()
    typed.fill("6 × 1 @ 85 %")
    write(other, "3 × 2 @ 80 %")
    expect(line(other, "3 × 2 @ 80 %")).to_be_visible()
    typed.press("Enter")
    asked.get_by_role("button", name="Save mine over it").click()
    expect(line(one, "6 × 1 @ 85 %")).to_be_visible()
    expect(line(other, "6 × 1 @ 85 %")).to_be_visible(timeout=5000)
