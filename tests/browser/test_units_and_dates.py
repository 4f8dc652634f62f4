"""Units and dates chosen under one's own name, and for a centre, and followed by what is typed and shown."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect
from support.axe import check_axe
from support.coach import Coach


def choose(page: Page, unit: str, dates: str) -> None:
    page.locator("#account").click()
    page.get_by_role("button", name="Units and dates …").click()
    form = page.get_by_role("form", name="Units and dates")
    form.get_by_label("Units").select_option(label=unit)
    form.get_by_label("Dates").select_option(label=dates)
    check_axe(page)
    form.get_by_role("button", name="Save").click()
    expect(form).to_have_count(0)


def test_what_i_type_and_read_at_the_desk_follows_me(server, page: Page) -> None:
    athlete = next(a["id"] for s in Coach(server.url).call("names") for a in s["athletes"] if a["name"] == "Noor Vasko")
    page.goto(f"{server.url}/athletes")
    expect(page.get_by_role("columnheader", name="mass, kg").first).to_be_visible()
    choose(page, "pounds", "Nov 4, 2026")
    expect(page.get_by_role("columnheader", name="mass, lb").first).to_be_visible()
    expect(page.get_by_role("columnheader", name="mass, kg")).to_have_count(0)
    expect(page.get_by_role("main")).to_contain_text(re.compile(r"(Nov|Dec|Jan) \d"))
    page.goto(f"{server.url}/athletes/{athlete}/record")
    page.get_by_label("Body mass, lb").fill("137,5")
    page.get_by_role("button", name="Save body mass").click()
    expect(page.get_by_text("137.5 lb")).to_be_visible()
    page.goto(f"{server.url}/athletes/{athlete}")
    expect(page.get_by_role("main")).to_contain_text("137.5 lb on Nov 24")
    check_axe(page)
    choose(page, "as the centre", "as the centre")
    expect(page.get_by_role("main")).to_contain_text("62.37 kg on 24 Nov")


def test_a_centre_in_pounds_is_one_for_athletes_without_a_kit(server, page: Page, newcomer: int) -> None:
    page.goto(f"{server.url}/settings")
    form = page.get_by_role("form", name="Units and dates")
    form.get_by_label("Units").select_option(label="pounds")
    form.get_by_role("button", name="Save").click()
    expect(form.get_by_role("button", name="Save")).to_be_disabled()
    check_axe(page)
    page.goto(f"{server.url}/athletes/{newcomer}")
    page.get_by_role("button", name="Add a result").click()
    expect(page.get_by_label("in", exact=True)).to_have_value("lb")
