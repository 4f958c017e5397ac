"""Taking up what windows that were killed had not saved."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from lathed_solid.files.journal import Waiting, waiting
from lathed_solid.workbench.commands import Commands


def take_up_work(commands: Commands, folder: Path, asked: str = "", *, at_start: bool = False) -> set[str]:
    """Offer the unsaved work that waits, and show what is taken up; which of ``part`` and ``fit`` is shown by it.

    ``asked``: what is shown otherwise, in words. At the start of a window for which nothing was asked, what one
    window left is taken up at once. What is not taken up waits on.
    """
    found = waiting(folder)
    if at_start and not asked and len({w.kind for w in found}) == len(found):
        return {w.kind for w in found if _shown(commands, w)}
    if not found:
        if not at_start:
            commands.bench.tell("no unsaved work waits")
        return set()
    return _offer(commands, found, asked, at_start=at_start)


def _offer(commands: Commands, found: Sequence[Waiting], asked: str, *, at_start: bool) -> set[str]:
    chosen = commands.files.ask.take_up(found, asked)
    if chosen is None:
        return set()
    leave = (commands.fit if chosen.kind == "fit" else commands.files).may_leave
    if not at_start and not leave():
        return set()
    return {chosen.kind} if _shown(commands, chosen) else set()


def _shown(commands: Commands, work: Waiting) -> bool:
    """Take one up; False (and words) when nothing in it can be read."""
    found = work.recovered()
    if found is None:
        commands.bench.tell(f"nothing in {work.journal.name} can be read any more; it is left where it is", True)
        return False
    if found.fits is not None:
        commands.fit.session.recover(found)
        commands.bench.show_desk("fit")
    else:
        commands.bench.session.recover(found)
    return True
