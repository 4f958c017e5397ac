"""Marking: the ledger against the drawing's notes, and the solid against the drawn one.

Callouts are paired one to one: first those that say the same (role, nominal, limits, count), then, of what is left,
those of one kind whose nominals are nearest. What stays without a partner on the drawing's side is missing, on the
other's it is surplus. The solid is the drawn one when volume, area and the principal moments of inertia are, to 1e-6
of each: no matter how it lies, and whichever way it was made. A mirrored part has the same figures: of that the drawing
laid over the part bears witness.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from lathed_solid.exercises.tasks import Exercise, Figures
from lathed_solid.ledger import Callout
from lathed_solid.part import Document
from lathed_solid.proof.report import Report
from lathed_solid.quantity.formatting import volume

#: equal figures of a solid, as a share of each
SAME = 1e-6

Kind = Literal["missing", "otherwise", "surplus", "verdict", "mass", "shape", "built"]


@dataclass(frozen=True)
class Mark:
    """One thing that was looked at: ``ok``, what was found in words, what to try, and the callout it is about."""

    kind: Kind
    ok: bool
    words: str
    hint: str = ""
    balloon: int | None = None


def mark(
    task: Exercise, document: Document, summary: Mapping[str, Any] | None, report: Report | None
) -> tuple[Mark, ...]:
    """What is right and what is not yet, in the order in which it is best mended; ``summary`` and ``report`` of the
    last build, None while there is none.
    """
    marks = list(_ledger(task.answer(), document))
    if summary is None or report is None or not summary["solids"]:
        return (*marks, Mark("built", False, "there is no solid yet", "make the first step at the Shape desk"))
    marks.append(_complete(report))
    marks += _verdicts(report)
    marks.append(_solid(task.figures(), summary, document))
    return tuple(marks)


def words_of(marks: Sequence[Mark]) -> str:
    """The whole in a line."""
    left = sum(not m.ok for m in marks)
    return "done: the part is as drawn" if not left else f"{left} to mend of {len(marks)} looked at"


def _said(c: Callout) -> tuple[Any, ...]:
    def near(v: float | None) -> float | None:
        return None if v is None else round(v, 6)

    return c.role, near(c.nominal), near(c.low), near(c.high), c.count, near(c.angle)


def _ledger(answer: Document, document: Document) -> list[Mark]:
    """The drawing's callouts, each entered, entered otherwise, or missing; then what the drawing does not say."""
    wanted, had = list(answer.callouts), list(document.callouts)
    pairs: dict[int, Callout] = {}
    for w in wanted:
        same = next((h for h in had if _said(h) == _said(w)), None)
        if same is not None:
            pairs[w.balloon] = same
            had.remove(same)
    entered = len(pairs)
    marks = []
    for w in (w for w in wanted if w.balloon not in pairs):
        like = [h for h in had if h.role == w.role] or [h for h in had if h.kind == w.kind]
        near = min(like, key=lambda h: abs(h.nominal - w.nominal), default=None)
        if near is None:
            marks.append(
                Mark("missing", False, f"{w.note} is not in the ledger", "enter it, or take it from the sheet")
            )
            continue
        had.remove(near)
        what = f"{near.note} ({near.balloon}): the drawing says {w.note}"
        if near.note == w.note:
            what = f"{near.note} ({near.balloon}) was changed after it was read"
        marks.append(Mark("otherwise", False, what, "F2 on the note mends it", near.balloon))
    words = f"{entered} of {len(wanted)} callouts as drawn"
    marks.insert(0, Mark("missing", entered == len(wanted), words, "" if entered == len(wanted) else "see below"))
    marks += [
        Mark("surplus", False, f"{h.note} ({h.balloon}) is not on the drawing", "remove it, or make it a parameter",
             h.balloon)
        for h in had
    ]  # fmt: skip
    return marks


def _complete(report: Report) -> Mark:
    if report.complete and not report.asunder:
        return Mark("built", True, "every step is built, the part is one piece")
    return Mark("built", False, "; ".join(report.faults), "the route shows the step that failed")


def _verdicts(report: Report) -> list[Mark]:
    bad = [r for r in report.rows if r.verdict not in ("in", "near")]
    if not bad:
        return [Mark("verdict", bool(report.rows), f"{len(report.rows)} callouts are in")]
    return [
        Mark("verdict", False, f"{r.note} ({r.balloon}) is {r.verdict}", "click the row at verdicts: its faces light",
             r.balloon)
        for r in bad
    ]  # fmt: skip


def _solid(wanted: Figures, summary: Mapping[str, Any], document: Document) -> Mark:
    if summary.get("mass_g") is None:
        return Mark("mass", False, "the material has no density", "give the drawing's material in the properties")
    found = Figures.of(summary)
    off = found.volume - wanted.volume
    if abs(off) > SAME * wanted.volume:
        more = "more" if off > 0 else "less"
        words = f"the solid has {volume(abs(off), document.unit, 1)} {more} than the drawn one"
        return Mark("mass", False, words, "ask which slip explains it")
    alike = abs(found.area - wanted.area) <= SAME * wanted.area and all(
        abs(a - b) <= SAME * b for a, b in zip(found.moments, wanted.moments, strict=True)
    )
    if not alike:
        return Mark("shape", False, "the volume is right, but something is in another place", "lay the drawing over it")
    return Mark("shape", True, "volume, area and moments of inertia are those of the drawn part")
