"""The journal: what was committed and not saved comes back after the window was killed."""

from lathed_solid.files.journal.recovery import Recovered, Waiting, recoverable, waiting
from lathed_solid.files.journal.writing import Journal

__all__ = ["Journal", "Recovered", "Waiting", "recoverable", "waiting"]
