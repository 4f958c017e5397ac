"""Callouts, readings, limits: every number has an owner."""

from lathed_solid.ledger.callouts import (
    Callout,
    CalloutKind,
    LedgerError,
    Note,
    Redress,
    SheetPlace,
    callouts_from_meaning,
    callouts_from_note,
    plain_meaning,
)
from lathed_solid.ledger.duties import Duty, DutyKind
from lathed_solid.ledger.limits import General, HouseRule, InchBlock, Iso2768, Limits, MetricBlock, PlusMinus, limits
from lathed_solid.ledger.probe import Probe, ProbeKind
from lathed_solid.ledger.readings import WAY_WORDS, Instrument, Reading, Way
from lathed_solid.ledger.roles import Role
from lathed_solid.ledger.spans import Span

__all__ = [
    "WAY_WORDS",
    "Callout",
    "CalloutKind",
    "Duty",
    "DutyKind",
    "General",
    "HouseRule",
    "InchBlock",
    "Instrument",
    "Iso2768",
    "LedgerError",
    "Limits",
    "MetricBlock",
    "Note",
    "PlusMinus",
    "Probe",
    "ProbeKind",
    "Reading",
    "Redress",
    "Role",
    "SheetPlace",
    "Span",
    "Way",
    "callouts_from_meaning",
    "callouts_from_note",
    "limits",
    "plain_meaning",
]
