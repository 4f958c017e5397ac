"""Suspects: which single slip explains that the model's volume is not the expected one.

Every slip of ``slips`` is undone in turn and the part built anew; those that bring the volume within the band are kept
and ranked by how usual the slip is and by what it leaves over,

    score = ln(prior) - (residual / band)^2 / 2 * 4

(the band is two standard deviations). Several sizes of a box explain a difference alike: no volume tells them apart,
and they are shown side by side. Volumes are monotone in a size, near enough, and no steeper than its cube: so a changed
size is only built where the first-order change points the right way and is of the right order. Last, each size is
solved for the value that explains the difference all of it, and kept where that is a round one.

The building is the caller's: ``hunt`` yields lists of documents and is sent their volumes (None: could not be built).
"""

from __future__ import annotations

import math
from collections.abc import Generator, Sequence
from dataclasses import dataclass
from typing import Any

from lathed_solid.errors import LathedError
from lathed_solid.part import Document
from lathed_solid.proof.expected import Expected
from lathed_solid.proof.sizes import DrivingSize, driving_sizes
from lathed_solid.proof.slips import Slip, other_slips, size_slips
from lathed_solid.quantity.tolerances import NOTHING, RELATIVE, ROUNDING
from lathed_solid.quantity.units import MM_PER_INCH

Volumes = list[float | None]
Hunt = Generator[list[Document], Volumes, "tuple[Suspect, ...]"]

NUDGE = 1e-3
#: how far the change of a size may be from its first order: a cube's own, and some
ORDER = (0.2, 5.0)
#: prior of a size that was simply another round number
ROUND = 0.02
SHOWN = 40
PAIRS = 60


@dataclass(frozen=True)
class Suspect:
    """A slip (or two) that explains the difference: ``volume`` without it and what is left over, mm3; its ``share``
    among all that were found.
    """

    slips: tuple[Slip, ...]
    volume: float
    residual: float
    share: float

    @property
    def target(self) -> str:
        """What the slips are about, in words."""
        return " and ".join(s.target for s in self.slips)

    def document(self, document: Document) -> Document | None:
        """The document without the slip; None where it cannot be made by itself. Raises LathedError."""
        for slip in self.slips:
            if slip.apply is None:
                return None
            document = slip.apply(document)
        return document


@dataclass(frozen=True)
class _Tried:
    slip: Slip
    volume: float


def hunt(document: Document, volume: float, wanted: Expected, *, pairs: bool = False) -> Hunt:
    """The suspects, most likely first; none when the volume fits."""
    if wanted.fits(volume):
        return ()
    sizes = driving_sizes(document)
    others = list(other_slips(document, volume))
    slopes, tried = yield from _first(document, volume, wanted, sizes, others)
    tried += yield from _build(document, _promising(document, volume, wanted, sizes, slopes, coarse=pairs))
    found = [t for t in tried if _explains(t, wanted)]
    if not any(t.slip.prior >= 0.1 for t in found):
        found += yield from _round_sizes(document, volume, wanted, sizes, slopes)
    alone: list[tuple[tuple[Slip, ...], float]] = [((t.slip,), t.volume) for t in found]
    if pairs:
        alone += yield from _pairs(document, volume, wanted, tried)
    return _ranked(alone, wanted)


def _first(
    document: Document, volume: float, wanted: Expected, sizes: Sequence[DrivingSize], others: list[Slip]
) -> Generator[list[Document], Volumes, tuple[dict[str, float], list[_Tried]]]:
    """Slopes dV/dp of all sizes (none where it cannot be told), and the slips that are no sizes."""
    nudged, owners = [], []
    for size in sizes:
        try:
            nudged.append(size.put(document, size.value * (1 + NUDGE)))
            owners.append(size)
        except LathedError:
            continue
    got = yield nudged
    slopes = {
        s.target: (v - volume) / (NUDGE * s.value) for s, v in zip(owners, got, strict=True) if v is not None
    }  # fmt: skip
    known = [_Tried(s, s.estimate) for s in others if s.estimate is not None]
    if wanted.density is not None:
        known += [_Tried(s, volume * s.density / wanted.density) for s in others if s.density is not None]
    built = yield from _build(document, [s for s in others if s.apply is not None])
    return slopes, known + built


def _build(document: Document, slips: Sequence[Slip]) -> Generator[list[Document], Volumes, list[_Tried]]:
    documents, owners = [], []
    for slip in slips:
        try:
            documents.append(slip.apply(document))  # type: ignore[misc]
            owners.append(slip)
        except LathedError:
            continue
    got = (yield documents) if documents else []
    return [_Tried(s, v) for s, v in zip(owners, got, strict=True) if v is not None]


def _promising(
    document: Document,
    volume: float,
    wanted: Expected,
    sizes: Sequence[DrivingSize],
    slopes: dict[str, float],
    *,
    coarse: bool,
) -> list[Slip]:
    """Changed sizes whose first-order change is of the right sign and order; ``coarse``: and all that are no digits."""
    gap, out = wanted.volume - volume, []
    for size in sizes:
        if size.target not in slopes:
            continue
        slope = slopes[size.target]
        for slip in size_slips(document, size):
            if slip.value <= 0 or slip.value == size.value:
                continue
            if slip.kind != "digits" and (coarse or abs(slope) * size.value < RELATIVE * volume):
                # half of a pair; or nothing moves it now (a pocket deeper than the part)
                out.append(slip)
                continue
            if not slope:
                continue
            ratio = gap / (slope * (slip.value - size.value))
            low, high = (ORDER[0] / 4, ORDER[1] * 30) if abs(math.log(slip.value / size.value)) > 1.2 else ORDER
            if low < ratio < high:
                out.append(slip)
    return out


def _explains(tried: _Tried, wanted: Expected) -> bool:
    return wanted.fits(tried.volume)


def _round_sizes(
    document: Document, volume: float, wanted: Expected, sizes: Sequence[DrivingSize], slopes: dict[str, float]
) -> Generator[list[Document], Volumes, list[_Tried]]:
    """Each size solved for the whole difference by secants, and taken where a round value is near enough."""
    here = {s.target: (s.value, volume) for s in sizes}
    slope = {s.target: slopes.get(s.target, 0.0) for s in sizes}
    alive = [s for s in sizes if abs(slope[s.target]) > ROUNDING]
    for _ in range(4):
        trial, owners = [], []
        for s in alive:
            p, v = here[s.target]
            q = p + (wanted.volume - v) / slope[s.target]
            try:
                if 0.3 * s.value < q < 3 * s.value:
                    trial.append(s.put(document, q))
                    owners.append((s, q))
            except LathedError:
                continue
        got = (yield trial) if trial else []
        alive = []
        for (s, q), new in zip(owners, got, strict=True):
            p, before = here[s.target]
            if new is None or q == p:
                continue
            here[s.target] = (q, new)
            if abs(new - before) > NOTHING * volume:
                slope[s.target] = (new - before) / (q - p)
                alive.append(s)
    slips = []
    for s in alive:
        q, at = here[s.target]
        room = wanted.band / abs(slope[s.target])
        nice = nearest_round(q + (wanted.volume - at) / slope[s.target], room, document.unit == "in")
        if nice is not None and abs(nice - s.value) > ROUNDING:
            now = s.show(nice, document)
            slips.append(Slip("another size", s.target, s.show(s.value, document), now, "a round size", ROUND,
                              lambda d, s=s, n=nice: s.put(d, n), size=s, value=nice))  # type: ignore[misc]  # fmt: skip
    return [t for t in (yield from _build(document, slips)) if _explains(t, wanted)]


def nearest_round(value: float, room: float, inches: bool) -> float | None:
    """The roundest size within ``room`` of a value, mm: halves first, then tenths; of inches 64ths and hundredths."""
    steps = [s * MM_PER_INCH for s in (1, 0.5, 0.25, 0.125, 0.0625, 1 / 64, 0.01)] if inches else [10, 5, 1, 0.5, 0.1]
    for step in steps:
        near = round(value / step) * step
        if near > 0 and abs(near - value) <= room:
            return near
    return None


def _pairs(
    document: Document, volume: float, wanted: Expected, tried: Sequence[_Tried]
) -> Generator[list[Document], Volumes, list[tuple[tuple[Slip, ...], float]]]:
    """Two slips at different places whose changes sum to the difference, the most usual ones built."""
    gap = wanted.volume - volume
    usable = [t for t in tried if t.slip.apply is not None and abs(t.volume - volume) > wanted.band]
    out = []
    for i, a in enumerate(usable):
        for b in usable[i + 1 :]:
            if a.slip.target == b.slip.target:
                continue
            miss = abs(a.volume + b.volume - 2 * volume - gap)
            # where both cut the same corner the sum is off a little: built, it is not
            if miss <= wanted.band + 0.02 * min(abs(a.volume - volume), abs(b.volume - volume)):
                out.append((a.slip.prior * b.slip.prior, (a.slip, b.slip)))
    best = [pair for _, pair in sorted(out, key=lambda p: -p[0])[:PAIRS]]
    documents, owners = [], []
    for pair in best:
        try:
            documents.append(pair[1].apply(pair[0].apply(document)))  # type: ignore[misc]
            owners.append(pair)
        except LathedError:
            continue
    got = (yield documents) if documents else []
    return [(pair, v) for pair, v in zip(owners, got, strict=True) if v is not None and wanted.fits(v)]


def _ranked(found: Sequence[tuple[tuple[Slip, ...], float]], wanted: Expected) -> tuple[Suspect, ...]:
    scores = []
    for slips, v in found:
        prior = math.prod(s.prior for s in slips) * (0.1 if len(slips) > 1 else 1.0)
        scores.append(math.log(prior) - 2 * ((v - wanted.volume) / wanted.band) ** 2)
    if not scores:
        return ()
    top = max(scores)
    total = sum(math.exp(s - top) for s in scores)
    out, seen = [], set()
    for (slips, v), score in sorted(zip(found, scores, strict=True), key=lambda k: -k[1]):
        key = tuple((s.target, s.now) for s in slips)
        if key not in seen:
            seen.add(key)
            out.append(Suspect(slips, v, v - wanted.volume, math.exp(score - top) / total))
    return tuple(out[:SHOWN])


def suspect_json(s: Suspect) -> dict[str, Any]:
    """The stable shape of ``lathed-solid suspects --json``."""
    slips = [{"kind": k.kind, "target": k.target, "was": k.was, "now": k.now, "why": k.why} for k in s.slips]
    return {"slips": slips, "volume_mm3": s.volume, "residual_mm3": s.residual, "share": s.share}
