"""One contract for every check of sessions and weeks: a case that fires, one that does not, and a fix that settles it."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta
from typing import Any

import pytest

from jarvok.core.checks.flag import Flag, Severity, answered
from jarvok.core.checks.plan_views import Guard, LineView, SessionView, WeekView
from jarvok.core.checks.session import SESSION_CHECKS, session_flags
from jarvok.core.checks.week import WEEK_CHECKS, week_flags
from jarvok.core.floor.pain import OpenPain
from jarvok.core.library.exercises import exercise
from jarvok.core.library.kit import HOTEL
from jarvok.core.library.substitutes import Limits
from jarvok.core.loading.prescription import Prescription
from jarvok.core.loading.shorthand import parse
from jarvok.core.session.blocks import STRAIGHT, BlockStyle, Grouping
from jarvok.core.session.rests import BETWEEN_JUMP_SETS, RESTS
from jarvok.core.week.contest_work import DueLine, EventLimit
from jarvok.core.week.dose import dose_zone
from jarvok.core.week.placement import Practice
from jarvok.core.week.plan import Level

MONDAY = date(2026, 11, 30)


def line(
    slot: str, exercise_id: str, text: str, *, main: bool = False, block: str = "", style: BlockStyle = STRAIGHT, **more: Any
) -> LineView:
    return LineView(slot, block or f"{slot[0]} · block", exercise(exercise_id), parse(text), main, style, **more)


def session(*lines: LineView, day: int = 0, key: str = "A", **more: Any) -> SessionView:
    return SessionView(key, MONDAY + timedelta(days=day), lines, **more)


def week(*sessions: SessionView, **more: Any) -> WeekView:
    return WeekView(MONDAY, sessions, **more)


SQUAT = line("A1", "back_squat", "4 × 5 @ 80 %", main=True)
HEAVY = line("A1", "back_squat", "4 × 3 @ 88 %", main=True)
PULL = line("B1", "deadlift", "4 × 3 @ 88 %", main=True)
PULL_DUE = DueLine("Pull", "deadlift", "1 × 1 @ 90 %", "Pull: straight limit pull, 16 days before")
ENGINE = line("C1", "bike_intervals", "6 × 60 s", block="C · engine")
LANDING = line("P1", "low_box_landing", "2 × 4", block="Prepare")
CONTRAST = BlockStyle(Grouping.CONTRAST)

DELOAD = Guard("deload week", None, 80)
SQUAT_LIMIT = EventLimit("Limit squat", MONDAY, MONDAY + timedelta(days=14), 80, "singles around 80 %", frozenset(), "squat")
NO_PULLING = EventLimit("Last pull", MONDAY, MONDAY + timedelta(days=14), 0, "no pulling", frozenset({"deadlift"}), "pull")


def typed(text: str) -> LineView:
    return line("A1", "back_squat", text, main=True, is_typed=True)


AS_PLANNED = replace(typed("4 × 3 @ 83 %"), is_typed=False)
ON_SQUAT, ON_PULL = (SQUAT_LIMIT,), (NO_PULLING,)

# check, a session that makes it speak, one that does not
SESSIONS: list[tuple[str, SessionView, SessionView]] = [
    (
        "fast-late",
        session(SQUAT, line("B1", "front_squat", "3 × 5 @ 75 %", main=True), line("C1", "countermovement_jump", "3 × 4")),
        session(
            line("A1", "back_squat", "4 × 3 @ 85 %", main=True, style=CONTRAST),
            line("A2", "box_squat", "4 × 3 @ 85 %", main=True, style=CONTRAST),
            line("A3", "countermovement_jump", "4 × 3", style=CONTRAST),
        ),
    ),
    (
        "fast-late",
        session(SQUAT, line("B1", "front_squat", "3 × 5 @ 75 %", main=True), line("C1", "sprint", "4 × 20 m")),
        session(SQUAT, line("B1", "front_squat", "3 × 5 @ 75 %", main=True), line("C1", "low_hops", "2 × 30")),
    ),
    (
        "conditioning-first",
        session(line("A1", "round_intervals", "5 × 2 min"), replace(SQUAT, slot="B1")),
        session(SQUAT, line("B1", "round_intervals", "3 × 2 min")),
    ),
    (
        "small-first",
        session(line("A1", "dead_bug", "4 × 10"), replace(SQUAT, slot="B1", block="B · squat")),
        session(SQUAT, line("B1", "dead_bug", "4 × 10")),
    ),
    ("plyo-long", session(LANDING, line("A1", "hurdle_jump", "3 × 12")), session(LANDING, line("A1", "hurdle_jump", "3 × 5"))),
    ("plyo-long", session(LANDING, line("A1", "pogo", "2 × 30 s")), session(line("A1", "low_hops", "2 × 60 s"))),
    (
        "maximal-jumps",
        session(LANDING, line("A1", "countermovement_jump", "1 × 10")),
        session(LANDING, line("A1", "countermovement_jump", "2 × 5")),
    ),
    (
        "maximal-jumps",
        session(LANDING, line("A1", "depth_jump", "2 × 6, rest 3:00")),
        session(LANDING, line("A1", "depth_jump", "2 × 8, submaximal")),
    ),
    (
        "maximal-jumps",  # a box jump is not, unless the line says so
        session(LANDING, line("A1", "box_jump", "2 × 6, for height")),
        session(LANDING, line("A1", "box_jump", "2 × 6")),
    ),
    (
        "maximal-jumps",  # the athlete's own number goes before the usual one, either way
        session(LANDING, line("A1", "countermovement_jump", "3 × 4"), jumps_a_set={"countermovement_jump": 3}),
        session(LANDING, line("A1", "countermovement_jump", "3 × 7"), jumps_a_set={"countermovement_jump": 7}),
    ),
    (
        "contacts",
        session(LANDING, line("A1", "pogo", "21 × 5"), level=Level.NOVICE),
        session(LANDING, line("A1", "pogo", "21 × 5"), level=Level.INTERMEDIATE),
    ),
    (
        "big-lifts",
        session(
            *(
                line(f"{s}1", e, "3 × 3 @ 80 %", main=True)
                for s, e in zip("ABCDE", ("snatch", "clean_and_jerk", "back_squat", "front_squat", "deadlift"), strict=True)
            )
        ),
        session(
            *(
                line(f"{s}1", e, "3 × 3 @ 80 %", main=True)
                for s, e in zip("ABCD", ("snatch", "clean_and_jerk", "back_squat", "bench_press"), strict=True)
            )
        ),
    ),
    (
        "rir-range",
        session(line("A1", "leg_curl", "3 × 15, 2 in reserve")),
        session(line("A1", "leg_curl", "3 × 12, 2 in reserve")),
    ),
    (
        "rir-range",
        session(line("A1", "bench_press", "3 × 5, 6 in reserve")),
        session(line("A1", "bench_press", "3 × 5, 4 in reserve")),
    ),
    (
        "failure-power",
        session(line("A1", "power_clean", "3 × 3+ @ 80 %", main=True)),
        session(line("A1", "bench_press", "3 × 5+ @ 80 %", main=True)),
    ),
    (
        "dose-high",
        session(line("A1", "snatch", "8 × 3 @ 85 %", main=True)),
        session(line("A1", "snatch", "7 × 2 @ 85 %", main=True)),
    ),
    (
        "no-warm-up",
        session(line("A1", "flying_sprint", "3 × 30 m, rest 3:00")),
        session(line("P1", "a_skip", "2 × 10", block="Prepare"), line("A1", "flying_sprint", "3 × 30 m, rest 3:00")),
    ),
    ("kit", session(SQUAT, limits=Limits(kit=HOTEL)), session(SQUAT)),
    ("restriction", session(SQUAT, limits=Limits(frozenset({"squat"}))), session(SQUAT, limits=Limits(frozenset({"overhead"})))),
    (
        "open-pain",
        session(SQUAT, pains=(OpenPain("knee", MONDAY, "Knee, Monday: Back squat, after 2 repetitions"),)),
        session(SQUAT, pains=(OpenPain("shoulder", MONDAY, "Shoulder, Monday: Bench press, after 2 repetitions"),)),
    ),
    (
        "open-pain",
        session(SQUAT, day=3, pains=(OpenPain("unwell", MONDAY, "Unwell or dizzy, Monday"),)),
        session(SQUAT, pains=(OpenPain("knee", MONDAY + timedelta(days=1), "Knee, Tuesday"),)),  # told later than this day
    ),
    ("max-safety", session(line("A1", "back_squat", "5 × 3 @ 60 % rising", main=True)), session(SQUAT)),
    (
        "max-closed",
        session(line("A1", "back_squat", "5 × 3 @ 60 % rising", main=True), may_max=False, why_not_max="Under 18"),
        session(line("A1", "back_squat", "5 × 5, 2 in reserve", main=True), may_max=False, why_not_max="Under 18"),
    ),
    ("landing", session(line("A1", "depth_jump", "3 × 3")), session(line("A1", "depth_jump", "3 × 3"), landing_practised=True)),
    ("landing", session(line("A1", "drop_jump", "3 × 3")), session(LANDING, line("A1", "drop_jump", "3 × 3"))),
    (
        "box",
        session(LANDING, line("A1", "depth_jump", "3 × 3"), body_mass_kg=108),
        session(LANDING, line("A1", "depth_jump", "3 × 3"), body_mass_kg=92),
    ),
    (
        "depth-novice",
        session(LANDING, line("A1", "depth_jump", "3 × 3"), level=Level.NOVICE),
        session(LANDING, line("A1", "depth_jump", "3 × 3")),
    ),
    (
        "rest",
        session(line("A1", "back_squat", "5 × 3 @ 88 %, rest 1:00", main=True)),
        session(line("A1", "speed_box_squat", "8 × 2 @ 50 % + 25 % bands, rest 0:45", main=True)),
    ),
    (
        "rest",
        session(LANDING, line("A1", "sprint", "4 × 40 m, rest 1:00")),
        session(LANDING, line("A1", "sprint", "4 × 40 m, rest 4:00")),
    ),
    (
        "hour",
        session(SQUAT, line("B1", "dead_bug", "2 × 8"), minutes=75, minutes_there=60),
        session(SQUAT, minutes=60, minutes_there=60),
    ),
    (
        "strength-conditioning",
        session(SQUAT, line("B1", "bike_intervals", "6 × 3 min")),
        session(SQUAT, line("B1", "bike_intervals", "3 × 2 min")),
    ),
    ("added", session(replace(SQUAT, added_sets=2), guard=DELOAD), session(replace(SQUAT, added_sets=2))),
    ("added", session(SQUAT, guard=Guard("deload week", 3, 80)), session(SQUAT, guard=Guard("deload week", 4, 80))),
    ("added", session(SQUAT, guard=Guard("taper", 0, 80)), session(SQUAT, guard=Guard("", 0, 80))),
    ("added", session(SQUAT, guard=Guard("week of Camp", 3, 80)), session(SQUAT, guard=Guard("week of Camp", None, 80))),
    ("too-heavy", session(typed("4 × 3 @ 83 %"), guard=DELOAD), session(typed("4 × 3 @ 80 %"), guard=DELOAD)),
    (
        "too-heavy",
        session(typed("4 × 3 @ 83 %"), guard=DELOAD),
        session(replace(typed("4 × 3 @ 83 %"), is_typed=False), guard=DELOAD),
    ),
    ("too-heavy", session(typed("3 × 2 @ 90 %"), days_to_go=10), session(typed("3 × 2 @ 90 %"), days_to_go=11)),
    ("too-heavy", session(typed("1 × 1 @ 82 %"), days_to_go=5), session(typed("1 × 1 @ 80 %"), days_to_go=5)),
    ("too-heavy", session(typed("4 × 3 @ 81.5 %"), guard=DELOAD), session(typed("4 × 3 @ 81 %"), guard=DELOAD)),
    ("last-heavy", session(SQUAT, due=(PULL_DUE,)), session(SQUAT, PULL, due=(PULL_DUE,))),
    (
        "after-last",
        session(typed("4 × 3 @ 86 %"), event_limits=ON_SQUAT),
        session(typed("4 × 3 @ 84 %"), event_limits=ON_SQUAT),
    ),
    (
        "after-last",
        session(replace(PULL, is_typed=True), event_limits=ON_PULL),
        session(typed("4 × 3 @ 84 %"), event_limits=ON_PULL),
    ),
    (
        "run-class",
        session(LANDING, line("A1", "flying_sprint", "3 × 100 m, rest 8:00")),
        session(LANDING, line("A1", "flying_sprint", "3 × 30 m, rest 3:00")),
    ),
    ("care", session(line("A1", "band_squat", "4 × 3 @ 60 %", main=True)), session(SQUAT)),
]

SPRINTS = (LANDING, line("A1", "flying_sprint", "4 × 30 m, rest 3:00", main=True))
ROWS = tuple(line(s, e, "4 × 8, 2 in reserve") for s, e in (("A1", "cable_row"), ("B1", "lat_pulldown"), ("C1", "dumbbell_row")))
MAX_BOX = line("A1", "high_box_squat", "5 × 3 @ 60 % rising", main=True)
FAILURE = line("A1", "bench_press", "3 × 8+, 0 in reserve", main=True)
JUMPS = (LANDING, line("A1", "pogo", "10 × 5"))
HARD_MORNING = (Practice(1, 7.0, 90, 8),)

WEEKS: list[tuple[str, WeekView, WeekView]] = [
    (
        "speed-and-heavy",
        week(session(*SPRINTS), session(HEAVY, day=1, key="B")),
        week(session(*SPRINTS), session(HEAVY, day=2, key="B")),
    ),
    (
        "speed-and-heavy",
        week(session(HEAVY), session(*SPRINTS, day=1, key="B")),
        week(session(line("A1", "speed_box_squat", "6 × 2 @ 55 %", main=True)), session(*SPRINTS, day=1, key="B")),
    ),
    (
        "back-before-legs",
        week(session(*ROWS), session(HEAVY, day=1, key="B")),
        week(session(ROWS[0]), session(HEAVY, day=1, key="B")),
    ),
    (
        "squat-and-deadlift",
        week(session(HEAVY, PULL)),
        week(session(line("A1", "speed_box_squat", "8 × 2 @ 55 %", main=True), PULL)),
    ),
    (
        "high-days",
        week(session(HEAVY), session(PULL, day=1, key="B")),
        week(session(HEAVY), session(PULL, day=1, key="B"), allows_daily_lifts=True),
    ),
    (
        "two-a-day",  # no hours, then 5:55 and 6:00 between the end of the one and the beginning of the other
        week(session(HEAVY), session(ENGINE, key="B")),
        week(session(HEAVY, begins_h=7.0, minutes=60), session(ENGINE, key="B", begins_h=14.0)),
    ),
    (
        "two-a-day",
        week(session(HEAVY, begins_h=7.0, minutes=65), session(ENGINE, key="B", begins_h=14.0)),
        week(session(HEAVY), session(LANDING, key="B")),
    ),
    (
        "two-a-day",
        week(session(HEAVY), session(PULL, key="B")),
        week(session(HEAVY), session(PULL, day=2, key="B")),
    ),
    (
        "fast-second",
        week(session(HEAVY), session(*SPRINTS, key="B")),
        week(session(*SPRINTS), session(HEAVY, key="B")),
    ),
    (
        "fast-second",  # four heavy sets, and three
        week(session(line("A1", "back_squat", "4 × 3 @ 88 %", main=True)), session(*SPRINTS, key="B")),
        week(session(line("A1", "back_squat", "3 × 3 @ 88 %", main=True)), session(*SPRINTS, key="B")),
    ),
    (
        "hard-morning",
        week(session(HEAVY, day=1), practices=HARD_MORNING),
        week(session(line("A1", "bench_press", "4 × 5 @ 75 %", main=True), day=1), practices=HARD_MORNING),
    ),
    (
        "limit-front-squat",
        week(session(line("A1", "front_squat", "3 × 1 @ 97 %", main=True), days_to_go=8)),
        week(session(line("A1", "front_squat", "3 × 1 @ 97 %", main=True), days_to_go=30)),
    ),
    (
        "limit-front-squat",
        week(session(line("A1", "front_squat", "3 × 1 @ 97 %", main=True)), in_season=True),
        week(session(line("A1", "front_squat", "3 × 3 @ 80 %", main=True), days_to_go=8), in_season=True),
    ),
    (
        "same-max-effort",
        week(session(MAX_BOX), before=(session(MAX_BOX, day=-7),)),
        week(session(MAX_BOX), before=(session(line("A1", "low_box_squat", "5 × 3 @ 60 % rising", main=True), day=-7),)),
    ),
    (
        "fault",
        week(
            session(line("A1", "snatch", "5 × 2 @ 80 %", main=True)), is_weightlifting=True, faults=frozenset({"feet_jump_about"})
        ),
        week(
            session(
                line("A1", "no_foot_snatch", "5 × 2 @ 70 %", main=True), line("B1", "no_foot_clean", "5 × 2 @ 70 %", main=True)
            ),
            is_weightlifting=True,
            faults=frozenset({"feet_jump_about"}),
        ),
    ),
    (
        "athletic",
        week(
            *(session(line("A1", "snatch", "5 × 2 @ 80 %", main=True), day=d, key=k) for d, k in ((0, "A"), (2, "B"), (4, "C"))),
            is_weightlifting=True,
        ),
        week(
            session(LANDING, line("A1", "snatch", "5 × 2 @ 80 %", main=True)),
            session(HEAVY, day=2, key="B"),
            session(HEAVY, day=4, key="C"),
            is_weightlifting=True,
        ),
    ),
    (
        "busy",
        week(session(HEAVY), busy="Camp at the bay", load=30, load_before=20),
        week(session(HEAVY), busy="Camp at the bay", load=20, load_before=20),
    ),
    (
        "failure-days",
        week(session(FAILURE), session(FAILURE, day=2, key="B"), session(HEAVY, day=4, key="C")),
        week(session(FAILURE), session(FAILURE, day=2, key="B"), uses_failure=True),
    ),
    (
        "failure-days",
        week(session(FAILURE), session(FAILURE, day=2, key="B")),
        week(session(replace(FAILURE, is_chosen_method=True)), session(replace(FAILURE, is_chosen_method=True), day=2, key="B")),
    ),
    (
        "press-angle",
        week(
            session(line("A1", "bench_press", "4 × 5 @ 80 %", main=True)),
            session(line("A1", "floor_press", "4 × 5 @ 80 %", main=True), day=3, key="B"),
        ),
        week(
            session(line("A1", "bench_press", "4 × 5 @ 80 %", main=True)),
            session(line("A1", "speed_bench_press", "8 × 3 @ 50 %", main=True), day=3, key="B"),
        ),
    ),
    ("plyo-days", week(session(*JUMPS), session(*JUMPS, day=1, key="B")), week(session(*JUMPS), session(*JUMPS, day=2, key="B"))),
    (
        "middles",
        week(*(session(HEAVY, day=d, key=k) for d, k in ((0, "A"), (2, "B"), (4, "C"), (5, "D")))),
        week(session(HEAVY, load="high"), *(session(SQUAT, day=d, key=k, load="low") for d, k in ((2, "B"), (4, "C"), (5, "D")))),
    ),
]


@pytest.mark.parametrize(("check_id", "bad", "good"), SESSIONS, ids=[f"{c[0]}-{i}" for i, c in enumerate(SESSIONS)])
def test_a_check_of_a_session_speaks_when_it_should_and_only_then(check_id: str, bad: SessionView, good: SessionView) -> None:
    said = [f for f in session_flags(bad) if f.check_id == check_id]
    assert said
    assert not [f for f in session_flags(good) if f.check_id == check_id]
    for flag in said:
        assert flag.title
        assert flag.reason.endswith(".")
        assert "!" not in flag.reason
        assert flag.source.text
        assert flag.where.startswith(f"{bad.day}:{bad.key}"), "a kept word has to find it again"
    assert [f.where for f in session_flags(bad)] == [f.where for f in session_flags(bad)]


@pytest.mark.parametrize(("check_id", "bad", "good"), WEEKS, ids=[f"{c[0]}-{i}" for i, c in enumerate(WEEKS)])
def test_a_check_of_a_week_speaks_when_it_should_and_only_then(check_id: str, bad: WeekView, good: WeekView) -> None:
    said = [f for f in week_flags(bad) if f.check_id == check_id]
    assert said
    assert not [f for f in week_flags(good) if f.check_id == check_id]
    for flag in said:
        assert flag.title.endswith(".")
        assert flag.reason
        assert flag.source.text
        assert flag.where == "week" or flag.where[:4].isdigit()


@pytest.mark.parametrize(
    ("check_id", "bad", "good"), [*SESSIONS, *WEEKS], ids=[f"{c[0]}-{i}" for i, c in enumerate([*SESSIONS, *WEEKS])]
)
def test_an_overridden_flag_stays_with_its_reason(check_id: str, bad: Any, good: Any) -> None:
    look = session_flags if isinstance(bad, SessionView) else week_flags
    flags = look(bad)
    word = next((f.check_id, f.where) for f in flags if f.check_id == check_id)
    seen = answered(flags, {word: "agreed with the athlete"})
    assert [f for f, _ in seen] == list(flags), "nothing disappears"
    assert {f.check_id for f, kept in seen if kept} == {check_id}
    assert not any(kept for _, kept in answered(look(good), {word: "agreed with the athlete"}))


def _decorated(x: LineView) -> LineView:
    beside: dict[str, Any] = {"tempo": "3-0-X-0", "stop_loss_pct": 15.0, "between_reps_s": 10}
    if x.prescription.rest_s is None:
        beside["rest_s"] = 330
    return replace(x, prescription=replace(x.prescription, **beside))


def _written(view: SessionView, flag: Flag) -> tuple[LineView, Prescription] | None:
    """The line a flag of the session offers to write otherwise, and how; nothing where it offers something else."""
    if flag.fix is None or flag.fix.kind != "write":
        return None
    at = next(x for x in view.lines if x.name == flag.fix.values["line"])
    return at, parse(str(flag.fix.values["text"]))


@pytest.mark.parametrize(("check", "speaks", "_"), SESSIONS)
def test_a_line_written_otherwise_keeps_what_stands_beside_it_and_answers_the_check(
    check: str, speaks: SessionView, _: SessionView
) -> None:
    view = replace(speaks, lines=tuple(_decorated(x) for x in speaks.lines))
    flags = [f for f in session_flags(view) if f.check_id == check]
    for flag in flags:
        offered = _written(view, flag)
        if offered is None:
            continue
        before, after = offered
        assert after != before.prescription, "an offer that changes nothing is none"
        kept = ("tempo", "stop_loss_pct", "between_reps_s", *(() if check == "rest" else ("rest_s",)))
        assert [getattr(after, k) for k in kept] == [getattr(before.prescription, k) for k in kept]
        mended = replace(
            view, lines=tuple(replace(x, prescription=after, added_sets=0) if x is before else x for x in view.lines)
        )
        assert not [f for f in session_flags(mended) if f.check_id == check and f.where == flag.where]


@pytest.mark.parametrize(
    ("exercise_id", "text", "offered"),
    [
        ("countermovement_jump", "1 × 10", "2 × 4"),  # 2–3 × 4 beats 1 × 10, and no jump is added
        ("countermovement_jump", "3 × 10, rest 3:00", "7 × 4, rest 3:00"),
        ("countermovement_jump", "2 × 4 then 1 × 8", "2 × 4 then 2 × 4"),
    ],
)
def test_maximal_jumps_are_divided(exercise_id: str, text: str, offered: str) -> None:
    flags = session_flags(session(LANDING, line("A1", exercise_id, text)))
    (flag,) = (f for f in flags if f.check_id == "maximal-jumps")
    assert flag.fix is not None
    assert flag.fix.values["text"] == offered


def test_one_long_set_over_the_contacts_is_cut_in_repetitions() -> None:
    (flag,) = (
        f for f in session_flags(session(LANDING, line("A1", "single_leg_box_jump", "1 × 100/side"))) if f.check_id == "contacts"
    )
    assert flag.fix is not None
    assert flag.fix.values["text"] == "1 × 60/side"


def test_every_check_has_its_cases() -> None:
    told = {c for c, _, _ in SESSIONS} | {c for c, _, _ in WEEKS}
    listed = {c.id for c in SESSION_CHECKS} | {c.id for c in WEEK_CHECKS}
    assert listed <= told
    assert len(listed) == len(SESSION_CHECKS) + len(WEEK_CHECKS), "an id twice"


def test_cautions_come_first_and_are_kept_for_what_can_hurt() -> None:
    seen = session_flags(session(SQUAT, line("B1", "leg_curl", "3 × 15, 2 in reserve"), limits=Limits(frozenset({"squat"}))))
    assert seen[0].severity is Severity.CAUTION
    cautions = {f.check_id for _, bad, _ in SESSIONS for f in session_flags(bad) if f.severity is Severity.CAUTION}
    assert cautions == {"restriction", "open-pain", "max-closed", "landing", "box", "added", "too-heavy", "after-last"}


class TestTheTables:
    @pytest.mark.parametrize(("pct", "reps", "total", "best"), [
        (60, (3, 6), (18, 30), 24), (69.9, (3, 6), (18, 30), 24), (70, (3, 6), (12, 24), 18), (79.5, (3, 6), (12, 24), 18),
        (80, (2, 4), (10, 20), 15), (89, (2, 4), (10, 20), 15), (90, (1, 2), (4, 10), 7), (100, (1, 2), (4, 10), 7),
    ])  # fmt: skip
    def test_prilepin_as_commonly_reprinted(self, pct: float, reps: tuple, total: tuple, best: int) -> None:
        # Prilepin's chart, as commonly reprinted; quoted from memory
        zone = dose_zone(pct)
        assert (zone.reps, zone.total, zone.best) == (reps, total, best)

    @pytest.mark.parametrize(("level", "cap"), [(Level.NOVICE, 100), (Level.INTERMEDIATE, 120), (Level.ADVANCED, 140)])
    def test_contacts_by_experience(self, level: Level, cap: int) -> None:
        # Haff & Triplett 2016, quoted from memory
        at_cap = session(LANDING, line("A1", "pogo", f"{cap // 5 - 2} × 5"), line("B1", "box_jump", "2 × 5"), level=level)
        over = session(LANDING, line("A1", "pogo", f"{cap // 5} × 5"), line("B1", "box_jump", "1 × 5"), level=level)
        assert not [f for f in session_flags(at_cap) if f.check_id == "contacts"]
        flag = next(f for f in session_flags(over) if f.check_id == "contacts")
        assert f"{cap} at most" in flag.reason

    @pytest.mark.parametrize(("goal", "least_s", "most_s", "words"), [
        ("power", 120, 300, "power: 2–5 min"), ("strength", 120, 300, "strength: 2–5 min"), ("size", 30, 90, "size: 30–90 s"),
        ("endurance", 0, 30, "endurance: up to 30 s"),
    ])  # fmt: skip
    def test_rests_by_goal(self, goal: str, least_s: int, most_s: int, words: str) -> None:
        # Haff & Triplett 2016, quoted from memory
        row = RESTS[goal]
        assert (row.least_s, row.most_s, row.words) == (least_s, most_s, words)

    def test_two_to_three_minutes_between_sets_of_jumps(self) -> None:
        # Haff & Triplett 2016, quoted from memory
        assert (BETWEEN_JUMP_SETS.least_s, BETWEEN_JUMP_SETS.most_s) == (120, 180)

    @pytest.mark.parametrize(("text", "speaks"), [
        ("3 × 6", False), ("3 × 7", True), ("3 × 4", False), ("3 × 6 s", False), ("3 × 8 s", True), ("3 × 11 s", True),
    ])  # fmt: skip
    def test_continuous_contacts_and_seconds_of_a_set(self, text: str, speaks: bool) -> None:
        # common practice: 4–6 contacts; at most 6 s, never over 10 s
        flags = [f for f in session_flags(session(LANDING, line("A1", "pogo", text))) if f.check_id == "plyo-long"]
        assert bool(flags) == speaks
        assert all((f.severity is Severity.THINK) == (text in ("3 × 7", "3 × 11 s")) for f in flags)

    @pytest.mark.parametrize(("text", "speaks"), [("2 × 10", False), ("2 × 11", True), ("3 × 4", False)])
    def test_reset_jumps_go_to_ten(self, text: str, speaks: bool) -> None:
        # common practice
        flags = [f for f in session_flags(session(LANDING, line("A1", "box_jump", text))) if f.check_id == "plyo-long"]
        assert bool(flags) == speaks

    @pytest.mark.parametrize(("exercise_id", "running"), [
        ("flying_sprint", "speed"), ("speed_endurance_run", "speed_endurance"), ("special_endurance_one", "special_endurance_1"),
        ("special_endurance_two", "special_endurance_2"), ("intensive_tempo", "intensive_tempo"),
        ("extensive_tempo", "extensive_tempo"),
    ])  # fmt: skip
    def test_running_exercises_carry_their_class(self, exercise_id: str, running: str) -> None:
        assert exercise(exercise_id).running == running


@pytest.mark.parametrize(("row", "offered"), [
    (("back_squat", "5 × 3 @ 88 %, rest 1:00"), 120),
    (("sprint", "4 × 40 m, rest 1:00"), 240),  # about a minute for ten metres, not the least that passes
    (("countermovement_jump", "3 × 4, rest 0:30"), 120),
])  # fmt: skip
def test_a_rest_that_is_too_short_is_offered_as_long_as_the_goal_wants(row: tuple[str, str], offered: int) -> None:
    """Two minutes and more for strength and maximal jumps, sprints by distance: common practice."""
    view = session(LANDING, line("A1", row[0], row[1], main=True))
    (flag,) = [f for f in session_flags(view) if f.check_id == "rest"]
    assert flag.fix is not None
    assert parse(str(flag.fix.values["text"])).rest_s == offered


@pytest.mark.parametrize(("minutes", "speaks"), [(60.4, False), (60.6, True)])
def test_the_hour_is_held_to_whole_minutes(minutes: float, speaks: bool) -> None:
    view = session(SQUAT, minutes=minutes, minutes_there=60)
    assert any(f.check_id == "hour" for f in session_flags(view)) is speaks
