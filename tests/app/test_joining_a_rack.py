"""Somebody joins a rack late or without a plan, leaves, comes back, and the order there is set by hand."""

from __future__ import annotations

from typing import Any

import pytest
from django.test import Client

from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.facts.floor.models import SetRecord, TrainingSession
from jarvok.app.facts.room.models import Attendance

pytestmark = pytest.mark.django_db


@pytest.fixture
def late(athlete: Athlete) -> Athlete:
    """Somebody of the squad without a season, with one known max."""
    found = Athlete.objects.create(squad=athlete.squad, name="Lone Late", training_age_years=4)
    MarkRecord.objects.create(athlete=found, exercise_id="trap_bar_deadlift", kind="one_rm", day="2026-11-10", load_kg=80, reps=1)
    return found


@pytest.fixture
def room(coach: Any, athlete: Athlete, season: Any, late: Athlete) -> Any:
    week = coach.get(f"athletes/{athlete.pk}/week")["week"]
    day = next(d["day"] for d in week["days"] if d["sheet"] and not d["is_past"])
    return coach.ok("POST", "room", {"squad_id": athlete.squad_id, "day": day})


def join(coach: Any, room: Any, who: Athlete, rack: int = 1, **more: Any) -> Any:
    return coach.ok("POST", f"room/{room['id']}/racks/{rack}/join", {"athlete_id": who.pk, **more})


def lane(lanes: Any, rack: int = 1) -> Any:
    return next(x for x in lanes["lanes"] if x["rack"] == rack)


def names(lanes: Any, rack: int = 1) -> list[str]:
    return [t["name"] for t in lane(lanes, rack)["turns"]]


def lift(coach: Any, lanes: Any, rack: int = 1) -> Any:
    up = lane(lanes, rack)["up"]
    at = up["current"]
    coach.ok("POST", f"floor/sessions/{up['id']}/sets", {**at, "load_kg": 40, "reps": 3})
    return coach.get(f"room/{room_of(lanes)}/racks")


def room_of(lanes: Any) -> int:
    return int(lanes["id"])


class TestJoin:
    def test_one_write_puts_a_late_athlete_at_the_rack_with_a_warm_up(self, coach, athlete, room) -> None:
        lanes = join(coach, room, athlete)
        assert names(lanes) == [athlete.name]
        up = lane(lanes)["up"]
        assert any(s["kind"] == "ramp" for line in up["lines"] for s in line["sets"]), "a ramp of their own"
        row = Attendance.objects.get(athlete=athlete)
        assert (row.is_here, row.rack) == (True, 1)

    def test_who_may_join_is_listed_with_what_they_have_today(self, coach, athlete, room, late) -> None:
        found = coach.get(f"room/{room['id']}/racks/1/joining")
        themes = {p["name"]: p["theme"] for p in found["people"]}
        assert themes[athlete.name]
        assert themes[late.name] == "", "no plan"
        join(coach, room, athlete)
        again = coach.get(f"room/{room['id']}/racks/1/joining")
        assert athlete.name not in [p["name"] for p in again["people"]]
        assert [p["name"] for p in again["partners"]] == [athlete.name]

    def test_without_a_plan_it_says_what_else_there_is(self, coach, room, late) -> None:
        refused = coach.send("POST", f"room/{room['id']}/racks/1/join", {"athlete_id": late.pk})
        assert refused.status_code == 422
        assert "no session planned" in refused.json()["title"]
        assert "partner" in refused.json()["accepted"]
        assert not Attendance.objects.get(athlete=late).is_here, "nothing is half done"

    def test_a_partners_session_is_told_with_ones_own_loads(self, coach, athlete, room, late) -> None:
        theirs = lane(join(coach, room, athlete))["up"]
        lanes = join(coach, room, late, source="partner", from_id=athlete.pk)
        session = TrainingSession.objects.get(athlete=late)
        mine = list(session.lines.values_list("exercise_id", flat=True))
        assert mine == [x["exercise_id"] for x in theirs["lines"]]
        of = {line.exercise_id: line for line in session.lines.all()}
        partner = {x["exercise_id"]: x for x in theirs["lines"]}
        deadlift = of.get("trap_bar_deadlift")
        assert deadlift is not None
        work = [s for s in partner["trap_bar_deadlift"]["sets"] if s["kind"] == "work"]
        assert deadlift.planned[0]["load_kg"] < work[0]["load_kg"], "80 known against 120"
        assert set(names(lanes)) == {athlete.name, late.name}

    def test_a_template_begins_for_anybody(self, coach, athlete, room, late) -> None:
        week = coach.get(f"athletes/{athlete.pk}/week")["week"]
        sheet = next(d["sheet"] for d in week["days"] if d["sheet"])
        body = {"name": "Guest day", "kind": "session", "athlete_id": athlete.pk, "day": sheet["day"], "key": sheet["key"]}
        coach.ok("POST", "templates", body)
        found = coach.get(f"room/{room['id']}/racks/2/joining")["templates"]
        assert [t["name"] for t in found] == ["Guest day"]
        join(coach, room, late, 2, source="template", from_id=found[0]["id"])
        assert TrainingSession.objects.get(athlete=late).lines.exists()

    def test_a_free_session_is_filled_at_the_rack(self, coach, room, late) -> None:
        lanes = join(coach, room, late, source="free")
        session = TrainingSession.objects.get(athlete=late)
        assert lane(lanes)["up"] is None
        added = coach.ok("POST", f"floor/sessions/{session.pk}/lines", {"exercise_id": "trap_bar_deadlift", "text": "3x3 @ 80%"})
        assert added["current"]["kind"] == "ramp"
        work = [s for s in added["lines"][0]["sets"] if s["kind"] == "work"]
        assert [s["reps"] for s in work] == [3, 3, 3]
        assert work[0]["load_kg"] == pytest.approx(64, abs=2.5), "80 % of the one known max"
        more = coach.ok("POST", f"floor/sessions/{session.pk}/lines", {"exercise_id": "pull_up", "text": "2x5"})
        assert [x["slot"] for x in more["lines"]] == ["X1", "X2"]
        while added["current"]:
            added = coach.ok("POST", f"floor/sessions/{session.pk}/sets", {**added["current"], "load_kg": 40, "reps": 3})
        assert SetRecord.objects.filter(line__session=session).count() > 5

    def test_a_running_session_goes_on_at_another_rack(self, coach, athlete, room) -> None:
        first = lane(join(coach, room, athlete))["up"]["id"]
        lanes = join(coach, room, athlete, 2)
        assert lane(lanes, 2)["up"]["id"] == first
        assert lane(lanes, 1)["turns"] == []
        assert TrainingSession.objects.count() == 1

    def test_leaving_is_one_write_and_twice_harmless(self, coach, athlete, room) -> None:
        join(coach, room, athlete)
        for _ in range(2):
            lanes = coach.ok("POST", f"room/{room['id']}/racks/1/leave", {"athlete_id": athlete.pk})
        assert lane(lanes)["turns"] == []
        assert TrainingSession.objects.get().finished_at is None


class TestOrderByHand:
    @pytest.fixture
    def three(self, coach: Any, athlete: Athlete, late: Athlete, room: Any) -> list[Athlete]:
        third = Athlete.objects.create(squad=athlete.squad, name="Third Hand", training_age_years=4)
        coach.ok("POST", "room", {"squad_id": athlete.squad_id, "day": room["day"]})
        join(coach, room, athlete)
        for other in (late, third):
            join(coach, room, other, source="partner", from_id=athlete.pk)
        return [athlete, late, third]

    def test_it_goes_round_in_that_order(self, coach, room, three) -> None:
        wanted = [three[2], three[0], three[1]]
        body = {"athlete_ids": [a.pk for a in wanted]}
        lanes = coach.ok("POST", f"room/{room['id']}/racks/1/order", body)
        assert names(lanes) == [a.name for a in wanted]
        came = []
        for _ in range(4):
            came.append(lane(lanes)["up"]["athlete_name"])
            lanes = lift(coach, lanes)
        assert came == [wanted[i % 3].name for i in range(4)]

    def test_who_is_called_lifts_first_and_then_it_goes_on(self, coach, room, three) -> None:
        coach.ok("POST", f"room/{room['id']}/racks/1/order", {"athlete_ids": [a.pk for a in three]})
        lanes = coach.ok("POST", f"room/{room['id']}/call", {"athlete_id": three[2].pk})
        assert lane(lanes)["up"]["athlete_name"] == three[2].name
        assert lane(lift(coach, lanes))["up"]["athlete_name"] == three[0].name

    def test_who_is_not_there_makes_no_order(self, coach, room, three) -> None:
        refused = coach.send("POST", f"room/{room['id']}/racks/2/order", {"athlete_ids": [three[0].pk]})
        assert refused.status_code == 422


class TestOverTheLink:
    def test_it_joins_and_leaves_at_its_own_rack_only(self, coach, athlete, room) -> None:
        path = coach.ok("POST", f"room/{room['id']}/racks/1/link", {})["path"]
        tablet = Client(headers={"X-Rack-Link": path.removeprefix("/rack/"), "Idempotency-Key": "joining-over-it"})

        def post(to: str) -> int:
            url = f"/api/room/{room['id']}/racks/{to}"
            return tablet.post(url, {"athlete_id": athlete.pk}, content_type="application/json").status_code

        assert post("2/join") == 401
        assert post("1/join") == 200
        assert tablet.get(f"/api/room/{room['id']}/racks/1/joining").status_code == 200
        assert tablet.get(f"/api/room/{room['id']}/racks/2/joining").status_code == 401
