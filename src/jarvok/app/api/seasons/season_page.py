"""A season put together for the page: plan, flags, last exposures, and the drift from the original."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from datetime import date, timedelta
from typing import Any

from jarvok.app.api.seasons.shapes import (
    DaysOut,
    DriftOut,
    EventOut,
    ExposureMarkOut,
    FixOut,
    FlagOut,
    NoteOut,
    PhaseOut,
    ResidualOut,
    SeasonBlockOut,
    SeasonCompetitionOut,
    SeasonOut,
    SpanOut,
    StyleOut,
    TaperOut,
    WeekModelOut,
    WeekOut,
)
from jarvok.app.athletes.kept_known import while_kept
from jarvok.app.athletes.reading import mass_on, practices_of
from jarvok.app.centre.habits import unit_at_the_desk
from jarvok.app.centre.in_force import kit_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.seasons.models import Entry
from jarvok.app.seasons.flag_words import words_kept
from jarvok.app.seasons.last_time import last_time
from jarvok.app.seasons.season_book import ANCHORS, SeasonBook, facts_from, plan_from
from jarvok.app.shapes import working_out
from jarvok.app.training.planned_weeks import contest_work_of, proposed_style_of, week_style_of
from jarvok.app.training.season_sets import edits_of, spending_of, too_heavy
from jarvok.app.training.session_loads import done_by_week
from jarvok.core.checks.guards import why_guarded
from jarvok.core.checks.mended_season import Planned, offered_in_season
from jarvok.core.checks.season import SeasonView
from jarvok.core.plan.season_spending import SeasonSpending, WeekSets
from jarvok.core.plan.taper_sets import taper_notes
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.mass import in_unit
from jarvok.core.quantities.sentence import counted
from jarvok.core.rules import Rules
from jarvok.core.season.arrangements import arrangement
from jarvok.core.season.blocks import BLOCK_WAYS
from jarvok.core.season.exposures import ClassGap, Event, Exposure, class_gap, written_divisions
from jarvok.core.season.facts import SeasonFacts
from jarvok.core.season.missed import Return, after_break
from jarvok.core.season.model import (
    RANK_NAMES,
    Phase,
    PhaseKey,
    Rank,
    Residual,
    SeasonPlan,
    SeasonWeek,
    Target,
    TrainingBlock,
    monday_of,
)
from jarvok.core.season.residuals import residuals_for
from jarvok.core.season.taper import Shape
from jarvok.core.week.placement import day_weights

# phases that take what is left, or what the calendar gives: nobody sets how long they are
# or what is counted in days
FREE_PHASES = ("general", "return", "hold", "in_season", "taper", "rising", "test", "open")


def _phase_out(p: Phase, following: Phase | None, competition_id: int | None) -> PhaseOut:
    return PhaseOut(
        id=p.id,
        key=p.key,
        name=p.name,
        toward=p.toward,
        competition_id=competition_id,
        start=p.first_day,
        end=p.end,
        weeks=p.weeks,
        least_weeks=p.least_weeks,
        most_weeks=p.most_weeks,
        pinned=p.pinned,
        can_set_length=p.id not in FREE_PHASES,
        can_move_end=following is not None and following.toward == p.toward and following.id not in FREE_PHASES,
    )


def _residual_out(r: Residual) -> ResidualOut:
    return ResidualOut(
        quality=r.quality,
        from_day=r.spans[0][0],
        spans=[DaysOut(start=a, end=b) for a, b in r.spans],
        last_exposure=r.last_exposure,
        expires=r.expires,
        earliest=r.last_exposure + timedelta(days=r.holds_days[0]),
        latest=r.last_exposure + timedelta(days=r.holds_days[1]),
        covers_competition=r.covers_competition,
        text=r.text,
    )


def season_of(athlete: Athlete, book: SeasonBook) -> SeasonOut | None:
    """The season as the page shows it, or None without anything ahead."""
    facts, plan, goal = book.facts(athlete.pk), book.plan(athlete.pk), book.goal(athlete.pk)
    if facts is None or plan is None or goal is None:
        return None
    today = book.today
    idle = idle_weeks(athlete, plan, today)

    def as_done(facts: SeasonFacts, plan: SeasonPlan) -> SeasonPlan:
        """A competition that has been passed counts no more, nor a week without a session."""
        if not idle and goal.day == plan.competition_day:
            return plan
        return replace(plan, residuals=residuals_for(plan.weeks, goal.day, facts.arrangement, facts.rules, idle))

    def planned(facts: SeasonFacts) -> SeasonPlan | None:
        anew = plan_from(facts)
        return as_done(facts, anew) if anew is not None else None

    plan = as_done(facts, plan)
    spending = spending_of(athlete, plan, book.rules)
    done = done_by_week(athlete, plan, spending, today)
    notes = (*while_kept(athlete, lambda: last_time(athlete, today), "last time"), *plan.notes, *taper_notes(plan, spending))
    ids = {c.name: c.pk for c in book.competitions(athlete.pk) if c.rank in ANCHORS and c.day >= plan.start}
    return SeasonOut(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        name=goal.name,
        built="built backwards by" if week_leads(plan, today) else "a block of weeks by",
        day=goal.day,
        days_to_go=(goal.day - today).days,
        today=today,
        start=plan.start,
        style=_style_out(facts, book, athlete.pk),
        week_model=_week_model_out(athlete, monday_of(today)),
        competitions=_competitions_out(athlete, book, plan),
        matches=list(facts.matches),
        spans=[SpanOut(kind=s.kind, name=s.words, start=s.start, end=s.end) for s in facts.spans],
        phases=[
            _phase_out(p, following, ids.get(p.toward))
            for p, following in zip(plan.phases, (*plan.phases[1:], None), strict=True)
        ],
        weeks=[_week_out(w, spending.weeks[w.index], facts, done, today) for w in plan.weeks],
        notes=[NoteOut(**n.__dict__) for n in notes],
        flags=_flags_out(athlete, book, facts, plan, spending, planned),
        residuals=[_residual_out(r) for r in plan.residuals],
        exposures=[
            ExposureMarkOut(event=e.event, what=e.what, day=e.day, days_out=e.days_out) for e in exposures_of(athlete, book, plan)
        ],
        drift=_drift(athlete, book, plan),
        working=working_out(plan.working),
        practice_weights=list(day_weights(practices_of(athlete, monday_of(today)))),
    )


def _session_days(athlete: Athlete) -> frozenset[date]:
    """The days of all sessions that were begun."""
    days = TrainingSession.objects.filter(athlete=athlete).values_list("day", flat=True)
    return while_kept(athlete, lambda: frozenset(days), "session days")


def idle_weeks(athlete: Athlete, plan: SeasonPlan, today: date) -> frozenset[date]:
    """Mondays of weeks gone by in which no session was done; none where nothing was ever recorded in this season."""
    worked = {monday_of(d) for d in _session_days(athlete) if plan.start <= d <= today}
    return frozenset(w.start for w in plan.weeks if w.end < today and w.start not in worked) if worked else frozenset()


def week_leads(plan: SeasonPlan, today: date) -> bool:
    """Whether this week leads to a competition."""
    week = plan.week_of(today)
    return week is not None and week.has_competition


def _style_out(facts: SeasonFacts, book: SeasonBook, athlete_id: int) -> StyleOut:
    return StyleOut(
        arrangement=facts.arrangement.key,
        arrangement_name=facts.arrangement.name,
        loading_weeks=book.style(athlete_id).loading_weeks,
        usual_loading_weeks=facts.arrangement.loading_weeks,
        usual_taper=TaperOut(**facts.usual_taper.__dict__),
        usual_taper_because=(
            f"{found.value:g} days, as has suited best: finding of {said_day(found.day, year=True)}"
            if (found := book.taper_found(athlete_id)) is not None
            else ""
        ),
        shapes=list(Shape),
        taper=TaperOut(**facts.taper.__dict__) if facts.taper is not None else None,
    )


def event_out(raw: Mapping[str, Any], unit: str) -> EventOut:
    """A kept event as the page shows it, its loads in the unit of the athlete's room."""
    e = Event.from_raw(raw)
    load = round(in_unit(e.load_kg, unit), 1) if e.load_kg is not None else None
    said = {"standing": e.standing.value, "divisions": written_divisions(e, unit), "load": load, "unit": unit}
    return EventOut(**{**e.__dict__, **said})


def _competitions_out(athlete: Athlete, book: SeasonBook, plan: SeasonPlan) -> list[SeasonCompetitionOut]:
    return [
        SeasonCompetitionOut(
            id=c.pk,
            name=c.name,
            day=book.ends(c),
            last_day=c.last_day,
            rank=c.rank,
            rank_name=RANK_NAMES[Rank(c.rank)],
            days_to_go=(book.ends(c) - book.today).days,
            weigh_in=c.weigh_in,
            events=[event_out(e, kit_of(athlete.kit).unit) for e in c.events],
            division=c.division,
            block=_block_out(c, plan),
        )
        for c in book.competitions(athlete.pk)
        if c.day >= plan.start
    ]


def _week_model_out(athlete: Athlete, monday: date) -> WeekModelOut:
    now, proposed = week_style_of(athlete, monday), proposed_style_of(athlete)
    return WeekModelOut(
        name=now.arrangement.name,
        days=now.days,
        is_own=now.is_own,
        proposed=proposed.arrangement.key,
        proposed_name=proposed.arrangement.name,
        proposed_days=proposed.days,
        is_proposed=(now.arrangement.key, now.days) == (proposed.arrangement.key, proposed.days),
    )


def _block_out(c: Entry, plan: SeasonPlan) -> SeasonBlockOut | None:
    if c.block is None:
        return None
    block = TrainingBlock.from_raw(c.block)
    weeks = sum(p.weeks for p in plan.phases if p.toward == c.name)
    return SeasonBlockOut(weeks=weeks, way=block.way, way_name=BLOCK_WAYS[block.way], has_test_week=block.has_test_week)


def _week_out(w: SeasonWeek, sets: WeekSets, facts: SeasonFacts, done: Mapping[int, float], today: date) -> WeekOut:
    return WeekOut(
        index=w.index,
        start=w.start,
        phase=w.phase,
        phase_name=w.phase_name,
        week_of_phase=w.week_of_phase,
        weeks_in_phase=w.weeks_in_phase,
        is_easy=w.is_easy,
        set_by_hand=w.start in facts.easy,
        is_by_hand=w.start in facts.by_hand,
        can_set=w.phase is not PhaseKey.TAPER and w.end >= today,
        dose_sets=sets.dose,
        main_sets=sets.sets,
        is_own=sets.is_own,
        volume=w.volume,
        intensity_pct=w.intensity_pct,
        days_to_go=(w.competition_day - w.start).days,
        matches=w.matches,
        note=w.note,
        done_share=done.get(w.index),
        can_ease=w.phase is not PhaseKey.TAPER,
    )


def exposures_of(athlete: Athlete, book: SeasonBook, plan: SeasonPlan) -> list[Exposure]:
    """The last heavy sessions before each competition ahead that says what is contested."""
    return [e for e in contest_work_of(athlete, plan, book.rules).exposures if e.day >= book.today]


def gap_of(athlete: Athlete, days_to_go: int | None) -> ClassGap | None:
    """The gap of the newest body mass to the class limit."""
    newest_kg = mass_on(athlete, date.max)
    if newest_kg is None or not athlete.class_limit_kg:
        return None
    return class_gap(newest_kg, athlete.class_limit_kg, days_to_go, unit=unit_at_the_desk())


def _break_of(athlete: Athlete, plan: SeasonPlan, today: date, rules: Rules) -> Return | None:
    last = max((d for d in _session_days(athlete) if d <= today), default=None)
    return after_break(last, today, rules) if last is not None and last >= plan.start - timedelta(days=28) else None


def added_work(athlete: Athlete, book: SeasonBook, plan: SeasonPlan, spending: SeasonSpending) -> dict[date, str]:
    """Main sets and loads added by hand in weeks that should stay light, in words per Monday."""
    found: dict[date, str] = {}
    own = [(w, s) for w, s in zip(plan.weeks, spending.weeks, strict=True) if s.is_own and w.end >= book.today and why_guarded(w)]
    edits = edits_of(athlete, plan) if own else {}
    for week, sets in own:
        more = [f"{sets.sets} main sets, {sets.planned} in the plan."] if sets.sets > sets.planned else []
        words = [*more, *too_heavy(athlete, plan, week, book.rules, edits)]
        if words:
            found[week.start] = " ".join(words)
    return found


def _flags_out(
    athlete: Athlete, book: SeasonBook, facts: SeasonFacts, plan: SeasonPlan, spending: SeasonSpending, planned: Planned
) -> list[FlagOut]:
    goal = book.goal(athlete.pk)
    days = (goal.day - book.today).days if goal else None
    view = SeasonView(
        plan,
        book.today,
        facts.taper,
        facts.spans,
        added_work(athlete, book, plan, spending),
        gap_of(athlete, days),
        _break_of(athlete, plan, book.today, book.rules),
    )
    kept = words_kept(athlete)
    return [
        FlagOut(
            check_id=f.check_id,
            severity=f.severity,
            title=f.title,
            reason=f.reason,
            source=f.source.text,
            slot="",
            where=f.where,
            week=f.week,
            fix=FixOut(words=f.fix.words, kind=f.fix.kind, values=dict(f.fix.values)) if f.fix else None,
            kept_id=word.pk if (word := kept.get((f.check_id, f.where))) else None,
            kept_reason=word.reason if word else "",
        )
        for f in offered_in_season(view, facts, planned)
    ]


def _drift(athlete: Athlete, book: SeasonBook, plan: SeasonPlan) -> DriftOut:
    baseline = book.style(athlete.pk).baseline
    if not baseline:
        return DriftOut(since="", words=[])
    original = plan_from(facts_from(baseline, book.entries(athlete.pk), book.today, book.rules))
    words = drift_words(original, plan, baseline) if original is not None else []
    return DriftOut(since=str(baseline["competitions"][0]["planned_from"]) if baseline["competitions"] else "", words=words)


def drift_words(original: SeasonPlan, now: SeasonPlan, baseline: Mapping[str, Any]) -> list[str]:
    """What has moved between two plans of one athlete, in words."""
    said: list[str] = []
    if original.arrangement != now.arrangement:
        said.append(f"{arrangement(original.arrangement).name} was planned, {arrangement(now.arrangement).name.lower()} is.")
    before, after = {t.name: t for t in original.targets}, {t.name: t for t in now.targets}
    for name in before.keys() | after.keys():
        said += _target_drift(name, before.get(name), after.get(name))
    lengths = {(p.toward, p.id): p for p in original.phases}
    current = {(p.toward, p.id): p for p in now.phases}
    for key in lengths.keys() & current.keys():
        if lengths[key].weeks != current[key].weeks:
            said.append(f"{current[key].name}: {lengths[key].weeks} → {current[key].weeks} weeks.")
    if original.arrangement == now.arrangement:
        said += [f"{lengths[key].name} is gone." for key in lengths.keys() - current.keys()]
    easy = {w.start for w in original.weeks if w.is_easy} ^ {w.start for w in now.weeks if w.is_easy}
    if easy and len(original.weeks) == len(now.weeks):
        said.append(f"Deload weeks differ in {len(easy)} places.")
    return sorted(said)


def _target_drift(name: str, before: Target | None, after: Target | None) -> list[str]:
    if before is None or after is None:
        return [f"{name} {'was added' if before is None else 'is gone'}."]
    days = (after.day - before.day).days
    moved = [f"{name} is {counted(abs(days), 'day')} {'later' if days > 0 else 'earlier'}."] if days else []
    ranked = [f"{name} was {RANK_NAMES[before.rank]}, now {RANK_NAMES[after.rank]}."] if before.rank is not after.rank else []
    return moved + ranked
