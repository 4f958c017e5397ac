"""One row for each kind of step: what the rest of the house knows of it by its kind alone.

A kind ``groove`` is ``GrooveStep`` in ``part/steps/groove.py``, is built by ``build_groove`` in
``kernel/builders/groove.py`` (or by the builder that it shares with others) and edited by the rows of
``workbench/step_forms/groove.py``.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Group = Literal["Material", "Details", "Edges", "Copies", "Datums", "Bodies"]
#: groups of the menu in its order
GROUPS: tuple[Group, ...] = ("Material", "Details", "Edges", "Copies", "Datums", "Bodies")


@dataclass(frozen=True, slots=True)
class Entry:
    """How a person meets a kind in the menu of new steps."""

    title: str
    group: Group
    keys: str = ""
    tip: str = ""


@dataclass(frozen=True, slots=True)
class StepKind:
    """``builder``: the builder's module, where it is not the kind's own; empty: nothing is built.

    ``begins_body``: a route may begin with it. ``of_sketch``: how a sketch's curves become faces. ``breaks``: it only
    changes faces that are there, so that nothing of it can be copied. ``form``: it is edited in a form, not in a pane.
    ``repeats``: a new pattern is thought to be of it. ``entries``: in the menu, begun by ``BEGIN`` of its editor's
    module, in order.
    """

    name: str
    builder: str = "own"
    begins_body: bool = False
    of_sketch: Literal["", "straight", "turned", "coiled"] = ""
    breaks: bool = False
    form: bool = True
    repeats: bool = False
    entries: tuple[Entry, ...] = ()

    @property
    def cls(self) -> str:
        """Name of its class."""
        return f"{self.name.title()}Step"

    @property
    def built_by(self) -> str:
        """Module under ``kernel.builders``; empty for none."""
        return self.name if self.builder == "own" else self.builder


EDGES_TIP = "the picked edge, all edges of the picked face, or by a rule"
# fmt: off
_ROWS = (
    StepKind("turned", begins_body=True, form=False),
    StepKind("hole", repeats=True),
    StepKind("sketch", builder="", form=False),
    StepKind("extrude", begins_body=True, repeats=True, of_sketch="straight", entries=(
        Entry("Extrude the last sketch", "Material", "Ctrl+Alt+E"),
        Entry("Cut the last sketch away", "Material", "Ctrl+Alt+X"))),
    StepKind("revolve", begins_body=True, repeats=True, of_sketch="turned"),
    StepKind("fillet", breaks=True, entries=(Entry("Round edges", "Edges", "Ctrl+Alt+R", EDGES_TIP),)),
    StepKind("chamfer", breaks=True, entries=(Entry("Bevel edges", "Edges", "Ctrl+Alt+B", EDGES_TIP),)),
    StepKind("pattern", entries=(
        Entry("Repeat in a row or grid", "Copies", "Ctrl+Alt+P"),
        Entry("Repeat around an axis", "Copies"))),
    StepKind("mirror", entries=(Entry("Mirror", "Copies", "Ctrl+Alt+M", "the body, or steps named in the form"),)),
    StepKind("thread", entries=(Entry("Thread", "Details", "Ctrl+Alt+T"),)),
    StepKind("plane", builder="datum", entries=(Entry("Datum plane", "Datums", "Ctrl+Alt+D"),)),
    StepKind("axis", builder="datum", entries=(Entry("Datum axis", "Datums"),)),
    StepKind("point", builder="datum", entries=(Entry("Datum point", "Datums"),)),
    StepKind("zero", builder="datum", entries=(Entry("Part datum", "Datums"),)),
    StepKind("sweep", begins_body=True, repeats=True, entries=(Entry("Sweep along a path", "Material"),)),
    StepKind("helix", begins_body=True, repeats=True, of_sketch="coiled", entries=(Entry("Helix", "Material"),)),
    StepKind("loft", begins_body=True, repeats=True, entries=(Entry("Loft through sketches", "Material"),)),
    StepKind("rib", entries=(Entry("Rib", "Material"),)),
    StepKind("shell", breaks=True, entries=(Entry("Hollow out", "Material"),)),
    StepKind("draft", breaks=True, entries=(Entry("Draft faces", "Edges"),)),
    StepKind("combine", builder="bodies", entries=(Entry("Combine bodies", "Bodies"),)),
    StepKind("split", builder="bodies", entries=(Entry("Split the body", "Bodies"),)),
    StepKind("move", builder="bodies", entries=(Entry("Move or copy a body", "Bodies"),)),
    StepKind("drop", builder="bodies", entries=(Entry("Leave bodies out", "Bodies"),)),
    StepKind("keyway", builder="machined", repeats=True, entries=(Entry("Keyway", "Details"),)),
    StepKind("groove", builder="machined", repeats=True, entries=(Entry("Ring groove or undercut", "Details"),)),
    StepKind("centre", builder="machined", entries=(Entry("Centre hole", "Details"),)),
    StepKind("flats", builder="machined", repeats=True, entries=(Entry("Hexagon, square or flats", "Details"),)),
    StepKind("knurl", builder="machined", entries=(Entry("Knurl", "Details"),)),
    StepKind("imported", begins_body=True),
)
# fmt: on
CATALOGUE: dict[str, StepKind] = {row.name: row for row in _ROWS}
