"""Faces that steps stand on, found by name."""

from __future__ import annotations

from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.surfaces import Surface, one_surface


def named_surface(body: Body, name: str, kind: str) -> Surface:
    """The surface of that name. Raises BuildError, with candidates, when it is gone or is none of ``kind``."""
    found = body.find(name)
    if not found:
        candidates = tuple(sorted({a for a, fs in body.by_atom.items() if one_surface(fs).kind == kind}))
        raise BuildError(f"the face {name} is gone", hint="pick it again", candidates=candidates)
    surface = one_surface(next(iter(found.values())))
    if surface.kind != kind:
        raise BuildError(f"the face {name} is a {surface.kind}, a {kind} is needed", hint="pick another face")
    return surface
