"""Zero-lag low-pass filtering of an evenly sampled bar position."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

# Two passes of a 2nd-order Butterworth lower the -3 dB point; the design cut-off is raised by this factor.
DUAL_PASS_CORRECTION = (2**0.5 - 1) ** 0.25  # closed form, 0.80224

DEFAULT_CUTOFF_HZ = 10.0  # [J] the highest cut-off used; slower repetitions use a lower one
LOWEST_CUTOFF_HZ = 2.0  # [J] below this the shape of a grinding repetition would be flattened
CUTOFF_CYCLES_PER_REP = 2.6  # [J] a smooth lift of T seconds has next to nothing above about 2.6/T Hz


def cutoff_for_duration_hz(concentric_s: float) -> float:
    """Return the cut-off in Hz for a concentric phase of about `concentric_s` seconds.

    Jarvok's choice: noise in velocity grows with the cut-off to the power of 1.5, so a slow repetition is filtered
    harder than a fast one. Bounded to 2-10 Hz.
    """
    return min(DEFAULT_CUTOFF_HZ, max(LOWEST_CUTOFF_HZ, CUTOFF_CYCLES_PER_REP / concentric_s))


@lru_cache(maxsize=512)
def _sections(cutoff_hz: float, rate_hz: float) -> NDArray[np.float64]:
    from scipy.signal import butter  # takes a second to load: a process that never filters does without

    design_hz = min(cutoff_hz / DUAL_PASS_CORRECTION, 0.45 * rate_hz)  # [T] below half the rate
    return np.asarray(butter(2, design_hz, fs=rate_hz, output="sos"), dtype=np.float64)


def low_pass(position_m: NDArray[np.float64], rate_hz: float, cutoff_hz: float) -> NDArray[np.float64]:
    """Return `position_m` low-passed at `cutoff_hz`, same length, without lag.

    A 2nd-order Butterworth run forwards and backwards (4th order net), its cut-off corrected for the two passes.
    Needs at least 16 samples; `cutoff_hz` is rounded to 0.1 Hz so that designs are reused.
    """
    from scipy.signal import sosfiltfilt

    sections = _sections(round(cutoff_hz, 1), rate_hz)
    pad = min(len(position_m) - 1, max(12, int(rate_hz / cutoff_hz)))  # [T]
    return np.asarray(sosfiltfilt(sections, position_m, padlen=pad), dtype=np.float64)
