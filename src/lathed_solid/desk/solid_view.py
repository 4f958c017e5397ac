"""The 3D pane: the kernel's viewer in a QOpenGLWidget, with flags painted over it by an ordinary widget.

The window is at work before the kernel is imported: the pane says so until its scene stands (kernel.arrival).
Left drag turns, middle or right drag moves, the wheel zooms at the pointer, a click picks. Without a GL
context the pane says so and everything else goes on.
"""

from __future__ import annotations

import logging
from collections.abc import Callable, Mapping, Sequence
from typing import Any

from PyQt6.QtCore import QCoreApplication, QPointF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QWheelEvent
from PyQt6.QtOpenGLWidgets import QOpenGLWidget
from PyQt6.QtWidgets import QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.background import Background
from lathed_solid.desk.flags import Flags
from lathed_solid.desk.gl_format import SAMPLES, gl_format
from lathed_solid.desk.language import spoken
from lathed_solid.desk.stirring import Watch
from lathed_solid.errors import LathedError
from lathed_solid.kernel.figures import DatumMark, Mark, SketchMark
from lathed_solid.quantity.tolerances import LINEAR
from lathed_solid.viewer.deferred_import import arrived, fetch
from lathed_solid.viewer.looks import Look, PartShape
from lathed_solid.workbench.flags import Flag, Measure

log = logging.getLogger(__name__)

CLICK_REACH = 4
#: the window paints itself before the kernel's import begins to share its thread's time
FIRST_PAINTS_MS, TURN_MS = 50, 10


#: a solid as bytes, the names of its faces and edges, drawn threads, datums, the owners of its solids
Content = tuple[bytes, list[str], list[str], Sequence[Mark], Sequence[DatumMark], Sequence[int]]


class SolidView(QOpenGLWidget):
    """Shows one solid; knows names of faces, not steps or callouts."""

    picked = pyqtSignal(object, bool)  # Picked or None; besides what is picked
    #: a double click on a face: what made it
    opened = pyqtSignal(object)
    hovered = pyqtSignal(object)  # Picked or None
    failed = pyqtSignal(str)
    resized = pyqtSignal()
    settled = pyqtSignal()  # the scene stands, or there will be none

    def __init__(self, background: Background, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._background = background
        self.setFormat(gl_format(samples=SAMPLES))
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(250, 160)
        self.setAccessibleName(spoken("Solid"))
        self.scene: Any = None
        self.frames = 0
        self._asked = self._given_up = self._closed = False
        self._watch: Watch | None = None
        self._fetching: int | None = None
        #: the part's solid that is shown
        self.content: Content | None = None
        #: the members of a fit, while they are shown instead of the solid
        self._members: tuple[Mapping[str, PartShape], Sequence[Look]] | None = None
        self._lit: tuple[str, ...] = ()
        self._press: tuple[QPointF, Qt.MouseButton] | None = None
        self._moved = False
        self._see_through = False
        self._view: str | tuple[float, float, float] = "iso left"
        self._section: tuple[float, str] | None = None
        self._overlay = Flags(self, self)

    # life of the context -----------------------------------------------------------------------
    def initializeGL(self) -> None:
        if arrived():
            self._build_scene("")
        elif not self._asked:
            self._asked = True
            QTimer.singleShot(FIRST_PAINTS_MS, self._fetch_kernel)

    def _fetch_kernel(self) -> None:
        if self._closed:
            return
        self._watch = Watch(self)
        stirred = self._watch.stirred
        self._fetching = self._background.run(lambda: fetch(stirred), lambda _none: self._came(""), self._came)

    def _came(self, why: str) -> None:
        """The kernel is imported, or why not."""
        self._watch_no_more()
        if self.context() is None or self.scene is not None:
            return  # the pane is gone, or a later context had its scene made already
        self.makeCurrent()
        try:
            self._build_scene(why)
        finally:
            self.doneCurrent()
        # its first frame makes the shaders: a turn of its own
        QTimer.singleShot(TURN_MS, self.update)
        QTimer.singleShot(TURN_MS, self._overlay.update)

    def pixel_of(self, point: tuple[float, float, float]) -> tuple[int, int]:
        """Where a point in mm is in the pane. Raises LookupError before there is a scene."""
        if self.scene is None:
            raise LookupError("there is no solid shown yet")
        ratio = self.devicePixelRatioF()
        x, y = self.scene.project(point)
        return round(x / ratio), round(y / ratio)

    def _watch_no_more(self) -> None:
        app = QCoreApplication.instance()
        if self._watch is not None and app is not None:
            app.removeEventFilter(self._watch)
        self._watch = None

    def _build_scene(self, why: str) -> None:
        """Make the scene in the current context, or say why there is none."""
        try:
            self.scene = None if why else self._new_scene()
        except LathedError as exc:
            why = exc.message
        except Exception as exc:  # noqa: BLE001 - the kernel raises bare Exceptions of its own
            why = f"the 3D view cannot start: {exc}"
        if why:
            self._give_up(why)
        self.settled.emit()

    def _new_scene(self) -> Any:
        from lathed_solid.viewer.scene import Scene

        ratio = self.devicePixelRatioF()
        scene = Scene(int(self.width() * ratio), int(self.height() * ratio), self._colours())
        context = self.context()
        assert context is not None
        context.aboutToBeDestroyed.connect(self._clean_up)
        if self._members is not None:
            scene.show_members(*self._members)
        elif self.content is not None:
            scene.show(*self.content)
        scene.look(self._view)
        scene.light(self._lit)
        scene.set_see_through(self._see_through)
        if self._section:
            scene.set_section(*self._section)
        return scene

    def _give_up(self, message: str) -> None:
        log.error("no 3D view: %s", message)
        self.scene, self._given_up = None, True
        self.failed.emit(message)

    def shut_down(self) -> None:
        """Free the scene while its context is alive; later collection would come too late for the driver.

        An import that is under way is told to rest no more, and tells nothing: this pane is gone then.
        """
        self._closed = True
        if self._watch is not None:
            self._watch.stirred.hurry = True
        if self._fetching is not None:
            self._background.drop(self._fetching)
            self._fetching = None
        self._watch_no_more()
        context = self.context()
        if context is not None and self.scene is not None:
            context.aboutToBeDestroyed.disconnect(self._clean_up)
        self._clean_up()

    def _clean_up(self) -> None:
        if self.scene is not None:
            self.makeCurrent()
            scene, self.scene = self.scene, None
            scene.close()
            self.doneCurrent()
            del scene

    def _colours(self) -> Any:
        from lathed_solid.viewer.colours import Colours

        r = theme.roles()
        return Colours(top=r.view_top, bottom=r.view_bottom, body=r.body, edge="#1B2328")

    def paintGL(self) -> None:
        if self.scene is not None:
            self.scene.paint()
            self.frames += 1

    def resizeEvent(self, event: Any) -> None:
        super().resizeEvent(event)
        self._overlay.resize(self.size())
        self.resized.emit()

    def _act(self, method: str | Callable[[Any], Any], *args: Any) -> Any:
        """Call the scene with its context current, then repaint; None without a scene."""
        if self.scene is None:
            return None
        self.makeCurrent()
        try:
            result = getattr(self.scene, method)(*args) if isinstance(method, str) else method(self.scene)
        finally:
            self.doneCurrent()
        self.update()
        self._overlay.update()
        return result

    # content -----------------------------------------------------------------------------------
    def show_solid(
        self, data: bytes, labels: list[str], edge_labels: list[str], marks: Sequence[Mark],
        datums: Sequence[DatumMark] = (), owners: Sequence[int] = (),
    ) -> None:  # fmt: skip
        """Show the worker's solid with its drawn threads and the route's datums; empty bytes clear the pane."""
        content = (data, labels, edge_labels, marks, datums, owners)
        if content == self.content:
            return
        self.content = content if data else None
        if self._members is None:
            self._act("show", *content) if data else self._act("clear")
            self._act("light", self._lit)

    def show_members(self, parts: Mapping[str, PartShape], looks: Sequence[Look]) -> None:
        """Show the members of a fit instead of the solid."""
        self._members = (parts, looks)
        self._act("show_members", parts, looks)

    def show_solid_again(self) -> None:
        """The part's own solid, no fit."""
        if self._members is not None:
            self._members = None
            self._act("clear")
            if self.content is not None:
                self._act("show", *self.content)
                self._act("fit")
            self._act("light", self._lit)

    def on_members(self, method: str, *args: Any) -> Any:
        """Have the shown members do something; None without a scene."""
        return self._act(lambda scene: getattr(scene.members, method)(*args))

    def under(self, p: QPointF, level: tuple[float, float, float]) -> Any:
        """The place (mm) under the pointer in the plane through ``level`` that faces the viewer; None for no scene."""
        return self._act("under", *self._device(p), level)

    def at_pointer(self, p: QPointF) -> Any:
        """What lies under the pointer (Picked), or None."""
        return self._act("detect", *self._device(p))

    def pick_at(self, p: QPointF, keys: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
        """Pick what lies under the pointer; with Shift, besides what is picked."""
        self.picked.emit(self._act("select", *self._device(p)), bool(keys & Qt.KeyboardModifier.ShiftModifier))

    def show_sketches(self, marks: Sequence[SketchMark]) -> None:
        """Sketches over the solid; none takes them away."""
        self._act("show_sketches", tuple(marks))

    def hide_bodies(self, numbers: frozenset[int]) -> None:
        """Show all bodies but these."""
        self._act("hide_bodies", numbers)

    def light(self, names: tuple[str, ...]) -> None:
        """Light up these faces."""
        if names != self._lit:
            self._lit = names
            self._act("light", names)

    def set_flags(self, flags: list[Flag]) -> None:
        """Labels on faces, over the solid."""
        self._overlay.flags = flags
        self._overlay.update()

    @property
    def waiting(self) -> bool:
        """Whether the scene is still to come."""
        return self.scene is None and not self._given_up

    def refresh_colours(self) -> None:
        """Take the palette in force."""
        self._act("set_colours", self._colours())

    # views -------------------------------------------------------------------------------------
    def look(self, view: str | tuple[float, float, float]) -> None:
        """Turn to a view of the net, or so that the eye is there."""
        self._view = view
        self._act("look", view)

    def fit(self) -> None:
        """Fit the solid into the pane."""
        self._act("fit")

    def set_see_through(self, on: bool) -> None:
        """Show the solid as glass, or as metal."""
        self._see_through = on
        self._act("set_see_through", on)

    @property
    def section(self) -> tuple[float, str] | None:
        """Where the solid is cut open: the coordinate and its axis; None for nowhere."""
        return self._section

    def set_measures(self, measures: list[Measure]) -> None:
        """Dimensions drawn in space; none for an empty list."""
        self._overlay.measures = measures
        self._overlay.update()

    def cut_away(self, point: tuple[float, float, float]) -> bool:
        """Whether the cut takes a place out of view: what lies in front of y, above z, or right of x."""
        if self._section is None:
            return False
        offset, axis = self._section
        value = point["xyz".index(axis)]
        return value < offset - LINEAR if axis == "y" else value > offset + LINEAR

    def set_section(self, offset: float | None, axis: str = "y") -> None:
        """Cut at ``offset`` mm along ``axis``; None shows the whole solid."""
        self._section = None if offset is None else (offset, axis)
        self.set_measures([])
        self._act("set_section", offset, axis)

    def extent(self, axis: str) -> tuple[float, float]:
        """Reach of the solid along an axis in mm; (-1, 1) when there is none."""
        bounds = self.scene.box() if self.scene is not None else None
        if bounds is None:
            return -1.0, 1.0
        i = "xyz".index(axis)
        return bounds[0][i], bounds[1][i]

    def clear_pick(self) -> None:
        """Nothing is picked any more."""
        self._act("unselect")
        self.picked.emit(None, False)

    # pointer and keys --------------------------------------------------------------------------
    def _device(self, p: QPointF) -> tuple[int, int]:
        ratio = self.devicePixelRatioF()
        return int(p.x() * ratio), int(p.y() * ratio)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self._press, self._moved = (event.position(), event.button()), False
        if event.button() == Qt.MouseButton.LeftButton:
            self._act("start_orbit", *self._device(event.position()))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._press is None:
            self.hovered.emit(self._act("detect", *self._device(event.position())))
            return
        start, button = self._press
        if not self._moved and (event.position() - start).manhattanLength() < CLICK_REACH:
            return
        self._moved = True
        if button == Qt.MouseButton.LeftButton:
            self._act("orbit", *self._device(event.position()))
        else:
            x0, y0 = self._device(start)
            x1, y1 = self._device(event.position())
            self._act("pan", x1 - x0, y1 - y0)
            self._press = (event.position(), button)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._press and not self._moved and event.button() == Qt.MouseButton.LeftButton:
            self.pick_at(event.position(), event.modifiers())
        self._press = None

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if event.button() == Qt.MouseButton.LeftButton:
            self.opened.emit(self._act("detect", *self._device(event.position())))

    def leaveEvent(self, event: Any) -> None:
        self._act("leave")
        self.hovered.emit(None)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        self._act("zoom_at", *self._device(event.position()), event.angleDelta().y() / 120)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        turns = {
            Qt.Key.Key_Left: (-0.1, 0.0),
            Qt.Key.Key_Right: (0.1, 0.0),
            Qt.Key.Key_Up: (0.0, -0.1),
            Qt.Key.Key_Down: (0.0, 0.1),
        }
        if event.key() in turns:
            self._act("turn", *turns[Qt.Key(event.key())])
        elif event.key() in (Qt.Key.Key_Plus, Qt.Key.Key_Minus):
            centre = self._device(QPointF(self.width() / 2, self.height() / 2))
            self._act("zoom_at", *centre, 1 if event.key() == Qt.Key.Key_Plus else -1)
        elif event.key() == Qt.Key.Key_Escape:
            self.clear_pick()
        else:
            super().keyPressEvent(event)
