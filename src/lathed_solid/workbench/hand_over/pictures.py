"""A picture of the part in hand as it is wished in words, and what is asked of the renderer for it."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from pathlib import Path

from lathed_solid.engine.protocol import BuildReply
from lathed_solid.errors import LathedError
from lathed_solid.kernel.vectors import Triple
from lathed_solid.part import Document
from lathed_solid.part.pictures import LONGEST_NAME, RememberedPicture
from lathed_solid.quantity.formatting import counted
from lathed_solid.standards.materials import material
from lathed_solid.viewer.finishes import Coated, Finish, coats_of, finish_named
from lathed_solid.viewer.shots import FILMS, PARALLEL, SIDES, Shot, eye_of, lens_of, size_of
from lathed_solid.workbench.describe import bodies_of

AS_IN_VIEW, PAINT = "as in view", "paint"
#: longest side of a picture that is only looked at, dots
LOOKED_AT = 1280
#: sides nearer than this are one
SAME = 1e-9


@dataclass(frozen=True, slots=True)
class PictureWish:
    """``finish``, ``side`` and ``size`` as they are written."""

    finish: str = "turned"
    side: str = AS_IN_VIEW
    size: str = "1280x800"
    clear: bool = False
    floor: bool = False
    rays: bool = False
    lens: str = PARALLEL

    @classmethod
    def of(cls, picture: RememberedPicture) -> PictureWish:
        """As a picture was remembered."""
        side = next((name for name, eye in SIDES.items() if _alike(eye, picture.eye)),
                    ",".join(f"{v:.6g}" for v in picture.eye))  # fmt: skip
        lens = f"{picture.lens:g} mm" if picture.lens else PARALLEL
        return cls(picture.finish, side, f"{picture.width}x{picture.height}", picture.clear, picture.floor,
                   picture.rays, lens)  # fmt: skip


@dataclass(frozen=True, slots=True)
class PictureOrder:
    """``data``: the solid as bytes."""

    data: bytes
    finish: Finish
    shot: Shot
    coats: tuple[Coated, ...] = ()

    def looked_at(self) -> PictureOrder:
        """The same no larger than it is looked at."""
        share = min(1.0, LOOKED_AT / max(self.shot.width, self.shot.height))
        wide, tall = (max(16, round(side * share)) for side in (self.shot.width, self.shot.height))
        return replace(self, shot=replace(self.shot, width=wide, height=tall))

    def turned(self, frames: int) -> PictureOrder:
        """The same, turned once."""
        return replace(self, shot=replace(self.shot, frames=frames))

    def filmed(self, path: Path) -> PictureOrder:
        """The same as the ending of its file asks."""
        return replace(self, shot=replace(self.shot, film=FILMS.get(path.suffix.lower(), self.shot.film)))


def order(wish: PictureWish, document: Document, reply: BuildReply | None, in_view: Triple | None) -> PictureOrder:
    """What is asked for; ``in_view``: where the eye is. Raises LathedError for what cannot be taken."""
    if reply is None or not reply.shape:
        raise LathedError("there is no solid yet", hint="what stands at the other desks makes one")
    wide, tall = size_of(wish.size)
    eye = (in_view or Shot().eye) if wish.side == AS_IN_VIEW else eye_of(wish.side)
    shot = Shot(wide, tall, eye, wish.clear, wish.floor, wish.rays, lens=lens_of(wish.lens))
    finish = finish_named(wish.finish, material(document.material).finish_colour)
    return PictureOrder(reply.shape, finish, shot, coats_of(document, reply.labels, reply.owners))


def remembered(name: str, wish: PictureWish, shot: Shot) -> RememberedPicture:
    """A wish by its name, from where it was taken. Raises LathedError for a name that is none."""
    if not 0 < len(name.strip()) <= LONGEST_NAME:
        raise LathedError("a picture is remembered by a name", received=name[:LONGEST_NAME],
                          rule=f"1 to {LONGEST_NAME} letters")  # fmt: skip
    return RememberedPicture(
        name=name.strip(), finish=wish.finish, eye=shot.eye, width=shot.width, height=shot.height, lens=shot.lens,
        clear=shot.clear, floor=shot.floor, rays=shot.rays,
    )  # fmt: skip


def _alike(a: Triple, b: Triple) -> bool:
    return math.dist(a, b) < SAME


@dataclass(frozen=True, slots=True)
class CoatRow:
    """A body, a step's faces or one face that may have a finish of its own (empty for none)."""

    of: str
    words: str
    finish: str


def coat_rows(document: Document, reply: BuildReply) -> list[CoatRow]:
    """All bodies where there are several; then the steps, each with its faces behind it."""
    own = {c.of: c.finish for c in document.coats}
    bodies = bodies_of(document, reply.owners)
    found = [(f"body {n}", f"body {words}") for n, words in bodies.items()] if len(bodies) > 1 else []
    for step in document.steps:
        faces = [name for name in dict.fromkeys(reply.labels) if name.startswith(f"{step.number}/")]
        head = f"{step.number}  {step.remark.strip() or step.title()}"
        found += [(f"step {step.number}", f"{head}: {counted(len(faces), 'face')}")] if len(faces) > 1 else []
        found += [(name, f"    {name}" if len(faces) > 1 else f"{head}: {name}") for name in faces]
    return [CoatRow(of, words, own.get(of, "")) for of, words in found]
