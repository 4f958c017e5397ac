"""Standard tables (CSV with a source column) and the formulas behind them."""

from lathed_solid.standards.clearance import clearance_hole
from lathed_solid.standards.csv_tables import StandardError
from lathed_solid.standards.fits import deviations, grade_tolerance
from lathed_solid.standards.general import angular, linear
from lathed_solid.standards.materials import Material, material, materials
from lathed_solid.standards.threads import ThreadForm, coarse_pitch, thread_form

__all__ = [
    "Material",
    "StandardError",
    "ThreadForm",
    "angular",
    "clearance_hole",
    "coarse_pitch",
    "deviations",
    "grade_tolerance",
    "linear",
    "material",
    "materials",
    "thread_form",
]
