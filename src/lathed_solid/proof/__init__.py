"""What to measure, verdicts, mass. Measuring itself is the kernel's."""

from lathed_solid.proof.duties import judge_duties, worst
from lathed_solid.proof.findings import Finding
from lathed_solid.proof.mass import MassVerdict, density, judge_mass
from lathed_solid.proof.plan import Plan, Showing, plan
from lathed_solid.proof.report import Report
from lathed_solid.proof.verdicts import SIGNS, DutyRow, Verdict, VerdictRow, judge

__all__ = [
    "SIGNS",
    "DutyRow",
    "Finding",
    "MassVerdict",
    "Plan",
    "Report",
    "Showing",
    "Verdict",
    "VerdictRow",
    "density",
    "judge",
    "judge_duties",
    "judge_mass",
    "plan",
    "worst",
]
