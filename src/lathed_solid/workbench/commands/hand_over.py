"""What can be handed over: the drawing, the machinist's sheet, files, pictures, the package; how they are wanted."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from lathed_solid.engine.protocol import FindLoops
from lathed_solid.errors import LathedError
from lathed_solid.kernel.drawing.flat import FLATS
from lathed_solid.kernel.vectors import Triple, dot
from lathed_solid.part import Document
from lathed_solid.part.pictures import with_picture
from lathed_solid.reports.file_names import slug
from lathed_solid.viewer.finishes import coated
from lathed_solid.workbench.bench import Workbench
from lathed_solid.workbench.hand_over.maker import Maker
from lathed_solid.workbench.hand_over.pictures import PictureOrder, PictureWish, order, remembered
from lathed_solid.workbench.prompts import Prompts

DRAWINGS = "PDF (*.pdf);;DXF (*.dxf);;SVG (*.svg)"
SHEETS = "PDF (*.pdf);;CSV (*.csv);;JSON (*.json)"
FLAT = "DXF (*.dxf);;SVG (*.svg)"
#: the kinds of files a solid is written as: ending, name in the file dialog
SOLIDS = {".step": "STEP (*.step *.stp)", ".3mf": "3MF (*.3mf)", ".stl": "STL (*.stl)", ".glb": "GLB (*.glb)"}


class HandOverCommands:
    """Of one workbench; ``ask`` puts the questions, ``maker`` makes."""

    def __init__(self, bench: Workbench, ask: Prompts, maker: Maker) -> None:
        self.bench, self.ask, self.maker = bench, ask, maker
        self.wish = PictureWish()
        maker.told.connect(bench.tell)

    @property
    def _document(self) -> Document:
        return self.bench.session.document

    def _path(self, title: str, more: str, ending: str, kinds: str) -> Path | None:
        """Where to; the first ending when none was typed."""
        session = self.bench.session
        folder = session.path.parent if session.path is not None else Path.home()
        path = self.ask.save_path(title, folder / f"{slug(session.document.name)}{more}{ending}", kinds)
        return path if path is None or path.suffix else path.with_suffix(ending)

    def write_drawing(self) -> None:
        """Ask where, and write the drawing."""
        if (path := self._path("Write the drawing", "-drawing", ".pdf", DRAWINGS)) is not None:
            self.maker.write_drawing(self._document, path)

    def write_machinist(self) -> None:
        """Ask where, and write the machinist's sheet."""
        if (path := self._path("Write the machinist's sheet", "-machinist", ".pdf", SHEETS)) is not None:
            self.maker.write_machinist(self._document, path)

    def picture_order(self, eye: Triple | None) -> PictureOrder:
        """What is asked of the renderer; ``eye``: where it is in the view. Raises LathedError."""
        return order(self.wish, self._document, self.bench.session.reply, eye)

    def write_picture(self, eye: Triple | None, frames: int = 1) -> None:
        """Ask where, and write the picture as it is wished, or its turn."""
        try:
            wanted = self.picture_order(eye).turned(frames)
        except LathedError as exc:
            self.bench.tell(exc.message, True)
            return
        kinds, ending = ("PNG (*.png)", ".png") if frames == 1 else ("GIF (*.gif);;APNG (*.apng)", ".gif")
        if (path := self._path("Write the picture", "", ending, kinds)) is not None:
            self.maker.write_picture(wanted.filmed(path), path)

    def coat(self, of: str, finish: str) -> None:
        """A face or a body of a finish of its own, or as the part again: an edit of the part."""
        self.bench.session.edit("a finish of its own", lambda d: coated(d, of, finish))

    def remember(self, name: str, eye: Triple | None) -> None:
        """The picture as it is wished, by a name: an edit of the part."""
        try:
            picture = remembered(name, self.wish, self.picture_order(eye).shot)
        except LathedError as exc:
            self.bench.tell(exc.message, True)
            return
        self.bench.session.edit("remember a picture", lambda d: d.model_copy(
            update={"pictures": with_picture(d.pictures, picture)}
        ))  # fmt: skip
        self.bench.tell(f"remembered as {picture.name}")

    def forget(self, name: str) -> None:
        """A remembered picture is forgotten: an edit of the part."""
        if all(p.name != name for p in self._document.pictures):
            self.bench.tell(f"no picture is remembered as {name or 'nothing'}", True)
            return
        self.bench.session.edit("forget a picture", lambda d: d.model_copy(
            update={"pictures": tuple(p for p in d.pictures if p.name != name)}
        ))  # fmt: skip

    def write_package(self) -> None:
        """Ask where, and write everything."""
        if (path := self._path("Write the package", "", ".zip", "Package (*.zip)")) is not None:
            self.maker.write_package(self._document, path)

    def write_solid(self, ending: str, chord: float) -> None:
        """Ask where, and write the solid."""
        if (path := self._path("Write the solid", "", ending, SOLIDS[ending])) is not None:
            self.maker.write_solid(self._document, path, chord)

    def write_face(self, chord: float) -> None:
        """The flat face that was picked last, its bounds at full size."""
        picked = next((p for p in reversed(self.bench.picks) if p.kind == "face" and p.names), None)
        if picked is None or picked.surface != "plane":
            self.bench.tell("pick a flat face in the solid first: its bounds are written at full size", True)
            return
        path = self._path("Write the face", f"-{slug(picked.names[0])}", ".dxf", FLAT)
        if path is not None:
            request = FindLoops(document=self._document, face=picked.names[0], chord=chord)
            self.maker.write_loops(self._document, path, request)

    def write_section(self, section: tuple[float, str] | None, chord: float) -> None:
        """The cut that is in view, its bounds at full size."""
        if section is None:
            self.bench.tell("cut the solid open first (X): what the plane cuts is written at full size", True)
            return
        path = self._path("Write the section", "-section", ".dxf", FLAT)
        if path is not None:
            at, axis = section
            request = FindLoops(document=self._document, section=(at, axis), chord=chord)
            self.maker.write_loops(self._document, path, request)

    def write_outline(self, eye: Triple | None, chord: float) -> None:
        """The outline from the side that one looks at most squarely, at full size."""
        side = FLATS[max(FLATS, key=lambda name: dot(FLATS[name].eye, eye or (0.0, -1.0, 0.0)))].side
        path = self._path("Write the outline", f"-{side}", ".dxf", FLAT)
        if path is not None:
            self.maker.write_loops(self._document, path, FindLoops(document=self._document, side=side, chord=chord))

    def restyle(self, **values: Any) -> None:
        """Another sheet, angle or scale for the drawing: an edit of the part."""
        style = self._document.drawing
        if all(getattr(style, k) == v for k, v in values.items()):
            return
        self.bench.session.edit("the drawing's sheet", lambda d: d.model_copy(
            update={"drawing": d.drawing.model_copy(update=values)}
        ))  # fmt: skip

    def move(self, balloon: int, view: str, x: float, y: float) -> None:
        """A note or a view put elsewhere on the sheet, by so many mm."""
        self.bench.session.edit("move on the drawing", lambda d: d.model_copy(
            update={"drawing": d.drawing.with_move(balloon, view, x, y)}
        ))  # fmt: skip

    def put_back(self) -> None:
        """Everything where the arrangement has it."""
        self.restyle(moved=())
