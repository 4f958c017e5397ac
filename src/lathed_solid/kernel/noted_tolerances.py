"""Tolerances of form, direction and place that notes ask of faces, and the datums that they are told from: as they go
into STEP.

A frame stands behind the note of a feature; it speaks of those of the faces that the note's proof measured which can
have it (flatness a flat's, cylindricity a cylinder's). So does a datum's letter. A frame whose datums the part does not
name is left out: without them it would ask something else.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from lathed_solid.kernel.names import Body
from lathed_solid.kernel.noted_sizes import places_by_name
from lathed_solid.kernel.surfaces import read_surface
from lathed_solid.kernel.topology import faces
from lathed_solid.ledger import Callout
from lathed_solid.proof import VerdictRow

#: which faces can have a form
FORMS = {"flatness": {"plane"}, "cylindricity": {"cylinder"}, "circularity": {"cylinder", "cone", "sphere", "torus"}}


@dataclass(frozen=True, slots=True)
class NotedDatum:
    """A datum by its letter; ``faces``: their places in the solid's order."""

    letter: str
    faces: tuple[int, ...]


@dataclass(frozen=True, slots=True)
class NotedTolerance:
    """A ``characteristic`` (ISO 1101) within ``value`` mm, in a round zone where it is ``diametral``, told from
    ``datums`` in their order; ``faces``: places in the solid's order.
    """

    balloon: int
    note: str
    characteristic: str
    value: float
    diametral: bool
    faces: tuple[int, ...]
    datums: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class NotedFrames:
    """All of a part."""

    tolerances: tuple[NotedTolerance, ...] = ()
    datums: tuple[NotedDatum, ...] = ()


def noted_frames(body: Body, rows: Sequence[VerdictRow], callouts: Sequence[Callout]) -> NotedFrames:
    """What the callouts ask of faces that their proof measured, in their order."""
    if not rows:
        return NotedFrames()
    places = places_by_name(body)
    measured = {r.balloon: tuple(sorted({n for name in r.faces for n in places.get(name, ())})) for r in rows}
    datums = _datums(callouts, measured)
    kinds = [read_surface(face).kind for face in faces(body.shape)]
    found = []
    for c in callouts:
        for duty in c.duties:
            own = tuple(n for n in measured.get(c.balloon, ()) if kinds[n] in FORMS.get(duty.word, {kinds[n]}))
            told = all(letter in datums for name in duty.datums for letter in name.split("-"))
            if duty.kind == "geometry" and duty.value and own and told:
                found.append(NotedTolerance(c.balloon, c.note, duty.word, duty.value, duty.diametral, own, duty.datums))
    used = {letter for t in found for name in t.datums for letter in name.split("-")}
    return NotedFrames(tuple(found), tuple(d for letter, d in datums.items() if letter in used))


def _datums(callouts: Sequence[Callout], measured: Mapping[int, tuple[int, ...]]) -> dict[str, NotedDatum]:
    """By letter; of several notes with one letter the first whose faces are known."""
    out: dict[str, NotedDatum] = {}
    for c in callouts:
        for duty in c.duties:
            if duty.kind == "datum" and duty.word and measured.get(c.balloon):
                out.setdefault(duty.word, NotedDatum(duty.word, measured[c.balloon]))
    return out
