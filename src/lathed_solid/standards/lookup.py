"""Looking something up in the standards: a text in, its figures with their clauses out.

``M18x1.5-6g``, ``3/8-16 UNC-2B``, ``G1/2``, ``Tr20x4``, ``1/2-14 NPT``, ``⌀25 H7/g6``, ``25 h6``, ``drill #7``,
``screw M6``, ``nut M8``, ``washer M8``, ``dowel pin 6``, ``key 25``, ``key 1 in``, ``ring 25``, ``ring bore 30``,
``bearing 6204``, ``O-ring 20x2.65``, ``centre A2.5``, ``relief 1.5``, ``ISO 2768-m 25``, ``C45 steel``.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

from lathed_solid.quantity.units import MM_PER_INCH, decimal
from lathed_solid.standards.csv_tables import StandardError, rows
from lathed_solid.standards.drills import Drill, share_of_thread
from lathed_solid.standards.fits import deviations, fit
from lathed_solid.standards.found import Figure, Found, one
from lathed_solid.standards.general import linear
from lathed_solid.standards.lookup_parts import PART_WAYS
from lathed_solid.standards.materials import materials
from lathed_solid.standards.thread_limits import (
    ThreadLimits,
    classed,
    drill_for,
    engagement_areas,
    split_class,
    stress_area,
    thread_limits,
    usual_classes,
)
from lathed_solid.standards.threads import ThreadForm, thread_form

EXAMPLES = ("M18x1.5-6g", "3/8-16 UNC-2B", "⌀25 H7/g6", "25 h6", "drill #7", "screw M6", "nut M8", "bearing 6204",
            "key 25", "ring bore 30", "ISO 2768-m 25")  # fmt: skip


def look_up(text: str) -> Found:
    """The figures behind a designation. Raises StandardError, which names what can be asked."""
    bare = " ".join(text.replace("Ø", "⌀").split())
    if not bare or len(bare) > 80:
        raise StandardError("there is nothing to look up", received=text[:80], hint=", ".join(EXAMPLES))
    for pattern, way in _WAYS:
        found = re.fullmatch(pattern, bare, re.I)
        if found:
            return way(found)
    for key, m in materials().items():
        if bare.lower() in (key.lower(), m.name.lower()):
            density = m.density * 1000
            limits = Figure("density", density * (1 - m.spread), density * (1 + m.spread), "g/cm³", m.source)
            data = {"density_g_cm3": density, "spread": m.spread, "colour": m.finish_colour, "source": m.source}
            return Found(m.name, (limits,), data=data)
    return _thread(bare)


# threads ---------------------------------------------------------------------------------------
def _thread(text: str) -> Found:
    try:
        form = thread_form(split_class(text)[0])
    except StandardError as exc:
        raise StandardError(exc.what, rule=exc.rule, received=text, hint=", ".join(EXAMPLES)) from None
    if not classed(form):
        return _basic(form, text)
    found = thread_limits(text)
    usual = " and ".join(
        dict.fromkeys(c.rstrip("ei") if form.system == "acme" else c for c in usual_classes(form) if c)
    )
    assumed = () if split_class(text)[1] else (f"class {usual} taken",)
    figures = [
        one("pitch", form.pitch, found[0].source),
        *(line for t in found for line in _lines(t, len(found) > 1)),
        _bore(form, found[0].tap_drill),
    ]  # fmt: skip
    if form.system in ("metric", "unified"):
        area = "ISO 898-1" if form.system == "metric" else "ASME B1.1 appendix B"
        figures.append(one("stress area", stress_area(form), area, "mm²"))
        pair = thread_limits(f"{split_class(text)[0]}") if len(found) == 1 else found
        screw = next((t for t in (*found, *pair) if not t.internal), None)
        nut = next((t for t in (*found, *pair) if t.internal), None)
        if screw is not None and nut is not None:
            areas = engagement_areas(screw, nut)
            sides = f"{screw.thread_class} in {nut.thread_class}, for each mm of engagement"
            figures.append(one("shear area, screw", areas[0], sides, "mm²"))
            figures.append(one("shear area, nut", areas[1], sides, "mm²"))
    data = _thread_data(found[0])
    if len(found) > 1:
        data["internal"] = _thread_data(found[1])
    if assumed:
        data["assumed"] = list(assumed)
    return Found(text, tuple(figures), assumed, data)


def _basic(form: ThreadForm, text: str) -> Found:
    """The basic sizes of a thread whose classes are in no table here."""
    source = "BS 84" if form.system == "whitworth" else "BS 93"
    sizes = {"major diameter": form.major, "pitch": form.pitch, "pitch diameter": form.pitch_diameter,
             "minor diameter": form.minor}  # fmt: skip
    figures = (*(one(label, value, source) for label, value in sizes.items()), _bore(form, drill_for(form)))
    data = {f"{label.replace(' ', '_')}_mm": round(value, 4) for label, value in sizes.items()}
    return Found(text, figures, data={"designation": text, **data})


def _bore(form: ThreadForm, d: Drill) -> Figure:
    if form.system in ("trapezoidal", "acme"):
        return one("bore for the nut", d.diameter, "near the least minor diameter")
    return one(
        "tap drill", d.diameter, d.source or f"{share_of_thread(form.major, form.pitch, d.diameter):.0%} of thread"
    )


def _lines(t: ThreadLimits, named: bool) -> list[Figure]:
    side = f" {t.thread_class or 'internal'}" if named else ""
    if t.form.system == "acme":
        side = f", {'nut' if t.internal else 'screw'} {t.thread_class}"
    out = [
        Figure(f"major diameter{side}", *t.major, source=t.source),
        Figure(f"pitch diameter{side}", *t.pitch_diameter, source=t.source),
        Figure(f"minor diameter{side}", *t.minor, source=t.source),
    ]
    gauges = "plug" if t.internal else "ring"
    if t.gauges is not None:
        go, no_go, source = t.gauges
        out.append(Figure(f"go {gauges}{side}, pitch diameter", *go, source=source))
        out.append(Figure(f"no-go {gauges}{side}, pitch diameter", *no_go, source=source))
        return out
    out.append(one(f"go {gauges}{side}, pitch diameter", t.go, "without the gauge's own tolerance"))
    out.append(one(f"no-go {gauges}{side}, pitch diameter", t.no_go, "without the gauge's own tolerance"))
    return out


def _thread_data(t: ThreadLimits) -> dict[str, Any]:
    return {
        "designation": t.name,
        "major_mm": list(t.major),
        "pitch_diameter_mm": list(t.pitch_diameter),
        "minor_mm": list(t.minor),
        "tap_drill_mm": round(t.tap_drill.diameter, 4),
        "pitch_mm": round(t.form.pitch, 6),
        "class": t.thread_class or None,
        "side": "internal" if t.internal else "external",
        "gauges_mm": None if t.gauges is None else [[round(v, 4) for v in band] for band in t.gauges[:2]],
        "go_mm": t.go,
        "no_go_mm": t.no_go,
        "source": t.source,
    }


def _taper_pipe(m: re.Match[str]) -> Found:
    row = next((r for r in rows("pipe_taper") if r["designation"] == m[1]), None)
    if row is None or (m[2] and float(m[2]) != float(row["tpi"])):
        raise StandardError("this taper pipe thread is not in ASME B1.20.1", received=m[0], hint="1/2-14 NPT")
    names = {
        "outside_in": "outside diameter",
        "pitch_diameter_e0_in": "pitch diameter at the small end E0",
        "pitch_diameter_e1_in": "pitch diameter at the gauge plane E1",
        "hand_tight_l1_in": "hand-tight engagement L1",
        "effective_l2_in": "effective thread L2",
    }
    figures = [one(label, float(row[n]) * MM_PER_INCH, row["source"]) for n, label in names.items()]
    turn = MM_PER_INCH / float(row["tpi"])
    at, depth = float(row["pitch_diameter_e1_in"]) * MM_PER_INCH, float(row["hand_tight_l1_in"]) * MM_PER_INCH
    # one turn large or small by the gauge (ASME B1.20.1, 8): an axial way, and a sixteenth of it on the diameter
    figures.append(Figure("stand of the gauge, from the end", depth - turn, depth + turn, source="ASME B1.20.1 8.1"))
    figures.append(Figure("pitch diameter at L1", at - turn / 16, at + turn / 16, source="ASME B1.20.1 8.1"))
    figures.append(one("taper on the diameter, 1:", 16, row["source"], ""))
    dry = next((r for r in rows("dryseal") if m[3] and float(r["tpi"]) == float(row["tpi"])), None)
    if dry is not None:  # NPTF seals by its crests and roots, which are cut less than those of NPT
        for part in ("crest", "root"):
            least, most = (float(dry[f"{part}_{end}_in"]) * MM_PER_INCH for end in ("least", "most"))
            figures.append(Figure(f"truncation of the {part}", least, most, source=dry["source"]))
    data: dict[str, Any] = {
        "designation": f"{row['designation']}-{row['tpi']} {'NPT' if dry is None else 'NPTF'}",
        "pitch_mm": MM_PER_INCH / float(row["tpi"]),
    }
    data |= {n.replace("_in", "_mm"): float(row[n]) * MM_PER_INCH for n in names}
    data |= {"gauge_stand_mm": [depth - turn, depth + turn], "pitch_diameter_mm": [at - turn / 16, at + turn / 16]}
    return Found(data["designation"], tuple(figures), data=data)


# fits and tolerances ---------------------------------------------------------------------------
def _fit(m: re.Match[str]) -> Found:
    f = fit(decimal(m[1]), m[2])
    figures = (
        Figure(f"hole {f.hole_class}", *f.hole, source="ISO 286-1:2010"),
        Figure(f"shaft {f.shaft_class}", *f.shaft, source="ISO 286-1:2010"),
        Figure("clearance", *f.clearance, source=f.kind + (", minus: interference" if f.clearance[0] < 0 else "")),
    )
    data = {n: [round(v, 6) for v in getattr(f, n)] for n in ("hole", "shaft", "clearance")}
    return Found(f"⌀{f.size:g} {f.hole_class}/{f.shaft_class}", figures, data={**data, "kind": f.kind})


def _class(m: re.Match[str]) -> Found:
    size = decimal(m[1])
    low, high = deviations(size, m[2])
    figures = (
        Figure(f"⌀{size:g} {m[2]}", size + low, size + high, source="ISO 286-1:2010"),
        Figure("deviations", low * 1000, high * 1000, "µm", "ISO 286-1:2010"),
    )
    data = {
        "limits": [round(size + low, 6), round(size + high, 6)],
        "deviations_um": [round(low * 1000, 3), round(high * 1000, 3)],
    }
    return Found(f"⌀{size:g} {m[2]}", figures, data=data)


def _general(m: re.Match[str]) -> Found:
    size, letter = decimal(m[2]), m[1].lower()
    d, edge = linear(size, letter), None
    try:
        edge = linear(size, letter, broken_edge=True)
    except StandardError:
        edge = None
    figures = [Figure(f"length {size:g}", size - d, size + d, source="ISO 2768-1:1989 table 1")]
    if edge is not None:
        figures.append(
            Figure(f"chamfer or radius {size:g}", size - edge, size + edge, source="ISO 2768-1:1989 table 2")
        )  # fmt: skip
    return Found(f"ISO 2768-{letter} at {size:g}", tuple(figures), data={"linear_mm": d, "broken_edge_mm": edge})


_N = r"(\d+(?:[.,]\d+)?|[.,]\d+)"
_WAYS: tuple[tuple[str, Callable[[re.Match[str]], Found]], ...] = (
    (rf"⌀?\s*{_N}\s*(?:mm)?\s*((?-i:[A-Z]{{1,2}}\d{{1,2}}\s*/\s*[a-z]{{1,2}}\d{{1,2}}))", _fit),
    (rf"⌀?\s*{_N}\s*(?:mm)?\s*((?-i:[a-z]{{1,2}}|[A-Z]{{1,2}})\d{{1,2}})", _class),
    (rf"(?:ISO\s*)?2768\s*-?\s*([fmcv])(?:[HKL])?\s+{_N}", _general),
    *PART_WAYS,
    (r"(\d+(?:\s\d+/\d+)?|\d+/\d+)\s*(?:-\s*(\d+(?:\.5)?))?\s*NPT(F)?", _taper_pipe),
)
