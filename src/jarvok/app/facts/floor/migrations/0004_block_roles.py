"""Lines that were told get the role that their block and exercise said on the day this was written."""

from __future__ import annotations

from typing import Any

from django.db import migrations, models

from jarvok.core.library.exercises import exercises

FAST_KINDS = ("jump", "throw", "run", "classic", "ballistic")


def forwards(apps: Any, schema_editor: Any) -> None:
    SessionLine, known = apps.get_model("floor", "SessionLine"), exercises()
    for block, exercise_id, is_main in SessionLine.objects.values_list("block", "exercise_id", "is_main").distinct().order_by():
        lift = known.get(exercise_id)  # none: an exercise of the coach's own, taken for a strength lift
        if block == "Prepare":
            role = "prepare"
        elif not is_main:
            role = "small"
        else:
            role = "fast" if lift is not None and lift.kind in FAST_KINDS else "main"
        SessionLine.objects.filter(block=block, exercise_id=exercise_id, is_main=is_main).update(role=role)


class Migration(migrations.Migration):
    dependencies = [("floor", "0003_acts")]
    operations = [
        migrations.AddField(
            model_name="sessionline",
            name="role",
            field=models.CharField(
                choices=[("prepare", "prepare"), ("fast", "fast"), ("main", "main"), ("small", "small")],
                default="small",
                max_length=10,
            ),
        ),
        migrations.RunPython(forwards, migrations.RunPython.noop),
    ]
