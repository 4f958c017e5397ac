"""The command line: the same work without a window.

Exit code 0: fine; 1: a verdict is out or not found, or a step failed; 2: an error (one line on stderr).
"""

from lathed_solid.cli import exercises, fits, hand_over, integration, pictures, proof, sheets
from lathed_solid.cli import part_commands as work
from lathed_solid.cli.root import cli, main

__all__ = ["cli", "exercises", "fits", "hand_over", "integration", "main", "pictures", "proof", "sheets", "work"]
