"""What the steps that break edges share: which edges are meant."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import Field

from lathed_solid.part.names import EdgeName, FaceName, renamed, steps_in
from lathed_solid.part.steps.base import StepBase, StepError
from lathed_solid.part.steps.resolver import Resolver
from lathed_solid.record import Record

Rule = Literal["", "outside", "inside", "upright outside", "upright inside", "all others"]


class EdgePick(Record):
    """Edges by name, all edges of faces, all edges that a step made, or all that a rule finds; taken together.

    A rule looks at sharp edges only: ``outside`` edges stand out, ``inside`` edges are corners to be filled;
    ``upright``
    ones run along the part's Z; ``all others`` are those that no other step breaks by name.
    """

    edges: tuple[EdgeName, ...] = Field(default=(), max_length=500)
    faces: tuple[FaceName, ...] = Field(default=(), max_length=200)
    steps: tuple[Annotated[int, Field(ge=1, le=99_990)], ...] = Field(default=(), max_length=100)
    rule: Rule = ""
    #: edges that are left out
    but: tuple[EdgeName, ...] = Field(default=(), max_length=500)

    @property
    def empty(self) -> bool:
        """Whether nothing is named and no rule given."""
        return not (self.edges or self.faces or self.steps or self.rule)


@dataclass(frozen=True, slots=True)
class ResolvedEdges:
    """``named``: edges that other steps break by name, left out by the rule ``all others``."""

    edges: tuple[str, ...]
    faces: tuple[str, ...]
    steps: tuple[int, ...]
    rule: str
    but: tuple[str, ...]
    named: tuple[str, ...] = ()


def resolve_edges(pick: EdgePick, number: int, evaluate: Resolver) -> ResolvedEdges:
    """Raises StepError when nothing is picked."""
    if pick.empty:
        raise StepError("no edge is picked yet", where="edges", hint="pick edges or faces in the solid, or a rule")
    named: list[str] = []
    document = evaluate.document if pick.rule == "all others" else None
    if document is not None:
        for step in document.steps:
            other = getattr(step, "pick", None)
            if step.number != number and not step.suspended and isinstance(other, EdgePick):
                named += other.edges
    return ResolvedEdges(pick.edges, pick.faces, pick.steps, pick.rule, pick.but, tuple(named))


class EdgeStep(StepBase):
    """A step that breaks edges."""

    pick: EdgePick = EdgePick()

    def stands_on(self) -> frozenset[int]:
        names = (*self.pick.edges, *self.pick.faces, *self.pick.but)
        return frozenset().union(*(steps_in(n) for n in names), self.pick.steps)

    def renumbered(self, renumber: Any) -> dict[str, Any]:
        p = self.pick
        many = {f: tuple(renamed(n, renumber) for n in getattr(p, f)) for f in ("edges", "faces", "but")}
        return {"pick": p.model_copy(update={**many, "steps": tuple(renumber.get(n, n) for n in p.steps)})}

    def words(self) -> str:
        """Which edges, in a few words."""
        p, out = self.pick, []
        if p.edges:
            out.append(f"{len(p.edges)} edge{'s' if len(p.edges) > 1 else ''}")
        if p.faces:
            out.append(f"edges of {len(p.faces)} face{'s' if len(p.faces) > 1 else ''}")
        if p.steps:
            out.append("edges of step " + ", ".join(map(str, p.steps)))
        if p.rule:
            out.append("all other edges" if p.rule == "all others" else f"all {p.rule} edges")
        return ", ".join(out) or "no edges yet"
