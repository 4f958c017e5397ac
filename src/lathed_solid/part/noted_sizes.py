"""Callouts of sizes that were typed where they are used: the number gets its owner, and the field holds it.

A plain number (or fraction) in a field of a step becomes a note as a drawing would say it - ``Ø5``, ``R2``, ``30°``,
``0.5 X 45°``, with the count of like places - and the field drives by its callout from then on. Sums and what holds
callouts already are left as they are.
"""

from __future__ import annotations

import re
from collections import Counter
from typing import Any

from lathed_solid.ledger.callouts import callouts_from_note
from lathed_solid.part.document import Document, DocumentError
from lathed_solid.part.edits import changed, next_balloon, put_note, put_step
from lathed_solid.part.steps import ChamferStep, FilletStep, HoleStep, SketchStep, StepBase, TurnedStep
from lathed_solid.part.steps.base import FieldOf
from lathed_solid.part.steps.hole_placement import how_many

#: a number or a fraction, with the degree sign of an angle
PLAIN = re.compile(r"\s*(\d+(\.\d*)?|\.\d+|(\d+ )?\d+/\d+)\s*(°|deg)?\s*")
#: the radius of a slot of which the width was typed
HALF = re.compile(r"\((.+)\) / 2")
#: no document holds so many callouts
MARK = "#99999"
#: words of fields that a drawing writes with its diameter sign
ROUND = ("diameter", "bolt circle")

#: where a size stands within a step
Path = tuple[str | int, ...]


def note_typed_sizes(document: Document, number: int) -> Document:
    """The document with a callout for each plain size of step ``number`` and of the sketches that it stands on.

    Raises DocumentError when there is none.
    """
    step = document.step(number)
    if step is None:
        raise DocumentError(f"there is no step {number}")
    before = len(document.callouts)
    beneath = (s for s in document.steps if s.number in step.stands_on() and isinstance(s, SketchStep))
    for one in (*beneath, step):
        document = _of_step(document, one)
    if len(document.callouts) == before:
        raise DocumentError(f"step {number} holds no typed size", hint="sums and callouts are left as they are")
    return document


def _of_step(document: Document, step: StepBase) -> Document:
    if isinstance(step, SketchStep):
        return _sketched(document, step)
    held = _held(step)
    sizes, names = {path: float_of(field.text) for path, field in held}, dict[Path, str]()
    for path, field in held:
        met = _met(step, path)
        name = names[met] if sizes.get(met) == sizes[path] else ""
        if not name:
            document, name = _noted(document, _as_drawn(step, field))
        names[path] = name
        step = _put(step, path, name)
        document = put_step(document, step)
    return document


def _met(step: StepBase, path: Path) -> Path:
    """Where the size of the station before stands, at whose end a tapered one begins, or a taper ends at it.

    Where both are alike a drawing gives it once. Empty for none.
    """
    match step, path:
        case TurnedStep(), ("table", "stations", int(i), "diameter") if i:
            before, own = step.table.stations[i - 1 : i + 1]
            if before.taper is None:
                return ("table", "stations", i - 1, "diameter") if own.taper else ()
            return ("table", "stations", i - 1, "taper", "value") if before.taper.kind == "diameter" else ()
    return ()


def _sketched(document: Document, step: SketchStep) -> Document:
    """Each driving dimension of a sketch that is a plain number."""
    signs = {"diameter": "Ø{}", "across_axis": "Ø{}", "radius": "R{}"}
    constraints = list(step.sketch.constraints)
    driving = {c.id for c in step.sketch.driving}
    on = Counter(c.of[0] for c in constraints if c.kind == "on")
    # circles that lines touch size them across flats
    touched = {e for c in constraints if c.kind == "tangent" for e in c.of}
    flats = {e.id for e in step.sketch.curves if e.construction and e.id in touched}
    # corners that were broken: points kept on two lines
    sharp, legs = {p for p, many in on.items() if many == 2}, dict[str, str]()
    for i, c in enumerate(constraints):
        if c.id not in driving:
            continue
        if (half := HALF.fullmatch(c.value)) and PLAIN.fullmatch(half[1]):
            document, name = _noted(document, _bare(half[1]))
            constraints[i] = c.model_copy(update={"value": f"({name}) / 2"})
        if not PLAIN.fullmatch(c.value):
            continue
        # the legs of bevels that were made at once are one size, and the distances of an outline that was set off
        leg = f"leg {c.value}" if c.kind == "distance" and len(c.of) == 2 and c.of[0] in sharp else (
            f"offset {c.value}" if c.kind == "offset" else "")  # fmt: skip
        if leg not in legs:
            across = c.kind == "diameter" and c.of[0] in flats
            sign = "{}°" if c.kind == "angle" else signs.get("" if across else c.kind, "{}")
            document, name = _noted(document, sign.format(_bare(c.value)))
        else:
            name = legs[leg]
        if leg:
            legs[leg] = name
        constraints[i] = c.model_copy(update={"value": name})
    sketch = step.sketch.model_copy(update={"constraints": tuple(constraints)})
    return put_step(document, changed(step, sketch=sketch))


def _as_drawn(step: StepBase, field: FieldOf) -> str:
    """The size in the notation of a drawing."""
    text = _bare(field.text)
    many = 1
    if isinstance(step, HoleStep):
        many = how_many(step.places) or 1 if field.path.endswith("diameter") else 1
    elif isinstance(step, FilletStep | ChamferStep):
        many = len(step.pick.edges) or 1
    count = f"{many}X " if many > 1 else ""
    shown = field.probe.kind if field.probe is not None else ""
    if shown == "radius" or isinstance(step, FilletStep):
        return f"{count}R{text}"
    if isinstance(step, ChamferStep) and field.path == "leg" and step.second is None:
        return f"{count}{text} X {_bare(step.angle or '45')}°"
    if shown == "leg" and (angle := _bevel_angle(step, field.path)):
        return f"{text} X {_bare(angle)}°"
    if field.kind == "angle":
        return f"{text}°"
    return f"{count}Ø{text}" if field.path.endswith(ROUND) else text


def _bevel_angle(step: StepBase, path: str) -> str:
    """The angle of the bevel whose leg a field is; empty where it has none that is plain."""
    found = next((f.text for f in step.known_fields if f.path == f"{path} angle"), "")
    return found if PLAIN.fullmatch(found) else ""


def _noted(document: Document, text: str) -> tuple[Document, str]:
    """The document with one more note, and the name of its first callout."""
    callouts = callouts_from_note(text, next_balloon(document), document.unit, "sheet")
    return put_note(document, callouts), callouts[0].name


def _bare(text: str) -> str:
    """A plain size without the sign of degrees."""
    return text.strip().removesuffix("deg").rstrip("° ")


def float_of(text: str) -> float:
    """The value of a plain number or fraction."""
    whole, _, rest = _bare(text).rpartition(" ")
    over, _, under = rest.partition("/")
    return float(whole or 0) + float(over) / float(under or 1)


def _held(step: StepBase) -> list[tuple[Path, FieldOf]]:
    """The plain sizes of a step: where each stands in it, and the field that it is.

    Which cell is which field is found by asking: the step with a mark in the cell says where the mark comes out.
    """
    out = []
    for path, text in _cells(step.model_dump(mode="json"), ()):
        if not PLAIN.fullmatch(text) or float_of(text) == 0 or _unsaid(step, path, text):
            continue
        try:
            marked = _put(step, path, MARK).fields()
        except DocumentError:
            continue
        out += [(path, f._replace(text=text)) for f in marked if f.text == MARK and f.kind != "number"][:1]
    # a bevel's angle is said with its leg
    legs = {f"{f.path} angle" for _, f in out if f.probe is not None and f.probe.kind == "leg"}
    return [(path, f) for path, f in out if f.path not in legs]


def _unsaid(step: StepBase, path: Path, text: str) -> bool:
    """Whether a cell holds what no drawing says: the spacing of a single row or column, the point of any drill."""
    if path == ("point",) and isinstance(step, HoleStep):
        return text == HoleStep.model_fields["point"].default
    places = getattr(step, "places", None)
    return path[-1] in ("dx", "dy") and getattr(places, f"n{str(path[-1])[1]}", 2) == 1


def _cells(value: Any, path: Path) -> list[tuple[Path, str]]:
    if isinstance(value, dict):
        return [c for k, v in value.items() for c in _cells(v, (*path, k))]
    if isinstance(value, list):
        return [c for k, v in enumerate(value) for c in _cells(v, (*path, k))]
    return [(path, value)] if isinstance(value, str) else []


def _put(model: Any, path: Path, value: str) -> Any:
    head, *rest = path
    if isinstance(head, int):
        new = _put(model[head], tuple(rest), value) if rest else value
        return (*model[:head], new, *model[head + 1 :])
    return changed(model, **{head: _put(getattr(model, head), tuple(rest), value) if rest else value})
