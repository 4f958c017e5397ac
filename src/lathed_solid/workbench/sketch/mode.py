"""What every mode of the drawing board shares."""

from __future__ import annotations

from lathed_solid.workbench.sketch.board import STILL, DrawingBoard

#: what opens the field of an angle
ANGLE = ("<", "∠")


def begins_value(text: str) -> bool:
    """Whether a character over the drawing begins a number, a callout or a sum."""
    return bool(text) and (text.isdigit() or text in "#.,(")


class Mode:
    """The pointer lights up what lies under it, a press that stays still is a click."""

    mode = ""
    words = ""

    def __init__(self, board: DrawingBoard) -> None:
        self.board = board
        self.start: complex | None = None

    @property
    def hint(self) -> str:
        """What the next click does."""
        return self.words

    def find(self, at: complex) -> str | None:
        """What would be meant by a click."""
        return self.board.under(at)

    def refresh(self) -> None:
        """The figure is another one: what was half done goes on from what there is."""

    def press(self, at: complex) -> None:
        """The button goes down at a pixel."""
        self.start = at

    def move(self, at: complex, held: bool) -> None:
        """The pointer moves to a pixel, with the button down or not."""
        if not held:
            self.board.hover = self.find(at)

    def release(self, at: complex, add: bool) -> None:
        """The button goes up: a click, unless the pointer moved."""
        start, self.start = self.start, None
        if start is None or abs((at - start).real) + abs((at - start).imag) > STILL:
            return
        name = self.find(at)
        if name is not None:
            self.board.clicked(name, self.board.paper.place(at))
        self.click(name, at, add)

    def click(self, name: str | None, at: complex, add: bool) -> None:
        """A click on what was found there, or on paper."""

    def double(self, at: complex) -> None:
        """A double click: its second half is a click like the first, where nothing else is meant."""
        self.press(at)
        self.release(at, add=False)

    def cancel(self) -> bool:
        """Whether there was something half done."""
        return False

    def accept(self) -> bool:
        """Whether Enter meant something."""
        return False

    def typed(self, text: str) -> bool:
        """Whether a character meant something."""
        return False
