"""A place in the tokens of a note."""

from __future__ import annotations

import re
from collections.abc import Sequence

from lathed_solid.notation.items import LARGEST, NoteError, Written, factor_of, plain_number
from lathed_solid.notation.tokens import Token
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.units import MM_PER_INCH

END = Token("end", "", 0)
TOOLS = ("drill", "ream", "bore", "tap")
INCH_THREADS = ("unified", "whitworth")


class Cursor:
    """Reads tokens one by one; ``place`` may be put back."""

    def __init__(self, tokens: Sequence[Token], unit: LengthUnit) -> None:
        self.tokens, self.unit, self.place = tokens, unit, 0

    def peek(self, ahead: int = 0) -> Token:
        """The token so many places on."""
        at = self.place + ahead
        return self.tokens[at] if 0 <= at < len(self.tokens) else END

    def sees_kind(self, ahead: int) -> str:
        """Its kind."""
        return self.peek(ahead).kind

    def sees(self, *kinds: str) -> bool:
        """Whether the next token is of one of these kinds."""
        return self.peek().kind in kinds

    @property
    def token(self) -> Token:
        """The next one."""
        return self.peek()

    @property
    def kind(self) -> str:
        """Its kind."""
        return self.peek().kind

    @property
    def text(self) -> str:
        """Its text."""
        return self.peek().text

    @property
    def column(self) -> int:
        """Its column."""
        return self.peek().column

    def take(self) -> Token:
        """The next token, and on."""
        token = self.peek()
        self.place += 1
        return token

    def value_at(self, ahead: int) -> float:
        """The number so many places on, as it stands."""
        token = self.peek(ahead)
        return plain_number(token.text, token.column)[0]

    def _can_only_be_inches(self, text: str) -> bool:
        """``21/64 DRILL``, ``#2-56 UNC x 1/4``: a ruler's fraction before a tool's name, or beside an inch thread."""
        top, bottom = (int(part) for part in re.split(r"[\s-]", text)[-1].split("/"))
        ruled = top % 2 == 1 and top < bottom <= 64
        return ruled and (self.sees(*TOOLS) or any(t.kind in INCH_THREADS for t in self.tokens))

    def written(self, beside: Written | None = None) -> Written:
        """The number at the cursor with its unit; ``beside``: the size whose unit it shares unless it has its own."""
        token = self.take()
        value, decimals = plain_number(token.text, token.column)
        _, slash, bottom = token.text.partition("/")
        if slash and int(bottom) & (int(bottom) - 1):  # nobody's rule is divided so
            raise NoteError("a fraction, or limits: this can be read either way", column=token.column,
                            received=token.text, hint="20.0/30.0 for limits, 0.667")  # fmt: skip
        factor = beside.factor if beside is not None else factor_of(self.unit)
        own = self.sees("inch", "unit")
        inches = bool(slash) and self.unit == "mm" and not own and self._can_only_be_inches(token.text)
        if slash and self.unit == "mm" and not own and not inches:
            raise NoteError("a fraction is of an inch, and this sheet is in mm", column=token.column,
                            received=token.text, hint=f'{token.text}", or a decimal number')  # fmt: skip
        if inches:
            factor, own = MM_PER_INCH, True
        elif own:
            factor = 1.0 if self.take().text.lower().startswith("mm") else MM_PER_INCH
        if value * factor > LARGEST:
            raise NoteError("a size goes up to 1 km", column=token.column, received=token.text)
        return Written(value * factor, decimals, factor, own)
