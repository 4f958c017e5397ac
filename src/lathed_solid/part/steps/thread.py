"""A thread on a cylinder or in a bore: drawn as a symbol with its data carried, or cut as a real helix.

External or internal by the face it is put on. The stretch starts at an end of the cylinder: the one named by the flat
face ``start``, or the one nearer to the body's own end.
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass
from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.ledger import Probe
from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase, StepError
from lathed_solid.part.steps.resolver import Resolver
from lathed_solid.part.steps.rounded import rounded
from lathed_solid.quantity.tolerances import ROUNDING
from lathed_solid.standards import StandardError, ThreadForm, thread_form


@dataclass(frozen=True, slots=True)
class ResolvedThread:
    """mm and rad. ``profile``: (z, depth below the major cylinder) corners over one pitch, for a free profile."""

    face: str
    start: str
    designation: str
    major: float
    pitch: float
    starts: int
    left: bool
    screw_depth: float
    nut_depth: float
    flank: float
    length: float | None
    real: bool
    lead_in: bool
    run_out: bool
    profile: tuple[tuple[float, float], ...]


def form_of(designation: str) -> ThreadForm | None:
    """A thread's sizes, None without a designation. Raises StepError for one that is not known."""
    if not designation:
        return None
    try:
        return thread_form(designation)
    except StandardError as exc:
        raise StepError(exc.what, where="thread", received=designation, hint=exc.hint) from None


class ThreadStep(StepBase):
    """``designation``: M18x1.5, 5/16-18 UNC, G1/4, Tr20x4, with LH for left hand; empty for a free profile.

    ``profile``: rows of (z, depth) over one ``pitch``, depth from the cylinder's surface; a third cell rounds the
    corner that stands there.
    """

    NAMES: ClassVar[tuple[str, ...]] = ("face", "start")

    kind: Literal["thread"] = "thread"
    face: str = Field(min_length=1, max_length=400)
    start: str = Field(default="", max_length=400)
    designation: str = Field(default="", max_length=60)
    length: Cell | None = None
    real: bool = False
    lead_in: bool = True
    run_out: bool = True
    starts: int = Field(default=1, ge=1, le=12)
    left: bool = False
    pitch: Cell | None = None
    profile: tuple[tuple[Cell, Cell] | tuple[Cell, Cell, Cell], ...] = Field(default=(), max_length=40)

    def title(self) -> str:
        what = self.designation or "Thread of a free profile"
        return f"{what}, {'real' if self.real else 'drawn'}"

    def form(self) -> ThreadForm | None:
        """The thread's sizes, None for a free profile. Raises StepError."""
        return form_of(self.designation)

    def resolve(self, evaluate: Resolver) -> ResolvedThread:
        """All figures. Raises StepError."""
        read, form = Reader(evaluate), self.form()
        length = read.maybe("length", self.length)
        if form is not None:
            return ResolvedThread(
                self.face, self.start, form.designation, form.major, form.pitch, max(self.starts, form.starts),
                form.left or self.left, form.screw_depth, form.nut_depth, form.angle / 2, length, self.real,
                self.lead_in, self.run_out, (),
            )  # fmt: skip
        if self.pitch is None or len(self.profile) < 3:
            raise StepError("a thread needs a designation, or a pitch and a profile", where="thread",
                            hint="M8, or three rows of z and depth")  # fmt: skip
        pitch = read.size("pitch", self.pitch)
        drawn = tuple((read.any("profile z", r[0]), read.any("profile depth", r[1])) for r in self.profile)
        radii = [read.any("profile radius", r[2]) if len(r) > 2 and r[2] else 0.0 for r in self.profile]
        rising = all(b[0] > a[0] + ROUNDING for a, b in itertools.pairwise(drawn))
        if (
            not rising
            or abs(drawn[0][0]) > ROUNDING
            or abs(drawn[-1][0] - pitch) > ROUNDING
            or drawn[0][1] != drawn[-1][1]
        ):
            raise StepError("the profile must run from z = 0 to one pitch and end at the depth it began with",
                            where="profile")  # fmt: skip
        rows = rounded(drawn, radii)
        depth = max(d for _, d in rows)
        if min(d for _, d in rows) < 0 or depth <= 0:
            raise StepError("the profile's depths count from the cylinder inwards", where="profile")
        return ResolvedThread(
            self.face, self.start, f"{pitch:g} pitch", 0.0, pitch, self.starts, self.left, depth, depth,
            math.pi / 6, length, self.real, self.lead_in, self.run_out, rows,
        )  # fmt: skip

    def fields(self) -> tuple[FieldOf, ...]:
        real = f"{self.number}/ring.helix"
        out = []
        if self.length is not None:
            shown = Probe(kind="real_length", faces=(real,)) if self.real else (
                Probe(kind="thread_length", faces=(self.face,)))  # fmt: skip
            out.append(FieldOf("thread length", self.length, "length", shown))
        if self.pitch is not None:
            out.append(
                FieldOf("pitch", self.pitch, "length", Probe(kind="pitch", faces=(real,)) if self.real else None)
            )
        return tuple(out)
