"""The room over HTTP: arrival, the day's word, racks, lanes."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db.models import Count, Q
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.accounts.permission import person_of, squads_seen
from jarvok.app.api.problems import ERRORS, IdempotencyKey
from jarvok.app.api.room.lanes import ahead_out, lanes_out
from jarvok.app.api.room.shapes import (
    AheadOut,
    AnswersIn,
    AskedPainOut,
    BeginIn,
    BegunOut,
    CallIn,
    ChoiceOfRoomOut,
    HereIn,
    LanesOut,
    OpenRoom,
    PlaceOut,
    PutIn,
    RacksIn,
    RoomEntryOut,
    RoomOut,
    RoomPersonOut,
    RoomSessionOut,
    RoomWordIn,
    SuggestionOut,
    UseIn,
    WordOut,
)
from jarvok.app.api.who import signed_in, who_of
from jarvok.app.facts.athletes.models import Squad
from jarvok.app.facts.room.models import Gathering
from jarvok.app.once import once
from jarvok.app.room.actions import (
    begin_sessions,
    call_up,
    keep_answers,
    place_all,
    put_at_rack,
    say_plan,
    use_place,
)
from jarvok.app.room.actions import open_room as open_
from jarvok.app.room.actions import say_here as here
from jarvok.app.room.actions import set_racks as racks
from jarvok.app.room.gathered import Present, Room, read_room
from jarvok.app.room.lanes import use_of
from jarvok.app.room.links import rack_auth
from jarvok.app.shapes import working_out
from jarvok.app.training.lookup import near
from jarvok.core.errors import CoachError
from jarvok.core.floor.day_plan import LESS_WORDS
from jarvok.core.floor.pain import OpenPain
from jarvok.core.floor.racks import MOST_RACKS, REST_S, Lifter, PlaceFor
from jarvok.core.floor.readiness import AREAS, LEFT_OUT_WORDS, PLAN_WORDS, QUESTIONS

router = Router(tags=["room"])

QUESTION_CHOICES = [ChoiceOfRoomOut(key=k, name=n, words=list(w)) for k, (n, w) in QUESTIONS.items()]
AREA_CHOICES = [ChoiceOfRoomOut(key=k, name=n) for k, (n, _) in AREAS.items()]


def gathering_of(room_id: int) -> Gathering:
    """The gathering of an id, or 404."""
    return get_object_or_404(Gathering.objects.select_related("squad"), pk=room_id)


def _person(p: Present, squad_id: int) -> RoomPersonOut:
    s, session = p.suggestion, None
    if p.session is not None:
        session = RoomSessionOut(
            id=p.session.pk,
            key=p.session.key,
            theme=p.session.theme,
            state="finished" if p.session.finished_at else "running",
        )
    elif p.planned is not None:
        session = RoomSessionOut(id=None, key=p.planned.key, theme=p.planned.theme, state="planned")
    return RoomPersonOut(
        athlete_id=p.athlete.pk,
        name=p.athlete.name,
        group=p.athlete.group,
        guest_of=p.athlete.squad.name if p.athlete.squad_id != squad_id else "",
        is_here=p.attendance.is_here,
        rack=p.attendance.rack,
        said=AnswersIn(**p.answers.data) if p.answers else None,
        by_athlete=p.answers.by_athlete if p.answers else False,
        open_pain=asked_of(p.open_pains),
        suggestion=SuggestionOut(
            plan=s.plan,
            points=s.points,
            reasons=list(s.reasons),
            referral=s.referral,
            removed=sorted(LEFT_OUT_WORDS[x] for x in s.removed),
            working=working_out(s.working),
        ),
        word=WordOut(plan=p.word.plan, less=p.word.less, reason=p.word.reason) if p.word else None,
        session=session,
    )


def asked_of(pains: Sequence[OpenPain]) -> list[AskedPainOut]:
    """Pains of earlier sessions as an arrival asks about them."""
    return [AskedPainOut(area=p.area, words=p.words) for p in pains]


def room_out(room: Room) -> RoomOut:
    g = room.gathering
    return RoomOut(
        id=g.pk,
        squad_id=g.squad_id,
        squad=g.squad.name,
        day=g.day,
        racks=g.racks,
        most_racks=MOST_RACKS,
        places=[PlaceOut(rack=n, use=use_of(g, n), title=f"{use_of(g, n).words} {n}") for n in range(1, g.racks + 1)],
        uses=[ChoiceOfRoomOut(key=u, name=u) for u in PlaceFor],
        goal=g.goal,
        goals=[ChoiceOfRoomOut(key=k, name=f"{k}, {low}–{high} s") for k, (low, high) in REST_S.items()],
        areas=AREA_CHOICES,
        questions=QUESTION_CHOICES,
        plans=[ChoiceOfRoomOut(key=k, name=w) for k, w in PLAN_WORDS.items()],
        less=[ChoiceOfRoomOut(key=k, name=w) for k, w in LESS_WORDS.items()],
        people=[_person(p, g.squad_id) for p in room.people],
    )


@router.get("/room/entries", response={200: list[RoomEntryOut], **ERRORS})
def read_entries(request: HttpRequest) -> list[RoomEntryOut]:
    """The squads, and the room of today where it is open."""
    rooms = {
        g.squad_id: g
        for g in Gathering.objects.filter(day=clock.today()).annotate(
            here=Count("attendances", filter=Q(attendances__is_here=True))
        )
    }
    squads = (
        squads_seen(person_of(request))
        .annotate(present=Count("athletes", filter=Q(athletes__archived_on__isnull=True)))
        .filter(present__gt=0)
    )
    return [
        RoomEntryOut(
            squad_id=s.pk,
            squad=s.name,
            athletes=getattr(s, "present", 0),
            here=getattr(rooms.get(s.pk), "here", 0),
            room_id=rooms[s.pk].pk if s.pk in rooms else None,
        )
        for s in squads
    ]


@router.post("/room", response={200: RoomOut, **ERRORS})
def open_room(request: HttpRequest, payload: OpenRoom) -> RoomOut:
    """Open the room for a squad today (or on a day), or find it open."""
    squad = get_object_or_404(Squad, pk=payload.squad_id)
    return room_out(read_room(open_.run(who_of(request), squad, near(payload.day or clock.today()))))


@router.get("/room/{int:room_id}", response={200: RoomOut, **ERRORS})
def read_room_of(request: HttpRequest, room_id: int) -> RoomOut:
    return room_out(read_room(gathering_of(room_id)))


def _after(key: str, room_id: int, what: str, body: dict[str, Any], act: Any) -> RoomOut:
    gathering = gathering_of(room_id)

    def do() -> dict[str, Any]:
        act(gathering)
        return {"room_id": room_id}

    once(key, {"room": room_id, "what": what, **body}, do)
    return room_out(read_room(gathering_of(room_id)))


@router.post("/room/{int:room_id}/here", response={200: RoomOut, **ERRORS})
def say_here(request: HttpRequest, room_id: int, payload: HereIn, idempotency_key: IdempotencyKey) -> RoomOut:
    return _after(
        idempotency_key,
        room_id,
        "here",
        payload.dict(),
        lambda g: here.run(who_of(request), g, payload.athlete_ids, payload.is_here),
    )


@router.post("/room/{int:room_id}/answers/{int:athlete_id}", response={200: RoomOut, **ERRORS})
def say_answers(
    request: HttpRequest, room_id: int, athlete_id: int, payload: AnswersIn, idempotency_key: IdempotencyKey
) -> RoomOut:
    def act(gathering: Gathering) -> None:
        keep_answers.of(who_of(request), gathering, athlete_id, payload.dict())

    return _after(idempotency_key, room_id, "answers", {"athlete": athlete_id, **payload.dict()}, act)


@router.post("/room/{int:room_id}/word", response={200: RoomOut, **ERRORS})
def say_word(request: HttpRequest, room_id: int, payload: RoomWordIn, idempotency_key: IdempotencyKey) -> RoomOut:
    def act(gathering: Gathering) -> None:
        say_plan.run(who_of(request), gathering, payload.athlete_id, payload.plan, payload.less, payload.reason)

    return _after(idempotency_key, room_id, "word", payload.dict(), act)


@router.post("/room/{int:room_id}/begin", response={200: BegunOut, **ERRORS})
def begin(request: HttpRequest, room_id: int, payload: BeginIn, idempotency_key: IdempotencyKey) -> BegunOut:
    """Start today's sessions of those who are here, each by the plan of the day."""
    gathering = gathering_of(room_id)

    def do() -> dict[str, Any]:
        began, left = begin_sessions.run(who_of(request), gathering, payload.athlete_ids)
        return {"began": began, "left": left}

    answer = once(idempotency_key, {"room": room_id, "what": "begin", **payload.dict()}, do)
    return BegunOut(began=answer["began"], left=answer["left"], room=room_out(read_room(gathering_of(room_id))))


def _lifters(gathering: Gathering) -> list[Lifter]:
    """Everybody here with the first load of the main lift, running or planned."""
    found: list[Lifter] = []
    for p in read_room(gathering, with_loads=True).people:
        if not p.attendance.is_here or (p.planned is None and p.session is None):
            continue
        load: float = 0.0
        sides: tuple[float, ...] = ()
        for line in p.sheet.lines if p.sheet else ():
            if line.planned.is_main and line.sets and line.sets[0].load_kg:
                load, sides = line.sets[0].load_kg, line.sets[0].per_side_kg
                break
        found.append(Lifter(p.athlete.pk, p.athlete.name, load, sides, p.athlete.height_cm))
    return found


@router.post("/room/{int:room_id}/racks", response={200: RoomOut, **ERRORS})
def set_racks(request: HttpRequest, room_id: int, payload: RacksIn, idempotency_key: IdempotencyKey) -> RoomOut:
    """How many racks, for which goal; with `place` everybody here is placed as suggested."""

    def act(gathering: Gathering) -> None:
        racks.run(who_of(request), gathering, payload.racks, payload.goal)
        if payload.place:
            place_all.run(who_of(request), gathering, _lifters(gathering))

    return _after(idempotency_key, room_id, "racks", payload.dict(), act)


@router.post("/room/{int:room_id}/put", response={200: RoomOut, **ERRORS})
def put(request: HttpRequest, room_id: int, payload: PutIn, idempotency_key: IdempotencyKey) -> RoomOut:
    return _after(
        idempotency_key,
        room_id,
        "put",
        payload.dict(),
        lambda g: put_at_rack.run(who_of(request), g, payload.athlete_id, payload.rack),
    )


@router.post("/room/{int:room_id}/call", response={200: LanesOut, **ERRORS})
def call(request: HttpRequest, room_id: int, payload: CallIn, idempotency_key: IdempotencyKey) -> LanesOut:
    """Call an athlete to the bar out of turn."""
    gathering = gathering_of(room_id)

    def do() -> dict[str, Any]:
        call_up.run(who_of(request), gathering, payload.athlete_id)
        return {}

    once(idempotency_key, {"room": room_id, "what": "call", **payload.dict()}, do)
    return lanes_out(gathering)


@router.get("/room/{int:room_id}/racks", response={200: LanesOut, **ERRORS})
def read_lanes(request: HttpRequest, room_id: int) -> LanesOut:
    return lanes_out(gathering_of(room_id))


@router.get("/room/{int:room_id}/racks/{int:rack}", response={200: LanesOut, **ERRORS}, auth=[signed_in, rack_auth])
def read_lane(request: HttpRequest, room_id: int, rack: int) -> LanesOut:
    """One rack; also over the rack's own link."""
    gathering = gathering_of(room_id)
    if not 1 <= rack <= gathering.racks:
        raise CoachError(f"There is no rack {rack}.", where="rack", accepted=f"1 to {gathering.racks} are accepted.")
    return lanes_out(gathering, rack)


@router.get("/room/{int:room_id}/ahead", response={200: AheadOut, **ERRORS})
def read_ahead(request: HttpRequest, room_id: int) -> AheadOut:
    """How the racks go on: what a page needs that loses the network."""
    return ahead_out(gathering_of(room_id))


@router.get("/room/{int:room_id}/racks/{int:rack}/ahead", response={200: AheadOut, **ERRORS}, auth=[signed_in, rack_auth])
def read_one_ahead(request: HttpRequest, room_id: int, rack: int) -> AheadOut:
    """How one rack goes on; also over its own link."""
    return ahead_out(gathering_of(room_id), rack)


@router.post("/room/{int:room_id}/use", response={200: RoomOut, **ERRORS})
def use(request: HttpRequest, room_id: int, payload: UseIn, idempotency_key: IdempotencyKey) -> RoomOut:
    """What a place is for: a bar, jumps or runs."""
    act = lambda g: use_place.run(who_of(request), g, payload.rack, payload.use)  # noqa: E731
    return _after(idempotency_key, room_id, "use", payload.dict(), act)
