"""Lathed Solid: from a dimensioned drawing or a caliper log to a solid whose dimensions and mass are proven.

The packages and the arrows between them are described in docs/architecture.md. Inside, lengths are
millimetres, angles radians, masses grams.
"""

__version__ = "0.1.0"
