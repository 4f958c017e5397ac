"""Standard parts made on the spot from tables: screws, bolts, nuts, washers, pins, keys, rings, bearings.

Each is a part like any other, turned about X, its head or left face at x = 0 and the shank to the right, with the
sizes that fits are judged by as callouts. Threads are drawn as symbols, or cut as real helices when asked for. Left
out, since the tables have them not: sockets of heads, the gap and ears of rings, the inside of bearings.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from dataclasses import dataclass

from lathed_solid.ledger import Probe
from lathed_solid.part.document import Document, DocumentError
from lathed_solid.part.edits import add_note, changed, next_number, put_callout, put_step
from lathed_solid.part.steps import KINDS, DatumPlane, SketchStep, StepBase, TurnedStep
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.compound_shapes import slot
from lathed_solid.standards import StandardError, thread_form
from lathed_solid.standards.csv_tables import rows
from lathed_solid.standards.machine import bearing, fastener, ring_groove
from lathed_solid.turned import Bore, BoreStep, Edge, Station, Taper, TurnedTable

#: of a ring's groove its play beside the ring, mm, by the groove's width (DIN 471, DIN 472: m less s)
_PLAY = ((1.05, 0.1), (3.3, 0.1), (99.0, 0.15))
#: how far a plain ring stands out of its groove, as a share of the shaft, and at least, mm
_RING, _LEAST_RING = 0.09, 0.8

_NUMBERS = {
    "ISO 4014": "hexagon bolt", "ISO 4017": "hexagon screw", "ISO 4762": "socket head screw", "ISO 4032": "hexagon nut",
    "ISO 7089": "washer", "ISO 2338": "parallel pin", "ISO 2339": "taper pin", "DIN 471": "ring",
    "DIN 472": "bore ring", "ISO 2491": "key", "DIN 6885": "key", "ISO 15": "bearing",
}  # fmt: skip
_SHORT = {"screw": "hexagon screw", "bolt": "hexagon bolt", "cap screw": "socket head screw", "nut": "hexagon nut",
          "pin": "parallel pin"}  # fmt: skip
_SIZE = r"(\d+(?:[.,]\d+)?)"
_SHAPES = {
    "threaded": re.compile(rf"M\s*{_SIZE}(?:\s*[x×]\s*{_SIZE})?(?:\s*[x×]\s*{_SIZE})?", re.I),
    "sized": re.compile(rf"[MØ⌀]?\s*{_SIZE}(?:\s*[x×]\s*{_SIZE})?(?:\s*[x×]\s*{_SIZE})?", re.I),
}


@dataclass(frozen=True)
class Wanted:
    """A designation read: its kind, its one to three numbers (mm), and whether its thread is to be real."""

    kind: str
    numbers: tuple[float, ...]
    real: bool
    text: str


def kinds() -> tuple[str, ...]:
    """The kinds there are, as they may be said."""
    return tuple(_MAKERS)


def standard_part(designation: str) -> Document:
    """The part of a designation: ``hexagon screw M8x30``, ``ISO 4032 M8``, ``washer M8``, ``parallel pin 6x30``,
    ``key 8x7x40``, ``ring 25``, ``bearing 6204``; with ``real`` its thread is cut. Raises DocumentError for what is not
    read, StandardError for what is not in the tables.
    """
    wanted = read_designation(designation)
    return _MAKERS[wanted.kind](wanted)


def read_designation(text: str) -> Wanted:
    """A designation as what it asks for. Raises DocumentError."""
    bare = " ".join(re.sub(r"\s-\s", " ", text).split())
    real = bool(re.search(r"\breal\b", bare, re.I))
    bare = re.sub(r"\breal\b", "", bare, flags=re.I).strip()
    number = next((n for n in _NUMBERS if bare.upper().startswith(n + " ")), "")
    rest = bare[len(number) :].strip()
    kind = _NUMBERS.get(number, "")
    low = rest.lower()
    named = next((n for n in sorted((*_MAKERS, *_SHORT), key=len, reverse=True) if low.startswith(n)), "")
    if named:
        kind, rest = _SHORT.get(named, named), rest[len(named) :].strip()
    if not kind:
        raise DocumentError("this is no standard part", received=text, hint=", ".join(f"{k} ..." for k in _MAKERS))
    threaded = kind in _THREADED
    found = _SHAPES["threaded" if threaded else "sized"].fullmatch(rest)
    if found is None:
        raise DocumentError(f"the size of a {kind} is not read", received=text, hint=_LIKE[kind])
    numbers = tuple(float(n.replace(",", ".")) for n in found.groups() if n)
    return Wanted(kind, numbers, real, bare)


def _named(name: str) -> Document:
    return changed(Document(), name=name)


def _turned(part: Document, *stations: Station, bores: tuple[Bore, ...] = ()) -> Document:
    table = TurnedTable(stations=stations, bores=bores)
    return put_step(part, TurnedStep(number=next_number(part), table=table))


def _step(part: Document, kind: str, **fields: object) -> Document:
    made: StepBase = KINDS[kind](number=next_number(part), **fields)
    return put_step(part, made)


def _mm(x: float) -> str:
    return f"{x:.6g} mm"


def _pitch(wanted: Wanted, given: float | None) -> tuple[str, float, float]:
    """A thread's designation, major diameter and pitch, mm."""
    size = f"M{wanted.numbers[0]:g}"
    form = thread_form(size if given is None else f"{size}x{given:g}")
    return form.designation, form.major, form.pitch


def _length(wanted: Wanted) -> tuple[float | None, float]:
    """A pitch where one is said, and the length: ``M8x30``, ``M8x1x30``."""
    if len(wanted.numbers) < 2 or not wanted.numbers[-1] > 0:
        raise DocumentError(f"how long is the {wanted.kind}?", received=wanted.text, hint=_LIKE[wanted.kind])
    return (wanted.numbers[1] if len(wanted.numbers) == 3 else None), wanted.numbers[-1]


def _screw(wanted: Wanted) -> Document:
    """A head, round or with a hexagon, and a shank that is threaded as the kind has it."""
    given, length = _length(wanted)
    thread, major, pitch = _pitch(wanted, given)
    found = fastener(wanted.kind, f"M{wanted.numbers[0]:g}")
    width, height = float(found["width_mm"]), float(found["height_mm"])
    hexagon = wanted.kind.startswith("hexagon")
    across = width / math.cos(math.pi / 6) if hexagon else width
    part = _named(f"{wanted.kind} {thread}x{length:g}{' real' * wanted.real}")
    head = Station(
        key="A", diameter=_mm(across), length=_mm(height), left=_bevelled(across, width) if hexagon else None
    )
    end = Edge(kind="chamfer", size=_mm(min(0.6 * pitch, length / 4)))
    part = _turned(part, head, Station(key="B", diameter=_mm(major), length=_mm(length), right=end))
    if hexagon:
        part = _step(part, "flats", face="10/sA", from_face="10/shoulder.A", across=_mm(width), length=None, sides=6)
    stretch = 2 * major + (6 if length <= 125 else 12)
    if wanted.kind == "hexagon screw" or stretch > length - 3 * pitch:
        stretch = length - 3 * pitch  # up to the head but for its run-out
    return _step(part, "thread", face="10/sB", start="10/face.right", designation=thread, length=_mm(stretch),
                 real=wanted.real)  # fmt: skip


def _bevelled(across: float, width: float) -> Edge:
    """The corners of a hexagon taken off at 30 degrees down to 0.95 of its width."""
    return Edge(kind="chamfer", size=_mm((across - 0.95 * width) / 2 * math.tan(math.pi / 6)), angle="60°")


def _nut(wanted: Wanted) -> Document:
    given = wanted.numbers[1] if len(wanted.numbers) > 1 else None
    thread, _, _ = _pitch(wanted, given)
    form = thread_form(thread)
    found = fastener("hexagon nut", f"M{wanted.numbers[0]:g}")
    width, height = float(found["width_mm"]), float(found["height_mm"])
    across = width / math.cos(math.pi / 6)
    bore = form.major - 2 * form.nut_depth
    both = _bevelled(across, width)
    part = _turned(
        _named(f"hexagon nut {thread}{' real' * wanted.real}"),
        Station(key="A", diameter=_mm(across), length=_mm(height), left=both, right=both),
        bores=(Bore(end="right", steps=(BoreStep(diameter=_mm(bore)),)),),
    )  # fmt: skip
    part = _step(part, "flats", face="10/sA", from_face="10/face.right", across=_mm(width), length=None, sides=6)
    return _step(part, "thread", face="10/bore.right.1", start="10/face.left", designation=thread, real=wanted.real)


def _washer(wanted: Wanted) -> Document:
    found = fastener("washer", f"M{wanted.numbers[0]:g}")
    width, height, hole = (float(found[n]) for n in ("width_mm", "height_mm", "hole_mm"))
    return _turned(_named(f"washer M{wanted.numbers[0]:g}"), Station(key="A", diameter=_mm(width), length=_mm(height)),
                   bores=(Bore(end="right", steps=(BoreStep(diameter=_mm(hole)),)),))  # fmt: skip


def _pin(wanted: Wanted) -> Document:
    _, length = _length(wanted)
    d = wanted.numbers[0]
    kind = "taper pin 1:50" if wanted.kind == "taper pin" else wanted.kind
    found = next((r for r in rows("pins") if r["kind"] == kind and float(r["diameter_mm"]) == d), None)
    if found is None:
        raise StandardError(f"no {wanted.kind} of {d:g} is in the tables",
                            hint=", ".join(r["diameter_mm"] for r in rows("pins") if r["kind"] == kind))  # fmt: skip
    part = _named(f"{wanted.kind} {d:g}x{length:g}")
    if wanted.kind == "taper pin":
        taper = Taper(kind="diameter", value=_mm(d + length / 50), rises=True)
        return _turned(part, Station(key="A", diameter=_mm(d), length=_mm(length), taper=taper))
    part = add_note(part, f"Ø{d:g} {found['tolerance']}", source="standard")
    callout = part.callout(1)
    assert callout is not None
    part = put_callout(part, changed(callout, drive="middle"))
    edge = Edge(kind="chamfer", size=_mm(float(found["chamfer_mm"])))
    return _turned(part, Station(key="A", diameter="#1", length=_mm(length), left=edge, right=edge))


def _key(wanted: Wanted) -> Document:
    """A parallel key with round ends, width and height by its numbers; its length along X, its foot at z = 0."""
    if len(wanted.numbers) == 2:
        width, length = wanted.numbers
        height = next((float(r["height_mm"]) for r in rows("keys") if float(r["width_mm"]) == width), 0.0)
    elif len(wanted.numbers) == 3:
        width, height, length = wanted.numbers
    else:
        width = height = length = 0.0
    if not (0 < width < length and height > 0):
        raise DocumentError("the size of a key is not read", received=wanted.text, hint=_LIKE["key"])
    part = _named(f"key {width:g}x{height:g}x{length:g}")
    part = add_note(part, f"{width:g} h9", source="standard")
    part = add_note(part, f"{height:g} h11", source="standard")
    draft = SketchBuilder()
    slot(draft, (width / 2, 0.0), (length - width / 2, 0.0), width / 2)
    part = put_step(part, SketchStep(number=10, plane=DatumPlane(plane="XY"), sketch=draft.done()))
    part = _step(part, "extrude", sketch=10, distance="#2")
    sides = Probe(kind="distance", faces=("20/l1", "20/l2"))
    callout = part.callout(1)
    assert callout is not None
    return put_callout(part, changed(callout, measure=sides))


def _ring(wanted: Wanted) -> Document:
    """A plain ring in its groove: as thick as the groove is wide, less its play."""
    inside = wanted.kind == "bore ring"
    d = wanted.numbers[0]
    groove, width = ring_groove(d, inside=inside)
    thick = width - next(play for most, play in _PLAY if width <= most)
    deep = max(_RING * d, _LEAST_RING)
    outer, inner = (groove, groove - 2 * deep) if inside else (groove + 2 * deep, groove)
    part = add_note(_named(f"{wanted.kind} {d:g}"), f"{thick:g} 0/-0.06", source="standard")
    return _turned(part, Station(key="A", diameter=_mm(outer), length="#1"),
                   bores=(Bore(end="right", steps=(BoreStep(diameter=_mm(inner)),)),))  # fmt: skip


def _bearing(wanted: Wanted) -> Document:
    """Both rings and what is between as one body: its boundary sizes alone are known."""
    found = bearing(f"{wanted.numbers[0]:g}")
    bore, outside, width = (float(found[n]) for n in ("bore_mm", "outside_mm", "width_mm"))
    round_ = Edge(kind="radius", size=_mm(min(1.0, width / 10)))
    return _turned(_named(f"bearing {wanted.numbers[0]:g}"),
                   Station(key="A", diameter=_mm(outside), length=_mm(width), left=round_, right=round_),
                   bores=(Bore(end="right", steps=(BoreStep(diameter=_mm(bore)),)),))  # fmt: skip


_MAKERS: dict[str, Callable[[Wanted], Document]] = {
    "hexagon screw": _screw, "hexagon bolt": _screw, "socket head screw": _screw, "hexagon nut": _nut,
    "washer": _washer, "parallel pin": _pin, "hardened parallel pin": _pin, "taper pin": _pin, "key": _key,
    "ring": _ring, "bore ring": _ring, "bearing": _bearing,
}  # fmt: skip
_THREADED = ("hexagon screw", "hexagon bolt", "socket head screw", "hexagon nut")
_LIKE = {
    "hexagon screw": "hexagon screw M8x30", "hexagon bolt": "hexagon bolt M10x60",
    "socket head screw": "socket head screw M6x20", "hexagon nut": "hexagon nut M8", "washer": "washer M8",
    "parallel pin": "parallel pin 6x30", "hardened parallel pin": "hardened parallel pin 6x30",
    "taper pin": "taper pin 5x40", "key": "key 8x7x40", "ring": "ring 25", "bore ring": "bore ring 47",
    "bearing": "bearing 6204",
}  # fmt: skip
