"""A coach's word on a finding: it acts, is dropped, withdrawn, or its question is answered."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.learning.models import Finding, FindingState, FindingWord
from jarvok.core.errors import CoachError
from jarvok.core.learning.findings import Kind, asks_again_on

NEED_A_REASON = (FindingState.WITHDRAWN, FindingState.ANSWERED)


def run(who: Who, finding: Finding, state: str, reason: str = "") -> None:
    """Keep the word; what ends a finding that was at work wants a reason."""
    if state not in set(FindingState):
        raise CoachError(f"“{state}” is no word on a finding.", where="state", accepted=", ".join(FindingState))
    if state in NEED_A_REASON and not reason.strip():
        what = "The answer is wanted." if state == FindingState.ANSWERED else "Why is it withdrawn?"
        raise CoachError(what, where="reason", accepted="A few words.")
    words = f"{FindingState(state).label.lower()}: {finding.sentence}"
    with acting(who, "answer_finding", words, athlete=finding.athlete, squad=finding.squad):
        until = asks_again_on(Kind(finding.kind), clock.today()) if state == FindingState.ACTS else None
        FindingWord.objects.create(finding=finding, state=state, reason=reason.strip()[:200], until=until, at=clock.now())
