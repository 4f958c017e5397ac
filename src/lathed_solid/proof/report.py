"""The whole proof of one document: verdicts, mass, counts."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, ConfigDict

from lathed_solid.proof.mass import MassVerdict
from lathed_solid.proof.thin_wall import ThinWall
from lathed_solid.proof.verdicts import SIGNS, Verdict, VerdictRow
from lathed_solid.quantity.formatting import counted

#: a relation that is off by more does not hold, mm or rad
HOLDS = 1e-6


class Relation(BaseModel):
    """A relation as modelled, looked for on the solid: its faces, and how far it is off (``unit`` mm or rad)."""

    model_config = ConfigDict(frozen=True)

    kind: str
    faces: tuple[str, ...]
    deviation: float
    unit: str

    @property
    def holds(self) -> bool:
        """Whether the relation is there to within rounding."""
        return self.deviation <= HOLDS


class Standing(BaseModel):
    """A body that stands in several ``pieces``, by the step that began it; ``meant``: the document says so."""

    model_config = ConfigDict(frozen=True)

    body: int
    pieces: int
    meant: bool

    @property
    def words(self) -> str:
        """What is to be asked of it, or what was answered."""
        meant = "as it is meant to" if self.meant else "must it be one?"
        return f"body {self.body} stands in {self.pieces} pieces: {meant}"


class Report(BaseModel):
    """``complete`` is False when a step could not be built, so that the solid is not the whole part."""

    model_config = ConfigDict(frozen=True)

    rows: tuple[VerdictRow, ...]
    mass: MassVerdict | None
    complete: bool
    relations: tuple[Relation, ...] = ()
    standing: tuple[Standing, ...] = ()
    thin: tuple[ThinWall, ...] = ()

    @property
    def counts(self) -> dict[Verdict, int]:
        """How many callouts have each verdict."""
        out: dict[Verdict, int] = dict.fromkeys(SIGNS, 0)
        for row in self.rows:
            out[row.verdict] += 1
        return out

    @property
    def ok(self) -> bool:
        """True when nothing is out, without a limit or not found, the mass is not out, relations hold, the part
        is complete, and each body is one piece or meant to stand in several.
        """
        return not self.faults

    @property
    def faults(self) -> tuple[str, ...]:
        """What keeps the part from being proven, in words; nothing for one that is."""
        said = [f"{n} {word}" for word, n in self.counts.items() if n and word in ("out", "no limit", "not found")]
        if not self.complete:
            said.insert(0, "the model is not complete")
        if self.mass is not None and self.mass.verdict == "out":
            said.append("the mass is out")
        broken = sum(not r.holds for r in self.relations)
        if broken:
            said.append(f"{counted(broken, 'relation')} not held")
        if self.asunder:
            said.append(f"{len(self.asunder)} {'body' if len(self.asunder) == 1 else 'bodies'} in pieces")
        return tuple(said)

    @property
    def asunder(self) -> tuple[Standing, ...]:
        """Bodies that stand in several pieces, which nobody said was meant."""
        return tuple(s for s in self.standing if not s.meant)

    def row(self, balloon: int) -> VerdictRow | None:
        """By its balloon; None for none."""
        return next((r for r in self.rows if r.balloon == balloon), None)

    def as_json(self) -> dict[str, Any]:
        """The stable shape of ``lathed-solid prove --json``."""
        return {
            "ok": self.ok,
            "complete": self.complete,
            "verdicts": [r.as_json() for r in self.rows],
            "counts": dict(self.counts),
            "mass": None if self.mass is None else self.mass.as_json(),
            "relations": [r.model_dump() | {"holds": r.holds} for r in self.relations],
            "standing": [s.model_dump() for s in self.standing],
            "thin": [w.model_dump() for w in self.thin],
        }
