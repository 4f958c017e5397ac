"""Texts that a language's catalogue does not have: ``python tools/words.py [de]``.

Looked for are the texts that stand in the calls of ``spoken`` and in the titles of columns of the window, and what
errors say of themselves everywhere else but in the command line, as they are written in the code, with ``{}`` for what
is put in. Exit code 1 when some are missing.
"""

from __future__ import annotations

import ast
import re
import sys
from collections.abc import Iterator
from pathlib import Path

SOURCE = Path(__file__).parents[1] / "src" / "lathed_solid"
#: whose errors the window does not show
SILENT = ("desk", "cli", "tools")
CALLS = ("spoken", "Column", "choice_box", "labelled")
#: told alike in every language: names of formats and keys, unit signs, numbers
ALIKE = re.compile(
    r"(?:[^\W\d_]{0,2}|\d+|g|STEP|STL|GLB|PNG|ring|iso|Enter|radial|x y|paint|THRU|THK|sqrt|to|half|rises"
    r"|hexagon screw.*|B bore.*|key|Lathed Solid|wall 4 seat.*|M18x1 5.*)"
)
#: an example to type has none: it is of the notes' own language, or of numbers
WORD = re.compile(r"[a-z]{3}")


def texts(node: ast.expr) -> Iterator[str]:
    """What an expression may say: both sides of a choice, the pieces of a formatted text with holes between."""
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        yield node.value
    elif isinstance(node, ast.JoinedStr):
        yield "".join(str(v.value) if isinstance(v, ast.Constant) else "{}" for v in node.values)
    elif isinstance(node, ast.IfExp):
        yield from texts(node.body)
        yield from texts(node.orelse)


def calls(folder: Path) -> Iterator[tuple[str, str, ast.Call]]:
    """(where, name, call) of every call of a plain name."""
    for path in sorted(folder.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text("utf-8"))):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name):
                yield f"{path.relative_to(SOURCE)}:{node.lineno}", node.func.id, node


def written() -> Iterator[tuple[str, str]]:
    """(where, text) of every text of the window, and of the errors that it may show."""
    for where, name, call in calls(SOURCE):
        if where.startswith("desk/"):
            said = call.args[:1] if name in CALLS else []
        elif name.endswith("Error") and name[0].isupper() and not where.startswith(SILENT):
            said = [*call.args[:1], *(k.value for k in call.keywords if k.arg in ("rule", "hint"))]
        else:
            continue
        yield from ((where, t) for node in said for t in texts(node) if name in CALLS or WORD.search(t))


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
