"""The window as the commands see it (``workbench.prompts.View``)."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

from PyQt6.QtCore import QBuffer, QIODevice, Qt
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import QApplication, QMainWindow, QPushButton

from lathed_solid.desk import theme
from lathed_solid.desk.panes import Panes
from lathed_solid.desk.read.floating_sheet import FloatingSheet
from lathed_solid.guide.pages import page_for
from lathed_solid.kernel.vectors import Triple
from lathed_solid.workbench.bench import Workbench
from lathed_solid.workbench.prompts import Panel, Place, Switch

THUMBNAIL_WIDTH = 320


def _png(image: QImage) -> bytes:
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")
    return bytes(buffer.data().data())


class WindowView:
    """Turns, switches and opens what stands in one window."""

    def __init__(self, window: QMainWindow, bench: Workbench, panes: Panes) -> None:
        self.window, self.bench, self.panes = window, bench, panes
        self.floating: FloatingSheet = FloatingSheet(panes.read_page.sheets, window)
        self.floating.chosen.connect(bench.choose_balloon)
        panes.note_line.considered.connect(self.floating.look_for)
        #: what stands open beside the window, by its name
        self.beside: dict[Panel, Any] = {}
        #: what the guide leads to; the window says how
        self.begin_exercise: Callable[[str], object] = lambda _name: None
        self.write_guide: Callable[[Callable[[str], bytes]], object] = lambda _written: None

    def fit(self) -> None:
        """Fit the solid into its pane."""
        self.panes.solid.fit()

    def look(self, name: str) -> None:
        """Turn to a view of the net."""
        self.panes.view_net.set_current(name)
        self.panes.solid.look(name)

    def look_from(self, eye: Triple) -> None:
        """Turn so that the eye is there."""
        self.panes.view_net.set_current("")
        self.panes.solid.look(eye)

    def drawn_from(self) -> Triple | None:
        """From where the view of the sheet at hand is drawn."""
        found = self.panes.read_page.sheets.commands.found
        if found is None or found.axes is None:
            return None
        from lathed_solid.sheets.pictorial import axes_along

        axes = axes_along(found.axes)
        return None if axes is None else axes.eye

    def _button(self, switch: Switch) -> QPushButton | None:
        bar = self.panes.view_bar
        buttons = {"see through": bar.see_through, "cut open": bar.section, "balloons": bar.balloons}
        return buttons.get(switch)

    def toggle(self, switch: Switch) -> None:
        """Turn a switch over."""
        button = self._button(switch)
        if button is not None:
            button.toggle()
        elif switch == "sheet beside":
            self.floating.setVisible(not self.floating.isVisible())
        else:
            self.panes.drawer.toggle()

    def is_on(self, switch: Switch) -> bool:
        """Whether a switch is on."""
        button = self._button(switch)
        if button is None and switch == "sheet beside":
            return self.floating.isVisible()
        return button.isChecked() if button is not None else self.panes.drawer.is_open

    def focus(self, place: Place) -> None:
        """Give it the keyboard."""
        if place == "note line":
            self.panes.note_line.take_focus()
        elif place in ("log", "sheets"):
            self.panes.read_page.turn_to(place)
        elif place == "solid":
            self.panes.solid.setFocus()
        else:
            self.panes.shape_page.take_focus()

    def show_panel(self, panel: Panel) -> None:
        """Open what stands beside the window; the window stays in use beside it, but for the help."""
        session, line = self.bench.session, self.panes.note_line
        if panel == "new steps":
            self.panes.route.add.click()
        elif panel == "new members":
            self.panes.members.add.click()
        elif panel in ("guide", "keys", "exercises"):
            self._show_guide(page_for(self.place()).name if panel == "guide" else panel)
        elif panel in ("compare", "compare the file"):
            from lathed_solid.desk.compare import CompareDialog

            compare = self.beside[panel] = CompareDialog(self.window, session)
            compare.faces_hovered.connect(self.panes.solid.light)
            compare.show()
            if panel == "compare the file" and session.path is not None:
                compare.against_file(session.path)
        else:
            from lathed_solid.desk.look_up import LookUpDialog

            look_up = self.beside[panel] = LookUpDialog(self.window, session.document.unit, line.field.text())
            look_up.taken.connect(line.begin)
            look_up.show()

    def place(self) -> str:
        """The desk, and the pane of it, that is in view; as the guide's pages name it."""
        desk, panes = self.bench.desk, self.panes
        if desk == "read":
            return f"read: {panes.read_page.source}"
        if desk == "prove":
            return f"prove: {panes.prove_page.tab}"
        return f"shape: {panes.shape_page.kind}" if desk == "shape" else desk

    def _show_guide(self, name: str) -> None:
        """The guide beside the window, on this page."""
        from lathed_solid.desk.guide_window import GuideWindow
        from lathed_solid.desk.language import edition
        from lathed_solid.guide.written import written

        guide = self.beside.get("guide")
        if guide is None:
            guide = self.beside["guide"] = GuideWindow(self.window, name)
            guide.exercise_wanted.connect(lambda task: self.begin_exercise(task))
            guide.write_wanted.connect(lambda: self.write_guide(partial(written, edition=edition())))
        guide.turn_to(name)
        guide.show()
        guide.raise_()
        guide.activateWindow()

    def thumbnail(self) -> bytes | None:
        """A small PNG of the solid; None while there is none."""
        if self.panes.solid.scene is None:
            return None
        smooth = Qt.TransformationMode.SmoothTransformation
        return _png(self.panes.solid.grabFramebuffer().scaledToWidth(THUMBNAIL_WIDTH, smooth))

    def picture(self) -> bytes | None:
        """The view as a PNG, with what hangs over it; None while there is none."""
        if self.panes.solid.scene is None:
            return None
        over = (self.panes.view_net, self.panes.view_bar)
        shown = [w for w in over if w.isVisible()]
        for w in shown:
            w.hide()
        image = self.panes.solid.grab().toImage()
        for w in shown:
            w.show()
        return _png(image)

    def section(self) -> tuple[float, str] | None:
        """Where the solid is cut open: place and axis."""
        return self.panes.solid.section

    def eye(self) -> Triple | None:
        """Where the eye is: from the solid towards it; None while there is no view."""
        scene = self.panes.solid.scene
        return None if scene is None else scene.eye()

    def measures_by_hand(self) -> bool:
        """Whether the sizes of what is picked are in view."""
        return self.panes.prove_page.by_hand

    def restyle(self, *, dark: bool, projection: str) -> None:
        """Show other settings."""
        self.panes.view_net.set_projection(projection)
        app = QApplication.instance()
        if isinstance(app, QApplication) and theme.is_dark() != dark:
            theme.apply(app, dark=dark)
            self.panes.solid.refresh_colours()

    def close(self) -> object:
        """End."""
        return self.window.close()
