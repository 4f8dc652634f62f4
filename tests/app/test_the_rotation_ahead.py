"""The rotation that a page goes along without a network is the one the server goes along with it."""

from __future__ import annotations

from typing import Any

import pytest
from conftest import Coach
from django.test import Client

from jarvok.app.facts.athletes.models import Athlete, MarkRecord

pytestmark = pytest.mark.django_db
MOST = 60


@pytest.fixture
def lanes(coach: Coach, athlete: Athlete, season: Any) -> Any:
    """Three of different strength at one rack, their sessions begun."""
    week = coach.get(f"athletes/{athlete.pk}/week")["week"]
    day = next(d["day"] for d in week["days"] if d["sheet"] and not d["is_past"])
    room = coach.ok("POST", "room", {"squad_id": athlete.squad_id, "day": day})
    for name, kg in (("Bo Light", 90), ("Cy Heavy", 150)):
        other = Athlete.objects.create(squad=athlete.squad, name=name, training_age_years=5)
        MarkRecord.objects.create(athlete=other, exercise_id="trap_bar_deadlift", kind="one_rm", day="2026-11-10", load_kg=kg)
        coach.ok("POST", f"athletes/{other.pk}/competitions", {"name": "Test Open", "day": "2027-04-03"})
    found: Any = None
    for who in Athlete.objects.all():
        found = coach.ok("POST", f"room/{room['id']}/racks/1/join", {"athlete_id": who.pk})
    return found


def up_now(coach: Coach, room: int) -> tuple[str, dict[str, Any], Any] | None:
    lane = next(x for x in coach.get(f"room/{room}/racks")["lanes"] if x["rack"] == 1)
    if lane["up"] is None:
        return None
    turn = next(t for t in lane["turns"] if t["is_up"])
    return turn["name"], lane["up"]["current"], turn


def as_told(floor: Any, place: dict[str, Any]) -> dict[str, Any]:
    line = next(x for x in floor["lines"] if x["id"] == place["line_id"])
    item = next(s for s in line["sets"] if (s["kind"], s["number"]) == (place["kind"], place["number"]))
    return {**place, "load_kg": item["load_kg"], "reps": item["reps"] or 1, "confirm": True}


def test_every_turn_ahead_comes_up_when_all_is_done_as_told(coach: Coach, lanes: Any) -> None:
    room = lanes["id"]
    ahead = coach.get(f"room/{room}/ahead")
    turns = next(x for x in ahead["lanes"] if x["rack"] == 1)["turns"]
    floors = {f["id"]: f for f in ahead["floors"]}
    assert {t["turn"]["name"] for t in turns[:3]} == {"Ada Test", "Bo Light", "Cy Heavy"}, "they go in turn"
    for n, turn in enumerate(turns[:MOST]):
        now = up_now(coach, room)
        place = {k: turn[k] for k in ("line_id", "kind", "number")}
        assert now is not None
        assert (now[0], now[1]) == (turn["turn"]["name"], place), f"turn {n}"
        shown = ("what", "load_words", "change", "help", "pins", "sets_left")
        assert {k: now[2][k] for k in shown} == {k: turn["turn"][k] for k in shown}, f"turn {n}"
        session = turn["turn"]["session_id"]
        floor = coach.ok("POST", f"floor/sessions/{session}/sets", as_told(floors[session], place))
        said = next((x["advice"] for x in floor["lines"] if x["id"] == place["line_id"]), None)
        if said is not None and not said["outcome"] and said["move"] == "done":
            coach.ok("POST", f"floor/sessions/{session}/advice/{said['id']}", {"accept": False, "load_kg": said["load_kg"]})
    if len(turns) <= MOST:
        assert up_now(coach, room) is None
        assert coach.get(f"room/{room}/ahead")["lanes"][0]["turns"] == []


def test_a_racks_link_reads_its_own_rotation_alone(coach: Coach, lanes: Any) -> None:
    room = lanes["id"]
    link = coach.ok("POST", f"room/{room}/racks/1/link", {})["path"].removeprefix("/rack/")
    tablet = Client(headers={"X-Rack-Link": link})
    assert [x["rack"] for x in tablet.get(f"/api/room/{room}/racks/1/ahead").json()["lanes"]] == [1]
    assert tablet.get(f"/api/room/{room}/racks/2/ahead").status_code in (401, 403)
    assert tablet.get(f"/api/room/{room}/ahead").status_code in (401, 403)
