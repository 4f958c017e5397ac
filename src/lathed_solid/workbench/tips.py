"""Tips: one sentence where it helps, shown once. Which have been seen is a setting."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass


@dataclass(frozen=True)
class Tip:
    """``place`` as the guide's pages name it: a desk, or a pane of it."""

    id: str
    place: str
    words: str


TIPS = (
    Tip("log", "read: caliper log",
        "Type what the caliper shows into the last row. A second reading of the same size goes into its "
        "repeats: the uncertainty shrinks with each."),
    Tip("sheets", "read: sheets",
        "“take all found” makes a callout of every note on the page. A click where a number stands enters it "
        "by hand."),
    Tip("chains", "read: chains",
        "What contradicts here is wrong on the paper: it is cheaper to ask before anything is modelled."),
    Tip("turned", "shape: turned",
        "A click on a number of the half section edits it. Tab after the last cell begins the next station."),
    Tip("hole", "shape: hole",
        "The section above the form is to scale: a click on its dimension edits it. “usual sizes” fills all "
        "of them at once."),
    Tip("step", "shape: step",
        "Pick in the solid while a field waits: what was picked goes in, and the form stays."),
    Tip("verdicts", "prove: verdicts",
        "→ unfolds a row to all that its note asks. A click on a face of the solid finds the rows that were "
        "measured there."),
    Tip("suspects", "prove: suspects",
        "Each slip that people make is undone in turn, and the part built without it. Choose one to see that "
        "part."),
    Tip("witness", "prove: drawing",
        "A hole on the wrong side weighs the same: the drawing laid over the part sees it."),
    Tip("fit", "fit",
        "Click a face of one part, then one of another: what can join them is offered. 1 to 9 shows it, Enter "
        "takes it."),
)  # fmt: skip


def due(place: str, seen: Collection[str]) -> Tip | None:
    """The tip for what is in view that was not seen yet; None for none."""
    return next((t for t in TIPS if t.place == place and t.id not in seen), None)
