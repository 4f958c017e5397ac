"""The 3D view: the kernel's own viewer, drawing into a GL context that somebody else owns.

Nothing here knows the toolkit: the owner makes its context current, hands over sizes in device pixels,
calls ``paint`` when it must, and passes pointer positions on. X11 (GLX) only.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from OCP.AIS import AIS_InteractiveContext, AIS_SelectionScheme, AIS_Shape
from OCP.Aspect import (
    Aspect_DisplayConnection,
    Aspect_GradientFillMethod,
    Aspect_NeutralWindow,
    Aspect_TypeOfLine,
)
from OCP.gp import gp_Dir, gp_Pln, gp_Pnt
from OCP.Graphic3d import (
    Graphic3d_ClipPlane,
    Graphic3d_MaterialAspect,
    Graphic3d_NameOfMaterial,
    Graphic3d_ZLayerId_Default,
    Graphic3d_ZLayerId_Topmost,
)
from OCP.OpenGl import OpenGl_FrameBuffer, OpenGl_GraphicDriver
from OCP.Prs3d import Prs3d_Drawer, Prs3d_LineAspect, Prs3d_TypeOfHighlight
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopoDS import TopoDS
from OCP.V3d import V3d_Viewer
from OCP.Xw import Xw_Window

from lathed_solid.kernel.figures import DatumMark, Mark, Picked, SketchMark
from lathed_solid.kernel.surfaces import read_surface
from lathed_solid.kernel.topology import Key, box, edges, faces, from_bytes, rough_box, together
from lathed_solid.kernel.vectors import Triple
from lathed_solid.viewer.bodies import EDGE_MODE, ShownBodies
from lathed_solid.viewer.colours import Colours, colour_of
from lathed_solid.viewer.framing import VIEWS, outgrown, under
from lathed_solid.viewer.gl_context import current_context
from lathed_solid.viewer.looks import Look, PartShape
from lathed_solid.viewer.members import ShownMembers
from lathed_solid.viewer.picking import picked_edge, picked_face
from lathed_solid.viewer.symbols import datum_edges, polyline, symbol

#: mm
BEFORE_CAP = 0.01
#: so many things that lie beneath one another are looked at
BENEATH = 6


class Scene:
    """One view of one solid."""

    def __init__(self, width: int, height: int, colours: Colours) -> None:
        """Needs a current GLX context. Raises ViewError without one."""
        context = current_context()
        self._connection = Aspect_DisplayConnection()
        self._driver = OpenGl_GraphicDriver(self._connection, False)
        options = self._driver.ChangeOptions()
        options.buffersNoSwap = True
        options.buffersOpaqueAlpha = True
        options.useSystemBuffer = False
        options.sRGBDisable = True
        self._viewer = V3d_Viewer(self._driver)
        self._viewer.SetDefaultLights()
        self._viewer.SetLightOn()
        self._context = AIS_InteractiveContext(self._viewer)
        self.view = self._viewer.CreateView()
        self.view.SetImmediateUpdate(False)
        self._hidden = Xw_Window(self._connection, "lathed-solid", 0, 0, 8, 8)
        self._hidden.SetVirtual(True)
        self._window = Aspect_NeutralWindow()
        self._window.SetSize(max(width, 1), max(height, 1))
        self._window.SetNativeHandle(self._hidden.XWindow())
        self.view.SetWindow(self._window, context)
        self._bodies = ShownBodies(self._context, colours)
        #: what is shown instead of a part's solid at the Fit desk
        self.members = ShownMembers(self._context, colours)
        self._lit: Any = None
        self._marks: Any = None
        self._frames: Any = None
        self._sketches: Any = None
        self._datums: dict[Key, DatumMark] = {}
        self._shape: Any = None
        self._names: dict[Key, str] = {}
        self._by_name: dict[str, list[Any]] = {}
        self._edges: dict[Key, str] = {}
        self._plane: Any = None
        #: the box of the solid that was fitted, mm
        self._fitted: tuple[Triple, Triple] | None = None
        self.set_colours(colours)
        self.look("iso left")

    # appearance --------------------------------------------------------------------------------
    def set_colours(self, colours: Colours) -> None:
        """Take another palette."""
        self._colours = colours
        fill = Aspect_GradientFillMethod.Aspect_GradientFillMethod_Vertical
        self.view.SetBgGradientColors(colour_of(colours.top), colour_of(colours.bottom), fill)
        for kind, colour in (
            (Prs3d_TypeOfHighlight.Prs3d_TypeOfHighlight_Dynamic, colours.hover),
            (Prs3d_TypeOfHighlight.Prs3d_TypeOfHighlight_LocalDynamic, colours.hover),
            (Prs3d_TypeOfHighlight.Prs3d_TypeOfHighlight_Selected, colours.lit),
            (Prs3d_TypeOfHighlight.Prs3d_TypeOfHighlight_LocalSelected, colours.lit),
        ):
            style: Prs3d_Drawer = self._context.HighlightStyle(kind)
            style.SetColor(colour_of(colour))
            style.SetDisplayMode(1)
            self._context.SetHighlightStyle(kind, style)
        self._bodies.paint(colours)
        self.members.paint(colours)

    # content -----------------------------------------------------------------------------------
    def show(
        self, data: bytes, labels: list[str], edge_labels: list[str], marks: Sequence[Mark],
        datums: Sequence[DatumMark] = (), owners: Sequence[int] = (),
    ) -> None:  # fmt: skip
        """Show the worker's solid; ``labels`` are its face names in face order, ``edge_labels`` those of its edges.

        ``owners``: of each solid the number of its body. ``marks`` are threads drawn as a drawing has them: thin lines
        at the root, open circles at the ends.
        """
        self.clear()
        self._shape = from_bytes(data)
        for edge, label in zip(edges(self._shape), edge_labels, strict=False):
            if label:
                self._edges[Key(edge)] = label
                self._by_name.setdefault(label, []).append(edge)
        for face, label in zip(faces(self._shape), labels, strict=False):
            self._names[Key(face)] = label
            for atom in label.split("+"):
                self._by_name.setdefault(atom, []).append(face)
        now = rough_box(self._shape)
        self._bodies.show(self._shape, owners, max(h - k for k, h in zip(*now, strict=True)))
        self._marks = self._beside([e for m in marks for e in symbol(m)], 1.0, None)
        self._show_datums(datums)
        if outgrown(now, self._fitted):
            self.fit()
            self._fitted = now

    def _show_datums(self, datums: Sequence[DatumMark]) -> None:
        """Frames and lines of the datums, dash-dotted; they are picked by their lines."""
        drawn = [(d, e) for d in datums for e in datum_edges(d)]
        for d, edge in drawn:
            self._datums[Key(edge)] = d
            self._by_name.setdefault(d.name, []).append(edge)
        self._frames = self._beside([e for _, e in drawn], 1.2, Aspect_TypeOfLine.Aspect_TOL_DOTDASH, EDGE_MODE)

    def _beside(self, lines: list[Any], width: float, dashes: Any, picked: int = -1) -> Any:
        """Lines shown beside the solid, ``picked`` by that mode (-1: not at all); None for none."""
        if not lines:
            return None
        shown = AIS_Shape(together(lines))
        shown.SetColor(colour_of(self._colours.edge))
        shown.SetWidth(width)
        if dashes is not None:
            shown.Attributes().SetWireAspect(Prs3d_LineAspect(colour_of(self._colours.lit), dashes, width))
        self._context.Display(shown, 0, picked, False)
        return shown

    def show_sketches(self, marks: Sequence[SketchMark]) -> None:
        """Sketches over the solid, seen through it; none takes them away."""
        if self._sketches is not None:
            self._context.Remove(self._sketches, False)
        self._sketches = self._beside([e for m in marks for line in m.lines for e in polyline(line)], 1.6, None)
        if self._sketches is not None:
            self._sketches.SetColor(colour_of(self._colours.lit))
            self._sketches.SetZLayer(Graphic3d_ZLayerId_Topmost)

    def clear(self) -> None:
        """Take the solid away, or the fit."""
        self.light(())
        self._bodies.clear()
        self.members.clear()
        for thing in (self._marks, self._frames):
            if thing is not None:
                self._context.Remove(thing, False)
        self._shape = self._marks = self._frames = None
        self._datums = {}
        self._names, self._by_name, self._edges = {}, {}, {}

    def light(self, names: tuple[str, ...]) -> None:
        """Light up the faces of these names, and no others."""
        if self._lit is not None:
            self._context.Remove(self._lit, False)
            self._lit = None
        lit = [f for n in names if not n.endswith("/*") for f in self._by_name.get(n, ())]
        made = tuple(n[:-1] for n in names if n.endswith("/*"))  # all faces of a step
        if made:
            lit += [TopoDS.Face(k.shape) for k, label in self._names.items() if label.startswith(made)]
        if not lit:
            return
        self._lit = AIS_Shape(together(lit))
        self._lit.SetMaterial(Graphic3d_MaterialAspect(Graphic3d_NameOfMaterial.Graphic3d_NameOfMaterial_Satin))
        self._lit.SetColor(colour_of(self._colours.lit))
        self._lit.SetPolygonOffsets(1, -1.0, -1.0)
        self._lit.SetWidth(4.0)  # edges
        self._lit.Attributes().SetFaceBoundaryDraw(True)
        self._lit.Attributes().SetFaceBoundaryAspect(
            Prs3d_LineAspect(colour_of(self._colours.edge), Aspect_TypeOfLine.Aspect_TOL_SOLID, 1.6)
        )
        self._lit.SetZLayer(Graphic3d_ZLayerId_Default)
        self._context.Display(self._lit, 1, -1, False)

    # a fit -------------------------------------------------------------------------------------
    def show_members(self, parts: Mapping[str, PartShape], looks: Sequence[Look]) -> None:
        """Show the members of a fit, and no part's solid."""
        if self._bodies:
            self.clear()
        first = not self.members
        self.members.show(parts, looks)
        now = self.members.box()
        if now is not None and (first or outgrown(now, self._fitted)):
            self.fit()
            self._fitted = now

    def under(self, x: int, y: int, level: Triple) -> Triple:
        """The place under a pixel in the plane through ``level`` that faces the viewer, mm."""
        return under(self.view, x, y, level)

    def set_see_through(self, on: bool) -> None:
        """Glass, or metal."""
        self._bodies.set_glass(on)
        self.members.set_glass(on)

    def hide_bodies(self, numbers: frozenset[int]) -> None:
        """Show all bodies but these."""
        self._bodies.hide(numbers)

    def set_section(self, offset: float | None, axis: str = "y") -> None:
        """Cut the view by a plane square to ``axis`` at ``offset`` mm, with a cap; None takes it away."""
        if self._plane is not None:
            self.view.RemoveClipPlane(self._plane)
            self._plane = None
        if offset is None:
            self._bodies.cut(None)
            self.members.cut(None)
            return
        normal = {"x": (-1, 0, 0), "y": (0, 1, 0), "z": (0, 0, -1)}[axis]
        point = {"x": (offset, 0, 0), "y": (0, offset, 0), "z": (0, 0, offset)}[axis]
        for shown in (self._bodies, self.members):
            shown.cut(gp_Pln(gp_Pnt(*point), gp_Dir(*normal)))
        # what stands beside the bodies is cut a hair before their caps
        past = [p - BEFORE_CAP * n for p, n in zip(point, normal, strict=True)]
        self._plane = Graphic3d_ClipPlane(gp_Pln(gp_Pnt(*past), gp_Dir(*normal)))
        self._plane.SetCapping(False)
        self._plane.SetOn(True)
        self.view.AddClipPlane(self._plane)

    def box(self) -> tuple[tuple[float, float, float], tuple[float, float, float]] | None:
        """Least and greatest corner of the solid in mm, or None."""
        return self.members.box() if self._shape is None else box(self._shape)

    # camera ------------------------------------------------------------------------------------
    def look(self, view: str | Triple) -> None:
        """Turn to a named view, or so that the eye is there, upright, and fit."""
        towards, up = VIEWS[view] if isinstance(view, str) else (view, (0.0, 0.0, 1.0))
        self.view.SetProj(*towards)
        self.view.SetUp(*up)
        self.fit()

    def eye(self) -> Triple:
        """From the solid towards the eye."""
        x, y, z = self.view.Proj()
        return x, y, z

    def fit(self) -> None:
        """Fit the solid with a margin."""
        if self._bodies or self.members:
            self.view.FitAll(0.12, False)

    def start_orbit(self, x: int, y: int) -> None:
        """Begin to turn about the middle, at a pixel."""
        self.view.StartRotation(x, y, 0.4)

    def orbit(self, x: int, y: int) -> None:
        """Turn on to a pixel."""
        self.view.Rotation(x, y)

    def turn(self, dx: float, dy: float) -> None:
        """Turn by angles in radians (keyboard)."""
        self.view.Rotate(dx, dy, 0.0, True)

    def pan(self, dx: int, dy: int) -> None:
        """Move by pixels."""
        self.view.Pan(dx, -dy)

    def zoom_at(self, x: int, y: int, steps: float) -> None:
        """Zoom about the pointer; one step is about a tenth."""
        reach = int(steps * 24)
        self.view.StartZoomAtPoint(x, y)
        self.view.ZoomAtPoint(0, 0, reach, 0)

    def project(self, point: tuple[float, float, float]) -> tuple[int, int]:
        """Device pixels of a point in mm."""
        x, y = self.view.Convert(*(float(c) for c in point))
        return int(x), int(y)

    def anchor(self, name: str) -> tuple[float, float, float] | None:
        """Where to hang a flag: the middle of a flat face, the top of a round one; None when it is gone."""
        found = self._by_name.get(name)
        if not found:
            return self.members.anchor(name)
        low, high = box(found[0])
        flat = read_surface(found[0]).kind == "plane"
        return ((low[0] + high[0]) / 2, (low[1] + high[1]) / 2, (low[2] + high[2]) / 2 if flat else high[2])

    # picking -----------------------------------------------------------------------------------
    def detect(self, x: int, y: int) -> Picked | None:
        """What is under the pointer, lit as hovered."""
        self._point(x, y)
        return self._detected()

    def _point(self, x: int, y: int) -> None:
        """What lies nearest under the pointer; an edge goes before its face, which at a flat angle is nearer."""
        self._bodies.pickable()
        self._context.MoveTo(x, y, self.view, False)
        if not self._context.HasDetectedShape():
            return
        first = self._context.DetectedOwner().Shape()
        if first.ShapeType() != TopAbs_ShapeEnum.TopAbs_FACE:
            return
        own = {Key(e) for e in edges(first)}
        for _ in range(BENEATH):
            if not self._context.HilightNextDetected(self.view, False) or not self._context.HasDetectedShape():
                break
            if Key(self._context.DetectedOwner().Shape()) in own:
                return
        self._context.MoveTo(x, y, self.view, False)

    def leave(self) -> None:
        """Nothing is pointed at."""
        self._context.ClearDetected(False)

    def select(self, x: int, y: int) -> Picked | None:
        """Pick what is under the pointer; nothing there clears the pick."""
        self._point(x, y)
        self._context.SelectDetected(AIS_SelectionScheme.AIS_SelectionScheme_Replace)
        return self._detected()

    def unselect(self) -> None:
        """Nothing is picked."""
        self._context.ClearSelected(False)

    def _detected(self) -> Picked | None:
        if not self._context.HasDetectedShape():
            return None
        shape = self._context.DetectedShape()
        selector = self._context.MainSelector()
        p = selector.PickedPoint(1) if selector.NbPicked() else gp_Pnt(0, 0, 0)
        point = (p.X(), p.Y(), p.Z())
        if self.members:
            return self.members.detected(point)
        if shape.ShapeType() == TopAbs_ShapeEnum.TopAbs_FACE:
            label = self._names.get(Key(shape), "")
            face = TopoDS.Face(shape)
            return picked_face(face, label, point, self._edges, self._by_name)
        if shape.ShapeType() == TopAbs_ShapeEnum.TopAbs_EDGE:
            datum = self._datums.get(Key(shape))
            if datum is not None:
                return Picked("datum", (datum.name,), point, f"datum {datum.kind}", surface=datum.kind)
            return picked_edge(self._edges.get(Key(shape), ""), point, self._by_name)
        return None

    # drawing -----------------------------------------------------------------------------------
    def paint(self) -> None:
        """Draw into the framebuffer that is bound now; follows its size."""
        gl = self._driver.GetSharedContext()
        buffer = gl.DefaultFrameBuffer()
        if buffer is None:
            buffer = OpenGl_FrameBuffer()
            gl.SetDefaultFrameBuffer(buffer)
        buffer.InitWrapper(gl)
        size = (buffer.GetVPSizeX(), buffer.GetVPSizeY())
        if self._window.Size() != size:
            self._window.SetSize(*size)
            self.view.MustBeResized()
            self.view.Invalidate()
        self.view.InvalidateImmediate()
        self.view.Redraw()

    def close(self) -> None:
        """Free everything, users before what they use; the context must be current.

        The hidden window and its connection go with the scene itself, which must be dropped only after the
        owner has released the context: the driver had made the hidden window its drawable.
        """
        self.set_section(None)
        self._context.ClearSelected(False)
        self._context.RemoveAll(False)
        self._bodies.clear()
        self.members.clear()
        self._lit = self._shape = self._marks = self._frames = self._sketches = None
        self._names, self._by_name = {}, {}
        self.view.Remove()
        for name in ("_context", "view", "_viewer", "_window", "_driver"):
            setattr(self, name, None)
