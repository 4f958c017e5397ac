"""What a reader of lettering takes for something else, put right by the grammar of notes; each with its words.

The signs of drawings are not among a general reader's letters: ⌀ comes as a Greek letter, ↧ as a capital I or J, ⌴ as
nothing or as a box, and a point before the first figure is lost. What is put in is said, and never taken silently.
"""

from __future__ import annotations

import re

from lathed_solid.notation import NoteError, read_note
from lathed_solid.quantity import LengthUnit

#: letters that only ever mean the diameter's sign here, and a cross
ALIKE = str.maketrans(
    dict.fromkeys("φΦϕøØ∅фФ", "⌀") | {"×": "x", "㎜": "mm", "，": ",", "（": "(", "）": ")", "º": "°"}
)
#: what pieces of lines, arrowheads and specks are read as
JUNK = r"\-—–―−一ー_|'`·,=≡<>~、←→↑↓¬「」\s"
#: what the end of a leader or a speck leaves before a note
BEFORE = re.compile(rf"^[{JUNK}.]+(?=[⌀(]|[A-Z]{{2,}}|\d*[.]?\d|R\s?[.\d]|M\d)")
#: a letter that stands where only ↧ can: between a size (or DRILL) and a number
DEPTH = re.compile(r"(?P<before>(?:[\dABGH)]|DRILL|THRU|DEEP))(?P<gap>\s*)[IJTl|!Ī↓](?P<after>\s?)(?=\.?\d)")
#: what a counterbore's sign leaves of itself before its diameter
MOUTH = re.compile(r"^[\s\[LUuJ凵⊔Ц|_\-—」「口]*(?=⌀)")
#: what the end of a dimension line leaves behind a number
#: the shelf of a leader behind a note's last word
AFTER_WORD = re.compile(rf"(?<=[A-Z])[{JUNK}]+$")
BEHIND = re.compile(rf"(?<=[\d°\)])[{JUNK}.:;]+$")
#: a nought before a figure is a diameter's sign, for no size begins with one
NOUGHT = re.compile(r"(?<![\d.,/])[0OQ](?=\d+(?:[.,]\d+)?(?:\s|$))")
ZERO_IN_WORD, O_IN_NUMBER = re.compile(r"(?<=[A-Z])0(?=[A-Z])"), re.compile(r"(?<=[\d.])[Oo]|[Oo](?=\.\d)")
A_HOLE = re.compile(r"THRU|↧|DRILL|DEEP", re.I)

Put = tuple[str, tuple[str, ...]]


def line_put_right(text: str) -> Put:
    """One line of lettering, with what was changed in it that could have been otherwise."""
    said: list[str] = []
    text = " ".join(text.translate(ALIKE).split())
    cut = BEFORE.match(text)
    if cut and not (cut[0].strip() in (".", "-.") and text[cut.end() :][:1].isdigit()):
        text = text[cut.end() :]
    elif cut and cut[0].strip() == "-.":
        text = text[1:]
    elif cut and cut[0] != ".":
        text = text[cut.end() :]
        said.append("a point before it is left out")
    text = AFTER_WORD.sub("", BEHIND.sub("", text))
    for pattern, right, words in (
        (NOUGHT, "⌀", "a nought read as ⌀"), (ZERO_IN_WORD, "O", "0 read as O"), (O_IN_NUMBER, "0", "O read as 0"),
    ):  # fmt: skip
        if pattern.search(text):
            text = pattern.sub(right, text)
            said.append(words)
    if ("⌀" in text or re.search(r"DRILL|-\d|M\d|THRU", text)) and DEPTH.search(text):
        text = DEPTH.sub(r"\g<before> ↧", text)
        said.append("the sign ↧ was guessed from a letter")
    return text, tuple(said)


def says_nothing(text: str) -> bool:
    """Whether a reading is but of pieces of lines and arrowheads."""
    return not re.sub(f"[{JUNK}二三口.:;\\[\\]()]", "", text)


def note_put_right(text: str, unit: LengthUnit) -> Put:
    """A note of several lines: the sign of a widening that is missing on a line below its hole is put in."""
    lines = text.split("\n")
    said: list[str] = []
    for n in range(1, len(lines)):
        below = lines[n]
        mouth = MOUTH.match(below)
        if mouth is None or not A_HOLE.search(lines[n - 1]) or below.startswith(("⌴", "⌵")):
            continue
        sign = "⌵" if re.search(r"[xX]\s*\d+\s?°", below) else "⌴"
        trial = [*lines[:n], f"{sign} {below[mouth.end() :]}", *lines[n + 1 :]]
        if reads("\n".join(trial[: n + 1]), unit):
            lines = trial
            said.append(f"the sign {sign} was not read: it is guessed from the hole above")
    return "\n".join(lines), tuple(said)


def reads(text: str, unit: LengthUnit) -> bool:
    """Whether all of it reads as a note."""
    try:
        meaning = read_note(text, unit)
    except NoteError:
        return False
    return bool(meaning.clauses) and not meaning.unread


def with_points(text: str) -> list[str]:
    """A bare number that may have lost its point, with it in every place."""
    match = re.fullmatch(r"(⌀|R|)\s?(\d{2,5})", text)
    if match is None:
        return []
    sign, figures = match.groups()
    return [f"{sign}{figures[:k]}.{figures[k:]}" for k in range(len(figures))]
