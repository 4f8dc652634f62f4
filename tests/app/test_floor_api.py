"""The floor: logging, advice, live streams, and nothing lost or done twice."""

from __future__ import annotations

import asyncio
import re
import uuid
from datetime import date
from typing import Any

import numpy as np
import pytest
from django.db import OperationalError, connection
from django.test import AsyncClient
from django.test.utils import CaptureQueriesContext

from jarvok.app.api.floor import live as live_views
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.floor.models import AdviceRecord, FloorEvent, IdempotentWrite, Rep, SetRecord, TrainingSession
from jarvok.app.facts.people.models import Act
from jarvok.app.floor import streams
from jarvok.app.floor.events import tell
from jarvok.app.floor.lines import read_session
from jarvok.core.exercises import Pattern
from jarvok.core.library.exercises import exercise
from jarvok.core.sensors.stream import write_samples
from jarvok.core.sensors.trace import simulate_set
from jarvok.core.session.roles import OPTIONAL_WORDS
from jarvok.core.velocity.detect import detect_reps

pytestmark = pytest.mark.django_db


def line_of(floor, slot="A1"):
    return next(x for x in floor["lines"] if x["slot"] == slot)


def log(coach, floor, slot="A1", kind="work", number=1, key=None, **body):
    line = line_of(floor, slot)
    item = next(s for s in line["sets"] if s["kind"] == kind and s["number"] == number)
    sent = {"line_id": line["id"], "kind": kind, "number": number, "load_kg": item["load_kg"], "reps": item["reps"], **body}
    return coach.send("POST", f"floor/sessions/{floor['id']}/sets", sent, key)


def test_starting_keeps_what_was_told(coach, athlete, floor, sheet) -> None:
    assert [x["slot"] for x in floor["lines"]] == [x["slot"] for x in sheet["lines"]]
    main = line_of(floor)
    assert [s["kind"] for s in main["sets"]][:4] == ["ramp"] * 4
    assert floor["current"] == {"line_id": line_of(floor, "P1")["id"], "kind": "work", "number": 1}
    athlete.marks.all().delete()  # the max is gone, but what was told stays
    again = coach.get(f"floor/sessions/{floor['id']}")
    assert line_of(again)["sets"] == main["sets"]


def test_starting_twice_is_one_session(coach, athlete, floor, sheet) -> None:
    again = coach.ok("POST", "floor/sessions", {"athlete_id": athlete.pk, "day": sheet["day"], "key": "A"})
    assert again["id"] == floor["id"]
    assert TrainingSession.objects.count() == 1


def test_one_tap_logs_the_set_as_planned_and_advice_follows(coach, floor) -> None:
    after = log(coach, floor).json()
    line = line_of(after)
    done = line["sets"][4]["done"]
    assert {k: done[k] for k in ("load_kg", "reps", "rir", "trouble", "note")} == {
        "load_kg": 90.0, "reps": 5, "rir": None, "trouble": "", "note": ""
    }  # fmt: skip
    assert line["advice"]["move"] == "same"
    assert line["advice"]["working"]["rule"]


def test_the_same_key_does_it_once_and_another_content_is_refused(coach, floor) -> None:
    key = uuid.uuid4().hex
    first, second = (log(coach, floor, key=key) for _ in range(2))
    assert first.status_code == second.status_code == 200
    assert SetRecord.objects.count() == 1
    assert AdviceRecord.objects.count() == 1
    assert log(coach, floor, number=2, key=key).status_code == 409
    assert SetRecord.objects.count() == 1
    assert IdempotentWrite.objects.filter(key=key).count() == 1


def test_a_set_logged_by_somebody_else_is_not_overwritten(coach, floor) -> None:
    log(coach, floor, reps=5)
    refused = log(coach, floor, reps=3)
    assert refused.status_code == 409
    assert "set 1 of A1: 90 kg × 5. Yours was not stored" in refused.json()["title"]


def test_a_failing_write_leaves_nothing_behind(coach, floor) -> None:
    key = uuid.uuid4().hex
    assert log(coach, floor, key=key, reps=-1).status_code == 422
    assert not IdempotentWrite.objects.filter(key=key).exists()
    assert log(coach, floor, key=key).status_code == 200  # the same key may carry the corrected set


@pytest.mark.parametrize(("body", "said"), [
    ({"load_kg": -1}, "cannot be a load"), ({"load_kg": 5000}, "cannot be a load"), ({"reps": 500}, "repetitions cannot be"),
    ({"rir": 20}, "in reserve cannot be"), ({"trouble": "bored"}, "not known"), ({"number": 1, "kind": "warm"}, "Kind"),
])  # fmt: skip
def test_impossible_sets_are_refused_in_words(coach, floor, body, said: str) -> None:
    line = line_of(floor)
    sent = {"line_id": line["id"], "kind": "work", "number": 1, "load_kg": 90, "reps": 5, **body}
    response = coach.send("POST", f"floor/sessions/{floor['id']}/sets", sent)
    assert response.status_code == 422
    assert said in response.json()["title"]
    assert SetRecord.objects.count() == 0


def test_an_improbable_load_asks_once(coach, floor) -> None:
    assert log(coach, floor, load_kg=200).status_code == 428
    assert log(coach, floor, load_kg=200, confirm=True).status_code == 200


def test_advice_is_taken_or_not_and_the_next_set_follows(coach, floor) -> None:
    after = log(coach, floor, rir=0).json()
    advice = line_of(after)["advice"]
    assert advice["move"] == "down"
    path = f"floor/sessions/{floor['id']}/advice/{advice['id']}"
    taken = coach.ok("POST", path, {"accept": True})
    second = line_of(taken)["sets"][5]
    assert second["load_kg"] == advice["load_kg"] < 90
    assert second["load_kg"] == 25 + 2 * sum(second["per_side_kg"])
    assert coach.send("POST", path, {"accept": False, "load_kg": 80}).status_code == 409


def test_the_coach_may_choose_another_load(coach, floor) -> None:
    advice = line_of(log(coach, floor, rir=0).json())["advice"]
    after = coach.ok("POST", f"floor/sessions/{floor['id']}/advice/{advice['id']}", {"accept": False, "load_kg": 92.5})
    assert line_of(after)["sets"][5]["load_kg"] == 92.5
    assert line_of(after)["advice"]["outcome"] == "overridden"


class TestBegun:
    def test_by_mistake_is_cancelled_while_nothing_is_logged(self, coach, athlete, floor, sheet) -> None:
        assert floor["may_cancel"] is True
        gone = coach.ok("POST", f"floor/sessions/{floor['id']}/cancel", {})
        assert (gone["athlete_id"], gone["day"], gone["key"], gone["is_planned"]) == (athlete.pk, sheet["day"], "A", True)
        assert not TrainingSession.objects.exists()
        assert Act.objects.latest("pk").words.endswith("cancelled: begun by mistake")
        assert coach.ok("POST", "floor/sessions", {"athlete_id": athlete.pk, "day": sheet["day"], "key": "A"})["may_cancel"]

    def test_the_reason_stays_in_the_history_and_is_not_endless(self, coach, athlete, floor) -> None:
        assert coach.send("POST", "floor/sessions/999999/cancel", {"reason": "x" * 120}).status_code == 404, "120 are read"
        too_long = coach.send("POST", f"floor/sessions/{floor['id']}/cancel", {"reason": "x" * 121})
        assert (too_long.status_code, too_long.json()["where"]) == (422, "reason")
        assert TrainingSession.objects.exists(), "nothing is taken back without a reason that fits"
        coach.ok("POST", f"floor/sessions/{floor['id']}/cancel", {"reason": " wrong  athlete "})
        assert Act.objects.latest("pk").words.endswith("cancelled: wrong athlete")

    def test_one_outside_the_plan_has_no_sheet_to_go_back_to(self, coach, athlete, floor) -> None:
        session = TrainingSession.objects.get(pk=floor["id"])
        session.key = "X"
        session.save()
        assert coach.ok("POST", f"floor/sessions/{floor['id']}/cancel", {})["is_planned"] is False

    def test_with_sets_it_is_finished_instead(self, coach, floor) -> None:
        assert log(coach, floor).json()["may_cancel"] is False
        assert coach.send("POST", f"floor/sessions/{floor['id']}/cancel", {}).status_code == 409
        coach.ok("POST", f"floor/sessions/{floor['id']}/undo", {})
        assert coach.send("POST", f"floor/sessions/{floor['id']}/cancel", {}).status_code == 409, "what was done has a history"

    def test_another_days_sheet_says_so_and_may_be_todays(self, coach, athlete, season) -> None:
        week = coach.get(f"athletes/{athlete.pk}/week")["week"]
        days = [d for d in week["days"] if d["sheet"] and not d["is_past"]]
        other = next(d["sheet"] for d in days if not d["is_today"])
        assert (other["is_today"], other["may_be_today"]) == (False, True)
        body = {"athlete_id": athlete.pk, "day": other["day"], "key": other["key"], "as_today": True}
        floor = coach.ok("POST", "floor/sessions", body)
        assert floor["day"] == week["today"] if "today" in week else next(d["day"] for d in week["days"] if d["is_today"])
        again = coach.get(f"athletes/{athlete.pk}/week")["week"]
        assert not next(d for d in again["days"] if d["day"] == other["day"])["sheet"], "it lies on today now"

    def test_next_weeks_sheet_keeps_its_day(self, coach, athlete, season) -> None:
        week = coach.get(f"athletes/{athlete.pk}/week?start=2026-12-07")["week"]
        sheet = next(d["sheet"] for d in week["days"] if d["sheet"])
        assert (sheet["is_today"], sheet["may_be_today"]) == (False, False)


def test_a_warm_up_stops_where_the_work_sets_do(coach, athlete, sheet) -> None:
    line = next(x for x in sheet["lines"] if x["slot"] == "A1")
    path = f"athletes/{athlete.pk}/sessions/{sheet['day']}/{sheet['key']}"
    coach.ok("PUT", f"{path}/lines/{line['id']}", {"text": "4 × 3 @ 80 %, stop at 10 % loss"})
    floor = coach.ok("POST", "floor/sessions", {"athlete_id": athlete.pk, "day": sheet["day"], "key": sheet["key"]})
    assert {s["stop_loss_pct"] for s in line_of(floor)["sets"]} == {10}


def test_the_load_of_a_lift_without_a_known_one_is_kept_and_counts(coach, floor) -> None:
    line = next(x for x in floor["lines"] if x["is_loaded"] and all(s["load_kg"] is None for s in x["sets"]))
    body = {"line_id": line["id"], "kind": "work", "number": 1, "load_kg": 24, "reps": 8, "rir": 1.5}
    after = coach.ok("POST", f"floor/sessions/{floor['id']}/sets", body)
    done = next(s for x in after["lines"] if x["id"] == line["id"] for s in x["sets"])["done"]
    assert (done["load_kg"], done["rir"]) == (24, 1.5)


def test_a_lift_is_stopped_by_a_persons_word(coach, floor) -> None:
    log(coach, floor)
    path = f"floor/sessions/{floor['id']}/lines/{line_of(floor)['id']}/stop"
    assert coach.send("POST", path, {"reason": "bored"}).status_code == 422
    after = coach.ok("POST", path, {"reason": "time"})
    assert line_of(after)["ended"] is True
    assert line_of(after)["advice"]["sentence"] == "Trap-bar deadlift: out of time."
    assert after["current"]["line_id"] != line_of(floor)["id"]
    assert coach.send("POST", path, {"reason": "enough"}).status_code == 409


def test_a_lift_is_stopped_before_its_first_set(coach, floor) -> None:
    path = f"floor/sessions/{floor['id']}/lines/{line_of(floor)['id']}/stop"
    assert line_of(coach.ok("POST", path, {"reason": "enough"}))["ended"] is True
    again = coach.ok("POST", f"floor/sessions/{floor['id']}/undo", {})
    assert line_of(again)["ended"] is False, "also without a set of it"
    assert coach.send("POST", f"floor/sessions/{floor['id']}/undo", {}).status_code == 409


def test_undo_takes_the_stop_back_and_leaves_the_set_before_it(coach, floor) -> None:
    log(coach, floor)
    path = f"floor/sessions/{floor['id']}"
    coach.ok("POST", f"{path}/lines/{line_of(floor)['id']}/stop", {"reason": "time"})
    once = coach.ok("POST", f"{path}/undo", {})
    assert line_of(once)["ended"] is False
    assert line_of(once)["sets"][4]["done"] is not None
    coach.ok("POST", f"{path}/lines/{line_of(floor)['id']}/stop", {"reason": "time"})
    log(coach, floor, slot="P1")
    after = coach.ok("POST", f"{path}/undo", {})
    assert line_of(after)["ended"] is True, "the set since then goes first"
    assert line_of(after, "P1")["sets"][0]["done"] is None


def test_undo_takes_the_last_set_and_its_advice_back(coach, floor) -> None:
    log(coach, floor)
    undone = coach.ok("POST", f"floor/sessions/{floor['id']}/undo", {})
    assert line_of(undone)["sets"][4]["done"] is None
    assert line_of(undone)["advice"] is None
    assert SetRecord.objects.get().taken_back_at is not None  # the row stays as history
    assert coach.send("POST", f"floor/sessions/{floor['id']}/undo", {}).status_code == 409
    assert log(coach, floor).status_code == 200


def test_a_finished_session_is_closed(coach, floor) -> None:
    done = coach.ok("POST", f"floor/sessions/{floor['id']}/finish", {"srpe": 7, "minutes": 60})
    assert done["finished"] is True
    assert done["current"] is None
    assert log(coach, floor).status_code == 409
    review = coach.get(f"floor/sessions/{floor['id']}/review")
    assert review["load_au"] == 420  # Foster et al. 2001, quoted from memory: session RPE times minutes
    assert {x["words"] for x in review["lines"]} == {"not done"}


def test_what_was_done_changes_the_next_plan_and_says_because_of_which_set(coach, athlete, floor) -> None:
    for number in (1, 2, 3):
        log(coach, floor, number=number, load_kg=107.5, reps=5, rir=2)  # a 7RM of 107.5 says 132.6
    coach.ok("POST", f"floor/sessions/{floor['id']}/finish", {"srpe": 6})
    review = coach.get(f"floor/sessions/{floor['id']}/review")
    change = next(x for x in review["lifts"] if x["exercise"] == "Trap-bar deadlift")
    assert change["before_kg"] == 120
    assert change["after_kg"] > 122
    assert any("107.5 × 5 with 2 in reserve" in i["text"] for i in change["working"]["inputs"])
    following = next(x for x in review["next_loads"] if x["exercise"] == "Trap-bar deadlift")
    before, after = re.fullmatch(r"([\d.]+) to ([\d.]+) before rounding", following["exact"]).groups()
    assert float(after) > float(before)
    assert any("107.5 × 5" in i["text"] for i in following["working"]["inputs"])


def test_reading_the_floor_asks_a_bounded_number_of_times(coach, floor) -> None:
    def queries() -> int:
        with CaptureQueriesContext(connection) as seen:
            coach.get(f"floor/sessions/{floor['id']}")
        return len(seen)

    before = queries()
    log(coach, floor, number=1)
    after_one = queries()
    assert after_one <= before + 6  # whether the newest set is a best
    for number in (2, 3, 4):
        log(coach, floor, number=number)
    assert queries() <= after_one + 1


class TestLiveStream:
    """Samples through the open endpoint, as a bridge would send them."""

    velocities = (0.62, 0.60, 0.57, 0.55)

    def trace(self):
        return simulate_set(Pattern.DEADLIFT, list(self.velocities), 0.5, 100, 0.001, np.random.default_rng(4))

    def open(self, coach, floor) -> str:
        body = {"line_id": line_of(floor)["id"], "kind": "work", "number": 1, "rate_hz": 100}
        return coach.ok("POST", f"floor/sessions/{floor['id']}/streams", body)["path"]

    def send(self, coach, path: str, samples, query=""):
        return coach.client.post(path + query, data=write_samples(samples), content_type="application/x-ndjson")

    def numbered(self):
        return [(n, t, x) for n, (t, x) in enumerate(self.trace().samples())]

    def test_repetitions_appear_with_zone_loss_and_stop_line(self, coach, floor) -> None:
        path, samples = self.open(coach, floor), self.numbered()
        for at in range(0, len(samples), 7):
            assert self.send(coach, path, samples[at : at + 7]).json()["accepted"] is True
        coach.client.delete(path)
        measured = line_of(coach.get(f"floor/sessions/{floor['id']}"))["sets"][4]["measured"]
        assert [m["mean_mps"] for m in measured] == pytest.approx(self.velocities, abs=0.02)
        assert measured[0]["zone"] == "accelerative strength"
        assert measured[-1]["loss_pct"] == pytest.approx(100 * (1 - measured[-1]["mean_mps"] / measured[0]["mean_mps"]), abs=0.2)
        assert measured[-1]["stop_mps"] == pytest.approx(0.8 * measured[-1]["fastest_mps"], abs=0.002)

    def test_live_equals_after_the_fact(self, coach, floor) -> None:
        path, samples = self.open(coach, floor), self.numbered()
        for at in range(0, len(samples), 3):
            self.send(coach, path, samples[at : at + 3])
        coach.client.delete(path)
        motion = exercise("trap_bar_deadlift").motion
        assert motion is not None
        written = [(round(t, 4), round(x, 5)) for _, t, x in samples]
        whole = detect_reps(written, motion, 100)
        assert [r.mean_mps for r in Rep.objects.order_by("id")] == [r.metrics.mean_mps for r in whole]

    def test_batches_sent_twice_count_once(self, coach, floor) -> None:
        path, samples = self.open(coach, floor), self.numbered()
        for at in range(0, len(samples), 20):
            for _ in range(2):
                self.send(coach, path, samples[at : at + 20])
        coach.client.delete(path)
        assert Rep.objects.count() == 4

    def test_after_a_crash_the_bridge_sends_again_from_what_is_durable(self, coach, floor) -> None:
        path, samples = self.open(coach, floor), self.numbered()
        cut = next(n for n, t, _ in samples if t > self.trace().reps[1].end_s + 0.5)
        for at in range(0, cut, 10):
            answer = self.send(coach, path, samples[at : min(cut, at + 10)]).json()
        kept = list(Rep.objects.order_by("id").values_list("mean_mps", flat=True))
        assert len(kept) == 2
        streams._live.clear()  # the server died: detection was in memory
        refused = self.send(coach, path, samples[cut : cut + 10]).json()
        assert refused["accepted"] is False
        assert refused["resume_from"] == answer["durable_seq"] + 1 <= cut
        for at in range(refused["resume_from"], len(samples), 10):
            self.send(coach, path, samples[at : at + 10])
        coach.client.delete(path)
        means = list(Rep.objects.order_by("id").values_list("mean_mps", flat=True))
        assert means[:2] == kept
        assert means == pytest.approx(self.velocities, abs=0.02)

    def test_a_repetition_that_could_not_be_stored_is_found_again(self, coach, floor, monkeypatch) -> None:
        path, samples = self.open(coach, floor), self.numbered()
        store, locked = streams._REPS.store, [True]

        def busy_once(**fields):
            if locked.pop() if locked else False:
                raise OperationalError("database is locked")
            return store(**fields)

        monkeypatch.setattr(streams._REPS, "store", busy_once)
        monkeypatch.setattr("jarvok.app.gate.close_old_connections", lambda: None)  # the test stands in one transaction of it
        at = failed = 0
        while at < len(samples):  # as the bridge does: again after an error, and from where the server says
            response = self.send(coach, path, samples[at : at + 10])
            if response.status_code >= 500:
                failed += 1
            else:
                at = response.json()["resume_from"]
        coach.client.delete(path)
        assert failed == 1
        assert list(Rep.objects.order_by("id").values_list("mean_mps", flat=True)) == pytest.approx(self.velocities, abs=0.02)

    def test_half_a_line_of_json_is_named_and_the_rest_counts(self, coach, floor) -> None:
        path = self.open(coach, floor)
        body = '{"n":0,"t":0.0,"x":0.6}\n{"n":1,"t":0.01,"x":0.6}\n{"n":2,"t":0.0'
        answer = coach.client.post(path, data=body, content_type="application/x-ndjson")
        assert answer.status_code == 200
        assert answer.json()["resume_from"] == 2
        assert answer.json()["problems"] == ["line 3: not JSON"]

    def test_nonsense_gets_a_sentence(self, coach, floor) -> None:
        path = self.open(coach, floor)
        answer = coach.client.post(path, data="hello", content_type="text/plain")
        assert answer.status_code == 422
        assert "No sample could be read" in answer.json()["title"]
        assert coach.client.post("/api/streams/unknown", data="{}", content_type="text/plain").status_code == 404
        assert coach.client.get(path).status_code == 405

    def test_a_gap_is_told_to_the_page(self, coach, floor) -> None:
        path, samples = self.open(coach, floor), self.numbered()
        self.send(coach, path, samples[:300])
        self.send(coach, path, [s for s in samples[360:] if s[0] < 700], "?from_here=1")
        faults = [e.payload["message"] for e in FloorEvent.objects.filter(kind="sensor") if e.payload["state"] == "fault"]
        assert "without samples" in faults[0]

    def test_a_sensor_fits_the_lift_or_is_refused(self, coach, floor) -> None:
        body = {"line_id": line_of(floor, "C2")["id"], "kind": "work", "number": 1, "rate_hz": 100}
        response = coach.send("POST", f"floor/sessions/{floor['id']}/streams", body)
        assert response.status_code == 422
        assert "does not measure" in response.json()["title"]
        body = {"line_id": line_of(floor)["id"], "kind": "work", "number": 1, "rate_hz": 3}
        assert coach.send("POST", f"floor/sessions/{floor['id']}/streams", body).status_code == 422

    def test_velocities_move_the_estimate(self, coach, floor) -> None:
        """Warm-ups and a work set with velocity give the day's own line and its max."""
        lift = exercise("trap_bar_deadlift")
        line = TrainingSession.objects.get().lines.get(slot="A1")
        for number, load in enumerate((35.0, 55.0, 67.5, 80.0, 90.0), start=1):
            mean = 0.20 + (1 - load / 124) * 0.76 / 0.6  # a lifter whose max is 124
            Rep.objects.create(
                line=line, kind="ramp", set_number=number, number=number, stream="", start_s=0, mean_mps=mean,
                mean_propulsive_mps=mean, peak_mps=mean * 1.5, time_to_peak_s=0.4, range_m=0.5, load_kg=load,
            )  # fmt: skip
        log(coach, floor)
        review = coach.get(f"floor/sessions/{floor['id']}/review")
        change = review["lifts"][0]
        assert lift.name == change["exercise"]
        assert float(change["velocity"]) == pytest.approx(124, abs=0.5)
        assert change["after_kg"] > change["before_kg"]


def only(session_id: int):
    """What a page of one session listens to."""

    async def who() -> tuple[set[int], set[int]]:
        return {session_id}, {session_id}

    return who


@pytest.mark.django_db(transaction=True)
def test_a_waiting_page_is_woken_by_a_write(coach, floor) -> None:
    session = read_session(floor["id"])

    async def wait_and_write() -> bytes:
        stream = live_views._stream(only(floor["id"]), {}, lambda: True)
        await anext(stream)  # the retry line
        waiting = asyncio.create_task(anext(stream))
        await asyncio.sleep(0.1)
        await asyncio.to_thread(tell, session, "changed", {"line_id": 1})
        chunk = await asyncio.wait_for(waiting, 2)
        await stream.aclose()
        return chunk

    assert b"event: changed" in asyncio.run(wait_and_write())


@pytest.mark.django_db(transaction=True)
def test_the_event_stream_answers_as_server_sent_events(coach, floor) -> None:
    async def head() -> tuple[int, str]:
        client = AsyncClient()
        client.cookies = coach.client.cookies
        response = await client.get(f"/api/floor/sessions/{floor['id']}/events")
        return response.status_code, response["Content-Type"]

    assert asyncio.run(head()) == (200, "text/event-stream")
    assert coach.client.get("/api/floor/sessions/99/events").status_code == 404


class TestRepetitionsOfASet:
    """A measured set in one look, and what can be done about a repetition that was none or belongs elsewhere."""

    @pytest.fixture
    def measured(self, coach, floor) -> dict[str, Any]:
        stream = TestLiveStream()
        path = stream.open(coach, floor)
        samples = stream.numbered()
        for at in range(0, len(samples), 50):
            stream.send(coach, path, samples[at : at + 50])
        coach.client.delete(path)
        log(coach, floor, number=1, reps=4)
        return coach.get(f"floor/sessions/{floor['id']}")

    def first(self, answer: dict[str, Any], number: int = 1) -> dict[str, Any]:
        return next(s for s in line_of(answer)["sets"] if s["kind"] == "work" and s["number"] == number)

    def act(self, coach, floor, rep: int, what: str, body: Any = None) -> dict[str, Any]:
        return coach.ok("POST", f"floor/sessions/{floor['id']}/reps/{rep}/{what}", body or {})

    def test_zone_peak_propulsive_time_to_peak_and_evenness_stand_with_the_set(self, measured) -> None:
        summary = self.first(measured)["summary"]
        figures = {f["name"]: f["value"] for f in summary["figures"]}
        assert summary["zone"] == "accelerative strength"
        assert set(figures) == {"fastest, mean", "last", "loss", "mean of the set", "propulsive", "highest peak", "time to peak"}
        assert "±" in figures["mean of the set"]
        assert summary["evenness"] == "slowing from repetition to repetition"
        assert summary["definition"] == "mean from 0.03 m/s up to 0.03 m/s at the top"

    def test_one_taken_out_counts_nowhere_and_can_be_put_back(self, coach, athlete, floor, measured) -> None:
        fastest = self.first(measured)["measured"][0]
        without = self.act(coach, floor, fastest["id"], "out")
        assert [r["number"] for r in self.first(without)["measured"]] == [1, 2, 3]
        assert [r["id"] for r in self.first(without)["taken_out"]] == [fastest["id"]]
        day = date.fromisoformat(floor["day"])
        best = max(p.velocity_mps for p in LiftBook([athlete], day).all_points_of(athlete.pk, "trap_bar_deadlift"))
        assert best < fastest["mean_mps"] - 0.005
        assert self.act(coach, floor, fastest["id"], "out")["lines"] == without["lines"], "twice is once"
        back = self.act(coach, floor, fastest["id"], "back")
        assert len(self.first(back)["measured"]) == 4
        assert self.first(back)["taken_out"] == []

    def test_one_given_to_another_set_takes_its_load(self, coach, floor, measured) -> None:
        last = self.first(measured)["measured"][-1]
        body = {"line_id": line_of(measured)["id"], "kind": "work", "number": 2}
        after = self.act(coach, floor, last["id"], "move", body)
        assert len(self.first(after)["measured"]) == 3
        assert [r["id"] for r in self.first(after, 2)["measured"]] == [last["id"]]
        assert Rep.objects.get(pk=last["id"]).load_kg == self.first(after, 2)["load_kg"]

    def test_a_set_that_is_not_there_or_another_lift_is_refused(self, coach, floor, measured) -> None:
        rep = self.first(measured)["measured"][0]["id"]
        other = next(x for x in measured["lines"] if x["exercise_id"] not in ("trap_bar_deadlift",) and x["sets"])
        path = f"floor/sessions/{floor['id']}/reps"
        for body in ({"line_id": line_of(measured)["id"], "number": 99}, {"line_id": other["id"], "number": 1}):
            assert coach.send("POST", f"{path}/{rep}/move", {"kind": "work", **body}).status_code in (409, 422)
        assert coach.send("POST", f"{path}/999999/out", {}).status_code == 422
        assert len(self.first(coach.get(f"floor/sessions/{floor['id']}"))["measured"]) == 4


def test_the_optional_half_is_said_on_the_sheet_and_on_the_floor_alike(coach, athlete, floor, sheet) -> None:
    said = {b["name"] for b in sheet["blocks"] if OPTIONAL_WORDS in b["words"]}
    assert said == {name for name, words in floor["block_words"].items() if OPTIONAL_WORDS in words}
    assert len(said) == 1
    small = {x["block"] for x in sheet["lines"] if not x["is_main"]}
    assert said < small
