"""The rows of the Hand over desk's tables."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from lathed_solid.engine.protocol import BuildReply
from lathed_solid.part import Document
from lathed_solid.reports.drawing.ink import of_note
from lathed_solid.reports.drawing.model import DrawnSheet


@dataclass(frozen=True)
class NoteRow:
    """A note of the drawing: its first balloon, what it says, where; ``why`` it is drawn at no feature."""

    balloon: int
    text: str
    where: str
    why: str = ""


def note_rows(sheets: Sequence[DrawnSheet]) -> list[NoteRow]:
    """By balloon; notes that are drawn at no feature first."""
    many = len(sheets) > 1
    drawn = []
    for n, sheet in enumerate(sheets, 1):
        place = f", sheet {n}" if many else ""
        drawn += [NoteRow(d.balloons[0], d.words.text, f"{d.view}{place}") for d in sheet.dimensions]
        drawn += [NoteRow(k.balloons[0], of_note(k), f"{k.view}{place}") for k in sheet.leaders]
    left = [NoteRow(o.balloons[0], o.text, "beside the views", o.why) for o in (sheets[0].left_out if sheets else ())]
    return [*left, *sorted(drawn, key=lambda r: r.balloon)]


@dataclass(frozen=True)
class WayRow:
    """A step as work: how many fields were filled, how long it took to build, what it added or took away (mm3)."""

    number: int
    title: str
    entries: int
    ms: float
    volume: float | None


#: fields of a step that are none of its sizes
_OWN = frozenset({"number", "kind", "suspended", "remark", "schema_version"})


def way_rows(document: Document, reply: BuildReply) -> list[WayRow]:
    """Step by step, as it was last built; a step that stood in the cache took no time."""
    results = {s.number: s for s in reply.steps}
    out = []
    before = 0.0
    for step in document.steps:
        found = results.get(step.number)
        change = None
        if found is not None and found.volume_mm3 is not None and not step.suspended:
            change, before = found.volume_mm3 - before, found.volume_mm3
        filled = step.model_dump(exclude_defaults=True, exclude=set(_OWN))
        out.append(WayRow(step.number, step.title(), _count(filled), 0.0 if found is None else found.ms, change))
    return out


def _count(value: object) -> int:
    """How many values there are in fields within fields."""
    if isinstance(value, dict):
        return sum(map(_count, value.values()))
    if isinstance(value, (list, tuple)):
        return sum(map(_count, value))
    return int(value not in (None, ""))


@dataclass(frozen=True)
class Sums:
    """One way of making a part, summed up; its steps as ``rows``."""

    name: str
    rows: tuple[WayRow, ...]
    steps: int
    entries: int
    callouts: int
    ms: float
    grams: float | None


def sums(document: Document, reply: BuildReply) -> Sums:
    """Of a part as built."""
    rows = way_rows(document, reply)
    return Sums(document.name, tuple(rows), len(rows), sum(r.entries for r in rows), len(document.callouts),
                sum(r.ms for r in rows), reply.summary.get("mass_g"))  # fmt: skip
