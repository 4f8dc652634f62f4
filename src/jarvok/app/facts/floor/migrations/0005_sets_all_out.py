"""A set done to as many repetitions as possible says so, also those of before: by what was planned of its line."""

from __future__ import annotations

import re
from typing import Any

from django.db import migrations, models


def forwards(apps: Any, schema_editor: Any) -> None:
    lines = apps.get_model("floor", "SessionLine").objects
    sets = apps.get_model("floor", "SetRecord").objects
    found: list[int] = []
    for pk, text, planned in lines.values_list("pk", "text", "planned").iterator():
        number = next((n for n, item in enumerate(planned, start=1) if item.get("or_more")), None)
        if number is None and re.search(r"\dRM\b", text):
            number = len(planned)
        if number is not None:
            found += sets.filter(line_id=pk, kind="work", number=number).values_list("pk", flat=True)
    for at in range(0, len(found), 500):
        sets.filter(pk__in=found[at : at + 500]).update(is_all_out=True)


class Migration(migrations.Migration):
    dependencies = [("floor", "0004_block_roles")]

    operations = [
        migrations.AddField("SetRecord", "is_all_out", models.BooleanField(default=False)),
        migrations.RunPython(forwards, migrations.RunPython.noop),
    ]
