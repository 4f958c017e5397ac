"""The equations of a fit, grouped by kind, with their normal matrix ready to factorise.

Bodies are members, those that are held together taken as one; body 0 is the room. Unknowns are six a body: a shift (mm)
and a turn about the body's own middle, the turn multiplied by the body's own reach, so that all are lengths and a small
part turns rather than a large one. All places
and directions of all equations are turned into the room at once, then each kind is evaluated at once.

J^T J is summed straight into the storage of its factorisation from index lists made once: banded after ordering the
bodies (reverse Cuthill-McKee; George and Liu 1981, ch. 4) where that is narrow, as in chains of parts, compressed
columns for many bodies that are not, else dense. The library of matrices is imported when a fit is solved first: a
window begins without it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from lathed_solid.fit import residuals
from lathed_solid.fit.equations import Equation
from lathed_solid.fit.placement import Array, square_to, turns

Indices = NDArray[np.intp]
#: no body reaches less than this share of the fit's size
LEAST_REACH = 0.05
#: so many unknowns are factorised densely whatever their order; more, where the band is wide, sparsely
DENSE_BELOW, SPARSE_ABOVE = 48, 600


@dataclass(frozen=True, slots=True)
class Poses:
    """Of each body, 0 the room: turns (n, 3, 3) and places (n, 3), mm."""

    turn: Array
    at: Array

    def moved(self, step: Array, middle: Array, reach: Array) -> Poses:
        """After a step (n - 1, 6) of all but the room: a shift, and a turn about ``middle`` (in the body) by reach."""
        turn, at = self.turn.copy(), self.at.copy()
        by = turns(step[:, 3:] / reach[1:, None])
        arm = np.einsum("nij,nj->ni", self.turn[1:], middle[1:])
        turn[1:] = by @ self.turn[1:]
        at[1:] += step[:, :3] + arm - np.einsum("nij,nj->ni", by, arm)
        return Poses(turn, at)


@dataclass(slots=True)
class _Group:
    """Equations of one kind: slices into the places and directions, and bodies."""

    kind: str
    index: Indices  # of its equations
    bodies: Indices  # (2, n): a and b
    first_row: int
    value: Array
    rate: Array
    teeth: Array


class System:
    """Equations on bodies. ``size`` (mm) is how large the fit is."""

    def __init__(self, equations: Sequence[Equation], body_of: Mapping[str, tuple[int, Array, Array]], count: int,
                 start: Poses, reach: Array | None = None) -> None:  # fmt: skip
        """``body_of``: of each member its body, and its turn and place in it; ``count`` bodies with the room.

        ``reach``: how far each body reaches at least (count,), mm, whatever its relations hold on to.
        """
        self.equations = tuple(equations)
        self.count, self.start = count, start
        n = len(self.equations)
        self.a, self.b = (
            np.array([body_of[getattr(q, side)][0] for q in self.equations], np.intp) for side in ("a", "b")
        )  # fmt: skip
        vectors = np.zeros((5, n, 3))
        for k, (name, side, placed) in enumerate(_VECTORS):
            for i, q in enumerate(self.equations):
                _, turn, at = body_of[getattr(q, side)]
                vectors[k, i] = turn @ getattr(q, name) + (at if placed else 0.0)
        self._local = vectors
        self._carrier = np.stack([self.a, self.a, self.b, self.b, self.b])
        self.middle = self._middles()
        far = self._far() if reach is None else np.maximum(self._far(), reach)
        self.size = float(max(1.0, far.max(initial=0.0)))
        #: how far each body reaches from its middle, mm
        self.reach: Array = np.maximum(far, LEAST_REACH * self.size)
        #: how much each row counts (m,); None: all alike
        self.weight: Array | None = None
        self._group()
        self._gears()
        self._store()

    def _middles(self) -> Array:
        out, hits = np.zeros((self.count, 3)), np.zeros(self.count)
        for body, places in ((self.a, self._local[0]), (self.b, self._local[2])):
            np.add.at(out, body, places)
            np.add.at(hits, body, 1.0)
        out /= np.maximum(hits, 1.0)[:, None]
        out[0] = 0.0
        return out

    def _far(self) -> Array:
        """How far the places of each body lie from its middle, at most (n,), mm."""
        out = np.zeros(self.count)
        for k, body in ((0, self.a), (2, self.b)):
            np.maximum.at(out, body, np.abs(self._local[k] - self.middle[body]).max(axis=1, initial=0.0))
        return out

    def _group(self) -> None:
        order = list(dict.fromkeys(q.way for q in self.equations))
        self.groups: list[_Group] = []
        self.owners: list[int] = []
        row = 0
        for kind in order:
            index = np.array([i for i, q in enumerate(self.equations) if q.way == kind], np.intp)
            of = [self.equations[i] for i in index]
            self.groups.append(_Group(
                kind, index, np.stack([self.a[index], self.b[index]]), row, np.array([q.value for q in of]),
                np.array([q.rate for q in of]), np.array([q.teeth for q in of], float).reshape(-1, 2),
            ))  # fmt: skip
            for _ in range(residuals.ROWS[kind]):
                self.owners += [q.owner for q in of]
            row += residuals.ROWS[kind] * len(of)
        self.m = row
        self.n = 6 * (self.count - 1)

    def _gears(self) -> None:
        """Gears turn in the room; their teeth keep how they stand at the start."""
        self._base: tuple[Array, Array, Array, Array] | None = None
        for g in self.groups:
            if g.kind == "gear":
                axes = [np.einsum("nij,nj->ni", self.start.turn[b], self._local[k][g.index])
                        for k, b in ((0, g.bodies[0]), (3, g.bodies[1]))]  # fmt: skip
                # a turn is counted about its axis: a place carries no shift here
                pairs = [[square_to(x / np.linalg.norm(x)) for x in axis] for axis in axes]
                self._base = tuple(np.array([p[k] for p in side]) for side in pairs for k in (0, 1))  # type: ignore[assignment]
                stand = self._stand(g, self.world(self.start))
                g.value = residuals.gear(stand)[0][0] / (stand.size / stand.teeth.max(axis=1))

    # evaluation --------------------------------------------------------------------------------
    def world(self, poses: Poses) -> Array:
        """All places and directions in the room: p, d, q, e, u and v = e x u (6, n, 3)."""
        out = np.empty((6, len(self.equations), 3))
        np.einsum("knij,knj->kni", poses.turn[self._carrier], self._local, out=out[:5])
        out[0] += poses.at[self.a]
        out[2] += poses.at[self.b]
        out[5] = np.cross(out[3], out[4]) if len(out[3]) else out[3]
        return out

    def _stand(self, g: _Group, world: Array) -> residuals.Stand:
        p, d, q, e, u, v = world[:, g.index]
        base = self._base if g.kind == "gear" else None
        return residuals.Stand(p, d, q, e, u, v, g.value, g.rate, g.teeth, self.size, base)

    def evaluate(self, poses: Poses) -> tuple[Array, Array]:
        """Residuals (m,), mm, and their slopes to the steps of a and b (m, 2, 6)."""
        world = self.world(poses)
        r, slopes = np.empty(self.m), np.empty((self.m, 2, 6))
        middle = poses.at + np.einsum("nij,nj->ni", poses.turn, self.middle)
        for g in self.groups:
            k, n = residuals.ROWS[g.kind], len(g.index)
            there = slice(g.first_row, g.first_row + k * n)
            stand = self._stand(g, world)
            if g.kind == "gear":
                found, on_a, on_b = residuals.gear(stand)
                none = np.zeros_like(on_a)
                sides = ((none, on_a), (none, on_b))
            else:
                found, force, moment = residuals.KINDS[g.kind](stand)
                sides = ((force, moment), (-force, -moment))
            r[there] = found.ravel()
            for side, (force, moment) in enumerate(sides):
                arm = middle[g.bodies[side]]
                slopes[there, side, :3] = force.reshape(-1, 3)
                turned = (moment - np.cross(arm, force)) / self.reach[g.bodies[side]][:, None]
                slopes[there, side, 3:] = turned.reshape(-1, 3)
        return (r, slopes) if self.weight is None else (r * self.weight, slopes * self.weight[:, None, None])

    def moved(self, poses: Poses, step: Array) -> Poses:
        """Poses after a step (n,) of the unknowns."""
        return poses.moved(step.reshape(-1, 6), self.middle, self.reach)

    def aim(self, place: Array) -> None:
        """Another place in the room (3,), mm, for the last equation to draw to."""
        self._local[2, -1] = place

    # the normal matrix ---------------------------------------------------------------------------
    def _store(self) -> None:
        import scipy.sparse as sp
        from scipy.sparse import csgraph

        sides = np.empty((self.m, 2), np.intp)
        for g in self.groups:
            k = residuals.ROWS[g.kind]
            sides[g.first_row : g.first_row + k * len(g.index)] = np.tile(g.bodies.T, (k, 1))
        self.sides = sides
        free = sides > 0
        joined = sides[free.all(axis=1)] - 1
        blocks = self.count - 1
        graph = sp.coo_matrix((np.ones(len(joined)), (joined[:, 0], joined[:, 1])), shape=(blocks, blocks)).tocsr()
        order = csgraph.reverse_cuthill_mckee(graph + graph.T, symmetric_mode=True) if blocks else np.zeros(0, int)
        self.place = np.empty(blocks + 1, np.intp)
        self.place[np.asarray(order, int) + 1] = np.arange(blocks)
        self.place[0] = 0  # the room: its share is left out
        at = self.place[sides]
        wide = int(np.abs(at[free.all(axis=1)] @ [1, -1]).max(initial=0)) if len(joined) else 0
        band = 6 * (wide + 1)
        self.solver = ("dense" if self.n <= DENSE_BELOW or (band > self.n // 2 and self.n <= SPARSE_ABOVE)
                       else "banded" if band <= SPARSE_ABOVE // 2 else "sparse")  # fmt: skip
        self._band = band
        # blocks of the lower half: a-a, b-b, and the later with the earlier of a and b
        first, second = np.maximum(at[:, 0], at[:, 1]), np.minimum(at[:, 0], at[:, 1])
        self._swap = at[:, 0] < at[:, 1]
        pairs = ((at[:, 0], at[:, 0], free[:, 0]), (at[:, 1], at[:, 1], free[:, 1]), (first, second, free.all(axis=1)))
        inner = np.arange(6)
        places, self._used = [], []
        for i, j, used in pairs:
            rows = (6 * i[used])[:, None, None] + inner[None, :, None] + np.zeros((1, 1, 6), int)
            columns = (6 * j[used])[:, None, None] + inner[None, None, :] + np.zeros((1, 6, 1), int)
            places.append((rows.ravel(), columns.ravel()))
            self._used.append(np.flatnonzero(used))
        rows, columns = (np.concatenate([p[k] for p in places]) for k in (0, 1))
        lower = rows >= columns
        self._lower = np.flatnonzero(lower)
        rows, columns = rows[lower], columns[lower]
        if self.solver == "banded":
            self._flat = (rows - columns) * self.n + columns
        elif self.solver == "dense":
            self._flat = columns * self.n + rows  # by columns, as LAPACK has it
        else:
            key, self._flat = np.unique(columns * self.n + rows, return_inverse=True)
            self._sparse = key % self.n, key // self.n
        self._columns = (6 * at[:, :, None] + inner).reshape(self.m, 12)
        self._free = np.repeat(free, 6, axis=1).astype(float).reshape(self.m, 12)

    def normal(self, slopes: Array) -> Array:
        """J^T J in the storage of ``damped_step``."""
        first = np.where(self._swap[:, None], slopes[:, 1], slopes[:, 0])
        second = np.where(self._swap[:, None], slopes[:, 0], slopes[:, 1])
        products = [np.einsum("ni,nj->nij", x[used], y[used]).ravel() for (x, y), used in zip(
            ((slopes[:, 0], slopes[:, 0]), (slopes[:, 1], slopes[:, 1]), (first, second)), self._used, strict=True
        )]  # fmt: skip
        size = {"banded": self._band * self.n, "dense": self.n * self.n}.get(self.solver)
        weights = np.concatenate(products)[self._lower]
        return np.bincount(self._flat, weights=weights, minlength=size or len(self._sparse[0])).astype(float)

    def gradient(self, slopes: Array, r: Array) -> Array:
        """J^T r (n,), in the order of the factorisation."""
        weights = (slopes.reshape(self.m, 12) * self._free * r[:, None]).ravel()
        return np.bincount(self._columns.ravel(), weights=weights, minlength=self.n).astype(float)

    def damped_step(self, normal: Array, right: Array, damping: float) -> Array | None:
        """(J^T J + damping E) step = right, in the bodies' own order; None where it is not positive."""
        from scipy.linalg import lapack

        if self.solver == "banded":
            band = normal.reshape(self._band, self.n).copy()
            band[0] += damping
            _, x, info = lapack.dpbsv(band, right, lower=1)
        elif self.solver == "dense":
            full = normal.reshape(self.n, self.n).T.copy()
            full[np.diag_indices(self.n)] += damping
            _, x, info = lapack.dposv(full, right, lower=1)
        else:
            import scipy.sparse as sp
            from scipy.sparse.linalg import splu

            rows, columns = self._sparse
            lower = sp.csc_matrix((normal, (rows, columns)), shape=(self.n, self.n))
            whole = lower + sp.tril(lower, -1).T + damping * sp.identity(self.n, format="csc")
            x, info = splu(whole.tocsc(), permc_spec="MMD_AT_PLUS_A", options={"SymmetricMode": True}).solve(right), 0
        if info or not np.isfinite(x).all():
            return None
        return self.ordered(np.asarray(x).reshape(-1))

    def ordered(self, x: Array) -> Array:
        """From the order of the factorisation to that of the bodies (n,)."""
        out: Array = x.reshape(-1, 6)[self.place[1:]].ravel()
        return out

    def product(self, slopes: Array, step: Array) -> Array:
        """J step (m,)."""
        whole = np.concatenate([np.zeros((1, 6)), step.reshape(-1, 6)])
        out: Array = np.einsum("nsi,nsi->n", slopes, whole[self.sides])
        return out

    def jacobian(self, slopes: Array) -> Array:
        """J (m, n) in full, columns in the bodies' own order."""
        out = np.zeros((self.m, self.n + 6))
        rows = np.arange(self.m)
        for side in (0, 1):
            for k in range(6):
                np.add.at(out, (rows, 6 * self.sides[:, side] + k), slopes[:, side, k])
        return out[:, 6:]

    def with_values(self, values: Mapping[int, float]) -> None:
        """Other values (mm, rad) for the equations of driven freedoms, by owner."""
        for g in self.groups:
            for k, i in enumerate(g.index):
                if self.equations[i].owner in values:
                    g.value[k] = values[self.equations[i].owner]


#: of each equation's vectors: its field, the side that carries it, and whether it is a place
_VECTORS: tuple[tuple[str, str, bool], ...] = (
    ("p", "a", True), ("d", "a", False), ("q", "b", True), ("e", "b", False), ("u", "b", False),
)  # fmt: skip


def tightened(poses: Poses) -> Poses:
    """The same with turns that are turns to the last digit (the nearest, by singular values)."""
    left, _, right = np.linalg.svd(poses.turn)
    return replace(poses, turn=left @ right)
