"""Everybody with an account is a person, and a head: nobody loses anything."""

from __future__ import annotations

from typing import Any

from django.db import migrations


def forwards(apps: Any, schema_editor: Any) -> None:
    Person = apps.get_model("people", "Person")
    User = apps.get_model("auth", "User")
    for user in User.objects.filter(person__isnull=True).order_by("pk"):
        name = f"{user.first_name} {user.last_name}".strip() or user.username
        Person.objects.create(user=user, name=name[:80], role="head")


class Migration(migrations.Migration):
    dependencies = [("people", "0001_initial"), ("auth", "0012_alter_user_first_name_max_length")]
    operations = [migrations.RunPython(forwards, migrations.RunPython.noop)]
