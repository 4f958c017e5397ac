"""The caliper log in the real window: nominals suggested and taken, threads told, new sizes logged."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QImage
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractItemView, QApplication, QDialog, QLineEdit

from lathed_solid import scripting as ls
from lathed_solid.desk.read.sums_menu import sums_menu
from lathed_solid.devices import DeviceReading
from lathed_solid.quantity.formatting import length

from .conftest import Bench


def _choose(bench: Bench, balloon: int) -> None:
    page = bench.window.panes.read_page.log
    page._choose(next(r for r in page.model.rows if r.balloon == balloon))


def _offers(bench: Bench) -> list[str]:
    return [b.text() for b in bench.window.panes.read_page.log.suggest.buttons if not b.isHidden()]


def test_a_reading_suggests_its_nominal_and_wear(bench: Bench) -> None:
    bench.window.bench.show_desk("read")
    _choose(bench, 9)
    assert _offers(bench)[0].startswith("25 · a bearing seat")
    assert "0.047 under its limits: worn?" in bench.window.panes.read_page.log.suggest.words.text()
    _choose(bench, 14)
    assert _offers(bench) == [] and "jaws" in bench.window.panes.read_page.log.suggest.words.text()


def test_a_new_part_is_logged_from_the_caliper_alone(bench: Bench) -> None:
    """Nothing is known but what the caliper shows; the callouts, their readings and a thread come from it."""
    bench.show(ls.new_part("found in a drawer"))
    w = bench.window
    w.bench.show_desk("read")
    suggest = w.panes.read_page.log.suggest
    for kind, text in (("outside ⌀", "24.99; 24.98"), ("inside ⌀", "12.02"), ("length", "40.03; 40.01"),
                       ("outside ⌀", "19.86; 19.87"), ("length", "33.337")):  # fmt: skip
        suggest.kind.setCurrentText(kind)
        suggest.repeats.setText(text)
        QTest.keyClick(suggest.repeats, Qt.Key.Key_Return)
        assert suggest.repeats.text() == ""
    d = bench.session.document
    assert [(c.kind, round(c.nominal, 4)) for c in d.callouts[:3]] == [
        ("diameter", 25),
        ("diameter", 12),
        ("length", 40),
    ]
    assert [len(d.reading(b).repeats) for b in range(1, 6)] == [2, 1, 2, 2, 1]  # type: ignore[union-attr]
    assert d.callouts[4].drive == "measured" or d.callouts[4].nominal > 33
    _choose(bench, 4)
    suggest.pitch.setText("1.5")
    assert _offers(bench)[0].startswith("M20x1.5") and "within its limits" in suggest.words.text()
    suggest.buttons[0].click()
    d = bench.session.document
    assert d.callouts[3].note == "M20x1.5" and d.callouts[3].nominal == 20 and d.reading(4) is not None
    bench.session.undo()
    assert bench.session.document.callouts[3].note != "M20x1.5"
    suggest.pitch.setText("99")
    assert "no thread" in suggest.words.text()
    suggest.repeats.setText("24.9 +")
    QTest.keyClick(suggest.repeats, Qt.Key.Key_Return)
    assert len(bench.session.document.callouts) == 5 and suggest.repeats.text() == "24.9 +"
    w.bench.show_desk("shape")


def test_readings_come_from_a_simulated_caliper_on_its_line(bench: Bench) -> None:
    """The window listens at a pseudo-terminal; each press of the data key is one more repeat, undoable."""
    w = bench.window
    w.bench.show_desk("read")
    page = w.panes.read_page.log
    _choose(bench, 14)
    assert bench.session.document.reading(14) is None and page.key.isHidden()
    assert page.listener.listen("")
    page.listener.simulated._slip = 0.0  # type: ignore[union-attr]
    assert page.listen.text() == "stop listening" and not page.key.isHidden()
    for n in (1, 2, 3):
        page.key.click()
        bench.until(lambda n=n: (r := bench.session.document.reading(14)) is not None and len(r.repeats) == n)  # type: ignore[misc]
    reading = bench.session.document.reading(14)
    assert reading is not None and abs(reading.mean - 1.5) < 0.06
    page.listener.simulated._slip = 1.0  # type: ignore[union-attr]
    _choose(bench, 13)
    before = bench.session.document
    page.key.click()
    bench.until(lambda: "looks like inches" in bench.said)
    assert bench.session.document is before
    bench.session.undo()
    assert len(bench.session.document.reading(14).repeats) == 2  # type: ignore[union-attr]
    page.listener.came.emit(DeviceReading(1190.0, "mass", "g"))
    assert bench.session.document.stated_mass.grams == 1190.0  # type: ignore[union-attr]
    page.listen.click()
    assert page.listener.port is None and page.listen.text() == "listen…" and page.key.isHidden()
    assert not page.listener.listen("/dev/there-is-none") and "cannot be opened" in bench.said
    w.bench.show_desk("shape")


def test_the_log_leads_to_the_next_size_and_shows_how_to_hold_the_jaws(bench: Bench) -> None:
    w = bench.window
    w.bench.show_desk("read")
    w.panes.read_page.show_source(0)
    page = w.panes.read_page.log
    assert page.suggest.next.text().startswith("next: 24, inside jaws")
    page.suggest.go.click()
    assert page.view.current_row().balloon == 24 and "drives the model" in bench.said
    ways = {}
    for balloon in (4, 5, 10, 21):
        page.view.selectRow(next(i for i, r in enumerate(page.model.rows) if r.balloon == balloon))
        picture = page.suggest.jaws.grab().toImage()
        ways[page.suggest.jaws.way] = bytes(picture.bits().asarray(picture.sizeInBytes()))  # type: ignore[union-attr]
    assert set(ways) == {"depth", "outside", "step", "inside"} and len(set(ways.values())) == 4
    # fractions of an inch beside the means, by 64ths and 128ths
    column = next(i for i, c in enumerate(page.model.columns) if c.title == "nearest")
    assert page.view.isColumnHidden(column)
    page.fractions.setCurrentIndex(2)
    row = next(i for i, r in enumerate(page.model.rows) if r.balloon == 11)
    assert not page.view.isColumnHidden(column)
    # 17.9833 mm = 90.62 / 128 in: nearest 91/128 in = 18.0578 mm
    assert page.model.index(row, column).data() == "91/128 − 0.074"
    page.fractions.setCurrentIndex(1)
    assert page.model.index(row, column).data() == "45/64 + 0.124"
    page.fractions.setCurrentIndex(0)


def test_f2_edits_the_cell_of_the_log(bench: Bench) -> None:
    bench.window.bench.show_desk("read")
    page = bench.window.panes.read_page.log
    view = page.view
    row = next(i for i, r in enumerate(page.model.rows) if r.reading is not None)
    heads = [str(view.model().headerData(c, Qt.Orientation.Horizontal)) for c in range(view.model().columnCount())]
    view.setFocus()
    view.setCurrentIndex(view.model().index(row, heads.index("repeats")))
    QTest.keyClick(view, Qt.Key.Key_F2)
    assert view.state() == QAbstractItemView.State.EditingState
    (line,) = view.findChildren(QLineEdit)
    assert line.text() == "; ".join(length(x) for x in page.model.rows[row].reading.repeats)
    QTest.keyClick(line, Qt.Key.Key_Escape)
    assert not [d for d in QApplication.topLevelWidgets() if isinstance(d, QDialog) and d.isVisible()]


def test_a_pitch_is_worked_out_by_one_click_and_another_way_is_compared(bench: Bench) -> None:
    bench.show(ls.new_part("bracket"))
    w = bench.window
    w.bench.show_desk("read")
    log = w.panes.read_page.log
    suggest = log.suggest
    for kind, text in (("inside ⌀", "12.02"), ("clear length", "13.99"), ("length inside", "26.0")):
        suggest.kind.setCurrentText(kind)
        suggest.repeats.setText(text)
        QTest.keyClick(suggest.repeats, Qt.Key.Key_Return)
    ways = [c.title for c in log.model.columns].index("other ways")
    assert log.view.isColumnHidden(ways)  # none yet
    _choose(bench, 2)
    menu = sums_menu(log, bench.session.document, log.model.rows, 2, log.commands)
    offered = {a.text(): a for a in menu.actions()}
    pitch = next(t for t in offered if t.startswith("pitch: clear #2 + ⌀#1 = 26.01"))
    compared = next(t for t in offered if "compare with #3" in t)
    offered[compared].trigger()
    assert "they agree within" in w.panes.status.left.text() and not log.view.isColumnHidden(ways)
    offered[pitch].trigger()
    assert bench.session.document.reading(4).mean == 12.02 + 13.99  # type: ignore[union-attr]
    shown = {c.title: c.text(log.model.rows[3]) for c in log.model.columns}
    assert shown["repeats"] == "#2 + #1" and shown["way"] == "worked out"
    assert "agree within" in next(c for c in log.model.columns if c.title == "other ways").text(log.model.rows[2])
    _choose(bench, 3)
    suggest.kind.setCurrentText("length over")
    suggest.repeats.setText("26.4")
    suggest.also.click()
    assert "one of them is wrong, measure again" in w.panes.status.left.text() and suggest.repeats.text() == ""


def test_letters_stand_on_a_photograph_of_the_part(bench: Bench, tmp_path: Path) -> None:
    w = bench.window
    w.bench.show_desk("read")
    log = w.panes.read_page.log
    assert log.photo.isHidden()
    (tmp_path / "notes.txt").write_text("no picture")
    assert not log.commands.lay_photograph(tmp_path / "notes.txt") and "PNG or JPEG" in w.panes.status.left.text()
    picture = QImage(400, 300, QImage.Format.Format_RGB32)
    picture.fill(0x808080)
    picture.save(str(tmp_path / "part.png"))
    assert log.commands.lay_photograph(tmp_path / "part.png") and log.photo.isVisible()
    assert w.panes.read_page.stack.currentWidget() is log, "a photograph is no drawing to turn to"
    bench.until(lambda: not log.photo.area().isEmpty())
    log._chosen = None

    def middle() -> QPoint:
        return log.photo.area().center().toPoint()

    QTest.mouseClick(log.photo, Qt.MouseButton.LeftButton, pos=middle())
    assert "choose a size in the log first" in w.panes.status.left.text()
    log._choose_balloon(9)
    QTest.mouseClick(log.photo, Qt.MouseButton.LeftButton, pos=middle())
    place = bench.session.document.callout(9).place  # type: ignore[union-attr]
    assert place is not None and abs(place.x - 0.5) < 0.01 and abs(place.y - 0.5) < 0.01
    assert [a.text for a in log.photo.letters] == ["I"]
    log._choose_balloon(1)
    QTest.mouseClick(log.photo, Qt.MouseButton.LeftButton, pos=middle())
    assert log._chosen == 9, "a click on a letter chooses its size"
    bench.session.undo()
    assert bench.session.document.callout(9).place is None and log.photo.letters == ()  # type: ignore[union-attr]
