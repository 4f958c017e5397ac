"""What a drawing says of form, direction and place, of datums and of the texture of surfaces: read as what it is.

Signs of ISO 1101 and ASME Y14.5, or the words of shops: ``⌖ ⌀0.1 A B``, ``FLATNESS 0.02``, ``RUNOUT .003 TIR TO A``,
``DATUM A``, ``Ra 1.6``, ``63 RMS``.
"""

from __future__ import annotations

import re

from lathed_solid.notation.clauses import Frame, Texture
from lathed_solid.notation.families.run import Families, Fields, Prefix, Run
from lathed_solid.notation.items import NoteError, factor_of, plain_number
from lathed_solid.notation.tokens import CHARACTERISTICS, NUMBER

#: forms need no datum, the others none less than one (position may do without)
FORMS = ("flatness", "straightness", "circularity", "cylindricity")
LEAST_DATUMS = ("perpendicularity", "parallelism", "concentricity", "runout", "total runout", "angularity", "symmetry")
#: words behind their tolerance
NAMED = {
    "total runout": r"TOTAL\s+RUN-?\s?OUT", "runout": r"RUN-?\s?OUT", "flatness": "FLAT(?:NESS)?",
    "parallelism": "PARALLELISM", "concentricity": "CONCENTRICITY",
    "perpendicularity": "SQUARENESS|PERPENDICULARITY", "circularity": "ROUNDNESS",
    "cylindricity": "CYLINDRICITY", "straightness": "STRAIGHTNESS",
}  # fmt: skip
UM_PER_MICROINCH = 0.0254
#: textures that are usual in uin, and in um are not
MICROINCH = (16.0, 32.0, 63.0, 125.0, 250.0, 500.0)
#: nothing is made so smooth, uin: what was meant is um
LEAST_MICROINCH = 2.0
#: Ra of the roughness grades N1 to N12, um (ISO 1302:1992 annex A)
GRADES = (0.025, 0.05, 0.1, 0.2, 0.4, 0.8, 1.6, 3.2, 6.3, 12.5, 25.0, 50.0)


#: of the material, at a tolerance or at a datum
CONDITION = r"(?:[ⓂⓁ]|\([ML]\))"


def _ring(condition: str) -> str:
    return {"M": "Ⓜ", "L": "Ⓛ"}.get(condition.strip("()"), condition)


def _read_frame(run: Run, _: Prefix) -> Fields | None:
    item = run.take()
    text = item.text
    name, rest = "", text
    for characteristic, pattern in CHARACTERISTICS.items():
        match = re.match(rf"\|?\s*(?:{pattern})", text, re.I)
        if match:
            name, rest = characteristic, text[match.end() :]
            break
    ahead = re.match(rf"⌀?\s*{NUMBER}\s*(?:mm\b|in\b)?\s*", text, re.I)
    if not name and ahead is not None:  # .003 TOTAL RUNOUT TO A
        worded = ((n, re.match(pattern, text[ahead.end() :], re.I)) for n, pattern in NAMED.items())
        name, match = next(((n, m) for n, m in worded if m), ("", None))
        rest = ahead[0] + text[ahead.end() + match.end() :] if match else text
    if not name and re.search(r"T\.?I\.?R|F\.?I\.?[MR]", text, re.I):
        name = "runout"  # .005 TIR TO A: what an indicator shows in one turn
    if against := re.match(rf"[^\d]*(⌀\s*{NUMBER}[^\d]*)\bWITHIN\b", rest, re.I):  # CONCENTRIC WITH ⌀40 WITHIN 0.02
        run.say(f"with {against[1].strip()}")
        rest = rest[against.end() :]
    number = re.search(r"[.,]?\d+(?:[.,]\d+)?", rest)
    if number is None or not name:
        run.leave(item)
        return None
    value = plain_number(number[0], item.column)[0]
    if value <= 0:
        raise NoteError("a tolerance is above zero", column=item.column, received=number[0])
    tail = rest[number.end() :]
    conditioned = tuple(a + _ring(b) for a, b in re.findall(rf"(?<![A-Za-z])([A-Z](?:-[A-Z])?)\s*({CONDITION})", tail))
    tail = re.sub(rf"(?<=[A-Z])\s*{CONDITION}", "", tail)  # of a datum: kept with it
    material = re.search(r"([ⓂⓁ])|\(([ML])\)", tail)
    factor = 1.0 if re.match(r"\s*mm\b", tail, re.I) else factor_of(run.unit)
    letters = re.sub(
        r"\([MLP]\)|[ⓂⓁⓅ]|T\.?I\.?R\.?|F\.?I\.?[MR]\.?|\bMAX\b\.?"
        r"|\b(?:mm|in|with|within|rel|relative|wrt|to|about|datums?|dia|face|axis)\b",
        " ",
        rest[: number.start()] + " " + tail,
        flags=re.I,
    )
    datums = tuple(re.findall(r"(?<![A-Za-z])[A-Z](?:-[A-Z])?(?![A-Za-z])", letters))
    datums = tuple(next((c for c in conditioned if c[:-1] == d), d) for d in datums)
    told = {"Ⓜ": "M", "Ⓛ": "L"}.get(material[1], material[2]) if material else None
    if told is None and len(datums) > 1 and datums[0] in ("M", "L"):
        told, datums = datums[0], datums[1:]  # ⌖ ⌀0.2 M A B C: the ring about the letter was not typed
        run.say(f"{told} is the condition of the material, no datum")
    if name in FORMS and datums:
        raise NoteError(f"{name} has no datum", column=item.column, received=text)
    if name == "runout" and not datums and run.done and run.done[-1].thread is not None:
        run.leave(item)  # M20 x 1.5, RUN-OUT 3 MAX: that of the thread
        return None
    if name in LEAST_DATUMS and not datums:
        run.say("no datum is told: it is kept, and not judged here")
    run.say(f"{name} {run.size(value * factor)}")
    diametral = re.search(r"⌀(?!\s*[A-Z]\b)", rest) is not None or None
    frame = Frame(
        characteristic=name, tolerance_mm=value * factor, diametral=diametral,
        material=told, datums=datums,
    )  # fmt: skip
    return {"kind": "frame", "frame": frame}


def _read_datum(run: Run, _: Prefix) -> Fields | None:
    item = run.take()
    return {"kind": "datum", "datum": re.findall(r"[A-Z]", item.text.strip("[]- "))[-1]}


def _read_texture(run: Run, _: Prefix) -> Fields | None:
    item = run.take()
    if run.sees("elsewhere"):
        run.take()
        run.say("every surface not named elsewhere")
    if run.sees("turn"):
        run.say(run.take().text.lower())  # Ra 0.8 GRIND
    number = re.search(NUMBER, item.text)
    assert number is not None
    if re.search(r"\bN\d", item.text):
        run.say(f"roughness grade N{number[0]}")
        return {"kind": "texture", "texture": Texture(parameter="Ra", limit_um=GRADES[int(number[0]) - 1])}
    value = plain_number(number[0], item.column)[0]
    micro = bool(re.search(r"uin|MICRO", item.text, re.I)) or (run.unit == "in" and "um" not in item.text.lower())
    name = re.search(r"R[az]|RMS|CLA", item.text, re.I)
    if not micro and value in MICROINCH and name is not None and name[0].upper() in ("RMS", "CLA"):
        micro = True  # named so before there was ISO 468
        run.say(f"{value:g} µin, as {name[0].upper()} is told in")
    parameter = {"RA": "Ra", "RZ": "Rz", "CLA": "Ra", "RMS": "Rq"}.get(name[0].upper() if name else "RA", "Ra")
    told = re.search(r"uin|um|MICRO", item.text, re.I) is not None
    small = micro and not told and 0 < value < LEAST_MICROINCH  # Ra 0.8 on a sheet in inches
    if small or (value in MICROINCH and not micro and name is None and not told):
        raise NoteError("a texture in µm or in µin: this can be read either way", column=item.column,
                        received=item.text, hint=f"Ra {value:g}{' µm' if small else ''}, or {value:g} µin")  # fmt: skip
    if value <= 0:
        raise NoteError("a texture's limit is above zero", column=item.column, received=item.text)
    return {
        "kind": "texture",
        "texture": Texture(parameter=parameter, limit_um=value * (UM_PER_MICROINCH if micro else 1.0)),
    }


#: which item begins what
READS: Families = {"frame": _read_frame, "datum": _read_datum, "texture": _read_texture}
