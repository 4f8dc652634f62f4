"""What waits for the coach, the most pressing first: pain, proposals, restrictions that end, no competition, old results."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date, timedelta

from jarvok.app import clock
from jarvok.app.api.today.of_day import OLD_DAYS, OfDay
from jarvok.app.api.today.shapes import DecisionOut
from jarvok.app.facts.athletes.models import Athlete, Restriction
from jarvok.app.facts.put_together import Objects
from jarvok.app.floor.pains import as_told, open_reports
from jarvok.core.floor.pain import area_words
from jarvok.core.quantities.days import said_day

NAMED = 2  # [T] more than so many are one note with their names
NAMES_SHOWN = 4  # [T]
ENDS_WITHIN_DAYS = 7  # [J]


_ENDING_OF = Objects(
    lambda ids, first, last: Restriction.objects.filter(athlete_id__in=ids, until__range=(first, last)).order_by("until", "pk")
)


def waiting(people: Sequence[Athlete], days: Mapping[int, OfDay], *, sees_health: bool) -> list[DecisionOut]:
    """Return what waits, of these athletes."""
    found = [d for a in people for d in days[a.pk].rises]
    if sees_health:
        found = [*_pains(people), *found, *_ending(people)]
    without_goal = [a for a in people if days[a.pk].goal is None]
    return [*found, *_results(people, days), *_no_goal(without_goal), *_old([a for a in people if days[a.pk].is_old])]


def _pains(people: Sequence[Athlete]) -> list[DecisionOut]:
    by_id = {a.pk: a for a in people}
    found = []
    for pk, reports in open_reports(by_id).items():
        last = reports[-1]
        title = f"Pain in the {area_words(last.area)}"
        text = f"{as_told(last).words}. Loads wait for a word on it."
        path = f"/floor/{last.session_id}/review"
        found.append(_of(by_id[pk], "pain", title, text, path, "Decide in the review"))
    return found


def _ending(people: Sequence[Athlete]) -> list[DecisionOut]:
    today, by_id = clock.today(), {a.pk: a for a in people}
    rows = _ENDING_OF.of(list(by_id), today, today + timedelta(days=ENDS_WITHIN_DAYS))
    return [
        _of(
            by_id[r.athlete_id], "restriction", f"“{r.words}” ends on {said_day(r.until, weekday=True)}",
            f"Set by {r.set_by}. From then on it is planned again; longer only by their word.",
            f"/athletes/{r.athlete_id}/record", "Look at the details",
        )
        for r in rows
        if r.until is not None
    ]  # fmt: skip


def _results(people: Sequence[Athlete], days: Mapping[int, OfDay]) -> list[DecisionOut]:
    """Competitions gone by of which no result is written, each once for all who were there."""
    groups: dict[tuple[date, str], list[tuple[Athlete, int]]] = {}
    for athlete in people:
        for entry_id, name, day in days[athlete.pk].unwritten:
            groups.setdefault((day, name), []).append((athlete, entry_id))
    text = "Written down it teaches the max, and what to keep and change stands beside the next season."
    found = []
    for (day, name), those in sorted(groups.items(), reverse=True):
        athlete, entry_id = those[0]
        title = f"No result of {name}, {said_day(day)}"
        path, where = f"/athletes/{athlete.pk}/after/{entry_id}", "Write it down"
        if len(those) == 1:
            found.append(_of(athlete, "result", title, text, path, where))
        else:
            found.append(_of_several([a for a, _ in those], "result", title, text, path, f"Begin with {athlete.name}"))
    return found


def _no_goal(people: Sequence[Athlete]) -> list[DecisionOut]:
    text = "Give the competition and the season is built backwards, or plan a block of weeks."
    if len(people) <= NAMED:
        where = "Build the season"
        return [_of(a, "season", "No competition ahead", text, f"/athletes/{a.pk}/season", where) for a in people]
    title = f"No competition ahead of {len(people)} athletes"
    return [_of_several(people, "season", title, text, f"/athletes/{people[0].pk}/season", f"Begin with {people[0].name}")]


def _old(old: Sequence[Athlete]) -> list[DecisionOut]:
    """Of whom nothing has been learned for long, squad by squad."""
    found = []
    for squad in dict.fromkeys(a.squad for a in old):
        mine = [a for a in old if a.squad_id == squad.pk]
        whose = "athlete" if len(mine) == 1 else "athletes"
        title = f"Nothing new is known of {len(mine)} {whose} in {squad.name} for {OLD_DAYS // 7} weeks"
        text = "A test day renews them; so do heavy sets whose reserve is counted."
        found.append(_of_several(mine, "due", title, text, f"/squads/{squad.pk}/test-day", "Plan a test day"))
    return found


def _of(athlete: Athlete, kind: str, title: str, text: str, path: str, words: str) -> DecisionOut:
    return DecisionOut(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        kind=kind,
        title=title,
        text=text,
        path=path,
        path_words=words,
    )


def _of_several(people: Sequence[Athlete], kind: str, title: str, text: str, path: str, words: str) -> DecisionOut:
    names = ", ".join(a.name for a in people[:NAMES_SHOWN])
    more = f" and {len(people) - NAMES_SHOWN} more" if len(people) > NAMES_SHOWN else ""
    return DecisionOut(
        athlete_id=people[0].pk, athlete_name=names + more, kind=kind, title=title, text=text, path=path, path_words=words
    )
