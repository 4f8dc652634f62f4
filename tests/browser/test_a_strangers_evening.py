"""From an empty installation to a first session: centre, second coach, twelve lifters, kit, season; each step counted."""

from __future__ import annotations

import os
import re
import signal
from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, Locator, Page, expect
from support.axe import check_axe
from support.new_centre import free_port, started

MOST = 60
PASSWORD = "four words of a song"
KILOGRAM = re.compile(r"\d\s*kg\b")
NAMES = ("Ada", "Bea", "Cleo", "Dina", "Ella", "Fay", "Gro", "Hedda", "Ida", "June", "Kaja", "Liv")
TABLE = "name\tborn\tyears\tbw\tback squat\tbench press\tdeadlift\n" + "\n".join(
    f"{name} Strand\t{i % 12 + 1}/28/2000\t4\t{135 + 3 * i}\t{205 + 5 * i}\t{105 + 5 * i}\t{255 + 5 * i}"
    for i, name in enumerate(NAMES)
)


@pytest.fixture
def empty(tmp_path_factory) -> Iterator[str]:
    folder, port = tmp_path_factory.mktemp("evening"), free_port()
    process = started(folder, port)
    yield f"http://127.0.0.1:{port}"
    os.killpg(process.pid, signal.SIGKILL)


class Stranger:
    """A slow hand: a click, a choice or a filled field is one interaction."""

    def __init__(self) -> None:
        self.count = 0

    def click(self, what: Locator) -> None:
        what.click()
        self.count += 1

    def fill(self, what: Locator, text: str) -> None:
        what.fill(text)
        self.count += 1

    def choose(self, what: Locator, label: str) -> None:
        what.select_option(label=label)
        self.count += 1


def test_from_nothing_to_a_first_session_in_sixty_interactions(empty: str, page: Page, browser: Browser) -> None:
    me = Stranger()
    page.goto(empty)
    me.fill(page.get_by_label("Name of the centre"), "Skerry Hall")
    me.choose(page.get_by_label("Units"), "pounds")
    me.choose(page.get_by_label("Dates"), "Nov 4, 2026")
    me.fill(page.get_by_label("Your name"), "Ingrid Aas")
    me.fill(page.get_by_label("Name to sign in with"), "ingrid")
    me.fill(page.get_by_label("Password"), PASSWORD)
    check_axe(page)
    me.click(page.get_by_role("button", name="Begin", exact=True))

    me.click(page.get_by_role("link", name="Add or import athletes"))
    me.click(page.get_by_role("link", name=re.compile("^Import")))
    me.fill(page.get_by_label("Table", exact=True), TABLE)
    me.fill(page.get_by_label("Squad of rows that name none"), "First squad")
    expect(page.get_by_label("Days with the month first (2/28/2003)")).to_be_checked()  # as the centre writes them
    me.click(page.get_by_role("button", name="Read it"))
    expect(page.get_by_text(re.compile("205 lb")).first).to_be_visible()
    me.click(page.get_by_role("button", name="Import 12", exact=True))
    expect(page.get_by_role("status")).to_contain_text("12 added")
    expect(page.get_by_role("status")).to_contain_text("36 results kept")

    me.click(page.get_by_role("link", name="Settings", exact=True))
    me.click(page.get_by_role("link", name="People", exact=True))
    me.click(page.get_by_role("button", name="Ask somebody in"))
    form = page.get_by_role("form", name="Ask somebody in")
    me.choose(form.get_by_label("Role"), "Coach")
    me.fill(form.get_by_label("Name"), "Odd Lie")
    me.click(page.get_by_role("button", name="Make the link"))
    link = page.get_by_role("textbox", name=re.compile("^Link for "))
    expect(link).to_have_value(re.compile("/welcome/"))
    theirs = browser.new_context().new_page()
    theirs.goto(link.input_value())
    me.fill(theirs.get_by_label("Name to sign in with"), "odd")
    me.fill(theirs.get_by_label("Password", exact=True), PASSWORD)
    me.click(theirs.get_by_role("button", name="Sign in"))
    expect(theirs.get_by_role("link", name="Week", exact=True)).to_be_visible()
    theirs.context.close()

    me.click(page.get_by_role("link", name="Kits", exact=True))
    me.click(page.get_by_role("button", name="Add a kit"))
    expect(page.get_by_label("Plates in")).to_have_value("lb")
    me.fill(page.get_by_label("Name", exact=True), "Main hall")
    me.click(page.get_by_role("button", name="Save the kit"))
    expect(page.get_by_role("button", name="Change Main hall")).to_be_visible()

    me.click(page.get_by_role("link", name="Athletes", exact=True))
    me.click(page.get_by_role("link", name="season", exact=True))
    me.click(page.get_by_role("button", name=re.compile("^Add a competition|^Give the squad a competition|^Add one")))
    me.fill(page.get_by_label("Competition", exact=True), "Harbour Cup")
    me.fill(page.get_by_label("Day", exact=True), page.evaluate("new Date(Date.now() + 70 * 864e5).toISOString().slice(0, 10)"))
    me.click(page.get_by_role("button", name=re.compile("^(Build the season|Add it|Add for all|Give it)")))
    expect(page.get_by_role("row", name=re.compile("^Harbour Cup"))).to_contain_text("all 12")

    me.click(page.get_by_role("link", name="Week", exact=True))
    session = page.locator(".day-card a, .day a").filter(has_text=re.compile("^Day 1")).first
    expect(page.get_by_role("main")).not_to_contain_text(KILOGRAM)
    me.click(session)
    expect(page.get_by_role("main")).not_to_contain_text(KILOGRAM)
    expect(page.get_by_role("main")).to_contain_text("lb, set by set")
    me.click(page.get_by_role("button", name=re.compile("^Start session")))
    page.wait_for_url("**/floor/*")
    expect(page.get_by_role("button", name=re.compile("^Done as written"))).to_be_visible()
    expect(page.get_by_role("main")).not_to_contain_text(KILOGRAM)
    check_axe(page)
    print(f"a stranger's evening: {me.count} interactions")
    assert me.count <= MOST
