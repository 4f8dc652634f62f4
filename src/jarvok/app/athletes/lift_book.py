"""From facts in the database to what the core needs, with a bounded number of queries whatever the squad's size."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from datetime import date, timedelta

from django.db.models import Max, Q, QuerySet

from jarvok.app.athletes.past_sessions import read_past
from jarvok.app.athletes.typed_velocities import typed_velocities
from jarvok.app.athletes.worked_out import mark_of_day, max_of, profile_of
from jarvok.app.centre.in_force import kit_of, pulls_of, rules_in_force
from jarvok.app.facts.athletes.models import Athlete, MarkRecord, MaxDecision
from jarvok.app.facts.floor.models import Rep, SetKind, SetRecord, TrainingSession
from jarvok.app.facts.seasons.models import CalendarEntry, Entry
from jarvok.core.equations import EPLEY, MOST_REPS
from jarvok.core.exercises import Exercise
from jarvok.core.experience import is_novice
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.library.kit import implement_for
from jarvok.core.loading.state import LiftState
from jarvok.core.marks.conditions import from_raw, is_comparable, under, usual_of, words_of
from jarvok.core.marks.mark import EVIDENCE, Conditions, Mark, MarkKind
from jarvok.core.marks.past import PastSession
from jarvok.core.marks.readings import words_of as words_of_mark
from jarvok.core.marks.reserve_offset import ReserveOffset, reserve_offset
from jarvok.core.marks.sweep import Decision, own_relation_of
from jarvok.core.marks.working_max import CurrentMax, Proposal, TrendPoint, max_trend
from jarvok.core.rules import Rules
from jarvok.core.season.calendar import SpanKind
from jarvok.core.season.exposures import Event
from jarvok.core.season.missed import return_pct
from jarvok.core.season.model import Rank
from jarvok.core.velocity.daily_max import DailyMax, daily_max
from jarvok.core.velocity.definition import Definition
from jarvok.core.velocity.profile import LoadVelocity, Profile
from jarvok.core.working import Input

EVIDENCE_DAYS = 200
BREAKS_DAYS = 120  # a break is looked for so far back
MARK_DAYS = 420  # the trend of half a year, and half a year of marks before its first day
NO_GROWTH = (SpanKind.HOLIDAY, SpanKind.AWAY, SpanKind.ILL)
OTHERS_SHOWN = 2  # [T] marks under other conditions that a working names
TAPER = timedelta(days=14)  # published: 8 to 14 days, Bosquet et al. 2007, quoted from memory
KINDS = {kind.value: kind for kind in MarkKind}


class LiftBook:
    """Marks, sets and velocities of some athletes up to a day, read in ten queries and asked per lift.

    Past sessions are read in one more, the first time a load is to be set.
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
        ids = list(self.athletes)
        since = day - timedelta(days=EVIDENCE_DAYS)
        fresh = int(self.rules["velocity.oldest_days"])
        self.velocities_since = day - timedelta(days=max(fresh, history_days if history_days > EVIDENCE_DAYS else 0))
        self.marks: dict[tuple[int, str], list[Mark]] = defaultdict(list)
        self.usual: dict[tuple[int, str], Conditions] = {}  # where any mark names conditions, or the coach has
        self.others: dict[tuple[int, str], list[Mark]] = {}  # marks under other conditions than those
        self.decisions: dict[tuple[int, str], list[Decision]] = defaultdict(list)
        self._contests: dict[tuple[int, str], tuple[date, str, float]] = {}
        self.put_off: dict[tuple[int, str, str], date] = {}
        self.pauses: dict[int, list[tuple[date, date]]] = defaultdict(list)
        self.points: dict[tuple[int, str], list[LoadVelocity]] = defaultdict(list)
        self.all_points: dict[tuple[int, str], list[LoadVelocity]] = defaultdict(list)
        self._evidence: dict[tuple[int, str], list[Mark]] = {}
        self._max: dict[tuple[int, str], CurrentMax | None] = {}
        self._profile: dict[tuple[int, str], Profile | None] = {}
        self._history: Mapping[tuple[int, str], Sequence[PastSession]] | None = None
        self._history_of: frozenset[str] | None = None
        self._state: dict[tuple[int, str, Conditions], LiftState] = {}
        self._max_under: dict[tuple[tuple[int, str], Conditions], CurrentMax | None] = {}
        self._reserve: dict[int, ReserveOffset | None] = {}
        self._session_days: dict[int, list[date]] | None = None
        self._lifts: dict[int, set[str]] | None = None
        self._read_marks(ids, without_mark)
        self._read_sets(ids, since)
        self._read_decisions(ids)
        self._read_calendar(ids)
        self._read_velocities(ids, self.velocities_since)
        for athlete_id, lift_id, point in typed_velocities(ids, self.velocities_since, self.day, self.without_session):
            if all(p.ref != point.ref for p in self.all_points[athlete_id, lift_id]):  # a sensor of ours goes before
                self._point(athlete_id, lift_id, point)
        self._part_conditions()

    def _part_conditions(self) -> None:
        """Marks under other conditions than the usual ones of their lift stand beside the others: they are not compared."""
        for key, marks in self.marks.items():
            lift_id = key[1]
            told = self.athletes[key[0]].usual_conditions.get(lift_id) if key[0] in self.athletes else None
            if not told and not any(m.conditions for m in marks):
                continue
            typed = [m for m in marks if m.ref.startswith("mark:")]  # sets of a line with straps make no habit of them
            usual = usual_of(typed or marks, from_raw(told))
            self.usual[key] = usual
            self.others[key] = [m for m in marks if not is_comparable(m, (), usual)]
            marks[:] = [m for m in marks if is_comparable(m, (), usual)]

    def _read_marks(self, ids: list[int], without: int | None) -> None:
        """Marks of the last year and more; older ones of lifts that have no newer."""
        typed = MarkRecord.objects.filter(athlete_id__in=ids, day__lte=self.day, withdrawn_at__isnull=True, side="")
        if without is not None:
            typed = typed.exclude(pk=without)
        cut = self.day - timedelta(days=max(MARK_DAYS, int(self.rules["max.oldest_days"]) + MARK_DAYS // 2, self.history_days))
        evidence = typed.filter(kind__in=EVIDENCE).order_by()
        self._keep_marks(evidence.filter(day__gte=cut))
        seen = [{lift for (athlete, lift), marks in self.marks.items() if athlete == pk and marks} for pk in ids]
        known = set.intersection(*seen) if seen else set()
        self._keep_marks(evidence.filter(day__lt=cut).exclude(exercise_id__in=known))
        fast = typed.filter(kind__in=(MarkKind.SET_VELOCITY, MarkKind.VELOCITY_BEST), day__gte=self.velocities_since)
        for pk, athlete_id, exercise_id, day, load_kg, measures in fast.values_list(
            "pk", "athlete_id", "exercise_id", "day", "load_kg", "measures"
        ):
            self._point(
                athlete_id, exercise_id, LoadVelocity(day, load_kg, measures["velocity_mps"], f"mark:{pk}", Definition.DEVICE)
            )

    def _keep_marks(self, rows: QuerySet[MarkRecord]) -> None:
        for pk, athlete_id, exercise_id, day, kind, load_kg, reps, rir, told in rows.values_list(
            "pk", "athlete_id", "exercise_id", "day", "kind", "load_kg", "reps", "rir", "conditions"
        ):
            mark = Mark(f"mark:{pk}", day, KINDS[kind], load_kg, reps, rir, conditions=from_raw(told))
            self.marks[athlete_id, exercise_id].append(mark)

    def _read_decisions(self, ids: list[int]) -> None:
        """The last word on each piece of evidence; one of before evidence was named is about all typed on its day."""
        newest: dict[tuple[int, str, str], MaxDecision] = {}
        for d in MaxDecision.objects.filter(athlete_id__in=ids):
            marks = self.marks[d.athlete_id, d.exercise_id]
            refs = [d.evidence] if d.evidence else [m.ref for m in marks if m.day == d.day]
            newest |= {(d.athlete_id, d.exercise_id, ref): d for ref in refs}
        for (athlete_id, exercise_id, ref), d in newest.items():
            if d.ask_again_on is None:
                self.decisions[athlete_id, exercise_id].append(Decision(ref, d.accepted))
            else:
                self.put_off[athlete_id, exercise_id, ref] = d.ask_again_on

    def _read_calendar(self, ids: list[int]) -> None:
        """Days away or ill, and the days before main competitions: no max grows over them; and what contests ask for."""
        squads = {a.squad_id for a in self.athletes.values()}
        mine = Q(athlete_id__in=ids) | Q(squad_id__in=squads)
        since = self.day - timedelta(days=EVIDENCE_DAYS)
        spans = CalendarEntry.objects.filter(mine, kind__in=NO_GROWTH, withdrawn_at__isnull=True, end__gte=since)
        for e in spans:
            for a in self.athletes.values():
                if e.athlete_id == a.pk or (e.squad_id == a.squad_id and e.group in ("", a.group)):
                    self.pauses[a.pk].append((e.start, e.end))
        entered = Entry.objects.filter(athlete_id__in=ids, withdrawn_at__isnull=True).select_related("competition")
        for c in entered:
            if c.rank == Rank.MAIN and since <= c.day <= self.day + TAPER:
                self.pauses[c.athlete_id].append((c.day - TAPER, c.day))
            for event in (Event.from_raw(e) for e in c.events) if c.day >= self.day else ():
                load_kg = event.load_for(c.division)
                key = (c.athlete_id, event.exercise_id)
                if load_kg and event.exercise_id and (key not in self._contests or c.day < self._contests[key][0]):
                    self._contests[key] = (c.day, c.name, load_kg)

    def _read_sets(self, ids: list[int], since: date) -> None:
        rows = (
            SetRecord.objects.filter(
                line__session__athlete_id__in=ids,
                line__session__day__gte=since,
                line__session__day__lte=self.day,
                kind=SetKind.WORK,
                load_kg__gt=0,
                reps__range=(1, MOST_REPS),
                trouble="",
                form="",  # an easier or harder form is another exercise as far as the max goes
                taken_back_at__isnull=True,
            )
            .exclude(line__session_id=self.without_session)
            .order_by()
        )
        known = exercises()
        told = rows.filter(Q(rir__isnull=False) | Q(is_all_out=True)).values_list(
            "pk", "line__session__athlete_id", "line__exercise_id", "line__session__day", "load_kg", "reps", "rir",
            "line__conditions",
        )  # fmt: skip
        for pk, athlete_id, exercise_id, day, load_kg, reps, rir, said in told:
            key = (athlete_id, known[exercise_id].same_lift)
            kind = MarkKind.AMRAP if rir is None else MarkKind.SET_RIR
            self.marks[key].append(Mark(f"set:{pk}", day, kind, load_kg or 0.0, reps, rir or 0.0, conditions=from_raw(said)))
        untold = (  # the heaviest of each count of a day: of unknown effort, it says only that the max is no less
            rows.filter(rir__isnull=True, is_all_out=False)
            .values_list("line__session__athlete_id", "line__exercise_id", "line__session__day", "reps", "line__conditions")
            .annotate(heaviest=Max("load_kg"), last=Max("pk"))
        )
        best: dict[tuple[int, str, date, Conditions], Mark] = {}
        for athlete_id, exercise_id, day, reps, raw, load_kg, pk in untold:
            place = (athlete_id, known[exercise_id].same_lift, day, from_raw(raw))
            if place not in best or load_kg * EPLEY.ratio(reps) > best[place].load_kg * EPLEY.ratio(best[place].reps):
                best[place] = Mark(f"set:{pk}", day, MarkKind.SET_DONE, load_kg, reps, conditions=place[3])
        for (athlete_id, lift_id, _, _), mark in best.items():
            self.marks[athlete_id, lift_id].append(mark)

    def _read_velocities(self, ids: list[int], since: date) -> None:
        rows = (  # the fastest repetition of each set is all that is asked for
            Rep.objects.filter(
                line__session__athlete_id__in=ids,
                line__session__day__gte=since,
                line__session__day__lte=self.day,
                load_kg__gt=0,
                taken_out_at__isnull=True,
            )
            .exclude(line__session_id=self.without_session)
            .order_by()
            .values_list(
                "line_id",
                "kind",
                "set_number",
                "line__session__athlete_id",
                "line__exercise_id",
                "line__session__day",
                "load_kg",
                "definition",
            )
            .annotate(mean=Max("mean_mps"), peak=Max("peak_mps"))
        )
        known = exercises()
        for line_id, kind, number, athlete_id, exercise_id, day, load_kg, definition, mean, peak in rows:
            lift = known[known[exercise_id].same_lift]
            velocity = peak if lift.velocity == "peak" else mean
            if load_kg is not None:
                ref = f"line:{line_id}:{kind}:{number}"
                self._point(athlete_id, lift.id, LoadVelocity(day, load_kg, velocity, ref, Definition(definition)))

    def _point(self, athlete_id: int, lift_id: str, point: LoadVelocity) -> None:
        """Keep a repetition: for the record always, for the profile while it is fresh."""
        self.all_points[athlete_id, lift_id].append(point)
        if (self.day - point.day).days <= self.rules["velocity.oldest_days"]:
            self.points[athlete_id, lift_id].append(point)

    def history(self, athlete_id: int, exercise_id: str) -> tuple[PastSession, ...]:
        """Past sessions of an exercise, oldest first: the work sets of each line. A lift done fast has its own."""
        if self._history is None:
            self._history = self._past(list(self.athletes), self._history_of)
        return tuple(self._history.get((athlete_id, exercise_id), ()))

    def narrow_history(self, exercise_ids: frozenset[str]) -> None:
        """Read the past of these exercises only: what a page of loads for many needs, before anything is asked."""
        self._history_of = exercise_ids

    def _past(self, ids: list[int], of: frozenset[str] | None = None) -> Mapping[tuple[int, str], Sequence[PastSession]]:
        return read_past(ids, self.day - timedelta(days=self.history_days), self.day, of, self.without_session)

    def today(self, athlete_id: int, lift_id: str) -> DailyMax | None:
        """The max of the book's own day from that day's velocities."""
        points = [p for p in self.points[athlete_id, lift_id] if p.day == self.day]
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

    def _lifting_years(self, athlete_id: int) -> float | None:
        """Years of lifting as the max takes them: a beginner whose count was checked and is sound is none to it."""
        years = self.athletes[athlete_id].training_age_years
        if not is_novice(years, self.rules):
            return years
        offset = self.reserve(athlete_id)
        return None if offset is not None and offset.is_trusted else years

    def evidence(self, athlete_id: int, lift_id: str) -> list[Mark]:
        """Marks, sets with reserve and the velocity-based max of each day, for one lift."""
        key = (athlete_id, lift_id)
        if key not in self._evidence:
            self._evidence[key] = self._find_evidence(athlete_id, lift_id)
        return self._evidence[key]

    def _find_evidence(self, athlete_id: int, lift_id: str) -> list[Mark]:
        found = list(self.marks[athlete_id, lift_id])
        by_day: dict[date, list[LoadVelocity]] = defaultdict(list)
        for point in self.points[athlete_id, lift_id]:
            by_day[point.day].append(point)
        if by_day:
            rough = max_of(tuple(found), self.day, self.rules)
            for day, day_points in by_day.items():
                expected = rough.value_kg if rough else None
                mark = mark_of_day(tuple(day_points), exercise(lift_id), expected, self.rules, is_today=day == self.day)
                if mark is not None:
                    found.append(mark)
        return found

    def trend(self, athlete_id: int, lift_id: str, days: list[date]) -> tuple[TrendPoint, ...]:
        """The max that stood on each of some days."""
        return max_trend(
            self.evidence(athlete_id, lift_id),
            days,
            rules=self.rules,
            decisions=self.decisions[athlete_id, lift_id],
            training_age_years=self._lifting_years(athlete_id),
            pauses=self.pauses[athlete_id],
        )

    def max(self, athlete_id: int, exercise_id: str, conditions: Conditions = ()) -> CurrentMax | None:
        """The max under some conditions; none are the usual ones. Without a mark under them it is the usual max, and says so."""
        lift_id = exercise(exercise_id).same_lift
        key = (athlete_id, lift_id)
        usual = self.usual.get(key, ())
        if conditions and under(conditions, usual) != dict(usual):
            if (key, conditions) not in self._max_under:
                self._max_under[key, conditions] = self._find_max_under(key, conditions)
            return self._max_under[key, conditions]
        if key not in self._max:
            self._max[key] = self._find_max(key, self.evidence(*key), self._beside(key))
        return self._max[key]

    def _find_max(self, key: tuple[int, str], marks: list[Mark], beside: Sequence[Input] = ()) -> CurrentMax | None:
        return max_of(
            tuple(marks),
            self.day,
            self.rules,
            decisions=tuple(self.decisions[key]),
            training_age_years=self._lifting_years(key[0]),
            pauses=tuple(self.pauses[key[0]]),
            beside=tuple(beside),
        )

    def _find_max_under(self, key: tuple[int, str], conditions: Conditions) -> CurrentMax | None:
        usual, words = self.usual.get(key, ()), words_of(conditions)
        known = [*self.marks[key], *self.others.get(key, ())]
        found = self._find_max(
            key, [m for m in known if is_comparable(m, conditions, usual)], [Input("only results with", words)]
        )
        if found is not None or (found := self.max(*key)) is None:
            return found
        missing = (*found.working.missing, f"no result with {words} yet: from the usual one")
        return replace(found, working=found.working._replace(missing=missing))

    def _beside(self, key: tuple[int, str]) -> list[Input]:
        """What the working says of conditions: what counts as usual, and the newest marks that do not count for it."""
        usual, others = self.usual.get(key, ()), sorted(self.others.get(key, ()), key=lambda m: m.day)[-OTHERS_SHOWN:]
        said = [Input("as usual", words_of(usual))] if usual else []
        return said + [Input("not compared", f"{words_of_mark(m, self.day)}, {words_of(m.conditions)}", m.ref) for m in others]

    def asked(self, athlete_id: int, lift_id: str) -> Proposal | None:
        """A rise that waits for an answer today: one that was put off is asked again on its day."""
        current = self.max(athlete_id, lift_id)
        waiting = current.proposal if current is not None else None
        if waiting is None or self.put_off.get((athlete_id, lift_id, waiting.mark.ref), self.day) > self.day:
            return None
        return waiting

    def profile(self, athlete_id: int, exercise_id: str) -> Profile | None:
        lift_id = exercise(exercise_id).same_lift
        key = (athlete_id, lift_id)
        if key not in self._profile:
            current = self.max(athlete_id, lift_id)
            expected = current.value_kg if current else None
            points = tuple(self.points[key])
            self._profile[key] = profile_of(points, expected, self.rules, self.day)
        return self._profile[key]

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
            own_relation=own_relation_of(self.marks[athlete_id, lift_id], self.day, self.rules),
            rules=self.rules,
            history=self.history(athlete_id, exercise_id),
            today=self.today(athlete_id, lift_id),
            training_age_years=athlete.training_age_years,
            contest=contest[1:] if (contest := self._contests.get((athlete_id, exercise_id))) is not None else None,
            counts_reserve=not is_novice(self._lifting_years(athlete_id), self.rules),
            pulls=pulls_of(athlete.kit),
            return_pct=self._return_pct(athlete_id),
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
            rows = TrainingSession.objects.filter(athlete_id__in=list(self.athletes), day__gte=since, day__lte=self.day)
            for pk, day in rows.exclude(pk=self.without_session or 0).order_by().values_list("athlete_id", "day"):
                self._session_days[pk].append(day)
        return return_pct(self._session_days[athlete_id], self.day, self.rules)

    def lifts_of(self, athlete_id: int) -> list[Exercise]:
        """Lifts with any evidence, in the library's order."""
        if self._lifts is None:
            self._lifts = defaultdict(set)
            for rows in (self.marks, self.points):
                for (known_of, lift), found in rows.items():
                    if found:
                        self._lifts[known_of].add(lift)
        known = self._lifts[athlete_id]
        return [e for e in exercises().values() if e.id in known] if known else []
