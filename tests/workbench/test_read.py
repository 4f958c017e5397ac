"""Sheets and the caliper log without widgets: laying, scale, revisions, notes; readings, weighings, wrong units."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from pathlib import Path

import pytest

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.demo.sheets import SHEETS
from lathed_solid.devices import DeviceReading
from lathed_solid.ledger import SheetPlace
from lathed_solid.part import Document, Scope, edits
from lathed_solid.sheets import SheetPage
from lathed_solid.sheets.client import NoteCandidate
from lathed_solid.workbench.asked_sizes import AskedSize, GivenSizes
from lathed_solid.workbench.log_commands import LogCommands, wrong_unit
from lathed_solid.workbench.sheet_commands import SheetCommands
from lathed_solid.workbench.tables.log_rows import LogRow


class Reader:
    """A document with its sheets, edited by the commands; what was asked and said is kept."""

    def __init__(self, document: Document) -> None:
        self.file: Path | None = None
        self.size: str | None = None
        self.asked: list[str] = []
        self.said: list[tuple[str, bool]] = []
        self.labels: list[str] = []
        self.commands = SheetCommands(self)
        self.commands.edited.connect(self._edit)
        self.commands.told.connect(lambda words, bad: self.said.append((words, bad)))
        self.commands.show_document(document)

    def sheet(self, title: str) -> Path | None:
        self.asked.append(title)
        return self.file

    def sizes(self, title: str, sizes: Sequence[AskedSize], scope: Callable[[], Scope]) -> GivenSizes | None:
        self.asked.append(f"{title} ({sizes[0].start})")
        if self.size is None:
            return None
        label = sizes[0].label
        return GivenSizes({label: self.size}, {label: scope()(self.size, "length")})

    def _edit(self, label: str, change: Callable[[Document], Document]) -> None:
        self.labels.append(label)
        self.commands.show_document(change(self.commands.document))

    @property
    def document(self) -> Document:
        return self.commands.document

    @property
    def words(self) -> str:
        return self.said[-1][0]


def page(*notes: str, pages: int = 3) -> SheetPage:
    """A page of 400 x 300 mm with notes beneath one another."""
    offers = tuple(NoteCandidate(n, (0.1, 0.1 * k, 0.2, 0.1 * k + 0.03), 0, n) for k, n in enumerate(notes, 1))
    return SheetPage(pages, 400.0, 300.0, offers, len(notes))


def laid(*notes: str) -> Reader:
    reader = Reader(ls.new_part("x"))
    assert reader.commands.lay(SHEETS / "pedestal.pdf")
    reader.commands.show_page(page(*notes))
    return reader


def test_a_sheet_is_laid_turned_and_paged() -> None:
    reader = Reader(ls.new_part("x"))
    reader.commands.open()
    assert reader.document.sheets == () and reader.asked == ["Open a sheet"]
    reader.file = SHEETS / "pedestal.pdf"
    reader.commands.open()
    assert [s.name for s in reader.document.sheets] == ["pedestal.pdf"]
    assert reader.commands.sheet is reader.document.sheets[0]
    for _ in range(5):
        reader.commands.turn()
    assert reader.document.sheets[0].turn == 90
    reader.commands.show_page(page("Ø5"))
    wanted: list[int] = []
    reader.commands.page_wanted.connect(lambda: wanted.append(reader.commands.page))
    for by in (-1, 1, 1, 1):
        reader.commands.turn_page(by)
    assert wanted == [2, 3], "pages that are not there are not turned to"
    reader.commands.turn_to(2)
    assert reader.commands.number == 1, "there is one sheet only"


def test_what_is_no_sheet_is_told(tmp_path: Path) -> None:
    reader = Reader(ls.new_part("x"))
    bad = tmp_path / "a.pdf"
    bad.write_text("nothing")
    assert not reader.commands.lay(bad) and reader.said[-1][1]
    assert not reader.commands.lay(tmp_path / "gone.pdf") and reader.document.sheets == ()


def test_all_found_notes_become_callouts_once() -> None:
    reader = laid("Ø25 h6", "4X Ø6.6 THRU", "GENERAL", "R2")
    reader.commands.take_all()
    assert [c.note for c in reader.document.callouts] == ["Ø25 h6", "4X Ø6.6 THRU", "R2"]
    assert reader.words == "3 callouts taken; 1 notes state no size"
    assert all(c.source == "sheet" and c.place is not None for c in reader.document.callouts)
    assert len(reader.commands.here) == 3
    assert {o.text for o in reader.commands.taken(page("Ø25 h6", "4X Ø6.6 THRU", "GENERAL", "R2").offers)} == {
        "Ø25 h6", "4X Ø6.6 THRU", "R2",
    }  # fmt: skip
    before = reader.document
    reader.commands.take_all()
    assert reader.document == before


def test_what_its_line_contradicts_is_left_to_be_looked_at() -> None:
    reader = laid()
    against = {"sure": "contradicted", "why": "its line is drawn 42.00 mm long at 1:2", "drawn": 42.0}
    first, second = page("Ø25 h6", "24").offers
    reader.commands.show_page(SheetPage(1, 400.0, 300.0, (first, replace(second, **against)), 2, 0.5))
    reader.commands.take_all()
    assert [c.note for c in reader.document.callouts] == ["Ø25 h6"]
    assert reader.words == "1 callouts taken; 1 left, which their lines contradict: point at them"
    reader.commands.take_all()
    assert len(reader.document.callouts) == 1 and "click one to take it all the same" in reader.words
    # the scale that the dimension lines agree on brings a view to scale without two clicks
    widths: list[tuple[float, bool]] = []
    reader.commands.cropped.connect(lambda _png, width, scaled: widths.append((width, scaled)))
    reader.commands.crop(b"png", 0.25)
    assert widths == [(200.0, True)] and reader.commands.across == 800.0


def test_two_clicks_bring_the_sheet_to_scale_and_a_view_beneath_a_sketch() -> None:
    reader = laid()
    pictures: list[tuple[float, bool]] = []
    reader.commands.cropped.connect(lambda _png, width, scaled: pictures.append((width, scaled)))
    modes: list[str] = []
    reader.commands.mode_wanted.connect(modes.append)
    reader.commands.crop(b"png", 0.5)
    reader.commands.start_measuring()
    reader.commands.measured(0.25)
    assert reader.asked[-1] == "Two points, 100 mm apart (100)", "a quarter of 400 mm of paper"
    assert reader.document.sheets[0].across is None, "given up"
    reader.size = "50"
    reader.commands.measured(0.25)
    assert reader.document.sheets[0].across == pytest.approx(200)
    reader.commands.crop(b"png", 0.5)
    assert pictures == [(200.0, False), (pytest.approx(100.0), True)]
    reader.size = "1e6"
    reader.commands.measured(0.0001)
    assert "absurdly" in reader.words and reader.document.sheets[0].across == pytest.approx(200)
    reader.commands.start_cropping()
    assert modes == ["points", "crop"]


def test_a_revision_is_asked_and_its_answers_are_edits() -> None:
    reader = laid("Ø25", "R2", "7")
    reader.commands.take_all()
    asked: list[object] = []
    reader.commands.compared.connect(lambda changes, _anew: asked.append(changes))
    assert not reader.commands.take_revision(SHEETS / "pedestal.pdf") and "laid already" in reader.words
    reader.file = SHEETS / "pedestal.dxf"
    reader.commands.new_revision()
    sheet = reader.document.sheets[0]
    assert sheet.name == "pedestal.dxf" and len(sheet.earlier) == 1 and reader.commands.asking
    reader.commands.show_page(page("Ø26", "R2", "7"))
    changes = asked[-1]
    assert isinstance(changes, tuple)
    changed = next(c for c in changes if c.kind == "changed")
    assert changed.balloon == 1 and changed.now == "Ø26"
    reader.commands.take_change(changed)
    assert reader.document.callout(1).nominal == 26  # type: ignore[union-attr]
    reader.commands.end_asking()
    assert asked[-1] is None and not reader.commands.asking
    reader.commands.ask_changes()
    assert reader.commands.asking and all(c.kind == "same" for c in asked[-1])  # type: ignore[attr-defined]
    reader.commands.show_document(ls.new_part("y"))
    assert not reader.commands.asking and reader.commands.sheet is None


def test_a_callout_elsewhere_is_not_here() -> None:
    reader = laid("Ø25")
    reader.commands.take_all()
    first = reader.document.callouts[0]
    place = SheetPlace(sheet=1, page=2, x=0.1, y=0.1)
    reader.commands.show_document(edits.put_callout(reader.document, first.model_copy(update={"place": place})))
    assert reader.commands.here == []
    reader.commands.turn_to(1, 2)
    assert len(reader.commands.here) == 1


# the log ---------------------------------------------------------------------------------------
class Log:
    def __init__(self, document: Document) -> None:
        self.commands = LogCommands()
        self.commands.document = document
        self.said: list[tuple[str, bool]] = []
        self.commands.edited.connect(self._edit)
        self.commands.told.connect(lambda words, bad: self.said.append((words, bad)))

    def _edit(self, _label: str, change: Callable[[Document], Document]) -> None:
        self.commands.document = change(self.commands.document)

    def row(self, balloon: int) -> LogRow:
        d = self.commands.document
        callout = d.callout(balloon)
        assert callout is not None
        return LogRow(callout, d.reading(balloon))


def test_readings_are_typed_changed_and_taken_out() -> None:
    log = Log(ls.note(ls.new_part("x"), "Ø25 h6"))
    log.commands.type_way(log.row(1), "inside")
    assert log.said[-1] == ("log a repeat first, then its way", True)
    log.commands.type_repeats(log.row(1), "24.98; 24.99 ; 1in - 0.41mm")
    reading = log.commands.document.reading(1)
    assert reading is not None and reading.repeats == pytest.approx((24.98, 24.99, 24.99)) and reading.way == "outside"
    log.commands.type_way(log.row(1), "ins")
    assert log.commands.document.reading(1).way == "inside"  # type: ignore[union-attr]
    log.commands.type_way(log.row(1), "sideways")
    assert log.said[-1][1] and log.commands.document.reading(1).way == "inside"  # type: ignore[union-attr]
    for bad in ("abc", "-3", "0", ";"):
        log.commands.type_repeats(log.row(1), bad)
        assert log.said[-1][1] and len(log.commands.document.reading(1).repeats) == 3  # type: ignore[union-attr]
    log.commands.type_repeats(log.row(1), "")
    assert log.commands.document.reading(1) is None


def test_readings_come_from_a_line() -> None:
    log = Log(ls.note(ls.new_part("x"), "Ø25.4"))
    for value in (25.41, 25.40):
        assert log.commands.take(DeviceReading(value, "length", "mm"), log.row(1))
    assert log.commands.document.reading(1).repeats == (25.41, 25.40)  # type: ignore[union-attr]
    assert log.commands.take(DeviceReading(1.0, "length", "in"), log.row(1))
    assert "looks like inches" in log.said[-1][0] and len(log.commands.document.readings[0].repeats) == 2
    assert not log.commands.take(DeviceReading(25.0, "length", "mm"), None), "for a new size"
    log.commands.adopt(1, "25.4")
    assert log.commands.document.callout(1).nominal == pytest.approx(25.4)  # type: ignore[union-attr]


def test_weighings_near_one_another_are_repeats() -> None:
    log = Log(ls.new_part("x"))
    for grams in (1182.0, 1183.0, 1181.5):
        log.commands.take(DeviceReading(grams, "mass", "g"), None)
    mass = log.commands.document.stated_mass
    assert mass is not None and mass.repeats == (1182.0, 1183.0, 1181.5) and mass.source == "scale"
    log.commands.take(DeviceReading(560.0, "mass", "g"), None)
    assert log.commands.document.stated_mass.repeats == (560.0,)  # type: ignore[union-attr]


def test_a_new_size_is_a_callout_with_its_reading() -> None:
    log = Log(ls.new_part("x"))
    logged: list[int] = []
    log.commands.logged.connect(lambda: logged.append(1))
    log.commands.log_new("outside ⌀", "12.01; 12.00")
    (callout,) = log.commands.document.callouts
    assert callout.kind == "diameter" and log.commands.document.readings[0].repeats == (12.01, 12.0) and logged == [1]
    log.commands.log_new("outside ⌀", "nothing")
    assert log.said[-1][1] and len(log.commands.document.callouts) == 1


def test_a_unit_is_wrong_only_when_the_other_one_fits() -> None:
    callout = DEMOS["pedestal"]().callouts[0]
    assert wrong_unit(callout.nominal, callout) == "" and wrong_unit(callout.nominal * 1.5, callout) == ""
    assert "inches" in wrong_unit(callout.nominal / 25.4, callout)
    assert "millimetres" in wrong_unit(callout.nominal * 25.4, callout)


def test_the_title_block_is_taken_when_it_is_asked_for() -> None:
    from lathed_solid.ledger.limits import Iso2768
    from lathed_solid.sheets.title import Title

    reader = laid()
    said = Title("CuSn8", Iso2768(letter="f"), "in", 2.0)
    reader.commands.take_title()
    assert reader.words == "no title block was read here"
    reader.commands.show_page(replace(page(), title=said))
    assert set(reader.commands.untaken_title) == {"material", "general", "unit"}
    reader.commands.take_title()
    d = reader.document
    assert (d.material, d.general, d.unit) == ("CuSn8", Iso2768(letter="f"), "in") and "CuSn8" in reader.words
    reader.commands.take_title()
    assert reader.document == d and "says what the part says" in reader.words
    # with callouts on it the unit stays: their notes were read in it
    later = laid("25")
    later.commands.take_all()
    later.commands.show_page(replace(page("25"), title=said))
    later.commands.take_title()
    assert later.document.unit == "mm" and later.document.material == "CuSn8"
