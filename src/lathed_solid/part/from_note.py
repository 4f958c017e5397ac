"""From a hole note and a picked face to callouts and a step, in one edit."""

from __future__ import annotations

from lathed_solid.ledger import callouts_from_note
from lathed_solid.notation import read_note
from lathed_solid.part.document import Document, DocumentError
from lathed_solid.part.edits import changed, next_balloon, next_number, put_step
from lathed_solid.part.steps import HoleStep, OnCircle, Radial
from lathed_solid.quantity.formatting import length


def hole_from_note(
    document: Document, text: str, face: str, *, radial_at: float | None = None, datum: str = "10/face.left"
) -> Document:
    """Add the callouts of a hole note and the step they drive.

    ``radial_at`` (mm from ``datum``) is given for a face that is a cylinder; else the note's bolt circle, or
    the axis, places the holes. Raises DocumentError when the note is not one hole clause.
    """
    clauses = [c for c in read_note(text, document.unit).clauses if c.kind == "hole"]
    if len(clauses) != 1:
        raise DocumentError("the note does not describe one kind of hole", received=text)
    clause = clauses[0]
    callouts = callouts_from_note(text, next_balloon(document), document.unit)
    by_meaning = {c.meaning: c.name for c in callouts}
    if radial_at is None and clause.bolt_circle_mm is None and (clause.count or 1) > 1:
        raise DocumentError("several holes on a flat face need a bolt circle", hint="... ON ⌀52 BC")
    places: OnCircle | Radial
    if radial_at is not None:
        places = Radial(at=length(radial_at, document.unit), datum=datum, count=clause.count or 1)
    else:
        places = OnCircle(bolt_circle=by_meaning.get("bolt circle"), count=clause.count or 1)
    step = HoleStep(
        number=next_number(document),
        face=face,
        diameter=by_meaning["hole diameter"],
        depth=next((n for m, n in by_meaning.items() if m.startswith("hole depth")), None),
        depth_to=clause.depth_to or "shoulder",
        cbore_diameter=by_meaning.get("counterbore diameter"),
        cbore_depth=by_meaning.get("counterbore depth"),
        csk_diameter=by_meaning.get("countersink diameter"),
        csk_angle=f"{clause.csk.angle_deg:g}°" if clause.csk else "90°",
        places=places,
    )
    return put_step(changed(document, callouts=(*document.callouts, *callouts)), step)
