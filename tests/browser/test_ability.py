"""Knowing the athlete and setting the load, in the real browser: eight ways by keyboard alone, tests, bests, record, import."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect
from support.axe import check_axe

pytestmark = pytest.mark.usefixtures("problems")
ATHLETE = "Perrin Aldous"


def open_athlete(page: Page, url: str, name: str = ATHLETE) -> None:
    page.goto(f"{url}/athletes")
    page.get_by_role("link", name=name).click()
    expect(page.get_by_role("heading", name=name)).to_be_visible()


def test_the_eight_ways_by_keyboard_alone(server, page: Page) -> None:
    open_athlete(page, server.url)
    page.get_by_role("link", name="Week", exact=True).focus()
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Later →").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name=re.compile("Week of 30 Nov"))).to_be_visible()
    page.get_by_role("link", name=re.compile("Legs and press")).focus()
    page.keyboard.press("Enter")
    page.get_by_role("link", name="B1, 8 methods to load it").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name=re.compile("8 methods"))).to_be_visible()
    expect(page.get_by_role("row")).to_have_count(9)  # the headings and eight methods
    check_axe(page)
    number = page.get_by_role("button", name=re.compile("^Reps in reserve: .* kg, show the working"))
    number.focus()
    page.keyboard.press("Enter")
    expect(page.locator(".working-panel")).to_contain_text("in reserve")
    page.keyboard.press("Escape")
    page.get_by_role("button", name=re.compile("^To .*: Reps in reserve$")).focus()
    page.keyboard.press("Enter")
    expect(page.get_by_text("Reps in reserve for this block.")).to_be_visible()
    page.get_by_role("link", name="Back to the session").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_text(re.compile("by reps in reserve to .*, your choice"))).to_be_visible()
    check_axe(page)
    page.go_back()
    page.get_by_role("button", name="Back to the proposal").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_text("for this block.")).to_have_count(0)
    page.get_by_role("button", name="This line: APRE").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_text("now “APRE-3", exact=False)).to_be_visible()


def test_a_setting_is_refused_changed_and_put_back(server, page: Page) -> None:
    page.goto(f"{server.url}/settings")
    check_axe(page)
    page.get_by_role("link", name="What sets a load").click()
    expect(page.get_by_role("button", name="All at their defaults")).to_be_disabled()
    check_axe(page)
    field = page.get_by_label("Training max")
    field.fill("40")
    field.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("85 to 100 % of the max are accepted.")
    expect(field).to_have_value("40")  # nothing typed is lost
    field.fill("90")
    field.press("Enter")
    expect(page.get_by_role("button", name="Back to the defaults (1 changed)")).to_be_visible()
    page.get_by_role("button", name="Back to the default of Training max").click()
    expect(page.get_by_role("button", name="All at their defaults")).to_be_disabled()
    page.get_by_label(re.compile("^Brzycki")).click()
    expect(page.get_by_label(re.compile("^Brzycki"))).to_be_checked()
    page.get_by_label(re.compile("^Epley")).click()
    expect(page.get_by_label(re.compile("^Epley"))).to_be_checked()


def test_a_value_is_found_in_whatever_room_it_is(server, page: Page) -> None:
    page.goto(f"{server.url}/settings/kits")
    page.get_by_label("Find a value").fill("training max")
    expect(page.get_by_label("Training max")).to_be_visible()
    page.get_by_label("Find a value").fill("")
    expect(page.get_by_role("heading", name="Kits", exact=True)).to_be_visible()
    page.get_by_label("Find a value").fill("xyz")
    expect(page.get_by_role("heading", name="No value is called “xyz”.")).to_be_visible()
    for room in ("Season", "Week and session", "Floor"):
        page.get_by_role("navigation", name="Settings").get_by_role("link", name=room, exact=True).click()
        expect(page.get_by_role("heading", name=f"Settings · {room}")).to_be_visible()
        expect(page.get_by_role("textbox").nth(1)).to_be_visible()
    page.goto(f"{server.url}/settings/nowhere")
    expect(page.get_by_role("form", name="Time zone")).to_be_visible()


def test_a_kit_is_added_and_given_to_an_athlete(server, page: Page) -> None:
    page.goto(f"{server.url}/settings/kits")
    page.get_by_role("button", name="Add a kit").click()
    page.get_by_label("Name", exact=True).fill("Hotel cellar")
    page.get_by_label("Bar", exact=True).fill("900")
    page.get_by_role("button", name="Save the kit").click()
    expect(page.get_by_role("alert")).to_contain_text("cannot be a bar")
    page.get_by_label("Bar", exact=True).fill("15")
    check_axe(page)
    page.get_by_role("button", name="Save the kit").click()
    expect(page.get_by_role("button", name="Change Hotel cellar")).to_be_visible()
    open_athlete(page, server.url, "Marit Solane")
    page.get_by_role("link", name="Details").click()
    page.get_by_label("Kit").select_option(label="Hotel cellar")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text("Saved.", exact=True)).to_be_visible()
    page.reload()
    expect(page.get_by_label("Kit").locator("option:checked")).to_have_text("Hotel cellar")


def test_how_a_line_is_written_is_one_page(server, page: Page) -> None:
    page.goto(f"{server.url}/settings")
    page.get_by_role("link", name="How a line is written").click()
    expect(page.get_by_role("cell", name="APRE-6").first).to_be_visible()
    check_axe(page)


def test_a_guided_test_from_the_empty_bar_to_a_technical_max(server, page: Page) -> None:
    open_athlete(page, server.url)
    page.get_by_role("link", name="Tests", exact=True).click()
    page.get_by_label("Lift to test").select_option(label="Back squat")
    expect(page.get_by_text("Which test for Perrin Aldous in the back squat")).to_be_visible()
    page.get_by_label("Pain today").check()
    expect(page.get_by_text("see a licensed professional").first).to_be_visible()
    expect(page.get_by_role("button", name="Start: True 1RM")).to_be_disabled()
    page.get_by_label("Pain today").uncheck()
    check_axe(page)
    page.get_by_role("button", name="Start: True 1RM").click()
    expect(page.get_by_text("the empty bar")).to_be_visible()
    done = page.locator("aside ol li")
    for count in range(1, 4):
        page.get_by_role("button", name="5", exact=True).click()
        page.get_by_role("button", name=re.compile("^Done: ")).click()
        expect(done).to_have_count(count)
    check_axe(page)
    page.reload()  # the test goes on where it was
    expect(done).to_have_count(3)
    page.get_by_role("button", name="Undo").click()
    expect(done).to_have_count(2)
    page.get_by_role("button", name=re.compile("^Done: ")).click()
    expect(done).to_have_count(3)
    page.get_by_role("button", name="Technique broke").click()
    expect(page.get_by_text(re.compile("the heaviest with good technique"))).to_be_visible()
    page.get_by_role("button", name="Save as technical 1RM").click()
    page.get_by_role("link", name="See what it did to the max").click()
    expect(page.get_by_role("cell", name="test: True 1RM")).to_be_visible()


def test_jumps_on_each_side_and_where_one_stands(server, page: Page) -> None:
    open_athlete(page, server.url, "Yara Lindqvale")
    page.get_by_role("button", name="Add a result").click()
    page.get_by_label("Kind").select_option(label="jump")
    page.get_by_label("Measured by").select_option(label="flight time")
    page.get_by_label("flight time, s").fill("5")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("alert")).to_contain_text("cannot be")
    page.get_by_label("flight time, s").fill("0,5")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("button", name="30.6 cm", exact=True)).to_be_visible()
    page.get_by_role("button", name="Correct Countermovement jump 30.6 cm").click()
    page.get_by_label("flight time, s").fill("0.51")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_text("instead of 30.6 cm")).to_be_visible()
    page.get_by_role("link", name="Bests and ratios").click()
    expect(page.get_by_role("heading", name="Ratios")).to_be_visible()
    expect(page.get_by_text("Posture")).to_be_visible()
    check_axe(page)


def test_a_restriction_and_a_fault_are_recorded(server, page: Page) -> None:
    open_athlete(page, server.url, "Wren Ostrander")
    page.get_by_role("link", name="Details").click()
    page.get_by_role("button", name="Add a restriction").click()
    page.get_by_label("What", exact=True).fill("Left knee: no jumps")
    page.get_by_label("Leaves out").select_option(label="jump")
    page.get_by_label("Set by").fill("physiotherapist")
    check_axe(page)
    page.get_by_role("button", name="Save the restriction").click()
    expect(page.get_by_text("Left knee: no jumps")).to_be_visible()
    page.get_by_role("button", name="Cleared to test: Left knee: no jumps").click()
    page.get_by_label("Cleared for the conservative test by").fill("team doctor")
    page.keyboard.press("Enter")
    expect(page.get_by_text("cleared for the conservative test by the team doctor")).to_be_visible()
    page.get_by_role("button", name="End the restriction: Left knee: no jumps").click()
    expect(page.get_by_role("button", name="End the restriction: Left knee: no jumps")).to_have_count(0)
    page.get_by_label("Lift", exact=True).select_option(label="Bench press")
    faults = page.get_by_label("Fault", exact=True)
    expect(faults).not_to_contain_text("Feet jump about")  # only what can be seen in the lift is asked
    faults.select_option(label="Elbows flare in the press")
    page.get_by_role("button", name="Add the fault").click()
    expect(page.get_by_text("Works on: elbows flare in the press (bench press)")).to_be_visible()


def test_a_pasted_table_shows_each_problem_before_anything_is_stored(server, page: Page) -> None:
    page.goto(f"{server.url}/athletes")
    page.get_by_role("link", name="Import").click()
    page.get_by_label("Table").fill("name;squad;born\nBo Example;Harbour rowing;2003-02-28\nNo Day;Harbour rowing;31.2.2003")
    page.get_by_role("button", name="Read it").click()
    expect(page.get_by_text("1 row is fine, 1 has a problem")).to_be_visible()
    check_axe(page)
    page.get_by_role("button", name="Import 1, leave 1 out").click()
    expect(page.get_by_role("status").filter(has_text="1 added")).to_be_visible()
    page.get_by_role("link", name="Back to the athletes").click()
    expect(page.get_by_role("link", name="Bo Example")).to_be_visible()
    with page.expect_download() as download:
        page.get_by_role("link", name="CSV").click()
    assert "Bo Example" in download.value.path().read_text()
