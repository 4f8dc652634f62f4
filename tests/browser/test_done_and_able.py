"""Done → able → planned, by the interface alone: an open set waits for an answer, and counts when it is accepted."""

import re

import pytest
from playwright.sync_api import Page, expect
from support.axe import check_axe
from support.floor import done_as_written

LIFT = "trap_bar_deadlift"


@pytest.fixture
def bastien(server, page: Page) -> int:
    page.goto(server.url)
    people = page.evaluate("fetch('/api/names').then(r => r.json())")
    return next(a["id"] for s in people for a in s["athletes"] if a["name"] == "Bastien Holm")


def line_of(page: Page, athlete: int) -> tuple[str, dict[str, str]]:
    """The first session ahead that holds the lift, as its address ends, and the line."""
    week = page.evaluate(f"fetch('/api/athletes/{athlete}/week').then(r => r.json())")["week"]
    sheets = [d["sheet"] for d in week["days"] if d["sheet"] and d["sheet"]["state"] == "planned"]
    return next((f"{s['day']}/{s['key']}", x) for s in sheets for x in s["lines"] if x["exercise_id"] == LIFT)


def max_of(page: Page, athlete: int) -> float:
    lifts = page.evaluate(f"fetch('/api/athletes/{athlete}').then(r => r.json())")["lifts"]
    return next(x["max_kg"] for x in lifts if x["exercise_id"] == LIFT)


def test_a_slip_is_asked_about_an_open_set_teaches_and_is_answered(server, page: Page, bastien: int) -> None:
    place, line = line_of(page, bastien)
    page.goto(f"{server.url}/athletes/{bastien}/session/{place}")
    page.get_by_role("button", name=f"{line['slot']}: {line['text']}, change").click()
    field = page.get_by_label(re.compile("Trap-bar deadlift: sets, reps and load"))
    field.fill("3x5 @ 400 kg")
    field.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("a slip of the hand?")
    check_axe(page)
    field.fill("Trap-bar deadlift 1x5+ 75%")
    field.press("Enter")
    expect(page.get_by_role("button", name=f"{line['slot']}: 1 × 5+ @ 75 %, change")).to_be_visible()
    before = max_of(page, bastien)
    page.get_by_role("button", name="Start session").click()
    now = page.locator(".floor-now")
    for _ in range(40):  # one tap each, up to the open set
        expect(now.get_by_role("button", name=re.compile("^Done as written"))).to_be_enabled()
        said = now.inner_text()
        if "left in reserve" in said and now.get_by_role("heading", name="Trap-bar deadlift", exact=True).count():
            break
        done_as_written(page)
    page.get_by_role("button", name="Change", exact=True).click()
    page.get_by_label("reps", exact=True).fill("14")
    page.get_by_role("button", name=re.compile("^Log ")).click()
    page.get_by_role("button", name="Finish").click()
    page.get_by_role("group", name="Session RPE").get_by_role("button", name="7", exact=True).click()
    page.get_by_role("button", name="Finish the session").click()
    expect(page.get_by_text("Fast progress: accept it.")).to_be_visible()
    check_axe(page)
    assert max_of(page, bastien) == pytest.approx(before, abs=0.3), "it waits"
    page.goto(server.url)
    note = page.locator(".note", has_text="Bastien Holm.").filter(has_text="Trap-bar deadlift")
    expect(note).to_contain_text("(as many as possible)")
    check_axe(page)
    note.get_by_role("button", name="Accept it").click()
    expect(note).to_have_count(0)
    assert max_of(page, bastien) > before + 1
    page.goto(f"{server.url}/athletes/{bastien}")
    expect(page.get_by_role("heading", name="Bastien Holm")).to_be_visible()


def test_pain_has_a_place_stops_what_loads_it_and_waits_for_a_word(server, page: Page) -> None:
    page.goto(server.url)
    people = page.evaluate("fetch('/api/names').then(r => r.json())")
    who = next(a["id"] for s in people for a in s["athletes"] if a["name"] == "Odalys Merrin")
    page.goto(f"{server.url}/athletes/{who}/session")
    page.get_by_role("button", name="Start session").click()
    page.wait_for_url("**/floor/*")
    loaded = page.locator(".floor-list .item", has_text="B1")
    for _ in range(20):  # up to the first bar
        if page.locator(".floor-now .plates").count():
            break
        done_as_written(page)
    page.get_by_role("button", name="Pain", exact=True).click()
    stop = page.get_by_role("button", name=re.compile("^Stop here"))
    expect(stop).to_be_disabled()
    page.get_by_role("button", name="Knee").click()
    expect(stop).to_be_disabled()
    page.get_by_role("button", name="1", exact=True).click()
    expect(page.get_by_text(re.compile("^Today without:"))).to_contain_text("Trap-bar deadlift")
    check_axe(page)
    stop.click()
    side = page.locator(".floor-side")
    expect(side).to_contain_text("Pain, knee. Today without:")
    expect(side).to_contain_text("licensed professional")
    expect(loaded).to_contain_text("away today: pain, knee")
    side.get_by_role("button", name=re.compile("^In place of B1")).click()
    check_axe(page)
    pick = side.get_by_role("group", name=re.compile("^In place of B1")).get_by_role("button").first
    name = pick.inner_text()
    pick.click()
    expect(page.locator(".floor-list .item", has_text="B1b")).to_contain_text(name)
    page.get_by_role("button", name="Finish").click()
    page.get_by_role("group", name="Session RPE").get_by_role("button", name="5", exact=True).click()
    page.get_by_role("button", name="Finish the session").click()
    expect(page.get_by_text("Decide before it is loaded again")).to_be_visible()
    expect(page.get_by_text("pain, knee: decide first").first).to_be_visible()
    check_axe(page)
    page.goto(f"{server.url}/athletes/{who}/week")
    page.go_back()
    page.get_by_role("button", name="Looked at: train as written").click()
    expect(page.get_by_text("Answered: train as written.")).to_be_visible()
    expect(page.get_by_text("decide first")).to_have_count(0)


def test_a_session_begun_by_mistake_is_cancelled_and_another_days_is_started_as_todays(server, page: Page) -> None:
    page.goto(server.url)
    people = page.evaluate("fetch('/api/names').then(r => r.json())")
    who = next(a["id"] for s in people for a in s["athletes"] if a["name"] == "Noor Vasko")
    week = page.evaluate(f"fetch('/api/athletes/{who}/week').then(r => r.json())")["week"]
    sheets = [d["sheet"] for d in week["days"] if d["sheet"] and d["sheet"]["state"] == "planned"]
    other = next(s for s in sheets if s["may_be_today"])
    place = f"{other['day']}/{other['key']}"
    page.goto(f"{server.url}/athletes/{who}/session/{place}")
    expect(page.get_by_text(re.compile("^Not today’s"))).to_be_visible()
    check_axe(page)
    page.get_by_role("button", name="Start session").click()
    page.wait_for_url("**/floor/*")
    page.get_by_role("button", name="Finish").click()
    page.get_by_role("button", name="Begun by mistake …").click()
    page.get_by_role("button", name="Wrong session").click()
    page.wait_for_url(f"**/session/{place}")
    page.get_by_role("button", name="Start as today’s").click()
    page.wait_for_url("**/floor/*")
    session = page.url.rsplit("/", 1)[1]
    floor = page.evaluate(f"fetch('/api/floor/sessions/{session}').then(r => r.json())")
    assert floor["day"] == "2026-11-24"
    page.get_by_role("button", name="Finish").click()
    page.get_by_role("button", name="Begun by mistake …").click()
    page.get_by_role("button", name="Wrong session").click()
    page.wait_for_url("**/session/2026-11-24/**")
