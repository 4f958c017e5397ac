"""From a fit and the features of its parts to a system of equations.

Members that are held together, by relations or in the room, become one body. A relation whose face is gone, or
that cannot join what it holds on to, is left out and told.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field

import numpy as np

from lathed_solid.errors import LathedError
from lathed_solid.fit.document import Fit, Relation
from lathed_solid.fit.equations import Equation, Pair, drive_equation, drive_owner, equations
from lathed_solid.fit.features import Feature, Features, feature
from lathed_solid.fit.placement import Array, Placement, placed
from lathed_solid.fit.sizes import size_of
from lathed_solid.fit.system import Poses, System

#: the features of a part, by its name
PartFeatures = Mapping[str, Features]


@dataclass(frozen=True)
class Assembled:
    """``body_of``: of each member its body, and its turn and place in the body. ``lost``: relations left out."""

    fit: Fit
    system: System = field(repr=False)
    body_of: Mapping[str, tuple[int, Array, Array]] = field(repr=False)
    pairs: Mapping[int, Pair] = field(repr=False)
    lost: Mapping[int, LathedError]
    #: names of the members of each body; of the room those held in it
    members: tuple[tuple[str, ...], ...] = ()

    def placements(self, poses: Poses) -> dict[str, Placement]:
        """Where every member stands."""
        out = {}
        for name, (body, turn, at) in self.body_of.items():
            if name:
                out[name] = placed(poses.turn[body] @ turn, poses.turn[body] @ at + poses.at[body])
        return out

    def poses(self, placements: Mapping[str, Placement]) -> Poses:
        """Poses of the bodies from where their first members stand."""
        turn, at = np.tile(np.eye(3), (len(self.members), 1, 1)), np.zeros((len(self.members), 3))
        for body, names in enumerate(self.members):
            if body:
                _, own, there = self.body_of[names[0]]
                turn[body] = placements[names[0]].rotation @ own.T
                at[body] = np.array(placements[names[0]].at) - turn[body] @ there
        return Poses(turn, at)


def assemble(fit: Fit, features: PartFeatures, *, without: Iterable[int] = (), driven: bool = True) -> Assembled:
    """The system of a fit; ``without`` some owners (relations, and below zero driven freedoms), and without any
    driven freedom when not ``driven``.
    """
    left = frozenset(without)
    active = [r for r in fit.relations if not r.suspended and r.number not in left]
    bodies, members = _bodies(fit, active)
    made: list[Equation] = []
    pairs: dict[int, Pair] = {}
    lost: dict[int, LathedError] = {}
    for r in active:
        if r.b is None:
            continue
        try:
            pair = Pair(r, *_looked_up(fit, features, r), size_of(fit, r))
            found = equations(pair)
        except LathedError as exc:
            lost[r.number] = exc
            continue
        pairs[r.number] = pair
        # what is one body by other relations is asked all the same: it may contradict
        made += found
    if driven:
        made += [drive_equation(d, i) for i, d in enumerate(fit.drives) if drive_owner(i) not in left]
    start = Poses(np.tile(np.eye(3), (len(members), 1, 1)), np.zeros((len(members), 3)))
    for body, names in enumerate(members):
        if body:
            first = fit.by_name[names[0]].placement
            start.turn[body], start.at[body] = first.rotation, first.at
    system = System(made, bodies, len(members), start, _reaches(fit, features, members))
    return Assembled(fit, system, bodies, pairs, lost, tuple(members))


def _reaches(fit: Fit, features: PartFeatures, members: list[tuple[str, ...]]) -> Array:
    """How far each body reaches: half of what its parts' features span. A small part turns rather than a large one."""
    spans: dict[str, float] = {}
    for part in {m.part for m in fit.members}:
        places = np.array([f.origin for f in features.get(part, {}).values()]).reshape(-1, 3)
        spans[part] = float(np.ptp(places, axis=0).max()) / 2 if len(places) else 0.0
    return np.array([max((spans[fit.by_name[n].part] for n in names), default=0.0) for names in members])


def _looked_up(fit: Fit, features: PartFeatures, r: Relation) -> tuple[Feature, Feature]:
    assert r.b is not None
    if r.kind == "held":
        return Feature("point", (0.0, 0.0, 0.0)), Feature("point", (0.0, 0.0, 0.0))
    a, b = (feature(features.get(fit.by_name[x.member].part, {}), x.feature, f"relation {r.number}, {x.member}")
            for x in (r.a, r.b))  # fmt: skip
    return a, b


def _bodies(fit: Fit, active: Iterable[Relation]) -> tuple[dict[str, tuple[int, Array, Array]], list[tuple[str, ...]]]:
    """Members that are held together, as they stand, become one; those held in the room are the room."""
    leader: dict[str, str] = {m.name: "" if m.held else m.name for m in fit.members} | {"": ""}

    def root(name: str) -> str:
        while leader[name] != name:
            leader[name] = leader[leader[name]]
            name = leader[name]
        return name

    for r in active:
        if r.kind == "held":
            a, b = root(r.a.member), root(r.b.member if r.b is not None else "")
            first, second = sorted((a, b))  # the room is the empty name, and comes first
            leader[second] = first
    members: list[list[str]] = [[]]
    index = {"": 0}
    for m in fit.members:
        at = root(m.name)
        if at not in index:
            index[at] = len(members)
            members.append([])
        members[index[at]].append(m.name)
    out: dict[str, tuple[int, Array, Array]] = {"": (0, np.eye(3), np.zeros(3))}
    for body, names in enumerate(members):
        base = fit.by_name[names[0]].placement if body else Placement()
        turn, at_ = base.rotation, np.array(base.at)
        for name in names:
            own = fit.by_name[name].placement
            out[name] = (body, turn.T @ own.rotation, turn.T @ (np.array(own.at) - at_))
    return out, [tuple(names) for names in members]
