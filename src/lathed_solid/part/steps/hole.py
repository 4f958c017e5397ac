"""Holes: one step for any number of like places on a flat face or a cylinder.

Plain, counterbored or spotfaced, countersunk, counterdrilled, tapped; through, blind or to a face; with a drill
point or a
flat bottom. Depths count from the face where the drill enters: on a cylinder from its nearest generator line.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from pydantic import Field

from lathed_solid.ledger import Probe
from lathed_solid.ledger.probe import ProbeKind
from lathed_solid.part.names import FaceName, renamed, steps_in
from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase, StepError
from lathed_solid.part.steps.hole_placement import (
    OnCircle,
    Places,
    ResolvedPlaces,
    how_many,
    place_fields,
    places_renumbered,
    places_stand_on,
    resolve_places,
)
from lathed_solid.part.steps.resolver import Resolver
from lathed_solid.part.steps.thread import form_of
from lathed_solid.standards import ThreadForm
from lathed_solid.standards.thread_limits import drill_for


@dataclass(frozen=True, slots=True)
class ResolvedHole:
    """All figures in mm and radians; ``depth`` None is through, or to the face ``until``.

    ``entry``: the widening at the mouth: a kind (cbore, csk, cdrill), its radius, its depth (cbore, cdrill), its
    included
    angle (csk, cdrill). ``thread``: designation, major radius, pitch, threaded depth (None: all the way), left.
    """

    radius: float
    depth: float | None
    until: str
    to_tip: bool
    point: float | None
    entry: tuple[tuple[str, float, float, float], ...]
    face: str
    places: ResolvedPlaces
    thread: tuple[str, float, float, float | None, bool] | None


class HoleStep(StepBase):
    """Cuts like holes into the face named ``face``.

    ``diameter`` may be empty in a tapped hole: the tap drill is taken then. A spotface is a counterbore of little
    depth.
    """

    kind: Literal["hole"] = "hole"
    diameter: Cell = ""
    depth: Cell | None = None
    depth_to: Literal["shoulder", "tip"] = "shoulder"
    until: str = Field(default="", max_length=400)
    point: Cell | None = "118°"
    cbore_diameter: Cell | None = None
    cbore_depth: Cell | None = None
    csk_diameter: Cell | None = None
    csk_angle: Cell = "90°"
    cdrill_diameter: Cell | None = None
    cdrill_depth: Cell | None = None
    thread: str = Field(default="", max_length=60)
    thread_depth: Cell | None = None
    face: FaceName
    places: Places = OnCircle()

    def title(self) -> str:
        n = how_many(self.places)
        many = f"{n} holes" if n and n > 1 else "Hole" if n else "Holes"
        if self.thread:
            many = f"{n}x {self.thread}" if n and n > 1 else self.thread
        end = f"to {self.until}" if self.until else "through" if self.depth is None else "blind"
        more = [w for w, on in (("counterbored", self.cbore_diameter), ("countersunk", self.csk_diameter),
                                ("counterdrilled", self.cdrill_diameter)) if on]  # fmt: skip
        return ", ".join([many, end, *more])

    def form(self) -> ThreadForm | None:
        """The thread's sizes, None for a plain hole. Raises StepError."""
        return form_of(self.thread)

    def resolve(self, evaluate: Resolver) -> ResolvedHole:
        """All figures. Raises StepError naming the field."""
        read = Reader(evaluate)
        form = self.form()
        if self.diameter or form is None:
            radius = read.size("diameter", self.diameter) / 2
        else:
            radius = drill_for(form).diameter / 2
        if form is not None and not form.minor * 0.9 < 2 * radius < form.major:
            raise StepError(
                f"⌀{2 * radius:.4g} is no drill for {self.thread}", where="diameter",
                rule=f"between the minor diameter {form.minor:.4g} and the major {form.major:.4g}",
            )  # fmt: skip
        depth = None if self.until else read.maybe("depth", self.depth)
        point = None if self.point is None or depth is None else read.any("point angle", self.point, "angle")
        if point is not None and not 0.1 < point < math.pi:
            raise StepError("the point angle must be between 6° and 180°", received=self.point)
        entry = self._entry(read, radius, depth)
        places = resolve_places(self.places, evaluate, max([radius, *(e[1] for e in entry)]))
        return ResolvedHole(
            radius, depth, self.until, self.depth_to == "tip", point, entry, self.face, places,
            self._thread(read, form, depth),
        )  # fmt: skip

    def _thread(
        self, read: Reader, form: ThreadForm | None, depth: float | None
    ) -> tuple[str, float, float, float | None, bool] | None:
        if form is None:
            return None
        threaded = read.maybe("thread depth", self.thread_depth)
        if threaded is not None and depth is not None and threaded > depth:
            raise StepError(f"the thread is {threaded:g} deep, its hole only {depth:g}", where="thread depth")
        return (form.designation, form.major / 2, form.pitch, threaded, form.left)

    def _entry(self, read: Reader, radius: float, depth: float | None) -> tuple[tuple[str, float, float, float], ...]:
        out: list[tuple[str, float, float, float]] = []
        if (self.cbore_diameter is None) != (self.cbore_depth is None):
            raise StepError("a counterbore needs a diameter and a depth", hint="fill in both or neither")
        if (self.cdrill_diameter is None) != (self.cdrill_depth is None):
            raise StepError("a counterdrill needs a diameter and a depth", hint="fill in both or neither")
        if self.cbore_diameter is not None and self.cbore_depth is not None:
            wide, deep = (
                read.size("counterbore diameter", self.cbore_diameter) / 2,
                read.size("counterbore depth", self.cbore_depth),
            )
            out.append(("cbore", wide, deep, math.pi))
        if self.cdrill_diameter is not None and self.cdrill_depth is not None:
            wide, deep = (
                read.size("counterdrill diameter", self.cdrill_diameter) / 2,
                read.size("counterdrill depth", self.cdrill_depth),
            )
            out.append(("cdrill", wide, deep, math.radians(118)))
        if self.csk_diameter is not None:
            wide = read.size("countersink diameter", self.csk_diameter) / 2
            out.append(("csk", wide, 0.0, read.angle("countersink angle", self.csk_angle, 10, 175)))
        if len(out) > 1:
            raise StepError("a hole has one widening at its mouth", hint="another hole step for the second")
        words = {"cbore": "counterbore", "cdrill": "counterdrill", "csk": "countersink"}
        for kind, wide, deep, _angle in out:
            if wide <= radius:
                raise StepError(
                    f"the {words[kind]} ⌀{2 * wide:g} is not wider than its hole ⌀{2 * radius:g}",
                    where=f"{words[kind]} diameter",
                )
            if depth is not None and deep >= depth:
                raise StepError(f"the {words[kind]} is as deep as the hole itself", where=f"{words[kind]} depth")
        return tuple(out)

    def stands_on(self) -> frozenset[int]:
        return (
            steps_in(self.face) | (steps_in(self.until) if self.until else frozenset()) | places_stand_on(self.places)
        )

    def renumbered(self, renumber: Mapping[int, int]) -> dict[str, Any]:
        until = renamed(self.until, renumber) if self.until else ""
        return {
            "face": renamed(self.face, renumber), "until": until, "places": places_renumbered(self.places, renumber),
        }  # fmt: skip

    def fields(self) -> tuple[FieldOf, ...]:
        n = self.number

        def probe(kind: ProbeKind, *faces: str) -> Probe:
            return Probe(kind=kind, faces=faces)

        wall, cbore = f"{n}/h*.wall", f"{n}/h*.cbore"
        out = []
        if self.diameter:
            out.append(FieldOf("hole diameter", self.diameter, "length", probe("diameter", wall)))
        if self.depth is not None:
            deepest = f"{n}/h*.tip" if self.depth_to == "tip" and self.point else wall
            out.append(FieldOf("hole depth", self.depth, "length", probe("depth", self.face, deepest)))
            if self.point is not None:
                out.append(FieldOf("point angle", self.point, "angle", probe("included", f"{n}/h*.tip")))
        if self.cbore_diameter is not None:
            out.append(FieldOf("counterbore diameter", self.cbore_diameter, "length", probe("diameter", cbore)))
        if self.cbore_depth is not None:
            out.append(FieldOf("counterbore depth", self.cbore_depth, "length", probe("depth", self.face, cbore)))
        if self.cdrill_diameter is not None:
            shown = probe("diameter", f"{n}/h*.cdrill")
            out.append(FieldOf("counterdrill diameter", self.cdrill_diameter, "length", shown))
        if self.cdrill_depth is not None:
            shown = probe("depth", self.face, f"{n}/h*.cdrill")
            out.append(FieldOf("counterdrill depth", self.cdrill_depth, "length", shown))
        if self.csk_diameter is not None:
            out.append(FieldOf("countersink diameter", self.csk_diameter, "length", probe("mouth", f"{n}/h*.csk")))
            out.append(FieldOf("countersink angle", self.csk_angle, "angle", probe("included", f"{n}/h*.csk")))
        if self.thread_depth is not None:
            out.append(FieldOf("thread depth", self.thread_depth, "length", probe("thread_length", wall)))
        return (*out, *place_fields(self.places, wall, self.face))
