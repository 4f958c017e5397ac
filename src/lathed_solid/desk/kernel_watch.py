"""The event loop's eye on the kernel: what becomes readable is polled, so that the window's thread never waits."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QSocketNotifier, QTimer

from lathed_solid.workbench.build_queue import BuildQueue
from lathed_solid.workbench.fit.queue import FitQueue

HURRY_MS = 500


class KernelWatch(QObject):
    """Watches one queue's kernel; another worker takes another pipe."""

    def __init__(self, builds: BuildQueue | FitQueue, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._builds = builds
        self._notifier: QSocketNotifier | None = None
        builds.kernel_changed.connect(self._watch)
        if isinstance(builds, BuildQueue):
            self._timer = QTimer(self)
            self._timer.timeout.connect(builds.hurry)
            self._timer.start(HURRY_MS)
        self._watch()

    def _watch(self) -> None:
        if self._notifier is not None:
            self._notifier.setEnabled(False)
            self._notifier.deleteLater()
            self._notifier = None
        number = self._builds.fileno()
        if number is not None:
            self._notifier = QSocketNotifier(number, QSocketNotifier.Type.Read, self)  # type: ignore[call-overload]
            self._notifier.activated.connect(self._builds.poll)
