"""The athlete's record, marks of every kind, guided tests, where one stands, and athletes in and out."""

from __future__ import annotations

import csv
import io
from datetime import date
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from openpyxl import Workbook
from python_calamine import CalamineWorkbook
from support.streamed import collected

from jarvok.app.facts.athletes.models import Athlete, MarkRecord, Squad

TODAY = "2026-11-24"


def mark(coach, athlete: Athlete, **body: Any) -> Any:
    base = {"exercise_id": "back_squat", "kind": "rep_max", "day": TODAY, "load_kg": 80, "reps": 5}
    return coach.send("POST", f"athletes/{athlete.pk}/marks", {**base, **body})


class TestMarksOfEveryKind:
    @pytest.mark.parametrize(("body", "words"), [
        ({"kind": "jump", "exercise_id": "countermovement_jump", "measures": {"flight_s": 0.5}}, "30.6 cm"),
        ({"kind": "jump", "exercise_id": "single_leg_jump", "measures": {"height_cm": 18.5}, "side": "left"}, "18.5 cm, left"),
        ({"kind": "drop_jump", "exercise_id": "drop_jump", "measures": {"drop_cm": 30, "contact_s": 0.2, "height_cm": 30}},
         "RSI 1.50 from 30 cm: 30.0 cm after 200 ms"),
        ({"kind": "hold", "exercise_id": "front_hold", "measures": {"seconds": 90}}, "90 s"),
        ({"kind": "sprint", "exercise_id": "sprint", "measures": {"distance_m": 30, "seconds": 4.31}}, "30 m in 4.31 s"),
        ({"kind": "set_velocity", "measures": {"velocity_mps": 0.55}}, "80 kg at 0.55 m/s"),
        ({"kind": "velocity_best", "load_kg": 70, "measures": {"velocity_mps": 1.0}}, "70 kg at 1.00 m/s"),
        ({"kind": "set_rep_best", "sets": 3}, "3 × 5 at 80 kg"),
        ({"kind": "set_rir", "rpe": 8}, "80 kg × 5, 2 in reserve"),
    ])  # fmt: skip
    def test_is_kept_and_read_back_in_words(self, coach, athlete, body, words: str) -> None:
        answer = mark(coach, athlete, **body)
        assert answer.status_code == 200, answer.content
        assert answer.json()["marks"][0]["words"] == words

    @pytest.mark.parametrize(("body", "where"), [
        ({"kind": "jump", "exercise_id": "back_squat", "measures": {"height_cm": 30}}, "exercise_id"),
        ({"kind": "rep_max", "exercise_id": "front_hold"}, "exercise_id"),
        ({"kind": "jump", "exercise_id": "countermovement_jump"}, "height_cm"),
        ({"kind": "jump", "exercise_id": "countermovement_jump", "measures": {"height_cm": 300}}, "height_cm"),
        ({"side": "middle"}, "side"), ({"load_kg": 0}, "load_kg"), ({"load_kg": 900}, "load_kg"), ({"reps": 40}, "reps"),
        ({"kind": "set_rep_best", "sets": 90}, "sets"), ({"kind": "set_rir", "rpe": 8.2}, "rpe"),
        ({"kind": "velocity_max"}, "kind"),
    ])  # fmt: skip
    def test_the_impossible_is_refused_where_it_is(self, coach, athlete, body, where: str) -> None:
        before = MarkRecord.objects.count()
        answer = mark(coach, athlete, **body)
        assert (answer.status_code, answer.json()["where"]) == (422, where)
        assert MarkRecord.objects.count() == before

    def test_a_correction_keeps_the_wrong_mark_in_the_history(self, coach, athlete) -> None:
        wrong = mark(coach, athlete, load_kg=87.5).json()["marks"][0]
        body = {"exercise_id": "back_squat", "kind": "rep_max", "day": TODAY, "load_kg": 78.5, "reps": 5}
        marks = coach.ok("PUT", f"marks/{wrong['id']}", body)["marks"]
        right = next(m for m in marks if m["load_kg"] == 78.5)
        old = next(m for m in marks if m["id"] == wrong["id"])
        assert right["replaces"] == "87.5 kg × 5"
        assert (old["withdrawn"], old["replaced"]) == (True, True)
        assert coach.send("PUT", f"marks/{wrong['id']}", body).status_code == 409

    def test_one_side_moves_no_max(self, coach, athlete) -> None:
        before = coach.get(f"athletes/{athlete.pk}")["lifts"]
        mark(coach, athlete, load_kg=95, side="left", confirm=True)
        assert coach.get(f"athletes/{athlete.pk}")["lifts"] == before

    def test_a_minor_has_no_true_max_without_supervision(self, coach, athlete) -> None:
        coach.ok("PATCH", f"athletes/{athlete.pk}/record", {"birth_date": "2011-01-05"})
        assert mark(coach, athlete, kind="one_rm").status_code == 422
        assert "one_rm" not in [k["id"] for k in coach.get(f"athletes/{athlete.pk}")["kind_choices"]]
        coach.ok("PATCH", f"athletes/{athlete.pk}/record", {"supervised": True})
        assert mark(coach, athlete, kind="one_rm", load_kg=90).status_code == 200

    def test_typed_velocities_make_a_profile(self, coach, athlete) -> None:
        for load, mps in ((40, 1.1), (55, 0.92), (70, 0.74), (85, 0.56)):
            mark(coach, athlete, kind="set_velocity", load_kg=load, measures={"velocity_mps": mps})
        lift = next(x for x in coach.get(f"athletes/{athlete.pk}")["lifts"] if x["exercise_id"] == "back_squat")
        assert lift["profile"]["quality"] == []
        assert lift["profile"]["r_squared"] == pytest.approx(1)


class TestGuidedTests:
    def start(self, coach, athlete: Athlete, kind: str = "true_max", **more: Any) -> Any:
        body = {"exercise_id": "back_squat", "kind": kind, **more}
        return coach.send("POST", f"athletes/{athlete.pk}/tests", body)

    def log(self, coach, test: Any, **change: Any) -> Any:
        body = {"number": len(test["attempts"]) + 1, "load_kg": test["next"]["load_kg"], "reps": test["next"]["reps"], "felt": 6}
        return coach.ok("POST", f"tests/{test['id']}/attempts", {**body, **change})

    def test_a_ramp_to_a_single_ends_at_the_form_break_and_writes_a_technical_max(self, coach, athlete) -> None:
        test = self.start(coach, athlete).json()
        assert test["next"]["load_kg"] == 20
        while not test["next"]["is_top"]:
            test = self.log(coach, test)
        good = test["attempts"][-1]["load_kg"]
        test = self.log(coach, test, form_broke=True)
        assert test["next"] is None
        assert test["result"]["mark"] == "technical 1RM"
        ended = coach.ok("POST", f"tests/{test['id']}/end")
        assert ended["ended"]
        newest = coach.get(f"athletes/{athlete.pk}")["marks"][0]
        assert (newest["kind"], newest["load_kg"], newest["note"]) == ("technical_max", good, "test: True 1RM")
        assert coach.send("POST", f"tests/{test['id']}/end").status_code == 409
        assert coach.send("POST", f"tests/{test['id']}/undo").status_code == 409

    def test_a_tap_is_undone_and_sent_twice_counts_once(self, coach, athlete) -> None:
        test = self.start(coach, athlete).json()
        body = {"number": 1, "load_kg": 20, "reps": 10}
        coach.ok("POST", f"tests/{test['id']}/attempts", body)
        again = coach.ok("POST", f"tests/{test['id']}/attempts", body)
        assert len(again["attempts"]) == 1
        assert coach.send("POST", f"tests/{test['id']}/attempts", {**body, "load_kg": 30}).status_code == 409
        assert coach.send("POST", f"tests/{test['id']}/attempts", {**body, "number": 5}).status_code == 409
        assert coach.ok("POST", f"tests/{test['id']}/undo")["attempts"] == []

    def test_what_is_not_open_is_refused_with_the_reason(self, coach, athlete) -> None:
        answer = self.start(coach, athlete, has_pain=True)
        assert answer.status_code == 422
        assert "licensed professional" in answer.json()["title"]
        assert "needs supervision" in self.start(coach, athlete, "technical_single").json()["title"]
        assert self.start(coach, athlete, "no_such").status_code == 422

    def test_one_test_runs_at_a_time(self, coach, athlete) -> None:
        self.start(coach, athlete)
        assert self.start(coach, athlete, "rep_max").status_code == 409

    def test_a_load_velocity_test_says_what_is_missing_and_writes_its_loads(self, coach, athlete) -> None:
        test = self.start(coach, athlete, "load_velocity").json()
        assert coach.send("POST", f"tests/{test['id']}/attempts", {"number": 1, "load_kg": 30, "reps": 3}).status_code == 422
        for mps in (1.30, 1.10, 0.92, 0.76, 0.62):
            test = self.log(coach, test, velocity_mps=mps, felt=None)
            if len(test["attempts"]) == 2:
                assert test["fit"]
        assert test["fit"] == []
        assert "the day's max is" in test["fit_words"]
        coach.ok("POST", f"tests/{test['id']}/end")
        assert MarkRecord.objects.filter(kind="set_velocity").count() == 5

    def test_stopping_before_anything_counts_writes_no_mark(self, coach, athlete) -> None:
        before = MarkRecord.objects.count()
        test = self.log(coach, self.start(coach, athlete).json())
        coach.ok("POST", f"tests/{test['id']}/end")
        assert MarkRecord.objects.count() == before
        listed = coach.get(f"athletes/{athlete.pk}/tests?exercise_id=back_squat")["tests"][0]
        assert "too light" in listed["outcome"]


class TestStanding:
    def test_bests_sides_ratios_and_the_limiter(self, coach, athlete) -> None:
        mark(coach, athlete, exercise_id="front_squat", load_kg=75, reps=3)
        for side, cm in (("left", 20.0), ("right", 17.0)):
            mark(coach, athlete, kind="jump", exercise_id="single_leg_jump", side=side, measures={"height_cm": cm})
        found = coach.get(f"athletes/{athlete.pk}/standing")
        assert found["sides"][0]["is_flagged"]
        assert [r["name"] for r in found["ratios"]] == ["front squat / back squat", "front squat / 8–10RM back squat"]
        assert len(found["limit"]["answers"]) == 5
        assert any(x["exercise"] == "Trap-bar deadlift" and x["tested"] == 120 for x in found["lifts"])

    def test_an_athlete_without_marks_has_an_empty_page(self, coach, squad) -> None:
        new = Athlete.objects.create(squad=squad, name="New Person")
        found = coach.get(f"athletes/{new.pk}/standing")
        assert (found["lifts"], found["ratios"], found["limit"]) == ([], [], None)


class TestRecord:
    def test_what_is_sent_changes_and_the_rest_stays(self, coach, athlete) -> None:
        found = coach.ok("PATCH", f"athletes/{athlete.pk}/record", {"position": "back", "birth_date": "2001-05-06"})
        assert (found["position"], found["birth_date"], found["training_age_years"]) == ("back", "2001-05-06", 5)
        assert coach.ok("PATCH", f"athletes/{athlete.pk}/record", {"birth_date": None})["birth_date"] is None

    @pytest.mark.parametrize(("body", "where"), [
        ({"name": " "}, "name"), ({"birth_date": "2030-01-01"}, "birth_date"), ({"training_age_years": 90}, "training_age_years"),
        ({"class_limit": 3}, "class_limit"), ({"group": "x" * 60}, "group"),
    ])  # fmt: skip
    def test_what_cannot_be_is_refused(self, coach, athlete, body, where: str) -> None:
        answer = coach.send("PATCH", f"athletes/{athlete.pk}/record", body)
        assert (answer.status_code, answer.json()["where"]) == (422, where)

    def test_a_restriction_replaces_exercises_until_cleared(self, coach, athlete, sheet: Any) -> None:
        body = {"tag": "press", "words": "Left shoulder", "set_by": "physiotherapist", "since": TODAY}
        found = coach.ok("POST", f"athletes/{athlete.pk}/restrictions", body)
        path = f"athletes/{athlete.pk}/sessions/{sheet['day']}/A"
        assert "Bench press" not in [x["exercise"] for x in coach.get(path)["lines"]]
        again = coach.ok("POST", f"restrictions/{found['restrictions'][0]['id']}/lift")
        assert again["restrictions"][0]["is_open"] is False
        assert "Bench press" in [x["exercise"] for x in coach.get(path)["lines"]]
        assert coach.send("POST", f"restrictions/{found['restrictions'][0]['id']}/lift").status_code == 409

    def test_a_restriction_needs_words_and_who_set_it(self, coach, athlete) -> None:
        body = {"tag": "press", "words": "", "set_by": "physiotherapist", "since": TODAY}
        assert coach.send("POST", f"athletes/{athlete.pk}/restrictions", body).status_code == 422
        assert coach.send("POST", f"athletes/{athlete.pk}/restrictions", {**body, "tag": "moon"}).status_code == 422
        late = {**body, "words": "x", "until": "2026-01-01"}
        assert coach.send("POST", f"athletes/{athlete.pk}/restrictions", late).json()["where"] == "until"

    def test_faults_belong_to_fitting_lifts(self, coach, athlete) -> None:
        body = {"exercise_id": "back_squat", "fault": "chest_drops", "since": TODAY}
        found = coach.ok("POST", f"athletes/{athlete.pk}/faults", body)
        assert "paused squats" in found["faults"][0]["addresses"]
        assert coach.send("POST", f"athletes/{athlete.pk}/faults", {**body, "exercise_id": "bench_press"}).status_code == 422
        assert coach.ok("POST", f"faults/{found['faults'][0]['id']}/end")["faults"][0]["until"] == "2026-11-23"

    def test_mass_and_practice(self, coach, athlete) -> None:
        assert coach.ok("POST", f"athletes/{athlete.pk}/masses", {"day": TODAY, "mass": 62.4})["masses"][0]["mass_kg"] == 62.4
        for body in ({"day": TODAY, "mass": 19.9}, {"day": "2027-01-01", "mass": 60}):
            assert coach.send("POST", f"athletes/{athlete.pk}/masses", body).status_code == 422
        new = {"weekday": 6, "hour": 9.5, "minutes": 60, "hardness": 4}
        practices = coach.ok("POST", f"athletes/{athlete.pk}/practices", new)["practices"]
        assert len(practices) == 5
        assert coach.send("POST", f"athletes/{athlete.pk}/practices", {**new, "hour": 30}).status_code == 422
        assert len(coach.ok("DELETE", f"athletes/{athlete.pk}/practices/{practices[-1]['id']}")["practices"]) == 4

    def test_practice_of_a_second_sport_is_the_athletes_own(self, coach, athlete) -> None:
        mate = Athlete.objects.create(squad=athlete.squad, name="Mate Example")
        new = {"weekday": 6, "hour": 9.5, "minutes": 60, "hardness": 4, "own": True, "sport": "rowing"}
        mine = coach.ok("POST", f"athletes/{athlete.pk}/practices", new)["practices"]
        assert [(p["sport"], p["own"]) for p in mine if p["weekday"] == 6] == [("rowing", True)]
        theirs = coach.get(f"athletes/{mate.pk}/record")["practices"]
        assert not any(p["own"] for p in theirs)
        assert coach.send("DELETE", f"athletes/{mate.pk}/practices/{mine[-1]['id']}").status_code == 404


TABLE = "name;squad;born;years of lifting;mass\nBo Example;Harbour;2003-02-28;4;61,5\nNo Day;Harbour;31.2.2003;4;60\n"


class TestInAndOut:
    def test_a_preview_names_each_problem_and_stores_nothing(self, coach, athlete) -> None:
        found = coach.ok("POST", "import/athletes/preview", {"text": TABLE})
        assert (found["good"], found["bad"]) == (1, 1)
        assert "not a day" in found["rows"][1]["problems"][0]
        assert Athlete.objects.count() == 1

    def test_the_rest_is_imported_only_when_the_coach_says_so(self, coach, athlete) -> None:
        assert coach.send("POST", "import/athletes", {"text": TABLE}).status_code == 422
        assert Athlete.objects.count() == 1
        took = coach.ok("POST", "import/athletes", {"text": TABLE, "without_bad": True})
        assert took == {
            "id": took["id"],  # by which it can be taken back
            "added": 1,
            "changed": 0,
            "left_out": 1,
            "results": 0,
        }
        new = Athlete.objects.get(name="Bo Example")
        assert (new.squad.name, new.training_age_years, new.masses.get().mass_kg) == ("Harbour", 4, 61.5)

    def test_a_known_athlete_is_filled_in(self, coach, athlete) -> None:
        text = f"name;squad;position\nada test;{athlete.squad.name};back\n"
        assert coach.ok("POST", "import/athletes/preview", {"text": text})["rows"][0]["is_known"]
        assert coach.ok("POST", "import/athletes", {"text": text})["changed"] == 1
        athlete.refresh_from_db()
        assert (athlete.name, athlete.position) == ("Ada Test", "back")

    def test_rows_without_a_squad_take_the_chosen_one_or_are_a_problem(self, coach, athlete) -> None:
        assert coach.ok("POST", "import/athletes/preview", {"text": "name\nBo\n"})["bad"] == 1
        assert coach.ok("POST", "import/athletes", {"text": "name\nBo\n", "squad": "New squad"})["added"] == 1
        assert Squad.objects.filter(name="New squad").exists()

    RESULTS = (
        "name;squad;born;back squat;bench press (lb);Countermovement jump;tested on\n"
        "Bo Example;Harbour;1999-02-28;100;135 x 5;;2026-10-05\n"
        "Cy Young;Harbour;2010-05-01;60 technical;-;;\n"
        "Dee Young;Harbour;2010-05-01;60;;;\n"
        "Ed Example;Harbour;1998-02-28;a lot;;;\n"
    )

    def test_columns_named_like_a_lift_hold_results(self, coach, athlete) -> None:
        found = coach.ok("POST", "import/athletes/preview", {"text": self.RESULTS})
        words, problems = zip(*((r["words"], r["problems"]) for r in found["rows"]), strict=True)
        assert "back squat 100 kg · bench press 135 lb × 5" in words[0]
        assert [len(p) for p in problems] == [0, 0, 1, 1]
        assert "under 18 without supervision" in problems[2][0]  # a true 1RM of a minor, as on any other way in
        assert "is no result" in problems[3][0]
        assert [c["heading"] for c in found["columns"] if not c["key"]] == ["Countermovement jump"]
        assert (Athlete.objects.count(), MarkRecord.objects.filter(athlete__name="Bo Example").count()) == (1, 0)

        took = coach.ok("POST", "import/athletes", {"text": self.RESULTS, "without_bad": True})
        assert took == {"id": took["id"], "added": 2, "changed": 0, "left_out": 2, "results": 3}
        bo = Athlete.objects.get(name="Bo Example")
        kept = [(m.exercise_id, m.kind, str(m.day), m.unit, m.reps) for m in bo.marks.order_by("exercise_id")]
        assert kept == [("back_squat", "one_rm", "2026-10-05", "kg", 1), ("bench_press", "rep_max", "2026-10-05", "lb", 5)]
        assert bo.marks.get(exercise_id="bench_press").load_kg == pytest.approx(135 * 0.45359237)
        lifts = {x["exercise_id"]: x for x in coach.get(f"athletes/{bo.pk}")["lifts"]}
        assert lifts["back_squat"]["max_kg"] == pytest.approx(100, abs=0.5)
        assert Athlete.objects.get(name="Cy Young").marks.get().kind == "technical_max"

        again = coach.ok("POST", "import/athletes", {"text": self.RESULTS, "without_bad": True})
        assert (again["changed"], again["results"]) == (2, 0), "the same table twice keeps nothing twice"

    def test_a_result_far_over_what_is_known_is_a_problem_of_its_row(self, coach, athlete) -> None:
        MarkRecord.objects.create(athlete=athlete, exercise_id="back_squat", kind="one_rm", day=date(2026, 11, 1), load_kg=90)
        row = f"name;squad;squat\n{athlete.name};{athlete.squad.name};"
        assert coach.ok("POST", "import/athletes/preview", {"text": row + "95"})["bad"] == 0
        (said,) = coach.ok("POST", "import/athletes/preview", {"text": row + "190"})["rows"][0]["problems"]
        assert "This says 190 kg" in said
        assert "own page" in said

    def upload(self, coach, name: str, raw: bytes) -> Any:
        return coach.client.post("/api/import/athletes/file", {"file": SimpleUploadedFile(name, raw)})

    def test_an_xlsx_is_read_and_formula_text_stays_text(self, coach, athlete) -> None:
        book = Workbook()
        sheet = book.active
        sheet.append(["Name", "Squad", "Born"])
        sheet.append(["=1+1", "Harbour", "2003-02-28"])
        out = io.BytesIO()
        book.save(out)
        found = self.upload(coach, "people.xlsx", out.getvalue()).json()
        assert found["rows"][0]["name"] == "=1+1"
        assert found["bad"] == 0

    @pytest.mark.parametrize("raw", [b"PK\x03\x04 not a workbook", b"", b"\xff\xfe\x00"])
    def test_a_broken_file_is_refused_in_words(self, coach, athlete, raw: bytes) -> None:
        answer = self.upload(coach, "people.xlsx", raw)
        assert answer.status_code == 422
        assert answer.json()["title"]

    def test_csv_out_reads_back_and_texts_stay_texts(self, coach, athlete) -> None:
        athlete.name = "=2+2"
        athlete.save()
        text = collected(coach.client.get("/api/export/athletes.csv")).decode()
        rows = list(csv.reader(io.StringIO(text)))
        assert rows[1][0] == "'=2+2"
        assert coach.ok("POST", "import/athletes/preview", {"text": text})["rows"][0]["is_known"]

    def test_xlsx_out_is_read_by_another_engine(self, coach, athlete) -> None:
        # written with openpyxl, read back with python-calamine: two engines
        athlete.name = "+44 Test"
        athlete.save()
        raw = collected(coach.client.get("/api/export/athletes.xlsx"))
        rows = CalamineWorkbook.from_filelike(io.BytesIO(raw)).get_sheet_by_index(0).to_python()
        assert rows[0][:2] == ["name", "squad"]
        assert rows[1][0] == "+44 Test"

    def test_another_form_is_refused_in_words(self, coach, athlete) -> None:
        answer = coach.client.get("/api/export/athletes.pdf")
        assert (answer.status_code, b"csv or xlsx" in answer.content) == (422, True)

    def test_a_stranger_gets_no_list(self, client, db) -> None:
        assert client.get("/api/export/athletes.csv").status_code == 401
