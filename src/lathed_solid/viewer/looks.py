"""What is to be shown of a fit, as plain values: nothing here imports the kernel."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

Matrix = tuple[tuple[float, ...], ...]


@dataclass(frozen=True, slots=True)
class Look:
    """A member as it is shown: its name, its part's key, where it stands (4 x 4 rows), its colour."""

    name: str
    part: str
    matrix: Matrix
    colour: str
    hidden: bool = False


@dataclass(frozen=True)
class PartShape:
    """A part's solid as bytes, and the names of its faces and edges in their order."""

    data: bytes
    labels: Sequence[str]
    edge_labels: Sequence[str]
