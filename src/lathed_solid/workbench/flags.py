"""What hangs over the solid: flags of callouts on their faces, bare balloons, and dimensions across a cut."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from lathed_solid.kernel.vectors import Triple
from lathed_solid.proof import Report, VerdictRow
from lathed_solid.quantity import LengthUnit
from lathed_solid.workbench.describe import flag_text


@dataclass(frozen=True)
class Flag:
    """A label in space, hung on the face of that name; ``alarm`` frames it. Without ``text`` it is a bare balloon."""

    face: str
    head: str
    text: str
    alarm: bool = False
    #: where it hangs instead, mm in the room
    at: Triple | None = None


@dataclass(frozen=True)
class Measure:
    """A dimension drawn in space from one place to another, mm."""

    start: Triple
    end: Triple
    text: str


def across(low: Triple, high: Triple, show: Callable[[float], str]) -> list[Measure]:
    """The extents of a flat box as two dimensions along its lower edges, a little off them."""
    axes = [k for k in range(3) if high[k] - low[k] > 1e-4]
    if len(axes) != 2:
        return []
    off = 0.06 * max(high[k] - low[k] for k in axes)
    out = []
    for k, other in (axes, axes[::-1]):
        a, b = list(low), list(low)
        b[k] = high[k]
        a[other] = b[other] = low[other] - off
        out.append(Measure((a[0], a[1], a[2]), (b[0], b[1], b[2]), show(high[k] - low[k])))
    return out


def flags_of(report: Report, hovered: VerdictRow | None, unit: LengthUnit, *, balloons: bool) -> list[Flag]:
    """What is out always has a flag, and so has the row that is pointed at; ``balloons``: all others a bare one."""
    rows = [r for r in report.rows if r.verdict == "out" and r.faces]
    if hovered is not None and hovered.faces and hovered not in rows:
        rows.insert(0, hovered)
    flags = [Flag(r.faces[0], str(r.balloon), flag_text(r, unit), r.verdict == "out") for r in rows]
    if balloons:
        told = {f.head for f in flags}
        flags += [Flag(r.faces[0], str(r.balloon), "") for r in report.rows if r.faces and str(r.balloon) not in told]
    return flags
