"""The racks of a room as the page needs them."""

from __future__ import annotations

import time
from collections.abc import Mapping, Sequence
from datetime import date

from django.http import HttpRequest

from jarvok.app.api.floor.view import floor_view
from jarvok.app.api.room.clock_face import clock_out
from jarvok.app.api.room.shapes import (
    AheadLaneOut,
    AheadOut,
    AheadTurnOut,
    LaneDoneOut,
    LaneOut,
    LaneSensorOut,
    LanesOut,
    TurnOut,
)
from jarvok.app.athletes.findings import Learned, learned_by
from jarvok.app.centre.in_force import kit_of, rules_in_force
from jarvok.app.facts.room.models import Gathering
from jarvok.app.floor.bests import newest_lift
from jarvok.app.floor.events import Heard, newest_events, said_heard
from jarvok.app.floor.just_done import just_done
from jarvok.app.floor.lines import run_s, steps_of
from jarvok.app.floor.reached import Of, sets_of
from jarvok.app.floor.what_is_left import minutes_gone, seconds_left
from jarvok.app.room.ahead import ahead_of
from jarvok.app.room.board import todays_best
from jarvok.app.room.hearts import rates_of
from jarvok.app.room.lanes import AtRack, Lane, lanes_of
from jarvok.app.room.telling import sessions_at
from jarvok.core.floor.left import at_rack_minutes, heart_words
from jarvok.core.floor.racks import PlaceFor
from jarvok.core.floor.runs import line_word
from jarvok.core.learning.new_bests import DoneSet, swept
from jarvok.core.library.exercises import exercise
from jarvok.core.quantities.mass import format_mass, said_mass
from jarvok.core.rules import Rules

Sets = Mapping[Of, list[DoneSet]]


def _what(person: AtRack, amount: str) -> str:
    """What somebody lifts next, or how it stands with them where nothing comes."""
    if person.coming is None:
        if person.session.finished_at is not None:
            return "finished"
        return "done" if person.lines else "nothing yet"
    load = person.coming[1].planned_load_kg
    return f"{said_mass(load, person.coming[1].unit)} {amount}" if load is not None else amount


def _turn(person: AtRack, lane: Lane, compete: str, hearts: Mapping[int, int], rules: Rules) -> TurnOut:
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
        what=_what(person, amount),
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
        heart=heart_words(hearts[person.athlete.pk], rules) if person.athlete.pk in hearts else "",
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


def _newest(lane: Lane) -> AtRack | None:
    """Who at a rack has done a set last."""
    done = [(s.record.pk, p) for p in lane.people for line in p.lines for s in line.sets if s.record is not None]
    return max(done, key=lambda x: x[0])[1] if done else None


def _sets_before(lanes: Sequence[Lane], day: date) -> Sets:
    """The earlier sets of whatever was done last at each rack, read together."""
    newest = [p for lane in lanes if (p := _newest(lane)) is not None]
    lifts = {lift for p in newest if (lift := newest_lift(p.lines))}
    return sets_of({p.athlete.pk for p in newest}, day, day, lifts) if lifts else {}


def _lane_done(lane: Lane, before: Sets) -> LaneDoneOut | None:
    """The newest set of anybody at a rack."""
    person = _newest(lane)
    if person is None:
        return None
    who = person.athlete.pk
    found = just_done(person.lines, lambda lift, refs: swept(d for d in before.get((who, lift), []) if d.ref not in refs))
    assert found is not None
    return LaneDoneOut(
        session_id=person.session.pk, name=person.athlete.name, what=found.what, measured=list(found.measured), best=found.best
    )


def _minutes_left(lane: Lane, sets: int, rules: Rules) -> int:
    each = [seconds_left(steps_of(p.session, p.lines), p.lines, rules) for p in lane.people if p.coming is not None]
    return at_rack_minutes(each, sets, rules)


def _word(lane: Lane) -> tuple[str, bool]:
    """The rest that results at a place and whether it is right; at the end of a rack what is still on its bar."""
    if lane.use is PlaceFor.RUNS and lane.up is not None and lane.up.coming is not None:
        line, item = lane.up.coming
        waiting = sum(1 for p in lane.people if p.coming is not None)
        return line_word(waiting, item.planned.metres, item.planned.seconds, line.line.rest_s)
    if lane.use is not PlaceFor.BAR:
        return "", True
    if lane.up is None and lane.people and lane.on_bar_kg:
        unit = kit_of(lane.people[0].athlete.kit).unit
        return f"strip the bar: off {' + '.join(format_mass(p, unit) for p in lane.on_bar_kg)} a side", True
    return lane.rack.word, lane.rack.is_right


def _lane(
    lane: Lane, heard: Heard, compete: str, hearts: Mapping[int, int], rules: Rules, learned: Mapping[int, Learned],
    before: Sets,
) -> LaneOut:  # fmt: skip
    order = {t.lifter.athlete_id: i for i, t in enumerate(lane.rack.turns)}
    people = sorted(lane.people, key=lambda p: (order.get(p.athlete.pk, 99), p.athlete.name))
    turns = [_turn(p, lane, compete, hearts, rules) for p in people]
    word, is_right = _word(lane)
    up = lane.up.session if lane.up else None
    sets_left = sum(t.sets_left for t in turns if not t.is_over)
    return LaneOut(
        rack=lane.rack.number,
        use=lane.use,
        title=f"{lane.use.words} {lane.rack.number}",
        just_done=_lane_done(lane, before),
        sets_left=sets_left,
        minutes_left=_minutes_left(lane, sets_left, rules),
        word=word,
        is_right=is_right,
        rest_s=lane.rack.rest_s,
        turns=turns,
        up=floor_view(up, heard.get(up.pk, 0), rules, learned=learned[up.athlete_id]) if up else None,
        clock=clock_out(lane.clock) if lane.clock else None,
        sensors=[LaneSensorOut(id=s.pk, name=s.name, sort=s.sort) for s in lane.sensors],
    )


def _ahead_turn(lane: Lane, sets_left: int, rules: Rules) -> AheadTurnOut | None:
    if lane.up is None or lane.up.coming is None:
        return None
    line, item = lane.up.coming
    turn = _turn(lane.up, lane, "", {}, rules)
    turn.sets_left = sets_left
    return AheadTurnOut(turn=turn, line_id=line.line.pk, kind="ramp" if item.kind == "ramp" else "work", number=item.number)


def ahead_out(gathering: Gathering, rack: int | None = None) -> AheadOut:
    """The racks of a gathering, or one, as they go on to their end."""
    heard = newest_events(sessions_at(gathering, rack))
    lanes, rules = lanes_of(gathering, rack), rules_in_force()
    going = [p.session for lane in lanes for p in lane.people if p.coming is not None]
    learned = learned_by([s.athlete for s in going])
    return AheadOut(
        lanes=[
            AheadLaneOut(
                rack=lane.rack.number,
                turns=[
                    t for state, left in ahead_of(gathering, lane, rules) if (t := _ahead_turn(state, left, rules)) is not None
                ],
            )
            for lane in lanes
        ],
        floors=[floor_view(session, heard.get(session.pk, 0), rules, learned=learned[session.athlete_id]) for session in going],
        heard=said_heard(heard),
    )


def lanes_for(request: HttpRequest, gathering: Gathering, rack: int) -> LanesOut:
    """What a change at a rack answers: every rack to a person, that rack alone to whoever holds its link."""
    return lanes_out(gathering, None if request.user.is_authenticated else rack)


def lanes_out(gathering: Gathering, rack: int | None = None) -> LanesOut:
    # read first: an event that comes in between is told twice rather than not at all
    heard = newest_events(sessions_at(gathering, rack))
    lanes = lanes_of(gathering, rack)
    rules = rules_in_force()
    hearts = rates_of([p.athlete.pk for lane in lanes for p in lane.people])
    learned = learned_by([lane.up.athlete for lane in lanes if lane.up])
    before = _sets_before(lanes, gathering.day)
    room_clock = gathering.clocks.filter(rack__isnull=True, stopped_at__isnull=True).last()
    return LanesOut(
        id=gathering.pk,
        squad=gathering.squad.name,
        day=gathering.day,
        racks=gathering.racks,
        goal=gathering.goal,
        here=gathering.attendances.filter(is_here=True).count(),
        room_clock=clock_out(room_clock) if room_clock else None,
        lanes=[_lane(lane, heard, gathering.compete, hearts, rules, learned, before) for lane in lanes],
        heard=said_heard(heard),
        now_ms=time.time() * 1000,
        compete=gathering.compete,
    )
