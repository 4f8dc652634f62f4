"""A template is taken out, with all its versions."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.training.models import Template


def run(who: Who, template: Template) -> None:
    """Take a template out; what was made from it stays."""
    with acting(who, "withdraw_template", f"template “{template.name}” taken out"):
        Template.objects.filter(kind=template.kind, name=template.name).update(withdrawn_at=clock.now())
