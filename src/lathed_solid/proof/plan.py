"""What to measure for each callout: the faces that its number is said to fix.

A callout that stands alone in a step's field (``#7``) is measured where that field shows on the solid; a
callout used only inside a sum, or not at all, needs a probe of its own (``Callout.measure``).
"""

from __future__ import annotations

from dataclasses import dataclass

from lathed_solid.ledger import Callout, Probe
from lathed_solid.part import Document
from lathed_solid.part.edits import users_of
from lathed_solid.part.sketch_probes import sketch_fields


@dataclass(frozen=True, slots=True)
class Plan:
    """Probes of one callout, the fields that use it, and why there is no probe."""

    balloon: int
    probes: tuple[Probe, ...]
    used_by: tuple[str, ...]
    reason: str = ""


def plan(document: Document) -> tuple[Plan, ...]:
    """One plan for every callout, in balloon order. Suspended steps prove nothing."""
    direct: dict[str, list[tuple[str, Probe]]] = {}
    for step in document.steps:
        if step.suspended:
            continue
        for field in step.fields():
            if field.probe is not None:
                direct.setdefault(field.text.strip(), []).append((f"step {step.number} {field.path}", field.probe))
    for number, field in sketch_fields(document):
        if field.probe is not None:
            direct.setdefault(field.text.strip(), []).append((f"step {number} {field.path}", field.probe))
    return tuple(_plan(document, c, direct.get(c.name, [])) for c in document.callouts)


def _plan(document: Document, callout: Callout, direct: list[tuple[str, Probe]]) -> Plan:
    used = tuple(where for where, _ in direct) or tuple(users_of(document, callout.name))
    if callout.measure is not None:
        return Plan(callout.balloon, (callout.measure,), used)
    if direct:
        return Plan(callout.balloon, tuple(probe for _, probe in direct), used)
    if used:
        reason = f"used by {', '.join(used)}, but no single face shows it: pick the faces to measure"
    else:
        reason = "not used by any step"
    return Plan(callout.balloon, (), used, reason)
