"""All actions as data: id, title, keys, group, what to call, when it is possible.

Menus, shortcuts, note-line commands and the keyboard help are drawn from this one table.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from lathed_solid.desk.steps.new import NEW, NewStep

if TYPE_CHECKING:
    from lathed_solid.desk.window import MainWindow


@dataclass(frozen=True)
class Action:
    """``run`` gets the window. ``checked`` makes it a switch."""

    id: str
    title: str
    keys: str
    group: str
    run: Callable[[MainWindow], object]
    enabled: Callable[[MainWindow], bool] = lambda _w: True
    checked: Callable[[MainWindow], bool] | None = None
    tip: str = ""


def _has_solid(w: MainWindow) -> bool:
    return w.session.reply is not None and bool(w.session.reply.shape)


_BASE: tuple[Action, ...] = (
    Action("new", "New part", "Ctrl+N", "Part", lambda w: w.new_part()),
    Action("open", "Open…", "Ctrl+O", "Part", lambda w: w.open_dialog()),
    Action("save", "Save", "Ctrl+S", "Part", lambda w: w.save()),
    Action("save-as", "Save under another name…", "Ctrl+Shift+S", "Part", lambda w: w.save_as()),
    Action("export", "Export STEP or STL…", "Ctrl+E", "Part", lambda w: w.export_dialog(), _has_solid),
    Action("verdicts-csv", "Write the verdict table (CSV)…", "", "Part", lambda w: w.csv_dialog(), _has_solid),
    Action("inspection", "Write the inspection sheet…", "Ctrl+Shift+I", "Part", lambda w: w.inspection_dialog(),
           _has_solid, tip="PDF, CSV or JSON: limits, the model's values, the part's readings with their verdicts"),
    Action("inspection-blank", "Write a blank inspection sheet…", "", "Part", lambda w: w.inspection_dialog(blank=True),
           _has_solid, tip="to be filled in at the part"),
    Action("compare", "Compare with an earlier moment…", "", "Part", lambda w: w.compare_dialog(), _has_solid),
    Action("import", "Import a STEP body…", "", "Part", lambda w: w.import_dialog()),
    Action("quit", "Quit", "Ctrl+Q", "Part", lambda w: w.close()),
    Action(
        "undo", "Undo", "Ctrl+Z", "Edit", lambda w: w.session.undo(),
        lambda w: w.session.history.undo_label is not None,
    ),
    Action(
        "redo", "Redo", "Ctrl+Shift+Z", "Edit", lambda w: w.session.redo(),
        lambda w: w.session.history.redo_label is not None,
    ),
    Action("note", "To the note line", "/", "Edit", lambda w: w.note_line.take_focus()),
    Action("properties", "Part properties…", "Ctrl+I", "Edit", lambda w: w.part_properties(),
           tip="name, unit, material, general tolerance, stated mass"),
    Action("look-up", "Look up a standard…", "F2", "Edit", lambda w: w.look_up_dialog(),
           tip="threads with limits, fits, drills, screws, keys, general tolerances, materials"),
    Action("parameters", "Parameters…", "Ctrl+P", "Edit", lambda w: w.parameters()),
    Action("add-turned", "Add a turned table", "Ctrl+T", "Route", lambda w: w.add_turned(),
           lambda w: w.can_add_turned()),
    Action("add-hole", "Add holes", "Ctrl+H", "Route", lambda w: w.add_hole(),
           lambda w: bool(w.session.document.steps)),
    Action("add-sketch", "Add a sketch", "Ctrl+K", "Route", lambda w: w.add_sketch(),
           tip="on the picked flat face, or on the XY plane"),
    Action("add-step", "Add a step of any kind…", "Ctrl+J", "Route", lambda w: w.open_add_menu()),
    Action("duplicate-step", "Duplicate the chosen step", "Ctrl+Shift+D", "Route", lambda w: w.duplicate_step(),
           lambda w: w.route.current() is not None),
    Action("stand-here", "Work up to here", "Ctrl+U", "Route", lambda w: w.stand_here(),
           lambda w: w.route.current() is not None, tip="build up to the chosen step; new steps come after it"),
    Action("stand-end", "Work at the end of the route", "Ctrl+Shift+U", "Route", lambda w: w.stand_at_end(),
           lambda w: w.session.stand is not None),
    Action("edit-step", "Edit the chosen step", "Ctrl+Return", "Route", lambda w: w.edit_step(),
           lambda w: w.route.current() is not None),
    Action("suspend-step", "Suspend or resume the chosen step", "Ctrl+D", "Route", lambda w: w.toggle_suspended(),
           lambda w: w.route.current() is not None),
    Action("step-up", "Move the step up", "Ctrl+Up", "Route", lambda w: w.move_step(-1),
           lambda w: w.route.current() is not None),
    Action("step-down", "Move the step down", "Ctrl+Down", "Route", lambda w: w.move_step(1),
           lambda w: w.route.current() is not None),
    Action("drop-step", "Remove the chosen step", "Ctrl+Backspace", "Route", lambda w: w.drop_step(),
           lambda w: w.route.current() is not None),
    Action("drop-callout", "Remove the chosen callout", "Ctrl+Delete", "Ledger", lambda w: w.drop_callout(),
           lambda w: w.chosen_balloon() is not None),
    Action("drive", "Model the callout as measured, or by its nominal", "Ctrl+M", "Ledger",
           lambda w: w.toggle_drive(), lambda w: w.chosen_balloon() is not None),
    Action("drive-middle", "Model the callout by the middle of its limits, or by its nominal", "Alt+M", "Ledger",
           lambda w: w.toggle_drive("middle"), lambda w: w.chosen_balloon() is not None,
           tip="for a fit that the nominal does not keep, such as k6 or P9"),
    Action("measure-here", "Measure the callout between the last two picked faces", "Ctrl+Shift+M", "Ledger",
           lambda w: w.measure_between_picks(), lambda w: w.chosen_balloon() is not None),
    Action("drawer", "Open or close the ledger", "F9", "View", lambda w: w.drawer.toggle(),
           checked=lambda w: w.drawer.is_open),
    Action("fit", "Fit the solid", "F", "View", lambda w: w.solid.fit()),
    Action("front", "Front", "1", "View", lambda w: w.look("front")),
    Action("top", "Top", "2", "View", lambda w: w.look("top")),
    Action("right", "Right", "3", "View", lambda w: w.look("right")),
    Action("left", "Left", "4", "View", lambda w: w.look("left")),
    Action("bottom", "Bottom", "5", "View", lambda w: w.look("bottom")),
    Action("back", "Back", "6", "View", lambda w: w.look("back")),
    Action("iso-left", "Isometric, from the left", "7", "View", lambda w: w.look("iso left")),
    Action("iso-right", "Isometric, from the right", "8", "View", lambda w: w.look("iso right")),
    Action("see-through", "See through", "T", "View", lambda w: w.view_bar.toggle_see_through(),
           checked=lambda w: w.view_bar.see_through.isChecked()),
    Action("balloons", "Balloons on the solid, at the Prove desk", "B", "View", lambda w: w.view_bar.toggle_balloons(),
           checked=lambda w: w.view_bar.balloons.isChecked()),
    Action("section", "Cut open", "X", "View", lambda w: w.view_bar.toggle_section(),
           checked=lambda w: w.view_bar.section.isChecked()),
    Action("projection", "First- or third-angle view net", "", "View", lambda w: w.toggle_projection()),
    Action("dark", "Dark palette", "", "View", lambda w: w.toggle_dark(), checked=lambda w: w.session.settings.dark),
    Action("desk-read", "Read desk", "Ctrl+1", "Desk", lambda w: w.show_desk("read")),
    Action("desk-shape", "Shape desk", "Ctrl+2", "Desk", lambda w: w.show_desk("shape")),
    Action("desk-prove", "Prove desk", "Ctrl+3", "Desk", lambda w: w.show_desk("prove")),
    Action("rebuild", "Build again", "F5", "Kernel", lambda w: w.session.rebuild()),
    Action("cancel", "Stop the running work", "Shift+Esc", "Kernel", lambda w: w.session.cancel(),
           lambda w: w.session.busy),
    Action("keys", "Keyboard and help", "F1", "Help", lambda w: w.show_help()),
)  # fmt: skip


def _adding(new: NewStep) -> Callable[[MainWindow], object]:
    return lambda w: w.add_new(new)


#: one action for every kind of step
ACTIONS: tuple[Action, ...] = (
    *_BASE,
    *(Action(f"add-{n.entry.title.lower().replace(' ', '-')}", n.entry.title, n.entry.keys, "Add", _adding(n),
             tip=n.entry.tip) for n in NEW),
)  # fmt: skip
