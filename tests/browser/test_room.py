"""The room on a training day, in the real interface: arrival, racks, clocks, links, trials, sensors, and a long cut."""

from __future__ import annotations

import re
import time

import pytest
from playwright.sync_api import Browser, Page, expect
from support.axe import check_axe
from support.coach import Coach
from support.long_session import long_session
from support.waiting import until

pytestmark = pytest.mark.usefixtures("problems")


def open_the_room(page: Page, url: str) -> str:
    page.goto(f"{url}/floor")
    row = page.locator(".sheet", has_text="wrestling").filter(
        has=page.get_by_role("button", name=re.compile("Open the room|Arrival"))
    )
    row.get_by_role("button", name=re.compile("Open the room|Arrival")).click()
    expect(page.get_by_role("heading", name=re.compile("wrestling"))).to_be_visible()
    return page.url


def too_small_for_a_finger(page: Page) -> list[str]:
    """What is tapped at the racks and is under 44 pixels either way."""
    return page.evaluate(
        "[...document.querySelectorAll('section.lane button')].filter(b => b.offsetParent && b.className.includes('tap'))"
        ".filter(b => { const r = b.getBoundingClientRect(); return r.height < 44 || r.width < 44 })"
        ".map(b => b.getAttribute('aria-label') || b.textContent)"
    )


def test_1_arrival_to_the_bar(server, page: Page) -> None:
    open_the_room(page, server.url)
    page.get_by_role("button", name="Tamsin Quill not here").click()
    expect(page.get_by_role("button", name="Tamsin Quill here")).to_be_visible()
    page.get_by_role("button", name="Tamsin Quill", exact=True).click()
    panel = page.get_by_role("complementary", name="Arrival of Tamsin Quill")
    for question, n in (("Sleep", 1), ("Soreness", 2), ("Stress", 3), ("Energy", 2)):
        panel.get_by_role("group", name=question).get_by_role("button", name=re.compile(f"^{n},")).click()
    panel.get_by_role("button", name="match").click()
    panel.get_by_role("button", name="Save answers").click()
    expect(panel.get_by_text("Plan C suggested")).to_be_visible()
    expect(panel.get_by_text(re.compile("sleep 1 of 5"))).to_be_visible()
    panel.get_by_role("button", name=re.compile("of 100, show the working")).click()
    expect(page.get_by_text(re.compile("weight 1.5"))).to_be_visible()
    page.keyboard.press("Escape")
    panel.get_by_role("button", name=re.compile("^B")).click()
    panel.get_by_role("button", name="looks tired").click()
    expect(page.get_by_role("row", name=re.compile("Tamsin Quill"))).to_contain_text("said C")
    check_axe(page)
    page.get_by_role("button", name="All here").click()
    expect(page.get_by_role("button", name=re.compile("not here"))).to_have_count(0)
    page.get_by_label("Racks").select_option("4")
    page.get_by_role("button", name="Place by load and height").click()
    expect(page.get_by_label("Rack of Tamsin Quill")).not_to_have_value("")
    page.get_by_role("button", name=re.compile("Begin \\d+ session")).click()
    expect(page.get_by_role("region", name="Rack 1")).to_be_visible()


def test_2_one_tap_logs_and_the_turn_goes_on(server, page: Page) -> None:
    open_the_room(page, server.url)
    page.get_by_role("link", name="To the racks").click()
    lanes = page.locator("section.lane", has=page.get_by_role("button", name=re.compile("^Done as written")))
    expect(lanes.first).to_be_visible()
    check_axe(page)
    lane = lanes.filter(has=page.locator(".rotation .grip")).first
    expect(lane).to_be_visible()
    assert too_small_for_a_finger(page) == []
    first = lane.locator("h2.name").inner_text()
    lane.get_by_role("button", name=re.compile("^Done as written")).click()
    expect(lane.locator("h2.name")).not_to_have_text(first)
    lane.get_by_role("button", name=f"Up next: {first}").click()
    expect(lane.locator("h2.name")).to_have_text(first)
    lane.get_by_role("button", name="Undo").click()
    expect(lane.get_by_text(re.compile("set 1 of"))).to_be_visible()


def test_2a_a_lift_is_stopped_and_somebody_leaves_at_the_rack(server, page: Page) -> None:
    open_the_room(page, server.url)
    page.get_by_role("link", name="To the racks").click()
    shared = page.locator("section.lane", has=page.locator(".rotation .grip")).last
    lane = page.get_by_role("region", name=shared.get_attribute("aria-label"), exact=True)
    name = lane.locator("h2.name").inner_text()
    what = lane.locator(".what").inner_text()
    lane.get_by_role("button", name="More …").click()
    lane.get_by_role("button", name="Stop lift: out of time").click()
    expect(lane.locator(".what").filter(has_text=what)).to_have_count(0)
    expect(lane.locator("h2.name")).to_be_visible()
    lane.get_by_role("button", name="Undo").click()
    expect(lane.locator("h2.name")).to_have_text(name)
    expect(lane.locator(".what")).to_have_text(what)
    lane.get_by_role("button", name=f"leave the rack: {name}").click()  # one tap
    expect(lane.locator("h2.name")).not_to_have_text(name)
    expect(lane.locator(".rotation").get_by_text(name)).to_have_count(0)
    check_axe(page)


def test_2b_repetitions_come_to_the_lane_by_themselves(server, page: Page) -> None:
    coach = Coach(server.url)
    room = next(e["room_id"] for e in coach.call("room/entries") if "wrestling" in e["squad"])
    for _ in range(40):
        lanes = coach.call(f"room/{room}/racks")["lanes"]
        up = next((lane["up"] for lane in lanes if lane["up"] and lane["up"]["current"]), None)
        assert up is not None
        line = next(x for x in up["lines"] if x["id"] == up["current"]["line_id"])
        item = next(s for s in line["sets"] if (s["kind"], s["number"]) == (up["current"]["kind"], up["current"]["number"]))
        if line["can_simulate"]:
            break
        coach.call(f"floor/sessions/{up['id']}/sets", {**up["current"], "load_kg": item["load_kg"], "reps": item["reps"] or 1})
    page.goto(f"{server.url}/room/{room}/racks")
    lane = page.locator("section.lane", has=page.get_by_role("button", name="Simulated sensor")).first
    lane.get_by_role("button", name="Simulated sensor").click()
    until(page, "performance.getEntriesByName('rep-shown').length >= 2", timeout_s=60)
    waits = page.evaluate("performance.getEntriesByName('rep-shown').map(e => e.detail.shown_ms - e.detail.received_ms)")
    print(f"last sample received to the lane: {[round(w) for w in waits]} ms")
    expect(lane.locator("svg text").filter(has_text=re.compile(r"^\d\.\d\d$")).nth(1)).to_be_visible()


def test_3_a_racks_link_shows_the_rack_and_logs(server, browser: Browser, page: Page, browser_context_args) -> None:
    open_the_room(page, server.url)
    page.get_by_role("link", name="To the racks").click()
    busy = page.locator("section.lane", has=page.get_by_role("button", name=re.compile("^Done as written"))).first
    number = re.sub(r"\D", "", busy.get_attribute("aria-label") or "")
    page.get_by_role("link", name=f"Rack {number}", exact=True).click()
    page.get_by_role("button", name="Link for a tablet").click()
    link = page.locator("a[href*='/rack/']").get_attribute("href")
    tablet = browser.new_context(**{**browser_context_args, "viewport": {"width": 820, "height": 1180}}).new_page()
    tablet.goto(link)
    expect(tablet.get_by_role("region", name=f"Rack {number}")).to_be_visible()
    expect(tablet.get_by_role("link", name="Athletes")).to_have_count(0)
    with tablet.expect_request("**/sets") as sent:
        tablet.get_by_role("button", name=re.compile("^Done as written")).click()
    assert sent.value.headers["x-rack-link"]
    expect(tablet.get_by_role("button", name=re.compile("^Done as written"))).to_be_visible()
    assert too_small_for_a_finger(tablet) == []
    check_axe(tablet)
    tablet.context.close()


def test_3b_a_racks_link_goes_on_without_the_server(server, browser: Browser, page: Page, browser_context_args) -> None:
    """The tablet of a link: the server dies, the page is loaded again, sets are logged, and come once when it is back."""
    page.goto(f"{server.url}/floor")
    page.get_by_role("link", name=re.compile("^Racks")).first.click()
    busy = page.locator("section.lane", has=page.get_by_role("button", name=re.compile("^Done as written"))).first
    number = re.sub(r"\D", "", busy.get_attribute("aria-label") or "")
    page.get_by_role("link", name=f"Rack {number}", exact=True).click()
    page.get_by_role("button", name="Link for a tablet").click()
    link = page.locator("a[href*='/rack/']").get_attribute("href")
    kept = browser.new_context(**{**browser_context_args, "service_workers": "allow"})
    tablet = kept.new_page()
    tablet.goto(link)
    done = tablet.get_by_role("button", name=re.compile("^Done as written"))
    expect(done).to_be_visible()
    tablet.evaluate("navigator.serviceWorker.ready.then(() => true)")
    until(tablet, "caches.keys().then(k => k.some(n => n.includes('precache')))")
    tablet.reload()
    until(tablet, "navigator.serviceWorker.controller !== null")
    expect(done).to_be_visible()
    tablet.wait_for_timeout(2500)  # a quiet moment, in which it reads how the rack goes on
    before = logged(server)
    server.kill()
    tablet.reload()
    expect(tablet.get_by_role("region", name=f"Rack {number}")).to_be_visible()
    done.click()
    expect(tablet.get_by_text(re.compile("1 waiting to be sent"))).to_be_visible()
    check_axe(tablet)
    tablet.reload()
    expect(tablet.get_by_text(re.compile("1 waiting to be sent"))).to_be_visible()
    server.start()
    expect(tablet.get_by_text(re.compile("waiting to be sent"))).to_have_count(0, timeout=60_000)
    assert logged(server) == before + 1
    kept.close()


def logged(server) -> int:
    said = server.output(
        "shell", "-v", "0", "-c",
        "from jarvok.app.facts.floor.models import SetRecord; print(SetRecord.objects.count())",
    )  # fmt: skip
    return int(said.split()[-1])


def test_4_an_athletes_own_link(server, browser: Browser, browser_context_args) -> None:
    coach = Coach(server.url)
    room = next(e["room_id"] for e in coach.call("room/entries") if "wrestling" in e["squad"])
    person = coach.call(f"room/{room}")["people"][0]
    path = coach.call(f"room/{room}/ready-link/{person['athlete_id']}", {})["path"]
    phone = browser.new_context(**{**browser_context_args, "viewport": {"width": 390, "height": 800}}).new_page()
    phone.goto(server.url + path)
    expect(phone.get_by_role("heading", name=person["name"])).to_be_visible()
    for question in ("Sleep", "Soreness", "Stress", "Energy"):
        phone.get_by_role("group", name=question).get_by_role("button", name=re.compile("^4,")).click()
    check_axe(phone)
    phone.get_by_role("button", name="Send").click()
    expect(phone.get_by_text("your coach has it")).to_be_visible()
    assert coach.call(f"room/{room}")["people"][0]["by_athlete"]
    phone.goto(f"{server.url}/ready/{path[-20:]}")
    expect(phone.get_by_text("This link is over")).to_be_visible()
    phone.context.close()


def test_5_a_clock_is_exact_over_an_hour_and_over_a_reload(server, page_with_clock: Page) -> None:
    page = page_with_clock
    coach = Coach(server.url)
    room = next(e["room_id"] for e in coach.call("room/entries") if "wrestling" in e["squad"])
    page.goto(f"{server.url}/room/{room}/clock")
    page.get_by_role("button", name="EMOM, every x", exact=True).click()
    page.get_by_label("every, s").fill("90")
    page.get_by_label("rounds", exact=True).fill("60")
    check_axe(page)
    page.get_by_role("button", name="Start", exact=True).click()
    face = page.get_by_role("timer")
    expect(face).to_be_visible()
    check_axe(page)
    page.wait_for_timeout(800)  # the page asks for the server's time
    started = coach.call(f"room/{room}/racks")["room_clock"]["started_ms"]
    read = """(started) => new Promise(done => {
        const face = document.querySelector('[data-elapsed]');
        new MutationObserver((_, o) => { o.disconnect(); done(Number(face.dataset.elapsed) - (Date.now() - started) / 1000); })
            .observe(face, {attributes: true});
    })"""
    off = [page.evaluate(read, started) for _ in range(15)]
    assert min(abs(x) for x in off) < 0.05, off
    page.reload()
    expect(face).to_be_visible()
    page.wait_for_timeout(800)
    off = [page.evaluate(read, started) for _ in range(15)]
    assert min(abs(x) for x in off) < 0.05, off
    page.route("**/api/now", lambda route: route.abort())  # the real server does not wait an hour with the page
    page.clock.install()
    page.reload()
    expect(face).to_be_visible()
    page.clock.pause_at((page.evaluate("Date.now()") + 30_000) / 1000)  # from here on time moves only when it is told to
    page.clock.run_for(200)
    before = float(page.locator("[data-elapsed]").get_attribute("data-elapsed") or 0)
    page.clock.fast_forward(3600 * 1000)
    page.clock.run_for(200)
    after = float(page.locator("[data-elapsed]").get_attribute("data-elapsed") or 0)
    assert abs(after - before - 3600.2) < 0.15, "the face is worked out anew each time, so an hour of ticks adds nothing"
    coach.call(f"room/{room}/clocks/{coach.call(f'room/{room}/racks')['room_clock']['id']}/stop", {})


def test_6_a_ladder_by_hand_and_what_it_keeps(server, page: Page) -> None:
    page.goto(f"{server.url}/athletes")
    page.get_by_role("link", name="Noor Vasko").click()
    page.get_by_role("link", name="Individual tests").click()
    check_axe(page)
    page.get_by_role("combobox", name="Lift").select_option(label="Back squat")
    page.get_by_label("Velocity, m/s").fill("0,70")
    page.get_by_role("button", name="Start", exact=True).click()
    for _ in range(14):
        if page.get_by_role("button", name=re.compile("^Save|^End it")).count():
            break
        load = float(page.locator(".big-kg").inner_text().split("kg")[0])
        page.get_by_label("m/s mean").fill(f"{0.70 - 0.0105 * (load - 71):.2f}")
        done = page.locator("aside ol li").count()
        page.get_by_role("button", name="Log it").click()
        expect(page.locator("aside ol li")).to_have_count(done + 1)
    check_axe(page)
    page.get_by_role("button", name="Save 70 kg").click()
    expect(page.get_by_text("Heaviest at 0.70 m/s or faster: 70 kg").first).to_be_visible()


def test_7_a_sensor_is_added_paired_and_tried(server, page: Page) -> None:
    page.goto(f"{server.url}/sensors")
    page.get_by_label("Name").fill("Mat by the door")
    page.get_by_label("Measures").select_option(label="jump mat")
    page.get_by_role("button", name="Add it").click()
    expect(page.get_by_role("cell", name="Mat by the door jump mat")).to_be_visible()
    page.get_by_label("Rack of Mat by the door").select_option("2")
    page.get_by_role("button", name="Send a set").click()
    expect(page.get_by_text("Mat by the door sends one set.")).to_be_visible()
    page.get_by_label("or paste it").fill("load,mean velocity\n60,0.95\n80,0.72\n100,0.50")
    page.get_by_role("combobox", name="Device").click()
    expect(page.get_by_text("60 kg 0.95")).to_be_visible()
    page.get_by_role("button", name="Athlete: none chosen").click()
    page.get_by_label("Find an athlete by name").fill("noor")
    page.keyboard.press("Enter")
    page.get_by_role("combobox", name="Of which lift").fill("back squat")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Save them").click()
    expect(page.get_by_text("3 loads with their fastest repetition are kept.")).to_be_visible()
    check_axe(page)


def test_8_ten_minutes_without_a_network_and_sixty_sets_typed(server, page_with_clock: Page) -> None:
    page = page_with_clock
    coach = Coach(server.url)
    page.clock.install()
    session = long_session(server)
    page.goto(f"{server.url}/floor/{session}")
    expect(page.get_by_role("heading", name="Bench press")).to_be_visible()
    page.context.set_offline(True)
    for n in range(60):
        expect(page.get_by_text(f"set {n % 15 + 1} of 15")).to_be_visible()
        page.get_by_role("button", name="Change", exact=True).click()
        page.get_by_label("reps", exact=True).fill(str(n % 7 + 1))
        page.get_by_role("button", name=re.compile("^Log")).click()
        page.clock.fast_forward(10_000)  # every timer that is due, once: not six hundred frames
    expect(page.get_by_text("60 waiting to be sent")).to_be_visible()
    page.context.set_offline(False)
    for _ in range(300):
        page.clock.fast_forward(2_500)
        time.sleep(0.2)  # the server needs its own time for sixty sets
        if page.get_by_text("waiting to be sent").count() == 0:
            break
    expect(page.get_by_text("waiting to be sent")).to_have_count(0)
    floor = coach.call(f"floor/sessions/{session}")
    done = [s["done"] for line in floor["lines"] for s in line["sets"]]
    assert [d["reps"] for d in done] == [n % 7 + 1 for n in range(60)]
    ids = [d["id"] for d in done]
    assert ids == sorted(ids), "they arrive in the order they were typed"
