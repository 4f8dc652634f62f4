"""Student's t, for the intervals of a few values."""

from __future__ import annotations

from scipy.special import stdtrit


def t_quantile(probability: float, degrees: int) -> float:
    """Return the t below which `probability` (0 to 1) of the distribution with `degrees` of freedom (1 and up) lies.

    >>> round(t_quantile(0.975, 10), 3)
    2.228
    """
    return float(stdtrit(degrees, probability))
