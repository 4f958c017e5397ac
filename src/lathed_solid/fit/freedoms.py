"""What is free, in words and as motion: the null space of the relations, told by the axes that a person sees.

Bodies that are joined other than through the room make a cluster; each cluster's null space is taken by singular
values, its rows made of one length. Then motions that have a name are tried on each body - about the axes that its
relations hold on to, along them, in its flats, about the room's directions - and each that the null space allows, and
that those before do not add up to, is a freedom; the others move with it as little as they can (least norm).
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from typing import Literal

import numpy as np

from lathed_solid.fit.assemble import Assembled
from lathed_solid.fit.document import Drive, Ref
from lathed_solid.fit.equations import Pair
from lathed_solid.fit.features import Feature
from lathed_solid.fit.placement import Array, square_to
from lathed_solid.fit.solve import Solution
from lathed_solid.fit.system import Poses
from lathed_solid.quantity.tolerances import NOTHING

#: singular values below this, of rows of length one, are none
RANK = 1e-6
#: a cluster of more unknowns is narrowed down to what its rows map to less than this first
SMALL, NARROWED = 240, 1e-4
#: a motion is allowed when so little of it is not
ALLOWED = 1e-5

Motion = Literal["turn", "slide", "screw"]


@dataclass(frozen=True)
class Freedom:
    """One way to move. ``origin`` and ``direction`` of its axis in the room, mm; a screw advances ``pitch`` mm a turn.

    ``motion``: of every body (n, 6) its shift (mm) and turn (rad) for one rad, or one mm of a slide. ``others`` move
    along. ``base``: the member that it is told by, empty for the room.
    """

    member: str
    kind: Motion
    words: str
    origin: tuple[float, float, float]
    direction: tuple[float, float, float]
    base: str = ""
    pitch: float = 0.0
    others: tuple[str, ...] = ()
    motion: Array = field(repr=False, compare=False, default_factory=lambda: np.zeros((0, 6)))

    @property
    def twist(self) -> Array:
        """The member's own motion (6,): the shift of the room's origin as if it were on it, and the turn."""
        d, at = np.array(self.direction), np.array(self.origin)
        if self.kind == "slide":
            return np.concatenate([d, np.zeros(3)])
        return np.concatenate([np.cross(at, d) + d * self.pitch / (2 * np.pi), d])


@dataclass(frozen=True, slots=True)
class _Named:
    kind: Motion
    origin: Array
    direction: Array
    words: str
    base: str = ""
    pitch: float = 0.0


def freedoms(found: Assembled, solution: Solution) -> tuple[Freedom, ...]:
    """All freedoms of a solved fit, cluster by cluster."""
    out: list[Freedom] = []
    pairs = _pairs_by_body(found)
    for bodies in clusters(found):
        space = null_space(found, solution, bodies)
        if space.shape[1]:
            out += _told(found, solution, bodies, space, pairs)
    order = {name: i for i, name in enumerate(found.fit.by_name)}
    return tuple(sorted(out, key=lambda f: order[f.member])) if found.system.n else ()


def clusters(found: Assembled) -> list[Array]:
    """Bodies (without the room) that are joined with one another, each as an array of their numbers."""
    import scipy.sparse as sp
    from scipy.sparse import csgraph

    sides = found.system.sides
    both = sides[(sides > 0).all(axis=1)]
    count = found.system.count
    graph = sp.coo_matrix((np.ones(len(both)), (both[:, 0], both[:, 1])), shape=(count, count))
    _, label = csgraph.connected_components(graph, directed=False)
    groups: dict[int, list[int]] = {}
    for body in range(1, count):
        groups.setdefault(int(label[body]), []).append(body)
    return [np.array(g, np.intp) for g in groups.values()]


def null_space(found: Assembled, solution: Solution, bodies: Array) -> Array:
    """Motions (6 k, c) of a cluster of k bodies that no relation forbids, orthonormal, by bodies; in mm throughout."""
    system = found.system
    place = np.full(system.count, -1)
    place[bodies] = np.arange(len(bodies))
    rows = np.flatnonzero((place[system.sides] >= 0).any(axis=1))
    full = np.zeros((len(rows), 6 * (len(bodies) + 1)))
    for side in (0, 1):
        at = place[system.sides[rows, side]]
        at = np.where(at < 0, len(bodies), at)  # the room
        for k in range(6):
            np.add.at(full, (np.arange(len(rows)), 6 * at + k), solution.slopes[rows, side, k])
    full = full[:, :-6]
    if not len(rows):
        return np.eye(full.shape[1])
    length = np.linalg.norm(full, axis=1)
    full = full[length > NOTHING] / length[length > NOTHING][:, None]
    within = _nearly_null(full)
    _, values, right = np.linalg.svd(full @ within, full_matrices=True)
    rank = int((values > RANK).sum())
    space: Array = within @ right[rank:].T
    return space


def _nearly_null(rows: Array) -> Array:
    """Directions (n, c) that hold all which ``rows`` of length one (m, n) map to almost nothing, orthonormal.

    All of them where there are few; else by eigenvalues of the normal matrix, a third of the time: their error, of the
    square root of the machine's, is why they are only narrowed down here and not told.
    """
    if rows.shape[1] <= SMALL:
        return np.eye(rows.shape[1])
    values, vectors = np.linalg.eigh(rows.T @ rows)
    found: Array = vectors[:, values < NARROWED**2]
    return found


def _told(found: Assembled, solution: Solution, bodies: Array, space: Array, holds: Mapping[int, list[Pair]]
          ) -> Iterator[Freedom]:  # fmt: skip
    reach, poses = found.system.reach, solution.poses
    middles = poses.at + np.einsum("nij,nj->ni", poses.turn, found.system.middle)
    told = np.zeros((space.shape[1], 0))
    for k, body in enumerate(bodies):
        own = space[6 * k : 6 * k + 6]
        if np.abs(own).max() < ALLOWED:
            continue
        inverse = np.linalg.pinv(own, rcond=RANK)
        for named in _named(found, solution, int(body), holds.get(int(body), [])):
            wanted = _step(named, middles[body], reach[body])
            share = inverse @ wanted
            if np.abs(own @ share - wanted).max() > ALLOWED * np.abs(wanted).max():
                continue
            rest = share - told @ (told.T @ share)
            if np.linalg.norm(rest) < 1e-3 * np.linalg.norm(share):
                continue
            told = np.column_stack([told, rest / np.linalg.norm(rest)])
            yield _freedom(found, named, int(body), bodies, space @ share)
            if told.shape[1] == space.shape[1]:
                return
    # what no name fits: the rest as it is, told as a screw of the body that moves most
    left = np.linalg.svd(told, full_matrices=True)[0][:, told.shape[1] :] if told.shape[1] else np.eye(space.shape[1])
    for share in left.T:
        motion = (space @ share).reshape(-1, 6)
        k = int(np.argmax(np.linalg.norm(motion, axis=1)))
        named = _as_screw(motion[k], middles[bodies[k]], reach[bodies[k]])
        scale = np.linalg.norm(_step(named, middles[bodies[k]], reach[bodies[k]])) / np.linalg.norm(motion[k])
        yield _freedom(found, named, int(bodies[k]), bodies, motion.ravel() * scale)


def _step(named: _Named, middle: Array, reach: float) -> Array:
    """A motion as the system's unknowns (6,): the middle's shift, and the turn by the body's reach."""
    if named.kind == "slide":
        return np.concatenate([named.direction, np.zeros(3)])
    along = named.direction * (named.pitch / (2 * np.pi))
    return np.concatenate([np.cross(named.direction, middle - named.origin) + along, named.direction * reach])


def _as_screw(motion: Array, middle: Array, reach: float) -> _Named:
    shift, turn = motion[:3], motion[3:] / reach
    rate = float(np.linalg.norm(turn))
    if rate * reach < ALLOWED * float(np.linalg.norm(shift)):
        d = shift / np.linalg.norm(shift)
        return _Named("slide", middle, d, f"slides along {_way(d)}")
    d = turn / rate
    origin = middle + np.cross(d, shift) / rate
    pitch = float(shift @ d) / rate * 2 * np.pi
    words = (
        f"turns about an axis along {_way(d)}" if abs(pitch) < ALLOWED * reach else f"moves along {_way(d)}, turning"
    )
    return _Named("turn" if abs(pitch) < ALLOWED * reach else "screw", origin, d, words, pitch=pitch)


def _way(d: Array) -> str:
    """A direction of the room in words."""
    for k, name in enumerate("XYZ"):
        if abs(abs(d[k]) - 1) < 1e-6:
            return name
    return f"({d[0]:.3g}, {d[1]:.3g}, {d[2]:.3g})"


def _pairs_by_body(found: Assembled) -> dict[int, list[Pair]]:
    """The relations of each body to others."""
    out: dict[int, list[Pair]] = {}
    for pair in found.pairs.values():
        r = pair.relation
        if r.b is not None:
            sides = {found.body_of[ref.member][0] for ref in (r.a, r.b)}
            if len(sides) == 2:
                for body in sides:
                    out.setdefault(body, []).append(pair)
    return out


def _named(found: Assembled, solution: Solution, body: int, pairs: list[Pair]) -> Iterator[_Named]:
    """Motions of a body that have a name, the likeliest first."""
    poses = solution.poses
    lines: list[tuple[Array, Array, Ref, Feature, str, Pair]] = []
    flats: list[tuple[Array, Array, Ref, Feature, str, Pair]] = []
    for pair in pairs:
        r = pair.relation
        assert r.b is not None
        for ref, it in ((r.b, pair.b), (r.a, pair.a)):
            there = found.body_of[ref.member]
            (flats if it.kind == "flat" else lines).append((*_in_room(it, there, poses), ref, it, r.kind, pair))
    lines.sort(key=lambda x: found.body_of[x[2].member][0] == body)  # rather by the other's axis than by one's own
    for origin, d, ref, it, kind, pair in lines:
        base = ref.member if found.body_of[ref.member][0] != body else ""
        whose = f"{ref.member}'s {it.words}" if base else f"its own {it.words}"
        if kind == "screwed":
            lead = pair.b.helix.lead if pair.b.helix is not None else 0.0
            yield _Named("screw", origin, d, f"screws along {whose}, {abs(lead):.4g} a turn", base, lead)
        yield _Named("turn", origin, d, f"turns about {whose}", base)
        yield _Named("slide", origin, d, f"slides along {whose}", base)
    for origin, d, ref, _, _, _ in flats:
        base = ref.member if found.body_of[ref.member][0] != body else ""
        whose = f"{ref.member}'s {ref.feature}" if base else f"its own {ref.feature}"
        for way in _across(d):
            yield _Named("slide", origin, way, f"slides on {whose}, along {_way(way)}", base)
        yield _Named("turn", origin, d, f"turns on {whose}", base)
    middle = poses.at[body] + poses.turn[body] @ found.system.middle[body]
    for k in range(3):
        way = np.eye(3)[k]
        yield _Named("slide", middle, way, f"slides along {_way(way)}")
    for k in range(3):
        way = np.eye(3)[k]
        yield _Named("turn", middle, way, f"turns about {_way(way)}")


def _across(normal: Array) -> list[Array]:
    """Two directions in a flat, along the room's where they lie in it."""
    level = [np.eye(3)[k] for k in range(3) if abs(normal[k]) < 1e-9]
    return level[:2] if len(level) >= 2 else [*level, *([np.cross(normal, level[0])] if level else square_to(normal))]


def _in_room(it: Feature, there: tuple[int, Array, Array], poses: Poses) -> tuple[Array, Array]:
    body, turn, at = there
    r, t = poses.turn[body], poses.at[body]
    return r @ (turn @ np.array(it.origin) + at) + t, r @ (turn @ np.array(it.direction))


def _freedom(found: Assembled, named: _Named, body: int, bodies: Array, motion: Array) -> Freedom:
    whole = np.zeros((found.system.count, 6))
    whole[bodies] = motion.reshape(-1, 6)
    whole[:, 3:] /= found.system.reach[:, None]
    moving = np.linalg.norm(whole, axis=1) > 1e-6 * max(float(np.linalg.norm(whole[body])), NOTHING)
    others = tuple(found.members[b][0] for b in bodies if b != body and moving[b])
    return Freedom(
        found.members[body][0], named.kind, named.words, tuple(map(float, named.origin)),  # type: ignore[arg-type]
        tuple(map(float, named.direction)), named.base, named.pitch, others, whole,  # type: ignore[arg-type]
    )  # fmt: skip


def drive_of(found: Assembled, solution: Solution, freedom: Freedom) -> Drive:
    """The drive that sets a freedom by a number: zero is how things stand in ``solution``."""
    placements = found.placements(solution.poses)
    own = placements[freedom.member]
    base = placements.get(freedom.base)
    turn, at = (np.eye(3), np.zeros(3)) if base is None else (base.rotation, np.array(base.at))
    d, origin = np.array(freedom.direction), np.array(freedom.origin)
    zero = square_to(d)[0]
    kind: Literal["turn", "slide"] = "slide" if freedom.kind == "slide" else "turn"
    mark = own.rotation.T @ (zero if kind == "turn" else origin - np.array(own.at))

    def plain(v: Array) -> tuple[float, float, float]:
        return float(v[0]), float(v[1]), float(v[2])

    return Drive(
        member=freedom.member, base=freedom.base, kind=kind, origin=plain(turn.T @ (origin - at)),
        direction=plain(turn.T @ d), zero=plain(turn.T @ zero), mark=plain(mark), words=freedom.words,
    )  # fmt: skip
