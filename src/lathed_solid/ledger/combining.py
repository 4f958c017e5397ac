"""Sizes worked out from sizes that were read: what is done on a calculator beside the caliper.

A hole's pitch is the clear length between two holes and half of both diameters, a centre's place its edge and half a
diameter, a twin the same size again. With y = sum of c_i x_i, of sizes read independently (JCGM 100:2008, 5.1.2):

    u(y)^2 = sum of c_i^2 u(x_i)^2
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from lathed_solid.ledger.callouts import Callout
from lathed_solid.ledger.readings import Reading, Taken, Term

#: so many diameters are offered with a length, the nearest above it in the log first
OFFERED = 4


@dataclass(frozen=True)
class Sum:
    """What can be worked out: in words, its terms, and its value with its standard uncertainty, mm."""

    words: str
    terms: tuple[Term, ...]
    value: float
    uncertainty: float

    @property
    def taken(self) -> Taken:
        """It as a way a size was taken, that goes on following its terms."""
        return Taken(
            way="step", repeats=(self.value,), remark=self.words, terms=self.terms, worked_out=self.uncertainty
        )


def value_of(terms: Sequence[Term], readings: Mapping[int, Taken]) -> tuple[float, float] | None:
    """Value and standard uncertainty of a sum, mm; None where one of its sizes is not read."""
    if any(t.balloon not in readings for t in terms):
        return None
    value = math.fsum(t.share * readings[t.balloon].mean for t in terms)
    shares: dict[int, float] = {}
    for t in terms:  # a size that stands twice is one reading
        shares[t.balloon] = shares.get(t.balloon, 0.0) + t.share
    return value, math.sqrt(math.fsum((c * readings[n].standard_uncertainty) ** 2 for n, c in shares.items()))


def sums_with(balloon: int, callouts: Sequence[Callout], readings: Mapping[int, Taken]) -> list[Sum]:
    """What can be worked out with a size that was read: its twin, and of a length with the log's bores.

    Only what comes out above zero.
    """
    chosen = next((c for c in callouts if c.balloon == balloon), None)
    if chosen is None or balloon not in readings:
        return []
    wanted: list[tuple[str, tuple[Term, ...]]] = [("twin: the same size again", (Term(balloon=balloon),))]
    if chosen.kind in ("length", "depth"):
        wanted += _with_bores(balloon, [c.balloon for c in callouts if c.kind == "diameter" and c.balloon in readings])
    out = []
    for words, terms in wanted:
        found = value_of(terms, readings)
        if found is not None and found[0] > 0:
            out.append(Sum(words, terms, *found))
    return out


def _with_bores(length: int, bores: Sequence[int]) -> list[tuple[str, tuple[Term, ...]]]:
    near = sorted(sorted(bores, key=lambda n: abs(n - length))[:OFFERED])
    own = Term(balloon=length)
    out: list[tuple[str, tuple[Term, ...]]] = []
    for n in near:
        one, half = Term(balloon=n), Term(balloon=n, share=0.5)
        out += [(f"pitch: clear #{length} + ⌀#{n}", (own, one)),
                (f"centre: edge #{length} + half of ⌀#{n}", (own, half)),
                (f"pitch: over all #{length} − ⌀#{n}", (own, Term(balloon=n, share=-1.0)))]  # fmt: skip
    for a, b in itertools.combinations(near, 2):
        halves = (Term(balloon=a, share=0.5), Term(balloon=b, share=0.5))
        out.append((f"pitch: clear #{length} + half of ⌀#{a} and ⌀#{b}", (own, *halves)))
    return out


def worded(terms: Sequence[Term]) -> str:
    """``#3 + 0.5 x #1``: a sum as it stays visible."""
    words = ""
    for t in terms:
        size = f"#{t.balloon}" if abs(t.share) == 1 else f"{abs(t.share):g} × #{t.balloon}"
        sign = "−" if t.share < 0 else "+"
        words += f" {sign} {size}" if words else (f"−{size}" if t.share < 0 else size)
    return words


def refreshed(readings: Sequence[Reading]) -> tuple[Reading, ...]:
    """All readings, the sums worked out anew; a sum of which a size is gone stays as the value that it had."""
    known: dict[int, Taken] = {r.balloon: r for r in readings if not r.terms}
    left = {r.balloon: r for r in readings if r.terms}
    # sums of sums come after what they stand on
    while ready := [n for n, r in left.items() if not any(t.balloon in left for t in r.terms)]:
        for n in ready:
            known[n] = _anew(left.pop(n), known)
    known |= {n: r.model_copy(update={"terms": (), "worked_out": None}) for n, r in left.items()}
    return tuple(_again(known[r.balloon], known) for r in readings)  # type: ignore[arg-type]


def _anew(taken: Taken, known: Mapping[int, Taken]) -> Taken:
    found = value_of(taken.terms, known)
    if found is None or not 0 < found[0] <= 10_000:
        return taken.model_copy(update={"terms": ()})
    return taken.model_copy(update={"repeats": (found[0],), "worked_out": found[1]})


def _again(reading: Reading, known: Mapping[int, Taken]) -> Reading:
    if not any(t.terms for t in reading.again):
        return reading
    return reading.model_copy(update={"again": tuple(_anew(t, known) if t.terms else t for t in reading.again)})
