"""After sets alone, what a plan is laid from stays kept, and only the session in which they were done is read again."""

from __future__ import annotations

from datetime import date
from typing import Any

import numpy as np
import pytest
from django.db import connection
from django.db.models import Max
from django.test.utils import CaptureQueriesContext
from support.kept import assert_kept_is_fresh
from support.past import do

from jarvok.app import acts
from jarvok.app.athletes import past_sessions
from jarvok.app.athletes.kept_known import ATHLETE, BEFORE_SETS, kept_of, stamps_of
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import AdviceRecord, FloorEvent, Rep, SetRecord
from jarvok.app.facts.people.models import Act
from jarvok.app.plan_acts import SETS_ALONE
from jarvok.app.training.kept_athlete import reader_of
from jarvok.app.training.planned_weeks import PLANNED
from jarvok.core.exercises import Pattern
from jarvok.core.sensors.stream import write_samples
from jarvok.core.sensors.trace import simulate_set


@pytest.fixture
def begun(coach, warm, floor, settings) -> dict[str, Any]:
    """A session that has begun, on its day; its first line has four sets of five."""
    settings.TODAY = floor["day"]
    line = next(x for x in floor["lines"] if x["slot"] == "A1")
    return {
        "path": f"floor/sessions/{floor['id']}",
        "id": floor["id"],
        "line": line["id"],
        "lift": line["exercise_id"],
        "day": floor["day"],
    }


def log(coach, begun: dict[str, Any], number: int, **more: Any) -> Any:
    done = {"line_id": begun["line"], "kind": "work", "number": number, "load_kg": 90, "reps": 5, "rir": 1}
    return coach.ok("POST", f"{begun['path']}/sets", {**done, **more})


def stream(coach, begun: dict[str, Any], number: int) -> None:
    path = coach.ok(
        "POST", f"{begun['path']}/streams", {"line_id": begun["line"], "kind": "work", "number": number, "rate_hz": 100}
    )["path"]
    trace = simulate_set(Pattern.DEADLIFT, [0.62, 0.60], 0.5, 100, 0.001, np.random.default_rng(4))
    sent = write_samples([(n, t, x) for n, (t, x) in enumerate(trace.samples())])
    coach.client.post(path, data=sent, content_type="application/x-ndjson")
    coach.client.delete(path)


def test_each_act_that_writes_sets_alone_is_followed(coach, warm, begun) -> None:
    """With each: the plan's facts stand, an event is told, and what is kept is what the facts say."""
    path, line = begun["path"], begun["line"]
    stream(coach, begun, 1)
    log(coach, begun, 1)
    rep = Rep.objects.filter(line_id=line).order_by("pk").first()
    assert rep is not None
    at = {"line_id": line, "kind": "work"}
    advice = AdviceRecord.objects.filter(line_id=line, outcome="").last()
    assert advice is not None
    steps: tuple[tuple[str, str, Any], ...] = (
        ("answer_advice", f"{path}/advice/{advice.pk}", {"accept": True}),
        ("log_set", f"{path}/sets", {**at, "number": 2, "load_kg": 100, "reps": 6, "rir": 0}),
        ("correct_set", f"{path}/sets/correct", {**at, "number": 2, "load_kg": 95, "reps": 6, "rir": 1}),
        ("take_out_rep", f"{path}/reps/{rep.pk}/out", {}),
        ("take_out_rep", f"{path}/reps/{rep.pk}/back", {}),
        ("move_rep", f"{path}/reps/{rep.pk}/move", {**at, "number": 2}),
        ("skip_set", f"{path}/lines/{line}/skip", {"kind": "work", "number": 3}),
        ("undo_set", f"{path}/undo", None),
        ("add_set", f"{path}/lines/{line}/more", {}),
        ("stop_line", f"{path}/lines/{line}/stop", {"reason": "enough"}),
    )
    assert {verb for verb, _, _ in steps} == SETS_ALONE
    assert_kept_is_fresh("before")
    for verb, at_path, body in steps:
        then, told = stamps_of([warm.pk])[warm.pk], FloorEvent.objects.aggregate(Max("pk"))["pk__max"] or 0
        if verb == "correct_set":
            body |= {"seen_id": SetRecord.objects.filter(line_id=line, number=2).latest("pk").pk}
        coach.ok("POST", at_path, body)
        assert Act.objects.order_by("pk").last().verb == verb
        now = stamps_of([warm.pk])[warm.pk]
        assert now != then
        assert then.plans_as(now)
        assert FloorEvent.objects.filter(session_id=begun["id"], pk__gt=told).exists(), f"{verb} tells nothing"
        assert_kept_is_fresh(verb)


def test_the_past_of_a_lift_is_read_again_of_sessions_told_of_alone(coach, warm, begun, monkeypatch) -> None:
    day = date.fromisoformat(begun["day"])

    def past(without: int | None = None) -> list[Any]:
        return list(LiftBook([warm], day, without_session=without).history(warm.pk, begun["lift"]))

    earlier = do(warm, date(2026, 11, 20), "Z", sets=1)
    assert earlier.lines.get().exercise_id == begun["lift"]
    log(coach, begun, 1)
    *others, before = past()
    assert (len(others[-1].sets), len(before.sets)) == (1, 1)
    asked: list[list[int]] = []
    read = past_sessions._OF_SESSIONS.rows
    monkeypatch.setattr(past_sessions._OF_SESSIONS, "rows", lambda ids, *span: (asked.append(list(ids)), read(ids, *span))[1])
    monkeypatch.setattr(past_sessions._ALL, "rows", None)  # nothing else is asked for
    log(coach, begun, 2)
    *same, after = past()
    assert asked == [[begun["id"]]]
    assert all(now is then for now, then in zip(same, others, strict=True))
    assert [x.load_kg for x in after.sets] == [90, 90]
    assert past(without=earlier.pk) == [*others[:-1], after]
    for _ in range(2):
        coach.ok("POST", f"{begun['path']}/undo", None)
    assert past() == others, "a line of which no set is left is none of the past"


@pytest.mark.parametrize(
    ("path", "body"),
    [
        (
            "athletes/{a}/marks",
            {"exercise_id": "back_squat", "kind": "one_rm", "day": "2026-11-20", "load": 118, "confirm": True},
        ),
        ("athletes/{a}/masses", {"day": "2026-11-24", "mass": 63.1}),
        ("athletes/{a}/restrictions", {"tag": "overhead", "words": "Shoulder", "set_by": "physio", "since": "2026-11-20"}),
        ("athletes/{a}/calendar", {"kind": "ill", "name": "Flu", "start": "2026-11-25", "end": "2026-11-29"}),
        ("{session}/finish", {"srpe": 7, "minutes": 55}),
    ],
)
def test_nothing_else_leaves_it_kept(coach, warm, begun, path: str, body: Any) -> None:
    reader_of(warm.pk)
    then = stamps_of([warm.pk])[warm.pk]
    log(coach, begun, 1)
    coach.ok("POST", path.format(a=warm.pk, session=begun["path"]), body)
    assert not then.plans_as(stamps_of([warm.pk])[warm.pk])
    assert_kept_is_fresh(path)


def test_of_a_session_nothing_was_told_of_nothing_is_read_again(coach, warm, begun) -> None:
    day = date.fromisoformat(coach.get(begun["path"])["day"])
    log(coach, begun, 1)
    before = LiftBook([warm], day).facts_of(warm.pk).sets
    log(coach, begun, 2, load_kg=95)
    after = LiftBook([warm], day).facts_of(warm.pk).sets
    assert set(before.sessions) == set(after.sessions)
    assert len(before.sessions) == 2
    same = {pk for pk in before.sessions if after.sessions[pk] is before.sessions[pk]}
    assert same == set(before.sessions) - {begun["id"]}
    assert len(after.sessions[begun["id"]].told) == len(before.sessions[begun["id"]].told) + 1


def test_weeks_stay_where_the_maxes_say_the_same_of_them(coach, warm, begun) -> None:
    """The first set to a known effort says that its lift was shown today, and the weeks are laid anew; the next says no more."""
    monday = date.fromisoformat("2026-11-23")

    def week() -> Any:
        coach.get(f"athletes/{warm.pk}/week")
        kept = reader_of(warm.pk).__dict__["worked_out_while_kept"]
        return next(found for (what, day), found in kept.items() if what == PLANNED and day is not None and day >= monday)

    first = week()
    log(coach, begun, 1, rir=2)
    second = week()
    log(coach, begun, 2, rir=2)
    third = week()
    assert second is not first
    assert third is second
    assert_kept_is_fresh("two sets")


def test_pages_read_half_of_what_they_read_after_a_result(coach, warm, begun) -> None:
    def asked(path: str, change: Any) -> int:
        coach.get(path)
        change()
        with CaptureQueriesContext(connection) as told:
            coach.get(path)
        return len(told)

    numbers = iter(range(1, 5))
    loads = iter((101, 102, 103, 104))

    def result() -> None:
        mark = {"exercise_id": "back_squat", "kind": "one_rm", "day": "2026-11-20", "load": next(loads), "confirm": True}
        coach.ok("POST", f"athletes/{warm.pk}/marks", mark)

    for path, share in ((f"athletes/{warm.pk}/week", 0.6), ("today", 0.75)):
        reader_of(warm.pk)
        after_set = asked(path, lambda: log(coach, begun, next(numbers)))
        after_result = asked(path, result)
        assert after_set <= share * after_result, f"{path}: {after_set} after a set, {after_result} after a result"


def test_an_athlete_not_kept_is_read_anew_after_a_set(coach, warm, begun, monkeypatch) -> None:
    """Who was let go of meanwhile has nothing that could be kept over the set."""
    monkeypatch.setitem(acts.__dict__, "SETS_ALONE", frozenset())
    reader_of(warm.pk)
    log(coach, begun, 1)
    assert BEFORE_SETS[ATHLETE] not in kept_of([warm.pk])[warm.pk]
    assert_kept_is_fresh("counted as any other act")


def test_so_on_a_beginner(coach, warm, begun) -> None:
    """What a beginner's max grows by hangs on the counted sets of all lifts."""
    Athlete.objects.filter(pk=warm.pk).update(training_age_years=0.3)
    coach.ok("PATCH", f"athletes/{warm.pk}/record", {"training_age_years": 0.4})
    for number, rir in enumerate((3, 2, 0), 1):
        log(coach, begun, number, rir=rir)
        assert_kept_is_fresh(f"set {number}")
