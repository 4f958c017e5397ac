"""The sketch's editor: words to draw with, the drawing, a strip for what is in hand, what there is to say."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from typing import Any

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QIcon, QKeyEvent
from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QInputDialog,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QMenu,
    QPushButton,
    QVBoxLayout,
)

from lathed_solid.desk import theme
from lathed_solid.desk.sketch import arrange, underlay
from lathed_solid.desk.sketch.canvas import Canvas
from lathed_solid.desk.sketch.paint import thumbnail
from lathed_solid.desk.sketch.sketch_commands import SketchWork
from lathed_solid.desk.sketch.strip import Strip
from lathed_solid.errors import LathedError
from lathed_solid.part import DatumPlane, Document, FacePlane, SketchStep, scope
from lathed_solid.part.edits import changed
from lathed_solid.sketch import edits
from lathed_solid.sketch.model import Constraint
from lathed_solid.sketch.outside import Edge
from lathed_solid.workbench.sketch import findings
from lathed_solid.workbench.sketch.tools import BY_ID, TOOLS
from lathed_solid.workbench.sketch.view_model import SketchState

PLANES = ("XY", "XZ", "YZ")


class SketchEditor(SketchWork):
    """Emits (label, new step) for every edit; (kind, values) for a step to be built on picked regions."""

    def __init__(self) -> None:
        super().__init__()
        self.state = SketchState()
        self.picked = ""
        self.underlay_name = ""
        self._shown: int | None = None
        self._outlines: Mapping[int, tuple[Edge, ...]] = {}
        self._pending: Constraint | None = None
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        self.tool_buttons: dict[str, QPushButton] = {}
        outer.addLayout(self._caption())
        outer.addLayout(
            self._words([(t.id, t.title, t.key, self._tool(t.id)) for t in TOOLS if t.id not in arrange.TOOL_IDS])
        )
        outer.addLayout(self._words(self._work()))
        self.more = QMenu(self)
        arrange.fill(self.more, self)
        self.canvas = Canvas(self.state)
        outer.addWidget(self.canvas, 1)
        self.strip = Strip()
        outer.addWidget(self.strip)
        self.said = QListWidget()
        self.said.setAccessibleName("What there is to say about the sketch")
        self.said.setMouseTracking(True)
        self.said.setIconSize(QSize(56, 38))
        self.said.itemEntered.connect(self._point_at)
        self.said.currentItemChanged.connect(lambda item, _old: self._point_at(item))
        self.said.itemActivated.connect(self._apply_row)
        self.said.setTextElideMode(Qt.TextElideMode.ElideRight)
        outer.addWidget(self.said)
        self._connect()

    def _caption(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setContentsMargins(12, 8, 12, 4)
        row.setSpacing(6)
        self.title = QLabel("SKETCH")
        self.title.setObjectName("caption")
        self.title.setFont(theme.narrow(13, theme.QFont.Weight.Medium))
        self.plane = QComboBox()
        self.plane.setFont(theme.narrow(12))
        self.plane.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        self.plane.setToolTip("The plane that the sketch lies on")
        self.plane.activated.connect(self._set_plane)
        self.turn = QPushButton("turn")
        self.turn.setToolTip("Turn the sketch by 90° in its plane")
        self.turn.clicked.connect(self._turn)
        self.flip = QPushButton("flip")
        self.flip.setToolTip("Look at the plane from behind")
        self.flip.clicked.connect(self._flip)
        self.headline = QLabel("")
        self.headline.setFont(theme.font(13, theme.QFont.Weight.DemiBold))
        row.addWidget(self.title)
        for w in (self.plane, self.turn, self.flip):
            w.setFixedHeight(24)
            row.addWidget(w)
        self._add_word(row, "take", "edges", "", lambda: self.set_mode("take"))
        self.tool_buttons["take"].setToolTip("Take edges of the body beneath as construction")
        self._add_word(row, "check", "check", "K", self._check)
        self._add_word(row, "regions", "build on…", "B", lambda: self.set_mode("regions"))
        row.addStretch(1)
        row.addWidget(self.headline)
        return row

    def _words(self, entries: list[tuple[str, str, str, Callable[[], object]]]) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setContentsMargins(12, 2, 12, 2)
        row.setSpacing(3)
        for entry in entries:
            self._add_word(row, *entry)
        row.addStretch(1)
        return row

    def _add_word(self, row: QHBoxLayout, name: str, title: str, key: str, run: Callable[[], object]) -> None:
        button = QPushButton(title)
        button.setFont(theme.narrow(12))
        button.setFixedHeight(24)
        button.setToolTip(f"{title} ({key})" if key else title)
        button.setCheckable(name in BY_ID or name in ("dimension", "trim", "regions", "take"))
        button.setStyleSheet("padding: 0 6px;")
        button.clicked.connect(lambda _=False: run())
        button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.tool_buttons[name] = button
        row.addWidget(button)

    def _work(self) -> list[tuple[str, str, str, Callable[[], object]]]:
        return [
            ("dimension", "dimension", "D", lambda: self.set_mode("dimension")),
            ("trim", "trim", "W", lambda: self.set_mode("trim")),
            ("corner", "corner", "", self._corner),
            ("round", "round…", "", self._round),
            ("bevel", "bevel…", "", self._bevel),
            ("offset", "offset…", "", self._offset),
            ("mirror", "mirror", "", self._mirror),
            ("ring", "ring…", "", self._ring),
            ("close", "close gaps…", "", self._close_gaps),
            ("complete", "complete", "", self._complete),
            ("others", "other shapes", "", self._others),
            ("more", "more…", "", self._open_more),
        ]

    def _open_more(self) -> None:
        button = self.tool_buttons["more"]
        self.more.popup(button.mapToGlobal(button.rect().bottomLeft()))

    def _connect(self) -> None:
        c = self.canvas
        c.drawn.connect(self._commit)
        c.dragged.connect(self._commit)
        c.picked.connect(lambda _n: self._show_strip())
        c.region_clicked.connect(self._toggle_region)
        c.placed.connect(self._open_new_dimension)
        c.cut_at.connect(lambda name, at: self._edit(f"trim {name}", lambda s, v: edits.trim(s, v, name, at)))
        c.edge_clicked.connect(self._take_edge)
        c.dimension_opened.connect(self._open_dimension)
        c.value_typed.connect(self.strip.begin_typing)
        c.told.connect(self.told)
        c.hint.connect(self.strip.set_hint)
        c.let_go.connect(lambda: self.set_mode("pick"))
        s = self.strip
        s.sizes_changed.connect(self._take_sizes)
        s.entered.connect(c.finish_here)
        s.relation_wanted.connect(self._relate)
        s.removed.connect(self.remove_chosen)
        s.construction_toggled.connect(self._toggle_construction)
        s.value_given.connect(self._give_value)
        s.reference_toggled.connect(self._toggle_reference)
        s.build_wanted.connect(self._build_on)
        s.left.connect(lambda: c.setFocus())

    # showing -------------------------------------------------------------------------------------
    def show_step(self, document: Document, step: SketchStep) -> None:
        """Show a sketch step; the view is fitted when it is another one than before."""
        self.state.load(document, step)
        self.title.setText(f"SKETCH — step {step.number} on")
        names = list(PLANES) + ([step.plane.face] if isinstance(step.plane, FacePlane) else [])
        if self.picked and self.picked not in names:
            names.append(self.picked)
        self.plane.blockSignals(True)
        self.plane.clear()
        self.plane.addItems(names)
        self.plane.setCurrentText(step.plane.face if isinstance(step.plane, FacePlane) else step.plane.plane)
        self.plane.blockSignals(False)
        self.headline.setText(self.state.headline)
        fresh = step.number != self._shown
        self._shown = step.number
        self.canvas.refresh()
        if fresh:
            self.canvas.regions = ()
            self.set_mode("pick")
            self.canvas.fit()
        underlay.show(self)
        self._take_outline()
        self._say(findings.rows(self.state, self.canvas.outline))
        self._show_strip()

    def set_outlines(self, outlines: Mapping[int, tuple[Edge, ...]]) -> None:
        """The body beneath each sketch, by step number, as the last build had it."""
        self._outlines = outlines
        if self._take_outline():  # else what stands in the list, say the check's findings, stays
            self._say(findings.rows(self.state, self.canvas.outline))

    def _take_outline(self) -> bool:
        """Lay the body beneath this sketch under the drawing; whether it is another one than before."""
        before, self.canvas.outline = self.canvas.outline, self._outlines.get(self._shown or 0, ())
        if self.canvas.outline == before:
            return False
        self.canvas.fit_if_untouched()
        self.canvas.update()
        return True

    def take_picked(self, face: str) -> None:
        """A face picked in the solid can carry the sketch."""
        self.picked = face
        if face and self.plane.findText(face) < 0:
            self.plane.addItem(face)

    def set_mode(self, mode: str, tool: str = "") -> None:
        """Turn to picking, a tool, dimensioning, trimming or regions."""
        self.canvas.set_mode(mode, BY_ID.get(tool))
        for name, button in self.tool_buttons.items():
            button.setChecked(name == (tool or mode))
        if mode == "regions":
            self.canvas.regions = self.canvas.regions or ()
        self._pending = None
        self._show_strip()
        self.canvas.setFocus()

    def _tool(self, name: str) -> Callable[[], object]:
        return lambda: self.start_tool(name)

    def start_tool(self, name: str) -> None:
        """Turn to a drawing tool; a polygon asks for its sides."""
        if name == "polygon":
            sides, ok = QInputDialog.getInt(self, "Polygon", "sides", self.canvas.sides, 3, 120)
            if not ok:
                return
            self.canvas.sides = sides
        if name == "text":
            text, ok = QInputDialog.getText(self, "Lettering", "text", text=self.canvas.text)
            if not ok or not text.strip():
                return
            self.canvas.text = text.strip()
            picked = self.state.sketch.by_id.get(self.canvas.chosen[0]) if len(self.canvas.chosen) == 1 else None
            self.canvas.along = picked.id if picked is not None and picked.kind == "line" else ""
        self.set_mode("draw", name)

    def _show_strip(self) -> None:
        c = self.canvas
        if c.mode == "draw" and c.tool is not None:
            self.strip.show_sizes(c.tool, lambda: scope(self.state.document))
        elif c.mode == "regions":
            self.strip.show_regions(len(c.regions), len(self.state.regions))
        elif self._pending is not None:
            return
        elif len(c.chosen) == 1 and (k := self.state.sketch.constraint(c.chosen[0])) is not None:
            self.strip.show_dimension(k, self.state.dimension_text(k), lambda: scope(self.state.document))
        elif c.chosen:
            on = [
                (k.id, ("inferred: " if k.inferred else "") + self.state.label(k))
                for k in self.state.sketch.constraints
                if set(c.chosen) & set(k.of)
            ]
            self.strip.show_chosen(c.chosen, self.state.relations_for(c.chosen), on)
        else:
            self.strip.show_nothing(len(self.state.sketch.entities), len(self.state.sketch.constraints))

    # what there is to say ------------------------------------------------------------------------
    def _say(self, rows: list[findings.Row]) -> None:
        self.said.clear()
        for row in rows:
            item = QListWidgetItem(row.text)
            item.setData(Qt.ItemDataRole.UserRole, row)
            item.setToolTip(row.text)
            item.setSizeHint(QSize(0, 40 if row.picture else 20))
            if row.picture and row.ghost is not None:
                item.setIcon(QIcon(thumbnail(self.state.sketch, row.ghost)))
            font = theme.font(13, theme.QFont.Weight.DemiBold) if row.head else theme.font(13)
            item.setFont(font)
            if row.apply is not None:
                item.setToolTip(f"{row.text}\n(double click or Enter does it; pointing shows what comes of it)")
            self.said.addItem(item)
        heights = [40 if row.picture else 20 for row in rows]
        self.said.setFixedHeight(min(sum(heights), 126) + 6)
        self.said.setVisible(bool(rows))

    def _point_at(self, item: QListWidgetItem | None) -> None:
        row = item.data(Qt.ItemDataRole.UserRole) if item is not None else None
        self.canvas.show_ghost(row.ghost if row is not None else None)
        self.canvas.show_movement(row.movement if row is not None else None)
        if row is not None:
            self.canvas.chosen = tuple(row.entities)
            self.canvas.update()

    def _apply_row(self, item: QListWidgetItem) -> None:
        row = item.data(Qt.ItemDataRole.UserRole)
        if row.apply is not None:
            self._edit(row.label, lambda _s, _v: row.apply())

    # plane ---------------------------------------------------------------------------------------
    def _plane_to(self, **values: Any) -> None:
        step = self.state.step
        if step is not None:
            try:
                new = changed(step, plane=changed(step.plane, **values))
            except LathedError as exc:
                self.told.emit(exc.message, True)
                return
            self.changed.emit(f"step {step.number} plane", new)

    def _set_plane(self, index: int) -> None:
        step, name = self.state.step, self.plane.itemText(index)
        if step is not None:
            plane = DatumPlane(plane=name) if name in PLANES else FacePlane(face=name)
            self.changed.emit(f"step {step.number} plane", changed(step, plane=plane))

    def _turn(self) -> None:
        if self.state.step is not None:
            now = self.state.step.plane.turn
            try:
                degrees = round(math.degrees(scope(self.state.document)(now, "angle"))) + 90
            except LathedError:
                degrees = 90
            self._plane_to(turn=f"{degrees % 360} deg")

    def _flip(self) -> None:
        if self.state.step is not None:
            self._plane_to(flip=not self.state.step.plane.flip)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        typing = isinstance(self.focusWidget(), QLineEdit)
        shift = "Shift+" if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else ""
        name = f"{shift}{chr(event.key())}" if 64 < event.key() < 91 else ""
        tool = next((t.id for t in TOOLS if name and t.key == name), None)
        work = {"D": "dimension", "W": "trim", "K": "check", "B": "regions"}.get(name)
        if typing or event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            super().keyPressEvent(event)
        elif event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.remove_chosen()
        elif tool is not None:
            self.start_tool(tool)
        elif work is not None:
            self.tool_buttons[work].click()
        else:
            super().keyPressEvent(event)
