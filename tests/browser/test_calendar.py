"""The calendar in the browser, and seasons built on it from nothing: by the interface alone, each click and field counted."""

from __future__ import annotations

import json
import re

import pytest
from playwright.sync_api import Locator, Page, expect
from support.axe import check_axe


class Hand:
    """Somebody at the keyboard: one click, shortcut or filled field is one interaction."""

    def __init__(self, page: Page, url: str) -> None:
        self.page, self.url, self.count = page, url, 0

    def click(self, what: Locator) -> None:
        what.click()
        self.count += 1

    def fill(self, what: Locator, text: str) -> None:
        what.fill(text)
        self.count += 1

    def press(self, key: str) -> None:
        self.page.keyboard.press(key)
        self.count += 1

    def button(self, name: str) -> Locator:
        return self.page.get_by_role("button", name=name, exact=True)

    def make_athlete(self, name: str, squad: str, sport: str = "wrestling") -> int:
        self.page.goto(f"{self.url}/athletes")
        self.click(self.button("Add an athlete"))
        self.fill(self.page.get_by_label("Name", exact=True), name)
        self.fill(self.page.get_by_label("Squad", exact=True), squad)
        if self.page.get_by_label("Sport of the new squad").count():
            self.fill(self.page.get_by_label("Sport of the new squad"), sport)
        self.click(self.button("Add and plan"))
        expect(self.page.get_by_role("heading", name=f"{name}: no season yet")).to_be_visible()
        return int(re.search(r"/athletes/(\d+)/", self.page.url)[1])  # type: ignore[index]

    def write(self, day: str, text: str) -> None:
        """Go to the month, choose the day, write on it."""
        month = self.page.get_by_role("group", name="Days of the month")
        expect(month).to_be_visible()
        while self.page.locator(f"#day-{day}").count() == 0:
            before = self.page.get_by_role("heading", level=1).inner_text()
            self.click(self.page.get_by_role("button", name=re.compile(r"→$")))
            expect(self.page.get_by_role("heading", level=1)).not_to_have_text(before)
        self.click(self.page.locator(f"#day-{day}"))
        box = self.page.locator("#write-on-day")
        self.fill(box, text)
        expect(self.page.get_by_text("Enter saves it.")).to_be_visible()
        box.press("Enter")
        self.count += 1
        expect(box).to_have_value("")

    def done(self, what: str) -> None:
        print(json.dumps({what: f"{self.count} interactions"}))


@pytest.fixture
def hand(server, page: Page) -> Hand:
    return Hand(page, server.url)


@pytest.fixture
def wrestling(server, page: Page) -> int:
    page.goto(server.url)
    squads = page.evaluate("fetch('/api/names').then(r => r.json())")
    return next(s["id"] for s in squads if "wrestling" in s["name"])


def chip(page: Page, day: str, title: str) -> Locator:
    return page.locator(f".month-day:has(#day-{day}) .chip", has_text=title)


def test_a_month_is_written_on_carried_about_and_undone(page: Page, hand: Hand, wrestling: int) -> None:
    page.goto(f"{hand.url}/squads/{wrestling}/calendar?month=2026-12")
    expect(chip(page, "2026-12-07", "Camp at the bay")).to_be_visible()
    check_axe(page)
    hand.write("2026-12-16", "match 19:00 away, Skerry Hall")
    expect(chip(page, "2026-12-16", "Match away, Skerry Hall 19:00")).to_be_visible()
    # by the mouse: the camp a week later, then longer by its edge
    page.locator(".month-day:has(#day-2026-12-08) .chip.span").drag_to(page.locator(".month-day:has(#day-2026-12-15)"))
    expect(chip(page, "2026-12-14", "Camp at the bay")).to_be_visible()
    expect(chip(page, "2026-12-07", "Camp at the bay")).to_have_count(0)
    page.locator(".month-day:has(#day-2026-12-18) .chip.span .edge").drag_to(page.locator(".month-day:has(#day-2026-12-20)"))
    expect(page.locator(".month-day:has(#day-2026-12-20) .chip.span")).to_be_visible()
    # by keys: the match a day later, a step back, taken out
    page.locator("#day-2026-12-16").click()
    expect(page.locator("#write-on-day")).to_be_focused()
    page.locator("#day-2026-12-16").focus()
    page.keyboard.press("ArrowDown")
    expect(page.locator("#day-2026-12-23")).to_be_focused()
    page.keyboard.press("ArrowUp")
    panel = page.get_by_role("region", name="On Wednesday 16 December")
    panel.get_by_role("button", name="Match away, Skerry Hall 19:00: a day later").click()
    expect(chip(page, "2026-12-17", "Match away")).to_be_visible()
    page.get_by_role("button", name="Match away, Skerry Hall 19:00: rename").click()
    name = page.get_by_label("Name of Match away, Skerry Hall 19:00")
    expect(name).to_have_value("Match away, Skerry Hall")
    name.fill("Match at Skerry Hall")
    name.press("Enter")
    expect(chip(page, "2026-12-17", "Match at Skerry Hall 19:00")).to_be_visible()
    page.get_by_role("button", name="Take out: Match at Skerry Hall 19:00").click()
    expect(page.locator(".chip.match")).to_have_count(0)
    steps = page.get_by_role("group", name="Undo and redo")
    page.get_by_role("heading", level=1).click()  # out of the field, so that keys are shortcuts
    for last in ("taken out", "changed", "to 17 Dec", "to 14 Dec to 20 Dec", "to 14 Dec to 18 Dec", "added"):
        expect(steps).to_contain_text(last)
        page.keyboard.press("u")
        expect(steps).to_contain_text(re.compile(f"Taken back:.*{last}"))
    expect(chip(page, "2026-12-07", "Camp at the bay")).to_be_visible()
    page.keyboard.press("Shift+U")
    expect(chip(page, "2026-12-16", "Match away, Skerry Hall 19:00")).to_be_visible()
    page.keyboard.press("u")
    expect(page.locator(".chip.match")).to_have_count(0)
    page.locator("#write-on-day").fill("something else")
    expect(page.get_by_text("It is not clear what that is.")).to_be_visible()
    page.locator("#write-on-day").press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("It is not clear what that is")
    expect(page.locator("#write-on-day")).to_have_value("something else")
    page.get_by_role("link", name="All squads").click()
    page.goto(f"{hand.url}/calendar?month=2026-12")
    expect(page.get_by_role("region", name=re.compile("wrestling"))).to_contain_text("Camp at the bay")
    check_axe(page)


def test_a_month_on_a_narrow_screen(page: Page, hand: Hand, wrestling: int) -> None:
    page.set_viewport_size({"width": 390, "height": 800})
    page.goto(f"{hand.url}/squads/{wrestling}/calendar?month=2026-12")
    expect(page.locator("#day-2026-12-07")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    page.goto(f"{hand.url}/calendar?month=2026-12")
    expect(page.get_by_role("region", name=re.compile("wrestling"))).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def weeks_of(page: Page, athlete: int) -> list[dict]:
    season = page.evaluate(f"fetch('/api/athletes/{athlete}/season').then(r => r.json())")["season"]
    return season["weeks"]


class TestFromNothing:
    """An athlete made now, and what a season asks for, written on the calendar."""

    def test_one_competition(self, page: Page, hand: Hand) -> None:
        athlete = hand.make_athlete("Una Onecup", "Reef single")
        hand.click(page.get_by_role("link", name="Calendar", exact=True).last)
        hand.write("2027-02-27", "main Reef Open")
        hand.done("a season from nothing")
        page.get_by_role("navigation", name="Season of the athlete").get_by_role("link", name="Season").click()
        expect(page.get_by_role("heading", name=re.compile("Reef Open, Saturday 27 February"))).to_be_visible()
        expect(page.get_by_text(re.compile("Volume down by"))).to_be_visible()
        assert sum(w["main_sets"] for w in weeks_of(page, athlete)) > 0
        page.get_by_role("link", name="To this week").click()
        expect(page.locator("article.session-card").first).to_be_visible()

    def test_two_competitions_three_weeks_apart(self, page: Page, hand: Hand) -> None:
        athlete = hand.make_athlete("Duo Twocups", "Reef double")
        hand.click(page.get_by_role("link", name="Calendar", exact=True).last)
        hand.write("2027-01-30", "main First Cup")
        hand.write("2027-02-20", "main Second Cup")
        hand.done("two competitions three weeks apart")
        page.get_by_role("navigation", name="Season of the athlete").get_by_role("link", name="Season").click()
        expect(page.get_by_text(re.compile("Second Cup: the peak is held"))).to_be_visible()
        after = [w for w in weeks_of(page, athlete) if w["start"] > "2027-01-31"]
        assert [w["start"] for w in after] == ["2027-02-01", "2027-02-08", "2027-02-15"]
        assert all(w["main_sets"] > 0 for w in after[:2])

    def test_a_competition_in_four_days(self, page: Page, hand: Hand) -> None:
        athlete = hand.make_athlete("Ada Soon", "Reef soon")
        hand.click(page.get_by_role("link", name="Calendar", exact=True).last)
        hand.write("2026-11-28", "main Soon Cup")
        hand.done("a competition in four days")
        page.get_by_role("navigation", name="Season of the athlete").get_by_role("link", name="Season").click()
        expect(page.get_by_role("heading", name=re.compile("Soon Cup, Saturday 28 November · in 4 days"))).to_be_visible()
        expect(page.get_by_text("There is no time for a base.")).to_be_visible()
        assert len(weeks_of(page, athlete)) == 1

    def test_a_camp_an_exam_week_and_three_weeks_away(self, page: Page, hand: Hand) -> None:
        athlete = hand.make_athlete("Mara Midway", "Reef midway")
        hand.click(page.get_by_role("link", name="Calendar", exact=True).last)
        hand.write("2026-12-07", "camp 7–11")
        hand.write("2027-01-04", "exam 5 days")
        hand.write("2027-01-18", "off 3 weeks")
        hand.write("2027-04-17", "main Spring Cup")
        hand.done("camp, exams, three weeks away and a competition")
        page.get_by_role("navigation", name="Season of the athlete").get_by_role("link", name="Season").click()
        expect(page.get_by_text("3 weeks lost: the phases are divided anew.")).to_be_visible()
        weeks = {w["start"]: w for w in weeks_of(page, athlete)}
        assert [weeks[d]["main_sets"] for d in ("2027-01-18", "2027-01-25", "2027-02-01")] == [0, 0, 0]
        full = max(w["main_sets"] for w in weeks.values())
        assert 0 < weeks["2027-02-08"]["main_sets"] <= 0.6 * full
        assert weeks["2026-12-07"]["main_sets"] < weeks["2026-11-30"]["main_sets"]
        page.goto(f"{hand.url}/athletes/{athlete}/week/2027-01-18")
        expect(page.locator("article.session-card")).to_have_count(0)

    def test_five_weeks_only(self, page: Page, hand: Hand) -> None:
        athlete = hand.make_athlete("Pia Fiveweeks", "Reef five")
        hand.click(page.get_by_role("link", name="Calendar", exact=True).last)
        hand.write("2027-01-02", "main New Year Cup")
        hand.done("five weeks only")
        page.get_by_role("navigation", name="Season of the athlete").get_by_role("link", name="Season").click()
        expect(page.get_by_role("heading", name=re.compile("New Year Cup, Saturday 2 January"))).to_be_visible()
        weeks = weeks_of(page, athlete)
        assert len(weeks) in (5, 6), "the week that has begun, and five"
        assert all(w["main_sets"] > 0 for w in weeks)

    def test_a_block_without_a_competition(self, page: Page, hand: Hand) -> None:
        athlete = hand.make_athlete("Ole Noday", "Reef block")
        form = page.get_by_role("form", name="A block of weeks")
        hand.click(form.get_by_label("Last week is a test week"))
        hand.click(form.get_by_role("button", name="Plan the block"))
        expect(page.get_by_role("heading", name=re.compile("^Block 1"))).to_be_visible()
        hand.done("a block without a competition, its last week a test week")
        weeks = weeks_of(page, athlete)
        assert [w["main_sets"] > 0 for w in weeks] == [True] * len(weeks)
        page.get_by_role("link", name="To this week").click()
        expect(page.locator("article.session-card").first).to_be_visible()

    def test_a_league_of_two_matches_a_week_on_a_new_squad(self, page: Page, hand: Hand) -> None:
        first = hand.make_athlete("Lio League", "Reef league", "handball")
        second = hand.make_athlete("Ren League", "Reef league", "handball")
        hand.click(page.get_by_role("link", name="Calendar", exact=True).last)
        page.wait_for_url("**/calendar")
        page.wait_for_load_state("networkidle")  # the page before is gone
        hand.click(page.get_by_role("button", name="Paste a list"))
        days = ("5 Jan", "9 Jan", "12 Jan", "16 Jan", "19 Jan", "23 Jan")
        text = page.get_by_role("form", name="Paste a list").get_by_role("textbox")
        if not text.is_visible():  # the page was drawn anew under the tap
            page.get_by_role("button", name="Paste a list").click()
        hand.fill(text, "\n".join(f"{d} 2027 Match {i}" for i, d in enumerate(days, start=1)))
        hand.click(page.get_by_role("button", name="Add them all"))
        expect(page.get_by_role("button", name=re.compile("^Take out: Match"))).to_have_count(6)
        hand.done("a league of two matches a week for a squad")
        for athlete in (first, second):
            weeks = {w["start"]: w for w in weeks_of(page, athlete)}
            assert [weeks[d]["matches"] for d in ("2027-01-04", "2027-01-11", "2027-01-18")] == [2, 2, 2]
        page.goto(f"{hand.url}/athletes/{second}/week/2027-01-11")
        expect(page.locator("article.session-card").first).to_be_visible()
        assert page.locator("article.session-card").count() <= 2
        page.goto(f"{hand.url}/athletes/{second}/calendar?month=2027-01")
        steps = page.get_by_role("group", name="Undo and redo")
        expect(steps).to_contain_text("6 entries added")
        steps.get_by_role("button", name=re.compile("^Undo")).click()
        expect(page.locator(".chip.match")).to_have_count(0)


def test_what_was_done_is_listed_with_who_did_it(page: Page, hand: Hand, wrestling: int) -> None:
    page.goto(f"{hand.url}/squads/{wrestling}/calendar?month=2026-12")
    hand.write("2026-12-22", "exam 2 days")
    page.keyboard.press("Escape")
    page.get_by_role("group", name="Undo and redo").get_by_role("button", name=re.compile("^Undo")).click()
    expect(page.locator(".month-day:has(#day-2026-12-22) .chip.span")).to_have_count(0)
    page.goto(f"{hand.url}/settings")
    page.get_by_role("link", name="What was done").click()
    expect(page.get_by_role("cell", name="undone: Exams, Tue 22 Dec to Wed 23 Dec, added")).to_be_visible()
    check_axe(page)
    page.get_by_label("Of", exact=True).select_option(label="Noor Vasko")
    expect(page.get_by_role("heading", name="What was done · Noor Vasko")).to_be_visible()
    expect(page.get_by_role("cell", name="Exams, Tue 22 Dec to Wed 23 Dec, added", exact=True)).to_be_visible()


def test_the_centre_says_where_it_lies(page: Page, hand: Hand) -> None:
    page.goto(f"{hand.url}/settings")
    form = page.get_by_role("form", name="Time zone")
    form.get_by_label("Time zone of the centre").fill("Bay/Nowhere")
    form.get_by_role("button", name="Save").click()
    expect(form.get_by_role("alert")).to_contain_text("“Bay/Nowhere” is no time zone")
    expect(form.get_by_label("Time zone of the centre")).to_have_value("Bay/Nowhere")
    form.get_by_label("Time zone of the centre").fill("Europe/Oslo")
    form.get_by_role("button", name="Save").click()
    expect(form).to_contain_text("In force: Europe/Oslo")
    form.get_by_label("Time zone of the centre").fill("")
    form.get_by_role("button", name="Save").click()
    expect(form).to_contain_text("that of this server")
