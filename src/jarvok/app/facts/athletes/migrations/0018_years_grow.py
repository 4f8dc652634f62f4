"""Years of lifting grow from the day they are said on; those of before grow from the day of this change."""

from typing import Any

from django.db import migrations, models
from django.utils import timezone


def said_today(apps: Any, schema_editor: Any) -> None:
    apps.get_model("athletes", "Athlete").objects.update(years_said_on=timezone.localdate())


class Migration(migrations.Migration):
    dependencies = [("athletes", "0017_plans_alone")]

    operations = [
        migrations.AddField("athlete", "years_said_on", models.DateField(null=True)),
        migrations.RunPython(said_today, migrations.RunPython.noop),
    ]
