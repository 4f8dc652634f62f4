from typing import Any

import django.db.models.deletion
from django.db import migrations, models


def name_the_athlete(apps: Any, schema_editor: Any) -> None:
    for move in apps.get_model("training", "SessionMove").objects.select_related("competition"):
        move.athlete_id = move.competition.athlete_id
        move.save()


class Migration(migrations.Migration):
    dependencies = [
        ("athletes", "0003_record_and_kit"),
        ("training", "0002_method_choice"),
        ("seasons", "0002_seasons_of_many"),
    ]

    operations = [
        migrations.AddField(
            model_name="sessionmove",
            name="athlete",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.CASCADE, related_name="session_moves", to="athletes.athlete"
            ),
        ),
        migrations.RunPython(name_the_athlete, migrations.RunPython.noop),
        migrations.AlterField(
            model_name="sessionmove",
            name="athlete",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.CASCADE, related_name="session_moves", to="athletes.athlete"
            ),
        ),
        migrations.RemoveField(model_name="sessionmove", name="competition"),
    ]
