"""A number behind a diameter and an X: a hole's depth, or a length along a thing; what may be either is refused."""

from __future__ import annotations

import itertools
import re

from lathed_solid.notation.families.run import Fields, Run
from lathed_solid.notation.items import NoteError
from lathed_solid.notation.word_files import things

#: what a diameter is the outside of: a size across it is a length, no depth
OUTSIDE = ("pad", "boss", "spigot", "register", "hub", "flange", "collar", "journal", "shoulder", "stem", "shank",
           "trunnion", "tenon", "disc", "rim", "eccentric", "knurled", "pin", "shaft", "washer", "bar", "rod",
           "round bar", "tube", "head", "cheese head", "pan head", "spindle", "axle", "roller", "piston", "plug",
           "bush", "bushing", "sleeve", "body")  # fmt: skip
#: before the name of another thing; a thing that is hollow, so that a number behind its diameter is a depth
OTHER = frozenset({"for", "to", "on", "in", "at", "of", "with", "into"})
HOLLOW = re.compile(r"\b(?:orifice|inlet|outlet|drain|vent|breather|port|passage|gallery|duct|socket)s?\b"
                    r"|(?:bearing|seal|spring) housing")  # fmt: skip


def at_both_ends(run: Run, fields: Fields) -> None:
    """``⌀25 BOTH ENDS x 20`` are two holes or two journals. Raises NoteError."""
    if fields.get("kind") != "hole" and not str(fields.get("fit") or "")[:1].isalpha():
        size, across = run.peek(), f"⌀{run.size(fields['diameter_mm'])}"
        raise NoteError("two holes, or two lengths along a shaft: this can be read either way", column=size.column,
                        received=f"{across} x {size.text}", hint=f"{across} x {size.text} DEEP, or LONG")  # fmt: skip


def no_thing(run: Run, fields: Fields) -> None:
    """``PULLEY ⌀80 x 20`` is as long, ``NOZZLE ⌀6 x 12`` may be as deep. Raises NoteError where a thing is named."""
    named = next((said for said in run.assumed if said and _is_thing(said.split())), None)
    before = itertools.takewhile(lambda item: item.kind != "sep", reversed(run.items[: run.at]))
    if named is None and any(item.kind == "turn" for item in before):
        named = "part"  # TURN ⌀20 x 5
    if named is not None and not HOLLOW.search(named):
        size, across = run.peek(), fields["diameter_mm"]
        raise NoteError(
            f"the depth of a hole, or a length along the {named}: this can be read either way", column=size.column,
            received=f"⌀{run.size(across)} x {size.text}", hint=f"x {size.text} DEEP, or x {size.text} LONG",
        )  # fmt: skip


def _is_thing(words: list[str]) -> bool:
    """Whether words name a thing, and not what a size is for."""
    return words[0] not in OTHER and not things().isdisjoint({words[-1].upper(), words[-1].upper().removesuffix("S")})
