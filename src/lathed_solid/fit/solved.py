"""A fit solved: the state in a word, where all members stand, what is free, what fights, what is lost."""

from __future__ import annotations

import contextlib
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Literal

from lathed_solid.errors import LathedError
from lathed_solid.fit.assemble import Assembled, PartFeatures, assemble
from lathed_solid.fit.copies import expanded, followers
from lathed_solid.fit.document import Fit, Member
from lathed_solid.fit.edits import with_placements
from lathed_solid.fit.fights import Fight, fights
from lathed_solid.fit.freedoms import Freedom, freedoms
from lathed_solid.fit.placement import Array, Placement
from lathed_solid.fit.solve import Solution, settle
from lathed_solid.quantity.formatting import counted

State = Literal["held", "loose", "fighting"]


@dataclass(frozen=True)
class Solved:
    """``fit`` stands as solved (as it stood, while its relations fight); ``whole`` has every copy as a member."""

    fit: Fit
    whole: Fit = field(repr=False)
    features: PartFeatures = field(repr=False)
    assembled: Assembled = field(repr=False)
    solution: Solution = field(repr=False)
    #: of copies that cannot be made, in words
    trouble: tuple[str, ...] = ()

    @cached_property
    def freedoms(self) -> tuple[Freedom, ...]:
        """What is free; empty while relations fight."""
        return freedoms(self.assembled, self.solution) if self.solution.ok else ()

    @cached_property
    def fights(self) -> tuple[Fight, ...]:
        """What contradicts."""
        if self.solution.ok:
            return ()
        return fights(self.assembled.fit, self.features, self.solution, self.assembled)

    @property
    def lost(self) -> Mapping[int, LathedError]:
        """Relations that are left out, with the reason."""
        return self.assembled.lost

    @property
    def state(self) -> State:
        """In a word."""
        if not self.solution.ok:
            return "fighting"
        return "loose" if self.freedoms else "held"

    @property
    def words(self) -> str:
        """In a line."""
        if self.state == "fighting":
            return f"fighting: {self.fights[0].words if self.fights else self.solution.reason}"
        lost = f" · {counted(len(self.lost), 'relation')} left out" if self.lost else ""
        if self.state == "held":
            return f"held{lost}"
        return f"loose: {counted(len(self.freedoms), 'free movement')}{lost}"

    @property
    def placements(self) -> dict[str, Placement]:
        """Where every member stands, copies too."""
        return {m.name: m.placement for m in self.whole.members}

    def placement(self, member: str) -> Array:
        """A member's placement as a matrix (4, 4). KeyError for none."""
        return self.placements[member].matrix


def standing(found: Solved) -> Fit:
    """The fit with a member at every place of its patterns, as it stands: what is moved from there."""
    return with_placements(found.assembled.fit, found.placements)


def with_followers(found: Solved, placements: Mapping[str, Placement]) -> dict[str, Placement]:
    """Placements of members, and of the rings and rows that follow them."""
    out = dict(placements)
    with contextlib.suppress(LathedError):  # told when it was solved
        out |= {m.name: m.placement for m in followers(found.fit, found.features, placements)}
    return out


def solved(fit: Fit, features: PartFeatures) -> Solved:
    """Solve a fit from where its members stand."""
    trouble: list[str] = []
    spread = fit
    if any(c.kind == "every place" for c in fit.copies):
        try:
            # the first of each must stand in its place before the others find theirs
            spread = expanded(_stood(fit, features), features)
        except LathedError as exc:
            trouble.append(exc.message)
    assembled = assemble(spread, features)
    solution = settle(assembled.system)
    standing = {m.name: m.placement for m in spread.members}
    if solution.ok:
        standing |= assembled.placements(solution.poses)
    stood = with_placements(fit, standing)
    return Solved(stood, whole_of(stood, spread, features, standing, trouble), features, assembled, solution,
                  tuple(trouble))  # fmt: skip


def _stood(fit: Fit, features: PartFeatures) -> Fit:
    assembled = assemble(fit, features)
    solution = settle(assembled.system)
    return with_placements(fit, assembled.placements(solution.poses)) if solution.ok else fit


def whole_of(fit: Fit, spread: Fit, features: PartFeatures, standing: Mapping[str, Placement], trouble: list[str]
             ) -> Fit:  # fmt: skip
    """Every member with its copies, as they stand; what cannot be copied is told in ``trouble``."""
    members: list[Member] = list(with_placements(spread, standing).members)
    try:
        members += followers(fit, features, standing)
    except LathedError as exc:
        trouble.append(exc.message)
    return spread.model_copy(update={"members": tuple(members)})
