"""From measured fields to measured callouts, and to verdicts.

Sizes of a feature itself (a diameter of a hole, a depth, a radius) are what was measured there, in the callout's own
kind: a radius field shows a diameter callout as twice its radius. Others are solved for (``derived``), first those
whose fields hold nothing else, then those that need others' measured values.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from lathed_solid.ledger import Callout, Limits
from lathed_solid.ledger.limits import of_class
from lathed_solid.ledger.roles import ASIDE, DEPTHS, RADII, ROUND, Role
from lathed_solid.part import Document
from lathed_solid.proof.derived import solve_for
from lathed_solid.proof.duties import judge_duties, worst
from lathed_solid.proof.findings import Finding
from lathed_solid.proof.plan import Plan, Showing, balloons_in
from lathed_solid.proof.verdicts import DutyRow, Verdict, VerdictRow, judge
from lathed_solid.quantity.tolerances import LINEAR

#: ways of measuring that show a diameter, or a radius
DIAMETERS = frozenset({"diameter", "arc_diameter", "diameter_at", "mouth"})
RADIAL = frozenset({"radius", "coil_radius"})
#: sizes of a feature itself, by the ways of measuring that show them directly
OWN: dict[Role, frozenset[str]] = {
    "thread length": frozenset({"thread_length", "real_length"}),
    "keyway width": frozenset({"distance"}),
    "keyway depth": frozenset({"recess"}),
    "keyway length": frozenset({"slot"}),
    "groove width": frozenset({"distance"}),
    "chamfer": frozenset({"leg"}),
    "general chamfer": frozenset({"leg"}),
    "taper": frozenset({"taper"}),
    "bolt circle": frozenset({"bolt_circle"}),
    "major diameter": frozenset({"thread_major", "real_major"}),
    **dict.fromkeys(DEPTHS, frozenset({"depth"})),
}
#: ways that show a round thing, and its bevel
ROUND_WAYS = DIAMETERS | RADIAL | {"thread_major", "real_major", "bolt_circle"}
BEVELS = frozenset({"leg", "second_leg", "bevel_angle"})


@dataclass(frozen=True)
class Shown:
    """One showing as measured: the field's own size (mm, rad, ratio), or why there is none."""

    showing: Showing
    value: float | None
    found: int = 0
    faces: tuple[str, ...] = ()
    at: tuple[str, ...] = ()
    findings: tuple[Finding, ...] = ()
    reason: str = ""


@dataclass(frozen=True)
class Value:
    """What one showing says of its callout, in the callout's own kind; ``strange``: why it is another kind of size."""

    value: float
    shown: Shown
    strange: str = ""
    direct: bool = True


def values_of(
    document: Document, plans: Sequence[Plan], shown: Mapping[int, Sequence[Shown]]
) -> dict[int, list[Value]]:
    """What was measured of every callout, by balloon. Those that rest on others come after them."""
    out: dict[int, list[Value]] = {}
    known: dict[int, float] = {}
    callouts = {c.balloon: c for c in document.callouts}
    waiting: list[tuple[int, Shown]] = []
    for p in plans:
        measured = [s for s in shown.get(p.balloon, ()) if s.value is not None]
        mixed = [s for s in measured if balloons_in(document, s.showing.text) - {f"#{p.balloon}"}]
        # where a callout stands with others it may only be a part of the size (a wall beside a rounding); where it
        # stands nowhere by itself, what stands there is the size
        apart = mixed if len(mixed) < len(measured) else []
        for s in measured:
            found = None if s in apart else _direct(callouts[p.balloon], s)
            if found is None:
                waiting.append((p.balloon, s))
            else:
                out.setdefault(p.balloon, []).append(found)
    moved = True
    while moved:
        moved = False
        for b, found_values in out.items():
            known.setdefault(b, max((v.value for v in found_values), key=lambda v: abs(v - callouts[b].nominal)))
        for balloon, s in list(waiting):
            others = [int(n[1:]) for n in balloons_in(document, s.showing.text) if n != f"#{balloon}"]
            if any(o not in known for o in others):
                continue
            waiting.remove((balloon, s))
            x = solve_for(document, s.showing, callouts[balloon], s.value or 0.0, {o: known[o] for o in others})
            if x is not None:
                out.setdefault(balloon, []).append(Value(x, s, direct=False))
                moved = True
    return out


def _direct(callout: Callout, s: Shown) -> Value | None:
    """The callout's size where it is the feature's own, or stands alone in its field; else None."""
    value, kind = s.value or 0.0, s.showing.probe.kind
    alone = s.showing.alone(callout)
    if callout.role in ROUND and kind in RADIAL:
        return Value(2 * value, s)
    if callout.role in RADII and kind in DIAMETERS:
        return Value(value / 2, s)
    if (callout.role in ROUND and kind in DIAMETERS) or (callout.role in RADII and kind in RADIAL):
        return Value(value, s)
    if callout.role == "countersink angle" and kind in ("cone_angle", "included"):
        return Value(2 * value if kind == "cone_angle" else value, s)
    if kind in OWN.get(callout.role, ()):
        return Value(value, s)
    if not alone:
        return None
    return Value(value, s, _strange(callout, s))


def _strange(callout: Callout, s: Shown) -> str:
    """Why a callout that stands alone in a field is no size of that kind; empty when it is."""
    kind, role = s.showing.probe.kind, callout.role
    if not s.showing.text:
        return ""
    if role in ROUND | RADII and kind not in ROUND_WAYS:
        what = "diameter" if role in ROUND else "radius"
        return f"the note says a {what}, {s.showing.where} shows {'a bevel' if kind in BEVELS else 'a length'}"
    if role in ("chamfer", "general chamfer") and kind not in BEVELS:
        return f"the note says a chamfer, {s.showing.where} shows no bevel"
    return ""


def verdict_row(
    document: Document, callout: Callout, p: Plan, shown: Sequence[Shown], values: Sequence[Value]
) -> VerdictRow:
    """The verdict of one callout: its size, its duties, and the worst of them."""
    findings = [f for v in values for f in v.shown.findings]
    if callout.duty("both ways") is not None:
        findings += _both_ways(values)
    leg = next((f.value for f in findings if f.kind == "second leg"), None)
    bounds = _fitted(callout, document.limits(callout), findings)
    reading = document.reading(callout.balloon)
    uncertainty = reading.uncertainty if reading and callout.drive == "measured" else 0.0
    found = max(values, key=lambda v: (bool(v.strange), abs(v.value - callout.nominal)), default=None)
    duties: list[DutyRow] = []
    if found is None:
        verdict: Verdict = "not found"
        reason = p.reason or next((s.reason for s in shown if s.reason), "") or _rests_on(document, p, callout)
    else:
        size, reason = _size(callout, found, bounds, uncertainty)
        places = _places(values)

        def bounds_of(nominal: float, is_angle: bool) -> Limits:
            like = replace_nominal(callout, nominal, is_angle)
            return document.limits(like, min(callout.nominal, leg or callout.nominal) if is_angle else None)

        beside = judge_duties(callout, findings, places, bounds_of)
        duties = [_size_row(callout, found, size, reason), *beside]
        verdict = worst([d.verdict for d in duties if d.judged])
        if verdict != size or not reason:
            reason = next((d.reason for d in duties if d.verdict == verdict and d.reason), reason)
    if found is None and callout.role in ASIDE:
        verdict, reason = "near", "it is kept and shown, and not judged here"
    if callout.reference and verdict == "out":
        verdict, reason = "near", f"a reference is shown, not judged: {reason or 'it differs'}"
    return VerdictRow(
        balloon=callout.balloon, note=callout.note, meaning=callout.meaning, kind=callout.kind,
        nominal=callout.nominal, low=bounds.low, high=bounds.high, limits_source=bounds.source,
        uncertainty=uncertainty, measured=None if found is None else found.value, verdict=verdict, reason=reason,
        used_by=p.used_by, faces=tuple(dict.fromkeys(f for v in values for f in v.shown.faces)),
        duties=tuple(duties), redress=document.decided(callout.balloon),
    )  # fmt: skip


def _both_ways(values: Sequence[Value]) -> list[Finding]:
    """A square shows on two pairs of faces that have none in common: the second is the other way."""
    first = next(iter(values), None)
    if first is None:
        return []
    others = [v for v in values if not set(v.shown.faces) & set(first.shown.faces)]
    return [Finding("both ways", v.value) for v in others]


def _places(values: Sequence[Value]) -> int:
    """How many places: showings at the same faces (a depth and the thread in it) are one set of places."""
    sets: list[tuple[set[tuple[str, tuple[float, float]]], int]] = []
    # where it stands in an expression another size is meant; only where it stands nowhere else does that count
    for v in [v for v in values if v.direct] or values:
        # along another way it is another size of the same place
        at, many = {(name, v.shown.showing.probe.along) for name in v.shown.at}, v.shown.found
        same = [s for s in sets if s[0] & at]
        sets = [s for s in sets if s not in same]
        sets.append((at.union(*(s[0] for s in same)), max([many, *(s[1] for s in same)])))
    return sum(many for _, many in sets)


def _size(callout: Callout, found: Value, bounds: Limits, uncertainty: float) -> tuple[Verdict, str]:
    if found.strange:
        return "out", found.strange
    verdict = judge(found.value, bounds.low, bounds.high, uncertainty)
    if verdict == "no limit":
        return verdict, bounds.source
    half = callout.kind in ("diameter", "radius") and verdict == "out"
    if half and abs(found.value - 2 * callout.nominal) < LINEAR:
        return verdict, f"it is twice what the note says: a {callout.kind} went into a field of the other kind"
    if half and abs(found.value - callout.nominal / 2) < LINEAR:
        return verdict, f"it is half of what the note says: a {callout.kind} went into a field of the other kind"
    return verdict, ""


def _size_row(callout: Callout, found: Value, verdict: Verdict, reason: str) -> DutyRow:
    what = callout.meaning or callout.role
    return DutyRow(what=what, said=callout.show(), measured=callout.show(found.value), verdict=verdict, reason=reason)


def _fitted(callout: Callout, bounds: Limits, findings: Sequence[Finding]) -> Limits:
    """A pair such as H7/g6 gives each side its own: the hole its first class, the shaft its second."""
    if not callout.fit or "/" not in callout.fit or callout.low is not None or callout.high is not None:
        return bounds
    hole, _, shaft = callout.fit.partition("/")
    words = {f.word for f in findings if f.kind == "form"}
    if words == {"hole"}:
        return of_class(callout.nominal, hole)
    if words == {"pin"}:
        return of_class(callout.nominal, shaft)
    return Limits(None, None, f"{callout.fit} is a pair: whether this is the hole or the shaft is not told")


def _rests_on(document: Document, p: Plan, callout: Callout) -> str:
    """Why nothing was told: what it hangs on was not measured."""
    for s in p.showings:
        others = sorted(int(n[1:]) for n in balloons_in(document, s.text) if n != callout.name)
        if others:
            return f"{s.where} holds {s.text}: callout {', '.join(map(str, others))} is not measured either"
    return "its field does not hang on it"


def replace_nominal(callout: Callout, nominal: float, is_angle: bool) -> Callout:
    """A callout like this one, of another size and without limits of its own."""
    return callout.model_copy(
        update={
            "nominal": nominal, "kind": "angle" if is_angle else callout.kind, "low": None, "high": None, "fit": None,
            "role": "angle" if is_angle else callout.role,
        }
    )  # fmt: skip
