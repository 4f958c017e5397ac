"""First models proposed from what a drawing shows and says; nothing is built here."""

from lathed_solid.part.proposals.drawn import ProposalError
from lathed_solid.part.proposals.turned import Placed, Proposal, propose_turned

__all__ = ["Placed", "Proposal", "ProposalError", "propose_turned"]
