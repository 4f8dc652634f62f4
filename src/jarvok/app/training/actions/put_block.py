"""A block kept as a template is put into a session."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.training.models import Template
from jarvok.app.training.written import documented, held, open_sheet, put
from jarvok.core.errors import CoachError
from jarvok.core.session.block_changes import put_block
from jarvok.core.session.template import from_raw


def run(who: Who, athlete: Athlete, day: date, key: str, template: Template) -> None:
    """Put the block at the end of a session, or first where it prepares; undo takes it out again."""
    found = from_raw(template.document)
    if found.kind != "block":
        raise CoachError("This template is no block.", where="template_id", accepted="A template of a block.")
    words = f"block “{template.name}” put in"
    with held(athlete) as now, acting(who, "put_block", words, athlete=now):
        _, sheet = open_sheet(now, day, key)
        put(now, key, day, put_block(documented(sheet), found.sessions[0][2].blocks[0]), words)
