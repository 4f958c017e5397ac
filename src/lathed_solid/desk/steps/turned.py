"""The turned table's editor: the drawn half section over the tables of stations, grooves and bores."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.desk.row_table import Column, RowModel, RowView
from lathed_solid.desk.shape.section_drawing import SectionDrawing
from lathed_solid.errors import LathedError
from lathed_solid.part import Document, TurnedStep, scope
from lathed_solid.part.edits import changed
from lathed_solid.quantity import Kind
from lathed_solid.quantity.formatting import angle, length
from lathed_solid.turned import HalfSection, TurnedTable, edge_text, edits, taper_text
from lathed_solid.turned.table import End

Change = Callable[[TurnedTable], TurnedTable]


class TurnedEditor(QWidget):
    """Emits (label, new step); face names under the pointer."""

    changed = pyqtSignal(str, object)
    told = pyqtSignal(str, bool)
    faces_hovered = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.document = Document()
        self.step: TurnedStep | None = None
        self.section: HalfSection | None = None
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        self.title = QLabel(spoken("TURNED TABLE"))
        self.title.setObjectName("caption")
        self.title.setFont(theme.narrow(13, theme.QFont.Weight.Medium))
        self.title.setContentsMargins(12, 10, 12, 0)
        layout.addWidget(self.title)
        self.drawing = SectionDrawing()
        self.drawing.station_clicked.connect(self._choose_station)
        self.drawing.station_hovered.connect(self._hover_station)
        lower = QWidget()
        lower_layout = QVBoxLayout(lower)
        lower_layout.setContentsMargins(0, 0, 0, 0)
        lower_layout.setSpacing(0)
        self.stack = QStackedWidget()
        lower_layout.addLayout(self._bar())
        lower_layout.addWidget(self.stack, 1)
        split = QSplitter(Qt.Orientation.Vertical)
        split.setHandleWidth(1)
        split.addWidget(self.drawing)
        split.addWidget(lower)
        split.setStretchFactor(0, 3)
        split.setStretchFactor(1, 2)
        split.setSizes([305, 240])
        split.setChildrenCollapsible(False)
        layout.addWidget(split, 1)
        self.stations = self._table(self._station_columns(), "Stations")
        self.grooves = self._table(self._groove_columns(), "Grooves")
        self.bores = self._table(self._bore_columns(), "Bores")
        self.stations.entry = ("diameter", "length")
        self.stations.row_wanted.connect(self._add)
        self.bores.row_wanted.connect(self._add)
        self.grooves.entry = ("from datum", "width", "diameter")
        self.bores.entry = ("diameter", "depth")
        self.stations.row_chosen.connect(self._station_chosen)
        self.stations.row_hovered.connect(lambda r: self._hover_station(-1 if r is None else r[0]))

    # layout ------------------------------------------------------------------------------------
    def _bar(self) -> QHBoxLayout:
        bar = QHBoxLayout()
        bar.setContentsMargins(8, 4, 8, 4)
        bar.setSpacing(4)
        self.group = QButtonGroup(self)
        for i, word in enumerate(("stations", "grooves", "bores")):
            button = self._button(word, f"Show the {word}")
            button.setCheckable(True)
            button.setChecked(i == 0)
            self.group.addButton(button, i)
            bar.addWidget(button)
        self.group.idClicked.connect(self._show_part)
        bar.addStretch(1)
        self.datum = self._button("datum: left face", "The face from which far shoulders and grooves are measured")
        self.datum.clicked.connect(self._turn_datum)
        bar.addWidget(self.datum)
        for word, tip, run in (
            ("add", "Add a row after the chosen one", self._add),
            ("up", "Move the station up (towards the left face)", lambda: self._move(-1)),
            ("down", "Move the station down", lambda: self._move(1)),
            ("remove", "Remove the chosen row", self._remove),
        ):
            button = self._button(word, tip)
            button.clicked.connect(lambda _=False, r=run: r())
            bar.addWidget(button)
        return bar

    def _button(self, text: str, tip: str) -> QPushButton:
        button = QPushButton(spoken(text))
        button.setFont(theme.narrow(12))
        button.setFixedHeight(24)
        button.setStyleSheet("padding: 0 8px;")
        button.setToolTip(spoken(tip))
        return button

    def _table(self, columns: list[Column], name: str) -> RowView:
        view = RowView(RowModel(columns))
        view.setAccessibleName(spoken(name))
        self.stack.addWidget(view)
        return view

    def _station_columns(self) -> list[Column]:
        def cell(column: str, kind: Kind = "length") -> dict[str, Any]:
            return {
                "edit": lambda row, text: self._apply(
                    f"station {row[0] + 1} {column}",
                    lambda t: edits.set_station_cell(t, row[0], column, text),
                ),
                "raw": lambda row: getattr(row[1], column) or "",
                "tip": lambda row: (
                    f"{getattr(row[1], column) or 'computed'}\nF2 edits; expressions, #balloons and units"
                ),
            }

        def edge(column: str) -> dict[str, Any]:
            return cell(column) | {
                "raw": lambda row: edge_text(getattr(row[1], column)),
                "tip": lambda row: edge_text(getattr(row[1], column)) or "shoulder; write 1 x 45° or R1",
            }

        return [
            Column("st.", lambda r: str(r[0] + 1), width=30),
            Column("far shoulder", self._far, look="number", width=76, **cell("to")),
            Column("length", self._length, look="number", width=52, **cell("length")),
            Column("diameter", lambda r: self._value(r[1].diameter), look="number", width=60, **cell("diameter")),
            Column("left edge", lambda r: self._edge(r[1].left), width=76, **edge("left")),
            Column("right edge", lambda r: self._edge(r[1].right), width=76, **edge("right")),
            Column("taper", lambda r: taper_text(r[1].taper), width=48,
                   edit=cell("taper")["edit"], tip=lambda _r: "to 18, 1:10, half 5.7°; add 'rises' to turn it round"),
            Column("carries", lambda r: r[1].carries, look="own", edit=cell("carries")["edit"]),
        ]  # fmt: skip

    def _groove_columns(self) -> list[Column]:
        def cell(column: str) -> dict[str, Any]:
            return {
                "edit": lambda row, text: self._apply(
                    f"groove {row[0] + 1} {column}", lambda t: edits.set_groove_cell(t, row[0], column, text)
                ),
                "raw": lambda row: getattr(row[1], column),
                "tip": lambda row: getattr(row[1], column),
            }

        return [
            Column("groove", lambda r: str(r[0] + 1), width=60),
            Column("from datum", lambda r: self._value(r[1].at), look="number", width=90, **cell("at")),
            Column("width", lambda r: self._value(r[1].width), look="number", width=70, **cell("width")),
            Column("diameter", lambda r: self._value(r[1].diameter), look="number", width=80, **cell("diameter")),
            Column("carries", lambda r: r[1].carries, look="own", **cell("carries")),
        ]

    def _bore_columns(self) -> list[Column]:
        def cell(column: str) -> Callable[[Any, str], None]:
            return lambda row, text: self._apply(
                f"bore {column}", lambda t: edits.set_bore_cell(t, row[0], column, text)
            )

        return [
            Column("from", lambda r: f"{r[1].end}, step {r[3] + 1}", width=96,
                   edit=cell("end"), raw=lambda r: r[1].end, tip=lambda _r: "left or right: the face it begins at"),
            Column("diameter", lambda r: self._value(r[2].diameter), look="number", width=74,
                   edit=cell("diameter"), raw=lambda r: r[2].diameter),
            Column("depth", lambda r: self._value(r[2].depth) if r[2].depth else "through", look="number", width=74,
                   edit=cell("depth"), raw=lambda r: r[2].depth or "", tip=lambda _r: "empty is through"),
            Column("bottom", lambda r: self._value(r[1].point, "angle") if r[1].point else "flat", width=74,
                   edit=cell("point"), raw=lambda r: r[1].point or "", tip=lambda _r: "point angle, or flat"),
            Column("mouth", lambda r: self._edge(r[1].mouth), edit=cell("mouth"), raw=lambda r: edge_text(r[1].mouth)),
        ]  # fmt: skip

    # reading cells -----------------------------------------------------------------------------
    def _value(self, cell: str | None, kind: Kind = "length") -> str:
        if not cell:
            return ""
        try:
            number = scope(self.document)(cell, kind)
        except LathedError:
            return f"{cell} ?"
        return angle(number) if kind == "angle" else length(number, self.document.unit)

    def _edge(self, edge: Any) -> str:
        if edge is None:
            return ""
        size = self._value(edge.size)
        return f"R{size}" if edge.kind == "radius" else f"{size} × {self._value(edge.angle, 'angle')}"

    def _stretch(self, row: Any) -> Any:
        ok = self.section is not None and row[0] < len(self.section.stretches)
        return self.section.stretches[row[0]] if ok and self.section else None

    def _far(self, row: Any) -> str:
        if row[1].to is not None:
            return self._value(row[1].to)
        s = self._stretch(row)
        if s is None or self.section is None or self.step is None:
            return ""
        far = s.z1 if self.step.table.datum == "left" else self.section.length - s.z0
        return f"({length(far, self.document.unit)})"

    def _length(self, row: Any) -> str:
        if row[1].length is not None:
            return self._value(row[1].length)
        s = self._stretch(row)
        return "" if s is None else f"({length(s.z1 - s.z0, self.document.unit)})"

    # showing -----------------------------------------------------------------------------------
    def show_step(self, document: Document, step: TurnedStep) -> None:
        """Show ``step`` of ``document``."""
        self.document, self.step = document, step
        problem, section = "", None
        try:
            section = step.resolve(scope(document))
        except LathedError as exc:
            problem = exc.message
        self.section = section or self.section
        table = step.table
        state = "held" if not problem else "not buildable"
        self.title.setText(spoken(f"TURNED TABLE — step {step.number} — {state}"))
        self.datum.setText(spoken(f"datum: {table.datum} face"))
        self.stations.rows.set_rows(list(enumerate(table.stations)))
        self.grooves.rows.set_rows(list(enumerate(table.grooves)))
        self.bores.rows.set_rows([(i, bore, s, k) for i, (_, k, bore, s) in enumerate(edits.bore_rows(table))])
        for i, word in enumerate((len(table.stations), len(table.grooves), len(edits.bore_rows(table)))):
            button = self.group.button(i)
            if button is not None:
                button.setText(spoken(f"{('stations', 'grooves', 'bores')[i]} {word}"))
        self.drawing.show_section(document, step, section, problem)

    def _show_part(self, part: int) -> None:
        self.stack.setCurrentIndex(part)

    # editing -----------------------------------------------------------------------------------
    def _apply(self, label: str, change: Change) -> None:
        if self.step is None:
            return
        try:
            table = change(self.step.table)
            step = changed(self.step, table=table)
        except LathedError as exc:
            self.told.emit(exc.message, True)
            return
        if step != self.step:
            self.changed.emit(label, step)

    def _row(self) -> int:
        view = self.stack.currentWidget()
        index = view.currentIndex() if isinstance(view, RowView) else None
        return index.row() if index is not None and index.isValid() else -1

    def _add(self) -> None:
        part, row = self.stack.currentIndex(), self._row()
        if part == 0:
            self._apply("add a station", lambda t: edits.add_station(t, row if row >= 0 else None))
        elif part == 1:
            self._apply("add a groove", self._new_groove)
        else:
            self._apply("add a bore", self._new_bore)
        view = self.stack.currentWidget()
        if isinstance(view, RowView):
            view.begin_entry(row + 1 if part == 0 and row >= 0 else max(len(view.rows.rows) - 1, 0))

    def _new_bore(self, table: TurnedTable) -> TurnedTable:
        """A further step of the last bore, right through; after one that is through, a bore from the other end.

        The first one begins at the wider of the two faces.
        """
        faces: dict[End, float] = {"right": 10.0, "left": 10.0}
        if self.section is not None:
            faces = {"right": self.section.stretches[-1].r1, "left": self.section.stretches[0].r0}
        end: End = "left" if faces["left"] > faces["right"] else "right"
        unit, last = self.document.unit, table.bores[-1] if table.bores else None
        if last is not None:
            end = last.end
            if last.steps[-1].depth is None:
                end = "left" if end == "right" else "right"
        through = any(b.steps[-1].depth is None for b in table.bores)
        depth = length(self.section.length / 4, unit) if through and self.section is not None else None
        narrowest = min(5.0, min(faces.values()))
        return edits.add_bore_step(table, end, length(narrowest, unit), depth)

    def _new_groove(self, table: TurnedTable) -> TurnedTable:
        """A groove that fits: in the middle of the longest cylinder, a tenth below its diameter."""
        if self.section is None:
            return edits.add_groove(table)
        unit = self.document.unit
        s = max((x for x in self.section.stretches if x.r0 == x.r1), key=lambda x: x.z1 - x.z0, default=None)
        if s is None:
            return edits.add_groove(table)
        width = min(2.0, (s.z1 - s.z0) / 4)
        z = (s.z0 + s.z1 - width) / 2
        at = z if table.datum == "left" else self.section.length - z - width
        return edits.add_groove(table, length(at, unit), length(width, unit), length(1.8 * s.r0, unit))

    def _remove(self) -> None:
        part, row = self.stack.currentIndex(), self._row()
        if row < 0:
            self.told.emit("choose a row first", True)
            return
        remove = (edits.remove_station, edits.remove_groove, edits.remove_bore_step)[part]
        self._apply(("remove a station", "remove a groove", "remove a bore")[part], lambda t: remove(t, row))

    def _move(self, by: int) -> None:
        row = self._row()
        if self.stack.currentIndex() == 0 and row >= 0:
            self._apply("move a station", lambda t: edits.move_station(t, row, by))
            self.stations.selectRow(max(0, min(row + by, len(self.stations.rows.rows) - 1)))

    def _turn_datum(self) -> None:
        if self.step is not None:
            other = "right" if self.step.table.datum == "left" else "left"
            self._apply("datum face", lambda t: t.model_copy(update={"datum": other}))

    # pointing ----------------------------------------------------------------------------------
    def _choose_station(self, row: int) -> None:
        button = self.group.button(0)
        if button is not None:
            button.setChecked(True)
        self.stack.setCurrentIndex(0)
        self.stations.selectRow(row)

    def _station_chosen(self, row: Any) -> None:
        self.drawing.set_current(-1 if row is None else row[0])
        self._hover_station(-1 if row is None else row[0])

    def _hover_station(self, row: int) -> None:
        if self.step is None or not 0 <= row < len(self.step.table.stations):
            row = self.drawing.current
        if self.step is None or not 0 <= row < len(self.step.table.stations):
            self.faces_hovered.emit(())
            return
        n, key = self.step.number, self.step.table.stations[row].key
        pieces = tuple(f"{n}/s{key}>{g.key}" for g in self.step.table.grooves)
        self.faces_hovered.emit((f"{n}/s{key}", *pieces))
