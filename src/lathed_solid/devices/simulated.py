"""A caliper or a scale that is not there: a pseudo-terminal that sends what such a device would send.

A device has one error of its own, drawn within its permissible error when it is made; each reading scatters about
that and is rounded to the resolution. Now and then (``slip``) the caliper was left in inches: the number comes in
inches without saying so, the slip that costs an afternoon.
"""

from __future__ import annotations

import contextlib
import os
import random
import tty
from types import TracebackType
from typing import Literal

from lathed_solid.devices.lines import DeviceError

#: mm or g: permissible error, scatter of a hand, resolution
CALIPER = (0.02, 0.008, 0.01)
SCALE = (1.0, 0.4, 1.0)


class SimulatedDevice:
    """Opens a port (its ``port`` is the path to listen at) and sends readings into it. Close it after use."""

    def __init__(
        self, kind: Literal["caliper", "scale"] = "caliper", *, slip: float = 0.0, seed: int | None = None
    ) -> None:
        self.kind = kind
        self._permissible, self._scatter, self._resolution = CALIPER if kind == "caliper" else SCALE
        self._slip = slip
        self._random = random.Random(seed)
        self.bias = self._random.uniform(-1, 1) * self._permissible
        try:
            self._master, self._slave = os.openpty()
            tty.setraw(self._slave)
        except OSError as exc:
            raise DeviceError("no pseudo-terminal can be opened", rule=exc.strerror or "") from None
        os.set_blocking(self._master, False)
        self.port = os.ttyname(self._slave)

    def line(self, true: float) -> str:
        """What the display would show for a size of ``true`` mm (or g), and be sent."""
        seen = true + self.bias + self._random.gauss(0, self._scatter)
        if self.kind == "caliper" and self._random.random() < self._slip:
            return f"{seen / 25.4:+09.4f}"
        shown = round(seen / self._resolution) * self._resolution
        return f"{shown:+08.2f} mm" if self.kind == "caliper" else f"{shown:+08.1f} g"

    def press(self, true: float) -> str:
        """Press the data key while measuring ``true``: the line goes out, and is returned. Raises DeviceError."""
        text = self.line(true)
        try:
            os.write(self._master, f"{text}\r\n".encode())
        except OSError as exc:
            raise DeviceError("nobody listens at the simulated device", rule=exc.strerror or "") from None
        return text

    def close(self) -> None:
        """Both ends of the line are closed; a second time does nothing."""
        for end in (self._master, self._slave):
            with contextlib.suppress(OSError):
                os.close(end)

    def __enter__(self) -> SimulatedDevice:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, value: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.close()
