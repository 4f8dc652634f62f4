"""What is far too large is refused without being taken in whole: how much memory each refusal asks for, in its own process."""

from __future__ import annotations

import json
import subprocess
import sys
from typing import Any

import pytest
from support.demo_file import ROOT, copy_demo, environment

MOST_MB = 50
# each input is sent by a process forked for it, whose greatest size until then is that of the application warmed up
IN_A_PROCESS_OF_ITS_OWN = """
import io, json, os, sys, time, zipfile
import django
django.setup()
from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connections
from django.test import Client
from openpyxl import Workbook
from jarvok.app.facts.athletes.models import Athlete
settings.ALLOWED_HOSTS = ["*"]
client = Client()
client.get("/api/me")
athlete = Athlete.objects.first().pk

def small():
    book, file = Workbook(), io.BytesIO()
    book.active.append(["Name", "Squad"])
    book.active.append(["Bo Test", "Evening"])
    book.save(file)
    return file

def workbook():
    file = small()
    with zipfile.ZipFile(file, "a", zipfile.ZIP_DEFLATED) as parts:
        with parts.open("xl/more.xml", "w") as part:
            for _ in range(150):
                part.write(b" " * 1_000_000)
    return file.getvalue()

def file(name, raw):
    return client.post("/api/import/athletes/file", {"file": SimpleUploadedFile(name, raw)})

def posted(path, raw):
    return client.post(path, raw, content_type="application/json")

def calendar(rule):
    lines = ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//x//x//EN", "BEGIN:VEVENT", "UID:1@x", "SUMMARY:P"]
    lines += ["DTSTART:19700101T180000Z", f"RRULE:{rule}", "END:VEVENT", "END:VCALENDAR", ""]
    return json.dumps({"text": "\\r\\n".join(lines)}).encode()

names, entries = "/api/import/athletes/preview", f"/api/athletes/{athlete}/calendar/preview"
inputs = {
    "a small workbook as it should be": lambda raw=small().getvalue(): file("a.xlsx", raw),
    "150 MB inside a workbook": lambda raw=workbook(): file("a.xlsx", raw),
    "a million short rows": lambda raw=b"Name\\n" + b"a\\n" * 950_000: file("a.csv", raw),
    "a cell without an end": lambda raw=b"Name,Squad\\n" + b"x" * 1_500_000 + b",Evening\\n": file("a.csv", raw),
    "a quote without an end": lambda raw=b'Name,Squad\\n"Bo,Evening\\n' + b"y,z\\n" * 400_000: file("a.csv", raw),
    "an event each second since 1970": lambda raw=calendar("FREQ=SECONDLY"): posted(entries, raw),
    "5 MB of text": lambda raw=b'{"text": "' + b"x" * 5_000_000 + b'"}': posted(names, raw),
    "a hundred thousand brackets": lambda raw=b"[" * 100_000: posted(names, raw),
    "a number of a million digits": lambda raw=b'{"text": 1' + b"0" * 1_000_000 + b"}": posted(names, raw),
}
inputs["a small workbook as it should be"]()
client.get("/api/today")

def peak_mb():
    return next(int(x.split()[1]) for x in open("/proc/self/status") if x.startswith("VmHWM")) / 1024

found = {}
for name, send in inputs.items():
    connections.close_all()
    read, write = os.pipe()
    if os.fork() == 0:
        open("/proc/self/clear_refs", "w").write("5")  # the greatest size so far is the present one
        before, began = peak_mb(), time.perf_counter()
        answer = send()
        took_s = time.perf_counter() - began
        body = answer.json()
        said = body.get("title", "") or json.dumps(body)[:300]
        os.write(write, json.dumps([answer.status_code, said, peak_mb() - before, took_s]).encode())
        os._exit(0)
    os.close(write)
    found[name] = json.loads(open(read, "rb").read())
    os.wait()
print(json.dumps(found))
"""
REFUSED = {
    "150 MB inside a workbook": 422,
    "a million short rows": 422,
    "a cell without an end": 422,
    "a quote without an end": 422,
    "an event each second since 1970": 200,
    "5 MB of text": 413,
    "a hundred thousand brackets": 400,
    "a number of a million digits": 422,
}


@pytest.fixture(scope="module")
def found(tmp_path_factory: pytest.TempPathFactory) -> dict[str, Any]:
    folder = tmp_path_factory.mktemp("little_room")
    copy_demo(folder)
    run = subprocess.run(
        [sys.executable, "-c", IN_A_PROCESS_OF_ITS_OWN], cwd=ROOT, check=False, capture_output=True, text=True,
        env=environment(folder) | {"DJANGO_SETTINGS_MODULE": "jarvok.app.settings"},
    )  # fmt: skip
    assert run.returncode == 0, run.stderr[-3000:]
    told: dict[str, Any] = json.loads(run.stdout.splitlines()[-1])
    for name, (status, _, grown_mb, took_s) in told.items():
        print(f"{name}: {status}, {grown_mb:.0f} MB more, {1000 * took_s:.0f} ms")
    return told


@pytest.mark.parametrize(("name", "status"), REFUSED.items())
def test_what_is_too_much_is_refused_with_a_sentence_in_little_room(found: dict[str, Any], name: str, status: int) -> None:
    answered, said, grown_mb, _ = found[name]
    assert answered == status
    assert "left out" in said if status == 200 else said.endswith((".", "?")), said
    assert grown_mb < MOST_MB


def test_the_measure_sees_what_is_taken_in(found: dict[str, Any]) -> None:
    assert found["a small workbook as it should be"][0] == 200
    assert found["5 MB of text"][2] > 0, "the text itself"
