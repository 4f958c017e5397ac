"""Threads: metric, unified, pipe, trapezoidal and ACME, with class, hand, length or depth, and the drill's depth."""

from __future__ import annotations

import re
from collections.abc import Mapping
from fractions import Fraction

from lathed_solid.notation.clauses import Thread
from lathed_solid.notation.families.holes import check_entries, place
from lathed_solid.notation.families.run import Complete, Fields, Run, Take
from lathed_solid.notation.items import Item, NoteError
from lathed_solid.quantity.tolerances import ROUNDING
from lathed_solid.quantity.units import MM_PER_INCH, decimal
from lathed_solid.standards import StandardError, coarse_pitch, thread_form
from lathed_solid.standards.csv_tables import rows
from lathed_solid.standards.drills import inches

_METRIC = re.compile(
    r"M(\d+(?:[.,]\d+)?)(?:[x×](\d+(?:[.,]\d+)?)(?:\(?P(\d+(?:[.,]\d+)?)\)?)?)?(?:-?(\d[A-Ha-h][\w/]*))?$", re.I
)
_UNIFIED = re.compile(r"(.+?)\s*-\s*(\d{1,2}(?:\.5)?)\s*-?\s*(UNC|UNF|UNEF|UNS|UN|NC|NF)?\s*-?\s*([123][AB])?$", re.I)
_SERIES = {"NC": "UNC", "NF": "UNF"}
#: a figure after the X that is no pitch of any thread, but a length
LONGEST_PITCH = 8.0


def _take_thread(run: Run, item: Item, _: Item | None) -> None:
    match = _METRIC.match(item.text)
    if not match:
        raise NoteError("a metric thread reads M8, M8x1 or M8x1-6H", column=item.column, received=item.text)
    major = decimal(match[1])
    second = decimal(match[2]) if match[2] else None
    pitch = decimal(match[3]) if match[3] else second
    length = None
    if second is not None and match[3] is None and (second > LONGEST_PITCH or second > major / 2):
        length, pitch = second, None  # M8 x 20: a length
    if pitch is None:
        pitch = _coarse(run, major, item)
    if not 0 < pitch < major:
        raise NoteError("a pitch is above zero and below the diameter", column=item.column, received=pitch)
    starts = round(second / pitch) if match[3] and second else 1
    if match[3] and second and abs(second / pitch - starts) > ROUNDING:
        raise NoteError("the lead is no whole number of pitches", column=item.column, received=item.text)
    klass = match[4]
    name = f"M{major:g}×{second if starts > 1 else pitch:g}" + (f"(P{pitch:g})" if starts > 1 else "")
    internal = None if klass is None or "/" in klass else klass[-1].isupper()
    _begin(run, item, name, major, pitch, klass, internal, starts, length)


def _coarse(run: Run, major: float, item: Item) -> float:
    try:
        pitch = coarse_pitch(major)
    except StandardError as exc:
        raise NoteError(exc.what, column=item.column, hint=exc.hint) from None
    run.assumed.append(f"coarse pitch {pitch:g} taken")
    return pitch


def _begin(
    run: Run, item: Item, name: str, major: float, pitch: float, klass: str | None, internal: bool | None,
    starts: int = 1, length: float | None = None,
) -> None:  # fmt: skip
    thread = Thread(
        designation=name + (f"-{klass}" if klass else ""), major_mm=major, pitch_mm=pitch, thread_class=klass,
        internal=False if length is not None and internal is None else internal,
        starts=starts if starts > 1 else None, depth_mm=length,
    )  # fmt: skip
    if run.kind == "hole" and run.drilling and "through" not in run.open and "depth_mm" not in run.open:
        # DRILL AND TAP: the drill that stands before belongs to the thread
        run.open.update(kind="thread", thread=thread)
        run.drilling = False
        return
    run.start(kind="thread", thread=thread)


def _take_unified(run: Run, item: Item, _: Item | None) -> None:
    match = _UNIFIED.match(" ".join(item.text.split()))
    if not match:
        raise NoteError("this inch thread cannot be read", column=item.column, received=item.text)
    size = _inch_size(match[1], item)
    series = (match[3] or "").upper()
    series = _SERIES.get(series, series)
    if not series:
        series = _series(size, match[2])
        run.assumed.append(f"series {series} taken" if series else "no standard series has this pitch")
    klass = match[4].upper() if match[4] else None
    name = f"{size}-{match[2]}" + (f" {series}" if series else "")
    try:
        form = thread_form(name if series in ("UNC", "UNF", "UNEF", "UN") else f"{size}-{match[2]}")
    except StandardError as exc:
        raise NoteError(exc.what, column=item.column, received=item.text, hint=exc.hint) from None
    _begin(run, item, name, form.major, form.pitch, klass, None if klass is None else klass[-1] == "B")


def _take_pipe(run: Run, item: Item, _: Item | None) -> None:
    text = " ".join(item.text.upper().split())
    if "NPT" in text:
        size = re.match(r"\d+[ -]\d+/\d+|\d+/\d+|\d+", text)
        name = size[0].replace("-", " ") if size else ""
        row = next((r for r in rows("pipe_taper") if r["designation"] == name), None)
        given = re.search(r"-\s*(\d+(?:\.5)?)", text[len(name) :])
        if row is None or (given and float(given[1]) != float(row["tpi"])):
            raise NoteError("this taper pipe thread is not in ASME B1.20.1", column=item.column, received=text)
        tail = re.search(r"NPT[FS]?", text)
        designation = f"{name}-{row['tpi']} {tail[0] if tail else 'NPT'}"
        _begin(
            run, item, designation, float(row["outside_in"]) * MM_PER_INCH, MM_PER_INCH / float(row["tpi"]), None, None
        )
        return
    match = re.match(r"G\s*(.+?)\s*-?\s*([AB])?$", text)
    try:
        form = thread_form(f"G{match[1]}" if match else text)
    except StandardError as exc:
        raise NoteError(exc.what, column=item.column, received=item.text, hint="G1/8, G1/2 A") from None
    klass = match[2] if match else None
    name = f"G{match[1]}" if match else text
    _begin(run, item, name, form.major, form.pitch, klass, False if klass else None)


def _take_trapezoidal(run: Run, item: Item, _: Item | None) -> None:
    text = " ".join(item.text.split())
    if "ACME" in text.upper():
        match = re.match(r"(.+?)\s*-\s*(\d{1,2}(?:\.5)?)\s*(STUB\s+)?ACME(?:\s*-\s*(\d[A-Z]))?$", text, re.I)
        assert match is not None
        major = float(_fraction(match[1]))
        name = f"{match[1]}-{match[2]} {'STUB ' if match[3] else ''}ACME"
        _begin(run, item, name, major * MM_PER_INCH, MM_PER_INCH / float(match[2]), match[4], None)
        return
    match = re.match(
        r"TR\s*([\d.,]+)\s*[x×]\s*([\d.,]+)(?:\s*\(?P\s*([\d.,]+)\)?)?(?:\s*-\s*(\d[A-Za-z]))?$", text, re.I
    )
    assert match is not None
    major, lead = decimal(match[1]), decimal(match[2])
    pitch = decimal(match[3]) if match[3] else lead
    try:
        thread_form(f"Tr{major:g}x{lead:g}" + (f"(P{pitch:g})" if match[3] else ""))
    except StandardError as exc:
        raise NoteError(exc.what, column=item.column, received=text, hint=exc.hint) from None
    name = f"Tr{major:g}×{lead:g}" + (f"(P{pitch:g})" if match[3] else "")
    klass = match[4]
    _begin(run, item, name, major, pitch, klass, None if klass is None else klass[-1].isupper(), round(lead / pitch))


def _complete_thread(run: Run, fields: Fields) -> Fields:
    thread: Thread = fields["thread"]
    inside = any(fields.get(k) for k in ("through", "csk", "cbore", "depth_mm", "diameter_mm", "spotface"))
    if thread.internal is None:
        fields["thread"] = thread.model_copy(update={"internal": bool(inside)})
        run.assumed.append("an internal thread" if inside else "an external thread")
    if "depth_mm" in fields:
        if thread.depth_mm is not None and fields["depth_mm"] < thread.depth_mm:
            raise NoteError("the drill is not as deep as the thread", hint="M8 ↧16, DRILL ↧20")
        fields.setdefault("depth_to", "shoulder")
    place(run, fields)
    check_entries(run, fields, fields["thread"].major_mm if "cbore" in fields else 0.0)
    return fields


def _fraction(text: str) -> Fraction:
    """``5/16``, ``1 1/8``, ``1-1/8``, ``.375`` as a fraction of an inch."""
    parts = re.split(r"[\s-]+", text.strip())
    return sum((Fraction(p) for p in parts), Fraction(0))


def _inch_size(text: str, item: Item) -> str:
    """``#10``, ``5/16``, ``1 1/8`` from any way of writing it."""
    bare = text.strip()
    if bare.startswith("#"):
        return "#" + bare[1:].strip()
    try:
        value = _fraction(bare)
    except ZeroDivisionError:
        raise NoteError("a fraction over zero", column=item.column, received=text) from None
    if re.fullmatch(r"\d+", bare) and int(bare) > 4:
        return f"#{bare}"  # 10-32: a number size
    exact = inches(value)
    for row in rows("unified"):
        if row["designation"] == exact or abs(float(row["major_in"]) - float(value)) < 5e-4:
            return row["designation"]
    raise NoteError("this inch size is not in the table", column=item.column, received=text)


def _series(size: str, tpi: str) -> str:
    row = next((r for r in rows("unified") if r["designation"] == size), None)
    for series in ("unc", "unf", "unef"):
        if row is not None and row[series] and float(row[series]) == float(tpi):
            return series.upper()
    return ""


#: what each kind of item does to the clause that is being read
TAKES: Mapping[str, Take] = {
    "thread": _take_thread,
    "unified": _take_unified,
    "pipe": _take_pipe,
    "trapezoidal": _take_trapezoidal,
}

#: how clauses of each kind are finished
COMPLETES: Mapping[str, Complete] = {
    "thread": _complete_thread,
}
