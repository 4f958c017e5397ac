"""Whether the window is at something, so that the kernel's import can give way to it."""

from __future__ import annotations

from PyQt6.QtCore import QCoreApplication, QEvent, QObject

from lathed_solid.viewer.deferred_import import Stirred


class Watch(QObject):
    """Notes what the window is given to do, so that the kernel's import can give way to it."""

    WORK = frozenset(
        {
            QEvent.Type.UpdateRequest,
            QEvent.Type.Paint,
            QEvent.Type.LayoutRequest,
            QEvent.Type.Resize,
            QEvent.Type.MouseMove,
            QEvent.Type.MouseButtonPress,
            QEvent.Type.MouseButtonRelease,
            QEvent.Type.Wheel,
            QEvent.Type.KeyPress,
            QEvent.Type.KeyRelease,
            QEvent.Type.ShortcutOverride,
            QEvent.Type.SockAct,
        }
    )

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.stirred = Stirred()
        app = QCoreApplication.instance()
        assert app is not None
        app.installEventFilter(self)

    def eventFilter(self, _of: QObject | None, event: QEvent | None) -> bool:
        if event is not None and event.type() in self.WORK:
            self.stirred.now()
        return False
