"""Standard tables (CSV with a source column) and the formulas behind them."""

from lathed_solid.standards.fits import deviations, grade_tolerance
from lathed_solid.standards.general import angular, linear
from lathed_solid.standards.materials import Material, material, materials
from lathed_solid.standards.tables import StandardError
from lathed_solid.standards.threads import coarse_pitch

__all__ = [
    "Material",
    "StandardError",
    "angular",
    "coarse_pitch",
    "deviations",
    "grade_tolerance",
    "linear",
    "material",
    "materials",
]
