"""Exercises: their figures against the built answers and closed forms; marks of right, slipped and empty parts."""

from __future__ import annotations

import json
import math
from collections.abc import Callable
from pathlib import Path

import pytest
from click.testing import CliRunner
from scipy.integrate import quad

from lathed_solid import scripting as ls
from lathed_solid.cli import cli
from lathed_solid.errors import LathedError
from lathed_solid.exercises import EXERCISES, Exercise, Figures, Mark, begun, exercise, mark, words_of
from lathed_solid.files import write_document
from lathed_solid.part import Document, edits

NAMES = [e.name for e in EXERCISES]


def solved(task: Exercise, change: Callable[[Document], Document] = lambda d: d) -> tuple[Mark, ...]:
    """The marks of the answer, after a change, as a learner's part."""
    answer = change(task.answer())
    part = begun(task).model_copy(update={k: getattr(answer, k) for k in ("notes", "steps", "parameters")})
    return mark(task, part, ls.build(part).summary, ls.prove(part))


@pytest.mark.parametrize("name", NAMES)
def test_the_answer_is_done_and_its_figures_are_those_beside_the_sheet(name: str) -> None:
    task = exercise(name)
    told, found = task.figures(), Figures.of(ls.build(task.answer()).summary)
    for a, b in zip((told.volume, told.area, told.mass, *told.moments), (found.volume, found.area, found.mass,
                    *found.moments), strict=True):  # fmt: skip
        assert a == pytest.approx(b, rel=1e-9)
    marks = solved(task)
    assert all(m.ok for m in marks) and words_of(marks).startswith("done")


def test_the_pin_s_volume_is_the_closed_form_s() -> None:
    chamfer = math.pi * (100 - (10**3 - 9**3) / 3)
    inside = lambda x: (10.8 - math.sqrt(0.64 - (0.8 - x) ** 2)) ** 2 - 100  # noqa: E731
    fillet = math.pi * quad(inside, 0, 0.8)[0]
    hole = quad(lambda y: 4 * math.sqrt(4 - y * y) * math.sqrt(100 - y * y), -2, 2)[0]
    whole = math.pi / 4 * (28**2 * 6 + 20**2 * 54)
    assert exercise("sheave-pin").figures().volume == pytest.approx(whole - chamfer + fillet - hole, rel=1e-9)


def test_an_exercise_begins_with_its_sheet_and_nothing_entered() -> None:
    part = begun(exercise("fairlead-bush"))
    assert part.unit == "in" and part.material == "CuSn8" and len(part.sheets) == 1
    assert not part.notes and not part.steps and part.exercise == "fairlead-bush"
    marks = mark(exercise("fairlead-bush"), part, None, None)
    assert sum(m.kind == "missing" and not m.ok for m in marks) == 13
    assert marks[-1].words == "there is no solid yet"


def test_the_sheets_read_back_as_the_answers() -> None:
    for task in EXERCISES:
        wanted = sorted((c.role, round(c.nominal, 6), c.count) for c in task.answer().callouts)
        part = begun(task)
        for offer in ls.read_sheet(task.sheet, unit=part.unit).offers:
            part = ls.note(part, offer.text)
        assert sorted((c.role, round(c.nominal, 6), c.count) for c in part.callouts) == wanted


def dropped(balloon: int) -> Callable[[Document], Document]:
    return lambda d: edits.drop_callout(d, balloon)


@pytest.mark.parametrize(
    ("name", "change", "kinds", "words"),
    [
        ("sheave-pin", lambda d: edits.edit_note(d, 3, "Ø20 h8"), {"missing", "otherwise"}, "the drawing says Ø20 h9"),
        ("sheave-pin", lambda d: edits.edit_note(d, 1, "Ø26"), {"missing", "otherwise", "mass"}, "less than the drawn"),
        ("sheave-pin", lambda d: ls.note(d, "R3"), {"surplus", "verdict"}, "R3 (9) is not on the drawing"),
        ("sheave-pin", lambda d: d.model_copy(update={"steps": d.steps[:1]}), {"verdict", "mass"}, "not found"),
        ("bearing-plate", lambda d: d.model_copy(update={"steps": d.steps[:3]}), {"verdict", "mass"}, "more than"),
        ("fairlead-bush", lambda d: edits.put_step(d, edits.changed(d.steps[1], places=ls.OnCircle(
            bolt_circle="1.9", count=3))), {"verdict", "shape"}, "in another place"),
    ],
)  # fmt: skip
def test_a_slip_is_told(name: str, change: Callable[[Document], Document], kinds: set[str], words: str) -> None:
    marks = solved(exercise(name), change)
    assert {m.kind for m in marks if not m.ok} == kinds
    assert any(words in m.words for m in marks if not m.ok)
    assert all(m.hint for m in marks if not m.ok)


def test_the_command_line_begins_and_marks(tmp_path: Path) -> None:
    run = lambda *told: CliRunner().invoke(cli, told, standalone_mode=False)  # noqa: E731
    assert all(name in run("exercise").output for name in NAMES)
    file = tmp_path / "pin.lathed"
    assert run("exercise", "sheave-pin", "--save", str(file)).return_value == 0
    found = run("mark", str(file), "--json")
    assert found.return_value == 1 and json.loads(found.output)["ok"] is False
    answer = exercise("sheave-pin").answer()
    part = begun(exercise("sheave-pin")).model_copy(update={"notes": answer.notes, "steps": answer.steps})
    write_document(file, part)
    found = run("mark", str(file))
    assert found.return_value == 0 and found.output.splitlines()[-1] == "done: the part is as drawn"
    write_document(file, answer)
    assert isinstance(run("mark", str(file)).exception, LathedError)
    assert isinstance(run("exercise", "anchor").exception, LathedError)
