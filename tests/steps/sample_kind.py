"""Run by test_catalogue: a kind of step added from a temporary package, seen everywhere it must show.

The folder given holds ``part_steps/lift.py``, ``builders/lift.py`` and ``step_forms/lift.py``.
"""

from __future__ import annotations

import json
import sys
from pathlib import Path

folder = Path(sys.argv[1])

import lathed_solid.kernel.builders  # noqa: E402
import lathed_solid.part.steps  # noqa: E402
from lathed_solid.part.steps.catalogue import CATALOGUE, Entry, StepKind  # noqa: E402

lathed_solid.part.steps.__path__.append(str(folder / "part_steps"))
lathed_solid.kernel.builders.__path__.append(str(folder / "builders"))
# the one row
CATALOGUE["lift"] = StepKind("lift", entries=(Entry("Lift the first body", "Bodies", tip="moves it up"),))  # type: ignore[index]

import lathed_solid.workbench.step_forms as forms  # noqa: E402

forms.__path__.append(str(folder / "step_forms"))

sys.path.insert(0, str(Path(__file__).parents[2] / "tools"))

from pages import step_kinds  # noqa: E402

from lathed_solid import scripting as ls  # noqa: E402
from lathed_solid.files.schema import schema_text  # noqa: E402
from lathed_solid.workbench.actions import ACTIONS, find_action  # noqa: E402
from lathed_solid.workbench.step_forms.new import NEW, new_step  # noqa: E402

draft = ls.Draft()
ls.shapes.rectangle(draft, (0, 0), (10, 10))
part = ls.extrude(ls.sketch(ls.new_part("block"), draft), 10, "4")
new = next(n for n in NEW if n.kind == "lift")
begun = new_step(new, part, {}, 30)
solid = ls.build(ls.step(part, "lift", by="7"))
found = find_action("lift the first")
told = {
    "menu": new.entry.title,
    "note line": None if found is None else found.title,
    "completion": [a.title for a in ACTIONS if a.id == "add-lift-the-first-body"],
    "form": [row.label for row in forms.rows_of("lift")] if "lift" in forms.FORMS else None,
    "schema": json.loads(schema_text())["$defs"]["LiftStep"]["properties"]["by"]["default"],
    "page": [line for line in step_kinds().splitlines() if "`lift`" in line],
    "begun": begun.model_dump()["by"],
    "centre": solid.centre[2],
}
print(json.dumps(told))
