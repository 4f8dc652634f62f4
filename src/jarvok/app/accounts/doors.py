"""What each address asks of who comes to it. An address that is not named here is shut to everybody.

Paths stand without "api/"; a part in braces is a number or a word of the address.
"""

from __future__ import annotations

from enum import StrEnum

from jarvok.app.facts.people.models import Role


class Need(StrEnum):
    """What somebody wants to do, as far as roles are concerned."""

    OPEN = "open"  # nobody has to be signed in: the address itself asks for a password, a link or nothing
    SELF = "self"  # one's own account
    MINE = "mine"  # an athlete's own page
    OWN = "own"  # a sheet, a session or the results of an athlete
    LOG = "log"  # sets of a session
    SHEETS = "sheets"  # who there is, and what is planned for them
    TRAINING = "training"  # everything that planning hangs on, to look at
    HEALTH = "health"  # restrictions, clearance, pain, body mass, birth dates, notes
    RUN = "run"  # the room and its sessions
    PLAN = "plan"  # plans, results, details, the library
    CENTRE = "centre"  # people, rules, backups


H, C, A, M = Role.HEAD, Role.COACH, Role.ASSISTANT, Role.MEDICAL
ROLES: dict[Need, frozenset[Role]] = {
    Need.OPEN: frozenset(Role),
    Need.SELF: frozenset(Role),
    Need.MINE: frozenset({Role.ATHLETE}),
    Need.OWN: frozenset(Role),
    Need.LOG: frozenset({H, C, A, Role.ATHLETE}),
    Need.SHEETS: frozenset({H, C, A, M}),
    Need.TRAINING: frozenset({H, C, A}),
    Need.HEALTH: frozenset({H, C, M}),
    Need.RUN: frozenset({H, C, A}),
    Need.PLAN: frozenset({H, C}),
    Need.CENTRE: frozenset({H}),
}
EVERY_SQUAD = frozenset({H, M})  # the others see their own squads, an athlete themselves

_SESSION = "athletes/{athlete_id}/sessions/{day}/{key}"
_LINE = _SESSION + "/lines/{line}"
_FLOOR = "floor/sessions/{session_id}"
_RACK = "room/{room_id}/racks/{rack}"
_CALENDAR = "calendar/{whose}/{pk}"

_NEEDS: dict[Need, tuple[str, ...]] = {
    Need.OPEN: (
        "GET me", "GET now", "POST sign-in", "POST first-run", "GET rack-links/{token}", "GET ready/{token}",
        "POST ready/{token}", "GET welcome/{token}", "POST welcome/{token}", "POST first-run/file",
        "GET calendars/{token}.ics",
    ),
    Need.SELF: (
        "POST sign-out", "POST password", "PUT me/habits", "GET sign-ins", "POST sign-ins/{handle}/end", "GET shorthand",
        "GET changes",
    ),
    Need.MINE: ("GET mine", "POST mine/answers"),
    Need.OWN: (
        "GET athletes/{athlete_id}", "GET athletes/{athlete_id}/report", "GET export/athletes/{athlete_id}/report.{form}",
        f"GET {_SESSION}", f"GET {_FLOOR}", f"GET {_FLOOR}/review", f"GET {_FLOOR}/events",
        "GET export/athletes/{athlete_id}/sessions/{day}/{key}/{kind}.pdf",
    ),
    Need.LOG: (
        "POST floor/sessions", f"POST {_FLOOR}/sets", f"POST {_FLOOR}/sets/correct", f"POST {_FLOOR}/undo",
        f"POST {_FLOOR}/finish", f"POST {_FLOOR}/advice/{{advice_id}}",
    ),
    Need.SHEETS: (
        "GET find", "GET squads", "GET names", "GET athletes", "GET athletes/{athlete_id}/week", "GET squads/{squad_id}/week",
        "GET room/entries",
        "GET room/{room_id}", "GET room/{room_id}/events",
    ),
    Need.TRAINING: (
        "GET today", "GET today/arrivals", "GET settings", "GET athletes/{athlete_id}/standing",
        "GET athletes/{athlete_id}/tests",
        "GET learning/{whose}/{pk}", "GET learning/{whose}/{pk}/bests", "GET athletes/{athlete_id}/phase-bests",
        "GET learning/{whose}/{pk}/progress", "GET learning/{whose}/{pk}/beside", "GET days/{day}/review",
        "GET competitions/{competition_id}/after",
        "GET findings/{whose}/{pk}", "GET squads/{squad_id}/report", "GET export/squads/{squad_id}/report.{form}",
        "GET tests/{test_id}", "GET athletes/{athlete_id}/season", "GET arrangements", "GET squads/{squad_id}/season",
        "GET athletes/{athlete_id}/squad-moves",
        "GET athletes/{athlete_id}/calendar", f"GET {_CALENDAR}", "GET calendar/read", "GET calendar",
        "POST athletes/{athlete_id}/taper-bench", "GET athletes/{athlete_id}/contest", f"GET {_LINE}/methods",
        f"GET {_LINE}/until-miss", "GET week-arrangements", "GET goals", "GET groupings", "GET running/lines",
        f"GET {_SESSION}/squad", f"GET {_SESSION}/racks", "GET athletes/{athlete_id}/chosen", "GET library",
        "GET result-exercises",
        "GET library/{exercise_id}", "GET templates", "GET athletes/{athlete_id}/trials", "GET trials/{trial_id}",
        "GET athletes/{athlete_id}/effort", "GET squads/{squad_id}/test-day", "GET trials/{trial_id}/measured",
        "POST athletes/{athlete_id}/competitions/preview", "POST templates/{template_id}/preview",
        "POST athletes/{athlete_id}/calendar/preview", "GET export/templates/{template_id}.json",
        "GET export/athletes/{athlete_id}/calendar.ics", "GET export/squads/{squad_id}/calendar.ics",
        "GET export-tables", "GET export/tables/{name}.{form}",
        "GET export/athletes/{athlete_id}/plan.json", "GET export/athletes/{athlete_id}/file.pdf",
        "GET export/athletes/{athlete_id}/sessions/{day}/{key}.json",
    ),
    Need.HEALTH: (
        "GET athletes/{athlete_id}/record", "POST athletes/{athlete_id}/restrictions", "POST restrictions/{restriction_id}/lift",
        "POST restrictions/{restriction_id}/clear-for-test", "POST athletes/{athlete_id}/masses",
        "POST floor/pains/{pain_id}/answer",
    ),
    Need.RUN: (
        f"POST {_FLOOR}/lines/{{line_id}}/instead", f"GET {_FLOOR}/lines/{{line_id}}/swaps",
        f"POST {_FLOOR}/lines/{{line_id}}/swap", f"POST {_FLOOR}/lines", f"POST {_FLOOR}/lines/{{line_id}}/skip",
        f"POST {_FLOOR}/lines/{{line_id}}/more", f"POST {_FLOOR}/lines/{{line_id}}/stop", f"POST {_FLOOR}/stop-here",
        f"POST {_FLOOR}/reps/{{rep_id}}/out", f"POST {_FLOOR}/reps/{{rep_id}}/back", f"POST {_FLOOR}/reps/{{rep_id}}/move",
        f"POST {_FLOOR}/readings/{{reading_id}}/out", f"POST {_FLOOR}/readings/{{reading_id}}/back",
        f"POST {_FLOOR}/readings/{{reading_id}}/move", f"POST {_FLOOR}/cancel", f"POST {_FLOOR}/streams",
        f"POST {_FLOOR}/simulate", "POST room", "POST room/{room_id}/here", "POST room/{room_id}/answers/{athlete_id}",
        "POST room/{room_id}/word", "POST room/{room_id}/begin", "POST room/{room_id}/racks", "GET room/{room_id}/racks",
        "GET room/{room_id}/ahead", f"GET {_RACK}/ahead",
        "POST room/{room_id}/put", "POST room/{room_id}/call", f"GET {_RACK}", "POST room/{room_id}/use",
        "GET room/{room_id}/board", "POST room/{room_id}/board", "POST room/{room_id}/board/shown", f"GET {_RACK}/joining",
        f"POST {_RACK}/join", f"POST {_RACK}/leave", f"POST {_RACK}/order", "GET clock-forms", "POST room/{room_id}/clocks",
        "POST room/{room_id}/clocks/{clock_id}/{act}", f"POST {_RACK}/clock", f"POST {_RACK}/clock/{{clock_id}}/{{act}}",
        f"POST {_RACK}/link", "POST room/{room_id}/ready-link/{athlete_id}", "GET room/{room_id}/silent", "GET sensors",
        "PUT sensors/{sensor_id}/rack", "PUT sensors/{sensor_id}/gates", "POST sensors/{sensor_id}/try",
        "POST floor/lines/{line_id}/trace",
        "POST devices/preview", "POST findings/{whose}/{pk}", "PUT athletes/{athlete_id}/missed/{day}/{key}",
    ),
    Need.PLAN: (
        "POST athletes/{athlete_id}/noticed", "PUT competitions/{competition_id}/after", "POST finding/{finding_id}/answer",
        "PATCH squads/{squad_id}", "DELETE squads/{squad_id}", "POST athletes/{athlete_id}/archive",
        "POST athletes/{athlete_id}/back", "POST settings/kits",
        "PUT settings/kits/{kit_id}", "POST athletes", "POST athletes/{athlete_id}/marks",
        "PUT marks/{mark_id}", "POST marks/{mark_id}/withdraw", "PUT athletes/{athlete_id}/usual-conditions",
        "POST athletes/{athlete_id}/max-decisions", "POST athletes/{athlete_id}/splits", "PATCH athletes/{athlete_id}/record",
        "PUT athletes/{athlete_id}/traits/{trait}", "POST athletes/{athlete_id}/faults", "POST faults/{fault_id}/end",
        "POST athletes/{athlete_id}/practices", "DELETE athletes/{athlete_id}/practices/{practice_id}",
        "POST athletes/{athlete_id}/tests", "POST tests/{test_id}/attempts", "POST tests/{test_id}/undo",
        "POST tests/{test_id}/end",
        "POST import/athletes/preview", "POST import/athletes/file", "POST import/athletes",
        "GET import/athletes", "GET import/athletes/columns", "POST import/athletes/{table_id}/undo",
        "POST athletes/{athlete_id}/squad-moves",
        "POST athletes/{athlete_id}/squad-moves/{move_id}/withdraw",
        "POST athletes/{athlete_id}/merge", "POST athletes/{athlete_id}/merge/preview",
        "POST calendar/{whose}/{pk}/address",
        "GET export/athletes.{form}", "GET export/athletes/{athlete_id}.json",
        "POST athletes/{athlete_id}/competitions", "PATCH competitions/{competition_id}", "DELETE competitions/{competition_id}",
        "PUT competitions/{competition_id}/phases", "PUT athletes/{athlete_id}/season/style",
        "PUT athletes/{athlete_id}/season/easy", "POST athletes/{athlete_id}/blocks", "PUT athletes/{athlete_id}/season/week",
        "POST athletes/{athlete_id}/season/undo", "POST athletes/{athlete_id}/season/redo",
        "POST athletes/{athlete_id}/season/original", "POST athletes/{athlete_id}/season/flags",
        "POST athletes/{athlete_id}/season/fix", "DELETE season-flags/{word_id}", "POST competitions/{competition_id}/share",
        "POST squads/{squad_id}/competitions", "PATCH squads/{squad_id}/competitions/{competition_id}",
        "DELETE squads/{squad_id}/competitions/{competition_id}", "POST squads/{squad_id}/competitions/{competition_id}/share",
        "PUT athletes/{athlete_id}/calendar/{entry_id}/minutes", "POST athletes/{athlete_id}/calendar",
        "POST athletes/{athlete_id}/calendar/list", "DELETE athletes/{athlete_id}/calendar/{entry_id}",
        "POST athletes/{athlete_id}/calendar/import", f"POST {_CALENDAR}/write", f"POST {_CALENDAR}/move",
        f"POST {_CALENDAR}/rename", f"POST {_CALENDAR}/take-out", f"POST {_CALENDAR}/undo", f"POST {_CALENDAR}/redo",
        "GET history", f"PUT {_LINE}", f"POST {_LINE}/step", f"PUT {_SESSION}/day", f"PUT {_SESSION}/merge",
        f"PUT {_LINE}/methods", f"DELETE {_LINE}/methods", "POST athletes/{athlete_id}/sessions", f"POST {_SESSION}/edit",
        f"POST {_LINE}/move", f"POST {_SESSION}/blocks/carry", f"POST {_SESSION}/blocks", f"POST {_SESSION}/take-out",
        f"POST {_SESSION}/as-planned", f"POST {_SESSION}/copy", "POST athletes/{athlete_id}/week/{monday}/copy",
        "PUT athletes/{athlete_id}/week-arrangement", "POST athletes/{athlete_id}/plan/undo",
        "POST athletes/{athlete_id}/plan/flags", "DELETE plan-flags/{word_id}", f"POST {_SESSION}/fix",
        "PUT athletes/{athlete_id}/chosen/{wish_id}", "POST library", "PUT library/{exercise_id}", "DELETE library/{exercise_id}",
        "POST templates", "DELETE templates/{template_id}", "POST templates/{template_id}/apply", "POST templates/import",
        "POST athletes/{athlete_id}/trials", "POST trials/{trial_id}/tries", "POST trials/{trial_id}/undo",
        "POST trials/{trial_id}/end", "POST squads/{squad_id}/test-day", "POST squads/{squad_id}/test-day/paste",
        "POST squads/{squad_id}/test-day/file", "POST sensors", "DELETE sensors/{sensor_id}",
        "POST athletes/{athlete_id}/devices", "POST trials/{trial_id}/sensor",
    ),
    Need.CENTRE: (
        "PUT settings/rules/{key}", "PUT settings/equation", "PUT settings/zone", "PUT settings/habits",
        "PUT settings/name", "POST settings/reset", "GET people",
        "POST people", "PATCH people/{person_id}", "POST people/{person_id}/end", "POST people/{person_id}/back",
        "POST people/{person_id}/link", "POST athletes/{athlete_id}/erase",
        "GET upkeep", "PUT upkeep/days", "POST upkeep/throw-away",
        "GET backups", "POST backups", "PUT backups/folder", "GET backups/{name}",
        "POST backups/{name}/restore", "GET export/backups/{name}", "GET export/centre.zip", "GET links",
        "POST links/{link_id}/end",
    ),
}  # fmt: skip

NEEDS: dict[str, Need] = {door: need for need, doors in _NEEDS.items() for door in doors}
