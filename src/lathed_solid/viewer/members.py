"""The members of a fit as they are shown: one part's geometry, shown once for each member in its place.

Moving a member changes its place alone. What is picked is told by the member and the face's or edge's name in its part.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

import numpy as np
from OCP.AIS import AIS_Shape
from OCP.gp import gp_Pln, gp_Trsf
from OCP.Graphic3d import Graphic3d_ZLayerId_Default, Graphic3d_ZLayerId_Topmost
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS

from lathed_solid.kernel.contact import corner_box, placed, room_of
from lathed_solid.kernel.figures import Picked
from lathed_solid.kernel.topology import Key, edges, faces, from_bytes, together
from lathed_solid.kernel.vectors import Triple
from lathed_solid.viewer.bodies import EDGE_MODE, FACE_MODE, GLASS, dress
from lathed_solid.viewer.caps import Caps
from lathed_solid.viewer.colours import Colours
from lathed_solid.viewer.looks import Look, Matrix, PartShape
from lathed_solid.viewer.picking import picked_edge, picked_face


class _Part:
    def __init__(self, told: PartShape) -> None:
        self.shape = from_bytes(told.data)
        self.names: dict[Key, str] = {}
        self.edges: dict[Key, str] = {}
        self.by_name: dict[str, list[Any]] = {}
        for edge, label in zip(edges(self.shape), told.edge_labels, strict=False):
            if label:
                self.edges[Key(edge)] = label
                self.by_name.setdefault(label, []).append(edge)
        for face, label in zip(faces(self.shape), told.labels, strict=False):
            self.names[Key(face)] = label
            for atom in label.split("+"):
                self.by_name.setdefault(atom, []).append(face)
        self.corners = corner_box(self.shape)


class ShownMembers:
    """Members by name; parts by key, kept for as long as they are shown."""

    def __init__(self, context: Any, colours: Colours) -> None:
        self._context, self._colours = context, colours
        self._parts: dict[str, _Part] = {}
        self._looks: dict[str, Look] = {}
        self._shown: dict[str, Any] = {}
        self._lit: list[Any] = []
        self._caps = Caps()
        self._plane: gp_Pln | None = None
        self.glass = False

    def __bool__(self) -> bool:
        return bool(self._shown)

    def show(self, parts: Mapping[str, PartShape], looks: Sequence[Look]) -> None:
        """Show these members and no others; ``parts`` the shapes of those that may not be known yet."""
        for key, told in parts.items():
            if key not in self._parts:
                self._parts[key] = _Part(told)
        wanted = {k.name: k for k in looks if k.part in self._parts}
        for name in [n for n in self._shown if n not in wanted or self._looks[n].part != wanted[n].part]:
            self._context.Remove(self._shown.pop(name), False)
        self._caps.forget()
        for name, look in wanted.items():
            shown = self._shown.get(name)
            old = self._looks.get(name)
            if shown is None:
                shown = self._shown[name] = AIS_Shape(self._parts[look.part].shape)
                old = None
            if old is None or old.colour != look.colour:
                dress(shown, look.colour, self._colours.edge, glass=self.glass)
            if old is None or old.hidden != look.hidden:
                self._display(shown, hidden=look.hidden)
            if old is None or old.matrix != look.matrix:
                self._context.SetLocation(shown, _location(look.matrix))
        self._looks = wanted
        self.cut(self._plane)

    def _display(self, shown: Any, *, hidden: bool) -> None:
        if hidden:
            self._context.Erase(shown, False)
        else:
            self._context.Display(shown, 1, FACE_MODE, False)
            self._context.Activate(shown, EDGE_MODE)

    def move(self, matrices: Mapping[str, Matrix]) -> None:
        """Members elsewhere; all else stays."""
        for name, matrix in matrices.items():
            look = self._looks.get(name)
            if look is not None and look.matrix != matrix:
                self._looks[name] = Look(look.name, look.part, matrix, look.colour, look.hidden)
                self._context.SetLocation(self._shown[name], _location(matrix))

    def clear(self) -> None:
        """Take them away; the parts are forgotten."""
        self.light((), ())
        for shown in self._shown.values():
            self._context.Remove(shown, False)
        self._shown, self._looks, self._parts = {}, {}, {}
        self._caps.forget()

    def light(self, names: Sequence[tuple[str, str]], shapes: Sequence[bytes]) -> None:
        """Light up faces of members (an empty name: the whole member), and shapes that stand in the room; no others."""
        for lit in self._lit:
            self._context.Remove(lit, False)
        self._lit = []
        for member, name in names:
            look = self._looks.get(member)
            if look is None or look.hidden:
                continue
            part = self._parts[look.part]
            found = part.by_name.get(name, []) if name else [part.shape]
            if found:
                self._light(placed(together(found), look.matrix), Graphic3d_ZLayerId_Default)
        for data in shapes:
            if data:
                self._light(from_bytes(data), Graphic3d_ZLayerId_Topmost)

    def _light(self, shape: Any, layer: int) -> None:
        lit = AIS_Shape(shape)
        dress(lit, self._colours.lit, self._colours.edge, glass=False)
        lit.SetPolygonOffsets(1, -1.0, -1.0)
        lit.SetWidth(4.0)
        lit.SetZLayer(layer)
        self._context.Display(lit, 1, -1, False)
        self._lit.append(lit)

    def set_glass(self, on: bool) -> None:
        """Glass, or metal."""
        self.glass = on
        for shown in self._shown.values():
            shown.SetTransparency(GLASS if on else 0.0)
            self._context.Redisplay(shown, False)

    def paint(self, colours: Colours) -> None:
        """Take another palette."""
        self._colours = colours

    def cut(self, plane: gp_Pln | None) -> None:
        """Cut all open, each with its own hatch; None takes the cut away."""
        self._plane = plane
        box = self.box()
        size = 100.0 if box is None else max(h - k for k, h in zip(*box, strict=True))
        self._caps.cut(self._shown, plane, size, self._colours)

    def box(self) -> tuple[Triple, Triple] | None:
        """Least and greatest corner of all that is shown, mm; None for nothing."""
        rooms = [self._room(k) for k in self._looks.values() if not k.hidden]
        if not rooms:
            return None
        low, high = np.min([r[0] for r in rooms], axis=0), np.max([r[1] for r in rooms], axis=0)
        return tuple(map(float, low)), tuple(map(float, high))  # type: ignore[return-value]

    def _room(self, look: Look) -> Any:
        return room_of(self._parts[look.part].corners, look.matrix)

    def anchor(self, name: str) -> Triple | None:
        """The middle of a member, to hang a label on; None when it is not shown."""
        look = self._looks.get(name)
        if look is None or look.hidden:
            return None
        low, high = self._room(look)
        x, y, z = (float(a + b) / 2 for a, b in zip(low, high, strict=True))
        return x, y, z

    def detected(self, point: Triple) -> Picked | None:
        """What is under the pointer at ``point`` of the room, named in its part."""
        shown = self._context.DetectedInteractive()
        name = next((n for n, s in self._shown.items() if s is shown or s == shown), None)
        if name is None:
            return None
        look = self._looks[name]
        part = self._parts[look.part]
        # as it stands in the part: a hole's wall has a place of its own besides the member's
        shape = self._context.DetectedOwner().Shape()
        back = np.linalg.inv(np.array(look.matrix)) @ np.array([*point, 1.0])
        at = (float(back[0]), float(back[1]), float(back[2]))
        if shape.ShapeType() == TopAbs_ShapeEnum.TopAbs_FACE:
            found = picked_face(TopoDS.Face(shape), part.names.get(Key(shape), ""), at, part.edges, part.by_name)
        elif shape.ShapeType() == TopAbs_ShapeEnum.TopAbs_EDGE:
            found = picked_edge(part.edges.get(Key(shape), ""), at, part.by_name)
        else:
            return None
        return replace(found, member=name, point=point)


def _location(matrix: Matrix) -> TopLoc_Location:
    motion = gp_Trsf()
    motion.SetValues(*(float(matrix[i][j]) for i in range(3) for j in range(4)))
    return TopLoc_Location(motion)
