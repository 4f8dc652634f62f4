"""A day in the evening: every session on one page, what it taught, who was missing, and nobody who is not one's own."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

import pytest
from support.past import do, planned_in

from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.floor.models import PainReport, SetRecord, TrainingSession
from jarvok.app.facts.people.models import Person, Role

DAY = date(2026, 11, 24)


def read(coach: Any, day: date = DAY) -> Any:
    return coach.get(f"days/{day}/review")


@pytest.fixture
def trained(athlete: Athlete, season: Any) -> TrainingSession:
    return do(athlete, DAY, "Z", sets=4)


def test_each_session_says_how_far_it_came_and_what_was_not_as_planned(coach, athlete, trained) -> None:
    last = SetRecord.objects.filter(line__session=trained).last()
    last.delete()
    (row,) = read(coach)["sessions"]
    assert (row["athlete"], row["words"]) == ("Ada Test", "3 of 4 sets · RPE 6 × 50 min = 300 AU")
    assert row["not_as_planned"] == ["A1 Trap-bar deadlift: 3 of 4 sets"]
    assert row["is_over"] is True


def test_one_without_an_effort_says_so_and_one_that_runs_is_not_over(coach, athlete, trained) -> None:
    TrainingSession.objects.filter(pk=trained.pk).update(srpe=None)
    assert read(coach)["sessions"][0]["words"] == "4 of 4 sets · no RPE was said"
    TrainingSession.objects.filter(pk=trained.pk).update(finished_at=None)
    assert read(coach)["sessions"][0]["is_over"] is False


def test_what_is_written_of_a_session_stands_beside_it(coach, athlete, trained) -> None:
    SetRecord.objects.filter(line__session=trained, number=1).update(note="look at the far wall")
    before = read(coach)
    assert (before["words"], before["sessions"][0]["taught"]) == ("1 session · 1 without a lesson yet", [])
    assert before["sessions"][0]["said"] == ["look at the far wall"]
    body = {"kind": "cue", "exercise_id": "trap_bar_deadlift", "sentence": "Push the floor.", "session_id": trained.pk}
    coach.ok("POST", f"findings/athlete/{athlete.pk}", body)
    after = read(coach)
    assert after["sessions"][0]["taught"] == ["Trap-bar deadlift: Push the floor."]
    assert after["words"] == "1 session · every one has taught something"


def test_a_new_best_is_of_the_session_it_was_lifted_in(coach, athlete, trained) -> None:
    assert read(coach)["sessions"][0]["bests"] == []  # a first result is none
    more = do(athlete, DAY + timedelta(days=1), "Z", sets=2)
    SetRecord.objects.filter(line__session=more, number=2).update(load_kg=140)
    (row,) = read(coach, DAY + timedelta(days=1))["sessions"]
    assert len(row["bests"]) == 1
    assert row["bests"][0].startswith("Trap-bar deadlift: heaviest 5: 140 kg, before 100 kg")


def test_what_was_planned_and_never_begun_is_missed_with_its_reason(coach, athlete, season, settings) -> None:
    sheet = planned_in(coach, athlete)[0]
    day = date.fromisoformat(sheet["day"])
    settings.TODAY = day.isoformat()
    assert read(coach, day)["missed"] == []  # the day is not over
    settings.TODAY = (day + timedelta(days=1)).isoformat()
    assert [(m["athlete"], m["reason"]) for m in read(coach, day)["missed"]] == [("Ada Test", "")]
    coach.ok("PUT", f"athletes/{athlete.pk}/missed/{day}/{sheet['key']}", {"reason": "ill", "note": "", "weeks": 4})
    assert read(coach, day)["missed"][0]["reason"] != ""


def test_the_nearest_days_of_training_stand_beside(coach, athlete, trained) -> None:
    do(athlete, DAY - timedelta(days=9), "Z", sets=1)
    do(athlete, DAY + timedelta(days=3), "Z", sets=1)
    page = read(coach)
    assert (page["previous"], page["following"]) == (str(DAY - timedelta(days=9)), str(DAY + timedelta(days=3)))
    empty = read(coach, DAY - timedelta(days=1))
    assert empty["words"] == "Nobody trained, and nothing was planned."


def test_pains_are_for_who_may_know_of_them_and_only_while_open(coach, athlete, squad, trained) -> None:
    record = SetRecord.objects.filter(line__session=trained).first()
    pain = PainReport.objects.create(session=trained, record=record, area="knee")
    assert len(read(coach)["sessions"][0]["pains"]) == 1
    me = Person.objects.latest("pk")
    Person.objects.filter(pk=me.pk).update(role=Role.ASSISTANT)
    me.squads.add(squad)
    assert read(coach)["sessions"][0]["pains"] == []
    Person.objects.filter(pk=me.pk).update(role=Role.HEAD)
    coach.ok("POST", f"floor/pains/{pain.pk}/answer", {"answer": "cleared"})
    assert read(coach)["sessions"][0]["pains"] == []


def test_nobody_of_another_squad_stands_on_it(coach, athlete, squad, trained) -> None:
    other = Squad.objects.create(name="Other", sport="judo")
    do(Athlete.objects.create(squad=other, name="Bo Other"), DAY, "Z", sets=1)
    assert [s["athlete"] for s in read(coach)["sessions"]] == ["Ada Test", "Bo Other"]
    me = Person.objects.latest("pk")
    Person.objects.filter(pk=me.pk).update(role=Role.COACH)
    me.squads.add(squad)
    assert [s["athlete"] for s in read(coach)["sessions"]] == ["Ada Test"]


def test_of_many_it_is_read_squad_by_squad_of_few_all_together(coach, athlete, squad, trained, monkeypatch) -> None:
    other = Squad.objects.create(name="Other", sport="judo")
    do(Athlete.objects.create(squad=other, name="Bo Other"), DAY, "Z", sets=1)
    do(Athlete.objects.get(name="Bo Other"), DAY - timedelta(days=2), "Z", sets=1)
    together = read(coach)
    assert (together["squad_id"], together["may_show_all"], len(together["sessions"])) == (None, True, 2)
    alone = coach.get(f"days/{DAY}/review?squad={other.pk}")
    assert [s["athlete"] for s in alone["sessions"]] == ["Bo Other"]
    monkeypatch.setattr("jarvok.app.api.learning.day.MOST_TOGETHER", 2)
    assert read(coach)["may_show_all"] is True
    monkeypatch.setattr("jarvok.app.api.learning.day.MOST_TOGETHER", 1)
    first = read(coach)
    assert (first["squad_id"], first["may_show_all"], [s["athlete"] for s in first["sessions"]]) == (
        squad.pk,
        False,
        ["Ada Test"],
    )
    before = read(coach, DAY - timedelta(days=2))
    assert before["squad_id"] == other.pk  # the first that trained
    assert coach.send("GET", f"days/{DAY}/review?squad=999").status_code == 422


def test_a_squad_of_somebody_else_cannot_be_asked_for(coach, athlete, squad, trained) -> None:
    other = Squad.objects.create(name="Other", sport="judo")
    do(Athlete.objects.create(squad=other, name="Bo Other"), DAY, "Z", sets=1)
    coach.get("names")
    me = Person.objects.latest("pk")
    Person.objects.filter(pk=me.pk).update(role=Role.COACH)
    me.squads.add(squad)
    answer = coach.send("GET", f"days/{DAY}/review?squad={other.pk}")
    assert answer.status_code == 403
    assert "Other" not in answer.content.decode()


@pytest.mark.parametrize("day", ["2150-01-01", "1900-01-01", "tomorrow"])
def test_a_day_that_cannot_be_is_refused_in_words(coach, day: str) -> None:
    answer = coach.send("GET", f"days/{day}/review")
    assert answer.status_code == 422
    assert answer.json()["title"]
