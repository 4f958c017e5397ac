"""Threads on the finished solid: drawn ones by their data and the cylinder they stand on, real ones by their faces.

A real thread's pitch is read along a line parallel to its axis, half way between crest and root: the ray meets a flank
into the material and one out of it once a turn. A second line a twelfth of a turn on meets them later by lead / 12 for
a right hand, earlier for a left one; lead / pitch is the number of starts.
"""

from __future__ import annotations

import math

from lathed_solid.kernel.directions import upwards
from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.look import Look, Wrap
from lathed_solid.kernel.surfaces import Surface
from lathed_solid.kernel.vectors import Triple, cross, dot
from lathed_solid.kernel.walls import Wall
from lathed_solid.proof.findings import Finding

#: turns of a real thread are the same to this share of the pitch
EVEN = 1e-3


def drawn(look: Look, wrap: Wrap, core: str, what: str) -> tuple[float, list[Finding]]:
    """Major diameter or threaded length (mm) of the thread drawn on a cylinder, with what its data say. Raises
    MeasureError when there is none, or the cylinder is no seat for it.
    """
    wall = Wall(look, look.surface(wrap, core), wrap, core)
    if wall.surface.kind != "cylinder":
        raise MeasureError(f"a {wall.surface.kind} carries no thread")
    carried = look.thread(core)
    if carried is None:
        raise MeasureError(f"there is no thread on {core}: a plain cylinder")
    data, mark = carried
    r = wall.surface.radius
    if not data.major / 2 - 1.3 * data.pitch <= r <= data.major / 2 + 0.2 * data.pitch:
        raise MeasureError(f"the cylinder of ⌀{2 * r:.4g} is no seat for {data.designation}")
    findings = [
        Finding("form", word="hole" if wall.inside else "pin"),
        Finding("pitch", data.pitch),
        Finding("hand", word="left" if data.left else "right"),
        Finding("starts", float(data.starts)),
        Finding("thread class", 2 * r, data.thread_class),
    ]
    if what == "thread_major":
        if wall.inside:
            findings.append(Finding("through", holds=not wall.blocked, reason=wall.blocked))
        return data.major, findings
    if wrap:
        return data.length if data.length is not None else wall.span[1] - wall.span[0], findings
    # bevels at the ends of the cylinder, and what widens a hole's mouth, belong to the threaded length
    back = (-mark.way[0], -mark.way[1], -mark.way[2])
    low, high = -wall.mouth(back), wall.mouth(mark.way)
    begin = dot(mark.origin, mark.way)
    if begin <= wall.surface.extent(mark.way)[0] + EVEN:
        begin, length = low, mark.length + begin - low
    else:
        length = mark.length
    return max(0.0, min(begin + length, high) - begin), findings


def real(look: Look, prefix: str) -> tuple[float, list[Finding]]:
    """Major diameter (mm) of a real thread, and its pitch, hand and starts. Raises MeasureError."""
    crest, root = (_cylinder(look, f"{prefix}.{n}") for n in ("crest", "root"))
    inside = root.radius > crest.radius
    low, high = crest.extent(crest.direction)
    middle = (crest.radius + root.radius) / 2
    entered = [_entries(look, crest, middle, turn, low, high) for turn in (0.7, 0.7 + math.pi / 6)]
    if min(map(len, entered)) < 2:
        raise MeasureError("fewer than two turns of the thread are left")
    # runs into the ends are no full turns: the middle ones tell
    gaps = [b - a for a, b in zip(entered[0], entered[0][1:], strict=False)]
    pitch = sorted(gaps)[len(gaps) // 2]
    if any(abs(g - pitch) > EVEN * pitch for g in gaps[1:-1]):
        raise MeasureError("the turns of the thread are not alike")
    at = entered[0][len(entered[0]) // 2]
    shift = min((b - at for b in entered[1]), key=abs)
    findings = [Finding("form", word="hole" if inside else "pin"), Finding("pitch", pitch)]
    starts = max(1, round(abs(shift) * 12 / pitch))
    findings += [Finding("hand", word="right" if shift > 0 else "left"), Finding("starts", float(starts))]
    major = 2 * max(crest.radius, root.radius)
    findings.append(Finding("thread class", 2 * crest.radius))
    return major, findings


def real_length(look: Look, prefix: str) -> float:
    """How far the full thread reaches along its axis, from the end of the part, mm."""
    root = _cylinder(look, f"{prefix}.root")
    found = [look.surface(w, c) for w, c in look.find(f"{prefix}.**")]
    d = root.direction
    ends = [s.extent(d) for s in found]
    return max(e[1] for e in ends) - min(e[0] for e in ends)


def _cylinder(look: Look, name: str) -> Surface:
    found = look.find(name)
    if not found:
        raise MeasureError(f"the face {name} is not on the solid")
    surface = look.surface(*next(iter(found)))
    if surface.kind != "cylinder":
        raise MeasureError(f"{name} is a {surface.kind}, no thread's crest or root")
    return surface


def crest_place(look: Look, prefix: str) -> float:
    """Where the middle of a crest of a real thread crosses the direction that angles about its axis count from
    (``directions.upwards``), mm along the axis: one of a row, a pitch apart. Raises MeasureError.
    """
    crest, root = (_cylinder(look, f"{prefix}.{n}") for n in ("crest", "root"))
    low, high = crest.extent(crest.direction)
    crossed = _crossings(look, crest, (crest.radius + root.radius) / 2, 0.7, low, high)
    told = {f.kind: f for f in real(look, prefix)[1]}
    pitch, starts = told["pitch"].value or 0.0, told["starts"].value or 1.0
    lead = pitch * starts * (1 if told["hand"].word == "right" else -1)
    full = [(a, b) for a, b in zip(crossed[::2], crossed[1::2], strict=False) if 0 < b - a < pitch]
    if len(full) < 3:
        raise MeasureError("fewer than three turns of the thread are left")
    a, b = full[len(full) // 2]
    return (a + b) / 2 - lead * 0.7 / (2 * math.pi)


def _entries(look: Look, crest: Surface, radius: float, turn: float, low: float, high: float) -> list[float]:
    """Where a line along the axis goes into the material, mm along the axis, between the thread's ends."""
    return _crossings(look, crest, radius, turn, low, high)[::2]


def _crossings(look: Look, crest: Surface, radius: float, turn: float, low: float, high: float) -> list[float]:
    """Where a line along the axis goes into the material and out again, in turn."""
    d = crest.direction
    up = upwards(d)
    side = cross(d, up)
    base = dot(crest.origin, d)
    start: Triple = tuple(  # type: ignore[assignment]
        o + (low - 1.0 - base) * k + radius * (math.cos(turn) * u + math.sin(turn) * s)
        for o, k, u, s in zip(crest.origin, d, up, side, strict=True)
    )
    hits = [low - 1.0 + t for t in look.hits(start, d, high - low + 2.0)]
    return hits[1:] if look.inside(start) else hits
