"""What is kept of an athlete is what the facts say, whatever changes them; a page that nothing has changed reads little."""

from __future__ import annotations

from datetime import date, timedelta
from types import SimpleNamespace
from typing import Any

import numpy as np
import pytest
from django.db import OperationalError, connection, transaction
from django.db.models import F
from django.test.utils import CaptureQueriesContext
from support.kept import assert_kept_is_fresh, assert_so_without_keeping

from jarvok.app import acts
from jarvok.app.acts import Who, acting
from jarvok.app.api import in_turn
from jarvok.app.api.kept_page import MOST
from jarvok.app.api.read_ahead import read_ahead, when_a_day_begins
from jarvok.app.athletes import kept_known
from jarvok.app.athletes.kept_known import kept_of, nothing_kept, stamps_of
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.facts.centre.models import Centre
from jarvok.app.facts.people.models import Via
from jarvok.app.training.kept_athlete import reader_of
from jarvok.core.exercises import Pattern
from jarvok.core.sensors.stream import write_samples
from jarvok.core.sensors.trace import simulate_set

TODAY = date(2026, 11, 24)
BY_COMMAND = Who(None, Via.COMMAND)
HEAVIER = {"exercise_id": "back_squat", "kind": "one_rm", "day": "2026-11-23", "load": 118, "confirm": True}

# each changes something of one athlete, the squad or the centre; {a} is the athlete, {s} the squad
WRITES: tuple[tuple[str, str, dict[str, Any] | None], ...] = (
    ("POST", "athletes/{a}/marks", HEAVIER),
    ("POST", "athletes/{a}/marks", {"exercise_id": "front_squat", "kind": "rep_max", "day": "2026-11-20", "load": 70, "reps": 5}),
    ("POST", "athletes/{a}/masses", {"day": "2026-11-24", "mass": 63.1}),
    ("PATCH", "athletes/{a}/record", {"training_age_years": 0.5}),
    ("PATCH", "athletes/{a}/record", {"birth_date": "2011-01-05"}),
    ("PATCH", "athletes/{a}/record", {"minutes_a_session": 30}),
    ("PATCH", "athletes/{a}/record", {"group": "Light"}),
    ("PUT", "athletes/{a}/traits/long_legs", {"is_true": True}),
    ("POST", "athletes/{a}/faults", {"exercise_id": "back_squat", "fault": "hips_rise_first", "since": "2026-11-20"}),
    ("POST", "athletes/{a}/restrictions",
     {"tag": "overhead", "words": "Shoulder", "set_by": "physiotherapist", "since": "2026-11-20"}),
    ("POST", "athletes/{a}/practices", {"weekday": 1, "hour": 7, "minutes": 60, "hardness": 9}),
    ("POST", "athletes/{a}/calendar", {"kind": "ill", "name": "Flu", "start": "2026-11-25", "end": "2026-11-29"}),
    ("POST", "athletes/{a}/competitions", {"name": "Quay Cup", "day": "2027-01-23", "rank": "secondary"}),
    ("PUT", "athletes/{a}/season/style", {"arrangement": "linear"}),
    ("PUT", "athletes/{a}/season/easy", {"monday": "2026-11-30", "easy": True}),
    ("POST", "athletes/{a}/season/undo", None),
    ("PUT", "athletes/{a}/season/week", {"monday": "2026-12-07", "volume_pct": 60, "top_pct": None}),
    ("POST", "athletes/{a}/season/undo", None),
    ("PUT", "athletes/{a}/week-arrangement", {"arrangement": "concurrent", "days": 3}),
    ("POST", "athletes/{a}/plan/undo", None),
    ("POST", "squads/{s}/competitions", {"name": "Team Cup", "day": "2027-02-20"}),
    ("PATCH", "squads/{s}", {"name": "Harbour wrestling", "sport": "wrestling"}),
    ("POST", "findings/athlete/{a}", {"kind": "cue", "exercise_id": "back_squat", "sentence": "Knees out."}),
    ("POST", "findings/squad/{s}", {"kind": "cue", "exercise_id": "back_squat", "sentence": "Chest up."}),
    ("PUT", "athletes/{a}/missed/2026-11-23/A", {"reason": "ill", "note": ""}),
    ("PUT", "settings/rules/max.training_pct", {"value": 90}),
    ("PUT", "settings/rules/max.rise_guard_pct", {"value": 7}),
    ("PUT", "settings/equation", {"key": "brzycki"}),
    ("PUT", "settings/zone", {"zone": "Pacific/Auckland"}),
    ("PUT", "settings/habits", {"unit": "lb", "day_order": "month first"}),
    ("PUT", "me/habits", {"unit": "kg", "day_order": "day first"}),
    ("POST", "athletes", {"name": "Bo New", "squad": "Harbour wrestling"}),
    ("POST", "athletes/{a}/archive", None),
    ("POST", "athletes/{a}/back", None),
)  # fmt: skip


def test_whatever_is_written_what_is_kept_is_what_the_facts_say(coach, warm) -> None:
    for method, path, body in WRITES:
        at = path.format(a=warm.pk, s=warm.squad_id)
        coach.ok(method, at, body)
        assert_kept_is_fresh(f"{method} {at} {body}")
    assert_so_without_keeping("all of them")


def test_so_after_each_step_of_a_session(coach, warm, floor, settings) -> None:
    settings.TODAY = floor["day"]
    line = next(x for x in floor["lines"] if x["slot"] == "A1")
    path = f"floor/sessions/{floor['id']}"
    done = {"line_id": line["id"], "kind": "work", "load_kg": 90, "reps": 5, "rir": 1}
    steps = (
        ("POST", f"{path}/sets", {**done, "number": 1}),
        ("POST", f"{path}/sets", {**done, "number": 2, "load_kg": 100, "reps": 6}),
        ("POST", f"{path}/undo", None),
        ("POST", f"{path}/lines/{line['id']}/skip", {"kind": "work", "number": 2}),
        ("POST", f"{path}/finish", {"srpe": 7, "minutes": 55}),
    )
    assert_kept_is_fresh("a session begun")
    for method, at, body in steps:
        coach.ok(method, at, body)
        assert_kept_is_fresh(f"{method} {at}")
    assert_so_without_keeping("a session done")


def test_a_repetition_of_a_stream_is_seen(coach, warm, floor, settings) -> None:
    settings.TODAY = floor["day"]
    day, line = date.fromisoformat(floor["day"]), next(x for x in floor["lines"] if x["slot"] == "A1")
    before = list(LiftBook([warm], day).all_points_of(warm.pk, line["exercise_id"]))
    body = {"line_id": line["id"], "kind": "work", "number": 1, "rate_hz": 100}
    path = coach.ok("POST", f"floor/sessions/{floor['id']}/streams", body)["path"]
    trace = simulate_set(Pattern.DEADLIFT, [0.62, 0.60], 0.5, 100, 0.001, np.random.default_rng(4))
    sent = write_samples([(n, t, x) for n, (t, x) in enumerate(trace.samples())])
    stamp = stamps_of([warm.pk])[warm.pk]
    coach.client.post(path, data=sent, content_type="application/x-ndjson")
    coach.client.delete(path)
    after = LiftBook([warm], day).all_points_of(warm.pk, line["exercise_id"])
    assert len(after) == len(before) + 1
    assert stamps_of([warm.pk])[warm.pk].measured > stamp.measured
    assert_kept_is_fresh("a repetition")


LIFTS_STAY = (
    ("PUT", "athletes/{a}/season/easy", {"monday": "2026-11-30", "easy": True}),
    ("PUT", "athletes/{a}/week-arrangement", {"arrangement": "concurrent", "days": 3}),
)
LIFTS_GO = (
    ("POST", "athletes/{a}/marks", HEAVIER),
    ("POST", "athletes/{a}/calendar", {"kind": "ill", "name": "Flu", "start": "2026-11-20", "end": "2026-11-22"}),
    ("POST", "athletes/{a}/competitions", {"name": "Quay Cup", "day": "2026-12-05"}),
)


@pytest.mark.parametrize(("write", "stay"), [*((w, True) for w in LIFTS_STAY), *((w, False) for w in LIFTS_GO)])
def test_a_change_of_the_plan_alone_leaves_what_is_known_of_lifts(coach, warm, write, stay) -> None:
    LiftBook([warm], TODAY)
    before = kept_of([warm.pk])[warm.pk]
    method, path, body = write
    coach.ok(method, path.format(a=warm.pk), body)
    after = kept_of([warm.pk])[warm.pk]
    assert kept_known.LIFTS in before
    assert after is not before, "what else is kept is read again"
    assert (kept_known.LIFTS in after and after[kept_known.LIFTS][1] is before[kept_known.LIFTS][1]) == stay


def _a_move(coach, athlete: Athlete) -> tuple[str, dict[str, str]]:
    days = coach.get(f"athletes/{athlete.pk}/week?start=2026-11-30")["week"]["days"]
    from_day = next(d for d in days if d["sheet"])
    to = next(d["day"] for d in days if not d["sheet"] and d["can_take"])
    return f"athletes/{athlete.pk}/sessions/{from_day['day']}/{from_day['sheet']['key']}/day", {"day": to}


def _phases(coach, athlete: Athlete) -> tuple[str, dict[str, Any]]:
    phases = [p for p in coach.get(f"athletes/{athlete.pk}/season")["season"]["phases"] if p["can_set_length"]]
    first, second = phases[:2]
    weeks = {p["id"]: p["weeks"] for p in phases} | {first["id"]: first["weeks"] - 1, second["id"]: second["weeks"] + 1}
    return f"competitions/{first['competition_id']}/phases", {"weeks": weeks}


@pytest.mark.parametrize("change_of", [_a_move, _phases])
def test_an_athlete_is_kept_over_a_change_of_the_plan_as_the_facts_say(coach, warm, change_of) -> None:
    for _ in range(2):
        path, body = change_of(coach, warm)
        before = kept_of([warm.pk])[warm.pk][kept_known.ATHLETE]
        coach.ok("PUT", path, body)
        after = kept_of([warm.pk])[warm.pk].get(kept_known.ATHLETE)
        assert after is not None, "nothing is read twice"
        assert after is not before, "who was reading meanwhile keeps what it has read"
        assert_kept_is_fresh(path)


@pytest.mark.parametrize("change_of", [_a_move, _phases])
def test_it_is_not_where_somebody_else_changed_something_meanwhile(coach, warm, change_of, monkeypatch) -> None:
    path, body = change_of(coach, warm)
    raise_versions = acts._raise_versions

    def and_another(*asked: Any) -> None:
        raise_versions(*asked)
        Athlete.objects.filter(pk=warm.pk).update(version=F("version") + 1)

    monkeypatch.setattr(acts, "_raise_versions", and_another)
    assert coach.send("PUT", path, body).status_code == 200
    assert kept_known.ATHLETE not in kept_of([warm.pk])[warm.pk]


def test_a_changed_season_leaves_no_sums_of_a_week_that_nobody_has_kept_as_it_stood(coach, warm, settings) -> None:
    settings.TODAY = "2026-12-15"  # the week before is over, and was never frozen
    kept_known.forget_all_kept()
    coach.get(f"athletes/{warm.pk}/week")
    path, body = _phases(coach, warm)
    coach.ok("PUT", path, body)
    assert_kept_is_fresh(path)


def test_a_refused_move_leaves_what_is_kept(coach, warm) -> None:
    path, _ = _a_move(coach, warm)
    before = kept_of([warm.pk])[warm.pk][kept_known.ATHLETE]
    assert coach.send("PUT", path, {"day": "2027-05-05"}).status_code == 422
    assert kept_of([warm.pk])[warm.pk][kept_known.ATHLETE] is before
    assert_kept_is_fresh(path)


def test_another_day_is_another_page(coach, warm, sheet, settings) -> None:
    settings.TODAY = sheet["day"]
    assert coach.get("today")["training"] == 1
    settings.TODAY = (date.fromisoformat(sheet["day"]) - timedelta(days=1)).isoformat()
    told = coach.get("today")
    assert (told["training"], [x["day"] for x in told["later"]][:1]) == (0, [sheet["day"]])


def test_a_page_that_nothing_has_changed_reads_nothing_of_the_past(coach, warm, django_assert_max_num_queries) -> None:
    with django_assert_max_num_queries(12):
        coach.get("today")
    with django_assert_max_num_queries(9):
        coach.get("athletes")


def test_what_is_tried_and_taken_back_is_not_kept(coach, warm) -> None:
    before = LiftBook([warm], TODAY).max(warm.pk, "back_squat")
    with transaction.atomic():
        with acting(BY_COMMAND, "add_mark", athlete=warm):
            MarkRecord.objects.create(athlete=warm, exercise_id="back_squat", kind="one_rm", day=TODAY, load_kg=140, reps=1)
            inside = LiftBook([warm], TODAY).max(warm.pk, "back_squat")
        after = LiftBook([warm], TODAY).max(warm.pk, "back_squat")
        transaction.set_rollback(True)
    assert before is not None
    assert inside == after != before
    coach.ok("POST", f"athletes/{warm.pk}/masses", {"day": "2026-11-24", "mass": 63.1})  # has the version of what was tried
    assert LiftBook([warm], TODAY).max(warm.pk, "back_squat") == before


def test_a_fact_that_no_act_wrote_is_seen(warm) -> None:
    before = LiftBook([warm], TODAY).marks_of(warm.pk, "back_squat")
    MarkRecord.objects.create(athlete=warm, exercise_id="back_squat", kind="one_rm", day=TODAY, load_kg=101, reps=1)
    assert len(LiftBook([warm], TODAY).marks_of(warm.pk, "back_squat")) == len(before) + 1


def test_a_rehearsal_changes_nothing_that_is_kept(coach, warm) -> None:
    body = {"name": "Quay Cup", "day": "2027-01-23"}
    coach.ok("POST", f"athletes/{warm.pk}/competitions/preview", body)
    assert_kept_is_fresh("a preview")
    assert "Quay Cup" not in {g["competition"] for g in coach.get("today")["goals"]}


def test_no_more_athletes_are_kept_than_fit(warm, monkeypatch) -> None:
    monkeypatch.setattr(kept_known, "MOST_KEPT", 2)
    others = [Athlete.objects.create(squad=warm.squad, name=f"Mate {n}") for n in range(3)]
    for mate in others:
        kept_of([mate.pk])[mate.pk]["a"] = mate.pk
    assert [kept_of([mate.pk])[mate.pk].get("a") for mate in others[1:]] == [others[1].pk, others[2].pk]
    assert "a" not in kept_of([others[0].pk])[others[0].pk]


def test_nothing_kept_is_read_or_added_meanwhile(warm) -> None:
    kept_known.forget_all_kept()
    kept_of([warm.pk])[warm.pk]["a"] = 1
    with nothing_kept():
        assert "a" not in kept_of([warm.pk])[warm.pk]
        kept_of([warm.pk])[warm.pk]["a"] = 2
    assert kept_of([warm.pk])[warm.pk] == {"a": 1}


@pytest.mark.parametrize("what", [kept_known.LIFTS, kept_known.ATHLETE])
def test_what_is_large_is_let_go_of_before_the_rest(warm, monkeypatch, what: str) -> None:
    mate = Athlete.objects.create(squad=warm.squad, name="Mate")
    monkeypatch.setitem(kept_known.MOST_LARGE_KEPT, what, 1)
    for athlete in (warm, mate):
        LiftBook([athlete], TODAY)
        reader_of(athlete.pk)
        kept_of([athlete.pk])[athlete.pk]["small"] = 1
    every = {kept_known.LIFTS, kept_known.ATHLETE, "small"}
    assert set(kept_of([warm.pk])[warm.pk]) == every - {what}
    assert set(kept_of([mate.pk])[mate.pk]) == every


def test_what_is_read_ahead_is_there_when_the_page_is_asked_for(coach, warm, django_assert_max_num_queries) -> None:
    kept_known.forget_all_kept()
    assert read_ahead() == 1
    with django_assert_max_num_queries(12):
        coach.get("today")
    for path in (f"squads/{warm.squad_id}/report", f"learning/squad/{warm.squad_id}"):
        found = coach.get(path)
        kept_known.forget_all_kept()
        with CaptureQueriesContext(connection) as told:
            coach.get(path)
        kept_known.forget_all_kept()
        assert read_ahead() == 1
        with django_assert_max_num_queries(len(told) - 8):
            assert coach.get(path) == found


def test_reading_ahead_waits_while_a_page_is_read(coach, warm, monkeypatch) -> None:
    taken = []
    monkeypatch.setattr(
        in_turn, "_turns", SimpleNamespace(acquire=lambda timeout: taken.append("taken") or True, release=taken.clear)
    )
    monkeypatch.setattr("jarvok.app.api.read_ahead.of_day", lambda people: taken.append("worked out"))
    monkeypatch.setattr("jarvok.app.api.read_ahead.rows_of", lambda people: taken.append(len(people)))
    monkeypatch.setattr("jarvok.app.api.read_ahead.read_ahead_of_weeks", lambda people: taken.append("summed up"))
    monkeypatch.setattr("jarvok.app.api.read_ahead.read_ahead_of_reports", lambda people: taken.append(len(people)))
    monkeypatch.setattr("jarvok.app.api.read_ahead.time.sleep", lambda s: seen.append(list(taken)))
    seen: list[Any] = []
    read_ahead()
    assert seen == [[], []]  # the turn was given back before each pause


def test_it_is_read_ahead_again_once_the_days_that_are_over_are_kept(coach, warm, monkeypatch, settings) -> None:
    """The housekeeper's word changes everybody's plan: what was read ahead before it is thrown away."""
    ahead: list[str] = []
    monkeypatch.setattr("jarvok.app.api.read_ahead.read_ahead", lambda: ahead.append(settings.TODAY))
    monkeypatch.setattr("jarvok.app.api.read_ahead.close_old_connections", lambda: None)
    Centre.objects.update_or_create(pk=1, defaults={"days_kept_on": TODAY - timedelta(days=1)})
    first = when_a_day_begins(None)
    assert when_a_day_begins(first) == first
    assert len(ahead) == 1
    Centre.objects.filter(pk=1).update(days_kept_on=TODAY)
    kept = when_a_day_begins(first)
    assert len(ahead) == 2
    settings.TODAY = (TODAY + timedelta(days=1)).isoformat()
    assert when_a_day_begins(kept) != kept
    assert ahead[-1] == settings.TODAY


def test_what_could_not_be_read_ahead_is_tried_again(coach, warm, monkeypatch) -> None:
    def broken() -> int:
        raise OperationalError("database is locked")

    monkeypatch.setattr("jarvok.app.api.read_ahead.close_old_connections", lambda: None)
    with monkeypatch.context() as meanwhile:
        meanwhile.setattr("jarvok.app.api.read_ahead.read_ahead", broken)
        assert when_a_day_begins(None) is None
    assert when_a_day_begins(None) is not None


def test_no_more_pages_of_an_athlete_are_kept_than_it_says(coach, warm) -> None:
    first = coach.get(f"athletes/{warm.pk}/standing?limited=nobody-0")
    for n in range(1, MOST + 3):
        coach.get(f"athletes/{warm.pk}/standing?limited=nobody-{n}")
        assert len(kept_of([warm.pk])[warm.pk][kept_known.PAGES]) <= MOST
    assert coach.get(f"athletes/{warm.pk}/standing?limited=nobody-0") == first
