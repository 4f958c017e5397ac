"""What a sheet says beside sizes: its material, the tolerance of sizes that have none, the work to be done, the sheet
itself.

A line that one of the patterns in ``instructions.txt`` holds whole is an instruction, or a stretch behind the last
commas or full stops of a line of sizes. Its place in the note is left blank, so that the sizes are read as if it were
not there. Words of edges (BREAK ALL SHARP EDGES) are one only where no size follows: with a size they are a general
note.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from functools import cache

from lathed_solid.notation.clauses import Clause, Instruction
from lathed_solid.notation.general_tolerances import UNSTATED, general_tolerance
from lathed_solid.notation.letters import Letters
from lathed_solid.notation.word_files import lines_of
from lathed_solid.quantity import LengthUnit
from lathed_solid.standards.materials import material_named

#: ``1. FILLETS R3``: the number of a general note is no size
LISTED = re.compile(
    r"(?m)^[ ]*(?:NOTES?[ ]*:?[ ]*\d{1,2}[ ]*[.):]|NOTES?[ ]*:|\d{1,2}[ ]*[.)])[ ]+(?=[A-Za-z]{3})"
    r"|(?m:^[ ]*(?:GENERAL[ ]+)?NOTES?[ ]*:?[ ]*$)",
    re.I,
)
#: numbers of lines with a dash, below a heading
HEADED = re.compile(r"[ ]*(?:GENERAL[ ]+)?NOTES?[ ]*:?[ ]*\n", re.I)
DASHED = re.compile(r"(?m)^[ ]*\d{1,2}[ ]*-[ ]+(?=[A-Za-z])")
#: where a stretch of its own may begin; the name of a material needs nothing before it
CUT = re.compile(
    r"[,;][ ]+|\.[ ]+(?=[A-Za-z])|[ ]-[ ]+(?=[A-Za-z])|(?<=[\d)A-Z])[ ]+(?=(?:"
    r"(?:MILD|SILVER|STAINLESS|TOOL|SPRING|BRIGHT|CARBON)[ ]+STEEL|BRASS|BRONZE"
    r"|ALUMINI?UM|NYLON|ACETAL|EN[ ]?\d{1,2}[A-Z]?)[ ]*$)",
    re.I,
)
#: what every instruction has: a word, figures left open, a name of a steel or of an alloy
WORDS = re.compile(r"[A-Za-z]{2}|C/L|℄|[.,]X|^\d{3}[AMSH]\d\d|^1[12]L\d\d|^\d{4}[ ]*-[ ]*[TH]\d", re.I)
#: what may stand before sizes in one line, behind which a comma stands
AHEAD = ("work",)
#: the size of what a line before it said
SIZE = re.compile(r"(?:MAX|MIN|WITH)\b|[RC]?[ ]*[.]?\d", re.I)
#: the name of a steel, or a chamfer
CHAMFER = r"C[ ]?\d{1,2}"
#: a name of a material has none of these words
SIZED = re.compile(r"\b(?:THICK|THK|LONG|WIDE|DIA)\b", re.I)


#: what an instruction is of that a line says only where no size follows, or where it stands alone
KINDS = {"edges": "work", "alone": "sheet"}


@cache
def _patterns() -> tuple[tuple[str, re.Pattern[str]], ...]:
    """(what it is of, pattern) of each line of the file."""
    parts, found = {"UNSTATED": UNSTATED}, []
    for line in lines_of("instructions.txt"):
        what, pattern = line.split(None, 1)
        name = ""
        if what == "part":
            name, pattern = pattern.split(None, 1)
        for known, part in parts.items():
            pattern = pattern.replace(f"{{{known}}}", f"(?:{part})")
        if name:
            parts[name] = f"{parts[name]}|{pattern}" if name in parts else pattern
        else:
            found.append((what, re.compile(pattern, re.I)))
    return tuple(found)


def told_of(text: str, unit: LengthUnit = "mm") -> Instruction | None:
    """What a line says, where all of it is an instruction; else None."""
    return _said(text, unit)[1]


def _said(text: str, unit: LengthUnit) -> tuple[str, Instruction | None]:
    """Which pattern holds the line, and what it says."""
    text = " ".join(text.split()).strip(" ,;")
    if not WORDS.search(text):
        return "", None
    general = general_tolerance(text, unit)
    if general is not None:
        return "general tolerance", general
    for what, pattern in _patterns():
        found = pattern.fullmatch(text)
        if found is None:
            continue
        named = found.groupdict()
        material, drawn = named.get("material"), named.get("unit")
        if material is not None and (SIZED.search(material) or _more(material, unit)):
            continue
        if drawn is not None:
            drawn = "in" if drawn.lower().startswith("in") else "mm"
        kind = KINDS.get(what, what)
        return what, Instruction.model_validate({"what": kind, "text": text, "material": material, "unit": drawn})
    if not re.fullmatch(CHAMFER, text, re.I) and material_named(text) is not None:
        return "material", Instruction(what="material", text=text, material=text)
    return "", None


def _more(material: str, unit: LengthUnit) -> bool:
    """Whether what stands behind a comma is an instruction of its own: ``C45, HARDENED``."""
    _, comma, behind = material.partition(",")
    return bool(comma) and told_of(behind, unit) is not None


def without_instructions(letters: Letters, unit: LengthUnit, note: str = "") -> tuple[Letters, list[Clause]]:
    """A note with its instructions and the numbers of its lines left blank; and the clauses of the instructions, in the
    words of ``note``, where it is given: the letters may be those of another language.
    """
    listed = letters.text
    if HEADED.match(listed):
        listed = DASHED.sub(lambda m: " " * len(m[0]), listed)
    lines = LISTED.sub(lambda m: " " * len(m[0]), listed).split("\n")
    out, found = [], []
    begin = 0
    for k, line in enumerate(lines):
        start, begin = begin, begin + len(line) + 1
        what, said = _said(line, unit)
        goes_on = (what == "edges" and _sized(lines[k + 1 :], unit)) or (what == "alone" and len(lines) > 1)
        if said is not None and not goes_on:
            out.append(" " * len(line))
            found.append(_as_written(said, note, letters, start + len(line) - len(line.lstrip()), start + len(line)))
            continue
        end, behind = len(line), list[Instruction]()
        for at in _cuts(line):
            what, said = _said(line[at:end], unit)
            if said is None or what == "alone":
                break
            behind.insert(0, _as_written(said, note, letters, start + at, start + end))
            end = at
        first = 0
        for at in (cut.end() for cut in CUT.finditer(line[:end])):  # CENTRE DRILL BOTH ENDS, TURN ⌀20
            what, said = _said(line[first:at], unit)
            if said is None or what not in AHEAD:
                continue
            found.append(_as_written(said, note, letters, start + first, start + at))
            first = at
        out.append(" " * first + line[first:end] + " " * (len(line) - end))
        found += behind
    clauses = [Clause(kind="instruction", instruction=said) for said in found]
    return Letters("\n".join(out), letters.columns), clauses


def _as_written(said: Instruction, note: str, letters: Letters, start: int, end: int) -> Instruction:
    """An instruction whose words stand from ``start`` to ``end``, as they stand in the note."""
    text = " ".join(note[letters.column(start) - 1 : letters.column(end) - 1].split()).strip(" ,;")
    return said.model_copy(update={"text": text}) if note and said.what in ("work", "sheet") else said


def _sized(lines: Sequence[str], unit: LengthUnit) -> bool:
    """Whether the next line gives the size of what was said."""
    following = next((line.strip() for line in lines if line.strip()), "")
    return SIZE.match(following) is not None and told_of(following, unit) is None


def _cuts(line: str) -> Iterator[int]:
    """Where a stretch may begin, from the last."""
    yield from reversed([0, *(found.end() for found in CUT.finditer(line))])


__all__ = ["told_of", "without_instructions"]
