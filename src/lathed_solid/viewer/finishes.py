"""Finishes of metal and paint as a physically based renderer takes them: base colour, metal or not, roughness.

Roughness is that of the microfacet distribution of Trowbridge and Reitz (J. Opt. Soc. Am. 65, 1975), squared by the
renderer: a polished face 0.08, a ground one 0.22, a turned one 0.34, a cast one 0.7.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from lathed_solid.errors import LathedError
from lathed_solid.part import Document
from lathed_solid.part.pictures import with_coat
from lathed_solid.standards.materials import material


@dataclass(frozen=True, slots=True)
class Finish:
    """``colour`` #RRGGBB; ``metal`` and ``rough`` from 0 to 1."""

    colour: str
    metal: float
    rough: float


#: a material's colour where only a finish's name is looked at
BARE = "#808080"
#: an empty colour is the material's own
FINISHES: Mapping[str, Finish] = {
    "turned": Finish("", 1.0, 0.34),
    "ground": Finish("", 1.0, 0.22),
    "brushed": Finish("", 1.0, 0.45),
    "polished": Finish("", 1.0, 0.08),
    "cast": Finish("#5F6366", 0.85, 0.7),
    "brass": Finish("#C8A24A", 1.0, 0.25),
    "bronze": Finish("#A9713C", 1.0, 0.3),
    "aluminium": Finish("#CDD0D2", 1.0, 0.32),
    "black oxide": Finish("#22262A", 0.9, 0.42),
    "zinc": Finish("#B4BEC6", 1.0, 0.28),
}


@dataclass(frozen=True, slots=True)
class Coated:
    """Faces, by their places in face order, and whole solids, by theirs, of a finish of their own."""

    finish: Finish
    faces: tuple[int, ...] = ()
    solids: tuple[int, ...] = ()


#: what is coated, the later over the earlier
RANKS = ("body", "step", "")
_PAINT = re.compile(r"paint\s*(#[0-9a-fA-F]{6})")


def coats_of(document: Document, labels: Sequence[str], owners: Sequence[int]) -> tuple[Coated, ...]:
    """The coats of a part that there is a face or a body for; a face's own goes before its step's, and that before its
    body's.

    ``labels``: names of the faces in face order; ``owners``: of each solid in order the number of its body. Raises
    LathedError for a finish that is none.
    """

    def own(body: int) -> str:
        return material(document.material_of(body)).finish_colour

    found: list[tuple[int, Coated]] = []
    for coat in document.coats:
        kind, number = coat.group
        if kind == "body":
            solids = tuple(k for k, n in enumerate(owners) if n == number)
            faces: tuple[int, ...] = ()
        else:
            solids = ()
            faces = tuple(
                k for k, name in enumerate(labels) if (name.startswith(f"{number}/") if kind else name == coat.of)
            )
            number = next((n for n in owners if n == number), owners[0] if owners else 0)
        if solids or faces:
            found.append((RANKS.index(kind), Coated(finish_named(coat.finish, own(number)), faces, solids)))
    return tuple(coat for _, coat in sorted(found, key=lambda it: it[0]))


def coated(document: Document, of: str, finish: str) -> Document:
    """A face, the faces of a step or a body of a finish of its own; an empty ``finish`` takes it away.

    Raises LathedError for a finish that is none.
    """
    if finish:
        finish_named(finish, BARE)
    return document.model_copy(update={"coats": with_coat(document.coats, of, finish)})


def finish_named(name: str, own: str) -> Finish:
    """By its name, or ``paint #RRGGBB``; ``own``: the colour of the bare material, #RRGGBB. Raises LathedError."""
    bare = " ".join(name.lower().split())
    painted = _PAINT.fullmatch(bare)
    if painted is not None:
        return Finish(painted[1], 0.0, 0.38)
    if bare not in FINISHES:
        raise LathedError("there is no such finish", received=name, hint=f"{', '.join(FINISHES)}, paint #336699")
    found = FINISHES[bare]
    return replace(found, colour=found.colour or own)
