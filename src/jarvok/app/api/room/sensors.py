"""Sensors of the room, their stand-ins, and files from devices."""

from __future__ import annotations

from datetime import date

from django.db.models import Count
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app.api.problems import ERRORS
from jarvok.app.api.room.shapes import GatesIn, PairIn, SensorIn, SensorOut, SilentOut, TryIn
from jarvok.app.api.who import signed_in, who_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SessionLine
from jarvok.app.facts.room.models import DeviceColumns, Sensor
from jarvok.app.room import device_files as recorded
from jarvok.app.room import simulated_devices as stand_ins
from jarvok.app.room.actions import add_sensor as add
from jarvok.app.room.actions import pair_sensor as pair
from jarvok.app.room.actions import place_gates as gates
from jarvok.app.room.actions import remove_sensor as remove
from jarvok.app.room.actions import take_table as table_in
from jarvok.app.room.actions import take_trace as trace
from jarvok.app.room.links import rack_auth, rack_of, rack_token
from jarvok.app.room.paired import SORT_NAMES, Sort, silent_for_s
from jarvok.app.schema import Schema
from jarvok.core.floor.racks import MOST_RACKS
from jarvok.core.interchange.velocity_files import FIELDS, UNITS
from jarvok.core.sensors.faults import WORDS

router = Router(tags=["sensors"])


class FaultOut(Schema):
    key: str
    words: str


class SensorsOut(Schema):
    sensors: list[SensorOut]
    sorts: list[FaultOut]
    faults: list[FaultOut]
    devices: list[str]
    most_racks: int


class SaidOut(Schema):
    words: str


class TraceIn(Schema):
    kind: str
    number: int
    text: str


class TraceOut(Schema):
    reps: int
    rate_hz: float
    problems: list[str]


class TableIn(Schema):
    text: str
    device: str = ""
    exercise_id: str = ""
    mapping: dict[str, str] = {}
    units: dict[str, str] = {}
    day: date | None = None


class FieldOut(Schema):
    key: str
    name: str
    needed: bool
    units: list[str]
    column: str


class TableRepOut(Schema):
    load_kg: float
    mean_mps: float
    peak_mps: float | None
    day: date | None


class DeviceTableOut(Schema):
    columns: list[str]
    fields: list[FieldOut]
    reps: list[TableRepOut]
    count: int
    problems: list[str]
    missing: list[str]


def sensors_out() -> SensorsOut:
    rows = Sensor.objects.filter(removed_at__isnull=True).annotate(count=Count("readings"))
    return SensorsOut(
        most_racks=MOST_RACKS,
        sensors=[
            SensorOut(
                id=s.pk,
                name=s.name,
                sort=s.sort,
                sort_name=SORT_NAMES[Sort(s.sort)],
                rack=s.rack,
                path=f"/api/sensors/{s.token}/messages",
                readings=getattr(s, "count", 0),
                gates=" ".join(f"{m:g}" for m in s.gates_m) if s.sort == Sort.GATES else None,
            )
            for s in rows
        ],
        sorts=[FaultOut(key=k, words=w) for k, w in SORT_NAMES.items()],
        faults=[FaultOut(key=k, words=w) for k, w in WORDS.items()],
        devices=list(DeviceColumns.objects.values_list("device", flat=True)),
    )


def _sensor(sensor_id: int) -> Sensor:
    return get_object_or_404(Sensor, pk=sensor_id, removed_at__isnull=True)


@router.get("/room/{int:room_id}/silent", response={200: list[SilentOut], **ERRORS}, auth=[signed_in, rack_auth])
def read_silent(request: HttpRequest, room_id: int) -> list[SilentOut]:
    """The bar sensors at the racks that have fallen silent."""
    rows = Sensor.objects.filter(removed_at__isnull=True, rack__isnull=False, sort=Sort.BAR)
    if not request.user.is_authenticated:
        rows = rows.filter(rack=rack_of(rack_token(request))[1])
    silent = ((s.pk, silent_for_s(s.token)) for s in rows)
    return [SilentOut(sensor_id=pk, words=f"sends nothing for {s} s") for pk, s in silent if s is not None]


@router.get("/sensors", response={200: SensorsOut, **ERRORS})
def read_sensors(request: HttpRequest) -> SensorsOut:
    return sensors_out()


@router.post("/sensors", response={200: SensorsOut, **ERRORS})
def add_sensor(request: HttpRequest, payload: SensorIn) -> SensorsOut:
    add.run(who_of(request), payload.name, payload.sort, payload.rack, payload.rate_hz, payload.gates)
    return sensors_out()


@router.put("/sensors/{int:sensor_id}/rack", response={200: SensorsOut, **ERRORS})
def pair_sensor(request: HttpRequest, sensor_id: int, payload: PairIn) -> SensorsOut:
    pair.run(who_of(request), _sensor(sensor_id), payload.rack)
    return sensors_out()


@router.put("/sensors/{int:sensor_id}/gates", response={200: SensorsOut, **ERRORS})
def place_gates(request: HttpRequest, sensor_id: int, payload: GatesIn) -> SensorsOut:
    """Say where timing gates stand: metres from the start, in order."""
    gates.run(who_of(request), _sensor(sensor_id), payload.gates)
    return sensors_out()


@router.delete("/sensors/{int:sensor_id}", response={200: SensorsOut, **ERRORS})
def remove_sensor(request: HttpRequest, sensor_id: int) -> SensorsOut:
    remove.run(who_of(request), _sensor(sensor_id))
    return sensors_out()


@router.post("/sensors/{int:sensor_id}/try", response={200: SaidOut, **ERRORS})
def try_sensor(request: HttpRequest, sensor_id: int, payload: TryIn) -> SaidOut:
    """Let the simulated sensor send one set, with a fault where one is asked for."""
    return SaidOut(words=stand_ins.send(_sensor(sensor_id), payload.fault, f"http://{request.get_host()}"))


@router.post("/floor/lines/{int:line_id}/trace", response={200: TraceOut, **ERRORS})
def take_trace(request: HttpRequest, line_id: int, payload: TraceIn) -> TraceOut:
    """A recorded bar position for a set: time in s and height in m."""
    line = get_object_or_404(SessionLine.objects.select_related("session__athlete__kit"), pk=line_id)
    taken = trace.run(who_of(request), line, payload.kind, payload.number, payload.text)
    return TraceOut(reps=taken.reps, rate_hz=taken.rate_hz, problems=list(taken.problems))


@router.post("/devices/preview", response={200: DeviceTableOut, **ERRORS})
def preview_table(request: HttpRequest, payload: TableIn) -> DeviceTableOut:
    """What a device's table holds with these columns; nothing is kept."""
    table = recorded.preview(payload.device, payload.text, payload.mapping, payload.units)
    return DeviceTableOut(
        columns=list(table.columns),
        fields=[
            FieldOut(key=k, name=name, needed=needed, units=list(UNITS.get(k, {})), column=table.guess.get(k, ""))
            for k, (name, _, needed) in FIELDS.items()
        ],
        reps=[TableRepOut(load_kg=r.load_kg, mean_mps=r.mean_mps, peak_mps=r.peak_mps, day=r.day) for r in table.reps[:50]],
        count=len(table.reps),
        problems=list(table.problems),
        missing=list(table.missing),
    )


@router.post("/athletes/{int:athlete_id}/devices", response={200: SaidOut, **ERRORS})
def take_table(request: HttpRequest, athlete_id: int, payload: TableIn) -> SaidOut:
    """Keep a device's table in the athlete's record: the fastest repetition of each load and day."""
    athlete = get_object_or_404(Athlete, pk=athlete_id)
    count = table_in.run(
        who_of(request), athlete, payload.exercise_id, payload.device, payload.text, payload.mapping, payload.units, payload.day
    )
    return SaidOut(words=f"{count} loads with their fastest repetition are kept.")
