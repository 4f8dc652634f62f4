"""The racks of a room as the page needs them."""

from __future__ import annotations

import time
from collections.abc import Mapping

from jarvok.app.api.floor.view import floor_view
from jarvok.app.api.room.clock_face import clock_out
from jarvok.app.api.room.shapes import LaneDoneOut, LaneOut, LaneSensorOut, LanesOut, TurnOut
from jarvok.app.centre.in_force import kit_of, rules_in_force
from jarvok.app.facts.floor.models import FloorEvent
from jarvok.app.facts.room.models import Gathering
from jarvok.app.floor.just_done import just_done
from jarvok.app.floor.lines import run_s, steps_of
from jarvok.app.floor.what_is_left import minutes_gone, seconds_left
from jarvok.app.room.board import todays_best
from jarvok.app.room.hearts import rates_of
from jarvok.app.room.lanes import AtRack, Lane, lanes_of
from jarvok.core.floor.left import at_rack_minutes, heart_words
from jarvok.core.floor.racks import PlaceFor
from jarvok.core.floor.runs import line_word
from jarvok.core.library.exercises import exercise
from jarvok.core.library.kit import implement_for
from jarvok.core.quantities.mass import format_mass, said_mass
from jarvok.core.quantities.plates import unit_of


def _turn(person: AtRack, lane: Lane, compete: str, hearts: Mapping[int, int]) -> TurnOut:
    found = next((t for t in lane.rack.turns if t.lifter.athlete_id == person.athlete.pk), None)
    turn = found if lane.use is PlaceFor.BAR else None
    coming = person.coming
    amount = ""
    if coming is not None:
        planned = coming[1].planned
        amount = f"{planned.seconds} s" if planned.seconds else f"× {planned.reps or 1}"
        if coming[1].kind == "ramp":
            amount += ", warm-up"
    load = coming[1].planned_load_kg if coming else None
    left = [s for line in person.lines if not line.ended for s in line.sets if s.kind == "work" and s.record is None]
    return TurnOut(
        athlete_id=person.athlete.pk,
        name=person.athlete.name,
        session_id=person.session.pk,
        exercise=exercise(coming[0].line.exercise_id).name if coming else "",
        what=f"{said_mass(load, coming[1].unit)} {amount}" if coming is not None and load is not None else amount,
        load_kg=load,
        load_words=said_mass(load, coming[1].unit) if coming is not None and load is not None else "",
        unit=coming[1].unit if coming else "kg",
        per_side_kg=list(turn.lifter.per_side_kg) if turn else [],
        change=turn.change if turn else "",
        help=turn.help if turn else "",
        pins=turn.pins if turn else "",
        sets_left=len(left),
        last_done_at=person.last_at.isoformat() if person.last_at else None,
        is_up=lane.up is person,
        is_over=coming is None,
        is_finished=person.session.finished_at is not None,
        minutes_gone=minutes_gone(person.session),
        results=_results_of(person, lane),
        compete=todays_best(compete, person.lines) if compete else "",
        heart=heart_words(hearts[person.athlete.pk], rules_in_force()) if person.athlete.pk in hearts else "",
    )


def _results_of(person: AtRack, lane: Lane) -> str:
    """What somebody has jumped or run today at a place for it: each in order, the best named."""
    if lane.use is PlaceFor.RUNS:
        times = [t for line in person.lines for s in line.sets if (t := run_s(s)) is not None]
        return " ".join(f"{t:.2f}" for t in times) + f", best {min(times):.2f} s" if times else ""
    if lane.use is PlaceFor.JUMPS:
        heights = [j["height_cm"] for line in person.lines for s in line.sets for j in s.jumps]
        return " ".join(f"{h:.0f}" for h in heights[-8:]) + f", best {max(heights):.0f} cm" if heights else ""
    return ""


def _lane_done(lane: Lane) -> LaneDoneOut | None:
    """The newest set of anybody at a rack."""
    done = [(found, p) for p in lane.people if (found := just_done(p.lines)) is not None]
    if not done:
        return None
    found, person = max(done, key=lambda x: x[0].at)
    return LaneDoneOut(session_id=person.session.pk, name=person.athlete.name, what=found.what, measured=list(found.measured))


def _minutes_left(lane: Lane, sets: int) -> int:
    each = [seconds_left(steps_of(p.session, p.lines), p.lines) for p in lane.people if p.coming is not None]
    return at_rack_minutes(each, sets, rules_in_force())


def _word(lane: Lane) -> tuple[str, bool]:
    """The rest that results at a place and whether it is right; at the end of a rack what is still on its bar."""
    if lane.use is PlaceFor.RUNS and lane.up is not None and lane.up.coming is not None:
        line, item = lane.up.coming
        waiting = sum(1 for p in lane.people if p.coming is not None)
        return line_word(waiting, item.planned.metres, item.planned.seconds, line.line.rest_s)
    if lane.use is not PlaceFor.BAR:
        return "", True
    if lane.up is None and lane.people and lane.on_bar_kg:
        unit = unit_of(implement_for(exercise("back_squat"), kit_of(lane.people[0].athlete.kit)))
        return f"strip the bar: off {' + '.join(format_mass(p, unit) for p in lane.on_bar_kg)} a side", True
    return lane.rack.word, lane.rack.is_right


def _lane(lane: Lane, last_event_id: int, compete: str, hearts: Mapping[int, int]) -> LaneOut:
    order = {t.lifter.athlete_id: i for i, t in enumerate(lane.rack.turns)}
    people = sorted(lane.people, key=lambda p: (order.get(p.athlete.pk, 99), p.athlete.name))
    turns = [_turn(p, lane, compete, hearts) for p in people]
    word, is_right = _word(lane)
    sets_left = sum(t.sets_left for t in turns if not t.is_over)
    return LaneOut(
        rack=lane.rack.number,
        use=lane.use,
        title=f"{lane.use.words} {lane.rack.number}",
        just_done=_lane_done(lane),
        sets_left=sets_left,
        minutes_left=_minutes_left(lane, sets_left),
        word=word,
        is_right=is_right,
        rest_s=lane.rack.rest_s,
        turns=turns,
        up=floor_view(lane.up.session, last_event_id) if lane.up else None,
        clock=clock_out(lane.clock) if lane.clock else None,
        sensors=[LaneSensorOut(id=s.pk, name=s.name, sort=s.sort) for s in lane.sensors],
    )


def lanes_out(gathering: Gathering, rack: int | None = None) -> LanesOut:
    # read first: an event that comes in between is told twice rather than not at all
    last = FloorEvent.objects.order_by("-id").values_list("id", flat=True).first() or 0
    lanes = lanes_of(gathering, rack)
    hearts = rates_of([p.athlete.pk for lane in lanes for p in lane.people])
    room_clock = gathering.clocks.filter(rack__isnull=True, stopped_at__isnull=True).last()
    return LanesOut(
        id=gathering.pk,
        squad=gathering.squad.name,
        day=gathering.day,
        racks=gathering.racks,
        goal=gathering.goal,
        here=gathering.attendances.filter(is_here=True).count(),
        room_clock=clock_out(room_clock) if room_clock else None,
        lanes=[_lane(lane, last, gathering.compete, hearts) for lane in lanes],
        last_event_id=last,
        now_ms=time.time() * 1000,
        compete=gathering.compete,
    )
