"""The racks as they stand: who is up, who comes next, what changes on the bar, the clock and the sensor there."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from django.db.models import Max

from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SetRecord, TrainingSession
from jarvok.app.facts.room.models import Attendance, ClockRun, Gathering, Sensor
from jarvok.app.floor.lines import FloorLine, FloorSet, floor_lines, next_set, plates_for, with_parts
from jarvok.core.exercises import Exercise
from jarvok.core.floor.racks import Lifter, PlaceFor, Rack, rack
from jarvok.core.library.exercises import exercise, exercises

SPOTTED_ROLES = frozenset({"press_flat", "press_incline", "press_me", "press_de"})


@dataclass(frozen=True)
class AtRack:
    """One athlete at a rack: the session, its lines, the set that comes, when the last set was done."""

    attendance: Attendance
    athlete: Athlete
    session: TrainingSession
    lines: list[FloorLine]
    coming: tuple[FloorLine, FloorSet] | None
    last_at: datetime | None

    @property
    def lifter(self) -> Lifter:
        """As the rotation sees them."""
        item = self.coming[1] if self.coming else None
        load = item.planned_load_kg if item and item.planned_load_kg else 0.0
        sides = tuple(item.per_side_kg) if item else ()
        unit = item.unit if item else "kg"
        spotted = self.coming is not None and is_spotted(exercise(self.coming[0].line.exercise_id))
        return Lifter(self.athlete.pk, self.athlete.name, load, sides, self.athlete.height_cm, unit, spotted)


@dataclass(frozen=True)
class Lane:
    """One rack: the rotation, everybody at it, who is up, its clock and its sensors."""

    rack: Rack
    people: tuple[AtRack, ...]
    up: AtRack | None
    clock: ClockRun | None
    sensors: tuple[Sensor, ...]
    use: PlaceFor = PlaceFor.BAR
    on_bar_kg: tuple[float, ...] = ()  # on a side of it now, whoever put it there


def sessions_of(gathering: Gathering, rack_number: int | None = None, *, measured: bool = True) -> dict[int, TrainingSession]:
    """The running (else the last) session of the day of everybody at the racks, with its parts, by athlete."""
    rows = gathering.attendances.filter(rack__isnull=False)
    if rack_number is not None:
        rows = rows.filter(rack=rack_number)
    light = TrainingSession.objects.filter(athlete_id__in=rows.values("athlete_id"), day=gathering.day).order_by("key")
    chosen: dict[int, tuple[int, bool]] = {}
    for pk, athlete_id, finished_at in light.values_list("pk", "athlete_id", "finished_at"):
        if athlete_id not in chosen or chosen[athlete_id][1]:
            chosen[athlete_id] = pk, finished_at is not None
    sessions = TrainingSession.objects.filter(pk__in=[pk for pk, _ in chosen.values()])
    whole = with_parts(sessions.select_related("athlete__squad", "athlete__kit"), measured=measured)
    return {session.athlete_id: session for session in whole}


def people_at(gathering: Gathering, rack_number: int | None = None, *, measured: bool = True) -> dict[int, list[AtRack]]:
    """Everybody with a session at the racks of a gathering, or at one of them, by rack."""
    sessions = sessions_of(gathering, rack_number, measured=measured)
    at: dict[int, list[AtRack]] = {}
    for row in gathering.attendances.filter(rack__isnull=False).select_related("athlete"):
        session = sessions.get(row.athlete_id)
        if session is None or row.rack is None:
            continue
        lines = floor_lines(session)
        done = [s.record.done_at for line in lines for s in line.sets if s.record]
        coming = next_set(session, lines) if session.finished_at is None else None
        at.setdefault(row.rack, []).append(AtRack(row, row.athlete, session, lines, coming, max(done, default=None)))
    return at


def up_in(gathering: Gathering, rack_number: int) -> tuple[AtRack | None, list[AtRack]]:
    """Who is up at a rack, and everybody there; nothing that was measured is read."""
    people = people_at(gathering, rack_number, measured=False).get(rack_number, [])
    return next(iter(queue_of([p for p in people if p.coming is not None])), None), people


def lanes_of(gathering: Gathering, rack_number: int | None = None) -> list[Lane]:
    """Return the lanes of a gathering, or one of them, in a bounded number of queries."""
    at = people_at(gathering, rack_number)
    clocks = {c.rack: c for c in gathering.clocks.filter(stopped_at__isnull=True)}
    sensors = list(Sensor.objects.filter(removed_at__isnull=True, rack__isnull=False))
    rules, bars = rules_in_force(), on_the_bars(gathering)
    numbers = [rack_number] if rack_number is not None else range(1, gathering.racks + 1)
    found: list[Lane] = []
    for number in numbers:
        people = tuple(at.get(number, ()))
        queue = queue_of([p for p in people if p.coming is not None])
        turning = rack(number, [p.lifter for p in queue], gathering.goal, rules, bars.get(number, ()))
        mine = tuple(s for s in sensors if s.rack == number)
        found.append(
            Lane(
                turning,
                people,
                queue[0] if queue else None,
                clocks.get(number),
                mine,
                use_of(gathering, number),
                bars.get(number, ()),
            )
        )
    return found


def use_of(gathering: Gathering, number: int) -> PlaceFor:
    """What a place of a gathering is for."""
    return PlaceFor(gathering.stations.get(str(number), PlaceFor.BAR))


def is_spotted(lift: Exercise) -> bool:
    """Whether somebody stands behind a lift: under a bar that can pin a lifter, no pull and no lift that is dropped."""
    return lift.implement == "barbell" and (lift.pattern == "squat" or bool(SPOTTED_ROLES & set(lift.roles)))


def on_the_bars(gathering: Gathering) -> dict[int, tuple[float, ...]]:
    """The plates on a side of each rack's bar: what whoever lifted last there has left on it. None lifted: an empty bar."""
    bars = [e.id for e in exercises().values() if e.implement == "barbell"]
    rows = SetRecord.objects.filter(
        rack__isnull=False, load_kg__isnull=False, taken_back_at__isnull=True, line__exercise_id__in=bars,
        line__session__day=gathering.day, line__session__athlete__attendances__gathering=gathering,
    )  # fmt: skip
    last = rows.order_by().values("rack").annotate(last=Max("pk")).values("last")
    newest = SetRecord.objects.filter(pk__in=last).select_related("line__session__athlete__kit")
    return {r.rack: tuple(plates_for(r.line, r.load_kg)) for r in newest if r.rack is not None and r.load_kg is not None}


def queue_of(people: list[AtRack]) -> list[AtRack]:
    """Everybody who still lifts as they come up: who is up first, then who has waited longest, the lightest of the new first."""
    by_hand = _by_hand(people)
    if by_hand:
        called = _called(people)
        return [*([called] if called else []), *(p for p in by_hand if p is not called)]
    first = who_is_up(people)
    rest = [p for p in people if p is not first]
    began = [p for p in rest if p.last_at is not None]
    new = sorted((p for p in rest if p.last_at is None), key=lambda p: (p.lifter.load_kg, p.athlete.name))
    return [*([first] if first else []), *new, *sorted(began, key=lambda p: p.last_at or p.session.started_at)]


def _by_hand(people: list[AtRack]) -> list[AtRack]:
    """The order that was set by hand, from whoever comes after the one that lifted last since; who joined later comes last."""
    placed = sorted((p for p in people if p.attendance.place is not None), key=lambda p: p.attendance.place or 0)
    since = max((p.attendance.placed_at for p in placed if p.attendance.placed_at), default=None)
    if since is None:
        return []
    order = [*placed, *sorted((p for p in people if p.attendance.place is None), key=lambda p: p.attendance.changed_at)]
    lifted = [p for p in order if p.last_at and p.last_at > since]
    begins = order.index(max(lifted, key=lambda p: p.last_at or since)) + 1 if lifted else 0
    return [*order[begins:], *order[:begins]]


def _called(people: list[AtRack]) -> AtRack | None:
    """Who was called to the bar since the last set here."""
    last = max((p.last_at for p in people if p.last_at), default=None)
    called = [p for p in people if p.attendance.called_at and (last is None or p.attendance.called_at > last)]
    return max(called, key=lambda p: p.attendance.called_at or p.session.started_at, default=None)


def who_is_up(people: list[AtRack]) -> AtRack | None:
    """Return whose turn it is: whoever was called since the last set here, else who has waited longest, lightest first."""
    if not people:
        return None
    called = _called(people)
    if called is not None:
        return called
    never = [p for p in people if p.last_at is None]
    if never:
        return min(never, key=lambda p: (p.lifter.load_kg, p.athlete.name))
    return min(people, key=lambda p: p.last_at or p.session.started_at)
