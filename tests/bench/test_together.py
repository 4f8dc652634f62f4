"""Eight people at one process, and forty at four on PostgreSQL: each logs sets and reads pages; the bound is one alone."""

from __future__ import annotations

import os
import socket
import subprocess
import sys
import time
import uuid
from collections.abc import Iterator
from pathlib import Path

import pytest
from support.demo_file import ROOT, copy_demo, environment
from support.together import places_in, together

PROCESSES = 4
EAGER_S, BUSY_S = (0.3, 1.2), (2.0, 6.0)  # taps as fast as anybody can, and the busiest minute of a hall


def served(env: dict[str, str], *more: str) -> Iterator[int]:
    """A server in a process of its own, until the test is over."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = int(probe.getsockname()[1])
    command = [sys.executable, "-m", "uvicorn", "jarvok.app.asgi:application", "--port", str(port), *more]
    server = subprocess.Popen([*command, "--no-access-log", "--log-level", "warning"], cwd=ROOT, env=env)
    for _ in range(300):
        with socket.socket() as probe:
            if probe.connect_ex(("127.0.0.1", port)) == 0:
                break
        time.sleep(0.1)
    yield port
    server.terminate()
    server.wait()


@pytest.fixture
def centre(tmp_path: Path) -> dict[str, str]:
    copy_demo(tmp_path)
    return environment(tmp_path)


@pytest.fixture
def centre_in_postgres(tmp_path: Path) -> Iterator[dict[str, str]]:
    """The demo centre in a PostgreSQL database of its own."""
    import psycopg

    address, name = os.environ["JARVOK_DATABASE_URL"], f"together_{uuid.uuid4().hex[:8]}"
    with psycopg.connect(address, autocommit=True) as line:
        line.execute(f"CREATE DATABASE {name}")
    env = environment(tmp_path) | {"JARVOK_DATABASE_URL": address.rsplit("/", 1)[0] + f"/{name}"}
    for command in (["migrate", "-v0"], ["demo_data", "--small"]):
        subprocess.run([sys.executable, "manage.py", *command], cwd=ROOT, env=env, check=True, stdout=subprocess.DEVNULL)
    yield env
    with psycopg.connect(address, autocommit=True) as line:
        line.execute(f"DROP DATABASE {name} WITH (FORCE)")


def test_eight_people_log_and_read_at_once(centre: dict[str, str]) -> None:
    places = list(places_in(centre).values())
    for port in served(centre, "--lifespan", "off"):
        for mine in ([places[0][:24]], [p[24:] for p in places[:8]]):
            print(f"\n{together(port, mine, EAGER_S)}")


@pytest.mark.skipif("JARVOK_DATABASE_URL" not in os.environ, reason="make bench-together runs it on PostgreSQL")
def test_forty_people_at_four_processes(centre_in_postgres: dict[str, str]) -> None:
    places = list(places_in(centre_in_postgres).values())
    for port in served(centre_in_postgres, "--workers", str(PROCESSES)):
        time.sleep(45)  # each process has read the centre by then
        for mine, pause_s in (
            ([places[-1]], BUSY_S),
            ([p[:24] for p in places[:40]], BUSY_S),
            ([p[24:] for p in places[:40]], EAGER_S),
        ):
            print(f"\n{together(port, mine, pause_s)}")
