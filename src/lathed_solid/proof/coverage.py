"""Coverage both ways: callouts that prove nothing, and faces that no callout speaks of.

A face is covered when some callout is measured on it. Faces of a general rule (an edge break by one callout for many
edges) are covered by that callout's probe. What is left is geometry that nobody dimensioned.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from lathed_solid.part import Document
from lathed_solid.part.names import split, steps_in
from lathed_solid.proof.report import Report


@dataclass(frozen=True)
class Coverage:
    """``unused``: balloons that no step uses and nothing measures; ``bare``: uncovered faces by the step that made
    them; ``faces``: how many there are in all.
    """

    unused: tuple[int, ...]
    bare: tuple[tuple[int, tuple[str, ...]], ...]
    faces: int

    @property
    def count(self) -> int:
        """How many faces no callout measures."""
        return sum(len(names) for _, names in self.bare)


def coverage(document: Document, report: Report, labels: Sequence[str]) -> Coverage:
    """What is not covered; ``labels``: the names of all faces of the solid, atoms joined by ``+``."""
    used = document.used_balloons()
    unused = tuple(c.balloon for c in document.callouts if c.balloon not in used)
    seen = {atom for row in report.rows for atom in row.faces}
    bare: dict[int, list[str]] = {}
    for label in labels:
        atoms = split(label, "+") if label else ()
        if not atoms or seen & set(atoms):
            continue
        made = min((min(steps_in(a), default=0) for a in atoms), default=0)
        bare.setdefault(made, []).append(label)
    return Coverage(unused, tuple((n, tuple(bare[n])) for n in sorted(bare)), len(labels))
