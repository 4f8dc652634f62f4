"""After a competition: results per event beside the forecast, what the taper was, what to keep and change."""

from __future__ import annotations

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.accounts.doors import Need
from jarvok.app.accounts.permission import may, person_of
from jarvok.app.api.learning.shapes import AfterOut, EventAfterOut, KeepResult
from jarvok.app.api.learning.whose import whose_page
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.who import who_of
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.seasons.models import Entry
from jarvok.app.learning.actions import keep_result
from jarvok.app.learning.after import After, EventAfter, after_of
from jarvok.app.shapes import working_out
from jarvok.core.learning.after import beside_forecast
from jarvok.core.library.exercises import exercises
from jarvok.core.quantities.mass import lb_from_kg

router = Router(tags=["learning"])


@router.get("/competitions/{int:competition_id}/after", response={200: AfterOut, **ERRORS})
def read_after(request: HttpRequest, competition_id: int) -> AfterOut:
    """A competition of an athlete looked back on; before it, its forecast."""
    return _out(request, _after(competition_id))


@router.put("/competitions/{int:competition_id}/after", response={200: AfterOut, **ERRORS})
def write_after(request: HttpRequest, competition_id: int, payload: KeepResult) -> AfterOut:
    """Write down what became of it."""
    found = _after(competition_id)
    keep_result.run(
        who_of(request), found.entry.athlete, found.entry, found.events, payload.events,
        place=payload.place, keep=payload.keep, change=payload.change, confirm=payload.confirm,
    )  # fmt: skip
    return _out(request, _after(competition_id))


def _after(entry_id: int) -> After:
    entry = get_object_or_404(Entry.objects.select_related("competition"), pk=entry_id, withdrawn_at__isnull=True)
    athlete = whose_page("athlete", entry.athlete_id).people[0]
    entry.athlete = athlete
    return after_of(athlete, entry, rules_in_force())


def _out(request: HttpRequest, found: After) -> AfterOut:
    result = found.result
    numbers = result.events if result is not None and len(result.events) == len(found.events) else [None] * len(found.events)
    return AfterOut(
        entry_id=found.entry.pk,
        athlete_id=found.entry.athlete_id,
        athlete=found.entry.athlete.name,
        name=found.entry.name,
        day=found.entry.day,
        is_over=found.entry.day <= clock.today(),
        events=[_event_out(e, n) for e, n in zip(found.events, numbers, strict=True)],
        place=result.place if result is not None else "",
        keep=result.keep if result is not None else "",
        change=result.change if result is not None else "",
        is_written=result is not None,
        taper=found.taper.words if found.taper is not None else "",
        may_write=may(person_of(request), Need.PLAN),
    )


def _event_out(event: EventAfter, number: float | None) -> EventAfterOut:
    found, unit = event.forecast, event.unit
    forecast = (_in_unit(found.value_kg, unit), _in_unit(found.error_kg, unit)) if found is not None else None
    result = _in_unit(number, unit) if number is not None and event.is_by_load else number
    return EventAfterOut(
        name=event.name,
        exercise=exercises()[event.exercise_id].name if event.exercise_id else "",
        is_by_load=event.is_by_load,
        unit=unit,
        forecast=f"{forecast[0]:.0f} ± {forecast[1]:.0f} {unit}" if forecast is not None else "",
        working=working_out(found.working) if found is not None else None,
        result=round(result, 2) if result is not None else None,
        words=beside_forecast(result, *forecast, unit) if result is not None and forecast is not None else "",
    )


def _in_unit(mass_kg: float, unit: str) -> float:
    return lb_from_kg(mass_kg) if unit == "lb" else mass_kg
