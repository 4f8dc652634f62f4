"""The small demo centre as a database file: filled once for the code as it is, and copied by who needs it.

Run as a program it fills the file, so that `make test` has it ready before the first browser opens.
"""

from __future__ import annotations

import fcntl
import hashlib
import os
import shutil
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
KEPT = ROOT / ".build" / "demo"
TODAY = "2026-11-24"


def environment(folder: Path) -> dict[str, str]:
    """What a process of the application needs to run on a database in `folder`."""
    named = {k: v for k, v in os.environ.items() if k != "JARVOK_DATABASE_URL"}  # a database in a file, whatever else runs
    return {
        **named,
        "PYTHONPATH": str(ROOT / "src"),
        "JARVOK_VAR": str(folder),
        "JARVOK_DB": str(folder / "test.sqlite3"),
        "JARVOK_LOCAL_DEMO": "1",
        "JARVOK_TODAY": TODAY,
        "JARVOK_SIMULATED_SPEED": "3",
        "JARVOK_HOSTS": "127.0.0.1,localhost,hall.test",
    }


def _fingerprint() -> str:
    """The code that fills the demo, in a few letters: another code, another file."""
    found = hashlib.sha256()
    for file in sorted((ROOT / "src").rglob("*")):
        if file.suffix in (".py", ".json"):
            found.update(file.read_bytes())
    return found.hexdigest()[:16]


def filled() -> Path:
    """Return the filled database; the first to ask fills it, others wait for it."""
    KEPT.mkdir(parents=True, exist_ok=True)
    folder = KEPT / _fingerprint()
    with (KEPT / "lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not (folder / "done").exists():
            for old in KEPT.iterdir():
                if old.is_dir():
                    shutil.rmtree(old)
            folder.mkdir()
            command = [sys.executable, str(ROOT / "manage.py"), "demo_data", "--migrate", "--small"]
            subprocess.run(command, env=environment(folder), check=True, stdout=subprocess.DEVNULL)
            (folder / "done").touch()
    return folder / "test.sqlite3"


def copy_demo(folder: Path) -> None:
    """Put a copy of the filled database into `folder`."""
    shutil.copy(filled(), folder / "test.sqlite3")


if __name__ == "__main__":
    filled()
