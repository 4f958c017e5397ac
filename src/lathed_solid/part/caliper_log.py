"""The caliper log of a document: which nominals its readings suggest, and taking one over.

All readings of a part are judged together (``ledger.snapping``): a part is made in millimetres or in inches.
"""

from __future__ import annotations

from collections.abc import Sequence

from lathed_solid.ledger import Callout, Reading, Way, callouts_from_note
from lathed_solid.ledger.combining import Sum, sums_with
from lathed_solid.ledger.guide import Next, next_readings
from lathed_solid.ledger.readings import SIZES, Instrument, Role, Taken
from lathed_solid.ledger.roles import OF_THREADS
from lathed_solid.ledger.snapping import Candidate, ReadSize, System, snap
from lathed_solid.part.document import Document, DocumentError
from lathed_solid.part.edits import changed, next_balloon, put_callout, put_reading
from lathed_solid.quantity.formatting import length

#: a nominal is taken over unasked when it is as probable as this; else the size stays as measured
SURE = 0.6
#: what a sheet's unit says beforehand about the part's
PRIOR = 0.9


def role_of(callout: Callout, way: Way) -> Role | None:
    """What kind of size a callout is; None for what is not snapped."""
    if callout.kind == "diameter":
        return "inside" if way == "inside" else "outside"
    return "length" if callout.kind in ("length", "depth") else None


Found = list[Candidate]


def suggestions(document: Document, extra: Sequence[ReadSize] = ()) -> tuple[dict[int, Found], list[Found]]:
    """Candidates for every reading of a diameter, length or depth by balloon, and for ``extra`` sizes."""
    balloons, sizes = [], []
    for reading in document.readings:
        callout = document.callout(reading.balloon)
        role = role_of(callout, reading.way) if callout is not None else None
        if role is not None and (callout is None or callout.role not in OF_THREADS):
            balloons.append(reading.balloon)
            sizes.append(ReadSize.of(role, reading))
    other: System = "inch" if document.unit == "mm" else "metric"
    own: System = "metric" if document.unit == "mm" else "inch"
    found = snap([*sizes, *extra], prior={own: PRIOR, other: 1 - PRIOR})
    return dict(zip(balloons, found, strict=False)), found[len(balloons) :]


def adopt(document: Document, balloon: int, text: str) -> Document:
    """The callout takes a nominal, written as ``text`` (``25``, ``63/64 in``, ``M20x1.5``); its reading stays."""
    old = document.callout(balloon)
    if old is None:
        raise DocumentError(f"there is no callout {balloon}")
    note = text if text[:1].isalpha() or "-" in text else f"⌀{text}" if old.kind == "diameter" else text
    new = callouts_from_note(note, balloon, document.unit, source="caliper log")[0]
    told = new if note == text else old
    kept = {"kind": old.kind, "role": told.role, "meaning": told.meaning, "duties": told.duties,
            "measure": old.measure, "count": old.count}  # fmt: skip
    return put_callout(document, changed(new, **kept))


def log_size(document: Document, size: str, repeats: tuple[float, ...], instrument: Instrument) -> tuple[Document, str]:
    """A new callout from a measured size (a key of ``SIZES``), by its likely nominal or as measured; and in words."""
    role, way = SIZES[size]
    balloon = next_balloon(document)
    reading = Reading(balloon=balloon, way=way, repeats=repeats, instrument=instrument)
    document, words = _named(document, role, reading)
    callout = document.callout(balloon)
    if size == "depth" and callout is not None:
        document = put_callout(document, changed(callout, kind="depth", role="depth", meaning="depth"))
    return document, words


def _named(document: Document, role: Role, reading: Reading) -> tuple[Document, str]:
    """With a callout for a reading, by its likely nominal or as measured."""
    (found,) = suggestions(document, [ReadSize.of(role, reading)])[1]
    best = found[0] if found and found[0].share >= SURE else None
    sign = "⌀" if role != "length" else ""
    note = sign + (best.text if best else length(reading.mean, document.unit))
    callout = callouts_from_note(note, reading.balloon, document.unit, source="caliper log")[0]
    if best is None:
        callout = changed(callout, drive="measured")
    words = f"{note}: {best.reason}, {best.share:.0%}" if best else f"{note}: as measured, no usual size is near"
    return put_reading(put_callout(document, callout), reading), words


def sums_for(document: Document, balloon: int) -> list[Sum]:
    """What can be worked out with a size that was read."""
    return sums_with(balloon, document.callouts, {r.balloon: r for r in document.readings})


def log_sum(document: Document, found: Sum) -> tuple[Document, str]:
    """A new callout of a size that was worked out; its reading follows the sizes it is the sum of. And in words."""
    reading = Reading(balloon=next_balloon(document), **dict(found.taken))
    first = document.callout(found.terms[0].balloon)
    twin = len(found.terms) == 1
    if not twin or first is None:
        return _named(document, "length", reading)
    own = document.reading(first.balloon)
    reading = changed(reading, way=own.way if own is not None else "step")
    sign = "⌀" if first.kind == "diameter" else ""
    note = sign + length(first.nominal, document.unit)
    callout = callouts_from_note(note, reading.balloon, document.unit, source="caliper log")[0]
    kept = {"kind": first.kind, "role": first.role, "meaning": first.meaning, "drive": first.drive}
    document = put_reading(put_callout(document, changed(callout, **kept)), reading)
    return document, f"{note}: like #{first.balloon}"


def read_again(document: Document, balloon: int, taken: Taken) -> Document:
    """A size taken another way, beside how it was taken first. Raises DocumentError."""
    reading = document.reading(balloon)
    if reading is None:
        raise DocumentError(f"callout {balloon} is not read yet", hint="log it once, then another way")
    if any(t.balloon == balloon for t in taken.terms):
        raise DocumentError(f"callout {balloon} cannot be worked out from itself")
    others = tuple(t for t in reading.again if (t.way, t.remark) != (taken.way, taken.remark))
    return put_reading(document, changed(reading, again=(*others, taken)))


def guide(document: Document, loops: Sequence[tuple[int, ...]], suspects: Sequence[int]) -> tuple[Next, ...]:
    """What to measure next; ``loops`` and ``suspects`` as the chains tell them."""
    readings = {r.balloon: r for r in document.readings}
    bounds = {c.balloon: document.limits(c) for c in document.callouts}
    used = frozenset(document.used_balloons())
    return next_readings(document.callouts, readings, bounds, loops=loops, suspects=suspects, used=used)
