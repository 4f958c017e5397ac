"""The interface in German: every word that the window shows, numbers with their comma, and nothing told otherwise."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path

import polib
import pypdfium2
import pytest
import words
from click.testing import CliRunner
from hypothesis import given
from hypothesis import strategies as st
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QAbstractButton, QApplication, QLabel, QLineEdit, QWidget

from lathed_solid.cli import cli
from lathed_solid.cli.root import worker
from lathed_solid.demo import DEMOS
from lathed_solid.desk import language, theme
from lathed_solid.desk.choice import Choice
from lathed_solid.desk.guide_window import GuideWindow
from lathed_solid.desk.language import WORDS, read_catalogue, speak, spoken
from lathed_solid.desk.rail import DESKS
from lathed_solid.desk.row_table import RowModel
from lathed_solid.desk.window import MainWindow
from lathed_solid.engine.client import KernelClient
from lathed_solid.engine.protocol import DrawViews, ShopFound, Viewed
from lathed_solid.errors import LathedError
from lathed_solid.files import write_document
from lathed_solid.fit.document import Fit
from lathed_solid.fit.judged import Row
from lathed_solid.guide import PAGES
from lathed_solid.quantity import evaluate
from lathed_solid.reports.inspection import inspection_pdf
from lathed_solid.reports.machinist.pdf import machinist_pdf
from lathed_solid.reports.machinist.sheet import machinist_sheet
from lathed_solid.reports.parts_list import parts_pdf
from lathed_solid.standards.materials import material
from lathed_solid.standards.threads import coarse_pitch
from lathed_solid.workbench.actions import ACTIONS, find_action
from lathed_solid.workbench.session import Session
from lathed_solid.workbench.step_forms import rows_of
from lathed_solid.workbench.step_forms.new import GROUPS, NEW
from lathed_solid.workbench.tables.column import Column
from lathed_solid.workbench.tips import TIPS

from .conftest import Bench

#: words that are alike in both languages, and names that are told as they are
ALIKE = re.compile(r"(?:[^\W\d_]{0,2}|STEP|STL|GLB|PNG|iso|in|ring|Deutsch|English|radial|neutral|parallel|OK)")


@pytest.fixture(autouse=True)
def german() -> Iterator[None]:
    speak("de")
    yield
    speak("en")


def bare(text: str) -> str:
    return re.sub(r"\(?(?:Ctrl|Alt|Shift|Esc|Enter|PgUp|PgDown|Del|F\d)[^\s)]*\)?|[^\w]+", " ", text).strip()


def test_every_message_is_whole() -> None:
    entries = polib.pofile(str(WORDS / "de.po"))
    keys = [(e.msgctxt, e.msgid) for e in entries]
    assert len(keys) == len(set(keys)) > 1900
    for entry in entries:
        holes = entry.msgid.count("{}")
        assert entry.msgstr and re.sub(r"\{\}", "", entry.msgstr).count("{") == 0, entry.msgid
        assert entry.msgstr.count("{}") == holes and entry.msgstr.format(*"x" * holes), entry.msgid
        assert (entry.msgid[0] == " ", entry.msgid[-1] == " ") == (entry.msgstr[0] == " ", entry.msgstr[-1] == " ")


@pytest.mark.parametrize(("english", "shown"), [
    ("verdict", "Urteil"),
    ("step 30", "Schritt 30"),
    ("remembered as cover", "gemerkt als cover"),
    ("12.50 mm", "12,50 mm"),
    ("25 0/-0.013", "25 0/-0,013"),
    ("volume 23.67 in³", "Volumen 23,67 in³"),
    ("mass 12.5 g", "Masse 12,5 g"),
    ("0.1.0", "0.1.0"),
    ("Winch spindle", "Winch spindle"),
    ("part.v1.2.lathed", "part.v1.2.lathed"),
    ("Save\tCtrl+S", "Speichern\tCtrl+S"),
    ("step 10; step 20", "Schritt 10; Schritt 20"),
])  # fmt: skip
def test_words_holes_and_numbers(english: str, shown: str) -> None:
    assert spoken(english) == shown
    speak("en")
    assert spoken(english) == english


def said_of(act: Callable[[], object]) -> str:
    with pytest.raises(LathedError) as caught:
        act()
    return spoken(caught.value.message)


def test_errors_are_told_by_their_pieces_and_what_was_received_as_it_was() -> None:
    assert said_of(lambda: evaluate("12 13")) == (
        "Spalte 4: '13' passt hier nicht (erhalten: '12 13'). Möglich: ein Rechenzeichen + - * / ^ zwischen zwei Werten"
    )
    assert said_of(lambda: material("unobtainium 9")).startswith(
        "der Werkstoff 'unobtainium 9' steht nicht in der Tabelle"
    )
    assert said_of(lambda: coarse_pitch(13)) == (
        "M13 hat keine Regelsteigung in ISO 261. Möglich: die Steigung schreiben: M13x1.5"
    )
    placed = LathedError(
        "there is no corner here to break", where="station 2", rule="the wall would be 3", received="a. b"
    )
    assert spoken(placed.message) == ("Absatz 2: hier ist keine Ecke zu brechen; die Wand wäre 3 (erhalten: a. b)")
    assert spoken("the wall: thick; thin") == "the wall: thick; thin"


@given(st.text(max_size=60))
def test_any_text_is_shown(text: str) -> None:
    """What it says of numbers aside, what is in no message stays as it is, and nothing is raised."""
    assert spoken(text) is not None and bool(spoken(text)) == bool(text)


def test_a_word_that_means_two_things_is_told_by_what_it_is_about() -> None:
    assert spoken("scale") == "Maßstab" and spoken("scale", "mass") == "Waage"
    assert spoken("back") != spoken("back", "view") == "hinten"


def test_a_choice_is_shown_in_german_and_told_in_english(qapp: QApplication) -> None:
    box = Choice()
    box.addItems(["turned", "brass", "gold leaf"])
    box.setEditable(True)
    assert [box.itemText(k) for k in range(3)] == ["gedreht", "Messing", "gold leaf"]
    box.setCurrentText("brass")
    assert box.currentText() == "brass" and box.lineEdit().text() == "Messing"  # type: ignore[union-attr]
    box.setEditText("paint #336699")
    assert box.currentText() == "paint #336699"


def test_all_that_the_tables_say_is_in_the_catalogue() -> None:
    """A new action, step, field or tip without its German is found here."""
    kinds = [p.stem for p in (Path(language.__file__).parents[1] / "workbench" / "step_forms").glob("*.py")]
    said = [w for a in ACTIONS for w in (a.title, a.tip, a.group)]
    said += [w for n in NEW for w in (n.entry.title, n.entry.tip)] + list(GROUPS)
    said += [t.words for t in TIPS] + [w for _, title, matter in DESKS for w in (title, matter)]
    for kind in kinds:
        try:
            rows = rows_of(kind)
        except (AttributeError, ModuleNotFoundError):
            continue
        said += [w for r in rows for w in (r.label, *(words for _, words in r.choices))]
    missing = {
        w for w in said if w and spoken(w) == w and not ALIKE.fullmatch(bare(w)) and not re.search(r"M8x|\d|x, y", w)
    }
    assert not missing


def test_every_text_that_the_window_says_is_in_the_catalogue() -> None:
    assert words.missing("de") == []
    assert len(list(words.written())) > 500


def test_the_window_speaks_german(qapp: QApplication, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """All labels, buttons, fields and tables of the window, at each desk; no word stands in English that is known."""
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path))
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path))
    whole = read_catalogue(WORDS / "de.po").whole
    theme.apply(qapp, dark=False)
    with KernelClient() as kernel:
        session = Session(kernel, journal_folder=tmp_path / "journal")
        window = MainWindow(session)
        bench = Bench(window, session)
        try:
            window.resize(1280, 800)
            window.show()
            bench.show(DEMOS["crank-hub"]())
            left: set[str] = set()
            for desk, _, _ in DESKS:
                window.bench.show_desk(desk)
                for _ in range(20):
                    QApplication.processEvents()
                left |= {t for t in texts(window) if t in whole and whole[t] != t}
            assert not left
            bench.show(DEMOS["winch-spindle"]())
            window.bench.show_desk("read")
            for _ in range(20):
                QApplication.processEvents()
            assert window.width() == 1280 and window.minimumSizeHint().width() <= 1280  # its words have room
            menu = window.menus.part()
            assert {"Neu", "Öffnen…", "Speichern"} <= {a.text().partition("\t")[0] for a in menu.actions()}
            headers = [window.panes.prove_page.model.headerData(k, Qt.Orientation.Horizontal, 0) for k in range(4)]
            assert "Angabe" in headers
        finally:
            window.close()
            session.close()


def test_words_of_the_user_stay_as_they_were_written(qapp: QApplication) -> None:
    table = RowModel([Column("carries", str, look="own"), Column("what", str)])
    table.set_rows(["crank"])
    assert table.headerData(0, Qt.Orientation.Horizontal, 0) == "trägt"
    assert [table.data(table.index(0, k)) for k in (0, 1)] == ["crank", "Kurbel"]
    spoken_of = [table.data(table.index(0, k), Qt.ItemDataRole.AccessibleTextRole) for k in (0, 1)]
    assert spoken_of[0] == "trägt: crank" and spoken_of[1].endswith(": Kurbel")


def texts(window: QWidget) -> Iterator[str]:
    for w in window.findChildren(QWidget):
        if isinstance(w, QLabel | QAbstractButton):
            yield w.text()
        if isinstance(w, QLineEdit):
            yield w.placeholderText()
        yield w.toolTip()
        yield w.accessibleName()


def test_a_language_that_is_not_shipped_is_refused(monkeypatch: pytest.MonkeyPatch) -> None:
    with pytest.raises(KeyError):
        speak("xx")
    monkeypatch.delenv("LC_ALL", raising=False)
    monkeypatch.delenv("LC_MESSAGES", raising=False)
    for told, means in (("de_AT.UTF-8", "de"), ("fr_FR", "en"), ("", "en")):
        monkeypatch.setenv("LANG", told)
        assert language.desktop_language() == means


def test_the_guide_is_german_too(tmp_path: Path) -> None:
    app = QApplication.instance() or QApplication([])
    assert app is not None
    parent = QWidget()
    guide = GuideWindow(parent, "proof")
    titles = [guide.contents.item(k).text() for k in range(guide.contents.count())]  # type: ignore[union-attr]
    assert titles[0] == "Was das ist, und das Fenster" and titles[-1] == "Alle Tasten" and len(titles) == len(PAGES)
    assert "Maßbuch" in guide.browser.toPlainText()
    guide.field.setText("Passfedernuten")
    assert guide.contents.count() == 1
    guide.turn_to("keys")
    keys = guide.browser.toPlainText()
    strange = [a.title for a in ACTIONS if spoken(a.title).rstrip("…") not in keys]
    assert strange == [] and "what it does" not in keys and "Punkt" in keys
    guide.close()
    out = tmp_path / "anleitung.html"
    assert CliRunner().invoke(cli, ["guide", str(out), "--language", "de"], standalone_mode=False).return_value == 0
    assert "Skizze hinzufügen" in out.read_text("utf-8")


def test_actions_are_found_by_their_german_names() -> None:
    for action in ACTIONS:
        found = find_action(spoken(action.title), spoken)
        assert found is not None and spoken(found.title) == spoken(action.title)
        assert find_action(action.title, spoken) is not None
    assert find_action("Skizze hinz", spoken).id == find_action("add a sketch").id  # type: ignore[union-attr]
    assert find_action("Skizze hinz") is None and find_action("Bohrung Ø6", spoken) is None


def test_printed_reports_are_german() -> None:
    """What none of the catalogue's messages says is found, in all words that are printed."""
    left: set[str] = set()

    def recorded(text: str, about: str = "") -> str:
        told = spoken(text, about)
        if told == text and re.search("[a-z]{3}", text) and not re.fullmatch(r"[\d,]+ bis [\d,]+", text):
            left.add(text)
        return told

    for demo in ("winch-spindle", "ratchet-wheel", "pedestal"):
        part = DEMOS[demo]()
        with worker() as kernel:
            viewed = kernel.answer(DrawViews(document=part), Viewed)
            found = machinist_sheet(part, partial(kernel.answer, of=ShopFound))
        sheet = inspection_pdf(part, viewed.report, viewed.views, spoken=recorded)
        shop = machinist_pdf(found, recorded)
        first = [pypdfium2.PdfDocument(data)[0].get_textpage().get_text_range() for data in (sheet, shop)]
        assert (
            "PRÜFBLATT" in first[0]
            and "BLATT FÜR DIE WERKSTATT" in first[1]
            and "Spannungen der Reihe nach" in first[1]
        )
    rows = [Row(1, "Screw", 4, "steel", 12.5, "", ())]
    listed = parts_pdf(Fit(name="Winch"), rows, {}, spoken=recorded)
    text = pypdfium2.PdfDocument(listed)[0].get_textpage().get_text_range()
    assert "STÜCKLISTE" in text and "Nr." in text and "Screw" in text
    assert left == set()


@pytest.mark.parametrize(
    ("command", "words"),
    [("inspect", ("PRÜFBLATT", "Einheit mm")), ("machinist", ("BLATT FÜR DIE WERKSTATT", "Einheit mm")),
     ("drawing", ("Maßstab", "Blatt", "Werkstoff", "Allgemeintoleranz", "Dokument", "Änderung"))],
)  # fmt: skip
def test_commands_print_in_german(command: str, words: tuple[str, ...], tmp_path: Path) -> None:
    part, out = tmp_path / "part.lathed", tmp_path / "out.pdf"
    write_document(part, DEMOS["gland-nut"]())
    CliRunner().invoke(cli, [command, str(part), str(out), "--language", "de"], standalone_mode=False)
    text = pypdfium2.PdfDocument(out.read_bytes())[0].get_textpage().get_text_range()
    assert all(word in text for word in words)
    assert spoken("unit mm") == "unit mm", "what is printed after it is in English again"
