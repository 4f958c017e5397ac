"""Words and figures for the panes, in the sheet's unit."""

from __future__ import annotations

from lathed_solid.errors import LathedError
from lathed_solid.ledger import Callout, Limits
from lathed_solid.part import (
    Document,
    ExtrudeStep,
    HoleStep,
    Radial,
    RevolveStep,
    SketchStep,
    StepBase,
    TurnedStep,
    scope,
)
from lathed_solid.proof import VerdictRow
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import angle, fixed, length, trim


def step_detail(document: Document, step: StepBase) -> str:
    """The second line of a route row."""
    try:
        evaluate = scope(document)
        if isinstance(step, TurnedStep):
            section = step.resolve(evaluate)
            count = len(step.table.stations)
            return f"{count} station{'s' if count != 1 else ''} · {length(section.length, document.unit)} long"
        if isinstance(step, HoleStep):
            hole = step.resolve(evaluate)
            size = f"⌀{length(2 * hole.radius, document.unit)}"
            if isinstance(step.places, Radial):
                return f"{size} · radial · at {length(hole.reach, document.unit)}"
            return f"{size} · on ⌀{length(2 * hole.reach, document.unit)}" if hole.reach else f"{size} · on the axis"
        if isinstance(step, SketchStep):
            n, k = len(step.sketch.curves), len(step.sketch.constraints)
            return f"{n} curve{'s' if n != 1 else ''} · {k} constraint{'s' if k != 1 else ''}"
        if isinstance(step, ExtrudeStep):
            far = "all" if step.distance is None else length(evaluate(step.distance, "length"), document.unit)
            way = {"front": "", "back": " · back", "both": " · to both sides"}[step.side]
            return (
                f"{len(step.regions) or 'all'} regions · through {far}{way}" if step.distance is None else f"{far}{way}"
            )
        if isinstance(step, RevolveStep):
            return f"about {step.axis} · {angle(evaluate(step.angle, 'angle'))}"
    except LathedError as exc:
        return exc.what
    return "kept as it is"


def shown_value(value: float | None, kind: str, unit: LengthUnit) -> str:
    """A measured size with all its decimals; empty for None."""
    if value is None:
        return ""
    return angle(value) if kind == "angle" else fixed(value, unit)


def shown_deviation(value: float | None, kind: str, unit: LengthUnit) -> str:
    if value is None:
        return ""
    if kind == "angle":
        return angle(value)
    text = fixed(value, unit)
    return text.replace("-", "−") if float(text) < 0 else ("+" + text if float(text) > 0 else text)


def limits_text(callout: Callout, bounds: Limits) -> str:
    """``32 ±0.3`` or ``25 0/−0.013``; the nominal alone when there are no limits."""
    if bounds.low is None and bounds.high is None:
        return f"{_size(callout, callout.nominal)} (no limits)"
    if bounds.high is None or bounds.low is None:
        word, value = ("min", bounds.low) if bounds.high is None else ("max", bounds.high)
        return f"{_size(callout, value or 0.0)} {word}"
    upper, lower = bounds.high - callout.nominal, bounds.low - callout.nominal
    if abs(upper + lower) < 1e-9:
        return f"{_size(callout, callout.nominal)} ±{_size(callout, upper)}"
    return f"{_size(callout, callout.nominal)} {_signed(callout, upper)}/{_signed(callout, lower)}"


def _size(callout: Callout, value: float) -> str:
    return angle(value) if callout.kind == "angle" else length(value, callout.unit)


def _signed(callout: Callout, value: float) -> str:
    text = _size(callout, abs(value))
    return "0" if abs(value) < 1e-9 else ("+" if value > 0 else "−") + text


def flag_text(row: VerdictRow, unit: LengthUnit) -> str:
    """The flag in the 3D pane: ``Ø25 h6 → 24.940 ■ out by 0.047``."""
    sign = {"in": "○", "near": "△", "out": "■", "not found": "?"}[row.verdict]
    text = f"{row.note} → {shown_value(row.measured, row.kind, unit)}  {sign} {row.verdict}"
    if row.verdict == "out" and row.beyond > 0:
        text += f" by {shown_value(row.beyond, row.kind, unit)}"
    return text


def grams(value: float | None) -> str:
    """A mass in g, or kg from 10 kg on."""
    if value is None:
        return ""
    return f"{trim(value / 1000, 4)} kg" if value >= 10_000 else f"{value:.1f} g"
