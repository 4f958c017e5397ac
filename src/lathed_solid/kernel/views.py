"""Views of a solid as a drawing shows them: visible edges laid flat, and where each callout's face lies in them.

By the kernel's hidden-line removal on triangles, which is quick and does not mind free surfaces.
"""

from __future__ import annotations

from collections.abc import Sequence

from OCP.BRepGProp import BRepGProp
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt
from OCP.GProp import GProp_GProps

from lathed_solid.kernel.figures import View
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.sides import lines_of
from lathed_solid.kernel.surfaces import one_surface
from lathed_solid.kernel.triangles import finely
from lathed_solid.kernel.vectors import Triple, dot
from lathed_solid.proof import VerdictRow
from lathed_solid.quantity.tolerances import ROUNDING

#: name, towards the eye, to the right
VIEWS: tuple[tuple[str, Triple, Triple], ...] = (
    ("front", (0.0, -1.0, 0.0), (1.0, 0.0, 0.0)),
    ("top", (0.0, 0.0, 1.0), (1.0, 0.0, 0.0)),
    ("right", (1.0, 0.0, 0.0), (0.0, 1.0, 0.0)),
    ("isometric", (-0.5, -0.7, 0.5), (0.814, -0.581, 0.0)),
)
#: deviation of the triangles, share of the part's size; and rad
FINE, TURN = 1 / 800, 0.2


def views(body: Body, rows: Sequence[VerdictRow]) -> tuple[View, ...]:
    """Front, top, right and isometric; each callout's balloon in the view that shows its face best, and in the last."""
    shape = finely(body.shape, FINE, TURN)
    places = {r.balloon: place for r in rows if r.faces and (place := _middle(body, r.faces[0])) is not None}
    out = []
    for n, (name, eye, right) in enumerate(VIEWS):
        frame = gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(*eye), gp_Dir(*right))
        axes = tuple((d.X(), d.Y(), d.Z()) for d in (frame.XDirection(), frame.YDirection()))
        shown = [b for b, (_at, best) in places.items() if best == n]
        balloons = tuple((b, dot(places[b][0], axes[0]), dot(places[b][0], axes[1])) for b in shown)
        out.append(View(name, lines_of(shape, eye, right)[0], balloons))
    return tuple(out)


def _middle(body: Body, name: str) -> tuple[Triple, int] | None:
    """The middle of a named face, and the number of the view that shows it best: along a round face's axis for short
    ones, square to it for long ones; edge on for a flat one.
    """
    found = body.find(name)
    faces = next(iter(found.values()), None)
    if not faces:
        return None
    g = GProp_GProps()
    BRepGProp.SurfaceProperties_s(faces[0], g)
    c = g.CentreOfMass()
    at = (c.X(), c.Y(), c.Z())
    surface = one_surface(faces)
    d = surface.direction
    if surface.kind == "plane":
        # edge on, from the front where that is possible
        best = min(range(3), key=lambda n: (round(abs(dot(d, VIEWS[n][1])), 6), n))
        return at, best
    low, high = surface.extent(d) if any(d) else (0.0, 0.0)
    short = high - low < 2.5 * max(surface.radius, ROUNDING)
    score = [abs(dot(d, VIEWS[n][1])) for n in range(3)]
    along = max(range(3), key=lambda n: (round(score[n], 6), -n))
    square = min(range(3), key=lambda n: (round(score[n], 6), n))
    return at, along if short and score[along] > 0.99 and surface.kind == "cylinder" else square
