"""Everything goes out: tables whose rows are those stored, documents of one athlete, calendars under an address."""

from __future__ import annotations

import csv
import io
import json
import re
from datetime import date, timedelta
from typing import Any

import pytest
from django.test import Client
from icalendar import Calendar
from openpyxl import load_workbook
from reportlab import rl_config
from support.past import session
from support.streamed import collected

from jarvok.app import clock
from jarvok.app.api import sending
from jarvok.app.athletes.actions.erase_athlete import erase
from jarvok.app.facts.athletes.models import Athlete, BodyMass, MarkRecord, Squad
from jarvok.app.facts.floor.models import SetRecord, TrainingSession
from jarvok.app.facts.people.models import Link, Person, Role
from jarvok.app.upkeep.tables import TABLES
from jarvok.app.upkeep.whole_centre import LEFT_OUT, kinds

TODAY = date(2026, 11, 24)  # the day that stands in the settings of the tests


class Out:
    def __init__(self, client: Client) -> None:
        self.client = client

    def raw(self, path: str) -> bytes:
        response = self.client.get(f"/api/export/{path}")
        assert response.status_code == 200, response.content
        assert "attachment" in response["Content-Disposition"]
        return collected(response)

    def rows(self, path: str) -> list[dict[str, str]]:
        return list(csv.DictReader(io.StringIO(self.raw(path).decode())))

    def refused(self, path: str) -> str:
        response = self.client.get(f"/api/export/{path}")
        assert response.status_code == 422, response
        return str(response.json()["title"])


@pytest.fixture
def out(coach, client: Client) -> Out:
    return Out(client)


class TestTables:
    def test_are_named_with_what_they_hold(self, coach) -> None:
        assert [t["name"] for t in coach.get("export-tables")] == list(TABLES)

    def test_results_are_those_that_stand(self, out, athlete) -> None:
        kept = {"athlete": athlete, "exercise_id": "back_squat", "kind": "rep_max", "reps": 3, "load_kg": 102.5, "note": "=1+1"}
        MarkRecord.objects.create(day=TODAY, measures={"mean_mps": 0.4}, conditions={"grip": "hook"}, **kept)
        MarkRecord.objects.create(day=TODAY, withdrawn_at=clock.now(), **kept)
        row = next(r for r in out.rows("tables/results.csv") if r["note"])
        assert (row["athlete"], row["exercise"], row["load kg"], row["reps"]) == ("Ada Test", "Back squat", "102.5", "3")
        assert (row["measures"], row["conditions"], row["note"]) == ("mean_mps 0.4", "grip hook", "'=1+1")
        assert len(out.rows("tables/results.csv")) == MarkRecord.objects.filter(withdrawn_at__isnull=True).count()

    def test_sets_and_sessions_are_those_done(self, out, athlete) -> None:
        session(athlete, TODAY - timedelta(days=7), (80, 5, 2), (82.5, 5, 1))
        session(athlete, TODAY - timedelta(days=3), (90, 3, 1))
        TrainingSession.objects.filter(day=TODAY - timedelta(days=3)).update(srpe=7, minutes=50)
        SetRecord.objects.filter(load_kg=82.5).update(taken_back_at=clock.now())
        assert [r["load kg"] for r in out.rows("tables/sets.csv")] == ["80", "90"]
        assert [(r["load AU"], r["work sets"]) for r in out.rows("tables/sessions.csv")] == [("", "1"), ("350", "1")]
        since = (TODAY - timedelta(days=3)).isoformat()
        assert [r["load kg"] for r in out.rows(f"tables/sets.csv?since={since}")] == ["90"]
        until = (TODAY - timedelta(days=4)).isoformat()
        assert [r["load kg"] for r in out.rows(f"tables/sets.csv?until={until}")] == ["80"]
        assert out.rows("tables/sets.csv?athlete=999999") == []

    def test_loads_are_those_of_the_sheet(self, out, coach, athlete, sheet) -> None:
        day = sheet["day"]
        coach.ok("PUT", f"athletes/{athlete.pk}/sessions/{day}/A/lines/A1", {"text": "3 × 5 @ 70 %"})
        shown = coach.get(f"athletes/{athlete.pk}/sessions/{day}/A")
        told = {x["slot"]: [s["load_kg"] for s in x["sets"]] for x in shown["lines"]}
        rows = [r for r in out.rows(f"tables/loads.csv?since={day}&until={day}") if r["session"] == "A"]
        found: dict[str, list[float | None]] = {}
        for r in rows:
            found.setdefault(r["line"], []).append(float(r["load kg"]) if r["load kg"] else None)
        assert found == told
        assert {r["as written"] for r in rows if r["line"] == "A1"} == {"3 × 5 @ 70 %"}
        assert {r["share of max %"] for r in rows if r["line"] == "A1"} != {""}

    def test_a_season_is_the_one_of_its_page(self, out, coach, athlete, season) -> None:
        rows = out.rows("tables/seasons.csv")
        shown = coach.get(f"athletes/{athlete.pk}/season")["season"]
        assert [r["week of"] for r in rows] == [w["start"] for w in shown["weeks"]]
        assert [int(r["volume %"]) for r in rows] == [round(100 * w["volume"]) for w in shown["weeks"]]

    def test_a_calendar_holds_what_stands_in_it(self, out, coach, athlete, season) -> None:
        camp = {"kind": "camp", "name": "Camp", "start": "2026-12-20", "end": "2026-12-22"}
        coach.ok("POST", f"athletes/{athlete.pk}/calendar", camp)
        rows = out.rows("tables/calendar.csv")
        assert [(r["from"], r["to"], r["kind"], r["name"]) for r in rows] == [
            ("2026-12-20", "2026-12-22", "camp", "Camp"), ("2027-04-03", "2027-04-03", "competition", "Test Open"),
        ]  # fmt: skip
        assert [r["name"] for r in out.rows("tables/calendar.csv?since=2026-12-22&until=2026-12-31")] == ["Camp"]
        assert out.rows("tables/calendar.csv?since=2026-12-23&until=2026-12-31") == []

    def test_body_mass(self, out, athlete) -> None:
        BodyMass.objects.create(athlete=athlete, day=TODAY, mass_kg=71.25)
        assert out.rows("tables/masses.csv")[-1]["mass kg"] == "71.25"

    @pytest.mark.parametrize("name", TABLES)
    def test_a_workbook_holds_the_same(self, out, coach, athlete, sheet, name: str) -> None:
        session(athlete, TODAY - timedelta(days=7), (80, 5, 2))
        MarkRecord.objects.create(
            athlete=athlete, exercise_id="back_squat", kind="rep_max", reps=3, load_kg=100, day=TODAY, note="@sum"
        )
        lines = list(csv.reader(io.StringIO(out.raw(f"tables/{name}.csv").decode())))
        book = load_workbook(io.BytesIO(out.raw(f"tables/{name}.xlsx")))
        cells = [list(row) for row in book.worksheets[0].iter_rows()]
        assert [c.value for c in cells[0]] == lines[0] == list(TABLES[name].columns)
        assert len(cells) == len(lines)
        assert all(c.data_type != "f" for row in cells for c in row)

    def test_what_is_asked_wrongly_is_said(self, out, athlete, season) -> None:
        assert "no such table" in out.refused("tables/lifts.csv")
        assert "csv or xlsx" in out.refused("tables/sets.pdf")
        assert "before the first" in out.refused("tables/sets.csv?since=2026-12-02&until=2026-12-01")
        assert "too many at once" in out.refused("tables/loads.csv?since=2026-12-01&until=2027-12-01")
        assert out.client.get("/api/export/tables/sets.csv?since=soon").status_code == 422

    def test_a_coach_gets_their_own_squads_alone(self, out, athlete) -> None:
        other = Athlete.objects.create(squad=Squad.objects.create(name="Other", sport="handball"), name="Bo Other")
        session(athlete, TODAY - timedelta(days=7), (80, 5, 2))
        session(other, TODAY - timedelta(days=7), (90, 5, 2))
        assert len(out.rows("tables/sets.csv")) == 2
        me = Person.objects.get(user__username="tester")
        me.role = Role.COACH
        me.save()
        me.squads.set([athlete.squad])
        assert {r["athlete"] for r in out.rows("tables/sets.csv")} == {"Ada Test"}
        assert out.client.get(f"/api/export/tables/sets.csv?squad={other.squad_id}").status_code == 403
        assert out.client.get(f"/api/export/tables/sets.csv?athlete={other.pk}").status_code == 403
        assert out.client.get(f"/api/export/athletes/{other.pk}.json").status_code == 403

    def test_health_is_for_those_who_see_it(self, out, coach, athlete) -> None:
        session(athlete, TODAY - timedelta(days=7), (80, 5, 2), (80, 4, 2))
        SetRecord.objects.filter(reps=5).update(trouble="pain")
        SetRecord.objects.filter(reps=4).update(trouble="form")
        assert [r["trouble"] for r in out.rows("tables/sets.csv")] == ["pain", "form"]
        me = Person.objects.get(user__username="tester")
        me.role = Role.ASSISTANT
        me.save()
        me.squads.set([athlete.squad])
        assert [r["trouble"] for r in out.rows("tables/sets.csv")] == ["", "form"]
        assert out.client.get("/api/export/tables/masses.csv").status_code == 403
        assert "masses" not in [t["name"] for t in coach.get("export-tables")]

    @pytest.mark.parametrize(
        "asked",
        ["since=9999-12-31", "until=9999-12-31", "since=0001-01-01", "squad=99999999999999999999", "athlete=-1", "athlete=x"],
    )
    @pytest.mark.parametrize("name", ["loads", "sets", "seasons", "calendar"])
    def test_what_nobody_would_ask_is_answered(self, out, athlete, season, name: str, asked: str) -> None:
        assert out.client.get(f"/api/export/tables/{name}.csv?{asked}").status_code in (200, 422)

    @pytest.mark.parametrize("called", ["Žana Ķere", 'a/b "c"', "李"])
    def test_a_file_is_called_so_that_every_system_takes_it(self, out, athlete, season, called: str) -> None:
        Athlete.objects.filter(pk=athlete.pk).update(name=called)
        for path in (f"athletes/{athlete.pk}.json", f"athletes/{athlete.pk}/plan.json", f"athletes/{athlete.pk}/calendar.ics"):
            response = out.client.get(f"/api/export/{path}")
            assert response.status_code == 200
            assert re.search(r'filename="[a-z0-9-]+\.(json|ics)"', response["Content-Disposition"])

    @pytest.mark.parametrize(("weeks", "is_too_many"), [(16, False), (17, True)])
    def test_loads_of_sixteen_weeks(self, out, athlete, season, weeks: int, is_too_many: bool) -> None:
        until = date(2026, 11, 23) + timedelta(weeks=weeks, days=-1)
        response = out.client.get(f"/api/export/tables/loads.csv?since=2026-11-23&until={until}")
        assert response.status_code == (422 if is_too_many else 200)

    @pytest.mark.parametrize(("most", "is_too_long"), [(3, False), (2, True)])
    def test_a_sheet_has_an_end(self, out, athlete, monkeypatch, most: int, is_too_long: bool) -> None:
        session(athlete, TODAY - timedelta(days=7), (80, 5, 2), (82.5, 5, 1))  # two rows below the headings
        monkeypatch.setattr(sending, "MOST_SHEET_ROWS", most)
        assert out.client.get("/api/export/tables/sets.xlsx").status_code == (422 if is_too_long else 200)
        assert len(out.rows("tables/sets.csv")) == 2

    def test_an_archived_athlete_goes_out_only_as_a_document(self, out, athlete) -> None:
        session(athlete, TODAY - timedelta(days=7), (80, 5, 2))
        Athlete.objects.filter(pk=athlete.pk).update(archived_on=TODAY)
        assert out.rows("tables/sets.csv") == []
        assert json.loads(out.raw(f"athletes/{athlete.pk}.json"))["name"] == "Ada Test"


class TestDocuments:
    def test_one_athlete_holds_every_row_that_erasing_takes(self, out, coach, athlete, floor) -> None:
        line = floor["lines"][0]
        coach.ok("POST", f"floor/sessions/{floor['id']}/sets", {"line_id": line["id"], "kind": "work", "number": 1, "reps": 5})
        told = json.loads(out.raw(f"athletes/{athlete.pk}.json"))
        assert (told["format"], told["version"], told["name"]) == ("jarvok athlete", 1, "Ada Test")
        assert len(told["rows"]["floor.setrecord"]) == 1
        before = {k._meta.label_lower: k._default_manager.count() for k in kinds()}
        erase(Athlete.objects.get(pk=athlete.pk))
        gone = {k: n - k_._default_manager.count() for k_ in kinds() if (n := before[(k := k_._meta.label_lower)])}
        # its acts stay, without a name; one row stays to say that somebody was erased
        gone.pop("people.act")
        told["rows"].pop("people.act", None)
        gone.pop("athletes.erased", None)
        assert {k: n for k, n in gone.items() if n > 0} == {k: len(v) for k, v in told["rows"].items()}
        assert not set(told["rows"]) & set(LEFT_OUT)
        assert "simulated" not in told["rows"]["athletes.athlete"][0]

    def test_a_plan_holds_its_weeks_and_the_loads_of_its_sessions(self, out, coach, athlete, season) -> None:
        told = json.loads(out.raw(f"athletes/{athlete.pk}/plan.json?weeks=2"))
        assert told["format"] == "jarvok plan"
        assert [c["name"] for c in told["competitions"]] == ["Test Open"]
        shown = coach.get(f"athletes/{athlete.pk}/season")["season"]
        assert [w["week_of"] for w in told["weeks"]] == [w["start"] for w in shown["weeks"]]
        first = told["sessions"][0]
        sheet = coach.get(f"athletes/{athlete.pk}/sessions/{first['day']}/{first['key']}")
        loads = [(x["line"], x["load_kg"]) for x in first["loads"]]
        assert loads == [(x["slot"], s["load_kg"]) for x in sheet["lines"] for s in x["sets"]]
        assert out.refused(f"athletes/{athlete.pk}/plan.json?weeks=17") == "17 weeks cannot be written."
        assert out.refused(f"athletes/{athlete.pk}/plan.json?weeks=0") == "0 weeks cannot be written."

    def test_a_plan_of_nobody_is_said(self, out, athlete) -> None:
        assert out.refused(f"athletes/{athlete.pk}/plan.json") == "Ada Test has no season yet."

    def test_a_session_is_read_back_to_the_same(self, out, athlete, sheet) -> None:
        from jarvok.core.session.document import from_raw, to_raw

        raw = json.loads(out.raw(f"athletes/{athlete.pk}/sessions/{sheet['day']}/A.json"))
        assert to_raw(from_raw(raw)) == raw

    def test_an_athletes_file_on_paper(self, out, athlete, season, monkeypatch) -> None:
        monkeypatch.setattr(rl_config, "pageCompression", 0)
        monkeypatch.setattr(rl_config, "useA85", 0)
        session(athlete, TODAY - timedelta(days=7), (80, 5, 2))
        MarkRecord.objects.create(athlete=athlete, exercise_id="back_squat", kind="rep_max", reps=3, load_kg=100, day=TODAY)
        response = out.client.get(f"/api/export/athletes/{athlete.pk}/file.pdf")
        assert response.content.startswith(b"%PDF")
        assert all(words in response.content for words in (b"Ada Test", b"Test Open", b"Back squat"))


class TestCalendars:
    def events(self, raw: bytes) -> list[Any]:
        return list(Calendar.from_ical(raw).walk("VEVENT"))

    def test_an_address_is_followed_without_signing_in_until_it_is_ended(self, coach, athlete, season) -> None:
        made = coach.ok("POST", f"calendar/athlete/{athlete.pk}/address")
        stranger = Client()
        first = stranger.get(made["path"])
        assert first["Content-Type"].startswith("text/calendar")
        assert "Test Open" in [str(e["summary"]) for e in self.events(first.content)]
        camp = {"kind": "camp", "name": "Camp", "start": "2026-12-20", "end": "2026-12-22"}
        coach.ok("POST", f"athletes/{athlete.pk}/calendar", camp)
        assert "Camp" in [str(e["summary"]) for e in self.events(stranger.get(made["path"]).content)]
        link = coach.get("links")[0]
        assert link["words"] == "The calendar of Ada Test"
        coach.ok("POST", f"links/{link['id']}/end")
        assert stranger.get(made["path"]).status_code == 404

    def test_its_secret_is_kept_nowhere_and_opens_nothing_else(self, coach, athlete, season) -> None:
        made = coach.ok("POST", f"calendar/athlete/{athlete.pk}/address")
        token = made["path"].split("/")[-1].removesuffix(".ics")
        assert token not in str(list(Link.objects.values()))
        assert Client().get("/api/calendars/made-up.ics").status_code == 404
        assert Client().get(f"/api/athletes/{athlete.pk}/week", headers={"X-Rack-Link": token}).status_code == 401

    def test_nothing_of_health_is_in_it(self, coach, athlete, season) -> None:
        restriction = {"tag": "knee", "words": "sore knee", "set_by": "Dr Test", "since": TODAY.isoformat()}
        coach.send("POST", f"athletes/{athlete.pk}/restrictions", restriction)
        made = coach.ok("POST", f"calendar/athlete/{athlete.pk}/address")
        assert b"knee" not in Client().get(made["path"]).content

    def test_a_squads_has_what_is_shared_once_with_names_where_not_all_have_it(self, coach, athlete, season) -> None:
        other = Athlete.objects.create(squad=athlete.squad, name="Bo Second", training_age_years=5)
        made = coach.ok("POST", f"calendar/squad/{athlete.squad_id}/address")
        events = self.events(Client().get(made["path"]).content)
        assert len({str(e["uid"]) for e in events}) == len(events)
        sessions = [e for e in events if "SESSION" in [c.upper() for c in e["categories"].cats]]
        assert sessions
        assert all("Ada Test" in str(e["description"]) for e in sessions)
        coach.ok("POST", f"athletes/{other.pk}/competitions", {"name": "Test Open", "day": "2027-04-03"})
        events = self.events(Client().get(made["path"]).content)
        both = [e for e in events if "SESSION" in [c.upper() for c in e["categories"].cats]]
        assert len({str(e["uid"]) for e in both}) == len(both)
        assert any("Bo Second" not in str(e.get("description", "")) for e in both)

    def test_who_is_gone_is_followed_no_more(self, coach, athlete, season) -> None:
        made = coach.ok("POST", f"calendar/athlete/{athlete.pk}/address")
        Athlete.objects.filter(pk=athlete.pk).update(archived_on=date(2026, 11, 1))
        assert Client().get(made["path"]).status_code == 404

    def test_a_calendar_of_nothing_else(self, coach) -> None:
        assert coach.send("POST", "calendar/moon/1/address").status_code in (404, 422)
