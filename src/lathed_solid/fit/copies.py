"""Members again: one at every place of a hole pattern, rings and rows.

*Every place* becomes members and relations of their own before anything is solved: the relations of the first that hold
on to one hole of a pattern are said again of each other hole, whatever their number. Rings and rows follow their
member after solving, turned or shifted about the axis of another: they have no freedoms of their own.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Mapping

import numpy as np

from lathed_solid.errors import LathedError
from lathed_solid.fit.assemble import PartFeatures
from lathed_solid.fit.document import MOST_MEMBERS, Copies, Fit, Member, Ref, Relation
from lathed_solid.fit.errors import FitError
from lathed_solid.fit.features import Feature, Features, feature
from lathed_solid.fit.placement import Array, Placement, placed, square_to, turn_about
from lathed_solid.fit.sizes import fit_number
from lathed_solid.quantity import Kind
from lathed_solid.quantity.tolerances import ANGULAR, LINEAR

_WRAP = re.compile(r"(\d+/(?:\d+|m|c))\(")
_HOLE = re.compile(r"^(\d+/h)(\d+)(\..+)$")


def place_of(name: str) -> tuple[str, str]:
    """What of a hole's name says which of the pattern it is, and the name without it: ``60/2(20/h1.wall)`` is place
    ``60/2(h1``, of ``20/h*.wall``.
    """
    wraps = ""
    while (found := _WRAP.match(name)) and name.endswith(")"):
        wraps += found[0]
        name = name[found.end() : -1]
    hole = _HOLE.match(name)
    return (f"{wraps}h{hole[2]}", f"{hole[1]}*{hole[3]}") if hole else (wraps, name)


def places_like(features: Features, name: str) -> list[str]:
    """Names of the same face of every hole of a pattern, that of ``name`` first."""
    _, bare = place_of(name)
    found = [n for n in features if "|" not in n and place_of(n)[1] == bare]
    return [name, *(n for n in found if n != name)]


def expanded(fit: Fit, features: PartFeatures) -> Fit:
    """The fit with a member at every place of each pattern. Raises FitError where a pattern is not there."""
    members, relations = list(fit.members), list(fit.relations)
    number = max((r.number for r in relations), default=0)
    for c in fit.copies:
        if c.kind != "every place":
            continue
        first = fit.by_name[c.member]
        own = [r for r in fit.relations if c.member in r.members]
        ref = pattern_of(own, c, fit, features)
        base = fit.by_name[ref.member]
        there = features[base.part]
        before = there[ref.feature]
        for k, name in enumerate(places_like(there, ref.feature)[1:], 2):
            label = copy_name(fit, c.member, k)
            shift = _shift(before, there[name], base.placement)
            members.append(first.model_copy(update={"name": label, "placement": _after(shift, first.placement),
                                                    "held": False}))  # fmt: skip
            for r in own:
                number += 1
                relations.append(_said_again(r, number, (c.member, label), shift, fit, features))
    if len(members) > MOST_MEMBERS:
        raise FitError("too many members", rule=f"at most {MOST_MEMBERS} with all copies", received=len(members))
    return fit.model_copy(update={"members": tuple(members), "relations": tuple(relations), "copies": tuple(
        c for c in fit.copies if c.kind != "every place")})  # fmt: skip


def pattern_of(own: list[Relation], c: Copies, fit: Fit, features: PartFeatures) -> Ref:
    """The hole that a member's relations hold on to. Raises FitError for none of a pattern."""
    for r in own:
        for ref in (r.a, r.b):
            if ref is None or ref.member == c.member:
                continue
            there = features.get(fit.by_name[ref.member].part, {})
            if ref.feature in there and place_of(ref.feature)[0] and len(places_like(there, ref.feature)) > 1:
                return ref
    raise FitError(
        f"{c.member} sits in no hole of a pattern", where=f"copies {c.number}",
        rule="one of its relations holds on to a hole of which there are several",
        hint="share an axis with a hole first",
    )  # fmt: skip


def copy_name(fit: Fit, member: str, k: int) -> str:
    """The name of the ``k``-th of several, the member itself being the first."""
    name = f"{member} ({k})"
    while name in fit.by_name:
        name += "'"
    return name


def _said_again(r: Relation, number: int, names: tuple[str, str], shift: Placement, fit: Fit, features: PartFeatures
                ) -> Relation:  # fmt: skip
    """A relation of the member ``names[0]`` said of its copy ``names[1]``, which stands ``shift`` from it."""

    def other(x: Ref | None) -> Ref | None:
        if x is None:
            return None
        if x.member == names[0]:
            return x.model_copy(update={"member": names[1]})
        base = fit.by_name[x.member]
        there = features.get(base.part, {})
        if not place_of(x.feature)[0] or x.feature not in there:
            return x
        return x.model_copy(update={"feature": _nearest(there, x.feature, base.placement, shift)})

    return r.model_copy(update={"number": number, "a": other(r.a), "b": other(r.b)})


def _nearest(there: Features, name: str, base: Placement, shift: Placement) -> str:
    """Of the same face of every hole of a pattern the one that lies where the shifted first would lie."""
    r, t = base.rotation, np.array(base.at)
    wanted = shift.rotation @ (r @ np.array(there[name].origin) + t) + np.array(shift.at)
    away = {n: float(np.linalg.norm(r @ np.array(there[n].origin) + t - wanted)) for n in places_like(there, name)}
    return min(away, key=away.__getitem__)


def _shift(before: Feature, after: Feature, base: Placement) -> Placement:
    """The motion of the room that brings one hole onto another."""
    r, t = base.rotation, np.array(base.at)
    d0, d1 = (r @ np.array(f.direction) for f in (before, after))
    axis, along = np.cross(d0, d1), float(d0 @ d1)
    if np.linalg.norm(axis) > ANGULAR:
        turn = turn_about(axis, math.atan2(float(np.linalg.norm(axis)), along))
    else:
        turn = np.eye(3) if along > 0 else turn_about(square_to(d0)[0], math.pi)
    p0, p1 = (r @ np.array(f.origin) + t for f in (before, after))
    return placed(turn, p1 - turn @ p0)


def _after(motion: Placement, placement: Placement) -> Placement:
    return placed(motion.rotation @ placement.rotation, motion.rotation @ np.array(placement.at) + np.array(motion.at))


def followers(fit: Fit, features: PartFeatures, placements: Mapping[str, Placement]) -> Iterator[Member]:
    """The members of rings and rows beside the first, where they stand. Raises FitError for an impossible one."""
    for c in fit.copies:
        if c.kind == "every place":
            continue
        if c.about is None:
            raise FitError("copies along no axis", where=f"copies {c.number}", hint="pick an axis of another member")
        first, base = fit.by_name[c.member], fit.by_name[c.about.member]
        axis = feature(features.get(base.part, {}), c.about.feature, f"copies {c.number}")
        if not (axis.kind == "flat" or (axis.axial and c.kind != "mirror")):
            needed = "flat" if c.kind == "mirror" else "axis"
            raise FitError(f"a {axis.words} is no {needed}", where=f"copies {c.number}")
        where = placements[base.name]
        d = where.rotation @ np.array(axis.direction)
        at = where.rotation @ np.array(axis.origin) + np.array(where.at)
        for k in range(1, 2 if c.kind == "mirror" else c.count):
            if c.kind == "mirror":
                placement = _mirrored(placements[c.member], at, d)
                name = copy_name(fit, c.member, 2)
                yield first.model_copy(update={"name": name, "held": False, "placement": placement})
                continue
            if c.kind == "ring":
                turn = turn_about(d, _angle(fit, c) * k)
                motion = placed(turn, at - turn @ at)
            else:
                motion = placed(np.eye(3), d * _step(fit, c) * k)
            yield first.model_copy(update={"name": copy_name(fit, c.member, k + 1), "held": False,
                                           "placement": _after(motion, placements[c.member])})  # fmt: skip


def _mirrored(placement: Placement, at: Array, normal: Array) -> Placement:
    """The placement mirrored in a plane, after the part was mirrored in its own ZX plane: together a turn."""
    mirror = np.eye(3) - 2 * np.outer(normal, normal)
    turn = mirror @ placement.rotation @ np.diag([1.0, -1.0, 1.0])
    return placed(turn, mirror @ (np.array(placement.at) - at) + at)


def _angle(fit: Fit, c: Copies) -> float:
    if not c.angle.strip():
        return 2 * math.pi / c.count
    return _size(c, c.angle, "angle", fit)


def _step(fit: Fit, c: Copies) -> float:
    found = _size(c, c.size or "0", "length", fit)
    if abs(found) < LINEAR:
        raise FitError("a row that goes nowhere", where=f"copies {c.number}", received=c.size, hint="its distance, mm")
    return found


def _size(c: Copies, text: str, kind: Kind, fit: Fit) -> float:
    try:
        return fit_number(fit, text, kind)
    except LathedError as exc:
        raise exc.at(f"copies {c.number}") from None
