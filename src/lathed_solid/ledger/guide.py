"""What to measure next, with which of the four ways, and why; for a caliper log in any state.

A reading is worth most where it tells something about others: first what is at odds, then what closes a chain (the sum
checks all of it), then what has tight limits, then whatever drives the model. A size read once says nothing of its
scatter. Where the instrument's uncertainty is more than a third of a size's tolerance it cannot decide the size
(ISO 14253-2 speaks of a tenth to a third): said as a caution.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from lathed_solid.ledger.callouts import Callout
from lathed_solid.ledger.limits import Limits
from lathed_solid.ledger.readings import Instrument, Reading, Way
from lathed_solid.ledger.roles import OF_HOLES, OF_THREADS

#: repeats that tell a scatter
ENOUGH = 3
#: the largest share of a tolerance that an uncertainty may be
SHARE = 1 / 3
#: limits as tight as this are measured early, mm
TIGHT = 0.06


@dataclass(frozen=True, slots=True)
class Next:
    """A size to measure: which, which way, why; ``caution`` empty when there is none."""

    balloon: int
    way: Way
    reason: str
    caution: str = ""


def way_for(callout: Callout) -> Way:
    """The way a person would take for this size."""
    if callout.kind == "depth":
        return "depth"
    if callout.kind == "diameter":
        return "inside" if callout.role in OF_HOLES else "outside"
    return "step" if callout.kind == "length" else "outside"


def next_readings(
    callouts: Sequence[Callout],
    readings: Mapping[int, Reading],
    limits: Mapping[int, Limits],
    *,
    loops: Sequence[tuple[int, ...]] = (),
    suspects: Sequence[int] = (),
    used: frozenset[int] = frozenset(),
    instrument: Instrument | None = None,
) -> tuple[Next, ...]:
    """Sizes to measure, the most telling first.

    ``loops``: balloons of each closed chain; ``suspects``: readings at odds; ``used``: callouts that drive the model.
    Angles, radii, chamfers, and references that close nothing are left out.
    """
    held = instrument or Instrument()
    found: list[tuple[int, int, Next]] = []
    closing = {
        b: loop for loop in loops for b in loop if sum(k not in readings for k in loop) == 1 and b not in readings
    }
    for callout in callouts:
        balloon = callout.balloon
        reading = readings.get(balloon)
        bounds = limits.get(balloon)
        width = None if bounds is None or bounds.low is None or bounds.high is None else bounds.high - bounds.low
        caution = _caution(callout, width, reading.instrument if reading else held)
        way = way_for(callout)
        if balloon in suspects:
            other = _other_way(reading.way if reading else way, callout)
            found.append((0, balloon, Next(balloon, other, "at odds with the chain: once more, another way", caution)))
        elif reading is not None:
            if len(reading.repeats) < ENOUGH and balloon in used:
                more = ENOUGH - len(reading.repeats)
                words = f"{len(reading.repeats)} repeat{'s' if len(reading.repeats) > 1 else ''} only: {more} more tell"
                found.append((4, balloon, Next(balloon, reading.way, f"{words} the scatter", caution)))
        elif callout.kind not in ("diameter", "length", "depth"):
            continue
        elif balloon in closing:
            others = ", ".join(str(b) for b in closing[balloon] if b != balloon)
            found.append(
                (1, balloon, Next(balloon, way, f"closes the chain with {others}: it checks them all", caution))
            )
        elif callout.reference:
            continue
        elif width is not None and width <= TIGHT and callout.kind == "diameter":
            found.append((2, balloon, Next(balloon, way, "tight limits: a fit depends on it", caution)))
        elif balloon in used:
            found.append((3, balloon, Next(balloon, way, "drives the model, and is not measured", caution)))
        else:
            found.append((5, balloon, Next(balloon, way, "not measured", caution)))
    return tuple(n for _, _, n in sorted(found, key=lambda f: f[:2]))


def _other_way(way: Way, callout: Callout) -> Way:
    if callout.kind == "diameter":
        return way
    return {"step": "depth", "depth": "step", "outside": "depth", "inside": "inside"}[way]  # type: ignore[return-value]


def _caution(callout: Callout, width: float | None, instrument: Instrument) -> str:
    words = []
    u = Reading(balloon=1, way="outside", repeats=(1.0,), instrument=instrument).uncertainty
    if width is not None and callout.kind != "angle" and u > SHARE * width:
        words.append(f"± {u:.3f} mm is too coarse for limits {width:.3g} mm apart: a micrometer decides")
    if callout.role == "bolt circle":
        words.append("the gap between two holes opposite each other, plus both radii")
    elif way_for(callout) == "inside" and callout.nominal < 10:
        words.append("small bores read low by the flats of the jaws: a pin or a drill shank tells better")
    if callout.role in OF_THREADS:
        words.append("over the crests: a thread reads a little under its nominal; take the pitch by gauge")
    return "; ".join(words)


#: where there is nothing yet: what a person measures first
FIRST_TURNED = (
    "overall length, outside jaws along the axis: it checks all the steps",
    "every outside diameter from the left, three times, turned a third each time",
    "shoulders from the left face by the depth rod: their errors do not add up",
    "bores and their depths, grooves by the inside jaws' tips, then threads (crests and gauge)",
)
FIRST_MILLED = (
    "overall length, width and height, outside jaws: the envelope checks the rest",
    "holes by their diameters, then the gap between two plus both radii: their centre distance",
    "each hole's edge distance plus its radius: its place from the edges",
    "pockets and steps by the depth rod, slots by the inside jaws",
)
