"""Guided tests stand among the trials: their own tables go."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("athletes", "0018_years_grow"), ("room", "0007_one_kind_of_test")]

    operations = [migrations.DeleteModel("TestAttempt"), migrations.DeleteModel("MaxTest")]
