"""A picture of the part in hand as it is wished in words, and what is asked of the renderer for it."""

from __future__ import annotations

from dataclasses import dataclass, replace

from lathed_solid.engine.protocol import BuildReply
from lathed_solid.errors import LathedError
from lathed_solid.kernel.vectors import Triple
from lathed_solid.part import Document
from lathed_solid.standards.materials import material
from lathed_solid.viewer.finishes import Finish, finish_named
from lathed_solid.viewer.shots import Shot, eye_of, size_of

AS_IN_VIEW, PAINT = "as in view", "paint"
#: longest side of a picture that is only looked at, dots
LOOKED_AT = 1280


@dataclass(frozen=True, slots=True)
class PictureWish:
    """``finish``, ``side`` and ``size`` as they are written."""

    finish: str = "turned"
    side: str = AS_IN_VIEW
    size: str = "1280x800"
    clear: bool = False
    floor: bool = False
    rays: bool = False


@dataclass(frozen=True, slots=True)
class PictureOrder:
    """``data``: the solid as bytes."""

    data: bytes
    finish: Finish
    shot: Shot

    def looked_at(self) -> PictureOrder:
        """The same no larger than it is looked at."""
        share = min(1.0, LOOKED_AT / max(self.shot.width, self.shot.height))
        wide, tall = (max(16, round(side * share)) for side in (self.shot.width, self.shot.height))
        return replace(self, shot=replace(self.shot, width=wide, height=tall))

    def turned(self, frames: int) -> PictureOrder:
        """The same, turned once."""
        return replace(self, shot=replace(self.shot, frames=frames))


def order(wish: PictureWish, document: Document, reply: BuildReply | None, in_view: Triple | None) -> PictureOrder:
    """What is asked for; ``in_view``: where the eye is. Raises LathedError for what cannot be taken."""
    if reply is None or not reply.shape:
        raise LathedError("there is no solid yet", hint="what stands at the other desks makes one")
    wide, tall = size_of(wish.size)
    eye = (in_view or Shot().eye) if wish.side == AS_IN_VIEW else eye_of(wish.side)
    shot = Shot(wide, tall, eye, wish.clear, wish.floor, wish.rays)
    finish = finish_named(wish.finish, material(document.material).finish_colour)
    return PictureOrder(reply.shape, finish, shot)
