"""A session not planned for an athlete, at the rack: what is taken out, done short of the limit, refused; guests."""

from __future__ import annotations

from typing import Any

import pytest
from django.test import Client

from jarvok.app.facts.athletes.models import Athlete, MarkRecord, Restriction, Squad
from jarvok.app.facts.floor.models import SessionLine, SetRecord, TrainingSession
from jarvok.core.checks.effort import LIMIT_SHARE, TYPING_ERROR_SHARE

pytestmark = pytest.mark.django_db

GROWN, YOUNG = "2000-01-01", "2011-01-01"


@pytest.fixture
def room(coach: Any, athlete: Athlete) -> Any:
    return coach.ok("POST", "room", {"squad_id": athlete.squad_id})


@pytest.fixture
def guest(coach: Any, athlete: Athlete) -> Athlete:
    """Somebody made five minutes ago, with one known max."""
    found = Athlete.objects.create(squad=athlete.squad, name="Gal Guest", training_age_years=4, birth_date=GROWN)
    MarkRecord.objects.create(
        athlete=found, exercise_id="trap_bar_deadlift", kind="one_rm", day="2026-11-10", load_kg=100, reps=1
    )
    return found


def free(coach: Any, room: Any, who: Athlete, *lines: tuple[str, str]) -> int:
    coach.ok("POST", f"room/{room['id']}/racks/1/join", {"athlete_id": who.pk, "source": "free"})
    session = TrainingSession.objects.get(athlete=who).pk
    for exercise_id, text in lines:
        coach.ok("POST", f"floor/sessions/{session}/lines", {"exercise_id": exercise_id, "text": text})
    return session


def with_a_partner(coach: Any, room: Any, partner: Athlete, who: Athlete, *lines: tuple[str, str]) -> list[SessionLine]:
    """What is told to somebody of a partner's session."""
    free(coach, room, partner, *lines)
    body = {"athlete_id": who.pk, "source": "partner", "from_id": partner.pk}
    coach.ok("POST", f"room/{room['id']}/racks/1/join", body)
    return list(SessionLine.objects.filter(session__athlete=who).order_by("order"))


def restrict(who: Athlete, tag: str) -> None:
    Restriction.objects.create(athlete=who, tag=tag, words="told by the physio", set_by="physio", since="2026-11-01")


class TestAPartnersSession:
    def test_a_restriction_leaves_out_what_it_takes_out_everywhere(self, coach, room, athlete, guest) -> None:
        restrict(guest, "hinge")
        deadlift, bench = with_a_partner(
            coach, room, athlete, guest, ("trap_bar_deadlift", "3x3 @ 80 %"), ("bench_press", "3x5 @ 70 %")
        )
        assert (deadlift.left_out, deadlift.change, deadlift.planned) == (True, "left out: restriction", [])
        assert not bench.left_out

    def test_without_one_nothing_is_left_out(self, coach, room, athlete, guest) -> None:
        (deadlift,) = with_a_partner(coach, room, athlete, guest, ("trap_bar_deadlift", "3x3 @ 80 %"))
        assert not deadlift.left_out
        assert deadlift.planned[0]["load_kg"] == pytest.approx(80, abs=2.5), "80 % of their own 100 kg, the partner has 120"

    @pytest.mark.parametrize(("born", "is_open"), [(GROWN, True), (YOUNG, False)])
    @pytest.mark.parametrize("share", [round(100 * LIMIT_SHARE), round(100 * LIMIT_SHARE) - 1])
    def test_limit_work_is_done_short_of_it_by_a_minor(self, coach, room, athlete, guest, born, is_open, share) -> None:
        Athlete.objects.filter(pk=guest.pk).update(birth_date=born)
        (line,) = with_a_partner(coach, room, athlete, guest, ("trap_bar_deadlift", f"2x1 @ {share} %"))
        is_limit = share >= 100 * LIMIT_SHARE
        if is_open or not is_limit:
            assert line.text == f"2 × 1 @ {share} %"
        else:
            assert line.text == "2 × 5, 2 in reserve"
            assert "under 18" in line.note

    def test_kilograms_on_a_bar_were_the_partners(self, coach, room, athlete, guest) -> None:
        deadlift, carry = with_a_partner(
            coach, room, athlete, guest, ("trap_bar_deadlift", "3x5 @ 100 kg"), ("farmer_carry", "3x20 m @ 24 kg")
        )
        assert deadlift.text == "3 × 5, 2 in reserve"
        assert "24 kg" in carry.text, "what is not a bar is taken as it stands"


class TestALineAddedAtTheRack:
    def add(self, coach: Any, session: int, text: str, exercise_id: str = "trap_bar_deadlift") -> Any:
        return coach.send("POST", f"floor/sessions/{session}/lines", {"exercise_id": exercise_id, "text": text})

    def test_a_slip_of_the_hand_is_refused_with_what_was_typed(self, coach, room, guest) -> None:
        session = free(coach, room, guest)
        most = round(100 * TYPING_ERROR_SHARE)
        refused = self.add(coach, session, f"3x3 @ {most + 5} %")
        assert refused.status_code == 422
        assert refused.json()["title"] == f"{most + 5} % of the max is likely a slip of the hand."
        assert not SessionLine.objects.exists()
        assert self.add(coach, session, "3x1 @ 105 %").status_code == 200

    def test_max_effort_is_not_open_to_a_minor_or_with_a_restriction(self, coach, room, guest) -> None:
        session = free(coach, room, guest)
        assert self.add(coach, session, "1x1 @ 100 %").status_code == 200
        restrict(guest, "overhead")
        refused = self.add(coach, session, "1x1 @ 100 %")
        assert refused.status_code == 422
        assert "an open restriction" in refused.json()["title"]
        assert refused.json()["accepted"] == "Such as 1 × 5, 2 in reserve."
        assert self.add(coach, session, "3x3 @ 85 %").status_code == 200

    def test_undo_takes_an_added_exercise_back_and_it_can_be_added_again(self, coach, room, guest) -> None:
        session = free(coach, room, guest, ("trap_bar_deadlift", "3x3 @ 80 %"))
        after = self.add(coach, session, "2x5", "pull_up").json()
        assert len(after["lines"]) == 2
        back = coach.ok("POST", f"floor/sessions/{session}/undo", {})
        assert [x["slot"] for x in back["lines"]] == ["X1"]
        assert back["current"] == after["current"]
        review = coach.get(f"floor/sessions/{session}/review")
        assert [x["slot"] for x in review["lines"] if not x["done_sets"]] == ["X1"]
        again = self.add(coach, session, "2x6", "pull_up").json()
        assert [x["text"] for x in again["lines"]][1:] == ["2 × 6"]

    def test_sets_that_were_done_are_taken_back_first(self, coach, room, guest) -> None:
        session = free(coach, room, guest, ("pull_up", "2x5"))
        coach.ok("POST", f"floor/sessions/{session}/sets", {**self.coming(coach, session), "reps": 5})
        after = coach.ok("POST", f"floor/sessions/{session}/undo", {})
        assert [x["slot"] for x in after["lines"]] == ["X1"], "the set, not the line"
        assert SetRecord.objects.filter(taken_back_at__isnull=True).count() == 0
        assert coach.ok("POST", f"floor/sessions/{session}/undo", {})["lines"] == []

    def coming(self, coach: Any, session: int) -> Any:
        return coach.get(f"floor/sessions/{session}")["current"]


def test_a_session_outside_the_plan_stands_on_today_and_says_so(coach, room, guest) -> None:
    assert not [p for s in coach.get("today")["shared"] for p in s["people"] if p["athlete_id"] == guest.pk]
    session = free(coach, room, guest)
    (row,) = [s for s in coach.get("today")["shared"] if any(p["athlete_id"] == guest.pk for p in s["people"])]
    (person,) = row["people"]
    assert (person["state"], person["session_id"], person["is_planned"]) == ("started", session, False)
    assert row["words"].endswith("outside the plan")
    assert row["theme"] == "Free session"


class TestWhoWasNotOnTheList:
    """Somebody who came to the squad, or into the hall, after the room was opened."""

    def test_an_athlete_made_just_now_is_in_the_open_room(self, coach, room) -> None:
        body = {"squad": "Test harbour wrestling", "name": "New Just Now", "training_age_years": 1}
        made = coach.ok("POST", "athletes", body)["id"]
        assert "New Just Now" in [p["name"] for p in coach.get(f"room/{room['id']}")["people"]]
        assert "New Just Now" in [p["name"] for p in coach.get(f"room/{room['id']}/racks/1/joining")["people"]]
        coach.ok("POST", f"room/{room['id']}/answers/{made}", {"sleep": 4, "soreness": 4, "stress": 4, "energy": 4})
        coach.ok("POST", f"room/{room['id']}/here", {"athlete_ids": [made], "is_here": True})
        lanes = coach.ok("POST", f"room/{room['id']}/racks/1/join", {"athlete_id": made, "source": "free"})
        assert [t["name"] for t in lanes["lanes"][0]["turns"]] == ["New Just Now"]

    @pytest.fixture
    def stranger(self) -> Athlete:
        other = Squad.objects.create(name="Test handball", sport="handball")
        return Athlete.objects.create(squad=other, name="Stray Ranger", training_age_years=3, birth_date=GROWN)

    def test_a_guest_joins_and_is_one_of_the_room_from_then_on(self, coach, room, athlete, stranger) -> None:
        found = coach.get(f"room/{room['id']}/racks/1/joining")
        assert [(g["name"], g["squad"]) for g in found["guests"]] == [("Stray Ranger", "Test handball")]
        assert "Stray Ranger" not in [p["name"] for p in coach.get(f"room/{room['id']}")["people"]]
        refused = coach.send("POST", f"room/{room['id']}/racks/1/join", {"athlete_id": stranger.pk})
        assert (refused.status_code, refused.json()["where"]) == (422, "source"), "the page asks what they do instead"
        session = free(coach, room, stranger, ("countermovement_jump", "2x3"))
        at = coach.get(f"floor/sessions/{session}")["current"]
        coach.ok("POST", f"floor/sessions/{session}/sets", {**at, "reps": 3, "jumps": [{"height_cm": 41.5}]})
        row = next(p for p in coach.get(f"room/{room['id']}")["people"] if p["name"] == "Stray Ranger")
        assert (row["guest_of"], row["is_here"]) == ("Test handball", True)
        board = coach.ok("POST", f"room/{room['id']}/board", {"key": "height:countermovement_jump"})
        assert [r["name"] for r in board["rows"]] == ["Stray Ranger"]
        assert coach.get(f"room/{room['id']}/racks/2/joining")["guests"] == []

    def test_who_joins_here_has_left_the_rack_of_another_room(self, coach, room, stranger) -> None:
        theirs = coach.ok("POST", "room", {"squad_id": stranger.squad_id})
        free(coach, theirs, stranger)
        coach.ok("POST", f"room/{room['id']}/racks/2/join", {"athlete_id": stranger.pk})
        assert coach.get(f"room/{theirs['id']}/racks")["lanes"][0]["turns"] == []
        assert [t["name"] for t in coach.get(f"room/{room['id']}/racks")["lanes"][1]["turns"]] == ["Stray Ranger"]
        assert TrainingSession.objects.count() == 1, "the running one goes on"

    def test_what_a_guest_left_on_the_bar_is_on_it(self, coach, room, athlete, stranger) -> None:
        session = free(coach, room, stranger, ("bench_press", "3x5"))
        at = coach.get(f"floor/sessions/{session}")["current"]
        coach.ok("POST", f"floor/sessions/{session}/sets", {**at, "load_kg": 60, "reps": 5})
        coach.ok("POST", f"floor/sessions/{session}/stop-here", {})
        coach.ok("POST", f"floor/sessions/{session}/finish", {"srpe": 5})
        assert coach.get(f"room/{room['id']}/racks")["lanes"][0]["word"].startswith("strip the bar: off ")

    def test_a_racks_link_names_nobody_of_another_squad(self, coach, room, stranger) -> None:
        path = coach.ok("POST", f"room/{room['id']}/racks/1/link", {})["path"]
        tablet = Client(headers={"X-Rack-Link": path.removeprefix("/rack/"), "Idempotency-Key": "a-guest-over-it"})
        url = f"/api/room/{room['id']}/racks/1"
        assert tablet.get(f"{url}/joining").json()["guests"] == []
        body = {"athlete_id": stranger.pk, "source": "free"}
        assert tablet.post(f"{url}/join", body, content_type="application/json").status_code == 422
        assert not TrainingSession.objects.exists()

    def test_nobody_is_no_athlete(self, coach, room) -> None:
        assert coach.send("POST", f"room/{room['id']}/racks/1/join", {"athlete_id": 9999, "source": "free"}).status_code == 422
        assert coach.send("POST", f"room/{room['id']}/here", {"athlete_ids": [], "is_here": True}).status_code == 422


def test_one_lift_of_a_complex_is_not_swapped(coach, athlete, sheet) -> None:
    path = f"athletes/{athlete.pk}/sessions/{sheet['day']}/A"
    for exercise_id in ("clean_pull", "front_squat"):
        body = {"op": "add", "exercise_id": exercise_id, "text": "3 × 3 @ 60 kg", "block": "complex"}
        written = coach.ok("POST", f"{path}/edit", body)
    block = next(x for x in written["lines"] if x["exercise_id"] == "front_squat")["block"]
    coach.ok("POST", f"{path}/edit", {"op": "regroup", "block": block, "grouping": "complex"})
    floor = coach.ok("POST", "floor/sessions", {"athlete_id": athlete.pk, "day": sheet["day"], "key": "A"})

    def swaps(exercise_id: str) -> Any:
        line = next(x for x in floor["lines"] if x["exercise_id"] == exercise_id)
        return coach.get(f"floor/sessions/{floor['id']}/lines/{line['id']}/swaps")

    assert swaps("front_squat") == []
    other = next(x["exercise_id"] for x in floor["lines"] if x["slot"] == "A1")
    assert swaps(other) != []


@pytest.mark.parametrize(
    ("body", "title", "accepted"),
    [
        ({"reps": "many"}, "Reps is no whole number.", "A whole number, such as 3."),
        ({"load_kg": "heavy"}, "Load in kg is no number.", "A number, such as 2.5."),
        ({"measures": {"velocity_mps": "fast"}}, "Velocity in m/s is no number.", "A number, such as 2.5."),
        ({"line_id": None}, "Line is no whole number.", "A whole number, such as 3."),
    ],
)
def test_what_cannot_be_read_is_said_in_trade_words(coach, floor, body, title, accepted) -> None:
    answer = coach.send("POST", f"floor/sessions/{floor['id']}/sets", {**floor["current"], "load_kg": 60, "reps": 3, **body})
    assert answer.status_code == 422
    assert (answer.json()["title"], answer.json()["accepted"]) == (title, accepted)


@pytest.mark.parametrize("more", [{"note": "left knee in"}, {"form": "easier"}, {"rir": 1}])
def test_a_word_more_is_no_same_word(coach, floor, more) -> None:
    body = {**floor["current"], "reps": 5, "load_kg": 60}
    for _ in range(2):
        coach.ok("POST", f"floor/sessions/{floor['id']}/sets", body)
    assert coach.send("POST", f"floor/sessions/{floor['id']}/sets", {**body, **more}).status_code == 409, "both are shown"
