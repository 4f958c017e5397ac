"""Edges broken again at the copies of what they belong to: rounds and bevels repeat and mirror with their step.

An edge ``20/l1|10/end`` of a repeated step 20 is ``60/2(20/l1)|10/end`` at the second copy of pattern 60. The copies'
edges are broken in one go, by the step that broke the original's, whose number their faces carry.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Sequence
from dataclasses import replace
from typing import Any

from lathed_solid.kernel.builders import builder_of
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.parts import Parts
from lathed_solid.part.names import split
from lathed_solid.part.steps.pattern import Source

#: gives an atom its name at a copy
Rename = Callable[[str], str]


def broken_again(parts: Parts, source: Source, repeated: Collection[int], renames: Sequence[Rename]) -> Parts:
    """The part with the edges of a breaking step broken at every copy too. Raises BuildError."""
    figures: Any = source.figures
    pick = figures.edges
    if pick.rule or pick.steps:
        raise BuildError(f"step {source.number} finds its edges by a rule or a step: that is not repeated",
                         hint="pick its edges one by one, or break the copies' edges by the same rule")  # fmt: skip
    heads = tuple(f"{n}/" for n in repeated)

    def at_copy(name: str, rename: Rename) -> str:
        sides = [
            "+".join(rename(a) if a.startswith(heads) else a for a in split(side, "+"))
            for side in split(name.partition("[")[0].partition("~")[0], "|")
        ]
        return "|".join(sides)

    copied = {
        field: tuple(
            other for rename in renames for name in getattr(pick, field) if (other := at_copy(name, rename)) != name
        )
        for field in ("edges", "faces", "but")
    }
    if not (copied["edges"] or copied["faces"]):
        raise BuildError(f"no edge of step {source.number} lies on what is repeated",
                         hint="repeat the step that made its edges with it")  # fmt: skip
    build = builder_of(source.kind)
    assert build is not None
    on = getattr(figures, "on", "")
    moved = {"on": ""} if on and on.startswith(heads) else {}
    return build(parts, replace(figures, edges=replace(pick, named=(), **copied), **moved), source.number)
