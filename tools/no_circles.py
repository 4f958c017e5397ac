"""No circle of imports anywhere: ``python tools/no_circles.py`` prints them and exits with 1 when there are some.

Imports within functions and under TYPE_CHECKING count too: who needs another module to be understood imports it.
"""

from __future__ import annotations

import sys
from collections.abc import Mapping, Set

import grimp
from scipy.sparse import csr_array
from scipy.sparse.csgraph import connected_components

PACKAGE = "lathed_solid"


def circles(imports: Mapping[str, Set[str]]) -> list[list[str]]:
    """Groups of modules that import one another in a circle, each sorted."""
    names = sorted(imports)
    at = {name: i for i, name in enumerate(names)}
    pairs = [(at[a], at[b]) for a, found in imports.items() for b in found if b in at]
    rows, columns = zip(*pairs, strict=True) if pairs else ((), ())
    graph = csr_array(([1] * len(pairs), (rows, columns)), shape=(len(names), len(names)))
    _, groups = connected_components(graph, connection="strong")
    found: dict[int, list[str]] = {}
    for name, group in zip(names, groups.tolist(), strict=True):
        found.setdefault(group, []).append(name)
    return [members for members in found.values() if len(members) > 1]


def main() -> int:
    """Print the circles of the package."""
    graph = grimp.build_graph(PACKAGE)
    found = circles({m: graph.find_modules_directly_imported_by(m) for m in graph.modules})
    for members in found:
        print("a circle of imports: " + ", ".join(m.removeprefix(f"{PACKAGE}.") for m in members))
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
