"""Sessions written by hand on an empty day of an athlete made here: four, their clicks counted, one played on the floor."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Locator, Page, expect
from support.axe import check_axe

DAY = re.compile(r"session on (Wednesday|Thursday|Friday|Saturday|Sunday)")


class Hand:
    """A coach's hand: each click, each choice and each key that is no word is one interaction."""

    def __init__(self, page: Page) -> None:
        self.page, self.count = page, 0

    def click(self, what: Locator) -> None:
        what.click()
        self.count += 1

    def button(self, name: str | re.Pattern[str], *, exact: bool = False) -> None:
        self.click(self.page.get_by_role("button", name=name, exact=exact))

    def press(self, *keys: str) -> None:
        for key in keys:
            self.page.keyboard.press(key)
            self.count += 1

    def type(self, text: str) -> None:
        self.page.keyboard.type(text)

    def line(self, exercise: str, text: str, slot: str, block: str = "") -> None:
        """Add a line by the mouse: find the exercise, choose it, say how it is done, add it."""
        field = self.page.get_by_role("combobox", name="Exercise")
        if not field.evaluate("e => e === document.activeElement"):
            self.click(field)
        self.type(exercise)
        self.click(self.page.get_by_role("option").first)
        self.type(text)
        if block:
            self.click(self.page.get_by_label("Block", exact=True))
            self.page.keyboard.press("ControlOrMeta+a")
            self.type(block)
        self.button("Add", exact=True)
        expect(self.page.get_by_role("button", name=re.compile(f"^{slot}: "))).to_be_visible()

    def group(self, block: str, grouping: str, **figures: str) -> None:
        """Group a block: how its lines run, and its figures."""
        self.button(f"Group: {block}")
        form = self.page.get_by_role("form", name=f"Group {block}")
        form.get_by_label("Grouping").select_option(label=grouping)
        self.count += 1
        for name, value in figures.items():
            self.click(form.get_by_label(LABELS[name]))
            self.page.keyboard.press("ControlOrMeta+a")
            self.type(value)
        self.click(form.get_by_role("button", name="Apply"))
        expect(form).to_have_count(0)

    def blocks(self, text: str) -> None:
        """Write whole blocks as they stand on the board."""
        self.button("Write whole blocks")
        self.type(text)
        self.press("ControlOrMeta+Enter")
        expect(self.page.get_by_label("Blocks as they stand on the board")).to_have_count(0)


LABELS = {"rounds": "Rounds, or sets of each", "between": "between rounds, s", "every": "every, s", "minutes": "minutes",
          "bpm": "beats a minute", "inside": "rest inside, s"}  # fmt: skip


@pytest.fixture
def empty_day(server, page: Page, newcomer: int) -> Hand:
    """A session without a line on a day that holds none."""
    page.goto(f"{server.url}/athletes/{newcomer}/week")
    hand = Hand(page)
    hand.click(page.get_by_role("button", name=DAY).first)
    expect(page.get_by_text("Nothing in it yet.")).to_be_visible()
    return hand


def unfold(page: Page, block: str) -> Locator:
    page.get_by_role("button", name=f"Set by set: {block}").click()
    return page.get_by_role("table", name=f"{block}, set by set")


def no_note_says_it(page: Page) -> None:
    """Nothing stands in a word beside a line."""
    path = page.url.replace("/session/", "/sessions/").replace("/athletes/", "/api/athletes/")
    assert [x["note"] for x in page.request.get(path).json()["lines"] if x["note"]] == []


def test_up_to_the_days_heaviest_in_45_clicks(page: Page, empty_day: Hand) -> None:
    """A warm-up in two parts with the implement heavier by round, a complex on the clock, then the lift until it is missed."""
    hand = empty_day
    hand.blocks(
        "Prepare, warm-up circuit, 5 min\nlight jog 1 min\nbear crawl 10 m\nhip switch 8\n\n"
        "Prepare, bar, 2 rounds\nsquat walk 10 m\nopposite arm and leg 8; harder: knees off\n"
        "pull drill with a stick 5 (stick / bar 20 kg)\nfront squat with a stick 5 (stick / bar 20 kg)"
    )
    expect(page.get_by_role("button", name=re.compile("^P7: "))).to_be_visible()
    hand.line("power clean", "5 × 1 @ 50 %", "A1", "light complex")
    hand.line("front squat", "5 × 1", "A2")
    hand.line("push press", "5 × 1", "A3")
    hand.group("A · light complex", "Complex", every="90")
    hand.line("clean and jerk", "8 × 1 @ 70 % + 2.5 kg", "B1", "until a miss")
    hand.group("B · until a miss", "Until you miss", every="90")
    expect(page.get_by_role("button", name=re.compile("^B1: .*every 1:30, until you miss"))).to_be_visible()
    expect(unfold(page, "Prepare, bar")).to_contain_text("5, bar 20 kg")
    expect(page.get_by_role("row", name=re.compile("^A · light complex"))).to_contain_text("complex, every 1:30")
    no_note_says_it(page)
    print(f"day's heaviest: {hand.count}")
    assert hand.count <= 45


CONTRAST = [("trap-bar jump", "1 ladder to 1.8 m/s peak"), ("single-leg low hurdle", "1/side"),
            ("kettlebell swing", "5 @ 20 kg"), ("band-assisted jump", "4")]  # fmt: skip


def test_a_contrast_of_four_with_a_ladder_in_25_clicks_and_played_on_the_floor(page: Page, empty_day: Hand) -> None:
    hand = empty_day
    for n, (exercise, text) in enumerate(CONTRAST, start=1):
        hand.line(exercise, f"1 × {text}", f"A{n}", "contrast" if n == 1 else "")
    hand.group("A · contrast", "Contrast", rounds="6", between="180")
    rows = unfold(page, "A · contrast")
    expect(rows.get_by_role("row")).to_have_count(7)
    expect(rows).to_contain_text("3:00")
    no_note_says_it(page)
    print(f"contrast by controls: {hand.count}")
    assert hand.count <= 25
    check_axe(page)
    # one round of it is done with something else
    rows.get_by_role("button", name=re.compile("A3, round 2 of 6, change$")).click()
    form = page.get_by_role("form", name="Change A3, round 2 of 6")
    form.get_by_label("Repetitions and load").fill("3 @ 24 kg")
    form.get_by_label("Implement or form of this round").fill("two bells")
    form.get_by_role("button", name="Save").click()
    expect(rows).to_contain_text("24 kg × 3, two bells")
    page.get_by_role("button", name="Start session").click()
    page.wait_for_url("**/floor/*")
    played: list[str] = []
    go = page.get_by_role("button", name=re.compile("^(Done as written|Log)"))
    while len(played) < 8:
        head = page.locator(".step-place")
        place = head.inner_text()
        if place.startswith("round"):
            slot = head.locator("xpath=..").inner_text().split(" ·")[0].strip()
            played.append(f"{slot} {place.split()[1]}")
        if played and played[-1] == "A3 2":
            expect(page.get_by_role("main")).to_contain_text("two bells")
        before = head.locator("xpath=..").text_content() or ""
        go.click()
        expect(head.locator("xpath=..")).not_to_have_text(before)
    assert played == ["A1 1", "A2 1", "A3 1", "A4 1", "A1 2", "A2 2", "A3 2", "A4 2"]
    page.get_by_role("button", name="Undo").click()
    expect(page.locator(".step-place")).to_have_text("round 2 of 6")


def test_the_same_contrast_typed_and_by_the_keyboard_alone(page: Page, empty_day: Hand) -> None:
    hand = empty_day
    hand.count = 0
    hand.press("b")
    expect(page.get_by_label("Blocks as they stand on the board")).to_be_focused()
    hand.type("contrast, 6 rounds, 3:00 between\n" + "\n".join(f"{e} {t}" for e, t in CONTRAST))
    hand.press("ControlOrMeta+Enter")
    expect(page.get_by_role("button", name=re.compile("^A4: 6 × 4"))).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^A1: 6 × 1, ladder to 1.80 m.s peak"))).to_be_visible()
    print(f"contrast typed: {hand.count}")
    assert hand.count <= 25
    hand.press("g", "Enter")
    expect(page.get_by_label("Grouping")).to_have_value("contrast")
    hand.press("Escape", "u")
    expect(page.get_by_text("Nothing in it yet.")).to_be_visible()


def test_a_team_day_with_tempo_pairs_and_a_metronome_in_50_clicks(page: Page, empty_day: Hand) -> None:
    hand = empty_day
    hand.line("band pull-apart", "2 × 15", "P1", "Prepare")
    hand.line("floor bridge", "2 × 10", "P2")
    hand.line("side-of-trunk hold", "2 × 20 s/side", "P3")
    hand.group("Prepare", "Circuit", inside="10")
    hand.line("back squat", "4 × 5 @ 75 %, 3-0-X-0", "A1", "legs")
    hand.line("single-leg romanian", "4 × 6/side, 2 in reserve, 3-0-X-0", "A2")
    hand.group("A · legs", "Pair", between="120")
    hand.line("incline bench press", "4 × 6, 2 in reserve, 3-0-X-0", "B1", "press and pull")
    hand.line("chin-up", "4 × 5, 2 in reserve", "B2")
    hand.group("B · press and pull", "Pair", between="90")
    hand.line("dead bug", "2 × 8", "C1", "trunk")
    hand.line("push-up to a metronome", "1 × 25", "D1", "endurance check")
    hand.group("D · endurance check", "Metronome", bpm="50")
    expect(page.get_by_role("row", name=re.compile("^D · endurance check"))).to_contain_text("25 reps a minute")
    expect(page.get_by_role("row", name=re.compile("^A · legs"))).to_contain_text("pair, 2:00 between rounds")
    no_note_says_it(page)
    print(f"team day: {hand.count}")
    assert hand.count <= 50


def test_sprints_resisted_then_free_with_rests_by_distance_in_20_clicks(page: Page, empty_day: Hand) -> None:
    """About a minute for each ten metres of a maximal sprint, common practice: nobody types it."""
    hand = empty_day
    hand.line("sled sprint", "4 × 20 m", "A1", "resisted")
    hand.line("sprint", "3 × 40 m", "B1", "free")
    hand.line("flying sprint", "2 × 30 m", "B2")
    rests = [page.get_by_role("row", name=re.compile(f"^{slot} ")).get_by_role("cell").last for slot in ("A1", "B1", "B2")]
    for cell, rest in zip(rests, ("2:00", "4:00", "3:00"), strict=True):
        expect(cell).to_have_text(rest)
    no_note_says_it(page)
    print(f"sprints: {hand.count}")
    assert hand.count <= 20


def test_a_block_is_renamed_carried_to_another_day_and_kept_for_later(page: Page, empty_day: Hand) -> None:
    hand = empty_day
    hand.blocks("Fast:\nbox jump 3 × 3\n\nHeavy:\nback squat 3 × 5 @ 70 %")
    menu = lambda name, item: (hand.button(f"{name}: more"), hand.button(item, exact=True))  # noqa: E731
    menu("A · Fast", "Another name …")
    page.get_by_label("Another name for A · Fast").fill("Jumps")
    hand.press("Enter")
    expect(page.get_by_role("row", name=re.compile("^A · Jumps"))).to_be_visible()
    menu("B · Heavy", "Up")
    expect(page.get_by_role("row", name=re.compile("^A · Heavy"))).to_be_visible()
    menu("B · Jumps", "Save as template …")
    page.get_by_label("Name of the template of B · Jumps").fill("Three box jumps")
    hand.press("Enter")
    expect(page.get_by_text("Kept as “Three box jumps”")).to_be_visible()
    menu("B · Jumps", "Take the block out")
    expect(page.get_by_role("row", name=re.compile("^B · Jumps"))).to_have_count(0)
    page.get_by_label("Put in a kept block").select_option(label="Three box jumps, 1 line")
    expect(page.get_by_role("row", name=re.compile("^B · Jumps"))).to_be_visible()
    page.get_by_role("button", name="Undo: block “Three box jumps” put in").click()
    expect(page.get_by_role("row", name=re.compile("^B · Jumps"))).to_have_count(0)
    menu("A · Heavy", "Copy to another day …")
    days = page.get_by_role("group", name="Copy A · Heavy to").get_by_role("button")
    day = days.first.inner_text()
    days.first.click()
    expect(page.get_by_role("group", name="Copy A · Heavy to")).to_have_count(0)
    page.get_by_role("link", name="Week", exact=True).first.click()
    expect(page.locator(".day").filter(has_text=re.compile(f"^{day}"))).to_contain_text("Back squat")
