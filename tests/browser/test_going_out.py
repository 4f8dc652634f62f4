"""What is in the centre goes out by the pages: tables, an athlete's documents, a calendar under an address."""

from __future__ import annotations

import csv
import json
import os
import re
import urllib.request
from datetime import date, timedelta
from typing import Any

from playwright.sync_api import Browser, Page, Route, expect
from support.axe import check_axe


def test_a_table_of_one_athlete_and_some_days(server, page: Page, tmp_path) -> None:
    page.goto(f"{server.url}/settings")
    page.get_by_role("navigation", name="Settings").get_by_role("link", name="Data").click()
    expect(page.get_by_role("heading", name="Tables")).to_be_visible()
    check_axe(page)
    page.get_by_label("Of whom").select_option(label="Noor Vasko")
    with page.expect_download() as saved:
        page.get_by_role("button", name=re.compile("^CSV: Results")).click()
    file = tmp_path / saved.value.suggested_filename
    saved.value.save_as(file)
    assert re.fullmatch(r"results-\d{4}-\d\d-\d\d\.csv", file.name)
    rows = list(csv.DictReader(file.open(encoding="utf-8")))
    assert {r["athlete"] for r in rows} == {"Noor Vasko"}
    page.get_by_label("First day").fill("2026-11-20")
    page.get_by_label("Last day").fill("2026-11-01")
    page.get_by_role("button", name=re.compile("^XLSX: Sets")).click()
    expect(page.get_by_role("alert")).to_contain_text("The last day lies before the first.")


def test_what_takes_long_is_seen_and_can_be_stopped(server, page: Page) -> None:
    held: list[Route] = []
    page.route("**/api/export/tables/**", lambda route: held.append(route))
    page.goto(f"{server.url}/data")
    page.get_by_role("button", name=re.compile("^CSV: Sets")).click()
    expect(page.get_by_text("Being written …")).to_be_visible()
    page.get_by_role("button", name="Cancel").click()
    expect(page.get_by_role("button", name=re.compile("^CSV: Sets"))).to_be_visible()
    expect(page.get_by_role("alert")).to_have_count(0)
    assert len(held) == 1


def test_an_athlete_on_paper_and_as_files(server, page: Page, newcomer: int, tmp_path) -> None:
    page.goto(f"{server.url}/athletes/{newcomer}/record")
    out = page.get_by_role("region", name="On paper and as files")
    for name, kind in (("Everything as JSON", "jarvok athlete"), ("Plan as JSON", "jarvok plan")):
        with page.expect_download() as saved:
            out.get_by_role("button", name=name).click()
        saved.value.save_as(tmp_path / "out.json")
        told = json.loads((tmp_path / "out.json").read_text(encoding="utf-8"))
        assert (told["format"], told["name"][:5]) == (kind, "Sanna")
    pdf = page.request.get(server.url + (out.get_by_role("link", name="Print the file").get_attribute("href") or ""))
    assert pdf.body().startswith(b"%PDF")


def test_a_calendar_is_followed_under_its_address(server, page: Page, newcomer: int) -> None:
    page.goto(f"{server.url}/athletes/{newcomer}/calendar")
    out = page.get_by_role("region", name="Calendar out")
    out.get_by_role("button", name="Make an address").click()
    address = out.get_by_label("Address of the calendar")
    expect(address).to_have_value(re.compile(r"/api/calendars/.+\.ics$"))
    check_axe(page)
    with urllib.request.urlopen(address.input_value()) as answer:
        assert b"BEGIN:VCALENDAR" in answer.read()
    page.goto(f"{server.url}/people")
    page.get_by_role("button", name=re.compile("^End the link: The calendar of Sanna")).first.click()
    expect(page.get_by_role("button", name=re.compile("^End the link: The calendar of Sanna"))).to_have_count(0)


WEEKS = 12 if os.environ.get("JARVOK_WHOLE_CENTRE") else 1  # all twelve take minutes


def plans_of(get: Any) -> dict[str, list[Any]]:
    """What everybody is to do in the weeks ahead, by name: every line of every session with its loads, and the week in sums."""
    found: dict[str, list[Any]] = {}
    monday = date(2026, 11, 23)
    for squad in get("names"):
        for a in squad["athletes"]:
            for n in range(WEEKS):
                week = get(f"athletes/{a['id']}/week?start={monday + timedelta(weeks=n)}")["week"]
                sheets = [d[k] for d in week["days"] for k in ("sheet", "second") if d[k]] if week else []
                lines = [
                    (s["day"], s["key"], s["theme"], x["slot"], x["exercise_id"], x["text"], [r["load_words"] for r in x["sets"]])
                    for s in sheets
                    for x in s["lines"]
                ]
                found.setdefault(f"{squad['name']}: {a['name']}", []).append((week and week["sums"], lines))
    return found


def test_the_whole_centre_moves_with_every_plan_and_load(server, nursery, page: Page, browser: Browser, tmp_path_factory) -> None:
    from browser.conftest import Server

    file = tmp_path_factory.mktemp("file") / "centre.zip"
    file.write_bytes(page.request.get(f"{server.url}/api/export/centre.zip").body())
    other = Server(tmp_path_factory.mktemp("other"), nursery)
    other.manage("migrate")
    other.is_demo = False
    other.start()
    context = browser.new_context()
    try:
        token = context.request.get(f"{other.url}/api/me").json()["csrf_token"]
        taken = context.request.post(
            f"{other.url}/api/first-run/file",
            headers={"X-CSRFToken": token, "Referer": other.url},
            multipart={
                "file": {"name": "centre.zip", "mimeType": "application/zip", "buffer": file.read_bytes()},
                "person": "Ingrid Aas", "sign_in": "ingrid", "password": "four words of a song",
            },
        )  # fmt: skip
        assert taken.ok, taken.text()
        before = plans_of(lambda path: page.request.get(f"{server.url}/api/{path}").json())
        after = plans_of(lambda path: context.request.get(f"{other.url}/api/{path}").json())
        assert len(before) >= 23  # the demo's
        for who, weeks in before.items():
            assert after[who] == weeks, who
        assert after.keys() == before.keys()
        print(
            json.dumps(
                {"athletes": len(before), "weeks each": WEEKS, "lines": sum(len(x) for w in before.values() for _, x in w)}
            )
        )
    finally:
        context.close()
        other.kill()
