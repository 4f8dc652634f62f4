"""Two phases of an athlete, and two athletes of a squad, beside each other."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

import pytest
from conftest import Coach
from support.past import do

from jarvok.app.facts.athletes.models import Athlete, MarkRecord, Squad
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.learning.beside import phases_trained

pytestmark = pytest.mark.django_db
TODAY = date(2026, 11, 24)


def mark(athlete: Athlete, day: date, kg: float, lift: str = "snatch") -> None:
    MarkRecord.objects.create(athlete=athlete, exercise_id=lift, kind="one_rm", day=day, load_kg=kg, reps=1)


def train(athlete: Athlete, phase: str, first: date, weeks: int, sets: int) -> None:
    """Two sessions a week of a phase."""
    for n in range(weeks):
        for at in (0, 3):
            day = first + timedelta(days=7 * n + at)
            do(athlete, day, "A", sets=sets)
            TrainingSession.objects.filter(athlete=athlete, day=day).update(phase=phase)


@pytest.fixture
def in_phases(athlete: Athlete) -> Athlete:
    """Five weeks that brought a kilogram, then four that brought nine, three at a time."""
    train(athlete, "base", date(2026, 8, 31), 5, sets=4)
    train(athlete, "strength_speed", date(2026, 10, 5), 4, sets=2)
    for month, day, kg in ((8, 30, 70), (10, 1, 71), (10, 8, 74), (10, 18, 77), (10, 29, 80)):
        mark(athlete, date(2026, month, day), kg)
    return athlete


def row(page: Any, what: str) -> Any:
    return next(r for r in page["rows"] if r["what"] == what)


class TestPhases:
    def test_what_each_brought_and_what_was_done_in_it(self, coach: Coach, in_phases: Athlete) -> None:
        page = coach.get(f"learning/athlete/{in_phases.pk}/beside")
        assert [c["words"] for c in page["choices"]] == [
            "Base strength, 31 Aug to 1 Oct",
            "Strength-speed, 5 Oct to 29 Oct",
        ]
        assert (page["first"], page["second"]) == ("2026-10-01", "2026-10-29")
        snatch = row(page, "Snatch")
        assert (snatch["first"], snatch["second"], snatch["difference"]) == ("+1 kg", "+9 kg", "+8 kg")
        assert snatch["is_more_than_noise"]
        assert (row(page, "Main sets a week")["first"], row(page, "Main sets a week")["second"]) == ("9", "4")
        assert row(page, "Sessions a week")["first"] == "2.2"
        assert row(page, "Load a week, AU")["words"] == ""

    def test_chosen_the_other_way_round_the_difference_turns(self, coach: Coach, in_phases: Athlete) -> None:
        path = f"learning/athlete/{in_phases.pk}/beside"
        page, turned = coach.get(path), coach.get(f"{path}?first=2026-10-29&second=2026-10-01")
        assert row(turned, "Snatch")["first"] == row(page, "Snatch")["second"]
        assert row(turned, "Snatch")["difference"] == row(page, "Snatch")["difference"].replace("+", "−")

    @pytest.mark.parametrize("query", ["first=2026-10-01&second=2026-10-01", "first=2026-10-02", "second=all"])
    def test_others_than_two_that_are_listed_are_refused(self, coach: Coach, in_phases: Athlete, query: str) -> None:
        answer = coach.client.get(f"/api/learning/athlete/{in_phases.pk}/beside?{query}")
        assert (answer.status_code, answer.json()["title"]) == (422, "Choose two phases that are listed.")

    def test_one_phase_alone_has_nothing_beside_it(self, coach: Coach, athlete: Athlete) -> None:
        train(athlete, "base", date(2026, 10, 5), 4, sets=2)
        page = coach.get(f"learning/athlete/{athlete.pk}/beside")
        assert (len(page["choices"]), page["rows"]) == (1, [])

    @pytest.mark.parametrize(("weeks", "known"), [(1, 1), (2, 2)])
    def test_a_phase_of_less_than_a_week_is_none(self, coach: Coach, athlete: Athlete, weeks: int, known: int) -> None:
        train(athlete, "base", date(2026, 8, 31), 4, sets=2)
        train(athlete, "strength_speed", date(2026, 11, 2), weeks, sets=2)  # long after: counted from its own first day
        assert len(coach.get(f"learning/athlete/{athlete.pk}/beside")["choices"]) == known

    def test_after_a_long_break_a_phase_begins_with_its_own_first_day(self, coach: Coach, athlete: Athlete) -> None:
        train(athlete, "base", date(2026, 8, 31), 4, sets=2)
        train(athlete, "strength_speed", date(2026, 11, 2), 3, sets=2)
        mark(athlete, date(2026, 8, 30), 70)
        mark(athlete, date(2026, 10, 30), 60)  # what the break cost belongs to no phase
        mark(athlete, date(2026, 11, 19), 62)
        snatch = row(coach.get(f"learning/athlete/{athlete.pk}/beside"), "Snatch")
        assert not snatch["second"].startswith("−")

    @pytest.mark.parametrize(("break_days", "joins"), [(14, True), (15, False)])
    def test_after_more_than_two_weeks_a_phase_is_counted_from_its_own_first_day(
        self, athlete: Athlete, break_days: int, joins: bool
    ) -> None:
        train(athlete, "base", date(2026, 8, 31), 3, sets=2)
        base_ended = date(2026, 9, 17)
        first = base_ended + timedelta(days=break_days)
        train(athlete, "strength_speed", first, 3, sets=2)
        base, later = phases_trained(athlete, date(2026, 8, 1), TODAY)
        assert (base.until, later.began) == (base_ended, first)
        assert later.since == (base_ended if joins else first)

    @pytest.mark.parametrize(("days", "known"), [(6, 1), (7, 2)])
    def test_a_phase_is_a_week_or_more(self, athlete: Athlete, days: int, known: int) -> None:
        train(athlete, "base", date(2026, 8, 31), 3, sets=2)
        last = date(2026, 9, 17) + timedelta(days=days)
        do(athlete, last, "A", sets=2)
        TrainingSession.objects.filter(athlete=athlete, day=last).update(phase="taper")
        assert len(phases_trained(athlete, date(2026, 8, 1), TODAY)) == known


class TestAthletes:
    @pytest.fixture
    def three(self, squad: Squad, athlete: Athlete) -> list[Athlete]:
        people = [
            athlete,
            *(Athlete.objects.create(squad=squad, name=n, training_age_years=5) for n in ("Bea Test", "Cleo Test")),
        ]
        for who, kg in zip(people, (70, 72, 95), strict=True):
            mark(who, date(2026, 11, 20), kg)
        return people

    def test_two_on_one_day_beside_the_error_and_what_matters(self, coach: Coach, squad: Squad, three: list[Athlete]) -> None:
        ada, bea, cleo = three
        page = coach.get(f"learning/squad/{squad.pk}/beside?first={ada.pk}&second={cleo.pk}")
        snatch = row(page, "Snatch")
        assert (snatch["first"][:5], snatch["second"][:5], snatch["difference"]) == ("70 kg", "95 kg", "+25 kg")
        assert snatch["words"] == "more than noise"
        assert snatch["worthwhile"] == "3 kg"  # a fifth of the spread of 70, 72 and 95
        near = row(coach.get(f"learning/squad/{squad.pk}/beside?first={ada.pk}&second={bea.pk}"), "Snatch")
        assert near["words"] == "more than noise, too small to matter"

    def test_of_two_alone_it_is_not_known_what_matters(self, coach: Coach, squad: Squad, three: list[Athlete]) -> None:
        three[2].delete()
        assert row(coach.get(f"learning/squad/{squad.pk}/beside"), "Snatch")["worthwhile"] == ""

    def test_as_it_stood_on_a_day(self, coach: Coach, squad: Squad, three: list[Athlete]) -> None:
        path = f"learning/squad/{squad.pk}/beside?first={three[0].pk}&second={three[1].pk}"
        assert [r["what"] for r in coach.get(f"{path}&day=2026-11-19")["rows"] if r["what"] == "Snatch"] == []
        assert row(coach.get(f"{path}&day=2026-11-20"), "Snatch")

    @pytest.mark.parametrize(
        ("query", "said"),
        [
            ("day=2026-11-25", "That day is ahead."),
            ("day=2024-11-25", "That is too long ago to be worked out."),
            ("first=1&second=999999", "Choose two athletes that are listed."),
            ("group=Nobody", "Nobody is in Nobody."),
        ],
    )
    def test_what_cannot_be_compared_is_said(self, coach: Coach, squad: Squad, three, query: str, said: str) -> None:
        answer = coach.client.get(f"/api/learning/squad/{squad.pk}/beside?{query}")
        assert (answer.status_code, answer.json()["title"]) == (422, said)

    def test_a_group_chooses_from_itself_and_is_held_against_the_squad(self, coach: Coach, squad: Squad, three) -> None:
        Athlete.objects.filter(pk__in=[three[0].pk, three[1].pk]).update(group="Light")
        page = coach.get(f"learning/squad/{squad.pk}/beside?group=Light")
        assert [c["words"] for c in page["choices"]] == ["Ada Test", "Bea Test"]
        assert row(page, "Snatch")["worthwhile"] == "3 kg"

    def test_somebody_alone_has_nobody_beside_them(self, coach: Coach, squad: Squad, athlete: Athlete) -> None:
        assert coach.get(f"learning/squad/{squad.pk}/beside")["rows"] == []
