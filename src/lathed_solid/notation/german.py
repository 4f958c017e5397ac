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
WEAK = {"MAL", "UND", "AUF", "MIT", "BIS", "ACHT", "LOCH", "CA.", "LK", "KONUS"}


#: where a word begins
BEGINNING = re.compile(r"(?<![^\W_])[^\W\d_]")


@cache
def _words() -> dict[str, list[tuple[str, str]]]:
    """By the letter that words begin with: (what a word stands for, its pattern), of words that begin alike the longer
    first.
    """
    found: list[tuple[str, str]] = []
    for line in lines_of("words_german.txt"):
        english, pattern = re.split(r"[ ]{2,}", line, maxsplit=1)
        for letter, ways in WAYS:
            pattern = pattern.replace(letter, ways)
        found += [(english, one) for one in _alternatives(pattern)]
    found.sort(key=lambda word: -len(word[1]))
    words: dict[str, list[tuple[str, str]]] = {}
    for english, one in found:
        for letter in _letters(one):
            words.setdefault(letter, []).append((english, one))
    return words


@cache
def _beginning(letter: str) -> tuple[re.Pattern[str], dict[str, str]] | None:
    """All patterns of words that begin with a letter as one, and what each group stands for. None: there is no word."""
    words = _words().get(letter, [])
    if not words:
        return None
    joined = "|".join(f"(?P<w{n}>{one})" for n, (_, one) in enumerate(words))
    return re.compile(rf"(?:{joined})(?![^\W_])", re.I), {f"w{n}": english for n, (english, _) in enumerate(words)}


def _letters(pattern: str) -> set[str]:
    """The letters that what a pattern stands for may begin with."""
    if pattern[0].isalpha():
        return {pattern[0].upper()}
    depth, end = 1, pattern.index("(") + 1
    while depth:
        depth += (pattern[end] == "(") - (pattern[end] == ")")
        end += 1
    inner, behind = pattern[3 : end - 1], pattern[end:]
    if not pattern.startswith("(?:"):
        return _letters(behind)  # (?<=° )
    found = set().union(*(_letters(one) for one in _alternatives(inner)))
    return found | _letters(behind[1:]) if behind.startswith("?") else found


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
    found, begun = [], 0
    for start in BEGINNING.finditer(note.text):
        words = _beginning(start[0].upper()) if start.start() >= begun else None
        match = words[0].match(note.text, start.start()) if words is not None else None
        if words is not None and match is not None:
            found.append((match, words[1][match.lastgroup or ""]))
            begun = match.end()
    if all(match[0].upper() in WEAK for match, _ in found):
        return note
    text, columns, at = "", list[int](), 0
    for match, english in found:
        text += note.text[at : match.start()] + english
        columns += note.columns[at : match.start()]
        columns += [note.column(match.start())] * len(english)
        at = match.end()
    return Letters(text + note.text[at:], (*columns, *note.columns[at:]))
