"""Plans that somebody else changes meanwhile: up to which act a page has seen one, and what is said where there is a newer.

Each athlete and squad names the newest act that changed their plan. A page sends the number it has read with what it wants
changed; a newer one of another page is told, and written over only when sent again with the newer number.
"""

from __future__ import annotations

import re
from collections.abc import Sequence

from django.db.models import Max

from jarvok.app import clock
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.people.models import Act
from jarvok.app.facts.put_together import PutTogether
from jarvok.app.problems import Changed
from jarvok.core.quantities.days import said_day

SEEN = "Jarvok-Seen"  # the newest act that the page has read of the plan it changes
PAGE = "Jarvok-Page"  # one page of a browser: what it did itself it has seen
PLAN = "Jarvok-Plan"  # the newest act of the plan that an answer holds

# what changes a plan: its season, its calendar, its weeks, its sessions
VERBS = frozenset({
    "arrange_week", "begin_session", "carry_block", "choose_method", "drop_method", "edit_session", "merge_athletes",
    "merge_session", "move_line", "move_session", "move_to_squad", "put_block", "put_sessions", "restore_session",
    "take_out_session", "undo", "write_line", "add_block", "add_competition", "add_competition_for", "add_entries",
    "add_entry", "change_competition", "change_entry", "import_calendar", "keep_or_restore_season", "redo_calendar",
    "redo_season", "remove_added", "set_easy_week", "set_phases", "set_season_style", "set_week_by_hand",
    "share_competition", "take_out_entry", "undo_calendar", "undo_season", "withdraw_competition", "write_minutes",
    "write_on_day",
})  # fmt: skip

# those among them that say what is to be done, and nothing of what was done or of when an athlete is away or competes
PLAN_ALONE = frozenset({
    "arrange_week", "edit_session", "move_line", "move_session", "put_sessions", "restore_session", "set_easy_week",
    "set_phases", "set_season_style", "set_week_by_hand", "take_out_session", "write_line",
})  # fmt: skip

# those that say what was done of a session that has begun, and nothing that a plan is laid from but by what sets teach
SETS_ALONE = frozenset({
    "add_set", "answer_advice", "correct_set", "log_set", "move_rep", "skip_set", "stop_line", "take_out_rep", "undo_set",
})  # fmt: skip

_PATH = re.compile(r"/api/(?:export/|calendar/)?(?P<what>athletes|squads|athlete|squad)/(?P<pk>[0-9]{1,15})(?:/|$)")


_OF_ATHLETES = PutTogether(lambda ids: Athlete.objects.filter(pk__in=ids).order_by().values_list("plan_act", "squad__plan_act"))
_OF_SQUADS = PutTogether(
    lambda ids: Squad.objects.filter(pk__in=ids).order_by().annotate(own=Max("athletes__plan_act")).values_list("plan_act", "own")
)


def newest_of(athletes: Sequence[int], squads: Sequence[int]) -> int:
    """Return the newest act that changed the plan of some athletes and their squads, or of squads and all in them; 0 of none."""
    return max((act or 0 for row in (*_OF_ATHLETES.rows(athletes), *_OF_SQUADS.rows(squads)) for act in row), default=0)


def refuse_unseen(seen: int | None, page: str, athletes: Sequence[int], squads: Sequence[int]) -> None:
    """Raise `Changed` where a plan was changed since it was seen, by anything but the page itself."""
    newest = newest_of(athletes, squads) if seen is not None else 0
    if seen is None or newest <= seen:
        return
    act = Act.objects.select_related("person").filter(pk=newest).first()
    if act is None or (page and act.page == page):
        return
    whose = act.person.name if act.person is not None else "Somebody"
    at = act.at.astimezone(clock.zone())
    day = "" if at.date() == clock.today() else f" on {said_day(at, is_long=True)}"
    what = f": {act.words}" if act.words else ""
    raise Changed(f"{whose} changed this plan at {at:%H:%M}{day}{what}.", newest=newest)


def plan_of_path(path: str) -> tuple[list[int], list[int]]:
    """Return the athletes and squads whose plan an address of the API is about."""
    found = _PATH.match(path)
    if found is None:
        return [], []
    pk = int(found["pk"])
    return ([pk], []) if found["what"].startswith("athlete") else ([], [pk])
