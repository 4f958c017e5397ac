"""Rounds by hand, where the kernel's own are refused or go wrong unseen."""

from lathed_solid.kernel.builders.rolling.corner import Corner
from lathed_solid.kernel.builders.rolling.rounds import corner_of, rolled, runs_on, tapers

__all__ = ["Corner", "corner_of", "rolled", "runs_on", "tapers"]
