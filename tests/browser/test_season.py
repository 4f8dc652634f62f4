"""The season in the browser: several competitions, arrangements, easier weeks, flags, tapers, contest, calendar; undo."""

from __future__ import annotations

import json
import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect
from support.axe import check_axe


@pytest.fixture
def noor(server, page: Page) -> int:
    """A wrestler of the demo with a running season."""
    page.goto(server.url)
    people = page.evaluate("fetch('/api/names').then(r => r.json())")
    return next(a["id"] for s in people for a in s["athletes"] if a["name"] == "Noor Vasko")


def undo(page: Page) -> None:
    page.get_by_role("button", name="Undo").click()


def test_a_season_is_arranged_otherwise_and_back(server, page: Page, noor: int) -> None:
    page.goto(f"{server.url}/athletes/{noor}/season")
    expect(page.get_by_role("button", name="Whole season")).to_be_visible()
    check_axe(page)
    page.get_by_label("Season model").select_option(label="Linear")
    page.get_by_label("Deload weeks").select_option(label="2:1")
    page.get_by_role("button", name="Apply").click()
    expect(page.get_by_text("season model linear; 2:1")).to_be_visible()
    expect(page.get_by_text("Force–velocity progression was planned, linear is.")).to_be_visible()
    page.get_by_role("button", name="Back to the original").click()
    expect(page.get_by_text("back to the original plan")).to_be_visible()
    expect(page.get_by_text("built backwards by force–velocity progression")).to_be_visible()
    page.get_by_role("link", name="what each is for").click()
    expect(page.get_by_role("heading", name="Concurrent", exact=True)).to_be_visible()
    check_axe(page)


def test_an_easier_week_moves_with_the_arrow_keys(server, page: Page, noor: int) -> None:
    page.goto(f"{server.url}/athletes/{noor}/season")
    easy = page.get_by_role("slider", name=re.compile("Deload week of")).last
    before = easy.get_attribute("aria-valuetext")
    easy.focus()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_text(f"deload week moved from {before} to")).to_be_visible()
    undo(page)
    expect(page.get_by_role("slider", name=f"Deload week of {before}: left and right move it by a week")).to_be_visible()


def test_a_competition_is_added_ranked_flagged_and_taken_out(server, page: Page, noor: int) -> None:
    page.goto(f"{server.url}/athletes/{noor}/season")
    page.get_by_role("button", name="Add a competition").click()
    page.get_by_label("Competition", exact=True).fill("Late Cup")
    page.get_by_label("Day", exact=True).fill("2027-02-06")
    expect(page.get_by_role("status")).to_contain_text("→ Late Cup")
    page.get_by_role("button", name="Add it").click()
    expect(page.get_by_text("lie 7 days apart.")).to_be_visible()
    check_axe(page)
    page.get_by_role("button", name=re.compile("Keep it, because … Gannet Sound Open and Late Cup")).click()
    page.get_by_label(re.compile("Reason to keep: Gannet Sound Open and Late Cup")).fill("the team needs both")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Kept, because the team needs both")).to_be_visible()
    page.get_by_role("button", name=re.compile("Ask again: Gannet Sound Open and Late Cup")).click()
    page.get_by_role("button", name="Make Gannet Sound Open secondary").click()
    expect(page.get_by_label("Rank of Gannet Sound Open")).to_have_value("secondary")
    undo(page)
    expect(page.get_by_label("Rank of Gannet Sound Open")).to_have_value("main")
    page.get_by_role("button", name="Take out: Late Cup").click()
    expect(page.get_by_role("button", name="Take out: Late Cup")).to_have_count(0)


def test_tapers_are_tried_and_one_is_taken(server, page: Page, noor: int) -> None:
    page.goto(f"{server.url}/athletes/{noor}/season")
    page.get_by_role("link", name="Tapers", exact=True).click()
    expect(page.get_by_role("heading", name=re.compile("Tapers for Gannet Sound Open"))).to_be_visible()
    expect(page.get_by_text("does not promise a result")).to_be_visible()
    check_axe(page)
    page.get_by_label("Days of taper 3").fill("21")
    page.get_by_label("Days of taper 3").press("Enter")
    expect(page.get_by_text("21 days; 8 to 14 gave the largest effect on average")).to_be_visible()
    page.get_by_label("Depth of taper 2 in per cent").fill("99")
    page.get_by_label("Depth of taper 2 in per cent").press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("0 to 90 % are accepted")
    page.get_by_label("Depth of taper 2 in per cent").fill("60")
    page.get_by_label("Depth of taper 2 in per cent").press("Enter")
    page.get_by_role("button", name=re.compile("Taper 2 against taper 1")).click()
    expect(page.locator(".working-panel")).to_contain_text("fitness less fatigue")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Use it: taper 2").click()
    expect(page.get_by_role("button", name="In the season: taper 2")).to_be_visible()
    page.get_by_role("button", name="Back to the usual taper").click()
    expect(page.get_by_role("button", name="Use it: taper 2")).to_be_visible()


def test_a_contest_is_staggered_back_from_its_day(server, page: Page, noor: int) -> None:
    page.goto(f"{server.url}/athletes/{noor}/contest")
    expect(page.get_by_role("table", name="Last heavy sessions")).to_be_visible()
    check_axe(page)
    page.get_by_role("button", name="Add an event").click()
    page.get_by_label("Event", exact=True).last.select_option(label="Max deadlift, one rep")
    page.get_by_label("Name", exact=True).last.fill("Pull")
    page.get_by_label("Competition load, kg").last.fill("150")
    page.get_by_role("button", name="Count back from the day").click()
    expect(page.get_by_text("straight limit pull")).to_be_visible()
    expect(page.get_by_text("142.5–150 kg")).to_be_visible()
    page.goto(f"{server.url}/athletes/{noor}/season")
    expect(page.get_by_role("img", name=re.compile("Pull: straight limit pull"))).to_be_visible()
    undo(page)
    expect(page.get_by_role("img", name=re.compile("Pull: straight limit pull"))).to_have_count(0)


def test_five_matches_typed_as_fast_as_a_person_types_are_five(server, page: Page, noor: int) -> None:
    page.goto(f"{server.url}/athletes/{noor}/calendar")
    form = page.get_by_role("form", name="Add to the calendar")
    form.get_by_label("For").select_option(label="Noor Vasko")
    line = page.context.new_cdp_session(page)  # a slow line
    slow = {"offline": False, "latency": 300, "downloadThroughput": -1, "uploadThroughput": -1}
    line.send("Network.emulateNetworkConditions", slow)
    for number in range(1, 6):
        form.get_by_label("Name").fill(f"Quick match {number}")
        form.get_by_label("From").fill(f"2027-01-0{number}")
        form.get_by_label("From").press("Enter")
    expect(page.get_by_role("button", name=re.compile("^Take out: Quick match"))).to_have_count(5)
    expect(page.get_by_label("Not stored yet")).to_have_count(0)
    line.send("Network.emulateNetworkConditions", slow | {"latency": 0})
    # one that is refused stands beside the form with its reason, and comes back into it
    form.get_by_label("Name").fill("Far match")
    form.get_by_label("From").fill("2039-01-01")
    form.get_by_label("From").press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("lies too far away")
    check_axe(page)
    page.get_by_role("button", name="Change it").click()
    expect(form.get_by_label("Name")).to_have_value("Far match")
    form.get_by_label("Name").fill("")
    # a list as it was sent: a line that cannot be read keeps the text, and nothing is stored by halves
    page.get_by_role("button", name="Paste a list").click()
    text = page.get_by_role("form", name="Paste a list").get_by_role("textbox")
    text.fill("13 Feb Listed one\nsome day Listed two")
    page.get_by_role("button", name="Add them all").click()
    expect(page.get_by_role("alert")).to_contain_text("line 2")
    check_axe(page)
    expect(text).to_have_value("13 Feb Listed one\nsome day Listed two")
    text.fill("13 Feb Listed one\n20 Feb Listed two")
    page.get_by_role("button", name="Add them all").click()
    expect(page.get_by_role("button", name=re.compile("^Take out: Listed"))).to_have_count(2)
    mine = page.get_by_role("button", name=re.compile("^Take out: (Listed|Quick match)"))
    for left in range(6, -1, -1):  # matches make a league of her season, which the other tests do not want
        mine.first.click()
        expect(mine).to_have_count(left)


def test_matches_on_their_way_when_the_page_is_loaded_anew_are_stored_once(server, page: Page, noor: int) -> None:
    page.goto(f"{server.url}/athletes/{noor}/calendar")
    form = page.get_by_role("form", name="Add to the calendar")
    form.get_by_label("For").select_option(label="Noor Vasko")
    page.route("**/api/athletes/*/calendar", lambda route: route.abort() if route.request.method == "POST" else route.fallback())
    for number in range(1, 4):
        form.get_by_label("Name").fill(f"Late match {number}")
        form.get_by_label("From").fill(f"2027-02-0{number}")
        form.get_by_label("From").press("Enter")
    expect(page.get_by_label("Not stored yet").get_by_role("listitem")).to_have_count(3)
    expect(page.get_by_text("The server cannot be reached.").first).to_be_visible()
    page.unroute("**/api/athletes/*/calendar")
    other = page.context.new_page()  # two pages send the same: it is stored once
    for tab in (page, other):
        tab.goto(f"{server.url}/athletes/{noor}/calendar")
    for tab in (page, other):
        expect(tab.get_by_label("Not stored yet")).to_have_count(0)
        tab.reload()
        expect(tab.get_by_role("button", name=re.compile("^Take out: Late match"))).to_have_count(3)
    other.close()


def test_a_calendar_is_filled_taken_in_and_out(server, page: Page, noor: int, tmp_path: Path) -> None:
    page.goto(f"{server.url}/athletes/{noor}/calendar")
    expect(page.get_by_text("Camp at the bay")).to_be_visible()
    check_axe(page)
    page.get_by_label("Kind").select_option(label="Exams")
    page.get_by_label("Name").fill("School exams")
    page.get_by_label("From").fill("2026-12-07")
    page.get_by_label("To", exact=True).fill("2026-12-11")
    page.get_by_role("form", name="Add to the calendar").get_by_label("For").select_option(label="Noor Vasko")
    page.get_by_role("button", name="Add it").click()
    expect(page.get_by_role("button", name="Take out: School exams")).to_be_visible()
    page.get_by_role("button", name="Take out: School exams").click()
    expect(page.get_by_role("button", name="Take out: School exams")).to_have_count(0)
    expect(page.get_by_role("group", name="Undo and redo")).to_contain_text("School exams, 7 Dec to 11 Dec, taken out")
    lines = ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//x//y//EN", "BEGIN:VEVENT", "UID:t1", "SUMMARY:Ferry to the bay",
             "DTSTART;VALUE=DATE:20261212", "END:VEVENT", "END:VCALENDAR", ""]  # fmt: skip
    file = tmp_path / "team.ics"
    file.write_text("\r\n".join(lines))
    page.get_by_label("iCalendar file (.ics)").set_input_files(file)
    expect(page.get_by_label("Ferry to the bay is taken as")).to_have_value("travel")
    page.get_by_role("button", name="Take in 1").click()
    expect(page.get_by_text("Taken in.")).to_be_visible()
    with page.expect_download() as download:
        page.get_by_role("link", name="Save as .ics").click()
    assert "Ferry to the bay" in Path(download.value.path()).read_text()
    page.get_by_label("iCalendar file (.ics)").set_input_files(file)
    expect(page.get_by_role("button", name="Nothing to take in")).to_be_disabled()
    page.get_by_role("button", name="Take out: Ferry to the bay").click()


def test_a_drag_redraws_quickly(server, page: Page, noor: int) -> None:
    """From the key to the redrawn boundary, request included; printed, the limit is wide for slow machines."""
    page.goto(f"{server.url}/athletes/{noor}/season")
    boundary = page.get_by_role("slider", name=re.compile("Boundary of Base strength"))
    expect(boundary).to_be_visible()
    script = """async () => {
      const find = () => [...document.querySelectorAll('[role=slider]')].find(e => e.ariaLabel?.startsWith('Boundary of Base'));
      const taken = [];
      for (let i = 0; i < 12; i++) {
        const before = find().ariaValueText, began = performance.now();
        find().dispatchEvent(new KeyboardEvent('keydown', {key: i % 2 ? 'ArrowRight' : 'ArrowLeft', bubbles: true}));
        while (find().ariaValueText === before) await new Promise(requestAnimationFrame);
        taken.push(performance.now() - began);
        await new Promise(r => setTimeout(r, 120));
      }
      return taken.sort((a, b) => a - b);
    }"""
    taken = page.evaluate(script)
    print(json.dumps({"drag to redraw, ms": {"median": round(taken[6]), "best": round(taken[0]), "worst": round(taken[-1])}}))
    assert len(taken) == 12
    page.get_by_role("button", name="Back to the proposal").click()
