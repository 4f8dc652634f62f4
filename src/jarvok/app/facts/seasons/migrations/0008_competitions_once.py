"""A competition stands once, for a squad, a group or an athlete, and each athlete's part in it is an entry.

What was one copy an athlete keeps its number as the entry. Copies that are alike and held by all of a squad, or all of a
group, become one competition of that squad or group; the others stay personal.
"""

from __future__ import annotations

from collections import defaultdict
from typing import Any

import django.db.models.deletion
from django.db import migrations, models

TOLD = ("name", "day", "last_day", "rank", "events", "weigh_in", "block")
RANKS = ("main", "secondary", "train_through", "maybe", "block")


def forwards(apps: Any, schema_editor: Any) -> None:
    Competition, Entry = apps.get_model("seasons", "Competition"), apps.get_model("seasons", "Entry")
    alike: dict[tuple[Any, ...], list[Any]] = defaultdict(list)
    for e in Entry.objects.select_related("athlete").order_by("pk"):
        shared = e.block is None and e.withdrawn_at is None
        key = (e.athlete.squad_id, *(repr(getattr(e, k)) for k in TOLD), e.uid) if shared else ("alone", e.pk)
        alike[key].append(e)
    Athlete = apps.get_model("athletes", "Athlete")
    people: dict[Any, set[int]] = defaultdict(set)
    for a in Athlete.objects.all():
        people[a.squad_id].add(a.pk)
        people[a.squad_id, a.group].add(a.pk)
    for rows in alike.values():
        for whose, members in _of(rows, people):
            told = {k: getattr(members[0], k) for k in TOLD}
            sequence = max(m.sequence for m in members)
            of = Competition.objects.create(**told, **whose, uid=members[0].uid, sequence=sequence, act_id=members[0].act_id)
            Entry.objects.filter(pk__in=[m.pk for m in members]).update(competition=of)


def _of(rows: list[Any], people: dict[Any, set[int]]) -> list[tuple[dict[str, Any], list[Any]]]:
    """Whose each of some copies that are alike is."""
    squad, has = rows[0].athlete.squad_id, {r.athlete_id for r in rows}
    if len(has) == len(rows) > 1 and has == people[squad]:
        return [({"squad_id": squad}, rows)]
    found: list[tuple[dict[str, Any], list[Any]]] = []
    groups: dict[str, list[Any]] = defaultdict(list)
    for r in rows:
        groups[r.athlete.group].append(r)
    for group, mine in groups.items():
        if group and 1 < len(mine) == len({r.athlete_id for r in mine}) == len(people[squad, group]):
            found.append(({"squad_id": squad, "group": group}, mine))
        else:
            found += [({"athlete_id": r.athlete_id}, [r]) for r in mine]
    return found


class Migration(migrations.Migration):
    dependencies = [("athletes", "0007_practices_that_end"), ("people", "0002_people_of_before"), ("seasons", "0007_calendar_steps")]

    operations = [
        migrations.RenameModel("Competition", "Entry"),
        migrations.AlterModelOptions("entry", options={}),
        migrations.RenameField("Change", "competition", "entry"),
        migrations.AlterField(
            "Entry",
            "athlete",
            models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="entered", to="athletes.athlete"),
        ),
        migrations.CreateModel(
            name="Competition",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("group", models.CharField(blank=True, max_length=40)),
                ("name", models.CharField(max_length=80)),
                ("day", models.DateField()),
                ("last_day", models.DateField(null=True)),
                ("rank", models.CharField(choices=[(r, r) for r in RANKS], default=RANKS[0], max_length=16)),
                ("events", models.JSONField(default=list)),
                ("weigh_in", models.DateField(null=True)),
                ("block", models.JSONField(null=True)),
                ("uid", models.CharField(blank=True, max_length=200)),
                ("sequence", models.PositiveIntegerField(default=0)),
                ("withdrawn_at", models.DateTimeField(null=True)),
                ("act", models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="people.act")),
                (
                    "athlete",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.CASCADE, related_name="+", to="athletes.athlete"
                    ),
                ),
                (
                    "squad",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.CASCADE, related_name="competitions", to="athletes.squad"
                    ),
                ),
            ],
            options={"ordering": ["day", "id"]},
        ),
        migrations.AddField(
            "Entry",
            "competition",
            models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.CASCADE, related_name="entered", to="seasons.competition"
            ),
        ),
        migrations.AddField("Entry", "own", models.JSONField(default=dict)),
        migrations.AddField(
            "CalendarChange",
            "competition",
            models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.CASCADE, related_name="changes", to="seasons.competition"
            ),
        ),
        migrations.RunPython(forwards, migrations.RunPython.noop),
    ]
