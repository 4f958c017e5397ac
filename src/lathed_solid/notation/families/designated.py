"""Details that one designation tells: ring grooves, keys, undercuts and reliefs, centre holes, knurls."""

from __future__ import annotations

import math
import re
from typing import Any

from lathed_solid.notation.clauses import Centre, Groove, Keyway, Knurl
from lathed_solid.notation.families.run import Families, Fields, Prefix, Run, with_words
from lathed_solid.notation.items import Item, NoteError
from lathed_solid.quantity.units import MM_PER_INCH, decimal
from lathed_solid.standards import StandardError
from lathed_solid.standards.csv_tables import rows
from lathed_solid.standards.machine import centre_hole, ring_groove, thread_relief
from lathed_solid.standards.threads import thread_form


def _numbers(text: str) -> list[float]:
    return [decimal(n) for n in re.findall(r"\d+(?:[.,]\d+)?", text)]


def _read_ring(run: Run, _: Prefix) -> Fields | None:
    item = run.take()
    standard = "472" if re.search("472|BORE|HOUSING", item.text, re.I) else "471"
    found = _numbers(re.sub(r"DIN\s*47[12]", "", item.text, flags=re.I))
    try:
        diameter, width = ring_groove(found[0], inside=standard == "472")
    except StandardError as exc:
        raise NoteError(exc.what, column=item.column, hint=exc.hint) from None
    while run.sees("groove"):
        run.take()
    run.say(f"groove {width:g} wide, Ø{diameter:g}, by DIN {standard}")
    return with_words(run, {"kind": "groove", "groove": Groove(width_mm=width, diameter_mm=diameter, ring=True)})


def _read_key(run: Run, _: Prefix) -> Fields | None:
    """``DIN 6885 - A 8 x 7 x 40``, ``KEYWAY FOR 8 x 7 KEY``: the key that lies in it, by width, height and length."""
    item = run.take()
    width, height, *along = _numbers(re.sub(r"DIN\s*6885(?:-1)?", "", item.text, flags=re.I))[:3]
    length = along[0] if along else None
    row = next((r for r in rows("keys") if (float(r["width_mm"]), float(r["height_mm"])) == (width, height)), None)
    if row is None:
        raise NoteError("no key of this width and height is in the table", column=item.column, received=item.text,
                        hint="DIN 6885 - A 8 x 7 x 40")  # fmt: skip
    depth = float(row["shaft_depth_mm"])
    run.say(f"for a key {width:g} x {height:g}: {run.size(depth)} deep in a shaft, by the table")
    while run.sees("keyway"):
        run.take()
    return with_words(run, {"kind": "keyway", "keyway": Keyway(width_mm=width, depth_mm=depth, length_mm=length)})


def _read_undercut(run: Run, _: Prefix) -> Fields | None:
    item = run.take()
    if (thread := re.search(r"M\s*[\d.,]+(?:\s*x\s*[\d.,]+)?$", item.text, re.I)) is not None:
        return _relief(run, item, thread[0])
    if re.search(r"DIN\s*76", item.text, re.I):
        before = run.done[-1].thread if run.done else None
        if before is None or before.internal:
            run.leave(item)
            return None
        return _relief(run, item, before.designation.partition("-")[0])  # M20, UNDERCUT TO DIN 76
    match = re.search(r"([EF])\s*([\d.,]+)\s*x\s*([\d.,]+)", item.text, re.I)
    assert match is not None
    radius, depth = (decimal(match[i]) for i in (2, 3))
    form: Any = match[1].upper()
    return with_words(run, {"kind": "groove", "groove": Groove(form=form, radius_mm=radius, depth_mm=depth)})


def _relief(run: Run, item: Item, thread: str) -> Fields:
    """``DIN 76 RELIEF M12``: the undercut behind an external thread, at its greatest width by the table."""
    try:
        form = thread_form(thread)
        row = thread_relief(form.pitch)
    except StandardError as exc:
        raise NoteError(exc.what, column=item.column, received=item.text, hint=exc.hint) from None
    width, diameter = float(row["groove_most_mm"]), form.major - float(row["below_major_mm"])
    run.say(f"{width:g} wide, Ø{diameter:g}, R{float(row['radius_mm']):g} by {row['source'].partition(':')[0]}")
    groove = Groove(width_mm=width, diameter_mm=diameter, radius_mm=float(row["radius_mm"]))
    return with_words(run, {"kind": "groove", "groove": groove})


def _read_centre(run: Run, _: Prefix) -> Fields | None:
    item = run.take()
    text = re.sub(r"\s+(?:DIN\s*332(?:-1)?|ISO\s*6411)$", "", item.text, flags=re.I)
    text = re.sub(r"\s+CENT(?:RE|ER)(?:\s+HOLE)?S?$", "", text, flags=re.I)
    text = re.sub(r"⌀?\s*([\d.,]+?)\s*,?\s*(?:FORM|TYPE)\s*([ABR])$", r"\2\1", text, flags=re.I)
    match = re.search(r"([ABR])\s*([\d.,]+)(?:\s*[/x]\s*([\d.,]+))?\s*$", text, re.I)
    assert match is not None
    pilot = decimal(match[2])
    wide = decimal(match[3]) if match[3] else None
    if wide is not None and wide <= pilot:
        raise NoteError("the countersink of a centre hole is wider than its pilot", column=item.column)
    if wide is None and match[1].upper() == "A":
        try:
            wide = centre_hole(pilot).countersink
            run.say(f"countersink Ø{wide:g} by the table")
        except StandardError:
            wide = None
    form: Any = match[1].upper()
    both = {"count": 2} if re.search(r"BOTH\s+ENDS", item.text, re.I) else {}
    return with_words(run, {**both, "kind": "centre", "centre": Centre(form=form, pilot_mm=pilot, countersink_mm=wide)})


#: a pitch that is so large, in a sheet in inches, counts the ridges of an inch
COARSEST = 10.0
#: ridges an inch of the usual knurling wheels
KNURLS = {"COARSE": 14, "MED": 21, "FINE": 33}


def _read_knurl(run: Run, _: Prefix) -> Fields | None:
    item = run.take()
    text = item.text.upper()
    figures = re.findall(r"\d*[.,]?\d+", re.sub(r"DIN\s*82", "", text))
    usual = next((name for name in KNURLS if name in text), "")
    pitch = decimal(figures[-1]) if figures else round(MM_PER_INCH / KNURLS[usual], 2)
    if re.search(r"\d\s*D(?:\.?P\b|IAMETRAL)", text):  # 96 DP: teeth an inch of diameter
        pitch = round(math.pi * MM_PER_INCH / pitch, 4)
        run.say(f"{pitch:g} mm pitch: {figures[-1]} ridges on an inch of diameter")
    if re.search(r"T\.?P\.?I|PER\s+INCH", text) or (pitch >= COARSEST and "PITCH" in text and run.unit == "in"):
        pitch = round(MM_PER_INCH / pitch, 4)
        run.say(f"{pitch:g} mm pitch: {figures[-1]} ridges an inch")
    if not figures:
        run.say(f"{pitch:g} mm pitch: {KNURLS[usual]} ridges an inch")
    form = re.search(r"\bR(AA|BL|BR|GE|GV|KE|KV)\b", text)
    if form is None:
        name = "RAA" if "STRAIGHT" in text else "RGE"
        run.say(f"knurl {name} taken")
    else:
        name = form[0]
    if not 0 < pitch <= 10:
        raise NoteError("a knurl's pitch goes from above 0 to 10 mm", column=item.column, received=pitch)
    return with_words(run, {"kind": "knurl", "knurl": Knurl(form=name, pitch_mm=pitch)})


#: which item begins what
READS: Families = {
    "ring": _read_ring,
    "undercut": _read_undercut,
    "key": _read_key,
    "centre": _read_centre,
    "knurl": _read_knurl,
}
