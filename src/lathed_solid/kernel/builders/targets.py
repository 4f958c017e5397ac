"""Which bodies a step works on that names faces or edges: those that carry them."""

from __future__ import annotations

from collections.abc import Callable

from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Parts
from lathed_solid.part.names import read_edge
from lathed_solid.part.steps.edges import ResolvedEdges


def change_bodies(parts: Parts, pick: ResolvedEdges, change: Callable[[Body], Body]) -> Parts:
    """Change every body that carries what is picked (all bodies, for a rule). Raises BuildError."""
    if not parts.bodies:
        raise BuildError("there is no body yet", hint="add material first")
    if len(parts.bodies) == 1:
        ((number, body),) = parts.bodies.items()
        return parts.with_body(number, change(body))
    wanted = set(pick.faces)
    for name in pick.edges:
        read = read_edge(name)
        wanted |= {a for side in read.faces for a in side} if read else set()
    heads = tuple(f"{s}/" for s in pick.steps)
    out, refused = dict(parts.bodies), []
    for number, body in parts.bodies.items():
        if not (pick.rule or wanted & set(body.by_atom) or any(a.startswith(heads) for a in body.by_atom)):
            continue
        try:
            out[number] = change(body)
        except BuildError as exc:
            refused.append(exc)
    if refused and (not pick.rule or len(refused) == len(parts.bodies)):
        raise refused[0]
    return parts.with_bodies(out)
