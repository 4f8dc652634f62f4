"""The floor when the network, the server or the browser goes away: everything opens, nothing is lost, nothing comes twice."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect
from support.axe import check_axe
from support.long_session import long_session
from support.waiting import until

DONE = re.compile("^Done as written")
# a button that is drawn anew in this moment stands in no lane any more: nothing is tapped then
NAME_AND_TAP = """b => {
  const up = b.isConnected && b.closest('section.lane')?.querySelector('h2.name')?.innerText;
  if (up) b.click();
  return up || '';
}"""

# what the device keeps of Today for when there is no network: as of when, and how much it is
KEPT_TODAY = """caches.match('/api/today', {cacheName: 'jarvok-read'}).then(async kept =>
  kept ? {at: Number(kept.headers.get('Jarvok-Kept')), length: (await kept.text()).length} : null)"""


@pytest.fixture
def tablet(browser: Browser, browser_context_args) -> BrowserContext:
    """A tablet that keeps the pages, as browsers do over TLS and on the machine itself."""
    context = browser.new_context(**{**browser_context_args, "service_workers": "allow"})
    yield context
    context.close()


def keeps_the_pages(page: Page) -> None:
    """Wait until the pages are kept, and read once more through what keeps them."""
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    until(page, "caches.keys().then(k => k.some(n => n.includes('precache')))")
    page.reload()
    until(page, "navigator.serviceWorker.controller !== null")


def waiting(page: Page, count: int) -> None:
    expect(page.get_by_text(re.compile(f"{count} waiting to be sent"))).to_be_visible()


def begun(page: Page, url: str) -> str:
    """The wrestlers at four racks, their sessions begun; returns the address of the racks."""
    page.goto(f"{url}/floor")
    row = page.locator(".sheet", has_text="wrestling").filter(
        has=page.get_by_role("button", name=re.compile("Open the room|Arrival"))
    )
    row.get_by_role("button", name=re.compile("Open the room|Arrival")).click()
    page.get_by_role("button", name="All here").click()
    page.get_by_label("Racks").select_option("4")
    page.get_by_role("button", name="Place by load and height").click()
    page.get_by_role("button", name=re.compile("Begin \\d+ session")).click()
    expect(page.get_by_role("region", name="Rack 1")).to_be_visible()
    return page.url


def records(server) -> list[tuple[str, str, int]]:
    """Every set logged today, in the order in which it came: who, which line, which number."""
    said = server.output(
        "shell", "-v", "0", "-c",
        "from jarvok.app.facts.floor.models import SetRecord\n"
        "for r in SetRecord.objects.filter(line__session__day='2026-11-24').order_by('pk')"
        ".select_related('line__session__athlete'):\n"
        "    print('|'.join([r.line.session.athlete.name, str(r.line_id), str(r.number), r.kind]))",
    )  # fmt: skip
    return [tuple(line.split("|")) for line in said.split("\n") if "|" in line]


def test_0_the_days_sheets_open_without_a_network(server, tablet: BrowserContext) -> None:
    page = tablet.new_page()
    page.goto(f"{server.url}/floor")
    keeps_the_pages(page)
    expect(
        page.get_by_text(re.compile(r"Opens without a network on this device: the floor and \d+ of today’s sheets\."))
    ).to_be_visible()
    check_axe(page)
    sheets = page.get_by_role("link", name="Open the sheet")
    address = sheets.first.get_attribute("href")
    server.kill()
    page.reload()
    expect(sheets.first).to_be_visible()
    page.goto(f"{server.url}{address}")
    expect(page.locator("table.sheet-lines, table").first).to_be_visible()
    expect(page.get_by_text(re.compile("^Offline, as it stood"))).to_be_visible()
    check_axe(page)
    page.close()
    server.start()


def test_0b_who_has_looked_at_today_alone_opens_the_floor_and_the_sheets_too(server, tablet: BrowserContext) -> None:
    page = tablet.new_page()
    page.goto(server.url)
    keeps_the_pages(page)
    expect(
        page.get_by_text(re.compile(r"Opens without a network on this device: the floor and \d+ of today’s sheets\."))
    ).to_be_visible()
    server.kill()
    page.goto(f"{server.url}/floor")
    address = page.get_by_role("link", name="Open the sheet").first.get_attribute("href")
    page.goto(f"{server.url}{address}")
    expect(page.locator("table.sheet-lines, table").first).to_be_visible()
    page.close()
    server.start()


def unchanged_today(page: Page) -> None:
    """Go elsewhere and back to Today: the server says that it is what it was, and it is drawn."""
    page.get_by_role("navigation").first.get_by_role("link", name="Athletes").click()
    expect(page.get_by_role("heading", name="Athletes", level=1)).to_be_visible()
    page.clock.fast_forward(10_000)  # long enough for it to be read again
    with page.expect_response(lambda answer: answer.url.endswith("/api/today")) as read:
        page.get_by_role("navigation").first.get_by_role("link", name="Today").click()
    assert read.value.status == 304
    page.wait_for_timeout(500)  # and it is drawn
    expect(page.get_by_text("7 of 23 train today")).to_be_visible()
    expect(page.get_by_text("Something failed")).to_have_count(0)


def test_0c_what_has_not_changed_is_not_sent_again_and_is_kept_as_of_now(server, tablet: BrowserContext) -> None:
    page = tablet.new_page()
    page.clock.install()
    page.goto(server.url)
    keeps_the_pages(page)
    until(page, f"{KEPT_TODAY}.then(kept => kept !== null)")
    at_first = page.evaluate(KEPT_TODAY)
    unchanged_today(page)
    until(page, f"{KEPT_TODAY}.then(now => now.at > {at_first['at']} && now.length === {at_first['length']})")
    # a page that has read it before anything was kept on the device, or after it was thrown away
    page.evaluate("caches.open('jarvok-read').then(read => read.delete('/api/today'))")
    unchanged_today(page)
    until(page, f"{KEPT_TODAY}.then(now => now !== null && now.length === {at_first['length']})")
    page.close()


def test_1_a_whole_session_at_four_racks_with_no_network_a_dead_server_and_a_closed_browser(
    server, tablet: BrowserContext
) -> None:
    page = tablet.new_page()
    page.clock.install()
    racks = begun(page, server.url)
    keeps_the_pages(page)
    expect(page.locator("section.lane", has=page.get_by_role("button", name=DONE)).first).to_be_visible()
    until(page, "caches.open('jarvok-read').then(c => c.keys()).then(k => k.some(r => r.url.endsWith('/ahead')))")
    page.wait_for_timeout(2500)  # a quiet moment: the page reads on how the rotation goes
    before = len(records(server))
    server.kill()
    expected: list[str] = []

    def log(many: int) -> None:
        for _ in range(many):
            lanes = page.locator("section.lane", has=page.get_by_role("button", name=DONE))
            expect(lanes.first).to_be_visible()
            done = lanes.nth(len(expected) % lanes.count()).get_by_role("button", name=DONE)
            named = ""
            while not named:
                named = done.evaluate(NAME_AND_TAP)  # both at once: no lane moves on in between
            expected.append(named)
            waiting(page, len(expected))
            page.clock.fast_forward(1000)  # what has waited this long is shown as done

    shared = page.locator("section.lane", has=page.locator(".rotation .grip")).first
    log(4)
    first = page.locator(".rotation li", has_text=expected[0]).first
    expect(first.locator("> .soft.num")).to_have_text(re.compile(r"^0:\d\d$"))  # rests from the set that waits
    expect(shared.locator("h2.name")).not_to_have_text(re.compile("|".join(expected)))  # the next of the rotation is up
    expect(page.get_by_text("Offline: sets wait here")).to_be_visible()
    check_axe(page)
    log(26)
    page.reload()
    waiting(page, 30)
    expect(page.get_by_text(re.compile("^Offline, as it stood"))).to_be_visible()
    log(30)
    page.close()
    page = tablet.new_page()  # opened again while the server is still away
    page.goto(racks)
    waiting(page, 60)
    server.start()
    expect(page.get_by_text(re.compile("waiting to be sent"))).to_have_count(0, timeout=120_000)
    came = records(server)[before:]
    assert [r[0] for r in came] == expected
    assert len(set(came)) == 60


def log(page: Page, reps: int) -> None:
    """Log the set that is up with a number of repetitions, and pass the moment after which it is shown as done."""
    page.get_by_role("button", name="Change", exact=True).click()
    page.get_by_label("reps", exact=True).fill(str(reps))
    page.get_by_role("button", name=re.compile("^Log")).click()
    page.clock.fast_forward(1000)


def reps_of(server, session: str) -> list[int]:
    """The repetitions of a session's sets, in the order in which they came."""
    said = server.output(
        "shell", "-v", "0", "-c",
        "from jarvok.app.facts.floor.models import SetRecord\n"
        f"print([r.reps for r in SetRecord.objects.filter(line__session_id={session}).order_by('pk')])",
    )  # fmt: skip
    return [int(n) for n in re.findall(r"\d+", said.strip().split("\n")[-1])]


def all_sent(page: Page) -> None:
    for _ in range(100):
        page.clock.fast_forward(2500)
        page.wait_for_timeout(100)
        if page.get_by_text(re.compile("waiting to be sent")).count() == 0:
            return
    raise AssertionError(page.locator("header").inner_text())


@pytest.fixture
def session(server) -> str:
    return long_session(server)


@pytest.fixture
def floor(server, session: str, browser: Browser, browser_context_args) -> Page:
    """A session on the floor in a browser of its own, whose time the test moves."""
    page = browser.new_context(**browser_context_args).new_page()
    page.clock.install()
    page.goto(f"{server.url}/floor/{session}")
    expect(page.get_by_role("heading", name="Bench press")).to_be_visible()
    yield page
    page.context.close()


def test_2_two_tabs_lose_nothing(server, session: str, floor: Page) -> None:
    other_session = long_session(server)
    other = floor.context.new_page()
    other.clock.install()
    other.goto(f"{server.url}/floor/{other_session}")
    expect(other.get_by_role("heading", name="Bench press")).to_be_visible()
    floor.context.set_offline(True)
    for n in range(1, 6):
        log(floor, n)
        log(other, 10 + n)
    waiting(floor, 10)
    waiting(other, 10)
    other.close()
    floor.context.set_offline(False)
    all_sent(floor)
    assert reps_of(server, session) == [1, 2, 3, 4, 5]
    assert reps_of(server, other_session) == [11, 12, 13, 14, 15]


def test_3_a_cleared_storage_loses_nothing_that_is_open(server, session: str, floor: Page) -> None:
    floor.context.set_offline(True)
    log(floor, 1)
    log(floor, 2)
    waiting(floor, 2)
    browser = floor.context.new_cdp_session(floor)
    browser.send("Storage.clearDataForOrigin", {"origin": server.url, "storageTypes": "all"})
    log(floor, 3)
    waiting(floor, 3)
    floor.context.set_offline(False)
    floor.reload()  # what was put back is there
    all_sent(floor)
    assert reps_of(server, session) == [1, 2, 3]


@pytest.mark.parametrize("off_s", [-86_400, 86_400])
def test_4_the_tablets_clock_a_day_off(server, session: str, floor: Page, off_s: int) -> None:
    now = floor.evaluate("Date.now()") / 1000
    floor.context.set_offline(True)
    log(floor, 1)
    floor.clock.set_system_time(now + off_s)
    log(floor, 2)
    log(floor, 3)
    waiting(floor, 3)
    expect(floor.get_by_text("set 4 of 15")).to_be_visible()
    rests = floor.locator(".floor-bar .lab", has_text="since the last set").locator("b")
    expect(rests).to_have_text(re.compile(r"^0:\d\d of"))  # from the set that waits, by the server's clock
    floor.clock.fast_forward(60_000)
    expect(rests).to_have_text(re.compile(r"^1:\d\d of"))
    floor.context.set_offline(False)
    all_sent(floor)
    assert reps_of(server, session) == [1, 2, 3]
    expect(floor.get_by_text(re.compile("not taken"))).to_have_count(0)


def test_5_plain_http_under_another_name(server, session: str, browser: Browser, browser_context_args) -> None:
    page = browser.new_context(**{**browser_context_args, "service_workers": "allow"}).new_page()
    page.clock.install()
    page.goto(f"http://hall.test:{server.port}/floor/{session}")
    assert page.evaluate("[window.isSecureContext, typeof crypto.randomUUID]") == [False, "undefined"]
    for n in (1, 2):
        log(page, 4 + n)  # as many as written or more: nothing that the answer would stop the lift for
        expect(page.get_by_text(f"set {n + 1} of 15")).to_be_visible()
    all_sent(page)
    assert reps_of(server, session) == [5, 6]
    page.goto(f"http://hall.test:{server.port}/floor")
    expect(page.get_by_text("This page came over plain http")).to_be_visible()
    check_axe(page)
    page.context.close()


PASSWORD = "four words of a song"
SET_PASSWORD = f"""
from django.contrib.auth import get_user_model
for user in get_user_model().objects.all():
    user.set_password({PASSWORD!r}); user.save(); print(user.username)
"""
END_ALL = "from jarvok.app.facts.people.models import SignedIn; SignedIn.objects.all().delete()"


def sign_in(page: Page, name: str) -> None:
    page.get_by_label("Name", exact=True).fill(name)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in", exact=True).click()


def test_6_a_sign_in_that_ends_while_sets_wait_and_a_form_is_typed(
    server, session: str, browser: Browser, browser_context_args
) -> None:
    server.kill()
    server.is_demo = False
    server.start()
    server.output("shell", "-c", SET_PASSWORD)
    page = browser.new_context(**browser_context_args).new_page()
    page.clock.install()
    page.goto(f"{server.url}/floor/{session}")
    sign_in(page, "coach")
    expect(page.get_by_role("heading", name="Bench press")).to_be_visible()
    server.output("shell", "-c", END_ALL)
    log(page, 1)
    expect(page.get_by_role("button", name="Sign in to send")).to_be_visible()
    log(page, 2)
    log(page, 3)
    waiting(page, 3)
    page.get_by_role("button", name="Sign in to send").click()
    again = page.get_by_role("dialog", name="Sign in again")
    expect(again).to_be_visible()
    check_axe(page)
    sign_in(page, "coach")
    expect(again).to_have_count(0)
    all_sent(page)
    assert reps_of(server, session) == [1, 2, 3]
    page.goto(f"{server.url}/athletes")
    page.get_by_role("button", name="Add an athlete").click()
    server.output("shell", "-c", END_ALL)
    page.get_by_label("Name", exact=True).fill("Typed Before It Ended")
    page.get_by_label("Squad", exact=True).fill("Evening squad")
    page.get_by_label("Sport of the new squad").fill("handball")
    page.get_by_role("button", name="Add and plan").click()
    expect(again).to_be_visible()
    again.get_by_label("Name", exact=True).fill("coach")
    again.get_by_label("Password").fill(PASSWORD)
    again.get_by_role("button", name="Sign in", exact=True).click()
    expect(again).to_have_count(0)
    expect(page.get_by_role("heading", name="Typed Before It Ended: no season yet")).to_be_visible()
    page.context.close()


ATHLETE = f"""
from django.contrib.auth import get_user_model
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.people.models import Person, Role
session = TrainingSession.objects.filter(day='2026-11-24', finished_at=None).exclude(told=None).order_by('pk').first()
user = get_user_model().objects.create_user('wren', password={PASSWORD!r})
Person.objects.create(user=user, name='Wren', role=Role.ATHLETE, athlete=session.athlete, may_log=True)
print(session.pk)
"""


def test_7_an_athletes_own_pages_open_without_a_network(server, tablet: BrowserContext) -> None:
    session = server.output("shell", "-v", "0", "-c", ATHLETE).split()[-1]
    page = tablet.new_page()
    page.goto(server.url)
    sign_in(page, "wren")
    expect(page.get_by_role("link", name="My training")).to_be_visible()
    keeps_the_pages(page)
    expect(page.get_by_role("heading", name="How are you today?")).to_be_visible()
    mine = page.get_by_role("main").inner_text()
    page.goto(f"{server.url}/floor/{session}")
    expect(page.get_by_role("button", name=DONE).or_(page.get_by_role("button", name="Change", exact=True)).first).to_be_visible()
    server.kill()
    page.reload()
    expect(page.get_by_role("button", name="Change", exact=True)).to_be_visible()
    page.get_by_role("link", name="My training").click()
    expect(page.get_by_role("main")).to_contain_text(mine.split("\n")[0])
    page.reload()
    expect(page.get_by_text(re.compile("^Offline, as it stood"))).to_be_visible()
    expect(page.get_by_role("main")).to_contain_text(mine.split("\n")[0])
    check_axe(page)
