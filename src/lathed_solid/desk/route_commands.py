"""What the window does with the route: adding, moving, suspending and removing steps."""

from __future__ import annotations

from typing import Any

from lathed_solid.desk.file_commands import FileCommands
from lathed_solid.desk.route_card import RouteCard
from lathed_solid.desk.shape.page import ShapePage
from lathed_solid.part import (
    DatumPlane,
    ExtrudeStep,
    FacePlane,
    HoleStep,
    OnCircle,
    RevolveStep,
    SketchStep,
    TurnedStep,
    edits,
)
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
            lambda d: TurnedStep(number=edits.next_number(d), table=TurnedTable(stations=stations)),
        )

    def add_hole(self) -> None:
        """A hole on the picked face, or on the right end."""
        face = self.shape_page.picked.get("face", "") or f"{self.session.document.steps[0].number}/face.right"
        self._add_step(
            "add holes",
            lambda d: HoleStep(number=edits.next_number(d), face=face, diameter="5", depth="10", places=OnCircle()),
        )

    def _add_step(self, label: str, make: Any) -> None:
        if self.session.edit(label, lambda d: edits.put_step(d, make(d))):
            self.route.choose(self.session.document.steps[-1].number)
            self.edit_step()

    def toggle_suspended(self) -> None:
        number = self.route.current()
        step = self.session.document.step(number) if number is not None else None
        if step is not None and number is not None:
            word = "resume" if step.suspended else "suspend"
            self.session.edit(f"{word} step {number}", lambda d: edits.suspend_step(d, number, not step.suspended))

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
        self._add_step("add a sketch", lambda d: SketchStep(number=edits.next_number(d), plane=plane))

    def add_on_regions(self, kind: str, values: Any) -> None:
        """A step on the regions picked in a sketch: extrude, cut, revolve, turn away."""

        def make(d: Any) -> Any:
            number = edits.next_number(d)
            if kind.startswith("revolve"):
                return RevolveStep(number=number, mode="cut" if kind.endswith("cut") else "add", **values)
            distance = "10" if d.unit == "mm" else "0.5"
            if kind == "cut":
                return ExtrudeStep(number=number, mode="cut", distance=None, side="both", **values)
            return ExtrudeStep(number=number, distance=distance, **values)

        self._add_step({"cut": "cut the regions"}.get(kind, f"{kind.split('-')[0]} the regions"), make)
