"""Write the manual page anew from the commands: ``python tools/manual_page.py``."""

from lathed_solid.cli import cli
from lathed_solid.cli.integration import ASSETS
from lathed_solid.cli.manual import manual

if __name__ == "__main__":
    (ASSETS / "lathed-solid.1").write_text(manual(cli), "utf-8")
