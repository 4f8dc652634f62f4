"""Guided tests of a max and the other tests are one kind of row: those of before come along, in the database and in files."""

from __future__ import annotations

import hashlib
import json
import zipfile
from datetime import date
from importlib import import_module
from io import BytesIO
from types import SimpleNamespace
from typing import Any

import pytest
from django.db import IntegrityError, transaction

from jarvok.app import clock
from jarvok.app.facts.athletes.models import Athlete, MarkRecord, Squad
from jarvok.app.facts.room.models import Trial, TrialEntry
from jarvok.app.testing.max_tests import attempts_of, day_of
from jarvok.app.testing.trials import record_of
from jarvok.app.testing.tries import tries_of
from jarvok.app.upkeep import whole_centre
from jarvok.core.errors import CoachError
from jarvok.core.testing.steps import Attempt
from jarvok.core.testing.tried import Jumps, from_raw, to_raw
from jarvok.core.velocity.ladder import Try

AT = "2026-10-02T09:00:00+00:00"
TEST = {
    "id": 7, "act_id": None, "athlete_id": 1, "exercise_id": "back_squat", "kind": "true_max", "day": "2026-10-02",
    "started_at": AT, "ended_at": AT, "outcome": "120 kg", "mark_id": None,
}  # fmt: skip
SET = {
    "id": 3, "act_id": None, "test_id": 7, "number": 1, "load_kg": 100.0, "reps": 1, "felt": 8.0, "form_broke": False,
    "missed": False, "velocity_mps": None, "at": AT, "taken_back_at": None,
}  # fmt: skip


class _Rows(list[Any]):
    """Rows as a manager of a kind that there is no more would give them."""

    def order_by(self, *_: str) -> _Rows:
        return self


@pytest.mark.django_db
def test_tests_of_before_come_along_with_their_sets(athlete: Athlete) -> None:
    undone = SimpleNamespace(**{**SET, "id": 4, "number": 2, "load_kg": 120.0, "taken_back_at": AT})
    test = SimpleNamespace(**{**TEST, "athlete_id": athlete.pk}, attempts=_Rows([SimpleNamespace(**SET), undone]))
    kinds = {"MaxTest": SimpleNamespace(objects=_Rows([test])), "Trial": Trial, "TrialEntry": TrialEntry}
    migration = import_module("jarvok.app.facts.room.migrations.0007_one_kind_of_test")
    migration.one_kind(SimpleNamespace(get_model=lambda _, name: kinds[name]), None)
    trial = Trial.objects.get()
    assert (trial.kind, trial.exercise_id, trial.outcome, trial.asked) == ("true_max", "back_squat", "120 kg", {})
    assert day_of(trial) == date(2026, 10, 2)
    assert [(e.number, e.taken_back_at is None) for e in trial.entries.all()] == [(1, True), (2, False)]
    assert attempts_of(trial) == [Attempt(100, 1, 8)]


def _file(tests: list[dict[str, Any]], sets: list[dict[str, Any]]) -> BytesIO:
    """A centre's file as the version before wrote it: the one of now, with two kinds of row that there are no more."""
    now, then = BytesIO(), BytesIO()
    whole_centre.write(now)
    with zipfile.ZipFile(now) as source, zipfile.ZipFile(then, "w") as target:
        manifest = json.loads(source.read("manifest.json"))
        for name in manifest["files"]:
            target.writestr(name, source.read(name))
        for name, rows in (("athletes.maxtest.jsonl", tests), ("athletes.testattempt.jsonl", sets)):
            body = b"".join(json.dumps(r).encode() + b"\n" for r in rows)
            target.writestr(name, body)
            manifest["files"][name] = {"rows": len(rows), "sha256": hashlib.sha256(body).hexdigest()}
        target.writestr("manifest.json", json.dumps(manifest))
    then.seek(0)
    Athlete.objects.all().delete()
    Squad.objects.all().delete()
    return then


@pytest.mark.django_db
class TestAFileOfBefore:
    def test_its_guided_tests_are_trials(self, athlete: Athlete) -> None:
        Trial.objects.create(athlete=athlete, kind="rest", exercise_id="hurdle_jump", asked={"order": [0]}, started_at=AT)
        whole_centre.read(_file([{**TEST, "athlete_id": athlete.pk}], [SET]))
        guided = Trial.objects.get(kind="true_max")
        assert attempts_of(guided) == [Attempt(100, 1, 8)]
        assert guided.outcome == "120 kg"
        assert Trial.objects.count() == 2

    @pytest.mark.parametrize("spoil", [{"test_id": 8}, {"load_kg": None, "reps": None, "at": "never"}])
    def test_one_that_is_spoilt_is_refused_whole(self, athlete: Athlete, spoil: dict[str, Any]) -> None:
        file = _file([{**TEST, "athlete_id": athlete.pk}], [{**SET, **spoil}])
        with pytest.raises(CoachError, match="A guided test cannot be read"), transaction.atomic():
            whole_centre.read(file)
        assert not Athlete.objects.exists()


@pytest.mark.parametrize(
    ("kind", "tried"),
    [
        ("rep_max", Attempt(60, 8, 9.5, form_broke=True)),
        ("load_velocity", Attempt(60, 1, velocity_mps=0.91)),
        ("ladder", Try(67.5, 1.02)),
        ("single", Try(90, form_held=False)),
        ("rest", Jumps((41.0, 42.5), 120)),
        ("reps", Jumps((40.0, 40.5, 39.0, 38.0))),
    ],
)
def test_a_try_is_read_as_it_was_kept(kind: str, tried: Any) -> None:
    assert from_raw(kind, json.loads(json.dumps(to_raw(tried)))) == tried


def test_tries_from_before_they_were_versioned_are_read() -> None:
    assert from_raw("ladder", {"load_kg": 60, "form_held": True, "velocity_mps": 0.8}) == Try(60, 0.8)
    assert from_raw("reps", {"heights_cm": [40, 41, 40, 39]}) == Jumps((40, 41, 40, 39))


@pytest.mark.django_db
def test_a_place_is_taken_once(athlete: Athlete) -> None:
    trial = Trial.objects.create(athlete=athlete, kind="true_max", exercise_id="back_squat", started_at=clock.now())
    made = {"trial": trial, "number": 1, "data": to_raw(Attempt(60, 5)), "at": clock.now()}
    TrialEntry.objects.create(**made, taken_back_at=clock.now())
    TrialEntry.objects.create(**made)
    assert len(tries_of(trial)) == 1
    with pytest.raises(IntegrityError), transaction.atomic():
        TrialEntry.objects.create(**made)


@pytest.mark.django_db
def test_both_pages_show_every_test_and_where_it_runs(coach, athlete) -> None:
    guided = coach.ok("POST", f"athletes/{athlete.pk}/tests", {"exercise_id": "back_squat", "kind": "rep_max"})
    ladder = coach.ok(
        "POST", f"athletes/{athlete.pk}/trials", {"kind": "ladder", "exercise_id": "bench_press", "target_mps": 0.5}
    )
    rows = coach.get(f"athletes/{athlete.pk}/tests")["tests"]
    assert [(r["id"], r["is_guided"], r["running"]) for r in rows] == [(ladder["id"], False, True), (guided["id"], True, True)]
    assert coach.get(f"athletes/{athlete.pk}/trials")["trials"] == rows
    assert coach.send("GET", f"tests/{ladder['id']}").status_code == 404
    assert coach.send("GET", f"trials/{guided['id']}").status_code == 404


@pytest.mark.django_db
@pytest.mark.parametrize(
    ("kind", "asked", "marks", "record_kg"),
    [
        ("ladder", {"target_mps": 1.0}, [("set_velocity", 65, 1.0), ("set_velocity", 70, 0.99)], 65),
        ("ladder", {"target_mps": 1.0}, [("technical_max", 90, None)], None),
        ("single", {}, [("technical_max", 90, None), ("set_velocity", 95, 0.5)], 90),
    ],
)
def test_an_old_record_is_typed_among_the_results(athlete: Athlete, kind: str, asked: Any, marks: Any, record_kg: Any) -> None:
    for mark, load_kg, mps in marks:
        measures = {"velocity_mps": mps} if mps else {}
        MarkRecord.objects.create(
            athlete=athlete, exercise_id="power_clean", kind=mark, day=clock.today(), load_kg=load_kg, reps=1, measures=measures
        )
    trial = Trial.objects.create(athlete=athlete, kind=kind, exercise_id="power_clean", asked=asked, started_at=clock.now())
    assert record_of(trial) == record_kg
    Trial.objects.create(
        athlete=athlete,
        kind=kind,
        exercise_id="power_clean",
        asked=asked,
        started_at=AT,
        ended_at=AT,
        result=(record_kg or 0) + 5,
    )
    assert record_of(trial) == (record_kg or 0) + 5, "the better of both"
