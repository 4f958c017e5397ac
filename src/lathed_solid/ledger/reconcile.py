"""Over-determined readings brought to agree: least squares with conditions, and the reading most at odds.

Readings l with standard uncertainties u must fulfil linear conditions A x = b (an overall length is the sum of its
steps). With Q = diag(u^2), the adjusted values and what they say (Mikhail and Ackermann, Observations and Least
Squares, 1976, ch. 4):

    w = b - A l,   v = Q A' (A Q A')^-1 w,   x = l + v,   chi2 = w' (A Q A')^-1 w  with as many degrees of freedom
    Q_v = Q A' (A Q A')^-1 A Q,   standardized residual v_i / sqrt(Q_v,ii)

The reading with the largest standardized residual is the suspect when chi2 is beyond its 95 % point; where several
are alike (a single condition tells none from the other) nobody is named.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from lathed_solid.quantity.tolerances import NOTHING

#: residuals within this of the largest are as bad
ALIKE = 1e-6
LIMIT = 0.95


class ReconcileError(ValueError):
    """Readings or conditions that do not go together."""


@dataclass(frozen=True)
class Reconciled:
    """Adjusted values and their standard uncertainties (mm), residuals, and the verdict on the whole."""

    values: np.ndarray
    uncertainties: np.ndarray
    residuals: np.ndarray
    standardized: np.ndarray
    chi2: float
    freedom: int
    #: the readings most at odds, all alike; empty when all agree
    suspects: tuple[int, ...]

    @property
    def suspect(self) -> int | None:
        """The one reading most at odds; None when there is none, or several that nothing tells apart."""
        return self.suspects[0] if len(self.suspects) == 1 else None

    @property
    def probability(self) -> float:
        """How often readings that agree would be at odds as much."""
        from scipy.special import chdtrc  # the window starts without it

        return float(chdtrc(self.freedom, self.chi2)) if self.freedom else 1.0

    @property
    def agrees(self) -> bool:
        """Whether readings and conditions are compatible at the usual level (chi squared)."""
        return self.probability >= 1 - LIMIT


def reconcile(
    readings: Sequence[float],
    uncertainties: Sequence[float],
    conditions: Sequence[Sequence[float]],
    sums: Sequence[float],
) -> Reconciled:
    """Readings (n) adjusted to ``conditions`` (m, n) x = ``sums`` (m). Raises ReconcileError.

    Conditions that say the same twice are counted once.
    """
    seen = np.asarray(readings, float)
    u = np.asarray(uncertainties, float)
    a = np.atleast_2d(np.asarray(conditions, float))
    b = np.asarray(sums, float)
    if a.size == 0:
        a = a.reshape(0, len(seen))
    if not (len(u) == len(seen) == a.shape[1] and len(b) == len(a)):
        raise ReconcileError("readings, uncertainties and conditions are not of one size")
    if not (np.all(np.isfinite(seen)) and np.all(np.isfinite(u)) and np.all(u > 0)):
        raise ReconcileError("readings must be numbers, and their uncertainties above zero")
    q = u * u
    w = b - a @ seen
    normal = (a * q) @ a.T
    inverse = np.linalg.pinv(normal, rcond=NOTHING, hermitian=True)
    freedom = int(np.linalg.matrix_rank(normal, tol=NOTHING * max(1.0, float(np.trace(normal))))) if len(a) else 0
    v = q * (a.T @ (inverse @ w))
    cofactor = (q[:, None] * a.T) @ inverse @ (a * q)
    spread = np.sqrt(np.clip(np.diag(cofactor), 0, None))
    standardized = np.divide(v, spread, out=np.zeros_like(v), where=spread > NOTHING * u)
    total = float(w @ inverse @ w)
    left = np.sqrt(np.clip(q - np.diag(cofactor), 0, None))
    result = Reconciled(seen + v, left, v, standardized, total, freedom, ())
    if result.agrees:
        return result
    worst = np.abs(standardized)
    alike = np.flatnonzero(worst >= worst.max() * (1 - ALIKE))
    return replace(result, suspects=tuple(int(i) for i in alike))
