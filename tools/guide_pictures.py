"""The guide's pictures: run under X, ``python tools/guide_pictures.py [NAME ...]`` after screenshots.py.

Those of the window are made smaller from docs/screenshots; the demo parts with their finishes are rendered by the
application itself.
"""

from __future__ import annotations

import re
import subprocess
import sys
import tempfile
from pathlib import Path

from PIL import Image

from lathed_solid.demo import DEMOS
from lathed_solid.guide.pages import HERE, PICTURES
from lathed_solid.hand_over_scripting import write_picture
from lathed_solid.viewer.shots import Shot

SHOTS = Path(__file__).parent.parent / "docs" / "screenshots"
WIDTH = 900
#: rendered pictures: demo parts beside one another, each in a finish
RENDERED = {"finishes": (("winch-spindle", "ground"), ("pedestal", "cast"), ("gland-nut", "bronze"))}


def wanted() -> set[str]:
    """The pictures that the pages name."""
    pages = (HERE / "en").glob("*.md")
    return {name for page in pages for name in re.findall(r"!\[[^\]]*\]\(([\w-]+)\)", page.read_text("utf-8"))}


def main() -> None:
    PICTURES.mkdir(exist_ok=True)
    with tempfile.TemporaryDirectory() as folder:
        for name in sys.argv[1:] or sorted(wanted()):
            if name in RENDERED:
                _render(name, Path(folder))
            else:
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


def _render(name: str, folder: Path) -> None:
    parts = RENDERED[name]
    side = WIDTH // len(parts)
    out = Image.new("RGB", (side * len(parts), side))
    for n, (demo, finish) in enumerate(parts):
        picture = folder / f"{demo}.png"
        shot = Shot(2 * side, 2 * side, floor=True)
        write_picture(DEMOS[demo](), picture, finish, shot)
        with Image.open(picture) as one:
            out.paste(one.convert("RGB").resize((side, side), Image.Resampling.LANCZOS), (n * side, 0))
    out.save(PICTURES / f"{name}.jpg", quality=84, optimize=True)


if __name__ == "__main__":
    main()
