"""Sets with bands or chains on the bar: what the tables are asked so that they are not taken for sets of the free lift."""

from __future__ import annotations

from django.db.models import Q

from jarvok.core.loading.accommodating import ADDED, HANGING_WORDS, Attachment

HUNG = Q()  # sets and repetitions of lines with something on the bar
for _word in HANGING_WORDS:
    HUNG |= Q(line__text__icontains=_word)
for _word in ADDED:
    HUNG |= Q(line__note__contains=_word)
HELPED = Q(line__text__icontains=Attachment.REVERSE.split()[0])  # held from above: more than the free lift is lifted
