"""What was told is read for ever: as it is written now, and as it was written before versions."""

from __future__ import annotations

import json
from datetime import date

import pytest

from jarvok.core.floor.readiness import Arrival, SportSince
from jarvok.core.floor.told import VERSION, ToldSet
from jarvok.core.library.exercises import exercise
from jarvok.core.library.kit import implement_for
from jarvok.core.loading.ramp import RampSet
from jarvok.core.loading.resolve import resolve
from jarvok.core.loading.shorthand import parse
from jarvok.core.loading.state import LiftState
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.marks.working_max import current_max
from jarvok.core.season.exposures import Event
from jarvok.core.season.taper import Shape, TaperStyle

DAY = date(2026, 3, 2)
SQUAT = exercise("back_squat")
STATE = LiftState(SQUAT, implement_for(SQUAT), current_max([Mark("mark:1", DAY, MarkKind.ONE_RM, 120.0)], DAY))
# one set as a session of the first version kept it, key by key
OLD = {
    "reps": 3, "or_more": False, "seconds": None, "metres": None, "per_side": False, "load_kg": 97.5, "wanted_kg": 98.4,
    "per_side_kg": [25.0, 10.0, 2.5, 1.25], "share_of_max": 0.8125, "target_is_peak": False, "target_rir": 2.0,
    "stop_loss_pct": 20.0, "method": "percent", "bottom_kg": None, "top_kg": None, "unit": "kg", "in_lb": "",
    "per_side_words": ["25", "10", "2.5", "1.25"], "index": 1, "target_low_mps": 0.5, "target_high_mps": 0.6,
    "working": {"result": "97.5 kg", "rule": "82 % of 120.0 kg", "source_mark": "C", "source": "common practice",
                "inputs": [{"name": "max today", "text": "120 kg", "ref": "mark:1"}], "rounding": "", "others": [],
                "missing": ["a"], "caution": "b"},
}  # fmt: skip


@pytest.mark.parametrize(
    "text", ["4 × 3 @ 82 %", "3 × 45 s", "2 × 30 m/side", "5 × 2 @ 0.75–0.85 m/s", "APRE-6", "8 × 2 @ 50 % + 25 % bands"]
)
def test_a_set_comes_back_as_it_was_told(text: str) -> None:
    for item in resolve(parse(text), STATE):
        told = ToldSet.of(item)
        raw = json.loads(json.dumps(told.to_raw()))
        assert raw["version"] == VERSION
        assert ToldSet.from_raw(raw) == told
        assert ToldSet.from_raw(raw).resolved() == item
        assert ToldSet.of(item, with_working=False).working is None


def test_a_set_of_the_first_version_is_read_with_all_it_says() -> None:
    told = ToldSet.from_raw(OLD)
    assert (told.index, told.reps, told.load_kg, told.per_side_kg) == (1, 3, 97.5, (25.0, 10.0, 2.5, 1.25))
    assert (told.target_mps, told.target_rir, told.method) == ((0.5, 0.6), 2.0, "percent")
    assert told.working is not None
    assert (told.working.rule, told.working.inputs[0].ref, told.working.missing) == ("82 % of 120.0 kg", "mark:1", ("a",))


def test_warm_ups_say_only_what_they_have() -> None:
    told = ToldSet.of_ramp(RampSet(60.0, (20.0,), 3), 15.0)
    assert (told.load_kg, told.reps, told.per_side_kg, told.stop_loss_pct) == (60.0, 3, (20.0,), 15.0)
    assert ToldSet.from_raw({"load_kg": 60.0, "per_side_kg": [20.0], "reps": 3}).load_kg == 60.0
    assert ToldSet.from_raw({}) == ToldSet()


def test_answers_tapers_and_events_come_back_as_they_were_kept_and_from_before_versions() -> None:
    said = Arrival(4, 3, 5, None, ("left_knee",), (SportSince("practice", 90, 6, 18),), (38.5, 39.0))
    assert Arrival.from_raw(json.loads(json.dumps(said.to_raw()))) == said
    assert Arrival.from_raw({"sleep": 4, "sport": None}, (40.0,)) == Arrival(sleep=4, usual_jumps_cm=(40.0,))
    taper = TaperStyle(10, Shape.FAST, 45.0, 80.0)
    assert TaperStyle.from_raw(json.loads(json.dumps(taper.to_raw()))) == taper
    step = {"days": 10, "shape": "step", "depth_pct": 45, "frequency_pct": 80}
    assert TaperStyle.from_raw(step) == TaperStyle(10, Shape.STEP, 45.0, 80.0)


def test_a_taper_kept_by_the_depth_at_its_end_keeps_what_it_takes_off_in_all() -> None:
    old = {"days": 10, "shape": "linear", "depth_pct": 60, "frequency_pct": 100}
    assert TaperStyle.from_raw(old).depth_pct == pytest.approx(60 * (1 + 2 + 3 + 4 + 5 + 6 + 7 + 8 + 9 + 10) / 100)


def test_events_come_back_as_they_were_kept_and_from_before_versions() -> None:
    event = Event("pull", "Straight limit pull", 1, 210.0)
    assert Event.from_raw(json.loads(json.dumps(event.to_raw()))) == event
    assert Event.from_raw({"kind": "pull", "name": "Straight limit pull", "contest_day": 1, "load_kg": 210.0}) == event
