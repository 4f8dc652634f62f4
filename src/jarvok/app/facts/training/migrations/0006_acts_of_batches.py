"""What was written together before people were recorded becomes one act, by nobody in particular."""

from __future__ import annotations

from typing import Any

from django.db import migrations

VERBS = {
    "WrittenSession": "write_session",
    "SessionMove": "move_session",
    "WeekChoice": "choose_week",
    "LineEdit": "write_line",
}


def words_of(kind: str, row: Any) -> str:
    if kind == "WrittenSession":
        return str(row.words)
    if kind == "SessionMove":
        return f"session {row.session_key} moved"
    if kind == "WeekChoice":
        return "week arranged anew"
    return f"line {row.slot} written"


def forwards(apps: Any, schema_editor: Any) -> None:
    Act = apps.get_model("people", "Act")
    batches: dict[str, list[tuple[str, Any]]] = {}
    for kind in VERBS:
        for row in apps.get_model("training", kind).objects.exclude(batch=""):
            batches.setdefault(row.batch, []).append((kind, row))
    for rows in sorted(batches.values(), key=lambda found: (min(r.at for _, r in found), min(r.pk for _, r in found))):
        # the newest row named the step to undo
        kind, last = max(rows, key=lambda found: (found[1].at, found[1].pk))
        athletes = {r.athlete_id for _, r in rows}
        act = Act.objects.create(
            at=last.at,
            verb=VERBS[kind],
            words=words_of(kind, last)[:200],
            athlete_id=athletes.pop() if len(athletes) == 1 else None,
            squad_id=None if not athletes else last.athlete.squad_id,
        )
        undone = [r.undone_at for _, r in rows]
        for kind, row in rows:
            apps.get_model("training", kind).objects.filter(pk=row.pk).update(act=act)
        if all(undone):
            Act.objects.create(
                at=max(undone),
                verb="undo",
                words=act.words,
                athlete_id=act.athlete_id,
                squad_id=act.squad_id,
                undoes=act,
            )


class Migration(migrations.Migration):
    dependencies = [("training", "0005_acts"), ("people", "0002_people_of_before")]
    operations = [migrations.RunPython(forwards, migrations.RunPython.noop)]
