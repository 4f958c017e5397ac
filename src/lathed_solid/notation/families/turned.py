"""Details of turned parts: keyways, grooves, undercuts, centre holes, knurls, tapers."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from lathed_solid.notation.clauses import Centre, Groove, Keyway, Knurl, Taper
from lathed_solid.notation.families.run import Complete, Fields, Run, Take
from lathed_solid.notation.items import Item, NoteError
from lathed_solid.quantity.units import decimal
from lathed_solid.standards import StandardError
from lathed_solid.standards.machine import centre_hole, ring_groove

Numbers = list[tuple[str, float]]


def _take_keyway(run: Run, _: Item, __: Item | None) -> None:
    run.begin_collecting("keyway")


def _take_groove(run: Run, item: Item, _: Item | None) -> None:
    if run.kind == "groove":
        return  # DIN 471 groove: said twice
    run.begin_collecting("groove")
    run.open["ring"] = bool(re.search(r"CIRCLIP|RING", item.text, re.I)) or None


def _take_taper(run: Run, _: Item, __: Item | None) -> None:
    if run.kind != "taper":
        run.begin_collecting("taper")


def _take_ratio(run: Run, item: Item, _: Item | None) -> None:
    if run.kind == "taper" and "taper" not in run.open:
        run.open["taper"] = Taper(ratio=item.value)
    else:
        run.start(kind="taper", taper=Taper(ratio=item.value))


def _take_ring(run: Run, item: Item, _: Item | None) -> None:
    found = [decimal(n) for n in re.findall(r"\d+(?:[.,]\d+)?", re.sub(r"DIN\s*471", "", item.text))]
    try:
        diameter, width = ring_groove(found[0])
    except StandardError as exc:
        raise NoteError(exc.what, column=item.column, hint=exc.hint) from None
    run.start(kind="groove", groove=Groove(width_mm=width, diameter_mm=diameter, ring=True))
    run.assumed.append(f"groove {width:g} wide, Ø{diameter:g}, by DIN 471")


def _take_undercut(run: Run, item: Item, _: Item | None) -> None:
    match = re.search(r"([EF])\s*([\d.,]+)\s*[x×]\s*([\d.,]+)", item.text, re.I)
    assert match is not None
    radius, depth = (decimal(match[i]) for i in (2, 3))
    form: Any = match[1].upper()
    run.start(kind="groove", groove=Groove(form=form, radius_mm=radius, depth_mm=depth))


def _take_centre(run: Run, item: Item, _: Item | None) -> None:
    match = re.search(r"([ABR])\s*([\d.,]+)(?:\s*/\s*([\d.,]+))?\s*$", item.text, re.I)
    assert match is not None
    pilot = decimal(match[2])
    wide = decimal(match[3]) if match[3] else None
    if wide is not None and wide <= pilot:
        raise NoteError("the countersink of a centre hole is wider than its pilot", column=item.column)
    if wide is None and match[1].upper() == "A":
        try:
            wide = centre_hole(pilot)[0]
            run.assumed.append(f"countersink Ø{wide:g} by the table")
        except StandardError:
            wide = None
    form: Any = match[1].upper()
    run.start(kind="centre", centre=Centre(form=form, pilot_mm=pilot, countersink_mm=wide))


def _take_knurl(run: Run, item: Item, _: Item | None) -> None:
    text = item.text.upper()
    pitch = decimal(re.findall(r"\d*[.,]?\d+", re.sub(r"DIN\s*82", "", text))[-1])
    form = re.search(r"\bR(AA|BL|BR|GE|GV|KE|KV)\b", text)
    if form is None:
        straight = "STRAIGHT" in text
        run.assumed.append("knurl RAA taken" if straight else "knurl RGE taken")
        name = "RAA" if straight else "RGE"
    else:
        name = form[0]
    if not 0 < pitch <= 10:
        raise NoteError("a knurl's pitch goes from above 0 to 10 mm", column=item.column, received=pitch)
    run.start(kind="knurl", knurl=Knurl(form=name, pitch_mm=pitch))


# closing -----------------------------------------------------------------------------------
def _complete_taper(run: Run, fields: Fields) -> Fields:
    if "taper" not in fields:
        raise NoteError("the taper has no ratio", hint="TAPER 1:10, or an angle")
    for role, value in fields.get("numbers", ()):
        run.unread.append(f"{role} {value:g}")
    return fields


def _complete_keyway(run: Run, fields: Fields) -> Fields:
    given, plain = _told_apart(fields.get("numbers", []))
    width = given.get("wide") or (plain.pop(0) if plain else None)
    depth, length = given.get("depth"), given.get("long")
    if width is None:
        raise NoteError("the keyway has no width", hint="KEYWAY 8x4 N9 x 30")
    if depth is None and plain and (len(plain) > 1 or plain[0] <= width):
        depth = plain.pop(0)
    if length is None and plain:
        length = plain.pop(0)
    _left_over(run, plain)
    key = Keyway(width_mm=width, depth_mm=depth, length_mm=length, fit=fields.pop("fit", None))
    return {k: v for k, v in fields.items() if k in ("kind", "count", "reference")} | {"keyway": key}


def _complete_groove(run: Run, fields: Fields) -> Fields:
    if "groove" in fields:
        return {k: v for k, v in fields.items() if k in ("kind", "count", "reference", "groove")}
    given, plain = _told_apart(fields.get("numbers", []))
    width = given.get("wide") or (plain.pop(0) if plain else None)
    diameter, depth = given.get("diameter"), given.get("depth")
    if depth is None and diameter is None and plain:
        depth = plain.pop(0)
        run.assumed.append(f"groove {depth:g} mm deep")
    if width is None or (diameter is None and depth is None):
        raise NoteError("a groove needs a width, and a diameter or a depth", hint="GROOVE 1.3 x Ø23.9")
    _left_over(run, plain)
    groove = Groove(
        width_mm=width, diameter_mm=diameter, depth_mm=depth, radius_mm=given.get("radius"), ring=fields.get("ring")
    )
    return {k: v for k, v in fields.items() if k in ("kind", "count", "reference")} | {"groove": groove}


def _left_over(run: Run, plain: list[float]) -> None:
    run.unread.extend(f"{value:g}" for value in plain)


def _told_apart(numbers: Numbers) -> tuple[dict[str, float], list[float]]:
    """Sizes with a role of their own (the first of each), and the plain ones in order."""
    given: dict[str, float] = {}
    plain = []
    for role, value in numbers:
        if role == "plain":
            plain.append(value)
        else:
            given.setdefault(role, value)
    return given, plain


#: what each kind of item does to the clause that is being read
TAKES: Mapping[str, Take] = {
    "keyway": _take_keyway,
    "groove": _take_groove,
    "taper": _take_taper,
    "ratio": _take_ratio,
    "ring": _take_ring,
    "undercut": _take_undercut,
    "centre": _take_centre,
    "knurl": _take_knurl,
}

#: how clauses of each kind are finished
COMPLETES: Mapping[str, Complete] = {
    "taper": _complete_taper,
    "keyway": _complete_keyway,
    "groove": _complete_groove,
}
