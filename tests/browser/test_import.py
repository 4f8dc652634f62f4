"""A table from elsewhere: its columns are said by hand, its rows taken in, and all of it taken back."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect
from support.axe import check_axe

TABLE = (
    "Who\tcourt\tBig one\tborn\trestriction\n"
    "Ada Paper\tbacks\t225\t2/28/2003\toverhead, left shoulder, by Dr Aas\n"
    "Bo Paper\tpivots\t205 x 3\t2/13/2002\tsore\n"
)


def test_a_table_of_foreign_headings_comes_in_and_goes_again(server, page: Page) -> None:
    page.goto(f"{server.url}/athletes/import")
    page.get_by_label("Table", exact=True).fill(TABLE)
    page.get_by_label("Squad of rows that name none").fill("Paper squad")
    page.get_by_label("Days with the month first").check()
    page.get_by_role("button", name="Read it").click()
    expect(page.get_by_role("heading", name="0 rows are fine, 2 have a problem")).to_be_visible()
    expect(page.get_by_text("Columns: 2 of 5 understood")).to_be_visible()
    check_axe(page)
    page.get_by_label(re.compile("^Who")).select_option(label="name")
    expect(page.get_by_text("Columns: 3 of 5 understood")).to_be_visible()
    page.get_by_label(re.compile("^Big one")).select_option(label="Back squat, lb")
    page.get_by_label(re.compile("^court")).select_option(label="group")
    expect(page.get_by_role("heading", name="1 row is fine, 1 has a problem")).to_be_visible()
    expect(page.get_by_role("row", name=re.compile("Bo Paper"))).to_contain_text("“sore” does not say who set it.")
    expect(page.get_by_role("row", name=re.compile("Ada Paper"))).to_contain_text("back squat 225 lb")
    page.get_by_role("button", name="Import 1, leave 1 out").click()
    expect(page.get_by_role("status").first).to_contain_text("1 added, 0 filled in, 1 left out. 1 result kept.")
    past = page.get_by_role("region", name="Tables taken in")
    check_axe(page)
    page.goto(f"{server.url}/athletes")
    expect(page.get_by_role("link", name="Ada Paper")).to_be_visible()
    page.goto(f"{server.url}/athletes/import")
    past.get_by_role("button", name="Undo: 1 added").first.click()
    expect(past.get_by_role("status")).to_contain_text("Taken back: 1 athlete, 1 result, 0 filled-in values.")
    expect(past.get_by_text("taken back", exact=True)).to_be_visible()
    page.goto(f"{server.url}/athletes")
    expect(page.get_by_role("link", name="Noor Vasko")).to_be_visible()
    expect(page.get_by_role("link", name="Ada Paper")).to_have_count(0)


def test_somebody_written_down_twice_becomes_one(server, page: Page, newcomer: int) -> None:
    page.goto(f"{server.url}/athletes/import")
    page.get_by_label("Table", exact=True).fill("name\tsquat\nSanna Twice\t95\n")
    page.get_by_label("Squad of rows that name none").fill("Twice squad")
    page.get_by_role("button", name="Read it").click()
    page.get_by_role("button", name="Import 1", exact=True).click()
    expect(page.get_by_role("status").first).to_contain_text("1 added")
    page.goto(f"{server.url}/athletes/{newcomer}/record")
    page.get_by_role("button", name="Written down twice").click()
    form = page.get_by_role("form", name=re.compile("^Somebody who is Sanna"))
    form.get_by_label("Written down twice: the same as").select_option(label="Sanna Twice")
    expect(form).to_contain_text("takes over 1 result, 0 sessions and 0 body masses; the plan stays as it is here")
    check_axe(page)
    merge = form.get_by_role("button", name="Merge")
    expect(merge).to_be_disabled()
    form.get_by_label("Type “Sanna Twice” to go on").fill("Sanna Twice")
    merge.click()
    expect(form).to_have_count(0)
    page.get_by_role("link", name="Maxes and results").click()
    expect(page.get_by_role("cell", name="95 kg").first).to_be_visible()
    page.goto(f"{server.url}/athletes")
    expect(page.get_by_role("link", name="Noor Vasko")).to_be_visible()
    expect(page.get_by_role("link", name="Sanna Twice")).to_have_count(0)


def test_an_athlete_goes_to_another_squad_on_a_day(server, page: Page, newcomer: int) -> None:
    page.goto(f"{server.url}/athletes/{newcomer}/record")
    squad = page.get_by_role("region", name="Squad")
    form = squad.get_by_role("form", name="Move to another squad")
    form.get_by_label("Move to").select_option(label="Kittiwake Sound handball")
    form.get_by_label("from").fill("2026-12-20")
    form.get_by_role("button", name="Move").click()
    expect(squad).to_contain_text("Goes to Kittiwake Sound handball on 20 Dec 2026, by itself.")
    check_axe(page)
    squad.get_by_role("button", name="Take back").click()
    expect(squad.get_by_text("by itself.")).to_have_count(0)
    form.get_by_label("Move to").select_option(label="Kittiwake Sound handball")
    form.get_by_role("button", name="Move").click()
    expect(squad).to_contain_text("Kittiwake Sound handball · since")
