"""Known to planned, through the application: each thing recorded changes the sessions ahead, and goes back with it."""

from __future__ import annotations

from datetime import date
from typing import Any

import pytest
from django.utils import timezone

from jarvok.app.facts.athletes.models import Athlete, MarkRecord, Squad
from jarvok.app.facts.room.models import OwnDefault
from jarvok.core.library.exercises import exercise

AHEAD = "2026-12-07"


def lines(coach, athlete: Athlete, monday: str = AHEAD) -> list[dict[str, Any]]:
    days = coach.get(f"athletes/{athlete.pk}/week?start={monday}")["week"]["days"]
    return [x for d in days if d["sheet"] for x in d["sheet"]["lines"]]


def wish(coach, athlete: Athlete, words: str) -> dict[str, Any]:
    found = [w for w in coach.get(f"athletes/{athlete.pk}/chosen")["wishes"] if words in w["words"]]
    assert len(found) == 1, (words, found)
    return found[0]


def test_a_fault_changes_next_week_and_its_end_changes_it_back(coach, athlete, season) -> None:
    before = [(x["exercise_id"], x["text"]) for x in lines(coach, athlete)]
    body = {"exercise_id": "back_squat", "fault": "hips_rise_first", "since": "2026-11-24"}
    record = coach.ok("POST", f"athletes/{athlete.pk}/faults", body)
    changed = lines(coach, athlete)
    assert [x["exercise_id"] for x in changed if x["exercise_id"] == "pause_squat"]
    told = wish(coach, athlete, "hips rise first")
    assert told["because"] == "technical fault"
    assert any(x["exercise"] == "Paused back squat" and "hips rise first" in x["why"] for x in told["lines"])
    coach.ok("POST", f"faults/{record['faults'][0]['id']}/end")
    assert [(x["exercise_id"], x["text"]) for x in lines(coach, athlete)] == before


def test_a_side_that_lags_by_more_than_ten_per_cent_changes_lines_one_that_does_not_none(coach, athlete, season) -> None:
    plain = [x["text"] for x in lines(coach, athlete)]
    path = f"athletes/{athlete.pk}/marks"
    jump = {"exercise_id": "single_leg_jump", "kind": "jump", "day": "2026-11-20"}
    for side, height in (("right", 20.0), ("left", 18.1)):
        coach.ok("POST", path, {**jump, "side": side, "measures": {"height_cm": height}})
    assert [x["text"] for x in lines(coach, athlete)] == plain, "9.5 % behind"
    coach.ok("POST", path, {**jump, "day": "2026-11-21", "side": "left", "measures": {"height_cm": 17.0}})
    found = [x for x in lines(coach, athlete) if "left 15 % behind" in x["reason"]]
    assert found
    assert any(" then " in x["text"] and x["note"].startswith("First set: left only") for x in found)
    assert coach.get(f"athletes/{athlete.pk}/standing")["sides"][0]["is_flagged"]


def test_what_is_ticked_is_kept_asked_for_and_taken_back(coach, athlete, season) -> None:
    path = f"athletes/{athlete.pk}/record"
    choices = {t["id"] for t in coach.get(path)["trait_choices"]}
    assert {"leg_attacks", "long_legs", "goal_grip", "past_gymnast"} <= choices
    assert "goalkeeper" not in choices
    record = coach.ok("PATCH", path, {"traits": ["goal_arms", "long_legs"]})
    assert record["traits"] == ["goal_arms", "long_legs"]
    assert any("goal: bigger arms" in x["reason"] for x in lines(coach, athlete))
    coach.ok("PATCH", path, {"traits": []})
    assert not any("goal" in x["reason"] for x in lines(coach, athlete))


def test_two_pages_tick_different_things_and_both_stay(coach, athlete) -> None:
    path = f"athletes/{athlete.pk}/traits"
    coach.ok("PUT", f"{path}/goal_arms", {"is_true": True})
    assert coach.ok("PUT", f"{path}/long_legs", {"is_true": True})["traits"] == ["goal_arms", "long_legs"]
    assert sorted(coach.ok("PUT", f"{path}/goal_arms", {"is_true": True})["traits"]) == ["goal_arms", "long_legs"]
    assert coach.ok("PUT", f"{path}/long_legs", {"is_true": False})["traits"] == ["goal_arms"]
    assert coach.send("PUT", f"{path}/goal_wings", {"is_true": True}).status_code == 422


@pytest.mark.parametrize(("traits", "words"), [
    (["long_legs", "short_legs"], "exclude each other"), (["wings"], "cannot be ticked"),
])  # fmt: skip
def test_contraries_and_unknown_things_are_refused_in_words(coach, athlete, traits: list[str], words: str) -> None:
    answer = coach.send("PATCH", f"athletes/{athlete.pk}/record", {"traits": traits})
    assert answer.status_code == 422
    assert words in answer.json()["title"]
    athlete.refresh_from_db()
    assert athlete.traits == []


def test_what_the_coach_leaves_out_stays_out_until_taken_in_again(coach, athlete, season) -> None:
    assert wish(coach, athlete, "neck takes the mat")["lines"]
    left = coach.ok("PUT", f"athletes/{athlete.pk}/chosen/neck", {"is_wanted": False})
    assert next(w for w in left["wishes"] if w["id"] == "neck")["is_declined"]
    assert not any("neck" in x["reason"] for x in lines(coach, athlete))
    assert "left out" in coach.get(f"history?athlete={athlete.pk}")["acts"][0]["words"]
    back = coach.ok("PUT", f"athletes/{athlete.pk}/chosen/neck", {"is_wanted": True})
    assert next(w for w in back["wishes"] if w["id"] == "neck")["lines"]
    assert coach.send("PUT", f"athletes/{athlete.pk}/chosen/nothing", {"is_wanted": False}).status_code == 422


def test_a_fault_left_out_leaves_the_lift_alone(coach, athlete, season) -> None:
    body = {"exercise_id": "back_squat", "fault": "hips_rise_first", "since": "2026-11-24"}
    coach.ok("POST", f"athletes/{athlete.pk}/faults", body)
    coach.ok("PUT", f"athletes/{athlete.pk}/chosen/fault-hips_rise_first", {"is_wanted": False})
    assert not any(x["exercise_id"] == "pause_squat" for x in lines(coach, athlete))


def test_a_weaker_side_left_out_is_left_out_whole(coach, athlete, season) -> None:
    jump = {"exercise_id": "single_leg_jump", "kind": "jump", "day": "2026-11-20"}
    for side, height in (("right", 20.0), ("left", 16.0)):
        coach.ok("POST", f"athletes/{athlete.pk}/marks", {**jump, "side": side, "measures": {"height_cm": height}})
    assert any(x["note"].startswith("First set") for x in lines(coach, athlete))
    coach.ok("PUT", f"athletes/{athlete.pk}/chosen/weaker-leg", {"is_wanted": False})
    assert not any(x["note"].startswith("First set") for x in lines(coach, athlete))


def test_a_fault_left_out_brings_nothing_forward(coach, athlete, season) -> None:
    body = {"exercise_id": "back_squat", "fault": "upper_back_rounds", "since": "2026-11-24"}
    coach.ok("POST", f"athletes/{athlete.pk}/faults", body)
    assert any("upper back rounds" in x["reason"] for x in lines(coach, athlete))
    coach.ok("PUT", f"athletes/{athlete.pk}/chosen/fault-upper_back_rounds", {"is_wanted": False})
    assert not any("upper back rounds" in x["reason"] for x in lines(coach, athlete))


def test_a_style_of_another_sport_asks_for_nothing(coach, athlete, season) -> None:
    coach.ok("PATCH", f"athletes/{athlete.pk}/record", {"traits": ["goalkeeper"]})
    assert not any("in goal" in x["reason"] or "splits and side steps" in x["reason"] for x in lines(coach, athlete))


def test_what_stands_beside_a_line_reaches_the_floor(coach, athlete, season) -> None:
    coach.ok("PATCH", f"athletes/{athlete.pk}/record", {"dominant_side": "right"})
    days = coach.get(f"athletes/{athlete.pk}/week?start={AHEAD}")["week"]["days"]
    sheet = next(d["sheet"] for d in days if d["sheet"] and any("stronger side" in x["note"] for x in d["sheet"]["lines"]))
    floor = coach.ok("POST", "floor/sessions", {"athlete_id": athlete.pk, "day": sheet["day"], "key": sheet["key"]})
    assert [x["note"] for x in floor["lines"]] == [x["note"] for x in sheet["lines"]]
    assert any(x["note"] == "Left first: the right is the stronger side" for x in floor["lines"])


def test_a_restriction_says_why_something_finds_no_place(coach, athlete, season) -> None:
    coach.ok(
        "POST", f"athletes/{athlete.pk}/restrictions", {"tag": "neck", "words": "sore", "set_by": "doctor", "since": "2026-11-20"}
    )
    assert any("restricted" in w for w in wish(coach, athlete, "neck takes the mat")["no_place"])


def test_a_kept_test_of_jumps_holds_in_the_plan(coach, athlete, season) -> None:
    squad = Squad.objects.create(name="Court", sport="handball")
    athlete.squad = squad
    athlete.save()
    coach.ok("PUT", f"athletes/{athlete.pk}/week-arrangement", {"arrangement": "team_strength", "days": 2})
    jump = next(x for x in lines(coach, athlete) if x["slot"] == "A1")
    assert "× 3" in jump["text"]
    OwnDefault.objects.create(athlete=athlete, kind="reps", exercise_id=jump["exercise_id"], value=2, at=timezone.now())
    now = next(x for x in lines(coach, athlete) if x["slot"] == "A1")
    assert "× 2" in now["text"]
    assert "your own test" in now["reason"]


class TestSessionsAWeek:
    def arranged(self, coach, athlete, wanted: int | None) -> tuple[int, str]:
        athlete.sessions_a_week = wanted
        athlete.save()
        week = coach.get(f"athletes/{athlete.pk}/week?start={AHEAD}")["week"]
        return sum(1 for d in week["days"] if d["sheet"]), week["days_words"]

    def test_three_are_three(self, coach, athlete, season) -> None:
        assert self.arranged(coach, athlete, None) == (2, "")
        assert self.arranged(coach, athlete, 2) == (2, "")
        assert self.arranged(coach, athlete, 3) == (3, "")

    def test_what_no_week_of_the_sport_holds_is_said(self, coach, athlete, season) -> None:
        count, words = self.arranged(coach, athlete, 4)
        assert count == 2
        assert words.startswith("4 sessions a week stand under Details; Two days around practice holds 2")


class TestLags:
    @pytest.fixture
    def lifter(self, coach) -> Athlete:
        squad = Squad.objects.create(name="Platform", sport="weightlifting")
        person = Athlete.objects.create(squad=squad, name="Lars Test", training_age_years=6)
        coach.ok("POST", f"athletes/{person.pk}/competitions", {"name": "Platform Open", "day": "2027-04-03"})
        return person

    def mark(self, coach, person: Athlete, **maxes: float) -> None:
        for lift, load_kg in maxes.items():
            body = {"exercise_id": lift, "kind": "one_rm", "day": "2026-11-20", "load_kg": load_kg, "reps": 1}
            coach.ok("POST", f"athletes/{person.pk}/marks", body)

    def weakest(self, coach, person: Athlete) -> list[dict[str, Any]]:
        return [x for x in lines(coach, person) if x["reason"].startswith("weak point: ")]

    def test_the_lift_that_lags_has_its_place_and_says_by_how_much(self, coach, lifter) -> None:
        assert self.weakest(coach, lifter) == []
        self.mark(coach, lifter, snatch=100, clean_and_jerk=150)
        (line,) = self.weakest(coach, lifter)
        assert "snatch_variation" in exercise(line["exercise_id"]).roles
        assert "the snatch lags by 20 kg" in line["reason"]

    def test_inside_the_band_nothing_lags(self, coach, lifter) -> None:
        self.mark(coach, lifter, snatch=120, clean_and_jerk=150)
        assert self.weakest(coach, lifter) == []

    @pytest.mark.parametrize(("jerked", "lags"), [(128.0, True), (139.0, False)])
    def test_a_jerk_behind_the_clean_is_worked_on_as_a_jerk(self, coach, lifter, jerked: float, lags: bool) -> None:
        self.mark(coach, lifter, clean_and_jerk=jerked, clean=145)
        found = self.weakest(coach, lifter)
        assert ["jerk_variation" in exercise(x["exercise_id"]).roles for x in found] == ([True] if lags else [])


def test_a_fault_can_be_recorded_for_every_kind_of_main_lift(coach, athlete) -> None:
    choices = {c["id"]: c["faults"] for c in coach.get(f"athletes/{athlete.pk}/record")["lift_choices"]}
    for lift in ("back_squat", "deadlift", "bench_press", "overhead_press", "pull_up", "snatch", "jerk_from_rack", "box_jump"):
        assert choices[lift], lift
    assert "dips_forward" not in choices["bench_press"]
    assert "dips_forward" in choices["jerk_from_rack"]
    body = {"exercise_id": "bench_press", "fault": "dips_forward", "since": str(date(2026, 11, 24))}
    assert coach.send("POST", f"athletes/{athlete.pk}/faults", body).status_code == 422
    assert MarkRecord.objects.filter(athlete=athlete).count() == 4


class TestWhatLimits:
    def test_a_lift_limited_by_strength_brings_its_work_and_the_page_says_the_same(self, coach, athlete, season) -> None:
        def record(close_grip_kg: float, day: str) -> None:
            body = {"kind": "one_rm", "day": day, "reps": 1, "exercise_id": "close_grip_bench_press", "load_kg": close_grip_kg}
            coach.ok("POST", f"athletes/{athlete.pk}/marks", body)

        def question() -> dict[str, Any]:
            limit = coach.get(f"athletes/{athlete.pk}/standing?limited=bench_press")["limit"]
            return next(a for a in limit["answers"] if a["question"] == "Arm and shoulder strength")

        record(61, "2026-11-18")
        assert question()["verdict"] == "possible"
        assert not any("limited by" in x["reason"] for x in lines(coach, athlete))
        for mark in MarkRecord.objects.filter(day=date(2026, 11, 18), exercise_id="close_grip_bench_press"):
            coach.ok("POST", f"marks/{mark.pk}/withdraw")
        record(52, "2026-11-20")
        assert question()["verdict"] == "likely"
        found = [x for x in lines(coach, athlete) if "limited by arm and shoulder strength" in x["reason"]]
        assert found
        assert wish(coach, athlete, "bench press is limited by arm and shoulder strength")["because"] == "what limits a lift"

    def test_what_is_not_recorded_says_where_to_record_it(self, coach, athlete, season) -> None:
        answers = coach.get(f"athletes/{athlete.pk}/standing?limited=bench_press")["limit"]["answers"]
        places = {a["question"]: a["record_at"] for a in answers if a["verdict"] == "not recorded"}
        assert places["Mobility"] == places["Posture"] == "faults"
        assert places["Arm and shoulder strength"] == "results"
        choices = {c["id"] for c in coach.get(f"athletes/{athlete.pk}/standing")["limit_choices"]}
        assert choices == {"back_squat", "bench_press"}


class TestARestrictionWithinAWeek:
    """A restriction set on a Tuesday changes the Thursday of that week, not the next week's Monday only."""

    def days(self, coach, athlete: Athlete, monday: str) -> dict[str, set[str]]:
        week = coach.get(f"athletes/{athlete.pk}/week?start={monday}")["week"]
        return {d["day"]: {x["exercise_id"] for x in d["sheet"]["lines"]} for d in week["days"] if d["sheet"]}

    def presses(self, found: set[str]) -> set[str]:
        return {e for e in found if exercise(e).pattern == "press"}

    def restrict(self, coach, athlete: Athlete, since: str, until: str | None = None) -> Any:
        body = {"tag": "press", "words": "Right shoulder", "set_by": "physiotherapist", "since": since, "until": until}
        return coach.ok("POST", f"athletes/{athlete.pk}/restrictions", body)

    def test_the_rest_of_this_week_follows(self, coach, athlete, season) -> None:
        monday = "2026-11-23"
        coach.ok("PUT", f"athletes/{athlete.pk}/week-arrangement", {"arrangement": "daily_dose", "days": 5})
        before = self.days(coach, athlete, monday)
        ahead = [day for day in before if day >= "2026-11-24" and self.presses(before[day])]
        assert ahead
        self.restrict(coach, athlete, "2026-11-24")
        now = self.days(coach, athlete, monday)
        assert not any(self.presses(now[day]) for day in now if day >= "2026-11-24")
        assert {d: e for d, e in now.items() if d < "2026-11-24"} == {d: e for d, e in before.items() if d < "2026-11-24"}

    def test_days_before_it_begins_and_after_it_ends_are_as_they_are(self, coach, athlete, season) -> None:
        coach.ok("PUT", f"athletes/{athlete.pk}/week-arrangement", {"arrangement": "concurrent", "days": 4})
        before = self.days(coach, athlete, AHEAD)
        pressed = sorted(day for day in before if self.presses(before[day]))
        first, last = pressed[0], pressed[-1]
        assert first < last
        record = self.restrict(coach, athlete, last)
        now = self.days(coach, athlete, AHEAD)
        assert self.presses(now[first])
        assert not self.presses(now[last])
        coach.ok("POST", f"restrictions/{record['restrictions'][0]['id']}/lift")
        self.restrict(coach, athlete, "2026-11-24", first)
        now = self.days(coach, athlete, AHEAD)
        assert not self.presses(now[first])
        assert self.presses(now[last])

    def test_no_maximal_sets_stand_in_what_is_left_of_the_week(self, coach, athlete, season) -> None:
        week = coach.get(f"athletes/{athlete.pk}/week?start={AHEAD}")["week"]
        assert week
        self.restrict(coach, athlete, "2026-12-09")
        coach.ok("PUT", f"athletes/{athlete.pk}/week-arrangement", {"arrangement": "concurrent", "days": 4})
        assert not any("top RPE" in x["text"] for x in lines(coach, athlete))
