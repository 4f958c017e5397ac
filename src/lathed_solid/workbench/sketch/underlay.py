"""A picture beneath the sketch: chosen from a file, brought to scale by two points of known distance."""

from __future__ import annotations

from io import BytesIO
from pathlib import Path

from PIL import Image

from lathed_solid.errors import LathedError
from lathed_solid.files.attachments import MAX_PICTURE, keep_picture, read_for
from lathed_solid.part.edits import changed
from lathed_solid.part.steps.sketch import Underlay
from lathed_solid.quantity.tolerances import LINEAR
from lathed_solid.sketch.model import Point
from lathed_solid.workbench.asked_sizes import AskedSize
from lathed_solid.workbench.sketch.commands import SketchCommands

#: a picture of more pixels is refused before it is unpacked
MOST_PIXELS = 400_000_000
WIDTH, APART = "width of the picture", "their distance on the paper"


def choose(c: SketchCommands) -> None:
    """Ask for a picture and its width, and lay it beneath."""
    path = c.ask.picture()
    if path is not None:
        take(c, path)


def take(c: SketchCommands, path: Path) -> None:
    """Lay the picture of a file beneath the sketch, at a width that is asked for."""
    try:
        data = read_for(path, MAX_PICTURE)
        name = keep_picture(data, path)
    except LathedError as exc:
        c.told.emit(exc.message, True)
        return
    if not _sound(data):
        c.told.emit(f"{path.name} is damaged, or absurdly large", True)
        return
    given = c.ask_sizes("Picture beneath", AskedSize(WIDTH, c.small("200", "8")))
    if given is not None:
        _commit(c, "picture beneath", Underlay(picture=name, width=given.texts[WIDTH]))


def _sound(data: bytes) -> bool:
    """Whether a picture can be shown: its checksums hold, and its size is not absurd."""
    try:
        with Image.open(BytesIO(data)) as picture:
            if picture.width * picture.height > MOST_PIXELS:
                return False
            picture.verify()
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        return False
    return True


def laid(c: SketchCommands) -> tuple[complex, float, float] | None:
    """Where the step's picture lies: its lower left corner and width (mm), its turn (rad); None, told, when unknown."""
    step = c.board.state.step
    if step is None or step.underlay is None:
        return None
    under, evaluate = step.underlay, c.scope()
    try:
        return complex(under.x, under.y), evaluate(under.width, "length"), evaluate(under.turn, "angle")
    except LathedError as exc:
        c.told.emit(f"the picture beneath: {exc.message}", True)
        return None


def scale_by_points(c: SketchCommands) -> None:
    """Bring the picture to scale: two picked points, and how far apart they are on the paper."""
    step, sketch = c.board.state.step, c.board.state.sketch
    points = [p for n in c.board.chosen if isinstance(p := sketch.by_id.get(n), Point)]
    if step is None or step.underlay is None:
        c.told.emit("there is no picture beneath yet", True)
        return
    apart = abs(complex(points[0].x - points[1].x, points[0].y - points[1].y)) if len(points) == 2 else 0.0
    if apart < LINEAR:
        c.told.emit("pick two points first, set on two places of the picture (P draws a point)", True)
        return
    given, lies = c.ask_sizes("Picture to scale", AskedSize(APART, c.small("100", "4"))), laid(c)
    if given is None or lies is None:
        return
    factor = given.values[APART] / apart
    if not 1e-4 < factor < 1e4:
        c.told.emit("this distance would scale the picture absurdly", True)
        return
    corner, width, _ = lies
    fixed = complex(points[0].x, points[0].y)  # the first point's place on the picture stays where it is
    new = fixed + (corner - fixed) * factor
    values = {"width": f"{width * factor:.9g} mm", "x": new.real, "y": new.imag}
    _commit(c, "picture to scale", step.underlay.model_copy(update=values))


def drop(c: SketchCommands) -> None:
    """No picture beneath."""
    _commit(c, "no picture beneath", None)


def _commit(c: SketchCommands, label: str, under: Underlay | None) -> None:
    step = c.board.state.step
    if step is None or step.underlay == under:
        return
    try:
        c.changed.emit(f"step {step.number}: {label}", changed(step, underlay=under))
    except LathedError as exc:
        c.told.emit(exc.message, True)
