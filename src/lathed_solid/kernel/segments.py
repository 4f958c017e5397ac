"""Straight stretches in numbers: |p - a - t d| with t = (p - a) . d / d . d kept within 0 and 1."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

#: squares of lengths that nothing may be divided by, mm2
LEAST = 1e-30


def off_segments(p: NDArray[Any], a: NDArray[Any], along: NDArray[Any]) -> NDArray[np.float64]:
    """How far places are from segments that begin at ``a`` and run ``along``; arrays (.., 2 or 3), broadcast."""
    share = np.clip(((p - a) * along).sum(axis=-1) / np.maximum((along * along).sum(axis=-1), LEAST), 0.0, 1.0)
    return np.asarray(np.linalg.norm(p - a - share[..., None] * along, axis=-1))
