"""The turned solid: the half section revolved about X, left face at X = 0."""

from __future__ import annotations

from OCP.gp import gp_Ax1, gp_Dir, gp_Pnt

from lathed_solid.kernel.build.contour import revolve_contour
from lathed_solid.kernel.checks import check_exact, check_solid
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.parts import Made, Parts
from lathed_solid.kernel.properties import volume
from lathed_solid.turned import HalfSection, revolved


def build_turned(parts: Parts, section: HalfSection, number: int) -> Parts:
    """The body of a turned part. Raises BuildError when there is a body already."""
    if parts.bodies:
        raise BuildError("a turned table must be the first step", hint="move it to the top of the route")
    axis = gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(1, 0, 0))
    result = revolve_contour(section.segments, axis, lambda z, r: gp_Pnt(z, 0, r), f"{number}/")
    check_solid(result.shape)
    check_exact(volume(result.shape), revolved(section).volume)
    return parts.with_body(number, result).with_made(number, Made("new", (result,)))
