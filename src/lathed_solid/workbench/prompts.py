"""What a command asks of a person, and what it needs of the view: two protocols, fakes of which drive the tests."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Literal, Protocol, TypeVar

from lathed_solid.files.journal import Waiting
from lathed_solid.kernel.vectors import Triple
from lathed_solid.part import Document
from lathed_solid.workbench.beginning import Beginning

T = TypeVar("T")

PARTS = "Parts (*.lathed part.json *.json)"
FITS = "Fits (*.lathed fit.json *.json)"


class Prompts(Protocol):
    """Questions; every answer may be "no answer"."""

    def open_path(self, title: str, folder: Path, kinds: str) -> Path | None:
        """A file to read; None when given up."""

    def save_path(self, title: str, start: Path, kinds: str) -> Path | None:
        """A file to write; None when given up."""

    def unsaved(self, name: str) -> Literal["save", "leave", "stay"]:
        """What becomes of edits that are not saved."""

    def confirm(self, title: str, words: str) -> bool:
        """Whether to go on."""

    def choose(self, title: str, words: str, answers: Sequence[str]) -> str | None:
        """One of several answers, the first of which is the safe one; None when given up."""

    def take_up(self, found: Sequence[Waiting], asked: str) -> Waiting | None:
        """Which unsaved work is taken up; None for none of it. ``asked``: what will be shown then."""

    def text(self, title: str, label: str, text: str) -> str | None:
        """A line of text; None when given up."""

    def properties(self, document: Document) -> Document | None:
        """The document with other properties; None when given up."""

    def parameters(self, document: Document) -> Document | None:
        """The document with other parameters; None when given up."""

    def redress(self, document: Document, balloon: int) -> Document | None:
        """The document with a decision on the disputed note of a callout; None when given up."""

    def beginning(self, last: Beginning) -> tuple[Beginning, Document] | None:
        """What is in the hand, and the new part that follows; None when given up."""


#: what can be switched in the view
Switch = Literal["see through", "cut open", "balloons", "ledger", "sheet beside"]
#: what can have the keyboard
Place = Literal["note line", "editor", "log", "sheets", "solid"]
#: what stands beside the window
Panel = Literal["look up", "compare", "compare the file", "guide", "keys", "exercises", "new steps", "new members"]


class View(Protocol):
    """The window as the commands see it."""

    def fit(self) -> None:
        """Fit the solid into its pane."""

    def look(self, name: str) -> None:
        """Turn to a view of the net."""

    def look_from(self, eye: Triple) -> None:
        """Turn so that the eye is there: from the solid towards it."""

    def drawn_from(self) -> Triple | None:
        """From where the pictorial view of the sheet at hand is drawn; None for flat views, and without a sheet."""

    def toggle(self, switch: Switch) -> None:
        """Turn a switch over."""

    def is_on(self, switch: Switch) -> bool:
        """Whether a switch is on."""

    def focus(self, place: Place) -> None:
        """Give it the keyboard."""

    def show_panel(self, panel: Panel) -> None:
        """Open what stands beside the window."""

    def thumbnail(self) -> bytes | None:
        """A small PNG of the solid; None while there is none."""

    def picture(self) -> bytes | None:
        """The view as a PNG, with what hangs over it; None while there is none."""

    def section(self) -> tuple[float, str] | None:
        """Where the solid is cut open: place and axis."""

    def eye(self) -> Triple | None:
        """Where the eye is: from the solid towards it; None while there is no view."""

    def measures_by_hand(self) -> bool:
        """Whether the sizes of what is picked are in view."""

    def restyle(self, *, dark: bool, projection: str) -> None:
        """Show other settings."""

    def close(self) -> object:
        """End."""


class Background(Protocol):
    """Work beside the window's thread; what came of it is told in the window's thread."""

    def run(self, work: Callable[[], T], done: Callable[[T], object], failed: Callable[[str], object]) -> int:
        """Do ``work``; then ``done`` with its result, or ``failed`` with words. The work's number."""
