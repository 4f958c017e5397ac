"""What stands around the half section: balloons with diameters, and the chain of lengths. No painting here."""

from __future__ import annotations

from dataclasses import dataclass

from lathed_solid.part import Document, TurnedStep
from lathed_solid.quantity.formatting import length
from lathed_solid.quantity.tolerances import ROUNDING
from lathed_solid.turned import HalfSection


@dataclass(frozen=True)
class Label:
    """A text over the place (z, r) in mm; ``high`` ones start above the whole section."""

    text: str
    balloon: str
    z: float
    r: float
    high: bool = False


@dataclass(frozen=True)
class Dimension:
    """A length from z0 to z1 (mm) in a row below the section; not ``driven`` ones are references."""

    text: str
    z0: float
    z1: float
    row: int
    driven: bool


def labels(document: Document, step: TurnedStep, section: HalfSection) -> list[Label]:
    """Diameters of stations, grooves and bores, with the balloons that drive them."""
    out: list[Label] = []
    for s, station in zip(section.stretches, step.table.stations, strict=False):
        text, balloon = _size(document, station.diameter, 2 * s.r0)
        if station.thread:
            text = station.thread.designation
        if s.r1 != s.r0:
            text += f" → {length(2 * s.r1, document.unit)}"
        out.append(Label(text, balloon, (s.z0 + s.z1) / 2, max(s.r0, s.r1)))
    for g in section.grooves:
        groove = step.table.grooves[g.number - 1]
        text, balloon = _size(document, groove.diameter, 2 * g.r)
        out.append(Label(f"{text} × {length(g.z1 - g.z0, document.unit)}", balloon, (g.z0 + g.z1) / 2, g.r, True))
    return out


def _size(document: Document, cell: str, value: float) -> tuple[str, str]:
    """(text, balloon): the callout's own size and fit when one drives the cell."""
    text = f"⌀{length(value, document.unit)}"
    if cell.startswith("#") and cell[1:].isdigit():
        callout = document.callout(int(cell[1:]))
        if callout is not None:
            fit = f" {callout.fit}" if callout.fit else ""
            if callout.drive == "measured":
                return f"{text} meas.", str(callout.balloon)
            if callout.drive == "middle":
                return f"{text}{fit} mid.", str(callout.balloon)
            return f"{callout.show()}{fit}", str(callout.balloon)
    return text, ""


def lengths(document: Document, step: TurnedStep, section: HalfSection) -> list[Dimension]:
    """The chain of station lengths, the distances from the datum face, and the overall length."""
    unit = document.unit
    out: list[Dimension] = []
    row = 1
    from_left = step.table.datum == "left"
    for s, station in zip(section.stretches, step.table.stations, strict=False):
        driven = station.length is not None
        text = length(s.z1 - s.z0, unit)
        out.append(Dimension(text if driven else f"({text})", s.z0, s.z1, 0, driven))
        if station.to is not None:
            a, b = (0.0, s.z1) if from_left else (s.z0, section.length)
            if a > ROUNDING or b < section.length - ROUNDING:
                out.append(Dimension(length(b - a, unit), a, b, row, True))
                row += 1
    out.append(Dimension(f"({length(section.length, unit)})", 0.0, section.length, row, False))
    return out
