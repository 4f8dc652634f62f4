"""A session, a week or a phase is kept for later."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.training.models import Template
from jarvok.app.training.templates import checked_name
from jarvok.core.session.template import TemplateDocument, to_raw


def run(who: Who, name: str, document: TemplateDocument, note: str = "") -> Template:
    """Keep a template; under a name that is there it becomes the next version."""
    name = checked_name(name, document.kind)
    with acting(who, "save_template", f"template “{name}” kept"):
        last = Template.objects.filter(kind=document.kind, name=name).order_by("-version").first()
        version = last.version + 1 if last is not None else 1
        return Template.objects.create(
            name=name, kind=document.kind, version=version, document=to_raw(document), note=note.strip()[:200]
        )
