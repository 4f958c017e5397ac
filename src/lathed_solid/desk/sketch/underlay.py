"""A picture beneath the sketch: chosen from a file, brought to scale by two points of known distance."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QBuffer, QIODevice, QSize
from PyQt6.QtGui import QImageReader, QPixmap
from PyQt6.QtWidgets import QFileDialog

from lathed_solid.desk.ask import Size, ask_sizes
from lathed_solid.errors import LathedError
from lathed_solid.files.attachments import MAX_PICTURE, keep_picture, read_for
from lathed_solid.files.errors import FileError
from lathed_solid.part import scope
from lathed_solid.part.edits import changed
from lathed_solid.part.steps.sketch import Underlay
from lathed_solid.sketch.model import Point
from lathed_solid.store import stored

if TYPE_CHECKING:
    from lathed_solid.desk.sketch.editor import SketchEditor

#: a larger picture is shown at this size: it is there to draw over
MOST_PIXELS = 4000


def show(editor: SketchEditor) -> None:
    """Lay the step's picture under the drawing; a missing one is told once."""
    step, canvas = editor.state.step, editor.canvas
    under = step.underlay if step is not None else None
    if under is None:
        canvas.underlay, editor.underlay_name = None, ""
        return
    evaluate = scope(editor.state.document)
    try:
        canvas.underlay_at = (complex(under.x, under.y), evaluate(under.width, "length"), evaluate(under.turn, "angle"))
    except LathedError as exc:
        editor.told.emit(f"the picture beneath: {exc.message}", True)
        return
    if editor.underlay_name != under.picture:
        editor.underlay_name = under.picture
        canvas.underlay = _read(stored(under.picture))
        if canvas.underlay is None:
            editor.told.emit("the picture beneath the sketch is not here: choose it again", True)
    canvas.update()


def _read(data: bytes | None) -> QPixmap | None:
    """The picture, at most MOST_PIXELS wide or high; a hostile size is refused before it is unpacked."""
    if data is None:
        return None
    buffer = QBuffer()
    buffer.setData(data)
    buffer.open(QIODevice.OpenModeFlag.ReadOnly)
    reader = QImageReader(buffer)
    size = reader.size()
    if not size.isValid() or size.width() * size.height() > 400_000_000:
        return None
    if max(size.width(), size.height()) > MOST_PIXELS:
        scale = MOST_PIXELS / max(size.width(), size.height())
        reader.setScaledSize(QSize(max(1, round(size.width() * scale)), max(1, round(size.height() * scale))))
    image = reader.read()
    return None if image.isNull() else QPixmap.fromImage(image)


def choose(editor: SketchEditor) -> None:
    """Ask for a picture and its width, and lay it beneath."""
    name, _ = QFileDialog.getOpenFileName(editor, "Picture beneath the sketch", "", "Pictures (*.png *.jpg *.jpeg)")
    if name:
        take(editor, Path(name))


def take(editor: SketchEditor, path: Path) -> None:
    """Lay the picture of a file beneath the sketch, at a width that is asked for."""
    try:
        data = read_for(path, MAX_PICTURE)
        name = keep_picture(data, path)
    except FileError as exc:
        editor.told.emit(exc.message, True)
        return
    if _read(data) is None:
        editor.told.emit(f"{path.name} is damaged, or absurdly large", True)
        return
    evaluate = lambda: scope(editor.state.document)  # noqa: E731 - asked anew for each field
    given = ask_sizes(editor, "Picture beneath", [Size("width of the picture", "200")], evaluate)
    if given is not None:
        _commit(editor, "picture beneath", Underlay(picture=name, width=given.texts["width of the picture"]))


def scale_by_points(editor: SketchEditor) -> None:
    """Bring the picture to scale: two picked points, and how far apart they are on the paper."""
    step, sketch = editor.state.step, editor.state.sketch
    points = [p for n in editor.canvas.chosen if isinstance(p := sketch.by_id.get(n), Point)]
    if step is None or step.underlay is None:
        editor.told.emit("there is no picture beneath yet", True)
        return
    apart = abs(complex(points[0].x - points[1].x, points[0].y - points[1].y)) if len(points) == 2 else 0.0
    if apart < 1e-6:
        editor.told.emit("pick two points first, set on two places of the picture (P draws a point)", True)
        return
    evaluate = scope(editor.state.document)
    given = ask_sizes(editor, "Picture to scale", [Size("their distance on the paper", "100")], lambda: evaluate)
    if given is None:
        return
    factor = given.values["their distance on the paper"] / apart
    if not 1e-4 < factor < 1e4:
        editor.told.emit("this distance would scale the picture absurdly", True)
        return
    corner, width, _ = editor.canvas.underlay_at
    fixed = complex(points[0].x, points[0].y)  # the first point's place on the picture stays where it is
    new = fixed + (corner - fixed) * factor
    values = {"width": f"{width * factor:.9g} mm", "x": new.real, "y": new.imag}
    _commit(editor, "picture to scale", step.underlay.model_copy(update=values))


def drop(editor: SketchEditor) -> None:
    _commit(editor, "no picture beneath", None)


def _commit(editor: SketchEditor, label: str, under: Underlay | None) -> None:
    step = editor.state.step
    if step is None or step.underlay == under:
        return
    try:
        editor.changed.emit(f"step {step.number}: {label}", changed(step, underlay=under))
    except LathedError as exc:
        editor.told.emit(exc.message, True)
