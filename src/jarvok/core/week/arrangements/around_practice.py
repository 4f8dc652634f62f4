"""Two strength days around daily practice (combat, and field sport in season), from the phase of the season.

One day holds a bilateral lower-body lift paired with a press, the other a pull paired with a single-leg lift; each day
a carry and a trunk hold in opposite planes; jump-and-land practice in the warm-up from week one. Main movements move
along their chains from phase to phase and the quality before stays in the background at low volume. Common practice.
"""

from __future__ import annotations

from dataclasses import replace

from jarvok.core.exercises import Exercise
from jarvok.core.library.exercises import chains, exercise
from jarvok.core.season.model import PhaseKey, SeasonWeek
from jarvok.core.session.blocks import PAIR
from jarvok.core.week.dose import MOST_LIGHT_REPS, REPS_BELOW_PCT, with_accessories
from jarvok.core.week.plan import DayDraft, Draft, WeekFacts

LAST_HEAVY_DAYS_OUT = 10  # common practice: heavy lower-body work ends more than 10 days out


def days_around_practice(facts: WeekFacts) -> list[DayDraft]:
    """Return the two days: legs and press, pull and single leg."""
    return [
        DayDraft("A", "Legs and press", "high", _in_pairs(_day_a(facts, facts.out("A")))),
        DayDraft("B", "Pull and single leg", "high", _in_pairs(_day_b(facts, facts.out("B")))),
    ]


IN_TURN = ("A · main pair", "B · strength", "C · trunk and carry")


def _in_pairs(drafts: list[Draft]) -> list[Draft]:
    return [replace(d, style=PAIR) if d.block in IN_TURN else d for d in drafts]


# what two sessions a week hold in the phases of the other season models
_CONTENT = {
    PhaseKey.VOLUME: PhaseKey.BASE,
    PhaseKey.PEAK: PhaseKey.BASE,
    PhaseKey.MIXED: PhaseKey.BASE,
    PhaseKey.DOSES: PhaseKey.BASE,
    PhaseKey.IN_SEASON: PhaseKey.BASE,
}
CHAIN_SETS, SINGLE_LEG_SETS, GENERAL_REPS, GENERAL_EASY_REPS = 4, 3, 8, 6  # [C] in full work
BACKGROUND_SETS, ACCESSORY_SETS, LEAST_ACCESSORY_SETS = 2, 3, 2  # [C]


def content_of(week: SeasonWeek) -> PhaseKey:
    """Return the phase of the force-velocity progression whose exercises and forms the week takes.

    A taper keeps the strength lifts where the season model keeps strength work to the end.
    """
    if week.phase is PhaseKey.TAPER and week.keeps_strength:
        return PhaseKey.BASE
    return _CONTENT.get(week.phase, week.phase)


SHOULDER_FAULTS = frozenset({"shoulder_range", "shoulders_roll"})  # [C] then the press goes up at an angle
ANGLED, OVERHEAD, FLAT = "press_angled", "press_overhead", "press"


def _main_text(week: SeasonWeek, chain: str, lift: Exercise) -> str:
    """The main lift of a chain in full work, as shorthand; the week's dose takes sets off.

    Angled and overhead presses go by reserve: what a percentage of them is nobody tests.
    """
    phase = content_of(week)
    side = "/side" if lift.per_side else ""
    by_feel = chain in (ANGLED, OVERHEAD)
    if phase is PhaseKey.GENERAL:
        reps = GENERAL_EASY_REPS if week.is_easy else GENERAL_REPS
        return f"{CHAIN_SETS} × {reps}{side}" + (", 3 in reserve" if by_feel else f" @ {week.intensity_pct:g} %")
    if phase is PhaseKey.BASE:
        reps = next(reps for below, reps in REPS_BELOW_PCT if week.intensity_pct < below)
        if week.is_light:
            reps = min(reps, MOST_LIGHT_REPS)
        return f"{CHAIN_SETS} × {reps}{side}" + (", 2 in reserve" if by_feel else f" @ {week.intensity_pct:g} %")
    if phase is PhaseKey.STRENGTH_SPEED:
        if chain == "pull":
            return f"{CHAIN_SETS} × 4"
        if chain == "single_leg":
            return f"{SINGLE_LEG_SETS} × 4/side, 4 in reserve"
        return f"{CHAIN_SETS} × 3{side}" + (", 4 in reserve" if by_feel else " @ 0.70–0.80 m/s, stop at 10 % loss")
    if chain == "hinge":
        return f"{CHAIN_SETS} × 3 @ 30 %"
    return f"{SINGLE_LEG_SETS} × 4{side}"


_CHAIN_REASON = {
    PhaseKey.GENERAL: "back to moving load before the base",
    PhaseKey.BASE: "base strength: heavy and slow",
    PhaseKey.STRENGTH_SPEED: "heavy and fast: the base turned into power",
    PhaseKey.SPEED_STRENGTH: "light and fast, the same movement unloaded",
    PhaseKey.TAPER: "kept sharp, fewer sets",
    PhaseKey.VOLUME: "many sets, moderate loads",
    PhaseKey.PEAK: "heavy and few, toward the day",
    PhaseKey.MIXED: "built to a top set; the variation changes by a small step",
    PhaseKey.DOSES: "one small dose, short and sound",
    PhaseKey.IN_SEASON: "kept while matches take the rest",
}


def press_chain(facts: WeekFacts) -> tuple[str, str]:
    """Return the chain of the press for this athlete, and why: by the shoulder first, then by what is here.

    Every step of it has to be possible; where none is, the flat one stands and its lines are replaced one by one.
    """
    limits = facts.limits
    sore = bool(facts.faults & SHOULDER_FAULTS)
    order = (ANGLED, FLAT, OVERHEAD) if sore else (FLAT, ANGLED, OVERHEAD)
    possible = [c for c in order if all(limits.allows(exercise(e)) for e in chains()[c].values())]
    if not possible:
        return FLAT, ""
    if possible[0] == ANGLED and sore:
        return ANGLED, "pressed at an angle: the shoulder asks for it"
    if possible[0] != order[0]:
        return possible[0], f"no {exercise(chains()[order[0]]['base']).name.lower()} chain with what is here"
    return possible[0], ""


def _chain_draft(slot: str, block: str, chain: str, week: SeasonWeek, why: str = "") -> Draft:
    phase = content_of(week)
    step = "base" if phase is PhaseKey.GENERAL else phase.value
    reason = "; ".join(w for w in (_CHAIN_REASON[week.phase], why) if w)
    lift = exercise(chains()[chain][step])
    return Draft(slot, block, lift.id, _main_text(week, chain, lift), reason, True)


def _prepare(facts: WeekFacts, hangs: bool) -> list[Draft]:
    week = facts.week
    rows = [("low_box_landing", "", "2 × 4", "stick each landing before the fast phase")]
    if week.phase in (PhaseKey.STRENGTH_SPEED, PhaseKey.SPEED_STRENGTH, PhaseKey.TAPER):
        rows.append(("low_hurdle_jump", "", "3 × 5, rest 2:00", "short ground contact while fresh"))
    if with_accessories(facts) and hangs:
        rows.append(("", "grip", "2 × 15 s", "grip and shoulder"))
    elif with_accessories(facts):
        rows.append(("", "throw_whole", "2 × 4", "throws from week one, so that the fast phase has a base"))
    found = [Draft(f"P{n}", "Prepare", lift, text, why, role=role) for n, (lift, role, text, why) in enumerate(rows, start=1)]
    return found


def _background(week: SeasonWeek, exercise_id: str, days_out: int) -> list[Draft]:
    """The quality of the phase before, at low volume; not inside the last heavy exposure limit."""
    if week.phase not in (PhaseKey.STRENGTH_SPEED, PhaseKey.SPEED_STRENGTH, PhaseKey.TAPER):
        return []
    if days_out <= LAST_HEAVY_DAYS_OUT or content_of(week) is PhaseKey.BASE:
        return []
    reps = 3 if week.phase is PhaseKey.STRENGTH_SPEED else 2
    text = f"{BACKGROUND_SETS} × {reps} @ {week.intensity_pct:g} %, rest 3:00"
    return [Draft("B1", "B · strength", exercise_id, text, "max strength held in the background", True)]


def _accessory_text(week: SeasonWeek) -> str | None:
    """Accessories run their own line: light and many, then heavier and fewer, out in the taper."""
    if week.phase is PhaseKey.TAPER:
        return None
    match content_of(week):
        case PhaseKey.GENERAL | PhaseKey.BASE:
            return f"{ACCESSORY_SETS} × {8 if week.progress < 0.6 else 6}, 2 in reserve"
        case PhaseKey.STRENGTH_SPEED:
            return f"{ACCESSORY_SETS} × 6, 2 in reserve"
        case PhaseKey.SPEED_STRENGTH:
            return f"{LEAST_ACCESSORY_SETS} × 5, 2 in reserve"
        case _:
            return None


def _day_a(facts: WeekFacts, days_out: int) -> list[Draft]:
    week = facts.week
    drafts = _prepare(facts, hangs=False)
    drafts.append(_chain_draft("A1", "A · main pair", "hinge", week))
    press, why = press_chain(facts)
    drafts.append(_chain_draft("A2", "A · main pair", press, week, why))
    kept = _background(week, "trap_bar_deadlift", days_out)
    drafts += kept
    if text := _accessory_text(week):
        drafts.append(Draft("B2" if kept else "B1", "B · strength", "dead_stop_row", text, "grip and pulling into the clinch"))
    if week.phase is not PhaseKey.TAPER:
        drafts.append(
            Draft(
                "C1",
                "C · trunk and carry",
                "suitcase_carry",
                "2 × 30 m/side",
                "anti-lateral flexion; anti-extension the other day",
            )
        )
        drafts.append(Draft("C2", "C · trunk and carry", "front_hold", "2 × 40 s", "anti-extension, opposite the carry"))
    return drafts


def _day_b(facts: WeekFacts, days_out: int) -> list[Draft]:
    week = facts.week
    drafts = _prepare(facts, hangs=True)
    drafts.append(_chain_draft("A1", "A · main pair", "pull", week))
    drafts.append(_single_leg(week))
    kept = _background(week, "prone_row", days_out)
    drafts += kept
    if text := _accessory_text(week):
        drafts.append(Draft("B2" if kept else "B1", "B · strength", "", text, "groin and side to side", role="adductor"))
    if week.phase is not PhaseKey.TAPER:
        drafts.append(
            Draft("C1", "C · trunk and carry", "front_carry", "2 × 30 m", "anti-extension; anti-lateral flexion is the other day")
        )
        drafts.append(
            Draft("C2", "C · trunk and carry", "side_hold", "2 × 30 s/side", "anti-lateral flexion, opposite the carry")
        )
        drafts.append(left_over(facts))
    return drafts


# rounds of the sport: minutes and rest; common practice
ROUNDS = {"wrestling": ("2 × 3 min, rest 0:30", "two rounds at bout pace, as on the mat; last and short")}
NO_ROUNDS = ("6 × 30 s, rest 0:30", "short work at game pace; last and short")


def left_over(facts: WeekFacts) -> Draft:
    """Return what the time that is left goes to: five to ten minutes in the round length of the sport."""
    text, why = ROUNDS.get(facts.sport, NO_ROUNDS)
    return Draft("D1", "D · if time is left", "round_intervals", text, why)


def _single_leg(week: SeasonWeek) -> Draft:
    draft = _chain_draft("A2", "A · main pair", "single_leg", week)
    if content_of(week) in (PhaseKey.GENERAL, PhaseKey.BASE):
        text = f"{SINGLE_LEG_SETS} × 6/side, 2 in reserve"
        return Draft(draft.slot, draft.block, draft.exercise_id, text, draft.reason, True)
    return draft
