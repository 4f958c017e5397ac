"""A kind of step is a row of the catalogue and three modules of its name, and nothing else."""

from __future__ import annotations

import json
import sys
import types
from typing import Any, Literal

import pytest

from lathed_solid import scripting as ls
from lathed_solid.files import document_json
from lathed_solid.kernel.builders import builder_of
from lathed_solid.part import Document
from lathed_solid.part.steps import KINDS
from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase
from lathed_solid.part.steps.catalogue import CATALOGUE, StepKind
from lathed_solid.record import READING


@pytest.mark.parametrize("kind", sorted(CATALOGUE))
def test_every_row_has_its_class_and_its_builder(kind: str) -> None:
    row, cls = CATALOGUE[kind], KINDS[kind]
    assert cls.__name__ == row.cls and cls.model_fields["kind"].default == kind
    assert cls.__module__ == f"lathed_solid.part.steps.{kind}"
    assert (builder_of(kind) is None) == (kind == "sketch")
    assert row.breaks + row.begins_body < 2


class LiftStep(StepBase):
    """A sample: the first body moved up."""

    kind: Literal["lift"] = "lift"
    by: Cell = "5"

    def fields(self) -> tuple[FieldOf, ...]:
        return (FieldOf("by", self.by, "length", None),)

    def resolve(self, evaluate: Any) -> float:
        return Reader(evaluate).size("by", self.by)


def build_lift(parts: Any, by: float, number: int) -> Any:
    from OCP.gp import gp_Trsf, gp_Vec
    from OCP.TopLoc import TopLoc_Location

    from lathed_solid.kernel.names import moved

    up = gp_Trsf()
    up.SetTranslation(gp_Vec(0, 0, by))
    first = min(parts.bodies)
    return parts.with_body(first, moved(parts.bodies[first], TopLoc_Location(up), lambda a: a))


def test_a_sample_kind_needs_a_row_and_its_modules(monkeypatch: pytest.MonkeyPatch) -> None:
    for name, thing in (("part.steps.lift", LiftStep), ("kernel.builders.lift", build_lift)):
        module = types.ModuleType(f"lathed_solid.{name}")
        setattr(module, thing.__name__, thing)
        monkeypatch.setitem(sys.modules, f"lathed_solid.{name}", module)
    monkeypatch.setitem(CATALOGUE, "lift", StepKind("lift"))
    builder_of.cache_clear()
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (10, 10))
    part = ls.note(ls.extrude(ls.sketch(ls.new_part("block"), d), 10, "4"), "7")
    part = ls.step(part, "lift", by="#1")
    solid = ls.build(part)
    assert solid.ok and solid.centre[2] == pytest.approx(4 / 2 + 7)
    assert part.steps[-1].balloons() == (1,)
    assert Document.model_validate(json.loads(document_json(part)), context=READING) == part
    builder_of.cache_clear()
