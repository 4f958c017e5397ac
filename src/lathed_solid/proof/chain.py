"""The chain audit of a document: its dimensions along every direction, before and after it is modelled.

Where a callout says between which places it runs (``Callout.span``), that counts. The lengths and diameters of a turned
table are taken from its stations by the probes that prove them. Readings that stand in loops are
brought to agree. ``chain_words`` tells it.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from lathed_solid.errors import LathedError
from lathed_solid.ledger import Callout, Span
from lathed_solid.ledger.chains import Chain, Link, Loop, Stack, stack
from lathed_solid.ledger.limits import rounding
from lathed_solid.ledger.reconcile import Reconciled, reconcile
from lathed_solid.ledger.spans import ACROSS, MIDDLE
from lathed_solid.part.document import Document, DocumentError
from lathed_solid.part.edits import turned_step
from lathed_solid.part.scope import scope
from lathed_solid.proof.plan import plan
from lathed_solid.quantity.tolerances import LINEAR

AXIS = "the axis"
SPANS = ("distance", "stretch")


@dataclass(frozen=True)
class Told:
    """A chain, and the readings that stand in its loops, brought to agree (None when none do)."""

    document: Document
    chain: Chain

    @property
    def loops(self) -> tuple[Loop, ...]:
        """All closed chains of the direction."""
        return self.chain.loops

    def read_off(self, loop: Loop) -> float | None:
        """What the readings of a loop miss; None when not all of it is measured."""
        found = [(self.document.reading(b), f) for b, f in loop.signed]
        return None if any(r is None for r, _ in found) else sum(f * r.mean for r, f in found if r is not None)

    @cached_property
    def read(self) -> tuple[int, ...]:
        """Balloons measured in loops that are measured all round."""
        return tuple(sorted({b for loop in self.loops if self.read_off(loop) is not None for b in loop.balloons}))

    @cached_property
    def adjusted(self) -> Reconciled | None:
        """Readings made to fit the chains they close (least squares); None where none was read."""
        if not self.read:
            return None
        at = {b: i for i, b in enumerate(self.read)}
        closed = [loop for loop in self.loops if self.read_off(loop) is not None]
        rows = [[0.0] * len(at) for _ in closed]
        for row, loop in zip(rows, closed, strict=True):
            for balloon, factor in loop.signed:
                row[at[balloon]] += factor
        found = [r for b in self.read if (r := self.document.reading(b)) is not None]
        return reconcile([r.mean for r in found], [r.standard_uncertainty for r in found], rows, [0.0] * len(rows))

    @property
    def suspects(self) -> tuple[int, ...]:
        """Balloons of the readings most at odds, where nothing tells them apart."""
        return () if self.adjusted is None else tuple(self.read[i] for i in self.adjusted.suspects)

    @property
    def suspect(self) -> int | None:
        """The balloon of the reading most at odds."""
        return self.suspects[0] if len(self.suspects) == 1 else None


def spans(document: Document) -> dict[int, Span]:
    """Between which places every callout runs that says so, or that a turned table says it for; by balloon."""
    return _tabled(document) | {c.balloon: c.span for c in document.callouts if c.span is not None}


def chains(document: Document) -> tuple[Told, ...]:
    """The chain of every direction in which anything is told, in the order of the callouts."""
    links: dict[str, list[Link]] = {}
    told = spans(document)
    for callout in document.callouts:
        if callout.balloon in told:
            span = told[callout.balloon]
            links.setdefault(span.along, []).extend(_links(callout, span))
    return tuple(
        Told(document, Chain(along, found, turning=along.startswith(("about ", "around "))))
        for along, found in links.items()
    )


def length_chain(document: Document) -> Told | None:
    """The chain of a turned part's lengths; None when there is no table, or it is impossible."""
    if not _tabled(document):
        return None
    return next((t for t in chains(document) if t.chain.along == AXIS), None)


def _links(callout: Callout, span: Span) -> list[Link]:
    n, slack = callout.nominal, rounding(callout) if callout.reference else LINEAR
    if span.end == MIDDLE and span.start != MIDDLE:
        factor = 2 if callout.kind == "diameter" else 1
        return [Link(callout.balloon, ((span.start, factor),), n, callout.reference, slack)]
    terms = ((span.start, -1), (span.end, 1))
    out = [Link(callout.balloon, terms, n, callout.reference, slack)]
    if span.symmetric:
        out.append(Link(0, ((span.start, 1), (span.end, 1)), 0.0))
    return out


def _tabled(document: Document) -> dict[int, Span]:
    """Spans along and across the axis of a turned table, by the faces that prove the callouts."""
    step = turned_step(document)
    if step is None or step.suspended:
        return {}
    try:
        section = step.resolve(scope(document))
    except LathedError:
        return {}
    n = step.number
    at = {f"{n}/face.left": (0.0, "left face"), f"{n}/face.right": (section.length, "right face")}
    at |= {f"{n}/shoulder.{s.key}": (s.z1, f"right end of {s.key}") for s in section.stretches[:-1]}
    for g in section.grooves:
        at |= {f"{n}/{g.key}.near": (g.z0, f"near side of {g.key}"), f"{n}/{g.key}.far": (g.z1, f"far side of {g.key}")}
    out = {}
    for callout, p in zip(document.callouts, plan(document), strict=True):
        alone = [s.probe for s in p.showings if s.alone(callout)]
        for probe in alone[:1]:
            ends = sorted(at[f] for f in probe.faces if f in at)
            if probe.kind in SPANS and len(ends) == 2:
                out[callout.balloon] = Span(along=AXIS, start=ends[0][1], end=ends[1][1])
            elif probe.kind == "diameter" and len(alone) == 1 and "*" not in probe.faces[0]:
                out[callout.balloon] = Span(along=ACROSS, start=probe.faces[0])
    return out


def stack_of(document: Document, along: str, start: str, end: str) -> Stack | None:
    """The tolerance stack from one place to another; None when no path of dimensions joins them.

    Raises DocumentError for a direction or place that no callout names.
    """
    told = next((t for t in chains(document) if t.chain.along == along), None)
    if told is None:
        raise DocumentError(f"no callout runs along {along!r}", hint=", ".join(t.chain.along for t in chains(document)))
    for place in (start, end):
        if place != MIDDLE and place not in told.chain.places:
            raise DocumentError(f"no callout names {place!r} along {along}", hint=", ".join(told.chain.places))
    terms = told.chain.path(start, end)
    if terms is None:
        return None
    values = {}
    for balloon, _ in terms:
        callout = document.callout(balloon)
        assert callout is not None
        bounds = document.limits(callout)
        values[balloon] = (callout.nominal, bounds.low, bounds.high)
    return stack(terms, values)
