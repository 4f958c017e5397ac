"""The equation system of a sketch: substituted, grouped by kind, with its normal matrix ready to factorise.

Unknowns that a ``same`` row makes one are merged by connected components; ``at`` rows fix them. What is left is
grouped by kind of residual, so an evaluation is one gather, one call per kind and no Python loop over rows.

The normal matrix A = J^T J is summed straight into the storage its factorisation wants, from index lists made
once: dense for small systems, banded after reverse Cuthill-McKee ordering (George and Liu 1981, ch. 4) where
the band is narrow, which chains of constraints are, and compressed columns for the rest. A few unknowns that touch
many rows (a base line that everything refers to) would ruin the band: they stand apart as a border and are
eliminated by their Schur complement.

Levels: 0 substitutes nothing, 1 coincidences, 2 also horizontal, vertical, concentric, equal radii and fixed.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
import scipy.sparse as sp
from numpy.typing import NDArray
from scipy.linalg import lapack
from scipy.sparse import csgraph
from scipy.sparse.linalg import splu

from lathed_solid.quantity.tolerances import RELATIVE, RELATIVE_READ
from lathed_solid.sketch.equations import INTRINSIC, Equation, Layout, rows
from lathed_solid.sketch.model import Sketch
from lathed_solid.sketch.residuals import KINDS, Array
from lathed_solid.sketch.structure import Recent, structure_key

Indices = NDArray[np.intp]
DENSE_BELOW = 40
BAND_MOST = 260
BORDER_MOST = 12


@dataclass(slots=True)
class _Group:
    kind: str
    at: Indices  # (k, m) into the extended reduced vector
    first_row: int
    p: Array  # (q, m)
    constant: Array
    coefficient: Array
    value_of: Indices  # (m,) index into the values, 0 is none
    weight: Array  # (m,)
    entries: slice  # of this group in the derivative data


#: of a structure, and shared by all systems that have it: nothing changes them
_SHARED = ("_level", "_joints", "_fixings", "_fixed", "n", "index", "_shares", "owners", "m", "_entries", "value_names",
           "_gather", "_rows", "_cols", "kept", "entry_row", "entry_col")  # fmt: skip
_PREPARED = ("_solver", "_store", "_place", "_border", "_width", "_order", "_sparse_rows", "_sparse_start", "_one",
             "_two", "_position", "_diagonal")  # fmt: skip


def _summed(at: Array, what: Array, size: int) -> Array:
    """``what`` summed by place. Where all relations were merged away there is nothing to sum, and numpy's sum of
    nothing is of whole numbers.
    """
    return np.bincount(at, weights=what, minlength=size).astype(float, copy=False)


class System:
    """Equations of one sketch at one level; ``without`` leaves constraints out by id."""

    def __init__(
        self,
        sketch: Sketch,
        *,
        level: int = 2,
        without: Iterable[str] = (),
        layout: Layout | None = None,
        made: Sequence[Equation] | None = None,
    ) -> None:
        self.sketch = sketch
        self.layout = layout or Layout(sketch)
        self.x0: Array = np.array(self.layout.start, float)
        self._twin: System | None = None
        self.groups: list[_Group] = []
        skip = frozenset(without)
        whole = level == 2 and not skip and made is None
        key = structure_key(sketch) if whole else None
        if whole and (twin := _RECENT.get(key)) is not None:
            self._like(twin)
            return
        all_rows = made if made is not None else rows(sketch, self.layout)
        if skip:
            all_rows = [r for r in all_rows if r.owner not in skip]
        self.size = self.layout.size
        self._level = level
        self._joints = {c.id for c in sketch.constraints if c.kind == "coincident"}
        self._merge(all_rows)
        self._group(all_rows)
        self._solver = ""
        if whole:
            _RECENT.put(key, self)

    def _like(self, twin: System) -> None:
        """All but positions and values from a system of the same structure."""
        self.size, self._twin = self.layout.size, twin
        for name in _SHARED:
            setattr(self, name, getattr(twin, name))
        # what changes while solving is this system's own
        self.groups = [replace(g, p=g.constant.copy(), weight=np.ones(g.at.shape[1])) for g in twin.groups]
        self._hold()
        self._solver = ""

    # substitution ------------------------------------------------------------------------------
    def _substituted(self, row: Equation) -> bool:
        """Whether a ``same`` or ``at`` row is put in before anything is solved, at this level."""
        return self._level >= 2 or (self._level == 1 and row.kind == "same" and row.owner in self._joints)

    def _merge(self, all_rows: Sequence[Equation]) -> None:
        count = len(self.x0)
        pairs = [r.unknowns for r in all_rows if r.kind == "same" and self._substituted(r)]
        if pairs:
            a = np.array(pairs).T
            graph = sp.coo_matrix((np.ones(a.shape[1]), (a[0], a[1])), shape=(count, count))
            roots, label = csgraph.connected_components(graph, directed=False)
        else:
            roots, label = count, np.arange(count)
        #: merged unknowns that are fixed, each with the unknown whose position it keeps and who says so
        self._fixings = [(int(label[self.layout.zero]), self.layout.zero, INTRINSIC)] + [
            (int(label[r.unknowns[0]]), r.unknowns[0], r.owner) for r in all_rows
            if r.kind == "at" and self._substituted(r)
        ]  # fmt: skip
        free = np.ones(roots, bool)
        fixed = np.array(sorted({root for root, _, _ in self._fixings}), np.intp)
        free[fixed] = False
        self.n = int(free.sum())
        order = np.empty(roots, np.intp)
        order[free] = np.arange(self.n)
        order[fixed] = self.n + np.arange(len(fixed))
        self.index: Indices = order[label]
        self._fixed = fixed.tolist()
        self._hold()
        self._shares: Array = np.bincount(self.index, minlength=roots).astype(float)

    def _hold(self) -> None:
        """Where what is fixed is held, and who fixes something twice at different places."""
        start, known = self.x0.tolist(), dict[int, float]()
        self.clashes: list[str] = []
        for root, unknown, owner in self._fixings:
            if abs(known.setdefault(root, start[unknown]) - start[unknown]) > RELATIVE * self.size:
                self.clashes.append(owner)
        self.held: Array = np.array([known[root] for root in self._fixed])

    def reduce(self, x: Array) -> Array:
        """Reduced unknowns (n,) from all (N,): merged ones are averaged."""
        return (np.bincount(self.index, weights=x, minlength=len(self._shares)) / self._shares)[: self.n]

    def expand(self, y: Array) -> Array:
        """All unknowns (N,) from the reduced ones (n,)."""
        return np.concatenate([y, self.held])[self.index]

    # rows --------------------------------------------------------------------------------------
    def _group(self, all_rows: Sequence[Equation]) -> None:
        by_kind: dict[str, list[Equation]] = {}
        for r in all_rows:
            if r.kind not in ("same", "at"):
                by_kind.setdefault(r.kind, []).append(r)
            elif not self._substituted(r):
                kind, p = ("shift", (0.0,)) if r.kind == "same" else ("value", r.constant)
                by_kind.setdefault(kind, []).append(Equation(kind, r.unknowns, p, (0.0,), r.owner))
        names: dict[str, int] = {}
        self.groups = []
        self.owners: list[str] = []
        row = entry = 0
        for kind, members in by_kind.items():
            spec, m = KINDS[kind], len(members)
            at = self.index[np.array([r.unknowns for r in members]).T]
            constant = np.array([r.constant for r in members], float).T.reshape(-1, m)
            coefficient = np.array([r.coefficient or (0.0,) * len(r.constant) for r in members], float).T.reshape(-1, m)
            value_of = np.array(
                [names.setdefault(r.owner, len(names) + 1) if any(r.coefficient) else 0 for r in members]
            )
            span = slice(entry, entry + spec.rows * spec.unknowns * m)
            self.groups.append(
                _Group(kind, at, row, constant.copy(), constant, coefficient, value_of, np.ones(m), span)
            )
            for _ in range(spec.rows):
                self.owners += [r.owner for r in members]
            row, entry = row + spec.rows * m, span.stop
        self.m, self._entries = row, entry
        self.value_names = names
        self._gather = np.concatenate([g.at.ravel() for g in self.groups]) if self.groups else np.zeros(0, np.intp)
        self._rows, self._cols = self._pattern()
        self.kept = self._cols < self.n
        self.entry_row, self.entry_col = self._rows[self.kept], self._cols[self.kept]

    def _pattern(self) -> tuple[Indices, Indices]:
        """Row and column of every derivative, in the order of the data."""
        row, col = np.empty(self._entries, np.intp), np.empty(self._entries, np.intp)
        for g in self.groups:
            spec, m = KINDS[g.kind], g.at.shape[1]
            shape = (spec.rows, spec.unknowns, m)
            numbers = g.first_row + np.arange(spec.rows * m).reshape(spec.rows, 1, m)
            row[g.entries] = np.broadcast_to(numbers, shape).ravel()
            col[g.entries] = np.broadcast_to(g.at, shape).ravel()
        return row, col

    def set_values(self, values: Mapping[str, float]) -> None:
        """Put in the values (mm, rad) of the driving dimensions. Raises KeyError when one is missing."""
        v = np.zeros(len(self.value_names) + 1)
        for name, i in self.value_names.items():
            v[i] = values[name]
        for g in self.groups:
            if len(g.p):
                g.p = g.coefficient * v[g.value_of] + g.constant

    def set_weights(self, y: Array) -> None:
        """Weights of angles: the shorter of the two segments at ``y``."""
        z = np.concatenate([y, self.held])
        for g in self.groups:
            if g.kind == "angle":
                v = z[g.at]
                shorter = np.minimum(np.hypot(v[2] - v[0], v[3] - v[1]), np.hypot(v[6] - v[4], v[7] - v[5]))
                g.weight = np.maximum(shorter, RELATIVE_READ * self.size)

    def evaluate(self, y: Array) -> tuple[Array, Array]:
        """Residuals (m,) and the data of the derivatives at ``y``."""
        v = np.concatenate([y, self.held])[self._gather]
        r, d = np.empty(self.m), np.zeros(self._entries)
        at = 0
        for g in self.groups:
            spec, m = KINDS[g.kind], g.at.shape[1]
            size = spec.unknowns * m
            spec.fill(
                v[at : at + size].reshape(spec.unknowns, m),
                g.p,
                g.weight,
                r[g.first_row : g.first_row + spec.rows * m].reshape(spec.rows, m),
                d[g.entries].reshape(spec.rows, spec.unknowns, m),
            )
            at += size
        return r, d[self.kept]

    def jacobian(self, data: Array) -> sp.csr_matrix:
        """The derivatives as a sparse (m, n) matrix."""
        return sp.coo_matrix((data, (self.entry_row, self.entry_col)), shape=(self.m, self.n)).tocsr()

    def gradient(self, data: Array, r: Array) -> Array:
        """J^T r."""
        return _summed(self.entry_col, data * r[self.entry_row], self.n)

    def product(self, data: Array, step: Array) -> Array:
        """J step."""
        return _summed(self.entry_row, data * step[self.entry_col], self.m)

    # normal matrix -----------------------------------------------------------------------------
    def prepare(self) -> None:
        """Index lists for the normal matrix; once for a system."""
        if self._solver:
            return
        twin = self._twin
        if twin is not None:
            twin.prepare()
            for name in _PREPARED:
                if hasattr(twin, name):
                    setattr(self, name, getattr(twin, name))
            return
        number = np.full(self._entries, -1, np.intp)
        number[self.kept] = np.arange(len(self.entry_col))
        first, second = [], []
        for g in self.groups:
            spec, m = KINDS[g.kind], g.at.shape[1]
            e = number[g.entries].reshape(spec.rows, spec.unknowns, m)
            shape = (spec.rows, spec.unknowns, spec.unknowns, m)
            first.append(np.broadcast_to(e[:, :, None], shape).ravel())
            second.append(np.broadcast_to(e[:, None], shape).ravel())
        one = np.concatenate(first) if first else np.zeros(0, np.intp)
        two = np.concatenate(second) if second else np.zeros(0, np.intp)
        both = (one >= 0) & (two >= 0)
        one, two = one[both], two[both]
        i, j = self.entry_col[one], self.entry_col[two]
        n = self.n
        if n <= DENSE_BELOW:
            solver, self._store = "dense", n * n
            position, diagonal = i * n + j, np.arange(n) * (n + 1)
        else:
            graph = sp.coo_matrix((np.ones(len(i), np.int8), (i, j)), shape=(n, n)).tocsr()
            if self._plan_band(graph):
                solver = "banded"
                place, inner, w = self._place, self.n - self._border, self._width + 1
                a, b = place[i], place[j]
                used = (a >= b) | (a >= inner)
                one, two, a, b = one[used], two[used], a[used], b[used]
                # band of the inner unknowns, then one full row (n) for each of the border
                position = np.where(a < inner, (a - b) + b * w, w * inner + (a - inner) * n + b)
                every = np.arange(n)
                at = np.where(every < inner, every * w, w * inner + (every - inner) * n + every)
                diagonal, self._store = at[place], w * inner + self._border * n
            else:
                solver = "sparse"
                key, position = np.unique(np.concatenate([j * n + i, np.arange(n) * (n + 1)]), return_inverse=True)
                self._store = len(key)
                diagonal, position = position[len(i) :], position[: len(i)]
                self._sparse_rows = (key % n).astype(np.int32)
                self._sparse_start = np.searchsorted(key // n, np.arange(n + 1)).astype(np.int32)
        self._one, self._two, self._position, self._diagonal = one, two, position, diagonal
        self._solver = solver  # last: another thread may ask for the same system

    def _plan_band(self, graph: sp.csr_matrix) -> bool:
        """Choose border and order; False when the band stays too wide to pay."""
        n = self.n
        degree = np.diff(graph.indptr)
        hubs = np.flatnonzero(degree > max(24, 3 * np.median(degree)))
        if len(hubs) > BORDER_MOST:
            hubs = hubs[np.argsort(-degree[hubs], kind="stable")[:BORDER_MOST]]
        inner = np.setdiff1d(np.arange(n), hubs)
        part = graph[inner][:, inner] if len(hubs) else graph
        order = inner[csgraph.reverse_cuthill_mckee(part, symmetric_mode=True)]
        place = np.empty(n, np.intp)
        place[order] = np.arange(len(order))
        place[hubs] = len(order) + np.arange(len(hubs))
        rows_of, cols_of = graph.nonzero()
        a, b = place[rows_of], place[cols_of]
        both = (a < len(order)) & (b < len(order))
        width = int((a[both] - b[both]).max(initial=0))
        if width > BAND_MOST:
            return False
        self._place, self._border, self._width = place, len(hubs), width
        self._order = np.concatenate([order, hubs])
        return True

    def normal(self, data: Array) -> Array:
        """The normal matrix in its storage; ``damped_step`` takes it."""
        return _summed(self._position, data[self._one] * data[self._two], self._store)

    def damped_step(self, normal: Array, right: Array, damping: float | Array) -> Array | None:
        """Solve (A + damping I) s = right; None when it is not positive definite."""
        a = normal.copy()
        a[self._diagonal] += damping
        n = self.n
        if self._solver == "dense":
            _, s, info = lapack.dposv(a.reshape(n, n), right)
            return s if info == 0 else None
        if self._solver == "banded":
            return self._bordered_step(a, right[self._order])
        matrix = sp.csc_matrix((a, self._sparse_rows, self._sparse_start), shape=(n, n))
        options = {"SymmetricMode": True}
        try:
            s = splu(matrix, permc_spec="MMD_AT_PLUS_A", diag_pivot_thresh=0.0, options=options).solve(right)
        except RuntimeError:
            return None
        return s if np.isfinite(s).all() else None

    def _bordered_step(self, a: Array, right: Array) -> Array | None:
        n, k = self.n, self._border
        inner, w = n - k, self._width + 1
        band = a[: w * inner].reshape((w, inner), order="F")
        out = np.empty(n)
        if k == 0:
            _, s, info = lapack.dpbsv(band, right, lower=1, overwrite_ab=1)
            if info != 0:
                return None
            out[self._order] = s
            return out
        border = a[w * inner :].reshape(k, n)
        sides = np.empty((inner, k + 1), order="F")
        sides[:, 0], sides[:, 1:] = right[:inner], border[:, :inner].T
        _, x, info = lapack.dpbsv(band, sides, lower=1, overwrite_ab=1)
        if info != 0:
            return None
        schur = border[:, inner:] - border[:, :inner] @ x[:, 1:]
        _, t, info = lapack.dposv(schur, right[inner:] - border[:, :inner] @ x[:, 0])
        if info != 0:
            return None
        out[self._order[:inner]] = x[:, 0] - x[:, 1:] @ t
        out[self._order[inner:]] = t
        return out


#: a figure, its variants while one edits, and those of other sketches
_RECENT: Recent[System] = Recent(16)
