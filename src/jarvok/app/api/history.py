"""What was done: every act, the newest first, of everybody or of one squad or athlete."""

from __future__ import annotations

from datetime import date, datetime

from django.db.models import Q
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Router

from jarvok.app import clock
from jarvok.app.accounts.permission import person_of, squads_seen
from jarvok.app.acts import sees_all
from jarvok.app.api.problems import ERRORS
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.people.models import Act, Via
from jarvok.app.schema import Schema

router = Router(tags=["history"])
PAGE = 60
# what the application does by itself at each start, and steps of running a session, which its own page holds
QUIET = (
    "freeze_weeks", "log_set", "undo_set", "call_up", "change_clock", "start_clock", "put_at_rack", "place_all", "say_here",
    "log_attempt", "undo_attempt", "add_try", "take_back_try",
)  # fmt: skip
VIA_WORDS = {
    Via.PAGE: "",
    Via.LINK: "over a link",
    Via.SENSOR: "by a sensor",
    Via.IMPORT: "from a file",
    Via.COMMAND: "by a command",
}


class ActOut(Schema):
    id: int
    day: date
    at: datetime
    hour: str
    words: str
    by: str
    via: str
    whom: str
    athlete_id: int | None
    squad_id: int | None


class HistoryOut(Schema):
    """`older` is where the next page begins; None at the end."""

    whom: str
    acts: list[ActOut]
    older: int | None


@router.get("/history", response={200: HistoryOut, **ERRORS})
def read_history(
    request: HttpRequest, athlete: int | None = None, squad: int | None = None, before: int | None = None
) -> HistoryOut:
    """Acts before one of them, of an athlete with what was done for the squad, of a squad with its athletes, or of all."""
    rows = Act.objects.select_related("person", "athlete", "squad").exclude(verb__in=QUIET)
    person = person_of(request)
    if person is not None and not sees_all(person):
        own = squads_seen(person)
        rows = rows.filter(Q(squad__in=own) | Q(athlete__squad__in=own) | Q(person=person))
    whom = "the whole centre"
    if athlete is not None:
        of = get_object_or_404(Athlete.objects.select_related("squad"), pk=athlete)
        rows, whom = rows.filter(Q(athlete=of) | Q(squad=of.squad)), of.name
    elif squad is not None:
        group = get_object_or_404(Squad, pk=squad)
        rows, whom = rows.filter(Q(squad=group) | Q(athlete__squad=group)), group.name
    if before is not None:
        rows = rows.filter(pk__lt=before)
    found = list(rows.order_by("-pk")[: PAGE + 1])
    return HistoryOut(
        whom=whom, acts=[_act_out(a) for a in found[:PAGE]], older=found[PAGE - 1].pk if len(found) > PAGE else None
    )


def _act_out(act: Act) -> ActOut:
    at = timezone.localtime(act.at, clock.zone())
    subject = act.athlete.name if act.athlete is not None else act.squad.name if act.squad is not None else ""
    return ActOut(
        id=act.pk,
        day=at.date(),
        at=act.at,
        hour=f"{at:%-H:%M}",
        words=act.words or act.verb.replace("_", " "),
        by=act.person.name if act.person is not None else "not recorded",
        via=VIA_WORDS.get(Via(act.via), "") if act.via else "",
        whom=subject,
        athlete_id=act.athlete_id,
        squad_id=act.squad_id,
    )
