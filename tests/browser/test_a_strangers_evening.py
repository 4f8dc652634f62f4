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
from support.waiting import until

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


SEEN = """(() => {
    const style = getComputedStyle(document.activeElement);
    return style.outlineStyle !== 'none' || style.boxShadow !== 'none';
})()"""


class Keys:
    """Nothing but a keyboard: the tabulator from one thing to the next, letters, arrows, Enter and the space bar."""

    def __init__(self, page: Page) -> None:
        self.page, self.count = page, 0

    def press(self, key: str) -> None:
        self.page.keyboard.press(key)
        self.count += 1

    def to(self, what: Locator) -> None:
        """Go on with the tabulator until something has the focus, and is seen to have it."""
        expect(what).to_be_visible()
        for _ in range(120):
            if what.evaluate("e => e === document.activeElement"):
                until(self.page, SEEN, timeout_s=2)
                return
            self.press("Tab")
        raise AssertionError(f"the tabulator does not come to {what}")

    def write(self, what: Locator, text: str) -> None:
        self.to(what)
        self.page.keyboard.type(text)

    def enter(self, what: Locator) -> None:
        self.to(what)
        self.press("Enter")


def test_the_first_ten_minutes_by_the_keyboard_alone(empty: str, page: Page) -> None:
    page.goto(empty)
    expect(page.get_by_label("Name of the centre")).to_be_focused()
    keys = Keys(page)
    page.keyboard.type("Skerry Hall")
    keys.to(page.get_by_label("Units"))
    keys.press("p")  # the first choice that begins with it
    expect(page.get_by_label("Units")).to_have_value("lb")
    keys.write(page.get_by_label("Your name"), "Ingrid Aas")
    keys.write(page.get_by_label("Name to sign in with"), "ingrid")
    keys.write(page.get_by_label("Password"), PASSWORD)
    keys.press("Enter")
    keys.enter(page.get_by_role("link", name="Add or import athletes"))
    keys.enter(page.get_by_role("button", name="Add an athlete"))
    keys.write(page.get_by_label("Name", exact=True), "Marit Holt")
    keys.write(page.get_by_label("Squad", exact=True), "First squad")
    keys.write(page.get_by_label("Sport of the new squad"), "handball")
    keys.press("Enter")
    keys.enter(page.get_by_role("form", name="A block of weeks").get_by_role("button", name="Plan the block"))
    expect(page.get_by_role("heading", name=re.compile("^Block 1"))).to_be_visible()
    keys.enter(page.get_by_role("link", name="Week", exact=True))
    keys.enter(page.get_by_role("link", name=re.compile("^Day 1")).first)
    keys.enter(page.get_by_role("button", name=re.compile("^Start session")))
    page.wait_for_url("**/floor/*")
    place = page.locator(".step-place")
    before = place.inner_text()
    keys.enter(page.get_by_role("button", name=re.compile("^Done as written")))
    expect(place).not_to_have_text(before)
    keys.enter(page.get_by_role("button", name="Undo", exact=True))
    expect(place).to_have_text(before)
    print(f"by the keyboard alone: {keys.count} keys beside what was written")
