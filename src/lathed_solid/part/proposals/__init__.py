"""First models proposed from what a drawing shows and says; nothing is built here."""

from lathed_solid.part.proposals.drawn import Placed, Proposal, ProposalError
from lathed_solid.part.proposals.either import propose
from lathed_solid.part.proposals.plate import propose_plate
from lathed_solid.part.proposals.turned import propose_turned

__all__ = ["Placed", "Proposal", "ProposalError", "propose", "propose_plate", "propose_turned"]
