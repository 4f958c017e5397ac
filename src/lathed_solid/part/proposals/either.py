"""A first model of whatever the page shows: a turned part or a plate."""

from __future__ import annotations

from collections.abc import Callable

from lathed_solid.part.document import Document
from lathed_solid.part.proposals.drawn import Proposal, ProposalError
from lathed_solid.part.proposals.plate import propose_plate
from lathed_solid.part.proposals.turned import propose_turned
from lathed_solid.sheets.client import SheetPage
from lathed_solid.sheets.strokes import Linework


def propose(document: Document, page: SheetPage, linework: Linework, number: int = 1, page_number: int = 1) -> Proposal:
    """Of both families the proposal that leaves least open. Raises ProposalError where the page shows neither."""
    found: list[Proposal] = []
    refused: list[ProposalError] = []
    ways: tuple[Callable[..., Proposal], ...] = (propose_turned, propose_plate)
    for way in ways:
        try:
            proposal = way(document, page, linework, number, page_number)
        except ProposalError as exc:
            refused.append(exc)
            continue
        if not proposal.asked and not proposal.unplaced:
            return proposal
        found.append(proposal)
    if found:
        return min(found, key=lambda p: len(p.asked) + len(p.unplaced))
    turned, plate = refused
    if turned.what == plate.what:
        raise turned
    raise ProposalError(f"{turned.what}; {plate.what}", hint="Ctrl+T adds a table, Ctrl+K a sketch")
