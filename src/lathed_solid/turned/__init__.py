"""The turned table: stations, bores, grooves -> the closed half section."""

from lathed_solid.turned.cells import edge_text, parse_edge, parse_taper, taper_text
from lathed_solid.turned.contour import Segment
from lathed_solid.turned.half_section import HalfSection, half_section
from lathed_solid.turned.properties import Revolved, revolved
from lathed_solid.turned.table import (
    Bore,
    BoreStep,
    Edge,
    Groove,
    Station,
    TableError,
    Taper,
    ThreadStretch,
    TurnedTable,
)

__all__ = [
    "Bore",
    "BoreStep",
    "Edge",
    "Groove",
    "HalfSection",
    "Revolved",
    "Segment",
    "Station",
    "TableError",
    "Taper",
    "ThreadStretch",
    "TurnedTable",
    "edge_text",
    "half_section",
    "parse_edge",
    "parse_taper",
    "revolved",
    "taper_text",
]
