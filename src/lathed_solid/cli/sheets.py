"""Commands about drawings by themselves."""

from __future__ import annotations

import json
import math
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from lathed_solid.cli import printing
from lathed_solid.cli.root import NOT_PROVEN, OK, cli
from lathed_solid.errors import LathedError

if TYPE_CHECKING:
    from lathed_solid.quantity import LengthUnit
    from lathed_solid.sheets.client import NoteCandidate, SheetPage


@cli.command("read")
@click.argument("sheet", type=click.Path(path_type=Path))
@click.option("--unit", type=click.Choice(["mm", "in"]), default="mm", show_default=True)
@click.option("--page", type=click.IntRange(1, 9999), default=1, help="Of a PDF with several pages.")
@click.option("--json", "as_json", is_flag=True, help="Print it as JSON; boxes in shares of the page.")
def read_command(sheet: Path, unit: LengthUnit, page: int, as_json: bool) -> int:
    """The notes found on a drawing, and what their dimension lines say; exit 1 when a line contradicts its number."""
    from lathed_solid.sheets.client import read_page

    found = read_page(sheet, page, unit)
    against = any(o.sure == "contradicted" for o in found.offers)
    if as_json:
        click.echo(json.dumps(_as_json(found, unit) | {"ok": not against}, ensure_ascii=False, indent=1))
    else:
        printing.print_sheet(found)
    return NOT_PROVEN if against else OK


@cli.command("propose")
@click.argument("sheet", type=click.Path(path_type=Path))
@click.argument("out", type=click.Path(path_type=Path))
@click.option("--unit", type=click.Choice(["mm", "in"]), default="mm", show_default=True)
@click.option("--page", type=click.IntRange(1, 9999), default=1, help="Of a PDF with several pages.")
@click.option("--json", "as_json", is_flag=True, help="Print what is proposed and asked as JSON.")
def propose_command(sheet: Path, out: Path, unit: LengthUnit, page: int, as_json: bool) -> int:
    """Propose a turned part's or a plate's first model from its drawing; exit 1 when something is asked, or was not
    surely read.
    """
    from lathed_solid.files import write_document
    from lathed_solid.scripting import propose

    found = propose(sheet, unit, page)
    write_document(out, found.document)
    whole = not found.asked and not found.unplaced and not found.doubted
    if as_json:
        rows = [{"what": r.what, "cells": r.cells, "asked": r.asked or None} for r in found.rows]
        told = {
            "ok": whole,
            "kind": found.kind,
            "rows": rows,
            "asked": list(found.asked),
            "doubted": list(found.doubted),
            "unplaced": list(found.unplaced),
        }
        click.echo(json.dumps(told, ensure_ascii=False, indent=1))
    else:
        for r in found.rows:
            click.echo(f"{r.what}: {r.cells or '?'}")
        for words in found.asked:
            click.echo(f"asked: {words}")
        for words in found.doubted:
            click.echo(f"look at: {words}")
        for text in found.unplaced:
            click.echo(f"not placed: {' '.join(text.split())}")
        click.echo(f"{out} written")
    return OK if whole else NOT_PROVEN


def _as_json(found: SheetPage, unit: LengthUnit) -> dict[str, Any]:
    return {
        "pages": found.pages,
        "kind": found.kind,
        "width_mm": found.width,
        "height_mm": found.height,
        "scale": found.scale,
        "title": _title(found),
        "offers": [_offer(o, unit) for o in found.offers],
        "left": [{"text": t.text, "why": t.why, "box": list(t.box)} for t in found.left],
    }


def _title(found: SheetPage) -> dict[str, Any]:
    said = found.title
    general = None if said.general is None else str(said.general)
    return {
        "material": said.material,
        "general": general,
        "unit": said.unit,
        "scale": said.scale,
        "instructions": list(said.instructions),
        "name": said.name or None,
        "number": said.number or None,
        "revision": said.revision or None,
    }


def _offer(o: NoteCandidate, unit: LengthUnit) -> dict[str, Any]:
    span = o.span
    return {
        "text": o.text,
        "plain": o.plain,
        "values_mm": _values(o.text, unit),
        "sure": o.sure,
        "why": o.why,
        "box": list(o.box),
        "angle": o.angle,
        "drawn_mm": o.drawn,
        "span": None if span is None else {"along": span.along, "from": span.start, "to": span.end},
    }


def _values(text: str, unit: LengthUnit) -> list[float]:
    """The sizes that a note states, mm or degrees."""
    from lathed_solid.ledger import callouts_from_note

    try:
        callouts = callouts_from_note(text, 1, unit)
    except LathedError:
        return []
    return [math.degrees(c.nominal) if c.kind == "angle" else c.nominal for c in callouts]
