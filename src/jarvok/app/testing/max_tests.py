"""What a coach does in a guided test: start it, log an attempt, take one back, end it with its marks."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from django.db.models import Max, QuerySet

from jarvok.app import clock
from jarvok.app.acts import Who
from jarvok.app.athletes.actions import add_mark
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.reading import age_of, restrictions_of
from jarvok.app.athletes.typed_marks import TypedMark
from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.room.models import Trial
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.testing.tries import tries_of
from jarvok.core.exercises import Exercise
from jarvok.core.loading.state import LiftState
from jarvok.core.testing.choice import TestedAthlete, TestKind, TestOffer, offers_for
from jarvok.core.testing.steps import Attempt, Result, Step, next_step

IN_SEASON_DAYS = 21  # [J] this near to a competition counts as in season
BREAK_DAYS = 21  # common practice: over three weeks away, ramp again from a reduced max


@dataclass(frozen=True)
class NewAttempt:
    number: int
    load_kg: float
    reps: int
    felt: float | None
    form_broke: bool
    missed: bool
    velocity_mps: float | None


class Offers:
    """Which tests are open to some athletes today, read in a bounded number of queries."""

    def __init__(self, people: Sequence[Athlete]) -> None:
        self.today = clock.today()
        self.seasons = SeasonBook(people, self.today)
        done = TrainingSession.objects.filter(athlete__in=people, day__lte=self.today).order_by()
        self.last = dict(done.values_list("athlete_id").annotate(newest=Max("day")))

    def of(self, athlete: Athlete, lift: Exercise, has_pain: bool) -> tuple[TestOffer, ...]:
        """The five tests of one lift."""
        today, goal, last = self.today, self.seasons.goal(athlete.pk), self.last.get(athlete.pk)
        hit = next((r for r in restrictions_of(athlete, today) if r.tag in (lift.pattern, lift.region, *lift.tags)), None)
        return offers_for(
            TestedAthlete(
                age=age_of(athlete, today),
                training_age_years=athlete.years_of_lifting_on(clock.today()),
                supervised=athlete.supervised,
                in_season=goal is not None and (goal.day - today).days <= IN_SEASON_DAYS,
                has_pain=has_pain,
                restriction=hit.words if hit else "",
                is_cleared=hit is not None and bool(hit.cleared_by),
                is_returning=last is not None and today - last > timedelta(days=BREAK_DAYS),
                can_measure=lift.motion is not None and lift.velocity == "mean",
            )
        )


def offers(athlete: Athlete, lift: Exercise, has_pain: bool) -> tuple[TestOffer, ...]:
    """The five tests of one lift for one athlete."""
    return Offers([athlete]).of(athlete, lift, has_pain)


def guided(tests: QuerySet[Trial]) -> QuerySet[Trial]:
    """Those among some tests that are guided tests of a max."""
    return tests.filter(kind__in=list(TestKind))


def day_of(test: Trial) -> date:
    """The day on which a test was begun."""
    return test.day or clock.day_of(test.started_at)


def attempts_of(test: Trial) -> list[Attempt]:
    """The sets that count, in order."""
    return [a for a in tries_of(test) if isinstance(a, Attempt)]


def state_of(test: Trial) -> LiftState:
    """What is known of the lift on the test's day."""
    return LiftBook([test.athlete], day_of(test)).state(test.athlete_id, test.exercise_id)


def coming(test: Trial, state: LiftState, *, stop: bool = False) -> Step | Result:
    return next_step(TestKind(test.kind), attempts_of(test), state, stop)


def write_mark(who: Who, test: Trial, typed: TypedMark) -> MarkRecord:
    return add_mark.run(who, test.athlete, TypedMark(**{**typed.__dict__, "confirm": True}))  # it was seen: nothing to ask
