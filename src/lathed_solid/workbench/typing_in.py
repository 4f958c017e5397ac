"""Words become signs while a note is typed, where the sign means what the word did.

A word that stands behind its number (``11 DIA``, ``12 DEEP``, ``25 SQ``) is left: the sign would belong to the number
that comes next.
"""

from __future__ import annotations

import re

#: what is typed at the end, and the sign for it
_SIGNS = (
    (re.compile(r"\bdia\s$", re.I), "⌀"),
    (re.compile(r"\bcbore\s$", re.I), "⌴ "),
    (re.compile(r"\bcsk\s$", re.I), "⌵ "),
    (re.compile(r"\bdeep\s$", re.I), "↧"),
    (re.compile(r"(?<=\d)\s?deg\s$", re.I), "° "),
    (re.compile(r"\+-$"), "±"),
    (re.compile(r"\bsq\s$", re.I), "□"),
)
_BEHIND = ("⌀", "↧", "□")
#: a number, its unit, class, tolerance or word of limit before the word
_NUMBER = re.compile(r"(?:[\d.\"]|\bmm|\bin|\bmin\.?|\bmax\.?|[A-Za-z]{1,2}\d{1,2}|\))\s*$", re.I)
#: the pitch circle's own word, a gear's (PITCH DIA 64), or a taper's (ON DIA 2 PLACES)
_CIRCLE = re.compile(r"(?:circle|pitch|p\.?c\.?|b\.?c\.?|full|a|\bon)\s*$", re.I)


def with_sign(before: str) -> tuple[int, str] | None:
    """Of the text up to the cursor: how many characters of its end go, and the sign that comes; None for nothing."""
    for pattern, sign in _SIGNS:
        found = pattern.search(before)
        if found is None:
            continue
        head = before[: found.start()]
        if sign in _BEHIND and (_NUMBER.search(head) or _CIRCLE.search(head)):
            return None
        return len(before) - found.start(), sign
    return None
