"""A decision of a rise names the evidence it is about; one may be put off."""

from __future__ import annotations

from typing import Any

from django.db import migrations, models


def forwards(apps: Any, schema_editor: Any) -> None:
    """Decisions of a day belong to its strongest mark; with none typed that day, to the day as before."""
    marks = apps.get_model("athletes", "MarkRecord").objects.filter(withdrawn_at__isnull=True)
    for decision in apps.get_model("athletes", "MaxDecision").objects.all():
        of_day = marks.filter(athlete_id=decision.athlete_id, exercise_id=decision.exercise_id, day=decision.day)
        strongest = max(of_day, key=lambda m: m.load_kg * (1 + (m.reps + m.rir) / 30), default=None)
        if strongest is not None:
            decision.evidence = f"mark:{strongest.pk}"
            decision.save(update_fields=["evidence"])


class Migration(migrations.Migration):
    dependencies = [("athletes", "0007_practices_that_end")]

    operations = [
        migrations.AddField("MaxDecision", "evidence", models.CharField(blank=True, max_length=40)),
        migrations.AddField("MaxDecision", "ask_again_on", models.DateField(null=True)),
        migrations.AlterField(
            model_name='markrecord',
            name='kind',
            field=models.CharField(choices=[('one_rm', 'one_rm'), ('technical_max', 'technical_max'), ('velocity_max', 'velocity_max'), ('rep_max', 'rep_max'), ('amrap', 'amrap'), ('set_rir', 'set_rir'), ('set_done', 'set_done'), ('set_velocity', 'set_velocity'), ('velocity_best', 'velocity_best'), ('set_rep_best', 'set_rep_best'), ('jump', 'jump'), ('drop_jump', 'drop_jump'), ('hold', 'hold'), ('sprint', 'sprint')], max_length=20),
        ),
        migrations.RunPython(forwards, migrations.RunPython.noop),
    ]
