"""Guided tests of a max become trials like the others; their sets become tries."""

from typing import Any

import django.db.models.deletion
from django.db import migrations, models

KEPT = ("athlete_id", "exercise_id", "kind", "day", "started_at", "ended_at", "outcome", "mark_id", "act_id")
TRIED = ("load_kg", "reps", "felt", "form_broke", "missed", "velocity_mps")


def one_kind(apps: Any, schema_editor: Any) -> None:
    trials, entries = apps.get_model("room", "Trial"), apps.get_model("room", "TrialEntry")
    for test in apps.get_model("athletes", "MaxTest").objects.order_by("pk"):
        trial = trials.objects.create(asked={}, **{name: getattr(test, name) for name in KEPT})
        entries.objects.bulk_create(
            entries(
                trial=trial,
                number=a.number,
                data={"version": 1, **{name: getattr(a, name) for name in TRIED}},
                at=a.at,
                taken_back_at=a.taken_back_at,
                act_id=a.act_id,
            )
            for a in test.attempts.order_by("pk")
        )


class Migration(migrations.Migration):
    dependencies = [("room", "0006_gates_stand"), ("athletes", "0018_years_grow")]

    operations = [
        migrations.AlterField("trial", "kind", models.CharField(max_length=20)),
        migrations.AlterField("trial", "asked", models.JSONField(default=dict)),
        migrations.AddField(
            "trial",
            "mark",
            models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.SET_NULL, related_name="trials", to="athletes.markrecord"
            ),
        ),
        migrations.AddField("trial", "day", models.DateField(null=True)),
        migrations.AddField("trialentry", "number", models.PositiveSmallIntegerField(null=True)),
        migrations.AddConstraint(
            "trialentry",
            models.UniqueConstraint(
                condition=models.Q(("taken_back_at__isnull", True)), fields=("trial", "number"), name="a_try_is_done_once"
            ),
        ),
        migrations.RunPython(one_kind, migrations.RunPython.noop),  # last: what was written cannot be indexed in one go
    ]
