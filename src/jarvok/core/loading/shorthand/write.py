"""Writing a prescription in its one form, the one that reads back to the same prescription."""

from __future__ import annotations

from jarvok.core.loading.prescription import Prescription, SetGroup


def write(prescription: Prescription) -> str:
    """Return the line in its one written form; `parse` reads it back to the same prescription."""
    first = prescription.groups[0].load
    whole = first.written_line if first is not None else ""
    parts = [whole or " then ".join(_group(group) for group in prescription.groups)]
    if prescription.tempo:
        parts.append(prescription.tempo)
    if prescription.rest_s is not None:
        parts.append(f"rest {_clock(prescription.rest_s)}")
    if prescription.inside_s is not None:
        parts.append(f"{prescription.inside_s} s inside")
    if prescription.between_reps_s is not None:
        parts.append(f"{prescription.between_reps_s} s between reps")
    if prescription.stop_loss_pct is not None:
        parts.append(f"stop at {prescription.stop_loss_pct:g} % loss")
    if prescription.every_s is not None:
        parts.append(f"every {_clock(prescription.every_s)}")
    if prescription.until_miss:
        parts.append("until you miss")
    if prescription.drops is not None:
        parts.append(f"drop {prescription.drops.count} × {prescription.drops.pct:g} %")
    if prescription.scored_by:
        parts.append(f"for {prescription.scored_by}")
    if prescription.submaximal:
        parts.append("submaximal")
    return ", ".join(parts)


def _clock(time_s: int) -> str:
    return f"{time_s // 60}:{time_s % 60:02d}"


def _group(group: SetGroup) -> str:
    if group.metres is not None:
        amount = f"{group.metres} m"
    elif group.seconds is not None:
        whole = group.seconds >= 2 * 60 and group.seconds % 60 == 0
        amount = f"{group.seconds // 60} min" if whole else f"{group.seconds} s"
    elif group.minis:
        amount = f"({'+'.join(str(mini) for mini in group.minis)})"
    elif group.parts:
        amount = "+".join(str(part) for part in group.parts)
    else:
        amount = str(group.reps) + (f"–{group.reps_high}" if group.reps_high else "") + ("+" if group.or_more else "")
        amount += group.load.written_behind_reps if group.load is not None else ""
    if group.in_all:
        return f"{amount} in all{group.load.written() if group.load is not None else ''}"
    side = "/side" if group.per_side else ""
    sets = f"{group.sets}–{group.sets_high}" if group.sets_high else f"{group.sets}"
    return f"{sets} × {amount}{side}{group.load.written() if group.load is not None else ''}"
