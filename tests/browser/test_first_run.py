"""A stranger's path: an empty centre started as the README says, to the first session on the floor, out, and in again."""

from __future__ import annotations

import os
import re
import signal
import socket
import subprocess
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect
from support.axe import check_axe
from support.demo_file import ROOT

PASSWORD, OTHER = "four words of a song", "another song of four words"


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def started(folder: Path, port: int) -> subprocess.Popen[bytes]:
    env = {k: v for k, v in os.environ.items() if not k.startswith("JARVOK_")} | {"CENTRE": str(folder), "PYTHONPATH": "src"}
    process = subprocess.Popen(
        ["scripts/start", str(port)], cwd=ROOT, env=env, start_new_session=True, stdout=subprocess.PIPE, stderr=subprocess.STDOUT
    )
    for _ in range(600):
        try:
            urllib.request.urlopen(f"http://127.0.0.1:{port}/api/me", timeout=2).read()
            return process
        except OSError:
            time.sleep(0.1)
    raise RuntimeError("the centre did not start")


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
    page.get_by_label("Where it lies").select_option("Europe/Oslo")
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
