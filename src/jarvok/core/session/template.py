"""A template: sessions on weekdays of one week or more, as an open document (docs/formats/session.md).

Limits of a template are technical [T].
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from jarvok.core.errors import CoachError
from jarvok.core.session import document as doc
from jarvok.core.session.document import Document

FORMAT, VERSION = "jarvok-template", 1
KINDS = ("block", "session", "week", "phase")
ALONE = ("block", "session")  # they hold one document
MOST_SESSIONS, MOST_WEEKS = 120, 16


@dataclass(frozen=True)
class TemplateDocument:
    """Sessions as (week from 0, weekday with Monday 0, document). A template of a session or a block holds one."""

    kind: str
    sessions: tuple[tuple[int, int, Document], ...]

    @property
    def weeks(self) -> int:
        """How many weeks it spans."""
        return max((w for w, _, _ in self.sessions), default=0) + 1


def to_raw(template: TemplateDocument) -> dict[str, Any]:
    """Return a template as plain data for JSON."""
    return {
        "format": FORMAT,
        "version": VERSION,
        "kind": template.kind,
        "sessions": [{"week": w, "weekday": d, "session": doc.to_raw(x)} for w, d, x in template.sessions],
    }


def from_raw(raw: object) -> TemplateDocument:
    """Return the template of plain data; raises `CoachError` that names the place of what cannot be read."""
    if not isinstance(raw, dict) or raw.get("format") != FORMAT:
        raise CoachError("This is not a template.", where="format", accepted=f'A JSON object with "format": "{FORMAT}".')
    if raw.get("version") != VERSION:
        raise CoachError(f"Version {raw.get('version')} is not known here.", where="version", accepted=f"Version {VERSION}.")
    kind, rows = raw.get("kind"), raw.get("sessions")
    if kind not in KINDS:
        raise CoachError(f"“{kind}” is no kind of template.", where="kind", accepted=", ".join(KINDS))
    if not isinstance(rows, list) or not 1 <= len(rows) <= (1 if kind in ALONE else MOST_SESSIONS):
        many = "One session." if kind in ALONE else f"1 to {MOST_SESSIONS} sessions."
        raise CoachError("A template holds sessions.", where="sessions", accepted=many)
    return TemplateDocument(kind, tuple(_session(x, f"sessions[{i}]", kind) for i, x in enumerate(rows)))


def _session(raw: object, where: str, kind: str) -> tuple[int, int, Document]:
    if not isinstance(raw, dict):
        raise CoachError("A session is an object.", where=where, accepted="week, weekday and session")
    week, weekday = raw.get("week", 0), raw.get("weekday", 0)
    most = MOST_WEEKS - 1 if kind == "phase" else 0
    for name, value, high in (("week", week, most), ("weekday", weekday, 6)):
        if isinstance(value, bool) or not isinstance(value, int) or not 0 <= value <= high:
            raise CoachError(f"The {name} is 0 to {high}, not {value}.", where=f"{where}.{name}", accepted=f"0 to {high}.")
    try:
        return week, weekday, doc.from_raw(raw.get("session"))
    except CoachError as error:
        raise CoachError(error.message, where=f"{where}.session.{error.where}", accepted=error.accepted) from None
