"""Which parts of a solved sketch are loose, how they would move, and what says again what is said already.

At a solution x the free movements are the null space of the Jacobian J. With rows scaled to length 1, a
rank-revealing (column-pivoted) QR factorisation J P = Q R gives the rank (diagonal above 1e-6 of the first) and a
basis with one free unknown a movement: N = P [-R11^-1 R12; I] (Golub and Van Loan, section 5.5). Each connected
cluster is taken by itself.

Movements that end at once are left out (``second_order``).

A constraint is redundant when its rows depend on rows before it: the left null space names the rows concerned, and
Gram-Schmidt in the user's order finds which of them came last.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

import numpy as np
import scipy.sparse as sp
from scipy.sparse import csgraph

from lathed_solid.quantity.tolerances import LINEAR, NOTHING, RELATIVE_READ, ROUNDING
from lathed_solid.sketch.equations import INTRINSIC, Layout, rows
from lathed_solid.sketch.model import Point, Sketch
from lathed_solid.sketch.residuals import Array
from lathed_solid.sketch.second_order import RANK_TOLERANCE, Cluster, going_on, null_space, row_lengths
from lathed_solid.sketch.system import System

STILL = 1e-6


@dataclass(frozen=True)
class Movement:
    """One free movement: ``x`` (N,) is how every unknown goes, the fastest at 1; the entities that take part."""

    x: Array = field(repr=False)
    entities: tuple[str, ...]
    words: str


@dataclass(frozen=True, slots=True)
class Redundancy:
    """``constraint`` says again what ``says`` say together: ``whole``, or some of its equations only.

    Dropping a whole one loosens nothing: each of its rows is a combination of rows that stay.
    """

    constraint: str
    says: tuple[str, ...]
    whole: bool = True


@dataclass(frozen=True)
class Freedoms:
    """``count`` freedoms, one ``movements`` each (as many as asked for), entities that can move at all.

    ``curved``: some movements that exist to first order were found to end at once.
    """

    count: int
    movements: tuple[Movement, ...]
    loose: frozenset[str]
    curved: bool = False


def freedoms(sketch: Sketch, values: Mapping[str, float], x: Array, *, most: int = 60) -> Freedoms:
    """Free movements of ``sketch`` at the solution ``x`` (N,)."""
    system = System(sketch)
    system.set_values(values)
    y = system.reduce(x)
    if system.n == 0:
        return Freedoms(0, (), frozenset())
    j = _sparse_scaled(system, y)
    blocks = _blocks(j)
    clusters = [Cluster(columns, null_space(part)) for columns, part in blocks]
    rows_on = {id(cluster): part for cluster, (_, part) in zip(clusters, blocks, strict=True)}
    firm = going_on(system, y, j, clusters)
    count = sum(c.null.shape[1] for c in firm)
    movements: list[Array] = []
    loose = np.zeros(system.n, bool)
    for cluster in firm:
        columns, null = cluster.columns, cluster.null
        loose[columns] |= (np.abs(null) > STILL).any(axis=1)
        if len(movements) < most and null.shape[1]:
            part = rows_on[id(cluster)] if id(cluster) in rows_on else _rows(j, columns)
            null = _rigid_first(system, y, columns, part, null)
        for k in range(min(null.shape[1], most - len(movements))):
            step = np.zeros(system.n)
            step[columns] = null[:, k]
            movements.append(step)
    moving = [_movement(system, step) for step in movements]
    free = _moving_entities(system.layout, _spread(system, loose.astype(float)))
    return Freedoms(count, tuple(moving), frozenset(free), firm is not clusters)


def _blocks(j: sp.csr_matrix) -> list[tuple[Array, Array]]:
    """The clusters of unknowns that hang together by the rows, each in order, and the rows on it, dense (m, n)."""
    columns = _parted(j.T @ j)
    label, at = np.zeros(j.shape[1], np.intp), np.zeros(j.shape[1], np.intp)
    for i, c in enumerate(columns):
        label[c], at[c] = i, np.arange(len(c))
    row = np.repeat(np.arange(j.shape[0]), np.diff(j.indptr))
    by_block = np.argsort(label[j.indices], kind="stable")
    cuts = np.searchsorted(label[j.indices][by_block], np.arange(len(columns) + 1))
    out = []
    for i, c in enumerate(columns):
        mine = by_block[cuts[i] : cuts[i + 1]]
        rows_of, place = np.unique(row[mine], return_inverse=True)
        part = np.zeros((len(rows_of), len(c)))
        part[place, at[j.indices[mine]]] = j.data[mine]
        out.append((c, part))
    return out


def _rows(j: sp.csr_matrix, columns: Array) -> Array:
    """The rows that stand on these unknowns, dense (m, n)."""
    part = j[:, columns]
    return part[np.diff(part.indptr) > 0].toarray()


def _parted(graph: sp.spmatrix) -> list[Array]:
    """Unknowns that hang together in a graph (n, n), each cluster's in order."""
    clusters, label = csgraph.connected_components(graph, directed=False)
    order = np.argsort(label, kind="stable")
    return np.split(order, np.cumsum(np.bincount(label, minlength=clusters))[:-1])


def _sparse_scaled(system: System, y: Array) -> sp.csr_matrix:
    _, data = system.evaluate(y)
    return system.jacobian(data / row_lengths(system, data)[system.entry_row])


def _rigid_first(system: System, y: Array, columns: Array, part: Array, null: Array) -> Array:
    """The same space, begun with what a person would name first: shifts in x and y and a turn, where they are free."""
    size = len(system.x0)
    x = system.expand(y)
    pairs = np.array(list(system.layout.point.values()), np.intp)
    moves = np.zeros((3, size))
    moves[0, pairs], moves[1, pairs + 1] = 1.0, 1.0
    centre = x[pairs].mean() if len(pairs) else 0.0, x[pairs + 1].mean() if len(pairs) else 0.0
    moves[2, pairs], moves[2, pairs + 1] = centre[1] - x[pairs + 1], x[pairs] - centre[0]
    moves[2] /= max(np.abs(moves[2]).max(), NOTHING)
    kept: list[Array] = []
    basis = np.zeros((0, len(columns)))
    rigid = [system.reduce(m)[columns] for m in moves]
    free = [m for m in rigid if np.abs(m).max(initial=0) > ROUNDING and np.abs(part @ m).max(initial=0) < ROUNDING]
    for column in (*free, *null.T):
        if len(kept) == null.shape[1]:
            break
        rest = column - basis.T @ (basis @ column)
        norm = np.linalg.norm(rest)
        if norm > RELATIVE_READ * np.linalg.norm(column):
            basis = np.vstack([basis, rest / norm])
            kept.append(column / np.abs(column).max())
    return np.array(kept).T if kept else null


def _spread(system: System, step: Array) -> Array:
    """A movement of the reduced unknowns as one of all unknowns (held ones rest)."""
    return np.concatenate([step, np.zeros(len(system.held))])[system.index]


def _moving_entities(layout: Layout, x: Array) -> list[str]:
    moving = {p for p, i in layout.point.items() if abs(x[i]) > STILL or abs(x[i + 1]) > STILL}
    out = []
    for e in layout.sketch.entities:
        own = e.id in layout.radius and abs(x[layout.radius[e.id]]) > STILL
        if own or e.id in moving or any(p in moving for p in e.points):
            out.append(e.id)
    return out


def _movement(system: System, step: Array) -> Movement:
    x = _spread(system, step)
    entities = _moving_entities(system.layout, x)
    return Movement(x, tuple(entities), _words(system.layout, x, entities))


def _words(layout: Layout, x: Array, entities: list[str]) -> str:
    """What a movement is: a shift, a turn, a growing radius, or a change of shape."""
    sketch = layout.sketch
    names = [n for n in entities if not isinstance(sketch.by_id[n], Point)] or entities
    who = ", ".join(names[:4]) + (f" and {len(names) - 4} more" if len(names) > 4 else "")
    points = [p for p, i in layout.point.items() if abs(x[i]) > STILL or abs(x[i + 1]) > STILL]
    if not points:
        return f"the size of {who} is free"
    go = np.array([complex(x[layout.point[p]], x[layout.point[p] + 1]) for p in points])
    if np.abs(go - go[0]).max() < LINEAR:
        way = go[0]
        name = "in x" if abs(way.imag) < LINEAR else "in y" if abs(way.real) < LINEAR else "aslant"
        return f"{who} can shift {name}"
    at = np.array([complex(*sketch.at(p)) for p in points])
    spin = np.linalg.lstsq(np.column_stack([np.r_[-at.imag, at.real], np.r_[np.ones(len(at)), np.zeros(len(at))],
                                            np.r_[np.zeros(len(at)), np.ones(len(at))]]), np.r_[go.real, go.imag],
                           rcond=None)[0]  # fmt: skip
    fitted = 1j * spin[0] * at + complex(spin[1], spin[2])
    if abs(spin[0]) > ROUNDING and np.abs(fitted - go).max() < LINEAR:
        centre = 1j * complex(spin[1], spin[2]) / spin[0]
        x, y = (round(v, 3) + 0.0 for v in (centre.real, centre.imag))
        return f"{who} can turn about ({x:g}, {y:g})"
    if np.abs(go.imag).max() < LINEAR:
        return f"{who} can stretch in x"
    if np.abs(go.real).max() < LINEAR:
        return f"{who} can stretch in y"
    return f"{who} can change shape"


def redundancies(sketch: Sketch, values: Mapping[str, float], x: Array) -> tuple[Redundancy, ...]:
    """Constraints that say again, consistently, what earlier ones say; at the solution ``x``."""
    layout = Layout(sketch)
    order = {c.id: i + 1 for i, c in enumerate(sketch.constraints)} | {INTRINSIC: 0}
    system = System(sketch, level=0, layout=layout, made=rows(sketch, layout))
    system.set_values(values)
    j = _sparse_scaled(system, system.reduce(x))
    # clusters of rows that share unknowns: dependence stays within one
    _, label = csgraph.connected_components(j @ j.T, directed=False)
    out: dict[str, Redundancy] = {}
    dependent: list[str] = []
    for cluster in np.unique(label):
        members = np.flatnonzero(label == cluster)
        part = j[members]
        dense = part[:, np.unique(part.indices)].toarray()
        left = null_space(dense.T)
        if left.shape[1] == 0:
            continue
        concerned = members[(np.abs(left) > 1e-7).any(axis=1)]
        concerned = concerned[np.argsort([order[system.owners[i]] for i in concerned], kind="stable")]
        dependent += _gram_schmidt(j, concerned, system.owners, out)
    many = Counter(system.owners)
    again = Counter(dependent)
    return tuple(replace(r, whole=again[r.constraint] == many[r.constraint]) for r in out.values())


def _gram_schmidt(j: sp.csr_matrix, concerned: Array, owners: list[str], out: dict[str, Redundancy]) -> list[str]:
    """Finds dependent rows in the user's order; returns whose they are, one entry a row."""
    dependent: list[str] = []
    part = j[concerned]
    dense = part[:, np.unique(part.indices)].toarray() if part.nnz else np.zeros((len(concerned), 1))
    basis = np.zeros((0, dense.shape[1]))
    kept: list[int] = []
    for k, row in enumerate(dense):
        rest = row - basis.T @ (basis @ row)
        rest -= basis.T @ (basis @ rest)
        if np.linalg.norm(rest) > RANK_TOLERANCE:
            basis = np.vstack([basis, rest / np.linalg.norm(rest)])
            kept.append(k)
            continue
        name = owners[concerned[k]]
        if name == INTRINSIC:
            continue
        dependent.append(name)
        said: list[str] = []
        if kept and np.linalg.norm(row) > 0:
            mix = np.linalg.lstsq(dense[kept].T, row, rcond=None)[0]
            said = [owners[concerned[i]] for i, m in zip(kept, mix, strict=True) if abs(m) > LINEAR]
        says = tuple(dict.fromkeys(n for n in said if n not in (INTRINSIC, name)))
        before = out.get(name)
        out[name] = Redundancy(name, tuple(dict.fromkeys((*(before.says if before else ()), *says))))
    return dependent
