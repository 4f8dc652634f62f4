"""Who may do what: every address of the API, for every role, in one's own squad and in another's."""

from __future__ import annotations

import json
import re
from datetime import UTC, date, datetime, timedelta
from typing import Any, NamedTuple

import pytest
from asgiref.sync import async_to_sync
from django.contrib.auth.models import AnonymousUser, User
from django.http import HttpResponse
from django.test import Client, RequestFactory
from support.streamed import collected

from jarvok.app import clock
from jarvok.app.accounts import seen
from jarvok.app.accounts.doors import NEEDS
from jarvok.app.accounts.links import make
from jarvok.app.accounts.middleware import LastSeen
from jarvok.app.api.floor import live
from jarvok.app.facts.athletes.models import Athlete, Fault, MarkRecord, Practice, Restriction, Squad
from jarvok.app.facts.floor.models import PainReport, SessionLine, SetRecord, TrainingSession
from jarvok.app.facts.people.models import Link, LinkKind, Person, Role, SignedIn
from jarvok.app.facts.room.models import Gathering, Trial
from jarvok.app.facts.seasons.models import Competition, Entry, FlagWord
from jarvok.app.room import links
from jarvok.app.urls import api

pytestmark = pytest.mark.django_db
PASSWORD = "four words of a song"
OPERATIONS = [
    (method.upper(), path.removeprefix("/api/"))
    for path, methods in api.get_openapi_schema()["paths"].items()
    for method in methods
]

# The table of roles, written a second time as sentences about addresses: what a role may, as patterns of "METHOD path".
OPEN = r"GET (me|now)|POST (sign-in|first-run(/file)?)|\w+ (rack-links|ready|welcome)/.*"
OWN_ACCOUNT = r"POST (sign-out|password)|PUT me/habits|GET (sign-ins|shorthand)|POST sign-ins/.*"
THEIR_OWN_PAGE = r"GET mine|POST mine/answers"  # an athlete's, and nobody else's
SHEET = r"GET (athletes/{athlete_id}(/sessions/{day}/{key})?|floor/sessions/{session_id}(/review)?)"
LOGS = r"POST floor/sessions(/{session_id}/(sets(/correct)?|undo|finish|advice/{advice_id}))?"
LOOKS = r"GET (find|squads|names|athletes|athletes/{athlete_id}/week|squads/{squad_id}/week|room/entries|room/{room_id})"
PEOPLE = r"\w+ (people|links|backups|upkeep)(/.*)?|POST athletes/{athlete_id}/erase"
RULES = r"(PUT settings/(rules/.*|equation|zone|habits|name)|POST settings/reset)"
HEALTH = (
    r"GET athletes/{athlete_id}/record|POST athletes/{athlete_id}/(restrictions|masses)|POST restrictions/.*"
    r"|POST floor/pains/{pain_id}/answer"
)
FLOOR = r"(GET|POST|PUT) (room|floor/sessions|floor/lines|clock-forms|sensors/.*|devices/preview)(/.*)?|GET sensors"
LEARNS = r"POST findings/{whose}/{pk}|PUT athletes/{athlete_id}/missed/.*"  # typed by whoever runs sessions
REPORT = r"GET athletes/{athlete_id}/report"  # who may read which part is a test of its own
ANSWERS_ONLY = r"POST .*/(preview|taper-bench)"  # an answer is worked out, nothing is kept
DETAILS = r"GET (athletes/{athlete_id}/record|history)"
IMPORTS = r"(GET|POST) import/.*|POST athletes/{athlete_id}/merge/preview"  # what shows more than a sheet does


def may(role: Role, door: str) -> bool:
    """What the table of roles says, read anew."""

    def is_one_of(*patterns: str) -> bool:
        return any(re.fullmatch(p, door) for p in patterns)

    if is_one_of(THEIR_OWN_PAGE):
        return role == Role.ATHLETE
    if is_one_of(OPEN, OWN_ACCOUNT) or role == Role.HEAD:
        return True
    if role == Role.COACH:
        return not is_one_of(PEOPLE, RULES)
    if role == Role.ASSISTANT:
        looks = door.startswith("GET ") and not is_one_of(DETAILS, PEOPLE, IMPORTS)
        return is_one_of(FLOOR, SHEET, LOGS, LOOKS, LEARNS) or looks or (is_one_of(ANSWERS_ONLY) and not is_one_of(IMPORTS))
    if role == Role.MEDICAL:
        return is_one_of(SHEET, LOOKS, HEALTH, REPORT)
    return is_one_of(SHEET, LOGS, REPORT)


class Place(NamedTuple):
    """A squad with one of everything that an address can name."""

    athlete: Athlete
    ids: dict[str, int]


def furnish(name: str) -> Place:
    squad = Squad.objects.create(name=name, sport="wrestling")
    athlete = Athlete.objects.create(squad=squad, name=f"Ada of {name}", birth_date=date(2000, 1, 1))
    today = clock.today()
    session = TrainingSession.objects.create(athlete=athlete, day=today, key="A", theme="x", started_at=clock.now())
    line = SessionLine.objects.create(
        session=session, slot="A1", block="A", exercise_id="back_squat", text="3 × 5", planned=[], rest_s=120, order=0
    )
    room = Gathering.objects.create(squad=squad, day=today, opened_at=clock.now())
    competition = Competition.objects.create(squad=squad, name="Cup", day=today + timedelta(days=60))
    entry = Entry.objects.create(athlete=athlete, competition=competition, planned_from=today)
    record = SetRecord.objects.create(line=line, kind="work", number=1, load_kg=60, reps=3, done_at=clock.now())
    ids = {
        "athlete_id": athlete.pk, "squad_id": squad.pk, "session_id": session.pk, "line_id": line.pk, "room_id": room.pk,
        "mark_id": MarkRecord.objects.create(
            athlete=athlete, exercise_id="back_squat", kind="one_rm", day=today, load_kg=100, reps=1
        ).pk,
        "restriction_id": Restriction.objects.create(athlete=athlete, tag="knee", since=today).pk,
        "fault_id": Fault.objects.create(athlete=athlete, exercise_id="snatch", fault="x", since=today).pk,
        "practice_id": Practice.objects.create(squad=squad, weekday=0, hour=18, minutes=90, hardness=6).pk,
        "test_id": Trial.objects.create(
            athlete=athlete, kind="true_max", exercise_id="back_squat", started_at=clock.now()
        ).pk,
        "trial_id": Trial.objects.create(
            athlete=athlete, kind="rest", exercise_id="back_squat", asked={}, started_at=clock.now()
        ).pk,
        "word_id": FlagWord.objects.create(athlete=athlete, check_id="x", where="", reason="").pk,
        "pain_id": PainReport.objects.create(session=session, record=record, area="knee").pk,
    }  # fmt: skip
    return Place(athlete, ids | {"entry_id": entry.pk, "competition": competition.pk})


def person(name: str, role: Role, place: Place, *, may_log: bool = True) -> tuple[Person, Client]:
    user = User.objects.create_user(name, password=PASSWORD)
    made = Person.objects.create(user=user, name=name.title(), role=role)
    if role in (Role.COACH, Role.ASSISTANT):
        made.squads.add(place.athlete.squad)
    if role == Role.ATHLETE:
        made.athlete, made.may_log = place.athlete, may_log
        made.save()
    client = Client()
    client.force_login(user)
    return made, client


def address(path: str, place: Place) -> str:
    """An address with everything it names put in."""
    ids = {k: str(v) for k, v in place.ids.items()}
    ids["competition_id"] = ids["competition"] if "squads/" in path else ids["entry_id"]
    ids |= {"day": str(clock.today()), "key": "A", "whose": "squad", "pk": ids["squad_id"], "monday": "2026-11-30"}
    return "/api/" + re.sub(r"{(\w+)}", lambda m: ids.get(m[1], "1"), path)


def is_of_somebody(path: str) -> bool:
    return any(f"{{{name}}}" in path for name in (
        "athlete_id", "squad_id", "session_id", "line_id", "room_id", "mark_id", "restriction_id", "fault_id", "test_id",
        "trial_id", "word_id", "pain_id", "competition_id", "pk",
    ))  # fmt: skip


def status(client: Client, method: str, where: str) -> int:
    return int(client.generic(method, where, data="{}", content_type="application/json", HTTP_IDEMPOTENCY_KEY="k").status_code)


def test_every_address_is_named_once_and_nothing_else_is() -> None:
    outside = {"GET changes", "GET calendars/{token}.ics", "GET floor/sessions/{session_id}/events", "GET room/{room_id}/events"}
    assert {f"{m} {p}" for m, p in OPERATIONS} == {d for d in NEEDS if "export/" not in d} - outside


@pytest.mark.parametrize("role", list(Role))
def test_every_address_for_a_role_in_its_own_squad_and_in_another(role: Role) -> None:
    own, other = furnish("Own"), furnish("Other")
    _, client = person("somebody", role, own)
    wrong = []
    for method, path in OPERATIONS:
        door = f"{method} {path}"
        if re.fullmatch(OPEN, door) or path in ("sign-out", "password") or path.endswith("/restore"):
            continue
        for place in (own, other) if is_of_somebody(path) else (own,):
            answer = status(client, method, address(path, place))
            wanted = may(role, door) and (place is own or role in (Role.HEAD, Role.MEDICAL))
            if (answer in (401, 403)) == wanted:
                wrong.append((door, "own" if place is own else "other", answer))
    assert not wrong


def test_a_stranger_gets_in_nowhere() -> None:
    place, client = furnish("Own"), Client()
    for method, path in OPERATIONS:
        if not re.fullmatch(OPEN, f"{method} {path}"):
            assert status(client, method, address(path, place)) == 401, path


@pytest.mark.parametrize("path", ["floor/sessions/{session_id}/events", "room/{room_id}/events"])
def test_an_event_stream_is_shut_to_strangers_and_other_squads(path: str) -> None:
    own, other = furnish("Own"), furnish("Other")
    _, coach = person("coach", Role.COACH, own)
    _, athlete = person("athlete", Role.ATHLETE, own)
    assert Client().get(address(path, own)).status_code == 401
    assert coach.get(address(path, other)).status_code == 403
    assert athlete.get(address(path, other)).status_code == 403


@pytest.mark.parametrize("path", [
    "export/athletes.csv", "export/athletes/{athlete_id}/calendar.ics", "export/squads/{squad_id}/calendar.ics",
    "export/tables/results.csv", "export/athletes/{athlete_id}.json", "export/athletes/{athlete_id}/file.pdf",
    "export/squads/{squad_id}/report.xlsx",
])  # fmt: skip
def test_what_is_no_part_of_the_document_is_shut_too(path: str) -> None:
    own, other = furnish("Own"), furnish("Other")
    _, coach = person("coach", Role.COACH, own)
    _, athlete = person("athlete", Role.ATHLETE, own)
    assert Client().get(address(path, own)).status_code == 401
    assert coach.get(address(path, own)).status_code == 200
    if is_of_somebody(path):
        assert coach.get(address(path, other)).status_code == 403
    assert athlete.get(address(path, other if "sessions" in path else own)).status_code == 403


@pytest.mark.parametrize(
    "path",
    ["squads/{squad_id}/week", "squads/{squad_id}/season", "learning/squad/{squad_id}", "findings/squad/{squad_id}",
     "athletes/{athlete_id}", "athletes/{athlete_id}/week"],
)  # fmt: skip
def test_a_page_that_is_kept_is_shut_to_a_coach_of_another_squad(path: str) -> None:
    own, other = furnish("Own"), furnish("Other")
    (_, coach), (_, another) = person("coach", Role.COACH, own), person("another", Role.COACH, other)
    first = coach.get(address(path, own))
    assert first.status_code == 200
    assert coach.get(address(path, own)).content == first.content
    assert another.get(address(path, own)).status_code == 403


@pytest.mark.parametrize("ends", ["account", "sign_in", "link"])
def test_an_open_event_stream_ends_with_what_let_it_in(ends: str, monkeypatch: pytest.MonkeyPatch) -> None:
    own = furnish("Own")
    made, client = person("coach", Role.COACH, own)
    request = RequestFactory().get("/")
    request.session = client.session
    request.user = AnonymousUser() if ends == "link" else made.user
    monkeypatch.setattr(live, "open_door", lambda request: None)
    if ends == "link":
        link, token = make(LinkKind.RACK, made, 8, gathering_id=own.ids["room_id"], rack=1)
        request.COOKIES[links.COOKIE] = token
        request.path = f"/api/room/{own.ids['room_id']}/racks/1"
    still = live.hearer(request)
    assert still is not None
    assert still()
    if ends == "account":
        Person.objects.filter(pk=made.pk).update(ended_at=clock.now())
    elif ends == "sign_in":
        SignedIn.objects.all().delete()
    else:
        Link.objects.filter(pk=link.pk).update(ended_at=clock.now())
    assert not still()


@pytest.mark.parametrize("lasts", [True, False])
def test_a_stream_is_asked_about_while_it_is_open(lasts: bool, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(live, "ASKED_EVERY_S", -1.0)
    monkeypatch.setattr(live, "HEARTBEAT_S", 0.01)

    async def nobody() -> tuple[set[int], set[int]]:
        return set(), set()

    async def heard() -> list[bytes]:
        found = []
        async for part in live._stream(nobody, 0, lambda: lasts):
            found.append(part)
            if len(found) > 2:
                break
        return found

    assert len(async_to_sync(heard)()) == (3 if lasts else 1)


class TestOwnSquads:
    def test_lists_hold_ones_own(self) -> None:
        own, other = furnish("Own"), furnish("Other")
        _, coach = person("coach", Role.COACH, own)
        assert [s["name"] for s in coach.get("/api/names").json()] == ["Own"]
        assert [s["name"] for s in coach.get("/api/athletes").json()["squads"]] == ["Own"]
        assert [s["squad"] for s in coach.get("/api/room/entries").json()] == ["Own"]
        assert [s["name"] for s in coach.get("/api/calendar").json()["squads"]] == ["Own"]
        assert coach.get("/api/today").json()["athletes"] == 1
        assert b"Ada of Other" not in collected(coach.get("/api/export/athletes.csv"))
        assert coach.get(f"/api/history?athlete={other.athlete.pk}").status_code == 403
        _, head = person("head", Role.HEAD, own)
        assert [s["name"] for s in head.get("/api/names").json()] == ["Own", "Other"]

    def test_what_a_body_names_has_to_be_ones_own_too(self) -> None:
        own, other = furnish("Own"), furnish("Other")
        _, coach = person("coach", Role.COACH, own)

        def post(path: str, body: Any, method: str = "POST") -> int:
            return int(coach.generic(method, f"/api/{path}", json.dumps(body), content_type="application/json",
                                     HTTP_IDEMPOTENCY_KEY=path + str(body)).status_code)  # fmt: skip

        assert post("room", {"squad_id": other.ids["squad_id"]}) == 403
        assert post("room", {"squad_id": own.ids["squad_id"]}) == 200
        assert post("athletes", {"name": "New", "squad": "Other", "sport": ""}) == 403
        assert post("athletes", {"name": "New", "squad": "Own", "sport": ""}) == 200
        moved = {"squad_id": other.ids["squad_id"]}
        assert post(f"athletes/{own.athlete.pk}/record", moved, "PATCH") == 403
        assert Athlete.objects.filter(squad__name="Other").count() == 1

    def test_a_coach_s_new_squad_is_theirs(self) -> None:
        own = furnish("Own")
        _, coach = person("coach", Role.COACH, own)
        body = {"name": "New", "squad": "Newcomers", "sport": "rowing"}
        made = coach.post("/api/athletes", json.dumps(body), content_type="application/json")
        assert made.status_code == 200, made.content
        assert coach.get(f"/api/athletes/{made.json()['id']}").status_code == 200
        assert [s["name"] for s in coach.get("/api/names").json()] == ["Own", "Newcomers"]

    def test_notes_and_birth_dates_are_for_coach_and_medical(self) -> None:
        own = furnish("Own")
        Athlete.objects.filter(pk=own.athlete.pk).update(note="asthma")
        shown = {}
        for role in (Role.COACH, Role.ASSISTANT, Role.MEDICAL, Role.ATHLETE):
            _, client = person(role, role, own)
            shown[role] = client.get(f"/api/athletes/{own.athlete.pk}").json()["note"]
        assert shown == {Role.COACH: "asthma", Role.ASSISTANT: "", Role.MEDICAL: "asthma", Role.ATHLETE: ""}


class TestAthletes:
    def test_their_own_page(self) -> None:
        own = furnish("Own")
        _, client = person("ada", Role.ATHLETE, own)
        mine = client.get("/api/mine").json()
        assert (mine["athlete_id"], mine["may_log"]) == (own.athlete.pk, True)
        assert [s["key"] for s in mine["today"]] == ["A"], "a session that runs"
        answers = {"sleep": 3, "soreness": 3, "stress": 3, "energy": 3}
        key = {"HTTP_IDEMPOTENCY_KEY": "my-answers-1"}
        said = client.post("/api/mine/answers", json.dumps(answers), content_type="application/json", **key)
        assert said.status_code == 200, said.content
        assert said.json()["ready"]["said"]["sleep"] == 3

    def test_they_log_where_the_coach_allows_it(self) -> None:
        own = furnish("Own")
        made, client = person("ada", Role.ATHLETE, own, may_log=False)
        path = f"/api/floor/sessions/{own.ids['session_id']}/undo"
        assert status(client, "POST", path) == 403
        made.may_log = True
        made.save()
        assert status(client, "POST", path) != 403

    def test_no_other_role_has_such_a_page(self) -> None:
        _, client = person("coach", Role.COACH, furnish("Own"))
        assert client.get("/api/mine").status_code == 403


class TestAccounts:
    def send(self, client: Client, method: str, path: str, body: Any = None) -> Any:
        return client.generic(method, f"/api/{path}", json.dumps(body or {}), content_type="application/json")

    def invite(self, head: Client, **more: Any) -> Any:
        answer = self.send(head, "POST", "people", {"name": "Ines Tarro", "role": "coach", **more})
        assert answer.status_code == 200, answer.content
        return answer.json()

    def test_somebody_is_asked_in_and_comes(self) -> None:
        own = furnish("Own")
        _, head = person("head", Role.HEAD, own)
        link = self.invite(head, squads=[own.ids["squad_id"]])
        token = link["path"].removeprefix("/welcome/")
        assert not Link.objects.filter(token_hash__contains=token).exists(), "the token itself is kept nowhere"
        guest = Client()
        assert guest.get(f"/api/welcome/{token}").json() == {"centre": "", "name": "Ines Tarro", "sign_in": ""}
        short = self.send(guest, "POST", f"welcome/{token}", {"sign_in": "ines", "password": "short"})
        assert (short.status_code, short.json()["where"]) == (422, "password")
        taken = self.send(guest, "POST", f"welcome/{token}", {"sign_in": "head", "password": PASSWORD})
        assert (taken.status_code, taken.json()["where"]) == (422, "sign_in")
        me = self.send(guest, "POST", f"welcome/{token}", {"sign_in": "ines", "password": PASSWORD}).json()
        assert (me["signed_in"], me["role"], "plan" in me["may"], "centre" in me["may"]) == (True, "coach", True, False)
        assert [s["name"] for s in guest.get("/api/names").json()] == ["Own"]
        again = self.send(Client(), "POST", f"welcome/{token}", {"sign_in": "other", "password": PASSWORD})
        assert again.status_code == 422, "a link is good once"

    def test_a_forgotten_password_signs_out_the_old_places(self) -> None:
        own = furnish("Own")
        _, head = person("head", Role.HEAD, own)
        made, there = person("ines", Role.COACH, own)
        token = self.send(head, "POST", f"people/{made.pk}/link").json()["path"].removeprefix("/welcome/")
        assert there.get("/api/names").status_code == 200
        here = Client()
        assert self.send(here, "POST", f"welcome/{token}", {"password": "another four words"}).status_code == 200
        assert there.get("/api/names").status_code == 401
        assert here.get("/api/names").status_code == 200

    @pytest.mark.parametrize("hours", [71, 73])
    def test_a_link_is_good_for_three_days(self, hours: int) -> None:
        own = furnish("Own")
        _, head = person("head", Role.HEAD, own)
        token = self.invite(head)["path"].removeprefix("/welcome/")
        Link.objects.update(until=clock.now() + timedelta(hours=72 - hours))
        assert (Client().get(f"/api/welcome/{token}").status_code == 200) == (hours < 72)

    def test_an_account_that_ends_is_out_everywhere(self) -> None:
        own = furnish("Own")
        _, head = person("head", Role.HEAD, own)
        made, client = person("ines", Role.COACH, own)
        rack = self.send(client, "POST", f"room/{own.ids['room_id']}/racks/1/link").json()["path"].removeprefix("/rack/")
        tablet = Client()
        assert tablet.get(f"/api/rack-links/{rack}").status_code == 200
        assert self.send(head, "POST", f"people/{made.pk}/end").status_code == 200
        assert client.get("/api/names").status_code == 401
        assert tablet.get(f"/api/rack-links/{rack}").status_code == 422
        refused = self.send(Client(), "POST", "sign-in", {"name": "ines", "password": PASSWORD})
        assert (refused.status_code, "ended" in refused.json()["title"]) == (401, True)
        assert self.send(head, "POST", f"people/{made.pk}/back").status_code == 200
        assert self.send(Client(), "POST", "sign-in", {"name": "ines", "password": PASSWORD}).status_code == 200

    def test_the_only_head_stays(self) -> None:
        own = furnish("Own")
        made, head = person("head", Role.HEAD, own)
        assert self.send(head, "POST", f"people/{made.pk}/end").status_code == 409
        change = {"name": "Head", "role": "coach"}
        assert self.send(head, "PATCH", f"people/{made.pk}", change).status_code == 409
        person("second", Role.HEAD, own)
        assert self.send(head, "PATCH", f"people/{made.pk}", change).status_code == 200
        assert self.send(head, "GET", "people").status_code == 403, "from the next thing on"

    def test_sign_ins_are_listed_and_ended(self) -> None:
        own = furnish("Own")
        person("ines", Role.COACH, own)
        SignedIn.objects.all().delete()
        here, there = Client(), Client(HTTP_USER_AGENT="Mozilla/5.0 (iPad; CPU OS 17) AppleWebKit Safari/605")
        for c in (here, there):
            assert self.send(c, "POST", "sign-in", {"name": "ines", "password": PASSWORD}).status_code == 200
        rows = here.get("/api/sign-ins").json()
        assert {(r["device"], r["is_here"]) for r in rows} == {("a browser", True), ("Safari on iPad", False)}
        other = next(r["handle"] for r in rows if not r["is_here"])
        assert not SignedIn.objects.filter(pk=other).exists(), "a handle is no key"
        assert len(self.send(here, "POST", f"sign-ins/{other}/end").json()) == 1
        assert there.get("/api/names").status_code == 401
        assert here.get("/api/names").status_code == 200

    @pytest.mark.parametrize(("minutes", "told"), [(9, False), (11, True)])
    def test_when_they_were_last_here_is_written_every_ten_minutes(self, minutes: int, told: bool) -> None:
        _, client = person("ines", Role.COACH, furnish("Own"))
        reading, change = RequestFactory().get("/"), RequestFactory().post("/")
        reading.session = change.session = client.session
        at = [1000.0]
        passed = LastSeen(lambda r: HttpResponse())
        before = SignedIn.objects.get().seen_at
        with pytest.MonkeyPatch.context() as patch:
            patch.setattr(seen.time, "monotonic", lambda: at[0])
            patch.setattr(seen, "_written_at", at[0])
            passed(reading)
            at[0] += minutes * 60
            passed(change)
        assert (SignedIn.objects.get().seen_at != before) == told

    def test_open_links_are_listed_and_ended(self) -> None:
        own = furnish("Own")
        made, head = person("head", Role.HEAD, own)
        link, token = make(LinkKind.RACK, made, 8, gathering_id=own.ids["room_id"], rack=2)
        assert [(x["words"], x["maker"]) for x in head.get("/api/links").json()] == [("Rack 2 of Own", "Head")]
        assert Client().get(f"/api/rack-links/{token}").status_code == 200
        assert self.send(head, "POST", f"links/{link.pk}/end").json() == []
        assert Client().get(f"/api/rack-links/{token}").status_code == 422

    def test_a_foreign_page_cannot_sign_anybody_in(self) -> None:
        person("ines", Role.COACH, furnish("Own"))
        strict = Client(enforce_csrf_checks=True)
        body = {"name": "ines", "password": PASSWORD}
        assert self.send(strict, "POST", "sign-in", body).status_code == 403
        token = strict.get("/api/me").json()["csrf_token"]
        answer = strict.post("/api/sign-in", json.dumps(body), content_type="application/json", HTTP_X_CSRFTOKEN=token)
        assert answer.status_code == 200

    def test_a_rack_s_cookie_reads_and_never_writes(self) -> None:
        own = furnish("Own")
        made, _ = person("head", Role.HEAD, own)
        _, token = make(LinkKind.RACK, made, 8, gathering_id=own.ids["room_id"], rack=1)
        tablet = Client()
        assert tablet.get(f"/api/rack-links/{token}").status_code == 200
        path = f"/api/room/{own.ids['room_id']}/racks/1"
        assert tablet.get(path).status_code == 200
        assert self.send(tablet, "POST", path.removeprefix("/api/") + "/order", {"athletes": []}).status_code == 401
        assert datetime.now(UTC) < Link.objects.get().until
