"""Listening to a caliper or scale from the window: a port watched by the event loop, never waited for."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QSocketNotifier, pyqtSignal

from lathed_solid.devices import DeviceError, SimulatedDevice, parse_line
from lathed_solid.devices.port import Port


class Listener(QObject):
    """Emits readings as they come; told what goes wrong. One port at a time."""

    came = pyqtSignal(object)
    told = pyqtSignal(str, bool)
    changed = pyqtSignal()

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.port: Port | None = None
        self.simulated: SimulatedDevice | None = None
        self._notifier: QSocketNotifier | None = None

    def listen(self, name: str) -> bool:
        """Open a port, or the simulated caliper for an empty name."""
        self.stop()
        try:
            if not name:
                self.simulated = SimulatedDevice(slip=0.1)
                name = self.simulated.port
            self.port = Port(name)
        except DeviceError as exc:
            self.stop()
            self.told.emit(exc.message, True)
            return False
        self._notifier = QSocketNotifier(self.port.fileno(), QSocketNotifier.Type.Read, self)  # type: ignore[call-overload]
        self._notifier.activated.connect(self._read)
        self.changed.emit()
        return True

    def stop(self) -> None:
        """Close the port, and the simulated caliper."""
        if self._notifier is not None:
            self._notifier.setEnabled(False)
            self._notifier.deleteLater()
            self._notifier = None
        for end in (self.port, self.simulated):
            if end is not None:
                end.close()
        self.port = self.simulated = None
        self.changed.emit()

    def _read(self) -> None:
        if self.port is None:
            return
        try:
            lines = self.port.lines()
        except DeviceError as exc:
            self.stop()
            self.told.emit(exc.message, True)
            return
        for line in lines:
            try:
                self.came.emit(parse_line(line))
            except DeviceError as exc:
                self.told.emit(exc.message, True)
