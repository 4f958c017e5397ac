"""The holes' editor."""

from __future__ import annotations

from lathed_solid.desk.steps.form import Row, kinds
from lathed_solid.part.steps import Grid, OnCircle, Radial, Table

_places = kinds("places")

ROWS = (
    Row("face", "on face", "name", picks=("face",)),
    Row(
        "places", "places", "choice",
        choices=(("circle", "flat face: bolt circle or centre"), ("grid", "flat face: rows and columns"),
                 ("table", "flat face: listed places"), ("radial", "cylinder: radial"),
                 ("sketch", "points of a sketch"), ("edges", "centres of round edges")),
        make={"circle": lambda: OnCircle(bolt_circle="40"), "grid": Grid, "table": Table,
              "radial": lambda: Radial(at="10")},
    ),
    Row("places.count", "count", "count", when=_places("circle", "radial")),
    Row("places.bolt_circle", "bolt circle ⌀", empty="at the centre", optional=True, when=_places("circle")),
    Row("places.start_angle", "start angle", "angle", empty="0", when=_places("circle")),
    Row("places.x", "centre or first place x", empty="0", when=_places("circle", "grid")),
    Row("places.y", "centre or first place y", empty="0", when=_places("circle", "grid")),
    Row("places.dx", "column spacing", empty="20", when=_places("grid")),
    Row("places.nx", "columns", "count", when=_places("grid")),
    Row("places.dy", "row spacing", empty="20", when=_places("grid")),
    Row("places.ny", "rows", "count", when=_places("grid")),
    Row("places.rows", "x, y; x, y; …", "table", when=_places("table")),
    Row("places.sketch", "sketch at step", "number of a step", when=_places("sketch")),
    Row("places.points", "its points", "names", empty="all that stand alone", when=_places("sketch")),
    Row("places.edges", "round edges", "names", picks=("edge",), when=_places("edges")),
    Row("places.at", "from the datum face", when=_places("radial")),
    Row("places.datum", "datum face", "name", picks=("plane",), when=_places("radial")),
    Row("places.angle", "angle", "angle", empty="0", when=_places("radial")),
    Row("thread", "thread", "text", empty="none, or M8, 5/16-18 UNC, G1/8"),
    Row("diameter", "hole ⌀", hint="the tap drill"),
    Row("depth", "depth", empty="through", optional=True, when=lambda s: not s.until),
    Row("until", "or to the face", "name", picks=("face", "plane")),
    Row("thread_depth", "threaded", empty="all the way", optional=True, when=lambda s: bool(s.thread)),
    Row("depth_to", "depth to the", "choice", choices=(("shoulder", "shoulder"), ("tip", "tip")),
        when=lambda s: s.depth is not None),
    Row("point", "drill point", "angle", empty="flat bottom", optional=True, when=lambda s: s.depth is not None),
    Row("cbore_diameter", "counterbore ⌀", empty="none", optional=True),
    Row("cbore_depth", "counterbore depth", empty="none", optional=True),
    Row("csk_diameter", "countersink ⌀", empty="none", optional=True),
    Row("csk_angle", "countersink angle", "angle", empty="90°", when=lambda s: s.csk_diameter is not None),
    Row("cdrill_diameter", "counterdrill ⌀", empty="none", optional=True),
    Row("cdrill_depth", "counterdrill depth", empty="none", optional=True),
)  # fmt: skip
