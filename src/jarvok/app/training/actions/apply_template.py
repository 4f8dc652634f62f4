"""A template is put on its days for an athlete, a group or the squad."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from jarvok.app.acts import Who
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.training.models import Template
from jarvok.app.training.actions import put_sessions
from jarvok.app.training.actions.put_sessions import Said
from jarvok.app.training.templates import dated
from jarvok.core.session.template import from_raw


def run(who: Who, template: Template, people: Sequence[Athlete], day: date) -> Said:
    """Put a template on its days; a week or a phase takes the place of what those weeks held."""
    found = from_raw(template.document)
    words = f"template “{template.name}” applied"
    return put_sessions.run(who, words, dated(found, day), people, whole_weeks=found.kind != "session")
