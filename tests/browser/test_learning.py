"""What a session taught, by the interface alone: said at its end, at work in the next one, withdrawn again."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect
from support.axe import check_axe
from support.coach import Coach


def test_what_was_learned_stands_beside_the_next_load(server, page: Page) -> None:
    page.goto(f"{server.url}/athletes/2/week")
    page.get_by_role("link", name=re.compile("Legs and press")).first.click()
    page.get_by_role("button", name="Start session").click()
    page.wait_for_url("**/floor/*")
    session = page.url.rsplit("/", 1)[1]
    page.goto(f"{server.url}/floor/{session}/review")
    taught = page.get_by_role("region", name="What did this teach?")
    taught.get_by_label("What did you learn?").fill("Knees out at the start.")
    taught.get_by_role("combobox", name="Of which lift").fill("trap-bar deadlift")
    expect(taught.locator(".picker [role=option]").first).to_be_visible()  # the library is read when the page opens
    taught.get_by_role("combobox", name="Of which lift").press("Enter")
    expect(taught.get_by_role("combobox", name="Of which lift")).to_have_value("Trap-bar deadlift")
    taught.get_by_role("button", name="Keep", exact=True).click()
    expect(taught.get_by_text("Knees out at the start. · acts since")).to_be_visible()
    check_axe(page)
    page.goto(f"{server.url}/athletes/2/week/2026-11-30")
    page.get_by_role("link", name=re.compile("Legs and press")).first.click()
    expect(page.locator(".sheet").get_by_text("Knees out at the start.").first).to_be_visible()

    taught_link = f"{server.url}/learning/athlete/2"
    page.goto(taught_link)
    row = page.get_by_role("row", name=re.compile("Knees out at the start"))
    row.get_by_role("button", name=re.compile("^Withdraw")).click()
    row.get_by_label("Why it is withdrawn").fill("does it by itself")
    row.get_by_role("button", name="Withdraw", exact=True).click()
    expect(row).to_have_count(0)
    page.get_by_role("button", name=re.compile("^Show . more")).click()
    expect(page.get_by_role("row", name=re.compile("withdrawn"))).to_contain_text("does it by itself")


def test_the_last_weeks_of_a_squad(server, page: Page) -> None:
    page.goto(f"{server.url}/learning")
    page.wait_for_url("**/learning/squad/*")
    expect(page.get_by_role("heading", level=1)).to_have_text("What the last 4 weeks did and taught")
    page.get_by_label("Of", exact=True).select_option(label="all of Kittiwake Sound handball")
    charts = page.get_by_role("region", name="Planned and done")
    expect(charts.get_by_role("img")).to_have_attribute("aria-label", re.compile("planned, .* done"))
    for measure in ("Load, AU", "Volume, kg", "Foot contacts", "Sprint, m", "Main sets"):
        charts.get_by_role("button", name=measure).click()
        expect(charts.get_by_role("button", name=measure)).to_have_attribute("aria-pressed", "true")
    check_axe(page)
    missed = page.get_by_role("region", name="Missed and made easier")
    why = missed.get_by_role("combobox").first
    why.select_option(label="ill")
    expect(missed.get_by_text(re.compile("× ill"))).to_be_visible()
    page.reload()
    expect(missed.get_by_role("combobox").first).to_have_value("ill")
    page.get_by_label("Weeks").select_option("8")
    expect(page.get_by_role("heading", level=1)).to_have_text("What the last 8 weeks did and taught")
    page.set_viewport_size({"width": 390, "height": 844})
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_what_was_noticed_is_kept_or_dropped(server, page: Page) -> None:
    page.goto(f"{server.url}/learning/squad/1")
    findings = page.get_by_role("region", name="Findings")
    expect(findings.get_by_text("look at the far wall")).to_be_visible()
    findings.get_by_role("button", name="Keep: look at the far wall").click()
    row = findings.get_by_role("row", name=re.compile("look at the far wall"))
    expect(row).to_contain_text("acts since")
    findings.get_by_role("button", name="Drop: elbows under the bar").click()
    expect(findings.get_by_role("button", name="Drop: elbows under the bar")).to_have_count(0)


def test_after_a_competition_its_result_is_asked_for_and_kept(server, page: Page) -> None:
    page.goto(f"{server.url}/learning/squad/1")
    been = page.get_by_role("region", name="Competitions that have been")
    expect(been).to_contain_text("results are missing for 1")
    been.get_by_role("link").first.click()
    page.get_by_label("Place or score").fill("3rd of 14")
    page.get_by_label("Change for next time").fill("two days less taper")
    check_axe(page)
    page.get_by_role("button", name="Keep the result").click()
    expect(page.get_by_role("button", name="Correct the result")).to_be_visible()
    page.get_by_role("link", name="Learning", exact=True).last.click()
    expect(page.get_by_text("For next time, change: two days less taper").first).to_be_visible()
    expect(page.get_by_role("region", name="Competitions that have been")).to_contain_text("the result is written")


def test_a_report_for_each_reader_on_the_page_and_as_files(server, page: Page) -> None:
    page.goto(f"{server.url}/learning/athlete/2")
    expect(page.get_by_role("region", name="Bests").get_by_role("row").nth(1)).to_contain_text("before")
    page.get_by_role("link", name="Report", exact=True).click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Noor Vasko")
    trend = page.get_by_role("region", name="e1RM").get_by_role("img").first
    expect(trend).to_have_attribute("aria-label", re.compile("noise"))
    check_axe(page)
    page.get_by_label("Written").select_option(label="for medical staff")
    expect(page.get_by_role("region", name="Pain told on the floor")).to_be_visible()
    expect(page.get_by_role("region", name="e1RM")).to_have_count(0)
    page.get_by_label("Weeks", exact=True).select_option(label="the last 8")
    expect(page.get_by_role("region", name="Planned and done").get_by_role("row")).to_have_count(9)
    for form in ("PDF", "CSV", "XLSX"):
        with page.expect_download() as got:
            page.get_by_role("button", name=form, exact=True).click()
        assert got.value.suggested_filename == f"noor-vasko-report-2026-11-24.{form.lower()}"
    page.set_viewport_size({"width": 390, "height": 800})
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    page.set_viewport_size({"width": 1280, "height": 800})


def test_progress_of_one_athlete_from_the_end_of_a_phase_with_the_line_of_its_lifts(server, page: Page) -> None:
    page.goto(f"{server.url}/learning/athlete/2")
    progress = page.get_by_role("region", name="Progress")
    lines = progress.get_by_role("img", name=re.compile("noise"))
    expect(lines.first).to_be_visible()
    ends = progress.get_by_label("From the end of a phase")
    first = ends.get_by_role("option").nth(1)
    ends.select_option(index=1)
    expect(progress.get_by_label("From", exact=True)).to_have_value(first.get_attribute("value") or "")


def test_progress_between_two_days_of_everybody_in_a_squad(server, page: Page) -> None:
    page.goto(f"{server.url}/learning/squad/1")
    progress = page.get_by_role("region", name="Progress")
    expect(progress.get_by_role("row")).to_have_count(9)
    progress.get_by_label("Of what").select_option(label="Bench press")
    expect(progress.get_by_role("cell", name=re.compile("noise")).first).to_be_visible()
    progress.get_by_label("From").fill("2026-10-05")
    expect(progress.get_by_role("columnheader", name="5 Oct")).to_be_visible()
    progress.get_by_label("To").fill("2026-10-01")
    expect(progress.get_by_text("The first day is before the second")).to_be_visible()
    progress.get_by_label("To").fill("2026-11-16")
    expect(progress.get_by_role("columnheader", name="16 Nov")).to_be_visible()
    progress.get_by_role("link").first.click()
    expect(page.get_by_role("region", name="Bests by phase").get_by_role("columnheader", name="Base strength")).to_be_visible()
    check_axe(page)


def test_two_athletes_and_two_phases_stand_beside_each_other(server, page: Page) -> None:
    page.goto(f"{server.url}/learning/squad/1")
    pair = page.get_by_role("region", name="Two athletes beside each other")
    expect(pair.get_by_label("The one").locator("option")).to_have_count(8)
    names = pair.get_by_label("The one").locator("option").all_inner_texts()
    pair.get_by_label("The other").select_option(label=names[3])
    expect(pair.get_by_role("columnheader", name=names[3])).to_be_visible()
    squat = pair.get_by_role("row", name=re.compile("^Back squat"))
    expect(squat).to_contain_text(re.compile("more than noise"))
    pair.get_by_label("On", exact=True).fill("2030-01-01")
    expect(pair.get_by_text("That day is ahead.")).to_be_visible()
    pair.get_by_label("On", exact=True).fill("2026-11-20")
    expect(squat).to_be_visible()
    check_axe(page)

    page.goto(f"{server.url}/learning/athlete/1")
    phases = page.get_by_role("region", name="Two phases beside each other")
    first = phases.get_by_label("The one").locator("option").first.inner_text()
    phases.get_by_label("The one").select_option(label=first)
    expect(phases.get_by_role("columnheader", name=first)).to_be_visible()
    expect(phases.get_by_role("row", name=re.compile("^Main sets a week"))).to_be_visible()
    expect(phases.get_by_role("row", name=re.compile("^Trap-bar deadlift"))).to_contain_text("kg")


def test_a_squads_month_is_a_report_too(server, page: Page) -> None:
    page.goto(f"{server.url}/learning/squad/1")
    page.get_by_role("link", name="Report", exact=True).click()
    rows = page.get_by_role("region", name="Who did how much").get_by_role("row")
    expect(rows).to_have_count(9)
    expect(page.get_by_role("region", name="New bests").get_by_role("row").nth(1)).to_contain_text("before")
    check_axe(page)


def test_in_the_evening_every_session_of_a_day_is_written_of_on_one_page(server, page: Page) -> None:
    page.goto(f"{server.url}/learning/squad/3")
    page.get_by_role("link", name="Day by day").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Monday 23 November, looked back on")
    expect(page.get_by_text("5 sessions · 5 without a lesson yet")).to_be_visible()
    check_axe(page)
    page.get_by_role("button", name="What did this teach of Cato Brennick?").press("Enter")
    sentence = page.get_by_label("What did you learn?")
    expect(sentence).to_be_focused()
    sentence.fill("Slow off the floor.")
    page.get_by_role("combobox", name="Of which lift").fill("snatch")
    expect(page.locator(".picker [role=option]").first).to_be_visible()
    page.get_by_role("combobox", name="Of which lift").press("Enter")
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_text("Taught: Snatch: Slow off the floor.")).to_be_visible()
    expect(page.get_by_text("5 sessions · 4 without a lesson yet")).to_be_visible()
    page.get_by_role("link", name="← Sat 21 Nov").click()
    expect(page.get_by_role("region", name="Missed")).to_contain_text("Freya Kestle")
    page.get_by_role("link", name="Dagny Pellar").click()
    page.get_by_role("link", name="everybody’s that day").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Saturday 21 November, looked back on")
    page.set_viewport_size({"width": 390, "height": 844})
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


ROUNDS = """
from datetime import date, timedelta
from jarvok.app import clock
from jarvok.app.facts.floor.models import SessionLine, SetRecord, TrainingSession
session = TrainingSession.objects.get(pk={session})
heavy, jump = session.lines.order_by('order')
for number, (rest_s, height_cm) in {{1: (60, 39.0), 2: (90, 41.0), 3: (180, 39.1)}}.items():
    at = clock.now() + timedelta(minutes=6 * number)
    SetRecord.objects.create(line=heavy, kind='work', number=number, load_kg=100, reps=3, done_at=at)
    jumps = [dict(height_cm=height_cm + n / 10) for n in range(3)]
    SetRecord.objects.create(line=jump, kind='work', number=number, reps=3, jumps=jumps, done_at=at + timedelta(seconds=rest_s))
TrainingSession.objects.filter(pk=session.pk).update(day='2026-11-02')
for week in (1, 2, 3):
    session = TrainingSession.objects.get(pk={session})
    lines = list(session.lines.order_by('order'))
    session.pk, session.day = None, date(2026, 11, 2) + timedelta(weeks=week)
    session.save()
    for line in lines:
        sets = list(line.sets.all())
        line.pk, line.session = None, session
        line.save()
        for item in sets:
            item.pk, item.line = None, line
            item.save()
"""


def test_the_rest_that_sessions_showed_is_kept_and_acts_on_the_next_line(server, page: Page) -> None:
    coach, path = Coach(server.url), "athletes/3/sessions"
    key = coach.call(path, {"day": "2026-11-26", "theme": "Heavy, then jump"})["key"]
    for lift, text in (("back_squat", "3x3 @ 85%"), ("countermovement_jump", "3x3")):
        added = {"op": "add", "exercise_id": lift, "text": text, "block": "work", "is_main": True}
        coach.call(f"{path}/2026-11-26/{key}/edit", added)
    coach.call(f"{path}/2026-11-26/{key}/edit", {"op": "regroup", "block": "work", "grouping": "pape"})
    floor = coach.call("floor/sessions", {"athlete_id": 3, "day": "2026-11-26", "key": key})
    server.output("shell", "-v", "0", "-c", ROUNDS.format(session=floor["id"]))

    page.goto(f"{server.url}/athletes/3/session/2026-11-26/{key}")
    line = page.get_by_role("region", name="work").or_(page.locator(".sheet")).first
    expect(line).to_contain_text("2:30")
    page.goto(f"{server.url}/learning/athlete/3")
    findings = page.get_by_role("region", name="Findings")
    expect(findings).to_contain_text("1:30 before countermovement jump suits: +4.9 %")
    findings.get_by_role("button", name=re.compile("^Keep: 1:30 before")).click()
    expect(findings.get_by_role("row", name=re.compile("1:30 before countermovement jump"))).to_contain_text("acts since")
    page.goto(f"{server.url}/athletes/3/session/2026-11-26/{key}")
    expect(line).to_contain_text("1:30")
    expect(line).to_contain_text("1:30 to the jump, finding of")
    check_axe(page)
