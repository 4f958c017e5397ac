"""Texts of the window that a language's catalogue does not have: ``python tools/words.py [de]``.

Looked for are the texts that stand in the calls of ``spoken`` and in the titles of columns, as they are written in the
code, with ``{}`` for what is put in. Exit code 1 when some are missing.
"""

from __future__ import annotations

import ast
import re
import sys
from collections.abc import Iterator
from pathlib import Path

DESK = Path(__file__).parents[1] / "src" / "lathed_solid" / "desk"
CALLS = ("spoken", "Column", "choice_box", "labelled")
#: told alike in every language: names of formats and keys, unit signs, numbers
ALIKE = re.compile(
    r"(?:[^\W\d_]{0,2}|g|STEP|STL|GLB|PNG|ring|iso|Enter|radial|x y|hexagon screw.*|B bore.*|key"
    r"|Lathed Solid|wall 4 seat.*|M18x1 5.*)"
)


def texts(node: ast.expr) -> Iterator[str]:
    """What an expression may say: both sides of a choice, the pieces of a formatted text with holes between."""
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        yield node.value
    elif isinstance(node, ast.JoinedStr):
        yield "".join(str(v.value) if isinstance(v, ast.Constant) else "{}" for v in node.values)
    elif isinstance(node, ast.IfExp):
        yield from texts(node.body)
        yield from texts(node.orelse)


def written() -> Iterator[tuple[str, str]]:
    """(where, text) of every text of the window."""
    for path in sorted(DESK.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text("utf-8"))):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in CALLS and node.args:
                yield from ((f"{path.relative_to(DESK)}:{node.lineno}", text) for text in texts(node.args[0]))


def missing(language: str) -> list[tuple[str, str]]:
    """Those that the catalogue does not have, nor its parts."""
    from lathed_solid.desk.language import speak, spoken

    speak(language)
    try:
        return [(where, text) for where, text in written() if not _known(text, spoken)]
    finally:
        speak("en")


def _known(text: str, spoken: object) -> bool:
    assert callable(spoken)
    bare = re.sub(r"\{\}|\(?(?:Ctrl|Alt|Shift)[^\s)]*\)?|[^\w]+", " ", text).strip()
    alike = ALIKE.fullmatch(bare) is not None or all(map(ALIKE.fullmatch, bare.split()))
    return alike or spoken(text.replace("{}", "7")) != text.replace("{}", "7")


def main() -> int:
    """From the command line."""
    found = missing((sys.argv[1:] or ["de"])[0])
    for where, text in found:
        print(f"{where}: {text!r}")
    return int(bool(found))


if __name__ == "__main__":
    sys.exit(main())
