"""The standard acceleration of free fall."""

from __future__ import annotations

STANDARD_GRAVITY_MPS2 = 9.80665  # exact by definition, published: 3rd General Conference on Weights and Measures, 1901
