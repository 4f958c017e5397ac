"""Notes in German: their words as those of the note language, so that there is one grammar.

A word is taken where it stands whole; numbers, signs and designations are the same. Each letter of what stands for a
word comes from the column where the German word begins.
"""

from __future__ import annotations

import re
from functools import cache

from lathed_solid.notation.letters import Letters
from lathed_solid.notation.word_files import lines_of

#: letters that are written in two ways
WAYS = (("Ä", "(?:Ä|AE)"), ("Ö", "(?:Ö|OE)"), ("Ü", "(?:Ü|UE)"), ("SS", "(?:SS|ß|ẞ)"))
#: words that are of the one language as of the other, or part of a name: taken only beside another that is German
WEAK = {"HOCH", "DICK", "MAL", "UND", "AUF", "MIT", "BIS", "ACHT", "LOCH", "CA.", "LK", "KONUS"}


@cache
def _words() -> tuple[re.Pattern[str], dict[str, str]]:
    """All patterns as one, and what each group stands for."""
    parts, means = [], {}
    for n, line in enumerate(lines_of("words_german.txt")):
        english, pattern = re.split(r"[ ]{2,}", line, maxsplit=1)
        for letter, ways in WAYS:
            pattern = pattern.replace(letter, ways)
        means[f"w{n}"] = english
        # of words that begin alike the longer comes first
        parts += [(len(one), f"(?P<w{n}_{k}>{one})") for k, one in enumerate(_alternatives(pattern))]
    parts.sort(key=lambda part: -part[0])
    joined = "|".join(part for _, part in parts)
    return re.compile(rf"(?<![^\W_])(?:{joined})(?![^\W_])", re.I), means


def _alternatives(pattern: str) -> list[str]:
    """A pattern at its outer bars."""
    out, depth = [""], 0
    for letter in pattern:
        depth += (letter == "(") - (letter == ")")
        if letter == "|" and not depth:
            out.append("")
        else:
            out[-1] += letter
    return out


def in_english(note: Letters) -> Letters:
    """A note whose German words are replaced; the same where it has none."""
    pattern, means = _words()
    found = list(pattern.finditer(note.text))
    if all(match[0].upper() in WEAK for match in found):
        return note
    text, columns, at = "", list[int](), 0
    for match in found:
        words = means[(match.lastgroup or "").partition("_")[0]]
        text += note.text[at : match.start()] + words
        columns += note.columns[at : match.start()]
        columns += [note.column(match.start())] * len(words)
        at = match.end()
    return Letters(text + note.text[at:], (*columns, *note.columns[at:]))
