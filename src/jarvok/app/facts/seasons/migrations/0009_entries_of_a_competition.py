"""What an entry held of its competition goes: it stands there."""

from __future__ import annotations

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("seasons", "0008_competitions_once")]

    operations = [
        *(
            migrations.RemoveField("Entry", name)
            for name in ("name", "day", "last_day", "rank", "events", "weigh_in", "block", "uid", "sequence")
        ),
        migrations.AlterField(
            "Entry",
            "competition",
            models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="entered", to="seasons.competition"),
        ),
        migrations.AlterModelOptions("entry", options={"ordering": ["competition__day", "id"]}),
    ]
