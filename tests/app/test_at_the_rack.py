"""A set passed over, one more, another exercise, at the rack: what comes up next, what undo brings back, what the review says."""

from __future__ import annotations

from typing import Any

import pytest

from jarvok.core.library.exercises import exercise

pytestmark = pytest.mark.django_db


def line_of(floor: Any, slot: str = "A1") -> Any:
    return next(x for x in floor["lines"] if x["slot"] == slot)


def done(coach: Any, floor: Any, slot: str, number: int, kind: str = "work", **more: Any) -> Any:
    body = {"line_id": line_of(floor, slot)["id"], "kind": kind, "number": number, "load_kg": 60, "reps": 3, **more}
    response = coach.send("POST", f"floor/sessions/{floor['id']}/sets", body)
    assert response.status_code == 200, response.content
    return response.json()


def sent(coach: Any, floor: Any, path: str, body: Any = None, status: int = 200) -> Any:
    response = coach.send("POST", f"floor/sessions/{floor['id']}/{path}", body or {})
    assert response.status_code == status, response.content
    return response.json()


def undone(coach: Any, floor: Any) -> Any:
    return sent(coach, floor, "undo")


def skipped(coach: Any, floor: Any, slot: str, kind: str, number: int, status: int = 200) -> Any:
    return sent(coach, floor, f"lines/{line_of(floor, slot)['id']}/skip", {"kind": kind, "number": number}, status)


@pytest.fixture
def floor(coach: Any, floor: Any) -> Any:
    """The session with what comes before A1 passed over."""
    while floor["current"]["line_id"] != line_of(floor)["id"]:
        at = floor["current"]
        floor = sent(coach, floor, f"lines/{at['line_id']}/skip", {"kind": at["kind"], "number": at["number"]})
    return floor


def walked(coach: Any, floor: Any) -> tuple[Any, list[tuple[str, str, int]]]:
    """The session to its end, every set as it comes up: as it stands then, and what came."""
    came = []
    while floor["current"]:
        at = floor["current"]
        slot = next(x["slot"] for x in floor["lines"] if x["id"] == at["line_id"])
        came.append((slot, at["kind"], at["number"]))
        told = next(s for s in line_of(floor, slot)["sets"] if (s["kind"], s["number"]) == (at["kind"], at["number"]))
        floor = done(coach, floor, slot, at["number"], at["kind"], load_kg=told["load_kg"], reps=told["reps"] or 1)
    return floor, came


class TestSkip:
    def test_the_next_set_comes_up_and_undo_brings_it_back(self, coach, floor) -> None:
        before = floor["current"]
        after = skipped(coach, floor, "A1", before["kind"], before["number"])
        assert after["current"] != before
        assert undone(coach, floor)["current"] == before

    def test_it_is_no_set_done_and_none_left(self, coach, floor) -> None:
        after = skipped(coach, floor, "A1", "work", 1)
        assert after["sets_left"] == floor["sets_left"] - 1
        item = next(s for s in line_of(after)["sets"] if s["kind"] == "work" and s["number"] == 1)
        assert (item["skipped"], item["done"]) == (True, None)
        review = coach.get(f"floor/sessions/{floor['id']}/review")
        assert line_of(review)["done_sets"] == 0

    def test_twice_or_after_it_was_logged_is_said(self, coach, floor) -> None:
        skipped(coach, floor, "A1", "work", 1)
        assert "passed over already" in skipped(coach, floor, "A1", "work", 1, 409)["title"]
        done(coach, floor, "A1", 2)
        assert "logged already" in skipped(coach, floor, "A1", "work", 2, 409)["title"]

    def test_a_set_passed_over_can_still_be_done(self, coach, floor) -> None:
        skipped(coach, floor, "A1", "work", 1)
        after = done(coach, floor, "A1", 1)
        item = next(s for s in line_of(after)["sets"] if s["kind"] == "work" and s["number"] == 1)
        assert item["done"]["reps"] == 3
        assert not item["skipped"]


class TestOneMore:
    def test_it_comes_after_the_last_of_its_line(self, coach, floor) -> None:
        total = sum(1 for s in line_of(floor)["sets"] if s["kind"] == "work")
        after = sent(coach, floor, f"lines/{line_of(floor)['id']}/more")
        work = [s for s in line_of(after)["sets"] if s["kind"] == "work"]
        assert [s["added"] for s in work] == [False] * total + [True]
        assert (work[-1]["load_kg"], work[-1]["reps"]) == (work[-2]["load_kg"], work[-2]["reps"])
        _, came = walked(coach, after)
        mine = [x for x in came if x[0] == "A1" and x[1] == "work"]
        assert mine == [("A1", "work", n) for n in range(1, total + 2)]

    def test_after_the_last_set_it_is_up_again(self, coach, floor) -> None:
        after, _ = walked(coach, floor)
        assert line_of(after)["ended"]
        after = sent(coach, floor, f"lines/{line_of(floor)['id']}/more")
        assert not line_of(after)["ended"]
        assert after["current"]["line_id"] == line_of(floor)["id"]
        assert undone(coach, floor)["current"] is None

    def test_the_review_says_more_than_planned(self, coach, floor) -> None:
        total = sum(1 for s in line_of(floor)["sets"] if s["kind"] == "work")
        sent(coach, floor, f"lines/{line_of(floor)['id']}/more")
        for number in range(1, total + 2):
            done(coach, floor, "A1", number)
        lines = coach.get(f"floor/sessions/{floor['id']}/review")["lines"]
        line = next(x for x in lines if x["slot"] == "A1")
        assert (line["planned_sets"], line["done_sets"]) == (total, total + 1)

    def test_what_pain_has_ended_gets_no_more(self, coach, floor) -> None:
        done(coach, floor, "A1", 1, trouble="pain", pain_area="knee")
        assert "away today" in sent(coach, floor, f"lines/{line_of(floor)['id']}/more", status=409)["title"]


class TestSwap:
    def swaps(self, coach: Any, floor: Any, slot: str = "A1") -> Any:
        return coach.get(f"floor/sessions/{floor['id']}/lines/{line_of(floor, slot)['id']}/swaps")

    def test_the_nearest_comes_first_with_its_reason(self, coach, floor) -> None:
        found = self.swaps(coach, floor)
        assert found
        region = exercise(line_of(floor)["exercise_id"]).region
        assert exercise(found[0]["exercise_id"]).region == region
        assert all(x["reason"] for x in found)

    def test_its_sets_stand_in_for_those_that_are_left(self, coach, floor) -> None:
        done(coach, floor, "A1", 1)
        choice = self.swaps(coach, floor)[0]
        after = sent(coach, floor, f"lines/{line_of(floor)['id']}/swap", {"exercise_id": choice["exercise_id"]})
        new = next(x for x in after["lines"] if x["exercise_id"] == choice["exercise_id"])
        left = sum(1 for s in line_of(floor)["sets"] if s["kind"] == "work") - 1
        assert sum(1 for s in new["sets"] if s["kind"] == "work") == left
        assert line_of(after)["ended"]
        assert new["reason"].startswith("in place of")
        _, came = walked(coach, after)
        assert [x for x in came if x[0] == new["slot"] and x[1] == "work"] == [(new["slot"], "work", n + 1) for n in range(left)]
        assert not [x for x in came if x[0] == "A1"]

    def test_undo_puts_the_lift_back(self, coach, floor) -> None:
        choice = self.swaps(coach, floor)[0]
        sent(coach, floor, f"lines/{line_of(floor)['id']}/swap", {"exercise_id": choice["exercise_id"]})
        after = undone(coach, floor)
        assert after["current"] == floor["current"]
        assert not line_of(after)["ended"]
        assert next(x for x in after["lines"] if x["exercise_id"] == choice["exercise_id"])["ended"]

    def test_no_kilograms_of_another_lift_go_along(self, coach, floor) -> None:
        from jarvok.core.floor.swapped import same_again
        from jarvok.core.loading.shorthand import parse, write

        old, other = exercise("trap_bar_deadlift"), exercise("goblet_squat")
        assert write(same_again(parse("3x5 @ 140 kg"), old, other, 2, 60)) == "2 × 5, 2 in reserve"
        assert write(same_again(parse("3x5 @ 80 %"), old, other, 3, 60)) == "3 × 5 @ 80 %"
        assert write(same_again(parse("3x5 @ 80 %"), old, other, 3, None)) == "3 × 5, 2 in reserve"

    def test_what_does_not_fit_is_refused_by_name(self, coach, floor) -> None:
        answer = sent(coach, floor, f"lines/{line_of(floor)['id']}/swap", {"exercise_id": "cable_row"}, 422)
        assert "cannot take its place" in answer["title"]
