"""Sheet, print, floor list, clocks and minutes go by one sequence of steps: every grouping, step by step."""

from __future__ import annotations

from typing import Any

import pytest
from django.utils import timezone
from support.one_block import DAY, started, written

from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.facts.centre.models import KitRecord
from jarvok.app.facts.floor.models import SetRecord, TrainingSession
from jarvok.app.facts.room.models import OwnDefault
from jarvok.core.session.blocks import GROUPINGS, Grouping

LIFTS = [("back_squat", "3x4 @ 70%"), ("push_up", "3x8"), ("box_jump", "3x3"), ("inverted_row", "3x6")]
COMPLEX = [("trap_bar_deadlift", "3x2 @ 60%"), ("back_squat", "3x2 @ 60%"), ("push_up", "3x5")]
FIGURES: dict[Grouping, dict[str, int]] = {
    Grouping.PAIR: {"rest_inside_s": 40, "rest_between_s": 100},
    Grouping.CIRCUIT: {"rest_inside_s": 10, "rest_between_s": 60},
    Grouping.CONTRAST: {"rest_between_s": 180},
    Grouping.PAPE: {"rest_inside_s": 240, "rest_between_s": 120},
    Grouping.COMPLEX: {"every_s": 120},
    Grouping.CLUSTER: {"rest_inside_s": 15},
    Grouping.EVERY: {"every_s": 90},
    Grouping.UNTIL_MISS: {"every_s": 90},
    Grouping.AMRAP: {"minutes": 8},
    Grouping.WARM_UP: {"minutes": 5},
    Grouping.METRONOME: {"bpm": 50, "beats": 2},
}


def place(p: Any) -> dict[str, Any]:
    """A place of a step without what is said of it."""
    return {k: p[k] for k in ("line_id", "kind", "number")}


def log(coach: Any, floor: Any, **more: Any) -> Any:
    current = floor["current"]
    line = next(x for x in floor["lines"] if x["id"] == current["line_id"])
    item = next(s for s in line["sets"] if (s["kind"], s["number"]) == (current["kind"], current["number"]))
    body = {**current, "load_kg": item["load_kg"], "reps": item["reps"] or 1, **more}
    return coach.ok("POST", f"floor/sessions/{floor['id']}/sets", body)


@pytest.mark.parametrize("grouping", list(Grouping))
def test_sheet_print_floor_clock_and_minutes_agree(coach, athlete, season, grouping: Grouping) -> None:
    rule = GROUPINGS[grouping]
    rows = COMPLEX if grouping is Grouping.COMPLEX else LIFTS[: min(rule.most, max(rule.least, 3))]
    key = written(coach, athlete, rows, grouping, **FIGURES.get(grouping, {}))
    path = f"athletes/{athlete.pk}/sessions/{DAY}/{key}"
    sheet, table = coach.get(path), coach.get(f"{path}/squad")
    floor = started(coach, athlete, key)
    (block,) = sheet["blocks"]
    slots = {x["id"]: x["slot"] for x in floor["lines"]}
    work = [s for s in floor["steps"] if s["sets"][0]["kind"] == "work"]

    # the sheet unfolds to the same sets in the same order as the floor plays them
    on_floor = [(slots[p["line_id"]], p["number"]) for s in work for p in s["sets"]]
    seen: dict[str, int] = {}
    on_sheet: list[tuple[str, int]] = []
    for row in [r for r in block["rows"] if not r["warms_up"]]:
        named = [c["slot"] for c in block["columns"]] or [row["name"]] * len(row["cells"])
        for slot, cell in zip(named, row["cells"], strict=True):
            if cell["words"]:
                for _ in cell["words"].split(", ") if grouping in (Grouping.AMRAP, Grouping.WARM_UP) else [cell]:
                    seen[slot] = seen.get(slot, 0) + 1
                    on_sheet.append((slot, seen[slot]))
    assert sorted(on_sheet) == sorted(on_floor)
    if grouping not in (Grouping.AMRAP, Grouping.WARM_UP):
        assert on_sheet == on_floor

    # paper holds every set of every line, in the same words as the sheet
    mine = next(r for r in table["rows"] if r["athlete_id"] == athlete.pk)
    for slot in {s for s, _ in on_floor}:
        on_paper = sum(alike["count"] for alike in mine["lines"][slot]["sets"])
        assert on_paper == len([1 for s, _ in on_floor if s == slot])
    assert table["blocks"][0]["words"] == block["words"] == floor["block_words"].get(block["name"], "")

    # the floor goes through them one tap a step, and nothing is left over
    taps = 0
    while floor["current"] is not None:
        step = next(s for s in floor["steps"] if any(place(p) == floor["current"] for p in s["sets"]))
        assert step["id"] == floor["steps"][taps]["id"]
        floor = log(coach, floor)
        taps += 1
    assert taps == len(floor["steps"])

    # a clock lasts as long as the minutes say
    clock = next((s["clock"] for s in work if s["clock"]), None)
    if grouping in (Grouping.EVERY, Grouping.UNTIL_MISS, Grouping.COMPLEX):
        assert clock["figures"]["every_s"] * work[0]["sets"][0]["number"] == FIGURES[grouping]["every_s"]
        assert round(block["minutes"] * 60) == FIGURES[grouping]["every_s"] * len(work)
    if grouping in (Grouping.AMRAP, Grouping.WARM_UP):
        assert clock["seconds"] == pytest.approx(60 * FIGURES[grouping]["minutes"] + 10)  # and ten seconds to get ready
        assert block["minutes"] == FIGURES[grouping]["minutes"]


def test_a_complex_is_logged_and_taken_back_with_one_tap(coach, athlete, season) -> None:
    key = written(coach, athlete, COMPLEX, Grouping.COMPLEX, every_s=120)
    floor = started(coach, athlete, key)
    while floor["current"]["kind"] == "ramp":
        floor = log(coach, floor)
    after = log(coach, floor, load_kg=47.5, parts=[2, 1, 5])
    done = [next(s for s in x["sets"] if s["kind"] == "work")["done"] for x in after["lines"]]
    assert [(d["load_kg"], d["reps"]) for d in done] == [(47.5, 2), (47.5, 1), (47.5, 5)]
    assert len({r.step for r in SetRecord.objects.filter(kind="work")}) == 1
    back = coach.ok("POST", f"floor/sessions/{floor['id']}/undo")
    assert back["current"] == floor["current"]
    assert not SetRecord.objects.filter(kind="work", taken_back_at__isnull=True).exists()


def test_parts_have_to_be_one_for_each_lift(coach, athlete, season) -> None:
    floor = started(coach, athlete, written(coach, athlete, COMPLEX, Grouping.COMPLEX))
    while floor["current"]["kind"] == "ramp":
        floor = log(coach, floor)
    body = {**floor["current"], "load_kg": 40, "reps": 2, "parts": [2, 1]}
    refused = coach.send("POST", f"floor/sessions/{floor['id']}/sets", body)
    assert refused.status_code == 422
    assert "3 numbers" in refused.json()["accepted"]
    assert not SetRecord.objects.filter(kind="work").exists()


def test_rounds_of_a_block_by_time_count_for_each_line_and_are_shown_next_time(coach, athlete, season) -> None:
    rows = [("push_up", "1x10"), ("inverted_row", "1x5")]
    floor = started(coach, athlete, written(coach, athlete, rows, Grouping.AMRAP, minutes=8))
    (step,) = floor["steps"]
    assert [a["key"] for a in step["asks"]] == ["rounds", "extra_reps"]
    floor = log(coach, floor, measures={"rounds": 4, "extra_reps": 12})
    assert [x["sets"][0]["done"]["reps"] for x in floor["lines"]] == [50, 22]  # 4 rounds, then 10 and 2 beyond
    assert floor["lines"][0]["sets"][0]["done"]["result"] == "4 rounds + 12"
    review = coach.get(f"floor/sessions/{floor['id']}/review")
    assert review["lines"][0]["sets"] == ["4 rounds + 12"]
    TrainingSession.objects.filter(pk=floor["id"]).update(day="2026-11-20")
    again = coach.ok("POST", "floor/sessions", {"athlete_id": athlete.pk, "day": DAY, "key": floor["key"]})
    assert again["steps"][0]["asks"][0]["last"] == "last: 4 rounds + 12, 20 Nov"


@pytest.mark.parametrize(("measures", "accepted"), [
    ({"rounds": 201}, "0 to 200"), ({"rounds": 2.5}, "0 to 200"), ({"time_s": 0.5}, "1 to 7200"),
    ({"pace": 3}, "rounds, reps beyond"),
])  # fmt: skip
def test_a_result_that_cannot_be_is_refused_in_words(coach, athlete, season, measures: dict[str, float], accepted: str) -> None:
    floor = started(coach, athlete, written(coach, athlete, [("push_up", "1x10")], Grouping.AMRAP, minutes=8))
    refused = coach.send("POST", f"floor/sessions/{floor['id']}/sets", {**floor["current"], "reps": 1, "measures": measures})
    assert refused.status_code == 422
    assert accepted in refused.json()["accepted"]


def test_a_line_for_time_keeps_its_time(coach, athlete, season) -> None:
    floor = started(coach, athlete, written(coach, athlete, [("push_up", "1x50, for time")], Grouping.STRAIGHT))
    assert [a["name"] for a in floor["steps"][0]["asks"]] == ["time, min:s"]
    floor = log(coach, floor, measures={"time_s": 132})
    assert floor["lines"][0]["sets"][0]["done"]["result"] == "2:12"


def test_the_rest_an_athletes_own_test_found_stands_on_sheet_and_floor(coach, athlete, season) -> None:
    pair = [("back_squat", "3x3 @ 85%"), ("countermovement_jump", "3x3")]
    key = written(coach, athlete, pair, Grouping.PAPE)
    path = f"athletes/{athlete.pk}/sessions/{DAY}/{key}"
    before = coach.get(path)
    OwnDefault.objects.create(athlete=athlete, kind="rest", exercise_id="countermovement_jump", value=270, at=timezone.now())
    after = coach.get(path)
    assert before["lines"][0]["rest"] == "2:30"
    assert after["lines"][0]["rest"] == "4:30"
    # two minutes more inside each of three rounds, and none between them
    assert after["minutes"] == pytest.approx(before["minutes"] + 3 * 2, abs=0.15)
    floor = started(coach, athlete, key)
    first = next(s for s in floor["steps"] if s["sets"][0]["kind"] == "work")
    assert first["then"] == "then rest 4:30"


def test_drops_show_the_loads_they_go_on_with(coach, athlete, season) -> None:
    key = written(coach, athlete, [("bench_press", "2x6 @ 70%, drop 2 x 20%")], Grouping.STRAIGHT)
    path = f"athletes/{athlete.pk}/sessions/{DAY}/{key}"
    (row,) = [r for r in coach.get(path)["blocks"][0]["rows"] if not r["warms_up"]]
    load = coach.get(path)["lines"][0]["sets"][0]["load_kg"]
    assert "then at once" in row["cells"][-1]["words"]
    assert "then at once" not in row["cells"][0]["words"]
    floor = started(coach, athlete, key)
    last = floor["lines"][0]["sets"][-1]
    assert last["drops_kg"] == sorted(last["drops_kg"], reverse=True)
    assert all(kg < load for kg in last["drops_kg"])


def test_alike_sets_in_a_block_of_drops_get_lighter(coach, athlete, season) -> None:
    key = written(coach, athlete, [("bench_press", "3x8 @ 70%")], Grouping.DROP)
    kilos = [s["load_kg"] for s in coach.get(f"athletes/{athlete.pk}/sessions/{DAY}/{key}")["lines"][0]["sets"]]
    assert kilos == sorted(set(kilos), reverse=True)
    assert kilos[1] == pytest.approx(0.8 * kilos[0], abs=1.5)


def test_the_rack_sheet_sorts_by_load_and_says_what_changes(coach, athlete, season, squad) -> None:
    key = written(coach, athlete, [("back_squat", "3x4 @ 70%")], Grouping.STRAIGHT)
    other = Athlete.objects.create(squad=squad, name="Bo Test", training_age_years=5, height_cm=190)
    MarkRecord.objects.create(athlete=other, exercise_id="back_squat", kind="one_rm", day="2026-11-02", load_kg=140, reps=1)
    coach.ok("POST", f"athletes/{other.pk}/competitions", {"name": "Test Open", "day": "2027-04-03"})
    copied = coach.ok("POST", f"athletes/{athlete.pk}/sessions/{DAY}/{key}/copy", {"day": DAY, "scope": "squad"})
    assert copied["done"]
    found = coach.get(f"athletes/{athlete.pk}/sessions/{DAY}/{key}/racks?racks=1")
    (lift,) = found["lifts"]
    (rack,) = lift["racks"]
    assert [t["name"] for t in rack["turns"]] == ["Ada Test", "Bo Test"]
    assert float(rack["turns"][0]["load"]) < float(rack["turns"][1]["load"])
    assert rack["turns"][1]["change"].startswith("on ")
    assert [t["sets"] for t in rack["turns"]] == [3, 3]
    two = coach.get(f"athletes/{athlete.pk}/sessions/{DAY}/{key}/racks?racks=2")
    assert [len(r["turns"]) for r in two["lifts"][0]["racks"]] == [1, 1]
    assert coach.client.get(f"/api/athletes/{athlete.pk}/sessions/{DAY}/{key}/racks?racks=17").status_code == 422
    for kind in ("wall", "racks", "cards"):
        made = coach.client.get(f"/api/export/athletes/{athlete.pk}/sessions/{DAY}/{key}/{kind}.pdf")
        assert (made.status_code, made.content[:4]) == (200, b"%PDF")


def test_a_session_told_before_there_were_steps_goes_on_line_by_line(coach, athlete, floor) -> None:
    TrainingSession.objects.filter(pk=floor["id"]).update(told={})
    found = coach.get(f"floor/sessions/{floor['id']}")
    places = [p for s in found["steps"] for p in s["sets"]]
    order = [x["id"] for x in found["lines"]]
    assert [order.index(p["line_id"]) for p in places] == sorted(order.index(p["line_id"]) for p in places)
    assert found["current"] == place(places[0])


def test_rounds_of_a_single_line_count_too(coach, athlete, season) -> None:
    floor = started(coach, athlete, written(coach, athlete, [("push_up", "1x10")], Grouping.AMRAP, minutes=8))
    floor = log(coach, floor, measures={"rounds": 6, "extra_reps": 4})
    assert floor["lines"][0]["sets"][0]["done"]["reps"] == 64


def test_a_finisher_by_time_keeps_its_rounds_without_repetitions_of_them(coach, athlete, season) -> None:
    floor = started(coach, athlete, written(coach, athlete, [("burpee_interval", "1 × 5 min, for rounds")], Grouping.STRAIGHT))
    floor = log(coach, floor, reps=1, measures={"rounds": 6})
    done = floor["lines"][0]["sets"][0]["done"]
    assert (done["reps"], done["result"]) == (1, "6 rounds")
    assert coach.get(f"floor/sessions/{floor['id']}/review")["lines"][0]["words"] == "6 rounds"


def test_pain_in_a_complex_stops_at_the_lift_that_was_tapped(coach, athlete, season) -> None:
    floor = started(coach, athlete, written(coach, athlete, COMPLEX, Grouping.COMPLEX))
    while floor["current"]["kind"] == "ramp":
        floor = log(coach, floor)
    after = log(coach, floor, trouble="pain", pain_area="elsewhere", reps=1)
    assert SetRecord.objects.filter(kind="work", taken_back_at__isnull=True).count() == 1
    assert all(x["ended"] for x in after["lines"]), "one bar: what ends one lift ends all"
    assert after["current"] is None


def test_a_kept_result_is_corrected(coach, athlete, season) -> None:
    floor = started(coach, athlete, written(coach, athlete, [("push_up", "1x50, for time")], Grouping.STRAIGHT))
    first = floor["current"]
    done = log(coach, floor, measures={"time_s": 132})["lines"][0]["sets"][0]["done"]
    assert done["results"] == [{"key": "time_s", "name": "time, min:s", "unit": "s", "value": 132.0}]
    body = {**first, "reps": 50, "seen_id": done["id"], "measures": {"time_s": 125}}
    after = coach.ok("POST", f"floor/sessions/{floor['id']}/sets/correct", body)
    assert after["lines"][0]["sets"][0]["done"]["result"] == "2:05"


def test_a_room_in_pounds_reads_pounds_on_the_sheet_and_on_paper(coach, athlete, season) -> None:
    plates = [[20.41, 4], [11.34, 2], [4.54, 2], [2.27, 2], [1.13, 2]]
    athlete.kit = KitRecord.objects.create(
        name="Pounds", unit="lb", bar_kg=20.41, pairs=plates, has=["barbell"], gear=["rack", "bench"]
    )
    athlete.save()
    key = written(coach, athlete, [("bench_press", "2x6 @ 70%, drop 2 x 20%")], Grouping.STRAIGHT)
    path = f"athletes/{athlete.pk}/sessions/{DAY}/{key}"
    said = " ".join(c["words"] for r in coach.get(path)["blocks"][0]["rows"] for c in r["cells"])
    assert " lb × " in said
    assert " kg" not in said
    cell = next(r for r in coach.get(f"{path}/squad")["rows"] if r["athlete_id"] == athlete.pk)["lines"]["A1"]
    assert " lb" in cell["words"]
    assert "kg" not in cell["words"] + "".join(a["words"] for a in cell["sets"])
    (rack,) = coach.get(f"{path}/racks?racks=1")["lifts"][0]["racks"]
    assert "lb" in rack["turns"][0]["load"]
