"""Beginning a relation: two things are picked, the window says which relations they allow and shows each."""

from __future__ import annotations

from dataclasses import dataclass

from lathed_solid.fit import edits
from lathed_solid.fit.document import Fit, Kind, Ref
from lathed_solid.fit.equations import Pair, equations, possible
from lathed_solid.fit.features import FRAME, Feature
from lathed_solid.fit.sizes import SIZES, size_of
from lathed_solid.fit.solved import Solved

#: what a relation's size is when it is begun, by kind
BEGUN = {"gap": "1", "angle": "90", "geared": "1"}


@dataclass(frozen=True)
class PickedFeature:
    """A face, edge, axis or point of a member that was picked."""

    ref: Ref
    it: Feature

    @property
    def words(self) -> str:
        """For a chip: ``wheel · bore ⌀25``."""
        return f"{self.ref.member} · {self.it.words}"


@dataclass(frozen=True)
class Offer:
    """One relation that two picked things allow."""

    kind: Kind
    flip: bool
    size: str

    @property
    def asks(self) -> bool:
        """Whether it has a size to type."""
        return self.kind in SIZES and self.kind != "screwed"


def pick(s: Solved, member: str, names: tuple[str, ...]) -> PickedFeature | None:
    """What was picked of a member, by the first of its names that can be held on to; None for nothing of use."""
    found = s.whole.by_name.get(member)
    if found is None:
        return None
    features = s.features.get(found.part, {})
    for label in names:
        for name in (label, *label.split("+")):
            it = features.get(name) or FRAME.get(name)
            if it is not None:
                return PickedFeature(Ref(member=member, feature=name), it)
    return None


def offers(s: Solved, a: PickedFeature, b: PickedFeature) -> tuple[Offer, ...]:
    """The relations that two picked things allow, the likeliest first, each as the two stand."""
    if a.ref.member == b.ref.member:
        return ()
    out = []
    places = [s.placements[x.ref.member] for x in (a, b)]
    for kind in possible(a.it, b.it):
        flip = edits.natural_flip(kind, a.it, b.it, places[0], places[1])
        out.append(Offer(kind, flip, BEGUN.get(kind, "")))
    return tuple(out)


def joined(fit: Fit, a: PickedFeature, b: PickedFeature, offer: Offer) -> Fit:
    """The fit with an offered relation. Raises FitError where its size is impossible."""
    made = edits.relate(fit, offer.kind, a.ref, b.ref, flip=offer.flip, size=offer.size)
    last = made.relations[-1]
    equations(Pair(last, a.it, b.it, size_of(made, last)))
    return made
