"""Known → planned, once more: each kind of thing that is known, and every school's week, by the interface alone."""

import re

from playwright.sync_api import Locator, Page, expect

# what is ticked, and what the lines it changes say
TICKED = (
    ("Long legs", "long legs"),
    ("Plays in contact", "contact"),
    ("Gymnastics", "gymnas"),
    ("Bigger arms and shoulders", "bigger arms"),
)
MODELS = (
    "Concurrent, heavy days apart",
    "High and low days around speed",
    "Team strength week",
    "One percentage-based main lift a day",
)  # beside the two days around practice that an athlete begins with
FAULT = "hips rise first"


def with_a_line(page: Page, words: str) -> Locator:
    """What is known, as it stands beside the lines it changes in the next two weeks."""
    changes = page.get_by_role("region", name="What this changes in the next two weeks")
    return changes.locator(".wish", has_text=re.compile(words, re.I)).filter(has=page.get_by_role("link")).first


def follow(page: Page, words: str) -> None:
    """From what was recorded to the session it changes: its sheet says so beside the line."""
    with_a_line(page, words).get_by_role("link").first.click()
    expect(page.get_by_role("main")).to_contain_text(re.compile(words, re.I))


def record(server, page: Page, athlete: int) -> None:
    page.goto(f"{server.url}/athletes/{athlete}/record")


def test_each_kind_of_thing_known_stands_in_a_session_ahead(server, page: Page, newcomer: int) -> None:
    for label, words in TICKED:
        record(server, page, newcomer)
        expect(with_a_line(page, words)).to_have_count(0)
        page.get_by_label(label, exact=True).check()
        follow(page, words)


def test_a_restriction_takes_its_lifts_out_of_the_rest_of_this_week(server, page: Page, newcomer: int) -> None:
    page.goto(f"{server.url}/athletes/{newcomer}/week")
    main = page.get_by_role("main")
    expect(main).to_contain_text("Bench pull")
    record(server, page, newcomer)
    page.get_by_role("button", name="Add a restriction").click()
    page.get_by_label("What", exact=True).fill("Right shoulder: no pulling")
    page.get_by_label("Leaves out").select_option(label="pull")
    page.get_by_label("Set by").fill("physiotherapist")
    page.get_by_role("button", name="Save the restriction").click()
    expect(page.get_by_role("button", name="End the restriction: Right shoulder: no pulling")).to_be_visible()
    page.goto(f"{server.url}/athletes/{newcomer}/week")
    expect(main).to_contain_text("Step-up")
    expect(main).not_to_contain_text("Bench pull")


def test_a_fault_changes_a_line_of_every_school_s_week(server, page: Page, newcomer: int) -> None:
    record(server, page, newcomer)
    page.get_by_label("Lift", exact=True).select_option(label="Back squat")
    page.get_by_label("Fault", exact=True).select_option(label="Hips rise first")
    page.get_by_role("button", name="Add the fault").click()
    follow(page, FAULT)
    for model in MODELS:
        page.goto(f"{server.url}/athletes/{newcomer}/week")
        page.get_by_role("button", name=re.compile(r", \d sessions?")).first.click()
        page.get_by_role("combobox", name="The week is").select_option(label=model)
        page.get_by_role("button", name="Apply").click()
        expect(page.get_by_role("button", name=re.compile(f"^{model}"))).to_be_visible()
        record(server, page, newcomer)
        follow(page, FAULT)
        expect(page.get_by_role("main")).to_contain_text(re.compile("pause", re.I))
