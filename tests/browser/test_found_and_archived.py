"""Anything is found by one key; an athlete leaves, comes back, and is erased when they ask for it."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect
from support.axe import check_axe


def test_1_found_by_one_key_and_opened(server, page: Page, newcomer: int, problems) -> None:
    page.goto(server.url)
    expect(page.get_by_role("heading", level=1)).to_be_visible()
    page.keyboard.press("f")
    typed = page.get_by_role("combobox", name="Find anything")
    expect(typed).to_be_focused()
    typed.fill("sanna season")
    expect(page.get_by_role("option", name=re.compile("Sanna New"))).to_be_visible()
    check_axe(page)
    typed.press("Enter")
    expect(page).to_have_url(re.compile(f"/athletes/{newcomer}/season"))
    expect(typed).to_have_count(0)
    page.keyboard.press("f")
    typed.fill("sanna tomorrow")
    expect(page.get_by_role("option", name=re.compile("week of"))).to_be_visible()
    typed.fill("zzz")
    expect(page.get_by_text("Nothing is called “zzz”.")).to_be_visible()
    typed.press("Escape")
    expect(typed).to_have_count(0)


def test_2_an_athlete_leaves_comes_back_and_is_erased(server, page: Page, newcomer: int) -> None:
    page.goto(f"{server.url}/athletes/{newcomer}/record")
    name = page.get_by_role("heading", level=1).inner_text()
    page.get_by_role("button", name=f"Archive {name}").click()
    gone = page.get_by_role("region", name="Archived athletes")
    expect(gone.get_by_role("link", name=name)).to_be_visible()
    check_axe(page)
    page.goto(f"{server.url}/athletes")
    expect(page.get_by_role("link", name="Noor Vasko")).to_be_visible()
    expect(page.get_by_role("link", name=name)).to_have_count(0)
    page.goto(f"{server.url}/squads")
    gone.get_by_role("button", name=f"Bring back {name}").click()
    expect(gone).to_have_count(0)
    page.goto(f"{server.url}/athletes/{newcomer}/record")
    page.get_by_role("button", name=f"Archive {name}").click()
    gone.get_by_role("button", name=f"Erase … {name}").click()
    form = page.get_by_role("form", name=f"Erase {name}")
    erase = form.get_by_role("button", name="Erase for good")
    form.get_by_role("textbox").fill("Somebody else")
    expect(erase).to_be_disabled()
    form.get_by_role("textbox").fill(name)
    check_axe(page)
    erase.click()
    expect(gone).to_have_count(0)
    page.goto(f"{server.url}/athletes/{newcomer}")
    expect(page.get_by_text("That athlete is not here.")).to_be_visible()


def test_3_a_squad_of_somebody_new_is_called_otherwise(server, page: Page, newcomer: int) -> None:
    page.goto(f"{server.url}/squads")
    row = page.get_by_role("row", name=re.compile("^Court of Sanna")).last
    row.get_by_role("button", name=re.compile("^Rename")).click()
    form = page.get_by_role("form", name=re.compile("^Rename Court of"))
    form.get_by_label("Name of the squad").fill("Second court")
    form.get_by_role("button", name="Save").click()
    expect(page.get_by_role("cell", name="Second court", exact=True)).to_be_visible()
    page.goto(f"{server.url}/athletes")
    expect(page.get_by_text("Second court")).to_be_visible()
