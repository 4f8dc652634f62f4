"""Known → planned, by the interface alone, for an athlete made here: a fault, a goal, a weaker side, and what is left out."""

import re

from playwright.sync_api import Page, expect
from support.axe import check_axe


def test_what_is_recorded_changes_the_sessions_ahead_and_says_so(server, page: Page, newcomer: int) -> None:
    page.goto(f"{server.url}/athletes/{newcomer}/record")
    changes = page.get_by_role("region", name="What this changes in the next two weeks")
    expect(changes).to_contain_text("Hamstrings, before they pull at speed")
    page.get_by_label("Lift", exact=True).select_option(label="Bench press")  # 1
    page.get_by_label("Fault", exact=True).select_option(label="Lockout of the press stalls")  # 2
    page.get_by_role("button", name="Add the fault").click()  # 3: and the changed line is seen
    mine = changes.locator(".wish", has_text="Works on: lockout of the press stalls (bench press)")
    expect(mine).to_contain_text("Close-grip bench press")
    page.get_by_label("Stronger grip").check()
    expect(changes.locator(".wish", has_text="Goal: stronger grip").first).to_contain_text(re.compile("Towel pull-up|hang|pinch"))
    check_axe(page)
    mine.get_by_role("link").first.click()
    sheet = page.get_by_role("main")
    expect(sheet).to_contain_text("Close-grip bench press")
    expect(sheet).to_contain_text("lockout of the press stalls")
    page.goto(f"{server.url}/athletes/{newcomer}/record")
    changes.get_by_role("button", name=re.compile("^Leave out: Works on: lockout")).click()
    expect(mine).to_contain_text("Left out by you.")
    expect(mine).not_to_contain_text("Close-grip")
    changes.get_by_role("button", name=re.compile("^Take in again: Works on: lockout")).click()
    expect(mine).to_contain_text("Close-grip bench press")
    page.get_by_role("button", name=re.compile("^Fixed: Lockout of the press stalls")).click()
    expect(mine).to_have_count(0)


def test_a_weaker_leg_does_its_first_set_twice(server, page: Page, newcomer: int) -> None:
    page.goto(f"{server.url}/athletes/{newcomer}")
    for side, height in (("right", "22"), ("left", "18")):
        add_jump(page, side, height)
    page.goto(f"{server.url}/athletes/{newcomer}/record")
    changes = page.get_by_role("region", name="What this changes in the next two weeks")
    mine = changes.locator(".wish", has_text="Left 18 % behind in the single-leg jump")
    expect(mine).to_contain_text("First set: left only")
    check_axe(page)


def add_jump(page: Page, side: str, height_cm: str) -> None:
    page.get_by_role("button", name="Add a result").click()
    form = page.get_by_role("form", name="Add a result")
    form.get_by_label("Kind", exact=True).select_option(value="jump")
    form.get_by_label("Lift", exact=True).select_option(value="single_leg_jump")
    form.get_by_label("Side").select_option(label=side)
    form.get_by_label("jump height, cm").fill(height_cm)
    form.get_by_role("button", name="Save").click()
    expect(form).to_have_count(0)
