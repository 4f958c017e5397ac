"""A place by numbers: two ordinates from the origin, ``27;14.5``, each of which becomes a dimension.

One may be left out, ``27;`` or ``;14.5``: then the pointer gives it. An ordinate of zero is no dimension: the place is
level with the origin, or upright over it. A dimension keeps its hand of the origin, so that its value is written
without a sign.
"""

from __future__ import annotations

from collections.abc import Callable

from lathed_solid.errors import LathedError
from lathed_solid.part import Scope
from lathed_solid.quantity.tolerances import ROUNDING
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.infer import Snap

MARK = ";"


def is_place(text: str) -> bool:
    """Whether a text gives two ordinates, and not one size."""
    return len(_parts(text)) == 2


def read_place(text: str, scope: Callable[[], Scope], here: complex) -> Snap:
    """The place that a text gives, what is left out taken from ``here`` (mm). Raises SketchError, QuantityError."""
    parts = _parts(text)
    if len(parts) != 2 or not any(parts):
        raise SketchError("a place by numbers is two ordinates", received=text, hint="27;14.5 or 27; or ;14.5")
    ordinates, texts = [here.real, here.imag], ["", ""]
    for i, part in enumerate(parts):
        if part:
            try:
                ordinates[i] = scope()(part, "length")
            except LathedError as exc:
                raise SketchError(exc.what, received=part, hint=exc.hint) from None
            texts[i] = _unsigned(part, ordinates[i])
    return Snap(complex(*ordinates), "ordinates", texts=(texts[0], texts[1]))


def _unsigned(text: str, value: float) -> str:
    """The expression of a size: of a negative one, of its opposite."""
    if abs(value) < ROUNDING:
        return "0"
    if value > 0:
        return text
    bare = text.removeprefix("-").strip()
    plain = text.startswith("-") and not set(bare) & set("+-")
    return bare if plain else f"-({text})"


def _parts(text: str) -> list[str]:
    """Cut at the marks that stand outside parentheses."""
    out, depth, last = [], 0, 0
    for i, c in enumerate(text):
        depth += (c == "(") - (c == ")")
        if c == MARK and depth == 0:
            out.append(text[last:i].strip())
            last = i + 1
    return [*out, text[last:].strip()]
