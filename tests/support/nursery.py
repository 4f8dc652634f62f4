"""A process that loads the whole application once and forks servers from it, each on its own database and port.

A server takes some seconds to load; the browser tests need one a file, and kill and start it again. Orders come as lines of
JSON on the standard input ({"database": …, "port": …, "max_pages": …, "is_demo": …, "is_copy": …}), each answered with the
server's number. What the first pages of the demo centre need is worked out once too; a server on a copy of it begins with that.
"""

from __future__ import annotations

import json
import os
import signal
import sys


def serve(database: str, port: int, max_pages: str, is_demo: bool, is_copy: bool) -> None:
    import uvicorn
    from django.conf import settings
    from django.db import connections

    settings.LOCAL_DEMO = is_demo
    known = connections["default"].settings_dict
    known["NAME"] = database
    if max_pages:  # as the setting of the same name
        known["OPTIONS"]["init_command"] += f"PRAGMA max_page_count={int(max_pages)};"
    from jarvok.app.asgi import application
    from jarvok.app.athletes.kept_known import forget_all_kept

    if not is_copy:
        forget_all_kept()
    uvicorn.run(application, host="127.0.0.1", port=port, lifespan="off", timeout_graceful_shutdown=1, log_level="warning")


def main() -> None:
    from django.db import connections

    import jarvok.app.asgi
    import jarvok.app.urls  # noqa: F401
    from jarvok.app.api.read_ahead import read_ahead

    read_ahead()
    connections.close_all()  # a connection is of one process
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)  # a killed server leaves no entry behind
    for line in sys.stdin:
        order = json.loads(line)
        pid = os.fork()
        if pid == 0:
            signal.signal(signal.SIGCHLD, signal.SIG_DFL)
            serve(order["database"], order["port"], order["max_pages"], order["is_demo"], order["is_copy"])
            os._exit(0)
        print(pid, flush=True)


if __name__ == "__main__":
    main()
