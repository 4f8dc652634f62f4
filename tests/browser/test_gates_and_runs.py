"""A sprint through gates on the floor is the curve on the athlete's page, by the interface alone."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect
from support.axe import check_axe
from support.coach import Coach


def test_a_run_through_gates_is_drawn_on_the_athletes_page(server, page: Page, newcomer: int) -> None:
    page.goto(f"{server.url}/sensors")
    page.get_by_label("Name", exact=True).fill("Hall gates")
    page.get_by_label("Measures").select_option("gates")
    page.get_by_label(re.compile("^Rack")).first.select_option("1")
    page.get_by_label("Gates at, m from the start", exact=True).fill("5 10 20 thirty")
    page.get_by_role("button", name="Add it").click()
    expect(page.get_by_role("alert")).to_contain_text("“thirty” is no distance.")
    page.get_by_label("Gates at, m from the start", exact=True).fill("5 10 20 30")
    page.get_by_role("button", name="Add it").click()
    expect(page.get_by_label("Gates of Hall gates at, m from the start")).to_have_value("5 10 20 30")
    check_axe(page)

    coach = Coach(server.url)  # who is at the rack has a test of its own
    squad = coach.call(f"athletes/{newcomer}/season")["squad_id"]
    room = coach.call("room", {"squad_id": squad})["id"]
    coach.call(f"room/{room}/racks/1/join", {"athlete_id": newcomer, "source": "free"})
    session = coach.call(f"room/{room}/racks")["lanes"][0]["turns"][0]["session_id"]
    coach.call(f"floor/sessions/{session}/lines", {"exercise_id": "sprint", "text": "2 × 30 m"})

    page.get_by_role("button", name="Send a run").click()
    expect(page.get_by_text("Hall gates sends one run.")).to_be_visible()
    page.goto(f"{server.url}/floor/{session}")
    expect(page.get_by_role("heading", name="Sprint")).to_be_visible()
    expect(page.get_by_text(re.compile(r"30 m 4\.\d\d"))).to_be_visible()  # as it comes, without reading the page again
    page.goto(f"{server.url}/athletes/{newcomer}/standing")
    run = page.get_by_role("region", name="Sprint")
    expect(run.get_by_text(re.compile(r"8\.\d+ m/s")).first).to_be_visible()
    check_axe(page)
