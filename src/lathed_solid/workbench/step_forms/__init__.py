"""Editors of steps as data: a kind's rows stand in the module of its name, and are read when the first such step is
shown.
"""

from __future__ import annotations

from importlib import import_module

from lathed_solid.part.steps.catalogue import CATALOGUE
from lathed_solid.workbench.step_forms.form_row import FormRow

#: kinds that are edited in a form
FORMS = tuple(k.name for k in CATALOGUE.values() if k.form)


def rows_of(kind: str) -> tuple[FormRow, ...]:
    """The rows of a kind's editor."""
    rows: tuple[FormRow, ...] = import_module(f"lathed_solid.workbench.step_forms.{kind}").ROWS
    return rows
