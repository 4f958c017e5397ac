"""The actions of the Fit desk, for menus, keys and the note line."""

from __future__ import annotations

from lathed_solid.workbench.action import Action, at_fit
from lathed_solid.workbench.commands import Commands


def _member(c: Commands) -> bool:
    return at_fit(c) and c.fit.has_member


def _relation(c: Commands) -> bool:
    return at_fit(c) and c.fit.has_relation


FIT_ACTIONS: tuple[Action, ...] = (
    Action("fit-add-file", "Add a part from a file…", "", "Add to the fit", lambda c: c.fit.add_file(), at_fit),
    Action("fit-add-hand", "Add the part in hand", "", "Add to the fit", lambda c: c.fit.add_part_in_hand(), at_fit,
           tip="the part that is open at the other desks"),
    Action("fit-add-standard", "Add a standard part…", "Ctrl+Shift+A", "Add to the fit",
           lambda c: c.fit.add_standard(), at_fit,
           tip="hexagon screw M8x30, washer M8, hexagon nut M8 real, parallel pin 6x30, key 8x7x40, ring 25 …"),
    Action("fit-import", "Add the parts of a STEP assembly…", "", "Add to the fit",
           lambda c: c.fit.import_assembly(), at_fit),
    Action("fit-hold", "Hold fast in the room, or let go", "Ctrl+L", "Member", lambda c: c.fit.toggle_held(), _member),
    Action("fit-hide", "Hide or show the member", "", "Member", lambda c: c.fit.toggle_hidden(), _member),
    Action("fit-show-all", "Show all members", "", "Member", lambda c: c.fit.show_all(), at_fit),
    Action("fit-name", "Name the member…", "", "Member", lambda c: c.fit.rename(), _member),
    Action("fit-again", "The same part once more", "", "Member", lambda c: c.fit.duplicate(), _member),
    Action("fit-every-place", "At every place of its hole pattern", "", "Member", lambda c: c.fit.every_place(),
           _member, tip="one in each hole, as many as there are"),
    Action("fit-ring", "In a ring about the picked axis…", "", "Member", lambda c: c.fit.ring(), _member),
    Action("fit-row", "In a row along the picked axis…", "", "Member", lambda c: c.fit.row(), _member),
    Action("fit-mirror", "Mirrored in the picked flat", "", "Member", lambda c: c.fit.mirror(), _member,
           tip="the same part in the mirrored place: for parts that are their own mirror image about their X"),
    Action("fit-drop", "Remove the member", "", "Member", lambda c: c.fit.drop_member(), _member,
           tip="and all relations that hold on to it"),
    Action("fit-flip", "The other side of the relation", "", "Relation", lambda c: c.fit.flip(), _relation),
    Action("fit-suspend", "Leave the relation out, or take it in", "", "Relation",
           lambda c: c.fit.toggle_suspended(), _relation),
    Action("fit-pick-again", "Have the relation hold on to what is picked", "", "Relation",
           lambda c: c.fit.pick_again(), _relation, tip="where its face is gone"),
    Action("fit-drop-relation", "Remove the relation", "", "Relation", lambda c: c.fit.drop_relation(), _relation),
    Action("fit-apart", "Pull the parts apart, or put them together", "E", "Fit",
           lambda c: c.fit.fit.pull_apart(not c.fit.fit.apart), at_fit, checked=lambda c: c.fit.fit.apart,
           tip="along their axes, with the numbers of the parts list"),
    Action("fit-apart-anew", "Pull the parts apart as their axes have it", "", "Fit",
           lambda c: c.fit.apart_anew(), at_fit, tip="what was drawn out by hand is forgotten"),
    Action("fit-rename", "Name the fit…", "", "Fit", lambda c: c.fit.name_fit(), at_fit),
    Action("fit-take-over", "Take over parts whose files have changed…", "", "Fit", lambda c: c.fit.take_over(),
           at_fit),
    Action("fit-parts-list", "Write the parts list…", "", "Fit", lambda c: c.fit.write_parts_list(), at_fit,
           tip="PDF, CSV or JSON"),
    Action("desk-fit", "Fit desk", "Ctrl+4", "Desk", lambda c: c.bench.show_desk("fit")),
)  # fmt: skip
