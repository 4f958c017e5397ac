"""The turned solid: the half section revolved about X, left face at X = 0."""

from __future__ import annotations

from OCP.gp import gp_Ax1, gp_Dir, gp_Pnt

from lathed_solid.kernel.builders.contour import revolve_contour
from lathed_solid.kernel.checks import check_exact, check_solid
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.figures import Mark
from lathed_solid.kernel.parts import Made, Parts, ThreadData
from lathed_solid.kernel.properties import volume
from lathed_solid.standards import StandardError, thread_form
from lathed_solid.standards.thread_limits import split_class
from lathed_solid.turned import HalfSection, revolved


def build_turned(parts: Parts, section: HalfSection, number: int) -> Parts:
    """The body of a turned part. Raises BuildError when there is a body already."""
    if parts.bodies:
        raise BuildError("a turned table must be the first step", hint="move it to the top of the route")
    axis = gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(1, 0, 0))
    result = revolve_contour(section.segments, axis, lambda z, r: gp_Pnt(z, 0, r), f"{number}/")
    check_solid(result.shape)
    check_exact(volume(result.shape), revolved(section).volume)
    out = parts.with_body(number, result).with_made(number, Made("new", (result,)))
    for key, designation, length in section.threads:
        out = _drawn(out, section, f"{number}/s{key}", key, designation, length)
    return out


def _drawn(parts: Parts, section: HalfSection, face: str, key: str, designation: str, length: float | None) -> Parts:
    """A station's thread as data on its cylinder, from the end that is nearer to the part's own."""
    found = next(s for s in section.stretches if s.key == key)
    bare, classes = split_class(designation.replace("×", "x"))
    try:
        form = thread_form(bare)
    except StandardError as exc:
        raise BuildError(exc.what, hint=exc.hint) from None
    long = found.z1 - found.z0 if length is None else length
    from_right = section.length - found.z1 < found.z0
    origin = (found.z1 if from_right else found.z0, 0.0, 0.0)
    mark = Mark(origin, (-1.0 if from_right else 1.0, 0.0, 0.0), form.minor / 2, long)
    data = ThreadData(form.designation, form.major, form.pitch, long, form.left, form.starts, "/".join(classes))
    return parts.with_thread(face, data, mark)
