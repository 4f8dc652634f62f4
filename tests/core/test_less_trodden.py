"""Ways through the rules that few take: no max known, nothing measured, nothing left to do, and what is then said."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

import numpy as np
import pytest

from jarvok.core.errors import CoachError
from jarvok.core.floor.advice import DoneSet
from jarvok.core.floor.day_plan import Written, day_lines
from jarvok.core.floor.racks import Lifter, place, turns_of
from jarvok.core.floor.readiness import Plan
from jarvok.core.floor.what_next import what_next
from jarvok.core.interchange.athletes import read_table
from jarvok.core.interchange.velocity_files import read_trace
from jarvok.core.library.exercises import exercise
from jarvok.core.library.kit import implement_for
from jarvok.core.loading.compare import compare, express, intent_of, suggest
from jarvok.core.loading.resolve import resolve
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.loading.state import LiftState
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.marks.past import PastSession, PastSet
from jarvok.core.marks.relation import Relation
from jarvok.core.marks.working_max import current_max
from jarvok.core.rules import DEFAULT_RULES
from jarvok.core.running.classes import class_of, words_for
from jarvok.core.season.facts import SeasonFacts
from jarvok.core.season.match_days import in_season_week
from jarvok.core.season.model import PhaseKey, Target
from jarvok.core.season.planner import plan_year
from jarvok.core.session.block_changes import regroup
from jarvok.core.session.blocks import BlockStyle, Grouping, check_style
from jarvok.core.session.complexes import as_complex, leading, weakest_of
from jarvok.core.session.document import Document, WrittenBlock, WrittenLine, from_raw, to_raw
from jarvok.core.testing.choice import TestKind
from jarvok.core.testing.steps import Attempt, Result, Step, next_step
from jarvok.core.velocity.daily_max import daily_max, velocity_mark
from jarvok.core.velocity.effort_table import effort_table, max_from_last_rep
from jarvok.core.velocity.metrics import measure_rep
from jarvok.core.velocity.profile import LoadVelocity, fastest_per_load, general_velocity_mps
from jarvok.core.week.generate import arranged_week
from jarvok.core.week.plan import WeekFacts

DAY = date(2026, 11, 24)
SQUAT, BENCH, JUMP = exercise("back_squat"), exercise("bench_press"), exercise("countermovement_jump")


def lift(kg: float | None = 120.0, lifted: Any = SQUAT, years: float = 4, **more: Any) -> LiftState:
    found = current_max([Mark("m", DAY, MarkKind.ONE_RM, kg)], DAY) if kg else None
    return LiftState(lifted, implement_for(lifted), found, training_age_years=years, **more)


def ended(kind: TestKind, attempts: list[Attempt], state: LiftState | None = None, stop: bool = True) -> Result:
    found = next_step(kind, attempts, state or lift(), stop)
    assert isinstance(found, Result)
    return found


def goes_on(kind: TestKind, attempts: list[Attempt], state: LiftState | None = None) -> Step:
    found = next_step(kind, attempts, state or lift())
    assert isinstance(found, Step)
    return found


class TestHowATestEnds:
    def test_nothing_lifted_with_form_says_nothing(self) -> None:
        assert ended(TestKind.TRUE_MAX, [Attempt(100, 1, form_broke=True)]).kind is None

    def test_a_technical_single_that_stopped_at_a_triple_is_no_max(self) -> None:
        found = ended(TestKind.TECHNICAL_SINGLE, [Attempt(80, 3, 5)])
        assert (found.kind, found.reps) == (None, 3)
        assert "stands as warm-up" in found.words

    def test_form_that_broke_leaves_a_technical_max(self) -> None:
        found = ended(TestKind.TRUE_MAX, [Attempt(100, 1, 8), Attempt(105, 1, form_broke=True)])
        assert (found.kind, found.load_kg) == (MarkKind.TECHNICAL_MAX, 100)

    @pytest.mark.parametrize(("felt", "kind"), [(10, MarkKind.ONE_RM), (9, MarkKind.SET_RIR), (6, MarkKind.SET_RIR), (5.5, None)])
    def test_an_early_stop_is_kept_for_what_it_was(self, felt: float, kind: MarkKind | None) -> None:
        assert ended(TestKind.TRUE_MAX, [Attempt(100, 1, felt)]).kind is kind

    def test_a_rep_max_is_one_inside_and_said_to_be_less_sure_outside_its_range(self) -> None:
        warm = [Attempt(40, 8), Attempt(60, 5), Attempt(80, 3)]
        inside = ended(TestKind.REP_MAX, [*warm, Attempt(90, 8)], stop=False)
        outside = ended(TestKind.REP_MAX, [*warm, Attempt(90, 12)])
        assert inside.words == "8RM 90 kg."
        assert "less sure" in outside.words
        assert ended(TestKind.REP_MAX, [*warm, Attempt(90, 0)]).kind is None
        assert ended(TestKind.REP_MAX, [*warm, Attempt(60, 16)]).kind is None
        assert ended(TestKind.REP_MAX, warm[:1]).words == "Stopped before the test set."

    def test_a_rep_max_outside_its_range_is_tried_again_heavier_or_lighter(self) -> None:
        warm = [Attempt(40, 8), Attempt(60, 5), Attempt(80, 3)]
        assert goes_on(TestKind.REP_MAX, [*warm, Attempt(80, 14)]).load_kg > 80
        assert goes_on(TestKind.REP_MAX, [*warm, Attempt(100, 3)]).load_kg < 100

    def test_without_a_max_a_rep_test_grows_by_felt_effort_a_novice_in_small_steps(self) -> None:
        state, novice = lift(None), lift(None, years=0.3)
        assert goes_on(TestKind.REP_MAX, [], state).reps == 10
        trained, new = (goes_on(TestKind.REP_MAX, [Attempt(60, 10, 3)], s).load_kg for s in (state, novice))
        assert 60 < trained <= 60 + 0.2 * 60 / 0.43, "a share of what is likely for eight, within the cap"
        assert 60 < new <= 70
        top = goes_on(TestKind.REP_MAX, [Attempt(60, 10, 3), Attempt(70, 5), Attempt(75, 3)], state)
        assert top.is_top
        assert top.or_more

    def test_loads_against_velocity(self) -> None:
        measured = Attempt(60, 3, velocity_mps=0.9)
        assert ended(TestKind.LOAD_VELOCITY, [Attempt(60, 3)]).words == "No load was measured."
        assert ended(TestKind.LOAD_VELOCITY, [measured]).kind is MarkKind.SET_VELOCITY
        assert goes_on(TestKind.LOAD_VELOCITY, [measured]).load_kg == 60
        assert goes_on(TestKind.LOAD_VELOCITY, [], lift(None)).rest_s == 0
        assert goes_on(TestKind.LOAD_VELOCITY, [Attempt(20, 3, 3)], lift(None)).load_kg > 20


class TestComparingMethods:
    def test_a_line_without_loaded_repetitions_is_not_compared(self) -> None:
        for line, state in (("3 × 45 s", lift()), ("3 × 4", lift(None, JUMP))):
            with pytest.raises(CoachError, match="no loaded repetitions"):
                compare(parse(line), state)

    def test_what_a_line_means_whatever_wrote_it(self) -> None:
        assert intent_of(parse("APRE-6"), lift()).reps == 6
        assert intent_of(parse("3 × 5 @ RPE 8"), lift()).rir == 2
        assert intent_of(parse("3 × 5 @ 60 kg"), lift()).share == pytest.approx(0.5, abs=0.01)
        assert intent_of(parse("3 × 5 @ heavy"), lift(None)).rir == 2

    def test_a_method_that_is_none_is_refused_and_one_that_cannot_returns_nothing(self) -> None:
        with pytest.raises(CoachError, match="no such method"):
            express(parse("3 × 5 @ 80 %"), "magic", lift())
        assert express(parse("3 × 14 @ 50 %"), "rm_zone", lift()) is None
        assert express(parse("3 × 5, 2 in reserve"), "percent", lift()) is not None

    def test_what_is_suggested_without_a_max(self) -> None:
        assert suggest(parse("3 × 5, 2 in reserve"), lift(None))[0] == "reserve"
        past = PastSession(DAY - timedelta(days=7), "", (PastSet(70.0, 5, planned_reps=5),), "s:1")
        assert suggest(parse("3 × 5, 2 in reserve"), lift(None, history=(past,)))[0] == "linear"
        assert suggest(parse("3 × 5, 2 in reserve"), lift(120.0, related_max_from="front squat"))[0] == "reserve"


class TestBlocks:
    def test_a_block_says_its_figures(self) -> None:
        style = BlockStyle(Grouping.METRONOME, bpm=60, beats=4)
        assert style.words == "metronome, 60 bpm, 4 beats a rep: 15 reps a minute"
        assert BlockStyle(Grouping.EVERY, every_s=90).words == "every 1:30"
        assert BlockStyle(Grouping.AMRAP, minutes=8).words.endswith("8 min")
        both = BlockStyle(Grouping.CIRCUIT, rest_inside_s=15, rest_between_s=120).words
        assert both == "circuit, 0:15 inside, 2:00 between rounds"

    @pytest.mark.parametrize(
        ("style", "lines", "said"),
        [
            (BlockStyle(Grouping.UNTIL_MISS, every_s=60), 2, "cannot hold 2 lines"),
            (BlockStyle(Grouping.CIRCUIT), 2, "3 to 12 lines"),
            (BlockStyle(Grouping.EVERY), 1, "needs"),
            (BlockStyle(Grouping.EVERY, every_s=9), 1, "10 to 900"),
            (BlockStyle(Grouping.EVERY, every_s=901), 1, "10 to 900"),
        ],
    )
    def test_a_block_that_cannot_run_is_refused(self, style: BlockStyle, lines: int, said: str) -> None:
        with pytest.raises(CoachError) as caught:
            check_style(style, lines)
        assert said in str(caught.value)

    def test_a_complex_takes_the_weakest_load_and_leaves_what_has_none(self) -> None:
        heavy, light = resolve(parse("3 × 2 @ 80 %"), lift()), resolve(parse("3 × 2 @ 80 %"), lift(80.0))
        jumps = resolve(parse("3 × 3"), lift(None, JUMP))
        together = as_complex([heavy, light, jumps])
        assert [s.load_kg for s in together[0]] == [s.load_kg for s in light]
        assert together[2] == jumps
        assert as_complex([jumps, jumps]) == [jumps, jumps]
        assert weakest_of([jumps]) is None
        assert leading([heavy]) is None

    def test_a_document_is_refused_with_the_place_of_what_is_wrong(self) -> None:
        good = to_raw(Document("Own", (WrittenBlock("main", (WrittenLine("back_squat", "3 × 3 @ 80 %"),)),)))
        for change, where in (
            ({"lines": "none"}, "blocks[0].lines"),
            ({"lines": ["none"]}, "blocks[0].lines[0]"),
            ({"lines": [{"exercise": "back_squat", "text": 5}]}, "blocks[0].lines[0].text"),
            ({"lines": [{"exercise": "back_squat", "text": "3 × 3", "id": "x" * 61}]}, "blocks[0].lines[0].id"),
            ({"minutes": True}, "blocks[0].minutes"),
            ({"minutes": 1.5}, "blocks[0].minutes"),
        ):
            with pytest.raises(CoachError) as caught:
                from_raw({**good, "blocks": [{**good["blocks"][0], **change}]})
            assert caught.value.where == where

    def test_a_block_put_on_the_clock_writes_it_into_its_lines(self) -> None:
        document = Document("Own", (WrittenBlock("main", (WrittenLine("back_squat", "8 × 2 @ 70 %, rest 1:00"),)),))
        clocked = regroup(document, "main", BlockStyle(Grouping.EVERY, every_s=45))
        assert clocked.blocks[0].lines[0].text == "8 × 2 @ 70 %, every 0:45"
        with pytest.raises(CoachError, match="no block"):
            regroup(document, "second", BlockStyle())


class TestOnTheFloor:
    def test_a_set_without_a_load_or_a_reserve_goes_on_as_written(self) -> None:
        jumps = resolve(parse("3 × 3"), lift(None, JUMP))
        assert what_next(jumps[0], [DoneSet(None, 3)], 2, lift(None, JUMP)).load_kg is None
        by_load = resolve(parse("3 × 5 @ 60 kg"), lift(None))
        assert what_next(by_load[0], [DoneSet(60.0, 5, 3)], 2, lift(None)).load_kg == 60.0

    def test_apre_without_a_load_leads_nowhere_and_warm_sets_lead_to_the_next(self) -> None:
        line, state = parse("APRE-6"), lift()
        sets = resolve(line, state)
        warm = what_next(sets[0], [DoneSet(sets[0].load_kg, sets[0].reps or 0)], 3, state, sets[1], line)
        assert warm.load_kg == sets[1].load_kg
        assert warm.sentence.startswith("Warm set done.")
        bare = what_next(sets[0], [DoneSet(None, 10)], 3, state, sets[1], line)
        assert "Warm set done" not in bare.sentence

    def test_racks_that_cannot_be_and_turns_with_pins(self) -> None:
        with pytest.raises(CoachError, match="cannot be shown"):
            place([], 17)
        with pytest.raises(CoachError, match="too many"):
            place([Lifter(i, f"L{i}", 60.0) for i in range(61)], 3)
        assert place([], 2) == ((), ())
        alone = turns_of([Lifter(1, "Ada", 60.0, (20.0,))])
        assert "set the safeties" in alone[0].help
        tall, small = Lifter(1, "Ada", 60.0, (20.0,), 190.0), Lifter(2, "Bo", 70.0, (25.0,), 160.0)
        assert [t.pins for t in turns_of([tall, small])] == ["pins up", "pins down"]

    def test_an_easy_day_keeps_technique_and_light_work_only(self) -> None:
        squat = Written(SQUAT, implement_for(SQUAT), resolve(parse("5 × 5 @ 85 %"), lift()), True, 120.0)
        bare = Written(SQUAT, None, tuple(replace_load(s) for s in squat.sets), True, None)
        hold = Written(exercise("front_hold"), None, resolve(parse("3 × 30 s"), lift(None, exercise("front_hold"))), False)
        jump = Written(JUMP, None, resolve(parse("3 × 3"), lift(None, JUMP)), False)
        row = Written(BENCH, implement_for(BENCH), resolve(parse("3 × 8 @ 60 %"), lift(90.0, BENCH)), False, 90.0)
        easy = day_lines([squat, bare, hold, jump, row], Plan.C)
        assert [x.left_out for x in easy] == [False, False, False, True, True]
        assert max(s.load_kg or 0 for s in easy[0].sets) <= 0.75 * 120
        assert len(easy[2].sets) <= 3
        gone = day_lines([squat, jump], Plan.A, removed=frozenset({"squat"}))
        assert [x.left_out for x in gone] == [True, False]
        assert all(x.left_out for x in day_lines([squat, jump], Plan.A, unwell=True))
        one = day_lines([Written(SQUAT, implement_for(SQUAT), squat.sets[:1], True, 120.0)], Plan.B)
        assert len(one[0].sets) == 1


def replace_load(item: Any) -> Any:
    return item._replace(per_side_kg=(), share_of_max=None)


class TestWeeksOfMatches:
    @pytest.mark.parametrize("key", ["concurrent", "weightlifting", "combat", "team_strength", "daily_dose"])
    def test_a_week_of_matches_holds_two_sessions_at_most_whatever_the_arrangement(self, key: str) -> None:
        start = date(2026, 11, 23)
        matches = tuple(start + timedelta(days=d) for d in (26, 33, 40, 47))
        season = plan_year(SeasonFacts(start, (Target("Cup", date(2027, 3, 6)),), matches=matches))
        week = next(w for w in season.weeks if w.match_days and w.phase is PhaseKey.IN_SEASON)
        for days in (1, 2, 4, 6):
            planned = arranged_week(key, WeekFacts(season, week, days=days))
            assert 1 <= len(planned) <= 2
            assert not {s.day for s in planned} & set(matches)

    def test_matches_every_day_leave_no_day_and_few_minutes_a_session_after(self) -> None:
        monday = date(2026, 11, 23)
        every = [monday + timedelta(days=d) for d in range(7)]
        assert not [d for d in in_season_week(monday, every) if d.session]
        after = in_season_week(monday, [monday + timedelta(days=2)], played_share=0.1)
        assert next(d for d in after if d.label == "MD+1").session > 0


class TestFilesThatCannotBeRead:
    @pytest.mark.parametrize("text", ["", "time", "time,height\n"])
    def test_a_trace_of_nothing(self, text: str) -> None:
        with pytest.raises(CoachError):
            read_trace(text)

    def test_a_trace_that_stands_still_in_time(self) -> None:
        with pytest.raises(CoachError, match="times a second"):
            read_trace("\n".join(["0,0.1"] * 30))

    def test_a_row_that_is_no_number_is_named(self) -> None:
        rows = [f"{i / 100},0.1" for i in range(30)]
        rows[5], rows[6] = "nan,0.1", "0.06"
        assert len(read_trace("\n".join(rows)).problems) == 2

    def test_a_table_of_people_with_one_row_or_no_name(self) -> None:
        with pytest.raises(CoachError):
            read_table([["Name"]], DAY)
        assert read_table([["Name", "Squad"], ["", "Sharks"]], DAY).rows[0].problems
        assert read_table([["Name", "Born"], ["Ada", date(2003, 2, 28)]], DAY).rows[0].values["birth_date"] == date(2003, 2, 28)


class TestVelocitiesThatSayLittle:
    def test_nothing_is_measured_in_too_short_or_still_a_window(self) -> None:
        still = np.zeros(60)
        assert measure_rep(still[:15], 100.0, 2, 12) is None
        assert measure_rep(still, 100.0, 10, 13) is None
        assert measure_rep(still, 100.0, 10, 50) is None

    def test_a_day_says_no_max_where_its_loads_cannot(self) -> None:
        loads = [LoadVelocity(DAY, x, v, f"p{x}") for x, v in ((30.0, 1.40), (35.0, 1.36), (40.0, 1.30), (45.0, 1.26))]
        assert daily_max(loads[:1], SQUAT, 120.0).load_kg is None
        assert daily_max(loads, JUMP, None).load_kg is None
        assert daily_max(loads, SQUAT, 120.0).load_kg is None
        assert velocity_mark(loads, SQUAT, 120.0) is None
        assert velocity_mark([], SQUAT, 120.0) is None

    def test_the_fastest_of_a_load_and_day_stands_for_it(self) -> None:
        points = [LoadVelocity(DAY, 60.0, 0.9, "a"), LoadVelocity(DAY, 60.0, 1.0, "b"), LoadVelocity(DAY, 60.0, 0.8, "c")]
        assert [p.ref for p in fastest_per_load(points)] == ["b"]
        assert general_velocity_mps(JUMP, 0.8) is None

    def test_an_effort_table_without_rows_says_nothing(self) -> None:
        table = effort_table([])
        relation: Relation = DEFAULT_RULES.equation
        assert table.velocity_mps(8) is None
        assert table.rpe(0.5) is None
        assert max_from_last_rep(table, 100.0, 3, 0.5, relation) is None


def test_a_running_class_says_what_it_holds() -> None:
    assert words_for(class_of("speed"), 30.0).endswith("own threshold")
    assert words_for(class_of("speed"), None) == "Speed: 95–100 %, 0–7 s, up to 60 m"
    assert words_for(class_of("speed_endurance"), 100.0) == "Speed endurance: 95–100 %, 7–15 s, 80–150 m"
    assert words_for(class_of("extensive_tempo"), None) == "Extensive tempo: up to 75 %, belongs on a low day"
    with pytest.raises(CoachError):
        class_of("walking")


def test_holds_are_written_in_whole_minutes_from_two_on() -> None:
    assert [write(parse(x)) for x in ("3x60s", "3x119s", "3x120s", "3x150s")] == [
        "3 × 60 s", "3 × 119 s", "3 × 2 min", "3 × 150 s",
    ]  # fmt: skip
