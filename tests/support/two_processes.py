"""A server of two processes, and code run on its centre from outside."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
from pathlib import Path

from support.demo_file import ROOT, TODAY

WRITE = "from jarvok.app.upkeep import whole_centre; whole_centre.write(open({file!r}, 'wb'))"


def shell(env: dict[str, str], code: str) -> str:
    """Run code in a process of its own; return what it prints."""
    command = [sys.executable, str(ROOT / "manage.py"), "shell", "--no-imports", "-c", code]
    done = subprocess.run(command, env=env, check=False, capture_output=True, text=True)
    assert done.returncode == 0, done.stderr
    return done.stdout.strip()


class TwoProcesses:
    """A server of two processes, as `make start WORKERS=2` starts it."""

    def __init__(self, env: dict[str, str]) -> None:
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = int(probe.getsockname()[1])
        command = [sys.executable, "-m", "uvicorn", "jarvok.app.asgi:application", "--port", str(self.port)]
        command += ["--workers", os.environ.get("JARVOK_WORKERS", "2")]
        wanted = env | {"JARVOK_LOCAL_DEMO": "1", "JARVOK_TODAY": TODAY}
        self.server = subprocess.Popen([*command, "--log-level", "error"], env=wanted, start_new_session=True)

    def serving(self, link: socket.socket) -> int:
        """The process that serves a connection."""
        ours = link.getsockname()[1]
        rows = [line.split() for line in Path("/proc/net/tcp").read_text().splitlines()[1:]]
        inode = next(r[9] for r in rows if r[1].endswith(f":{self.port:04X}") and r[2].endswith(f":{ours:04X}"))
        for pid in self.processes():
            for name in Path(f"/proc/{pid}/fd").iterdir():
                if name.exists() and os.readlink(name) == f"socket:[{inode}]":
                    return pid
        raise AssertionError("nobody serves it")

    def processes(self) -> list[int]:
        """Those that serve."""
        parent = self.server.pid
        children = Path(f"/proc/{parent}/task/{parent}/children").read_text().split()
        return [int(p) for p in children if b"spawn_main" in Path(f"/proc/{p}/cmdline").read_bytes()]

    def stop(self) -> None:
        os.killpg(self.server.pid, signal.SIGKILL)
        self.server.wait()
