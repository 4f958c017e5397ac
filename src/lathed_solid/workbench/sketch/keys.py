"""Keys over the drawing, as a table: what each does, in words, and how.

Digits put the relations on what is picked that the strip offers, in their order. Where a tool draws, they begin a size.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from lathed_solid.workbench.sketch.commands import SketchCommands
from lathed_solid.workbench.sketch.relations import offered
from lathed_solid.workbench.sketch.tools import TOOLS


@dataclass(frozen=True, slots=True)
class Key:
    """``key`` as it is written, ``Shift+O``; ``word`` names its button, where it has one."""

    key: str
    words: str
    run: Callable[[SketchCommands], object]
    word: str = ""


def _mode(name: str) -> Callable[[SketchCommands], object]:
    return lambda c: c.set_mode(name)


def _tool(name: str) -> Callable[[SketchCommands], object]:
    return lambda c: c.start_tool(name)


WORK: tuple[Key, ...] = (
    Key("D", "dimension", _mode("dimension"), "dimension"),
    Key("W", "trim", _mode("trim"), "trim"),
    Key("J", "corner of two lines", lambda c: c.corner(), "corner"),
    Key("U", "round corners", lambda c: c.round(), "round"),
    Key("V", "bevel corners", lambda c: c.bevel(), "bevel"),
    Key("Y", "offset", lambda c: c.offset(), "offset"),
    Key("M", "mirror about the line picked last", lambda c: c.mirror(), "mirror"),
    Key("Shift+C", "ring of copies about the point picked last", lambda c: c.ring(), "ring"),
    Key("Shift+J", "close gaps", lambda c: c.close_gaps(), "close"),
    Key("Shift+D", "complete: propose the missing dimensions", lambda c: c.remarks.complete(), "complete"),
    Key("Shift+W", "other shapes of the same dimensions", lambda c: c.remarks.others(), "others"),
    Key("K", "check for gaps, crossings, doubles", lambda c: c.remarks.check(), "check"),
    Key("B", "build on regions", _mode("regions"), "regions"),
    Key("Shift+B", "take edges of the body", _mode("take"), "take"),
    Key("I", "the other side of a dimension or tangency", lambda c: c.dimensions.to_other_side()),
    Key("Q", "construction, or drawn", lambda c: c.toggle_construction()),
    Key("Shift+Q", "centreline", lambda c: c.toggle_centreline()),
    Key("Delete", "remove what is picked", lambda c: c.remove_chosen()),
    Key("Backspace", "remove what is picked", lambda c: c.remove_chosen()),
)
DRAWING: tuple[Key, ...] = tuple(Key(t.key, t.title, _tool(t.id), t.id) for t in TOOLS if t.key)
KEYS: dict[str, Key] = {k.key: k for k in (*DRAWING, *WORK)}
assert len(KEYS) == len(DRAWING) + len(WORK), "a key does one thing"
#: by the name of its word over the drawing
OF_WORD: dict[str, str] = {k.word: k.key for k in KEYS.values() if k.word}
#: so many relations have a digit
DIGITS = 9


def pressed(c: SketchCommands, key: str) -> bool:
    """What a key over the drawing does; whether it meant something."""
    if key in KEYS:
        KEYS[key].run(c)
        return True
    if key.isdigit() and 1 <= int(key) <= DIGITS and c.board.mode == "pick" and c.board.chosen:
        figure, names = c.board.holding()
        offers = offered(figure.sketch, names)
        if int(key) <= len(offers):
            c.relate(offers[int(key) - 1])
            return True
    return False
