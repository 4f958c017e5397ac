"""Words and figures for the panes, in the sheet's unit."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

from lathed_solid.errors import LathedError
from lathed_solid.ledger import Callout, Limits
from lathed_solid.part import Document, SketchStep, StepBase, TurnedStep, UnknownStep, scope
from lathed_solid.part.steps import FieldOf
from lathed_solid.proof import SIGNS, VerdictRow
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import angle, fixed, length, trim
from lathed_solid.quantity.tolerances import ROUNDING

if TYPE_CHECKING:
    from lathed_solid.part import ExtrudeStep, HoleStep


def step_detail(document: Document, step: StepBase) -> str:
    """The second line of a route row."""
    try:
        if isinstance(step, TurnedStep):
            section = step.resolve(scope(document))
            count = len(step.table.stations)
            return f"{count} station{'s' if count != 1 else ''} · {length(section.length, document.unit)} long"
        if isinstance(step, SketchStep):
            n, k = len(step.sketch.curves), len(step.sketch.constraints)
            return f"{n} curve{'s' if n != 1 else ''} · {k} constraint{'s' if k != 1 else ''}"
        if isinstance(step, UnknownStep):
            return "kept as it is"
        return _by_kind(document, step)
    except LathedError as exc:
        return exc.what


def _by_kind(document: Document, step: Any) -> str:
    """By its kind's name, so that kinds are imported only where a part has them."""
    evaluate, unit = scope(document), document.unit
    if step.kind == "hole":
        return _hole(document, step)
    if step.kind == "extrude":
        return _extrude(document, step)
    if step.kind == "revolve":
        return f"about {step.axis} · {angle(evaluate(step.angle, 'angle'))}"
    if step.kind == "fillet":
        radii = [r for r in (step.radius, step.end_radius) if r is not None]
        return " to ".join(f"R{length(evaluate(r, 'length'), unit)}" for r in radii)
    if step.kind == "chamfer":
        leg = length(evaluate(step.leg, "length"), unit)
        if step.angle is not None:
            return f"{leg} x {angle(evaluate(step.angle, 'angle'))}"
        return f"{leg} x {length(evaluate(step.second, 'length'), unit) if step.second else '45°'}"
    step.resolve(evaluate)
    return " · ".join(_field(document, f) for f in step.fields()[:3])


def _field(document: Document, field: FieldOf) -> str:
    """A field's name and value, in the sheet's unit."""
    value = scope(document)(field.text, field.kind)
    if field.kind == "angle":
        return f"{field.path} {angle(value)}"
    return f"{field.path} {length(value, document.unit) if field.kind == 'length' else trim(value, 3)}"


def _hole(document: Document, step: HoleStep) -> str:
    hole = step.resolve(scope(document))
    size, reach = f"⌀{length(2 * hole.radius, document.unit)}", hole.places.reach
    if step.places.kind == "radial":
        return f"{size} · radial · at {length(reach, document.unit)}"
    if step.places.kind == "circle":
        return f"{size} · on ⌀{length(2 * reach, document.unit)}" if reach else f"{size} · at the centre"
    words = {
        "grid": "in rows",
        "table": "listed places",
        "sketch": "points of a sketch",
        "edges": "on round edges",
        "walls": "from two edges",
    }
    return f"{size} · {words[step.places.kind]}"


def _extrude(document: Document, step: ExtrudeStep) -> str:
    way = {"back": " · back", "both": " · to both sides", "into": " · into the material"}.get(step.side, "")
    if step.until:
        return f"{len(step.regions) or 'all'} regions{way}"
    if step.distance is None:
        return f"{len(step.regions) or 'all'} regions · through all{way}"
    far = length(scope(document)(step.distance, "length"), document.unit)
    if step.second is not None:
        far += f" and {length(scope(document)(step.second, 'length'), document.unit)} back"
    more = [w for w, on in (("tapered", step.taper), ("walled", step.wall)) if on]
    return " · ".join([f"{far}{way}", *more])


def shown_value(value: float | None, kind: str, unit: LengthUnit) -> str:
    """A measured size with all its decimals; empty for None."""
    if value is None:
        return ""
    if kind == "taper":
        return f"1:{value:.5g}"
    return angle(value) if kind == "angle" else fixed(value, unit)


def shown_deviation(value: float | None, kind: str, unit: LengthUnit) -> str:
    """What a size is off, with its sign; empty for None."""
    if value is None:
        return ""
    if kind == "angle":
        return angle(value)
    if kind == "taper":
        return f"{value:+.4g}".replace("-", "−") if abs(value) > ROUNDING else "0"
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
    if abs(upper + lower) < ROUNDING:
        return f"{_size(callout, callout.nominal)} ±{_size(callout, upper)}"
    return f"{_size(callout, callout.nominal)} {_signed(callout, upper)}/{_signed(callout, lower)}"


def _size(callout: Callout, value: float) -> str:
    if callout.kind == "taper":
        return f"{value:.5g}"
    return angle(value) if callout.kind == "angle" else length(value, callout.unit)


def _signed(callout: Callout, value: float) -> str:
    text = _size(callout, abs(value))
    return "0" if abs(value) < ROUNDING else ("+" if value > 0 else "−") + text


def flag_text(row: VerdictRow, unit: LengthUnit) -> str:
    """The flag in the 3D pane: ``Ø25 h6 → 24.940 ■ out by 0.047``."""
    text = f"{row.note} → {shown_value(row.measured, row.kind, unit)}  {SIGNS[row.verdict]} {row.verdict}"
    if row.verdict == "out" and row.beyond > 0:
        text += f" by {shown_value(row.beyond, row.kind, unit)}"
    elif row.verdict == "out" and row.reason:
        text += f": {row.reason}"
    return text


def grams(value: float | None) -> str:
    """A mass in g, or kg from 10 kg on."""
    if value is None:
        return ""
    return f"{trim(value / 1000, 4)} kg" if value >= 10_000 else f"{value:.1f} g"


def bodies_of(document: Document, owners: Sequence[int]) -> dict[int, str]:
    """The bodies of a part by the steps that began them: a step's remark is the name of its body."""
    out = {}
    for number in dict.fromkeys(owners):
        step = document.step(number)
        if step is not None:
            out[number] = f"{number}  {step.remark.strip() or step.title()}"
    return out
