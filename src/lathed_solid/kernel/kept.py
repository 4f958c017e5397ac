"""Measurements that an edit left alone are kept.

What a measurement looked at is logged: the names it asked for, the faces it read, the rays it sent. On the next body it
stands as it is, when none of those names means other faces, none of those faces is gone, and none of those rays comes
near anything that is new or gone (by boxes: every ray of the last proof against every change at once).

A flat face that got another outline and lies in the same plane is the same to a measurement that asks for its plane
alone. What changed of it lies within the edges that the two outlines do not share.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.look import Look, unwrapped
from lathed_solid.kernel.look_log import ENDLESS, Log
from lathed_solid.kernel.names import Body, Names, name_pattern
from lathed_solid.kernel.outlines import Difference, difference, flat_of
from lathed_solid.kernel.rays import NEAR, WAYS, meets, room_of, slabs
from lathed_solid.kernel.topology import Key, faces
from lathed_solid.kernel.vectors import Triple, dot
from lathed_solid.quantity.tolerances import RELATIVE_READ


@dataclass(frozen=True)
class _Entry:
    """A measurement, or the words with which it failed."""

    value: Any
    refused: MeasureError | None
    log: Log


@dataclass(frozen=True)
class _Change:
    """From one body to the next. ``names``: those that mean other faces, with all that they are copies of; ``gone``:
    faces; ``reshaped``: of the flat ones among these those that got another outline, ``regions`` where; ``others``:
    faces gone or made otherwise.
    """

    names: set[str]
    gone: set[Key]
    reshaped: set[Key]
    others: list[Any]
    regions: list[Difference]

    def spares(self, log: Log) -> bool:
        """Whether names and faces mean what they did."""
        if log.everything and (self.gone or self.others or self.names or self.regions):
            return False
        if not log.faces.isdisjoint(self.gone if log.outlines else self.gone - self.reshaped):
            return False
        if log.drawn and any(_in_plane(f, log.drawn.values()) for f in self.others):
            return False
        for name in log.names:
            if name in self.names or ("*" in name and any(map(name_pattern(name).fullmatch, self.names))):
                return False
        return True


class Kept:
    """Measurements of the last body that was looked at. One an engine."""

    def __init__(self) -> None:
        self._entries: dict[Hashable, _Entry] = {}
        #: what the last proof asked for; the rest is not kept on
        self._used: set[Hashable] = set()
        self._body: Body | None = None
        self._threads: tuple[Any, Any] = ({}, {})

    def look_at(self, look: Look) -> None:
        """Keep what holds for this body too."""
        threads = (look.parts.threads, look.parts.marks) if look.parts is not None else ({}, {})
        last = self._body
        self._entries = {k: e for k, e in self._entries.items() if k in self._used}
        self._used = set()
        if last is not None and self._entries and (last is not look.body or threads != self._threads):
            change = _changes(last, look.body)
            for was, now in zip(self._threads, threads, strict=True):
                change.names.update(a for a in was.keys() | now.keys() if was.get(a) != now.get(a))
            asked = {k: e for k, e in self._entries.items() if change.spares(e.log)}
            self._entries = _clear_of(asked, change, look)
        self._body, self._threads = look.body, threads
        self._entries = {k: e for k, e in self._entries.items() if _same_frames(e.log, look)}

    def measured(self, look: Look, key: Hashable, run: Callable[[], Any], *, outlines: bool) -> Any:
        """``run()``, or what it gave the last time. Raises MeasureError as it did."""
        found = self._entries.get(key)
        self._used.add(key)
        if found is None:
            log = look.log = Log(outlines)
            value, refused = None, None
            try:
                value = run()
            except MeasureError as exc:
                refused = exc
            finally:
                look.log = None
            found = self._entries[key] = _Entry(value, refused, log)
        if found.refused is not None:
            raise found.refused
        return found.value


def _changes(old: Body, new: Body) -> _Change:
    before, after = ({Key(f) for f in faces(b.shape)} for b in (old, new))
    gone, made = before - after, after - before
    # flat faces by their plane: what lies in the same one before and after, under the same names
    flats: dict[Any, tuple[list[Key], list[Key]]] = {}
    for side, (keys, body) in enumerate(((gone, old), (made, new))):
        for key in keys:
            plane = flat_of(key.shape)
            if plane is not None:
                flats.setdefault((plane, body.names.get(key)), ([], []))[side].append(key)
    reshaped: set[Key] = set()
    regions = []
    for (plane, _), (was, now) in flats.items():
        if was and now:
            reshaped.update(was, now)
            regions.append(difference(plane, [k.shape for k in was], [k.shape for k in now]))
    others = (gone | made) - reshaped
    named: tuple[Names, Names] = (old.names, new.names)
    atoms = {a for key in others for names in named for a in names.get(key, ())}
    for key in before & after:
        one, two = (names.get(key) for names in named)
        if one != two:
            atoms |= (one or frozenset()) ^ (two or frozenset())
    atoms |= {core for a in atoms for _, core in unwrapped(a)}
    return _Change(atoms, gone, reshaped, [k.shape for k in others], [r for r in regions if r is not None])


def _in_plane(face: Any, planes: Iterable[tuple[Triple, Triple] | None]) -> bool:
    """Whether a flat face lies in one of some planes (a place and the normal), whichever way it faces."""
    found = flat_of(face)
    if found is None:
        return False
    *n, level = found
    for at, normal in (p for p in planes if p is not None):
        way = sum(a * b for a, b in zip(n, normal, strict=True))
        if abs(abs(way) - 1) < RELATIVE_READ and abs(level * way - dot(at, normal)) < 1e-5:
            return True
    return False


def _same_frames(log: Log, look: Look) -> bool:
    """Whether sketches and their lines lie where they did."""
    try:
        return all(look.frame(n) == f for n, f in log.frames.items()) and all(
            look.drawn(*which) == d for which, d in log.drawn.items()
        )
    except MeasureError:
        return False


def _clear_of(entries: dict[Hashable, _Entry], change: _Change, look: Look) -> dict[Hashable, _Entry]:
    """Those of which no ray comes near a change, and no place has become material or air."""
    rays = [(k, r) for k, e in entries.items() for r in e.log.rays]
    near = {k for (k, _), m in zip(rays, _met([r for _, r in rays], change), strict=True) if m}
    # a place is asked for again only where a ray from it comes near a change
    points = [(k, p) for k, e in entries.items() if k not in near for p in e.log.points]
    doubtful = _met([(*p, *way, -NEAR, ENDLESS) for _, p in points for way in WAYS], change)
    for i, (k, p) in enumerate(points):
        if any(doubtful[i * len(WAYS) : (i + 1) * len(WAYS)]) and look.inside(p) != entries[k].log.points[p]:
            near.add(k)
    return {k: e for k, e in entries.items() if k not in near}


def _met(found: Sequence[tuple[float, ...]], change: _Change) -> list[bool]:
    """Which rays come near a change."""
    if not found:
        return []
    rays = np.array(found)
    met = np.zeros(len(rays), dtype=bool)
    boxes = np.array([*(r.room for r in change.regions), *(room_of(f) for f in change.others)]).reshape(-1, 2, 3)
    near = slabs(rays, boxes)
    for k, region in enumerate(change.regions):
        there = np.flatnonzero(near[:, k] & ~met)
        if len(there):
            met[there] = region.met(rays[there])
    for i, k in zip(*np.nonzero(near[:, len(change.regions) :]), strict=True):
        if not met[i]:
            met[i] = meets(change.others[k], rays[i])
    return [bool(m) for m in met]
