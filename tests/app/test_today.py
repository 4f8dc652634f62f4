"""The first page: who trains together and when, how far everybody is, what waits, what lies ahead."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

import pytest
from support.past import session

from jarvok.app.api.today import page as today_page
from jarvok.app.facts.athletes.models import Athlete, MarkRecord, Restriction, Squad
from jarvok.app.facts.floor.models import PainReport, SetRecord, TrainingSession
from jarvok.app.facts.people.models import Person, Role

TODAY = date(2026, 11, 24)


def with_season(coach, squad: Squad, name: str, group: str = "") -> Athlete:
    person = Athlete.objects.create(squad=squad, name=name, group=group, training_age_years=5)
    coach.ok("POST", f"athletes/{person.pk}/competitions", {"name": "Test Open", "day": "2027-04-03"})
    return person


@pytest.fixture
def three(coach, athlete, season, settings) -> list[Athlete]:
    """Three of one squad, on a day on which all of them train."""
    people = [athlete, with_season(coach, athlete.squad, "Bo Second"), with_season(coach, athlete.squad, "Cy Third")]
    week = coach.get(f"athletes/{athlete.pk}/week?start=2026-11-30")["week"]
    settings.TODAY = next(d["day"] for d in week["days"] if d["sheet"])
    return people


def room(coach, squad: Squad) -> Any:
    return coach.ok("POST", "room", {"squad_id": squad.pk})


def here(coach, opened: Any, athlete: Athlete) -> None:
    coach.ok("POST", f"room/{opened['id']}/here", {"athlete_ids": [athlete.pk], "is_here": True})


class TestSharedSessions:
    def test_what_is_done_together_is_one_row(self, coach, three) -> None:
        told = coach.get("today")
        (row,) = told["shared"]
        assert [p["athlete_name"] for p in row["people"]] == ["Ada Test", "Bo Second", "Cy Third"]
        assert (row["name"], row["starts"], row["room_id"]) == (three[0].squad.name, "", None)
        assert (told["training"], told["athletes"], told["changed"]) == (3, 3, 0)

    def test_another_hour_or_another_theme_is_another_row(self, coach, three, settings) -> None:
        day = settings.TODAY
        coach.ok("POST", f"athletes/{three[1].pk}/sessions/{day}/A/edit", {"op": "starts", "text": "7:00"})
        coach.ok("POST", f"athletes/{three[2].pk}/sessions/{day}/A/edit", {"op": "starts", "text": "17:30"})
        rows = coach.get("today")["shared"]
        assert [(r["starts"], [p["athlete_name"] for p in r["people"]]) for r in rows] == [
            ("7:00", ["Bo Second"]), ("17:30", ["Cy Third"]), ("", ["Ada Test"]),
        ]  # fmt: skip
        coach.ok("POST", f"athletes/{three[1].pk}/sessions/{day}/A/edit", {"op": "rename", "text": "Own work"})
        assert coach.get("today")["shared"][0]["theme"] == "Own work"

    def test_groups_are_named_where_a_squad_has_several_rows(self, coach, three, settings) -> None:
        Athlete.objects.filter(pk=three[0].pk).update(group="Pivots")
        Athlete.objects.filter(pk__in=[a.pk for a in three[1:]]).update(group="Backs")
        squad = three[0].squad.name
        assert [r["name"] for r in coach.get("today")["shared"]] == [squad]
        coach.ok("POST", f"athletes/{three[0].pk}/sessions/{settings.TODAY}/A/edit", {"op": "starts", "text": "9:00"})
        assert [r["name"] for r in coach.get("today")["shared"]] == [f"{squad}, Pivots", f"{squad}, Backs"]

    def test_how_far_everybody_is(self, coach, three, settings) -> None:
        opened = room(coach, three[0].squad)
        here(coach, opened, three[0])
        (row,) = coach.get("today")["shared"]
        assert row["room_id"] == opened["id"]
        assert [p["state"] for p in row["people"]] == ["here", "planned", "planned"]
        begun = coach.ok("POST", "floor/sessions", {"athlete_id": three[2].pk, "day": settings.TODAY, "key": "A"})
        (row,) = coach.get("today")["shared"]
        assert [p["state"] for p in row["people"]] == ["here", "planned", "started"]
        assert row["people"][2]["session_id"] == begun["id"]
        TrainingSession.objects.update(finished_at="2026-11-24T12:00:00Z")
        assert coach.get("today")["shared"][0]["people"][2]["state"] == "finished"

    def test_the_word_of_the_coach_is_shown(self, coach, three) -> None:
        opened = room(coach, three[0].squad)
        here(coach, opened, three[0])
        word = {"athlete_id": three[0].pk, "plan": "B", "less": "fewer", "reason": "tired"}
        coach.ok("POST", f"room/{opened['id']}/word", word)
        told = coach.get("today")
        assert ([p["plan"] for p in told["shared"][0]["people"]], told["changed"]) == (["B", "", ""], 1)

    def test_arrivals_are_the_same_as_the_page_has(self, coach, three, settings) -> None:
        assert coach.get("today/arrivals") == {"people": [], "rooms": {}}
        opened = room(coach, three[0].squad)
        here(coach, opened, three[0])
        coach.ok("POST", "floor/sessions", {"athlete_id": three[2].pk, "day": settings.TODAY, "key": "A"})
        fresh = coach.get("today/arrivals")
        assert fresh["rooms"] == {str(three[0].squad_id): opened["id"]}
        shown = {p["athlete_id"]: p["state"] for p in coach.get("today")["shared"][0]["people"]}
        assert {p["athlete_id"]: p["state"] for p in fresh["people"]} == shown

    def test_ones_own_squads_alone(self, coach, three) -> None:
        me = Person.objects.get(name="tester")
        me.role = Role.COACH
        me.save()
        me.squads.set([Squad.objects.create(name="Elsewhere", sport="handball")])
        room_of_others = coach.get("today/arrivals")
        assert (coach.get("today")["shared"], room_of_others["people"], room_of_others["rooms"]) == ([], [], {})

    @pytest.mark.parametrize(
        ("hour", "minute", "words"),
        [(6, 40, "next in 20 min"), (4, 0, "next in 180 min"), (3, 59, ""), (7, 0, ""), (8, 0, "")],
    )
    def test_when_the_next_one_begins(self, monkeypatch, settings, hour: int, minute: int, words: str) -> None:
        zone = today_page.clock.zone()
        settings.TODAY = "2026-11-24"
        now = today_page.clock.now().replace(year=2026, month=11, day=24).astimezone(zone).replace(hour=hour, minute=minute)
        monkeypatch.setattr(today_page.clock, "now", lambda: now)
        assert today_page._next_words([7.0, None]) == words


class TestWhatWaits:
    def kinds(self, coach) -> list[str]:
        return [d["kind"] for d in coach.get("today")["decisions"]]

    def test_without_a_competition_one_by_one_or_together(self, coach, athlete) -> None:
        first = coach.get("today")["decisions"][0]
        assert (first["kind"], first["athlete_name"], first["path"]) == ("season", "Ada Test", f"/athletes/{athlete.pk}/season")
        for n in range(6):
            Athlete.objects.create(squad=athlete.squad, name=f"Person {n}")
        (together,) = [d for d in coach.get("today")["decisions"] if d["kind"] == "season"]
        assert together["title"] == "No competition ahead of 7 athletes"
        assert together["athlete_name"] == "Ada Test, Person 0, Person 1, Person 2 and 3 more"

    @pytest.mark.parametrize(("more", "notes"), [(1, 2), (2, 1)])
    def test_up_to_two_are_named_one_by_one(self, coach, athlete, more: int, notes: int) -> None:
        for n in range(more):
            Athlete.objects.create(squad=athlete.squad, name=f"Person {n}")
        assert len([d for d in coach.get("today")["decisions"] if d["kind"] == "season"]) == notes

    def test_pain_comes_first_and_leads_to_its_review(self, coach, athlete, season) -> None:
        session(athlete, TODAY - timedelta(days=3), (80, 5, 2))
        record = SetRecord.objects.get()
        PainReport.objects.create(session=record.line.session, record=record, area="knee")
        first = coach.get("today")["decisions"][0]
        assert (first["kind"], first["title"]) == ("pain", "Pain in the knee")
        assert first["path"] == f"/floor/{record.line.session_id}/review"
        PainReport.objects.update(answered_at="2026-11-24T10:00:00Z")
        assert "pain" not in self.kinds(coach)

    def test_a_restriction_that_ends_within_a_week(self, coach, athlete, season) -> None:
        made = Restriction.objects.create(
            athlete=athlete, tag="overhead", words="no overhead", set_by="Dr Aas", since=TODAY, until=TODAY + timedelta(days=7)
        )
        told = next(d for d in coach.get("today")["decisions"] if d["kind"] == "restriction")
        assert told["title"] == "“no overhead” ends on Tue 1 Dec"
        for days in (8, -1):
            made.until = TODAY + timedelta(days=days)
            made.save()
            assert "restriction" not in self.kinds(coach)

    def test_health_is_for_those_who_see_it(self, coach, athlete, season) -> None:
        Restriction.objects.create(
            athlete=athlete, tag="overhead", words="no overhead", set_by="Dr Aas", since=TODAY, until=TODAY
        )
        me = Person.objects.get(name="tester")
        me.role = Role.ASSISTANT
        me.save()
        me.squads.set([athlete.squad])
        assert "restriction" not in self.kinds(coach)

    @pytest.mark.parametrize(("days", "is_old"), [(56, False), (57, True)])
    def test_results_of_eight_weeks(self, coach, athlete, season, days: int, is_old: bool) -> None:
        MarkRecord.objects.all().delete()
        assert "due" not in self.kinds(coach)  # nothing is known: that is not old
        MarkRecord.objects.create(
            athlete=athlete, exercise_id="back_squat", kind="one_rm", load_kg=100, day=TODAY - timedelta(days=days)
        )
        due = [d for d in coach.get("today")["decisions"] if d["kind"] == "due"]
        assert bool(due) is is_old
        if is_old:
            assert due[0]["path"] == f"/squads/{athlete.squad_id}/test-day"

    @pytest.mark.parametrize(("days", "reserve", "is_old"), [(56, 2, False), (57, 2, True), (10, None, True)])
    def test_sets_whose_reserve_is_counted_are_news_too(self, coach, athlete, season, days: int, reserve, is_old: bool) -> None:
        MarkRecord.objects.all().delete()
        long_ago = TODAY - timedelta(days=200)
        MarkRecord.objects.create(athlete=athlete, exercise_id="back_squat", kind="one_rm", load_kg=100, day=long_ago)
        session(athlete, TODAY - timedelta(days=days), (80, 5, reserve))
        assert ("due" in self.kinds(coach)) is is_old


class TestWhatLiesAhead:
    def test_the_way_is_that_of_the_season(self, coach, three) -> None:
        (goal,) = coach.get("today")["goals"]
        shown = coach.get(f"athletes/{three[0].pk}/season")["season"]
        assert (goal["competition"], goal["names"]) == ("Test Open", ["Ada Test", "Bo Second", "Cy Third"])
        assert [p["name"] for p in goal["phases"]] == [p["name"] for p in shown["phases"]]
        assert goal["phases"][-1]["end"] == goal["day"]

    def test_later_days_count_by_squad(self, coach, three, settings) -> None:
        told = coach.get("today")["later"]
        assert told
        assert all(d["day"] > settings.TODAY for d in told)
        assert {d["words"] for d in told} == {f"3 of {three[0].squad.name}"}
