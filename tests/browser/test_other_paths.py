"""What the story does not walk: two clients, a cut network, marks, decisions, the keyboard alone, and signing in."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Browser, Page, expect
from support.axe import check_axe
from support.waiting import until

pytestmark = pytest.mark.usefixtures("problems")
TRAINING_TODAY = "Tamsin Quill"


def start_session(page: Page, url: str, name: str) -> None:
    page.goto(url)
    page.get_by_role("list", name="Training today").get_by_role("link", name=re.compile(name)).first.click()
    page.get_by_role("button", name="Start session").click()
    expect(page.get_by_role("heading", name="Jump-and-land practice")).to_be_visible()


def test_two_tablets_on_one_session_agree(server, browser: Browser, browser_context_args) -> None:
    first = browser.new_context(**browser_context_args).new_page()
    start_session(first, server.url, TRAINING_TODAY)
    second = browser.new_context(**browser_context_args).new_page()
    second.goto(first.url)
    expect(second.locator(".step-place")).to_have_text("set 1 of 2")
    first.get_by_role("button", name=re.compile("^Done as written")).click()
    expect(first.locator(".step-place")).to_have_text("set 2 of 2")
    expect(second.locator(".step-place")).to_have_text("set 2 of 2")  # by the server's event, without touching it
    second.get_by_role("button", name="Undo").click()
    expect(first.locator(".step-place")).to_have_text("set 1 of 2")
    first.context.close()
    second.context.close()


KEPT = """() => new Promise((done) => {
  const opening = indexedDB.open('jarvok-outbox');
  opening.onsuccess = () => {
    const reading = opening.result.transaction('waiting').objectStore('waiting').getAll();
    reading.onsuccess = () => { opening.result.close(); done(reading.result); };
  };
})"""


def test_a_cut_network_loses_nothing_and_sends_in_order(server, page: Page) -> None:
    page.goto(f"{server.url}/floor")
    page.get_by_role("link", name="Resume").first.click()
    expect(page.get_by_role("heading", name="Jump-and-land practice")).to_be_visible()
    page.context.set_offline(True)
    page.get_by_role("button", name="Change", exact=True).click()
    page.get_by_label("note").fill("landed on the left only")
    page.get_by_role("button", name=re.compile("^Log")).click()
    expect(page.get_by_text("1 waiting to be sent")).to_be_visible()
    kept = page.evaluate(KEPT)
    assert kept[0]["body"]["note"] == "landed on the left only"
    page.context.set_offline(False)
    expect(page.get_by_text("waiting to be sent")).to_have_count(0, timeout=15_000)
    expect(page.locator(".step-place")).to_have_text("set 2 of 2")
    expect(page.get_by_text("landed on the left only")).to_be_visible()


def test_what_waits_survives_closing_the_tab(server, browser: Browser, browser_context_args) -> None:
    context = browser.new_context(**browser_context_args)
    page = context.new_page()
    page.goto(f"{server.url}/floor")
    page.get_by_role("link", name="Resume").first.click()
    expect(page.locator(".step-place")).to_have_text("set 2 of 2")
    page.route("**/sets", lambda route: route.abort())
    page.get_by_role("button", name=re.compile("^Done as written")).click()
    expect(page.get_by_text("1 waiting to be sent")).to_be_visible()
    until(page, f"({KEPT})().then(kept => kept.length === 1)")  # the browser has written it down: a moment after it is shown
    address = page.url
    page.close()
    again = context.new_page()
    again.goto(address)  # the new tab sends what the old one kept
    expect(again.get_by_role("heading", name="Low hurdle jumps")).to_be_visible(timeout=15_000)
    context.close()


def test_a_mark_is_added_questioned_and_withdrawn(server, page: Page) -> None:
    page.goto(f"{server.url}/athletes")
    page.get_by_label("Find an athlete").fill("salvesen")
    expect(page.get_by_role("link", name="Rurik Salvesen")).to_be_visible()
    expect(page.get_by_role("link", name="Noor Vasko")).to_have_count(0)
    page.get_by_role("link", name="Rurik Salvesen").click()
    page.get_by_role("button", name="Add a result").click()
    check_axe(page)
    page.get_by_label("Lift").select_option(label="Bench press")
    page.get_by_label("Load", exact=True).fill("9000")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("alert")).to_contain_text("cannot be a load")
    expect(page.get_by_label("Load", exact=True)).to_have_value("9000")  # nothing typed is lost
    page.get_by_label("Load", exact=True).fill("95,5")
    page.get_by_label("reps").fill("6")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_text("95.5 kg × 6").first).to_be_visible()
    expect(page.get_by_role("row", name=re.compile("^Bench press")).first).to_contain_text("114.6")
    page.get_by_role("button", name="Delete Bench press 95.5 kg × 6").click()
    expect(page.get_by_text("deleted", exact=True)).to_be_visible()
    expect(page.get_by_role("row", name=re.compile("^Bench press 1"))).to_have_count(0)


def test_an_improbable_mark_is_saved_the_second_time(server, page: Page) -> None:
    page.goto(f"{server.url}/athletes")
    page.get_by_role("link", name="Yara Lindqvale").click()
    page.get_by_role("button", name="Add a result").click()
    page.get_by_label("Lift").select_option(label="Back squat")
    page.get_by_label("Load", exact=True).fill("150")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("alert")).to_contain_text("Save it again to confirm")
    page.get_by_role("button", name="Save it again").click()
    expect(page.get_by_text("150 kg × 5").first).to_be_visible()
    waiting = page.get_by_label("Notes in the margin").get_by_text(re.compile("Back squat: .* to 17\\d kg\\?"))
    expect(waiting).to_be_visible()  # a leap like this is proposed, not applied
    page.get_by_role("button", name="Refuse it").click()
    expect(waiting).to_have_count(0)


def test_the_week_by_keyboard_alone(server, page: Page) -> None:
    page.goto(f"{server.url}/athletes")
    link = page.get_by_role("link", name="Perrin Aldous")
    link.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Perrin Aldous")).to_be_visible()
    page.get_by_role("link", name="Week", exact=True).focus()
    page.keyboard.press("Enter")
    expect(page.locator(".session-card")).to_have_count(2)
    later = page.get_by_role("button", name="Later →")
    later.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name=re.compile("Week of 30 Nov"))).to_be_visible()
    tape = page.get_by_role("navigation", name=re.compile("Days to "))
    tape.get_by_role("link").last.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_text("Taper, week 2 of 2")).to_be_visible()
    expect(page.get_by_text("▶ Gannet Sound Open")).to_be_visible()


def test_a_restricted_athlete_sees_the_stand_in_and_why(server, page: Page) -> None:
    page.goto(f"{server.url}/athletes")
    page.get_by_role("link", name="Ketil Oram").click()
    expect(page.get_by_text("Right shoulder: no overhead work")).to_be_visible()


def test_dragging_a_session_to_another_day(server, page: Page) -> None:
    page.goto(f"{server.url}/athletes")
    page.get_by_role("link", name="Sunniva Dray").click()
    page.get_by_role("link", name="Week", exact=True).click()
    page.get_by_role("button", name="Later →").click()
    expect(page.get_by_role("heading", name=re.compile("Week of 30 Nov"))).to_be_visible()
    card = page.locator(".session-card").last
    head = {"x": 8, "y": 8}  # a line of it, dragged, would move alone
    card.drag_to(page.get_by_role("region", name="Saturday 5 December"), source_position=head)
    expect(page.get_by_role("region", name="Saturday 5 December").locator(".session-card")).to_be_visible()
    expect(page.get_by_text("moved here by you")).to_be_visible()
    moved = page.get_by_role("region", name="Saturday 5 December").locator(".session-card")
    tuesday = page.get_by_role("region", name="Tuesday 1 December")
    moved.drag_to(tuesday, source_position=head, target_position={"x": 40, "y": 30})  # its top, so that nothing scrolls
    expect(tuesday.locator(".session-card")).to_have_count(2)


def test_signing_in_where_it_is_not_a_local_demo(server, page: Page) -> None:
    """The page a stranger sees, with the server's answer replaced by a signed-out one."""
    page.route(
        "**/api/me", lambda route: route.fulfill(json={"name": "", "signed_in": False, "today": "2026-11-24", "csrf_token": "x"})
    )
    page.goto(server.url)
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
    check_axe(page)


def test_a_server_that_fails_is_said_calmly(server, page: Page) -> None:
    page.route("**/api/athletes?*", lambda route: route.abort())
    page.goto(f"{server.url}/athletes")
    expect(page.get_by_role("alert")).to_contain_text("cannot be reached", timeout=20_000)
    page.unroute("**/api/athletes?*")
    page.get_by_role("button", name="Try again").click()
    expect(page.get_by_role("heading", name="Athletes")).to_be_visible()


def test_a_screen_that_cannot_be_drawn_leaves_the_bar_and_names_itself(server, page: Page, problems: list[str]) -> None:
    page.goto(f"{server.url}/athletes")
    expect(page).to_have_title("Athletes · Jarvok")
    page.route("**/api/library", lambda route: route.fulfill(json={"exercises": None}))
    page.get_by_role("link", name="Library").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("This page cannot be drawn")
    expect(page.get_by_role("alert")).to_contain_text("Nothing is lost")
    expect(page).to_have_title("Library · Jarvok")
    check_axe(page)
    page.unroute("**/api/library")
    page.get_by_role("link", name="To Today").click()
    expect(page).to_have_title("Today · Jarvok")
    expect(page.get_by_role("heading", name="This page cannot be drawn")).to_have_count(0)
    assert any("TypeError" in said for said in problems), "what failed is in the console, for whoever looks after it"
    problems.clear()


def test_a_result_being_typed_stays_when_the_exercises_cannot_be_read_again(server, page_with_clock: Page) -> None:
    page = page_with_clock
    page.clock.install()
    page.goto(f"{server.url}/athletes")
    page.get_by_role("link", name=re.compile(TRAINING_TODAY)).first.click()
    page.get_by_role("button", name="Add a result").click()
    form = page.get_by_role("form", name="Add a result")
    form.get_by_label("Load").fill("82.5")
    asked: list[str] = []
    page.route("**/api/result-exercises", lambda road: (asked.append(road.request.url), road.abort()))
    page.clock.fast_forward(120_000)  # read a while ago: read again when the tab comes back
    page.evaluate("window.dispatchEvent(new Event('visibilitychange'))")
    for _ in range(4):
        page.wait_for_timeout(200)
        page.clock.fast_forward(10_000)  # it is tried again, and given up
    assert len(asked) > 1
    expect(form.get_by_label("Load")).to_have_value("82.5")
