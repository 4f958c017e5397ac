"""The bodies of a part as they are shown: each by itself, so that it can be hidden, and is hatched apart where cut.

A part of one body is one thing. Every body has a cutting plane of its own: a plane of the view has one hatch for all.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from OCP.AIS import AIS_Shape
from OCP.Aspect import Aspect_TypeOfLine
from OCP.gp import gp_Pln
from OCP.Graphic3d import Graphic3d_MaterialAspect, Graphic3d_NameOfMaterial
from OCP.Prs3d import Prs3d_LineAspect

from lathed_solid.kernel.topology import SOLID, faces, sub_shapes, together
from lathed_solid.viewer.caps import Caps
from lathed_solid.viewer.colours import Colours, colour_of

FACE_MODE, EDGE_MODE = 4, 2
GLASS = 0.6


class ShownBodies:
    """``owners``: of each solid in order the number of its body."""

    def __init__(self, context: Any, colours: Colours) -> None:
        self._context, self._colours = context, colours
        self._shown: dict[int, Any] = {}
        #: bodies whose faces and edges cannot be picked yet
        self._unpicked: set[int] = set()
        self._caps = Caps()
        self._hidden: frozenset[int] = frozenset()
        self._plane: gp_Pln | None = None
        self._size = 100.0
        self.glass = False

    def __bool__(self) -> bool:
        return bool(self._shown)

    def show(self, shape: Any, owners: Sequence[int], size: float) -> None:
        """Display a part's bodies; ``size`` (mm) says how wide the hatch is."""
        self.clear()
        self._size = size
        for number, part in parted(shape, owners).items():
            body = self._shown[number] = AIS_Shape(part)
            self._style(body)
        for number in self._shown:
            self._display(number)
        self.cut(self._plane)

    def clear(self) -> None:
        """Take them away; which are hidden, and the cut, stay."""
        for body in self._shown.values():
            self._context.Remove(body, False)
        self._shown = {}
        self._unpicked.clear()
        self._caps.forget()

    def hide(self, numbers: frozenset[int]) -> None:
        """Hide these bodies, and show all others."""
        self._hidden = numbers
        self._unpicked.clear()
        for number, body in self._shown.items():
            self._context.Erase(body, False)
            self._display(number)

    def _display(self, number: int) -> None:
        if number not in self._hidden:
            self._context.Display(self._shown[number], 1, -1, False)
            self._unpicked.add(number)

    def pickable(self) -> None:
        """Make what is shown ready to be picked: wanted when something points at it, not before it is seen."""
        for number in self._unpicked & self._shown.keys():
            self._context.Load(self._shown[number], -1)
            for mode in (FACE_MODE, EDGE_MODE):
                self._context.Activate(self._shown[number], mode)
        self._unpicked.clear()

    def paint(self, colours: Colours) -> None:
        """Take another palette."""
        self._colours = colours
        for body in self._shown.values():
            self._style(body)
            self._context.Redisplay(body, False)

    def _style(self, body: Any) -> None:
        dress(body, self._colours.body, self._colours.edge, glass=self.glass)

    def set_glass(self, on: bool) -> None:
        """Glass, or metal."""
        self.glass = on
        for body in self._shown.values():
            body.SetTransparency(GLASS if on else 0.0)
            self._context.Redisplay(body, False)

    def cut(self, plane: gp_Pln | None) -> None:
        """Cut every body open, each with a cap of its own hatch; None takes the cut away."""
        self._plane = plane
        self._caps.cut(self._shown, plane, self._size, self._colours)


def dress(shown: Any, colour: str, edge: str, *, glass: bool) -> None:
    """Satin of a colour with its edges drawn, or glass."""
    shown.SetMaterial(Graphic3d_MaterialAspect(Graphic3d_NameOfMaterial.Graphic3d_NameOfMaterial_Satin))
    shown.SetColor(colour_of(colour))
    drawer = shown.Attributes()
    drawer.SetFaceBoundaryDraw(True)
    drawer.SetFaceBoundaryAspect(Prs3d_LineAspect(colour_of(edge), Aspect_TypeOfLine.Aspect_TOL_SOLID, 1.4))
    shown.SetTransparency(GLASS if glass else 0.0)


def parted(shape: Any, owners: Sequence[int]) -> dict[int, Any]:
    """A part's shape by the numbers of its bodies; all of it under 0 where it is one, or they do not tell it apart."""
    solids = sub_shapes(shape, SOLID)
    whole = len(solids) == len(owners) and sum(len(faces(s)) for s in solids) == len(faces(shape))
    if len(set(owners)) < 2 or not whole:
        return {0: shape}
    return {n: together([s for s, o in zip(solids, owners, strict=True) if o == n]) for n in dict.fromkeys(owners)}
