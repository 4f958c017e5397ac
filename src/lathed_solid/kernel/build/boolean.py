"""Joining and cutting bodies with their names carried along, one operation for all tools."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.ShapeUpgrade import ShapeUpgrade_UnifySameDomain

from lathed_solid.kernel.checks import check_join, check_solid, cut_volumes
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body, Names, carried, merged
from lathed_solid.kernel.shapes import SOLID, shape_list, sub_shapes


def cut(body: Body, tools: Sequence[Body]) -> Body:
    """``body`` without the tools. Raises BuildError when nothing or too much goes, or the part falls apart."""
    shape, names = _operate(BRepAlgoAPI_Cut(), body, tools)
    check_solid(shape)
    solid = sub_shapes(shape, SOLID)[0]
    cut_volumes(body.shape, solid, [t.shape for t in tools])
    return Body(solid, names)


def join(parts: Sequence[Body]) -> Body:
    """All parts as one solid, flat neighbours in one face. Raises BuildError when they do not hang together."""
    if len(parts) == 1:
        shape, names = parts[0].shape, parts[0].names
    else:
        shape, names = _operate(BRepAlgoAPI_Fuse(), parts[0], parts[1:])
    out = unified(Body(shape, names))
    solids = sub_shapes(out.shape, SOLID)
    if len(solids) > 1:
        raise BuildError(f"the added material makes {len(solids)} separate pieces", hint="let them touch over an area")
    check_solid(out.shape)
    solid = solids[0]
    check_join([p.shape for p in parts], solid)
    return Body(solid, out.names)


def applied(body: Body | None, tools: Sequence[Body], *, cutting: bool) -> Body:
    """The body with the tools added, or cut away. Raises BuildError when there is nothing to cut from."""
    if not cutting:
        return join([*([body] if body is not None else []), *tools])
    if body is None:
        raise BuildError("there is no body to cut from", hint="add material first")
    return cut(body, [unified(t) for t in tools])


def unified(body: Body) -> Body:
    """Faces that lie in one surface and touch become one, with all their names."""
    upgrade = ShapeUpgrade_UnifySameDomain(body.shape, True, True, False)
    upgrade.Build()
    history, shape = upgrade.History(), upgrade.Shape()
    return Body(shape, carried(body.names, history.Modified, history.IsRemoved, shape))


def _operate(operation: Any, body: Body, tools: Sequence[Body]) -> tuple[Any, Names]:
    operation.SetArguments(shape_list([body.shape]))
    operation.SetTools(shape_list([t.shape for t in tools]))
    operation.SetRunParallel(len(tools) > 8)
    operation.Build()
    if not operation.IsDone():
        raise BuildError("the kernel cannot join or cut these shapes", hint="slightly different sizes or places")
    shape = operation.Shape()
    return shape, carried(merged([body, *tools]), operation.Modified, operation.IsDeleted, shape)
