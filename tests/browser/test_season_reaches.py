"""By the interface alone: an athlete made here, a block, an event as a line, a squad given a competition in one step."""

import re

import pytest
from playwright.sync_api import Page, expect
from support.axe import check_axe


@pytest.fixture
def noor(server, page: Page) -> int:
    page.goto(server.url)
    people = page.evaluate("fetch('/api/names').then(r => r.json())")
    return next(a["id"] for s in people for a in s["athletes"] if a["name"] == "Noor Vasko")


def test_an_athlete_is_made_given_a_block_worked_on_by_hand_and_taken_back(server, page: Page) -> None:
    page.goto(f"{server.url}/athletes")
    page.get_by_role("button", name="Add an athlete").click()
    page.get_by_label("Name", exact=True).fill("Ebba Newcome")
    page.get_by_label("Squad", exact=True).fill("Skerry throwers")
    page.get_by_label("Sport of the new squad").fill("strength")
    check_axe(page)
    page.get_by_role("button", name="Add and plan").click()
    expect(page.get_by_role("heading", name="Ebba Newcome: no season yet")).to_be_visible()
    form = page.get_by_role("form", name="A block of weeks")
    check_axe(page)
    form.get_by_label("Last week is a test week").check()
    form.get_by_role("button", name="Plan the block").click()
    expect(page.get_by_role("heading", name=re.compile("^Block 1"))).to_be_visible()
    expect(page.get_by_text("a block of weeks by")).to_be_visible()
    check_axe(page)
    page.get_by_label("One week by hand").last.select_option(index=2)
    page.get_by_label("Volume, % of a full week").fill("40")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_text(re.compile("volume 40 %"))).to_be_visible()
    undo = page.get_by_role("group", name="Undo and redo")
    undo.get_by_role("button", name="Undo").click()
    expect(undo.get_by_role("button", name="Redo")).to_be_visible()
    undo.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("heading", name=re.compile("no season yet"))).to_be_visible()
    page.get_by_role("button", name="Redo").click()
    expect(page.get_by_role("heading", name=re.compile("^Block 1"))).to_be_visible()
    page.get_by_role("button", name="Take out: Block 1").click()
    expect(page.get_by_role("heading", name=re.compile("no season yet"))).to_be_visible()


def test_an_event_is_a_line_of_the_week_on_its_day(server, page: Page, noor: int) -> None:
    page.goto(f"{server.url}/athletes/{noor}/contest")
    page.get_by_role("button", name="Add an event").click()
    page.get_by_label("Event", exact=True).last.select_option(label="Timed or repetition event")
    page.get_by_label("Name", exact=True).last.fill("Press for a minute")
    picker = page.get_by_role("combobox", name=re.compile("^Exercise of event")).last
    picker.fill("push press")
    expect(page.locator(".picker [role=option]").first).to_be_visible()
    picker.press("Enter")
    for label, value in (("Competition load, kg", "40"), ("Repetitions", "15"), ("Time, s", "60")):
        page.get_by_label(label).last.fill(value)
    page.get_by_role("button", name="Count back from the day").click()
    line = page.get_by_role("link", name="Push press 1 × 15 @ 40 kg")
    expect(line).to_be_visible()
    check_axe(page)
    line.click()
    expect(page.locator("article.session-card li", has_text="Push press")).to_contain_text("1 × 15 @ 40 kg")
    page.goto(f"{server.url}/athletes/{noor}/season")
    page.get_by_role("group", name="Undo and redo").get_by_role("button", name="Undo").first.click()
    expect(page.get_by_role("img", name=re.compile("Press for a minute"))).to_have_count(0)


def test_a_squad_gets_a_competition_and_gives_it_back_in_one_step(server, page: Page) -> None:
    page.goto(f"{server.url}/athletes")
    page.get_by_role("link", name="season", exact=True).first.click()
    expect(page.get_by_role("heading", name=re.compile("^Season of "))).to_be_visible()
    check_axe(page)
    page.get_by_role("button", name="Add a competition for the squad").click()
    page.get_by_label("Competition", exact=True).fill("Reach Cup")
    page.get_by_label("Day", exact=True).fill("2027-06-05")
    page.get_by_role("button", name=re.compile("^(Build the season|Add it|Add the competition)")).click()
    row = page.get_by_role("row", name=re.compile("^Reach Cup"))
    expect(row).to_contain_text(re.compile(r"all \d+"))
    page.get_by_label("Day of Reach Cup").fill("2027-06-12")
    page.get_by_role("button", name="Move it for all: Reach Cup").click()
    undo = page.get_by_role("button", name=re.compile(r"^Undo for all \d+"))
    expect(page.get_by_text(re.compile("Reach Cup moved from 5 Jun to 12 Jun")).first).to_be_visible()
    undo.click()
    expect(page.get_by_text(re.compile("Reach Cup on 5 Jun added")).first).to_be_visible()
    undo.click()
    expect(row).to_have_count(0)
    expect(page.get_by_role("button", name=re.compile("^Redo for all"))).to_be_visible()
