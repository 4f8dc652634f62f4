"""What a session taught: done beside planned, the load, why sessions were missed, and findings that act in the next plan."""

from __future__ import annotations

import json
import random
from datetime import date, timedelta
from typing import Any

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from support.one_block import DAY, started, written
from support.past import do, planned_in
from support.streamed import collected

from jarvok.app import clock
from jarvok.app.athletes.kept_known import forget_all_kept
from jarvok.app.athletes.known import jumps_a_set_of
from jarvok.app.athletes.reading import athlete_of, read_for_a_week
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.athletes.models import Athlete, BodyMass, MarkRecord, Squad
from jarvok.app.facts.centre.models import KitRecord
from jarvok.app.facts.floor.models import Rep, SessionLine, SetRecord, TrainingSession
from jarvok.app.facts.learning.models import Finding, FindingWord
from jarvok.app.facts.people.models import Person, Role
from jarvok.app.facts.room.models import Answers, Attendance, Gathering, OwnDefault
from jarvok.app.facts.seasons.models import Competition, Entry
from jarvok.app.floor.bests import bests_since
from jarvok.app.floor.reached import sets_of
from jarvok.app.learning.weeks import weeks_of
from jarvok.core.learning.new_bests import BestKind, new_bests
from jarvok.core.learning.work import summed
from jarvok.core.session.blocks import Grouping

pytestmark = pytest.mark.django_db
MONDAY = date(2026, 11, 30)


@pytest.fixture
def later(settings, season) -> None:
    """A week after the first one: its days are over."""
    settings.TODAY = "2026-12-08"


def main_sets(sheet: Any) -> int:
    return sum(len(x["sets"]) for b in ("A", "B", "C", "D") for x in sheet["lines"] if x["slot"].startswith(b))


class TestWeeks:
    def test_what_was_missed_lowers_what_was_done(self, coach, athlete: Athlete, season, later) -> None:
        one, other = planned_in(coach, athlete)[:2]
        do(athlete, date.fromisoformat(one["day"]), one["key"], sets=4)
        page = coach.get(f"learning/athlete/{athlete.pk}?weeks=2")
        week = next(w for w in page["weeks"] if w["monday"] == str(MONDAY))
        assert week["done"]["main_sets"] == 4
        assert week["due"]["main_sets"] == week["planned"]["main_sets"] > 4
        assert (week["sessions"], week["sessions_done"]) == (2, 1)
        assert [(m["day"], m["key"], m["reason"]) for m in page["missed"]] == [(other["day"], other["key"], "")]
        assert "1 session missed" in page["headline"]
        assert week["done"]["lifts"] == [0, 0, 20, 0]
        assert week["done"]["average"] == "80 %"
        assert week["done"]["volume"] == 2000

    def test_the_seasons_bars_are_the_same_numbers(self, coach, athlete: Athlete, season, later) -> None:
        one = planned_in(coach, athlete)[0]
        do(athlete, date.fromisoformat(one["day"]), one["key"], sets=4)
        page = coach.get(f"learning/athlete/{athlete.pk}?weeks=2")
        week = next(w for w in page["weeks"] if w["monday"] == str(MONDAY))
        bar = next(w for w in coach.get(f"athletes/{athlete.pk}/season")["season"]["weeks"] if w["start"] == str(MONDAY))
        assert bar["main_sets"] == week["planned"]["main_sets"]
        assert bar["done_share"] == round(4 / week["due"]["main_sets"], 2)

    def test_a_session_that_is_ahead_is_not_missed(self, coach, athlete: Athlete, season) -> None:
        page = coach.get(f"learning/athlete/{athlete.pk}?weeks=1")
        assert page["missed"] == []

    def test_why_it_was_missed_is_said_counted_and_taken_back(self, coach, athlete: Athlete, season, later) -> None:
        first = planned_in(coach, athlete)[0]
        path = f"athletes/{athlete.pk}/missed/{first['day']}/{first['key']}"
        page = coach.ok("PUT", path, {"reason": "ill", "note": "fever", "weeks": 2})
        row = next(m for m in page["missed"] if m["day"] == first["day"])
        assert (row["reason"], row["reason_key"]) == ("ill, fever", "ill")
        assert {r["words"]: r["count"] for r in page["reasons"]}["ill, fever"] == 1
        again = coach.ok("PUT", path, {"reason": "", "weeks": 2})
        assert next(m for m in again["missed"] if m["day"] == first["day"])["reason"] == ""
        assert coach.send("PUT", path, {"reason": "lazy"}).status_code == 422
        assert coach.send("PUT", f"athletes/{athlete.pk}/missed/2026-12-09/A", {"reason": "ill"}).status_code == 422
        do(athlete, date.fromisoformat(first["day"]), first["key"], sets=1)
        assert coach.send("PUT", path, {"reason": "ill"}).status_code == 409

    def test_the_squads_sums_are_those_of_its_athletes(self, coach, athlete: Athlete, squad: Squad, season, later) -> None:
        other = Athlete.objects.create(squad=squad, name="Bo Test", training_age_years=3)
        coach.ok("POST", f"athletes/{other.pk}/competitions", {"name": "Test Open", "day": "2027-04-03"})
        for n, who in enumerate((athlete, other)):
            do(who, MONDAY + timedelta(days=n), "A", sets=3 + n, reps=4 + n)
        page = coach.get(f"learning/squad/{squad.pk}?weeks=2")
        own = [coach.get(f"learning/athlete/{a.pk}?weeks=2") for a in (athlete, other)]
        for at, week in enumerate(page["weeks"]):
            for kind in ("planned", "due", "done"):
                for name in ("main_sets", "volume", "contacts", "sprint_m", "lifts"):
                    theirs = [o["weeks"][at][kind][name] for o in own]
                    together = [sum(x) for x in zip(*theirs, strict=True)] if name == "lifts" else sum(theirs)
                    assert week[kind][name] == together
            assert week["done_au"] == sum(o["weeks"][at]["done_au"] for o in own)
        assert len(page["missed"]) == sum(len(o["missed"]) for o in own)

    def test_a_group_is_the_sums_of_those_in_it(self, coach, athlete: Athlete, squad: Squad, season, later) -> None:
        for name, group in (("Bo Test", "Backs"), ("Cy Test", "Backs"), ("Di Test", "Keepers")):
            who = Athlete.objects.create(squad=squad, name=name, group=group, training_age_years=3)
            coach.ok("POST", f"athletes/{who.pk}/competitions", {"name": "Test Open", "day": "2027-04-03"})
            do(who, MONDAY, "A", sets=2)
        backs = Athlete.objects.filter(group="Backs")
        page = coach.get(f"learning/squad/{squad.pk}?weeks=2&group=Backs")
        own = [coach.get(f"learning/athlete/{a.pk}?weeks=2") for a in backs]
        assert (page["name"], page["group"], page["groups"]) == (f"{squad.name}, Backs", "Backs", ["Backs", "Keepers"])
        assert page["headline"].startswith("2 athletes")
        for at, week in enumerate(page["weeks"]):
            assert week["done"]["main_sets"] == sum(o["weeks"][at]["done"]["main_sets"] for o in own)
        assert {m["athlete"] for m in page["missed"]} <= {"Bo Test", "Cy Test"}
        bests = coach.get(f"learning/squad/{squad.pk}/bests?group=Keepers")["bests"]
        assert {b["athlete"] for b in bests} <= {"Di Test"}
        report = coach.get(f"squads/{squad.pk}/report?group=Backs")
        assert report["name"] == f"{squad.name}, Backs"
        assert [r[0] for r in report["sections"][0]["rows"]] == ["Bo Test", "Cy Test"]
        paper = collected(coach.client.get(f"/api/export/squads/{squad.pk}/report.csv?group=Backs")).decode()
        assert "Cy Test" in paper
        assert "Di Test" not in paper

    @pytest.mark.parametrize("page", ["learning/squad/{}?group=Wings", "learning/squad/{}/bests?group=Wings"])
    def test_a_group_that_nobody_is_in_is_refused_with_those_there_are(self, coach, athlete, squad: Squad, page: str) -> None:
        Athlete.objects.create(squad=squad, name="Bo Test", group="Backs")
        answer = coach.send("GET", page.format(squad.pk))
        assert answer.status_code == 422
        assert (answer.json()["title"], answer.json()["accepted"]) == ("Nobody is in Wings.", "Backs")

    def test_effort_times_minutes_and_where_they_lack_the_sets(self, coach, athlete: Athlete, season, later) -> None:
        do(athlete, MONDAY, "A", sets=4)
        do(athlete, MONDAY + timedelta(days=2), "B", sets=2, srpe=None)
        page = coach.get(f"learning/athlete/{athlete.pk}?weeks=2")
        days = {d["day"]: d["au"] for d in page["days"]}
        assert days[str(MONDAY)] == 300
        assert days[str(MONDAY + timedelta(days=2))] == 70  # two main sets at 35 AU, before three sessions say what is usual
        assert page["estimated"] == 1
        assert "Last week 370 AU" in page["load_words"]

    def test_practice_that_was_told_on_arriving_counts_on_its_day(self, athlete: Athlete, squad: Squad, season, later) -> None:
        room = Gathering.objects.create(squad=squad, day=clock.today(), opened_at=clock.now())
        here = Attendance.objects.create(gathering=room, athlete=athlete, changed_at=clock.now())
        sport = [
            {"kind": "practice", "minutes": 90, "srpe": 7, "hours_ago": 30},
            {"kind": "run", "minutes": 20, "srpe": 4, "hours_ago": 1},
        ]
        row = Answers.objects.create(attendance=here, data={"sport": sport}, at=clock.now())
        people = read_for_a_week(Athlete.objects.all())
        today = clock.day_of(row.at)
        found = weeks_of(people, today - timedelta(days=7), today, rules_in_force())[athlete.pk]
        loads = {d: au for w in found for d, au in w.practice_au.items() if au}
        assert loads == {clock.day_of(row.at - timedelta(hours=30)): 630, clock.day_of(row.at - timedelta(hours=1)): 80}

    def test_a_week_is_the_sum_of_its_sessions(self, athlete: Athlete, season, later) -> None:
        do(athlete, MONDAY, "A", sets=4)
        people = read_for_a_week(Athlete.objects.all())
        for week in weeks_of(people, MONDAY, clock.today(), rules_in_force())[athlete.pk]:
            assert week.done == summed(s.done for s in week.sessions)

    def test_a_max_that_moved_is_told_from_one_that_did_not(self, coach, athlete: Athlete, season) -> None:
        def told() -> dict[str, Any]:
            page = coach.get(f"learning/athlete/{athlete.pk}/progress?first=2026-11-16")
            return {x["exercise"]: row for x in page["lifts"] for row in x["rows"]}

        assert not told()["Trap-bar deadlift"]["is_more_than_noise"]
        lift = "trap_bar_deadlift"
        body = {"exercise_id": lift, "day": "2026-11-23", "kind": "one_rm", "load_kg": 134, "reps": 1, "confirm": True}
        coach.ok("POST", f"athletes/{athlete.pk}/marks", body)
        now = told()["Trap-bar deadlift"]
        assert (now["words"], now["is_more_than_noise"]) == ("more than noise", True)
        assert now["change"].startswith("+")

    def test_an_athlete_made_five_minutes_ago_and_an_empty_squad(self, coach, squad: Squad) -> None:
        new = Athlete.objects.create(squad=squad, name="New Test")
        page = coach.get(f"learning/athlete/{new.pk}")
        assert page["headline"] == "nothing was planned in these weeks"
        assert (page["days"], page["missed"], page["load_words"]) == ([], [], "")
        assert coach.get(f"findings/athlete/{new.pk}")["summary"] == "Nothing was learned yet."
        empty = Squad.objects.create(name="Nobody yet", sport="judo")
        assert coach.get(f"learning/squad/{empty.pk}")["apart_words"] == "Nobody is far from their own usual."
        assert coach.get(f"findings/squad/{empty.pk}")["findings"] == []

    def test_sixty_people_ask_no_oftener_than_two(self, coach, squad: Squad, athlete: Athlete, season) -> None:
        def asked(path: str) -> int:
            forget_all_kept()
            with CaptureQueriesContext(connection) as seen:
                coach.get(path)
            return len(seen)

        paths = (f"learning/squad/{squad.pk}", f"findings/squad/{squad.pk}")
        Athlete.objects.create(squad=squad, name="Bo Test", training_age_years=3)
        two = [asked(p) for p in paths]
        Athlete.objects.bulk_create(Athlete(squad=squad, name=f"Test {n}", training_age_years=3) for n in range(58))
        assert [asked(p) for p in paths] == two

    def test_a_pounds_room_sees_no_kilogram(self, coach, athlete: Athlete, season, later) -> None:
        kit = KitRecord.objects.create(name="Pounds", unit="lb", bar_kg=20.41)
        Athlete.objects.filter(pk=athlete.pk).update(kit=kit)
        for ago in (14, 7, 1):
            done = do(athlete, clock.today() - timedelta(days=ago), "Z", sets=2, reps=5)
            SetRecord.objects.filter(line__session=done).update(rir=6)
        page = coach.get(f"learning/athlete/{athlete.pk}?weeks=3")
        assert page["mass_unit"] == "lb"
        assert page["weeks"][1]["done"]["volume"] == round(1000 / 0.45359237)
        assert "kg" not in json.dumps(
            [coach.get(f"learning/athlete/{athlete.pk}/progress")["lifts"], coach.get(f"findings/athlete/{athlete.pk}")]
        )
        assert coach.get(f"findings/athlete/{athlete.pk}")["findings"] != []

    @pytest.mark.parametrize("path", ["learning/athlete/9999", "learning/squad/9999"])
    def test_nobody_is_404(self, coach, path: str) -> None:
        assert coach.send("GET", path).status_code == 404

    @pytest.mark.parametrize("query", ["learning/room/1", "learning/squad/{squad}?weeks=0", "learning/squad/{squad}?weeks=27"])
    def test_what_cannot_be_shown_is_said(self, coach, squad: Squad, query: str) -> None:
        assert coach.send("GET", query.format(squad=squad.pk)).status_code == 422


class TestProgress:
    def test_a_squad_lift_by_lift_the_most_gained_first(self, coach, squad: Squad, athlete: Athlete, season, later) -> None:
        lift = "trap_bar_deadlift"
        MarkRecord.objects.filter(exercise_id=lift).delete()
        for name, then, now in (("Bo", 100, 104), ("Cy", 150, 150), ("Di", 200, 205)):
            who = Athlete.objects.create(name=name, squad=squad, training_age_years=4)
            for day, load in (("2026-11-01", then), ("2026-12-07", now)):
                MarkRecord.objects.create(athlete=who, exercise_id=lift, kind="one_rm", day=day, load_kg=load, reps=1)
        page = coach.get(f"learning/squad/{squad.pk}/progress?first=2026-11-02&last=2026-12-07")
        (row,) = [x for x in page["lifts"] if x["exercise_id"] == lift]
        assert [r["athlete"] for r in row["rows"]][:2] == ["Bo", "Di"]
        assert row["worthwhile"] == "10 kg"  # a fifth of the SD of 100, 150 and 200
        said = {r["athlete"]: (r["change"], r["words"]) for r in row["rows"]}
        assert said["Bo"][0] == "+4 kg"
        assert said["Cy"] == ("0 kg", "not more than noise")
        Athlete.objects.filter(name__in=("Bo", "Cy")).update(group="Backs")
        of_group = coach.get(f"learning/squad/{squad.pk}/progress?first=2026-11-02&last=2026-12-07&group=Backs")
        (grouped,) = [x for x in of_group["lifts"] if x["exercise_id"] == lift]
        assert [r["athlete"] for r in grouped["rows"]] == ["Bo", "Cy"]
        assert grouped["worthwhile"] == "10 kg", "what matters is that of the squad"
        alone = coach.get(f"learning/athlete/{who.pk}/progress?first=2026-11-02&last=2026-12-07")
        (mine,) = [x for x in alone["lifts"] if x["exercise_id"] == lift]
        assert mine["rows"] == [r for r in row["rows"] if r["athlete"] == "Di"]

    @pytest.mark.parametrize(
        "query", ["first=2026-12-08&last=2026-12-08", "first=2026-11-01&last=2026-12-09", "first=2026-06-08", "first=tomorrow"]
    )
    def test_days_that_cannot_be_compared_are_refused(self, coach, squad: Squad, later, query: str) -> None:
        answer = coach.client.get(f"/api/learning/squad/{squad.pk}/progress?{query}")
        assert answer.status_code == 422

    def test_typed_drop_jumps_count_by_their_reactive_strength(self, coach, athlete: Athlete, later) -> None:
        """Height in m over contact time in s, by definition: 0.30 / 0.20 = 1.5 and 0.34 / 0.20 = 1.7."""
        for day, cm in (
            (date(2026, 10, 20), 30.0),
            (date(2026, 10, 21), 30.4),
            (date(2026, 12, 1), 34.0),
            (date(2026, 12, 2), 34.4),
        ):
            MarkRecord.objects.create(
                athlete=athlete, exercise_id="drop_jump", kind="drop_jump", day=day,
                measures={"height_cm": cm, "contact_s": 0.2, "drop_cm": 30},
            )  # fmt: skip
        page = coach.get(f"learning/athlete/{athlete.pk}/progress?first=2026-10-26&last=2026-12-07")
        row = next(x["rows"][0] for x in page["lifts"] if "reactive" in x["exercise"])
        assert (row["then"][:4], row["now"][:4], row["change"]) == ("1.51", "1.71", "+0.20")
        found = bests_since([athlete.pk], date(2026, 12, 1), date(2026, 12, 7))[athlete.pk, "drop_jump"]
        assert next((b.kind, b.value) for b in found) == (BestKind.REACTIVE, pytest.approx(1.7))

    def test_jumps_runs_and_body_mass_stand_beside_the_lifts(self, coach, squad: Squad, athlete: Athlete, later) -> None:
        for n, (then, now) in enumerate(((38.0, 40.1), (38.4, 40.3), (38.2, 40.2))):
            for day, cm in ((date(2026, 10, 20), then), (date(2026, 12, 1), now)):
                MarkRecord.objects.create(
                    athlete=athlete, exercise_id="countermovement_jump", kind="jump", day=day + timedelta(days=n),
                    measures={"height_cm": cm},
                )  # fmt: skip
        for day, time_s in ((date(2026, 10, 20), 1.82), (date(2026, 12, 1), 1.80)):
            measures = {"distance_m": 10, "seconds": time_s}
            MarkRecord.objects.create(athlete=athlete, exercise_id="sprint", kind="sprint", day=day, measures=measures)
        for day, mass_kg in ((date(2026, 10, 25), 63.0), (date(2026, 12, 2), 62.0)):
            BodyMass.objects.create(athlete=athlete, day=day, mass_kg=mass_kg)
        page = coach.get(f"learning/athlete/{athlete.pk}/progress?first=2026-10-26&last=2026-12-07")
        rows = {x["exercise"]: x["rows"][0] for x in page["lifts"]}
        jump = rows["Countermovement jump, height"]
        assert (jump["then"], jump["now"], jump["change"]) == ("38.2 ± 0.1 cm", "40.2 ± 0.1 cm", "+2.0 cm")
        assert (jump["words"], jump["share"]) == ("more than noise", "+5 %")
        run = next(r for name, r in rows.items() if name.endswith("time, 10 m"))
        assert (run["then"], run["change"], run["words"]) == ("1.82 s", "−0.02 s", "too few days to tell")
        assert rows["Body mass"]["change"] == "−1.0 kg"
        of_squad = coach.get(f"learning/squad/{squad.pk}/progress?first=2026-10-26&last=2026-12-07")
        named = {x["exercise"] for x in of_squad["lifts"]}
        assert "Countermovement jump, height" in named
        assert "Body mass" not in named  # nobody's is held against another's
        kit = KitRecord.objects.create(name="Pounds", unit="lb", bar_kg=20.41)
        Athlete.objects.filter(pk=athlete.pk).update(kit=kit)
        page = coach.get(f"learning/athlete/{athlete.pk}/progress?first=2026-10-26&last=2026-12-07")
        assert next(x["rows"][0]["change"] for x in page["lifts"] if x["exercise"] == "Body mass") == "−2.2 lb"

    def test_a_body_mass_is_for_who_may_know_of_it(self, coach, squad: Squad, athlete: Athlete, later) -> None:
        for day, mass_kg in ((date(2026, 10, 25), 63.0), (date(2026, 12, 2), 62.0)):
            BodyMass.objects.create(athlete=athlete, day=day, mass_kg=mass_kg)
        path = f"learning/athlete/{athlete.pk}/progress?first=2026-10-26&last=2026-12-07"
        assert "Body mass" in {x["exercise"] for x in coach.get(path)["lifts"]}
        me = Person.objects.latest("pk")
        Person.objects.filter(pk=me.pk).update(role=Role.ASSISTANT)
        me.squads.add(squad)
        assert "Body mass" not in {x["exercise"] for x in coach.get(path)["lifts"]}

    def test_what_matters_of_a_jump_is_a_fifth_of_the_spread_of_the_squad(self, coach, squad: Squad, athlete, later) -> None:
        for name, then, now in (("Bo", 30.0, 33.0), ("Cy", 40.0, 40.0), ("Di", 50.0, 49.0)):
            who = Athlete.objects.create(name=name, squad=squad, training_age_years=4)
            for day, cm in ((date(2026, 10, 20), then), (date(2026, 12, 1), now)):
                MarkRecord.objects.create(
                    athlete=who, exercise_id="countermovement_jump", kind="jump", day=day, measures={"height_cm": cm}
                )
        page = coach.get(f"learning/squad/{squad.pk}/progress?first=2026-10-26&last=2026-12-07")
        (jump,) = [x for x in page["lifts"] if x["exercise"] == "Countermovement jump, height"]
        assert (jump["worthwhile"], [r["athlete"] for r in jump["rows"]]) == ("2.0 cm", ["Bo", "Cy", "Di"])
        alone = coach.get(f"learning/athlete/{who.pk}/progress?first=2026-10-26&last=2026-12-07")
        assert next(x["worthwhile"] for x in alone["lifts"] if x["exercise"] == jump["exercise"]) == "2.0 cm"

    def test_the_same_load_moved_faster_and_ratios_stand_beside_the_maxes(self, coach, squad, athlete: Athlete, later) -> None:
        for day, gain, front in ((date(2026, 9, 1), 0.0, 82), (date(2026, 12, 1), 0.05, 88)):
            for load, mps in ((40, 1.1), (55, 0.93), (70, 0.74), (85, 0.57)):
                MarkRecord.objects.create(
                    athlete=athlete, exercise_id="back_squat", kind="set_velocity", day=day, load_kg=load, reps=1,
                    measures={"velocity_mps": mps + gain},
                )  # fmt: skip
            for lift, kg in (("front_squat", front), ("back_squat", 110)):
                MarkRecord.objects.create(athlete=athlete, exercise_id=lift, kind="one_rm", day=day, load_kg=kg, reps=1)
        path = f"learning/athlete/{athlete.pk}/progress?first=2026-09-02&last=2026-12-07"
        page = coach.get(path)
        (line,) = page["lines"]
        assert (line["exercise"], line["at"], line["change"], line["words"]) == (
            "Back squat",
            "62 kg",
            "+0.05 m/s",
            "more than noise",
        )
        assert [x["day"] for x in line["lines"]] == ["2026-09-01", "2026-12-01"]
        assert [p["load"] for p in line["lines"][0]["ends"]] == [40, 85]
        (ratio,) = [x for x in page["lifts"] if x["exercise"] == "front squat / back squat, usual 78–90 %"]
        assert ratio["rows"][0]["change"].startswith("+")
        assert ratio["rows"][0]["change"].endswith(" points")
        kit = KitRecord.objects.create(name="Pounds", unit="lb", bar_kg=20.41)
        Athlete.objects.filter(pk=athlete.pk).update(kit=kit)
        (line,) = coach.get(path)["lines"]
        assert (line["unit"], line["at"]) == ("lb", "138 lb")
        of_squad = coach.get(f"learning/squad/{squad.pk}/progress?first=2026-09-02&last=2026-12-07")
        assert (of_squad["lines"], of_squad["days"]) == ([], [])
        assert any(x["exercise_id"].startswith("ratio:front squat / back") for x in of_squad["lifts"])

    def test_the_ends_of_phases_are_days_to_compare(self, coach, athlete: Athlete, later) -> None:
        for day, phase in (("2026-10-01", "base"), ("2026-10-08", "base"), ("2026-10-12", "volume"), ("2026-11-30", "volume")):
            done = do(athlete, date.fromisoformat(day), "A", sets=1)
            TrainingSession.objects.filter(pk=done.pk).update(phase=phase)
        page = coach.get(f"learning/athlete/{athlete.pk}/progress?first=2026-10-01")
        assert [d["day"] for d in page["days"]] == ["2026-10-08", "2026-11-30"]
        assert page["days"][0]["words"].endswith(", 8 Oct")

    def test_half_a_year_can(self, coach, squad: Squad, later) -> None:
        assert coach.get(f"learning/squad/{squad.pk}/progress?first=2026-06-09")["lifts"] == []


class TestBests:
    def test_a_heavier_set_is_a_best_at_the_rack_in_the_review_and_on_the_page(
        self, coach, athlete: Athlete, season, later
    ) -> None:
        first, second = date(2026, 12, 1), date(2026, 12, 8)
        do(athlete, first, "1", sets=3)
        assert coach.get(f"learning/athlete/{athlete.pk}/bests")["bests"] == []
        done = do(athlete, second, "1", sets=3)
        SetRecord.objects.filter(line__session=done).update(load_kg=105)
        said = "heaviest 5: 105 kg, before 100 kg on 1 Dec"
        assert coach.get(f"floor/sessions/{done.pk}")["just_done"]["best"] == ""  # the third set of three that are alike
        SetRecord.objects.filter(line__session=done).exclude(number=1).delete()
        assert coach.get(f"floor/sessions/{done.pk}")["just_done"]["best"] == said
        review = coach.get(f"floor/sessions/{done.pk}/review")
        assert [(b["exercise"], b["words"]) for b in review["bests"]] == [("Trap-bar deadlift", said)]
        page = coach.get(f"learning/athlete/{athlete.pk}/bests")
        assert [b["words"] for b in page["bests"]] == [said]
        assert page == coach.get(f"learning/squad/{athlete.squad_id}/bests")

    def test_all_sets_of_a_scheme_and_a_set_that_broke(self, coach, athlete: Athlete, season, later) -> None:
        do(athlete, date(2026, 12, 1), "1", sets=3)
        done = do(athlete, date(2026, 12, 8), "1", sets=3)
        SetRecord.objects.filter(line__session=done).update(load_kg=105)
        review = coach.get(f"floor/sessions/{done.pk}/review")
        assert [b["words"] for b in review["bests"]][1:] == ["heaviest 3 × 5: 105 kg, before 100 kg on 1 Dec"]
        SetRecord.objects.filter(line__session=done).update(trouble="form_broke")
        assert coach.get(f"floor/sessions/{done.pk}/review")["bests"] == []

    def test_a_tested_result_is_what_the_next_set_is_held_against(self, coach, athlete: Athlete, season, later) -> None:
        MarkRecord.objects.filter(athlete=athlete, exercise_id="trap_bar_deadlift").delete()
        MarkRecord.objects.create(
            athlete=athlete, exercise_id="trap_bar_deadlift", kind="rep_max", day="2026-11-20", load_kg=103, reps=5
        )
        do(athlete, date(2026, 12, 1), "1", sets=3)
        assert coach.get(f"learning/athlete/{athlete.pk}/bests")["bests"] == []

    def test_days_summed_up_say_what_all_their_sets_say(self, athlete: Athlete, season) -> None:
        rng = random.Random(7)
        for n in range(12):
            done = do(athlete, date(2026, 9, 1) + timedelta(days=7 * n), "1", sets=3)
            for item in SetRecord.objects.filter(line__session=done):
                SetRecord.objects.filter(pk=item.pk).update(load_kg=rng.choice([95, 100, 105, 110]), reps=rng.choice([2, 3, 5]))
                item.refresh_from_db()
                Rep.objects.create(
                    line=item.line, kind="work", set_number=item.number, number=1, start_s=0, mean_mps=rng.uniform(0.4, 0.6),
                    mean_propulsive_mps=0.5, peak_mps=1, range_m=0.5, time_to_peak_s=0.3, load_kg=item.load_kg,
                    definition="crossing",
                )  # fmt: skip
        first, last = date(2026, 10, 6), date(2026, 12, 1)
        of = (athlete.pk, "trap_bar_deadlift")
        in_full = new_bests(sets_of([athlete.pk], date(2026, 1, 1), last)[of], first)
        assert [(b.kind, b.value, b.before, b.before_day) for b in bests_since([athlete.pk], first, last)[of]] == [
            (b.kind, b.value, b.before, b.before_day) for b in in_full
        ]
        assert {b.kind for b in in_full} == {"load", "speed"}

    def test_each_phase_stands_beside_the_same_phase_a_season_before(self, coach, athlete: Athlete, season, later) -> None:
        old = Competition.objects.create(athlete=athlete, name="Last Open", day="2026-06-20")
        Entry.objects.create(athlete=athlete, competition=old, planned_from="2026-03-01")
        for day, load, phase in (
            (date(2026, 5, 4), 90, "base"), (date(2026, 5, 11), 95, "base"), (date(2026, 11, 3), 100, "base"),
            (date(2026, 12, 1), 120, "strength_speed"),
        ):  # fmt: skip
            done = do(athlete, day, "1", sets=3)
            TrainingSession.objects.filter(pk=done.pk).update(phase=phase)
            SetRecord.objects.filter(line__session=done).update(load_kg=load)
        page = coach.get(f"athletes/{athlete.pk}/phase-bests")
        assert page["phases"] == ["Base strength", "Strength-speed"]
        row = next(r for r in page["rows"] if r["exercise"] == "Trap-bar deadlift")
        assert row["cells"] == [{"now": "100 kg × 5", "before": "95 kg × 5"}, {"now": "120 kg × 5", "before": ""}]

    def test_squads_of_any_size_ask_as_often(self, coach, squad: Squad, athlete: Athlete, season, later) -> None:
        do(athlete, date(2026, 12, 1), "1", sets=3)
        with CaptureQueriesContext(connection) as few:
            coach.get(f"learning/squad/{squad.pk}/bests")
        for n in range(8):
            other = Athlete.objects.create(name=f"Somebody {n}", squad=squad)
            do(other, date(2026, 12, 1), "1", sets=3)
        with CaptureQueriesContext(connection) as many:
            coach.get(f"learning/squad/{squad.pk}/bests")
        assert len(many) <= len(few)


def note(coach: Any, athlete: Athlete, **body: Any) -> Any:
    told = {"kind": "cue", "exercise_id": "trap_bar_deadlift", "sentence": "Chest through the bar."}
    return coach.ok("POST", f"findings/athlete/{athlete.pk}", {**told, **body})


def with_jumps(session_id: int, rounds: dict[int, tuple[int, float]]) -> None:
    """Rounds of a pair as they were done: the rest to the jumps in s, and their height in cm."""
    heavy, jump = SessionLine.objects.filter(session_id=session_id).order_by("order")
    began = clock.now().replace(microsecond=0)
    for number, (rest_s, height_cm) in rounds.items():
        at = began + timedelta(minutes=6 * number)
        SetRecord.objects.create(line=heavy, kind="work", number=number, load_kg=100, reps=3, done_at=at)
        jumps = [{"height_cm": height_cm + n / 10} for n in range(3)]
        done_at = at + timedelta(seconds=rest_s)
        SetRecord.objects.create(line=jump, kind="work", number=number, reps=3, jumps=jumps, done_at=done_at)


def copy_of(session_id: int, day: date) -> None:
    """The same session on another day."""
    session = TrainingSession.objects.get(pk=session_id)
    lines = list(session.lines.order_by("order"))
    session.pk, session.day = None, day
    session.save()
    for line in lines:
        sets = list(line.sets.all())
        line.pk, line.session = None, session
        line.save()
        for item in sets:
            item.pk, item.line = None, line
            item.save()


class TestFindings:
    def test_a_cue_stands_on_the_next_sheet_and_at_the_rack(self, coach, athlete: Athlete, sheet) -> None:
        note(coach, athlete)
        day, key = sheet["day"], sheet["key"]
        lines = coach.get(f"athletes/{athlete.pk}/sessions/{day}/{key}")["lines"]
        beside = {x["exercise_id"]: x["learned"] for x in lines}
        lift = next(x for x in beside if x.startswith("trap_bar_deadlift"))
        assert beside[lift] == ["Chest through the bar."]
        assert all(not words for x, words in beside.items() if not x.startswith("trap_bar"))
        floor = coach.ok("POST", "floor/sessions", {"athlete_id": athlete.pk, "day": day, "key": key})
        assert next(x for x in floor["lines"] if x["exercise_id"] == lift)["learned"] == ["Chest through the bar."]

    def test_what_is_withdrawn_acts_no_more_and_says_why(self, coach, athlete: Athlete, sheet) -> None:
        found = note(coach, athlete)["findings"][0]
        path = f"finding/{found['id']}/answer"
        assert coach.send("POST", path, {"state": "withdrawn"}).status_code == 422
        page = coach.ok("POST", path, {"state": "withdrawn", "reason": "she does it by herself"})
        assert (page["findings"][0]["state"], page["findings"][0]["reason"]) == ("ended", "she does it by herself")
        lines = coach.get(f"athletes/{athlete.pk}/sessions/{sheet['day']}/{sheet['key']}")["lines"]
        assert not any(x["learned"] for x in lines)

    def test_an_open_question_stands_at_the_top_with_its_test(self, coach, athlete: Athlete, sheet) -> None:
        note(coach, athlete, kind="question", sentence="Nerve or strength?", test="a heavy single from pins")
        notes = coach.get(f"athletes/{athlete.pk}/sessions/{sheet['day']}/{sheet['key']}")["notes"]
        assert notes[0]["title"].startswith("Open question")
        assert notes[0]["text"] == "Nerve or strength? Test: a heavy single from pins."

    def test_a_squads_cue_counts_for_each_of_its_athletes(self, coach, athlete: Athlete, squad: Squad, sheet) -> None:
        body = {"kind": "cue", "exercise_id": "trap_bar_deadlift", "sentence": "Push the floor away."}
        coach.ok("POST", f"findings/squad/{squad.pk}", body)
        lines = coach.get(f"athletes/{athlete.pk}/sessions/{sheet['day']}/{sheet['key']}")["lines"]
        assert any(x["learned"] == ["Push the floor away."] for x in lines)

    def test_what_is_one_athletes_stands_on_their_card_and_on_no_wall(self, coach, athlete: Athlete, squad: Squad, sheet) -> None:
        """The squad's cue is on the wall; a question is the coach's and on no paper."""
        other = Athlete.objects.create(squad=squad, name="Bo Test", training_age_years=3)
        coach.ok("POST", f"athletes/{other.pk}/competitions", {"name": "Test Open", "day": "2027-04-03"})
        note(coach, athlete)
        note(coach, athlete, kind="question", sentence="Nerve or strength?")
        body = {"kind": "cue", "exercise_id": "trap_bar_deadlift", "sentence": "Push the floor away."}
        coach.ok("POST", f"findings/squad/{squad.pk}", body)
        table = coach.get(f"athletes/{athlete.pk}/sessions/{sheet['day']}/{sheet['key']}/squad")
        assert [x["note"] for x in table["lines"] if "Push" in x["note"]] != []
        assert not any(w in x["note"] for x in table["lines"] for w in ("Chest", "Nerve"))
        own = {r["name"]: [w for c in r["lines"].values() for w in c["learned"]] for r in table["rows"]}
        assert set(own["Ada Test"]) == {"Chest through the bar."}
        assert own["Bo Test"] == []
        racks = coach.get(f"athletes/{athlete.pk}/sessions/{sheet['day']}/A/racks")
        assert [w for lift in racks["lifts"] for w in lift["learned"]] == ["Push the floor away."]
        for kind in ("wall", "cards", "racks"):
            path = f"/api/export/athletes/{athlete.pk}/sessions/{sheet['day']}/{sheet['key']}/{kind}.pdf"
            assert coach.client.get(path).status_code == 200

    def test_an_assistants_word_waits_for_a_coach(self, coach, athlete: Athlete, sheet) -> None:
        coach.get("names")
        me = Person.objects.latest("pk")
        Person.objects.filter(pk=me.pk).update(role=Role.ASSISTANT)
        me.squads.add(athlete.squad)
        page = note(coach, athlete)
        assert (page["findings"][0]["state"], page["may_confirm"]) == ("waits", False)
        assert coach.send("POST", f"finding/{page['findings'][0]['id']}/answer", {"state": "acts"}).status_code == 403
        Person.objects.filter(pk=me.pk).update(role=Role.COACH)
        kept = coach.ok("POST", f"finding/{page['findings'][0]['id']}/answer", {"state": "acts"})
        assert kept["findings"][0]["state"] == "acts"

    def test_what_was_typed_at_the_rack_is_asked_once_and_kept_in_other_words(self, coach, athlete: Athlete, sheet) -> None:
        done = do(athlete, clock.today(), "Z", sets=2)
        SetRecord.objects.filter(line__session=done, number=1).update(note="look at the far wall")
        page = coach.get(f"findings/athlete/{athlete.pk}")
        (seen,) = [f for f in page["findings"] if f["state"] == "waits"]
        assert (seen["id"], seen["sentence"]) == (None, "look at the far wall")
        path = f"athletes/{athlete.pk}/noticed"
        kept = coach.ok("POST", path, {"ref": seen["ref"], "keep": True, "sentence": "Eyes on the far wall."})
        assert [(f["sentence"], f["state"]) for f in kept["findings"]] == [("Eyes on the far wall.", "acts")]
        assert coach.send("POST", path, {"ref": seen["ref"], "keep": False}).status_code == 409
        assert Finding.objects.count() == FindingWord.objects.count() == 1

    def test_what_is_dropped_is_not_asked_again(self, coach, athlete: Athlete, sheet) -> None:
        done = do(athlete, clock.today(), "Z", sets=1)
        SetRecord.objects.filter(line__session=done).update(note="grip slipped")
        seen = coach.get(f"findings/athlete/{athlete.pk}")["findings"][0]
        page = coach.ok("POST", f"athletes/{athlete.pk}/noticed", {"ref": seen["ref"], "keep": False})
        assert [f["state"] for f in page["findings"]] == ["ended"]

    def test_a_lift_that_was_too_light_three_times_is_noticed(self, coach, athlete: Athlete, sheet) -> None:
        for ago in (14, 7, 1):
            done = do(athlete, clock.today() - timedelta(days=ago), "Z", sets=2, reps=5)
            SessionLine.objects.filter(session=done).update(text="2 × 5 @ 80 %")
            SetRecord.objects.filter(line__session=done).update(rir=5)
        (seen,) = coach.get(f"findings/athlete/{athlete.pk}")["findings"]
        assert seen["sentence"] == "Trap-bar deadlift was too light three times: 5 or more left in every set."
        assert [e["words"] for e in seen["evidence"]][-1].endswith("100 kg × 5, 5 left")
        assert all(TrainingSession.objects.filter(pk=e["session_id"]).exists() for e in seen["evidence"])
        SetRecord.objects.filter(line__session__day=clock.today() - timedelta(days=7), number=1).update(rir=3)
        assert coach.get(f"findings/athlete/{athlete.pk}")["findings"] == []

    def test_a_rest_of_the_athletes_own_acts_and_asks_for_a_new_test_after_eight_weeks(
        self, coach, athlete: Athlete, sheet, settings
    ) -> None:
        OwnDefault.objects.create(athlete=athlete, kind="rest", exercise_id="box_jump", value=90, at=clock.now())
        (row,) = coach.get(f"findings/athlete/{athlete.pk}")["findings"]
        assert (row["state"], row["sentence"]) == ("acts", "90 s before box jump suits best.")
        settings.TODAY = (clock.day_of(clock.now()) + timedelta(weeks=8)).isoformat()
        (row,) = coach.get(f"findings/athlete/{athlete.pk}")["findings"]
        assert row["state"] == "asks_again"

    def test_a_rest_that_sessions_showed_is_kept_acts_on_the_next_line_says_why_and_ages(
        self, coach, athlete: Athlete, season, settings
    ) -> None:
        pair = [("back_squat", "3x3 @ 85%"), ("countermovement_jump", "3x3")]
        key = written(coach, athlete, pair, Grouping.PAPE)
        floor = started(coach, athlete, key)
        TrainingSession.objects.filter(pk=floor["id"]).update(day="2026-11-02")
        with_jumps(floor["id"], {1: (60, 39.0), 2: (90, 41.0), 3: (180, 39.1)})
        for n in range(1, 4):
            copy_of(floor["id"], date(2026, 11, 2) + timedelta(days=7 * n))
        path = f"athletes/{athlete.pk}/sessions/{DAY}/{key}"
        assert coach.get(path)["lines"][0]["rest"] == "2:30"
        row = next(r for r in coach.get(f"findings/athlete/{athlete.pk}")["findings"] if r["kind"] == "rest")
        assert row["state"] == "waits"
        assert row["sentence"].startswith("1:30 before countermovement jump suits: +4.9 %")
        coach.ok("POST", f"athletes/{athlete.pk}/noticed", {"ref": row["ref"], "keep": True})
        line = coach.get(path)["lines"][0]
        assert line["rest"] == "1:30"
        assert line["learned"] == ["1:30 to the jump, finding of 23 Nov"]
        assert all(r["kind"] != "rest" or r["id"] for r in coach.get(f"findings/athlete/{athlete.pk}")["findings"])  # asked once
        settings.TODAY = (clock.day_of(clock.now()) + timedelta(weeks=8)).isoformat()
        row = next(r for r in coach.get(f"findings/athlete/{athlete.pk}")["findings"] if r["kind"] == "rest")
        assert row["state"] == "asks_again"
        assert coach.get(path)["lines"][0]["learned"] == ["1:30 to the jump, finding of 23 Nov; a new test is due"]
        told = {"state": "withdrawn", "reason": "tested anew: no difference"}
        coach.ok("POST", f"finding/{row['id']}/answer", told)
        assert coach.get(path)["lines"][0]["rest"] == "2:30"

    def test_jumps_that_fall_in_sessions_are_fewer_in_the_next_week_once_kept(self, coach, athlete: Athlete, season) -> None:
        found = Finding.objects.create(
            athlete=athlete, kind="jumps", exercise_id="box_jump", sentence="Falls after two.", value=2, day="2026-11-20", ref="x"
        )
        read = lambda: jumps_a_set_of(athlete_of(athlete.pk))  # noqa: E731
        assert read() == {}
        FindingWord.objects.create(finding=found, state="acts", at=clock.now())
        assert read() == {"box_jump": 2}
        OwnDefault.objects.create(athlete=athlete, kind="reps", exercise_id="box_jump", value=4, at=clock.now())
        assert read() == {"box_jump": 4}
        FindingWord.objects.create(finding=found, state="withdrawn", reason="x", at=clock.now())
        assert read() == {"box_jump": 4}

    @pytest.mark.parametrize(
        "body",
        [{"sentence": "x"}, {"kind": "rest"}, {"kind": "hunch"}, {"exercise_id": ""}, {"exercise_id": "no_such"},
         {"sentence": "x" * 201}],
    )  # fmt: skip
    def test_what_is_no_finding_is_refused_in_words(self, coach, athlete: Athlete, body: dict[str, Any]) -> None:
        told = {"kind": "cue", "exercise_id": "trap_bar_deadlift", "sentence": "Chest through the bar.", **body}
        answer = coach.send("POST", f"findings/athlete/{athlete.pk}", told)
        assert answer.status_code == 422
        assert answer.json()["accepted"]

    def test_what_three_athletes_share_is_said_of_the_squad(self, coach, squad: Squad, athlete: Athlete) -> None:
        people = [athlete, *(Athlete.objects.create(squad=squad, name=f"{n} Test") for n in ("Bo", "Cy"))]
        for who in people[:2]:
            note(coach, who)
        assert coach.get(f"findings/squad/{squad.pk}")["shared"] == []
        note(coach, people[2])
        assert coach.get(f"findings/squad/{squad.pk}")["shared"] == ["Chest through the bar. · 3 athletes"]


@pytest.fixture
def lifted(athlete: Athlete, squad: Squad, sheet) -> Entry:
    """A competition of three days ago with a pull, a squat, a race against the clock and a match."""
    events = [
        {"kind": "max_deadlift", "exercise_id": "trap_bar_deadlift"}, {"kind": "competition_lifts"},
        {"kind": "timed_endurance", "name": "Carry medley", "time_s": 60, "reps": 4}, {"kind": "match"},
    ]  # fmt: skip
    competition = Competition.objects.create(squad=squad, name="Quay Cup", day=clock.today() - timedelta(days=3), events=events)
    return Entry.objects.create(athlete=athlete, competition=competition, planned_from=clock.today() - timedelta(days=60))


class TestAfter:
    """The handbook: result against the forecast, what the taper looked like, what to keep and change."""

    def test_the_forecast_is_what_was_known_on_the_day_before(self, coach, athlete: Athlete, lifted: Entry) -> None:
        before = coach.get(f"competitions/{lifted.pk}/after")
        assert [e["name"] for e in before["events"]] == ["Max deadlift, one rep", "Snatch", "Clean and jerk", "Carry medley"]
        forecast = before["events"][0]["forecast"]
        assert forecast.startswith("120 ± ")
        assert (before["is_written"], before["events"][3]["forecast"]) == (False, "")
        body = {"events": [131, None, None, 44], "place": "2nd", "keep": "openers two weeks out", "change": ""}
        after = coach.ok("PUT", f"competitions/{lifted.pk}/after", body)
        assert after["events"][0]["forecast"] == forecast  # its own result is not in it
        assert after["events"][0]["words"].endswith("kg over it, more than its error")
        assert [e["result"] for e in after["events"]] == [131, None, None, 44]

    def test_today_asks_for_the_result_and_the_next_season_says_what_was_written(
        self, coach, athlete: Athlete, lifted: Entry, settings
    ) -> None:
        def asked() -> list[Any]:
            return [d for d in coach.get("today")["decisions"] if d["kind"] == "result"]

        (one,) = asked()
        assert one["title"] == f"No result of {lifted.name}, {lifted.day:%-d %b}"
        assert one["path"] == f"/athletes/{athlete.pk}/after/{lifted.pk}"
        settings.TODAY = str(lifted.day + timedelta(days=15))
        assert asked() == []
        settings.TODAY = str(lifted.day + timedelta(days=14))
        assert len(asked()) == 1
        nothing = [None, None, None, None]
        body = {"events": nothing, "keep": "openers two weeks out.", "change": "longer warm-up"}
        coach.ok("PUT", f"competitions/{lifted.pk}/after", body)
        assert asked() == []
        notes = coach.get(f"athletes/{athlete.pk}/season")["season"]["notes"]
        said = next(n for n in notes if n["id"] == "last-time")
        assert said["title"] == f"From {lifted.name}, for this season"
        assert said["text"] == "Keep: openers two weeks out. Change: longer warm-up."
        coach.ok("PUT", f"competitions/{lifted.pk}/after", {"events": nothing})
        assert not [n for n in coach.get(f"athletes/{athlete.pk}/season")["season"]["notes"] if n["id"] == "last-time"]

    def test_the_result_teaches_the_max_once_and_may_be_corrected(self, coach, athlete: Athlete, lifted: Entry) -> None:
        path = f"competitions/{lifted.pk}/after"
        for load_kg in (131, 131, 128.5):
            coach.ok("PUT", path, {"events": [load_kg, None, None, None]})
        marks = MarkRecord.objects.filter(athlete=athlete, exercise_id="trap_bar_deadlift", day=lifted.day)
        assert list(marks.filter(withdrawn_at=None).values_list("load_kg", "kind", "note")) == [(128.5, "one_rm", "Quay Cup")]
        assert marks.count() == 2

    def test_a_slip_is_asked_about_before_it_is_kept(self, coach, athlete: Athlete, lifted: Entry) -> None:
        path, body = f"competitions/{lifted.pk}/after", {"events": [1310 / 4, None, None, None]}
        assert coach.send("PUT", path, body).status_code == 428
        assert not coach.get(path)["is_written"]
        assert coach.ok("PUT", path, {**body, "confirm": True})["is_written"]

    def test_a_pounds_room_types_and_reads_pounds(self, coach, athlete: Athlete, lifted: Entry) -> None:
        kit = KitRecord.objects.create(name="Pounds", unit="lb", bar_kg=20.41)
        Athlete.objects.filter(pk=athlete.pk).update(kit=kit)
        after = coach.ok("PUT", f"competitions/{lifted.pk}/after", {"events": [285, None, None, None]})["events"][0]
        assert (after["unit"], after["result"], after["forecast"][-2:]) == ("lb", 285, "lb")
        assert "kg" not in after["words"]
        mark = MarkRecord.objects.get(athlete=athlete, day=lifted.day)
        assert (round(mark.load_kg, 2), mark.unit) == (129.27, "lb")

    def test_what_is_cleared_is_withdrawn_and_what_was_deleted_stays_so(self, coach, athlete: Athlete, lifted) -> None:
        path, marks = f"competitions/{lifted.pk}/after", MarkRecord.objects.filter(athlete=athlete, day=lifted.day)
        coach.ok("PUT", path, {"events": [131, None, None, None]})
        coach.ok("POST", f"marks/{marks.get(withdrawn_at=None).pk}/withdraw")
        coach.ok("PUT", path, {"events": [131, None, None, None], "place": "2nd"})
        assert not marks.filter(withdrawn_at=None).exists()
        coach.ok("PUT", path, {"events": [130, None, None, None]})
        assert marks.filter(withdrawn_at=None).get().load_kg == 130
        coach.ok("PUT", path, {"events": [None] * 4})
        assert not marks.filter(withdrawn_at=None).exists()

    def test_a_test_of_the_same_day_stays_beside_it(self, coach, athlete: Athlete, lifted: Entry) -> None:
        body = {"exercise_id": "trap_bar_deadlift", "day": str(lifted.day), "kind": "one_rm", "load_kg": 119, "reps": 1}
        coach.ok("POST", f"athletes/{athlete.pk}/marks", body)
        coach.ok("PUT", f"competitions/{lifted.pk}/after", {"events": [125, None, None, None]})
        rows = MarkRecord.objects.filter(athlete=athlete, day=lifted.day, withdrawn_at=None)
        assert sorted(rows.values_list("load_kg", flat=True)) == [119, 125]

    def test_the_next_session_starts_from_it(self, coach, athlete: Athlete, sheet, lifted: Entry) -> None:
        def load() -> float:
            lines = coach.get(f"athletes/{athlete.pk}/sessions/{sheet['day']}/{sheet['key']}")["lines"]
            return next(x for x in lines if x["exercise_id"].startswith("trap_bar"))["sets"][0]["wanted_kg"]

        before = load()
        coach.ok("PUT", f"competitions/{lifted.pk}/after", {"events": [126, None, None, None]})
        assert load() > before

    def test_what_to_keep_and_change_is_a_finding_once(self, coach, athlete: Athlete, lifted: Entry) -> None:
        path = f"competitions/{lifted.pk}/after"
        for change in ("two days less taper", "two days less taper", "three days less taper"):
            coach.ok("PUT", path, {"events": [None] * 4, "change": change})
        said = [f["sentence"] for f in coach.get(f"findings/athlete/{athlete.pk}")["findings"]]
        assert sorted(said) == ["For next time, change: three days less taper", "For next time, change: two days less taper"]

    def test_it_is_asked_for_until_it_is_written(self, coach, squad: Squad, lifted: Entry) -> None:
        (row,) = coach.get(f"learning/squad/{squad.pk}")["contests"]
        assert (row["entry_id"], row["is_written"]) == (lifted.pk, False)
        coach.ok("PUT", f"competitions/{lifted.pk}/after", {"events": [None] * 4, "place": "3rd"})
        assert coach.get(f"learning/squad/{squad.pk}")["contests"][0]["is_written"]

    def test_the_taper_is_told_from_the_sets_that_were_done(self, coach, athlete: Athlete, lifted: Entry) -> None:
        for week in range(1, 7):
            do(athlete, lifted.day - timedelta(weeks=week) + timedelta(days=1), "A", sets=6 if week <= 2 else 10)
        words = coach.get(f"competitions/{lifted.pk}/after")["taper"]
        assert words.startswith("40 % fewer main sets in the last 2 weeks")
        assert words.endswith("6 a week in place of 10.")

    @pytest.mark.parametrize(
        ("events", "status"), [([1, 2], 422), ([-1, None, None, None], 422), ([None] * 4, 200), ([5000, None, None, None], 422)]
    )
    def test_what_cannot_be_a_result_is_refused(self, coach, lifted: Entry, events: list[Any], status: int) -> None:
        assert coach.send("PUT", f"competitions/{lifted.pk}/after", {"events": events}).status_code == status

    def test_what_is_ahead_has_a_forecast_and_no_result(self, coach, athlete: Athlete, lifted: Entry) -> None:
        Competition.objects.filter(pk=lifted.competition_id).update(day=clock.today() + timedelta(days=9))
        assert coach.get(f"competitions/{lifted.pk}/after")["is_over"] is False
        assert coach.send("PUT", f"competitions/{lifted.pk}/after", {"events": [130, None, None, None]}).status_code == 422

    def test_of_a_minor_the_load_stays_with_the_competition(self, coach, athlete: Athlete, lifted: Entry) -> None:
        Athlete.objects.filter(pk=athlete.pk).update(birth_date=date(2010, 1, 1), supervised=False)
        after = coach.ok("PUT", f"competitions/{lifted.pk}/after", {"events": [100, None, None, None]})
        assert after["events"][0]["result"] == 100
        assert not MarkRecord.objects.filter(athlete=athlete, day=lifted.day).exists()
