"""Work on whole bodies."""

from __future__ import annotations

from OCP.BRepAlgoAPI import BRepAlgoAPI_Common, BRepAlgoAPI_Cut
from OCP.gp import gp_Ax1, gp_Dir, gp_Pnt, gp_Trsf, gp_Vec
from OCP.TopLoc import TopLoc_Location

from lathed_solid.kernel.builders.boolean import common, cut, join, operate
from lathed_solid.kernel.builders.references import axis_of, plane_of
from lathed_solid.kernel.builders.solids import in_front
from lathed_solid.kernel.checks import check_solid
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body, moved
from lathed_solid.kernel.parts import Parts
from lathed_solid.kernel.topology import SOLID, box, sub_shapes
from lathed_solid.part.steps.bodies import ResolvedBodies


def build_bodies(parts: Parts, step: ResolvedBodies, number: int) -> Parts:
    """The part with its bodies combined, split, moved or left out. Raises BuildError."""
    ways = {"combine": _combine, "split": _split, "move": _move, "drop": _drop}
    return ways[step.what](parts, step, number)


def _one(parts: Parts, number: int) -> Body:
    return parts.chosen((number,))[number]


def _combine(parts: Parts, step: ResolvedBodies, number: int) -> Parts:
    body, others = _one(parts, step.body), list(parts.chosen(step.others).values())
    made = {
        "add": lambda: join([body, *others]),
        "cut": lambda: cut(body, others),
        "common": lambda: common(body, others),
    }
    result = made[step.mode]()
    kept = {n: b for n, b in parts.bodies.items() if step.copy or n not in step.others}
    return parts.with_bodies({**kept, step.body: result})


def _split(parts: Parts, step: ResolvedBodies, number: int) -> Parts:
    body, plane = _one(parts, step.body), plane_of(parts, step.names[0])
    low, high = box(body.shape)
    span = 4 * sum(h - a for a, h in zip(low, high, strict=True)) + 4 * max(map(abs, plane.origin))
    tool = in_front(plane, span, f"{number}/cut")
    pieces = {}
    for side, operation in (("front", BRepAlgoAPI_Common()), ("back", BRepAlgoAPI_Cut())):
        shape, names = operate(operation, body, [tool])
        if not sub_shapes(shape, SOLID):
            raise BuildError(f"the plane {step.names[0]} does not pass through body {step.body}", hint="another plane")
        pieces[side] = Body(check_solid(shape), names)
    if step.keep == "both":
        return parts.with_bodies({**parts.bodies, step.body: pieces["back"], number: pieces["front"]})
    return parts.with_body(step.body, pieces[step.keep])


def _move(parts: Parts, step: ResolvedBodies, number: int) -> Parts:
    body, axis = _one(parts, step.body), axis_of(parts, step.names[0])
    shift, turn = gp_Trsf(), gp_Trsf()
    shift.SetTranslation(gp_Vec(*step.shift))
    turn.SetRotation(gp_Ax1(gp_Pnt(*axis.origin), gp_Dir(*axis.direction)), step.turn)
    where = TopLoc_Location(turn.Multiplied(shift))
    if step.copy:
        return parts.with_body(number, moved(body, where, lambda a: f"{number}/c({a})"))
    return parts.with_body(step.body, moved(body, where, lambda a: a))


def _drop(parts: Parts, step: ResolvedBodies, number: int) -> Parts:
    gone = parts.chosen(step.others)
    rest = {n: b for n, b in parts.bodies.items() if n not in gone}
    if not rest:
        raise BuildError("no body would be left", hint="name fewer bodies")
    return parts.with_bodies(rest)
