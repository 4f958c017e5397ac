"""A fit's parts built once each, and what the built solids say of it: features, masses, overlaps, clearances.

All is kept by the content of the parts, so that moving members builds nothing. The shapes of members share their
part's geometry; only their place differs.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

import numpy as np

from lathed_solid.engine.crew import shared_out
from lathed_solid.engine.masses import mass_figures
from lathed_solid.engine.prove import prove
from lathed_solid.engine.rebuild import Built, Engine
from lathed_solid.errors import LathedError
from lathed_solid.fit.document import Fit, PartSource
from lathed_solid.fit.features import Feature
from lathed_solid.fit.judged import Clearance, Overlap, PartMass
from lathed_solid.fit.solved import Solved, solved
from lathed_solid.kernel import contact
from lathed_solid.kernel.fit_features import fit_features
from lathed_solid.kernel.rays import Rays
from lathed_solid.kernel.thread_contact import Threaded, in_each_other
from lathed_solid.kernel.topology import from_bytes, to_bytes
from lathed_solid.kernel.vectors import Triple
from lathed_solid.part import Document
from lathed_solid.proof import Report
from lathed_solid.quantity.tolerances import LINEAR
from lathed_solid.standards import StandardError

#: parts whose solids are kept, and pairs of which it is known what they have in common
KEPT, KEPT_PAIRS = 400, 20_000
#: decimals (mm, and of a turn's matrix) to which two pairs stand alike
STANDING = 9

Progress = Callable[[int, int, str], None]
#: how many are done, and how many there are
Done = Callable[[int, int], None]
Pairs = Sequence[tuple[str, str]]


@dataclass
class BuiltPart:
    """One part of a fit as built. ``message``: why it is not whole; empty for none."""

    document: Document
    built: Built
    engine: Engine = field(repr=False)
    key: str
    message: str = ""

    @property
    def shape(self) -> Any:
        """Its solid; None where there is none."""
        return None if self.built.body is None else self.built.body.shape

    @cached_property
    def features(self) -> dict[str, Feature]:
        """What can be held on to."""
        return fit_features(self.built.parts)

    @property
    def faces(self) -> int:
        """Of its solid."""
        return 0 if self.built.body is None else len(self.built.body.labels)

    @cached_property
    def mass(self) -> PartMass | None:
        """None where there is no solid, or its material is not known."""
        try:
            found = mass_figures(self.document, self.engine.body_properties(self.built)) if self.shape else None
        except StandardError:
            return None
        if found is None or not found.get("mass_g"):
            return None
        rows = tuple(tuple(r) for r in found["inertia_g_mm2"] or ())
        return PartMass(found["mass_g"] or 0.0, tuple(found["centre_mm"]), rows)  # type: ignore[arg-type]

    @cached_property
    def report(self) -> Report:
        """Its own proof."""
        return prove(self.engine, self.document, self.built)

    @cached_property
    def corners(self) -> Any:
        """The corners of its box (8, 3), mm."""
        return contact.corner_box(self.shape)

    @cached_property
    def rays(self) -> Rays:
        """Its solid, to be asked by rays."""
        return Rays(self.shape)


@dataclass(frozen=True)
class Standing:
    """How two members stand: the second placed ``at`` (4, 4) in the frame of the first; ``named`` are the faces by
    which they are screwed. Pairs of one ``key`` have the same in common.
    """

    first: BuiltPart
    second: BuiltPart
    at: Any
    named: tuple[str, ...]

    @cached_property
    def key(self) -> Any:
        """To be looked up by."""
        rounded = tuple(np.round(self.at[:3], STANDING).ravel() + 0.0)
        return self.first.key, self.second.key, self.named, rounded

    @property
    def work(self) -> float:
        """Roughly how long it takes to judge: threads are by far the longest."""
        return (self.first.faces + self.second.faces) * (10.0 if self.named else 1.0)


class FitEngine:
    """Builds the parts of fits and judges them; many pairs by ``jobs`` children. Not for several threads."""

    def __init__(self, engine: Engine | None = None, jobs: int = 1) -> None:
        self.engine = engine or Engine()
        self.jobs = jobs
        self._parts: OrderedDict[str, BuiltPart] = OrderedDict()
        #: what pairs have in common, by how they stand to each other
        self._stood: OrderedDict[Any, contact.Common | None] = OrderedDict()

    def part(self, source: PartSource) -> BuiltPart:
        """A part as built; one that fails is told in its message, never raised."""
        key = source.sha256 or source.name
        known = self._parts.get(key)
        if known is None or (not source.sha256 and known.document is not source.document):
            built = self.engine.build(source.document)
            failed = next((s.message for s in built.steps if not s.ok), "")
            message = failed or ("" if built.body is not None else "it has no solid yet")
            known = self._parts[key] = BuiltPart(source.document, built, self.engine, key, message)
            while len(self._parts) > KEPT:
                self._parts.popitem(last=False)
        self._parts.move_to_end(key)
        return known

    def parts(self, fit: Fit, progress: Progress | None = None) -> dict[str, BuiltPart]:
        """All parts of a fit, by name."""
        out = {}
        for i, source in enumerate(fit.parts):
            if progress is not None:
                progress(i, len(fit.parts), source.name)
            out[source.name] = self.part(source)
        return out

    def solve(self, fit: Fit) -> Solved:
        """A fit solved with the features of its parts."""
        return solved(fit, {n: p.features for n, p in self.parts(fit).items()})

    def masses(self, fit: Fit) -> dict[str, PartMass]:
        """Masses by part; those that are not known are left out."""
        return {n: m for n, p in self.parts(fit).items() if (m := p.mass) is not None}

    # pairs -----------------------------------------------------------------------------------
    def meeting(self, whole: Fit, slack: float = -contact.NEAR) -> list[tuple[str, str]]:
        """Pairs of members whose boxes meet, in the members' order."""
        parts = self.parts(whole)
        rooms = {m.name: contact.room_of(parts[m.part].corners, m.placement.matrix)
                 for m in whole.members if parts[m.part].shape is not None}  # fmt: skip
        at = {m.name: i for i, m in enumerate(whole.members)}
        found = [tuple(sorted(pair, key=at.__getitem__)) for pair in contact.meeting(rooms, slack)]
        return sorted(found, key=lambda p: (at[p[0]], at[p[1]]))  # type: ignore[arg-type]

    def overlaps(self, whole: Fit, pairs: Pairs | None = None, done: Done | None = None) -> list[tuple[Overlap, Any]]:
        """Members that have material in common, each with its common shape (None where points tell it)."""
        return self.travel([whole], None if pairs is None else [pairs], done)[0]

    def travel(self, frames: Sequence[Fit], pairs: Sequence[Pairs] | None = None,
               done: Done | None = None) -> list[list[tuple[Overlap, Any]]]:  # fmt: skip
        """The overlaps at each of several moments. What moves together is not looked at again."""
        stood = [
            [(a, b, standing) for a, b, standing in self._standing(whole, None if pairs is None else pairs[i])]
            for i, whole in enumerate(frames)
        ]
        self._learn([s for moment in stood for _, _, s in moment], done)
        out = []
        for whole, moment in zip(frames, stood, strict=True):
            found = ((a, b, self._stood[s.key]) for a, b, s in moment)
            out.append([_told(whole, a, b, common) for a, b, common in found if common is not None])
        while len(self._stood) > KEPT_PAIRS:
            self._stood.popitem(last=False)
        return out

    def _standing(self, whole: Fit, pairs: Pairs | None) -> list[tuple[str, str, Standing]]:
        parts, screwed = self.parts(whole), _screwed(whole)
        out = []
        for a, b in self.meeting(whole) if pairs is None else pairs:
            one, two = (whole.by_name[n] for n in (a, b))
            at = np.linalg.inv(one.placement.matrix) @ two.placement.matrix
            out.append((a, b, Standing(parts[one.part], parts[two.part], at, screwed.get((a, b), ()))))
        return out

    def _learn(self, asked: Sequence[Standing], done: Done | None) -> None:
        """See that it is known what these have in common."""
        new: dict[Any, Standing] = {}
        for s in asked:
            if s.key in self._stood:
                self._stood.move_to_end(s.key)
            else:
                new.setdefault(s.key, s)
        todo = sorted(new.values(), key=lambda s: -s.work)  # the longest first, so that the last ones come together
        for s, found in zip(todo, shared_out(lambda i: _packed(_in_common(todo[i])), len(todo), self.jobs, done),
                            strict=True):  # fmt: skip
            self._stood[s.key] = (
                None if found is None else contact.Common(found[0], found[1], found[2] and from_bytes(found[2]))
            )

    def clearance(self, whole: Fit, a: str, b: str) -> Clearance:
        """The least distance between two members. Raises LathedError where one has no solid."""
        return self.clearances([whole], a, b)[0]

    def clearances(self, frames: Sequence[Fit], a: str, b: str, done: Done | None = None) -> list[Clearance]:
        """The least distance between two members at each of several moments. Raises LathedError where one has no
        solid.
        """
        shapes = [tuple(self._placed(whole, name) for name in (a, b)) for whole in frames]
        found = shared_out(lambda i: contact.clearance(*shapes[i]), len(shapes), self.jobs, done)
        return [Clearance(a, b, mm, p, q) for mm, p, q in found]

    def _placed(self, whole: Fit, name: str) -> Any:
        member = whole.by_name.get(name)
        if member is None:
            raise LathedError(f"there is no member {name}")
        part = self.parts(whole)[member.part]
        if part.shape is None:
            raise LathedError("there is no solid", where=name, rule=part.message)
        return contact.placed(part.shape, member.placement.matrix)


def _told(whole: Fit, a: str, b: str, found: contact.Common) -> tuple[Overlap, Any]:
    """What two members have in common, where the first one stands."""
    place = whole.by_name[a].placement
    middle = place.rotation @ np.array(found.middle) + np.array(place.at)
    told = Overlap(a, b, found.volume, (float(middle[0]), float(middle[1]), float(middle[2])), found.shape is None)
    return told, None if found.shape is None else contact.placed(found.shape, place.matrix)


def _packed(found: contact.Common | None) -> tuple[float, Triple, bytes | None] | None:
    """To go through a pipe."""
    if found is None:
        return None
    return found.volume, found.middle, None if found.shape is None else to_bytes(found.shape)


def _in_common(s: Standing) -> contact.Common | None:
    """What two parts have in common, in the first's frame; its shape None where rays tell."""
    threads = [p.features.get(f) for p, f in zip((s.first, s.second), s.named, strict=False)]
    real = [_real(t) for t in threads]
    if len(real) == 2 and real[0] is not None and real[1] is not None:
        found = in_each_other(Threaded(s.first.rays, np.eye(4), real[0]), Threaded(s.second.rays, s.at, real[1]))
        if found is not None:
            volume = found.volume + found.beside
            return contact.Common(volume, found.middle, None) if volume > 0 else None
    return contact.common(s.first.shape, contact.placed(s.second.shape, s.at), _sleeve(threads, s.at))


def _real(it: Feature | None) -> Feature | None:
    """A thread whose flanks have a place; None for one drawn as a symbol, or none at all."""
    return it if it is not None and it.helix is not None and it.helix.phase is not None else None


def _sleeve(threads: list[Feature | None], at: Any) -> contact.Sleeve | None:
    """Where one thread stands in another of its pitch, in the frame of the first; None where they are no such two."""
    if len(threads) != 2:
        return None
    a, b = threads
    if a is None or b is None or a.helix is None or b.helix is None or a.hollow == b.hollow:
        return None
    if abs(a.helix.pitch - b.helix.pitch) > LINEAR:
        return None
    origin, d = np.array(a.origin), np.array(a.direction)
    ends_a, ends_b = _threaded(a), _threaded(b)
    there = at[:3, :3] @ np.array(b.origin) + at[:3, 3]
    along, base = float(d @ (at[:3, :3] @ np.array(b.direction))), float((there - origin) @ d)
    ends = sorted(base + along * e for e in ends_b)
    low, high = max(ends_a[0], ends[0]), min(ends_a[1], ends[1])
    if high - low < LINEAR:
        return None
    return contact.Sleeve(a.origin, a.direction, min(a.radius, b.radius), max(a.radius, b.radius), low, high)


def _threaded(it: Feature) -> tuple[float, float]:
    """How far a thread reaches along its axis: a screw's bevelled ends belong to it, a hole's end is its end."""
    more = 0.0 if it.hollow or it.helix is None else abs(it.helix.pitch)
    return it.low - more, it.high + more


def _screwed(whole: Fit) -> dict[tuple[str, str], tuple[str, str]]:
    """The faces by which pairs of members are screwed, or stand in one axis, both ways round."""
    out: dict[tuple[str, str], tuple[str, str]] = {}
    for r in sorted(whole.relations, key=lambda r: r.kind == "screwed"):
        if r.kind in ("screwed", "share an axis") and r.b is not None:
            out[r.a.member, r.b.member] = (r.a.feature, r.b.feature)
            out[r.b.member, r.a.member] = (r.b.feature, r.a.feature)
    return out
