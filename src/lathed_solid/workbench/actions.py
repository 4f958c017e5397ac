"""All actions as data: id, title, keys, group, what to call, when it is possible.

Menus, shortcuts, note-line commands and the keyboard help are drawn from this one table.
"""

from __future__ import annotations

from collections.abc import Callable

from lathed_solid.quantity.formatting import Spoken, as_it_is
from lathed_solid.workbench.action import Action, at_fit, by_desk
from lathed_solid.workbench.commands import Commands
from lathed_solid.workbench.commands.recovery import take_up_work
from lathed_solid.workbench.fit.actions import FIT_ACTIONS
from lathed_solid.workbench.step_forms.new import NEW, NewStep


def _has_solid(c: Commands) -> bool:
    if at_fit(c):
        return bool(c.bench.session.reply) or bool(c.fit.session.fit.members)
    return c.bench.session.reply is not None and bool(c.bench.session.reply.shape)


def _has_part(c: Commands) -> bool:
    return _part(c) and c.bench.session.reply is not None and bool(c.bench.session.reply.shape)


def _has_sheet(c: Commands) -> bool:
    return _part(c) and any(not s.photograph for s in c.bench.session.document.sheets)


def _undo_label(c: Commands) -> str | None:
    return (c.fit.session if at_fit(c) else c.bench.session).history.undo_label


def _redo_label(c: Commands) -> str | None:
    return (c.fit.session if at_fit(c) else c.bench.session).history.redo_label


def _part(c: Commands) -> bool:
    return not at_fit(c)


_BASE: tuple[Action, ...] = (
    Action("new", "New", "Ctrl+N", "Part", by_desk(lambda c: c.fit.new(), lambda c: c.files.new()),
           tip="a part, or at the Fit desk a fit"),
    Action("open", "Open…", "Ctrl+O", "Part", by_desk(lambda c: c.fit.open(), lambda c: c.files.open())),
    Action("save", "Save", "Ctrl+S", "Part", by_desk(lambda c: c.fit.save(), lambda c: c.files.save())),
    Action("save-as", "Save under another name…", "Ctrl+Shift+S", "Part",
           by_desk(lambda c: c.fit.save_as(), lambda c: c.files.save_as())),
    Action("export", "Export STEP or STL…", "Ctrl+E", "Part",
           by_desk(lambda c: c.fit.export(), lambda c: c.files.export()), _has_solid,
           tip="at the Fit desk a STEP assembly, or GLB"),
    Action("verdicts-csv", "Write the verdict table (CSV)…", "", "Part", lambda c: c.files.verdicts(), _has_solid),
    Action("inspection", "Write the inspection sheet…", "Ctrl+Shift+I", "Part", lambda c: c.files.inspection(),
           _has_solid, tip="PDF, CSV or JSON: limits, the model's values, the part's readings with their verdicts"),
    Action("inspection-blank", "Write a blank inspection sheet…", "", "Part", lambda c: c.files.inspection(blank=True),
           _has_solid, tip="to be filled in at the part"),
    Action("compare", "Compare with an earlier moment…", "", "Part", lambda c: c.view.show_panel("compare"),
           _has_solid),
    Action("recover", "Unsaved work that waits…", "", "Part",
           lambda c: take_up_work(c, c.bench.session.recording.folder),
           tip="of windows that ended before it was saved: taken up, left for later or thrown away"),
    Action("import", "Import a STEP body…", "", "Part", lambda c: c.files.import_body()),
    Action("quit", "Quit", "Ctrl+Q", "Part", lambda c: c.view.close()),
    Action(
        "undo", "Undo", "Ctrl+Z", "Edit", by_desk(lambda c: c.fit.session.undo(), lambda c: c.bench.session.undo()),
        lambda c: _undo_label(c) is not None,
    ),
    Action(
        "redo", "Redo", "Ctrl+Shift+Z", "Edit",
        by_desk(lambda c: c.fit.session.redo(), lambda c: c.bench.session.redo()),
        lambda c: _redo_label(c) is not None,
    ),
    Action("note", "To the note line", "/", "Edit", lambda c: c.view.focus("note line")),
    Action("properties", "Part properties…", "Ctrl+I", "Edit", lambda c: c.files.properties(),
           tip="name, unit, material, general tolerance, stated mass"),
    Action("look-up", "Look up a standard…", "F3", "Edit", lambda c: c.view.show_panel("look up"),
           tip="threads with limits, fits, drills, screws, keys, general tolerances, materials"),
    Action("parameters", "Parameters…", "Ctrl+P", "Edit", lambda c: c.files.parameters()),
    Action("add-turned", "Add a turned table", "Ctrl+T", "Route", lambda c: c.route.add_turned(),
           lambda c: c.route.can_add_turned),
    Action("add-hole", "Add holes", "Ctrl+H", "Route", lambda c: c.route.add_hole(),
           lambda c: bool(c.bench.document.steps)),
    Action("add-sketch", "Add a sketch", "Ctrl+K", "Route", lambda c: c.route.add_sketch(),
           tip="on the picked flat face, or on the XY plane"),
    Action("add-step", "Add a step of any kind…", "Ctrl+J", "Route",
           by_desk(lambda c: c.view.show_panel("new members"), lambda c: c.view.show_panel("new steps")),
           tip="at the Fit desk a member"),
    Action("duplicate-step", "Duplicate the chosen step", "Ctrl+Shift+D", "Route", lambda c: c.route.duplicate(),
           lambda c: c.route.has_step),
    Action("stand-here", "Work up to here", "Ctrl+U", "Route", lambda c: c.route.stand_here(),
           lambda c: c.route.has_step, tip="build up to the chosen step; new steps come after it"),
    Action("stand-end", "Work at the end of the route", "Ctrl+Shift+U", "Route", lambda c: c.route.stand_at_end(),
           lambda c: c.bench.session.stand is not None),
    Action("edit-step", "Edit the chosen step", "Ctrl+Return", "Route", lambda c: c.route.edit(),
           lambda c: c.route.has_step),
    Action("name-step", "Name the chosen step…", "F4", "Route", lambda c: c.route.name_step(),
           lambda c: c.route.has_step, tip="its body goes by this name too"),
    Action("suspend-step", "Suspend or resume the chosen step", "Ctrl+D", "Route", lambda c: c.route.toggle_suspended(),
           lambda c: c.route.has_step),
    Action("step-up", "Move the step up", "Ctrl+Up", "Route", lambda c: c.route.move(-1),
           lambda c: c.route.has_step),
    Action("step-down", "Move the step down", "Ctrl+Down", "Route", lambda c: c.route.move(1),
           lambda c: c.route.has_step),
    Action("drop-step", "Remove the chosen step", "Ctrl+Backspace", "Route", lambda c: c.route.drop(),
           lambda c: c.route.has_step),
    Action("drop-callout", "Remove the chosen callout", "Ctrl+Delete", "Ledger", lambda c: c.ledger.drop(),
           lambda c: c.ledger.has_callout),
    Action("note-sizes", "Make callouts of the sizes typed into the chosen step", "Ctrl+B", "Ledger",
           lambda c: c.ledger.note_typed_sizes(), lambda c: c.route.has_step,
           tip="each plain number of the step becomes a callout that drives it, and is proven"),
    Action("redress", "Decide on a disputed note…", "Ctrl+Shift+B", "Ledger", lambda c: c.ledger.redress(),
           lambda c: c.ledger.has_callout,
           tip="the drawing is wrong or says it twice: another text with its reason, beside what the drawing says"),
    Action("drive", "Model the callout as measured, or by its nominal", "Ctrl+M", "Ledger",
           lambda c: c.ledger.toggle_drive(), lambda c: c.ledger.has_callout),
    Action("drive-middle", "Model the callout by the middle of its limits, or by its nominal", "Alt+M", "Ledger",
           lambda c: c.ledger.toggle_drive("middle"), lambda c: c.ledger.has_callout,
           tip="for a fit that the nominal does not keep, such as k6 or P9"),
    Action("measure-here", "Measure the callout between the last two picked faces", "Ctrl+Shift+M", "Ledger",
           lambda c: c.ledger.measure_between_picks(), lambda c: c.ledger.has_callout),
    Action("drawer", "Open or close the ledger", "F9", "View", lambda c: c.view.toggle("ledger"),
           checked=lambda c: c.view.is_on("ledger")),
    Action("sheet-beside", "The sheet beside the work", "Ctrl+Shift+L", "View", lambda c: c.view.toggle("sheet beside"),
           _has_sheet, checked=lambda c: c.view.is_on("sheet beside"), tip="what is chosen or typed is ringed on it"),
    Action("fit", "Fit the solid", "F", "View", lambda c: c.view.fit()),
    Action("front", "Front", "1", "View", lambda c: c.view.look("front")),
    Action("top", "Top", "2", "View", lambda c: c.view.look("top")),
    Action("right", "Right", "3", "View", lambda c: c.view.look("right")),
    Action("left", "Left", "4", "View", lambda c: c.view.look("left")),
    Action("bottom", "Bottom", "5", "View", lambda c: c.view.look("bottom")),
    Action("back", "Back", "6", "View", lambda c: c.view.look("back")),
    Action("iso-left", "Isometric, from the left", "7", "View", lambda c: c.view.look("iso left")),
    Action("iso-right", "Isometric, from the right", "8", "View", lambda c: c.view.look("iso right")),
    Action("as-drawn", "As the sheet is drawn", "9", "View", lambda c: c.view.look_as_drawn(), _has_sheet,
           tip="the view of a pictorial sheet, else the front"),
    Action("see-through", "See through", "T", "View", lambda c: c.view.toggle("see through"),
           checked=lambda c: c.view.is_on("see through")),
    Action("balloons", "Balloons on the solid, at the Prove desk", "B", "View", lambda c: c.view.toggle("balloons"),
           checked=lambda c: c.view.is_on("balloons")),
    Action("section", "Cut open", "X", "View", lambda c: c.view.toggle("cut open"),
           checked=lambda c: c.view.is_on("cut open")),
    Action("projection", "First- or third-angle view net", "", "View", lambda c: c.view.toggle_projection()),
    Action("dark", "Dark palette", "", "View", lambda c: c.view.toggle_dark(),
           checked=lambda c: c.bench.session.settings.dark),
    Action("english", "English", "", "Language", lambda c: c.view.speak("en"),
           checked=lambda c: c.bench.session.settings.language == "en", tip="from the next start"),
    Action("german", "Deutsch", "", "Language", lambda c: c.view.speak("de"),
           checked=lambda c: c.bench.session.settings.language == "de", tip="from the next start"),
    Action("larger", "Everything larger", "Ctrl+=", "View", lambda c: c.view.resize_everything(1),
           tip="lettering, fields and tables, from the next start"),
    Action("smaller", "Everything smaller", "Ctrl+-", "View", lambda c: c.view.resize_everything(-1)),
    Action("desk-read", "Read desk", "Ctrl+1", "Desk", lambda c: c.bench.show_desk("read")),
    Action("desk-shape", "Shape desk", "Ctrl+2", "Desk", lambda c: c.bench.show_desk("shape")),
    Action("desk-prove", "Prove desk", "Ctrl+3", "Desk", lambda c: c.bench.show_desk("prove")),
    Action("desk-hand-over", "Hand over desk", "Ctrl+5", "Desk", lambda c: c.bench.show_desk("hand over")),
    Action("drawing", "Write the drawing…", "Ctrl+Shift+W", "Hand over", lambda c: c.hand_over.write_drawing(),
           _has_part, tip="PDF, DXF or SVG, drawn back from the proven solid"),
    Action("machinist", "Write the machinist's sheet…", "Ctrl+Shift+K", "Hand over",
           lambda c: c.hand_over.write_machinist(), _has_part,
           tip="zero, stock, settings, holes, stations, tools, what cannot be made: PDF, CSV or JSON"),
    Action("picture", "Write the picture…", "Ctrl+Shift+J", "Hand over",
           lambda c: c.hand_over.write_picture(c.view.eye()), _has_part,
           tip="the part rendered, as it is wished at the Hand over desk: PNG"),
    Action("package", "Write the package…", "", "Hand over", lambda c: c.hand_over.write_package(), _has_part,
           tip="the part, its files, drawing and sheets in one zip, with a manifest"),
    Action("put-back", "Put moved notes back", "", "Hand over", lambda c: c.hand_over.put_back(),
           lambda c: _has_part(c) and bool(c.bench.session.document.drawing.moved)),
    Action("rebuild", "Build again", "F5", "Kernel", by_desk(
        lambda c: c.fit.judge(), lambda c: c.bench.session.builds.rebuild()), tip="at the Fit desk: judge again"),
    Action("cancel", "Stop the running work", "Shift+Esc", "Kernel", lambda c: c.view.cancel(),
           lambda c: c.bench.session.builds.busy or c.fit.session.queue.busy),
    Action("guide", "Guide", "F1", "Help", lambda c: c.view.show_panel("guide"), tip="the page of what is in view"),
    Action("exercises", "Exercises…", "", "Help", lambda c: c.view.show_panel("exercises"),
           tip="three drawings to build after; the Prove desk marks them"),
    Action("tips", "Tips", "", "Help", lambda c: c.view.toggle_tips(), checked=lambda c: c.bench.session.settings.tips,
           tip="one sentence where it helps, once; switched on again, all of them anew"),
    Action("keys", "Every key", "Ctrl+F1", "Help", lambda c: c.view.show_panel("keys")),
)  # fmt: skip


def _adding(new: NewStep) -> Callable[[Commands], object]:
    return lambda c: c.route.add_new(new)


#: one action for every kind of step
ACTIONS: tuple[Action, ...] = (
    *_BASE,
    *FIT_ACTIONS,
    *(Action(f"add-{n.entry.title.lower().replace(' ', '-')}", n.entry.title, n.entry.keys, "Add", _adding(n),
             tip=n.entry.tip) for n in NEW),
)  # fmt: skip


def find_action(text: str, spoken: Spoken = as_it_is) -> Action | None:
    """The action that a text means: its title or its name, or the beginning of a title, also as it is ``spoken``."""
    bare = text.strip().lower().rstrip("…")
    named = [(a, {a.title.lower().rstrip("…"), spoken(a.title).lower().rstrip("…")}) for a in ACTIONS]
    found = [a for a, titles in named if bare in titles or a.id == bare]
    if not found and len(bare) >= 3:
        found = [a for a, titles in named if any(title.startswith(bare) for title in titles)]
    return found[0] if found else None


def run_action(action: Action, commands: Commands) -> None:
    """Do an action if it is possible now; else say so."""
    if action.enabled(commands):
        action.run(commands)
    else:
        commands.bench.tell(f"{action.title}: not possible now", True)
