from typing import Any

from django.db import migrations, models


def nobody_chose_yet(apps: Any, _: Any) -> None:
    """Every person so far had kilograms without having been asked: what the centre has holds for them."""
    apps.get_model("people", "Person").objects.filter(unit="kg").update(unit="")


class Migration(migrations.Migration):
    dependencies = [("people", "0006_calendar_addresses")]

    operations = [
        migrations.AlterField("person", "unit", models.CharField(blank=True, max_length=2)),
        migrations.AddField("person", "day_order", models.CharField(blank=True, default="", max_length=11), preserve_default=False),
        migrations.RunPython(nobody_chose_yet, migrations.RunPython.noop),
    ]
