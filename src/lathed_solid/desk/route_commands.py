"""What the window does with the route: adding, moving, suspending and removing steps."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from pydantic import ValidationError
from PyQt6.QtWidgets import QMenu, QMessageBox

from lathed_solid.desk.actions import ACTIONS
from lathed_solid.desk.file_commands import FileCommands
from lathed_solid.desk.route_card import RouteCard
from lathed_solid.desk.shape.page import ShapePage
from lathed_solid.desk.steps.new import GROUPS, NEW, Missing, NewStep, new_step
from lathed_solid.errors import LathedError
from lathed_solid.part import (
    DatumPlane,
    DocumentError,
    FacePlane,
    HoleStep,
    SketchStep,
    TurnedStep,
    edits,
)
from lathed_solid.part.steps import KINDS
from lathed_solid.turned import Station, TurnedTable


class RouteCommands(FileCommands):
    """Knows the route card and the page of step editors."""

    route: RouteCard
    shape_page: ShapePage

    def show_desk(self, desk: str) -> None:
        """Turn to a desk; the window does it."""

    def edit_step(self) -> None:
        self.show_desk("shape")
        self.shape_page.take_focus()

    def can_add_turned(self) -> bool:
        return not self.session.document.steps

    def add_turned(self) -> None:
        """A first turned table: two stations to change."""
        stations = (
            Station(key="A", diameter="30", length="40"),
            Station(key="B", diameter="20", length="25"),
        )
        self._add_step(
            "add a turned table",
            lambda _d, n: TurnedStep(number=n, table=TurnedTable(stations=stations)),
        )

    def add_hole(self) -> None:
        """A hole on the picked face, or on the right end."""
        face = self.shape_page.picked.get("face", "") or f"{self.session.document.steps[0].number}/face.right"
        self._add_step(
            "add holes",
            lambda d, n: HoleStep(number=n, face=face, diameter=_size(d, "5", "1/4"), depth=_size(d, "10", "1/2")),
        )

    def lay_beneath(self, picture: bytes, width: float, to_scale: bool) -> None:
        """A picture (PNG), ``width`` mm wide, beneath the sketch that is chosen, or beneath a new one."""
        from lathed_solid.files.attachments import keep_picture
        from lathed_solid.part.steps.sketch import Underlay

        try:
            name = keep_picture(picture, Path("the sheet"))
        except LathedError as exc:
            self.tell(exc.message, True)
            return
        under = Underlay(picture=name, width=f"{width:.9g} mm")
        number = self.route.current()
        chosen = self.session.document.step(number) if number is not None else None
        if isinstance(chosen, SketchStep):
            step = edits.changed(chosen, underlay=under)
            self.session.edit(f"step {chosen.number}: the sheet beneath", lambda d: edits.put_step(d, step))
        else:
            self._add_step("sketch over the sheet", lambda _d, n: SketchStep(number=n, underlay=under))
        self.show_desk("shape")
        self.tell("the view lies beneath the sketch" + ("" if to_scale else "; bring it to scale by two points"), False)

    def _add_step(self, label: str, make: Any) -> None:
        """Add the step that ``make`` gives for a document and a free number, after where work stands."""
        made: list[int] = []

        def change(d: Any) -> Any:
            d, number = edits.place_after(d, self.session.stand)
            made[:] = [number]
            return edits.put_step(d, make(d, number))

        stand = self.session.stand
        if self.session.edit(label, change):
            if stand is not None:
                self.session.stand_at(made[0])
            self.route.choose(made[0])
            self.edit_step()

    def add_new(self, new: NewStep) -> None:
        """Begin a step of any kind, from what is picked."""
        picked = dict(self.shape_page.picked)

        def make(d: Any, number: int) -> Any:
            try:
                return new_step(new, d, picked, number)
            except Missing as exc:
                raise DocumentError(f"{new.entry.title}: {exc}") from None
            except ValidationError as exc:
                raise edits.plain_error(exc) from None

        self._add_step(new.entry.title.lower(), make)

    def add_menu(self) -> QMenu:
        """All kinds of steps, by group."""
        menu = QMenu(self)
        for action in (a for a in ACTIONS if a.id in ("add-turned", "add-sketch", "add-hole")):
            self._entry(menu, action.title, action.keys, lambda a=action: a.run(self))
        for group in GROUPS:
            menu.addSection(group)
            for new in (n for n in NEW if n.entry.group == group):
                self._entry(menu, new.entry.title, new.entry.keys, lambda n=new: self.add_new(n))
        return menu

    def _entry(self, menu: QMenu, title: str, keys: str, run: Any) -> None:
        entry = menu.addAction(f"{title}\t{keys}" if keys else title)
        if entry is not None:
            entry.triggered.connect(lambda _=False: run())

    def open_add_menu(self) -> None:
        self.route.add.click()

    def duplicate_step(self) -> None:
        number = self.route.current()
        if number is not None:
            self.session.edit(f"duplicate step {number}", lambda d: edits.duplicate_step(d, number))

    def stand_here(self) -> None:
        """Build up to the chosen step only; new steps come after it."""
        number = self.route.current()
        if number is not None:
            self.session.stand_at(number)
            where = f"work stands at step {number}" if self.session.stand else "work stands at the end"
            self.tell(f"{where}; new steps come after it", False)
        self._show_route()

    def stand_at_end(self) -> None:
        self.session.stand_at(None)
        self._show_route()

    def _show_route(self) -> None:
        """Show the route anew; the window does it."""

    def toggle_suspended(self) -> None:
        number = self.route.current()
        step = self.session.document.step(number) if number is not None else None
        if step is not None and number is not None:
            word = "resume" if step.suspended else "suspend"
            carried = edits.dependents(self.session.document, number)
            if carried and not step.suspended and not self._goes_on(number, carried):
                return
            self.session.edit(f"{word} step {number}", lambda d: edits.suspend_step(d, number, not step.suspended))

    def _goes_on(self, number: int, carried: list[int]) -> bool:
        """Whether a step may be suspended though others stand on it; asked before it is done."""
        words = f"Step {number} carries step {', '.join(map(str, carried))}: those may not build without it."
        kind = QMessageBox.StandardButton
        return QMessageBox.question(self, "Suspend a step", words, kind.Ok | kind.Cancel) != kind.Cancel

    def drop_step(self) -> None:
        number = self.route.current()
        if number is not None:
            self.session.edit(f"remove step {number}", lambda d: edits.drop_step(d, number))

    def move_step(self, by: int) -> None:
        number = self.route.current()
        numbers = [s.number for s in self.session.document.steps]
        if number is not None:
            self._move_to(number, numbers.index(number) + by)

    def _move_to(self, number: int, row: int) -> None:
        self.session.edit(f"move step {number}", lambda d: edits.move_step(d, number, row))

    def add_sketch(self) -> None:
        """A sketch on the picked face when it is flat, else on the XY plane."""
        face = self.shape_page.picked.get("plane", "")
        plane = FacePlane(face=face) if face else DatumPlane()
        self._add_step("add a sketch", lambda _d, n: SketchStep(number=n, plane=plane))

    def add_on_regions(self, kind: str, values: Any) -> None:
        """A step on the regions picked in a sketch: extrude, cut, revolve, turn away."""

        def make(d: Any, number: int) -> Any:
            if kind.startswith("revolve"):
                revolve: Any = KINDS["revolve"]
                return revolve(number=number, mode="cut" if kind.endswith("cut") else "add", **values)
            extrude: Any = KINDS["extrude"]
            if kind == "cut":
                return extrude(number=number, mode="cut", distance=None, side="both", **values)
            return extrude(number=number, distance="10" if d.unit == "mm" else "0.5", **values)

        self._add_step({"cut": "cut the regions"}.get(kind, f"{kind.split('-')[0]} the regions"), make)


def _size(document: Any, mm: str, inch: str) -> str:
    return mm if document.unit == "mm" else inch
