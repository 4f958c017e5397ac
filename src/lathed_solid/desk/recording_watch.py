"""Looks now and then whether edits are recorded for recovery, and says so in the status line while they are not."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QTimer

from lathed_solid.desk.status_line import StatusLine
from lathed_solid.workbench.recording import Recording

EVERY_MS = 3000


class RecordingWatch(QObject):
    """Of the recordings of one window."""

    def __init__(self, parent: QObject, status: StatusLine, *recordings: Recording) -> None:
        super().__init__(parent)
        self._status, self._recordings = status, recordings
        for recording in recordings:
            recording.trouble_changed.connect(lambda _: self._show())
        self.timer = QTimer(self)
        self.timer.timeout.connect(self._check)
        self.timer.start(EVERY_MS)

    def _check(self) -> None:
        for recording in self._recordings:
            recording.check()

    def _show(self) -> None:
        self._status.show_trouble(next((r.trouble for r in self._recordings if r.trouble), ""))
