"""Editors of steps: a kind's rows stand in the module of its name, and are read when the first such step is shown."""

from __future__ import annotations

from importlib import import_module

from lathed_solid.desk.steps.form import Row, StepForm
from lathed_solid.part.steps.catalogue import CATALOGUE

#: kinds that are edited in a form
FORMS = tuple(k.name for k in CATALOGUE.values() if k.form)


def rows_of(kind: str) -> tuple[Row, ...]:
    """The rows of a kind's editor."""
    rows: tuple[Row, ...] = import_module(f"lathed_solid.desk.steps.{kind}").ROWS
    return rows


def form_of(kind: str) -> StepForm:
    return StepForm(rows_of(kind))
