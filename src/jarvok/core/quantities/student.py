"""Student's t, for the intervals of a few values."""

from __future__ import annotations


def t_quantile(probability: float, degrees: int) -> float:
    """Return the t below which `probability` (0 to 1) of the distribution with `degrees` of freedom (1 and up) lies.

    >>> round(t_quantile(0.975, 10), 3)
    2.228
    """
    from scipy.special import stdtrit  # takes a while to load: a process that only starts does without

    return float(stdtrit(degrees, probability))
