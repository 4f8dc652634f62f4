"""A stranger's path: an empty centre started as the README says, to the first session on the floor, out, and in again."""

from __future__ import annotations

import os
import re
import signal
from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, Page, expect
from support.axe import check_axe
from support.new_centre import free_port, started

PASSWORD, OTHER = "four words of a song", "another song of four words"


@pytest.fixture(scope="module")
def centre(tmp_path_factory) -> Iterator[str]:
    folder, port = tmp_path_factory.mktemp("centre"), free_port()
    process = started(folder, port)
    yield f"http://127.0.0.1:{port}"
    os.killpg(process.pid, signal.SIGKILL)
    assert (folder / "jarvok.sqlite3").exists()


def test_1_an_empty_centre_to_the_first_session_on_the_floor(centre: str, page: Page) -> None:
    page.goto(centre)
    expect(page).to_have_title("A new centre · Jarvok")
    check_axe(page)
    page.get_by_label("Name of the centre").fill("Skerry Hall")
    page.get_by_label("Time zone").select_option("Europe/Oslo")
    page.get_by_label("Your name").fill("Ingrid Aas")
    page.get_by_label("Name to sign in with").fill("ingrid")
    page.get_by_label("Password").fill("short")
    page.get_by_role("button", name="Begin").click()
    expect(page.get_by_role("alert")).to_contain_text("at least 10 characters")
    expect(page.get_by_label("Name of the centre")).to_have_value("Skerry Hall")  # nothing typed is lost
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Begin").click()
    expect(page.get_by_text("No athletes yet.")).to_be_visible()
    check_axe(page)
    page.get_by_role("link", name="Add or import athletes").click()
    page.get_by_role("button", name="Add an athlete").click()
    page.get_by_label("Name", exact=True).fill("Marit Holt")
    page.get_by_label("Squad", exact=True).fill("First squad")
    page.get_by_label("Sport of the new squad").fill("handball")
    page.get_by_role("button", name="Add and plan").click()
    form = page.get_by_role("form", name="A block of weeks")
    form.get_by_role("button", name="Plan the block").click()
    expect(page.get_by_role("heading", name=re.compile("^Block 1"))).to_be_visible()
    page.get_by_role("link", name="Floor", exact=True).click()
    row = page.locator(".sheet", has_text="First squad")
    row.get_by_role("button", name="Open the room").click()
    page.get_by_role("link", name="To the racks").click()
    lane = page.get_by_role("region", name="Rack 1")
    lane.get_by_role("button", name="Somebody joins").click()
    lane.get_by_role("button", name=re.compile("^Marit Holt")).click()
    free = lane.get_by_role("button", name=re.compile("^Free session"))
    expect(free.or_(lane.locator(".rotation"))).to_be_visible()
    if free.is_visible():  # no session falls on the day the test runs
        free.click()
    expect(lane.locator(".rotation")).to_contain_text("Marit Holt")
    check_axe(page)


def test_2_out_wrong_and_in_again_with_a_new_password(centre: str, page: Page) -> None:
    page.goto(centre)
    page.get_by_role("button", name="Ingrid Aas").click()
    page.get_by_role("button", name="Change my password").click()
    form = page.get_by_role("form", name="Change my password")
    form.get_by_label("Password so far").fill(PASSWORD)
    form.get_by_label("New password").fill(OTHER)
    check_axe(page)
    form.get_by_role("button", name="Change it").click()
    expect(form).to_have_count(0)
    if not page.get_by_role("button", name="Sign out").is_visible():
        page.get_by_role("button", name="Ingrid Aas").click()
    page.get_by_role("button", name="Sign out").click()
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
    page.get_by_label("Name").fill("ingrid")
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("alert")).to_contain_text("do not match")
    page.get_by_label("Password").fill(OTHER)
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("button", name="Ingrid Aas")).to_be_visible()


def test_2a_what_was_asked_just_before_a_new_password_is_asked_again_and_nobody_has_to_sign_in(centre: str, page: Page) -> None:
    """Two readings that were sent under the sign-in so far, and are answered when it has ended and the next is on its way."""
    page.goto(centre)
    expect(page.get_by_role("button", name="Ingrid Aas")).to_be_visible()
    page.route("**/api/me", lambda route: route.fulfill(json={"person_id": None}), times=1)
    page.route(re.compile("/api/athletes"), lambda route: route.fulfill(status=401, json={"title": "Sign in first."}), times=1)
    page.get_by_role("link", name="Athletes", exact=True).click()
    expect(page.get_by_role("link", name="Marit Holt")).to_be_visible()
    expect(page.get_by_role("dialog")).to_have_count(0)


def joined(browser: Browser, address: str, name: str) -> Page:
    """A browser of somebody else's, who takes the link they were sent and chooses a password."""
    page = browser.new_context(viewport={"width": 390, "height": 844}).new_page()
    page.goto(address)
    check_axe(page)
    page.get_by_label("Name to sign in with").fill(name)
    page.get_by_label("Password", exact=True).fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    return page


def asked_in(page: Page, role: str) -> str:
    """Ask somebody in as the form stands; return the link that is shown once."""
    page.get_by_role("button", name="Make the link").click()
    link = page.get_by_role("textbox", name=re.compile("^Link for "))
    expect(link).to_have_value(re.compile("/welcome/"))
    expect(page.get_by_role("cell", name=role, exact=True)).to_be_visible()
    return link.input_value()


def test_3_a_coach_and_an_athlete_come_by_their_links(centre: str, page: Page, browser: Browser) -> None:
    page.goto(centre)
    page.get_by_role("link", name="Settings", exact=True).click()
    page.get_by_role("link", name="People", exact=True).click()
    expect(page.get_by_text("Ingrid Aas (you)")).to_be_visible()
    page.get_by_role("button", name="Ask somebody in").click()
    form = page.get_by_role("form", name="Ask somebody in")
    form.get_by_label("Role").select_option(label="Assistant")
    form.get_by_label("Name").fill("Odd Lie")
    expect(form.get_by_label("First squad")).to_be_checked()  # the only one
    check_axe(page)
    assistant = joined(browser, asked_in(page, "Assistant"), "odd")
    expect(assistant.get_by_role("link", name="Floor", exact=True)).to_be_visible()
    assistant.get_by_role("link", name="Athletes", exact=True).click()
    expect(assistant.get_by_role("link", name="Marit Holt")).to_be_visible()
    expect(assistant.get_by_role("button", name="Add an athlete")).to_have_count(0)
    assistant.get_by_role("link", name="Marit Holt").click()
    expect(assistant.get_by_role("link", name="Details")).to_have_count(0)
    expect(assistant.get_by_role("button", name="Add a result")).to_have_count(0)

    page.get_by_role("button", name="Close", exact=True).click()
    page.get_by_role("button", name="Ask somebody in").click()
    form.get_by_label("Role").select_option(label="Athlete")
    form.get_by_label("Which athlete").fill("Marit Holt, First squad")
    form.get_by_label("May log their own sets").check()
    marit = joined(browser, asked_in(page, "Athlete"), "marit")
    expect(marit.get_by_role("heading", name="Marit Holt")).to_be_visible()
    expect(marit.get_by_role("link", name="Athletes", exact=True)).to_have_count(0)
    asked = marit.get_by_role("region", name="How are you today")  # the room is open
    expect(asked).to_be_visible()
    check_axe(marit)
    assert marit.evaluate("document.documentElement.scrollWidth") <= 390
    marit.locator("a.sheet").first.click()
    expect(marit.get_by_role("button", name="Start").or_(marit.locator("section.sheet, .floor")).first).to_be_visible()
    check_axe(marit)

    page.get_by_role("button", name="End the account of Odd Lie").click()
    expect(page.get_by_role("button", name="Bring back Odd Lie")).to_be_visible()
    assistant.reload()
    expect(assistant.get_by_role("button", name="Sign in")).to_be_visible()


def test_4_a_backup_is_made_and_put_back(centre: str, page: Page) -> None:
    page.goto(centre)
    page.get_by_role("link", name="Settings", exact=True).click()
    page.get_by_role("link", name="Data", exact=True).click()
    expect(page.get_by_role("cell", name="every day")).to_be_visible()  # made by itself since the centre began
    page.get_by_role("button", name="Back up now").click()
    expect(page.get_by_role("cell", name="by hand")).to_be_visible()
    page.get_by_role("link", name="Athletes", exact=True).click()
    page.get_by_role("button", name="Add an athlete").click()
    page.get_by_label("Name", exact=True).fill("Kari Second")
    page.get_by_label("Squad", exact=True).fill("First squad")
    page.get_by_role("button", name="Add and plan").click()
    expect(page.get_by_role("heading", name=re.compile("^Kari Second"))).to_be_visible()
    page.goto(f"{centre}/data")
    page.get_by_role("row", name=re.compile("by hand")).get_by_role("button", name=re.compile("^Restore")).click()
    expect(page.get_by_text("The backup is whole. It holds 1 athlete and")).to_be_visible()
    check_axe(page)
    page.get_by_role("button", name="Restore this backup").click()
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
    page.get_by_label("Name").fill("ingrid")
    page.get_by_label("Password").fill(OTHER)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("link", name="Athletes", exact=True).click()
    expect(page.get_by_role("link", name="Marit Holt")).to_be_visible()
    expect(page.get_by_role("link", name="Kari Second")).to_have_count(0)


def test_5_the_centre_moves_as_a_file_to_another_installation(
    centre: str, page: Page, tmp_path_factory, browser: Browser
) -> None:
    page.goto(f"{centre}/data")
    with page.expect_download() as whole:
        page.get_by_role("button", name="Download everything").click()
    folder, port = tmp_path_factory.mktemp("there"), free_port()
    file = folder / "centre.zip"
    whole.value.save_as(file)
    process = started(folder, port)
    try:
        there = browser.new_context().new_page()
        there.goto(f"http://127.0.0.1:{port}")
        there.get_by_role("button", name="Bring a centre from its file").click()
        check_axe(there)
        there.get_by_label("File of the centre").set_input_files(
            {"name": "x.zip", "mimeType": "application/zip", "buffer": b"no"}
        )
        there.get_by_label("Your name").fill("Ingrid Aas")
        there.get_by_label("Name to sign in with").fill("ingrid")
        there.get_by_label("Password").fill(PASSWORD)
        there.get_by_role("button", name="Begin", exact=True).click()
        expect(there.get_by_role("alert")).to_contain_text("This is no file of a whole centre.")
        there.get_by_label("File of the centre").set_input_files(file)
        there.get_by_role("button", name="Begin", exact=True).click()
        expect(there.get_by_role("button", name="Ingrid Aas")).to_be_visible()
        there.get_by_role("link", name="Athletes", exact=True).click()
        expect(there.get_by_role("link", name="Marit Holt")).to_be_visible()
        there.goto(f"http://127.0.0.1:{port}/people")
        expect(there.get_by_role("row", name=re.compile("^Marit Holt"))).to_be_visible()
    finally:
        os.killpg(process.pid, signal.SIGKILL)


PAGES = ("", "athletes", "people", "data", "squads", "history", "settings")


@pytest.mark.parametrize("width", [390, 820])
def test_6_the_pages_of_the_centre_on_a_phone_and_a_tablet(centre: str, page: Page, width: int) -> None:
    page.set_viewport_size({"width": width, "height": 844})
    for path in PAGES:
        page.goto(f"{centre}/{path}")
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        assert page.evaluate("document.documentElement.scrollWidth") <= width, path
