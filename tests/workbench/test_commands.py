"""Every command without a window: what it does, what it refuses, what it asks first."""

from __future__ import annotations

from pathlib import Path

import pytest

from lathed_solid import scripting as ls
from lathed_solid.engine import protocol
from lathed_solid.files import read_document, write_document
from lathed_solid.kernel.figures import Picked
from lathed_solid.ledger import Probe
from lathed_solid.part import DatumPlane, Document, FacePlane, HoleStep, SketchStep, TurnedStep, edits
from lathed_solid.workbench.actions import ACTIONS, find_action, run_action
from lathed_solid.workbench.beginning import begun
from lathed_solid.workbench.describe import bodies_of
from lathed_solid.workbench.step_forms.new import NEW
from lathed_solid.workbench.tables.route_rows import route_rows

from .fakes import Rig


def run(rig: Rig, name: str) -> None:
    run_action(next(a for a in ACTIONS if a.id == name), rig.commands)


def face(name: str, surface: str = "plane", point: tuple[float, float, float] = (0.0, 0.0, 0.0), **more) -> Picked:  # type: ignore[no-untyped-def]
    return Picked("face", (name,), point, surface=surface, **more)


# files -----------------------------------------------------------------------------------------
def test_opening_asks_about_unsaved_work_and_stays_when_told(rig: Rig, tmp_path: Path) -> None:
    other = tmp_path / "other.lathed"
    write_document(other, ls.new_part("other"))
    rig.session.edit("name", lambda d: edits.changed(d, name="Mine"))
    rig.ask.path, rig.ask.leave = other, "stay"
    run(rig, "open")
    assert rig.document.name == "Mine" and rig.ask.asked == ["unsaved Mine"]
    rig.ask.leave = "leave"
    run(rig, "open")
    assert rig.document.name == "other" and rig.session.path == other


def test_leaving_by_saving_saves_first_and_stays_when_that_fails(rig: Rig, tmp_path: Path) -> None:
    rig.session.edit("name", lambda d: edits.changed(d, name="Mine"))
    rig.ask.leave = "save"
    run(rig, "new")
    assert rig.document.name == "Mine", "the name was not given, so nothing was saved"
    rig.ask.path = tmp_path / "mine"
    rig.ask.begins = lambda last: (last, begun(last))
    run(rig, "new")
    assert read_document(tmp_path / "mine.lathed").name == "Mine"
    assert rig.document.name == "Untitled part" and rig.session.history.clean


def test_save_writes_over_the_file_it_has_and_asks_where_it_has_none(rig: Rig, tmp_path: Path) -> None:
    rig.ask.path = tmp_path / "a.lathed"
    run(rig, "save")
    assert rig.ask.asked == [f"Save the part: {rig.document.name}.lathed"]
    rig.session.edit("name", lambda d: edits.changed(d, name="Second"))
    run(rig, "save")
    assert len(rig.ask.asked) == 1 and read_document(tmp_path / "a.lathed").name == "Second"
    rig.ask.path = tmp_path / "b.json"
    run(rig, "save-as")
    assert rig.session.path == tmp_path / "b.json"
    rig.ask.path = None
    run(rig, "save-as")
    assert rig.session.path == tmp_path / "b.json"


def test_reports_are_written_where_they_are_asked_for(rig: Rig, tmp_path: Path) -> None:
    rig.ask.path = tmp_path / "v.csv"
    run(rig, "verdicts-csv")
    assert "balloon" in (tmp_path / "v.csv").read_text("utf-8") and rig.words == "verdicts written to v.csv"
    rig.ask.path = tmp_path / "none" / "v.csv"
    run(rig, "verdicts-csv")
    assert rig.bad
    rig.ask.path = tmp_path / "sheet.csv"
    run(rig, "inspection-blank")
    rig.answer()
    assert (tmp_path / "sheet.csv").exists() and rig.words == "inspection sheet written to sheet.csv"
    rig.ask.path = tmp_path / "a.step"
    run(rig, "export")
    rig.answer()
    assert rig.words == "exported to a.step"
    rig.ask.path = None
    asked = len(rig.kernel.asked)
    for name in ("export", "inspection", "verdicts-csv", "import"):
        run(rig, name)
    assert len(rig.kernel.asked) == asked, "given up"


def test_properties_and_parameters_are_edits(rig: Rig) -> None:
    rig.ask.change = lambda d: edits.changed(d, material="S235JR steel")
    run(rig, "properties")
    assert rig.document.material == "S235JR steel" and rig.session.history.undo_label == "part properties"
    rig.ask.change = lambda d: None
    run(rig, "parameters")
    assert rig.session.history.undo_label == "part properties"


def test_importing_what_is_no_body_is_told(rig: Rig, tmp_path: Path) -> None:
    bad = tmp_path / "x.step"
    bad.write_text("no step file")
    rig.ask.path = bad
    before = rig.document
    run(rig, "import")
    assert rig.document == before or rig.document.steps[-1].kind == "imported"
    rig.commands.files.import_path(tmp_path / "gone.step")
    assert rig.bad


# route -----------------------------------------------------------------------------------------
def test_a_part_begins_with_a_turned_table_and_only_one(tmp_path: Path) -> None:
    rig = Rig(tmp_path, ls.new_part("x"))
    run(rig, "add-hole")
    assert rig.words == "Add holes: not possible now" and rig.bad
    run(rig, "add-turned")
    assert isinstance(rig.document.steps[0], TurnedStep) and rig.bench.step == rig.document.steps[0].number
    assert rig.view.done[-1] == "editor" and not rig.commands.route.can_add_turned
    run(rig, "add-turned")
    assert len(rig.document.steps) == 1


def test_a_hole_and_a_sketch_go_where_a_face_is_picked(rig: Rig) -> None:
    rig.bench.pick(face("10/face.left"))
    run(rig, "add-hole")
    hole = rig.bench.chosen_step
    assert isinstance(hole, HoleStep) and hole.face == "10/face.left"
    rig.bench.pick(face("10/sA", "cylinder"))
    run(rig, "add-sketch")
    sketch = rig.bench.chosen_step
    assert isinstance(sketch, SketchStep) and sketch.plane.kind == "datum", "a round face is no plane"


def test_every_kind_of_new_step_is_begun_or_refused_in_words(rig: Rig) -> None:
    for new in NEW:
        before = rig.document
        rig.said.clear()
        rig.bench.pick(face("10/sA", "cylinder"))
        rig.commands.route.add_new(new)
        if rig.document == before:
            assert rig.bad and rig.words.startswith(new.entry.title), new
        else:
            assert rig.document.steps[-1].kind == new.kind and rig.bench.step == rig.document.steps[-1].number
            rig.session.undo()


@pytest.mark.parametrize(
    ("kind", "want"),
    [("extrude", ("extrude", "add")), ("cut", ("extrude", "cut")), ("revolve", ("revolve", "add")),
     ("revolve-cut", ("revolve", "cut"))],
)  # fmt: skip
def test_regions_of_a_sketch_are_built_on(rig: Rig, kind: str, want: tuple[str, str]) -> None:
    run(rig, "add-sketch")
    values = {"sketch": rig.bench.step, "regions": ()}
    rig.commands.route.add_on_regions(kind, values | ({"axis": "l1"} if "revolve" in kind else {}))
    step = rig.bench.chosen_step
    assert step is not None and (step.kind, getattr(step, "mode", "")) == want


def test_new_steps_come_after_where_work_stands(rig: Rig) -> None:
    rig.bench.choose_step(10)
    run(rig, "stand-here")
    assert rig.session.stand == 10 and "step 10" in rig.words
    run(rig, "add-sketch")
    kinds = [s.kind for s in rig.document.steps]
    assert kinds == ["turned", "sketch", "hole", "hole"] and rig.session.stand == rig.bench.step
    run(rig, "stand-end")
    assert rig.session.stand is None
    run(rig, "stand-end")
    assert "not possible now" in rig.words


def test_steps_are_duplicated_moved_suspended_and_removed(rig: Rig) -> None:
    rig.bench.choose_step(30)
    run(rig, "duplicate-step")
    assert [s.kind for s in rig.document.steps] == ["turned", "hole", "hole", "hole"]
    run(rig, "step-up")
    assert [len(s.balloons()) for s in rig.document.steps] == [23, 2, 4, 2] and rig.bench.step == 20
    run(rig, "step-up")
    assert rig.bad, "nothing comes before the turned table"
    run(rig, "step-down")
    assert [len(s.balloons()) for s in rig.document.steps] == [23, 4, 2, 2] and rig.bench.step == 30
    run(rig, "suspend-step")
    assert rig.bench.chosen_step is not None and rig.bench.chosen_step.suspended
    run(rig, "suspend-step")
    assert not rig.bench.chosen_step.suspended and rig.ask.asked == []
    run(rig, "drop-step")
    assert rig.document.step(30) is None and rig.bench.step == 10, (
        "the first step is chosen when the chosen one is gone"
    )


def test_a_step_that_carries_others_is_suspended_only_when_its_owner_says_so(rig: Rig) -> None:
    rig.bench.choose_step(10)
    rig.ask.yes = False
    run(rig, "suspend-step")
    assert not rig.document.steps[0].suspended and "carries step 20, 30" in rig.ask.asked[-1]
    rig.ask.yes = True
    run(rig, "suspend-step")
    assert rig.document.steps[0].suspended
    run(rig, "drop-step")
    assert rig.bad and rig.document.step(10) is not None


def test_editors_values_are_previewed_and_taken(rig: Rig) -> None:
    step = edits.changed(rig.document.step(20), diameter="9")
    rig.commands.route.consider(step)
    last = rig.kernel.asked[-1]
    assert isinstance(last, protocol.Build) and last.document.step(20) == step and rig.document.step(20) != step
    rig.commands.route.change("step 20 hole", step)
    assert rig.document.step(20) == step and rig.session.history.undo_label == "step 20 hole"


def test_choosing_another_step_ends_the_preview(rig: Rig) -> None:
    rig.commands.route.consider(edits.changed(rig.document.step(20), diameter="9"))
    rig.settle()
    shown: list[object] = []
    rig.session.builds.built.connect(shown.append)
    rig.bench.choose_step(30)
    assert len(shown) == 1
    rig.bench.choose_step(30)
    assert len(shown) == 1


# ledger ----------------------------------------------------------------------------------------
def test_a_note_makes_callouts_and_with_a_face_its_step(rig: Rig) -> None:
    last = rig.document.callouts[-1].balloon
    assert rig.notes.enter("Ø12 H7 ↧20")
    assert [c.balloon for c in rig.document.callouts][-2:] == [last + 1, last + 2] and len(rig.document.steps) == 3
    assert rig.bench.balloon == last + 2
    rig.bench.pick(face("10/face.left", place=(3.0, 4.0)))
    assert "a hole on 10/face.left" in rig.notes.understand("Ø12 H7 ↧20").words
    assert rig.notes.enter("Ø12 H7 ↧20")
    step = rig.bench.chosen_step
    assert isinstance(step, HoleStep) and step.diameter == f"#{last + 3}" and step.face == "10/face.left"


def test_a_note_is_previewed_and_the_preview_ends(rig: Rig) -> None:
    rig.bench.pick(face("10/face.left"))
    rig.notes.consider("Ø12 ↧20")
    last = rig.kernel.asked[-1]
    assert isinstance(last, protocol.Build) and len(last.document.steps) == 4 and len(rig.document.steps) == 3
    rig.settle()
    shown: list[object] = []
    rig.session.builds.built.connect(shown.append)
    rig.notes.consider("")
    assert len(shown) == 1 and not rig.session.builds.busy
    rig.notes.consider("Ø12 ↧")
    assert not rig.session.builds.busy


def test_a_note_that_is_not_understood_is_refused_and_stays_in_the_line(rig: Rig) -> None:
    taken: list[str] = []
    rig.notes.accepted.connect(taken.append)
    before = rig.document
    assert rig.notes.understand("4X FROB").bad
    assert not rig.notes.enter("4X FROB") and rig.bad and rig.document == before and taken == []
    assert rig.notes.enter("undo") and taken == ["undo"] and "not possible now" in rig.words


def test_a_note_is_read_once_from_key_to_ledger(rig: Rig, monkeypatch: pytest.MonkeyPatch) -> None:
    from lathed_solid import notation

    count = 0
    real = notation.read_note

    def counted(*args, **kw):  # type: ignore[no-untyped-def]
        nonlocal count
        count += 1
        return real(*args, **kw)

    monkeypatch.setattr(notation, "read_note", counted)
    text = "2X Ø7 THRU"
    rig.notes.understand(text)
    rig.notes.consider(text)
    rig.bench.pick(face("10/face.left"))
    rig.notes.understand(text)
    rig.notes.enter(text)
    assert count == 1


def test_commands_are_found_by_the_beginning_of_their_title(rig: Rig) -> None:
    found = find_action("cut op")
    assert found is not None and found.id == "section" and find_action("cu") is None
    assert rig.notes.understand("undo").words.startswith("command: Undo")
    assert rig.notes.enter("cut open") and rig.view.is_on("cut open")


def test_a_callout_is_driven_measured_and_removed(rig: Rig) -> None:
    run(rig, "drive")
    assert "not possible now" in rig.words, "none is chosen"
    read = next(r.balloon for r in rig.document.readings)
    rig.bench.choose_balloon(read)
    run(rig, "drive")
    assert rig.document.callout(read).drive == "measured"  # type: ignore[union-attr]
    run(rig, "drive")
    assert rig.document.callout(read).drive == "nominal"  # type: ignore[union-attr]
    run(rig, "drive-middle")
    assert rig.document.callout(read).drive == "middle"  # type: ignore[union-attr]
    run(rig, "measure-here")
    assert rig.words == "pick two faces in the solid, flat or round, one after the other"
    for name in ("10/face.left", "10/face.right"):
        rig.bench.pick(face(name, "plane"))
    run(rig, "measure-here")
    assert "flat or round" in rig.words, "a diameter is no distance of flat faces"
    rig.bench.pick(face("10/sA", "cylinder"))
    run(rig, "measure-here")
    assert rig.document.callout(read).measure == Probe(kind="diameter", faces=("10/sA",))  # type: ignore[union-attr]
    length = next(c for c in rig.document.callouts if c.kind == "length")
    rig.bench.choose_balloon(length.balloon)
    run(rig, "measure-here")
    position = Probe(kind="position", faces=("10/face.right", "10/sA"))
    assert rig.document.callout(length.balloon).measure == position  # type: ignore[union-attr]
    for name in ("10/face.left", "10/face.right"):
        rig.bench.pick(face(name, "plane"))
    run(rig, "measure-here")
    assert rig.document.callout(length.balloon).measure.faces == ("10/face.left", "10/face.right")  # type: ignore[union-attr]
    rig.bench.choose_balloon(read)
    rig.notes.enter("Ø99")
    mine = rig.document.callouts[-1].balloon
    run(rig, "drop-callout")
    assert rig.document.callout(mine) is None and rig.bench.balloon is None


def test_one_text_of_a_note_changes_all_its_callouts(rig: Rig) -> None:
    rig.notes.enter("4X ⌀6.6 THRU ⌴ ⌀11 ↧6.8")
    mine = [c.balloon for c in rig.document.callouts][-3:]
    rig.commands.ledger.edit_note(mine[1], "4X ⌀5.5 THRU ⌴ ⌀10 ↧5.7")
    assert [rig.document.callout(b).nominal for b in mine] == [5.5, 10, 5.7]  # type: ignore[union-attr]


# prove and view --------------------------------------------------------------------------------
def test_picks_are_measured_by_hand_where_that_is_in_view(rig: Rig) -> None:
    rig.bench.pick(face("10/sA", "cylinder", (5.0, 0.0, 20.0)))
    assert not rig.session.builds.busy
    rig.view.by_hand, rig.view.cut = True, (4.0, "z")
    rig.bench.show_desk("prove")
    rig.bench.pick(face("10/sB", "cylinder", (40.0, 0.0, 12.5)))
    last = rig.kernel.asked[-1]
    assert isinstance(last, protocol.MeasureByHand) and [t.name for t in last.things] == ["10/sA", "10/sB"]
    assert last.section == (4.0, "z") and not last.mesh
    rig.answer()
    rig.bench.pick(None)
    assert rig.bench.picks == () and rig.bench.served == {} and not rig.session.builds.busy


def test_a_sketch_is_begun_on_the_flat_face_beside_a_picked_edge(rig: Rig) -> None:
    rig.bench.pick(Picked("edge", ("10/sA|10/face.left",), (0.0, 0.0, 20.0), flat="10/face.left"))
    run(rig, "add-sketch")
    made = rig.session.document.steps[-1]
    assert isinstance(made, SketchStep) and made.plane == FacePlane(face="10/face.left")
    run(rig, "add-sketch")
    assert rig.session.document.step(made.number).plane == DatumPlane(plane="XY"), "once more: the part's planes"  # type: ignore[union-attr]


def test_a_picked_face_says_what_it_can_serve_as_and_a_double_click_opens_its_step(rig: Rig) -> None:
    rig.bench.choose_step(30)
    rig.bench.pick(face("20/h1.wall", "cylinder"))
    assert rig.bench.step == 30, "picking never turns to another step"
    rig.bench.open_maker(rig.bench.picks[-1])
    rig.bench.open_maker(None)
    assert rig.bench.step == 20 and rig.bench.served == {"face": "20/h1.wall", "axis": "20/h1.wall"}
    rig.bench.pick(Picked("edge", ("10/sA|10/face.left",), (0.0, 0.0, 20.0)))
    assert rig.bench.served == dict.fromkeys(("edge", "axis", "point"), "10/sA|10/face.left")
    rig.bench.pick(Picked("face", (), (0.0, 0.0, 0.0)))
    assert rig.bench.served == {} and rig.words == "picked face: no name" and rig.bench.step == 20


def test_suspects_are_shown_and_taken(rig: Rig, monkeypatch: pytest.MonkeyPatch) -> None:
    class Slip:
        now, kind = "5", "sign"

    class Mine:
        target, slips = "step 20", (Slip(),)

        def document(self, d: Document) -> Document:
            return edits.changed(d, name="without the slip")

    rig.commands.prove.show_suspect(Mine())  # type: ignore[arg-type]
    last = rig.kernel.asked[-1]
    assert isinstance(last, protocol.Build) and last.document.name == "without the slip"
    rig.commands.prove.show_suspect(None)
    rig.commands.prove.take_suspect(Mine())  # type: ignore[arg-type]
    assert rig.document.name == "without the slip" and rig.words == "sign undone at step 20"


def test_switches_looks_and_panels_reach_the_view(rig: Rig) -> None:
    for name, done in (("fit", "fit"), ("front", "front"), ("iso-left", "iso left"), ("keys", "keys"),
                       ("guide", "guide"), ("look-up", "look up"), ("compare", "compare"), ("add-step", "new steps"),
                       ("note", "note line"), ("quit", "close")):  # fmt: skip
        run(rig, name)
        assert rig.view.done[-1] == done
    for name, switch in (("see-through", "see through"), ("section", "cut open"), ("balloons", "balloons"),
                         ("drawer", "ledger")):  # fmt: skip
        run(rig, name)
        action = next(a for a in ACTIONS if a.id == name)
        assert rig.view.is_on(switch) and action.checked is not None and action.checked(rig.commands)
    run(rig, "dark")
    run(rig, "projection")
    assert rig.view.done[-1] == (True, "third") and rig.session.settings.dark
    run(rig, "desk-prove")
    assert rig.bench.desk == "prove"


def test_every_action_runs_or_says_that_it_cannot(rig: Rig) -> None:
    for action in ACTIONS:
        rig.said.clear()
        enabled = action.enabled(rig.commands)
        run_action(action, rig.commands)
        assert enabled or "not possible now" in rig.words, action.id
        rig.settle()
        assert isinstance(action.title, str) and len({a.id for a in ACTIONS}) == len(ACTIONS)


def test_a_step_s_name_is_its_body_s(rig: Rig) -> None:
    rig.bench.choose_step(10)
    rig.ask.line = "  spindle "
    run(rig, "name-step")
    assert rig.ask.asked[-1] == "Name a step: " and rig.document.step(10).remark == "spindle"  # type: ignore[union-attr]
    assert route_rows(rig.document, None)[0].title == "spindle"
    assert bodies_of(rig.document, (10, 10)) == {10: "10  spindle"}
    rig.ask.line = None
    run(rig, "name-step")
    assert rig.document.step(10).remark == "spindle", "given up"  # type: ignore[union-attr]
    rig.ask.line = ""
    run(rig, "name-step")
    assert route_rows(rig.document, None)[0].title == "Turned table"
