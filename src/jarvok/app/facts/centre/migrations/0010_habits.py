from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("centre", "0009_kept_days")]

    operations = [
        migrations.AddField("centre", "unit", models.CharField(default="kg", max_length=2)),
        migrations.AddField("centre", "day_order", models.CharField(default="day first", max_length=11)),
    ]
