"""Making a part in plain Python, without the window; see docs/scripting.md.

Documents are values: every function returns a new one. The kernel runs in this process and keeps its cache
between calls. A callout put alone into a field of another kind (a radius into a diameter) is a KindError.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, Any

from lathed_solid.files import read_document, write_document
from lathed_solid.ledger import Callout, Instrument, Probe, Reading, Way
from lathed_solid.ledger.probe import ProbeKind
from lathed_solid.part import (
    DatumPlane,
    Document,
    FacePlane,
    Parameter,
    SketchStep,
    StatedMass,
    TurnedStep,
    scope,
)
from lathed_solid.part import edits as _edits
from lathed_solid.part import steps as _steps
from lathed_solid.part.kinds import checked
from lathed_solid.proof import Report
from lathed_solid.sketch import compound_shapes as shapes
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.model import Sketch
from lathed_solid.turned import (
    Bore,
    BoreStep,
    Edge,
    Groove,
    Station,
    Taper,
    ThreadStretch,
    TurnedTable,
    parse_edge,
    parse_taper,
)

if TYPE_CHECKING:
    from lathed_solid.engine.rebuild import Built, Engine
    from lathed_solid.engine.results import Summary
    from lathed_solid.part import EdgePick, FromWalls, Grid, OnCircle, OnEdges, Radial, SketchPoints, Table
    from lathed_solid.part.proposals import Proposal
    from lathed_solid.quantity import LengthUnit
    from lathed_solid.sheets.client import SheetPage
    from lathed_solid.sheets.witness import Witness
    from lathed_solid.sketch import edits as sketch_edits
    from lathed_solid.sketch.examine import Examination

__all__ = [
    "Bore",
    "BoreStep",
    "Callout",
    "DatumPlane",
    "Document",
    "Draft",
    "Edge",
    "EdgePick",
    "FacePlane",
    "FromWalls",
    "Grid",
    "Groove",
    "Instrument",
    "OnCircle",
    "OnEdges",
    "Parameter",
    "Probe",
    "Radial",
    "SketchPoints",
    "Solid",
    "StatedMass",
    "Station",
    "Table",
    "Taper",
    "ThreadStretch",
    "as_measured",
    "build",
    "change_callout",
    "edge",
    "examine",
    "export",
    "extrude",
    "hole",
    "import_body",
    "measured_between",
    "measured_by",
    "new_part",
    "note",
    "parameter",
    "prove",
    "read_document",
    "reading",
    "revolve",
    "shapes",
    "sketch",
    "sketch_edits",
    "step",
    "taper",
    "turned",
    "weighed",
    "write_document",
]  # fmt: skip

edge, taper = parse_edge, parse_taper
#: what a script draws with
Draft = SketchBuilder


def __getattr__(name: str) -> Any:
    """What a turned part, and the window's start, need not: the solver, and most kinds of steps."""
    if name in ("EdgePick", "FromWalls", "Grid", "OnCircle", "OnEdges", "Radial", "SketchPoints", "Table"):
        return getattr(_steps, name)
    if name == "sketch_edits":
        from lathed_solid.sketch import edits

        return edits
    from lathed_solid import fit_scripting, hand_over_scripting

    for more in (fit_scripting, hand_over_scripting):
        if name in more.__all__:
            return getattr(more, name)
    raise AttributeError(name)


def new_part(name: str, *, unit: str = "mm", material: str = "C45 steel") -> Document:
    """An empty part. Raises DocumentError for an impossible name or unit."""
    return _edits.changed(Document(), name=name, unit=unit, material=material)


def note(part: Document, text: str, balloon: int | None = None, *, source: str = "sheet") -> Document:
    """Add what a drawing note states: its callouts, numbered from ``balloon`` or the next free one; its material,
    general tolerance and words for the shop.
    """
    from lathed_solid.notation import read_note
    from lathed_solid.part.instructions import put_meaning

    return put_meaning(part, read_note(text, part.unit), balloon, source)


def change_callout(part: Document, balloon: int, **values: Any) -> Document:
    """Change fields of a callout. Raises DocumentError when there is none."""
    callout = part.callout(balloon)
    if callout is None:
        raise _edits.DocumentError(f"there is no callout {balloon}")
    return _edits.put_callout(part, _edits.changed(callout, **values))


def as_measured(part: Document, balloon: int) -> Document:
    """Model this callout by the mean of its readings instead of its nominal."""
    return change_callout(part, balloon, drive="measured")


def measured_between(part: Document, balloon: int, first: str, second: str) -> Document:
    """Prove this callout as the distance between two named flat faces."""
    return change_callout(part, balloon, measure=Probe(kind="distance", faces=(first, second)))


def measured_by(part: Document, balloon: int, kind: ProbeKind, *faces: str) -> Document:
    """Prove this callout on these faces; see Probe for the ways of measuring."""
    return change_callout(part, balloon, measure=Probe(kind=kind, faces=faces))


def reading(
    part: Document, balloon: int, way: Way, repeats: Iterable[float], instrument: Instrument | None = None
) -> Document:
    """Log caliper repeats (mm) for a callout."""
    return _edits.put_reading(
        part,
        Reading(balloon=balloon, way=way, repeats=tuple(repeats), instrument=instrument or Instrument()),
    )


def parameter(part: Document, name: str, expression: str) -> Document:
    """Add or change a named expression."""
    return _edits.put_parameter(part, Parameter(name=name, expression=expression))


def weighed(part: Document, grams: float, *, resolution: float = 1.0) -> Document:
    """State the mass that a scale shows, with the scale's resolution, in grams."""
    return _edits.set_stated_mass(part, StatedMass(grams=grams, source="scale", resolution=resolution))


def turned(
    part: Document,
    stations: Iterable[Station],
    *,
    grooves: Iterable[Groove] = (),
    bores: Iterable[Bore] = (),
    datum: str = "left",
) -> Document:
    """Add a turned table as the next step."""
    table = _edits.changed(
        TurnedTable(), stations=tuple(stations), grooves=tuple(grooves), bores=tuple(bores), datum=datum
    )
    return checked(_edits.put_step(part, TurnedStep(number=_edits.next_number(part), table=table)))


def hole(part: Document, face: str, diameter: str, **values: Any) -> Document:
    """Add holes as the next step; see HoleStep for the fields."""
    step = _steps.HoleStep(number=_edits.next_number(part), face=face, diameter=diameter, **values)
    return checked(_edits.put_step(part, step))


def sketch(part: Document, figure: SketchBuilder | Sketch, plane: DatumPlane | FacePlane | str = "XY") -> Document:
    """Add a sketch as the next step, on a datum plane ("XY", "XZ", "YZ"), a plane value, or a flat face by name."""
    if isinstance(plane, str):
        known = plane in ("XY", "XZ", "YZ")
        plane = DatumPlane(plane=plane) if known else FacePlane(face=plane)
    drawn = figure.done() if isinstance(figure, SketchBuilder) else figure
    return checked(_edits.put_step(part, SketchStep(number=_edits.next_number(part), plane=plane, sketch=drawn)))


def examine(part: Document, step: int) -> Examination:
    """Solve and diagnose the sketch of a step: held, loose or fighting, and why. Raises DocumentError, SketchError."""
    from lathed_solid.sketch.examine import dimension_values
    from lathed_solid.sketch.examine import examine as look

    found = part.step(step)
    if not isinstance(found, SketchStep):
        raise _edits.DocumentError(f"there is no sketch at step {step}")
    return look(found.sketch, dimension_values(found.sketch, scope(part)))  # type: ignore[arg-type]


def extrude(part: Document, sketch: int, distance: str | None, **values: Any) -> Document:
    """Add an extrusion of a sketch's regions (all when none are named); see ExtrudeStep for the fields."""
    step = _steps.ExtrudeStep(number=_edits.next_number(part), sketch=sketch, distance=distance, **values)
    return checked(_edits.put_step(part, step))


def revolve(part: Document, sketch: int, axis: str, **values: Any) -> Document:
    """Add a revolve of a sketch's regions about one of its lines; see RevolveStep for the fields."""
    step = _steps.RevolveStep(number=_edits.next_number(part), sketch=sketch, axis=axis, **values)
    return checked(_edits.put_step(part, step))


def step(part: Document, kind: str, **values: Any) -> Document:
    """Add a step of any kind as the next one: "fillet", "pattern", "thread" ...; fields as in part/steps.

    Raises DocumentError for a kind that is not known or impossible fields.
    """
    from pydantic import ValidationError

    from lathed_solid.part.steps import KINDS

    if kind not in KINDS:
        raise _edits.DocumentError(f"there is no step kind {kind!r}", hint=", ".join(sorted(KINDS)))
    try:
        made = KINDS[kind](number=_edits.next_number(part), **values)
    except ValidationError as exc:
        raise _edits.plain_error(exc) from None
    return checked(_edits.put_step(part, made))


def import_body(part: Document, path: str | Path) -> Document:
    """Add the one solid of a STEP file as a body. Raises FileError."""
    from lathed_solid.files.attachments import keep_body, read_for

    path = Path(path)
    return step(part, "imported", body=keep_body(read_for(path), path), file=path.name)


@dataclass(frozen=True)
class Solid:
    """A built part. ``volume`` mm3, ``area`` mm2, ``centre`` mm, ``mass`` g (None: unknown material)."""

    document: Document
    built: Built

    @property
    def ok(self) -> bool:
        """Whether every step was built and there is a body."""
        return self.built.ok and self.built.body is not None

    @property
    def messages(self) -> list[str]:
        """One line for every step that could not be built."""
        return [f"step {s.number}: {s.message}" for s in self.built.steps if not s.ok]

    @property
    def summary(self) -> Summary:
        """The figures that ``lathed-solid build --json`` prints."""
        from lathed_solid.engine.summary import summary

        return summary(_engine(), self.document, self.built)

    @property
    def volume(self) -> float:
        """mm3."""
        return self.summary["volume_mm3"]

    @property
    def area(self) -> float:
        """mm2."""
        return self.summary.get("area_mm2", 0.0)

    @property
    def mass(self) -> float | None:
        """g; None for a material that is not in the table."""
        return self.summary["mass_g"]

    @property
    def centre(self) -> tuple[float, float, float]:
        """Of mass, mm."""
        x, y, z = self.summary["centre_mm"]
        return x, y, z

    @property
    def edges(self) -> list[str]:
        """Names of all edges, for the steps that break them."""
        from lathed_solid.kernel.edges import edges_of

        return [] if self.built.body is None else sorted(e.name for e in edges_of(self.built.body) if e.name)

    def measure(self, kind: str, *faces: str, nominal: float = 0.0) -> float:
        """A size measured on named faces, in mm or rad; ``kind`` as in ledger.probe."""
        from lathed_solid.kernel.measure import MeasureError, measure

        if self.built.body is None:
            raise MeasureError("there is no solid to measure")
        return measure(self.built.body, Probe.model_validate({"kind": kind, "faces": faces}), nominal).value


def _engine() -> Engine:
    from lathed_solid.engine.at_hand import engine

    return engine()


def build(part: Document) -> Solid:
    """Build all steps. A failed step is a message of the result, not an exception."""
    return Solid(part, _engine().build(part))


def prove(part: Document) -> Report:
    """Build, measure every callout on the solid, and judge."""
    from lathed_solid.engine.prove import prove as prove_built

    return prove_built(_engine(), part, _engine().build(part))


def read_sheet(sheet: str | Path, page: int = 1, unit: LengthUnit = "mm") -> SheetPage:
    """The notes found on a drawing, with what their dimension lines say of them. Raises SheetError."""
    from lathed_solid.sheets.client import read_page

    return read_page(Path(sheet), page, unit)


def propose(sheet: str | Path, unit: LengthUnit = "mm", page: int = 1) -> Proposal:
    """A first model of the turned part or plate on a drawing (PDF, DXF or a picture), with what it does not fix. Raises
    SheetError, ProposalError.
    """
    from lathed_solid.part.proposals import propose as proposed
    from lathed_solid.sheets.client import read_linework, read_page

    path = Path(sheet)
    found = read_page(path, page, unit)
    part = new_part(path.stem, unit=unit)
    told = {k: v for k in ("material", "general", "instructions") if (v := getattr(found.title, k))}
    lines = found.lines if found.lines is not None else read_linework(path, page)
    return proposed(part.model_copy(update=told), found, lines, page_number=page)


def witness(part: Document, sheet: str | Path, page: int = 1) -> Witness:
    """Lay a drawing (PDF, DXF or a picture) over the part's own views. Raises SheetError."""
    from lathed_solid.kernel.sides import sides
    from lathed_solid.sheets.client import read_linework
    from lathed_solid.sheets.pictorial import views_of
    from lathed_solid.sheets.witness import sides_of
    from lathed_solid.sheets.witness import witness as laid_over

    lines = read_linework(Path(sheet), page)
    body = _engine().build(part).body
    return laid_over(lines, sides_of([] if body is None else sides(body, views_of(lines))))


def export(solid: Solid, path: str | Path) -> None:
    """Write STEP, STL, 3MF or GLB by the file's ending. Raises ExchangeError."""
    from lathed_solid.engine.part_export import export_part
    from lathed_solid.kernel.errors import ExchangeError

    if solid.built.body is None or not solid.ok:
        raise ExchangeError("the part is not complete, so it is not exported", rule="; ".join(solid.messages))
    export_part(_engine(), solid.document, solid.built, Path(path))
