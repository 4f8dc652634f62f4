"""The room: arrival, the day's plan, racks, lanes, clocks, links, sensors and trials, over the API."""

from __future__ import annotations

import json
import uuid
from collections import Counter
from collections.abc import Iterable
from datetime import UTC, date, datetime, timedelta
from typing import Any

import numpy as np
import pytest
from django.test import Client

from jarvok.app import clock
from jarvok.app.api.room import live as live_views
from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.facts.floor.models import AdviceRecord, Rep, SetRecord, TrainingSession
from jarvok.app.facts.people.models import Link
from jarvok.app.facts.room.models import Attendance, DayWord, Gathering, OwnDefault, Reading, Sensor, Trial
from jarvok.app.room import links
from jarvok.app.room import paired as paired_sensors
from jarvok.core.exercises import Pattern
from jarvok.core.library.exercises import exercise
from jarvok.core.sensors.simulated import mat_messages
from jarvok.core.sensors.stream import write_samples
from jarvok.core.sensors.trace import simulate_set

pytestmark = pytest.mark.django_db


@pytest.fixture
def room(coach, athlete, season):
    """The squad's room on the day of a session."""
    week = coach.get(f"athletes/{athlete.pk}/week")["week"]
    day = next(d["day"] for d in week["days"] if d["sheet"] and not d["is_past"])
    return coach.ok("POST", "room", {"squad_id": athlete.squad_id, "day": day})


def person(room, athlete):
    return next(p for p in room["people"] if p["athlete_id"] == athlete.pk)


def words(plates: Iterable[float]) -> list[str]:
    return [f"{p:g}" for p in sorted(plates, reverse=True)]


def key() -> dict[str, str]:
    return {"HTTP_IDEMPOTENCY_KEY": uuid.uuid4().hex}


class TestArrival:
    def test_the_room_is_opened_once_with_everybody_of_the_squad(self, coach, athlete, room) -> None:
        again = coach.ok("POST", "room", {"squad_id": athlete.squad_id, "day": room["day"]})
        assert again["id"] == room["id"]
        assert Attendance.objects.count() == athlete.squad.athletes.count()
        assert person(room, athlete)["session"]["state"] == "planned"

    def test_one_tap_says_who_is_here(self, coach, athlete, room) -> None:
        after = coach.ok("POST", f"room/{room['id']}/here", {"athlete_ids": [athlete.pk], "is_here": True})
        assert person(after, athlete)["is_here"]

    def test_answers_suggest_a_plan_with_reasons_and_working(self, coach, athlete, room) -> None:
        said = {"sleep": 2, "soreness": 1, "stress": 3, "energy": 2,
                "sport": [{"kind": "match", "minutes": 60, "srpe": 9, "hours_ago": 19}]}  # fmt: skip
        after = coach.ok("POST", f"room/{room['id']}/answers/{athlete.pk}", said)
        suggestion = person(after, athlete)["suggestion"]
        assert suggestion["plan"] == "C"
        assert any("match 19 h ago" in r for r in suggestion["reasons"])
        assert any("weight 1.5" in i["text"] for i in suggestion["working"]["inputs"])
        assert person(after, athlete)["is_here"], "who answers is here"

    def test_an_impossible_answer_is_refused_in_words(self, coach, athlete, room) -> None:
        refused = coach.send("POST", f"room/{room['id']}/answers/{athlete.pk}", {"sleep": 7})
        assert refused.status_code == 422
        assert refused.json()["accepted"] == "1 to 5 are accepted, 5 the best."

    def test_plan_b_cuts_a_third_and_the_sheet_stays_as_written(self, coach, athlete, room) -> None:
        key_of = person(room, athlete)["session"]["key"]
        path = f"athletes/{athlete.pk}/sessions/{room['day']}/{key_of}"
        before = coach.get(path)["lines"]
        coach.ok("POST", f"room/{room['id']}/word", {"athlete_id": athlete.pk, "plan": "B", "reason": "hard week"})
        coach.ok("POST", f"room/{room['id']}/here", {"athlete_ids": [athlete.pk], "is_here": True})
        begun = coach.ok("POST", f"room/{room['id']}/begin", {})
        assert begun["began"] == [athlete.name]
        session = TrainingSession.objects.get(athlete=athlete)
        assert (session.plan, session.plan_reason) == ("B", "hard week")
        for line in session.lines.all():
            written = next(x for x in before if x["slot"] == line.slot)["sets"]
            kept = max(1, len(written) - int(len(written) * 0.33 + 0.5))
            assert len(line.planned) == kept
            assert (len(line.as_written) == len(written)) == (kept < len(written))
        assert [len(x["sets"]) for x in coach.get(path)["lines"]] == [len(x["sets"]) for x in before]
        assert DayWord.objects.get().suggested == "A"

    def test_an_easy_day_can_be_finished_and_looked_back_on(self, coach, athlete, room) -> None:
        coach.ok("POST", f"room/{room['id']}/word", {"athlete_id": athlete.pk, "plan": "C"})
        coach.ok("POST", f"room/{room['id']}/begin", {"athlete_ids": [athlete.pk]})
        session = TrainingSession.objects.get(athlete=athlete)
        coach.ok("POST", f"floor/sessions/{session.pk}/finish", {"srpe": 2, "minutes": 30})
        review = coach.get(f"floor/sessions/{session.pk}/review")
        assert any(x["planned_sets"] == 0 for x in review["lines"]), "what was left out is no missed set"
        assert coach.get(f"room/{room['id']}/racks")["lanes"]

    def test_pain_takes_the_pattern_out_whatever_the_plan(self, coach, athlete, room) -> None:
        after = coach.ok("POST", f"room/{room['id']}/answers/{athlete.pk}", {"pain": ["knee"]})
        assert "licensed professional" in person(after, athlete)["suggestion"]["referral"]
        coach.ok("POST", f"room/{room['id']}/begin", {})
        out = {x.exercise_id for x in TrainingSession.objects.get(athlete=athlete).lines.filter(left_out=True)}
        assert out
        assert {exercise(e).pattern for e in out} <= {"squat", "single_leg", "jump", "run", "classic", "hinge"}
        assert "trap_bar_deadlift" in out, "a pull from the floor bends the knee too"

    def test_a_changed_word_changes_a_session_without_logged_work_only(self, coach, athlete, room) -> None:
        coach.ok("POST", f"room/{room['id']}/begin", {"athlete_ids": [athlete.pk]})
        session = TrainingSession.objects.get(athlete=athlete)
        coach.ok("POST", f"room/{room['id']}/word", {"athlete_id": athlete.pk, "plan": "C"})
        floor = coach.get(f"floor/sessions/{session.pk}")
        assert floor["plan"] == "C"
        loads = [s["load_kg"] for x in floor["lines"] for s in x["sets"] if s["load_kg"] and s["kind"] == "work"]
        line = next(x for x in floor["lines"] if x["sets"] and x["sets"][-1]["load_kg"])
        sent = {"line_id": line["id"], "kind": "work", "number": 1, "load_kg": line["sets"][-1]["load_kg"], "reps": 3}
        coach.ok("POST", f"floor/sessions/{session.pk}/sets", sent)
        refused = coach.send("POST", f"room/{room['id']}/word", {"athlete_id": athlete.pk, "plan": "A"})
        assert refused.status_code == 409
        assert "logged already" in refused.json()["title"]
        assert DayWord.objects.count() == 1, "a refused word leaves nothing behind"
        assert loads

    def test_jumps_are_held_against_the_athletes_own_days(self, coach, athlete, room) -> None:
        day = date.fromisoformat(room["day"])
        MarkRecord.objects.bulk_create(
            MarkRecord(athlete=athlete, exercise_id="countermovement_jump", kind="jump", day=day - timedelta(days=3 + i),
                       load_kg=0, reps=1, measures={"height_cm": 40 + 0.4 * (i % 3)}) for i in range(6)
        )  # fmt: skip
        usual = coach.ok("POST", f"room/{room['id']}/answers/{athlete.pk}", {"sleep": 5, "jumps_cm": [40.2]})
        low = coach.ok("POST", f"room/{room['id']}/answers/{athlete.pk}", {"sleep": 5, "jumps_cm": [36.0]})
        assert person(usual, athlete)["suggestion"]["points"] == 100
        assert person(low, athlete)["suggestion"]["points"] == 85
        assert any("jump 36 cm" in r for r in person(low, athlete)["suggestion"]["reasons"])

    def test_an_unknown_athlete_or_plan_is_refused(self, coach, athlete, room) -> None:
        for path, body in (
            ("here", {"athlete_ids": [9999], "is_here": True}),
            ("word", {"athlete_id": athlete.pk, "plan": "D"}),
            ("word", {"athlete_id": 9999, "plan": "A"}),
            ("answers/9999", {}),
        ):
            assert coach.send("POST", f"room/{room['id']}/{path}", body).status_code == 422


class TestLinks:
    def test_the_athletes_link_shows_the_questions_and_nothing_else(self, coach, athlete, room) -> None:
        link = coach.ok("POST", f"room/{room['id']}/ready-link/{athlete.pk}")
        token = link["path"].removeprefix("/ready/")
        stranger = Client()
        shown = stranger.get(f"/api/ready/{token}").json()
        assert set(shown) == {"name", "squad", "day", "questions", "areas", "said", "open_pain"}
        sent = stranger.post(f"/api/ready/{token}", json.dumps({"sleep": 4}), content_type="application/json", **key())
        assert sent.status_code == 200
        assert person(coach.get(f"room/{room['id']}"), athlete)["by_athlete"]
        assert stranger.get(f"/api/room/{room['id']}").status_code == 401

    def test_an_expired_or_made_up_link_is_over(self, coach, athlete, room) -> None:
        token = coach.ok("POST", f"room/{room['id']}/ready-link/{athlete.pk}")["path"].removeprefix("/ready/")
        link = Link.objects.get()
        assert timedelta(hours=3.9) < link.until - link.made_at <= timedelta(hours=4)
        Link.objects.update(until=clock.now() - timedelta(seconds=1))
        late = Client().get(f"/api/ready/{token}")
        assert late.status_code == 422
        assert late.json()["title"].startswith("This link is over")
        assert Client().get("/api/ready/made-up").status_code == 422

    @pytest.mark.parametrize(("rack", "status"), [(0, 422), (1, 200), (4, 200), (5, 422), (10**20, 422)])
    def test_a_link_is_made_for_a_rack_that_is_there(self, coach, room, rack: int, status: int) -> None:
        coach.ok("POST", f"room/{room['id']}/racks", {"racks": 4, "goal": "strength"})
        answer = coach.send("POST", f"room/{room['id']}/racks/{rack}/link")
        assert answer.status_code == status
        assert status == 200 or answer.json()["accepted"] == "1 to 4."

    def test_a_racks_link_opens_its_own_sessions_only(self, coach, athlete, room, squad) -> None:
        other = Athlete.objects.create(squad=squad, name="Rack Two", training_age_years=3)
        coach.ok("POST", "room", {"squad_id": squad.pk, "day": room["day"]})
        coach.ok("POST", f"room/{room['id']}/begin", {"athlete_ids": [athlete.pk]})
        mine = TrainingSession.objects.get(athlete=athlete)
        day = date.fromisoformat(room["day"])
        theirs = TrainingSession.objects.create(athlete=other, day=day, key="A", theme="x", started_at=mine.started_at)
        coach.ok("POST", f"room/{room['id']}/put", {"athlete_id": athlete.pk, "rack": 1})
        coach.ok("POST", f"room/{room['id']}/put", {"athlete_id": other.pk, "rack": 2})
        token = coach.ok("POST", f"room/{room['id']}/racks/1/link")["path"].removeprefix("/rack/")
        tablet = Client(headers={links.HEADER: token})
        assert tablet.get(f"/api/room/{room['id']}/racks/1").status_code == 200
        assert tablet.get(f"/api/floor/sessions/{mine.pk}").status_code == 200
        line = mine.lines.filter(is_main=True).first()
        for path, body, expected in (
            (f"lines/{line.pk}/instead", {"exercise_id": "hip_thrust"}, 422),  # let in, and refused for what it asks
            (f"lines/{line.pk}/stop", {"reason": "time"}, 200),
            ("undo", {}, 200),
            ("simulate", {"line_id": line.pk, "kind": "work", "number": 1}, 401),
            ("cancel", {}, 401),
        ):
            url = f"/api/floor/sessions/{mine.pk}/{path}"
            answer = tablet.post(url, json.dumps(body), content_type="application/json", **key())
            assert answer.status_code == expected, (path, answer.content)
        for shut in (f"floor/sessions/{theirs.pk}", f"room/{room['id']}/racks/2", f"room/{room['id']}", "athletes", "today"):
            assert tablet.get(f"/api/{shut}").status_code == 401, shut
        assert (
            tablet.post(f"/api/floor/sessions/{mine.pk}/finish", "{}", content_type="application/json", **key()).status_code
            == 401
        )

    def test_a_racks_link_hears_of_its_own_rack_only(self, coach, athlete, room, squad) -> None:
        other = Athlete.objects.create(squad=squad, name="Rack Two", training_age_years=3)
        coach.ok("POST", "room", {"squad_id": squad.pk, "day": room["day"]})
        coach.ok("POST", f"room/{room['id']}/begin", {"athlete_ids": [athlete.pk]})
        mine = TrainingSession.objects.get(athlete=athlete)
        TrainingSession.objects.create(
            athlete=other, day=date.fromisoformat(room["day"]), key="A", theme="x", started_at=mine.started_at
        )
        coach.ok("POST", f"room/{room['id']}/put", {"athlete_id": athlete.pk, "rack": 1})
        coach.ok("POST", f"room/{room['id']}/put", {"athlete_id": other.pk, "rack": 2})
        gathering = Gathering.objects.get()
        assert len(live_views._who(gathering, None)[0]) == 2
        assert live_views._who(gathering, 1)[0] == {mine.pk}
        assert live_views._who(gathering, 1)[1] == {mine.pk, -gathering.pk}


class TestRacks:
    @pytest.fixture
    def running(self, coach, athlete, room, squad):
        """Three of the squad with sessions, at one rack."""
        for i in range(2):
            mate = Athlete.objects.create(squad=squad, name=f"Mate {i}", training_age_years=4, height_cm=170 + 12 * i)
            for goal in athlete.entered.all():
                goal.pk = None
                goal.athlete = mate
                goal.save()
            MarkRecord.objects.create(
                athlete=mate, exercise_id="back_squat", kind="one_rm", day=date(2026, 11, 10), load_kg=90 + 20 * i, reps=1
            )
        coach.ok("POST", "room", {"squad_id": squad.pk, "day": room["day"]})
        for p in squad.athletes.all():
            coach.ok("POST", f"room/{room['id']}/here", {"athlete_ids": [p.pk], "is_here": True})
        coach.ok("POST", f"room/{room['id']}/begin", {})
        coach.ok("POST", f"room/{room['id']}/racks", {"racks": 1, "goal": "strength", "place": True})
        return room["id"]

    def test_everybody_is_placed_and_somebody_is_up(self, coach, running) -> None:
        lane = coach.get(f"room/{running}/racks")["lanes"][0]
        assert len(lane["turns"]) == 3
        assert sum(t["is_up"] for t in lane["turns"]) == 1
        assert lane["up"]["athlete_name"] == next(t["name"] for t in lane["turns"] if t["is_up"])
        assert "lifters rest 110 s, too short" in lane["word"]

    def test_the_turn_goes_round_and_a_call_comes_first(self, coach, running) -> None:
        seen = []
        for _ in range(3):
            up = coach.get(f"room/{running}/racks")["lanes"][0]["up"]
            seen.append(up["athlete_name"])
            current = up["current"]
            item = next(s for x in up["lines"] if x["id"] == current["line_id"] for s in x["sets"]
                        if s["kind"] == current["kind"] and s["number"] == current["number"])  # fmt: skip
            body = {**current, "load_kg": item["load_kg"], "reps": item["reps"] or 1}
            coach.ok("POST", f"floor/sessions/{up['id']}/sets", body)
        assert len(set(seen)) == 3, "everybody once before anybody twice"
        lane = coach.get(f"room/{running}/racks")["lanes"][0]
        called = next(t for t in lane["turns"] if not t["is_up"])
        after = coach.ok("POST", f"room/{running}/call", {"athlete_id": called["athlete_id"]})
        assert after["lanes"][0]["up"]["athlete_name"] == called["name"]

    def test_plates_are_counted_from_what_the_last_one_left_on_the_bar(self, coach, running) -> None:
        lane = coach.get(f"room/{running}/racks")["lanes"][0]
        for _ in range(40):  # on to a loaded bar
            up = lane["up"]
            current = up["current"]
            line = next(x for x in up["lines"] if x["id"] == current["line_id"])
            item = next(s for s in line["sets"] if s["kind"] == current["kind"] and s["number"] == current["number"])
            mine = next(t for t in lane["turns"] if t["is_up"])
            if item["load_kg"] and item["per_side_kg"]:
                break
            coach.ok(
                "POST", f"floor/sessions/{up['id']}/sets", {**current, "load_kg": item["load_kg"], "reps": item["reps"] or 1}
            )
            lane = coach.get(f"room/{running}/racks")["lanes"][0]
        assert mine["change"].startswith("on "), "the bar was empty"
        assert "off" not in mine["change"]
        coach.ok("POST", f"floor/sessions/{up['id']}/sets", {**current, "load_kg": item["load_kg"], "reps": item["reps"] or 1})
        assert SetRecord.objects.latest("pk").rack == lane["rack"]
        coach.ok("POST", f"room/{running}/put", {"athlete_id": mine["athlete_id"], "rack": None})
        lane = coach.get(f"room/{running}/racks")["lanes"][0]
        assert mine["athlete_id"] not in {t["athlete_id"] for t in lane["turns"]}
        first = lane["turns"][0]
        left = Counter(item["per_side_kg"])
        wanted = Counter(first["per_side_kg"])
        said = [f"on {' + '.join(words((wanted - left).elements()))}"] if wanted - left else []
        said += [f"off {' + '.join(words((left - wanted).elements()))}"] if left - wanted else []
        assert first["change"] == (", ".join(said) + " a side" if said else "no plate change")
        assert "spots" not in first["help"], "nobody spots a pull"

    def test_lanes_take_a_bounded_number_of_queries(self, coach, running, django_assert_max_num_queries) -> None:
        with django_assert_max_num_queries(27):
            coach.get(f"room/{running}/racks")

    def test_a_value_of_the_settings_reaches_the_lanes(self, coach, running) -> None:
        coach.ok("PUT", "settings/rules/floor.set_s", {"value": 60})
        assert "lifters rest 180 s: right" in coach.get(f"room/{running}/racks")["lanes"][0]["word"]

    def test_racks_that_are_not_there_are_refused(self, coach, athlete, running) -> None:
        assert coach.send("POST", f"room/{running}/racks", {"racks": 17, "goal": "strength"}).json()["where"] == "racks"
        assert coach.send("POST", f"room/{running}/racks", {"racks": 2, "goal": "fun"}).json()["where"] == "goal"
        assert coach.send("POST", f"room/{running}/put", {"athlete_id": athlete.pk, "rack": 5}).json()["where"] == "rack"

    def test_a_paired_bar_sensor_measures_whoever_is_up(self, coach, running, athlete) -> None:
        coach.ok("POST", "sensors", {"name": "Bar one", "sort": "bar", "rack": 1})
        sensor = Sensor.objects.get()
        path = f"/api/sensors/{sensor.token}/messages"
        lane = coach.get(f"room/{running}/racks")["lanes"][0]
        lifter = next(t for t in lane["turns"] if not t["is_over"])
        session = TrainingSession.objects.get(pk=lifter["session_id"])
        line = next(x for x in session.lines.all() if exercise(x.exercise_id).motion and x.ramp)
        for earlier in session.lines.filter(order__lt=line.order):  # come to the bar
            for number in range(1, len(earlier.planned) + 1):
                coach.ok("POST", f"floor/sessions/{session.pk}/sets",
                         {"line_id": earlier.pk, "kind": "work", "number": number, "reps": 3})  # fmt: skip
        coach.ok("POST", f"room/{running}/call", {"athlete_id": session.athlete_id})
        lift = exercise(line.exercise_id)
        trace = simulate_set(Pattern.SQUAT, [0.9, 0.88, 0.86], lift.simulated_range_m, 100, 0.001, np.random.default_rng(3))
        samples = [(n, t, x) for n, (t, x) in enumerate(trace.samples())]
        for i in range(0, len(samples), 50):
            answer = Client().post(path, write_samples(samples[i : i + 50]), content_type="application/x-ndjson").json()
            assert answer["accepted"], answer
        Client().delete(path)
        reps = Rep.objects.filter(line=line, kind="ramp", set_number=1)
        # what a phase of half a second costs the filter: up to 6 %
        assert [r.mean_mps for r in reps] == pytest.approx([0.9, 0.87, 0.85], abs=0.06)
        assert all(r.line.session_id == session.pk for r in reps)

    def test_a_paired_mat_ends_the_jumps_when_they_drop(self, coach, running) -> None:
        coach.ok("POST", "sensors", {"name": "Mat", "sort": "mat", "rack": 1})
        sensor = Sensor.objects.get()
        lane = coach.get(f"room/{running}/racks")["lanes"][0]
        session = TrainingSession.objects.get(pk=lane["turns"][0]["session_id"])
        line = session.lines.first()
        line.exercise_id, line.ramp = "countermovement_jump", []
        line.planned = [{**line.planned[0], "load_kg": None, "reps": 3}] * 3
        line.save()
        session.lines.exclude(pk=line.pk).delete()
        coach.ok("POST", f"room/{running}/call", {"athlete_id": session.athlete_id})
        rows = mat_messages([36, 35.5, 31], 0.0, np.random.default_rng(1))
        body = "".join(json.dumps({"n": n, "t": t, "down": v}) + "\n" for n, t, v in rows)
        answer = Client().post(f"/api/sensors/{sensor.token}/messages", body, content_type="application/x-ndjson").json()
        assert answer["found"] == 3
        floor = coach.get(f"floor/sessions/{session.pk}")
        item = floor["lines"][0]["sets"][0]
        assert [round(j["height_cm"]) for j in item["jumps"]] == pytest.approx([36, 36, 31], abs=1)
        assert item["jumps_off"]
        assert "end the set" in item["jump_word"]
        assert Reading.objects.filter(line=line).count() == 3

    def test_a_stranger_sensor_and_a_bad_body_are_refused(self, coach, running) -> None:
        assert Client().post("/api/sensors/none/messages", "{}", content_type="text/plain").status_code == 404
        coach.ok("POST", "sensors", {"name": "Gates", "sort": "gates"})
        path = f"/api/sensors/{Sensor.objects.get().token}/messages"
        bad = Client().post(path, "x\n", content_type="text/plain")
        assert bad.status_code == 422
        assert "gate" in bad.json()["accepted"]
        assert coach.send("POST", "sensors", {"name": "", "sort": "bar"}).json()["where"] == "name"
        assert coach.send("POST", "sensors", {"name": "x", "sort": "scale"}).json()["where"] == "sort"
        assert coach.ok("DELETE", f"sensors/{Sensor.objects.get().pk}")["sensors"] == []
        paired_sensors.forget("none")


class TestClocks:
    def test_a_clock_is_the_same_for_everybody_and_is_paused(self, coach, room) -> None:
        path = f"room/{room['id']}/clocks"
        first = coach.ok("POST", path, {"kind": "every", "figures": {"every_s": 90, "rounds": 4}})["room_clock"]
        assert first["seconds"] == 10 + 4 * 90
        paused = coach.ok("POST", f"{path}/{first['id']}/pause")["room_clock"]
        assert paused["paused_ms"] >= paused["started_ms"]
        going = coach.ok("POST", f"{path}/{first['id']}/go")["room_clock"]
        assert going["paused_ms"] is None
        assert going["paused_s"] > 0
        assert coach.ok("POST", f"{path}/{first['id']}/stop")["room_clock"] is None
        assert coach.send("POST", f"{path}/{first['id']}/pause").status_code == 409

    def test_a_new_clock_takes_the_place_of_the_one_before(self, coach, room) -> None:
        path = f"room/{room['id']}/clocks"
        first = coach.ok("POST", path, {"kind": "rest"})["room_clock"]
        second = coach.ok("POST", path, {"kind": "amrap"})["room_clock"]
        assert first["id"] != second["id"]
        assert Gathering.objects.get().clocks.filter(stopped_at__isnull=True).count() == 1

    @pytest.mark.parametrize(("body", "where"), [
        ({"kind": "sun"}, "kind"), ({"kind": "every", "figures": {"every_s": 5}}, "every_s"),
        ({"kind": "rest", "figures": {"rounds": 3}}, "figures"), ({"kind": "rest", "rack": 7}, "rack"),
    ])  # fmt: skip
    def test_a_clock_that_cannot_be_is_refused(self, coach, room, body, where: str) -> None:
        assert coach.send("POST", f"room/{room['id']}/clocks", body).json()["where"] == where


class TestClockOfARack:
    def test_the_tablet_at_a_rack_starts_and_stops_its_own_alone(self, coach, room) -> None:
        coach.ok("POST", f"room/{room['id']}/racks", {"racks": 2, "goal": "strength"})
        link = coach.ok("POST", f"room/{room['id']}/racks/1/link", {})["path"].removeprefix("/rack/")

        def tablet(path: str, body: object) -> Any:
            headers = {"X-Rack-Link": link, "Idempotency-Key": uuid.uuid4().hex}
            return Client(headers=headers).post(f"/api/room/{room['id']}/racks/{path}", body, content_type="application/json")

        started = tablet("1/clock", {"kind": "every", "figures": {"every_s": 90, "rounds": 4}})
        assert started.status_code == 200, started.content
        (lane,) = started.json()["lanes"]
        assert (lane["rack"], lane["clock"]["seconds"]) == (1, 10 + 4 * 90)
        assert tablet("2/clock", {"kind": "rest"}).status_code == 401
        other = coach.ok("POST", f"room/{room['id']}/racks/2/clock", {"kind": "rest"})
        assert len(other["lanes"]) == 2, "a person sees every rack"
        theirs = other["lanes"][1]["clock"]["id"]
        assert tablet(f"1/clock/{theirs}/stop", {}).status_code == 422
        assert tablet(f"2/clock/{theirs}/stop", {}).status_code == 401
        assert tablet(f"1/clock/{lane['clock']['id']}/pause", {}).json()["lanes"][0]["clock"]["paused_ms"]
        assert tablet(f"1/clock/{lane['clock']['id']}/stop", {}).json()["lanes"][0]["clock"] is None


class TestTwoTablets:
    def test_a_correction_says_what_was_seen_and_never_overwrites_a_newer_one(self, coach, floor) -> None:
        line = next(x for x in floor["lines"] if x["slot"] == "A1")
        base = {"line_id": line["id"], "kind": "work", "number": 1}
        path = f"floor/sessions/{floor['id']}/sets"
        logged = coach.ok("POST", path, {**base, "load_kg": 90, "reps": 5})

        def done(floor):
            return next(s for x in floor["lines"] if x["slot"] == "A1" for s in x["sets"] if s["kind"] == "work")["done"]

        seen = done(logged)["id"]
        first = coach.ok("POST", f"{path}/correct", {**base, "load_kg": 90, "reps": 4, "seen_id": seen})
        assert done(first)["reps"] == 4
        second = coach.send("POST", f"{path}/correct", {**base, "load_kg": 90, "reps": 3, "seen_id": seen})
        assert second.status_code == 409
        assert "90 kg × 4. Yours was not stored" in second.json()["title"]
        assert SetRecord.objects.filter(taken_back_at__isnull=True).count() == 1
        assert SetRecord.objects.count() == 2, "the first word stays in the history"
        assert AdviceRecord.objects.filter(taken_back_at__isnull=True).count() == 1

    def test_sides_are_kept_and_the_fewer_count(self, coach, floor) -> None:
        line = next(x for x in floor["lines"] if x["slot"] == "A1")
        body = {"line_id": line["id"], "kind": "work", "number": 1, "load_kg": 60, "reps": 6, "left_reps": 6, "right_reps": 4}
        coach.ok("POST", f"floor/sessions/{floor['id']}/sets", body)
        record = SetRecord.objects.get()
        assert (record.reps, record.left_reps, record.right_reps) == (4, 6, 4)


class TestTrials:
    def start(self, coach, athlete, **body):
        return coach.ok("POST", f"athletes/{athlete.pk}/trials", body)

    def test_a_ladder_goes_up_confirms_a_near_miss_and_ends(self, coach, athlete) -> None:
        t = self.start(coach, athlete, kind="ladder", exercise_id="back_squat", target_mps=0.6)
        true_kg, slope = 88.0, -0.0105
        for n in range(1, 20):
            if t["is_over"]:
                break
            speed = round(0.6 + slope * (t["next_load"] - true_kg), 3)
            t = coach.ok("POST", f"trials/{t['id']}/tries", {"number": n, "load_kg": t["next_load"], "velocity_mps": speed})
        assert t["is_over"]
        assert t["kept_words"] == "87.5 kg"
        assert t["crossing_load"] == pytest.approx(88, abs=0.5)
        assert sum(1 for x in t["tries"] if x["load"] == 90) == 2, "a near miss is tried twice"
        ended = coach.ok("POST", f"trials/{t['id']}/end", {"keep": True})
        assert ended["ended"]
        assert Trial.objects.get().result == 87.5
        again = self.start(coach, athlete, kind="ladder", exercise_id="back_squat", target_mps=0.6)
        assert again["record_words"] == "87.5 kg"

    def test_a_single_is_kept_as_a_technical_max(self, coach, athlete) -> None:
        t = self.start(coach, athlete, kind="single", exercise_id="back_squat")
        for n in range(1, 15):
            if t["is_over"]:
                break
            held = t["next_load"] <= 110
            t = coach.ok("POST", f"trials/{t['id']}/tries", {"number": n, "load_kg": t["next_load"], "form_held": held})
        best_kg = float(t["kept_words"].removesuffix(" kg"))
        assert best_kg <= 110
        coach.ok("POST", f"trials/{t['id']}/end", {"keep": True})
        assert MarkRecord.objects.filter(kind="technical_max", load_kg=best_kg).exists()

    def test_a_rest_test_keeps_the_athletes_own_rest(self, coach, athlete) -> None:
        t = self.start(coach, athlete, kind="rest", exercise_id="countermovement_jump", rests_s=[60, 240, 420])
        assert sorted(t["order"]) == [0, 0, 0, 60, 240, 420]
        better = {0: [40.0, 40.2], 60: [39.5, 39.9], 240: [42.0, 42.4], 420: [41.0, 41.2]}
        for n, rest in enumerate(t["order"], start=1):
            heights = [h + 0.05 * n for h in better[rest]]
            t = coach.ok("POST", f"trials/{t['id']}/tries", {"number": n, "heights_cm": heights})
        assert t["is_over"]
        assert t["kept_words"] == "rest 4:00"
        coach.ok("POST", f"trials/{t['id']}/end", {"keep": True})
        assert OwnDefault.objects.get().value == 240
        assert coach.get(f"athletes/{athlete.pk}/trials")["kept"][0]["words"] == "rest 4:00"

    def test_the_kept_rest_is_the_rest_of_that_athletes_primer_pair(self, coach, athlete, season) -> None:
        week = coach.get(f"athletes/{athlete.pk}/week")["week"]
        day = next(d["day"] for d in week["days"] if not d["sheet"] and not d["is_past"])
        coach.ok("POST", f"athletes/{athlete.pk}/sessions", {"day": day, "theme": "Primer"})
        key_of = next(d["sheet"]["key"] for d in coach.get(f"athletes/{athlete.pk}/week")["week"]["days"] if d["day"] == day)
        path = f"athletes/{athlete.pk}/sessions/{day}/{key_of}"
        style = {"grouping": "pape", "rest_inside_s": 120, "rest_between_s": 180}
        coach.ok("POST", f"{path}/edit", {"op": "add", "exercise_id": "back_squat", "text": "3 × 2 @ 85 %", "block": "A"})
        coach.ok("POST", f"{path}/edit", {"op": "add", "exercise_id": "countermovement_jump", "text": "3 × 3", "block": "A"})
        block = coach.get(path)["lines"][0]["block"]
        coach.ok("POST", f"{path}/edit", {"op": "regroup", "block": block, **style})
        OwnDefault.objects.create(
            athlete=athlete, kind="rest", exercise_id="countermovement_jump", value=330, at=datetime(2026, 11, 1, tzinfo=UTC)
        )
        floor = coach.ok("POST", "floor/sessions", {"athlete_id": athlete.pk, "day": day, "key": key_of})
        assert floor["lines"][0]["rest_s"] == 330

    def test_a_jump_test_finds_the_jumps_worth_doing_and_undoes(self, coach, athlete) -> None:
        t = self.start(coach, athlete, kind="reps", exercise_id="countermovement_jump")
        for n, heights in enumerate(([40, 41, 40.5, 40.8, 37, 36], [40.4, 40.6, 40.9, 40.5, 36.5, 35.5]), start=1):
            t = coach.ok("POST", f"trials/{t['id']}/tries", {"number": n, "heights_cm": heights})
        assert t["kept_reps"] == 4
        back = coach.ok("POST", f"trials/{t['id']}/undo")
        assert len(back["tries"]) == 1
        clash = coach.send("POST", f"trials/{t['id']}/tries", {"number": 1, "heights_cm": [40, 40, 40, 40]})
        assert clash.status_code == 409

    @pytest.mark.parametrize(("body", "where"), [
        ({"kind": "ladder", "exercise_id": "back_squat"}, "target_mps"),
        ({"kind": "ladder", "exercise_id": "back_squat", "target_mps": 9}, "target_mps"),
        ({"kind": "rest", "exercise_id": "back_squat"}, "exercise_id"),
        ({"kind": "reps", "exercise_id": "prone_row"}, "exercise_id"),
        ({"kind": "dance", "exercise_id": "back_squat"}, "kind"),
        ({"kind": "rest", "exercise_id": "countermovement_jump", "rests_s": [5]}, ""),
    ])  # fmt: skip
    def test_a_trial_that_does_not_fit_is_refused(self, coach, athlete, body, where: str) -> None:
        refused = coach.send("POST", f"athletes/{athlete.pk}/trials", body)
        assert refused.status_code == 422
        assert refused.json()["where"] == where or not where


class TestFiles:
    def test_a_recorded_trace_gives_the_set_its_repetitions(self, coach, floor) -> None:
        line = next(x for x in floor["lines"] if x["slot"] == "A1")
        trace = simulate_set(Pattern.SQUAT, [0.7, 0.66, 0.61], 0.55, 100, 0.001, np.random.default_rng(5))
        text = "time;height\n" + "".join(f"{t:.3f};{x:.5f}\n" for t, x in trace.samples())
        taken = coach.ok("POST", f"floor/lines/{line['id']}/trace", {"kind": "work", "number": 1, "text": text})
        assert taken["reps"] == 3
        assert taken["rate_hz"] == 100
        again = coach.send("POST", f"floor/lines/{line['id']}/trace", {"kind": "work", "number": 1, "text": text})
        assert again.status_code == 409

    def test_a_devices_columns_are_guessed_kept_and_used_again(self, coach, athlete) -> None:
        text = "Set;Rep;Load (lb);Mean velocity (m/s)\n" + "\n".join(f"1;{i};{100 + 20 * i};{0.9 - 0.1 * i}" for i in range(5))
        seen = coach.ok("POST", "devices/preview", {"text": text, "device": "wall unit"})
        assert seen["count"] == 5
        assert seen["reps"][0]["load_kg"] == pytest.approx(45.359, abs=0.001)
        sent = {"text": text, "device": "wall unit", "exercise_id": "back_squat", "day": "2026-11-20"}
        assert coach.ok("POST", f"athletes/{athlete.pk}/devices", sent)["words"].startswith("5 loads")
        assert MarkRecord.objects.filter(kind="set_velocity", note="from wall unit").count() == 5
        assert coach.get("sensors")["devices"] == ["wall unit"]
        other = coach.send(
            "POST", f"athletes/{athlete.pk}/devices", {"text": "a;b\n1;2", "device": "x", "exercise_id": "back_squat"}
        )
        assert other.status_code == 422
        assert "mean velocity" in other.json()["title"]
