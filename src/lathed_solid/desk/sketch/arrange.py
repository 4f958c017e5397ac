"""The less frequent work on a sketch, behind one word: further shapes, placing, copying, mending.

Each entry works on what is picked, asks for its sizes, and makes one edit of the figure.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QMenu

from lathed_solid.desk.ask import Size, Sizes, ask_sizes
from lathed_solid.desk.sketch import underlay
from lathed_solid.part import scope
from lathed_solid.sketch import edits

if TYPE_CHECKING:
    from lathed_solid.desk.sketch.editor import SketchEditor

#: word, what must be picked first, what it does
Entry = tuple[str, str, Callable[["SketchEditor"], None]]


def fill(menu: QMenu, editor: SketchEditor) -> None:
    """All entries, each with what it wants picked."""
    for group in (SHAPES, WORK, PICTURE):
        for word, wants, run in group:
            action = menu.addAction(f"{word}\t{wants}" if wants else word)
            if action is not None:
                action.triggered.connect(lambda _=False, r=run: r(editor))
        menu.addSeparator()


def _ask(editor: SketchEditor, title: str, *sizes: Size) -> Sizes | None:
    return ask_sizes(editor, title, sizes, lambda: scope(editor.state.document))


def _picked(editor: SketchEditor, what: str, least: int = 1) -> tuple[str, ...]:
    """What is picked, when it is enough; else it is told."""
    chosen = editor.canvas.chosen
    if len(chosen) >= least:
        return chosen
    editor.told.emit(f"{what}: pick {'something' if least == 1 else f'{least} things'} first (Shift adds)", True)
    return ()


def _tool(name: str) -> Callable[[SketchEditor], None]:
    return lambda editor: editor.start_tool(name)


def _extend(editor: SketchEditor) -> None:
    if len(names := _picked(editor, "extend", 2)) == 2:
        name, to = names
        near = editor.canvas.pressed_at(name)
        editor._edit(f"extend {name}", lambda s, v: edits.extend(s, v, name, near, to))


def _break(editor: SketchEditor) -> None:
    if names := _picked(editor, "break"):
        at = editor.canvas.pressed_at(names[0])
        editor._edit(f"break {names[0]}", lambda s, v: edits.break_at(s, v, names[0], at))


def _merge(editor: SketchEditor) -> None:
    if len(names := _picked(editor, "one point of two", 2)) == 2:
        editor._edit("one point of two", lambda s, v: edits.merge_points(s, v, *names))


def _grid(editor: SketchEditor) -> None:
    names = _picked(editor, "copies in a grid")
    if not names:
        return
    given = _ask(
        editor, "Copies in rows", Size("step in x", "20"), Size("how many in x", "3", "number"),
        Size("step in y", "20"), Size("how many in y", "1", "number"),
    )  # fmt: skip
    if given is None:
        return
    (x, nx, y, ny), t = given.values.values(), list(given.texts.values())
    counts = (round(nx), round(ny))
    steps = ((t[0], "0"), ("0", t[2]))
    editor._edit(
        f"{counts[0]} x {counts[1]} copies",
        lambda s, v: edits.grid(s, v, names, (x, 0.0), (0.0, y), counts, steps),
    )


def _move(editor: SketchEditor) -> None:
    if (names := _picked(editor, "move")) and (given := _ask(editor, "Move", Size("in x", "10"), Size("in y", "0"))):
        by = complex(*given.values.values())
        editor._edit("move", lambda s, v: edits.move(s, v, names, by))


def _rotate(editor: SketchEditor) -> None:
    if (names := _picked(editor, "rotate")) and (
        given := _ask(editor, "Rotate", Size("angle", "90 deg", "angle"), Size("about x", "0"), Size("about y", "0"))
    ):
        angle, x, y = given.values.values()
        editor._edit("rotate", lambda s, v: edits.rotate(s, v, names, complex(x, y), angle))


def _scale(editor: SketchEditor) -> None:
    if (names := _picked(editor, "scale")) and (
        given := _ask(editor, "Scale", Size("factor", "2", "number"), Size("about x", "0"), Size("about y", "0"))
    ):
        factor, x, y = given.values.values()
        editor._edit("scale", lambda s, v: edits.scale(s, v, names, complex(x, y), factor))


#: tools that stand here, and not among the words above the drawing
TOOL_IDS = ("tilted-rectangle", "arc-slot", "tangent-arc")

SHAPES: tuple[Entry, ...] = (
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
