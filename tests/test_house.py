"""The house rules that a machine can see: no circles, no long modules, nobody reaches into another's private parts."""

from __future__ import annotations

import ast
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path

ROOT = Path(__file__).parents[1]
SRC = ROOT / "src" / "lathed_solid"
sys.path.insert(0, str(ROOT / "tools"))

from no_circles import circles  # noqa: E402

MODULES = sorted(SRC.rglob("*.py"))
LONGEST = 400


def test_circles_are_found_and_chains_are_none() -> None:
    assert circles({"a": {"b"}, "b": {"c"}, "c": set()}) == []
    assert circles({"a": {"b"}, "b": {"c"}, "c": {"a"}, "d": {"a"}, "e": {"f"}, "f": {"e"}}) == [
        ["a", "b", "c"], ["e", "f"],
    ]  # fmt: skip
    assert circles({}) == [] and circles({"a": {"elsewhere"}}) == []


def test_no_module_is_longer_than_its_one_job() -> None:
    long = {str(m.relative_to(SRC)): n for m in MODULES if (n := len(m.read_text("utf-8").splitlines())) > LONGEST}
    assert long == {}


#: the one way to load stored tables; its package is pinned
LARK = "lark.Lark._load_from_dict"


def _private(name: str) -> bool:
    """One underscore before; a named tuple's own methods are public in spite of it."""
    return name.startswith("_") and not name.endswith("__") and name not in ("_replace", "_asdict", "_fields")


def private_access(source: str) -> list[str]:
    """``x._y`` where _y belongs to no class of this module, and ``from m import _y``."""
    nodes = list(ast.walk(ast.parse(source)))
    own = {
        n.attr if isinstance(n, ast.Attribute) else n.name
        for n in nodes
        if (isinstance(n, ast.Attribute) and isinstance(n.value, ast.Name) and n.value.id in ("self", "cls"))
        or isinstance(n, (ast.FunctionDef, ast.ClassDef))
    }
    own |= {t.id for n in nodes if isinstance(n, ast.AnnAssign) and isinstance(t := n.target, ast.Name)}
    out = []
    for n in nodes:
        if isinstance(n, ast.Attribute) and _private(n.attr) and n.attr not in own and ast.unparse(n) != LARK:
            out.append(f"line {n.lineno}: {ast.unparse(n)}")
        if isinstance(n, ast.ImportFrom) and n.module and n.module != "__future__":
            out += [f"line {n.lineno}: {n.module}.{a.name}" for a in n.names if _private(a.name)]
    return out


def test_private_access_is_seen() -> None:
    assert private_access("class A:\n    def f(self, b):\n        self._x = 1\n        return b._x") == []
    assert len(private_access("def f(b):\n    return b._x\nfrom m import _y")) == 2


def told_of(judge: Callable[[str], list[str]]) -> dict[str, list[str]]:
    """What is wrong, by module."""
    return {str(m.relative_to(SRC)): found for m in MODULES if (found := judge(m.read_text("utf-8")))}


def test_nobody_reaches_into_anothers_private_parts() -> None:
    assert told_of(private_access) == {}


def undocumented(source: str) -> list[str]:
    """Public functions, classes and methods of a module without a docstring; those that stand in for
    a method of a class above them, or for one of the toolkit (camelCase), are told there.
    """
    tree = ast.parse(source)
    classes = {c.name: c for c in tree.body if isinstance(c, ast.ClassDef)}

    def above(c: ast.ClassDef) -> bool:
        return bool(c.bases)

    out = [n.name for n in tree.body if isinstance(n, (ast.FunctionDef, ast.ClassDef)) and _silent(n)]
    for c in classes.values():
        protocol = any(ast.unparse(b) == "Protocol" for b in c.bases)
        if not c.name.startswith("_") and not protocol and not above(c):
            out += [f"{c.name}.{m.name}" for m in c.body if isinstance(m, ast.FunctionDef) and _silent(m)]
    return out


def _silent(n: ast.FunctionDef | ast.ClassDef) -> bool:
    return not n.name.startswith("_") and not ast.get_docstring(n)


def test_what_is_public_says_what_it_is() -> None:
    assert told_of(undocumented) == {}


def test_what_a_window_begins_with_is_light() -> None:
    """Commands, session and protocol come without solver, grammar and kernel: they are imported when first needed."""
    code = (
        "import sys, lathed_solid.workbench.note_entry, lathed_solid.workbench.session, lathed_solid.engine.client\n"
        "print([m for m in ('scipy', 'lark', 'OCP', 'lathed_solid.notation', 'lathed_solid.sketch.solve') "
        "if m in sys.modules])"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, timeout=60, check=True)
    assert done.stdout.strip() == "[]"
