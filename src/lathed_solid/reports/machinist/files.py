"""The machinist's sheet as CSV and JSON, and written by the ending of a path."""

from __future__ import annotations

import csv
import io
import json
from pathlib import Path
from typing import Any

from lathed_solid.files.atomic import write_atomic
from lathed_solid.files.errors import FileError
from lathed_solid.quantity.formatting import Spoken, as_it_is
from lathed_solid.reports.machinist.model import HoleRow, MachinistSheet
from lathed_solid.reports.machinist.pdf import machinist_pdf

HOLES = ("id", "x_mm", "y_mm", "z_mm", "side", "diameter_mm", "depth_mm", "thread", "thread_depth_mm", "tap_drill_mm",
         "entry", "fit", "balloons")  # fmt: skip
STATIONS = ("id", "end", "inner", "from_mm", "to_mm", "diameter_mm", "end_diameter_mm", "thread")


def write_machinist(path: Path, sheet: MachinistSheet, spoken: Spoken = as_it_is) -> None:
    """Write by the ending of ``path``: .pdf (in words as ``spoken``), .csv (holes and stations) or .json. Raises
    FileError.
    """
    ending = path.suffix.lower()
    if ending == ".pdf":
        data = machinist_pdf(sheet, spoken)
    elif ending == ".csv":
        data = machinist_csv(sheet).encode("utf-8")
    elif ending == ".json":
        data = (json.dumps(machinist_json(sheet), ensure_ascii=False, indent=1) + "\n").encode("utf-8")
    else:
        raise FileError("the ending is not known", path, hint="a file name ending in .pdf, .csv or .json")
    write_atomic(path, data)


def machinist_json(sheet: MachinistSheet) -> dict[str, Any]:
    """The stable shape of ``lathed-solid machinist --json``."""
    zero, stock = sheet.zero, sheet.stock
    return {
        "name": sheet.name, "status": sheet.status,
        "zero": {"origin_mm": list(zero.origin), "x": list(zero.x), "z": list(zero.z), "words": zero.words},
        "stock": {"kind": stock.kind, "size_mm": list(stock.size), "mass_g": stock.grams, "cut_away": stock.cut_away},
        "settings": [{"side": s.side, "does": list(s.does), "held": s.held, "why": s.why} for s in sheet.settings],
        "holes": [_hole(h) for h in sheet.holes],
        "stations": [
            {"id": s.id, "end": s.end, "inner": s.inner, "from_mm": s.start, "to_mm": s.stop, "diameter_mm": s.first,
             "end_diameter_mm": s.last, "thread": s.thread or None}
            for s in sheet.stations
        ],
        "tools": [{"name": t.name, "for": t.use, "remark": t.remark} for t in sheet.tools],
        "cannot": [{"what": t.what, "where": t.where, "why": t.why, "hard": t.hard} for t in sheet.cannot],
        "instructions": list(sheet.instructions),
    }  # fmt: skip


def _hole(h: HoleRow) -> dict[str, Any]:
    x, y, z = h.at
    return {
        "id": h.id, "x_mm": x, "y_mm": y, "z_mm": z, "side": h.side, "diameter_mm": h.diameter, "depth_mm": h.depth,
        "tip_angle_deg": h.tip_angle, "thread": h.thread or None, "thread_depth_mm": h.thread_depth,
        "tap_drill_mm": h.tap_drill, "entry": h.entry, "fit": h.fit or None, "balloons": list(h.balloons),
    }  # fmt: skip


def machinist_csv(sheet: MachinistSheet) -> str:
    """The table of holes, then that of stations, comma separated (RFC 4180)."""
    out = io.StringIO()
    writer = csv.writer(out)
    if sheet.holes or not sheet.stations:
        writer.writerow(HOLES)
    for h in sheet.holes:
        numbers = [f"{v:.6f}" for v in h.at]
        depth = "" if h.depth is None else f"{h.depth:.6f}"
        threaded = "" if h.thread_depth is None else f"{h.thread_depth:.6f}"
        drill = "" if h.tap_drill is None else f"{h.tap_drill:.6f}"
        writer.writerow([h.id, *numbers, h.side, f"{h.diameter:.6f}", depth, h.thread, threaded, drill, h.entry, h.fit,
                         " ".join(map(str, h.balloons))])  # fmt: skip
    if sheet.stations:
        writer.writerow(STATIONS)
    for s in sheet.stations:
        writer.writerow([s.id, s.end, "inner" if s.inner else "outer", f"{s.start:.6f}", f"{s.stop:.6f}",
                         f"{s.first:.6f}", f"{s.last:.6f}", s.thread])  # fmt: skip
    return out.getvalue()
