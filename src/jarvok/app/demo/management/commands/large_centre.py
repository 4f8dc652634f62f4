"""Fill an empty database with a large centre, for measuring."""

from __future__ import annotations

import time
from argparse import ArgumentParser
from datetime import timedelta
from typing import Any

from django.contrib.auth import get_user_model
from django.core.management import call_command
from django.core.management.base import BaseCommand

from jarvok.app import clock
from jarvok.app.accounts.actions import record_person
from jarvok.app.accounts.middleware import DEMO_COACH
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.reading import read_for_a_week
from jarvok.app.demo.large import copy_told_weeks, fill_large, simulated
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SetRecord
from jarvok.app.facts.people.models import Via
from jarvok.app.facts.writing import look_over_tables
from jarvok.app.training.actions import freeze_weeks


class Command(BaseCommand):
    help = "Fill an empty database with many athletes and years of training, for measuring."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--athletes", type=int, default=200)
        parser.add_argument("--years", type=int, default=3)

    def handle(self, *args: Any, **options: Any) -> None:
        call_command("migrate", verbosity=0)
        if Athlete.objects.exists():
            self.stdout.write("The large centre is there already.")
            return
        began = time.perf_counter()
        coach, _ = get_user_model().objects.get_or_create(
            username=DEMO_COACH, defaults={"first_name": "Large", "last_name": "Centre"}
        )
        coach.set_unusable_password()
        coach.save()
        who = Who(record_person.run(coach), Via.COMMAND)
        with acting(who, "fill_large", "the large centre filled") as act:
            for how_far in fill_large(clock.today(), options["athletes"], options["years"], act):
                self.stdout.write(f"\r{how_far}, {time.perf_counter() - began:.0f} s", ending="")
        look_over_tables()
        yesterday = clock.today() - timedelta(days=1)
        for athlete in read_for_a_week(simulated()):
            freeze_weeks.run(Who(None, Via.COMMAND), athlete, yesterday)
        with acting(who, "fill_large", "the weeks of the large centre as told") as act:
            copy_told_weeks(act)
        sets = SetRecord.objects.count()
        self.stdout.write(
            f"\rLarge centre ready: {Athlete.objects.count()} athletes, {sets} sets, {time.perf_counter() - began:.0f} s."
        )
