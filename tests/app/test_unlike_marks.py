"""Grip, rack and equipment from the mark and the line to the load: unlike things are not compared, and it is said."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

import pytest

from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.floor.models import SessionLine

pytestmark = pytest.mark.django_db
LIFT = "trap_bar_deadlift"


def add(coach: Any, athlete: Any, load_kg: float, day: str = "2026-11-10", lift: str = LIFT, **under: str) -> Any:
    body = {"exercise_id": lift, "kind": "one_rm", "day": day, "load_kg": load_kg, "conditions": under, "confirm": True}
    return coach.ok("POST", f"athletes/{athlete.pk}/marks", body)


def lift_of(page: Any, lift: str = LIFT) -> Any:
    return next(x for x in page["lifts"] if x["exercise_id"] == lift)


def words(page: Any, name: str) -> list[str]:
    return [i["text"] for i in lift_of(page)["working"]["inputs"] if i["name"] == name]


class TestMarks:
    def test_a_strapped_pull_does_not_raise_the_max_until_it_is_the_usual_one(self, coach, athlete) -> None:
        add(coach, athlete, 120, day="2026-10-01")
        before = lift_of(add(coach, athlete, 125, day="2026-10-20"))["max_kg"]
        page = add(coach, athlete, 129, equipment="straps")
        assert lift_of(page)["max_kg"] == before
        assert ["straps" in w for w in words(page, "not compared")] == [True]
        strapped = page["marks"][0]
        assert (strapped["is_as_usual"], "lifting straps" in strapped["words"]) == (False, True)

        said = {"exercise_id": LIFT, "conditions": strapped["conditions"]}
        page = coach.ok("PUT", f"athletes/{athlete.pk}/usual-conditions", said)
        assert lift_of(page)["max_kg"] > before + 2
        assert words(page, "as usual") == ["lifting straps"]
        assert all(m["is_as_usual"] for m in page["marks"])

        assert [(u["exercise"], u["words"]) for u in page["usual"]] == [("Trap-bar deadlift", "lifting straps")]
        page = coach.ok("PUT", f"athletes/{athlete.pk}/usual-conditions", {"exercise_id": LIFT})
        assert page["usual"] == []
        assert lift_of(page)["max_kg"] == before, "left to the marks again"

    def test_what_most_marks_name_is_usual_without_a_word(self, coach, athlete) -> None:
        add(coach, athlete, 120, day="2026-10-01", equipment="belt")
        page = add(coach, athlete, 125, equipment="belt")
        assert words(page, "as usual") == ["belt"]
        page = add(coach, athlete, 160, equipment="suit")
        assert lift_of(page)["max_kg"] < 130

    @pytest.mark.parametrize("under", [{"rack": "full"}, {"equipment": "a rope"}])
    def test_what_the_lift_does_not_have_is_refused_in_words(self, coach, athlete, under: dict[str, str]) -> None:
        body = {"exercise_id": LIFT, "kind": "one_rm", "day": "2026-11-10", "load_kg": 100, "conditions": under}
        answer = coach.send("POST", f"athletes/{athlete.pk}/marks", body)
        assert answer.status_code == 422
        assert "no such condition" in answer.json()["title"]

    def test_an_improbable_mark_is_measured_against_marks_of_its_kind(self, coach, athlete) -> None:
        add(coach, athlete, 120)
        for load in (118, 119):
            add(coach, athlete, load, day="2026-10-01")
        add(coach, athlete, 200, equipment="suit")
        body = {"exercise_id": LIFT, "kind": "one_rm", "day": "2026-11-12", "load_kg": 205, "conditions": {"equipment": "suit"}}
        assert coach.send("POST", f"athletes/{athlete.pk}/marks", body).status_code == 200
        assert coach.send("POST", f"athletes/{athlete.pk}/marks", {**body, "conditions": {}}).status_code == 428


class TestALine:
    def sheet(self, coach: Any, athlete: Any) -> tuple[str, Any, Any]:
        week = coach.get(f"athletes/{athlete.pk}/week")["week"]
        day, line = next(
            (d, x) for d in week["days"] if d["sheet"] for x in d["sheet"]["lines"] if x["exercise_id"] == LIFT and x["sets"]
        )
        return f"athletes/{athlete.pk}/sessions/{day['day']}/{day['sheet']['key']}", line, day

    def top_kg(self, sheet: Any) -> float:
        line = next(x for x in sheet["lines"] if x["exercise_id"] == LIFT)
        return max(s["load_kg"] for s in line["sets"])

    def test_its_load_comes_from_marks_under_its_conditions_and_its_sets_are_kept_with_them(self, coach, athlete, season) -> None:
        for load, day in ((118, "2026-10-01"), (120, "2026-11-10")):
            add(coach, athlete, load, day=day)
        path, line, day = self.sheet(coach, athlete)
        edit = {"op": "conditions", "line": line["id"], "conditions": {"equipment": "straps"}}
        coach.ok("PUT", f"{path}/lines/{line['id']}", {"text": "3 × 3 @ 80 %"})
        usual = self.top_kg(coach.get(path))

        sheet = coach.ok("POST", f"{path}/edit", edit)  # no mark with straps yet: from the usual one, and it is said
        kept = next(x for x in sheet["lines"] if x["exercise_id"] == LIFT)
        assert (kept["conditions_words"], self.top_kg(sheet)) == ("lifting straps", usual)

        add(coach, athlete, 150, equipment="straps")
        assert self.top_kg(coach.get(path)) == pytest.approx(0.8 * 150, abs=2.5)

        floor = coach.ok("POST", "floor/sessions", {"athlete_id": athlete.pk, "day": day["day"], "key": day["sheet"]["key"]})
        on_floor = next(x for x in floor["lines"] if x["exercise_id"] == LIFT)
        assert "lifting straps" in on_floor["note"]
        assert SessionLine.objects.get(pk=on_floor["id"]).conditions == {"equipment": "straps"}
        body = {"line_id": on_floor["id"], "kind": "work", "number": 1, "load_kg": 120, "reps": 3, "rir": 4}
        coach.ok("POST", f"floor/sessions/{floor['id']}/sets", body)
        book = LiftBook([athlete], date.fromisoformat(day["day"]) + timedelta(days=1))
        mine = (athlete.pk, LIFT)
        assert any(m.ref.startswith("set:") for m in book.others_of(athlete.pk))
        assert not any(m.ref.startswith("set:") for m in book.marks_of(*mine))

    def test_weeks_of_sets_with_straps_make_no_habit_of_them(self, coach, athlete, season) -> None:
        usual = lift_of(add(coach, athlete, 120))["max_kg"]
        path, line, day = self.sheet(coach, athlete)
        coach.ok("PUT", f"{path}/lines/{line['id']}", {"text": "5 × 3 @ 80 %"})
        coach.ok("POST", f"{path}/edit", {"op": "conditions", "line": line["id"], "conditions": {"equipment": "straps"}})
        floor = coach.ok("POST", "floor/sessions", {"athlete_id": athlete.pk, "day": day["day"], "key": day["sheet"]["key"]})
        at = next(x["id"] for x in floor["lines"] if x["exercise_id"] == LIFT)
        for number in range(1, 6):
            body = {"line_id": at, "kind": "work", "number": number, "load_kg": 110, "reps": 3, "rir": 3, "confirm": True}
            coach.ok("POST", f"floor/sessions/{floor['id']}/sets", body)
        book = LiftBook([athlete], date.fromisoformat(day["day"]) + timedelta(days=1))
        assert book.facts_of(athlete.pk).usual[LIFT] == ()
        assert round(book.max(athlete.pk, LIFT).value_kg, 1) == usual

    def test_undo_takes_it_back(self, coach, athlete, season) -> None:
        path, line, _ = self.sheet(coach, athlete)
        coach.ok("POST", f"{path}/edit", {"op": "conditions", "line": line["id"], "conditions": {"equipment": "belt"}})
        coach.ok("POST", f"athletes/{athlete.pk}/plan/undo")
        sheet = coach.get(path)
        assert {x["conditions_words"] for x in sheet["lines"]} == {""}
