"""One instance to be measured, and what measuring it gives."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.look import Look, Wrap
from lathed_solid.kernel.surfaces import Surface
from lathed_solid.kernel.walls import Wall
from lathed_solid.ledger import Probe
from lathed_solid.proof.findings import Finding

#: rad: directions this near are parallel
PARALLEL = 1e-9


@dataclass(frozen=True)
class Case:
    """One instance to be measured: the faces of each of the probe's names under one prefix of copies."""

    look: Look
    probe: Probe
    wrap: Wrap
    groups: tuple[tuple[tuple[Wrap, str], ...], ...]
    expected: float

    def surfaces(self, k: int) -> list[Surface]:
        """All that is left under the probe's k-th name."""
        return [self.look.surface(*f) for f in self.groups[k]] if k < len(self.groups) else []

    def first(self, k: int = 0) -> Surface:
        """What is left under the probe's k-th name, its first face. Raises MeasureError for none."""
        found = self.surfaces(k)
        if not found:
            raise MeasureError(
                f"the face {self.probe.faces[k] if k < len(self.probe.faces) else ''} is not on the solid"
            )
        return found[0]

    def in_sketch(self) -> tuple[np.ndarray, np.ndarray]:
        """Origin and direction in space of a probe in a sketch's plane. Raises MeasureError."""
        frame = self.look.frame(self.probe.sketch)
        dx, dy = self.probe.along
        return np.array(frame.origin), dx * np.array(frame.x) + dy * np.array(frame.y)

    def walls(self, k: int) -> list[Wall]:
        """The faces under the probe's k-th name as walls of holes or pins."""
        return [Wall(self.look, self.look.surface(*f), *f) for f in self.groups[k]]


#: values of one case, one for each place; the duties found; places that are sound
Result = tuple[list[float], list[Finding], int]


def need(surface: Surface, *kinds: str) -> Surface:
    """The surface, when it is of one of these kinds. Raises MeasureError."""
    if surface.kind not in kinds:
        raise MeasureError(f"a {surface.kind} cannot be measured this way", rule=f"{' or '.join(kinds)} needed")
    return surface
