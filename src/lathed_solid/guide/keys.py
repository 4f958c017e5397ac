"""The page of keys, written from the tables that the window acts by."""

from __future__ import annotations

from lathed_solid.guide.edition import ENGLISH, Edition
from lathed_solid.workbench.actions import ACTIONS

TYPED = "Every action is also done by typing its name into the note line (`/`), and stands in the part's menu."


def keys_page(edition: Edition = ENGLISH) -> str:
    """Markdown: every action by its group with its key or, without one, what to type into the note line."""
    from lathed_solid.workbench.sketch.keys import DRAWING, WORK  # here: the window's start needs no solver

    said = edition.spoken
    head = f"| {said('key')} | {said('what it does')} |"
    lines = [f"# {said('Every key')}", "", said(TYPED)]
    group = ""
    for action in ACTIONS:
        if action.group != group:
            group = action.group
            lines += ["", f"## {said(group)}", "", head, "|---|---|"]
        what = said(action.title).rstrip("…") + (f": {said(action.tip)}" if action.tip else "")
        lines.append(f"| {_key(action.keys)} | {_cell(what)} |")
    for title, keys in (("In a sketch: drawing", DRAWING), ("In a sketch: work on what is picked", WORK)):
        lines += ["", f"## {said(title)}", "", head, "|---|---|"]
        lines += [f"| {_key(k.key)} | {_cell(said(k.words, 'sketch'))} |" for k in keys]
    lines += ["", f"## {said('With the pointer')}", "", f"| {said('where')} | {said('what')} |", "|---|---|"]
    lines += [f"| {said(where)} | {said(what)} |" for where, what in POINTER]
    return "\n".join(lines) + "\n"


def _key(keys: str) -> str:
    return f"`{keys}`" if keys else "–"


def _cell(words: str) -> str:
    return words.replace("|", "\\|").replace("<", "&lt;")


#: what pointer and keys do that are in no table: where, what
POINTER = (
    ("the solid", "left drag turns, middle or right drag moves, the wheel zooms at the pointer, a click picks; "
     "arrow keys turn, `+` and `-` zoom, `Esc` clears the pick"),
    ("sketch", "a click picks, Shift adds, a double click takes a chain or opens a dimension; a second click at "
     "the same place takes what lies beneath; what is dashed is loose and can be dragged; `Home` fits"),
    ("sketch, drawing", "digits go to the size fields, `Tab` to the next, `Enter` takes them; `N` infers none; `1` to "
     "`9` the relations offered for what is picked"),
    ("Fit", "a click picks what a relation holds on to, Shift and click one more pair; `1` to `9` show an offered "
     "relation, `Enter` takes it, `Esc` lets go; a chosen member that is loose follows the hand"),
    ("Hand over", "the wheel zooms at the pointer, a drag on blank paper moves it; a note, a dimension line or a view "
     "follows the hand, the chosen one the arrow keys (Shift: by ten); `Home` shows all, Page up and down turn"),
    ("tables", "`F2` edits, `Tab` goes on, the arrow keys choose; letters jump to a row"),
)  # fmt: skip
