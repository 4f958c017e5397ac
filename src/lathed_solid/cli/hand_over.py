"""Commands that hand a part over: its drawing, the machinist's sheet, everything in one package."""

from __future__ import annotations

import json
from pathlib import Path

import click

from lathed_solid.cli import printing
from lathed_solid.cli.root import LANGUAGE, NOT_PROVEN, OK, cli, printed_in, read_part, worker


@cli.command("drawing")
@click.argument("file", type=click.Path(path_type=Path))
@click.argument("out", type=click.Path(path_type=Path))
@click.option("--size", default="", help="A4 to A0, or A to E; as the part needs it when not given.")
@click.option("--angle", type=click.Choice(["first", "third"]), help="Of projection; first for mm, third for inches.")
@click.option("--scale", type=float, help="Paper by part: 2 for 2:1, 0.5 for 1:2.")
@click.option("--section", type=click.Choice(["none", "full", "half"]),
              help="Of a turned part through its axis; as it needs when not given.")  # fmt: skip
@click.option("--balloons", is_flag=True, help="Each note with its number in a ring.")
@click.option("--json", "as_json", is_flag=True, help="Print views, dimensions and what is left out as JSON.")
@LANGUAGE
def drawing_command(
    file: Path, out: Path, size: str, angle: str | None, scale: float | None, section: str | None, balloons: bool,
    as_json: bool, language: str,
) -> int:  # fmt: skip
    """Draw the part back from its solid, as PDF, DXF or SVG by the ending of OUT; exit 1 when it is not proven."""
    from lathed_solid.engine.protocol import Figured
    from lathed_solid.reports.drawing.draw import drawing, wanted_style
    from lathed_solid.reports.drawing.files import drawing_json, write_drawing

    document = read_part(file)
    proven = []

    with worker() as kernel:

        def ask(request: object) -> Figured:
            found = kernel.answer(request, Figured)  # type: ignore[arg-type]
            proven.append(found.report.ok)
            return found

        style = wanted_style(document.drawing, size, angle, scale, balloons, section)
        with printed_in(language) as edition:
            sheets = drawing(document, ask, style, edition.spoken)
    paths = write_drawing(out, sheets)
    if as_json:
        click.echo(json.dumps(drawing_json(sheets), ensure_ascii=False, indent=1))
    else:
        for sheet, path in zip(sheets, paths if len(paths) == len(sheets) else paths * len(sheets), strict=True):
            notes = len(sheet.dimensions) + len(sheet.leaders)
            click.echo(f"{path} written: {sheet.size} at {sheet.scale:g}, {len(sheet.views)} views, {notes} notes")
        for left in sheets[0].left_out:
            click.echo(f"  not at a feature: {left.text} ({left.why})")
    return OK if proven[-1] else NOT_PROVEN


@cli.command("machinist")
@click.argument("file", type=click.Path(path_type=Path))
@click.argument("out", required=False, type=click.Path(path_type=Path))
@click.option("--json", "as_json", is_flag=True, help="Print the sheet as JSON (mm, g, degrees).")
@LANGUAGE
def machinist_command(file: Path, out: Path | None, as_json: bool, language: str) -> int:
    """What it takes to cut the part: zero, stock, settings, holes, stations, tools, and what cannot be made as drawn;
    as PDF, CSV or JSON by the ending of OUT. Exit 1 when something cannot be made.
    """
    from lathed_solid.engine.protocol import ShopFound
    from lathed_solid.reports.machinist.files import machinist_json, write_machinist
    from lathed_solid.reports.machinist.sheet import machinist_sheet

    document = read_part(file)
    with worker() as kernel:
        sheet = machinist_sheet(document, lambda request: kernel.answer(request, ShopFound))
    if out is not None:
        with printed_in(language) as edition:
            write_machinist(out, sheet, edition.spoken)
    if as_json:
        click.echo(json.dumps(machinist_json(sheet), ensure_ascii=False, indent=1))
    else:
        printing.print_machinist(sheet)
    return NOT_PROVEN if any(not t.hard for t in sheet.cannot) else OK


@cli.command("handover")
@click.argument("file", type=click.Path(path_type=Path))
@click.argument("out", type=click.Path(path_type=Path))
@LANGUAGE
def handover_command(file: Path, out: Path, language: str) -> int:
    """Everything in one zip: the part, STEP, STL, 3MF, GLB, drawing, inspection and machinist's sheets, and a manifest
    with their hashes. Exit 1 when the part is not proven; that is written on every sheet.
    """
    from lathed_solid.reports.package import write_package

    document = read_part(file)
    with worker() as kernel, printed_in(language) as edition:
        status = write_package(out, document, kernel, edition.spoken)
    click.echo(f"{out} written")
    return NOT_PROVEN if status else OK
