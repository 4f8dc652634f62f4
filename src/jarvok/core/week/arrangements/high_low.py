"""High and low days for running team sports, themed, five or four days. Common practice."""

from __future__ import annotations

from jarvok.core.season.model import PhaseKey
from jarvok.core.week.dose import accessory_text, heavy_text, jump_text, lifts_text, with_accessories
from jarvok.core.week.plan import DayDraft, Draft, WeekArrangement, WeekFacts

HEAVY_KG = 100.0  # [J] from here on carries and drags take the place of tempo runs
FAST_PHASES = (PhaseKey.STRENGTH_SPEED, PhaseKey.SPEED_STRENGTH, PhaseKey.TAPER, PhaseKey.PEAK)


def high_low(facts: WeekFacts) -> list[DayDraft]:
    """Return a low lead-in day, two high days of different theme, and low days between."""
    lead, accelerate, low, top, last = _lead_in(facts), _acceleration(facts), _low(facts), _top_speed(facts), _easy(facts)
    days = [lead, accelerate, low, top, last] if facts.days == 5 else [lead, accelerate, low, top]
    return [DayDraft("ABCDE"[i], d.theme, d.load, d.drafts) for i, d in enumerate(days)]


def three_high(facts: WeekFacts) -> list[DayDraft]:
    """Return three high days of three themes with low days between: acceleration, sport speed, top speed."""
    days = [_acceleration(facts), _low(facts), _sport_speed(facts), _easy(facts), _top_speed(facts)]
    return [DayDraft("ABCDE"[i], d.theme, d.load, d.drafts) for i, d in enumerate(days)]


def _low_work(facts: WeekFacts, slot: str, block: str, salt: int = 0) -> Draft:
    """Carries and drags for the heavy, tempo runs for the light."""
    if facts.body_mass_kg is not None and facts.body_mass_kg >= HEAVY_KG:
        why = f"drags: {facts.body_mass_kg:.0f} kg are too heavy for many runs"
        return Draft(slot, block, "", "6 × 30 m, rest 1:00", why, role="drag", salt=salt)
    return Draft(slot, block, "", "6 × 60 m, rest 0:45", "tempo runs on a low day", role="tempo_easy", salt=salt)


def _lead_in(facts: WeekFacts) -> DayDraft:
    """The low day before the first sprints: with starts, unless the athlete's own sprints were slower the day after them."""
    known, press = facts.wishes.lead_in, "upper body on a low day"
    starts: list[Draft] = []
    if known is not None and not known.is_faster:
        press = f"{press}; no starts before a sprint day, {known.words}"
    else:
        why = "a few short starts wake the legs for tomorrow" + (f"; {known.words}" if known is not None else "")
        starts = [Draft("A1", "A · starts", "", "4 × 10 m, rest 1:30", why, role="start")]
    drafts = [
        Draft("P1", "Prepare", "", "1 × 10", "rhythm and posture", role="drill_acceleration"),
        *starts,
        Draft("B1", "B · press", "bench_press", heavy_text(facts, full=3, less_pct=5), press, True),
    ]
    if with_accessories(facts):
        drafts += [
            Draft("C1", "C · trunk", "", "2 × 10", "trunk", role="anti_rotation"),
            Draft("C2", "C · trunk", "", accessory_text(facts, 12, 2), "arms may go on any day", role="triceps"),
            Draft("D1", "D · finish", "light_mobility_flow", "1 × 3 min", "loose before the first high day"),
        ]
    return DayDraft("A", "Lead-in, low" if starts else "Low, upper body", "low", drafts)


def _acceleration(facts: WeekFacts) -> DayDraft:
    resisted = facts.week.phase not in FAST_PHASES
    drafts = [
        Draft("P1", "Prepare", "", "2 × 10", "lean and push", role="drill_acceleration"),
        Draft("P2", "Prepare", "", "2 × 4", "land before jumping", role="landing"),
        Draft(
            "A1",
            "A · acceleration",
            "",
            "5 × 15 m, rest 1:30",
            "first slow and resisted, then free",
            True,
            "acceleration_resisted" if resisted else "acceleration",
        ),
        Draft("B1", "B · jumps", "", jump_text(facts, 3), "long ground contact matches the theme", role="jump_horizontal"),
        Draft("B2", "B · jumps", "", "2 × 4, rest 1:30", "explosive throws live on high days", role="throw_whole"),
        Draft("C1", "C · strength", "back_squat", heavy_text(facts, full=4), "legs on the high day", True),
        Draft(
            "C2", "C · strength", "", accessory_text(facts, 6), "upper back on the high day, not the day before it", role="row"
        ),
    ]
    if with_accessories(facts):
        drafts.append(Draft("D1", "D · hips", "", accessory_text(facts, 8, 2), "hamstrings from the hip", role="hip_extension"))
    return DayDraft("B", "Acceleration, high", "high", drafts)


def _low(facts: WeekFacts) -> DayDraft:
    drafts = [
        Draft("P1", "Prepare", "", "1 × 60 s", "easy", role="raise"),
        _low_work(facts, "A1", "A · easy running or drags"),
        Draft("B1", "B · press", "", accessory_text(facts, 8), "upper body on a low day", role="press_incline"),
    ]
    if with_accessories(facts):
        drafts += [
            Draft("C1", "C · trunk and carry", "", "2 × 30 m", "carry", role="carry_side"),
            Draft("C2", "C · trunk and carry", "", "2 × 8", "trunk", role="trunk_flexion"),
            Draft("C3", "C · trunk and carry", "", accessory_text(facts, 12, 2), "arms may go on any day", role="biceps"),
        ]
    return DayDraft("C", "Low", "low", drafts)


def _top_speed(facts: WeekFacts) -> DayDraft:
    drafts = [
        Draft("P1", "Prepare", "", "2 × 10", "cycle and posture", role="drill_run"),
        Draft("P2", "Prepare", "", "2 × 4", "land before jumping", role="landing", salt=1),
        Draft(
            "A1",
            "A · top speed",
            "",
            "4 × 30 m, rest 3:00",
            "once a week, fresh, full rest",
            True,
            "max_velocity",
        ),
        Draft("B1", "B · jumps", "", jump_text(facts, 5), "short ground contact matches the theme", role="jump_short_contact"),
        Draft(
            "C1",
            "C · strength",
            "trap_bar_deadlift",
            heavy_text(facts, full=3, less_pct=5),
            "hinge on the second high day",
            True,
        ),
        Draft("C2", "C · strength", "", accessory_text(facts, 6), "each leg on its own", role="single_leg"),
    ]
    if with_accessories(facts):
        drafts.append(
            Draft("D1", "D · back of the knee", "", accessory_text(facts, 6, 2), "hamstrings from the knee", role="knee_flexion")
        )
    return DayDraft("D", "Top speed, high", "high", drafts)


def _sport_speed(facts: WeekFacts) -> DayDraft:
    """Sport speed and speed endurance, little top speed; explosive throws, a weightlifting lift where it may be."""
    drafts = [
        Draft("P1", "Prepare", "", "2 × 10", "rhythm and posture", role="drill_run", salt=1),
        Draft("P2", "Prepare", "", "2 × 4", "land before jumping", role="landing", salt=2),
        Draft("A1", "A · sport speed", "", "3 × 80 m", "speed that lasts, full rest", True, "speed_endurance"),
        Draft("B1", "B · throws", "", "3 × 4, rest 1:30", "whole-body power", role="throw_whole"),
        Draft("C1", "C · strength", "", lifts_text(facts, 8, 0.7), "a fast lift on a high day", True, "clean_variation"),
    ]
    if with_accessories(facts):
        drafts.append(Draft("D1", "D · legs", "", accessory_text(facts, 6), "each leg on its own", role="single_leg", salt=1))
    return DayDraft("C", "Sport speed, high", "high", drafts)


def _easy(facts: WeekFacts) -> DayDraft:
    drafts = [
        _low_work(facts, "A1", "A · easy running or drags", salt=1),
        Draft("B1", "B · upper body", "", accessory_text(facts, 8), "pressing on a low day", role="press_second"),
    ]
    if with_accessories(facts):
        drafts += [
            Draft("B2", "B · upper body", "", accessory_text(facts, 10, 2), "upper back before the days off", role="row", salt=2),
            Draft("C1", "C · trunk", "", "2 × 20 s", "trunk", role="hold_side"),
            Draft("D1", "D · finish", "light_mobility_flow", "1 × 3 min", "loose into the days off"),
        ]
    return DayDraft("E", "Low, upper body", "low", drafts)


ASKS = "sprinting without pain, a surface and room to run, jumps landed soundly"
ARRANGEMENT = WeekArrangement(
    "high_low",
    "High and low days around speed",
    (4, 5),
    high_low,
    "Hard things on the same days, easy days between: a low lead-in with a few starts, acceleration with long-contact "
    "jumps and squats, low, top speed "
    "with short-contact jumps and a hinge, low. Top speed never on other days.",
    "running team sports in preparation",
    "needs the sport's own practice to follow the same rhythm",
    ("handball",),
    asks=ASKS,
    asks_months=6,  # [J]
)

THREE_HIGH = WeekArrangement(
    "high_low_three",
    "Three high days around speed",
    (5,),
    three_high,
    "Three high days of one theme each, low days between: acceleration with long-contact jumps and squats; sport speed with "
    "throws and a fast lift; top speed with short-contact jumps and a hinge.",
    "field and court squads far from competition, who recover well",
    "three hard days leave little room for hard practice",
    ("handball",),
    asks=ASKS,
    asks_months=6,  # [J]
)
