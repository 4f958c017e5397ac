"""The editor of knurls."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make, picked_cylinder
from lathed_solid.desk.steps.form import Row
from lathed_solid.desk.steps.keyway import FACE

FORMS = (("RAA", "RAA, straight"), ("RBL", "RBL, left"), ("RBR", "RBR, right"), ("RGE", "RGE, crossed, raised"),
         ("RGV", "RGV, crossed, sunk"), ("RKE", "RKE, square, raised"), ("RKV", "RKV, square, sunk"))  # fmt: skip

ROWS = (FACE, Row("form", "form", "choice", choices=FORMS), Row("pitch", "pitch"))

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda _d, p: {"face": picked_cylinder(p)},)
