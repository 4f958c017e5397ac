"""The nearest words of the note language for a word that was not read."""

from __future__ import annotations

import re

WORDS = (
    "THRU", "THROUGH", "DEEP", "DEPTH", "DRILL", "REAM", "BORE", "TAP", "CBORE", "COUNTERBORE", "CSK", "COUNTERSINK",
    "SPOTFACE", "HOLES", "PLACES", "EQUALLY SPACED", "BOLT CIRCLE", "BC", "PCD", "DIA", "DIAMETER", "RADIUS", "SQUARE",
    "CHAMFER", "FILLETS", "ROUNDS", "RADII", "CORNERS", "BREAK EDGES", "UNLESS STATED", "UNLESS OTHERWISE SPECIFIED",
    "TYP", "MAX", "MIN", "REF", "KEYWAY", "GROOVE", "CIRCLIP GROOVE", "UNDERCUT", "TAPER", "CENTRE", "KNURL", "WIDE",
    "LONG", "LH", "UNC", "UNF", "UNEF", "NPT", "ACME", "BOTH ENDS", "BOTH SIDES",
)  # fmt: skip
LIKE_ENOUGH = 72
#: letters that a scanner takes for figures, in what is a number otherwise
SLIP = re.compile(r"(?=.*\d)(?=.*[OoIl])[\dOoIl.,]+")
FIGURES = str.maketrans("OoIl", "0011")


def nearest_words(unread: tuple[str, ...]) -> tuple[tuple[str, str], ...]:
    """(word, nearest spelling) for each word that has one near enough."""
    if not unread:
        return ()
    from rapidfuzz import fuzz, process

    out = []
    for word in unread:
        if len(word) < 2:
            continue
        if SLIP.fullmatch(word):
            out.append((word, word.translate(FIGURES)))
            continue
        found = process.extractOne(word.upper(), WORDS, scorer=fuzz.ratio, score_cutoff=LIKE_ENOUGH)
        if found is not None:
            out.append((word, found[0]))
    return tuple(out)
