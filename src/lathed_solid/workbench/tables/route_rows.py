"""The route's rows: one a step, with its state after the last build."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from lathed_solid.engine.results import StepResult
from lathed_solid.part import Document, StepBase
from lathed_solid.part.edits import dependents
from lathed_solid.workbench.describe import step_detail


@dataclass(frozen=True)
class RouteRow:
    """What a row shows. ``state``: waiting, built, failed, suspended, later."""

    number: int
    title: str
    detail: str
    balloons: tuple[int, ...]
    state: str
    message: str = ""
    #: which steps it stands on, and which stand on it, in words
    ties: str = ""


def route_rows(document: Document, results: Sequence[StepResult] | None, stand: int | None = None) -> list[RouteRow]:
    """Rows for the steps and the results of their last build; those after ``stand`` are later work."""
    by_number = {r.number: r for r in results or []}
    rows = [_row(document, s, by_number.get(s.number)) for s in document.steps]
    return [replace(r, state="later") if stand is not None and r.number > stand else r for r in rows]


def _in_pieces(result: StepResult) -> str:
    """Told in passing: what must be one piece is asked at the Prove desk."""
    return f"stands in {result.pieces} pieces so far" if result.pieces > 1 else ""


def _row(document: Document, step: StepBase, result: StepResult | None) -> RouteRow:
    state, message = "waiting", ""
    if step.suspended:
        state = "suspended"
    elif result is not None:
        state, message = ("built", _in_pieces(result)) if result.ok else ("failed", result.message)
    on = ", ".join(map(str, sorted(step.stands_on() - {step.number})))
    carries = ", ".join(map(str, dependents(document, step.number)))
    ties = "; ".join(x for x in (f"stands on {on}" if on else "", f"carries {carries}" if carries else "") if x)
    title = step.remark.strip() or step.title()
    return RouteRow(step.number, title, step_detail(document, step), step.balloons(), state, message, ties)
