"""A template is taken in from its file."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from jarvok.app.acts import Who
from jarvok.app.facts.people.models import Via
from jarvok.app.facts.training.models import Template
from jarvok.app.plain_json import read_json
from jarvok.app.training.actions import save_template
from jarvok.core.errors import CoachError
from jarvok.core.session.template import from_raw

LONGEST_FILE = 400_000


def run(who: Who, text: str) -> Template:
    """Keep the template of a JSON text, as the application writes it."""
    if len(text) > LONGEST_FILE:
        raise CoachError("The file is too long.", where="text", accepted=f"Up to {LONGEST_FILE // 1000} kB.")
    try:
        raw: Any = read_json(text.encode())
    except CoachError:
        raise
    except (ValueError, RecursionError):
        raise CoachError("This is not JSON.", where="text", accepted="A template as the application writes it.") from None
    if not isinstance(raw, dict):
        raise CoachError("This is not a template.", where="text", accepted="A JSON object.")
    name, note = str(raw.get("name") or "Imported"), str(raw.get("note") or "")
    return save_template.run(replace(who, via=Via.IMPORT), name, from_raw(raw), note)
