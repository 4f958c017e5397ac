"""The less frequent work on a sketch, as a table: its word, what it wants chosen, and what it does.

Each entry works on what is chosen, asks for its sizes, and makes one edit of the figure.
"""

from __future__ import annotations

from collections.abc import Callable

from lathed_solid.sketch import edits
from lathed_solid.workbench.asked_sizes import AskedSize
from lathed_solid.workbench.sketch import underlay
from lathed_solid.workbench.sketch.commands import SketchCommands

Entry = tuple[str, str, Callable[[SketchCommands], None]]


def _tool(name: str) -> Callable[[SketchCommands], None]:
    return lambda c: c.start_tool(name)


def _extend(c: SketchCommands) -> None:
    if len(names := c.chosen("extend", 2)) == 2:
        name, to = names
        near = c.board.pressed_at(name)
        c.mend(f"extend {name}", lambda s, v: edits.extend(s, v, name, near, to))


def _break(c: SketchCommands) -> None:
    if names := c.chosen("break"):
        at = c.board.pressed_at(names[0])
        c.mend(f"break {names[0]}", lambda s, v: edits.break_at(s, v, names[0], at))


def _merge(c: SketchCommands) -> None:
    if len(names := c.chosen("one point of two", 2)) == 2:
        c.edit("one point of two", lambda s, v: edits.merge_points(s, v, *names))


def _grid(c: SketchCommands) -> None:
    names = c.chosen("copies in a grid")
    if not names:
        return
    given = c.ask_sizes(
        "Copies in rows", AskedSize("step in x", c.small("20", "1")), AskedSize("how many in x", "3", "number"),
        AskedSize("step in y", c.small("20", "1")), AskedSize("how many in y", "1", "number"),
    )  # fmt: skip
    if given is None:
        return
    (x, nx, y, ny), t = given.values.values(), list(given.texts.values())
    counts = (round(nx), round(ny))
    steps = ((t[0], "0"), ("0", t[2]))
    c.edit(
        f"{counts[0]} x {counts[1]} copies",
        lambda s, v: edits.grid(s, v, names, (x, 0.0), (0.0, y), counts, steps),
    )


def _move(c: SketchCommands) -> None:
    if (names := c.chosen("move")) and (
        given := c.ask_sizes("Move", AskedSize("in x", c.small("10", "0.5")), AskedSize("in y", "0"))
    ):
        by = complex(*given.values.values())
        c.mend("move", lambda s, v: edits.move(s, v, names, by))


def _rotate(c: SketchCommands) -> None:
    sizes = (AskedSize("angle", "90 deg", "angle"), AskedSize("about x", "0"), AskedSize("about y", "0"))
    if (names := c.chosen("rotate")) and (given := c.ask_sizes("Rotate", *sizes)):
        angle, x, y = given.values.values()
        c.mend("rotate", lambda s, v: edits.rotate(s, v, names, complex(x, y), angle))


def _scale(c: SketchCommands) -> None:
    sizes = (AskedSize("factor", "2", "number"), AskedSize("about x", "0"), AskedSize("about y", "0"))
    if (names := c.chosen("scale")) and (given := c.ask_sizes("Scale", *sizes)):
        factor, x, y = given.values.values()
        c.mend("scale", lambda s, v: edits.scale(s, v, names, complex(x, y), factor))


#: tools that stand here, and not among the words above the drawing
TOOL_IDS = ("based-rectangle", "tilted-rectangle", "arc-slot", "tangent-arc")

SHAPES: tuple[Entry, ...] = (
    ("rectangle on its middle", "", _tool("based-rectangle")),
    ("rectangle on a side", "", _tool("tilted-rectangle")),
    ("slot along an arc", "", _tool("arc-slot")),
    ("smooth arc from an end", "", _tool("tangent-arc")),
)
WORK: tuple[Entry, ...] = (
    ("extend to", "a curve, then the one to reach", _extend),
    ("break in two", "a curve, where it is clicked", _break),
    ("one point of two", "two points", _merge),
    ("copies in rows…", "curves", _grid),
    ("move…", "curves or points", _move),
    ("rotate…", "curves or points", _rotate),
    ("scale…", "curves or points", _scale),
)
PICTURE: tuple[Entry, ...] = (
    ("picture beneath…", "", underlay.choose),
    ("picture to scale…", "two points on it", underlay.scale_by_points),
    ("no picture", "", underlay.drop),
)
GROUPS = (SHAPES, WORK, PICTURE)
