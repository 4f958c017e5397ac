"""Looking up parts and tools: drills, fasteners, pins, keys, rings, bearings, O-rings, centre holes, reliefs."""

from __future__ import annotations

import re
from collections.abc import Callable

from lathed_solid.quantity.units import MM_PER_INCH, decimal
from lathed_solid.standards.clearance import head_room, inch_screw_row, screw_row, socket_counterbore
from lathed_solid.standards.csv_tables import StandardError, rows
from lathed_solid.standards.drills import drill
from lathed_solid.standards.fits import deviations
from lathed_solid.standards.found import Figure, Found, one
from lathed_solid.standards.machine import (
    bearing,
    centre_hole,
    fastener,
    inch_key_for,
    key_for,
    o_ring,
    ring_groove,
    thread_relief,
)

#: seats that catalogues name for a rotating shaft and a standing housing, medium load
SEATS = ("k5", "H7")


def _drill(m: re.Match[str]) -> Found:
    d = drill(m[1])
    figures = (
        one(f"drill {d.name}", d.diameter, d.source),
        one("in inches", d.diameter / MM_PER_INCH, d.source, "in"),
    )
    return Found(f"Drill {d.name}", figures, data={"name": d.name, "diameter_mm": round(d.diameter, 4)})


def _screw(m: re.Match[str]) -> Found:
    name = f"M{decimal(m[1]):g}"
    row = screw_row(name)
    if row is None:
        raise StandardError(f"no screw of {name} is in the tables", hint=", ".join(r["thread"] for r in rows("screws")))
    names = {
        "clearance_fine_mm": ("clearance hole, fine", "ISO 273"),
        "clearance_medium_mm": ("clearance hole, medium", "ISO 273"),
        "clearance_coarse_mm": ("clearance hole, coarse", "ISO 273"),
        "counterbore_mm": ("counterbore for a socket head", "DIN 74 row K for ISO 4762"),
        "counterbore_depth_mm": ("depth of the counterbore", "DIN 74 row K for ISO 4762"),
        "across_flats_mm": ("hexagon across flats", "ISO 272"),
    }
    figures = tuple(one(label, float(row[n]), source) for n, (label, source) in names.items() if row[n])
    data = {n: float(row[n]) for n in names if row[n]}
    if row["counterbore_974_mm"]:
        wide, deep = socket_counterbore(name)
        figures += (one("counterbore for a socket head", wide, "DIN 974-1 row 1"),
                    one("depth of the counterbore", deep, "DIN 974-1, head and allowance"))  # fmt: skip
        data |= {"counterbore_974_mm": wide, "counterbore_974_depth_mm": deep}
    return Found(f"Screw {name}", figures, data=data)


def _inch_screw(m: re.Match[str]) -> Found:
    name = m[1].replace("-", " ")
    row = inch_screw_row(name)
    if row is None:
        known = ", ".join(r["thread"] for r in rows("screws_inch"))
        raise StandardError(f"no screw of {name} is in the tables", hint=known)
    series = (("fine", "close"), ("medium", "normal"), ("coarse", "loose"))
    data = {f"clearance_{key}_mm": float(row[f"clearance_{key}_in"]) * MM_PER_INCH for key, _ in series}
    figures = [one(f"clearance hole, {word}", data[f"clearance_{key}_mm"], "ASME B18.2.8") for key, word in series]
    wide, deep, table = head_room(name)
    figures += [one("counterbore for a socket head", wide, table), one("depth of the counterbore", deep, table)]
    data |= {"counterbore_mm": wide, "counterbore_depth_mm": deep}
    return Found(f"Screw {name}", tuple(figures), data=data)


def _key(m: re.Match[str]) -> Found:
    inch = bool(m[2])
    k = inch_key_for(decimal(m[1])) if inch else key_for(decimal(m[1]))
    pairs = {"width": k.width, "height": k.height, "depth in the shaft": k.shaft_depth, "depth in the hub": k.hub_depth}
    figures = tuple(one(label, v, k.source) for label, v in pairs.items())
    data = {f"{label.replace(' ', '_')}_mm": v for label, v in pairs.items()}
    return Found(f"Key for a shaft of ⌀{m[1]}{' in' if inch else ''}", figures, data=data)


def _ring(m: re.Match[str]) -> Found:
    inside = bool(re.search(r"bore|472|inside", m[0], re.I))
    size = decimal(m[m.lastindex or 1])
    diameter, width = ring_groove(size, inside=inside)
    standard = "DIN 472" if inside else "DIN 471"
    figures = (
        one("groove diameter", diameter, standard),
        Figure("groove width", width, width + deviations(width, "H13")[1], source=f"{standard}, H13"),
    )
    where = "in" if inside else "on"
    return Found(f"Ring groove {where} ⌀{size:g}", figures, data={"diameter_mm": diameter, "width_mm": width})


def _centre(m: re.Match[str]) -> Found:
    hole = centre_hole(decimal(m[2]), m[1] or "A")
    figures = [one("pilot", hole.pilot, hole.source), one("countersink 60°", hole.countersink, hole.source)]
    if hole.protected is not None:
        figures.append(one("protecting countersink 120°", hole.protected, hole.source))
    if hole.least_depth is not None:
        figures.append(Figure("pilot behind the cone, at least", hole.least_depth, None, source=hole.source))
    data = {"form": hole.form, "pilot_mm": hole.pilot, "countersink_mm": hole.countersink,
            "least_depth_mm": hole.least_depth}  # fmt: skip
    return Found(f"Centre hole {hole.form}{hole.pilot:g}", tuple(figures), data=data)


def _bearing(m: re.Match[str]) -> Found:
    row = bearing(m[1])
    bore, outside, width = (float(row[n]) for n in ("bore_mm", "outside_mm", "width_mm"))
    shaft, housing = deviations(bore, SEATS[0]), deviations(outside, SEATS[1])
    usual = "usual for a turning shaft; the maker's table decides"
    figures = (
        one("bore", bore, row["source"]),
        one("outside diameter", outside, row["source"]),
        one("width", width, row["source"]),
        Figure(f"shaft seat {SEATS[0]}", bore + shaft[0], bore + shaft[1], source=usual),
        Figure(f"housing seat {SEATS[1]}", outside + housing[0], outside + housing[1], source=usual),
    )
    return Found(f"Bearing {m[1]}", figures, data={"bore_mm": bore, "outside_mm": outside, "width_mm": width})


KINDS = {"nut": "hexagon nut", "bolt": "hexagon bolt", "washer": "washer", "socket": "socket head screw",
         "countersunk": "socket countersunk screw", "recessed": "cross recessed countersunk screw"}  # fmt: skip


def _fastener(m: re.Match[str]) -> Found:
    kind = KINDS[m[1].lower()]
    thread = m[2].upper().replace(" ", "") if m[2].upper().startswith("M") else m[2]
    row = fastener(kind, thread)
    wide = "outside diameter" if kind == "washer" else "across flats" if "hexagon" in kind else "head diameter"
    high = "thickness" if kind == "washer" else "height"
    figures = [one(wide, float(row["width_mm"]), row["source"]), one(high, float(row["height_mm"]), row["source"])]
    if row["hole_mm"]:
        figures.append(one("hole", float(row["hole_mm"]), row["source"]))
    if "hexagon" in kind:
        figures.append(one("across corners, about", float(row["width_mm"]) * 2 / 3**0.5, "of a true hexagon"))
    data = {n: float(row[n]) for n in ("width_mm", "height_mm", "hole_mm") if row[n]}
    return Found(f"{kind.capitalize()} {thread}", tuple(figures), data=data)


def _pin(m: re.Match[str]) -> Found:
    size = decimal(m[2])
    taper = (m[1] or "").lower() == "taper"
    kinds = [r for r in rows("pins") if r["kind"].startswith("taper") == taper and float(r["diameter_mm"]) == size]
    if not kinds:
        known = sorted({float(r["diameter_mm"]) for r in rows("pins")})
        raise StandardError(f"no pin of ⌀{size:g} is in the tables", hint=", ".join(f"{d:g}" for d in known))
    row = kinds[0]
    low, high = deviations(size, row["tolerance"])
    figures = [Figure(f"pin {row['tolerance']}", size + low, size + high, source=row["source"])]
    if taper:
        figures.append(one("taper, 1:", 50, row["source"], ""))
    else:
        hole = deviations(size, "H7")
        figures.append(Figure("hole H7", size + hole[0], size + hole[1], source="ISO 286-1:2010"))
    return Found(
        f"{row['kind'].capitalize()} ⌀{size:g}", tuple(figures), data={"diameter_mm": size, "class": row["tolerance"]}
    )


def _o_ring(m: re.Match[str]) -> Found:
    inside, section = decimal(m[1]), decimal(m[2])
    row = o_ring(section)
    t, depth, width = (float(row[n]) for n in ("tolerance_mm", "groove_depth_static_mm", "groove_width_mm"))
    figures = (
        one("inside diameter", inside, "as asked"),
        Figure("section", section - t, section + t, source=row["source"]),
        one("groove depth, standing", depth, row["source"]),
        one("groove width", width, row["source"]),
    )
    return Found(
        f"O-ring {inside:g} x {section:g}", figures, data={"section_mm": section, "depth_mm": depth, "width_mm": width}
    )


def _relief(m: re.Match[str]) -> Found:
    row = thread_relief(decimal(m[1]))
    source = row["source"]
    figures = (
        one("run-out of the thread, at most", float(row["runout_mm"]), source),
        Figure("undercut width", float(row["groove_least_mm"]), float(row["groove_most_mm"]), source=source),
        one("undercut diameter below the major", float(row["below_major_mm"]), source),
        one("radius, about", float(row["radius_mm"]), source),
    )
    return Found(f"Relief of a pitch of {m[1]}", figures, data={n: float(row[n]) for n in row if n.endswith("_mm")})


def _undercut(m: re.Match[str]) -> Found:
    radius, depth = decimal(m[2]), decimal(m[3])
    row = next(
        (r for r in rows("undercuts") if float(r["radius_mm"]) == radius and float(r["depth_mm"]) == depth), None
    )
    if row is None:
        known = ", ".join(f"{r['radius_mm']}x{r['depth_mm']}" for r in rows("undercuts"))
        raise StandardError(f"DIN 509 has no undercut {radius:g}x{depth:g}", hint=known)
    form, source = m[1].upper(), row["source"]
    figures = [one("radius", radius, source), one("depth", depth, source), one("width", float(row["width_mm"]), source)]
    if form == "F":
        figures += [one("width in the face", float(row["face_width_mm"]), source),
                    one("depth in the face", float(row["face_depth_mm"]), source)]  # fmt: skip
    data = {n: float(row[n]) for n in row if n.endswith("_mm") and (form == "F" or not n.startswith("face"))}
    return Found(f"Undercut {form}{radius:g}x{depth:g}", tuple(figures), data=data)


def _taper_pipe_iso(m: re.Match[str]) -> Found:
    """R, Rc, Rp: the sizes of ISO 228-1 at the gauge plane, a cone of 1 to 16."""
    name = " ".join(m[2].replace("-", " ").split())
    gauge = next((r for r in rows("pipe_iso7") if r["designation"] == name), None)
    sizes = next((r for r in rows("pipe_parallel") if r["designation"] == name), None)
    if gauge is None or sizes is None:
        raise StandardError("this pipe thread is not in ISO 7-1", received=m[0], hint="R1/2, Rc 3/4, Rp1")
    kind, source = m[1].capitalize(), gauge["source"]
    pitch = MM_PER_INCH / float(sizes["tpi"])
    figures = [one("pitch", pitch, source)]
    figures += [
        one(f"{label} at the gauge plane", float(sizes[key]), source)
        for label, key in (
            ("major diameter", "major_mm"),
            ("pitch diameter", "pitch_diameter_mm"),
            ("minor diameter", "minor_mm"),
        )
    ]
    if kind == "R":
        length, turns = float(gauge["gauge_length_mm"]), float(gauge["gauge_turns_tolerance"])
        figures.append(Figure("gauge length", length - turns * pitch, length + turns * pitch, source=source))
    if kind != "Rp":
        figures.append(one("taper on the diameter, 1:", 16, source, ""))
    return Found(f"{kind}{name}", tuple(figures), data={"pitch_mm": pitch, "major_mm": float(sizes["major_mm"])})


_N = r"(\d+(?:[.,]\d+)?|[.,]\d+)"
PART_WAYS: tuple[tuple[str, Callable[[re.Match[str]], Found]], ...] = (
    (r"drill\s+(\S+(?:\s\d+/\d+)?)", _drill),
    (rf"(?:screw|clearance|cbore|hex(?:agon)?)\s+M\s*{_N}", _screw),
    (r"(?:screw|clearance|cbore)\s+(#\d+|(?:\d[ -])?\d+/\d+|1)(?:\s*(?:in|\"))?", _inch_screw),
    (rf"key(?:way)?\s+⌀?\s*{_N}\s*(?:mm|(in|\"))?", _key),
    (rf"(?:ring|circlip|DIN\s*47[12]\s*-?)\s+(?:bore\s+|inside\s+)?⌀?\s*{_N}", _ring),
    (rf"(?:centre|center)\s+([ABR])?\s*{_N}", _centre),
    (r"bearing\s+(\d{3,5})", _bearing),
    (rf"(nut|bolt|washer|socket|countersunk|recessed)\s+(M\s*{_N}|#\d+|\d+/\d+|1)", _fastener),
    (rf"(?:(taper|dowel)\s+)?pin\s+⌀?\s*{_N}", _pin),
    (rf"O-?ring\s+⌀?\s*{_N}\s*[x×]\s*{_N}", _o_ring),
    (rf"relief\s+P?\s*{_N}", _relief),
    (rf"undercut\s+(?:DIN\s*509\s*-?\s*)?([EF])\s*{_N}\s*[x×]\s*{_N}", _undercut),
    (r"(Rc|Rp|R)\s*(\d+[ -]\d+/\d+|\d+/\d+|\d)", _taper_pipe_iso),
)
