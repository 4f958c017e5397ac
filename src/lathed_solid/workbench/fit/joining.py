"""Beginning relations: two things are picked, or several pairs of two, the window says which relations all pairs allow
and shows each.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from lathed_solid.fit import edits
from lathed_solid.fit.document import Fit, Kind, Ref
from lathed_solid.fit.equations import Pair, equations, possible
from lathed_solid.fit.features import FRAME, Feature
from lathed_solid.fit.sizes import SIZES, size_of
from lathed_solid.fit.solved import Solved

#: pairs that are picked at one time
MAX_PAIRS = 200
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


#: two picked things of different members
Joint = tuple[PickedFeature, PickedFeature]


def pairs(picks: Sequence[PickedFeature]) -> tuple[tuple[Joint, ...], PickedFeature | None]:
    """What is joined with what: each pick with the first before it, of another member, that is not joined yet; and the
    last one that still waits. So hole by hole (a, b, a, b) and side by side (a, a, b, b) both come to the same.
    """
    waiting: list[PickedFeature] = []
    out: list[Joint] = []
    for it in picks:
        other = next((w for w in waiting if w.ref.member != it.ref.member), None)
        if other is None:
            waiting.append(it)
        else:
            waiting.remove(other)
            out.append((other, it))
    return tuple(out), waiting[-1] if waiting else None


def _natural(s: Solved, kind: Kind, joint: Joint) -> bool:
    a, b = joint
    return edits.natural_flip(kind, a.it, b.it, s.placements[a.ref.member], s.placements[b.ref.member])


def offers(s: Solved, joints: Sequence[Joint]) -> tuple[Offer, ...]:
    """The relations that all pairs allow, the likeliest of the first one first, each as the first one stands."""
    if not joints:
        return ()
    allowed = [possible(a.it, b.it) for a, b in joints]
    kinds = (k for k in allowed[0] if all(k in others for others in allowed))
    return tuple(Offer(k, _natural(s, k, joints[0]), BEGUN.get(k, "")) for k in kinds)


def joined(fit: Fit, s: Solved, joints: Sequence[Joint], offer: Offer) -> Fit:
    """The fit with an offered relation for each pair; each runs the way it stands, or all the other way where the offer
    was turned round. Raises FitError where its size is impossible.
    """
    turned = offer.flip != _natural(s, offer.kind, joints[0])
    for a, b in joints:
        it = replace(offer, flip=_natural(s, offer.kind, (a, b)) != turned)
        fit = edits.relate(fit, it.kind, a.ref, b.ref, flip=it.flip, size=it.size)
        last = fit.relations[-1]
        equations(Pair(last, a.it, b.it, size_of(fit, last)))
    return fit
