"""Failures of the geometry kernel, in the trade's words."""

from __future__ import annotations

from typing import Any

from lathed_solid.errors import LathedError


class KernelError(LathedError, RuntimeError):
    """Root of kernel failures."""


class BuildError(KernelError):
    """A step cannot be built; ``candidates`` are names that could be meant instead of the ``missing`` one."""

    def __init__(self, what: str, *, missing: str = "", candidates: tuple[str, ...] = (), **rest: Any) -> None:
        self.missing, self.candidates = missing, candidates
        super().__init__(what, **rest)


class MeasureError(KernelError):
    """A size cannot be measured on this solid."""


class WorkerLost(KernelError):
    """The worker process ended by itself, was killed, or could not start."""


class KernelFailed(KernelError):
    """The worker answered that it could not do what it was asked."""


class ExchangeError(KernelError, OSError):
    """A file could not be written."""
