"""Unit → everywhere, by the interface alone: an athlete of a pounds room climbs a ladder and no kilogram is on the page."""

import re

from playwright.sync_api import Page, expect
from support.axe import check_axe

WHO = "Saskia Thorne"
POUNDS = ("100", "45", "35", "25", "10", "5", "2.5")
TRIES = (("90", "1.48"), ("120", "1.20"), ("145", "1.04"), ("160", "0.91"), ("150", "1.02"), ("155", "0.96"))
KILOGRAM = re.compile(r"\d\s*kg\b")


def test_a_ladder_in_a_pounds_room_says_no_kilogram(server, page: Page) -> None:
    page.goto(f"{server.url}/settings/kits")
    page.get_by_role("button", name="Add a kit").click()
    page.get_by_label("Name", exact=True).fill("Pounds hall")
    page.get_by_label("Plates in").select_option("lb")
    page.get_by_label("Bar", exact=True).fill("45")
    for i, mass in enumerate(POUNDS, start=1):
        page.get_by_label(f"Plate {i} mass", exact=True).fill(mass)
    page.get_by_role("button", name="Save the kit").click()
    expect(page.get_by_role("button", name="Change Pounds hall")).to_be_visible()
    page.goto(f"{server.url}/athletes")
    page.get_by_role("link", name=WHO).click()
    page.get_by_role("link", name="Details").click()
    page.get_by_label("Kit").select_option(label="Pounds hall")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text("Saved.", exact=True)).to_be_visible()
    page.get_by_role("link", name="Individual tests").click()
    expect(page.get_by_label("At most, lb")).to_be_visible()
    page.get_by_role("combobox", name="Lift").select_option(label="Power clean")
    page.get_by_label("Velocity, m/s").fill("1.00")
    page.get_by_role("button", name="Start", exact=True).click()
    main = page.get_by_role("main")
    for done, (load, speed) in enumerate(TRIES):
        expect(page.locator("aside ol li")).to_have_count(done)
        page.get_by_role("button", name="Other load").click()
        page.get_by_label("lb on the bar").fill(load)
        page.get_by_label("m/s peak").fill(speed)
        expect(page.get_by_text("second repetition at this load")).to_have_count(0)
        page.get_by_role("button", name="Log it").click()
        expect(page.locator("aside ol li").last).to_contain_text(f"{load} lb")
        assert not KILOGRAM.search(main.inner_text()), main.inner_text()
    check_axe(page)
    page.get_by_role("button", name="Save 150 lb").click()
    expect(page.get_by_text("Heaviest at 1.00 m/s or faster: 150 lb").first).to_be_visible()
    assert not KILOGRAM.search(main.inner_text())


def test_a_guided_test_in_the_same_room_says_none_either(server, page: Page) -> None:
    page.goto(f"{server.url}/athletes")
    page.get_by_role("link", name=WHO).click()
    page.get_by_role("link", name="Tests", exact=True).click()
    page.get_by_label("Lift to test").select_option(label="Deadlift")
    page.get_by_role("button", name="Start: Rep-max, aimed at 8").click()
    main, done = page.get_by_role("main"), page.locator("aside ol li")
    reps = page.get_by_label("reps with form")
    expect(page.get_by_role("region", name="Next set")).to_be_visible()
    for count in range(6):
        if reps.is_visible():
            break
        page.get_by_role("group", name="Felt effort").get_by_role("button", name="5", exact=True).click()
        page.get_by_role("button", name=re.compile("^Done: ")).click()
        expect(done).to_have_count(count + 1)
        expect(done.last).to_contain_text("lb ×")
        assert not KILOGRAM.search(main.inner_text()), main.inner_text()
    page.get_by_role("button", name="Change", exact=True).click()
    page.get_by_label("lb", exact=True).fill("155")
    reps.fill("8")
    page.get_by_role("button", name="Log 155 × 8").click()
    expect(done.last).to_contain_text("155 lb × 8")
    expect(page.get_by_text("8RM 155 lb").first).to_be_visible()
    check_axe(page)
    page.get_by_role("button", name=re.compile("^Save as")).click()
    expect(page.get_by_role("link", name="See what it did to the max")).to_be_visible()
    assert not KILOGRAM.search(main.inner_text()), main.inner_text()
