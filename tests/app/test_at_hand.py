"""What a running session has at hand between two sets is what stands in the database, whatever changed meanwhile."""

from __future__ import annotations

import json
from datetime import date, timedelta
from typing import Any

import pytest
from django.db import connection
from django.db.models import F
from django.test.utils import CaptureQueriesContext
from support.past import session

from jarvok.app import clock
from jarvok.app.api.floor import view
from jarvok.app.api.floor.view import floor_out
from jarvok.app.athletes.kept_known import nothing_kept
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.floor.models import AdviceRecord, SessionLine, TrainingSession
from jarvok.app.floor import at_hand
from jarvok.app.floor.events import tell
from jarvok.core.library.exercises import exercise
from jarvok.core.quantities.days import DayOrder, days_written

pytestmark = pytest.mark.django_db

TRANSACTIONS = ("BEGIN", "COMMIT", "SAVEPOINT", "RELEASE")
MOST_QUERIES = 12


def next_of(floor: Any) -> dict[str, Any] | None:
    current = floor["current"]
    if current is None:
        return None
    line = next(x for x in floor["lines"] if x["id"] == current["line_id"])
    item = next(s for s in line["sets"] if (s["kind"], s["number"]) == (current["kind"], current["number"]))
    reserve = {"rir": 2} if item["kind"] == "work" and line["is_loaded"] else {}
    return {**current, "load_kg": item["load_kg"], "reps": item["reps"] or 1, **reserve}


def log_next(coach: Any, floor: Any, **body: Any) -> Any:
    return coach.ok("POST", f"floor/sessions/{floor['id']}/sets", {**next_of(floor), **body})


def until_work_of(coach: Any, floor: Any, slot: str = "A1") -> Any:
    """Go on to the first work set of a line."""
    line_id = next(x["id"] for x in floor["lines"] if x["slot"] == slot)
    while floor["current"]["line_id"] != line_id or floor["current"]["kind"] != "work":
        floor = log_next(coach, floor)
    return floor


def test_what_is_answered_after_each_set_is_what_is_read_of_it(coach, floor) -> None:
    """A whole session: with pain, an easier load, a stop and an undo between the sets."""
    logged = 0
    while floor["current"] is not None:
        body = {4: {"reps": 3}, 9: {"trouble": "form_broke"}, 13: {"trouble": "pain", "pain_area": "knee"}}.get(logged, {})
        answered = log_next(coach, floor, **body)
        floor = json.loads(floor_out(floor["id"]).model_dump_json())
        assert answered == floor, "as read from what is stored"
        assert coach.get(f"floor/sessions/{floor['id']}") == floor, "as read by another page"
        logged += 1
        if logged in (6, 12):
            floor = coach.ok("POST", f"floor/sessions/{floor['id']}/undo", {})
    assert logged > 15


def test_what_is_said_does_not_hang_on_what_is_at_hand(coach, floor, monkeypatch) -> None:
    """The same sets, read anew before each: the same advice."""

    def advised(floor: Any) -> list[tuple[Any, ...]]:
        at = until_work_of(coach, floor)
        for reps in (5, 4, 5):
            at = log_next(coach, at, reps=reps)
        said = AdviceRecord.objects.filter(line__session_id=floor["id"], taken_back_at__isnull=True)
        found = list(said.order_by("id").values_list("line_id", "after_number", "move", "load_kg", "sentence"))
        for _ in range(40):
            if coach.send("POST", f"floor/sessions/{floor['id']}/undo", {}).status_code == 409:
                break
        return found

    at_once = advised(floor)
    make_ready = at_hand.make_ready
    monkeypatch.setattr("jarvok.app.api.floor.sessions.make_ready", lambda pk: (at_hand.forget_all(), make_ready(pk))[1])
    assert advised(coach.get(f"floor/sessions/{floor['id']}")) == at_once
    assert len(at_once) >= 3


def test_a_set_with_its_advice_asks_twelve_times_at_most(coach, floor) -> None:
    floor = until_work_of(coach, floor)
    floor = log_next(coach, floor)
    for _ in range(2):
        with CaptureQueriesContext(connection) as seen:
            floor = log_next(coach, floor)
        asked = [q["sql"] for q in seen if not q["sql"].startswith(TRANSACTIONS)]
        for_its_turn = connection.vendor == "postgresql"  # one question more, by which a writer waits for others
        assert len(asked) <= MOST_QUERIES + for_its_turn, "\n".join(asked)


CHANGES: dict[str, tuple[str, str, dict[str, Any]]] = {
    "a result": (
        "POST", "athletes/{athlete}/marks",
        {"exercise_id": "trap_bar_deadlift", "day": "2026-11-24", "kind": "one_rm", "load_kg": 110, "reps": 1},
    ),
    "a setting": ("PUT", "settings/rules/max.training_pct", {"value": 85}),
    "days away of the squad": (
        "POST", "calendar/squad/{squad}/write", {"month": "2026-11", "text": "away 3–12", "day": "2026-11-03", "scope": "squad"},
    ),
}  # fmt: skip


@pytest.mark.parametrize("what", CHANGES)
def test_what_becomes_known_meanwhile_is_known_at_the_next_set(coach, athlete: Athlete, squad: Squad, floor, what: str) -> None:
    floor = until_work_of(coach, floor)
    before = at_hand.taken(floor["id"])
    at_hand.keep(before)
    method, path, body = CHANGES[what]
    answer = coach.send(method, path.format(athlete=athlete.pk, squad=squad.pk), body)
    assert answer.status_code == 200, answer.content
    after = at_hand.taken(floor["id"])
    assert after is not before
    fresh = LiftBook([Athlete.objects.get(pk=athlete.pk)], after.session.day, without_session=floor["id"])
    for line in after.session.lines.all():
        lift = exercise(line.exercise_id)
        assert after.book.state(athlete.pk, lift.id) == fresh.state(athlete.pk, lift.id)


def test_another_page_moves_the_session_and_leaves_what_is_known(coach, floor) -> None:
    """An event alone, a repetition say: the parts are read anew, what is known of the athlete is not."""
    floor = until_work_of(coach, floor)
    held = at_hand.taken(floor["id"])
    book = held.book
    at_hand.keep(held)
    tell(held.session, "rep", {})
    again = at_hand.taken(floor["id"])
    assert again.session is not held.session
    assert again.book is book


def test_a_set_that_another_process_stored_leaves_what_is_known(coach, floor) -> None:
    floor = until_work_of(coach, floor)
    held = at_hand.taken(floor["id"])
    book, earlier = held.book, held.earlier
    log_next(coach, floor)
    at_hand._kept[floor["id"]] = held  # as a process has it that has not heard of the set
    again = at_hand.taken(floor["id"])
    assert again.session is not held.session
    assert sum(len(line.sets.all()) for line in again.session.lines.all()) == 1 + sum(
        len(line.sets.all()) for line in held.session.lines.all()
    )
    assert again.book is book
    assert again.earlier is earlier


def test_a_set_of_another_session_is_known_at_the_next(coach, athlete: Athlete, floor) -> None:
    floor = until_work_of(coach, floor)
    held = at_hand.taken(floor["id"])
    book = held.book
    at_hand.keep(held)
    session(athlete, clock.today() - timedelta(days=1), (70, 5, 1))
    tell(TrainingSession.objects.exclude(pk=floor["id"]).get(), "changed", {})
    Athlete.objects.filter(pk=athlete.pk).update(version=F("version") + 1, set_version=F("set_version") + 1)
    assert at_hand.taken(floor["id"]).book is not book


def test_what_is_known_beside_a_session_is_as_if_it_had_not_been(coach, athlete: Athlete, floor, settings) -> None:
    """Taken from what is kept of the athlete, and read: the same."""
    settings.TODAY = floor["day"]
    day = date.fromisoformat(floor["day"])
    session(athlete, day - timedelta(days=5), (80, 5, 2), (85, 5, 1))
    floor = until_work_of(coach, floor)
    for reps in (5, 6):
        floor = log_next(coach, floor, reps=reps)
    LiftBook([athlete], day)
    with CaptureQueriesContext(connection) as asked:
        kept = LiftBook([athlete], day, without_session=floor["id"])
    with nothing_kept():
        read = LiftBook([athlete], day, without_session=floor["id"])
    assert len(asked) <= 2
    lifts = {x.exercise_id for x in SessionLine.objects.filter(session=floor["id"])} | {"back_squat"}
    assert {x: kept.state(athlete.pk, x) for x in lifts} == {x: read.state(athlete.pk, x) for x in lifts}
    assert any(len(LiftBook([athlete], day).marks_of(athlete.pk, x)) > len(kept.marks_of(athlete.pk, x)) for x in lifts)


def test_nobody_else_holds_what_one_has_taken(coach, floor) -> None:
    log_next(coach, floor)
    one, other = at_hand.taken(floor["id"]), at_hand.taken(floor["id"])
    assert one.session is not other.session


def test_a_refused_set_leaves_nothing_at_hand_that_is_not_stored(coach, floor) -> None:
    floor = until_work_of(coach, floor)
    refused = coach.send("POST", f"floor/sessions/{floor['id']}/sets", {**next_of(floor), "load_kg": 300})
    assert refused.status_code == 428
    assert log_next(coach, floor) == coach.get(f"floor/sessions/{floor['id']}")


def test_a_line_of_which_nothing_was_written_is_said_once(coach, floor, monkeypatch) -> None:
    said: list[int] = []
    say = view._line_out
    monkeypatch.setattr(view, "_line_out", lambda item, *known: (said.append(item.line.pk), say(item, *known))[1])
    floor = log_next(coach, floor)
    assert len(set(said)) == len(floor["lines"]) > 2, "each of them at first"
    said.clear()
    at = next_of(floor)
    floor = log_next(coach, floor)
    assert said == [at["line_id"]], "then the one that was written alone"
    said.clear()
    assert coach.get(f"floor/sessions/{floor['id']}") == floor
    assert said == []


def test_another_reader_s_days_are_not_those_that_were_said_before(coach, floor) -> None:
    log_next(coach, floor)
    held = at_hand.taken(floor["id"])
    one = view.floor_at_hand(held).lines[0]
    assert view.floor_at_hand(held).lines[0] is one
    with days_written(DayOrder.MONTH_FIRST):
        assert view.floor_at_hand(held).lines[0] is not one


def test_a_session_that_is_over_is_not_kept(coach, floor) -> None:
    log_next(coach, floor)
    assert floor["id"] in at_hand._kept
    coach.ok("POST", f"floor/sessions/{floor['id']}/finish", {"srpe": 6})
    assert floor["id"] not in at_hand._kept


def test_only_so_many_are_kept_and_the_one_used_longest_ago_goes(coach, floor, monkeypatch) -> None:
    monkeypatch.setattr(at_hand, "MOST_AT_HAND", 2)
    log_next(coach, floor)
    held = at_hand.taken(floor["id"])
    for n in (-1, -2):
        at_hand._kept[n] = held
    at_hand.keep(held)
    assert list(at_hand._kept) == [-2, floor["id"]]


def test_another_page_reads_what_is_at_hand_and_leaves_it_there(coach, floor) -> None:
    path = f"floor/sessions/{floor['id']}"
    floor = log_next(coach, floor)
    with CaptureQueriesContext(
        connection,
    ) as asked:
        at_hand_answer = coach.get(path)
    again = coach.get(path)
    at_hand.forget_all()
    with CaptureQueriesContext(connection) as asked_anew:
        assert coach.get(path) == at_hand_answer == again
    assert len(asked) < len(asked_anew) / 2
    assert len(asked) <= MOST_QUERIES


@pytest.mark.parametrize("kind", ["rep", "changed"])
def test_another_page_reads_anew_what_was_told_since(coach, floor, kind: str) -> None:
    log_next(coach, floor)
    tell(at_hand.read_session(floor["id"]), kind, {"line_id": None})
    assert at_hand.lent(floor["id"]) is None


def test_what_a_reader_gives_back_is_not_put_before_what_was_logged_meanwhile(coach, floor) -> None:
    floor = log_next(coach, floor)
    held = at_hand.lent(floor["id"])
    assert held is not None
    assert at_hand.lent(floor["id"]) is None, "one at a time"
    log_next(coach, floor)
    at_hand.give_back(held)
    newer = at_hand.lent(floor["id"])
    assert newer is not None
    assert newer is not held
