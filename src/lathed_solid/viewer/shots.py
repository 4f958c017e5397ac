"""How a picture is taken; no geometry and no display is needed to say so."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from lathed_solid.kernel.vectors import Triple
from lathed_solid.part.pictures import LEAST, LONG, MOST, SHORT
from lathed_solid.viewer.framing import VIEWS
from lathed_solid.viewer.gl_context import ViewError

#: most pictures of a turn
MOST_FRAMES = 360
#: from where, by the names of the view net
SIDES: Mapping[str, Triple] = {name: eye for name, (eye, _up) in VIEWS.items()}
Film = Literal["GIF", "APNG"]
#: how a turn is written, by the ending of its file
FILMS: Mapping[str, Film] = {".gif": "GIF", ".apng": "APNG"}
#: a view without a lens
PARALLEL = "parallel"
_SIZE = re.compile(r"\s*(\d{1,5})\s*[x×]\s*(\d{1,5})\s*")


@dataclass(frozen=True, slots=True)
class Shot:
    """``width`` and ``height`` in dots; ``eye``: towards the eye; ``clear``: the ground is left out; ``floor``: the
    part stands on one, with its shadow; ``rays`` are traced; ``frames``: pictures of a turn, 1 for a still one;
    ``lens``: focal length, mm of a frame 24 mm high; 0 for a parallel view; ``film``: how a turn is written.

    Raises ViewError for what cannot be taken.
    """

    width: int = 1280
    height: int = 800
    eye: Triple = SIDES["iso left"]
    clear: bool = False
    floor: bool = False
    rays: bool = False
    frames: int = 1
    lens: float = 0.0
    film: Film = "GIF"

    def __post_init__(self) -> None:
        if not (LEAST <= self.width <= MOST and LEAST <= self.height <= MOST):
            raise ViewError("a picture of this size cannot be made", received=f"{self.width}x{self.height}",
                            rule=f"{LEAST} to {MOST} dots a side")  # fmt: skip
        if self.clear and self.floor:
            raise ViewError("a floor cannot be seen through", hint="either the floor or the clear ground")
        if not 1 <= self.frames <= MOST_FRAMES:
            raise ViewError(f"a turn has 2 to {MOST_FRAMES} pictures", received=str(self.frames))
        if self.lens and not SHORT <= self.lens <= LONG:
            raise ViewError("there is no such lens", received=f"{self.lens:g} mm",
                            rule=f"{SHORT:g} to {LONG:g} mm, or 0 for a parallel view")  # fmt: skip
        if not any(self.eye) or not all(map(math.isfinite, self.eye)):
            raise ViewError("a picture is taken from some side", received=str(self.eye))


def eye_of(told: str) -> Triple:
    """A side by its name, or ``x,y,z`` towards the eye. Raises ViewError."""
    bare = " ".join(told.lower().split())
    if bare in SIDES:
        return SIDES[bare]
    try:
        found: Sequence[float] = [float(v) for v in bare.split(",")]
    except ValueError:
        found = ()
    if len(found) != 3 or not any(found) or not all(map(math.isfinite, found)):
        raise ViewError("there is no such side", received=told, hint=f"{', '.join(SIDES)}, or 1,-1,0.5 towards the eye")
    return (found[0], found[1], found[2])


def lens_of(told: str) -> float:
    """A focal length from ``85 mm`` or ``parallel`` (0), mm. Raises ViewError."""
    bare = told.strip().lower().removesuffix("mm").strip()
    if bare in (PARALLEL, ""):
        return 0.0
    try:
        return float(bare.replace(",", "."))
    except ValueError:
        raise ViewError("a lens is told by its focal length", received=told, hint="85 mm, or parallel") from None


def size_of(told: str) -> tuple[int, int]:
    """Width and height from ``1280x800``, dots. Raises ViewError."""
    found = _SIZE.fullmatch(told)
    if found is None:
        raise ViewError("a picture's size is width x height, dots", received=told, hint="1280x800")
    return int(found[1]), int(found[2])
