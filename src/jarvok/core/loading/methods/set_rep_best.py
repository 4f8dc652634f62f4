"""Set-rep best: a share of the athlete's best for exactly these sets × repetitions, by the day's word."""

from __future__ import annotations

from dataclasses import dataclass, replace

from jarvok.core.equations import MOST_REPS
from jarvok.core.loading.reader import NUMBER, Reader, number, share_pct
from jarvok.core.loading.rule import Example, Intent, LoadRule, Method, by_effort, no_step, stepped_pct
from jarvok.core.loading.state import Ask, LiftState, Offer
from jarvok.core.loading.tables import intensity_words, words_source
from jarvok.core.marks.rep_table import SOURCE as TABLE_SOURCE
from jarvok.core.marks.rep_table import percent_for_reps
from jarvok.core.quantities.days import said_day
from jarvok.core.working import Input, Source

DAY_WORDS = sorted(intensity_words(), key=len, reverse=True)
USUAL_BEST_PCT = 90.0  # [J] where neither a word nor a share is written


@dataclass(frozen=True)
class SchemeBest:
    """The best for a scheme: load in kg, whether it was lifted or is an estimate, words, source and its fact."""

    load_kg: float
    is_estimate: bool
    words: str
    source: Source
    ref: str = ""


def best_lifted(ask: Ask, state: LiftState) -> SchemeBest | None:
    """Return the heaviest load at which `ask.sets` sets of `ask.reps` were all done in one session, or None."""
    found: SchemeBest | None = None
    for session in state.history:
        done = sorted((s.load_kg for s in session.sets if s.load_kg and s.reps >= ask.reps and not s.form_broke), reverse=True)
        if len(done) >= ask.sets and (found is None or done[ask.sets - 1] > found.load_kg):
            words = f"{ask.sets} × {ask.reps} at {done[ask.sets - 1]:g} kg, {said_day(session.day, year=True)}"
            found = SchemeBest(done[ask.sets - 1], False, words, Source("fact", "lifted"), session.ref)
    return found


def best_estimated(ask: Ask, state: LiftState) -> SchemeBest | None:
    """Return a first estimate without history: best 3 × 2 from the max, other schemes by the rep table relative to it.

    For upper-body lifts the change between schemes is about a tenth smaller. None without a max or above 15 reps.
    """
    if state.max_kg is None or not 1 <= ask.reps <= MOST_REPS:
        return None
    three_twos_kg = state.at_share(state.rules["load.best_3x2_pct"] / 100)
    change = percent_for_reps(ask.reps) / percent_for_reps(2) - 1
    if state.is_upper:
        change *= state.rules["load.upper_scheme_pct"] / 100
    load = state.at_share(1 + change, three_twos_kg)
    words = f"{load:.1f} kg, an estimate until it has been lifted: best 3 × 2 about {three_twos_kg:.1f} kg, {100 * change:+.0f} %"
    return SchemeBest(load, True, words, TABLE_SOURCE)


def offer(ask: Ask, low_pct: float, high_pct: float, word: str, state: LiftState) -> Offer | None:
    """Return the middle of `low_pct`-`high_pct` per cent of the best for the scheme, or None without any best."""
    best = best_lifted(ask, state) or best_estimated(ask, state)
    if best is None:
        return None
    middle = (low_pct + high_pct) / 2
    said = f"{word}: {low_pct:g}–{high_pct:g} %" if word else f"{middle:g} %"
    scheme = f"{ask.sets} × {ask.reps}"
    return Offer(
        state.at_share(middle / 100, best.load_kg),
        "set-rep best",
        f"{said} of the best {scheme}, {best.load_kg:.1f} kg",
        words_source() if word else best.source,
        (Input(f"best {scheme}", best.words, best.ref), *(state.max_inputs if best.is_estimate else ())),
        missing=(f"no {scheme} lifted yet; the scheme settles in 3 to 8 weeks",) if best.is_estimate else (),
    )


def word_for(pct_of_best: float) -> str:
    """Return the word whose band holds a share of the best; the lightest and heaviest word beyond the ends."""
    words = list(intensity_words().values())
    return next((w.word for w in words if pct_of_best < w.high_pct), words[-1].word)


@dataclass(frozen=True)
class BestShare(LoadRule):
    """A share of the best for this scheme: a word of the week, or a per cent."""

    word: str = ""
    pct: float | None = None

    method = "set_rep_best"
    examples = (
        Example("3x5 @ heavy", "90–95 % of the best 3 × 5; very light, light, moderately light, moderate … also work"),
        Example("3x5 @ 92.5 % of best", "a share of the best for exactly this scheme"),
    )
    looks_back = True

    @classmethod
    def begins(cls, reader: Reader) -> BestShare | None:
        """Read 92.5 % of best, or a word of the week."""
        if m := reader.take(rf"{NUMBER}\s*(?:%|percent\b)\s*of\s+(?:the\s+)?best\b"):
            return BestShare(pct=share_pct(reader, number(m.group(1)), m.start(1)))
        m = reader.take(rf"({'|'.join(DAY_WORDS)})\b")
        return BestShare(m.group(1).lower()) if m else None

    def written(self) -> str:
        """Return the word, or the share."""
        return f" @ {self.word}" if self.word else f" @ {self.pct:g} % of best"

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return the share of the best for this scheme, else effort."""
        share = self.pct or USUAL_BEST_PCT
        band = intensity_words()[self.word] if self.word else None
        low, high = (band.low_pct, band.high_pct) if band else (share, share)
        return offer(ask, low, high, self.word, state) or by_effort("no best and no max in this lift")

    def step(self, by: int) -> BestShare:
        """Return the share a step on; a word has none."""
        return replace(self, pct=stepped_pct(self.pct, by)) if self.pct is not None else no_step()


RULES = (BestShare,)


def _express(intent: Intent, state: LiftState) -> BestShare | None:
    if not intent.share:
        return None
    return BestShare(word_for(100 * intent.share * state.equation.ratio(min(MOST_REPS, intent.reps))))


METHOD = Method(
    key="set_rep_best",
    place=6,
    name="Set-rep best",
    how="a share of the best for these sets and reps",
    good_for="heavy and light days, goals",
    limits="needs a history in the scheme, 3 to 8 weeks to settle",
    spoken="set-rep best",
    express=_express,
)
