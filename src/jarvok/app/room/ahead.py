"""The whole rotation of a rack as it goes on if everything is done as told: what a page without a network moves along."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from datetime import timedelta

from jarvok.app import clock
from jarvok.app.facts.room.models import Gathering
from jarvok.app.floor.lines import FloorLine, FloorSet, set_at, steps_of
from jarvok.app.room.lanes import AtRack, Lane, queue_of
from jarvok.core.floor.next_step import StepSet
from jarvok.core.floor.next_step import next_set as coming
from jarvok.core.floor.racks import rack
from jarvok.core.library.exercises import exercise
from jarvok.core.rules import Rules

MOST_TURNS = 400  # [T] of one rack

Place = tuple[FloorLine, FloorSet]


def sets_to_come(person: AtRack) -> list[Place]:
    """What somebody still has to do, the first set of each step, in the order in which it comes up."""
    if person.coming is None:
        return []
    steps = [s.sets for s in steps_of(person.session, person.lines)]
    of_step = {place: step for step in steps for place in step}
    done = {
        StepSet(at, s.kind == "ramp", s.number)
        for at, line in enumerate(person.lines)
        for s in line.sets
        if s.record is not None or s.over
    }
    ended = {at for at, line in enumerate(person.lines) if line.ended}
    found: list[Place] = []
    while (place := coming(steps, done, ended)) is not None:
        item = set_at(person.lines, place)
        if item is not None:
            found.append((person.lines[place.line], item))
        done |= {place, *of_step[place]}
    return found


def ahead_of(gathering: Gathering, lane: Lane, rules: Rules) -> Iterator[tuple[Lane, int]]:
    """Yield a rack at each turn to come, whoever is up first in it, with the sets that they have left then."""
    left = {p.athlete.pk: sets_to_come(p) for p in lane.people}
    people, on_bar = list(lane.people), lane.on_bar_kg
    at = clock.now()
    for _ in range(MOST_TURNS):
        queue = queue_of([p for p in people if p.coming is not None])
        if not queue:
            return
        turning = rack(lane.rack.number, [p.lifter for p in queue], gathering.goal, rules, on_bar)
        up = queue[0]
        mine = left[up.athlete.pk]
        yield replace(lane, rack=turning, people=tuple(people), up=up, on_bar_kg=on_bar), sum(s.kind == "work" for _, s in mine)
        if mine and mine[0][1].planned_load_kg is not None and exercise(mine[0][0].line.exercise_id).implement == "barbell":
            on_bar = up.lifter.per_side_kg
        left[up.athlete.pk] = mine[1:]
        at += timedelta(seconds=1)
        after = replace(up, coming=next(iter(mine[1:]), None), last_at=at)
        people = [after if p is up else p for p in people]
