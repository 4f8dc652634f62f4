"""Weeks and sessions in the browser: built by keyboard, dragged, copied, kept as templates, printed; the library."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect
from support.axe import check_axe

TOMORROW = "2026-11-25"  # a Wednesday without a session


@pytest.fixture
def perrin(server, page: Page) -> int:
    """A wrestler whose season nobody else's test touches."""
    page.goto(server.url)
    people = page.evaluate("fetch('/api/names').then(r => r.json())")
    return next(a["id"] for s in people for a in s["athletes"] if a["name"] == "Perrin Aldous")


def take_back(page: Page) -> None:
    """Undo the last change and wait for the answer, however slow the machine is."""
    expect(page.get_by_role("button", name=re.compile("^Undo: ")).first).to_be_visible()
    with page.expect_response(re.compile("/plan/undo$")) as answer:
        page.keyboard.press("u")
    assert answer.value.ok


class Keys:
    """A keyboard that counts: each word typed and each key pressed is one interaction."""

    def __init__(self, page: Page) -> None:
        self.page, self.count = page, 0

    def press(self, *keys: str) -> None:
        for key in keys:
            self.page.keyboard.press(key)
            self.count += 1

    def type(self, text: str) -> None:
        self.page.keyboard.type(text)
        self.count += 1

    def line(self, exercise: str, text: str, block: str = "", slot: str = "") -> None:
        """Type a line: the exercise, Enter for the first found, how it stands on the board, its block where it is new."""
        self.type(exercise)
        expect(self.page.get_by_role("option").first).to_be_visible()
        self.press("Enter")
        self.type(text)
        if block:
            self.press("Tab")
            self.type(block)
        self.press("Enter")
        expect(self.page.get_by_role("button", name=re.compile(f"^{slot}: "))).to_be_visible()


def test_tomorrows_session_is_built_from_nothing_by_keyboard_in_under_60_interactions(server, page: Page, perrin: int) -> None:
    page.add_init_script("window.printed = 0; window.print = () => { window.printed += 1; };")
    page.goto(f"{server.url}/athletes/{perrin}/week")
    expect(page.get_by_role("button", name=re.compile("^. session on Wednesday"))).to_be_visible()
    check_axe(page)
    keys = Keys(page)
    keys.press("+")
    page.wait_for_url(f"**/session/{TOMORROW}/X1")
    expect(page.get_by_text("Nothing in it yet.")).to_be_visible()
    keys.press("/")
    keys.line("back squat", "3x3 @ 85%", "power", "A1")
    keys.line("hurdle jump reb", "3x12", "", "A2")
    keys.line("jump squat", "3x3 @ 30%", "", "A3")
    keys.line("band-assisted jump, rep", "3x12", "", "A4")
    page.locator("body").click(position={"x": 4, "y": 4})  # out of the fields, so that single keys speak again
    keys.press("g", "Enter")
    keys.type("Contrast")
    keys.press("Tab", "Tab")
    keys.type("180")
    keys.press("Enter")
    expect(page.get_by_text("contrast, 3:00 between rounds")).to_be_visible()
    keys.press("/")
    keys.line("kettlebell swing", "8x5+", "swings", "B1")
    page.locator("body").click(position={"x": 4, "y": 4})
    keys.press("g", "Enter")
    keys.type("EMOM")
    keys.press("Tab")
    keys.type("90")
    keys.press("Enter")
    expect(page.locator("th", has_text="every 1:30")).to_be_visible()
    check_axe(page)
    page.locator("body").click(position={"x": 4, "y": 4})
    keys.press("n", "Tab", "Enter")  # a session added to a deload week is answered first
    keys.type("she asked for it")
    keys.press("Enter")
    expect(page.get_by_text("Kept, because she asked for it")).to_be_visible()
    page.locator("body").click(position={"x": 4, "y": 4})
    keys.press("n", "Enter")  # and what is heavier than that week is held to it
    expect(page.get_by_role("button", name=re.compile("^A1: 3 × 3 @ 80 %"))).to_be_visible()
    for slot in ("A2", "A4"):  # two flags settled by what they propose
        page.locator("body").click(position={"x": 4, "y": 4})
        keys.press("n")
        expect(page.locator(":focus")).to_contain_text("Write 3 × 5")
        keys.press("Enter")
        expect(page.get_by_role("button", name=re.compile(f"^{slot}: 3 × 5"))).to_be_visible()
    page.locator("body").click(position={"x": 4, "y": 4})
    keys.press("n", "Tab", "Enter")
    keys.type("light bell, a finisher on purpose")
    keys.press("Enter")
    expect(page.get_by_text("Kept, because light bell, a finisher on purpose")).to_be_visible()
    page.locator("body").click(position={"x": 4, "y": 4})
    keys.press("p")
    expect(page.get_by_role("heading", name=re.compile("^Own session"))).to_be_visible()
    check_axe(page)
    keys.press("p")
    assert page.evaluate("window.printed") == 1
    print(f"tomorrow's session by keyboard: {keys.count} interactions")
    assert keys.count < 60
    page.goto(f"{server.url}/athletes/{perrin}/week")
    page.get_by_role("button", name="Take out X1").click()
    expect(page.get_by_role("button", name="Take out X1")).to_have_count(0)


def test_a_session_and_a_line_are_dragged_and_one_undo_each_takes_them_back(server, page: Page, perrin: int) -> None:
    page.goto(f"{server.url}/athletes/{perrin}/week")
    expect(page.get_by_role("navigation", name=re.compile("^Days to "))).to_be_visible()
    card = page.locator("article.session-card").last
    theme = card.get_by_role("link").first.inner_text()
    card.drag_to(page.get_by_role("region", name=re.compile("^Saturday")), source_position={"x": 8, "y": 8})
    moved = page.get_by_role("region", name=re.compile("^Saturday"))
    expect(moved.get_by_role("link", name=theme)).to_be_visible()
    page.keyboard.press("u")
    expect(moved.get_by_role("link", name=theme)).to_have_count(0)
    line = page.locator("article.session-card").last.locator("li").first
    name = line.inner_text().split("\n")[0]
    line.drag_to(moved)
    expect(moved.get_by_text(name)).to_be_visible()
    page.get_by_role("button", name=re.compile("^Undo: A1 moved to Saturday")).click()
    expect(moved.get_by_text(name)).to_have_count(0)
    delay = page.evaluate(
        """async () => {
          const label = 'Move Day';
          const find = () => [...document.querySelectorAll('select')].find((s) => s.ariaLabel?.startsWith(label));
          const write = Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set;
          const text = () => document.querySelector('.week').innerText;
          const taken = [];
          for (let i = 0; i < 9; i += 1) {
            const before = text();
            const select = find();
            const values = [...select.options].map((o) => o.value).filter((v) => v.startsWith('|'));
            const begun = performance.now();
            write.call(select, values[i % 2]);
            select.dispatchEvent(new Event('change', { bubbles: true }));
            while (text() === before && performance.now() - begun < 5000) await new Promise(requestAnimationFrame);
            taken.push(performance.now() - begun);
          }
          return taken.sort((a, b) => a - b)[4];
        }"""
    )
    print(f"a session moved to the week drawn and checked again: {delay:.0f} ms at the median of 9")
    assert delay < 5000
    for _ in range(9):
        take_back(page)


def test_the_week_is_arranged_otherwise_laid_beside_another_and_copied(server, page: Page, perrin: int) -> None:
    page.goto(f"{server.url}/athletes/{perrin}/week")
    page.get_by_role("button", name=re.compile("^Two days around practice")).click()
    page.get_by_role("combobox", name="The week is").select_option(label="Team strength week")
    page.get_by_role("combobox", name="Sessions a week").select_option(label="3")
    check_axe(page)
    page.get_by_role("button", name="Apply").click()
    expect(page.get_by_role("button", name="Team strength week, 3 sessions")).to_be_visible()
    page.get_by_label("Lay another athlete's week beside it").select_option(label="Noor Vasko")
    expect(page.get_by_role("heading", name="Noor Vasko")).to_be_visible()
    check_axe(page)
    page.get_by_role("button", name="Copy Day 2").first.click()
    expect(page.get_by_role("status").first).to_contain_text("Copied: Whole body of Perrin Aldous")
    page.get_by_role("button", name=re.compile("^Put down Whole body on Sunday")).first.click()
    expect(page.get_by_text("Put down for Perrin Aldous.")).to_be_visible()
    page.get_by_role("button", name="Clear").first.click()
    for _ in range(2):
        take_back(page)
    expect(page.get_by_role("button", name="Two days around practice, 2 sessions").first).to_be_visible()


def test_a_template_is_kept_looked_at_and_put_on_a_day(server, page: Page, perrin: int) -> None:
    page.goto(f"{server.url}/athletes/{perrin}/session/2026-11-27/B")
    page.get_by_role("button", name="Save as template").click()
    page.get_by_label("Name of the template").fill("Friday pull")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text("Kept as “Friday pull”")).to_be_visible()
    page.get_by_role("link", name="Library").click()
    page.get_by_role("link", name="Templates").click()
    page.get_by_role("button", name="Use template: Friday pull").click()
    page.get_by_label("On", exact=True).fill("2026-12-02")
    page.get_by_role("button", name="Show what it would do").click()
    expect(page.get_by_text("Nothing stands there now.")).to_be_visible()
    check_axe(page)
    page.get_by_role("button", name="Put it there").click()
    expect(page.get_by_role("status").last).to_contain_text("Done for Perrin Aldous.")
    page.get_by_role("link", name="Open the week").click()
    expect(page.get_by_role("region", name=re.compile("^Wednesday 2 December")).get_by_text("yours")).to_be_visible()
    page.keyboard.press("u")
    expect(page.get_by_role("region", name=re.compile("^Wednesday 2 December")).get_by_text("yours")).to_have_count(0)


def test_the_library_is_searched_and_an_own_exercise_kept_apart(server, page: Page) -> None:
    page.goto(f"{server.url}/library")
    page.get_by_label("Find", exact=True).fill("deadlift from")
    page.get_by_role("button", name="Deficit deadlift").click()
    expect(page.get_by_role("heading", name="Deficit deadlift")).to_be_visible()
    check_axe(page)
    page.get_by_role("button", name="Add your own").click()
    page.get_by_label("Name").fill("Tyre flip")
    page.get_by_label("Cue, in your words").fill("Hips low, push through")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("heading", name="Tyre flip")).to_be_visible()
    page.get_by_role("button", name="Delete it").click()
    page.get_by_label("Find", exact=True).fill("tyre")
    expect(page.get_by_text("Nothing fits.")).to_be_visible()


def test_the_squads_week_and_one_session_as_a_table(server, page: Page, perrin: int) -> None:
    page.goto(f"{server.url}/athletes/{perrin}/week")
    page.get_by_role("link", name="Squad", exact=True).click()
    expect(page.get_by_role("link", name="Perrin Aldous")).to_be_visible()
    check_axe(page)
    page.goto(f"{server.url}/athletes/{perrin}/session/2026-11-27/B/squad")
    expect(page.get_by_role("rowheader", name="Perrin Aldous")).to_be_visible()
    page.get_by_role("button", name="Athlete cards").click()
    expect(page.get_by_role("region", name="Perrin Aldous")).to_be_visible()
    check_axe(page)
    pdf = page.request.get(f"{server.url}/api/export/athletes/{perrin}/sessions/2026-11-27/B/wall.pdf")
    assert pdf.body().startswith(b"%PDF")
