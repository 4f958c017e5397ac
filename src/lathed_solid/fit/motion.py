"""Moving what is loose: by a number, through a travel, under the hand.

A travel is walked in small steps, each begun where the last two lead, so that a linkage passes its dead points as it
came and never turns over onto its other branch; a step in which something moves further than the number explains is
halved. Under the hand the grabbed place is pulled softly to the pointer (one more equation, of little weight), then
the relations alone are made good.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field

import numpy as np

from lathed_solid.fit.assemble import Assembled, PartFeatures, assemble
from lathed_solid.fit.document import Drive, Fit
from lathed_solid.fit.equations import Equation, drive_owner
from lathed_solid.fit.errors import FitError
from lathed_solid.fit.placement import Array, Placement
from lathed_solid.fit.solve import Solution, led_on, solve
from lathed_solid.fit.system import Poses, System

#: the longest step of a travel: a turn in rad, a slide as a share of the fit's size
TURN_STEP, SLIDE_STEP = math.radians(6), 0.05
#: halvings of a step before the travel is given up
HALVINGS = 10
#: steps that one travel may have
MOST_STEPS = 20_000
#: how much less than a relation the hand counts
PULL = 0.05


@dataclass(frozen=True)
class Frame:
    """One moment of a travel: the driven ``value`` (rad, mm) and where all members stand."""

    value: float
    placements: dict[str, Placement] = field(repr=False)


@dataclass(frozen=True)
class Travel:
    """``frames`` in order; ``stopped``: why it went no further, empty where it went all the way."""

    drive: Drive
    frames: tuple[Frame, ...] = field(repr=False)
    stopped: str = ""


def with_drive(fit: Fit, drive: Drive) -> tuple[Fit, int]:
    """The fit with a freedom driven, in place of the same one driven before; and its place among the drives."""
    same = (drive.member, drive.base, drive.kind, drive.origin, drive.direction)
    kept = [d for d in fit.drives if (d.member, d.base, d.kind, d.origin, d.direction) != same]
    return fit.model_copy(update={"drives": (*kept, drive)}), len(kept)


def sweep(fit: Fit, features: PartFeatures, drive: Drive, start: float, stop: float, steps: int) -> Travel:
    """Drive a freedom from ``start`` to ``stop`` (rad, mm) and stand still ``steps`` + 1 times. Raises FitError for an
    absurd travel, or where the start cannot be reached.
    """
    if not (math.isfinite(start) and math.isfinite(stop)):
        raise FitError("a travel that is no number", received=(start, stop))
    if not 1 <= steps <= MOST_STEPS:
        raise FitError("an impossible number of steps", rule=f"1 to {MOST_STEPS}", received=steps)
    driven, index = with_drive(fit, drive)
    found = assemble(driven, features)
    walker = Walker(found, index)
    if not walker.to(start):
        raise FitError(f"{drive.member} does not come to the beginning of the travel", received=start,
                       rule=walker.reason)  # fmt: skip
    frames = [Frame(start, found.placements(walker.now))]
    for k in range(1, steps + 1):
        value = start + (stop - start) * k / steps
        if not walker.to(value):
            return Travel(drive, tuple(frames), f"at {_told(drive, walker.value)}: {walker.reason}")
        frames.append(Frame(value, found.placements(walker.now)))
    return Travel(drive, tuple(frames))


def _told(drive: Drive, value: float) -> str:
    return f"{math.degrees(value):.4g}°" if drive.kind == "turn" else f"{value:.4g} mm"


class Walker:
    """Leads one driven number of an assembled fit, in small steps. Not for several threads."""

    def __init__(self, found: Assembled, index: int) -> None:
        """``index``: which of the fit's drives. Where it stands is where the walk begins."""
        self.found, self._owner = found, drive_owner(index)
        self.system: System = found.system
        drive = found.fit.drives[index]
        self._longest = TURN_STEP if drive.kind == "turn" else SLIDE_STEP * self.system.size
        self._scale = self.system.size if drive.kind == "turn" else 1.0
        self.now: Poses = self.system.start
        self._last: Poses | None = None
        self._stride = 0.0
        self.reason = ""
        self.value = self._standing()
        self._settle()

    def _standing(self) -> float:
        """The number as things stand."""
        self.system.with_values({self._owner: 0.0})
        r, _ = self.system.evaluate(self.now)
        row = self.system.owners.index(self._owner)
        return float(r[row]) / self._scale

    def _settle(self) -> None:
        self.system.with_values({self._owner: self.value})
        found = solve(self.system, self.now)
        if found.ok:
            self.now = found.poses
        self.reason = found.reason

    def to(self, value: float) -> bool:
        """Lead the number there; False (and ``reason``) where it cannot go, ``value`` is then how far it came."""
        count = max(1, math.ceil(abs(value - self.value) / self._longest - 1e-9))
        if count > MOST_STEPS:
            self.reason = "too far a travel"
            return False
        first = self.value
        return all(self._step(first + (value - first) * k / count, HALVINGS) for k in range(1, count + 1))

    def _step(self, value: float, halvings: int) -> bool:
        self.system.with_values({self._owner: value})
        stride = value - self.value
        # the last step again, where it was about as long
        same = self._last is not None and stride and 0.5 < self._stride / stride < 2.0
        found = self._found(led_on(self._last, self.now) if same else self.now, stride)
        if found is None and same:
            found = self._found(self.now, stride)
        if found is None:
            if halvings and abs(stride) > 1e-12:
                half = (self.value + value) / 2
                return self._step(half, halvings - 1) and self._step(value, halvings - 1)
            self.system.with_values({self._owner: self.value})
            self.reason = self.reason or "it goes no further"
            return False
        self._last, self.now, self.value, self._stride = self.now, found.poses, value, stride
        return True

    def _found(self, start: Poses, stride: float) -> Solution | None:
        found = solve(self.system, start)
        if not found.ok:
            self.reason = found.reason
            return None
        # nothing leaps: a linkage that turns over moves much further than it is driven
        far = self._far(found.poses)
        if far > max(6 * abs(stride) * self._scale, 0.3 * self.system.size) and abs(stride) > 1e-9:
            self.reason = "it would leap to another way of standing"
            return None
        return found

    def _far(self, poses: Poses) -> float:
        """How far any body's middle or its frame's ends move, mm."""
        system = self.system
        ends = np.concatenate([np.zeros((1, 3)), np.eye(3) * system.size])
        places = system.middle[:, None] + ends[None]
        was, now = (p.at[:, None] + np.einsum("nij,nkj->nki", p.turn, places) for p in (self.now, poses))
        return float(np.abs(now - was).max(initial=0.0))


class Grip:
    """A member in the hand: a place of it is pulled about, and all that hangs on it follows as far as it is free."""

    def __init__(self, fit: Fit, features: PartFeatures, member: str, grabbed: Array) -> None:
        """``grabbed``: the place in the room (3,), mm. Raises FitError when the member stands fast."""
        self.found = assemble(fit, features)
        body = self.found.body_of[member][0]
        if body == 0:
            raise FitError(f"{member} is held in the room", hint="let go of it first, or move another")
        system, poses = self.found.system, self.found.system.start
        there = poses.turn[body].T @ (np.asarray(grabbed, float) - poses.at[body])
        _, turn, at = self.found.body_of[member]
        none = np.zeros(3)
        pull = Equation(0, "point", member, "", turn.T @ (there - at), none, np.asarray(grabbed, float),
                        np.array([0.0, 0.0, 1.0]), np.array([1.0, 0.0, 0.0]))  # fmt: skip
        self.system = system
        self._pulled = System([*system.equations, pull], self.found.body_of, system.count, poses)
        self._pulled.weight = np.where(np.array(self._pulled.owners) == 0, PULL, 1.0)
        self.now = poses

    def to(self, place: Array) -> dict[str, Placement]:
        """The pointer is at ``place`` (3,), mm: where everything stands then."""
        self._pulled.aim(np.asarray(place, float))
        led = solve(self._pulled, self.now, most=3, damping=1e-7)
        clean = solve(self.system, led.poses, most=8, tolerance=1e-11)
        if clean.ok:
            self.now = clean.poses
        return self.found.placements(self.now)
