"""What one process of the server tells the others: which pages to wake, and who reads a sensor now.

PostgreSQL's own notifications carry it. On SQLite there is one process, and nothing is said.
"""

from __future__ import annotations

import asyncio
import logging
import secrets

from django.db import connection

from jarvok.app.hub import Word, hub

log = logging.getLogger(__name__)
CHANNEL = "jarvok"
ME = secrets.token_hex(6)
AGAIN_S = 1.0  # [T] until it is tried again to listen


def tell_others(word: Word, of: str) -> None:
    """Say something to the other processes; inside a transaction they hear it when that is through."""
    if connection.vendor == "postgresql":
        with connection.cursor() as cursor:
            cursor.execute("SELECT pg_notify(%s, %s)", [CHANNEL, f"{ME} {word} {of}"])


def heard(payload: str) -> None:
    """Do what another process has said; what is one's own was done already."""
    who, word, of = payload.split(" ", 2)
    if who != ME:
        hub.hear(Word(word), of)


async def keep_listening() -> None:
    """Listen for as long as the server runs. While nobody could be heard anything may have changed: all pages are woken."""
    if connection.vendor != "postgresql":
        return
    import psycopg
    from psycopg.conninfo import make_conninfo

    said = connection.settings_dict
    where = make_conninfo(
        dbname=said["NAME"], host=said["HOST"] or None, port=said["PORT"] or None, user=said["USER"] or None,
        password=said["PASSWORD"] or None,
    )  # fmt: skip
    while True:
        try:
            async with await psycopg.AsyncConnection.connect(where, autocommit=True) as line:
                await line.execute(f"LISTEN {CHANNEL}")
                hub.all_changed()
                async for note in line.notifies():
                    heard(note.payload)
        except psycopg.Error as error:
            log.warning("the other processes cannot be heard: %s", error)
        await asyncio.sleep(AGAIN_S)


hub.tell_others = tell_others
