"""Lines of a note that go on: a word whose sizes stand on the line below it, and what goes on with the line above.

``6 HOLES`` over ``M5 x 10 DEEP`` is one clause, ``M16 x 1.5`` over ``6g`` is one thread; ``⌀12`` over ``R3`` are two.
"""

from __future__ import annotations

import re

from lathed_solid.notation.letters import Letters

#: words whose sizes stand on the next line
_HEAD = (
    r"(?:\d{1,3}[ ]*(?:x[ ]*)?(?:OFF[ ]+)?)?(?:(?:DRILLED|TAPPED|REAMED|BORED|THREADED|EQUI-?SPACED|BLIND|DOWEL)[ ]+)?"
    r"(?:HOLES?|SLOTS?|FLATS|GROOVES?|POCKETS?|RECESS|KEYWAYS?|KEYSEATS?|UNDERCUTS?|RELIEF"
    r"|(?:DIAMOND[ ]+|STRAIGHT[ ]+)?KNURL(?:ED)?|TAPER(?:ED)?|CHAMFERS?|SQUARE|SQ|HEX(?:AGON)?"
    r"|THREAD|THD|DRILL|REAM|TAP|BORE|C'?BORE|C'?SINK|CSK"
    r"|S/?FACE|SPOTFACE|COUNTER(?:BORE|SINK)|CENT(?:RE|ER)[ ]+(?:HOLES?|DRILL)"
    r"|⌀?[ ]*[.]?\d[\d.]*[ ]*(?:P\.?C\.?D|B\.?C)\b\.?|(?:P\.?C\.?D|B\.?C)\b\.?[ ]*⌀?[ ]*[.]?\d[\d.]*)[ ]*:?"
)
#: how a line begins that goes on with the one above
_TAIL = (
    r"x[ ]+[.\d⌀]|(?-i:\d[eghGH](?:\d[eghGH])?)[ ]*(?:$|\n|[ ](?:x|↧|LH\b))|STOCK[ ]*(?:$|\n)"
    r"|ON[ ]+(?:AN?[ ]+)?(?:⌀|[.]?\d)|\d{1,3}[ ]*°[ ]*APART\b|(?:EQ|EQUI|EQUAL(?:LY)?)\b|OFF\b"
    r"|(?:DEEP|DP|LONG|LG|WIDE|THK|THICK)\b"
)
_LONE = re.compile(rf"(?:(?<=^)|(?<=\n))(?P<head>[ ]*{_HEAD}[ ]*)\n(?=[ ]*[^\n])", re.I)
_ON = re.compile(rf"\n(?=[ ]*(?:{_TAIL}))", re.I)


def lines_joined(note: Letters) -> Letters:
    """A note in which lines that are one have a space between them."""
    if "\n" not in note.text:
        return note
    text = _LONE.sub(lambda m: f"{m['head']} ", note.text)
    return Letters(_ON.sub(" ", text), note.columns)
