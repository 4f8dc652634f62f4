"""Serve the demo centre on this machine only, filled first where it is not."""

from __future__ import annotations

import subprocess
import sys
from argparse import ArgumentParser
from typing import Any

import uvicorn
from django.core.management.base import BaseCommand
from django.db import connection

from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.upkeep.up_to_date import is_up_to_date


def is_ready() -> bool:
    """Whether the tables are those of this version and somebody is in them."""
    return is_up_to_date() and Athlete.objects.exists()


class Command(BaseCommand):
    help = "Serve the demo centre on this machine only, filled first where it is not."
    requires_system_checks: list[str] = []  # they read every page's code, which is loaded to be served anyway

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("port", type=int)

    def handle(self, *args: Any, port: int, **options: Any) -> None:
        if is_ready():
            self.stdout.write("The demo centre is there already; RESET=1 begins again.")
        else:  # in a process of its own, whose memory is given back before anything is served
            filled = subprocess.run([sys.executable, sys.argv[0], "demo_data", "--migrate"])
            if filled.returncode:
                sys.exit(filled.returncode)
        connection.close()
        self.stdout.write(f"\nJarvok is running: http://127.0.0.1:{port}   (Ctrl-C stops it)")
        self.stdout.flush()
        uvicorn.run(
            "jarvok.app.asgi:application",
            host="127.0.0.1",
            port=port,
            lifespan="off",
            timeout_graceful_shutdown=1,
            access_log=False,
            log_level="warning",
        )
