"""What to measure, verdicts, mass. Measuring itself is the kernel's."""

from lathed_solid.proof.mass import MassVerdict, density, judge_mass
from lathed_solid.proof.plan import Plan, plan
from lathed_solid.proof.report import Report
from lathed_solid.proof.verdicts import SIGNS, Verdict, VerdictRow, chamfer_angle_fits, judge

__all__ = [
    "SIGNS",
    "MassVerdict",
    "Plan",
    "Report",
    "Verdict",
    "VerdictRow",
    "chamfer_angle_fits",
    "density",
    "judge",
    "judge_mass",
    "plan",
]
