"""Who may still join a rack, and what they may do there."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.room.models import Gathering
from jarvok.app.facts.training.models import Template
from jarvok.app.room.gathered import Present, read_room
from jarvok.app.training.lookup import find_sheet
from jarvok.app.training.written import documented
from jarvok.core.errors import CoachError
from jarvok.core.session.document import Document, WrittenBlock, WrittenLine
from jarvok.core.session.template import from_raw

MOST_TEMPLATES = 40  # [T]


@dataclass(frozen=True)
class Joining:
    """Everybody who is at another rack or at none, guests, those whose session may be shared, and templates of a session."""

    people: tuple[Present, ...]
    guests: tuple[Athlete, ...]
    partners: tuple[Present, ...]
    templates: tuple[Template, ...]


def joining(gathering: Gathering, rack: int) -> Joining:
    """Return who may join a rack, those without a rack first, and where a session may come from."""
    room = read_room(gathering)
    others = [p for p in room.people if p.attendance.rack != rack]
    people = tuple(sorted(others, key=lambda p: (p.attendance.rack is not None, p.athlete.name)))
    partners = [p for p in room.people if p.session is not None and p.session.finished_at is None]
    here = tuple(sorted(partners, key=lambda p: (p.attendance.rack != rack, p.athlete.name)))
    newest: dict[str, Template] = {}
    for template in Template.objects.filter(kind="session", withdrawn_at__isnull=True).order_by("name", "-version"):
        newest.setdefault(template.name, template)
    known = [p.athlete.pk for p in room.people]
    guests = Athlete.here.exclude(pk__in=known).select_related("squad").order_by("name")
    return Joining(people, tuple(guests), here, tuple(newest.values())[:MOST_TEMPLATES])


def document_of_template(template_id: int | None) -> Document:
    """The session that a template holds."""
    template = Template.objects.filter(pk=template_id or 0, kind="session", withdrawn_at__isnull=True).first()
    if template is None:
        raise CoachError("This template is not there any more.", where="from_id", accepted="Another one, or a free session.")
    return from_raw(template.document).sessions[0][2]


def document_of_partner(gathering: Gathering, athlete_id: int | None) -> Document:
    """The session that a partner runs, as it was written."""
    sessions = TrainingSession.objects.filter(athlete_id=athlete_id or 0, day=gathering.day).select_related("athlete__squad")
    session = sessions.order_by("finished_at").first()
    if session is None:
        raise CoachError("This partner has no session today.", where="from_id", accepted="Somebody whose session is running.")
    athlete = Athlete.objects.select_related("squad", "kit").get(pk=session.athlete_id)
    try:
        return documented(find_sheet(athlete, session.day, session.key)[1])
    except CoachError:  # begun outside the plan: its lines as they were told
        return _as_told(session)


def _as_told(session: TrainingSession) -> Document:
    blocks: dict[str, list[WrittenLine]] = {}
    for line in session.lines.filter(stands_in_for__isnull=True):
        blocks.setdefault(line.block, []).append(WrittenLine(line.exercise_id, line.text, line.reason[:160], line.is_main))
    if not blocks:
        raise CoachError("This partner's session is empty.", where="from_id", accepted="Another one, or a free session.")
    named = tuple(WrittenBlock(name.partition(" · ")[2] or name, tuple(lines)) for name, lines in blocks.items())
    return Document(theme=session.theme, blocks=named)
