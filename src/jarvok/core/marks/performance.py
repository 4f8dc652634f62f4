"""Marks that are not loads: jumps, drop jumps, holds, sprints; and what is measured on each side."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from jarvok.core.errors import CoachError
from jarvok.core.marks.mark import MarkKind
from jarvok.core.quantities.gravity import STANDARD_GRAVITY_MPS2
from jarvok.core.quantities.sentence import first_upper
from jarvok.core.working import COMMON_PRACTICE, Input, Source, Working

BOSCO = Source("P", "Bosco 1983")  # quoted from memory
YOUNG = Source("P", "Young 1995")  # quoted from memory
FLAG_SIDE_DIFFERENCE_PCT = 10.0  # common practice

# what each measure may be: least, most, unit, words
# [T] wider than anybody measures
LIMITS: dict[str, tuple[float, float, str, str]] = {
    "height_cm": (1, 130, "cm", "A jump"),
    "flight_s": (0.1, 1.05, "s", "A flight time"),
    "contact_s": (0.08, 1.5, "s", "A contact time"),
    "drop_cm": (5, 110, "cm", "A drop height"),
    "seconds": (0.5, 900, "s", "A time"),
    "distance_m": (5, 800, "m", "A distance"),
    "velocity_mps": (0.05, 5, "m/s", "A bar velocity"),
}
LEAST_DROPS = 3  # [J] fewer heights show no turn
RSI_HOLDS, CONTACT_HOLDS = 0.97, 1.10  # [J] about the usual spread from jump to jump
HEAVY_BODY_KG, HEAVY_DROP_CM = 100.0, 46.0  # Haff & Triplett 2016, quoted from memory
FASTEST_MPS = 12.5  # [J] no sprint of any distance has averaged more


def jump_height_cm(flight_s: float) -> float:
    """Return the jump height in cm for a flight time in s: h = g t²/8. Bosco 1983, quoted from memory.

    Take-off and landing in the same posture are assumed; landing with bent knees reads too high.
    """
    return 100 * STANDARD_GRAVITY_MPS2 * flight_s**2 / 8


def reactive_strength_index(height_cm: float, contact_s: float) -> float:
    """Return jump height in m over contact time in s. Young 1995, quoted from memory."""
    return height_cm / 100 / contact_s


def check_measure(name: str, value: float) -> float:
    """Return a measure when it can be; raise `CoachError` when it cannot."""
    least, most, unit, words = LIMITS[name]
    if not least <= value <= most:
        raise CoachError(
            f"{words} of {value:g} {unit} cannot be.", where=name, accepted=f"{least:g} to {most:g} {unit} are accepted."
        )
    return value


NEEDED: dict[MarkKind, tuple[tuple[str, ...], ...]] = {  # any one of the alternatives
    MarkKind.JUMP: (("height_cm",), ("flight_s",)),
    MarkKind.DROP_JUMP: (("drop_cm", "contact_s", "height_cm"), ("drop_cm", "contact_s", "flight_s")),
    MarkKind.HOLD: (("seconds",),),
    MarkKind.SPRINT: (("distance_m", "seconds"),),
    MarkKind.SET_VELOCITY: (("velocity_mps",),),
    MarkKind.VELOCITY_BEST: (("velocity_mps",),),
}
WORDS = {
    "height_cm": "jump height", "flight_s": "flight time", "contact_s": "contact time", "drop_cm": "drop height",
    "seconds": "seconds", "distance_m": "distance", "velocity_mps": "bar velocity",
}  # fmt: skip


def check_measures(kind: MarkKind, measures: dict[str, float]) -> dict[str, float]:
    """Return the measures of a mark, checked; raise `CoachError` naming what is missing or impossible."""
    known = {name: check_measure(name, value) for name, value in measures.items() if name in LIMITS}
    ways = NEEDED.get(kind, ((),))
    if not any(all(name in known for name in way) for way in ways):
        missing = next((name for name in ways[0] if name not in known), ways[0][0])
        either = " or ".join(" and ".join(WORDS[n] for n in way) for way in ways)
        raise CoachError(f"The {WORDS[missing]} is missing.", where=missing, accepted=f"This result takes {either}.")
    if kind is MarkKind.SPRINT and known["distance_m"] / known["seconds"] > FASTEST_MPS:
        raise CoachError(
            f"{known['distance_m']:g} m in {known['seconds']:g} s cannot be.",
            where="seconds",
            accepted=f"Averages up to {FASTEST_MPS:g} m/s are accepted.",
        )
    return known


@dataclass(frozen=True)
class Reading:
    """What a mark is worth as a best: its number, unit, words, whether less is better, and its working."""

    value: float
    unit: str
    words: str
    less_is_better: bool
    working: Working | None = None


def read(kind: MarkKind, measures: dict[str, float], load_kg: float) -> Reading | None:
    """Return what a mark of its own kind says, or None for marks that are evidence of a max."""
    match kind:
        case MarkKind.JUMP:
            return _jump(measures)
        case MarkKind.DROP_JUMP:
            height = _height(measures)
            rsi = reactive_strength_index(height, measures["contact_s"])
            working = Working(
                f"{rsi:.2f}",
                "jump height in m over contact time in s",
                YOUNG,
                (Input("height", f"{height:.1f} cm"), Input("contact", f"{1000 * measures['contact_s']:.0f} ms")),
            )
            words = f"RSI {rsi:.2f} from {measures['drop_cm']:g} cm: {height:.1f} cm after {1000 * measures['contact_s']:.0f} ms"
            return Reading(rsi, "RSI", words, False, working)
        case MarkKind.HOLD:
            return Reading(measures["seconds"], "s", f"{measures['seconds']:g} s", False)
        case MarkKind.SPRINT:
            words = f"{measures['distance_m']:g} m in {measures['seconds']:.2f} s"
            return Reading(measures["seconds"], "s", words, True)
        case MarkKind.VELOCITY_BEST | MarkKind.SET_VELOCITY:
            words = f"{load_kg:g} kg at {measures['velocity_mps']:.2f} m/s"
            return Reading(load_kg, "kg", words, False)
        case _:
            return None


def _height(measures: dict[str, float]) -> float:
    return measures["height_cm"] if "height_cm" in measures else jump_height_cm(measures["flight_s"])


def _jump(measures: dict[str, float]) -> Reading:
    height = _height(measures)
    working = None
    if "height_cm" not in measures:
        inputs = (Input("flight time", f"{measures['flight_s']:.3f} s"),)
        caution = "Landing with bent knees reads too high."
        working = Working(f"{height:.1f} cm", "h = g t² / 8", BOSCO, inputs, "shown to 0.1 cm", caution=caution)
    return Reading(height, "cm", f"{height:.1f} cm", False, working)


@dataclass(frozen=True)
class DropJump:
    """One drop jump: drop and jump height in cm, contact time in s."""

    drop_cm: float
    height_cm: float
    contact_s: float

    @property
    def rsi(self) -> float:
        """Jump height in m over contact time in s."""
        return reactive_strength_index(self.height_cm, self.contact_s)


@dataclass(frozen=True)
class DropSeries:
    """Drop jumps from several heights: the best of each height, lowest first, the drop to train from, and why."""

    jumps: tuple[DropJump, ...]
    drop_cm: float
    working: Working


def drop_jump(measures: dict[str, float]) -> DropJump:
    """Return a drop jump from the measures of its mark."""
    return DropJump(measures["drop_cm"], _height(measures), measures["contact_s"])


def drop_series(jumps: Sequence[DropJump], body_mass_kg: float | None = None) -> DropSeries | None:
    """Return the drop height to train from out of one day's drop jumps, or None with fewer than three heights.

    The drop grows only while contact time and RSI hold (common practice): the highest drop whose RSI is within 3 % of
    the best [J] and whose contact is not longer than 110 % of the shortest [J]. Above 100 kg of body mass the drop stays
    at 46 cm or lower (Haff & Triplett 2016, quoted from memory).
    """
    best: dict[float, DropJump] = {}
    for jump in jumps:
        if jump.drop_cm not in best or jump.rsi > best[jump.drop_cm].rsi:
            best[jump.drop_cm] = jump
    if len(best) < LEAST_DROPS:
        return None
    heavy = body_mass_kg is not None and body_mass_kg > HEAVY_BODY_KG
    rising = [best[drop] for drop in sorted(best)]
    open_to = [j for j in rising if not heavy or j.drop_cm <= HEAVY_DROP_CM] or rising[:1]
    top, shortest = max(j.rsi for j in open_to), min(j.contact_s for j in open_to)
    holding = [j for j in open_to if j.rsi >= RSI_HOLDS * top and j.contact_s <= CONTACT_HOLDS * shortest]
    chosen = holding[-1] if holding else max(open_to, key=lambda j: j.rsi)
    held = f"body mass {body_mass_kg:.0f} kg: boxes stay at {HEAVY_DROP_CM:g} cm or lower" if heavy else ""
    working = Working(
        f"{chosen.drop_cm:g} cm",
        "highest drop at which contact time and RSI still hold",
        COMMON_PRACTICE,
        tuple(Input(f"{j.drop_cm:g} cm", f"RSI {j.rsi:.2f}, contact {1000 * j.contact_s:.0f} ms") for j in rising),
        caution="Land well before jumping high." + (f" {first_upper(held)}." if held else ""),
    )
    return DropSeries(tuple(rising), chosen.drop_cm, working)


@dataclass(frozen=True)
class Sides:
    """Left and right best of one thing, the weaker as a share of the stronger in per cent, and whether to look at it."""

    left: float
    right: float
    unit: str
    weaker: str
    share_pct: float
    is_flagged: bool
    source: Source = COMMON_PRACTICE


def compare_sides(left: Reading, right: Reading) -> Sides:
    """Return both sides' bests side by side; a difference over 10 % is flagged."""
    better, worse = max(left.value, right.value), min(left.value, right.value)
    share = 100 * worse / better if better else 100.0
    left_is_weaker = left.value > right.value if left.less_is_better else left.value < right.value
    weaker = "" if left.value == right.value else "left" if left_is_weaker else "right"
    return Sides(left.value, right.value, left.unit, weaker, share, 100 - share > FLAG_SIDE_DIFFERENCE_PCT)
