"""One row for each kind of step: what the rest of the house knows of it by its kind alone.

A kind ``groove`` is ``GrooveStep`` in ``part/steps/groove.py``, is built by ``build_groove`` in
``kernel/builders/groove.py`` (or by the builder that it shares with others) and edited by ``desk/steps/groove.py``.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal


@dataclass(frozen=True, slots=True)
class StepKind:
    """``builder``: the builder's module, where it is not the kind's own; empty: nothing is built.

    ``begins_body``: a route may begin with it. ``of_sketch``: how a sketch's curves become faces. ``breaks``: it only
    changes faces that are there, so that nothing of it can be copied. ``form``: it is edited in a form, not in a pane.
    """

    name: str
    builder: str = "own"
    begins_body: bool = False
    of_sketch: Literal["", "straight", "turned", "coiled"] = ""
    breaks: bool = False
    form: bool = True

    @property
    def cls(self) -> str:
        """Name of its class."""
        return f"{self.name.title()}Step"

    @property
    def built_by(self) -> str:
        """Module under ``kernel.builders``; empty for none."""
        return self.name if self.builder == "own" else self.builder


CATALOGUE: dict[str, StepKind] = {
    k.name: k
    for k in (
        StepKind("turned", begins_body=True, form=False),
        StepKind("hole"),
        StepKind("sketch", builder="", form=False),
        StepKind("extrude", begins_body=True, of_sketch="straight"),
        StepKind("revolve", begins_body=True, of_sketch="turned"),
        StepKind("fillet", breaks=True),
        StepKind("chamfer", breaks=True),
        StepKind("pattern"),
        StepKind("mirror"),
        StepKind("thread"),
        StepKind("plane", builder="datum"),
        StepKind("axis", builder="datum"),
        StepKind("point", builder="datum"),
        StepKind("zero", builder="datum"),
        StepKind("sweep", begins_body=True),
        StepKind("helix", begins_body=True, of_sketch="coiled"),
        StepKind("loft", begins_body=True),
        StepKind("shell", breaks=True),
        StepKind("draft", breaks=True),
        StepKind("rib"),
        StepKind("combine", builder="bodies"),
        StepKind("split", builder="bodies"),
        StepKind("move", builder="bodies"),
        StepKind("drop", builder="bodies"),
        StepKind("keyway", builder="machined"),
        StepKind("groove", builder="machined"),
        StepKind("centre", builder="machined"),
        StepKind("flats", builder="machined"),
        StepKind("knurl", builder="machined"),
        StepKind("imported", begins_body=True),
    )
}
