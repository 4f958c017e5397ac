"""Tips: one where it helps, once; switched off, and on again from the start."""

from __future__ import annotations

from lathed_solid.guide import PAGES
from lathed_solid.workbench.actions import ACTIONS, run_action
from lathed_solid.workbench.tips import TIPS, due

from .test_commands import Rig, run


def test_each_place_has_one_that_is_shown_once() -> None:
    assert len({t.id for t in TIPS}) == len({t.place for t in TIPS}) == len(TIPS)
    for t in TIPS:
        assert due(t.place, ()) == t and due(t.place, (t.id,)) is None
        assert 30 < len(t.words) < 170 and t.words.endswith((".", "it."))
    assert due("nowhere", ()) is None


def test_every_place_of_a_tip_has_its_page() -> None:
    places = {place for p in PAGES for place in p.places}
    assert {t.place for t in TIPS} <= places


def test_everything_grows_by_steps_and_stops(rig: Rig) -> None:
    for name, scale in (("larger", 125), ("larger", 150), ("larger", 175), ("larger", 200), ("larger", 200),
                        ("smaller", 175)):  # fmt: skip
        run(rig, name)
        assert rig.session.settings.scale == scale
    assert "175 % from the next start" in rig.words
    rig.session.set_settings(rig.session.settings.model_copy(update={"scale": 100}))
    run(rig, "smaller")
    assert "as far as it goes" in rig.words


def test_they_are_switched_off_and_on_again(rig: Rig) -> None:
    rig.session.set_settings(rig.session.settings.model_copy(update={"tips_seen": ("fit", "log")}))
    action = next(a for a in ACTIONS if a.id == "tips")
    assert action.checked is not None and action.checked(rig.commands)
    run(rig, "tips")
    assert not rig.session.settings.tips and not action.checked(rig.commands) and rig.words == "no more tips"
    assert rig.session.settings.tips_seen == ("fit", "log")
    run_action(action, rig.commands)
    assert rig.session.settings.tips and rig.session.settings.tips_seen == ()
