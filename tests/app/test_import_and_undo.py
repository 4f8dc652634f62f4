"""A table is taken in with columns said by hand, and taken back: what it added goes, what it filled in is as it was."""

from __future__ import annotations

from datetime import date, timedelta

import pytest
from support.past import session
from support.streamed import collected

from jarvok.app.athletes.actions.erase_athlete import erase
from jarvok.app.facts.athletes.models import Athlete, BodyMass, ImportedTable, MarkRecord, Restriction, Squad
from jarvok.app.facts.people.models import Act, Person, Role
from jarvok.app.facts.room.models import Attendance

TODAY = date(2026, 11, 24)  # the day that stands in the settings of the tests


def take(coach, text: str, squad: str = "Harbour", **more) -> dict:
    return coach.ok("POST", "import/athletes", {"text": text, "squad": squad, **more})


def undo(coach, taken: dict) -> dict:
    return coach.ok("POST", f"import/athletes/{taken['id']}/undo")


class TestTakingIn:
    def test_columns_said_by_hand(self, coach) -> None:
        body = {"text": "Who\tBig lift\nAda\t225", "squad": "Harbour", "mapping": {0: "name", 1: "result:back_squat:lb"}}
        seen = coach.ok("POST", "import/athletes/preview", body)
        assert [(c["heading"], c["sample"], c["key"]) for c in seen["columns"]] == [
            ("Who", "Ada", "name"), ("Big lift", "225", "result:back_squat:lb"),
        ]  # fmt: skip
        assert coach.ok("POST", "import/athletes", body)["results"] == 1
        assert MarkRecord.objects.get().load_kg == pytest.approx(102.06, abs=0.01)

    def test_every_choice_is_taken(self, coach) -> None:
        keys = [c["key"] for c in coach.get("import/athletes/columns")]
        assert "name" in keys
        for key in [k for k in keys if k != "name"][::25]:
            body = {"text": "a\tb\nAda\t1", "squad": "Harbour", "mapping": {0: "name", 1: key}}
            assert coach.ok("POST", "import/athletes/preview", body)["columns"][1]["key"] == key

    def test_a_season_of_paper_is_one_table(self, coach) -> None:
        lines = ["athlete,day,exercise,load kg,reps"]
        lines += [f"Ada,2026-{m:02d}-03,back squat,{90 + m},1" for m in range(1, 11)]
        taken = take(coach, "\n".join(lines))
        assert (taken["added"], taken["changed"], taken["results"]) == (1, 0, 10)
        assert [m.load_kg for m in MarkRecord.objects.order_by("day")] == [91.0 + n for n in range(10)]

    def test_our_own_results_are_read_back(self, coach, client, athlete) -> None:
        MarkRecord.objects.all().delete()
        for n, (lift, reps, load) in enumerate([("back_squat", 1, 120), ("bench_press", 3, 70.5)]):
            kind = "one_rm" if reps == 1 else "rep_max"
            day = TODAY - timedelta(days=n + 1)
            MarkRecord.objects.create(athlete=athlete, exercise_id=lift, kind=kind, reps=reps, load_kg=load, day=day)
        before = list(MarkRecord.objects.order_by("day").values_list("exercise_id", "kind", "reps", "load_kg", "day"))
        text = collected(client.get("/api/export/tables/results.csv")).decode()
        MarkRecord.objects.all().delete()
        assert take(coach, text)["results"] == len(before)
        assert list(MarkRecord.objects.order_by("day").values_list("exercise_id", "kind", "reps", "load_kg", "day")) == before

    def test_masses_and_restrictions_come_on_the_rows_day(self, coach) -> None:
        take(coach, "name\tmass\trestriction\tdate\nAda\t61.5\toverhead, left, by Dr Aas\t2026-10-05")
        assert list(BodyMass.objects.values_list("day", "mass_kg")) == [(date(2026, 10, 5), 61.5)]
        found = Restriction.objects.get()
        assert (found.tag, found.side, found.set_by, found.since) == ("overhead", "left", "Dr Aas", date(2026, 10, 5))
        take(coach, "name\trestriction\tdate\nAda\toverhead, left, by Dr Aas\t2026-10-05")
        assert Restriction.objects.count() == 1

    def test_a_restriction_without_a_word_is_a_problem_of_its_row(self, coach) -> None:
        seen = coach.ok("POST", "import/athletes/preview", {"text": "name\trestriction\nAda\toverhead", "squad": "Harbour"})
        assert "does not say who set it" in seen["rows"][0]["problems"][0]


class TestUndo:
    def test_who_was_added_goes_again(self, coach) -> None:
        taken = take(coach, "name\tsquat\tmass\nAda\t100\t61\nBo\t110\t70")
        assert undo(coach, taken) == {
            "athletes": 2, "results": 2, "fields": 0, "stay": [],
            "imports": [{**coach.get("import/athletes")[0]}],
        }  # fmt: skip
        assert not Athlete.objects.exists()
        assert not MarkRecord.objects.exists()
        assert not Squad.objects.filter(name="Harbour").exists(), "the table had made it"
        assert coach.get("import/athletes")[0]["undone"]

    def test_a_squad_that_was_there_stays(self, coach) -> None:
        Squad.objects.create(name="Harbour", sport="handball")
        undo(coach, take(coach, "name\nAda"))
        assert Squad.objects.filter(name="Harbour").exists()

    def test_what_was_filled_in_is_as_it_was(self, coach) -> None:
        squad = Squad.objects.create(name="Harbour", sport="handball")
        ada = Athlete.objects.create(squad=squad, name="Ada", group="Backs", birth_date=date(2001, 2, 3))
        mass = BodyMass.objects.create(athlete=ada, day=TODAY, mass_kg=60)
        taken = take(coach, "name\tgroup\tborn\tmass\tsquat\nAda\tPivots\t2002-03-04\t62\t100")
        assert (taken["added"], taken["changed"]) == (0, 1)
        done = undo(coach, taken)
        ada.refresh_from_db()
        mass.refresh_from_db()
        assert (ada.group, ada.birth_date, mass.mass_kg) == ("Backs", date(2001, 2, 3), 60)
        assert (done["athletes"], done["results"], done["fields"]) == (0, 1, 3)
        assert not MarkRecord.objects.filter(withdrawn_at__isnull=True).exists()

    def test_what_was_changed_since_stays(self, coach) -> None:
        squad = Squad.objects.create(name="Harbour", sport="handball")
        ada = Athlete.objects.create(squad=squad, name="Ada", group="Backs", position="left")
        taken = take(coach, "name\tgroup\tposition\nAda\tPivots\tright")
        coach.ok("PATCH", f"athletes/{ada.pk}/record", {"group": "Keepers"})
        assert undo(coach, taken)["fields"] == 1
        ada.refresh_from_db()
        assert (ada.group, ada.position) == ("Keepers", "left")

    @pytest.mark.parametrize("since", ["session", "change", "plan of the squad", "room"])
    def test_whom_something_was_done_for_since_stays(self, coach, since: str) -> None:
        taken = take(coach, "name\tsquat\nAda\t100\nBo\t110")
        ada = Athlete.objects.get(name="Ada")
        if since == "session":
            session(ada, TODAY, (80, 5, 2))
        elif since == "plan of the squad":
            Athlete.objects.filter(pk=ada.pk).update(plan_act=Act.objects.latest("pk").pk + 1)
        elif since == "room":
            coach.ok("POST", "room", {"squad_id": ada.squad_id})
            Attendance.objects.exclude(athlete=ada).delete()
        else:
            coach.ok("PATCH", f"athletes/{ada.pk}/record", {"group": "Backs"})
        done = undo(coach, taken)
        assert (done["athletes"], done["stay"]) == (1, ["Ada"])
        assert list(Athlete.objects.values_list("name", flat=True)) == ["Ada"]
        assert not MarkRecord.objects.filter(withdrawn_at__isnull=True).exists()

    def test_once_is_enough(self, coach) -> None:
        taken = take(coach, "name\nAda")
        undo(coach, taken)
        again = coach.send("POST", f"import/athletes/{taken['id']}/undo")
        assert (again.status_code, "already" in again.json()["title"]) == (409, True)

    @pytest.mark.parametrize("text", ["name\nBo", "name\tgroup\nAda\tPivots", "name\tsquat\nAda\t100"])
    def test_it_is_ones_own_table(self, coach, text: str) -> None:
        Athlete.objects.create(squad=Squad.objects.create(name="Harbour", sport="handball"), name="Ada")
        taken = take(coach, text)
        me = Person.objects.get(name="tester")
        me.role = Role.COACH
        me.save()
        other = Squad.objects.create(name="Elsewhere", sport="handball")
        me.squads.set([other])
        assert coach.send("POST", f"import/athletes/{taken['id']}/undo").status_code == 403

    def test_nothing_of_an_erased_athlete_is_left_in_it(self, coach) -> None:
        squad = Squad.objects.create(name="Harbour", sport="handball")
        ada = Athlete.objects.create(squad=squad, name="Ada", birth_date=date(2001, 2, 3))
        taken = take(coach, "name\tborn\nAda\t2002-03-04")
        assert "2001-02-03" in str(ImportedTable.objects.get(pk=taken["id"]).before)
        erase(ada)
        assert ImportedTable.objects.get(pk=taken["id"]).before == {}
