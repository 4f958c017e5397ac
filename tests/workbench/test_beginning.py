"""The new part's question: what is in the hand leads on, and the ledger holds nothing that nobody entered."""

from __future__ import annotations

from dataclasses import replace

import pytest

from lathed_solid.errors import LathedError
from lathed_solid.ledger import InchBlock, Iso2768
from lathed_solid.workbench.beginning import HANDS, LEADS, Beginning, begun, general_of

from .fakes import Rig


@pytest.mark.parametrize("hand", list(HANDS))
def test_each_hand_begins_with_its_first_step_and_no_made_up_callout(hand: str) -> None:
    part = begun(Beginning(hand=hand, name=" Pawl ", unit="in", general=general_of("in")))  # type: ignore[arg-type]
    assert part.name == "Pawl" and part.unit == "in" and part.general == InchBlock() and not part.callouts
    assert [s.kind for s in part.steps] == {"turned": ["turned"], "milled": ["sketch"]}.get(hand, [])


def test_a_material_that_is_not_known_is_refused() -> None:
    with pytest.raises(LathedError, match="unobtainium"):
        begun(Beginning(material="unobtainium"))
    assert begun(Beginning(name="", general="ISO 2768-f")).general == Iso2768(letter="f")


@pytest.mark.parametrize("hand", list(HANDS))
def test_the_answer_leads_on_and_is_how_the_next_begins(rig: Rig, hand: str) -> None:
    def answered(last: Beginning) -> object:
        told = replace(last, hand=hand, unit="in", material="EN-GJL-250", general=general_of("in"))  # type: ignore[arg-type]
        return told, begun(told)

    rig.ask.begins = answered
    rig.commands.files.new()
    desk, place = LEADS[hand]  # type: ignore[index]
    assert rig.bench.desk == desk and rig.view.done[-1] == place
    assert rig.bench.step == (10 if hand in ("turned", "milled") else None)
    rig.ask.begins = lambda _last: None
    before = rig.document
    rig.commands.files.new()
    assert rig.document is before, "given up: all stays"
    assert rig.ask.asked[-1] == "begin in EN-GJL-250"
