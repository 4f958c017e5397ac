"""The plane that a sketch lies on: another one, turned, or seen from behind."""

from __future__ import annotations

import itertools
import math
from typing import Any

from lathed_solid.errors import LathedError
from lathed_solid.part import DatumPlane, Document, FacePlane, SketchStep
from lathed_solid.part.edits import changed
from lathed_solid.part.steps import PlaneStep
from lathed_solid.workbench.sketch.commands import SketchCommands

PLANES = ("XY", "XZ", "YZ")


def plane_name(step: SketchStep) -> str:
    """The plane that a sketch lies on."""
    return step.plane.face if isinstance(step.plane, FacePlane) else step.plane.plane


def planes_for(document: Document, step: SketchStep, picked: str = "") -> list[str]:
    """The planes that a sketch can lie on, by name: base planes, datum planes before it, its own and the picked one."""
    before = list(itertools.takewhile(lambda s: s.number != step.number, document.steps))
    made = [f"{s.number}/plane" for s in before if isinstance(s, PlaneStep)]
    return list(dict.fromkeys(n for n in (*PLANES, *made, plane_name(step), picked) if n))


def set_plane(c: SketchCommands, name: str) -> None:
    """Another plane: a datum plane, or a flat face."""
    step = c.board.state.step
    if step is not None:
        plane = DatumPlane(plane=name) if name in PLANES else FacePlane(face=name)
        c.changed.emit(f"step {step.number} plane", changed(step, plane=plane))


def turn_plane(c: SketchCommands) -> None:
    """Turn the sketch by 90° in its plane."""
    step = c.board.state.step
    if step is None:
        return
    try:
        degrees = round(math.degrees(c.scope()(step.plane.turn, "angle"))) + 90
    except LathedError:
        degrees = 90
    _plane_to(c, step, turn=f"{degrees % 360} deg")


def flip_plane(c: SketchCommands) -> None:
    """Look at the plane from behind."""
    step = c.board.state.step
    if step is not None:
        _plane_to(c, step, flip=not step.plane.flip)


def _plane_to(c: SketchCommands, step: SketchStep, **values: Any) -> None:
    try:
        new = changed(step, plane=changed(step.plane, **values))
    except LathedError as exc:
        c.told.emit(exc.message, True)
        return
    c.changed.emit(f"step {step.number} plane", new)
