"""The people of the centre: who they are, what they may do, how they get in, and where they are signed in."""

from __future__ import annotations

from datetime import datetime

from django.contrib.auth import login
from django.db.models import Max
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.accounts.actions import (
    bring_back_person,
    change_person,
    end_link,
    end_person,
    end_sign_in,
    invite_person,
    make_welcome_link,
    take_account,
)
from jarvok.app.accounts.backend import BACKEND
from jarvok.app.accounts.people import Wanted
from jarvok.app.accounts.permission import forget_person
from jarvok.app.accounts.sessions import DEVICE, device_of, handle_of
from jarvok.app.api.accounts import Me, me_out
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.who import from_a_page, who_of
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.centre.models import Centre
from jarvok.app.facts.people.models import Link, LinkKind, Person, Role, SignedIn
from jarvok.app.schema import Schema

router = Router(tags=["people"])
ROLE_WORDS = {
    Role.HEAD: "Everything, for every squad, with people, settings and backups.",
    Role.COACH: "Plans, results, details and sessions of their own squads.",
    Role.ASSISTANT: "Runs sessions of their own squads and logs; looks at plans without changing them.",
    Role.MEDICAL: "Restrictions, clearance, pain and body mass of everybody; reads sheets.",
    Role.ATHLETE: "Their own session, answers and bests; logs their own sets where you allow it.",
}


class PersonOut(Schema):
    """`state` is "invited", "active" or "ended"; `seen_at` is when they were last heard of."""

    id: int
    name: str
    role: str
    role_name: str
    sign_in: str
    state: str
    squads: list[int]
    squad_words: str
    athlete_id: int | None
    may_log: bool
    is_me: bool
    seen_at: datetime | None
    link_until: datetime | None


class RoleOut(Schema):
    id: str
    name: str
    words: str
    of_squads: bool


class SquadChoice(Schema):
    id: int
    name: str


class AthleteChoice(Schema):
    id: int
    name: str
    squad: str


class PeopleOut(Schema):
    people: list[PersonOut]
    roles: list[RoleOut]
    squads: list[SquadChoice]
    athletes: list[AthleteChoice]


class PersonIn(Schema):
    name: str
    role: Role
    squads: list[int] = []
    athlete_id: int | None = None
    may_log: bool = False


class WelcomeLinkOut(Schema):
    """The address is shown this once; nobody can read it again."""

    person_id: int
    name: str
    path: str
    hours: int


def _person_out(person: Person, me: Person | None, links: dict[int, datetime], seen: dict[int, datetime]) -> PersonOut:
    squads = list(person.squads.all())
    role = Role(person.role)
    words = ", ".join(s.name for s in squads)
    if role in (Role.HEAD, Role.MEDICAL):
        words = "all squads"
    elif role is Role.ATHLETE:
        words = person.athlete.name if person.athlete is not None else "nobody: the athlete is gone"
    return PersonOut(
        id=person.pk,
        name=person.name,
        role=role.value,
        role_name=role.label,
        sign_in=person.user.username if person.user is not None else "",
        state="ended" if person.ended_at is not None else "active" if person.user_id is not None else "invited",
        squads=[s.pk for s in squads],
        squad_words=words or "no squad yet",
        athlete_id=person.athlete_id,
        may_log=person.may_log,
        is_me=me is not None and me.pk == person.pk,
        seen_at=seen.get(person.user_id or 0),
        link_until=links.get(person.pk),
    )


@router.get("/people", response={200: PeopleOut, **ERRORS})
def read_people(request: HttpRequest) -> PeopleOut:
    """Everybody who works with the centre, with what a form about them needs."""
    me = who_of(request).person
    waiting = Link.objects.filter(kind=LinkKind.WELCOME, ended_at__isnull=True, until__gt=clock.now())
    links = {k: u for k, u in waiting.values_list("person_id", "until") if k is not None}
    seen = dict(SignedIn.objects.filter(user__isnull=False).values_list("user_id").annotate(Max("seen_at")))
    people = Person.objects.select_related("user", "athlete").prefetch_related("squads")
    return PeopleOut(
        people=[_person_out(p, me, links, seen) for p in people],
        roles=[
            RoleOut(id=r.value, name=r.label, words=w, of_squads=r in (Role.COACH, Role.ASSISTANT)) for r, w in ROLE_WORDS.items()
        ],
        squads=[SquadChoice(id=s.pk, name=s.name) for s in Squad.objects.order_by("name")],
        athletes=[
            AthleteChoice(id=a.pk, name=a.name, squad=a.squad.name) for a in Athlete.here.select_related("squad").order_by("name")
        ],
    )


def _wanted(payload: PersonIn) -> Wanted:
    return Wanted(payload.name, payload.role, tuple(payload.squads), payload.athlete_id, payload.may_log)


def _link_out(person: Person, token: str) -> WelcomeLinkOut:
    return WelcomeLinkOut(person_id=person.pk, name=person.name, path=f"/welcome/{token}", hours=make_welcome_link.HOURS)


@router.post("/people", response={200: WelcomeLinkOut, **ERRORS})
def invite(request: HttpRequest, payload: PersonIn) -> WelcomeLinkOut:
    """Ask somebody to work with the centre; the answer holds the link to send them."""
    return _link_out(*invite_person.run(who_of(request), _wanted(payload)))


@router.patch("/people/{int:person_id}", response={200: PeopleOut, **ERRORS})
def change(request: HttpRequest, person_id: int, payload: PersonIn) -> PeopleOut:
    change_person.run(who_of(request), get_object_or_404(Person, pk=person_id), _wanted(payload))
    return read_people(request)


@router.post("/people/{int:person_id}/end", response={200: PeopleOut, **ERRORS})
def end(request: HttpRequest, person_id: int) -> PeopleOut:
    end_person.run(who_of(request), get_object_or_404(Person, pk=person_id))
    return read_people(request)


@router.post("/people/{int:person_id}/back", response={200: PeopleOut, **ERRORS})
def bring_back(request: HttpRequest, person_id: int) -> PeopleOut:
    bring_back_person.run(who_of(request), get_object_or_404(Person, pk=person_id))
    return read_people(request)


@router.post("/people/{int:person_id}/link", response={200: WelcomeLinkOut, **ERRORS})
def make_link(request: HttpRequest, person_id: int) -> WelcomeLinkOut:
    """A new link for somebody who has not come yet, or has forgotten the password."""
    person = get_object_or_404(Person, pk=person_id)
    return _link_out(person, make_welcome_link.run(who_of(request), person))


class WelcomeOut(Schema):
    """`sign_in` is empty where a name to sign in with is still to be chosen."""

    centre: str
    name: str
    sign_in: str


class WelcomeIn(Schema):
    sign_in: str = ""
    password: str


@router.get("/welcome/{token}", response={200: WelcomeOut, **ERRORS}, auth=None)
def read_welcome(request: HttpRequest, token: str) -> WelcomeOut:
    person = take_account.invited(token)
    centre = Centre.objects.filter(pk=1).first()
    return WelcomeOut(
        centre=centre.name if centre is not None else "",
        name=person.name,
        sign_in=person.user.username if person.user is not None else "",
    )


@router.post("/welcome/{token}", response={200: Me, **ERRORS}, auth=from_a_page)
def take_welcome(request: HttpRequest, token: str, payload: WelcomeIn) -> Me:
    """Choose the password, and be signed in."""
    user = take_account.run(token, payload.sign_in, payload.password)
    request.session[DEVICE] = device_of(request)
    login(request, user, backend=BACKEND)
    forget_person(request)
    return me_out(request)


class SignInOut(Schema):
    handle: str
    device: str
    begun_at: datetime | None
    seen_at: datetime | None
    is_here: bool


@router.get("/sign-ins", response={200: list[SignInOut], **ERRORS})
def read_sign_ins(request: HttpRequest) -> list[SignInOut]:
    """Where one is signed in oneself, the newest first."""
    rows = SignedIn.objects.filter(user_id=request.user.pk or 0, expire_date__gt=clock.now()).order_by("-seen_at")
    return [
        SignInOut(
            handle=handle_of(r),
            device=r.device or "a browser",
            begun_at=r.begun_at,
            seen_at=r.seen_at,
            is_here=r.session_key == request.session.session_key,
        )
        for r in rows
    ]


@router.post("/sign-ins/{handle}/end", response={200: list[SignInOut], **ERRORS})
def end_one(request: HttpRequest, handle: str) -> list[SignInOut]:
    """Sign oneself out of another browser."""
    row = next((r for r in SignedIn.objects.filter(user_id=request.user.pk or 0) if handle_of(r) == handle), None)
    if row is not None:
        end_sign_in.run(who_of(request), row)
    return read_sign_ins(request)


class OpenLinkOut(Schema):
    id: int
    words: str
    maker: str
    until: datetime


@router.get("/links", response={200: list[OpenLinkOut], **ERRORS})
def read_links(request: HttpRequest) -> list[OpenLinkOut]:
    """The links that open something now."""
    rows = Link.objects.select_related("maker", "person", "gathering__squad", "attendance__athlete", "athlete", "squad")
    rows = rows.filter(ended_at__isnull=True, until__gt=clock.now()).order_by("-pk")
    return [
        OpenLinkOut(id=r.pk, words=_link_words(r), maker=r.maker.name if r.maker is not None else "", until=r.until) for r in rows
    ]


@router.post("/links/{int:link_id}/end", response={200: list[OpenLinkOut], **ERRORS})
def end_a_link(request: HttpRequest, link_id: int) -> list[OpenLinkOut]:
    end_link.run(who_of(request), get_object_or_404(Link, pk=link_id))
    return read_links(request)


def _link_words(link: Link) -> str:
    if link.kind == LinkKind.RACK and link.gathering is not None:
        return f"Rack {link.rack} of {link.gathering.squad.name}"
    if link.kind == LinkKind.READY and link.attendance is not None:
        return f"Questions of the day for {link.attendance.athlete.name}"
    if link.kind == LinkKind.CALENDAR:
        return f"The calendar of {whose.name}" if (whose := link.athlete or link.squad) is not None else "A calendar"
    return f"{link.person.name} chooses a password" if link.person is not None else "A link"
