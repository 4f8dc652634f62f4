"""Trade shorthand for one line of a session: read forgivingly, written one way. Grammar: docs/formats/shorthand.md."""

from __future__ import annotations

import re

from jarvok.core.errors import CoachError
from jarvok.core.loading.prescription import (
    FixedLoad,
    LoadRule,
    Percent,
    PercentRange,
    Prescription,
    Reserve,
    Rpe,
    SetGroup,
    VelocityTarget,
)
from jarvok.core.marks.effort import RIR_BY_RPE
from jarvok.core.quantities.mass import check_load_kg, format_kg, kg_from_lb, lb_from_kg

NUMBER = r"(\d+(?:[.,]\d+)?)"
WORDS = {"no": 0, "none": 0, "zero": 0, "one": 1, "two": 2, "three": 3, "four": 4}
EXAMPLES = "4×3 @ 82 %, 3×8 2 in reserve, 3×5 @ RPE 8, 5×2 @ 0.75–0.85 m/s, 3×6/side @ 20 kg, 2×30 m, 3×45 s"


class ShorthandError(CoachError):
    """A line that cannot be read: `position` is the character it stumbled over, `suggestion` the nearest valid line."""

    def __init__(self, message: str, position: int, suggestion: str = "") -> None:
        self.position = position
        self.suggestion = suggestion
        accepted = f"Perhaps: {suggestion}" if suggestion else f"For example: {EXAMPLES}"
        super().__init__(message, where=str(position), accepted=accepted)


class _Reader:
    def __init__(self, line: str) -> None:
        self.line = line
        self.at = 0

    def skip(self, also: str = "") -> None:
        while self.at < len(self.line) and (self.line[self.at].isspace() or self.line[self.at] in also):
            self.at += 1

    def take(self, pattern: str) -> re.Match[str] | None:
        self.skip()
        match = re.compile(pattern, re.IGNORECASE).match(self.line, self.at)
        if match:
            self.at = match.end()
        return match

    @property
    def done(self) -> bool:
        return not self.line[self.at :].strip(" ,;.\t")

    def fail(self, message: str, suggestion: str = "", at: int | None = None) -> ShorthandError:
        self.skip()
        return ShorthandError(message, self.at if at is None else at, suggestion)


def parse(line: str) -> Prescription:
    """Return what a line says. Raises `ShorthandError`, which points at a character and offers the nearest form."""
    if len(line) > 200:
        raise ShorthandError("The line is longer than 200 characters.", 200)
    reader = _Reader(line)
    if reader.done:
        raise reader.fail("The line is empty.")
    groups = [_group(reader)]
    while reader.take(r"(?:[,;]\s*)?(?:then\b|;)"):
        groups.append(_group(reader))
    extras = _extras(reader)
    return Prescription(tuple(groups), *extras)


def _number(text: str) -> float:
    return float(text.replace(",", "."))


def _group(reader: _Reader) -> SetGroup:
    start = reader.at
    head = reader.take(r"(\d+)\s*(?:[x×*]|sets?\s+of\b)")
    if not head:
        lone = re.match(r"\s*(\d+)", reader.line[start:])
        hint = f"{lone.group(1)} × 5 @ 75 %" if lone else "4 × 3 @ 82 %"
        raise reader.fail("A line starts with sets × repetitions.", hint)
    sets = int(head.group(1))
    if not 1 <= sets <= 30:
        raise reader.fail(f"{sets} sets is not a session. 1 to 30 sets are accepted.", at=head.start(1))
    amount = _amount(reader, sets)
    load = _load(reader, amount)
    return SetGroup(sets=sets, load=load, **amount)  # type: ignore[arg-type]  # keys come from _amount only


def _amount(reader: _Reader, sets: int) -> dict[str, int | bool]:
    found: dict[str, int | bool] = {}
    if metres := reader.take(r"(\d+)\s*m(?![a-z]|/s\b)"):
        found["metres"] = _within(reader, metres, 1, 1000, "metres")
    elif minutes := reader.take(r"(\d+)\s*min\b"):
        found["seconds"] = 60 * _within(reader, minutes, 1, 60, "minutes")
    elif seconds := reader.take(r"(\d+)\s*(?:s\b|sec\b|seconds\b)"):
        found["seconds"] = _within(reader, seconds, 1, 3600, "seconds")
    elif reps := reader.take(r"(\d+)(?:\s*[-–]\s*(\d+))?(?!\s*[,.]?\d*\s*%)\s*(\+|or more\b)?"):
        found["reps"] = _within(reader, reps, 1, 100, "repetitions")
        if reps.group(2):
            high = int(reps.group(2))
            if high <= int(reps.group(1)) or high > 100:
                raise reader.fail(
                    "A range of repetitions goes from low to high.", f"{sets} × {high}-{reps.group(1)}", reps.start(2)
                )
            found["reps_high"] = high
        if reps.group(3):
            found["or_more"] = True
    elif reader.take(r"(?:amrap|max|as many as possible)\b"):
        found["reps"], found["or_more"] = 1, True
    else:
        raise reader.fail("How many repetitions, seconds or metres?", f"{sets} × 5")
    if reader.take(r"(?:/|per|each|a)\s*(?:side|leg|arm)\b|\beach\b"):
        found["per_side"] = True
    return found


def _within(reader: _Reader, match: re.Match[str], low: int, high: int, what: str) -> int:
    value = int(match.group(1))
    if not low <= value <= high:
        raise reader.fail(f"{low} to {high} {what} are accepted.", at=match.start(1))
    return value


def _load(reader: _Reader, amount: dict[str, int | bool]) -> LoadRule | None:
    before = reader.at
    reader.skip(",")
    marked = reader.take(r"@|at\b(?!\s*least)|with\b")
    rule = _load_rule(reader)
    if rule is not None:
        return rule
    if marked:
        lone = reader.take(NUMBER)
        if lone:
            value = _number(lone.group(1))
            nearest = f"@ {value:g} %" if value >= 30 else f"@ RPE {value:g}" if 5 <= value <= 10 else f"@ {value:g} kg"
            done = f"{reader.line[:before].strip()} {nearest}"
            raise reader.fail(f"{value:g} of what? Give %, kg, RPE, m/s or “in reserve”.", done, lone.start(1))
        raise reader.fail("After @ comes %, kg, RPE, m/s or a number in reserve.", _with(reader, before, "@ 80 %"))
    reader.at = before
    return None


def _with(reader: _Reader, before: int, ending: str) -> str:
    return f"{reader.line[:before].strip()} {ending}"


def _load_rule(reader: _Reader) -> LoadRule | None:
    if m := reader.take(rf"{NUMBER}(?:\s*[-–]\s*{NUMBER})?\s*m/s\s*(peak|mean)?"):
        low = _number(m.group(1))
        high = _number(m.group(2)) if m.group(2) else low
        if not 0.05 <= low <= high <= 5:
            raise reader.fail("Velocities from 0.05 to 5 m/s, low to high, are accepted.", at=m.start(1))
        return VelocityTarget(low, high, (m.group(3) or "").lower() == "peak")
    if m := reader.take(rf"{NUMBER}((?:\s*/\s*\d+(?:[.,]\d+)?)+)\s*%"):
        values = tuple(_number(v) for v in (m.group(1) + m.group(2)).replace(" ", "").split("/"))
        return Percent(tuple(_percent(reader, v, m.start(1)) for v in values))
    if m := reader.take(rf"{NUMBER}\s*[-–]\s*{NUMBER}\s*%"):
        low, high = (_percent(reader, _number(m.group(i)), m.start(i)) for i in (1, 2))
        if high <= low:
            raise reader.fail("A range of percentages goes from low to high.", at=m.start(2))
        return PercentRange(low, high)
    if m := reader.take(rf"{NUMBER}\s*(?:%|percent\b)"):
        return Percent((_percent(reader, _number(m.group(1)), m.start(1)),))
    if m := reader.take(rf"RPE\s*{NUMBER}"):
        rpe = _number(m.group(1))
        if rpe not in RIR_BY_RPE:
            raise reader.fail(f"RPE {rpe:g} is not on the scale of 5 to 10 (halves from 7).", at=m.start(1))
        return Rpe(rpe)
    if m := reader.take(rf"(?:{NUMBER}|({'|'.join(WORDS)}))\s*(?:reps?\s+)?(?:in reserve|RIR|left)\b"):
        rir = _number(m.group(1)) if m.group(1) else float(WORDS[m.group(2).lower()])
        return Reserve(_reserve(reader, rir, m.start()))
    if m := reader.take(rf"RIR\s*{NUMBER}"):
        return Reserve(_reserve(reader, _number(m.group(1)), m.start(1)))
    if m := reader.take(rf"{NUMBER}\s*(kg|kilos?|lbs?|pounds?)\b"):
        value = _number(m.group(1))
        in_lb = m.group(2).lower().startswith(("lb", "pound"))
        return FixedLoad(check_load_kg(kg_from_lb(value) if in_lb else value), in_lb)
    return None


def _percent(reader: _Reader, value: float, at: int) -> float:
    if not 10 <= value <= 130:
        raise reader.fail(f"{value:g} % is outside 10 to 130 % of a max.", at=at)
    return value


def _reserve(reader: _Reader, value: float, at: int) -> float:
    if not 0 <= value <= 10:
        raise reader.fail("0 to 10 repetitions in reserve are accepted; beyond 4 the count is a guess.", at=at)
    return value


def _extras(reader: _Reader) -> tuple[str | None, int | None, float | None]:
    tempo: str | None = None
    rest_s: int | None = None
    stop: float | None = None
    while not reader.done:
        reader.skip(",;.")
        if m := reader.take(r"(?:tempo\s*)?(\d+)\s*-\s*(\d+)\s*-\s*(\d+|x)\s*-\s*(\d+|x)"):
            tempo = "-".join(part.upper() for part in m.groups())
        elif m := reader.take(r"rest\s*(\d+):([0-5]\d)"):
            rest_s = 60 * int(m.group(1)) + int(m.group(2))
        elif m := reader.take(r"rest\s*(\d+)\s*(min|s|sec)?\b"):
            rest_s = int(m.group(1)) * (60 if (m.group(2) or "s").lower() == "min" else 1)
        elif m := reader.take(rf"stop(?:\s+at)?\s*{NUMBER}\s*%(?:\s*(?:velocity\s+)?loss)?"):
            stop = _number(m.group(1))
            if not 1 <= stop <= 60:
                raise reader.fail("A velocity loss of 1 to 60 % is accepted.", at=m.start(1))
        else:
            reader.skip(",;.")
            raise reader.fail(_what_is_this(reader), _nearest_extra(reader))
        if rest_s is not None and rest_s > 1800:
            raise reader.fail("A rest of at most 30 minutes is accepted.")
    return tempo, rest_s, stop


def _what_is_this(reader: _Reader) -> str:
    word = reader.line[reader.at :].split()[0]
    return f"“{word}” is not understood here."


def _nearest_extra(reader: _Reader) -> str:
    before, rest = reader.line[: reader.at].strip(" ,;"), reader.line[reader.at :].strip()
    number = re.match(NUMBER, rest)
    if number:
        value = _number(number.group(1))
        return f"{before} @ {value:g} %" if value >= 30 else f"{before} {value:g} in reserve"
    return before


def write(prescription: Prescription) -> str:
    """Return the line in its one written form; `parse` reads it back to the same prescription."""
    parts = [" then ".join(_write_group(group) for group in prescription.groups)]
    if prescription.tempo:
        parts.append(prescription.tempo)
    if prescription.rest_s is not None:
        parts.append(f"rest {prescription.rest_s // 60}:{prescription.rest_s % 60:02d}")
    if prescription.stop_loss_pct is not None:
        parts.append(f"stop at {prescription.stop_loss_pct:g} % loss")
    return ", ".join(parts)


def _write_group(group: SetGroup) -> str:
    if group.metres is not None:
        amount = f"{group.metres} m"
    elif group.seconds is not None:
        whole = group.seconds >= 120 and group.seconds % 60 == 0
        amount = f"{group.seconds // 60} min" if whole else f"{group.seconds} s"
    else:
        amount = str(group.reps) + (f"–{group.reps_high}" if group.reps_high else "") + ("+" if group.or_more else "")
    side = "/side" if group.per_side else ""
    return f"{group.sets} × {amount}{side}{_write_load(group.load)}"


def _write_load(load: LoadRule | None) -> str:
    match load:
        case None:
            return ""
        case Percent(percents):
            return f" @ {'/'.join(f'{p:g}' for p in percents)} %"
        case PercentRange(low, high):
            return f" @ {low:g}–{high:g} %"
        case Reserve(rir):
            return f", {rir:g} in reserve"
        case Rpe(rpe):
            return f" @ RPE {rpe:g}"
        case VelocityTarget(low, high, peak):
            span = f"{low:.2f}" if low == high else f"{low:.2f}–{high:.2f}"
            return f" @ {span} m/s{' peak' if peak else ''}"
        case FixedLoad(kg, in_lb):
            return f" @ {lb_from_kg(kg):g} lb" if in_lb else f" @ {format_kg(kg)} kg"
