"""The holes' editor."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from lathed_solid.part.steps import Grid, OnCircle, Radial, Table
from lathed_solid.workbench.step_forms.form_row import FormRow, kinds

_places = kinds("places")


def _from_edge(which: str, otherwise: str) -> Callable[[Any], str]:
    return lambda step: f"from the {which} edge" if step.places.kind == "walls" else otherwise


def _spaced(many: str) -> Callable[[Any], bool]:
    """A spacing counts where there is more than one."""
    return lambda step: getattr(step.places, many, 1) > 1


ROWS = (
    FormRow("face", "on face", "name", picks=("face",)),
    FormRow(
        "places", "places", "choice",
        choices=(("walls", "flat face: distances from two edges"),
                 ("circle", "flat face: bolt circle or centre"), ("grid", "flat face: rows and columns"),
                 ("table", "flat face: listed places"), ("radial", "cylinder: radial"),
                 ("sketch", "points of a sketch"), ("edges", "centres of round edges")),
        make={"circle": lambda: OnCircle(bolt_circle="40"), "grid": Grid, "table": Table,
              "radial": lambda: Radial(at="10")},
    ),
    FormRow("places.count", "count", "count", when=_places("circle", "radial")),
    FormRow("places.bolt_circle", "bolt circle ⌀", empty="at the centre", optional=True, when=_places("circle")),
    FormRow("places.start_angle", "start angle", "angle", empty="0", when=_places("circle")),
    FormRow("places.x", "centre or first place x", empty="0", when=_places("circle", "grid", "walls"),
        named=_from_edge("first", "centre or first place x")),
    FormRow("places.y", "centre or first place y", empty="0", when=_places("circle", "grid", "walls"),
        named=_from_edge("second", "centre or first place y")),
    FormRow("places.nx", "columns", "count", when=_places("grid", "walls")),
    FormRow("places.dx", "column spacing", empty="20", when=_spaced("nx")),
    FormRow("places.ny", "rows", "count", when=_places("grid", "walls")),
    FormRow("places.dy", "row spacing", empty="20", when=_spaced("ny")),
    FormRow("places.first", "first edge: its wall", "name", picks=("plane",), when=_places("walls")),
    FormRow("places.second", "second edge: its wall", "name", picks=("plane",), when=_places("walls")),
    FormRow("places.rows", "x, y; x, y; …", "table", when=_places("table")),
    FormRow("places.sketch", "sketch at step", "number of a step", when=_places("sketch")),
    FormRow("places.points", "its points", "names", empty="all that stand alone", when=_places("sketch")),
    FormRow("places.edges", "round edges", "names", picks=("edge",), when=_places("edges")),
    FormRow("places.at", "from the datum face", when=_places("radial")),
    FormRow("places.datum", "datum face", "name", picks=("plane",), when=_places("radial")),
    FormRow("places.angle", "angle", "angle", empty="0", when=_places("radial")),
    FormRow("thread", "thread", "text", empty="none, or M8, 5/16-18 UNC, G1/8"),
    FormRow("diameter", "hole ⌀", hint="the tap drill"),
    FormRow("depth", "depth", empty="through", optional=True, when=lambda s: not s.until),
    FormRow("until", "or to the face", "name", picks=("face", "plane")),
    FormRow("thread_depth", "threaded", empty="all the way", optional=True, when=lambda s: bool(s.thread)),
    FormRow("depth_to", "depth to the", "choice", choices=(("shoulder", "shoulder"), ("tip", "tip")),
        when=lambda s: s.depth is not None),
    FormRow("point", "drill point", "angle", empty="flat bottom", optional=True, when=lambda s: s.depth is not None),
    FormRow("cbore_diameter", "counterbore ⌀", empty="none", optional=True),
    FormRow("cbore_depth", "counterbore depth", empty="none", optional=True),
    FormRow("csk_diameter", "countersink ⌀", empty="none", optional=True),
    FormRow("csk_angle", "countersink angle", "angle", empty="90°", when=lambda s: s.csk_diameter is not None),
    FormRow("cdrill_diameter", "counterdrill ⌀", empty="none", optional=True),
    FormRow("cdrill_depth", "counterdrill depth", empty="none", optional=True),
)  # fmt: skip
