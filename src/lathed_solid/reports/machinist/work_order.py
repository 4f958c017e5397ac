"""In which order things are done within one setting, as words.

Turning: the end is faced, the outside turned, then grooves, then threads, so that a groove's edges and a thread's crest
are cut on the finished diameter; bores after the outside, their threads last. Drilling: all holes first, by drills;
then what widens their mouths, reamers, taps, which each follow a hole that is there.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from lathed_solid.reports.machinist.model import HoleRow, StationRow

#: most names told of one kind
TOLD = 12
#: a groove is no longer than this, mm; what stands out by less does not stand out
GROOVE, SAME = 6.0, 1e-6


def named(rows: Sequence[HoleRow | StationRow]) -> str:
    """By their numbers."""
    told = [r.id for r in rows[:TOLD]]
    return ", ".join(told) + (f" and {len(rows) - TOLD} more" if len(rows) > TOLD else "")


def grooves(stations: Sequence[StationRow]) -> list[StationRow]:
    """Short outer stations between wider ones."""
    outer = sorted((s for s in stations if not s.inner), key=lambda s: s.start)
    return [
        s for k, s in enumerate(outer) if 0 < k < len(outer) - 1 and s.stop - s.start < GROOVE
        and min(outer[k - 1].last, outer[k + 1].first) > max(s.first, s.last) + SAME
    ]  # fmt: skip


def turning(end: str, own: Sequence[StationRow], every: Sequence[StationRow]) -> Iterator[str]:
    """What is done from an end: ``own`` stations of it among ``every`` one of the part."""
    yield f"face the {end}"
    narrow = [s for s in grooves(every) if s in own]
    for inner, verb in ((False, "turn"), (True, "bore out")):
        plain = [s for s in own if s.inner == inner and s not in narrow]
        if plain:
            yield f"{verb} {named(plain)}"
        if narrow and not inner:
            yield f"groove {named(narrow)}"
        cut = [s for s in plain if s.thread]
        if cut:
            yield f"thread {named(cut)}"


def drilling(holes: Sequence[HoleRow]) -> Iterator[str]:
    """What is done to the holes of a side."""
    if holes:
        yield f"drill {named(holes)}"
    near = [h for h in holes if any(not entry.endswith("from the other side") for entry in _entries(h))]
    if near:
        yield f"widen the mouths of {named(near)}"
    reamed, tapped = [h for h in holes if h.fit and not h.thread], [h for h in holes if h.thread]
    if reamed:
        yield f"ream {named(reamed)}"
    if tapped:
        yield f"tap {named(tapped)}"


def _entries(hole: HoleRow) -> list[str]:
    return [e for e in hole.entry.split(" + ") if e]
