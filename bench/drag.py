"""A drag frame with its picture: pull, solve, and paint the whole pane, for sketches of 50, 200 and 600 constraints.

Run under X or with QT_QPA_PLATFORM=offscreen. The reference in the same run is painting alone.
"""

from __future__ import annotations

import os

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

import sys
import time
from pathlib import Path

import numpy as np
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QApplication

sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))

from sketch.figures import chain_of

from lathed_solid.desk import theme
from lathed_solid.desk.sketch.canvas import Canvas
from lathed_solid.part import Document, SketchStep, edits
from lathed_solid.sketch.solve import Drag
from lathed_solid.workbench.sketch.board import DrawingBoard
from lathed_solid.workbench.sketch.view_model import SketchState


def frames(constraints: int) -> None:
    figure = chain_of(constraints)
    drop = next(k for k in figure.values if figure.draft.constraints[k].kind == "angle")
    figure.draft.constraints.pop(drop)
    step = SketchStep(number=10, sketch=figure.draft.done())
    state = SketchState()
    state.load(edits.put_step(Document(), step), step)
    board = DrawingBoard(state)
    canvas = Canvas(board)
    canvas.resize(918, 681)
    board.resize(918, 681)
    picture = QPixmap(canvas.size())
    assert state.seen is not None
    drag = Drag(state.sketch, state.values, (state.sketch.points[-1].id,))
    took: dict[str, list[float]] = {"solve": [], "paint": [], "frame": []}
    for k in range(120):
        start = time.perf_counter()
        board.dragged = drag.to(20 * np.sin(k / 20), 15 * (1 - np.cos(k / 20)))
        solved = time.perf_counter()
        canvas.render(picture)
        end = time.perf_counter()
        for name, t in (("solve", solved - start), ("paint", end - solved), ("frame", end - start)):
            took[name].append(t * 1000)
    words = ", ".join(
        f"{name} {np.median(t):.1f} (95th percentile {np.percentile(t, 95):.1f})" for name, t in took.items()
    )
    print(f"{len(step.sketch.constraints)} constraints: {words} ms")


if __name__ == "__main__":
    app = QApplication([])
    theme.apply(app, dark=False)
    for n in (50, 200, 600):
        frames(n)
