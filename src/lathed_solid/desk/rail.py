"""The desk rail at the left edge: the desks that work, in the order of work, with their open matters."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPainter
from PyQt6.QtWidgets import QAbstractButton, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken

DESKS: tuple[tuple[str, str, str], ...] = (
    ("read", "Read", "callouts not yet used by any step"),
    ("shape", "Shape", "steps that are not built"),
    ("prove", "Prove", "verdicts out, without a limit or not found"),
    ("fit", "Fit", "overlaps, fits without play, relations that fight or are left out"),
    ("hand over", "Hand over", "notes that stand at no feature of the drawing"),
)


class _DeskButton(QAbstractButton):
    def __init__(self, title: str, matter: str) -> None:
        super().__init__()
        self.title, self.matter = title, matter
        self.count = 0
        self.setCheckable(True)
        self.setFixedSize(63, 56)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.set_count(0)

    def set_count(self, count: int) -> None:
        self.count = count
        words = spoken(f"{self.title}: {count or 'no'} {self.matter}")
        self.setToolTip(words)
        self.setAccessibleName(words)
        self.update()

    def paintEvent(self, event: object) -> None:
        r = theme.roles()
        p = QPainter(self)
        area = QRectF(self.rect())
        if self.isChecked():
            p.fillRect(area, QColor(r.paper))
            p.fillRect(QRectF(0, 0, 4, area.height()), QColor(r.brass))
        elif self.underMouse():
            p.fillRect(area, QColor(r.tint))
        p.setPen(QColor(r.ink if self.isChecked() or self.count else r.quiet))
        p.setFont(theme.font(17, theme.QFont.Weight.DemiBold))
        p.drawText(area.adjusted(0, 8, 0, -26), Qt.AlignmentFlag.AlignCenter, str(self.count) if self.count else "·")
        p.setFont(theme.narrow(13, theme.QFont.Weight.Medium))
        p.setPen(QColor(r.ink if self.isChecked() else r.quiet))
        p.drawText(area.adjusted(0, 28, 0, -6), Qt.AlignmentFlag.AlignCenter, spoken(self.title))
        if self.hasFocus():
            p.setPen(QColor(r.brass))
            p.drawRect(area.adjusted(2, 2, -3, -3))
        p.end()


class Rail(QWidget):
    """Emits the id of the desk that was chosen."""

    chosen = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("rail")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setFixedWidth(64)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 8, 1, 0)
        layout.setSpacing(0)
        self.buttons: dict[str, _DeskButton] = {}
        for desk, title, matter in DESKS:
            button = _DeskButton(title, matter)
            button.clicked.connect(lambda _=False, d=desk: self.chosen.emit(d))
            layout.addWidget(button)
            self.buttons[desk] = button
        layout.addStretch(1)

    def show_desk(self, desk: str) -> None:
        """The desk in hand."""
        for name, button in self.buttons.items():
            button.setChecked(name == desk)

    def set_count(self, desk: str, count: int) -> None:
        """How much there is to do at a desk; 0 shows nothing."""
        self.buttons[desk].set_count(count)
