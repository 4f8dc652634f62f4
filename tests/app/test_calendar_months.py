"""The calendar as months: what is written, moved, taken out and undone there is what season and weeks are planned from."""

from __future__ import annotations

from datetime import UTC, date, datetime
from typing import Any

import pytest

from jarvok.app import clock
from jarvok.app.facts.athletes.models import Athlete, Practice, Squad
from jarvok.app.facts.seasons.models import CalendarEntry, Competition, Entry

pytestmark = pytest.mark.django_db


@pytest.fixture
def second(squad: Squad) -> Athlete:
    return Athlete.objects.create(squad=squad, name="Bo Test", group="juniors", training_age_years=3)


class Page:
    """The calendar of an athlete or a squad, over HTTP."""

    def __init__(self, coach: Any, whose: str, pk: int) -> None:
        self.coach, self.path, self.last = coach, f"calendar/{whose}/{pk}", {}

    def read(self, month: str = "2026-12") -> Any:
        self.last = self.coach.get(f"{self.path}?month={month}")
        return self.last

    def act(self, verb: str, **body: Any) -> Any:
        self.last = self.coach.ok("POST", f"{self.path}/{verb}", {"month": "2026-12"} | body)
        return self.last

    def refused(self, verb: str, **body: Any) -> str:
        answer = self.coach.send("POST", f"{self.path}/{verb}", {"month": "2026-12"} | body)
        assert answer.status_code in (404, 409, 422), answer.content
        return answer.json()["title"]

    def write(self, text: str, day: str = "2026-12-09", scope: str = "squad") -> Any:
        return self.act("write", text=text, day=day, scope=scope)

    def on(self, day: str, but: tuple[str, ...] = ("practice", "session")) -> list[str]:
        days = {d["day"]: d for w in self.last["weeks"] for d in w["days"]}
        return [i["title"] for i in days[day]["items"] if i["tone"] not in but]

    def item(self, title: str) -> Any:
        return next(i for w in self.last["weeks"] for d in w["days"] for i in d["items"] if i["title"].startswith(title))


@pytest.fixture
def page(coach, squad, athlete, second) -> Page:
    return Page(coach, "squad", squad.pk)


def test_whole_weeks_from_monday_to_sunday(page) -> None:
    month = page.read()
    assert (month["weeks"][0]["monday"], month["weeks"][-1]["days"][-1]["day"]) == ("2026-11-30", "2027-01-03")
    assert [len(w["days"]) for w in month["weeks"]] == [7] * 5
    assert (month["previous"], month["following"]) == ("2026-11-01", "2027-01-01")


@pytest.mark.parametrize(("month", "weeks"), [("2027-02", 4), ("2026-11", 6), ("2026-12", 5)])
def test_months_of_four_five_and_six_weeks(page, month: str, weeks: int) -> None:
    assert len(page.read(month)["weeks"]) == weeks


@pytest.mark.parametrize(
    ("text", "days"),
    [
        ("match 19:00 away", {"2026-12-09": ["Match away 19:00"]}),
        ("camp 7–9", {"2026-12-07": ["Camp"], "2026-12-09": ["Camp"], "2026-12-10": []}),
        ("competition Quay Cup", {"2026-12-09": ["Quay Cup"]}),
    ],
)
def test_what_is_written_stands_on_its_days(page, text: str, days: dict[str, list[str]]) -> None:
    page.write(text)
    assert {d: page.on(d) for d in days} == days


def test_a_practice_written_on_a_day_is_in_the_week_from_then_on(page, coach, athlete, season_to_january) -> None:
    page.write("practice tue 7:00 60 min hard 4", day="2026-12-09")
    assert "practice 7:00" not in page.on("2026-12-08", but=())
    assert "practice 7:00" in page.on("2026-12-15", but=())
    before, after = (coach.get(f"athletes/{athlete.pk}/week?start={m}")["week"] for m in ("2026-12-07", "2026-12-14"))
    assert [p["hour"] for p in before["days"][1]["practices"]] == []
    assert [p["hour"] for p in after["days"][1]["practices"]] == [7.0]
    page.act("undo")
    assert coach.get(f"athletes/{athlete.pk}/week?start=2026-12-14")["week"]["days"][1]["practices"] == []
    page.act("redo")
    assert len(coach.get(f"athletes/{athlete.pk}/week?start=2026-12-14")["week"]["days"][1]["practices"]) == 1


class TestCalledOtherwise:
    def test_an_entry_and_a_competition_for_all_who_have_it_and_back(self, page, coach, athlete, second) -> None:
        page.write("match 19:00 away")
        page.act("rename", kind="entry", id=page.item("Match away")["id"], name="Skerry Hall away")
        assert page.on("2026-12-09") == ["Skerry Hall away 19:00"]
        page.write("competition Quay Cup", day="2026-12-19")
        page.act("rename", kind="competition", id=page.item("Quay Cup")["id"], name="Harbour Cup")
        assert page.on("2026-12-19") == ["Harbour Cup"]
        for a in (athlete, second):
            assert coach.get(f"athletes/{a.pk}/season")["season"]["name"] == "Harbour Cup"
        assert "Quay Cup" in page.last["undo"]["words"]
        page.act("undo")
        assert page.on("2026-12-19") == ["Quay Cup"]
        page.act("undo")
        page.act("undo")
        assert page.on("2026-12-09") == ["Match away 19:00"]

    @pytest.mark.parametrize("name", ["", "   ", "x" * 200])
    def test_no_name_or_too_long_a_one_is_refused_in_words(self, page, name: str) -> None:
        page.write("camp 7–9")
        assert page.refused("rename", kind="entry", id=page.item("Camp")["id"], name=name)
        page.read()
        assert page.on("2026-12-07") == ["Camp"]


@pytest.fixture
def season_to_january(coach, athlete) -> None:
    coach.ok("POST", f"athletes/{athlete.pk}/competitions", {"name": "Bay Final", "day": "2027-01-30", "rank": "main"})


def test_days_away_written_here_hold_no_session(page, coach, athlete, season_to_january) -> None:
    week = coach.get(f"athletes/{athlete.pk}/week?start=2026-12-07")["week"]
    trained = next(d["day"] for d in week["days"] if d["sheet"])
    assert any(i["tone"] == "session" for w in page.read()["weeks"] for d in w["days"] if d["day"] == trained for i in d["items"])
    page.write("off", day=trained)
    week = coach.get(f"athletes/{athlete.pk}/week?start=2026-12-07")["week"]
    assert next(d for d in week["days"] if d["day"] == trained)["sheet"] is None
    assert page.on(trained, but=("practice",)) == ["Unavailable"]


def test_a_moved_competition_moves_for_all_who_have_it_and_their_seasons(page, coach, athlete, second) -> None:
    page.write("competition Quay Cup", day="2027-01-30")
    assert (Competition.objects.count(), Entry.objects.count()) == (1, 2)
    page.read("2027-01")
    cup = page.item("Quay Cup")
    assert cup["whom"] == ""
    page.act("move", kind="competition", id=cup["id"], taken="2027-01-30", to="2027-01-23", month="2027-01")
    assert page.on("2027-01-23") == ["Quay Cup"]
    for a in (athlete, second):
        assert coach.get(f"athletes/{a.pk}/season")["season"]["day"] == "2027-01-23"
    page.act("undo", month="2027-01")
    assert {c.day.isoformat() for c in (*Competition.objects.all(), *Entry.objects.all())} == {"2027-01-30"}
    page.act("redo", month="2027-01")
    assert {c.day.isoformat() for c in (*Competition.objects.all(), *Entry.objects.all())} == {"2027-01-23"}
    page.act("move", kind="competition", id=cup["id"], taken="2027-01-23", to="2027-01-24", edge=True, month="2027-01")
    assert page.on("2027-01-24") == ["Quay Cup"]
    page.act("take-out", kind="competition", id=cup["id"], month="2027-01")
    assert page.on("2027-01-23") == []
    page.act("undo", month="2027-01")
    assert page.on("2027-01-24") == ["Quay Cup"]


def test_who_has_it_is_said_where_not_all_have_it(page, coach, athlete, season_to_january) -> None:
    page.read("2027-01")
    assert page.item("Bay Final")["whom"] == "Ada Test"


def test_a_moved_camp_keeps_its_length_and_its_edge_lengthens_it(page) -> None:
    page.write("camp 7–9")
    camp = page.item("Camp")
    page.act("move", kind="entry", id=camp["id"], taken="2026-12-08", to="2026-12-15")
    assert [page.on(f"2026-12-{d}") for d in (13, 14, 16, 17)] == [[], ["Camp"], ["Camp"], []]
    page.act("move", kind="entry", id=camp["id"], taken="2026-12-16", to="2026-12-18", edge=True)
    assert page.on("2026-12-18") == ["Camp"]
    assert page.refused("move", kind="entry", id=camp["id"], taken="2026-12-18", to="2026-12-13", edge=True).startswith(
        "It ends before"
    )
    assert page.refused("move", kind="entry", id=9999, taken="2026-12-14", to="2026-12-15") == "What you look for is not here."
    page.act("undo")
    page.act("undo")
    assert page.on("2026-12-07") == ["Camp"]


def test_forty_steps_back_and_forth(page) -> None:
    states = [page.read()["weeks"]]
    page.write("camp 7–9")
    camp = page.item("Camp")["id"]
    states.append(page.last["weeks"])
    for n in range(39):
        match n % 4:
            case 0:
                page.write("match 19:00 home", day=f"2026-12-{10 + n // 4:02d}")
            case 1:
                page.act("move", kind="entry", id=camp, taken="2026-12-01", to="2026-12-02")
            case 2:
                page.write(f"practice fri {6 + n // 4}:00")
            case _:
                page.act("take-out", kind="entry", id=page.item("Match home")["id"])
        states.append(page.last["weeks"])
    for state in reversed(states[:-1]):
        assert page.act("undo")["weeks"] == state
    assert page.last["undo"] is None
    assert page.refused("undo") == "There is nothing to undo."
    for state in states[1:]:
        assert page.act("redo")["weeks"] == state
    assert page.refused("redo") == "There is nothing to bring again."


def test_a_new_step_ends_what_could_be_brought_again(page) -> None:
    page.write("camp 7–9")
    page.act("undo")
    assert page.last["redo"]["words"].startswith("Camp, Mon 7 Dec to Wed 9 Dec")
    page.write("exam")
    assert page.last["redo"] is None
    assert page.last["undo"]["words"].startswith("Exams")


def test_a_list_and_an_imported_calendar_are_one_step_each(page, coach, athlete) -> None:
    coach.ok("POST", f"athletes/{athlete.pk}/calendar/list", {"kind": "match", "text": "5 Dec One\n12 Dec Two\n19 Dec Three"})
    assert page.read()["undo"]["words"] == "3 entries added"
    page.act("undo")
    assert not CalendarEntry.objects.filter(withdrawn_at__isnull=True).exists()
    text = (
        "BEGIN:VCALENDAR\nVERSION:2.0\nPRODID:x\n"
        "BEGIN:VEVENT\nUID:a@x\nSUMMARY:Quay Cup\nDTSTART;VALUE=DATE:20270130\nEND:VEVENT\n"
        "BEGIN:VEVENT\nUID:b@x\nSUMMARY:Bay camp\nDTSTART;VALUE=DATE:20261214\nDTEND;VALUE=DATE:20261219\nEND:VEVENT\n"
        "BEGIN:VEVENT\nUID:c@x\nSUMMARY:Practice\nDTSTART:20261201T170000\nDTEND:20261201T183000\nRRULE:FREQ=WEEKLY\nEND:VEVENT\n"
        "END:VCALENDAR\n"
    )
    practices = Practice.objects.count()
    coach.ok("POST", f"athletes/{athlete.pk}/calendar/import", {"text": text, "scope": "squad"})
    assert (page.read()["undo"]["words"], Entry.objects.count()) == ("calendar taken in", 2)
    page.act("undo")
    assert not Entry.objects.filter(withdrawn_at__isnull=True).exists()
    assert not CalendarEntry.objects.filter(withdrawn_at__isnull=True).exists()
    assert Practice.objects.filter(withdrawn_at__isnull=True).count() == practices
    page.act("redo")
    assert page.on("2026-12-14") == ["Bay camp"]
    assert Entry.objects.filter(withdrawn_at__isnull=True).count() == 2


class TestOnAnAthletesPage:
    def test_a_squads_entry_is_there_and_undone_for_all(self, coach, page, athlete) -> None:
        page.write("camp 7–9")
        mine = Page(coach, "athlete", athlete.pk)
        assert mine.read()["undo"]["is_for_all_only"] is True
        assert mine.on("2026-12-08") == ["Camp"]
        assert "undo it for all" in mine.refused("undo", scope="athlete")
        mine.act("undo")
        assert page.read() is not None
        assert page.on("2026-12-08") == []

    def test_a_squads_competition_can_be_undone_for_one(self, coach, page, athlete, second) -> None:
        page.write("competition Quay Cup", day="2027-01-30")
        mine = Page(coach, "athlete", athlete.pk)
        assert mine.read("2027-01")["undo"]["people"] == 2
        mine.act("undo", scope="athlete", month="2027-01")
        assert mine.on("2027-01-30") == []
        page.read("2027-01")
        assert page.item("Quay Cup")["whom"] == "Bo Test"

    def test_what_is_ones_own_is_nobody_elses(self, coach, page, athlete, second) -> None:
        Page(coach, "athlete", athlete.pk).write("exam", scope="athlete")
        other = Page(coach, "athlete", second.pk)
        other.read()
        assert other.on("2026-12-09") == []
        assert other.last["undo"] is None
        page.read()
        assert page.item("Exams")["whom"] == "Ada Test"

    def test_a_group_has_its_own(self, coach, page, athlete, second) -> None:
        page.write("exam", scope="group:juniors")
        for a, seen in ((athlete, []), (second, ["Exams"])):
            mine = Page(coach, "athlete", a.pk)
            mine.read()
            assert mine.on("2026-12-09") == seen


def test_what_is_not_understood_stores_nothing(page, coach) -> None:
    assert page.refused("write", text="blah", day="2026-12-09", scope="squad").startswith("It is not clear")
    assert page.refused("write", text="camp", day="2026-12-09", scope="moon").startswith("It is not clear whom")
    assert page.refused("write", text="competition Old", day="2026-11-01", scope="squad").startswith(
        "1 November 2026 is not ahead"
    )
    words = page.refused("write", text="practice tue", day="2026-12-09", scope="group:juniors")
    assert words == "A practice cannot be for juniors alone."
    for month in ("soon", "2026-13", "0001-01", "9999-12"):
        assert coach.send("GET", f"{page.path}?month={month}").status_code == 422
        assert coach.send("GET", f"calendar?month={month}").status_code == 422
    for day in ("0001-01-01", "9999-12-31"):
        assert "too far away" in page.refused("write", text="off 90 weeks", day=day, scope="squad")
        assert not coach.get(f"calendar/read?text=off&day={day}")["is_read"]
        assert "too far away" in page.refused("move", kind="entry", id=1, taken="2026-12-01", to=day)
    assert coach.send("GET", "calendar/moon/1").status_code == 422
    assert not CalendarEntry.objects.exists()
    assert not Competition.objects.exists()


@pytest.mark.parametrize(
    ("text", "is_read", "words"),
    [("camp 7–9", True, "Camp, Mon 7 Dec to Wed 9 Dec."), ("blah", False, "It is not clear what that is.")],
)
def test_it_says_beforehand_how_it_would_be_understood(coach, text: str, is_read: bool, words: str) -> None:
    answer = coach.get(f"calendar/read?text={text}&day=2026-12-09")
    assert answer["is_read"] is is_read
    assert answer["words"].startswith(words)


def test_a_competition_that_lies_behind_stays(page, coach, athlete) -> None:
    cup = Competition.objects.create(athlete=athlete, name="Old Cup", day="2026-11-07")
    old = Entry.objects.create(athlete=athlete, competition=cup, planned_from="2026-09-01")
    assert "lies behind" in page.refused("take-out", kind="competition", id=old.pk)
    page.read("2026-11")
    assert page.item("Old Cup")["can_change"] is False


def test_squads_beside_each_other(page, coach) -> None:
    page.write("camp 7–9")
    other = Squad.objects.create(name="Another squad", sport="handball")
    rows = coach.get("calendar?month=2026-12")
    assert [s["name"] for s in rows["squads"]] == ["Another squad", "Test harbour wrestling"]
    assert [[i["title"] for i in s["items"]] for s in rows["squads"]] == [[], ["Camp"]]
    assert len(rows["days"]) == 31
    assert coach.get(f"calendar/squad/{other.pk}?month=2026-12")["sentence"] == "nothing but training"


def test_bars_of_the_weeks_are_those_of_the_season(page, coach, athlete, season_to_january) -> None:
    mine = Page(coach, "athlete", athlete.pk)
    weeks = {w["start"]: w for w in coach.get(f"athletes/{athlete.pk}/season")["season"]["weeks"]}
    shown = [w for w in mine.read()["weeks"] if w["main_sets"] is not None]
    assert len(shown) == 5
    assert [w["main_sets"] for w in shown] == [weeks[w["monday"]]["main_sets"] for w in shown]
    assert max(w["sets_share"] for w in shown) <= 1


class TestTimeLost:
    def test_three_weeks_ill_divide_the_phases_anew_and_undo_brings_them_back(self, page, coach, athlete) -> None:
        page.write("competition Spring Cup", day="2027-03-27")
        before = coach.get(f"athletes/{athlete.pk}/season")["season"]
        page.write("ill 3 weeks", day="2027-01-11")
        after = coach.get(f"athletes/{athlete.pk}/season")["season"]
        note = next(n for n in after["notes"] if n["id"] == "divided-anew")
        assert note["title"] == "3 weeks lost: the phases are divided anew."
        assert [p["weeks"] for p in after["phases"]] != [p["weeks"] for p in before["phases"]]
        assert sum(p["weeks"] for p in after["phases"]) == sum(p["weeks"] for p in before["phases"])
        for start in ("2027-01-11", "2027-01-18", "2027-01-25"):
            week = coach.get(f"athletes/{athlete.pk}/week?start={start}")["week"]
            assert not [d for d in week["days"] if d["sheet"]]
        back = coach.get(f"athletes/{athlete.pk}/week?start=2027-02-01")["week"]
        assert [d for d in back["days"] if d["sheet"]]
        page.act("undo")
        assert coach.get(f"athletes/{athlete.pk}/season")["season"]["phases"] == before["phases"]

    def test_the_block_behind_it_begins_later_and_a_new_one_behind_both(self, page, coach, athlete) -> None:
        path = f"athletes/{athlete.pk}/blocks"
        for name in ("One", "Two"):
            before = coach.ok("POST", path, {"name": name, "weeks": 4, "way": "rising"})["season"]
        page.write("off 2 weeks", day="2026-12-07")
        after = coach.get(f"athletes/{athlete.pk}/season")["season"]
        assert [p["weeks"] for p in before["phases"]] == [4, 4]
        assert [p["weeks"] for p in after["phases"]] == [6, 4]
        assert after["phases"][1]["start"] == "2027-01-04"
        third = coach.ok("POST", path, {"name": "Three", "weeks": 3, "way": "rising"})["season"]
        assert [p["weeks"] for p in third["phases"]] == [6, 4, 3]
        page.act("undo")
        page.act("undo")
        assert coach.get(f"athletes/{athlete.pk}/season")["season"]["phases"] == before["phases"]

    def test_a_block_without_a_date_is_pushed_on(self, page, coach, athlete) -> None:
        block = {"name": "Autumn", "weeks": 5, "way": "rising", "scope": "athlete"}
        before = coach.ok("POST", f"athletes/{athlete.pk}/blocks", block)["season"]
        page.write("off 2 weeks", day="2026-12-07")
        after = coach.get(f"athletes/{athlete.pk}/season")["season"]
        assert len(after["weeks"]) == len(before["weeks"]) + 2
        assert (after["competitions"][0]["day"], after["day"]) == (after["phases"][-1]["end"], after["phases"][-1]["end"])
        assert any(n["id"] == "pushed-on" for n in after["notes"])
        trained = [w for w in after["weeks"] if w["main_sets"]]
        assert [w["intensity_pct"] for w in trained][-1] == before["weeks"][-1]["intensity_pct"]
        last = coach.get(f"athletes/{athlete.pk}/week?start={after['weeks'][-1]['start']}")["week"]
        assert [d for d in last["days"] if d["sheet"]]


class TestANewcomer:
    """Who joins a squad has what all of it prepares for; what only some have stays theirs."""

    def join(self, coach, squad: Squad, name: str = "New One") -> tuple[Any, list[str]]:
        sent = {"name": name, "squad": squad.name, "sport": ""}
        added = coach.ok("POST", "athletes", sent)
        return coach.get(f"athletes/{added['id']}/season")["season"], added["given"]

    def test_has_the_competitions_everybody_has_and_the_squads_matches(self, page, coach, squad) -> None:
        page.write("competition Quay Cup", day="2027-01-30")
        page.write("camp 7–9")
        season, given = self.join(coach, squad)
        assert given == ["Quay Cup"]
        assert (season["name"], season["day"]) == ("Quay Cup", "2027-01-30")
        assert [s["name"] for s in season["spans"]] == ["Camp"]

    def test_of_a_table_of_athletes_has_them_too(self, page, coach, squad) -> None:
        page.write("competition Quay Cup", day="2027-01-30")
        coach.ok("POST", "import/athletes", {"text": "name\nNew One\nNew Two", "squad": squad.name})
        new = Athlete.objects.filter(name__startswith="New")
        assert [[e.name for e in a.entered.all()] for a in new] == [["Quay Cup"], ["Quay Cup"]]
        coach.ok("POST", "import/athletes", {"text": "name\nNew One\nNew Two", "squad": squad.name})
        assert Entry.objects.filter(athlete__in=new).count() == 2

    def test_has_nothing_of_what_only_some_have(self, page, coach, squad, season_to_january) -> None:
        season, given = self.join(coach, squad)
        assert (season, given) == (None, [])

    def test_is_in_the_next_step_for_all(self, page, coach, squad) -> None:
        page.write("competition Quay Cup", day="2027-01-30")
        season, _ = self.join(coach, squad)
        page.read("2027-01")
        assert page.item("Quay Cup")["whom"] == ""
        page.act("move", kind="competition", id=page.item("Quay Cup")["id"], taken="2027-01-30", to="2027-01-23", month="2027-01")
        assert coach.get(f"athletes/{season['athlete_id']}/season")["season"]["day"] == "2027-01-23"

    def test_has_the_season_model_they_share(self, page, coach, squad, athlete, second) -> None:
        page.write("competition Quay Cup", day="2027-03-20")
        style = {"arrangement": "linear", "loading_weeks": 2, "taper": None, "scope": "squad"}
        coach.ok("PUT", f"athletes/{athlete.pk}/season/style", style)
        season, _ = self.join(coach, squad)
        assert (season["style"]["arrangement"], season["style"]["loading_weeks"]) == ("linear", 2)

    def test_the_first_of_a_squad_begins_with_nothing(self, coach) -> None:
        sent = {"name": "First One", "squad": "Brand new", "sport": "rowing"}
        assert coach.ok("POST", "athletes", sent)["given"] == []

    def test_the_first_of_a_squad_has_what_was_written_before_anybody_was_in_it(self, coach) -> None:
        empty = Squad.objects.create(name="Still empty", sport="handball")
        mine = Page(coach, "squad", empty.pk)
        mine.write("competition Quay Cup", day="2027-01-30")
        mine.read("2027-01")
        cup = mine.item("Quay Cup")
        assert (cup["kind"], cup["whom"], cup["can_change"]) == ("of_nobody", "", True)
        mine.act("move", kind="of_nobody", id=cup["id"], taken="2027-01-30", to="2027-01-23", month="2027-01")
        mine.act("undo", month="2027-01")
        mine.act("redo", month="2027-01")
        page = coach.ok("PATCH", f"squads/{empty.pk}/competitions/{cup['id']}", {"rank": "secondary"})
        assert [(c["name"], c["day"], c["rank"], c["holders"]) for c in page["competitions"]] == [
            ("Quay Cup", "2027-01-23", "secondary", 0)
        ]
        coach.ok("PATCH", f"squads/{empty.pk}/competitions/{cup['id']}", {"rank": "main"})
        season, given = self.join(coach, empty)
        assert (given, season["day"]) == (["Quay Cup"], "2027-01-23")
        assert coach.send("DELETE", f"squads/{empty.pk}/competitions/{cup['id']}").status_code == 404, "it is somebody's now"

    def test_a_competition_nobody_has_is_added_taken_out_and_given_on_the_squads_page(self, coach, athlete, squad) -> None:
        path = f"squads/{squad.pk}/competitions"
        added = coach.ok("POST", path, {"name": "Quay Cup", "day": "2027-01-30"})["competitions"]
        assert [(c["holders"], c["is_of_nobody"]) for c in added] == [(1, False)]
        coach.ok("DELETE", f"competitions/{added[0]['id']}")
        waits = coach.get(f"squads/{squad.pk}/season")["competitions"]
        assert [(c["is_of_nobody"], c["missing"]) for c in waits] == [(True, [athlete.name])]
        given = coach.ok("POST", f"{path}/{waits[0]['id']}/share")["competitions"]
        assert [(c["holders"], c["is_of_nobody"]) for c in given] == [(1, False)]
        coach.ok("DELETE", f"competitions/{given[0]['id']}")
        assert coach.ok("DELETE", f"{path}/{waits[0]['id']}")["competitions"] == []


class TestWhoChangesSquad:
    """An athlete who goes to another squad prepares for what that one does; what is the athlete's own comes along."""

    def names(self, coach, athlete) -> list[str]:
        season = coach.get(f"athletes/{athlete.pk}/season")["season"]
        return [c["name"] for c in season["competitions"]] if season else []

    def test_leaves_the_old_squads_competitions_and_has_the_new_ones(self, page, coach, athlete, squad, second) -> None:
        page.write("competition Quay Cup", day="2027-01-30")
        coach.ok("POST", f"athletes/{athlete.pk}/competitions", {"name": "Own Day", "day": "2027-03-20"})
        other = Squad.objects.create(name="Another squad", sport="handball")
        Page(coach, "squad", other.pk).write("competition Bay Cup", day="2027-02-20")
        assert self.names(coach, athlete) == ["Quay Cup", "Own Day"]
        coach.ok("PATCH", f"athletes/{athlete.pk}/record", {"squad_id": other.pk})
        assert self.names(coach, athlete) == ["Bay Cup", "Own Day"]
        assert self.names(coach, second) == ["Quay Cup"]
        said = coach.get(f"history?athlete={athlete.pk}")["acts"][0]["words"]
        assert "Quay Cup left to the others" in said
        assert "Bay Cup ahead" in said
        coach.ok("POST", f"athletes/{athlete.pk}/season/undo")
        assert self.names(coach, athlete) == ["Quay Cup", "Own Day"]
        coach.ok("POST", f"athletes/{athlete.pk}/season/redo")
        assert self.names(coach, athlete) == ["Bay Cup", "Own Day"]

    def test_within_a_squad_a_group_has_its_own(self, page, coach, athlete, squad, second) -> None:
        coach.ok("PATCH", f"athletes/{second.pk}/record", {"group": "Light"})
        coach.ok("POST", f"athletes/{second.pk}/competitions", {"name": "Light Cup", "day": "2027-03-20", "scope": "group"})
        assert (self.names(coach, athlete), self.names(coach, second)) == ([], ["Light Cup"])
        coach.ok("PATCH", f"athletes/{athlete.pk}/record", {"group": "Light"})
        assert self.names(coach, athlete) == ["Light Cup"]
        coach.ok("PATCH", f"athletes/{athlete.pk}/record", {"group": "Heavy"})
        assert self.names(coach, athlete) == []

    def test_another_fact_of_the_record_changes_no_season(self, page, coach, athlete, squad) -> None:
        page.write("competition Quay Cup", day="2027-01-30")
        own = coach.get(f"athletes/{athlete.pk}/season")["season"]["competitions"][0]["id"]
        coach.ok("DELETE", f"competitions/{own}")
        coach.ok("PATCH", f"athletes/{athlete.pk}/record", {"position": "wing"})
        assert self.names(coach, athlete) == []


def test_who_departs_keeps_the_own_day_when_the_squads_moves_and_comes_back_by_undo(page, coach, athlete, second) -> None:
    page.write("competition Quay Cup", day="2027-01-30")
    own = Entry.objects.get(athlete=second)
    coach.ok("PATCH", f"competitions/{own.pk}", {"day": "2027-02-06"})
    mine = Entry.objects.get(athlete=athlete)
    coach.ok("PATCH", f"competitions/{mine.pk}", {"day": "2027-01-23", "rank": "secondary", "scope": "squad"})
    day = {e.athlete_id: (e.day.isoformat(), e.rank) for e in Entry.objects.all()}
    assert day == {athlete.pk: ("2027-01-23", "secondary"), second.pk: ("2027-02-06", "main")}
    assert Entry.objects.get(athlete=athlete).own == {}
    coach.ok("POST", f"athletes/{athlete.pk}/season/undo", {"scope": "all"})
    assert Competition.objects.get().day == date(2027, 1, 30)
    assert [e.own for e in Entry.objects.order_by("athlete_id")] == [{}, {"day": "2027-02-06"}]
    coach.ok("POST", f"athletes/{second.pk}/season/undo")
    assert [e.own for e in Entry.objects.order_by("athlete_id")] == [{}, {}]


class TestTheZone:
    def test_the_day_begins_where_the_centre_lies(self, coach, settings, django_capture_on_commit_callbacks, monkeypatch) -> None:
        settings.TODAY = ""
        monkeypatch.setattr("jarvok.app.clock.now", lambda: datetime(2026, 12, 1, 23, 30, tzinfo=UTC))
        monkeypatch.setattr("django.utils.timezone.now", lambda: datetime(2026, 12, 1, 23, 30, tzinfo=UTC))
        for zone, day in (("Europe/Oslo", "2026-12-02"), ("America/Halifax", "2026-12-01"), ("Pacific/Auckland", "2026-12-02")):
            with django_capture_on_commit_callbacks(execute=True):
                answer = coach.ok("PUT", "settings/zone", {"zone": zone})
            assert (answer["zone"], coach.get("settings")["zone_in_force"]) == (zone, zone)
            assert clock.today().isoformat() == day

    def test_an_hour_in_a_file_is_the_hour_here(self, coach, athlete, django_capture_on_commit_callbacks) -> None:
        text = (
            "BEGIN:VCALENDAR\nVERSION:2.0\nPRODID:x\nBEGIN:VEVENT\nUID:c@x\nSUMMARY:Practice\nDTSTART:20261201T170000Z\n"
            "DURATION:PT90M\nRRULE:FREQ=WEEKLY;UNTIL=20261222T170000Z\nEXDATE:20261208T170000Z\nEND:VEVENT\nEND:VCALENDAR\n"
        )
        with django_capture_on_commit_callbacks(execute=True):
            coach.ok("PUT", "settings/zone", {"zone": "Europe/Oslo"})
        (row,) = coach.ok("POST", f"athletes/{athlete.pk}/calendar/preview", {"text": text, "scope": "squad"})["rows"]
        assert row["words"] == "every Tuesday at 18:00, 90 min, from 1 Dec 2026, until 22 Dec 2026, not on 8 Dec"
        coach.ok("POST", f"athletes/{athlete.pk}/calendar/import", {"text": text, "scope": "squad"})
        practice = Practice.objects.get(uid="c@x@w1")
        assert (practice.hour, practice.but_not) == (18.0, ["2026-12-08"])
        out = coach.client.get(f"/api/export/athletes/{athlete.pk}/calendar.ics").content.decode()
        assert "DTSTART;TZID=Europe/Oslo:20261201T180000" in out
        (again,) = [
            r
            for r in coach.ok("POST", f"athletes/{athlete.pk}/calendar/preview", {"text": out, "scope": "squad"})["rows"]
            if "c@x" in r["uid"]
        ]
        assert again["status"] == "same"

    def test_a_zone_that_is_none_is_refused(self, coach) -> None:
        assert coach.send("PUT", "settings/zone", {"zone": "Bay/Nowhere"}).status_code == 422
        assert coach.get("settings")["zone"] == ""


class TestVersionsOfAFile:
    FILE = (
        "BEGIN:VCALENDAR\nVERSION:2.0\nPRODID:x\nBEGIN:VEVENT\nUID:m@x\nSEQUENCE:{}\nSUMMARY:{} match\n"
        "DTSTART;VALUE=DATE:{}\nEND:VEVENT\nEND:VCALENDAR\n"
    )

    def take(self, coach, athlete, sequence: int, name: str, day: str) -> str:
        body = {"text": self.FILE.format(sequence, name, day), "scope": "squad"}
        (row,) = coach.ok("POST", f"athletes/{athlete.pk}/calendar/import", body)["rows"]
        return row["status"]

    def test_a_newer_one_changes_an_older_one_is_left_alone(self, coach, athlete) -> None:
        assert self.take(coach, athlete, 1, "Late", "20261205") == "new"
        assert self.take(coach, athlete, 1, "Late", "20261205") == "same"
        assert self.take(coach, athlete, 2, "Later", "20261212") == "changed"
        assert self.take(coach, athlete, 1, "Late", "20261205") == "older"
        assert CalendarEntry.objects.get().name == "Later match"

    def test_what_was_moved_by_hand_is_not_moved_back_by_an_old_file(self, coach, athlete, page) -> None:
        self.take(coach, athlete, 0, "Late", "20261205")
        page.read()
        page.act("move", kind="entry", id=page.item("Late match")["id"], taken="2026-12-05", to="2026-12-06")
        assert self.take(coach, athlete, 0, "Late", "20261205") == "older"
        assert CalendarEntry.objects.get().start.isoformat() == "2026-12-06"

    def test_what_was_taken_out_goes_out_as_cancelled(self, coach, athlete, page) -> None:
        page.write("match 19:00 home")
        page.act("take-out", kind="entry", id=page.item("Match home")["id"])
        out = coach.client.get(f"/api/export/athletes/{athlete.pk}/calendar.ics").content.decode()
        assert "STATUS:CANCELLED" in out
