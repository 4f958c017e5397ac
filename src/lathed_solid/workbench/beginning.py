"""A new part: what is in the hand, its unit, its material and its general tolerance, and where that leads."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from lathed_solid.ledger import General, InchBlock, Iso2768, LedgerError
from lathed_solid.part import Document, TurnedStep, edits
from lathed_solid.part.document import UNNAMED
from lathed_solid.part.steps import SketchStep
from lathed_solid.quantity import LengthUnit
from lathed_solid.turned import Station, TurnedTable
from lathed_solid.workbench.step_forms.begin import small

InHand = Literal["turned", "milled", "drawing", "caliper"]
#: what can be in the hand, in words: what it is, and what follows
HANDS: dict[InHand, tuple[str, str]] = {
    "turned": ("a turned part", "the table of its diameters and lengths"),
    "milled": ("a milled or cast part", "the sketch of its first outline"),
    "drawing": ("a drawing", "a sheet to lay beside the solid"),
    "caliper": ("a part and a caliper", "the log of its readings"),
}
#: where the keyboard goes, for each
LEADS: dict[InHand, tuple[Literal["read", "shape"], Literal["editor", "log", "sheets"]]] = {
    "turned": ("shape", "editor"), "milled": ("shape", "editor"), "drawing": ("read", "sheets"),
    "caliper": ("read", "log"),
}  # fmt: skip

#: general tolerances by the words that a title block has for them
GENERAL: dict[str, General] = {
    **{f"ISO 2768-{letter}": Iso2768(letter=letter) for letter in ("f", "m", "c", "v")},
    "inch block by decimal places": InchBlock(),
}


def general_words(general: General) -> str:
    """A general tolerance as the list has it, or in its own words."""
    return next((words for words, known in GENERAL.items() if known == general), str(general))


def general_from(text: str, unit: LengthUnit) -> General:
    """The general tolerance that a person chose or wrote, on a sheet in ``unit``. Raises LedgerError."""
    if text in GENERAL:
        return GENERAL[text]
    from lathed_solid.ledger.general_told import general_of as told_general
    from lathed_solid.notation.general_tolerances import general_tolerance
    from lathed_solid.notation.letters import plain_letters

    told = general_tolerance(f"TOLERANCES {plain_letters(text.strip()).text}", unit)
    if told is None:
        raise LedgerError("this general tolerance is not understood", received=text,
                          hint="ISO 2768-m, ±0.1 mm, or .XX ±.01 .XXX ±.005")  # fmt: skip
    return told_general(told, unit)


def general_of(unit: LengthUnit) -> str:
    """What a sheet in that unit mostly says of its general tolerances."""
    return "ISO 2768-m" if unit == "mm" else "inch block by decimal places"


@dataclass(frozen=True)
class Beginning:
    """The answers to the first question."""

    hand: InHand = "turned"
    name: str = UNNAMED
    unit: LengthUnit = "mm"
    material: str = "C45 steel"
    general: str = "ISO 2768-m"


def begun(b: Beginning) -> Document:
    """The new part: no callout that nobody entered, and the first step of what is in the hand.

    Raises DocumentError and StandardError for a name or a material that cannot be.
    """
    from lathed_solid.standards import material

    material(b.material)
    part = edits.changed(
        Document(), name=b.name.strip() or UNNAMED, unit=b.unit, material=b.material, general=GENERAL[b.general]
    )
    if b.hand == "turned":
        return edits.put_step(part, first_table(part, 10))
    return edits.put_step(part, SketchStep(number=10)) if b.hand == "milled" else part


def first_table(document: Document, number: int) -> TurnedStep:
    """A first turned table: one station to change; Tab after its sizes begins the next."""
    one = Station(key="A", diameter=small(document, "30", "1.25"), length=small(document, "40", "1.5"))
    return TurnedStep(number=number, table=TurnedTable(stations=(one,)))
