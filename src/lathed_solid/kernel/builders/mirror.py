"""Mirror images of steps' material and of bodies."""

from __future__ import annotations

from dataclasses import replace

from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt, gp_Trsf

from lathed_solid.kernel.builders.boolean import apply, join
from lathed_solid.kernel.builders.broken_copies import broken_again
from lathed_solid.kernel.builders.material import Material
from lathed_solid.kernel.builders.pattern import REBUILD
from lathed_solid.kernel.builders.planar import frame_of
from lathed_solid.kernel.builders.references import plane_of
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import transformed
from lathed_solid.kernel.parts import Parts
from lathed_solid.part.steps.mirror import ResolvedMirror
from lathed_solid.part.steps.pattern import Source


def build_mirror(parts: Parts, step: ResolvedMirror, number: int) -> Parts:
    """The part with the mirror image. Raises BuildError."""
    plane = plane_of(parts, step.plane)
    motion = gp_Trsf()
    motion.SetMirror(gp_Ax2(gp_Pnt(*plane.origin), gp_Dir(*plane.direction)))

    def rename(atom: str) -> str:
        return f"{number}/m({atom})"

    if step.sources:
        made = [s.number for s in step.sources if not s.breaks]
        for source in step.sources:
            if source.breaks:
                parts = broken_again(parts, source, made, [rename])
                continue
            for material in _mirrored(parts, source, motion):
                tools = [transformed(t, motion, rename) for t in material.tools]
                parts = apply(parts, number, "add" if material.mode == "new" else material.mode, tools, material.on)
        return parts
    chosen = parts.chosen(step.bodies)
    if not chosen:
        raise BuildError("there is no body to mirror", hint="add material first")
    out = dict(parts.bodies)
    for k, (n, body) in enumerate(chosen.items()):
        image = transformed(body, motion, rename)
        if step.separate:
            if k:
                raise BuildError("one body at a time is mirrored into a separate one", hint="a step for each body")
            out[number] = image
        else:
            out[n] = join([body, image])
    return parts.with_bodies(out)


def _mirrored(parts: Parts, source: Source, motion: gp_Trsf) -> list[Material]:
    """Material still to be mirrored: as it was made, or made anew on the mirrored part and so fit for the other
    side.
    """
    if source.figures is None:
        made = parts.made.get(source.number)
        if made is None:
            raise BuildError(f"step {source.number} made nothing to mirror", hint="it failed, or is suspended")
        return [Material(m.mode, m.tools, m.on) for m in made]
    if source.kind not in REBUILD:
        raise BuildError(f"step {source.number} cannot be rebuilt elsewhere", hint="an exact copy")
    prefix, figures = f"{source.number}/", source.figures
    if source.kind == "hole":
        return [REBUILD["hole"](parts, figures, prefix)]
    if source.kind == "loft":
        return [REBUILD["loft"](parts, figures, prefix)]
    # its sketch stays where it is, and meets the mirrored part
    plane = replace(figures.picked.plane, frame=frame_of(figures.picked.plane, parts))
    figures = replace(figures, picked=replace(figures.picked, plane=plane))
    image = replace(parts, bodies={n: transformed(b, motion, lambda a: a) for n, b in parts.bodies.items()})
    return [REBUILD[source.kind](image, figures, prefix)]
