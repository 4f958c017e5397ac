"""The command line: the same work without a window.

Exit code 0: fine; 1: a verdict is out or not found, or a step failed; 2: an error (one line on stderr).
"""

import gc

# nothing of what a command loads can go: a collector that looks at it again and again takes an eighth of a short one
gc.set_threshold(300_000)

from lathed_solid.cli import exercises, fits, hand_over, integration, pictures, proof, sheets  # noqa: E402
from lathed_solid.cli import part_commands as work  # noqa: E402
from lathed_solid.cli.root import cli, main  # noqa: E402

__all__ = ["cli", "exercises", "fits", "hand_over", "integration", "main", "pictures", "proof", "sheets", "work"]
