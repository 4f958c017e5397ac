"""Refresh docs/screenshots from the demo: run under X, ``python tools/screenshots.py``."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path
from typing import Any

from lathed_solid.demo import DEMOS

OUT = Path(__file__).parent.parent / "docs" / "screenshots"


def read(w: Any) -> None:
    w.log_page.view.selectRow(8)


def shape(w: Any) -> None:
    w.shape_page.turned.stations.selectRow(1)
    w.note_line.field.setFocus()
    w.note_line.field.setText("4X ⌀6.6 THRU ⌴ ⌀11 ↧6.8 ON ⌀52 BC")


def prove(w: Any) -> None:
    w.prove_page.view.selectRow(0)
    w.look("iso right")


def holes(w: Any) -> None:
    w.route.choose(20)
    w.look("iso right")
    w.view_bar.toggle_section()


SHOTS = {"read": ("read", read), "shape": ("shape", shape), "prove": ("prove", prove), "holes": ("shape", holes)}


def main() -> None:
    if len(sys.argv) > 1:
        from lathed_solid.desk.shot import take_shot

        name = sys.argv[1]
        desk, prepare = SHOTS[name]
        take_shot(DEMOS["winch-spindle"](), OUT / f"{name}.png", desk, 1280, 800, prepare=prepare)
        return
    OUT.mkdir(parents=True, exist_ok=True)
    for name in SHOTS:  # a fresh process each, as a fresh start
        subprocess.run([sys.executable, __file__, name], check=True)


if __name__ == "__main__":
    main()
