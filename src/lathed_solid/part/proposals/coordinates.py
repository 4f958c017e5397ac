"""Where places are along one axis of a plate, as cells of the drawing's callouts.

A place is told from the low end of the axis by the fewest dimensions that lead there; else from the middle of the
whole, where dimensions lead from it; else it is one of two that mirror each other about the middle, and the dimension
between them is halved. What none of these says is drawn to scale and asked.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from lathed_solid.ledger import Callout
from lathed_solid.part.document import Document
from lathed_solid.part.proposals.drawn import Between, DrawnNote, drawn, path_of, spans_along, terms_of

ZERO = "0"


@dataclass(frozen=True)
class Told:
    """A place as a cell, and the notes that say it; ``asked``: none does."""

    cell: str
    notes: tuple[DrawnNote, ...] = ()
    asked: bool = False


@dataclass(frozen=True)
class Axis:
    """``stops`` in mm from the low end, those of the outline first; the dimensions between them; the whole length."""

    stops: tuple[float, ...]
    spans: tuple[Between, ...]
    whole: float
    slack: float
    unit: str

    def at(self, place: float) -> Told:
        """A place (mm)."""
        k = self._stop(place)
        if abs(self.stops[k]) <= self.slack:
            return Told(ZERO)
        driving = _driving(self.spans)
        zero = self._stop(0.0)
        direct = [(abs(c.nominal - place), c.name, n) for a, b, c, n in driving if {a, b} == {zero, k}]
        if direct:  # of two that end nearly at one place, the one that says this
            _, name, note = min(direct, key=lambda d: (round(d[0], 2), d[2].used))
            return Told(name, (note,))
        path = path_of(driving, zero, k)
        if path is not None:
            return Told(terms_of(path), tuple(n for _, _, n in path))
        return self._from_middle(driving, k) or self._mirrored(driving, k) or Told(drawn(place, self.unit), (), True)

    def with_size(self, low: float, high: float, said: Callout, note: DrawnNote) -> Axis:
        """With what a note says lies between two places (mm). Where dimensions lead to both of them, as to one in line
        with a corner of the outline, one is told by the other and the note: else the note would say nothing.
        """
        zero, one, two = (self._stop(v) for v in (0.0, low, high))
        own = (one, two, said, note)
        driving = _driving(self.spans)
        if all(path_of(driving, zero, k) is not None for k in (one, two)):
            for end, other in ((two, one), (one, two)):
                rest = [s for s in self.spans if end not in s[:2]]
                if end != zero and path_of(_driving(rest), zero, other) is not None:
                    return replace(self, spans=(*rest, own))
        return replace(self, spans=(*self.spans, own))

    def _stop(self, place: float) -> int:
        return min(range(len(self.stops)), key=lambda i: abs(self.stops[i] - place))

    def _half(self, driving: Sequence[Between]) -> tuple[str, tuple[DrawnNote, ...]] | None:
        """Half of the whole."""
        path = path_of(driving, self._stop(0.0), self._stop(self.whole))
        if path is None:
            return None
        terms, notes = terms_of(path), tuple(n for _, _, n in path)
        return (f"{terms} / 2" if len(path) == 1 else f"({terms}) / 2"), notes

    def _from_middle(self, driving: Sequence[Between], k: int) -> Told | None:
        middle = self._stop(self.whole / 2)
        half = self._half(driving)
        if half is None or abs(self.stops[middle] - self.whole / 2) > self.slack:
            return None
        path = path_of(driving, middle, k)
        if path is None:
            return None
        if not path:
            return Told(*half)
        terms = terms_of(path)
        joined = terms if terms.startswith("-") else f"+ {terms}"
        return Told(f"{half[0]} {joined}", (*half[1], *(n for _, _, n in path)))

    def _mirrored(self, driving: Sequence[Between], k: int) -> Told | None:
        half = self._half(driving)
        if half is None:
            return None
        for a, b, callout, note in driving:
            if k in (a, b) and abs(self.stops[a] + self.stops[b] - self.whole) <= 2 * self.slack:
                sign = "-" if self.stops[k] < self.whole / 2 else "+"
                return Told(f"{half[0]} {sign} {callout.name} / 2", (*half[1], note))
        return None


def _driving(spans: Sequence[Between]) -> list[Between]:
    """Those that are not only for reference."""
    return [s for s in spans if not s[2].reference]


def axis_of(
    name: str, places: Sequence[float], whole: float, notes: Sequence[DrawnNote], document: Document, slack: float
) -> Axis:
    """The axis ``name`` (x, y) of the page with these places (mm from its low end), and its dimensions."""
    own: list[float] = []
    for place in sorted({0.0, whole, *places}):
        if not own or place - own[-1] > slack:
            own.append(place)
    stops, spans = spans_along(name, own, notes, document, slack)
    return Axis(tuple(stops), tuple(spans), whole, slack, document.unit)
