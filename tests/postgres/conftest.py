"""What PostgreSQL alone can show: the demo centre moved into it, and a server of two processes on it.

`make test-postgres` starts Debian's server on a loopback port and runs the application's own tests on it too.
"""

from __future__ import annotations

import importlib.util
import os
import subprocess
import sys
import time
import uuid
from collections.abc import Iterator
from pathlib import Path
from types import ModuleType

import psycopg
import pytest
from support.demo_file import ROOT, copy_demo, environment
from support.two_processes import WRITE, TwoProcesses, shell

TAKE_IN = """
from jarvok.app.upkeep.actions import take_in_centre
take_in_centre.run(open({file!r}, "rb"), "Maro Vell", "coach", "four words of a song")
"""


@pytest.fixture(scope="session")
def load() -> ModuleType:
    """The script that puts a server under load: its sets at racks and its signed-in coach serve here too."""
    spec = importlib.util.spec_from_file_location("live_load", ROOT / "scripts/live_load.py")
    assert spec is not None
    assert spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    sys.modules["live_load"] = module
    spec.loader.exec_module(module)
    return module


@pytest.fixture(scope="session")
def moved(tmp_path_factory: pytest.TempPathFactory) -> Iterator[tuple[dict[str, str], Path, Path]]:
    """The demo centre in a file, taken into a new PostgreSQL database: how to reach it, the file, and what it holds now."""
    address = os.environ["JARVOK_DATABASE_URL"]
    name = f"centre_{uuid.uuid4().hex[:8]}"
    with psycopg.connect(address, autocommit=True) as line:
        line.execute(f"CREATE DATABASE {name}")
    here, there = tmp_path_factory.mktemp("here"), tmp_path_factory.mktemp("there")
    copy_demo(here)
    file, again = here / "whole.zip", there / "whole.zip"
    shell(environment(here) | {"JARVOK_LOCAL_DEMO": "0"}, WRITE.format(file=str(file)))
    env = environment(there) | {"JARVOK_LOCAL_DEMO": "0", "JARVOK_DATABASE_URL": address.rsplit("/", 1)[0] + f"/{name}"}
    subprocess.run([sys.executable, str(ROOT / "manage.py"), "migrate", "-v0"], env=env, check=True)
    shell(env, TAKE_IN.format(file=str(file)))
    shell(env, WRITE.format(file=str(again)))
    yield env, file, again
    with psycopg.connect(address, autocommit=True) as line:
        line.execute(f"DROP DATABASE {name} WITH (FORCE)")


@pytest.fixture(scope="session")
def server(moved: tuple[dict[str, str], Path, Path], load: ModuleType) -> Iterator[TwoProcesses]:
    env, _, _ = moved
    shell(env, load.SETUP.format(racks=2, rate_hz=100))
    server = TwoProcesses(env)
    for _ in range(300):
        try:
            load.Api(server.port)
            break
        except OSError:
            time.sleep(0.1)
    yield server
    server.stop()
