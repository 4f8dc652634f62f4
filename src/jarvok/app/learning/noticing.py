"""What the application noticed of some athletes and nobody has said a word on yet."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from datetime import date, timedelta

from jarvok.app import clock
from jarvok.app.athletes.kept_known import kept_of
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.centre.in_force import kit_of, unit_for
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SetRecord
from jarvok.app.facts.learning.models import Finding
from jarvok.app.floor.earlier_sets import pairs_of_people
from jarvok.app.floor.pair_rounds import PairsSeen, pairs_seen
from jarvok.app.learning.fast_loads import fast_loads_noticed
from jarvok.app.learning.lead_ins import lead_ins_noticed
from jarvok.app.learning.ways import tapers_noticed, variations_noticed
from jarvok.app.training.own_rests import OwnRest, own_rests_before
from jarvok.core.exercises import Exercise
from jarvok.core.learning.effort_noticed import jumps_that_hold, velocity_at_effort
from jarvok.core.learning.findings import Noticed, cues_typed, miscounts, too_light
from jarvok.core.learning.line_noticed import line_that_moved
from jarvok.core.learning.rest_noticed import BAND_S, rest_that_suits
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.rules import Rules
from jarvok.core.velocity.effort_table import Pair

KEY = "noticed"
NOTES_DAYS = 28  # [J] what was typed longer ago and not kept was for that day


def noticed_of(people: Sequence[Athlete], rules: Rules, since: date | None = None) -> dict[int, list[Noticed]]:
    """Return what was noticed of each athlete, newest first; `since` leaves out what is older."""
    kept = kept_of([a.pk for a in people])
    missing = [a for a in people if kept[a.pk].get(KEY, (None,))[0] != rules]
    for pk, rows in (_noticed(missing, rules) if missing else {}).items():
        kept[pk][KEY] = (rules, rows)
    return {pk: [n for n in rows[KEY][1] if since is None or n.day >= since] for pk, rows in kept.items()}


def _noticed(people: Sequence[Athlete], rules: Rules) -> dict[int, list[Noticed]]:
    book = LiftBook(people, clock.today(), rules=rules)
    notes, seen = _notes(people), pairs_seen(people, clock.today())
    rests = own_rests_before({a.pk: {lift for who, lift in seen.rounds if who == a.pk} for a in people if seen.rounds})
    tapers = tapers_noticed(people, clock.today(), rules)
    fast, lead_ins = fast_loads_noticed(people, book), lead_ins_noticed(people, clock.today())
    efforts = pairs_of_people([a.pk for a in people], clock.today())
    answered: dict[int, set[str]] = defaultdict(set)
    for athlete_id, ref in Finding.objects.filter(athlete__in=people).exclude(ref="").values_list("athlete_id", "ref"):
        if athlete_id is not None:
            answered[athlete_id].add(ref)
    found: dict[int, list[Noticed]] = {}
    for athlete in people:
        rows = [*cues_typed(notes[athlete.pk]), *_too_light(athlete, book)]
        off = miscounts(book.reserve(athlete.pk), kit_of(athlete.kit).unit)
        rows += [off] if off is not None else []
        rows += _of_pairs(athlete, seen, rests.get(athlete.pk, {}), book.day)
        rows += _of_lines(athlete, book)
        rows += variations_noticed(athlete, book)
        rows += [tapers[athlete.pk]] if athlete.pk in tapers else []
        rows += fast.get(athlete.pk, [])
        rows += [lead_ins[athlete.pk]] if athlete.pk in lead_ins else []
        rows += _of_efforts(efforts.get(athlete.pk, {}), book.day)
        mine = [n for n in rows if n.ref not in answered[athlete.pk]]
        found[athlete.pk] = sorted(mine, key=lambda n: n.day, reverse=True)
    return found


def _too_light(athlete: Athlete, book: LiftBook) -> list[Noticed]:
    rows = (
        too_light(e.name, e.id, book.history(athlete.pk, e.id), book.day, unit_for(e, athlete.kit))
        for e in exercises().values()
        if _is_trained_heavy(e)
    )
    return [n for n in rows if n is not None]


def _of_pairs(athlete: Athlete, seen: PairsSeen, rests: Mapping[str, OwnRest], today: date) -> list[Noticed]:
    """What rounds of heavy sets and jumps showed: a rest that suits and is not kept yet, and after which jump heights fall."""
    found: list[Noticed] = []
    known = exercises()
    for (who, lift), rounds in seen.rounds.items():
        if who == athlete.pk and lift in known:
            rest = rest_that_suits(known[lift].name, lift, rounds, today)
            if rest is not None and (lift not in rests or abs((rest.value or 0.0) - rests[lift].rest_s) >= BAND_S):
                found.append(rest)
    for (who, lift), sets in seen.jumps.items():
        if who == athlete.pk and lift in known:
            holds = jumps_that_hold(known[lift].name, lift, sets, today)
            found += [holds] if holds is not None else []
    return found


def _of_lines(athlete: Athlete, book: LiftBook) -> list[Noticed]:
    """Lifts whose line has moved, and was not said to have by a finding at work."""
    rows = (
        line_that_moved(e.name, e.id, points, book.day, unit_for(e, athlete.kit))
        for e in book.lifts_of(athlete.pk)
        if (points := book.points_of(athlete.pk, e.id)) and e.id not in book.facts_of(athlete.pk).line_since
    )
    return [n for n in rows if n is not None]


def _of_efforts(pairs: Mapping[str, Sequence[Pair]], today: date) -> list[Noticed]:
    known = exercises()
    rows = (velocity_at_effort(known[lift].name, lift, mine, today) for lift, mine in pairs.items() if lift in known)
    return [n for n in rows if n is not None]


def _is_trained_heavy(lift: Exercise) -> bool:
    """Whether its load grows: not a lift done fast, nor a classic one that is light for technique."""
    return lift.is_loaded and lift.same_lift == lift.id and lift.kind in ("strength", "accessory")


def _notes(people: Sequence[Athlete]) -> dict[int, list[tuple[date, str, str, str]]]:
    rows = SetRecord.objects.filter(
        line__session__athlete__in=people,
        line__session__day__gte=clock.today() - timedelta(days=NOTES_DAYS),
        taken_back_at__isnull=True,
        trouble="",
    ).exclude(note="")
    found: dict[int, list[tuple[date, str, str, str]]] = defaultdict(list)
    columns = ("pk", "line__session__athlete_id", "line__session__day", "line__exercise_id", "note")
    for pk, who, day, exercise_id, note in rows.order_by("pk").values_list(*columns):
        if exercise_id in exercises():
            found[who].append((day, exercise(exercise_id).same_lift, note, f"set:{pk}"))
    return found


def find_noticed(athlete: Athlete, ref: str, rules: Rules) -> Noticed | None:
    """What was noticed of an athlete under a reference, where it still stands."""
    return next((n for n in noticed_of([athlete], rules)[athlete.pk] if n.ref == ref), None)
