"""What the record, the kit and the settings change elsewhere: clearance, bands and chains, findings from marks, minutes."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

import pytest
from support.past import session

from jarvok.app.facts.athletes.models import Athlete, MarkRecord, Restriction
from jarvok.app.facts.centre.models import KitRecord
from jarvok.app.facts.floor.models import SessionLine, SetRecord

TODAY = date(2026, 11, 24)
KNEE = {"tag": "squat", "words": "Left knee: no deep bending", "set_by": "physiotherapist", "since": "2026-11-01"}


def offer(coach, athlete: Athlete, kind: str) -> Any:
    offers = coach.get(f"athletes/{athlete.pk}/tests?exercise_id=back_squat")["offers"]
    return next(o for o in offers if o["kind"] == kind)


class TestClearance:
    def test_a_note_opens_the_conservative_test_and_no_other(self, coach, athlete) -> None:
        record = coach.ok("POST", f"athletes/{athlete.pk}/restrictions", KNEE)
        assert "a clearance note comes first" in offer(coach, athlete, "conservative")["reasons"][0]
        path = f"restrictions/{record['restrictions'][0]['id']}/clear-for-test"
        noted = coach.ok("POST", path, {"cleared_by": " team doctor "})["restrictions"][0]
        assert (noted["cleared_by"], noted["cleared_on"], noted["is_open"]) == ("team doctor", "2026-11-24", True)
        assert offer(coach, athlete, "conservative")["is_open"]
        assert not offer(coach, athlete, "rep_max")["is_open"]

    def test_it_says_who_gave_it_and_a_lifted_restriction_takes_none(self, coach, athlete) -> None:
        found = Restriction.objects.create(athlete=athlete, tag="squat", words="Knee", set_by="doctor", since=date(2026, 11, 1))
        refused = coach.send("POST", f"restrictions/{found.pk}/clear-for-test", {"cleared_by": "  "})
        assert (refused.status_code, refused.json()["where"]) == (422, "cleared_by")
        coach.ok("POST", f"restrictions/{found.pk}/lift")
        assert coach.send("POST", f"restrictions/{found.pk}/clear-for-test", {"cleared_by": "doctor"}).status_code == 409


class TestTheRecord:
    def test_side_limbs_and_goals_are_kept(self, coach, athlete) -> None:
        body = {"dominant_side": "left", "limb_note": "long thighs", "goals": "stay on the mat"}
        record = coach.ok("PATCH", f"athletes/{athlete.pk}/record", body)
        assert {key: record[key] for key in body} == body
        refused = coach.send("PATCH", f"athletes/{athlete.pk}/record", {"dominant_side": "both"})
        assert (refused.status_code, refused.json()["where"]) == (422, "dominant_side")

    def test_the_minutes_there_are_come_from_it(self, coach, athlete, sheet) -> None:
        path = f"athletes/{athlete.pk}/sessions/{sheet['day']}/A"
        assert coach.get(path)["minutes_there"] == 60
        coach.ok("PATCH", f"athletes/{athlete.pk}/record", {"minutes_a_session": 20})
        found = coach.get(path)
        assert found["minutes_there"] == 20
        assert "over the 20 there are" in next(f["reason"] for f in found["flags"] if f["check_id"] == "hour")


KIT = {"name": "Quay room", "unit": "kg", "bar": 20, "collar": 0, "plates": [{"mass": 20, "pairs": 4}, {"mass": 2.5, "pairs": 2}],
       "has": ["barbell"]}  # fmt: skip


class TestBandsAndChainsOfAKit:
    def save(self, coach, *attachments: dict[str, Any], unit: str = "kg") -> Any:
        return coach.send("POST", "settings/kits", {**KIT, "unit": unit, "attachments": list(attachments)})

    def test_a_line_takes_the_measured_pair_nearest_to_it(self, coach, athlete, sheet) -> None:
        thin = {"name": "thin pair", "kind": "bands", "at": "pin 8", "bottom": 4, "top": 22}
        thick = {"name": "thick pair", "kind": "bands", "at": "pin 8", "bottom": 12, "top": 45}
        assert self.save(coach, thin, thick).status_code == 200
        coach.ok("PATCH", f"athletes/{athlete.pk}/record", {"kit_id": KitRecord.objects.get().pk})
        path = f"athletes/{athlete.pk}/sessions/{sheet['day']}/A/lines/A1"
        line = next(x for x in coach.ok("PUT", path, {"text": "5 × 3 @ 60 kg + 25 kg bands"})["lines"] if x["slot"] == "A1")
        first = line["sets"][0]
        assert (first["load_kg"], first["bottom_kg"], first["top_kg"]) == (65, 69, 87)  # a trap bar of 25 kg takes no 60
        assert "here thin pair, pin 8" in first["working"]["rule"]

    def test_chains_by_the_metre(self, coach) -> None:
        found = self.save(coach, {"name": "long", "kind": "chains", "at": "", "per_metre": 12, "lifted_m": 0.6})
        assert found.json()["kits"][0]["attachments"] == [{"name": "long", "kind": "chains", "at": "", "bottom": 0.0, "top": 7.2}]

    def test_pounds_come_back_as_pounds(self, coach) -> None:
        found = self.save(coach, {"name": "pair", "kind": "bands", "bottom": 10, "top": 50}, unit="lb").json()["kits"][0]
        assert [(a["bottom"], a["top"]) for a in found["attachments"]] == [(10, 50)]
        assert KitRecord.objects.get().attachments[0]["top_kg"] == pytest.approx(22.68, abs=0.001)

    @pytest.mark.parametrize("wrong", [
        {"name": "", "kind": "bands", "top": 20}, {"name": "x", "kind": "elastic", "top": 20},
        {"name": "x", "kind": "bands", "bottom": 30, "top": 20}, {"name": "x", "kind": "reverse bands", "bottom": 10, "top": 20},
        {"name": "x", "kind": "bands", "top": 900}, {"name": "x", "kind": "chains", "per_metre": 9, "lifted_m": 9},
    ])  # fmt: skip
    def test_the_impossible_is_refused_and_nothing_is_stored(self, coach, wrong: dict[str, Any]) -> None:
        answer = self.save(coach, wrong)
        assert (answer.status_code, answer.json()["where"]) == (422, "attachments")
        assert not KitRecord.objects.exists()


def jumped(athlete: Athlete, exercise_id: str, day: date, **measures: float) -> None:
    kind = "drop_jump" if "drop_cm" in measures else "jump"
    MarkRecord.objects.create(athlete=athlete, exercise_id=exercise_id, kind=kind, day=day, measures=measures)


def findings(coach, athlete: Athlete) -> dict[str, Any]:
    return {f["title"]: f for f in coach.get(f"athletes/{athlete.pk}/standing")["findings"]}


class TestFindingsFromMarks:
    def test_the_drop_to_train_from(self, coach, athlete) -> None:
        for drop, height, contact in ((15, 24, 0.18), (30, 28, 0.185), (45, 30, 0.19), (60, 28, 0.23)):
            jumped(athlete, "drop_jump", TODAY, drop_cm=drop, height_cm=height, contact_s=contact)
        assert findings(coach, athlete)["Drop jumps from"]["value"] == "45 cm"

    def test_the_assisted_jump_against_the_free_one(self, coach, athlete) -> None:
        jumped(athlete, "band_assisted_jump", TODAY, height_cm=42)
        assert findings(coach, athlete) == {}, "without a free jump nothing can be said"
        jumped(athlete, "countermovement_jump", TODAY - timedelta(days=4), height_cm=40)
        found = findings(coach, athlete)["Band-assisted jump"]
        assert (found["value"], found["is_flagged"]) == ("105 % of the free jump", True)

    def test_how_far_off_the_count_in_reserve_is(self, coach, athlete) -> None:
        session(athlete, TODAY - timedelta(days=7), (80, 5, 1), (80, 5, 1), (80, 5, 1), (80, 9, 0))
        found = findings(coach, athlete)["Reps in reserve"]
        assert (found["value"], found["is_flagged"]) == ("+3.0", True)
        assert "3 sets checked" in found["words"]


class TestABeginnersCount:
    """A beginner's reserve moves no load until sets to failure have shown that it can be gone by."""

    def max_kg(self, coach, athlete: Athlete) -> float | None:
        lifts = coach.get(f"athletes/{athlete.pk}")["lifts"]
        return next((x["max_kg"] for x in lifts if x["exercise_id"] == "back_squat"), None)

    def test_moves_the_max_only_once_it_was_checked(self, coach, athlete) -> None:
        MarkRecord.objects.filter(exercise_id="back_squat").delete()
        Athlete.objects.filter(pk=athlete.pk).update(training_age_years=0.4)
        session(athlete, TODAY - timedelta(days=14), (80, 5, 2), (80, 5, 2))
        assert self.max_kg(coach, athlete) is None
        session(athlete, TODAY - timedelta(days=7), (80, 5, 2), (80, 5, 2), (80, 5, 2), (80, 7, 0))
        # 80 × (1 + 7/30) by Epley, quoted from memory
        assert self.max_kg(coach, athlete) == pytest.approx(98.7, abs=0.1)

    def test_a_count_far_off_moves_nothing(self, coach, athlete) -> None:
        MarkRecord.objects.filter(exercise_id="back_squat").delete()
        Athlete.objects.filter(pk=athlete.pk).update(training_age_years=0.4)
        session(athlete, TODAY - timedelta(days=7), (80, 5, 1), (80, 5, 1), (80, 5, 1), (80, 11, 0))
        assert self.max_kg(coach, athlete) is None


class TestSettingsReachWhatTheyName:
    def week(self, coach, athlete: Athlete) -> Any:
        return coach.get(f"athletes/{athlete.pk}/week?start=2026-11-30")["week"]

    def test_when_a_day_is_high(self, coach, athlete, season) -> None:
        def high() -> int:
            return sum(d["band"] == "high" and not d["sheet"] for d in self.week(coach, athlete)["days"])

        assert high() == 2, "two practices of hardness 8 for an hour and a half"
        coach.ok("PUT", "settings/rules/week.high_from", {"value": 30})
        assert high() == 0

    def test_rests_and_warm_up_minutes(self, coach, athlete, sheet) -> None:
        path = f"athletes/{athlete.pk}/sessions/{sheet['day']}/A"
        before = coach.get(path)
        coach.ok("PUT", "settings/rules/session.warm_up_min", {"value": 20})
        assert coach.get(path)["minutes"] == pytest.approx(before["minutes"] + 10, abs=0.11)
        coach.ok("PUT", "settings/rules/session.transition_s", {"value": 0})
        assert coach.get(path)["minutes"] < before["minutes"] + 10

    def test_the_step_between_warm_ups(self, coach, athlete, sheet) -> None:
        coach.ok("PUT", "settings/rules/load.least_warm_up_step_kg", {"value": 20})
        coach.ok("POST", "floor/sessions", {"athlete_id": athlete.pk, "day": sheet["day"], "key": "A"})
        ramp = [r["load_kg"] for r in SessionLine.objects.get(slot="A1").ramp]
        assert ramp, "the first line has warm-ups"
        assert min(b - a for a, b in zip([0, *ramp], ramp, strict=False)) >= 20

    def test_the_stop_line_of_warm_ups(self, coach, athlete, sheet) -> None:
        coach.ok("PUT", "settings/rules/velocity.stop_loss_pct", {"value": 30})
        coach.ok("POST", "floor/sessions", {"athlete_id": athlete.pk, "day": sheet["day"], "key": "A"})
        assert {r["stop_loss_pct"] for line in SessionLine.objects.all() for r in line.ramp} == {30}


class TestContactsOfASession:
    def test_stand_in_the_margin_with_what_may_follow(self, coach, athlete, season) -> None:
        week = coach.get(f"athletes/{athlete.pk}/week?start=2026-11-30")["week"]
        notes = [n for d in week["days"] if d["sheet"] for n in d["sheet"]["notes"] if n["id"] == "contacts"]
        assert notes
        # 120-140 contacts for advanced athletes: Haff & Triplett 2016, quoted from memory
        assert notes[0]["text"].startswith("No jump history: start low")
        assert "140 is the ceiling for an advanced athlete; it is no target" in notes[0]["text"]


def test_the_last_sessions_of_an_athlete_come_newest_first_with_their_work_sets(coach, athlete) -> None:
    for weeks in range(12, 0, -1):
        session(athlete, TODAY - timedelta(weeks=weeks), *[(80, 5, 2)] * (weeks % 3 + 1))
    SetRecord.objects.filter(line__session__day=TODAY - timedelta(weeks=1), number=1).update(taken_back_at="2026-11-18T12:00:00Z")
    shown = coach.get(f"athletes/{athlete.pk}")["sessions"]
    assert [s["day"] for s in shown] == [(TODAY - timedelta(weeks=w)).isoformat() for w in range(1, 9)]
    assert [s["sets"] for s in shown] == [1, 3, 1, 2, 3, 1, 2, 3]


class TestWhatStandsInTheRoom:
    def test_gear_is_kept_and_a_week_is_planned_with_it(self, coach, athlete, season) -> None:
        coach.ok("POST", "settings/kits", {**KIT, "gear": ["rack"]})
        kit = next(k for k in coach.get("settings")["kits"] if k["name"] == KIT["name"])
        assert kit["gear"] == ["rack"]
        coach.ok("PATCH", f"athletes/{athlete.pk}/record", {"kit_id": kit["id"]})
        lines = [x for d in coach.get(f"athletes/{athlete.pk}/week")["week"]["days"] if d["sheet"] for x in d["sheet"]["lines"]]
        assert not any("dumbbell" in x["exercise"].lower() for x in lines)
        refused = coach.send("PUT", f"settings/kits/{kit['id']}", {**KIT, "gear": ["trampoline"]})
        assert refused.json()["where"] == "gear"


class TestYearsOfLifting:
    """Years are said on a day and grow from it: who began lifting when they were added is no novice a year later."""

    def said(self, coach, athlete: Athlete, years: float) -> Any:
        return coach.ok("PATCH", f"athletes/{athlete.pk}/record", {"training_age_years": years})

    def test_a_novice_is_one_for_a_year(self, coach, athlete, settings) -> None:
        assert self.said(coach, athlete, 0.5)["training_age_years"] == 0.5
        athlete.refresh_from_db()
        assert athlete.years_of_lifting_on(date(2027, 5, 24)) == pytest.approx(0.99, abs=0.01)
        settings.TODAY = "2027-05-22"
        assert "first year" in str(coach.get(f"athletes/{athlete.pk}")["lifts"])
        settings.TODAY = "2027-05-28"
        page = coach.get(f"athletes/{athlete.pk}")
        assert page["training_age_years"] == 1.0
        assert "first year" not in str(page["lifts"])

    def test_weeks_ahead_are_those_of_the_level_then(self, coach, athlete, season) -> None:
        def mains(monday: str) -> list[str]:
            week = coach.get(f"athletes/{athlete.pk}/week?start={monday}")["week"]
            return [x["text"] for d in week["days"] if d["sheet"] for x in d["sheet"]["lines"] if x["is_main"]]

        coach.ok("PUT", f"athletes/{athlete.pk}/week-arrangement", {"arrangement": "percent_lift", "days": 3})
        self.said(coach, athlete, 0.9)  # on 24 November: a year on 31 December
        assert not any("%" in text for text in mains("2026-12-07"))
        assert any("%" in text for text in mains("2027-01-11"))

    def test_what_the_form_shows_and_sends_back_is_no_change(self, coach, athlete, settings) -> None:
        self.said(coach, athlete, 2)
        settings.TODAY = "2027-03-24"
        shown = coach.get(f"athletes/{athlete.pk}/record")["training_age_years"]
        assert shown == 2.3
        self.said(coach, athlete, shown)
        athlete.refresh_from_db()
        assert (athlete.training_age_years, athlete.years_said_on) == (2, date(2026, 11, 24))
        self.said(coach, athlete, 3)
        athlete.refresh_from_db()
        assert (athlete.training_age_years, athlete.years_said_on) == (3, date(2027, 3, 24))

    def test_a_table_says_them_on_its_day(self, coach, athlete) -> None:
        text = "name,squad,years\nBea New,Test harbour wrestling,0.5\n"
        coach.ok("POST", "import/athletes", {"text": text, "squad": "Test harbour wrestling"})
        assert Athlete.objects.get(name="Bea New").years_said_on == date(2026, 11, 24)
