"""Drawings, measured: of random parts, read back by the product's own reader.

python bench/drawing.py 100 9200001     # what is lost, overlaps, crosses; time against the bare hidden-line views

Every note of the ledger is to come back from the PDF (and the DXF) with what it says; a length with its span.
"""

from __future__ import annotations

import sys
import tempfile
import time
from collections import Counter
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))

import ezdxf
from drawing.reading_back import read_back
from truth_parts import truth

from lathed_solid.engine.handlers import draw_figures
from lathed_solid.engine.protocol import DrawFigures, Figured
from lathed_solid.engine.prove import prove
from lathed_solid.engine.rebuild import Engine
from lathed_solid.engine.summary import summary
from lathed_solid.kernel.drawing.flat import FLATS
from lathed_solid.kernel.drawing.hidden_lines import hidden_lines
from lathed_solid.part import Document
from lathed_solid.reports.drawing.draw import drawing
from lathed_solid.reports.drawing.dxf import drawing_dxf
from lathed_solid.reports.drawing.meeting import lines_crossed, lines_over_texts, texts_over_texts
from lathed_solid.reports.drawing.pdf import drawing_pdf


def one(document: Document, engine: Engine, path: Path, counts: Counter[str], bad: list[str]) -> None:
    """Draw, write, read back; what was found is added to ``counts``."""

    def ask(request: DrawFigures) -> Figured:
        return draw_figures(engine, request, lambda *_: None)

    built = engine.build(document)
    prove(engine, document, built)
    summary(engine, document, built)  # a part is proven, and its mass told, before it is drawn
    start = time.perf_counter()
    sheet = drawing(document, ask)[0]
    whole = time.perf_counter() - start
    start = time.perf_counter()
    for view in (v for v in sheet.views if v.name in FLATS):  # a detail is cut out of its view
        flat = FLATS[view.name]
        assert built.body is not None
        hidden_lines(built.body.shape)(flat.eye, flat.right)
    bare = time.perf_counter() - start
    path.write_bytes(drawing_pdf(sheet))
    found = read_back(sheet, path)
    counts.update(found.counts)
    path.with_suffix(".dxf").write_bytes(drawing_dxf(sheet))
    entities = read_back(sheet, path.with_suffix(".dxf"))
    counts.update({f"dxf {k}": v for k, v in entities.counts.items()})
    audit = ezdxf.readfile(path.with_suffix(".dxf")).audit()
    counts["dxf errors"] += len(audit.errors) + len(audit.fixes)
    counts.update(
        left_out=len(sheet.left_out), texts=texts_over_texts(sheet), crossed=lines_crossed(sheet),
        through=lines_over_texts(sheet), whole_ms=round(1e3 * whole), bare_ms=round(1e3 * bare), sheets=1,
        dimensions=len(sheet.dimensions),
    )  # fmt: skip
    bad += [*found.bad, *(f"DXF {words}" for words in entities.bad)]
    bad += [f"{sheet.name}: {counts['texts']} texts over texts"] if texts_over_texts(sheet) else []
    bad += [f"{sheet.name}: left out: {left.text}: {left.why}" for left in sheet.left_out]


def main() -> int:
    """The exit code."""
    count, seed = (int(v) for v in [*sys.argv[1:], "20", "1"][:2])
    counts: Counter[str] = Counter()
    bad: list[str] = []
    with tempfile.TemporaryDirectory() as folder:
        one(truth(seed).document, Engine(), Path(folder) / "first.pdf", Counter(), [])  # loads what it takes
        for k in range(seed, seed + count):
            before = len(bad)
            one(truth(k).document, Engine(), Path(folder) / "part.pdf", counts, bad)
            bad[before:] = [f"{k} {words}" for words in bad[before:]]
    print("\n".join(bad))
    print(dict(counts))
    print(f"{counts['crossed'] / max(1, counts['dimensions']):.3f} crossings a dimension; "
          f"{counts['whole_ms'] / max(1, counts['bare_ms']):.2f} times the bare views")  # fmt: skip
    return int(counts["found"] < counts["notes"] or counts["dxf found"] < counts["notes"])


if __name__ == "__main__":
    sys.exit(main())
