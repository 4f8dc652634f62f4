"""A squad's test day through the API: kept together, each problem said, pounds as typed, and the max follows."""

from __future__ import annotations

import io
from datetime import date
from typing import Any

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from openpyxl import Workbook

from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.facts.centre.models import KitRecord
from jarvok.app.facts.people.models import Act

DAY = "2026-11-24"


@pytest.fixture
def young(squad) -> Athlete:
    return Athlete.objects.create(squad=squad, name="Bea Young", training_age_years=1, birth_date=date(2010, 5, 1))


def keep(coach, squad, cells: list[tuple[int, str, str]], **more: Any) -> dict[str, Any]:
    rows = [
        {"athlete_id": a, "exercise_id": e, "text": t, **({"confirm": True} if more.get("confirm") else {})} for a, e, t in cells
    ]
    return coach.ok("POST", f"squads/{squad.pk}/test-day", {"day": DAY, "unit": more.get("unit", "kg"), "cells": rows})


def test_the_grid_says_who_may_do_what_and_what_is_known(coach, squad, athlete, young) -> None:
    day = coach.get(f"squads/{squad.pk}/test-day?lifts=back_squat,bench_press")
    assert [x["name"] for x in day["lifts"]] == ["Back squat", "Bench press"]
    ada, bea = day["rows"]
    assert ada["cells"][0]["known"].endswith(" kg")
    assert "1RM" in ada["cells"][0]["may"]
    assert bea["cells"][0]["may"] == ["10–15RM"]
    assert "under 18" in bea["cells"][0]["why_not"]


def test_usual_lifts_are_those_most_have_a_max_in(coach, squad, athlete) -> None:
    assert len(coach.get(f"squads/{squad.pk}/test-day")["lifts"]) == 3


def test_what_can_be_kept_is_kept_the_rest_is_said(coach, squad, athlete, young) -> None:
    out = keep(coach, squad, [
        (athlete.pk, "back_squat", "96"), (athlete.pk, "bench_press", "60x5"), (athlete.pk, "prone_row", ""),
        (young.pk, "back_squat", "60"), (young.pk, "bench_press", "30x10"), (young.pk, "prone_row", "fast"),
    ])  # fmt: skip
    said = {(c["athlete_id"], c["exercise_id"]): c for c in out["cells"]}
    assert out["kept"] == 3
    assert len(out["cells"]) == 5, "an empty cell is nothing"
    assert "under 18" in said[young.pk, "back_squat"]["problem"]
    assert "“fast” is no result" in said[young.pk, "prone_row"]["problem"]
    assert MarkRecord.objects.filter(day=date(2026, 11, 24)).count() == 3
    assert Act.objects.filter(verb="keep_results").count() == 1, "one act"
    squat = next(
        c for r in out["day"]["rows"] if r["athlete_id"] == athlete.pk for c in r["cells"] if c["exercise_id"] == "back_squat"
    )
    assert squat["known"].startswith("96")


def test_a_leap_is_asked_about_and_kept_when_sent_again(coach, squad, athlete) -> None:
    cell = [(athlete.pk, "bench_press", "140")]
    first = keep(coach, squad, cell)
    assert first["kept"] == 0
    assert first["cells"][0]["asks"]
    assert keep(coach, squad, cell, confirm=True)["kept"] == 1


def test_pounds_stay_as_typed(coach, squad, athlete) -> None:
    keep(coach, squad, [(athlete.pk, "back_squat", "215")], unit="lb")
    mark = MarkRecord.objects.get(day=date(2026, 11, 24))
    assert mark.load_kg == pytest.approx(97.5, abs=0.05)
    words = next(m for m in coach.get(f"athletes/{athlete.pk}")["marks"] if m["id"] == mark.pk)
    assert (words["words"], words["load"], words["unit"]) == ("215 lb", "215", "lb")
    body = {"exercise_id": "back_squat", "kind": "rep_max", "day": DAY, "load": 185, "unit": "lb", "reps": 5}
    answer = coach.ok("POST", f"athletes/{athlete.pk}/marks", body)
    assert any(m["words"] == "185 lb × 5" for m in answer["marks"])


def test_a_day_to_come_and_another_squad_are_refused(coach, squad, athlete) -> None:
    body = {"day": "2026-11-25", "cells": [{"athlete_id": athlete.pk, "exercise_id": "back_squat", "text": "90"}]}
    assert coach.send("POST", f"squads/{squad.pk}/test-day", body).status_code == 422
    assert keep(coach, squad, [(99999, "back_squat", "90")])["cells"][0]["problem"] == "Not of this squad."


class TestPasteAndFile:
    TABLE = "Name\tBack squat\tBench press\tUnknown lift\nAda Test\t96\t60x5\t1\nNobody\t1\t1\t1\n"

    def test_a_pasted_table_lies_in_the_grid(self, coach, squad, athlete) -> None:
        found = coach.ok("POST", f"squads/{squad.pk}/test-day/paste", {"text": self.TABLE})
        assert [(c["exercise_id"], c["text"]) for c in found["cells"]] == [("back_squat", "96"), ("bench_press", "60x5")]
        assert found["unknown"] == ["Unknown lift: no such lift", "Nobody: not of this squad"]
        assert not MarkRecord.objects.filter(day=date(2026, 11, 24)).exists(), "nothing is kept yet"

    def test_a_block_lies_from_the_cell_it_was_pasted_into_and_rows_with_names_find_theirs(
        self, coach, squad, athlete, young
    ) -> None:
        where = {"lifts": ["back_squat", "bench_press"], "athlete_id": athlete.pk, "exercise_id": "bench_press"}
        path = f"squads/{squad.pk}/test-day/paste"
        block = coach.ok("POST", path, {"text": "60 technical\t1\n30x5\t2\n", **where})["cells"]
        assert [(c["athlete_id"], c["exercise_id"], c["text"]) for c in block] == [
            (athlete.pk, "bench_press", "60 technical"), (young.pk, "bench_press", "30x5"),
        ]  # fmt: skip
        rows = coach.ok("POST", path, {"text": "Bea Young\t50x8\t30x8\nAda Test\t90\n", **where})["cells"]
        assert {(c["athlete_id"], c["exercise_id"], c["text"]) for c in rows} == {
            (young.pk, "back_squat", "50x8"), (young.pk, "bench_press", "30x8"), (athlete.pk, "back_squat", "90"),
        }  # fmt: skip

    def test_a_spreadsheet_too(self, coach, squad, athlete) -> None:
        book = Workbook()
        sheet = book.active
        assert sheet is not None
        sheet.append(["Name", "Back squat"])
        sheet.append(["Ada Test", 96])
        out = io.BytesIO()
        book.save(out)
        out.seek(0)
        out.name = "day.xlsx"
        answer = coach.client.post(f"/api/squads/{squad.pk}/test-day/file", {"file": out})
        assert answer.status_code == 200, answer.content
        assert answer.json()["cells"][0]["text"] == "96"


def test_the_grid_is_read_in_a_bounded_number_of_queries(coach, squad, athlete) -> None:
    def queries() -> int:
        with CaptureQueriesContext(connection) as seen:
            coach.get(f"squads/{squad.pk}/test-day?lifts=back_squat,bench_press,prone_row,snatch")
        return len(seen)

    few = queries()
    for i in range(12):
        Athlete.objects.create(squad=squad, name=f"Athlete {i}", training_age_years=4)
    assert queries() <= few + 1


class TestLadderInPounds:
    """A pounds room never sees a kilogram on the page of its ladder."""

    TRIES = ((90, 1.48), (120, 1.20), (145, 1.04), (160, 0.91), (150, 1.02), (155, 0.96))

    @pytest.fixture
    def pounds(self, coach, athlete) -> Athlete:
        kit = {
            "name": "Pounds room", "unit": "lb", "bar": 45, "collar": 0, "has": ["barbell"], "gear": [],
            "plates": [{"mass": 45, "pairs": 4}, {"mass": 25, "pairs": 2}, {"mass": 10, "pairs": 2}, {"mass": 5, "pairs": 2},
                       {"mass": 2.5, "pairs": 1}],
        }  # fmt: skip
        coach.ok("POST", "settings/kits", kit)
        athlete.kit = KitRecord.objects.get()
        athlete.save()
        return athlete

    def test_a_guided_test_speaks_pounds_and_takes_them(self, coach, pounds) -> None:
        pounds.supervised = True
        pounds.save()
        body = {"exercise_id": "deadlift", "kind": "technical_single", "has_pain": False}
        test = coach.ok("POST", f"athletes/{pounds.pk}/tests", body)
        said: list[str] = []
        for number, felt in enumerate((3, 5, 7), start=1):
            step = test["next"]
            assert (step["unit"], test["unit"]) == ("lb", "lb")
            said += [step["why"], test["max_words"]]
            body = {"number": number, "load": float(step["load"]), "reps": step["reps"], "felt": felt}
            test = coach.ok("POST", f"tests/{test['id']}/attempts", body)
            assert test["attempts"][-1]["load"] == step["load"]
            assert test["attempts"][-1]["load_kg"] == pytest.approx(step["load_kg"], abs=1e-9), "the built load, not its rounding"
        load = float(test["next"]["load"]) + 5
        test = coach.ok("POST", f"tests/{test['id']}/attempts", {"number": 4, "load": load, "reps": 1, "felt": 9})
        test = coach.ok("POST", f"tests/{test['id']}/attempts", {"number": 5, "load": load + 5, "reps": 0, "missed": True})
        again = coach.send("POST", f"tests/{test['id']}/attempts", {"number": 4, "load": load + 20, "reps": 1})
        assert again.status_code == 409
        said += [test["result"]["words"], again.json()["title"]]
        ended = coach.ok("POST", f"tests/{test['id']}/end")
        said += [ended["outcome"], coach.get(f"athletes/{pounds.pk}/tests?exercise_id=deadlift")["max_words"]]
        assert not any(" kg" in s for s in said), [s for s in said if " kg" in s]
        assert f"{load:g} lb" in ended["outcome"]
        assert coach.get(f"athletes/{pounds.pk}")["marks"][0]["words"] == f"{load:g} lb"

    def test_the_record_is_150_and_no_kilogram_is_said(self, coach, pounds) -> None:
        body = {"kind": "ladder", "exercise_id": "power_clean", "target_mps": 1.0, "set_most": 300}
        trial = coach.ok("POST", f"athletes/{pounds.pk}/trials", body)
        said: list[str] = []
        for number, (load, speed) in enumerate(self.TRIES, start=1):
            before = trial
            body = {"number": number, "load": load, "velocity_mps": speed}
            trial = coach.ok("POST", f"trials/{trial['id']}/tries", body)
            said += [trial["sentence"], trial["next_words"], str(trial["working"])]
            assert not trial["confirm"], "no second try at 0.91 or 0.96"
            assert before["unit"] == "lb"
        assert trial["is_over"]
        assert "150 lb" in trial["sentence"]
        assert trial["kept_words"] == "150 lb"
        assert [t["load_words"] for t in trial["tries"]] == [f"{load} lb" for load, _ in self.TRIES]
        assert not any(" kg" in s for s in said), [s for s in said if " kg" in s]
        ended = coach.ok("POST", f"trials/{trial['id']}/end", {"keep": True})
        assert " kg" not in ended["outcome"]
        again = coach.ok(
            "POST", f"athletes/{pounds.pk}/trials", {"kind": "ladder", "exercise_id": "power_clean", "target_mps": 1.0}
        )
        assert again["record_words"] == "150 lb"
