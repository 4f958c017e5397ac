"""``python -m lathed_solid.cli``."""

from lathed_solid.cli import main

main()
