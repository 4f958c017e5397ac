"""The root of every error this product raises on purpose.

An error says what happened, where, which rule was broken, the value received and what to try, and
carries these as data so that the window can point at the field and the command line can print one line.
"""

from __future__ import annotations

from typing import Any


class LathedError(Exception):
    """Root of the hierarchy; each package subclasses it.

    ``what``: the failure in words. ``where``: field, station, step or file. ``rule``: the rule broken.
    ``received``: the offending value. ``hint``: what to try.
    """

    def __init__(self, what: str, *, where: str = "", rule: str = "", received: Any = None, hint: str = "") -> None:
        self.what, self.where, self.rule, self.received, self.hint = what, where, rule, received, hint
        super().__init__(self.message)

    @property
    def message(self) -> str:
        """One line: where, what, rule, received, hint."""
        text = f"{self.where}: {self.what}" if self.where else self.what
        if self.rule:
            text += f"; {self.rule}"
        if self.received is not None:
            shown = str(self.received)
            text += f" (received {shown if len(shown) <= 60 else shown[:57] + '...'})"
        if self.hint:
            text += f". Try: {self.hint}"
        return " ".join(text.split())

    def __str__(self) -> str:
        return self.message

    def at(self, where: str) -> LathedError:
        """The same error with ``where`` put before its place (outermost first)."""
        self.where = f"{where}, {self.where}" if self.where else where
        self.args = (self.message,)
        return self


def of_length(text: str, most: int, what: str, error: type[LathedError]) -> str:
    """The same text. Raises ``error`` when it has more than ``most`` characters: patterns take their time over what no
    one writes, and words about it should not repeat it.
    """
    if len(text) > most:
        raise error(f"{what} is longer than {most} characters", hint="the part of it that is meant")
    return text
