"""The words, signs and numbers of a note, in order. What is no word of the note language is a token ``unread``."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cache

from lathed_solid.notation.letters import Letters
from lathed_solid.notation.word_files import lines_of, names_of, things

GAP = "[ ]*"
NUMBER = (
    r"(?:(?<=\+)\d+(?=/0(?![\d.,]))|\d+[ ]\d+/\d+|\d+-\d+/\d+|\d+/\d+(?!\d|[.,]\d)"
    r"|\d+[.,]\d+|[.,]\d+|\d+\.(?![\d\w])|\d+)"
)
_DECIMAL = r"\d+(?:[.,]\d+)?"
#: what a tolerance is told against by name
_NAMED = r"(?:THE[ ]+)?(?:BORE|BASE|AXIS|FACE|SHAFT|BOTTOM|SPIGOT|JOURNALS?|SHOULDER)"
#: and by its diameter
_ACROSS = rf"(?:THE[ ]+)?⌀[ ]*(?:{_DECIMAL}|[.]\d+)(?:[ ]+(?:DIA|BORE|SPIGOT|JOURNAL|SHAFT|HOLE)\b\.?)?"
#: characteristics of ISO 1101 and ASME Y14.5: their signs, and the words shops write
CHARACTERISTICS = {
    "position": r"⌖|⊕|T\.?P\.?(?=[ ]+⌀[ ]*0?[.]\d)|(?:TRUE[ ]+)?POSITION(?:AL)?(?:[ ]+TOL(?:ERANCE)?\.?)?",
    "perpendicularity": r"⟂|⊥|⏊|PERP(?:ENDICULAR(?:ITY)?)?\b\.?|NORMAL(?=[ ]+WITHIN)"
    r"|SQUARENESS(?=[ ]+[.\d])"
    rf"|SQUARE(?:NESS)?(?=[ ]+(?:WITHIN|(?:[.\d]+[ ]+)?(?:TO|WITH)[ ]+(?:(?:DATUM[ ]+|FACE[ ]+)?[A-Z]\b|{_NAMED}\b)))",
    "parallelism": r"∥|⫽|//|PARALLEL(?:ISM)?",
    "concentricity": r"◎|CONC(?:ENTRIC(?:ITY)?)?\b\.?|COAXIAL(?:ITY)?",
    "total runout": r"⌰|⇗|TOTAL[ ]+RUN-?[ ]?OUT",
    "runout": r"↗|(?:(?:CIRCULAR|FACE|RADIAL|AXIAL|END)[ ]+)?RUN-?[ ]?OUT"
    r"|TRUE(?=[ ]+(?:TO|WITH)[ ]+(?:THE[ ]+)?\w+[ ]+WITHIN)",
    "flatness": r"⏥|FLATNESS(?=[ ]+(?:WITHIN|TO)?[ ]*[.\d])"
    r"|FLAT(?=[ ]+(?:(?:WITHIN|TO)[ ]*[.\d]|0?[.]\d++(?![ ]*(?:mm[ ]+)?(?:DEEP|DP|WIDE|LONG|LG|x)\b)))",
    "straightness": r"⏤|STRAIGHT(?:NESS\b|(?=[ ]+WITHIN[ ]))",
    "circularity": r"○|CIRCULARITY|ROUND(?:NESS\b|(?=[ ]+WITHIN[ ]))",
    "cylindricity": r"⌭|CYLINDRICITY|CYL\b\.?(?=[ ]+0?[.]0)",
    "angularity": r"∠(?=[ ]*\|?[ ]*[⌀.\d][\d. ]*\|?[ ]*[A-Z]\b)|ANGULARITY",
    "symmetry": r"⌯|SYMMETR(?:Y|ICAL)",
    "profile": r"⌓|⌒|(?:SURFACE|LINE)[ ]+PROFILE|PROFILE(?:[ ]+OF[ ]+A?[ ]*(?:SURFACE|LINE))?",
}
_CONDITION = r"(?:[ⓂⓁⓅ]|\((?-i:[MLP])\))"
_DATUM = (
    r"(?:[ ]*(?:\||,|&|AND\b|WITH\b|REL\b\.?|RELATIVE\b|WRT\b|TO\b|DATUMS?\b)?"
    r"[ ]*(?:\||TO\b|DATUMS?\b)?[ ]*(?:DIA\b\.?|⌀|FACE\b|SURFACE\b|AXIS\b)?"
    rf"[ ]*(?-i:(?<![A-Za-z])[A-HJ-NP-Z](?:-[A-Z])?(?![A-Za-z\d]))[ ]*{_CONDITION}?)"
)
_FRAME = (
    rf"\|?[ ]*(?:{'|'.join(CHARACTERISTICS.values())})[ ]*\|?[ ]*(?:(?:WITHIN|NOT[ ]+TO[ ]+EXCEED)[ ]*)?"
    r"(?:TO[ ]+)?S?⌀?[ ]*"
    rf"(?:{_DECIMAL}|[.,]\d+)[ ]*(?:mm\b|in\b)?[ ]*⌀?[ ]*"
    rf"(?:T\.?I\.?R\b\.?|F\.?I\.?M\b\.?|MAX\b\.?)?[ ]*{_CONDITION}?{_DATUM}*"
    rf"(?:[ ]*(?<=[ ])(?:TO|WITH|ABOUT)[ ]+(?:{_NAMED}\b|{_ACROSS}))?[ ]*\|?"
)
#: the datum before the tolerance: PERPENDICULAR TO A WITHIN 0.05
_AGAINST = (
    r"(?:PERPENDICULAR|SQUARE|PARALLEL|TRUE|CONC(?:ENTRIC)?\b\.?|COAXIAL|SYMMETRICAL|PERP\b\.?)"
    r"[ ]+(?:TO|WITH|ABOUT)[ ]+"
    r"(?:(?:DATUM|DIA|FACE|AXIS)[ ]+)?(?:-?(?-i:[A-HJ-NP-Z](?:-[A-Z])?)-?[ ]+(?:WITHIN[ ]*|TO[ ]+)?"
    rf"|(?:{_NAMED}|{_ACROSS})[ ]+WITHIN[ ]*)⌀?[ ]*"
    rf"(?:{_DECIMAL}|[.,]\d+)(?:[ ]*mm\b)?(?:[ ]*(?:T\.?I\.?R|F\.?I\.?[MR])\b\.?)?"
)
#: what stands for what in the patterns of ``words.txt``
_PARTS = {
    "{S}": GAP,
    "{NUMBER}": NUMBER,
    "{DECIMAL}": _DECIMAL,
    "{INCHES}": r"(?:\d+[ -]\d+/\d+|\d+/\d+|\d*\.\d+|\d+)",
    "{END}": "(?![A-Za-z])",
    "{LAST}": r"(?=[ ]*(?:$|[,;\n]))",
    "{COUNTED}": r"(?:HOLES?|HLS?|PLACES?|PLCS?|PLS?|POS'?N?'?S?|POSITIONS?|TIMES|OFF|REQ'?D)\b\.?",
    "{ALONG}": r"(?:THROW|SWING|TRAVEL|LIFT|REACH|SPAN|RISE|DROP|FALL|OVERHANG|STAND[ -]?OFF|SET[ -]?BACK|BREADTH"
    r"|CAMBER|SAG|BOW|PLAY|(?:(?:END|SIDE)[ -])?FLOAT|MARGIN|NIP|CRUSH|SPACING|STEP|LEDGE|CLEARANCE|DAYLIGHT"
    r"|STANDING[ ]+HEIGHT|SHUT[ ]+HEIGHT|WHEELBASE|TRACK|GIRTH|BREAST|FREEBOARD)",
    "{FRAME}": _FRAME,
    "{AGAINST}": _AGAINST,
    "{THEIRS}": r"(?:(?!,[ ]*(?:BORED?|DRILL|TAP|REAM|\d+[ ]+HOLES?|HOLES?|KEYWAY|CHAMFER|HUB|FLANGE|BOSS|M\d)\b)"
    r"[^\n])*",
    "{PROFILE}": r"(?:V(?:EE)?[ -]?(?:BELT[ ]+)?(?:GROOVES?|NOTCH(?:ES)?|SLOTS?)|VEES?|T(?:EE)?[ -]?SLOTS?"
    r"|DOVETAILS?|WOODRUFF|SPLINES?|SERRATIONS?)",
}


def _things() -> str:
    """Names of what a size may be of, with words of their kind before them."""
    kind, thing = names_of("kind"), f"{names_of('round')}|{names_of('thing')}"
    return rf"(?:(?:{kind})[ ]+){{0,3}}(?:{thing})S?\b(?:[ ]+(?:{thing})S?\b){{0,2}}"


def _name() -> str:
    """A name, or what kind of hole, groove or size it is."""
    any_name = f"{names_of('kind')}|{names_of('round')}|{names_of('thing')}"
    return rf"(?:(?:{any_name})S?[ ]+){{0,2}}(?:{any_name})S?"


def _patterns(*, named: bool) -> list[tuple[str, str]]:
    """(kind, pattern) of each line, in order; the first that matches is taken. Those of names only where ``named``."""
    parts = {**_PARTS, "{THING}": _things(), "{NAME}": _name()}
    found = []
    for kind, pattern in (line.split(None, 1) for line in lines_of("words.txt")):
        if not named and ("{THING}" in pattern or "{NAME}" in pattern):
            continue
        for name, part in parts.items():
            pattern = pattern.replace(name, part)
        found.append((kind, pattern))
    return found


@cache
def _master(*, named: bool) -> tuple[re.Pattern[str], dict[str, str]]:
    """All patterns as one, and which group is of which kind. Those of names take as long to make ready as the rest."""
    groups = [(f"{kind}__{place}", kind, pattern) for place, (kind, pattern) in enumerate(_patterns(named=named))]
    master = re.compile("|".join(f"(?P<{name}>{pattern})" for name, _, pattern in groups), re.I)
    return master, {name: kind for name, kind, _ in groups}


@cache
def _names() -> frozenset[str]:
    """What may be the name of a thing, with an S as without."""
    names = things() | set(names_of("kind").split("|"))
    return frozenset(names | {f"{name}S" for name in names})


#: words need a boundary before them
_WORD = re.compile(r"[^\W\d_]")
_LETTERS = re.compile(r"[A-Z]+")


#: what letters may follow without a gap
TIGHT = ("space", "unread", "cross", "radius", "diameter", "spherical", "spherical_radius", "ring", "ratio", "slash")


@dataclass(frozen=True, slots=True)
class Token:
    """``gap``: whether a space stands before it."""

    kind: str
    text: str
    column: int
    gap: bool = False


def tokens(letters: Letters) -> list[Token]:
    """All of a note, gaps left out."""
    text = letters.text
    master, kinds = _master(named=not _names().isdisjoint(_LETTERS.findall(text.upper())))
    out: list[Token] = []
    gap, at = False, 0
    while at < len(text):
        match = master.match(text, at)
        assert match is not None and match.lastgroup is not None
        kind, found = kinds[match.lastgroup], match[0]
        inside = at > 0 and _WORD.match(text[at - 1]) and not (out and out[-1].kind == "cross" and not gap)
        if kind != "unread" and inside and _WORD.match(found):
            kind = "unread"  # the tail of a word that was not read
        elif kind not in TIGHT and _WORD.match(found[-1]) and _WORD.match(text[match.end() : match.end() + 1]):
            kind = "unread"  # the head of one
        if kind == "space":
            gap = True
        else:
            if kind == "unread" and out and out[-1].kind == "unread" and not gap and _WORD.match(found):
                found = out.pop().text + found
            out.append(Token(kind, found, letters.column(at), gap))
            gap = False
        at = match.end()
    return out
