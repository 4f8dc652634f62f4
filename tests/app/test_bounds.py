"""Everything that arrives has bounds: what is too much is refused with a sentence, and nothing of it is stored."""

from __future__ import annotations

import io
import json
import zipfile

import pytest
from conftest import Coach
from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import Client
from openpyxl import Workbook, load_workbook
from support.streamed import collected

from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.floor import streams
from jarvok.core.interchange.bounds import MOST_INFLATED_BYTES

HEAD = "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//x//x//EN\r\n"
PROBLEM = "application/problem+json"


def calendar(rule: str, start: str = "20260101T180000Z", name: str = "Practice") -> str:
    event = f"BEGIN:VEVENT\r\nUID:1@x\r\nSUMMARY:{name}\r\nDTSTART:{start}\r\nRRULE:{rule}\r\nEND:VEVENT\r\n"
    return HEAD + event + "END:VCALENDAR\r\n"


def read_calendar(coach: Coach, athlete: Athlete, text: str) -> dict:
    path = f"/api/athletes/{athlete.pk}/calendar/preview"
    response = coach.client.post(path, json.dumps({"text": text}), content_type="application/json")
    assert response["Content-Type"].startswith("application/"), response.content
    return {"status": response.status_code} | response.json()


@pytest.mark.parametrize(
    "rule",
    [
        "FREQ=SECONDLY",
        "FREQ=MINUTELY",
        "FREQ=HOURLY;INTERVAL=3",
        "FREQ=DAILY;BYHOUR=1,2,3;BYMINUTE=1,2,3;BYSECOND=1,2,3",
        "FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30",
        "FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30",
        "FREQ=MONTHLY;BYDAY=6MO",
        "FREQ=MONTHLY;INTERVAL=12;BYMONTHDAY=30",
        "FREQ=YEARLY;INTERVAL=99999",
    ],
)
def test_a_rule_that_never_ends_is_left_out_with_a_sentence(coach: Coach, athlete: Athlete, rule: str) -> None:
    read = read_calendar(coach, athlete, calendar(rule, "19700201T180000Z"))
    assert read["status"] == 200
    assert "left out" in json.dumps(read)


@pytest.mark.parametrize(
    "rule", ["FREQ=WEEKLY;BYDAY=MO,WE", "FREQ=MONTHLY;BYDAY=-1SA", "FREQ=YEARLY;BYMONTH=6;BYMONTHDAY=30", "FREQ=DAILY"]
)
def test_what_a_clubs_calendar_says_is_followed(coach: Coach, athlete: Athlete, rule: str) -> None:
    read = read_calendar(coach, athlete, calendar(rule))
    assert read["status"] == 200
    assert "left out" not in json.dumps(read)


def test_too_many_moments_are_refused(coach: Coach, athlete: Athlete) -> None:
    events = "".join(
        f"BEGIN:VEVENT\r\nUID:{n}@x\r\nSUMMARY:Run\r\nDTSTART:19700101\r\nRRULE:FREQ=DAILY\r\nEND:VEVENT\r\n" for n in range(30)
    )
    read = read_calendar(coach, athlete, HEAD + events + "END:VCALENDAR\r\n")
    assert read["status"] == 422
    assert "go on for too long" in read["title"]


def preview(coach: Coach, raw: bytes, name: str) -> tuple[int, dict]:
    response = coach.client.post("/api/import/athletes/file", {"file": SimpleUploadedFile(name, raw)})
    return response.status_code, response.json()


def workbook(rows: list[list[object]]) -> bytes:
    book, file = Workbook(), io.BytesIO()
    for row in rows:
        book.active.append(row)
    book.save(file)
    return file.getvalue()


def test_a_small_workbook_with_much_inside_is_refused(coach: Coach) -> None:
    raw = io.BytesIO(workbook([["Name", "Squad"], ["Bo Test", "Evening"]]))
    with zipfile.ZipFile(raw, "a", zipfile.ZIP_DEFLATED) as parts:
        parts.writestr("xl/more.xml", b" " * 150_000_000)
    assert len(raw.getvalue()) < 400_000
    status, said = preview(coach, raw.getvalue(), "athletes.xlsx")
    assert (status, said["accepted"]) == (422, "Keep the one sheet with the list, or save it as CSV.")


@pytest.mark.parametrize(("more", "status"), [(MOST_INFLATED_BYTES - 100_000, 200), (MOST_INFLATED_BYTES + 1, 422)])
def test_a_workbook_on_each_side_of_the_bound(coach: Coach, more: int, status: int) -> None:
    raw = io.BytesIO(workbook([["Name", "Squad"], ["Bo Test", "Evening"]]))
    with zipfile.ZipFile(raw, "a", zipfile.ZIP_DEFLATED) as parts:
        parts.writestr("xl/more.xml", b" " * more)
    assert preview(coach, raw.getvalue(), "athletes.xlsx")[0] == status


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("Name\n" + "a\n" * 950_000, "More than 5000 lines"),
        ("Name,Squad\n" + "x" * 131_073 + ",Evening\n", "never ends"),
        ('Name,Squad\n"Bo Test,Evening\n' + "y,z\n" * 60_000, "never ends"),
    ],
)
def test_a_table_without_an_end_is_refused(coach: Coach, text: str, says: str) -> None:
    status, said = preview(coach, text.encode(), "athletes.csv")
    assert status == 422
    assert says in said["title"]


def test_a_sign_that_nothing_shows_breaks_nobodys_workbook(coach: Coach, athlete: Athlete) -> None:
    refused = coach.client.post(f"/api/athletes/{athlete.pk}/plan/note", '{"note": "a\\u0000b"}', content_type="application/json")
    assert refused["Content-Type"] == PROBLEM
    said = coach.client.post("/api/import/athletes/preview", json.dumps({"text": "a\u0000b"}), content_type="application/json")
    assert (said.status_code, "cannot be shown" in said.json()["title"]) == (422, True)
    typed = coach.client.post("/api/import/athletes/preview", json.dumps({"text": "a\\u0000b"}), content_type="application/json")
    assert "cannot be shown" not in typed.content.decode()  # a backslash that was typed is none
    status, said = preview(coach, b"Name,Squad\nBo\x00 Test,Evening\n", "athletes.csv")
    assert (status, said["rows"][0]["name"]) == (200, "Bo Test")
    sign = "\x00" if connection.vendor == "sqlite" else "\x01"  # PostgreSQL never took the first
    Athlete.objects.filter(pk=athlete.pk).update(name=f"Ada{sign} Test")  # from before there was a bound
    answer = coach.client.get("/api/export/athletes.xlsx")
    assert answer.status_code == 200, answer.content
    book = load_workbook(io.BytesIO(collected(answer)))
    assert "Ada Test" in [c.value for c in next(iter(book.worksheets[0].iter_cols()))]


@pytest.mark.parametrize(
    ("body", "status"),
    [
        (b'{"text": "' + b"x" * 5_000_000 + b'"}', 413),
        (b"[" * 100_000, 400),
        (b'{"text": NaN}', 400),
        (b'{"text": 1' + b"0" * 5000 + b"}", 422),
        (b'{"text": "a", "mapping": {"1": ' + b"9" * 19 + b"}}", 422),
        (b'{"text": 1e999}', 422),
        (b'{"text": "a\\bc"}', 422),
        (b'{"text": "a\\u007fc"}', 422),
        (b"\xff\xfe", 400),
        (b"{", 400),
        (b'"just a word"', 422),
    ],
)
def test_a_body_that_is_none(coach: Coach, body: bytes, status: int) -> None:
    answer = coach.client.post("/api/import/athletes/preview", body, content_type="application/json")
    assert (answer.status_code, answer["Content-Type"]) == (status, PROBLEM)
    assert answer.json()["title"].endswith(".")


def test_ends_of_lines_from_a_text_are_spaces(coach: Coach) -> None:
    text = "Name,Squad\nBo\u000bTest,Evening\nCy\fTest,Evening\nDi\\fTest,Evening"
    said = coach.client.post("/api/import/athletes/preview", json.dumps({"text": text}), content_type="application/json").json()
    assert [r["name"] for r in said["rows"]] == ["Bo Test", "Cy Test", "Di\\fTest"]


def test_one_poisoned_sample_does_not_mute_a_stream() -> None:
    live = streams.Live("t", 1, 1, 1, _Counting(), last_seq=10, durable_seq=5, reps_before=0)  # type: ignore[arg-type]
    take = lambda *numbers: streams.detect(live, _batch(*numbers), from_here=False)  # noqa: E731
    take(11, 10**15, 12, 13)
    assert live.last_seq == 13
    take(10**15)
    take(14)
    assert live.last_seq == 14
    take(*range(15, 15 + streams.FAR_AHEAD))
    live.durable_seq = 0
    take(live.last_seq + streams.FAR_AHEAD)  # as far as is believed at once
    assert live.last_seq == 14 + 2 * streams.FAR_AHEAD
    far = live.last_seq + 900_000  # a bridge that was away for an hour: the second sample bears the first out
    take(far)
    assert live.last_seq < far
    take(far + 1)
    assert live.last_seq == far + 1


class _Counting:
    """Stands in for what finds repetitions: it takes samples and finds none."""

    def push(self, samples: object) -> list[object]:
        list(samples)  # type: ignore[call-overload]
        return []


def _batch(*numbers: int) -> streams.Batch:
    return streams.Batch(tuple((n, n / 100, 0.5) for n in numbers))


@pytest.mark.parametrize("half", ["\\ud83d", "\\udE00", "\\uDBFFx", "\\ude00\\ud83d"])
def test_half_of_a_sign_of_two_is_refused_with_a_sentence(coach: Coach, athlete: Athlete, half: str) -> None:
    path = f"/api/athletes/{athlete.pk}/competitions"
    body = '{"name": "Open %s Day", "day": "2027-03-20", "rank": "main"}'
    refused = coach.client.post(path, body % half, content_type="application/json")
    assert (refused.status_code, "cannot be shown" in refused.json()["title"]) == (422, True)
    as_bytes = (body % half).encode().decode("unicode_escape").encode(errors="surrogatepass")
    assert coach.client.post(path, as_bytes, content_type="application/json").status_code == 422
    whole = coach.client.post(path, body % "\\ud83d\\ude00", content_type="application/json")
    assert whole.status_code == 200, whole.content
    assert "Open \U0001f600 Day" in coach.client.get(f"/api/athletes/{athlete.pk}/season").content.decode()


@pytest.mark.parametrize("key", ['"\\000bcdefghijklmnop"', '"\\303\\244bcdefghijklmnop"', "a b", "x" * 5000, "'; --12345678"])
def test_a_sign_in_that_no_server_wrote_is_nobodys(client: Client, squad: Squad, key: str) -> None:
    answer = client.get("/api/today", headers={"cookie": f"{settings.SESSION_COOKIE_NAME}={key}"})
    assert (answer.status_code, answer["Content-Type"]) == (401, PROBLEM)
