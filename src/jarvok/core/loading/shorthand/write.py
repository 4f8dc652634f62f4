"""Writing a prescription in its one form, the one that reads back to the same prescription."""

from __future__ import annotations

from typing import assert_never

from jarvok.core.loading.accommodating import Attachment
from jarvok.core.loading.prescription import (
    Apre,
    BestShare,
    Corrected,
    FixedLoad,
    LastPlus,
    LoadRule,
    Percent,
    PercentRange,
    Prescription,
    Reserve,
    Rising,
    RmZone,
    Rpe,
    SetGroup,
    TodayPercent,
    TwoForTwo,
    VelocityTarget,
    VelocityZone,
    WithAttachment,
)
from jarvok.core.quantities.mass import format_kg, lb_from_kg


def write(prescription: Prescription) -> str:
    """Return the line in its one written form; `parse` reads it back to the same prescription."""
    first = prescription.groups[0].load
    if isinstance(first, Apre) and first.number == 1:
        parts = [f"APRE-{first.rm}"]
    else:
        parts = [" then ".join(_group(group) for group in prescription.groups)]
    if prescription.tempo:
        parts.append(prescription.tempo)
    if prescription.rest_s is not None:
        parts.append(f"rest {_clock(prescription.rest_s)}")
    if prescription.stop_loss_pct is not None:
        parts.append(f"stop at {prescription.stop_loss_pct:g} % loss")
    if prescription.every_s is not None:
        parts.append(f"every {_clock(prescription.every_s)}")
    if prescription.until_miss:
        parts.append("until you miss")
    return ", ".join(parts)


def _clock(time_s: int) -> str:
    return f"{time_s // 60}:{time_s % 60:02d}"


def _group(group: SetGroup) -> str:
    if group.metres is not None:
        amount = f"{group.metres} m"
    elif group.seconds is not None:
        whole = group.seconds >= 120 and group.seconds % 60 == 0
        amount = f"{group.seconds // 60} min" if whole else f"{group.seconds} s"
    elif group.parts:
        amount = "+".join(str(part) for part in group.parts)
    else:
        amount = str(group.reps) + (f"–{group.reps_high}" if group.reps_high else "") + ("+" if group.or_more else "")
        if isinstance(group.load, RmZone):
            amount += "RM"
    side = "/side" if group.per_side else ""
    return f"{group.sets} × {amount}{side}{write_load(group.load)}"


def write_load(load: LoadRule | None) -> str:
    """Return a load rule as it follows the repetitions."""
    match load:
        case Percent(percents):
            return f" @ {'/'.join(f'{p:g}' for p in percents)} %"
        case PercentRange(low, high):
            return f" @ {low:g}–{high:g} %"
        case TodayPercent(pct):
            return f" @ {pct:g} % of today"
        case Reserve(rir, beat_last):
            return f", {rir:g} in reserve" + (", beat last week" if beat_last else "")
        case Rpe(rpe):
            return f" @ RPE {rpe:g}"
        case VelocityTarget(low, high, peak):
            span = f"{low:.2f}" if low == high else f"{low:.2f}–{high:.2f}"
            return f" @ {span} m/s{' peak' if peak else ''}"
        case VelocityZone(zone):
            return f" @ {zone}"
        case FixedLoad(kg, in_lb):
            return f" @ {lb_from_kg(kg):g} lb" if in_lb else f" @ {format_kg(kg)} kg"
        case Corrected(start, by):
            return f"{write_load(start)},{write_load(by).removeprefix(',').replace(' @', '')}"
        case Rising(start, step_kg):
            return write_load(start) + (f" + {step_kg:g} kg" if step_kg is not None else " rising")
        case WithAttachment(bar, extra, is_pct, attachment):
            sign = "−" if attachment is Attachment.REVERSE else "+"
            return f"{write_load(bar)} {sign} {extra:g} {'%' if is_pct else 'kg'} {attachment}"
        case BestShare(word, pct):
            return f" @ {word}" if word else f" @ {pct:g} % of best"
        case LastPlus(step_kg):
            return f" @ last + {step_kg:g} kg" if step_kg is not None else " @ last + step"
        case TwoForTwo():
            return ", 2-for-2"
        case RmZone() | Apre() | None:
            return ""  # said with the repetitions, or for the whole line
        case _:
            assert_never(load)
