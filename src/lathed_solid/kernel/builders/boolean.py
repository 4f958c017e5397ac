"""Joining, cutting and keeping in common, with names carried along; one operation for all tools.

``apply`` is how steps change the part: it finds the bodies that are meant, does the operation on each, and keeps the
material for patterns.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from typing import Any

from OCP.Bnd import Bnd_Box
from OCP.BRepAlgoAPI import BRepAlgoAPI_Common, BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.BRepBndLib import BRepBndLib
from OCP.BRepExtrema import BRepExtrema_DistShapeShape
from OCP.ShapeUpgrade import ShapeUpgrade_UnifySameDomain

from lathed_solid.kernel.builders.direct_bore import pierced
from lathed_solid.kernel.checks import check_cut, check_join, check_solid
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body, Names, carried, merged
from lathed_solid.kernel.parts import Made, Mode, Parts
from lathed_solid.kernel.topology import Key, shape_list
from lathed_solid.kernel.witness import witness
from lathed_solid.quantity.tolerances import RELATIVE_READ

#: bodies nearer than this touch, mm
TOUCH = 1e-6


def apply(parts: Parts, number: int, mode: Mode, tools: Sequence[Body], on: tuple[int, ...] = ()) -> Parts:
    """Change the part by the material of step ``number``. Raises BuildError."""
    made = parts.with_made(number, Made(mode, tuple(tools), on))
    if mode == "new" or (mode == "add" and not parts.bodies):
        return made.with_body(number, join(tools))
    targets = parts.chosen(on)
    if not targets:
        raise BuildError("there is no body to work on", hint="add material first")
    if mode == "add":
        if len(targets) > 1 and not on:
            targets = {n: b for n, b in targets.items() if any(touches(b, t) for t in tools)}
            if not targets:
                raise BuildError("the added material touches no body", hint="make it a separate body, or let it touch")
        first = next(iter(targets))
        joined = join([*targets.values(), *tools])
        kept = {n: b for n, b in parts.bodies.items() if n not in targets or n == first}
        return made.with_bodies({n: joined if n == first else b for n, b in kept.items()})
    if mode == "common":
        return made.with_bodies({**parts.bodies, **{n: common(b, tools) for n, b in targets.items()}})
    met = targets if on or len(targets) == 1 else {
        n: b for n, b in targets.items() if any(boxes_meet(b, t) for t in tools)
    }  # fmt: skip
    done: dict[int, Body] = {}
    refused: BuildError | None = None
    for n, body in met.items():
        try:
            done[n] = pierced(body, tools) or cut(body, [unified(t) for t in tools])
        except BuildError as exc:
            if on or len(met) == 1:
                raise
            refused = exc
    if not done:
        raise refused or BuildError("the cut removes nothing", hint="it meets no body: check the place and the depth")
    return made.with_bodies({**parts.bodies, **done})


def cut(body: Body, tools: Sequence[Body]) -> Body:
    """``body`` without the tools, in one piece or several. Raises BuildError when nothing or too much goes."""
    shape, names = operate(BRepAlgoAPI_Cut(), body, tools)
    out = Body(check_solid(shape, body.names), names, known_shares([body, *tools]))
    check_cut(body.size, out.size, sum(t.size for t in tools))
    witness("cut", body, tools, out)
    return out


def join(parts: Sequence[Body]) -> Body:
    """All parts together, flat neighbours in one face; in several pieces where they do not meet. Raises BuildError."""
    if len(parts) == 1:
        shape, names = parts[0].shape, parts[0].names
    else:
        shape, names = operate(BRepAlgoAPI_Fuse(), parts[0], parts[1:])
    raw = Body(shape, names, known_shares(parts))
    refused: BuildError | None = None
    # merging ruins some solids that are sound
    ways: tuple[Callable[[Body], Body], ...] = (unified, partial(unified, with_edges=False), lambda b: b)
    for way in ways:
        out = way(raw)
        try:
            out = Body(check_solid(out.shape), out.names, out.shares)
            check_join([p.size for p in parts], out.size)
        except BuildError as exc:
            refused = refused or exc
            continue
        if len(parts) > 1:
            witness("add", parts[0], parts[1:], out)
        return out
    assert refused is not None
    raise refused


def common(body: Body, tools: Sequence[Body]) -> Body:
    """What body and tools (taken together) have in common. Raises BuildError."""
    shape, names = operate(BRepAlgoAPI_Common(), body, [join(tools)] if len(tools) > 1 else tools)
    out = Body(check_solid(shape), names)
    if out.size > body.size * (1 + RELATIVE_READ):
        raise BuildError("what is kept is more than there was", hint="report this step")
    witness("common", body, tools, out)
    return out


def unified(body: Body, *, with_edges: bool = True) -> Body:
    """Faces that lie in one surface and touch become one, with all their names; edges too, where that goes well.

    A body with a real thread is left as it is: merging its faces ruins it.
    """
    if any(".helix." in a for atoms in body.names.values() for a in atoms):
        return body
    for edges_too in (True, False) if with_edges else (False,):
        upgrade = ShapeUpgrade_UnifySameDomain(body.shape, edges_too, True, False)
        try:
            upgrade.Build()
        except Exception:  # noqa: BLE001 - the kernel raises bare Exceptions of its own
            continue
        break
    else:
        return body
    history, shape = upgrade.History(), upgrade.Shape()
    return Body(shape, carried(body.names, history.Modified, history.IsRemoved, shape), dict(body.shares))


def known_shares(bodies: Sequence[Body]) -> dict[Key, float]:
    """Volume shares of all faces that are known."""
    out: dict[Key, float] = {}
    for body in bodies:
        out.update(body.shares)
    return out


def operate(operation: Any, body: Body, tools: Sequence[Body]) -> tuple[Any, Names]:
    """The raw result of a boolean, with names. Raises BuildError when the kernel refuses."""
    operation.SetArguments(shape_list([body.shape]))
    operation.SetTools(shape_list([t.shape for t in tools]))
    operation.SetRunParallel(len(tools) > 8)
    operation.Build()
    if not operation.IsDone():
        raise BuildError("the kernel cannot join or cut these shapes", hint="slightly different sizes or places")
    shape = operation.Shape()
    return shape, carried(merged([body, *tools]), operation.Modified, operation.IsDeleted, shape)


def boxes_meet(a: Body, b: Body) -> bool:
    """Whether two bodies could touch, by their boxes."""
    return not _box(a).IsOut(_box(b))


def touches(a: Body, b: Body) -> bool:
    """Whether two bodies meet or touch."""
    return boxes_meet(a, b) and BRepExtrema_DistShapeShape(a.shape, b.shape).Value() < TOUCH


def _box(body: Body) -> Bnd_Box:
    box = Bnd_Box()
    BRepBndLib.Add_s(body.shape, box, False)
    return box
