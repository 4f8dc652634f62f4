"""A centre goes back to a copy of itself, and moves as one open file: every table as it was."""

from __future__ import annotations

import io
import json
import zipfile
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from django.apps import apps
from django.contrib.auth.models import User
from support.streamed import collected

from jarvok.app import clock
from jarvok.app.accounts.links import make
from jarvok.app.facts.centre.models import Centre
from jarvok.app.facts.floor.models import IdempotentWrite
from jarvok.app.facts.people.models import Link, LinkKind, Person, SignedIn
from jarvok.app.upkeep import backups, housekeeper, whole_centre
from jarvok.app.upkeep.backups import BEFORE_UPGRADE, BY_HAND, DAILY, Backup
from jarvok.app.upkeep.whole_centre import LEFT_OUT, OURS, SECRETS, kinds
from jarvok.core.errors import CoachError

NOW = datetime(2026, 11, 24, 12, tzinfo=UTC)


def test_every_kind_of_row_is_in_the_file_or_named_as_left_out() -> None:
    ours = {
        m._meta.label_lower
        for c in apps.get_app_configs()
        if c.name.startswith(OURS)
        for m in c.get_models(include_auto_created=True)
    }
    assert {k._meta.label_lower for k in kinds()} == (ours - set(LEFT_OUT)) | {"auth.user"}
    assert set(LEFT_OUT) <= ours
    secret = {(m._meta.label_lower, f.attname) for m in kinds() for f in m._meta.concrete_fields if "token" in f.attname}
    assert secret <= SECRETS, "no secret address leaves"


@pytest.mark.django_db
class TestTheFile:
    def written(self, tmp_path: Path) -> Path:
        Centre.objects.update_or_create(pk=1, defaults={"name": "Skerry Hall"})
        User.objects.create_user("ada", password="four words of a song")
        file = tmp_path / "whole.zip"
        with file.open("wb") as into:
            whole_centre.write(into)
        return file

    def test_it_holds_no_password(self, tmp_path: Path) -> None:
        with zipfile.ZipFile(self.written(tmp_path)) as whole:
            user = json.loads(whole.read("auth.user.jsonl"))
        assert user["username"] == "ada"
        assert "password" not in user

    @pytest.mark.parametrize(
        ("spoil", "said"),
        [
            (lambda m, f: m.update(format="another"), "no file of a whole centre"),
            (lambda m, f: m.update(version=2), "newer version"),
            (lambda m, f: m["files"].update({"rooms.moon.jsonl": {}}), "newer version"),
            (lambda m, f: m["files"]["auth.user.jsonl"].update(rows=2), "not as it was written"),
            (lambda m, f: f.update({"auth.user.jsonl": b'{"id": 1, "wings": 2}\n'}), "cannot be read"),
            (lambda m, f: f.update({"auth.user.jsonl": b"nothing\n"}), "cannot be read"),
            (lambda m, f: f.update({"auth.user.jsonl": b'{"id": "x"}\n'}), "cannot be read"),
        ],
    )
    def test_what_is_not_whole_is_refused_and_nothing_taken(self, tmp_path: Path, spoil: Any, said: str) -> None:
        file = self.written(tmp_path)
        with zipfile.ZipFile(file) as whole:
            files = {n: whole.read(n) for n in whole.namelist()}
        manifest = json.loads(files.pop("manifest.json"))
        spoil(manifest, files)
        with zipfile.ZipFile(file, "w") as spoilt:
            for name, data in files.items():
                spoilt.writestr(name, data)
            spoilt.writestr("manifest.json", json.dumps(manifest))
        with file.open("rb") as source, pytest.raises(CoachError, match=said):
            whole_centre.read(source)
        assert User.objects.filter(username="ada").exists(), "what there was is there"

    def test_something_else_is_refused(self, tmp_path: Path) -> None:
        other = tmp_path / "other.zip"
        other.write_bytes(b"PK\x03\x04 and no more")
        with other.open("rb") as source, pytest.raises(CoachError, match="no file of a whole centre"):
            whole_centre.read(source)


def copy_of(days_ago: float, kind: str = DAILY) -> Backup:
    at = NOW - timedelta(days=days_ago)
    return Backup(f"jarvok-{at:%Y%m%d-%H%M%S}-{kind}.sqlite3", at, kind, 1.0)


class TestWhatIsKept:
    def test_seven_days_four_weeks_twelve_months(self) -> None:
        daily = [copy_of(n) for n in range(400)]
        gone = backups.superfluous(daily, NOW)
        kept = [b for b in daily if b not in gone]
        ages = sorted((NOW - b.at).days for b in kept)
        assert ages[:7] == [0, 1, 2, 3, 4, 5, 6]
        assert len({b.at.isocalendar()[:2] for b in kept if (NOW - b.at).days < 28}) in (4, 5), "28 days touch five weeks"
        assert 11 <= len({(b.at.year, b.at.month) for b in kept}) <= 13
        assert max(ages) < 366
        assert len(kept) <= 7 + 4 + 12

    @pytest.mark.parametrize("kind", [BY_HAND, BEFORE_UPGRADE])
    def test_those_of_a_person_and_of_an_upgrade_stay(self, kind: str) -> None:
        assert backups.superfluous([copy_of(n, kind) for n in (1, 40, 900)], NOW) == []

    @pytest.mark.parametrize(("days", "gone"), [(6.9, False), (7.1, False), (365.5, False), (366.5, True)])
    def test_a_lone_one_stays_for_a_year(self, days: float, gone: bool) -> None:
        assert bool(backups.superfluous([copy_of(days)], NOW)) == gone


@pytest.mark.django_db
def test_everything_is_downloaded_in_parts_and_is_the_file(coach, athlete) -> None:
    answer = coach.client.get("/api/export/centre.zip")
    assert answer["Content-Disposition"].startswith('attachment; filename="centre-')

    with zipfile.ZipFile(io.BytesIO(collected(answer))) as whole:
        rows = [json.loads(x) for x in whole.read("athletes.athlete.jsonl").splitlines()]
        manifest = json.loads(whole.read("manifest.json"))
    assert [r["name"] for r in rows] == ["Ada Test"]
    assert manifest["files"]["athletes.athlete.jsonl"]["rows"] == 1
    assert coach.client.get("/api/export/backups/jarvok-20260101-000000-daily.sqlite3").status_code == 422
    assert coach.client.get("/api/export/backups/..%2Fjarvok.sqlite3").status_code in (404, 422)


@pytest.mark.django_db
class TestHousekeeping:
    def test_one_process_looks_after_the_centre(self) -> None:
        assert housekeeper.is_mine("one")
        assert housekeeper.is_mine("one")
        assert not housekeeper.is_mine("two")
        Centre.objects.update(housekeeper_until=clock.now() - timedelta(seconds=1))
        assert housekeeper.is_mine("two"), "one that has gone is followed"

    def test_a_copy_a_day(self, monkeypatch: pytest.MonkeyPatch) -> None:
        made: list[str] = []
        monkeypatch.setattr(backups, "make", lambda kind: made.append(kind))
        monkeypatch.setattr(backups, "prune", lambda: 0)
        housekeeper.tidy()
        assert made == [], "a centre that has not begun has nothing to lose"
        Centre.objects.update(begun_at=clock.now())
        housekeeper.tidy()
        housekeeper.tidy()
        assert made == [DAILY]
        Centre.objects.update(backed_up_on=clock.today() - timedelta(days=1))
        housekeeper.tidy()
        assert made == [DAILY, DAILY]

    def test_what_goes_wrong_is_kept_to_be_shown(self, monkeypatch: pytest.MonkeyPatch) -> None:
        def fail(kind: str) -> None:
            raise CoachError("No room.")

        monkeypatch.setattr(backups, "make", fail)
        Centre.objects.update_or_create(pk=1, defaults={"begun_at": clock.now()})
        housekeeper.tidy()
        assert Centre.objects.get().backup_problem == "No room."

    def test_what_is_over_goes(self) -> None:
        person = Person.objects.create(name="Ada")
        for days in (29, 31):
            link, _ = make(LinkKind.WELCOME, person, 1, person=person)
            Link.objects.filter(pk=link.pk).update(until=clock.now() - timedelta(days=days))
            IdempotentWrite.objects.create(key=str(days), request="", answer={})
            IdempotentWrite.objects.filter(key=str(days)).update(at=clock.now() - timedelta(days=days))
        for minutes in (-1, 1):
            SignedIn.objects.create(session_key=str(minutes), expire_date=clock.now() + timedelta(minutes=minutes))
        housekeeper.tidy()
        assert (Link.objects.count(), IdempotentWrite.objects.count(), SignedIn.objects.count()) == (1, 1, 1)


class TestAFolder:
    def test_it_is_made_and_tried(self, tmp_path: Path) -> None:
        wanted = tmp_path / "a" / "b"
        assert backups.folder_that_works(f" {wanted} ") == str(wanted)
        assert wanted.is_dir()
        assert backups.folder_that_works("") == ""

    @pytest.mark.parametrize("typed", ["copies", "/proc/nothing"])
    def test_what_cannot_be_written_to_is_said(self, typed: str) -> None:
        with pytest.raises(CoachError) as refused:
            backups.folder_that_works(typed)
        assert refused.value.accepted
