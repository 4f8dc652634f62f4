"""Units and dates: the centre's, one's own, and everything that is said in them."""

from __future__ import annotations

from typing import Any

import pytest
from django.contrib.auth.models import User
from django.test import Client

from jarvok.app.athletes import kept_known
from jarvok.app.facts.athletes.models import Athlete, BodyMass
from jarvok.app.facts.people.models import Person
from jarvok.core.quantities.days import DayOrder, days_written

pytestmark = pytest.mark.django_db
POUND_KG = 0.45359237  # exact by definition, published (international pound, 1959)


@pytest.fixture
def centre_says(coach: Any, django_capture_on_commit_callbacks: Any) -> Any:
    """Sets what holds for the whole centre, as far as its commit."""

    def says(unit: str, day_order: str = "day first") -> Any:
        with django_capture_on_commit_callbacks(execute=True):
            return coach.ok("PUT", "settings/habits", {"unit": unit, "day_order": day_order})

    return says


@pytest.fixture
def second(client: Client) -> Client:
    """Somebody else of the centre, signed in elsewhere."""
    user = User.objects.create_user("second", password="another long word")
    Person.objects.create(user=user, name="Second", role="head")
    other = Client()
    other.force_login(user)
    return other


def test_what_one_types_and_reads_at_the_desk_is_in_ones_own_unit(coach: Any, athlete: Athlete, second: Client) -> None:
    assert coach.get("me")["unit"] == "kg"
    me = coach.ok("PUT", "me/habits", {"unit": "lb", "day_order": ""})
    assert (me["unit"], me["own_unit"], me["day_order"], me["own_day_order"]) == ("lb", "lb", "day first", "")
    record = coach.ok("POST", f"athletes/{athlete.pk}/masses", {"day": "2026-11-20", "mass": 140.5, "unit": "lb"})
    assert BodyMass.objects.get().mass_kg == pytest.approx(140.5 * POUND_KG)
    assert record["masses"][0]["words"] == "140.5 lb"
    assert (record["class_limit"], record["unit"]) == (136.7, "lb")  # 62 kg
    (row,) = coach.get("athletes")["squads"][0]["athletes"]
    page = coach.get(f"athletes/{athlete.pk}")
    assert (row["mass"], row["lifts"][0]["unit"]) == (140.5, "kg"), "a bar speaks the unit of its room"
    assert "3.8 lb over the limit" in next(n["text"] for n in page["margin"] if n["id"] == "class")
    assert page["masses"][-1]["words"] == "140.5 lb"
    theirs = second.get("/api/athletes").json()["squads"][0]["athletes"][0]
    assert theirs["mass"] == 63.7, "what is kept of a page in pounds is not shown in kilograms"
    assert second.get(f"/api/athletes/{athlete.pk}/record").json()["masses"][0]["words"] == "63.73 kg"


def test_a_pounds_room_says_its_maxes_in_pounds_wherever_they_stand(coach: Any, athlete: Athlete) -> None:
    plates = [{"mass": m, "pairs": 4} for m in (45, 25, 10, 5, 2.5)]
    kit = {"name": "Pounds hall", "unit": "lb", "bar": 45, "collar": 0, "plates": plates, "has": [], "attachments": []}
    room = next(k["id"] for k in coach.ok("POST", "settings/kits", kit)["kits"] if k["name"] == "Pounds hall")
    coach.ok("PATCH", f"athletes/{athlete.pk}/record", {"kit_id": room})
    lift = next(x for x in coach.get(f"athletes/{athlete.pk}")["lifts"] if x["exercise_id"] == "back_squat")
    (row,) = coach.get("athletes")["squads"][0]["athletes"]
    assert lift["unit"] == "lb"
    assert lift["max"] == pytest.approx(lift["max_kg"] / POUND_KG, abs=0.15)
    assert lift["line"][-1]["load"] == lift["max"]
    assert next(x["max"] for x in row["lifts"] if x["exercise_id"] == "back_squat") == lift["max"]
    said = str(lift["working"])
    assert "176.4 × 6 (rep-max)" in said  # 80 kg
    assert " kg" not in said
    best = next(x for x in coach.get(f"athletes/{athlete.pk}/standing")["lifts"] if x["exercise"] == "Trap-bar deadlift")
    assert (best["tested"], best["unit"]) == (264.6, "lb")  # 120 kg


def test_a_class_limit_is_typed_in_ones_own_unit(coach: Any, athlete: Athlete) -> None:
    coach.ok("PUT", "me/habits", {"unit": "lb", "day_order": ""})
    coach.ok("PATCH", f"athletes/{athlete.pk}/record", {"class_limit": 157, "unit": "lb"})
    athlete.refresh_from_db()
    assert athlete.class_limit_kg == pytest.approx(157 * POUND_KG)
    assert coach.get(f"athletes/{athlete.pk}/record")["class_limit"] == 157
    coach.ok("PATCH", f"athletes/{athlete.pk}/record", {"class_limit": None})
    athlete.refresh_from_db()
    assert athlete.class_limit_kg is None


@pytest.mark.parametrize(
    ("mass", "unit", "is_taken"), [(44, "lb", False), (44.1, "lb", True), (551.2, "lb", False), (551, "lb", True)]
)
def test_a_body_mass_lies_within_its_limits_in_either_unit(
    coach: Any, athlete: Athlete, mass: float, unit: str, is_taken: bool
) -> None:
    answer = coach.send("POST", f"athletes/{athlete.pk}/masses", {"day": "2026-11-20", "mass": mass, "unit": unit})
    assert (answer.status_code == 200) is is_taken
    if not is_taken:
        assert answer.json()["accepted"] == "44 to 551 lb are accepted."


def test_days_are_written_as_whoever_reads_is_used_to(coach: Any, athlete: Athlete, second: Client) -> None:
    def said(answer: Any) -> str:
        return str(answer.json()["title"])

    ahead = {"day": "2027-02-03", "mass": 62}
    there = f"athletes/{athlete.pk}/masses"
    assert said(coach.send("POST", there, ahead)) == "3 February 2027 is still to come."
    coach.ok("PUT", "me/habits", {"unit": "", "day_order": "month first"})
    assert said(coach.send("POST", there, ahead)) == "February 3, 2027 is still to come."
    theirs = second.post(f"/api/{there}", ahead, content_type="application/json")
    assert said(theirs) == "3 February 2027 is still to come."


def test_the_working_of_a_max_says_its_days_to_each_in_their_order(coach: Any, athlete: Athlete, second: Client) -> None:
    def inputs(lifts: Any) -> str:
        return " ".join(i["name"] + i["text"] for x in lifts if x["exercise_id"] == "bench_press" for i in x["working"]["inputs"])

    assert "2 Nov" in inputs(coach.get(f"athletes/{athlete.pk}")["lifts"])
    coach.ok("PUT", "me/habits", {"unit": "", "day_order": "month first"})
    assert "Nov 2" in inputs(coach.get(f"athletes/{athlete.pk}")["lifts"])
    assert "2 Nov" in inputs(second.get(f"/api/athletes/{athlete.pk}").json()["lifts"])


def test_readers_of_two_kinds_do_not_throw_away_what_is_kept_for_each_other(
    coach: Any, athlete: Athlete, monkeypatch: Any
) -> None:
    monkeypatch.setattr(kept_known, "inside_transaction", lambda: False)
    coach.get("athletes")
    with days_written(DayOrder.MONTH_FIRST):
        assert "row" not in kept_known.kept_of([athlete.pk])[athlete.pk], "what others read is not said as it is here"
        kept_known.kept_of([athlete.pk])[athlete.pk]["row"] = "month first"
        assert kept_known.kept_of([athlete.pk])[athlete.pk]["row"] == "month first"
    assert kept_known.kept_of([athlete.pk])[athlete.pk]["row"].name == athlete.name
    kept_known.forget_all_kept()


def test_a_centre_in_pounds_loads_a_bar_in_pounds_where_no_kit_says_otherwise(
    coach: Any, athlete: Athlete, centre_says: Any
) -> None:
    coach.ok("POST", f"athletes/{athlete.pk}/competitions", {"name": "Test Open", "day": "2027-01-30"})
    week = coach.get(f"athletes/{athlete.pk}/week")["week"]
    bars = [x for d in week["days"] if d["sheet"] for x in d["sheet"]["lines"] if x["exercise_id"] == "trap_bar_deadlift"]
    assert bars
    assert {s["unit"] for x in bars for s in x["sets"]} == {"kg"}
    settings = centre_says("lb", "month first")
    assert (settings["unit"], settings["day_order"], settings["usual_kit"]["unit"]) == ("lb", "month first", "lb")
    assert (settings["usual_kit"]["bar"], settings["usual_kit"]["plates"][0]["mass"]) == (45, 45)
    week = coach.get(f"athletes/{athlete.pk}/week")["week"]
    bars = [x for d in week["days"] if d["sheet"] for x in d["sheet"]["lines"] if x["exercise_id"] == "trap_bar_deadlift"]
    assert {s["unit"] for x in bars for s in x["sets"]} == {"lb"}
    assert coach.get("me")["day_order"] == "month first"
    coach.ok("PUT", "me/habits", {"unit": "kg", "day_order": "day first"})
    assert (coach.get("me")["unit"], coach.get("me")["day_order"]) == ("kg", "day first"), "one's own stands before the centre's"


def test_what_is_contested_is_typed_and_shown_in_the_unit_of_the_room(coach: Any, athlete: Athlete, centre_says: Any) -> None:
    coach.ok("POST", f"athletes/{athlete.pk}/competitions", {"name": "Test Open", "day": "2027-04-03"})
    competition = coach.get(f"athletes/{athlete.pk}/contest")["competition_id"]
    centre_says("lb")
    pull = {"kind": "max_deadlift", "name": "Pull", "load": 400, "unit": "lb", "divisions": "Open 440, Masters 160 kg"}
    coach.ok("PATCH", f"competitions/{competition}", {"events": [pull]})
    contest = coach.get(f"athletes/{athlete.pk}/contest")
    (event,) = contest["events"]
    assert event["load_kg"] == pytest.approx(400 * POUND_KG)
    assert (contest["unit"], event["load"], event["unit"], event["divisions"]) == ("lb", 400, "lb", "Open 440, Masters 352.7")
    assert next(e["load_words"] for e in contest["exposures"] if e["what"] == "straight limit pull") == "380–400 lb"
    coach.ok("PATCH", f"competitions/{competition}", {"events": [event]})
    assert coach.get(f"athletes/{athlete.pk}/contest")["events"] == [event], "what is shown is what is typed"


@pytest.mark.parametrize(
    ("body", "where"),
    [({"unit": "st", "day_order": "day first"}, "unit"), ({"unit": "kg", "day_order": "year first"}, "day_order")],
)
def test_what_is_no_unit_or_order_is_refused(coach: Any, body: dict[str, str], where: str) -> None:
    for path in ("settings/habits", "me/habits"):
        answer = coach.send("PUT", path, body)
        assert (answer.status_code, answer.json()["where"]) == (422, where)
        assert answer.json()["accepted"]


def test_a_first_run_in_pounds(client: Client, django_capture_on_commit_callbacks: Any) -> None:
    body = {
        "name": "Skerry Hall", "zone": "", "unit": "lb", "day_order": "month first", "person": "Ingrid Aas",
        "sign_in": "ingrid", "password": "four words of a song",
    }  # fmt: skip
    with django_capture_on_commit_callbacks(execute=True):
        assert client.post("/api/first-run", body, content_type="application/json").status_code == 200
    me = client.get("/api/me").json()
    assert (me["unit"], me["day_order"], me["own_unit"]) == ("lb", "month first", "")


TABLE = "name\tborn\tbody weight\tbench press\nPia New\t2/3/2001\t150\t155"


def test_a_table_that_names_no_unit_is_read_as_whoever_pastes_it_is_used_to(coach: Any, squad: Any) -> None:
    def read(**more: Any) -> tuple[str, list[str], bool]:
        found = coach.ok("POST", "import/athletes/preview", {"text": TABLE, "squad": squad.name, **more})
        return found["rows"][0]["words"], [c["key"] for c in found["columns"]], found["month_first"]

    words, keys, month_first = read()
    assert (keys[2:], month_first) == (["mass_kg", "result:bench_press:kg"], False)
    assert "2001-03-02" in words
    coach.ok("PUT", "me/habits", {"unit": "lb", "day_order": "month first"})
    words, keys, month_first = read()
    assert (keys[2:], month_first) == (["mass_lb", "result:bench_press:lb"], True)
    assert "2001-02-03" in words
    assert "155 lb" in str(coach.ok("POST", "import/athletes/preview", {"text": TABLE, "squad": squad.name})["rows"])
    assert "2001-03-02" in read(month_first=False)[0], "what is said beside the table goes before what one is used to"
    coach.ok("POST", "import/athletes", {"text": TABLE, "squad": squad.name})
    pia = Athlete.objects.get(name="Pia New")
    assert pia.masses.get().mass_kg == pytest.approx(150 * POUND_KG, abs=0.06)
    assert pia.marks.get().load_kg == pytest.approx(155 * POUND_KG)
