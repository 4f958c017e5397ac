"""Lines of a note that are one: ``6 HOLES`` over ``M5 x 10 DEEP``, ``M16 x 1.5`` over ``6g``, a word over its sizes.

A note is read with each of its line ends in turn as a gap. Where all is read so, in no more clauses, the two lines were
one. Two lines that each are a note with a size stay two, and no instruction takes up a size.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import cache

from lathed_solid.notation.clauses import Meaning
from lathed_solid.notation.counting import FEW, HOLES_MANY
from lathed_solid.notation.families.run import WIDENINGS
from lathed_solid.notation.german import in_english
from lathed_solid.notation.items import NoteError
from lathed_solid.notation.letters import Letters, of_sizes
from lathed_solid.notation.tokens import tokens

Read = Callable[[Letters], Meaning]

#: line ends that are looked at
MOST = 12
#: how a line begins that goes on with the one above
_GOES_ON = re.compile(
    r"[ ]*(?:[(±+/@↧-]|(?:x|TO|AT|DRILL[ ]+POINT|CLEARANCE|CLEAR|CLR)\b|\d{1,3}[ ]*°[ ]*APART\b)", re.I
)
#: a line that says no more than how many, or the circle on which others stand
_ALONE = (
    ["open", "number", "shut"], ["number", "circle"], ["diameter", "number", "circle"],
    ["circle", "number"], ["circle", "diameter", "number"],
)  # fmt: skip
#: a line that may be a size of its own, and how another such begins
_NUMBER = re.compile(r"[ ]*[.]?\d[\d.,]*[ ]*")
_SIZE = re.compile(r"[ ]*(?:[.]?\d|⌀|S?R[ ]?[.]?\d|[MCG][ ]?\d|TR[ ]?\d|#|√|R[az]\b)", re.I)
#: a line that cannot end there, one that may be followed by a code, and a code
_DANGLING = re.compile(
    r"(?:\b(?:NOTE|RAL|R[az]|GRADE|ITEM|TO|OF|FOR|PER|AND|ON|WITH|MATERIAL[ ]*:?|x)|[&,/-])[ ]*$", re.I
)
_NAMED = re.compile(r"\b(?:STEEL|STAINLESS|EN|BRASS|BRONZE|ALUMINIUM|ALUMINUM|DRG|NO\.)[ ]*$", re.I)
_CODE = re.compile(r"[ ]*(?:\d{3,4}|1[.]\d{4})[ ]*")
#: a line's end and the next one's beginning that are one, whatever either says by itself
_BROKEN = re.compile(
    r"\b(?:DRILL|TAP|REAM|BORE)[ ]+\d{1,3}[ ]*\n[ ]*HOLES\b|\b(?:DETAIL|VIEW)[ ]+[A-Z][ ]*\n[ ]*\d+[ ]?:[ ]?\d+[ ]*$"
    r"|,[ ]*DRILL[ ]*\n[ ]*⌀|^[ ]*\d{1,2}[ ]*\n[ ]*#\d{1,2}[ ]+DRILL\b"
    r"|\b(?:PLATED?|CHROMED?)[ ]*\n[ ]*0?[.]0\d*(?:[ ]*THK)?[ ]*$|^[ ]*\d{1,3}[ ]*\n[ ]*FINISH[ ]+ALL\b"
    r"|\bHARDEN(?:ED|ING)?[ ]*\n[ ]*\d*[.,]?\d+(?:[ ]*mm)?[ ]+DEEP\b"
    r"|^[ ]*(?:SURFACE[ ]+)?FINISH[ ]*\n[ ]*(?:\d?[.]\d|\d{1,3})(?:[ ]+ON\b[^\n]*|[ ]*)$"
    r"|^[ ]*\d{1,2}[ ]*\n[ ]*\d{1,2}/\d{1,2}\b|\bDRILL[ ]*\n[ ]*POINT\b|\bSLOT\b[^\n]*\n[ ]*R[ ]?[.\d]+[ ]+ENDS\b"
    r"|\b(?:CSK|C'?SINK|C'?SUNK)[ ]+⌀[ ]*[.\d]+[ ]*\n[ ]*[\d.]+[ ]*°[ ]*$"
    r"|\b(?:TURN|WELD)[ ]*\n[ ]*[⌀\d]|^[ ]*STAMP\b[^\n]*\n[ ]*[.]?\d[\d.]*[ ]+HIGH|ANODI[SZ]ED?[ ]*\n[ ]*0?[.]0\d"
    r"|\bHARDENED[ ]*\n[ ]*[.\d]+[ ]*[+-][ ]*[.\d]+[ ]*$|^[ ]*DATUM[ ]*\n[ ]*[A-Z][ ]*$"
    r"|\bTOL(?:ERANCES?)?\.?[ ]*\n[ ]*±|\bDIM(?:ENSION)?S\.?[ ]*\n[ ]*(?:ARE[ ]+)?IN[ ]+[A-Z]+",
    re.I,
)
#: a thread alone, and its length
_THREAD = re.compile(
    r"[ ]*(?:(?:(?:EXT|INT)(?:ERNAL)?\.?[ ]+)?(?:THREAD|THD)[ ]+)?(?:\d+[ ]*x[ ]*)?M[ ]?\d[\d. x]*"
    r"(?:[ ]*-?[ ]*\d[a-h]{1,2})?(?:[ ]+(?:THREAD|THD|LH))?[ ]*$",
    re.I,
)
_ITS_LENGTH = re.compile(r"[ ]*(?:\d[\d.]*(?:[ ]*mm)?[ ]+(?:LONG|LG\b)|(?:(?:THREAD|THD)[ ]+)?LENGTH[ ]+\d)", re.I)
#: what may be the texture of the fitted diameter beneath it
_TEXTURE, _FITTED = re.compile(r"[ ]*(?:0?[.][248]|1[.]6|3[.]2|6[.]3)[ ]*"), re.compile(r"\d[ ]*[A-Za-z]{1,2}\d{1,2}\b")
#: what may be the class of the size above, or a thread or radius; an item of a list
_CLASS = re.compile(r"[ ]*[mr][4-9]\b(?![ ]*[.,/-]|[ ]*x[ ]*[.\d]+[ ]*(?:-|DEEP))")
_LISTED = re.compile(r"[ ]*\d{1,2}[ ]*[.)][ ]+[A-Za-z]")


def read_by_lines(note: Letters, read: Read) -> Meaning:
    """What a note means, with lines that are one as one. Raises NoteError where it cannot be read either way."""
    best, error = _tried(note, read)
    sized = cache(lambda line: _sized(line, read))
    english = str if of_sizes(note.text) else cache(lambda line: in_english(_line(line)).text)
    ends = [k for k, letter in enumerate(note.text.rstrip()) if letter == "\n"][:MOST]
    for k in ends:
        above, below = english(note.text[:k].rpartition("\n")[2]), english(note.text[k + 1 :].partition("\n")[0])
        if not above.strip() or not below.strip() or _LISTED.match(below):
            continue
        if "⌀" in above and _CLASS.match(below):
            raise NoteError("a class, or another size: this can be read either way", column=note.column(k + 1),
                            received=below.strip(), hint=f"⌀20 {below.split()[0]} in one line, or M6, R6")  # fmt: skip
        if _TEXTURE.fullmatch(above) and "⌀" in below[:2] and _FITTED.search(below):
            raise NoteError("a surface texture, or a length: this can be read either way", column=note.column(0),
                            received=above.strip(), hint=f"Ra {above.strip()}, or {above.strip()} LONG")  # fmt: skip
        broken = _BROKEN.search(f"{above}\n{below}") is not None
        if not broken and not _one_by_words(above, below) and sized(above) and sized(below):
            continue
        joined = Letters(f"{note.text[:k]} {note.text[k + 1 :]}", note.columns)
        found, _ = _tried(joined, read)
        all_read = found is not None and broken and not found.unread
        if found is not None and (all_read or _is_one(best, found, above, below)):
            note, best = joined, found
    if (best is None or best.unread) and not sized(note.text.partition("\n")[0]):
        joined = Letters(note.text.replace("\n", " "), note.columns)
        whole, _ = _tried(joined, read)
        if whole is not None and not whole.unread and len(whole.clauses) == 1:
            best = whole
    if best is None:
        assert error is not None
        raise error
    return best


def _tried(note: Letters, read: Read) -> tuple[Meaning | None, NoteError | None]:
    try:
        return read(note), None
    except NoteError as exc:
        return None, exc


def _one_by_words(above: str, below: str) -> bool:
    """Whether two lines may be one though each could stand by itself: ``6`` over ``HOLES ⌀4``, CSK over ⌀12."""
    if _GOES_ON.match(below) or _DANGLING.search(above) or (_NUMBER.fullmatch(above) and not _another(below)):
        return True
    kinds = [token.kind for token in tokens(_line(above))]
    kinds = kinds[kinds[0] == "soft" and len(kinds) > 1 :]  # ON PCD 60
    if kinds == ["open", "number", "shut"] and int(re.sub(r"\D", "", above) or 0) > FEW:
        return False  # (36): for reference
    if kinds[-1] == "angle" and tokens(_line(below))[0].kind in ("csk", "cdrill", "chamfer"):
        return True  # 82° over CSK ⌀10
    if _THREAD.match(above) and _ITS_LENGTH.match(below):
        return True
    return kinds in _ALONE or kinds[-1] in WIDENINGS


def _another(below: str) -> bool:
    """Whether a line below a bare number begins with a size of its own; that of HOLES is counted by the number."""
    return _SIZE.match(below) is not None and HOLES_MANY.search(below) is None


def _line(text: str) -> Letters:
    return Letters(text, tuple(range(1, len(text) + 2)))


def _sized(line: str, read: Read) -> bool:
    """Whether a line is a note by itself, with a size."""
    found, _ = _tried(_line(line), read)
    return found is not None and not found.unread and any(c.kind != "instruction" for c in found.clauses)


def _is_one(apart: Meaning | None, one: Meaning, above: str, below: str) -> bool:
    """Whether two lines are better read as one."""
    if one.unread and _GOES_ON.match(below) and apart is not None and len(one.unread) < len(apart.unread):
        return True  # x 22 DEEP over FLAT BOTTOM: that comes next
    if one.unread or (_NUMBER.fullmatch(above) and _another(below)):
        return False
    if _DANGLING.search(above) or (_NAMED.search(above) and _CODE.fullmatch(below)):
        return True
    worded = apart is not None and all(c.kind == "instruction" for c in (*apart.clauses, *one.clauses))
    if worded and apart is not None and apart.unread:
        return True  # FACE A over GROUND
    if _taken_up(apart, one):
        return False
    if apart is None or apart.unread:
        return True
    sized = [c for c in apart.clauses if c.kind != "instruction"]
    return bool(sized) and len(one.clauses) <= len(apart.clauses)


def _taken_up(apart: Meaning | None, one: Meaning) -> bool:
    """Whether an instruction says more than before, as no size is part of one, or is gone for nothing: BREAK EDGES may
    be a general note, REAM that of a hole. A thread that is through has no depth.
    """
    before, now = ([] if m is None else [c.instruction.text for c in m.clauses if c.instruction] for m in (apart, one))
    gone = bool(set(before) - set(now)) and apart is not None and _holes(one) <= _holes(apart)
    both = any(c.through and c.thread is not None and c.thread.depth_mm for c in one.clauses)
    return both or bool(set(now) - set(before)) or (gone and not any(c.kind == "general" for c in one.clauses))


def _holes(meaning: Meaning) -> int:
    return sum(c.kind in ("hole", "thread") for c in meaning.clauses)
