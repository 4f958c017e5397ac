"""Where a member that is added stands first: beside all that stands already, so that it is seen and can be picked."""

from __future__ import annotations

import numpy as np

from lathed_solid.fit.assemble import PartFeatures
from lathed_solid.fit.document import Fit
from lathed_solid.fit.features import Feature
from lathed_solid.fit.placement import Array, Placement

#: of what stands already, so much is left free
FREE = 0.4


def beside(whole: Fit, features: PartFeatures) -> Placement:
    """A place behind every member along X, as far as their features tell; the origin where nothing stands."""
    spans = [m.placement.rotation @ p + np.array(m.placement.at)
             for m in whole.members for f in features.get(m.part, {}).values() for p in _reach(f)]  # fmt: skip
    if not spans:
        return Placement()
    places = np.array(spans)
    free = FREE * float(np.ptp(places, axis=0).max())
    return Placement(at=(float(places[:, 0].max()) + free, 0.0, 0.0))


def _reach(f: Feature) -> list[Array]:
    """Points (3,) that a feature reaches to."""
    at, along = np.array(f.origin), np.array(f.direction)
    across = np.cross(along, np.array(f.x))
    middles = (at + f.low * along, at + f.high * along)
    return [m + s * f.radius * w for m in middles for w in (np.array(f.x), across) for s in (-1.0, 1.0)]
