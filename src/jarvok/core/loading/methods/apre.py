"""Autoregulatory progressive resistance: set 3 decides set 4, set 4 decides the next session."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

from jarvok.core.loading.prescription import SetGroup
from jarvok.core.loading.reader import Reader
from jarvok.core.loading.rule import Example, Intent, LoadRule, Method, by_effort, no_step
from jarvok.core.loading.state import Ask, LiftState, Offer
from jarvok.core.loading.tables import ApreProtocol, ApreRow, apre_protocols
from jarvok.core.marks.past import PastSession
from jarvok.core.working import Input, Source

FAILURE_SET, ADJUSTED_SET = 3, 4  # published with the protocols' tables
LARGE_STEP_KG = 5  # [J] beyond it the larger cap holds
OPEN_ROW_REPS = 4  # [J] so many repetitions into the last, open row its far end is reached
CAUTION = "Sets to failure: spotters or safeties. A set ends when technique breaks."


@dataclass(frozen=True)
class Adjustment:
    """A change of load in kg after a set to failure, in words; `asks` where the count is off the table."""

    kg: float
    words: str
    asks: bool = False
    cap_kg: float = 0.0

    def within_kg(self, load_kg: float) -> tuple[float, float]:
        """The lowest and highest load the change may lead to, rounding included."""
        return load_kg - self.cap_kg, load_kg + self.cap_kg


def protocol_for(reps: int) -> ApreProtocol:
    """Return the protocol nearest to a goal of `reps`."""
    return min(apre_protocols().values(), key=lambda p: abs(p.rm - reps))


def adjustment(protocol: ApreProtocol, reps: int, load_kg: float, state: LiftState) -> Adjustment:
    """Return the change after `reps` at `load_kg`: the row's range from its gentle to its strong end, capped by share.

    Fewer repetitions than the first row count as its lowest and ask the coach.
    """
    rows = protocol.rows
    asks = reps < rows[0].least_reps
    counted = max(reps, rows[0].least_reps)
    row = next((r for r in rows if r.least_reps <= counted <= (r.most_reps or counted)), rows[-1])
    change = _within(row, counted)
    caps = state.rules["load.apre_cap_small_pct"], state.rules["load.apre_cap_large_pct"]
    cap = load_kg * (caps[1] if abs(row.far_kg) > LARGE_STEP_KG else caps[0]) / 100
    capped = max(-cap, min(cap, change))
    words = f"{reps} reps: {change:+.1f} kg" if change else f"{reps} reps: no change"
    if capped != change:
        words += f", held to {capped:+.1f} (a share of the load)"
    return Adjustment(capped, words + (", off the table" if asks else ""), asks, cap)


def _within(row: ApreRow, reps: int) -> float:
    most = row.most_reps if row.most_reps is not None else row.least_reps + OPEN_ROW_REPS
    if row.near_kg == row.far_kg or most == row.least_reps:
        return row.near_kg
    along = min(1.0, (reps - row.least_reps) / (most - row.least_reps))
    if row.far_kg < row.near_kg:  # fewer repetitions: the strong end lies at the low edge
        along = 1 - along
    return row.near_kg + (row.far_kg - row.near_kg) * along


def _last_of(protocol: ApreProtocol, state: LiftState) -> PastSession | None:
    name = f"APRE-{protocol.rm}"
    return next((s for s in reversed(state.history) if s.text.startswith(name) and len(s.sets) >= FAILURE_SET), None)


class WorkingRm(NamedTuple):
    """The RM load in kg a session works with, what it came from, and the limits that rounding keeps to."""

    load_kg: float
    inputs: tuple[Input, ...]
    source: Source
    within_kg: tuple[float, float] | None = None


def working_rm(protocol: ApreProtocol, state: LiftState) -> WorkingRm | None:
    """Return the RM load this session works with: the last session's adjusted by its last set, else from the max."""
    last = _last_of(protocol, state)
    if last is not None:
        final = last.sets[ADJUSTED_SET - 1] if len(last.sets) >= ADJUSTED_SET else last.sets[FAILURE_SET - 1]
        if final.load_kg:
            change = adjustment(protocol, final.reps, final.load_kg, state)
            inputs = (Input("last session", last.words, last.ref), Input("from its last set", change.words))
            return WorkingRm(final.load_kg + change.kg, inputs, protocol.source, change.within_kg(final.load_kg))
    if state.max_kg is None:
        return None
    return WorkingRm(state.equation.load_kg(state.max_kg, protocol.rm), state.max_inputs, state.equation.source)


def offer(rm: int, set_number: int, state: LiftState, set_3: tuple[float, int] | None = None) -> Offer | None:
    """Return the load of one set (1-4) of the protocol; `set_3` is (kg, repetitions) once set 3 is done.

    None without a last session and without a max.
    """
    protocol = apre_protocols()[rm]
    known = working_rm(protocol, state)
    if known is None:
        return None
    rm_kg, inputs, source, within_kg = known
    if set_number <= len(protocol.warm_sets):
        pct = protocol.warm_sets[set_number - 1][1]
        return Offer(rm_kg * pct / 100, "APRE", f"{pct:g} % of the {rm}RM, {rm_kg:.1f} kg", source, inputs)
    if set_number == FAILURE_SET or set_3 is None:
        rule = f"the {rm}RM, to failure" if set_number == FAILURE_SET else "as set 3, until its repetitions are in"
        return Offer(rm_kg, "APRE", rule, source, inputs, caution=CAUTION, within_kg=within_kg)
    change = adjustment(protocol, set_3[1], set_3[0], state)
    asked = ("too few repetitions for the table: your call",) if change.asks else ()
    return Offer(
        set_3[0] + change.kg, "APRE", f"set 3: {change.words}", protocol.source, inputs, missing=asked, caution=CAUTION,
        within_kg=change.within_kg(set_3[0]),
    )  # fmt: skip


def groups(rm: int) -> tuple[SetGroup, ...]:
    """Return the four sets of a protocol: two warm sets by share, two for as many repetitions as possible."""
    protocol = apre_protocols()[rm]
    warm = [SetGroup(1, reps=reps, load=Apre(rm, i)) for i, (reps, _) in enumerate(protocol.warm_sets, start=1)]
    to_failure = (SetGroup(1, reps=rm, or_more=True, load=Apre(rm, number)) for number in (FAILURE_SET, ADJUSTED_SET))
    return (*warm, *to_failure)


@dataclass(frozen=True)
class Apre(LoadRule):
    """One set of APRE-10, -6 or -3; `number` runs from 1 to 4."""

    rm: int
    number: int

    method = "apre"
    examples = (Example("APRE-6", "two warm sets, then set 3 decides set 4; also APRE-10 and APRE-3"),)
    looks_back = True
    carries_progress = True

    @classmethod
    def whole_line(cls, reader: Reader) -> tuple[SetGroup, ...]:
        """Read APRE-6."""
        m = reader.take(r"APRE[\s-]*(\d+)\b")
        if not m:
            return ()
        protocol = apre_protocols().get(int(m.group(1)))
        if protocol is None:
            raise reader.fail("There are APRE-3, APRE-6 and APRE-10.", "APRE-6", m.start(1))
        return groups(protocol.rm)

    @property
    def written_line(self) -> str:
        """The protocol, for its first set."""
        return f"APRE-{self.rm}" if self.number == 1 else ""

    def written(self) -> str:
        """It is said for the whole line."""
        return ""

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return the load of this set, else effort."""
        return offer(self.rm, self.number, state) or by_effort("no max in this lift: the first session finds the RM")

    def step(self, by: int) -> Apre:
        """The protocol steps by itself."""
        no_step()

    @property
    def is_to_failure(self) -> bool:
        """Whether it is one of the two open sets."""
        return self.number >= FAILURE_SET


RULES = (Apre,)


def _express(intent: Intent, state: LiftState) -> Apre:
    return Apre(protocol_for(intent.reps).rm, 1)


def _lay_out(intent: Intent) -> tuple[SetGroup, ...]:
    return groups(protocol_for(intent.reps).rm)


METHOD = Method(
    key="apre",
    place=7,
    name="APRE",
    how="set 3 decides set 4, set 4 the next session",
    good_for="fast adaptation, motivation",
    limits="failure sets; fixed steps are big for small athletes",
    spoken="APRE",
    express=_express,
    lay_out=_lay_out,
    knows_the_week=False,
)
