"""A serial port that is read without waiting: bytes in, lines out."""

from __future__ import annotations

from typing import Any

from lathed_solid.devices.lines import DeviceError

BAUD = 9600
#: an endless run of bytes without a line's end is no device
LONGEST_RUN = 4096


class Port:
    """An open port; ``fileno`` becomes readable when bytes wait. Raises DeviceError when it cannot be opened."""

    def __init__(self, name: str, baud: int = BAUD) -> None:
        import serial  # type: ignore[import-untyped]

        self.name = name
        self._waiting = b""
        try:
            self._serial: Any = serial.Serial(name, baud, timeout=0)
        except (OSError, ValueError) as exc:
            raise DeviceError(
                f"the port {name} cannot be opened",
                rule=str(exc),
                hint="plug the cable in; you may need the group dialout",
            ) from None

    def fileno(self) -> int:
        """What becomes readable when the device has sent something."""
        return int(self._serial.fileno())

    def lines(self) -> list[str]:
        """Whole lines that have come. Raises DeviceError when the device is gone."""
        try:
            self._waiting += self._serial.read(LONGEST_RUN)
        except OSError as exc:
            raise DeviceError(
                f"the device at {self.name} is gone", rule=str(exc), hint="plug it in and listen again"
            ) from None
        *whole, self._waiting = self._waiting.replace(b"\r", b"\n").split(b"\n")
        if len(self._waiting) > LONGEST_RUN:
            self._waiting = b""
        return [w.decode("ascii", "replace") for w in whole if w.strip()]

    def close(self) -> None:
        """Let the port go."""
        self._serial.close()


def ports() -> list[str]:
    """Serial ports of this machine."""
    from serial.tools import list_ports  # type: ignore[import-untyped]

    return sorted(p.device for p in list_ports.comports())
