"""The guide's pictures, made smaller from docs/screenshots: run under X, ``python tools/guide_pictures.py`` after
screenshots.py.
"""

from __future__ import annotations

import re
import subprocess
import sys
import tempfile
from pathlib import Path

from PIL import Image

from lathed_solid.guide.pages import HERE, PICTURES

SHOTS = Path(__file__).parent.parent / "docs" / "screenshots"
WIDTH = 900


def wanted() -> set[str]:
    """The pictures that the pages name."""
    pages = (HERE / "en").glob("*.md")
    return {name for page in pages for name in re.findall(r"!\[[^\]]*\]\(([\w-]+)\)", page.read_text("utf-8"))}


def main() -> None:
    PICTURES.mkdir(exist_ok=True)
    with tempfile.TemporaryDirectory() as folder:
        for name in sorted(wanted()):
            _make(name, folder)


def _make(name: str, folder: str) -> None:
    file = SHOTS / f"{name}.png"
    if not file.exists():  # one that stands in the guide alone
        command = [sys.executable, str(Path(__file__).with_name("screenshots.py")), name, folder]
        subprocess.run(command, check=True)
        file = Path(folder) / f"{name}.png"
    with Image.open(file) as shot:
        small = shot.convert("RGB").resize((WIDTH, round(WIDTH * shot.height / shot.width)), Image.Resampling.LANCZOS)
        small.save(PICTURES / f"{name}.jpg", quality=82, optimize=True)


if __name__ == "__main__":
    main()
