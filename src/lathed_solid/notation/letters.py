"""One letter for all that look like it: signs, dashes, spaces, Greek, Cyrillic and wide letters, vulgar fractions.

Only what cannot mean anything else on a drawing is taken for its look-alike; a nought for an O or a one for an l are
slips that are offered (``spelling``) and never taken.
"""

from __future__ import annotations

import re
import unicodedata
from dataclasses import dataclass

_SIGNS = {
    "⌀": "Øø∅φΦϕФф⦰⊘", "°": "º˚∘", "±": "∓", "'": "’‘′´`ʹ", '"': "″”“‟ʺ〃", "-": "−–—‐‑‒﹣⁃─", "x": "×✕✖⨯╳∗*хХ",
    "□": "◻⬜☐▢", "⌴": "⊔⎵", "⌵": "∨⋁", "↧": "⤓↓⇩⏷", "/": "⁄∕",
    " ": "\t\u00a0\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u202f\u205f\u3000",
    "": "\u200b\u200c\u200d\u2060\ufeff\u00ad", "\n": "\r\u2028\u2029\u0085\v\f", ".": "․", ",": "‚", "u": "µμ",
}  # fmt: skip
_LETTERS = {
    "A": "АΑ", "B": "ВΒ", "C": "СϹ", "E": "ЕΕ", "H": "НΗ", "I": "ІΙ", "J": "Ј", "K": "КΚ", "M": "МΜ", "N": "Ν",
    "O": "ОΟ", "P": "РΡ", "S": "Ѕ", "T": "ТΤ", "X": "Χ", "Y": "Υ", "Z": "Ζ", "a": "а", "c": "с", "e": "е", "h": "һ",
    "i": "і", "j": "ј", "o": "оο", "p": "р", "s": "ѕ", "y": "у", "k": "κ",
}  # fmt: skip
_ONE = {look: letter for table in (_SIGNS, _LETTERS) for letter, looks in table.items() for look in looks}
#: it ends a sentence, and is no decimal point
_FULL_STOP = re.compile(r"(?<=\d)\.[ \n]*\Z")
_CODES = (("%%c", "⌀"), ("%%C", "⌀"), ("%%d", "°"), ("%%D", "°"), ("%%p", "±"), ("%%P", "±"))
_PAIRS = (("\r\n", "\n"), ("''", '"'))


@dataclass(frozen=True, slots=True)
class Letters:
    """``text`` in plain letters; ``columns`` says from which column (from 1) of the note each of them comes."""

    text: str
    columns: tuple[int, ...]

    def column(self, place: int) -> int:
        """The column in the note of a place in the text."""
        return self.columns[min(place, len(self.columns) - 1)]


#: words that only sizes have: of a note without any other nothing is an instruction, nor German
_OF_SIZES = re.compile(
    r"(?:[^A-Za-z\u00c0-\u017f]|(?<![A-Za-z])(?:THRU|DEEP|DP|DIA|TYP|REF|MAX|MIN|LG|LONG|WIDE|EQ|SP|PCD|BC|UNC|UNF|NPT"
    r"|CSK|CBORE|R|(?<!\d)M|G|[HGKFJNP](?=\d)|DEG|MM|THK)(?![A-Za-z])"
    r"|(?<=[\d\"')°])X(?![A-Za-z.,])|(?<=[\d\"')°][ ])X(?=[ ]))+",
    re.I,
)


def of_sizes(text: str) -> bool:
    """Whether a note in plain letters has no words but those of sizes: most notes have not."""
    return _OF_SIZES.fullmatch(text) is not None


def plain_letters(note: str) -> Letters:
    """A note with each look-alike replaced by what it stands for."""
    out: list[str] = []
    columns: list[int] = []
    at = 0
    while at < len(note):
        taken, letters = _letters(note, at, out)
        if letters == " " and out[-1:] in ([], [" "]):  # a longer gap says no more, nor one before all
            letters = ""
        out.extend(letters)
        columns.extend([at + 1] * len(letters))
        at += taken
    text = "".join(out)
    if _FULL_STOP.search(text):
        text = text.rstrip()[:-1]
    return Letters(text, (*columns[: len(text)], len(note) + 1))


def _letters(note: str, at: int, before: list[str]) -> tuple[int, str]:
    """How many characters of the note are taken, and what they stand for."""
    for code, letter in (*_CODES, *_PAIRS):
        if note.startswith(code, at):
            return len(code), letter
    one = note[at]
    if one in _ONE:
        return 1, _ONE[one]
    if one.isascii():
        return 1, one
    if "\uff01" <= one <= "\uff5e":  # full width
        return 1, _ONE.get(chr(ord(one) - 0xFEE0), chr(ord(one) - 0xFEE0))
    if unicodedata.decomposition(one).startswith("<fraction>"):
        fraction = unicodedata.normalize("NFKC", one).replace("⁄", "/")
        return 1, (" " if before and before[-1].isdigit() else "") + fraction
    return 1, one
