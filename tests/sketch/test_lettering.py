"""Lettering: outlines of the shipped font as exact curves, regions with their counters, engraved in a plate."""

from __future__ import annotations

import numpy as np
import pytest
from shapely.geometry import Polygon

from lathed_solid import scripting as ls
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.lettering import check_text, outlines
from lathed_solid.sketch.regions import regions, solid_parts


def lettered(text: str, height: float = 10.0, slope: tuple[float, float] | None = None):
    d = SketchBuilder()
    along = d.segment((0, 0), slope, construction=True) if slope else None
    d.text(d.point(3, 4), text, height, along=along)
    return d.done()


def test_capitals_have_the_height_and_letters_their_counters() -> None:
    sketch = lettered("HO")
    shapes = outlines(sketch, next(e for e in sketch.entities if e.kind == "text"))
    ys = [s.at(t).imag for s in shapes for t in (0.0, 0.5)]
    assert min(y for y in ys[:24]) == pytest.approx(4) and max(ys[:24]) == pytest.approx(14)
    found = regions(sketch)
    assert [len(r.holes) for r in solid_parts(found)] == [0, 1]
    assert len({r.name for r in found}) == len(found)


def test_areas_match_a_fine_polygon_and_turn_with_the_line() -> None:
    level, turned = regions(lettered("S3")), regions(lettered("S3", slope=(6, 8)))
    assert [r.area for r in turned] == pytest.approx([r.area for r in level])
    for r in level:
        ring = [p.curve.at(p.t0 + (p.t1 - p.t0) * k / 200) for p in r.outer for k in range(200)]
        holes = [[q.curve.at(q.t0 + (q.t1 - q.t0) * k / 200) for q in h for k in range(200)] for h in r.holes]
        want = Polygon([(z.real, z.imag) for z in ring], [[(z.real, z.imag) for z in h] for h in holes]).area
        assert r.area == pytest.approx(want, rel=1e-5)


def test_engraving_takes_the_letters_area_away() -> None:
    sketch = lettered("A-8")
    area = sum(r.area for r in solid_parts(regions(sketch)))
    base = ls.Draft()
    ls.shapes.rectangle(base, (-5, -5), (60, 30))
    part = ls.extrude(ls.sketch(ls.new_part("plate"), base), 10, "6")
    part = ls.extrude(ls.sketch(part, sketch, ls.DatumPlane(offset="6")), 30, "0.4", side="back", mode="cut")
    solid = ls.build(part)
    assert solid.ok, solid.messages
    assert solid.volume == pytest.approx(6 * 65 * 35 - 0.4 * area, rel=1e-7)
    assert "40/t1" in solid.built.body.labels
    assert np.isfinite(area) and area > 10


def test_unknown_characters_are_named() -> None:
    with pytest.raises(SketchError, match="☃"):
        check_text("snow ☃")
    with pytest.raises(SketchError, match="no text"):
        check_text("  ")
