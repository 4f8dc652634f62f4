"""From facts in the database to what the core needs, with a bounded number of queries whatever the squad's size."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from typing import Any

from django.db.models import QuerySet

from jarvok.app import clock
from jarvok.app.athletes.kept_known import BEFORE_SETS, LIFTS, keep_large, kept_of
from jarvok.app.athletes.lift_facts import EVIDENCE_DAYS, LiftFacts, Wanted, read_lift_facts, read_sets_again, without_session
from jarvok.app.athletes.past_sessions import Past, past_of, read_past
from jarvok.app.athletes.worked_out import mark_of_day, max_of, profile_of
from jarvok.app.centre.in_force import kit_of, pulls_of, rules_in_force, unit_for
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.put_together import PutTogether
from jarvok.core.exercises import Exercise
from jarvok.core.experience import is_novice
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.library.kit import implement_for
from jarvok.core.loading.state import LiftState
from jarvok.core.marks.conditions import is_comparable, under, words_of
from jarvok.core.marks.mark import Conditions, Mark
from jarvok.core.marks.past import PastSession
from jarvok.core.marks.readings import words_of as words_of_mark
from jarvok.core.marks.reserve_offset import ReserveOffset, reserve_offset
from jarvok.core.marks.sweep import own_relation_of
from jarvok.core.marks.working_max import CurrentMax, Proposal, TrendPoint, max_trend
from jarvok.core.quantities.days import said_day
from jarvok.core.rules import Rules
from jarvok.core.season.missed import return_pct
from jarvok.core.velocity.daily_max import DailyMax, daily_max
from jarvok.core.velocity.profile import LoadVelocity, Profile
from jarvok.core.working import Input


def _sessions(ids: Sequence[int], since: date, day: date) -> QuerySet[TrainingSession, Any]:
    rows = TrainingSession.objects.filter(athlete_id__in=ids, day__range=(since, day)).order_by()
    return rows.values_list("pk", "athlete_id", "day")


_SESSIONS = PutTogether(_sessions)
BREAKS_DAYS = 120  # a break is looked for so far back
OTHERS_SHOWN = 2  # [T] marks under other conditions that a working names


@dataclass
class Worked:
    """What has been worked out of one athlete's facts so far, by lift."""

    facts: LiftFacts
    evidence: dict[str, list[Mark]] = field(default_factory=dict)
    max: dict[str, CurrentMax | None] = field(default_factory=dict)
    max_under: dict[tuple[str, Conditions], CurrentMax | None] = field(default_factory=dict)
    profile: dict[str, Profile | None] = field(default_factory=dict)
    trend: dict[tuple[str, tuple[date, ...]], tuple[TrendPoint, ...]] = field(default_factory=dict)
    past: Past | None = None  # once a page of this athlete alone has asked
    past_before: Past | None = None  # as it was read before some sets


class LiftBook:
    """Marks, sets and velocities of some athletes up to a day, asked per lift: of those of whom it is kept, without reading.

    Past sessions are read in one more query, the first time a load is to be set.
    """

    def __init__(
        self, athletes: Iterable[Athlete], day: date, without_session: int | None = None, rules: Rules | None = None,
        without_mark: int | None = None, history_days: int = EVIDENCE_DAYS,
    ) -> None:  # fmt: skip
        self.day = day
        self.history_days = history_days
        self.rules = rules or rules_in_force()
        self.without_session = without_session
        self.athletes = {a.pk: a for a in athletes}
        self._history: Mapping[tuple[int, str], Sequence[PastSession]] | None = None
        self._history_of: frozenset[str] | None = None
        self._state: dict[tuple[int, str, Conditions], LiftState] = {}
        self._reserve: dict[int, ReserveOffset | None] = {}
        self._session_days: dict[int, list[date]] | None = None
        wanted = Wanted(day, self.rules, history_days, without_session, without_mark)
        self.velocities_since = wanted.velocities_since
        is_usual = day == clock.today() and history_days == EVIDENCE_DAYS and without_mark is None
        self._worked = self._kept(replace(wanted, without_session=None)) if is_usual else self._read(self.athletes, wanted)
        if is_usual and without_session is not None:
            self._worked = {pk: self._without(pk, worked, wanted) for pk, worked in self._worked.items()}

    def _read(self, athletes: Mapping[int, Athlete], wanted: Wanted) -> dict[int, Worked]:
        return {pk: Worked(facts) for pk, facts in read_lift_facts(athletes, wanted).items()}

    def _kept(self, wanted: Wanted) -> dict[int, Worked]:
        """What is kept of each athlete under these rules and what is said of them now; read of the others."""
        kept, found, before = kept_of(self.athletes), dict[int, Worked](), dict[int, Worked]()
        said = {
            pk: (self.rules, a.years_of_lifting_on(self.day), repr(a.usual_conditions), a.group)
            for pk, a in self.athletes.items()
        }
        for pk, saying in said.items():
            for name, into in ((LIFTS, found), (BEFORE_SETS[LIFTS], before)):
                of, worked = kept[pk].get(name, (None, None))
                if worked is not None and of == saying:
                    into[pk] = worked
                    break
        known = dict(found)
        for pk, facts in read_sets_again({pk: w.facts for pk, w in before.items()}, self._some(before), wanted).items():
            known[pk] = self._after_sets(pk, before[pk], facts)
        known |= self._read(self._some(set(self.athletes) - set(known)), wanted)
        for pk, worked in known.items():
            keep_large(pk, kept[pk], LIFTS, (said[pk], worked))
        return known

    def _without(self, athlete_id: int, worked: Worked, wanted: Wanted) -> Worked:
        """The same as if a session had not been."""
        facts = without_session(worked.facts, self.athletes[athlete_id], wanted)
        return self._after_sets(athlete_id, worked, facts)

    def _some(self, ids: Collection[int]) -> dict[int, Athlete]:
        return {pk: a for pk, a in self.athletes.items() if pk in ids}

    def _after_sets(self, athlete_id: int, before: Worked, facts: LiftFacts) -> Worked:
        """What was worked out before some sets, of the lifts of which they say nothing."""
        found, was = Worked(facts, past_before=before.past or before.past_before), before.facts
        same = {
            lift
            for lift in before.evidence
            if facts.marks.get(lift, []) == was.marks.get(lift, []) and facts.points.get(lift, []) == was.points.get(lift, [])
            and facts.usual.get(lift) == was.usual.get(lift) and facts.others.get(lift, []) == was.others.get(lift, [])
            and facts.decisions.get(lift, []) == was.decisions.get(lift, [])
        }  # fmt: skip
        found.evidence = {lift: marks for lift, marks in before.evidence.items() if lift in same}
        if not is_novice(self.athletes[athlete_id].years_of_lifting_on(self.day), self.rules):
            # what a beginner's max grows by hangs on all counted sets, of whatever lift
            found.max = {lift: value for lift, value in before.max.items() if lift in same}
            found.max_under = {key: value for key, value in before.max_under.items() if key[0] in same}
            found.profile = {lift: value for lift, value in before.profile.items() if lift in same}
            found.trend = {key: value for key, value in before.trend.items() if key[0] in same}
        return found

    def facts_of(self, athlete_id: int) -> LiftFacts:
        """What is known of an athlete's lifts, to be left as it is."""
        return self._worked[athlete_id].facts

    def marks_of(self, athlete_id: int, lift_id: str) -> Sequence[Mark]:
        """Results and sets that say something of a lift under its usual conditions."""
        return self.facts_of(athlete_id).marks.get(lift_id, ())

    def others_of(self, athlete_id: int) -> Iterable[Mark]:
        """Results saying other conditions than the usual ones, of all lifts."""
        return (m for marks in self.facts_of(athlete_id).others.values() for m in marks)

    def points_of(self, athlete_id: int, lift_id: str) -> Sequence[LoadVelocity]:
        """Loads and their velocities, as far as they are fresh."""
        return self.facts_of(athlete_id).points.get(lift_id, ())

    def all_points_of(self, athlete_id: int, lift_id: str) -> Sequence[LoadVelocity]:
        """Loads and their velocities as far back as was read."""
        return self.facts_of(athlete_id).all_points.get(lift_id, ())

    def put_off_until(self, athlete_id: int, lift_id: str, evidence: str) -> date | None:
        """The day on which a rise that was put off is asked for again."""
        return self.facts_of(athlete_id).put_off.get((lift_id, evidence))

    def history(self, athlete_id: int, exercise_id: str) -> tuple[PastSession, ...]:
        """Past sessions of an exercise, oldest first: the work sets of each line. A lift done fast has its own."""
        if self._history is None:
            self._history = self._past(list(self.athletes), self._history_of)
        return tuple(self._history.get((athlete_id, exercise_id), ()))

    def narrow_history(self, exercise_ids: frozenset[str]) -> None:
        """Read the past of these exercises only: what a page of loads for many needs, before anything is asked."""
        self._history_of = exercise_ids

    def _past(self, ids: list[int], of: frozenset[str] | None = None) -> Mapping[tuple[int, str], Sequence[PastSession]]:
        if len(ids) == 1:
            (pk,) = ids
            worked = self._worked[pk]
            if worked.past is None:
                since, heard = self.day - timedelta(days=self.history_days), worked.facts.sets.heard
                worked.past = past_of(pk, since, self.day, heard, worked.past_before)
            return {(pk, x): rows for x, rows in worked.past.by_exercise(self.without_session).items()}
        return self._read_past(ids, of)

    def _read_past(self, ids: list[int], of: frozenset[str] | None = None) -> dict[tuple[int, str], list[PastSession]]:
        return read_past(ids, self.day - timedelta(days=self.history_days), self.day, of, self.without_session)

    def today(self, athlete_id: int, lift_id: str) -> DailyMax | None:
        """The max of the book's own day from that day's velocities."""
        points = [p for p in self.points_of(athlete_id, lift_id) if p.day == self.day]
        current = self.max(athlete_id, lift_id)
        return daily_max(points, exercise(lift_id), current.value_kg if current else None, self.rules) if points else None

    def reserve(self, athlete_id: int) -> ReserveOffset | None:
        """How far off the athlete's count of repetitions in reserve usually is, over all lifts."""
        if athlete_id not in self._reserve:
            if self._history_of is not None:
                past = self._past([athlete_id])
            else:
                past = self._history = self._history if self._history is not None else self._past(list(self.athletes))
            histories = [sessions for (a, _), sessions in past.items() if a == athlete_id]
            self._reserve[athlete_id] = reserve_offset(histories, self.day, self.rules)
        return self._reserve[athlete_id]

    def body_kg(self, athlete_id: int, lift_id: str) -> float:
        """Bodyweight that is lifted with the load, in kg; 0 where none is, or nobody has recorded it."""
        return self.facts_of(athlete_id).mass_kg or 0.0 if exercise(lift_id).carries_body else 0.0

    def _lifting_years(self, athlete_id: int) -> float | None:
        """Years of lifting as the max takes them: a beginner whose count was checked and is sound is none to it."""
        years = self.athletes[athlete_id].years_of_lifting_on(self.day)
        if not is_novice(years, self.rules):
            return years
        offset = self.reserve(athlete_id)
        return None if offset is not None and offset.is_trusted else years

    def evidence(self, athlete_id: int, lift_id: str) -> list[Mark]:
        """Marks, sets with reserve and the velocity-based max of each day, for one lift."""
        worked = self._worked[athlete_id]
        if lift_id not in worked.evidence:
            worked.evidence[lift_id] = self._find_evidence(athlete_id, lift_id)
        return worked.evidence[lift_id]

    def _find_evidence(self, athlete_id: int, lift_id: str) -> list[Mark]:
        found = list(self.marks_of(athlete_id, lift_id))
        by_day: dict[date, list[LoadVelocity]] = defaultdict(list)
        for point in self.points_of(athlete_id, lift_id):
            by_day[point.day].append(point)
        if by_day:
            rough = max_of(tuple(found), self.day, self.rules, body_kg=self.body_kg(athlete_id, lift_id))
            for day, day_points in by_day.items():
                expected = rough.value_kg if rough else None
                mark = mark_of_day(tuple(day_points), exercise(lift_id), expected, self.rules, is_today=day == self.day)
                if mark is not None:
                    found.append(mark)
        return found

    def trend(self, athlete_id: int, lift_id: str, days: list[date]) -> tuple[TrendPoint, ...]:
        """The max that stood on each of some days."""
        worked, key = self._worked[athlete_id], (lift_id, tuple(days))
        if key not in worked.trend:
            worked.trend[key] = max_trend(
                self.evidence(athlete_id, lift_id),
                days,
                rules=self.rules,
                decisions=worked.facts.decisions.get(lift_id, []),
                training_age_years=self._lifting_years(athlete_id),
                pauses=worked.facts.pauses,
                body_kg=self.body_kg(athlete_id, lift_id),
            )
        return worked.trend[key]

    def max(self, athlete_id: int, exercise_id: str, conditions: Conditions = ()) -> CurrentMax | None:
        """The max under some conditions; none are the usual ones. Without a mark under them it is the usual max, and says so."""
        lift_id = exercise(exercise_id).same_lift
        worked, key = self._worked[athlete_id], (athlete_id, lift_id)
        usual = worked.facts.usual.get(lift_id, ())
        if conditions and under(conditions, usual) != dict(usual):
            if (lift_id, conditions) not in worked.max_under:
                worked.max_under[lift_id, conditions] = self._find_max_under(key, conditions)
            return worked.max_under[lift_id, conditions]
        if lift_id not in worked.max:
            worked.max[lift_id] = self._find_max(key, self.evidence(*key), self._beside(key))
        return worked.max[lift_id]

    def _find_max(self, key: tuple[int, str], marks: list[Mark], beside: Sequence[Input] = ()) -> CurrentMax | None:
        return max_of(
            tuple(marks),
            self.day,
            self.rules,
            decisions=tuple(self.facts_of(key[0]).decisions.get(key[1], ())),
            training_age_years=self._lifting_years(key[0]),
            pauses=tuple(self.facts_of(key[0]).pauses),
            beside=tuple(beside),
            unit=unit_for(exercise(key[1]), self.athletes[key[0]].kit),
            body_kg=self.body_kg(*key),
        )

    def _find_max_under(self, key: tuple[int, str], conditions: Conditions) -> CurrentMax | None:
        facts, words = self.facts_of(key[0]), words_of(conditions)
        usual, known = facts.usual.get(key[1], ()), [*self.marks_of(*key), *facts.others.get(key[1], ())]
        found = self._find_max(
            key, [m for m in known if is_comparable(m, conditions, usual)], [Input("only results with", words)]
        )
        if found is not None or (found := self.max(*key)) is None:
            return found
        missing = (*found.working.missing, f"no result with {words} yet: from the usual one")
        return replace(found, working=found.working._replace(missing=missing))

    def _beside(self, key: tuple[int, str]) -> list[Input]:
        """What the working says of conditions: what counts as usual, and the newest marks that do not count for it."""
        facts = self.facts_of(key[0])
        usual, others = facts.usual.get(key[1], ()), sorted(facts.others.get(key[1], ()), key=lambda m: m.day)[-OTHERS_SHOWN:]
        said = [Input("as usual", words_of(usual))] if usual else []
        return said + [Input("not compared", f"{words_of_mark(m, self.day)}, {words_of(m.conditions)}", m.ref) for m in others]

    def asked(self, athlete_id: int, lift_id: str) -> Proposal | None:
        """A rise that waits for an answer today: one that was put off is asked again on its day."""
        current = self.max(athlete_id, lift_id)
        waiting = current.proposal if current is not None else None
        put_off = self.put_off_until(athlete_id, lift_id, waiting.mark.ref) if waiting is not None else None
        return None if put_off is not None and put_off > self.day else waiting

    def profile(self, athlete_id: int, exercise_id: str) -> Profile | None:
        lift_id, worked = exercise(exercise_id).same_lift, self._worked[athlete_id]
        if lift_id not in worked.profile:
            current = self.max(athlete_id, lift_id)
            expected = current.value_kg if current else None
            worked.profile[lift_id] = self._find_profile(athlete_id, lift_id, expected)
        return worked.profile[lift_id]

    def _find_profile(self, athlete_id: int, lift_id: str, expected: float | None) -> Profile | None:
        """The line of the fresh points; of those since it has moved alone, where that was kept and they make a sound one."""
        points, since = self.points_of(athlete_id, lift_id), self.facts_of(athlete_id).line_since.get(lift_id)
        if since is not None:
            newer = profile_of(tuple(p for p in points if p.day >= since), expected, self.rules, self.day)
            if newer is not None and newer.is_sound:
                said = f"of velocities since {said_day(since)} alone: the line has moved since, as a finding says"
                return replace(newer, waiting="; ".join(filter(None, (said, newer.waiting))))
        return profile_of(tuple(points), expected, self.rules, self.day)

    def state(self, athlete_id: int, exercise_id: str, conditions: Conditions = ()) -> LiftState:
        """What the core needs to set a load: own max under the conditions, else one inferred from a related lift."""
        key = (athlete_id, exercise_id, conditions)
        if key not in self._state:
            self._state[key] = self._make_state(athlete_id, exercise_id, conditions)
        return self._state[key]

    def _make_state(self, athlete_id: int, exercise_id: str, conditions: Conditions) -> LiftState:
        wanted, athlete = exercise(exercise_id), self.athletes[athlete_id]
        lift_id = wanted.same_lift
        state = LiftState(
            exercise=wanted,
            implement=implement_for(wanted, kit_of(athlete.kit)),
            max=self.max(athlete_id, exercise_id, conditions),
            profile=self.profile(athlete_id, exercise_id),
            own_relation=own_relation_of(
                self.marks_of(athlete_id, lift_id), self.day, self.rules, self.body_kg(athlete_id, lift_id)
            ),
            rules=self.rules,
            history=self.history(athlete_id, exercise_id),
            today=self.today(athlete_id, lift_id),
            training_age_years=athlete.years_of_lifting_on(self.day),
            contest=contest[1:] if (contest := self.facts_of(athlete_id).contests.get(exercise_id)) is not None else None,
            counts_reserve=not is_novice(self._lifting_years(athlete_id), self.rules),
            pulls=pulls_of(athlete.kit),
            return_pct=self._return_pct(athlete_id),
            body_kg=self.body_kg(athlete_id, lift_id),
        )
        if state.max is None and wanted.max_from is not None:
            source_id, ratio = wanted.max_from
            related = self.max(athlete_id, source_id)
            if related is not None:
                name = exercise(source_id).name.lower()
                state = replace(state, max=related, related_max_from=name, related_ratio=ratio)
        return state

    def _return_pct(self, athlete_id: int) -> float:
        """The share of the max to plan from: less for a while after more than three weeks away."""
        if self._session_days is None:
            self._session_days = defaultdict(list)
            since = self.day - timedelta(days=BREAKS_DAYS)
            for session, pk, day in _SESSIONS.rows(list(self.athletes), since, self.day):
                if session != self.without_session:
                    self._session_days[pk].append(day)
        return return_pct(self._session_days[athlete_id], self.day, self.rules)

    def lifts_of(self, athlete_id: int) -> list[Exercise]:
        """Lifts with any evidence, in the library's order."""
        facts = self.facts_of(athlete_id)
        known = {lift for rows in (facts.marks, facts.points) for lift, found in rows.items() if found}
        return [e for e in exercises().values() if e.id in known] if known else []
