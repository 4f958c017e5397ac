"""Commands about a part as a whole, notes and standards, devices and pictures."""

from __future__ import annotations

import json
import math
from pathlib import Path
from typing import TYPE_CHECKING, Literal

import click

from lathed_solid.cli import printing
from lathed_solid.cli.root import NOT_PROVEN, OK, built, cli, read_either, read_part, shown_or_saved, window, worker
from lathed_solid.cli.root import desk as desk_module
from lathed_solid.errors import LathedError

if TYPE_CHECKING:
    from lathed_solid.kernel.drawing.figures import SideName


@cli.command("demo")
@click.argument("name", default="winch-spindle")
@click.option("--save", type=click.Path(path_type=Path), help="Write the demo part to a file instead.")
def demo_command(name: str, save: Path | None) -> int:
    """Open a demo part in the window."""
    from lathed_solid.demo import DEMOS, FITS

    if name in FITS:
        fit = FITS[name]()
        if save is None:
            return window(None, fit)
        from lathed_solid.files.fit_document import write_fit

        write_fit(save, fit)
        click.echo(f"{save} written")
        return OK
    if name not in DEMOS:
        raise LathedError(f"there is no demo {name!r}", hint=", ".join((*DEMOS, *FITS)))
    return shown_or_saved(DEMOS[name](), save)


@cli.command("open")
@click.argument("file", type=click.Path(path_type=Path))
def open_command(file: Path) -> int:
    """Open a part or a fit in the window."""

    return window(file, read_either(file))


@cli.command("new")
@click.argument("out", type=click.Path(path_type=Path))
@click.option("--template", type=click.Choice(["turned", "empty"]), default="turned", show_default=True)
@click.option("--unit", type=click.Choice(["mm", "in"]), default="mm", show_default=True)
@click.option("--force", is_flag=True, help="Replace an existing file.")
def new_command(out: Path, template: str, unit: str, force: bool) -> int:
    """Write a new part from a template."""
    from lathed_solid.files import FileError, write_document
    from lathed_solid.part.templates import TEMPLATES

    if out.exists() and not force:
        raise FileError("the file exists already", out, hint="another name, or --force")
    write_document(out, TEMPLATES[template](out.stem or "Untitled part", unit))  # type: ignore[arg-type]
    click.echo(f"{out} written")
    return OK


@cli.command("build")
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--json", "as_json", is_flag=True, help="Print the figures as JSON.")
def build_command(file: Path, as_json: bool) -> int:
    """Build a part; print volume, mass, centre and the result of every step."""
    document, reply = built(file)
    s = reply.summary
    if as_json:
        click.echo(json.dumps(s, ensure_ascii=False, indent=1))
    else:
        printing.print_build(document, s)
    return OK if s["ok"] else NOT_PROVEN


@cli.command("export")
@click.argument("file", type=click.Path(path_type=Path))
@click.argument("out", type=click.Path(path_type=Path))
@click.option(
    "--chord",
    type=click.FloatRange(0, 100, min_open=True),
    default=0.02,
    show_default=True,
    help="How far triangles (STL, 3MF, GLB) and chords of free curves may be off, mm.",
)
@click.option("--face", default="", help="Of DXF or SVG: the flat face whose bounds are wanted.")
@click.option("--section", default="", metavar="AXIS=MM", help="Of DXF or SVG: the cut square to an axis, z=12.5.")
@click.option("--side", type=click.Choice(["front", "top", "right", "back", "bottom", "left"]),
              help="Of DXF or SVG: the outline as a side shows it.")  # fmt: skip
def export_command(file: Path, out: Path, chord: float, face: str, section: str, side: SideName | None) -> int:
    """Write the solid as STEP (AP242), STL, 3MF or GLB; a face, a section or an outline as DXF or SVG; by the ending of
    OUT.
    """
    from lathed_solid.engine.protocol import Export, Exported, FindLoops, LoopsFound
    from lathed_solid.reports.flat_files import ENDINGS, write_loops

    document = read_part(file)
    flat = out.suffix.lower() in ENDINGS
    if flat and sum(map(bool, (face, section, side))) != 1:
        raise LathedError("a DXF or SVG is of one face, one section or one side",
                          hint="--face 20/end, --section z=12.5, or --side top")  # fmt: skip
    with worker() as kernel:
        if flat:
            asked = FindLoops(document=document, face=face, section=_section(section), side=side, chord=chord)
            write_loops(out, kernel.answer(asked, LoopsFound).loops, document.unit, document.name)
        else:
            kernel.answer(Export(document=document, path=str(out.absolute()), chord=chord), Exported)
    click.echo(f"{out} written")
    return OK


def _section(told: str) -> tuple[float, Literal["x", "y", "z"]] | None:
    if not told:
        return None
    axis, _, at = told.partition("=")
    try:
        place = float(at.replace(",", "."))
    except ValueError:
        place = math.nan
    axis = axis.strip().lower()
    if axis not in ("x", "y", "z") or not math.isfinite(place):
        raise LathedError("this is no section", received=told, hint="z=12.5: square to Z, at 12.5 mm")
    return place, axis  # type: ignore[return-value]


@cli.command("note")
@click.argument("text")
@click.option("--unit", type=click.Choice(["mm", "in"]), default="mm", show_default=True)
@click.option("--json", "as_json", is_flag=True, help="Print the meaning as JSON.")
def note_command(text: str, unit: str, as_json: bool) -> int:
    """Read a drawing note and say what it means."""
    from lathed_solid.notation import read_note

    meaning = read_note(text, unit)  # type: ignore[arg-type]
    if as_json:
        click.echo(json.dumps(meaning.as_json(), ensure_ascii=False, indent=1))
    else:
        click.echo(meaning.plain or "nothing understood")
        for assumed in meaning.assumed:
            click.echo(f"  assumed: {assumed}")
        near = dict(meaning.nearest)
        for unread in meaning.unread:
            click.echo(f"  not understood: {unread}" + (f" ({near[unread]}?)" if unread in near else ""))
        if meaning.unread_at and "\n" not in text:
            under = [" "] * len(text)
            for column, length in meaning.unread_at:
                under[column - 1 : column - 1 + length] = "^" * length
            click.echo(f"  {text}\n  {''.join(under).rstrip()}")
    return OK if meaning.as_json()["ok"] else NOT_PROVEN


@cli.command("standard")
@click.argument("text")
@click.option("--unit", type=click.Choice(["mm", "in"]), default="mm", show_default=True)
@click.option("--json", "as_json", is_flag=True, help="Print the figures as JSON (mm).")
def standard_command(text: str, unit: str, as_json: bool) -> int:
    """Look up a thread, a fit, a drill or another standard size: M18x1.5-6g, Ø25H7/g6, "drill #7"."""
    from lathed_solid.standards.lookup import look_up

    found = look_up(text)
    if as_json:
        click.echo(json.dumps(found.data, ensure_ascii=False, indent=1))
    else:
        printing.print_standard(found, unit)
    return OK


@cli.command("simulate")
@click.argument("device", type=click.Choice(["caliper", "scale"]))
@click.argument("sizes", nargs=-1, required=True, type=float)
@click.option("--repeats", default=3, show_default=True, help="Readings of each size.")
@click.option("--every", default=1.0, show_default=True, help="Seconds between readings.")
@click.option("--wait", default=5.0, show_default=True, help="Seconds before the first, to start listening.")
@click.option("--slip", default=0.0, show_default=True, help="Share of readings left in inches.")
@click.option("--seed", type=int, help="The same readings again.")
def simulate_command(
    device: str, sizes: tuple[float, ...], repeats: int, every: float, wait: float, slip: float, seed: int | None
) -> int:
    """A caliper (mm) or a scale (g) on a pseudo-terminal: sends readings of SIZES, with their errors."""
    import time

    from lathed_solid.devices import SimulatedDevice

    if not all(0 < s < 10_000_000 for s in sizes):
        raise LathedError("sizes must be above zero", received=sizes)
    with SimulatedDevice(device, slip=slip, seed=seed) as simulated:  # type: ignore[arg-type]
        click.echo(f"listen at {simulated.port}")
        time.sleep(max(wait, 0))
        for size in sizes:
            for _ in range(max(repeats, 1)):
                click.echo(simulated.press(size))
                time.sleep(max(every, 0))
    return OK


@cli.command("shot")
@click.argument("file", type=click.Path(path_type=Path))
@click.argument("out", type=click.Path(path_type=Path))
@click.option("--desk", type=click.Choice(["read", "shape", "prove"], case_sensitive=False), default="shape")
@click.option("--size", default="1280x800", show_default=True, help="Width x height in pixels.")
@click.option("--dark", is_flag=True, help="The dark palette.")
def shot_command(file: Path, out: Path, desk: str, size: str, dark: bool) -> int:
    """Render the real window with a part or a fit to a PNG picture."""

    document = read_either(file)
    try:
        width, height = (int(x) for x in size.lower().split("x"))
    except ValueError:
        raise LathedError("the size is not understood", received=size, hint="--size 1280x800") from None
    if not (640 <= width <= 8000 and 400 <= height <= 8000):
        raise LathedError("the size is out of range", received=size, rule="640x400 to 8000x8000")
    shot = desk_module("shot")
    shot.take_shot(document, out, desk.lower(), width, height, dark=dark)
    click.echo(f"{out} written")
    return OK
