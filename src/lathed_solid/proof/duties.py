"""Judging a callout's duties: each by itself, the row by the worst of them.

The order from bad to good is out, not found, no limit, near, in. What was measured of a duty is kept even when it is
in.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from typing import Any

from lathed_solid.ledger import Callout, Duty, Limits
from lathed_solid.ledger.limits import class_of
from lathed_solid.proof.findings import Finding
from lathed_solid.proof.verdicts import SLACK, DutyRow, Verdict, judge
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import angle as angle_text
from lathed_solid.quantity.formatting import length
from lathed_solid.standards import StandardError
from lathed_solid.standards.thread_limits import split_class

WORST: tuple[Verdict, ...] = ("out", "not found", "no limit", "near", "in")
#: mm, what a pitch may be off by and still be the one that is said
PITCH = 1e-6


def worst(verdicts: Sequence[Verdict]) -> Verdict:
    """The worst of several; in, when there are none."""
    return min(verdicts, key=WORST.index, default="in")


#: limits of a size or angle of this callout: (value, is an angle) -> limits
Bounds = Callable[[float, bool], Limits]


def judge_duties(callout: Callout, findings: Sequence[Finding], found: int, bounds: Bounds) -> list[DutyRow]:
    """A row for each duty of the callout beside its size. ``found``: sound places."""
    return [
        _row(callout, d, [f for f in findings if f.kind == d.kind], findings, found, bounds) for d in callout.duties
    ]


def _row(
    callout: Callout, duty: Duty, own: Sequence[Finding], findings: Sequence[Finding], found: int, bounds: Bounds
) -> DutyRow:
    said = duty.said(callout.unit)
    if duty.kind == "places":
        return _places(duty, own, found)
    if duty.kind in ("geometry", "datum"):
        return _geometry(callout, duty, own)
    if not own:
        return DutyRow(what=duty.kind, said=said, measured="", verdict="not found", reason="nothing measured tells it")
    broken = next((f for f in own if f.holds is False), None)
    if broken is not None:
        return DutyRow(what=duty.kind, said=said, measured="no", verdict="out", reason=broken.reason)
    return _JUDGES[duty.kind](callout, duty, own, bounds)


def _geometry(callout: Callout, duty: Duty, own: Sequence[Finding]) -> DutyRow:
    """A tolerance of form, direction or place, where the model shows the relation; a datum is only named."""
    said = duty.said(callout.unit)
    what = "datum" if duty.kind == "datum" else duty.word
    told = [f for f in own if f.word == said and f.value is not None]
    if duty.kind == "datum" or not told:
        why = next((f.reason for f in own if f.word == said and f.reason), "")
        return DutyRow(what=what, said=said, measured="", verdict="in", reason=why, judged=False)
    off = max(f.value or 0.0 for f in told)
    verdict: Verdict = "in" if off <= (duty.value or 0.0) + SLACK else "out"
    shown = length(off, callout.unit)
    return DutyRow(what=what, said=said, measured=shown, verdict=verdict,
                   reason="" if verdict == "in" else f"{what}: {shown} as modelled, {said} is asked")  # fmt: skip


def _places(duty: Duty, own: Sequence[Finding], found: int) -> DutyRow:
    said = int(duty.value or 0)
    beyond = next((f for f in own if f.holds is False), None)
    if beyond is not None:
        return DutyRow(what="places", said=f"{said}", measured=f"{found}", verdict="out", reason=beyond.reason)
    counts = {found, *(int(f.value) for f in own if f.value is not None)}
    verdict: Verdict = "in" if said in counts else "out"
    shown = said if verdict == "in" else max(counts)
    reason = "" if verdict == "in" else f"{shown} places found, the note says {said}"
    return DutyRow(what="places", said=f"{said}", measured=f"{shown}", verdict=verdict, reason=reason)


def _form(callout: Callout, duty: Duty, own: Sequence[Finding], bounds: Bounds) -> DutyRow:
    words = sorted({f.word for f in own if f.word})
    fits = {"round": {"hole", "pin", "round"}, "sphere": {"sphere"}, "hole": {"hole"}, "pin": {"pin"}}
    strange = [w for w in words if w not in fits.get(duty.word, {duty.word})]
    verdict: Verdict = "out" if strange else "in" if words else "not found"
    reason = f"it is a {strange[0]}, the note says a {duty.word}" if strange else ""
    return DutyRow(what="form", said=duty.word, measured=", ".join(words), verdict=verdict, reason=reason)


def _holds(callout: Callout, duty: Duty, own: Sequence[Finding], bounds: Bounds) -> DutyRow:
    verdict: Verdict = "in" if any(f.holds for f in own) else "not found"
    return DutyRow(what=duty.kind, said="yes", measured="yes" if verdict == "in" else "", verdict=verdict)


def _sized(callout: Callout, duty: Duty, own: Sequence[Finding], bounds: Bounds) -> DutyRow:
    """A size of its own: a second leg, a bevel's angle, the other width of a square."""
    is_angle = duty.kind == "leg angle"
    nominal = duty.value or 0.0
    limits = Limits(duty.low, duty.high, "written") if duty.low is not None or duty.high is not None else (
        bounds(nominal, is_angle)
    )  # fmt: skip
    value = max((f.value for f in own if f.value is not None), key=lambda v: abs(v - nominal))
    verdict = judge(value, limits.low, limits.high)
    reason = limits.source if verdict == "no limit" else _against(value, limits, is_angle, callout.unit, verdict)
    return DutyRow(
        what=duty.kind, said=duty.said(callout.unit), measured=_text(value, is_angle, callout.unit), verdict=verdict,
        reason=reason,
    )  # fmt: skip


def _against(value: float, limits: Limits, is_angle: bool, unit: LengthUnit, verdict: Verdict) -> str:
    if verdict != "out":
        return ""
    low, high = (None if x is None else _text(x, is_angle, unit) for x in (limits.low, limits.high))
    return f"{_text(value, is_angle, unit)} is not within {low or '…'} to {high or '…'}"


def _spacing(callout: Callout, duty: Duty, own: Sequence[Finding], bounds: Bounds) -> DutyRow:
    limits = bounds(math.pi / 2, True)
    off = max((f.value or 0.0 for f in own), default=0.0)
    allowed = (limits.high - math.pi / 2) if limits.high is not None else 0.0
    verdict: Verdict = "in" if off <= allowed + SLACK else "out"
    words = max(own, key=lambda f: f.value or 0.0).word
    reason = "" if verdict == "in" else f"the places are not equally spaced: {words}"
    return DutyRow(what=duty.kind, said="equal", measured=f"within {angle_text(off)}", verdict=verdict, reason=reason)


def _same_number(callout: Callout, duty: Duty, own: Sequence[Finding], bounds: Bounds) -> DutyRow:
    value = max((f.value or 0.0 for f in own), key=lambda v: abs(v - (duty.value or 0.0)))
    verdict: Verdict = "in" if abs(value - (duty.value or 0.0)) <= PITCH else "out"
    shown = f"{value:g}" if duty.kind == "starts" else length(value, callout.unit)
    reason = "" if verdict == "in" else f"the thread has {duty.kind} {shown}"
    return DutyRow(
        what=duty.kind, said=duty.said(callout.unit), measured=shown, verdict=verdict, reason=reason
    )  # fmt: skip


def _same_word(callout: Callout, duty: Duty, own: Sequence[Finding], bounds: Bounds) -> DutyRow:
    words = sorted({f.word for f in own})
    verdict: Verdict = "in" if words == [duty.word] else "out"
    reason = "" if verdict == "in" else f"the thread is {', '.join(words)}-handed"
    return DutyRow(what=duty.kind, said=duty.word, measured=", ".join(words), verdict=verdict, reason=reason)


def _thread_class(callout: Callout, duty: Duty, own: Sequence[Finding], bounds: Bounds) -> DutyRow:
    """The cylinder that the thread stands on against the class: the crest of a screw, the minor diameter of a nut.

    A drawn screw's cylinder stands at the nominal diameter or within the limits of its major diameter.
    """
    shown = sorted({f.word for f in own if f.word})
    said = split_class(duty.word.replace("×", "x"))[1]
    if any(w not in said for w in shown):
        reason = f"the thread is made to {', '.join(shown)}"
        return DutyRow(what=duty.kind, said=duty.word, measured=", ".join(shown), verdict="out", reason=reason)
    try:
        limits = class_of(duty.word)
    except StandardError as exc:
        return DutyRow(what=duty.kind, said=duty.word, measured="", verdict="no limit", reason=exc.what)
    low, high = limits.minor if limits.internal else limits.major
    if not limits.internal and high is not None:
        high = max(high, callout.nominal)
    values = [f.value for f in own if f.value is not None]
    verdict = worst([judge(v, low, high) for v in values])
    text = ", ".join(sorted({length(v, callout.unit) for v in values}))
    which = "minor" if limits.internal else "major"
    reason = "" if verdict == "in" else (
        f"⌀{text} is not within the {which} diameter of {duty.word}: "
        f"{length(low or 0.0, callout.unit)} to {length(high, callout.unit) if high is not None else '…'}"
    )  # fmt: skip
    return DutyRow(what=duty.kind, said=duty.word, measured=f"⌀{text}", verdict=verdict, reason=reason)


def _text(value: float, is_angle: bool, unit: LengthUnit) -> str:
    return angle_text(value) if is_angle else length(value, unit)


_JUDGES: dict[str, Any] = {
    "form": _form,
    "through": _holds,
    "concentric": _holds,
    "equal spacing": _spacing,
    "both ways": _sized,
    "second leg": _sized,
    "leg angle": _sized,
    "pitch": _same_number,
    "starts": _same_number,
    "hand": _same_word,
    "thread class": _thread_class,
}
