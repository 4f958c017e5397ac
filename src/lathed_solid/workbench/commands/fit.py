"""What can be done at the Fit desk."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Literal

from lathed_solid.engine.fit_protocol import AssemblyRead
from lathed_solid.errors import LathedError
from lathed_solid.files.assembly_parts import fit_of_assembly
from lathed_solid.fit import edits
from lathed_solid.fit.document import Fit, Relation
from lathed_solid.fit.errors import GoneError
from lathed_solid.fit.judged import parts_list
from lathed_solid.part.standard_parts import standard_part
from lathed_solid.workbench.bench import Workbench
from lathed_solid.workbench.commands.saving import save_asking
from lathed_solid.workbench.filed import Consent
from lathed_solid.workbench.fit.bench import FitBench
from lathed_solid.workbench.prompts import FITS, PARTS, Background, Prompts, View


class FitCommands:
    """Commands of one fit bench; ``bench`` holds the part in hand."""

    def __init__(self, bench: Workbench, ask: Prompts, view: View, background: Background, fit: FitBench) -> None:
        self.bench, self.ask, self.view, self.fit = bench, ask, view, fit
        self.session = fit.session
        self._background = background
        self.session.queue.assembled.connect(self._take_assembly)

    # files -------------------------------------------------------------------------------------
    def new(self) -> None:
        """An empty fit, once the present one may be left."""
        if self.may_leave():
            self.session.open_value(Fit(), saved=True)

    def open(self) -> None:
        """Ask for a fit and show it."""
        if self.may_leave() and (path := self.ask.open_path("Open a fit", self._folder(), FITS)) is not None:
            self.session.open_file(path)

    def save(self) -> bool:
        """Save where the fit was saved before; else ask. False when it was not saved."""
        return self.save_as() if self.session.path is None else self._save(self.session.path)

    def save_as(self) -> bool:
        """Ask for a name and save; without an ending it is an archive."""
        path = self._to_save("Save the fit", ".lathed", FITS)
        return path is not None and self._save(path if path.suffix else path.with_suffix(".lathed"))

    def _save(self, path: Path) -> bool:
        thumbnail = self.view.thumbnail()

        def save(to: Path, consent: Consent) -> None:
            self.session.save(to, thumbnail, consent)

        outcome = save_asking(save, path, self.ask, self.bench.tell, compare=False)
        return outcome == "saved"

    def may_leave(self) -> bool:
        """Whether the present fit may be left: saved, or given up by its owner."""
        if self.session.history.clean:
            return True
        answer = self.ask.unsaved(self.session.fit.name)
        return self.save() if answer == "save" else answer == "leave"

    def export(self) -> None:
        """A STEP assembly or GLB, by the ending."""
        path = self._to_save("Export the fit", ".step", "STEP (*.step *.stp);;GLB (*.glb)")
        if path is not None:
            self.session.queue.export(self.session.whole, path)

    def write_parts_list(self) -> None:
        """The parts list as PDF, CSV or JSON, by the ending."""
        path = self._to_save("Write the parts list", " parts.pdf", "PDF (*.pdf);;CSV (*.csv);;JSON (*.json)")
        if path is None:
            return
        whole, masses, picture = self.session.whole, self.session.masses(), self.view.picture()

        def write() -> str:
            from lathed_solid.reports.parts_list import write_parts_list

            write_parts_list(path, whole, parts_list(whole, masses), masses, picture, self.bench.spoken)
            return f"parts list written to {path.name}"

        self._background.run(write, self.bench.tell, lambda why: self.bench.tell(why, True))

    def _folder(self) -> Path:
        near = self.session.path or self.bench.session.path
        return near.parent if near else Path.home()

    def _to_save(self, title: str, ending: str, kinds: str) -> Path | None:
        return self.ask.save_path(title, self._folder() / f"{self.session.fit.name}{ending}", kinds)

    # members -----------------------------------------------------------------------------------
    def add_file(self) -> None:
        """A member of a part's file."""
        path = self.ask.open_path("Add a part to the fit", self._folder(), PARTS)
        if path is not None:
            self.session.add_file(path)

    def import_assembly(self) -> None:
        """Members of a STEP assembly, each part a body."""
        path = self.ask.open_path("Add a STEP assembly", self._folder(), "STEP (*.step *.stp)")
        if path is not None:
            self.bench.tell(f"reading {path.name} …")
            self.session.queue.read_assembly(path)

    def _take_assembly(self, found: AssemblyRead) -> None:
        self.session.edit(f"import {Path(found.path).name}", lambda fit: edits.together(fit, fit_of_assembly(found)))

    def add_part_in_hand(self) -> None:
        """A member of the part that is open at the other desks."""
        document, path = self.bench.document, self.bench.session.path
        if not document.steps:
            self.bench.tell("the part in hand has no steps yet", True)
            return
        self.session.add_part(document, path=str(path) if path is not None else "")

    def add_standard(self, designation: str | None = None) -> None:
        """A standard part by its designation."""
        if designation is None:
            designation = self.ask.text(
                "Add a standard part", "hexagon screw M8x30, washer M8, hexagon nut M8 real, parallel pin 6x30, key "
                "8x7x40, ring 25, bearing 6204 …", "hexagon screw M8x30",
            )  # fmt: skip
        if designation is None or not designation.strip():
            return
        said = designation.strip()
        try:
            document = standard_part(said)
        except LathedError as exc:
            self.bench.tell(exc.message, True)
            return
        self.session.add_part(document, standard=said)

    @property
    def has_member(self) -> bool:
        """Whether a member is chosen that is no copy."""
        return self.fit.chosen is not None

    def _on_member(self, label: str, change: Callable[[Fit, str], Fit]) -> None:
        member = self.fit.chosen
        if member is None:
            self.bench.tell("choose a member first", True)
            return
        self.session.edit(f"{label} {member.name}", lambda f: change(f, member.name))

    def toggle_held(self) -> None:
        """Hold the chosen member fast in the room, or let it go."""
        held = self.fit.chosen is not None and self.fit.chosen.held
        self._on_member("let go of" if held else "hold", lambda f, n: edits.put_member(f, n, held=not held))

    def toggle_hidden(self) -> None:
        """Hide the chosen member, or show it."""
        hidden = self.fit.chosen is not None and self.fit.chosen.hidden
        self._on_member("show" if hidden else "hide", lambda f, n: edits.put_member(f, n, hidden=not hidden))

    def show_all(self) -> None:
        """Show every member."""
        self.session.edit("show all", lambda f: edits.changed(
            f, members=tuple(m.model_copy(update={"hidden": False}) for m in f.members)))  # fmt: skip

    def rename(self) -> None:
        """Give the chosen member another name."""
        member = self.fit.chosen
        if member is None:
            return
        name = self.ask.text("Name the member", "Name", member.name)
        if name and name.strip() != member.name:
            new = name.strip()
            self._on_member("name", lambda f, n: edits.put_member(f, n, name=new))
            if new in self.session.fit.by_name:
                self.fit.choose_member(new)

    def duplicate(self) -> None:
        """The same part once more, beside."""
        self._on_member("again", lambda f, n: edits.duplicate_member(f, n, (0.0, 0.0, 60.0)))

    def drop_member(self) -> None:
        """Remove the chosen member and all that holds on to it."""
        self._on_member("remove", edits.drop_member)

    def every_place(self) -> None:
        """The chosen member at every place of the hole pattern that it sits in."""
        self._on_member("every place of", lambda f, n: edits.with_copies(f, member=n, kind="every place"))

    def ring(self) -> None:
        """The chosen member in a ring about the last picked axis of another."""
        self._copies("ring", "How many in all", "4")

    def row(self) -> None:
        """The chosen member in a row along the last picked axis of another."""
        self._copies("row", "How many in all, and how far apart (3 x 25)", "3 x 25")

    def mirror(self) -> None:
        """The chosen member once more, mirrored in the last picked flat of another."""
        member = self.fit.chosen
        plane = next((p.ref for p in reversed(self.fit.picks)
                      if member and p.ref.member != member.name and p.it.kind == "flat"), None)  # fmt: skip
        if member is None or plane is None:
            self.bench.tell("choose the member and pick a flat of another: then it can be mirrored", True)
            return
        self._on_member("mirror", lambda f, n: edits.with_copies(f, member=n, kind="mirror", about=plane, count=2))

    def _copies(self, kind: Literal["ring", "row"], label: str, begun: str) -> None:
        member = self.fit.chosen
        axis = next((p.ref for p in reversed(self.fit.picks) if member and p.ref.member != member.name), None)
        if member is None or axis is None:
            self.bench.tell(f"choose the member and pick an axis of another: then a {kind} can be made", True)
            return
        said = self.ask.text(f"A {kind} of {member.name}", label, begun)
        if said is None:
            return
        count, _, size = said.lower().replace("×", "x").partition("x")
        if not count.strip().isdigit():
            self.bench.tell(f"how many? (received {said})", True)
            return
        self._on_member(f"{kind} of", lambda f, n: edits.with_copies(
            f, member=n, kind=kind, about=axis, count=int(count), size=size.strip()))  # fmt: skip

    # relations ---------------------------------------------------------------------------------
    @property
    def has_relation(self) -> bool:
        """Whether a relation is chosen."""
        return self.fit.relation is not None

    def flip(self) -> None:
        """The other side of the chosen relation."""
        r = self._relation()
        if r is not None:
            self.session.edit(f"other side of {r.number}", lambda f: edits.put_relation(f, r.number, flip=not r.flip))

    def toggle_suspended(self) -> None:
        """Leave the chosen relation out for now, or take it in again."""
        r = self._relation()
        if r is not None:
            word = "take in" if r.suspended else "leave out"
            self.session.edit(f"{word} {r.number}", lambda f: edits.put_relation(
                f, r.number, suspended=not r.suspended))  # fmt: skip

    def drop_relation(self, number: int | None = None) -> None:
        """Remove a relation, or copies: the chosen one."""
        number = number if number is not None else self.fit.relation
        if number is not None:
            self.session.edit(f"remove relation {number}", lambda f: edits.drop_relation(f, number))

    def resize(self, number: int, size: str) -> None:
        """Another size for a relation."""
        self.session.edit(f"relation {number}: {size}", lambda f: edits.put_relation(f, number, size=size))

    def _relation(self) -> Relation | None:
        found = self.session.fit.relation(self.fit.relation) if self.fit.relation is not None else None
        if found is None:
            self.bench.tell("choose a relation first", True)
        return found

    def pick_again(self) -> None:
        """Have the chosen relation hold on to what was picked of the member whose face is gone."""
        r = self._relation()
        solved = self.session.solved
        lost = solved.lost.get(r.number) if r is not None and solved is not None else None
        if r is None or r.b is None or not isinstance(lost, GoneError):
            self.bench.tell("nothing of this relation is gone", True)
            return
        side, ref = ("a", r.a) if r.a.feature == lost.missing else ("b", r.b)
        found = next((p for p in reversed(self.fit.picks) if p.ref.member == ref.member), None)
        if found is None:
            near = f"; it could be {', '.join(lost.candidates[:4])}" if lost.candidates else ""
            self.bench.tell(f"pick what is meant on {ref.member} first{near}", True)
            return
        if self.session.edit(f"relation {r.number}: {found.ref.feature}",
                             lambda f: edits.put_relation(f, r.number, **{side: found.ref})):  # fmt: skip
            self.fit.drop_picks()

    def judge(self) -> None:
        """Have every pair looked at for overlap."""
        self.session.judge()

    def apart_anew(self) -> None:
        """Forget how far members were drawn out by hand."""
        self.session.edit("pull apart anew", lambda f: edits.changed(
            f, members=tuple(m.model_copy(update={"apart": None}) for m in f.members)))  # fmt: skip

    def name_fit(self) -> None:
        """Name the fit."""
        name = self.ask.text("Name the fit", "Name", self.session.fit.name)
        if name and name.strip():
            self.session.edit("name the fit", lambda f: edits.changed(f, name=name.strip()))

    def take_over(self) -> None:
        """Take over every part whose file has changed, once it was asked."""
        changed = self.session.changed_parts()
        if not changed:
            self.bench.tell("every part is as its file says")
        for c in changed:
            if c.document is None:
                self.bench.tell(c.words, True)
            elif self.ask.confirm("A part has changed", f"{c.words}. Take it over in the fit?"):
                self.session.take_over(c)
