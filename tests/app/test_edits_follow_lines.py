"""What hangs on a line follows the line: an edit and a kept flag hold when the plan puts it in another slot."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from datetime import date, timedelta
from typing import Any

import pytest
from django.core.management import call_command

from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import FlagWord
from jarvok.app.facts.training.models import LineEdit, ToldWeek
from jarvok.app.training.actions import freeze_weeks
from jarvok.app.upkeep.line_ids import give_line_ids
from jarvok.app.upkeep.past_weeks import freeze_past_weeks
from jarvok.core.errors import CoachError
from jarvok.core.week import generate


@pytest.fixture
def path(athlete: Athlete, sheet: Any) -> str:
    return f"athletes/{athlete.pk}/sessions/{sheet['day']}/{sheet['key']}"


def main_of(sheet: Any) -> Any:
    return next(x for x in sheet["lines"] if x["is_main"])


@pytest.fixture
def another_order(monkeypatch) -> Iterator[None]:
    """A later version of the arrangement that plans the main lines the other way round."""
    settled = generate.settled

    def turned(day, facts, on):
        mains = [d for d in day.drafts if d.is_main]
        slots = [d.slot for d in mains]
        turned = [replace(d, slot=slot) for d, slot in zip(reversed(mains), slots, strict=True)]
        return settled(replace(day, drafts=[*turned, *(d for d in day.drafts if not d.is_main)]), facts, on)

    monkeypatch.setattr(generate, "settled", turned)
    generate.forget_weeks()
    yield
    generate.forget_weeks()


def test_an_edit_follows_its_line_into_another_slot(coach, path, sheet, request) -> None:
    line = main_of(sheet)
    coach.ok("PUT", f"{path}/lines/{line['id']}", {"text": "6 × 2 @ 71 %"})
    request.getfixturevalue("another_order")
    after = {x["id"]: x for x in coach.get(path)["lines"]}
    assert after[line["id"]]["slot"] != line["slot"]
    assert (after[line["id"]]["text"], after[line["id"]]["edited"]) == ("6 × 2 @ 71 %", True)
    assert [x["edited"] for x in after.values()].count(True) == 1
    coach.ok("PUT", f"{path}/lines/{line['id']}", {"text": ""})
    assert not any(x["edited"] for x in coach.get(path)["lines"])


def test_a_kept_flag_follows_its_line_into_another_slot(coach, path, sheet, request) -> None:
    line = main_of(sheet)
    coach.ok("PUT", f"{path}/lines/{line['id']}", {"text": "3 × 14, 2 in reserve"})
    flag = next(f for f in coach.get(path)["flags"] if f["check_id"] == "rir-range")
    assert flag["slot"] == line["slot"]
    said = {"check_id": "rir-range", "where": flag["where"], "reason": "a block of repetitions"}
    coach.ok("POST", f"{path.rsplit('/sessions', 1)[0]}/plan/flags", said)
    request.getfixturevalue("another_order")
    kept = next(f for f in coach.get(path)["flags"] if f["check_id"] == "rir-range")
    assert kept["kept_reason"] == "a block of repetitions"
    assert kept["slot"] != flag["slot"]


def test_what_was_kept_before_lines_had_ids_is_given_theirs(coach, athlete, path, sheet) -> None:
    line, day = main_of(sheet), date.fromisoformat(sheet["day"])
    old = {"athlete": athlete, "day": day, "session_key": sheet["key"], "exercise_id": line["exercise_id"]}
    LineEdit.objects.create(**old, slot=line["slot"], text="6 × 2 @ 71 %")
    LineEdit.objects.create(**old, slot="Z9", text="6 × 2 @ 71 %")
    FlagWord.objects.create(athlete=athlete, check_id="rir-range", where=f"{day}:{sheet['key']}:{line['slot']}", reason="so")
    FlagWord.objects.create(athlete=athlete, check_id="order", where=f"{day}:{sheet['key']}", reason="so")
    assert give_line_ids() == 2
    assert [e.line_id for e in LineEdit.objects.all()] == [line["id"], ""]
    assert [w.where for w in FlagWord.objects.all()] == [f"{day}:{sheet['key']}:{line['id']}", f"{day}:{sheet['key']}"]
    assert next(x for x in coach.get(path)["lines"] if x["id"] == line["id"])["edited"]
    assert give_line_ids() == 0


def test_bringing_the_tables_up_to_date_gives_ids_and_keeps_past_days(coach, athlete, sheet, settings) -> None:
    line, day = main_of(sheet), date.fromisoformat(sheet["day"])
    LineEdit.objects.create(
        athlete=athlete,
        day=day,
        session_key=sheet["key"],
        exercise_id=line["exercise_id"],
        slot=line["slot"],
        text="6 × 2 @ 71 %",
    )
    settings.TODAY = (day + timedelta(days=30)).isoformat()
    call_command("migrate", verbosity=0)
    assert LineEdit.objects.get().line_id == line["id"]
    assert ToldWeek.objects.filter(athlete=athlete).exists()


def test_a_word_kept_on_no_line_and_a_season_that_cannot_be_built_keep_nobody_from_starting(
    coach, athlete, sheet, season, settings, monkeypatch
) -> None:
    for where in ("a:b:C1", "2026-02-31:A:A1", "2026-13-01:A:A1", "week:5:B2"):
        FlagWord.objects.create(athlete=athlete, check_id="order", where=where, reason="so")
    assert give_line_ids() == 0
    settings.TODAY = (date.fromisoformat(sheet["day"]) + timedelta(days=30)).isoformat()

    def fails(*_: object) -> int:
        raise CoachError("This season cannot be built.")

    monkeypatch.setattr(freeze_weeks, "run", fails)
    assert freeze_past_weeks() == 0
