"""Plain callbacks: whoever connects is called, in order, with what is emitted."""

from __future__ import annotations

from collections.abc import Callable
from typing import Generic, TypeVarTuple

Told = TypeVarTuple("Told")


class Signal(Generic[*Told]):
    """One kind of news. ``emit`` calls back at once, in the caller's thread."""

    def __init__(self) -> None:
        self._listeners: list[Callable[[*Told], object]] = []

    def connect(self, listener: Callable[[*Told], object]) -> None:
        """Call ``listener`` from now on."""
        self._listeners.append(listener)

    def disconnect(self, listener: Callable[[*Told], object]) -> None:
        """Call it no more; one that was never connected is left alone."""
        if listener in self._listeners:
            self._listeners.remove(listener)

    def emit(self, *told: *Told) -> None:
        """Call all listeners with this."""
        for listener in tuple(self._listeners):
            listener(*told)
