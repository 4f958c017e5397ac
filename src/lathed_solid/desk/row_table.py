"""Tables of rows: one model and two delegates that all desks share.

A column is data: a title, how a row reads, how (if at all) it is edited. Numbers with fixed decimals are
right-aligned, so that their points stand under one another.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from PyQt6.QtCore import QAbstractTableModel, QEvent, QModelIndex, QObject, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QPainter, QPen, QPolygonF
from PyQt6.QtWidgets import (
    QAbstractItemDelegate,
    QAbstractItemView,
    QCompleter,
    QHeaderView,
    QLineEdit,
    QStyle,
    QStyledItemDelegate,
    QTableView,
    QWidget,
)

from lathed_solid.desk import theme
from lathed_solid.desk.language import number, spoken
from lathed_solid.workbench.tables.column import Column, Row

ROW_HEIGHT = 27
#: looks of columns whose texts are shown as they were written
AS_WRITTEN = ("sheet", "drawing", "own")
#: what a column has beside its title, dots
TITLE_ROOM = 9
ENTER = (Qt.Key.Key_Return, Qt.Key.Key_Enter)


class RowModel(QAbstractTableModel):
    """Rows shown through columns. ``alarm(row)`` tints a row."""

    def __init__(self, columns: Sequence[Column], alarm: Callable[[Row], bool] | None = None) -> None:
        super().__init__()
        self.columns = tuple(columns)
        self.rows: tuple[Row, ...] = ()
        self.alarm = alarm or (lambda _row: False)

    def set_rows(self, rows: Sequence[Row]) -> None:
        """Show other rows; when their number stays, selection and scroll stay."""
        new = tuple(rows)
        if len(new) == len(self.rows):
            self.rows = new
            if new:
                self.dataChanged.emit(self.index(0, 0), self.index(len(new) - 1, len(self.columns) - 1))
            return
        self.beginResetModel()
        self.rows = new
        self.endResetModel()

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:
        return 0 if parent.isValid() else len(self.rows)

    def columnCount(self, parent: QModelIndex = QModelIndex()) -> int:
        return 0 if parent.isValid() else len(self.columns)

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = 0) -> Any:
        if orientation != Qt.Orientation.Horizontal:
            return None
        if role == Qt.ItemDataRole.DisplayRole:
            return spoken(self.columns[section].title)
        if role == Qt.ItemDataRole.TextAlignmentRole:
            side = "Right" if self.columns[section].look == "number" else "Left"
            return getattr(Qt.AlignmentFlag, f"Align{side}") | Qt.AlignmentFlag.AlignVCenter
        if role == Qt.ItemDataRole.FontRole:
            return theme.narrow(12, theme.QFont.Weight.Medium)
        return None

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        column, row = self.columns[index.column()], self.rows[index.row()]
        if role == Qt.ItemDataRole.DisplayRole:
            text = column.text(row)
            return number(text) if column.look == "number" and any(map(str.isdigit, text)) else _told(column, text)
        if role == Qt.ItemDataRole.EditRole:
            return (column.raw or column.text)(row)
        if role == Qt.ItemDataRole.TextAlignmentRole:
            side = "Right" if column.look == "number" else "Left"
            return getattr(Qt.AlignmentFlag, f"Align{side}") | Qt.AlignmentFlag.AlignVCenter
        if role == Qt.ItemDataRole.ToolTipRole:
            return spoken(column.tip(row)) if column.tip else None
        if role == Qt.ItemDataRole.FontRole:
            if column.look == "narrow":
                return theme.narrow(13)
            return theme.drawing(15) if column.look == "sheet" else None
        if role == Qt.ItemDataRole.BackgroundRole and self.alarm(row):
            return QColor(theme.roles().out)
        if role == Qt.ItemDataRole.AccessibleTextRole:
            return f"{spoken(column.title)}: {_told(column, column.text(row))}"
        return None

    def flags(self, index: QModelIndex) -> Qt.ItemFlag:
        base = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable
        return base | Qt.ItemFlag.ItemIsEditable if self.columns[index.column()].edit else base

    def setData(self, index: QModelIndex, value: Any, role: int = Qt.ItemDataRole.EditRole) -> bool:
        column = self.columns[index.column()]
        if role != Qt.ItemDataRole.EditRole or column.edit is None:
            return False
        row, text = self.rows[index.row()], str(value).strip()
        if text == (column.raw or column.text)(row):
            return False
        column.edit(row, text)
        return True


def _told(column: Column, text: str) -> str:
    """A text in the interface's language, but one that is shown as it was written."""
    return text if column.look in AS_WRITTEN else spoken(text)


class RowView(QTableView):
    """A quiet table: whole rows, no grid, hover and current row announced."""

    row_hovered = pyqtSignal(object)  # the row, or None
    row_chosen = pyqtSignal(object)
    #: Tab after the last cell of the last row that is entered
    row_wanted = pyqtSignal()

    def __init__(self, model: RowModel, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.rows = model
        #: titles of the columns that are entered one after another: Tab and Enter go on from each to the next
        self.entry: tuple[str, ...] = ()
        self.setModel(model)
        self.setMouseTracking(True)
        self.setShowGrid(False)
        self.setWordWrap(False)
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        edit = QAbstractItemView.EditTrigger
        self.setEditTriggers(edit.DoubleClicked | edit.EditKeyPressed | edit.AnyKeyPressed)
        vertical, header = self.verticalHeader(), self.horizontalHeader()
        assert vertical is not None and header is not None
        vertical.hide()
        vertical.setDefaultSectionSize(ROW_HEIGHT)
        header.setHighlightSections(False)
        header.setStretchLastSection(True)
        header.setMinimumSectionSize(30)
        for i, column in enumerate(model.columns):
            if column.width is not None:
                title = header.fontMetrics().horizontalAdvance(spoken(column.title))
                header.resizeSection(i, max(column.width, title + TITLE_ROOM))
            signs = column.look in ("balloon", "verdict")
            made = _SignDelegate(column.look, self) if signs else _TextDelegate(column.look, self, column.choices)
            self.setItemDelegateForColumn(i, made)
        header.setSectionResizeMode(QHeaderView.ResizeMode.Interactive)

    def show_column(self, title: str, *, shown: bool) -> None:
        """Show or hide the column of a title."""
        self.setColumnHidden([c.title for c in self.rows.columns].index(title), not shown)

    def begin_entry(self, row: int = 0) -> None:
        """The keyboard to the first cell of a row that is entered."""
        self.setFocus()
        if self.entry and row < len(self.rows.rows):
            self.setCurrentIndex(self.rows.index(row, self._entries()[0]))

    def _entries(self) -> list[int]:
        titles = [c.title for c in self.rows.columns]
        return [titles.index(t) for t in self.entry]

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """A letter begins no number: over a cell of sizes it is left to the window, for its own keys.

        Tab leaves a size as it is and goes on to the next one that is entered.
        """
        at = self.currentIndex()
        entered = event is not None and at.column() in self._entries() and not event.modifiers()
        if entered and event is not None and event.text().isalpha():
            event.ignore()
        elif entered and event is not None and event.key() == Qt.Key.Key_Tab:
            self._onward(at.row(), at.column(), further=True)
        else:
            super().keyPressEvent(event)

    def closeEditor(self, editor: QWidget | None, hint: QAbstractItemDelegate.EndEditHint) -> None:
        """What was typed is taken: on to the next cell that is entered."""
        at, done = self.currentIndex(), QAbstractItemDelegate.EndEditHint
        row, column, entries = at.row(), at.column(), self._entries()
        on = column in entries and hint in (done.SubmitModelCache, done.EditNextItem)
        super().closeEditor(editor, done.NoHint if on else hint)
        if not on:
            return
        self._onward(row, column, further=hint == done.EditNextItem)

    def _onward(self, row: int, column: int, *, further: bool) -> None:
        """To the entry after one; after the last a further row is asked for."""
        entries = self._entries()
        if column != entries[-1]:
            self.setCurrentIndex(self.rows.index(row, entries[entries.index(column) + 1]))
        elif row + 1 < len(self.rows.rows):
            self.setCurrentIndex(self.rows.index(row + 1, entries[0]))
        elif further:
            self.row_wanted.emit()
        else:
            self.setCurrentIndex(self.rows.index(row, column))

    def current_row(self) -> Row | None:
        """The chosen row; None for none."""
        index = self.currentIndex()
        return self.rows.rows[index.row()] if index.isValid() and index.row() < len(self.rows.rows) else None

    def currentChanged(self, current: QModelIndex, previous: QModelIndex) -> None:
        super().currentChanged(current, previous)
        self.row_chosen.emit(self.current_row())

    def mouseMoveEvent(self, event: Any) -> None:
        index = self.indexAt(event.position().toPoint())
        self.row_hovered.emit(self.rows.rows[index.row()] if index.isValid() else None)
        super().mouseMoveEvent(event)

    def leaveEvent(self, event: Any) -> None:
        self.row_hovered.emit(None)
        super().leaveEvent(event)


class _TextDelegate(QStyledItemDelegate):
    """Plain cells: the style sheet hides a model's background, so it is painted first."""

    def __init__(self, look: str, parent: QWidget, choices: Callable[[], Sequence[str]] | None = None) -> None:
        super().__init__(parent)
        self.choices = choices
        # the drawing font stands higher on its line than the interface font
        self.drop = 3 if look == "sheet" else 0

    def createEditor(self, parent: QWidget | None, option: Any, index: QModelIndex) -> QWidget | None:
        editor = super().createEditor(parent, option, index)
        if self.choices is not None and isinstance(editor, QLineEdit):
            completer = QCompleter(list(self.choices()), editor)
            completer.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
            completer.setFilterMode(Qt.MatchFlag.MatchContains)
            editor.setCompleter(completer)
            popup = completer.popup()
            assert popup is not None
            popup.installEventFilter(self)
        return editor

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Enter in the list of choices takes what stands there and the cell with it: one key, not two."""
        if isinstance(watched, QAbstractItemView) and isinstance(event, QKeyEvent) and event.key() in ENTER:
            editor = watched.focusProxy()
            if isinstance(editor, QLineEdit):
                if event.type() == QEvent.Type.KeyPress and watched.currentIndex().isValid():
                    editor.setText(str(watched.currentIndex().data()))
                taken = super().eventFilter(editor, event)
                watched.hide()
                return taken
        return super().eventFilter(watched, event)

    def paint(self, painter: QPainter | None, option: Any, index: QModelIndex) -> None:
        assert painter is not None
        background = index.data(Qt.ItemDataRole.BackgroundRole)
        if background is not None and not option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(option.rect, background)
        if self.drop:
            if option.state & QStyle.StateFlag.State_Selected:
                painter.fillRect(option.rect, QColor(theme.roles().tint))
            painter.setFont(theme.drawing(15))
            painter.setPen(QColor(theme.roles().ink))
            area = option.rect.adjusted(8, self.drop, -4, self.drop)
            text = painter.fontMetrics().elidedText(str(index.data()), Qt.TextElideMode.ElideRight, area.width())
            painter.drawText(area, Qt.AlignmentFlag.AlignVCenter, text)
            painter.setPen(QColor(theme.roles().line))
            painter.drawLine(option.rect.bottomLeft(), option.rect.bottomRight())
            return
        super().paint(painter, option, index)


class _SignDelegate(QStyledItemDelegate):
    """Paints balloons as capsules, and verdicts as a shape with its word."""

    def __init__(self, look: str, parent: QWidget) -> None:
        super().__init__(parent)
        self.look = look

    def paint(self, painter: QPainter | None, option: Any, index: QModelIndex) -> None:
        assert painter is not None
        r = theme.roles()
        background = index.data(Qt.ItemDataRole.BackgroundRole)
        if option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(option.rect, QColor(r.tint))
        elif background is not None:
            painter.fillRect(option.rect, background)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        text = str(index.data(Qt.ItemDataRole.EditRole) or "")
        rect = QRectF(option.rect).adjusted(8, 0, -4, 0)
        if self.look == "balloon":
            if text:
                paint_balloon(painter, rect, text)
        else:
            paint_verdict(painter, rect, text)
        painter.setPen(QColor(r.line))
        painter.drawLine(option.rect.bottomLeft(), option.rect.bottomRight())
        painter.restore()

    def sizeHint(self, option: Any, index: QModelIndex) -> QSize:
        return QSize(80, ROW_HEIGHT)


def paint_balloon(painter: QPainter, rect: QRectF, text: str) -> QRectF:
    """A balloon number in a capsule at the left of ``rect``; the capsule's rectangle."""
    r = theme.roles()
    painter.setFont(theme.narrow(11, theme.QFont.Weight.Medium))
    width = max(20.0, painter.fontMetrics().horizontalAdvance(text) + 12.0)
    box = QRectF(rect.left(), rect.center().y() - 8, width, 16)
    painter.setPen(QPen(QColor(r.brass), 1.2))
    painter.setBrush(QColor(r.card))
    painter.drawRoundedRect(box, 8, 8)
    painter.setPen(QColor(r.ink))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
    return box


def paint_verdict(painter: QPainter, rect: QRectF, word: str) -> None:
    """○ in, △ near, ■ out, ◇ no limit, ? not found: drawn, not typed, so that they look alike in every font."""
    ink = QColor(theme.roles().ink)
    if not word:
        return
    painter.setPen(QPen(ink, 1.4))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    box = QRectF(rect.left(), rect.center().y() - 5, 10, 10)
    strong = word in ("out", "no limit", "not found")
    if word == "in":
        painter.drawEllipse(box)
    elif word == "near":
        painter.drawPolygon(QPolygonF([QPointF(box.center().x(), box.top()), box.bottomRight(), box.bottomLeft()]))
    elif word == "out":
        painter.fillRect(box, ink)
    elif word == "no limit":
        c = box.center()
        corners = (QPointF(c.x(), box.top() - 1), QPointF(box.right() + 1, c.y()), QPointF(c.x(), box.bottom() + 1),
                   QPointF(box.left() - 1, c.y()))  # fmt: skip
        painter.drawPolygon(QPolygonF(corners))
    painter.setFont(theme.font(13, theme.QFont.Weight.DemiBold if strong else theme.QFont.Weight.Normal))
    drawn = ("in", "near", "out", "no limit")
    text = "? " + spoken(word) if word == "not found" else spoken(word)
    indent = 18 if word in drawn else 0
    painter.drawText(rect.adjusted(indent, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, text)
