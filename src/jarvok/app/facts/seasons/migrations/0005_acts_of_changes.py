"""Each change of a season from before people were recorded becomes an act, by nobody in particular."""

from __future__ import annotations

from typing import Any

from django.db import migrations


def forwards(apps: Any, schema_editor: Any) -> None:
    Act = apps.get_model("people", "Act")
    for change in apps.get_model("seasons", "Change").objects.select_related("competition").order_by("pk"):
        athlete = change.athlete_id or (change.competition.athlete_id if change.competition else None)
        change.act = Act.objects.create(at=change.at, verb="change_season", words=change.words, athlete_id=athlete)
        change.save(update_fields=["act"])
        if change.undone_at:
            Act.objects.create(at=change.undone_at, verb="undo", words=change.words, athlete_id=athlete, undoes=change.act)


class Migration(migrations.Migration):
    dependencies = [("seasons", "0004_acts"), ("people", "0002_people_of_before")]
    operations = [migrations.RunPython(forwards, migrations.RunPython.noop)]
