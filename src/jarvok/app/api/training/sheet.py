"""A session's sheet as the API sends it: lines with loads, blocks with minutes, flags and remarks in the margin."""

from __future__ import annotations

from itertools import groupby

from jarvok.app import clock as wall_clock
from jarvok.app.api.training.flags import FlagBook, minutes_there
from jarvok.app.api.training.shapes import BlockOut, CellOut, ColumnOut, LineOut, MarginOut, SheetOut, SheetRowOut
from jarvok.app.athletes.reading import restrictions_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.shapes import resolved_out
from jarvok.app.training.sheets import AthleteWeek, Sheet, SheetLine
from jarvok.core.checks.session import CAUTION_WORDS, cut_first
from jarvok.core.floor.step_words import Cell, Unfolded, rest_words, unfolded
from jarvok.core.learning.findings import OPEN, Kind
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.methods import METHOD_BY_KEY
from jarvok.core.loading.progress import contacts_words
from jarvok.core.loading.set_by_set import set_text
from jarvok.core.loading.shorthand import write
from jarvok.core.loading.until_miss import can_miss
from jarvok.core.marks.conditions import conditions_of, words_of
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.sentence import first_upper
from jarvok.core.running.classes import BY_KEY, words_for
from jarvok.core.season.model import PhaseKey, monday_of
from jarvok.core.session.blocks import Grouping, clock
from jarvok.core.session.complexes import leading
from jarvok.core.session.document import title_of
from jarvok.core.session.roles import OPTIONAL_WORDS, BlockRole, optional_block


def state_of(sheet: Sheet) -> str:
    if sheet.started is None:
        return "planned"
    return "finished" if sheet.started.finished_at else "started"


def _method_words(line: SheetLine) -> str:
    if line.choice is None:
        return ""
    return f"by {METHOD_BY_KEY[line.choice.method].name.lower()} to {said_day(line.choice.until_day)}, your choice"


def _can_compare(line: SheetLine) -> bool:
    lift = exercise(line.planned.exercise_id)
    return lift.is_loaded and any(g.reps and g.load is not None for g in line.prescription.groups)


def _line_out(line: SheetLine, *, is_light: bool, rest: str) -> LineOut:
    lift = exercise(line.planned.exercise_id)
    return LineOut(
        id=line.planned.line_id,
        slot=line.planned.slot,
        block=line.planned.block,
        exercise_id=lift.id,
        exercise=lift.name,
        cue=lift.cue,
        cost=lift.cost,
        kind=lift.kind,
        cautions=[CAUTION_WORDS[c] for c in lift.cautions if c in CAUTION_WORDS],
        tempo=lift.tempo,
        note=line.planned.note,
        learned=[x.words for x in line.learned],
        conditions=dict(line.planned.conditions),
        conditions_words=words_of(line.planned.conditions),
        has_conditions=bool(conditions_of(lift)),
        can_miss=can_miss(lift),
        easier=line.planned.forms.easier,
        harder=line.planned.forms.harder,
        forms_words=forms_words(line),
        text=line.text,
        proposed_text=write(line.planned.prescription),
        edited=line.edited,
        method_words=_method_words(line),
        can_compare=_can_compare(line),
        to_beat="" if is_light else line.to_beat,
        reason=line.planned.reason,
        replaced=line.planned.replaced,
        is_main=line.planned.is_main,
        sets=[resolved_out(s) for s in line.sets],
        minutes=round(line.minutes, 1),
        rest_s=line.rest_s,
        rest=rest,
    )


def forms_words(line: SheetLine) -> str:
    """What single rounds are done with, and the easier and the harder form, as they stand beside the line."""
    forms = line.planned.forms
    return " · ".join(w for w in (forms.words, forms.levels) if w)


def blocks_of(sheet: Sheet, *, unfolds: bool = True) -> list[BlockOut]:
    """The blocks of a sheet in order; `unfolds` gives their steps too."""
    found: list[BlockOut] = []
    optional = optional_block([(x.planned.role, x.planned.block) for x in sheet.lines])
    for name, lines in groupby(sheet.lines, key=lambda x: x.planned.block):
        rows = list(lines)
        style = rows[0].planned.style
        steps = unfolded_block(sheet, name) if unfolds else Unfolded((), ())
        warms_up = rows[0].planned.role is BlockRole.PREPARE and not any(b.note for b in found)
        found.append(
            BlockOut(
                name=name,
                title=title_of(name),
                grouping=style.grouping,
                words=" · ".join(w for w in (style.words, OPTIONAL_WORDS if name == optional else "") if w),
                minutes=round(sum(x.minutes for x in rows) + (sheet.warm_up_minutes if warms_up else 0.0), 1),
                note="general warm-up and warm-up sets included" if warms_up else "",
                rest_inside_s=style.rest_inside_s,
                rest_between_s=style.rest_between_s,
                timed_minutes=style.minutes,
                bpm=style.bpm,
                beats=style.beats,
                every_s=style.every_s,
                rounds=max(x.prescription.total_sets for x in rows),
                columns=columns_out(steps, sheet),
                rows=rows_out(steps, sheet),
            )
        )
    return found


def unfolded_block(sheet: Sheet, block: str) -> Unfolded:
    """A block of a sheet step by step."""
    slots = [(at, x.planned.slot) for at, x in enumerate(sheet.lines) if x.planned.block == block]
    return unfolded([s for s in sheet.steps if s.block == block], slots, sheet.set_at)


def columns_out(found: Unfolded, sheet: Sheet) -> list[ColumnOut]:
    """The lines of a block that goes by rounds, each with the rest after it."""
    names = {x.planned.slot: exercise(x.planned.exercise_id).name for x in sheet.lines}
    rests = [found.rest_s(n) for n in range(len(found.columns))]
    return [
        ColumnOut(slot=slot, exercise=names[slot], then=f"{clock(rest)} to the next" if rest else "")
        for slot, rest in zip(found.columns, rests, strict=True)
    ]


def rows_out(found: Unfolded, sheet: Sheet) -> list[SheetRowOut]:
    """The rows of an unfolded block in words."""
    return [
        SheetRowOut(
            name=r.name,
            cells=[
                _cell_out(cell, 0 if found.columns and not r.warms_up and found.rest_s(n) else r.rests_s[n], sheet)
                for n, cell in enumerate(r.cells)
            ],
            then=f"every {clock(r.every_s)}" if r.every_s else clock(r.rest_s) if r.rest_s else "",
            warms_up=r.warms_up,
        )
        for r in found.rows
    ]


def _cell_out(cell: Cell, rest: int, sheet: Sheet) -> CellOut:
    words = f"{cell.words}, {clock(rest)} to the next" if rest else cell.words
    if cell.line is None or cell.number is None:
        return CellOut(words=words, line="", number=0, text="", form="")
    line = sheet.lines[cell.line]
    forms = line.planned.forms
    return CellOut(
        words=words,
        line=line.planned.line_id,
        number=cell.number,
        text=set_text(line.prescription, cell.number),
        form=forms.of_round(cell.number),
    )


def sheet_out(
    athlete: Athlete, week: AthleteWeek, sheet: Sheet, flags: FlagBook | None = None, *, unfolds: bool = True
) -> SheetOut:
    flags, today = flags or FlagBook(athlete, week), wall_clock.today()
    is_light = week.week.is_easy or week.week.phase is PhaseKey.TAPER
    blocks = blocks_of(sheet, unfolds=unfolds)
    return SheetOut(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        day=sheet.planned.day,
        days_to_go=(week.week.competition_day - sheet.planned.day).days,
        key=sheet.planned.key,
        theme=sheet.planned.theme,
        day_reason=sheet.planned.day_reason,
        phase=week.week.phase,
        phase_name=week.week.phase_name,
        week_of_phase=week.week.week_of_phase,
        weeks_in_phase=week.week.weeks_in_phase,
        is_easy=week.week.is_easy,
        load=sheet.planned.load,
        starts=sheet.planned.starts,
        is_own=sheet.planned.is_own,
        can_undo=flags.can_undo,
        blocks=blocks,
        lines=[
            _line_out(line, is_light=is_light, rest=rest_words(sheet.steps, at) if unfolds else "")
            for at, line in enumerate(sheet.lines)
        ],
        notes=_notes(athlete, week, sheet, flags),
        flags=flags.of_session(sheet),
        warm_up_apart_minutes=0.0 if any(b.note for b in blocks) else round(sheet.warm_up_minutes, 1),
        minutes=round(sheet.minutes, 1),
        minutes_there=minutes_there(athlete),
        session_id=sheet.started.pk if sheet.started else None,
        state=state_of(sheet),
        is_today=sheet.planned.day == today,
        may_be_today=sheet.planned.day != today and monday_of(sheet.planned.day) == monday_of(today),
    )


def _notes(athlete: Athlete, week: AthleteWeek, sheet: Sheet, flags: FlagBook) -> list[MarginOut]:
    """Remarks that ask for nothing: what stands in, what is left out, what is missing, what counts."""
    notes: list[MarginOut] = []
    restriction = next(iter(restrictions_of(athlete, sheet.planned.day)), None)
    who = f" Set by {restriction.set_by}; stays until cleared." if restriction else ""
    for line in sheet.lines:
        slot = line.planned.slot
        for found in line.learned:
            if found.kind is Kind.QUESTION:
                text = first_upper(found.words.removeprefix(OPEN))
                notes.insert(0, MarginOut(id=f"q-{slot}", title=f"Open question, {slot}.", text=text, decision=False, slot=slot))
        if line.planned.replaced:
            text = f"{exercise(line.planned.exercise_id).name} is a substitute for {line.planned.replaced.lower()}.{who}"
            title = f"{restriction.words}." if restriction else "Other than the week model has it."
            notes.append(MarginOut(id=f"r-{slot}", title=title, text=text, decision=False, slot=slot))
        running = BY_KEY.get(exercise(line.planned.exercise_id).running)
        if running is not None:
            far = max((g.metres or 0 for g in line.prescription.groups), default=0)
            text = f"{words_for(running, far or None)}."
            notes.append(MarginOut(id=f"c-{slot}", title=f"{slot}.", text=text, decision=False, slot=slot))
        missing = next((s.working.missing for s in line.sets if s.working and s.working.missing), ())
        if missing:
            text = first_upper("; ".join(missing)) + "."
            title = f"{slot}: by {line.sets[0].method}."
            notes.append(MarginOut(id=f"m-{slot}", title=title, text=text, decision=False, slot=slot))
    for name, lines in groupby(sheet.lines, key=lambda x: x.planned.block):
        rows = list(lines)
        at = leading([x.sets for x in rows]) if rows[0].planned.style.grouping is Grouping.COMPLEX else None
        if at is not None:
            text = f"{exercise(rows[at].planned.exercise_id).name} is the weakest of them and sets the load for all."
            notes.append(MarginOut(id=f"w-{name}", title=f"{name}.", text=text, decision=False, slot=rows[at].planned.slot))
    if sheet.planned.left_out:
        text = f"{'; '.join(sheet.planned.left_out)}.{who}"
        notes.append(MarginOut(id="left-out", title="Left out.", text=first_upper(text), decision=False))
    if sheet.contacts:
        text = contacts_words(sheet.contacts, sheet.contacts_before, athlete.years_of_lifting_on(sheet.planned.day), sheet.rules)
        notes.append(MarginOut(id="contacts", title=f"{sheet.contacts} foot contacts.", text=first_upper(text), decision=False))
    if week.week.is_easy:
        notes.append(
            MarginOut(id="easy", title="Deload week.", text="Half the volume, nothing new. Let the work pay off.", decision=False)
        )
    there = minutes_there(athlete)
    if sheet.minutes <= there and sheet.lines:
        cut = cut_first(flags.views[sheet.planned.day, sheet.planned.key].lines)
        text = f"{sheet.minutes:.0f} of {there} min." + (f" If short, {cut.slot} goes first." if cut else "")
        notes.append(MarginOut(id="hour", title="Fits.", text=text, decision=False))
    for edit in sheet.unused_edits:
        text = f"“{edit.text}” was written for {exercise(edit.exercise_id).name}, which is not here now. It is kept."
        notes.append(MarginOut(id=f"e-{edit.pk}", title=f"{edit.slot} has an older line.", text=text, decision=False))
    return notes
