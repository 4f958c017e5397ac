"""The editor of knurls."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, picked_cylinder
from lathed_solid.workbench.step_forms.form_row import FormRow
from lathed_solid.workbench.step_forms.keyway import FACE

FORMS = (("RAA", "RAA, straight"), ("RBL", "RBL, left"), ("RBR", "RBR, right"), ("RGE", "RGE, crossed, raised"),
         ("RGV", "RGV, crossed, sunk"), ("RKE", "RKE, square, raised"), ("RKV", "RKV, square, sunk"))  # fmt: skip

ROWS = (FACE, FormRow("form", "form", "choice", choices=FORMS), FormRow("pitch", "pitch"))

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda _d, p: {"face": picked_cylinder(p)},)
