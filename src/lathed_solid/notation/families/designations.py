"""Designations of threads: metric, unified, pipe, trapezoidal and ACME, as a note writes them."""

from __future__ import annotations

import re
from collections.abc import Callable
from fractions import Fraction

from lathed_solid.notation.clauses import Thread
from lathed_solid.notation.families.run import Run
from lathed_solid.notation.items import Item, NoteError
from lathed_solid.quantity.tolerances import ROUNDING
from lathed_solid.quantity.units import MM_PER_INCH, decimal
from lathed_solid.standards import StandardError, coarse_pitch, thread_form
from lathed_solid.standards.csv_tables import rows
from lathed_solid.standards.drills import inches

_METRIC = re.compile(
    r"M\s*(\d+(?:[.,]\d+)?)(?:\s*x\s*(\d+(?:[.,]\d+)?|[.,]\d+)(?:\s*\(?P\s*(\d+(?:[.,]\d+)?)\)?)?)?$", re.I
)
_UNIFIED = re.compile(
    r"(.+?)\s*\"?\s*(?:-\s*(\d{1,2}(?:\.5)?))?\s*-?\s*(UNC|UNF|UNEF|UNS|UNJC|UNJF|UNRC|UNRF|UN|NC|NF)?\s*-?\s*([123][AB]?)?$",
    re.I,
)
_SERIES = {"NC": "UNC", "NF": "UNF", "UNRC": "UNC", "UNRF": "UNF"}


def thread_of(run: Run, item: Item, *, quietly: bool = False) -> Thread:
    """The thread of a designation; ``quietly``: nothing is said of what was taken. Raises NoteError."""
    kind, text, klass = item.text.split("|")
    said = len(run.assumed)
    thread = _WAYS[kind](run, item, text, klass)
    if quietly:
        del run.assumed[said:]
    return thread


def _metric(run: Run, item: Item, text: str, klass: str) -> Thread:
    coarse = re.search(r"\s+(COARSE|FINE)(\s+PITCH)?$", text, re.I)
    if coarse and coarse[1].upper() == "FINE":
        raise NoteError("a fine thread has more pitches than one", column=item.column, received=text,
                        hint=f"its pitch: {text[: coarse.start()]}x1")  # fmt: skip
    text = re.sub(r"\s*-\s*", "x", text[: coarse.start()] if coarse else text)  # M8-1.25
    text = re.sub(r"^(M\s*[\d.,]+)\s*x?\s*P(?:ITCH)?\s*([\d.,]+)$", r"\1x\2", text, flags=re.I)
    match = _METRIC.match(re.sub(r"\s*P(?:ITCH)?$", "", text, flags=re.I))
    if not match:
        raise NoteError("a metric thread reads M8, M8x1 or M8x1-6H", column=item.column, received=text)
    major = decimal(match[1])
    second = decimal(match[2]) if match[2] else None
    pitch = decimal(match[3]) if match[3] else second
    if pitch is None:
        pitch = _coarse(run, major, item)
    if not 0 < pitch < major:
        raise NoteError("a pitch is above zero and below the diameter", column=item.column, received=pitch)
    starts = round(second / pitch) if match[3] and second else 1
    if match[3] and second and abs(second / pitch - starts) > ROUNDING:
        raise NoteError("the lead is no whole number of pitches", column=item.column, received=text)
    name = f"M{major:g}×{second if starts > 1 else pitch:g}" + (f"(P{pitch:g})" if starts > 1 else "")
    internal = None if not klass or "/" in klass else klass[-1].isupper()
    return _thread(name, major, pitch, klass or None, internal, starts)


def _coarse(run: Run, major: float, item: Item) -> float:
    try:
        pitch = coarse_pitch(major)
    except StandardError as exc:
        raise NoteError(exc.what, column=item.column, hint=exc.hint) from None
    run.say(f"coarse pitch {pitch:g} taken")
    return pitch


def _thread(name: str, major: float, pitch: float, klass: str | None, internal: bool | None, starts: int = 1) -> Thread:
    return Thread(
        designation=name + (f"-{klass}" if klass else ""), major_mm=major, pitch_mm=pitch, thread_class=klass,
        internal=internal, starts=starts if starts > 1 else None,
    )  # fmt: skip


#: threads of the ports of SAE J1926-1 by their dash size, all of class 2B
_PORTS = {"2": "5/16-24", "3": "3/8-24", "4": "7/16-20", "5": "1/2-20", "6": "9/16-18", "8": "3/4-16", "10": "7/8-14",
          "12": "1 1/16-12", "16": "1 5/16-12", "20": "1 5/8-12", "24": "1 7/8-12", "32": "2 1/2-12"}  # fmt: skip


def _port(run: Run, item: Item, text: str) -> str:
    """``SAE-6 PORT``: its thread. Raises NoteError for a size without one."""
    size = re.sub(r"J\s?1926(?:-1|/1)?", "", text, flags=re.I)
    number = re.search(r"\d+", size)
    if number is None or number[0] not in _PORTS:
        raise NoteError("no port of SAE J1926 has this size", column=item.column, received=text,
                        hint=f"SAE-6 PORT; sizes {', '.join(_PORTS)}")  # fmt: skip
    run.say(f"the thread {_PORTS[number[0]]} of a port by SAE J1926-1; its seat is not read")
    return f"{_PORTS[number[0]]}-2B"


def _unified(run: Run, item: Item, text: str, _: str) -> Thread:
    if text.upper().startswith("SAE"):
        text = _port(run, item, text)
    match = _UNIFIED.match(re.sub(r"\s*[xX]\s*", "-", text))  # 1/2 x 13 UNC
    if not match:
        raise NoteError("this inch thread cannot be read", column=item.column, received=text)
    size = _inch_size(match[1], item)
    series = (match[3] or "").upper()
    series = _SERIES.get(series, series)
    tpi = match[2] or _pitch_of(size, series, item)
    if not series:
        series = _series(size, tpi)
        run.say(f"series {series} taken" if series else "no standard series has this pitch")
    klass = match[4].upper() if match[4] else None
    if klass in ("1", "2", "3"):
        run.say(f"class {klass} of before 1949: no class of today")
        klass = None
    name = f"{size}-{tpi}" + (f" {series}" if series else "")
    try:
        form = thread_form(name if series in ("UNC", "UNF", "UNEF", "UN") else f"{size}-{tpi}")
    except StandardError as exc:
        raise NoteError(exc.what, column=item.column, received=text, hint=exc.hint) from None
    return _thread(name, form.major, form.pitch, klass, None if klass is None else klass[-1] == "B")


def _pitch_of(size: str, series: str, item: Item) -> str:
    """Threads an inch of a size in a series: ``3/8 UNC``."""
    row = next((r for r in rows("unified") if r["designation"] == size), None)
    key = series.lower()
    if row is None or not row.get(key):
        raise NoteError(f"{size} {series} is not in the table", column=item.column, hint="3/8-16 UNC")
    return row[key]


def _pipe(run: Run, item: Item, text: str, _: str) -> Thread:
    text = re.sub(r"^(NPT[FS]?)\s*(.+)$", r"\2 \1", text.upper().replace('"', ""))  # NPT 1/4
    if "NPT" in text:
        size = re.match(r"\d+[ -]\d+/\d+|\d+/\d+|\d*\.\d+|\d+", text)
        written = size[0] if size else ""
        name = inches(Fraction(written)) if "." in written else written.replace("-", " ")
        row = next((r for r in rows("pipe_taper") if r["designation"] == name), None)
        given = re.search(r"-\s*(\d+(?:\.5)?)", text[len(written) :])
        if row is None or (given and float(given[1]) != float(row["tpi"])):
            raise NoteError("this taper pipe thread is not in ASME B1.20.1", column=item.column, received=text)
        tail = re.search(r"NPT[FS]?", text)
        designation = f"{name}-{row['tpi']} {tail[0] if tail else 'NPT'}"
        return _thread(designation, float(row["outside_in"]) * MM_PER_INCH, MM_PER_INCH / float(row["tpi"]), None, None)
    size = re.search(r"\d+[ -]\d+/\d+|\d+/\d+|\d+", text)
    klass = re.search(r"[\d ]-?\s*([AB])$", text)
    bare = size[0].replace("-", " ") if size else text
    taper = re.match(r"R[CP]", text)
    outside = text.startswith("R") and not taper  # R1/4 TAPER THREAD
    name = f"{taper[0].capitalize()}{bare}" if taper else f"{bare} BSPT" if outside or "BSPT" in text else f"G{bare}"
    try:
        form = thread_form(f"G{bare}")  # ISO 7-1 has the sizes of ISO 228-1 at its gauge plane
    except StandardError as exc:
        raise NoteError(exc.what, column=item.column, received=text, hint="G1/8, G1/2 A") from None
    internal = True if taper else False if klass or outside else None
    return _thread(name, form.major, form.pitch, klass[1] if klass else None, internal)


def _trapezoidal(run: Run, item: Item, text: str, _: str) -> Thread:
    if "ACME" in text.upper():
        text = re.sub(r"^ACME\s+(\S+?\s*-\s*[\d.]+)\s*(?:-?\s*(\d[A-Z]))?$", _acme_behind, text, flags=re.I)
        match = re.match(r"(.+?)\"?\s*-\s*(\d{1,2}(?:\.5)?)\s*(STUB\s+)?ACME(?:\s*-\s*(\d[A-Z]))?$", text, re.I)
        assert match is not None
        try:
            major = float(_fraction(match[1]))
        except ZeroDivisionError:
            raise NoteError("a fraction over zero", column=item.column, received=text) from None
        name = f"{match[1]}-{match[2]} {'STUB ' if match[3] else ''}ACME"
        if not major or not float(match[2]):
            raise NoteError("a size must be above zero", column=item.column, received=text)
        return _thread(name, major * MM_PER_INCH, MM_PER_INCH / float(match[2]), match[4], None)
    match = re.match(r"TR\s*([\d.,]+)\s*x\s*([\d.,]+)(?:\s*\(?P\s*([\d.,]+)\)?)?(?:\s*-\s*(\d[A-Za-z]))?$", text, re.I)
    assert match is not None
    major, lead = decimal(match[1]), decimal(match[2])
    pitch = decimal(match[3]) if match[3] else lead
    name = f"Tr{major:g}x{lead:g}" + (f"(P{pitch:g})" if match[3] else "")
    try:
        thread_form(name)
    except StandardError as exc:
        raise NoteError(exc.what, column=item.column, received=text, hint=exc.hint) from None
    klass = match[4]
    return _thread(
        name.replace("x", "×"), major, pitch, klass, None if klass is None else klass[-1].isupper(), round(lead / pitch)
    )


def _acme_behind(found: re.Match[str]) -> str:
    """``ACME 1-5 2G`` as ``1-5 ACME-2G``."""
    return f"{found[1]} ACME" + (f"-{found[2]}" if found[2] else "")


def _whitworth(run: Run, item: Item, text: str, _: str) -> Thread:
    """``3/8 BSW``, ``1/4-26 BSF``, ``1/2 WHIT``, ``2BA``."""
    if re.search(r"B\.?A\.?$", text, re.I):
        name = f"{int(re.findall(r'[0-9]+', text)[0])} BA"
    else:
        match = re.match(r'(.+?)"?\s*(?:-\s*(\d{1,2}(?:\.5)?))?\s*-?\s*(BSW|BSF|WHIT)', text, re.I)
        assert match is not None
        try:
            size = inches(_fraction(match[1]))
        except (ZeroDivisionError, ValueError):
            raise NoteError("this inch size cannot be read", column=item.column, received=text) from None
        series = match[3].upper().replace("WHIT", "BSW")
        name = f"{size}{f'-{match[2]}' if match[2] else ''} {series}"
    try:
        form = thread_form(name)
    except StandardError as exc:
        raise NoteError(exc.what, column=item.column, received=text, hint=exc.hint) from None
    if "-" not in name and "BA" not in name:
        name = f"{size}-{MM_PER_INCH / form.pitch:g} {series}"
    return _thread(name, form.major, form.pitch, None, None)


_WAYS: dict[str, Callable[[Run, Item, str, str], Thread]] = {
    "metric": _metric, "unified": _unified, "pipe": _pipe, "trapezoidal": _trapezoidal, "whitworth": _whitworth,
}  # fmt: skip


#: a size written to three decimals is this near, in: .312 for 5/16
THOU_ROUNDED = 5.1e-4


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
        if row["designation"] == exact or abs(float(row["major_in"]) - float(value)) < THOU_ROUNDED:
            return row["designation"]
    raise NoteError("this inch size is not in the table", column=item.column, received=text)


def _series(size: str, tpi: str) -> str:
    row = next((r for r in rows("unified") if r["designation"] == size), None)
    for series in ("unc", "unf", "unef"):
        if row is not None and row[series] and float(row[series]) == float(tpi):
            return series.upper()
    return ""
