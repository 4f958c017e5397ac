"""Null spaces, and which movements that exist to first order end at once.

First order misleads where rows depend on one another: the end of a tangent line on its circle moves along the line to
first order only. A movement N z goes on to second order when the rows' curvature can be made up for: for each left
null vector w (w^T J = 0), q(z) = w^T r''[N z, N z] must vanish. A q that has one sign vanishes on the kernel of its
matrix alone, and the movements shrink to that kernel (the second-order test of rigid frameworks: Connelly and
Whiteley, SIAM J. Discrete Math. 9, 1996).

A curvature can be made up for by any unknown of its rows: the test takes all that hangs together by the equations,
also where a derivative happens to vanish here.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
import scipy.linalg as sl
import scipy.sparse as sp
from scipy.sparse import csgraph

from lathed_solid.quantity.tolerances import NOTHING, ROUNDING
from lathed_solid.sketch.residuals import Array
from lathed_solid.sketch.system import System

RANK_TOLERANCE = 1e-6
#: more movements or dependent rows than this are taken as they are to first order
SECOND_ORDER_MOST = 12
#: of the figure's size, how far a movement is followed to see its curvature
FOLLOWED = 1e-3
#: a curvature of the rows, for a movement across the whole figure, that is none
CURVED = 1e-3
#: of the strongest curvature, what is none
ROUNDED = 1e-5
#: clusters of more unknowns are taken as they are to first order
UNKNOWNS_MOST = 600


@dataclass(frozen=True)
class Cluster:
    """Unknowns ``columns`` (n,) that hang together, and their free movements ``null`` (n, k)."""

    columns: Array = field(repr=False)
    null: Array = field(repr=False)


def null_space(a: Array, tolerance: float = RANK_TOLERANCE) -> Array:
    """Null space of ``a`` (m, n) as (n, k): each column with one free unknown, its greatest entry 1."""
    n = a.shape[1]
    if a.shape[0] == 0:
        return np.eye(n)
    r, order = sl.qr(a, mode="r", pivoting=True, check_finite=False)
    diagonal = np.abs(np.diag(r))
    rank = int((diagonal > tolerance * max(diagonal[0], 1e-300)).sum()) if diagonal[0] > NOTHING else 0
    out = np.zeros((n, n - rank))
    if rank:
        out[order[:rank]] = -sl.solve_triangular(r[:rank, :rank], r[:rank, rank:])
    out[order[rank:]] = np.eye(n - rank)
    out[np.abs(out) < ROUNDING] = 0.0
    return out / np.abs(out).max(axis=0, initial=1e-300)


def row_lengths(system: System, data: Array) -> Array:
    """Length of each row (m,) of the derivatives ``data``, never zero."""
    return np.sqrt(np.maximum(np.bincount(system.entry_row, weights=data * data, minlength=system.m), 1e-24))


def going_on(system: System, y: Array, j: sp.csr_matrix, clusters: list[Cluster]) -> list[Cluster]:
    """The clusters with the movements alone that go on to second order; ``clusters`` itself when all do.

    ``j`` (m, n): the scaled derivatives at the solution ``y`` (n,) of ``system``.
    """
    rank = system.n - sum(c.null.shape[1] for c in clusters)
    if rank == system.n or rank == system.m or not j.nnz:
        return clusters
    pattern = sp.csr_matrix((np.ones_like(j.data), j.indices, j.indptr), shape=j.shape)
    components, label = csgraph.connected_components(pattern.T @ pattern, directed=False)
    first = j.indices[np.minimum(j.indptr[:-1], len(j.indices) - 1)]
    row_label = np.where(np.diff(j.indptr) > 0, label[first], -1)
    by_row = np.argsort(row_label, kind="stable")
    bounds = np.searchsorted(row_label[by_row], np.arange(components + 1))
    members_of: dict[int, list[Cluster]] = {}
    for cluster in clusters:
        members_of.setdefault(int(label[cluster.columns[0]]), []).append(cluster)
    out: list[Cluster] = []
    for component, members in sorted(members_of.items()):
        shrunk = _shrunk(system, y, j, by_row[bounds[component] : bounds[component + 1]], members)
        out += members if shrunk is None else [shrunk]
    return out if len(out) != len(clusters) or any(a is not b for a, b in zip(out, clusters, strict=True)) else clusters


def _shrunk(system: System, y: Array, j: sp.csr_matrix, rows_of: Array, members: list[Cluster]) -> Cluster | None:
    """The clusters of one component as one with fewer movements; None when they stay as they are."""
    k, n = sum(c.null.shape[1] for c in members), sum(len(c.columns) for c in members)
    dependent = len(rows_of) - (n - k)
    if not (0 < k <= SECOND_ORDER_MOST and 0 < dependent <= SECOND_ORDER_MOST and n <= UNKNOWNS_MOST):
        return None
    columns = np.concatenate([c.columns for c in members])
    null = sl.block_diag(*(c.null for c in members))
    left = null_space(j[rows_of][:, columns].toarray().T)
    kept = _stopped(system, y, rows_of, columns, left, null)
    return Cluster(columns, kept) if kept.shape[1] < k else None


def _stopped(system: System, y: Array, rows_of: Array, columns: Array, left: Array, null: Array) -> Array:
    """Of the movements ``null`` (n, k) of ``columns`` (n,), those that go on, (n, k') with k' <= k.

    ``left`` (m, w): the left null vectors of the scaled rows ``rows_of`` (m,).
    """
    k = null.shape[1]
    here, data = system.evaluate(y)
    norm = row_lengths(system, data)
    step = FOLLOWED * system.size

    def curvature(z: Array) -> Array:
        """q_w(z) for each w, in 1/mm."""
        go = np.zeros(system.n)
        go[columns] = null @ z * step
        ahead, back = (system.evaluate(at)[0] for at in (y + go, y - go))
        return left.T @ ((ahead - 2 * here + back) / norm)[rows_of] / step**2 * system.size

    unit = np.eye(k)
    one = [curvature(e) for e in unit]
    forms = np.zeros((left.shape[1], k, k))
    for i in range(k):
        forms[:, i, i] = one[i]
        for j in range(i):
            forms[:, i, j] = forms[:, j, i] = (curvature(unit[i] + unit[j]) - one[i] - one[j]) / 2
    stop = np.zeros((k, k))
    for form in forms:
        ways = np.linalg.eigvalsh(form)
        strongest = np.abs(ways).max()
        if strongest > CURVED and (ways.min() > -ROUNDED * strongest or ways.max() < ROUNDED * strongest):
            stop += form / strongest * (1 if ways.max() >= -ways.min() else -1)
    if not stop.any():
        return null
    ways, z = np.linalg.eigh(stop)
    kept = null @ z[:, ways <= ROUNDED]
    return kept / np.abs(kept).max(axis=0, initial=1e-300)
