"""A relation as equations between features of two members.

Each equation is a kind of residual (``residuals``) on places and directions that are fixed in bodies. All residuals are
in mm: an angle counts as the arc that it makes at the fit's own size. Which equations a relation makes of which two
features is one table of functions, by the relation's kind; what a relation cannot hold on to is an error that says
what it can.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

import numpy as np

from lathed_solid.fit.document import Drive, Kind, Relation
from lathed_solid.fit.errors import FitError
from lathed_solid.fit.features import Feature
from lathed_solid.fit.placement import Array, square_to
from lathed_solid.quantity.tolerances import LINEAR

Way = Literal["parallel", "along", "plane", "point", "square", "turned", "between", "axis", "reach", "screw", "gear"]


@dataclass(frozen=True, slots=True)
class Equation:
    """``a`` and ``b`` (and ``base`` of gears) are members; the vectors stand in their own frames.

    ``p``: a place on a, ``d`` a direction of a; ``q`` a place on b, ``e`` a direction of b, ``u`` square to it.
    ``value``: mm or rad; ``rate``: the lead of a screw, mm a turn; ``teeth``: its starts, or those of
    two gears.
    """

    owner: int
    way: Way
    a: str
    b: str
    p: Array
    d: Array
    q: Array
    e: Array
    u: Array
    value: float = 0.0
    rate: float = 0.0
    teeth: tuple[int, int] = (1, 1)


@dataclass(frozen=True, slots=True)
class Pair:
    """A relation with its features looked up, and its size in mm, rad or as a ratio (None where it has none)."""

    relation: Relation
    a: Feature
    b: Feature
    size: float | None

    def equation(self, way: Way, value: float = 0.0, *, sign: float = 1.0, **more: object) -> Equation:
        """One equation between the two; ``sign`` -1: the directions run against each other."""
        r = self.relation
        assert r.b is not None
        fields: dict[str, object] = {
            "p": np.array(self.a.origin, float), "d": sign * np.array(self.a.direction, float),
            "q": np.array(self.b.origin, float), "e": np.array(self.b.direction, float),
            "u": np.array(self.b.x, float),
        } | more  # fmt: skip
        return Equation(r.number, way, r.a.member, r.b.member, value=value, **fields)  # type: ignore[arg-type]

    @property
    def sense(self) -> float:
        """1: the directions run the same way; -1: against each other."""
        return -1.0 if self.relation.flip else 1.0

    def swapped(self) -> Pair:
        """The same with a and b exchanged."""
        r = self.relation
        assert r.b is not None
        return Pair(r.model_copy(update={"a": r.b, "b": r.a}), self.b, self.a, self.size)

    def refuse(self, rule: str) -> FitError:
        """The error for two things that this relation cannot join."""
        return FitError(
            f"{self.relation.kind} does not join a {self.a.words} and a {self.b.words}",
            where=f"relation {self.relation.number}", rule=rule,
        )  # fmt: skip


def equations(pair: Pair) -> tuple[Equation, ...]:
    """What a relation asks. Raises FitError where it cannot join its two features, or its size is impossible."""
    return tuple(_TABLE[pair.relation.kind](pair))


def _share(pair: Pair) -> list[Equation]:
    a, b = pair.a, pair.b
    if a.axial and b.axial:
        return [pair.equation("parallel", sign=pair.sense), pair.equation("along")]
    if a.placed and b.axial:
        return [pair.equation("along")]
    if a.axial and b.placed:
        return [pair.swapped().equation("along")]
    raise pair.refuse("an axis, a round, tapered or spherical face, or a round edge, and another")


def _touch(pair: Pair) -> list[Equation]:
    """Flat to flat; what is round touches as *on* has it."""
    if pair.a.kind == pair.b.kind == "flat":
        return _faced(pair, -pair.sense, 0.0)
    return _on(pair)


def _level(pair: Pair) -> list[Equation]:
    if pair.a.kind == pair.b.kind == "flat":
        return _faced(pair, pair.sense, 0.0)
    raise pair.refuse("two flat faces or planes")


def _faced(pair: Pair, sign: float, distance: float) -> list[Equation]:
    return [pair.equation("parallel", sign=sign), pair.equation("plane", distance)]


def _gap(pair: Pair) -> list[Equation]:
    a, b, size = pair.a, pair.b, _size(pair)
    if a.kind == b.kind == "flat":
        return _faced(pair, -pair.sense, size)
    if a.placed and b.kind == "flat":
        return [pair.equation("plane", size)]
    if a.axial and b.kind == "flat":
        return [pair.equation("square"), pair.equation("plane", size)]
    if a.kind == "flat":
        return _gap(pair.swapped())
    if a.axial and b.axial:
        return [pair.equation("parallel", sign=pair.sense), pair.equation("axis", _far(pair, size))]
    if a.placed and b.axial:
        return [pair.equation("axis", _far(pair, size))]
    if a.axial and b.placed:
        return _gap(pair.swapped())
    return [pair.equation("reach", _far(pair, size))]


def _far(pair: Pair, size: float) -> float:
    if size < LINEAR:
        raise FitError(
            "a distance of nothing between axes or points", where=f"relation {pair.relation.number}", received=size,
            rule="it is more than zero", hint="share an axis, or on",
        )  # fmt: skip
    return size


def _size(pair: Pair) -> float:
    if pair.size is None:
        raise FitError(f"{pair.relation.kind} needs a size", where=f"relation {pair.relation.number}")
    return pair.size


def _angle(pair: Pair) -> list[Equation]:
    if not (_directed(pair.a) and _directed(pair.b)):
        raise pair.refuse("flat faces, planes, axes and round faces")
    size = _size(pair)
    if pair.a.kind != pair.b.kind and "flat" in (pair.a.kind, pair.b.kind):
        size = math.pi / 2 - size  # between an axis and a flat: from the flat, not from its normal
    about = pair.relation.about
    if about is None:
        if not 0 < size < math.pi:
            raise FitError(
                "an angle that says no direction", where=f"relation {pair.relation.number}",
                received=math.degrees(size),
                rule="more than 0 and less than 180 degrees", hint="parallel, with the other side or without",
            )  # fmt: skip
        return [pair.equation("between", size, sign=pair.sense)]
    axis = np.array(about, float)
    axis /= np.linalg.norm(axis)
    start = np.array(pair.b.direction, float)
    start -= axis * float(start @ axis)
    return [pair.equation("turned", size, sign=pair.sense, e=axis, u=start / np.linalg.norm(start))]


def _directed(it: Feature) -> bool:
    return it.axial or it.kind == "flat"


def _parallel(pair: Pair) -> list[Equation]:
    if not (_directed(pair.a) and _directed(pair.b)):
        raise pair.refuse("flat faces, planes, axes and round faces")
    if (pair.a.kind == "flat") != (pair.b.kind == "flat"):
        return [pair.equation("square")]
    return [pair.equation("parallel", sign=pair.sense)]


def _square(pair: Pair) -> list[Equation]:
    if not (_directed(pair.a) and _directed(pair.b)):
        raise pair.refuse("flat faces, planes, axes and round faces")
    if (pair.a.kind == "flat") != (pair.b.kind == "flat"):
        return [pair.equation("parallel", sign=pair.sense)]
    return [pair.equation("square")]


def _on(pair: Pair) -> list[Equation]:
    """A point, a sphere or a round face on whatever there is; the second is what it lies on, or the first is."""
    for p in (pair, pair.swapped()):
        found = _lying(p)
        if found is not None:
            return found
    raise pair.refuse("a point, sphere or round face on a flat, round or spherical one, an axis or a point")


def _lying(pair: Pair) -> list[Equation] | None:
    a, b = pair.a, pair.b
    out = -1.0 if pair.relation.flip else 1.0
    if a.kind in ("point", "rim", "ball") and b.kind == "flat":
        return [pair.equation("plane", out * a.radius if a.kind == "ball" else 0.0)]
    if a.kind == "round" and b.kind == "flat":
        return [pair.equation("square"), pair.equation("plane", out * a.radius)]
    if a.kind == "round" and b.kind == "round":
        return [pair.equation("parallel", sign=pair.sense), pair.equation("axis", _apart(a, b, pair))]
    if a.kind == "ball" and b.kind == "round":
        return [pair.equation("axis", _apart(a, b, pair))]
    if a.kind == "ball" and b.kind == "ball":
        return [pair.equation("reach", _apart(a, b, pair))]
    if a.kind in ("point", "rim"):
        if b.kind == "round":
            return [pair.equation("axis", b.radius)]
        if b.kind == "line":
            return [pair.equation("along")]
        if b.kind == "ball":
            return [pair.equation("reach", b.radius)]
        if b.kind in ("point", "rim"):
            return [pair.equation("point")]
    return None


def _apart(a: Feature, b: Feature, pair: Pair) -> float:
    """How far the axes of two round things are that touch: side by side, or one within the other."""
    inside = a.hollow or b.hollow
    far = abs(a.radius - b.radius) if inside else a.radius + b.radius
    if far < LINEAR:
        raise pair.refuse("one in the other, they touch all round: share an axis")
    return far


def _tapered(pair: Pair) -> list[Equation]:
    a, b = pair.a, pair.b
    if not a.kind == b.kind == "cone":
        raise pair.refuse("two tapered faces")
    if abs(abs(a.half_angle) - abs(b.half_angle)) > 1e-4:
        both = " and ".join(f"{2 * math.degrees(abs(c.half_angle)):.4g}°" for c in (a, b))
        raise pair.refuse(f"both of one included angle (they have {both})")
    # the tips fall on one another, and the tapers widen the same way
    sign = 1.0 if a.half_angle * b.half_angle > 0 else -1.0
    return [pair.equation("parallel", sign=sign), pair.equation("along"),
            pair.equation("plane", p=_tip(a), q=_tip(b))]  # fmt: skip


def _tip(cone: Feature) -> Array:
    return np.array(cone.origin) - np.array(cone.direction) * (cone.radius / math.tan(cone.half_angle))


def _screwed(pair: Pair) -> list[Equation]:
    a, b = pair.a, pair.b
    if a.helix is None or b.helix is None:
        raise pair.refuse("two round faces that carry threads")
    if abs(abs(a.helix.pitch) - abs(b.helix.pitch)) > LINEAR:
        raise pair.refuse(f"one pitch (they have {abs(a.helix.pitch):.4g} and {abs(b.helix.pitch):.4g})")
    if abs(a.helix.lead - b.helix.lead) > LINEAR:
        raise pair.refuse("one hand and one number of starts")
    lead = b.helix.lead
    meshed = a.helix.phase is not None and b.helix.phase is not None
    # a crest of one stands in a groove of the other, half a pitch from its crest
    phase = (b.helix.phase or 0.0) - pair.sense * (a.helix.phase or 0.0) + (abs(b.helix.pitch) / 2 if meshed else 0.0)
    phase += pair.size or 0.0
    starts = max(round(abs(lead / b.helix.pitch)), 1)
    return [pair.equation("parallel", sign=pair.sense), pair.equation("along"),
            pair.equation("screw", phase, d=np.array(a.x, float), rate=lead, teeth=(starts, 1))]  # fmt: skip


def _geared(pair: Pair) -> list[Equation]:
    a, b = pair.a, pair.b
    if not (a.axial and b.axial):
        raise pair.refuse("two axes, round or tapered faces")
    ratio = Fraction(_size(pair)).limit_denominator(1000)
    if ratio <= 0 or ratio.numerator > 1000:
        raise FitError(
            "an impossible ratio of gears", where=f"relation {pair.relation.number}", received=float(ratio),
            rule="the teeth of the first over those of the second, each 1 to 1000", hint="17/52",
        )  # fmt: skip
    return [pair.equation("gear", d=np.array(a.x, float), e=np.array(b.direction, float),
                          p=pair.sense * np.array(a.direction, float), u=np.array(b.x, float),
                          teeth=(ratio.numerator, ratio.denominator))]  # fmt: skip


def _held(_pair: Pair) -> list[Equation]:
    return []  # the two are one body


_TABLE: Mapping[Kind, Callable[[Pair], Sequence[Equation]]] = {
    "share an axis": _share, "touch": _touch, "level": _level, "gap": _gap, "angle": _angle, "parallel": _parallel,
    "square": _square, "on": _on, "in its taper": _tapered, "screwed": _screwed, "geared": _geared, "held": _held,
}  # fmt: skip


#: the owner of a driven freedom's equation: below zero, so that no relation has it
def drive_owner(index: int) -> int:
    """The owner of the equation of the driven freedom at ``index``."""
    return -1 - index


def drive_equation(drive: Drive, index: int) -> Equation:
    """The one equation of a driven freedom."""
    e, u = np.array(drive.direction, float), np.array(drive.zero, float)
    mark, origin = np.array(drive.mark, float), np.array(drive.origin, float)
    if drive.kind == "turn":
        return Equation(drive_owner(index), "turned", drive.member, drive.base, origin, mark, origin, e, u, drive.value)
    return Equation(drive_owner(index), "plane", drive.member, drive.base, mark, e, origin, e, u, drive.value)


def possible(a: Feature, b: Feature) -> tuple[Kind, ...]:
    """The relations that two features allow, the likeliest first."""
    from lathed_solid.fit.document import Ref

    first = Relation(number=1, kind="held", a=Ref(member="a", feature="a"), b=Ref(member="b", feature="b"))
    order: tuple[Kind, ...] = ("in its taper", "screwed", "share an axis", "touch", "on", "level", "gap", "angle",
                               "parallel", "square", "geared", "held")  # fmt: skip
    found = []
    for kind in order:
        if kind == "touch" and not a.kind == b.kind == "flat":
            continue  # the same as *on*
        try:
            equations(Pair(first.model_copy(update={"kind": kind}), a, b, 1.0))
        except FitError:
            continue
        found.append(kind)
    return tuple(found)


def turned_axis(direction: Array) -> Array:
    """A direction square to another, to count turns from."""
    return square_to(direction)[0]
