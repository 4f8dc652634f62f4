"""Reports: each reader gets their part, the same numbers as the page of learning, on paper and as tables."""

from __future__ import annotations

import csv
import io
import json
from datetime import date, timedelta
from typing import Any

import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from openpyxl import load_workbook
from support.past import do, planned_in
from support.streamed import collected

from jarvok.app import clock
from jarvok.app.facts.athletes.models import Athlete, Restriction, Squad
from jarvok.app.facts.floor.models import PainReport, SetRecord
from jarvok.app.facts.learning.models import Finding, FindingWord
from jarvok.app.facts.people.models import Person, Role

pytestmark = pytest.mark.django_db


@pytest.fixture
def weeks_done(settings, coach, athlete: Athlete, season) -> Any:
    """A week over: one session of two done."""
    one = planned_in(coach, athlete)[0]
    settings.TODAY = "2026-12-08"
    return do(athlete, date.fromisoformat(one["day"]), one["key"], sets=4)


def section(report: Any, key: str) -> Any:
    return next((s for s in report["sections"] if s["key"] == key), None)


def body(answer: Any) -> bytes:
    return collected(answer) if answer.streaming else answer.content


class TestAthlete:
    def test_the_numbers_are_those_of_the_page(self, coach, athlete: Athlete, weeks_done) -> None:
        report = coach.get(f"athletes/{athlete.pk}/report?weeks=2")
        page = coach.get(f"learning/athlete/{athlete.pk}?weeks=2")
        rows = section(report, "done")["rows"]
        assert [r[2] for r in rows] == [
            f"{w['done']['main_sets']} of {w['due']['main_sets']}" if w["due"]["main_sets"] else str(w["done"]["main_sets"])
            for w in page["weeks"]
        ]
        planned, done = section(report, "done")["charts"][0]["series"]
        assert [p["value"] for p in planned["points"]] == [w["due"]["main_sets"] for w in page["weeks"]]
        assert [p["value"] for p in done["points"]] == [w["done"]["main_sets"] for w in page["weeks"]]
        assert section(report, "done")["sentences"][0].split(" %")[0] == page["headline"].split(" %")[0]

    def test_each_reader_has_their_part(self, coach, athlete: Athlete, weeks_done) -> None:
        Restriction.objects.create(
            athlete=athlete, tag="squat", words="Left knee, no deep bends", set_by="Dr Test", since="2026-12-01"
        )
        PainReport.objects.create(session=weeks_done, record=SetRecord.objects.first(), area="knee")
        found = Finding.objects.create(
            athlete=athlete, kind="cue", exercise_id="trap_bar_deadlift", sentence="Chest through.", day="2026-12-01"
        )
        FindingWord.objects.create(finding=found, state="acts", at=clock.now())
        of = {r: json.dumps(coach.get(f"athletes/{athlete.pk}/report?reader={r}")) for r in ("athlete", "sport", "medical")}
        assert [r for r in of if "Left knee" in of[r]] == ["medical"]
        assert [r for r in of if "knee" in of[r].lower()] == ["medical"]
        assert [r for r in of if '"squat"' in of[r]] == ["sport"]
        assert [r for r in of if "Chest through" in of[r]] == ["athlete"]
        assert [r for r in of if "does not predict injury" in of[r]] == ["sport", "medical"]

    def test_illness_is_said_to_health_staff_and_not_to_the_sport_coach(self, coach, athlete: Athlete, weeks_done) -> None:
        (missed,) = coach.get(f"learning/athlete/{athlete.pk}?weeks=2")["missed"]
        coach.ok(
            "PUT", f"athletes/{athlete.pk}/missed/{missed['day']}/{missed['key']}", {"reason": "ill", "note": "", "weeks": 2}
        )
        rows = {
            r: section(coach.get(f"athletes/{athlete.pk}/report?weeks=2&reader={r}"), "available")["rows"]
            for r in ("sport", "medical")
        }
        assert [row[-1] for row in rows["sport"]] == ["not available"]
        assert [row[-1] for row in rows["medical"]] == ["ill"]

    def test_a_chart_of_a_max_has_a_band_and_says_what_it_is_worth(self, coach, athlete: Athlete, season) -> None:
        report = coach.get(f"athletes/{athlete.pk}/report?weeks=4")
        for chart in section(report, "maxes")["charts"]:
            (line,) = chart["series"]
            assert len(line["points"]) >= 4
            assert all(p["low"] < p["value"] < p["high"] for p in line["points"])
            assert "noise" in chart["sentence"]

    def test_somebody_made_five_minutes_ago(self, coach, squad: Squad) -> None:
        new = Athlete.objects.create(name="Somebody New", squad=squad)
        for reader in ("athlete", "sport", "medical"):
            report = coach.get(f"athletes/{new.pk}/report?reader={reader}")
            assert report["sections"]
            assert "None" not in json.dumps([s["rows"] for s in report["sections"]])

    @pytest.mark.parametrize("query", ["weeks=0", "weeks=27", "reader=press"])
    def test_what_cannot_be_written_is_said(self, coach, athlete: Athlete, query: str) -> None:
        answer = coach.client.get(f"/api/athletes/{athlete.pk}/report?{query}")
        assert answer.status_code == 422
        assert answer.json()["accepted"]


class TestWhoMay:
    @staticmethod
    def come(role: Role, athlete: Athlete, django_user_model) -> Client:
        user = django_user_model.objects.create_user("somebody")
        person = Person.objects.create(user=user, name="Somebody", role=role)
        if role == Role.ATHLETE:
            person.athlete = athlete
            person.save()
        elif role == Role.ASSISTANT:
            person.squads.add(athlete.squad)
        client = Client()
        client.force_login(user)
        return client

    @pytest.mark.parametrize(
        ("role", "opened"),
        [(Role.ATHLETE, ["athlete"]), (Role.ASSISTANT, ["athlete", "sport"]), (Role.MEDICAL, ["medical"]),
         (Role.HEAD, ["athlete", "sport", "medical"])],
    )  # fmt: skip
    def test_a_role_opens_its_readers_and_no_other(
        self, athlete: Athlete, season, django_user_model, role: Role, opened: list[str]
    ) -> None:
        client = self.come(role, athlete, django_user_model)
        first = client.get(f"/api/athletes/{athlete.pk}/report").json()
        assert [r["key"] for r in first["readers"]] == opened
        assert first["reader"] == opened[0]
        for form in ("report", "export"):
            path = f"/api/athletes/{athlete.pk}/report?" if form == "report" else f"/api/export/athletes/{athlete.pk}/report.pdf?"
            codes = {r: client.get(f"{path}reader={r}").status_code for r in ("athlete", "sport", "medical")}
            assert [r for r, code in codes.items() if code == 200] == opened
            assert {code for r, code in codes.items() if r not in opened} <= {403}


class TestFiles:
    def test_tables_hold_what_the_page_does(self, coach, athlete: Athlete, weeks_done) -> None:
        report = coach.get(f"athletes/{athlete.pk}/report?weeks=2")
        rows = section(report, "done")["rows"]
        text = body(coach.client.get(f"/api/export/athletes/{athlete.pk}/report.csv?weeks=2")).decode()
        found = list(csv.reader(io.StringIO(text)))
        assert all(row in found for row in rows)
        book = load_workbook(io.BytesIO(body(coach.client.get(f"/api/export/athletes/{athlete.pk}/report.xlsx?weeks=2"))))
        assert set(book.sheetnames) <= {s["title"] for s in report["sections"]}
        cells = [["" if c is None else str(c) for c in row] for row in book["Planned and done"].iter_rows(values_only=True)]
        assert all(any(cell[: len(row)] == row for cell in cells) for row in rows)

    def test_two_sheets_of_paper_at_most(self, coach, athlete: Athlete, weeks_done) -> None:
        for reader in ("athlete", "sport", "medical"):
            pdf = body(coach.client.get(f"/api/export/athletes/{athlete.pk}/report.pdf?weeks=8&reader={reader}"))
            assert pdf.startswith(b"%PDF")
            assert 1 <= pdf.count(b"/Type /Page\n") + pdf.count(b"/Type /Page ") <= 2


class TestSquad:
    def test_it_is_the_sum_of_its_athletes(self, coach, athlete: Athlete, squad: Squad, weeks_done) -> None:
        other = Athlete.objects.create(name="Bo Test", squad=squad)
        do(other, date(2026, 12, 1), "1", sets=3)
        report = coach.get(f"squads/{squad.pk}/report?weeks=2")
        alone = [coach.get(f"athletes/{a.pk}/report?weeks=2") for a in (athlete, other)]
        done = section(report, "done")["charts"][0]["series"][-1]["points"]
        each = [section(r, "done")["charts"][0]["series"][-1]["points"] for r in alone]
        assert [p["value"] for p in done] == [sum(e[n]["value"] for e in each) for n in range(2)]
        assert [r[0] for r in section(report, "done")["rows"]] == ["Ada Test", "Bo Test"]

    def test_bests_are_counted_and_named(self, coach, athlete: Athlete, squad: Squad, weeks_done) -> None:
        more = do(athlete, clock.today() - timedelta(days=1), "x", sets=3)
        SetRecord.objects.filter(line__session=more).update(load_kg=180)
        report = coach.get(f"squads/{squad.pk}/report?weeks=2")
        assert section(report, "bests")["rows"][0][:2] == ["Ada Test", "Trap-bar deadlift"]
        assert section(report, "done")["rows"][0][-1] == str(len(section(report, "bests")["rows"]))

    def test_sixty_people_ask_no_oftener_than_two(self, coach, squad: Squad, athlete: Athlete, season) -> None:
        def asked() -> int:
            with CaptureQueriesContext(connection) as seen:
                coach.get(f"squads/{squad.pk}/report")
            return len(seen)

        Athlete.objects.create(name="Second", squad=squad)
        two = asked()
        for n in range(58):
            Athlete.objects.create(name=f"Somebody {n}", squad=squad)
        assert asked() <= two
