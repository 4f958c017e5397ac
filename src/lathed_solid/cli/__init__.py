"""The command line: the same work without a window.

Exit code 0: fine; 1: a verdict is out or not found, or a step failed; 2: an error (one line on stderr).
"""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from lathed_solid import __version__
from lathed_solid.cli import printing
from lathed_solid.errors import LathedError

if TYPE_CHECKING:
    from lathed_solid.kernel.client import BuildReply
    from lathed_solid.part import Document

OK, NOT_PROVEN, ERROR = 0, 1, 2


@click.group(invoke_without_command=True, context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="lathed-solid")
@click.pass_context
def cli(context: click.Context) -> int:
    """From a dimensioned drawing or a caliper log to a solid model that is proven.

    Without a command, opens the window.
    """
    if context.invoked_subcommand is None:
        return _window(None)
    return OK


@cli.command("demo")
@click.argument("name", default="winch-spindle")
@click.option("--save", type=click.Path(path_type=Path), help="Write the demo part to a file instead.")
def demo_command(name: str, save: Path | None) -> int:
    """Open a demo part in the window."""
    from lathed_solid.demo import DEMOS

    if name not in DEMOS:
        raise LathedError(f"there is no demo {name!r}", hint=", ".join(DEMOS))
    document = DEMOS[name]()
    if save is None:
        return _window(None, document)
    from lathed_solid.files import write_document

    write_document(save, document)
    click.echo(f"{save} written")
    return OK


@cli.command("open")
@click.argument("file", type=click.Path(path_type=Path))
def open_command(file: Path) -> int:
    """Open a part in the window."""
    from lathed_solid.files import read_document

    return _window(file, read_document(file))


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
    document, reply = _built(file)
    s = reply.summary
    if as_json:
        click.echo(json.dumps(s, ensure_ascii=False, indent=1))
    else:
        printing.print_build(document, s)
    return OK if s["ok"] else NOT_PROVEN


@cli.command("prove")
@click.argument("files", nargs=-1, required=True, type=click.Path(path_type=Path))
@click.option("--json", "as_json", is_flag=True, help="Print the verdicts as JSON (of several files: a list).")
@click.option("--csv", "csv_out", type=click.Path(path_type=Path), help="Write the verdict table to this file.")
@click.option("--jobs", type=click.IntRange(1, 64), default=1, show_default=True, help="How many files at once.")
def prove_command(files: tuple[Path, ...], as_json: bool, csv_out: Path | None, jobs: int) -> int:
    """Measure every callout on the built solid and judge it; judge the mass. Of several files: one summary."""
    if len(files) > 1:
        if csv_out is not None:
            raise LathedError("a verdict table is of one file", hint="--json for several")
        return _prove_many(files, as_json, jobs)
    document, reply = _built(files[0])
    if csv_out is not None:
        from lathed_solid.files import write_verdict_csv

        write_verdict_csv(csv_out, reply.report, document.unit)
    if as_json:
        click.echo(json.dumps(reply.report.as_json(), ensure_ascii=False, indent=1))
    else:
        printing.print_verdicts(document, reply)
    return OK if reply.report.ok else NOT_PROVEN


def _prove_many(files: tuple[Path, ...], as_json: bool, jobs: int) -> int:
    """A summary of many files; a file that cannot be read or built is a row with its error, and exit 2."""
    from concurrent.futures import ThreadPoolExecutor

    def one(file: Path) -> dict[str, Any]:
        try:
            document, reply = _built(file)
        except LathedError as exc:
            return {"file": str(file), "error": exc.message}
        return {"file": str(file), "name": document.name, **reply.report.as_json()}

    with ThreadPoolExecutor(jobs) as pool:
        rows = list(pool.map(one, files))
    if as_json:
        click.echo(json.dumps(rows, ensure_ascii=False, indent=1))
    else:
        printing.print_summary(rows)
    if any("error" in r for r in rows):
        return ERROR
    return OK if all(r["ok"] for r in rows) else NOT_PROVEN


@cli.command("compare")
@click.argument("old", type=click.Path(path_type=Path))
@click.argument("new", type=click.Path(path_type=Path))
@click.option("--json", "as_json", is_flag=True, help="Print the differences as JSON.")
def compare_command(old: Path, new: Path, as_json: bool) -> int:
    """What differs between two parts: callouts, parameters, steps, mass and faces; exit 1 when anything does."""
    import dataclasses

    from lathed_solid.files import read_document
    from lathed_solid.kernel.client import Compared, Workshop
    from lathed_solid.part.compare import compare

    before, after = read_document(old), read_document(new)
    found = compare(before, after)
    with Workshop(spare=False) as workshop:
        message = workshop.wait(workshop.compare(before, after))
    if not isinstance(message, Compared):
        raise LathedError(getattr(message, "message", "the solids could not be compared"))
    differs = bool(found or any(message.faces.values()))
    if as_json:
        rows = [dataclasses.asdict(d) for d in found]
        data = {"ok": not differs, "differences": rows, "faces": message.faces, "mass_g": list(message.masses)}
        click.echo(json.dumps(data, ensure_ascii=False, indent=1))
        return NOT_PROVEN if differs else OK
    for d in found:
        click.echo(f"{d.kind:8} {d.what}: {d.before or '-'} -> {d.after or '-'}")
    for kind, names in message.faces.items():
        if names:
            click.echo(f"faces {kind}: {', '.join(names[:8])}{' ...' if len(names) > 8 else ''}")
    masses = " -> ".join("not known" if m is None else f"{m:.2f} g" for m in message.masses)
    click.echo(f"mass: {masses}" if differs else "nothing differs")
    return NOT_PROVEN if differs else OK


@cli.command("inspect")
@click.argument("file", type=click.Path(path_type=Path))
@click.argument("out", type=click.Path(path_type=Path))
@click.option("--blank", is_flag=True, help="Without the readings of the log, to be filled in.")
def inspect_command(file: Path, out: Path, blank: bool) -> int:
    """Write the inspection sheet as PDF, CSV or JSON, by the ending of OUT."""
    from lathed_solid.files import read_document
    from lathed_solid.files.inspection import write_inspection
    from lathed_solid.kernel.client import Viewed, Workshop

    document = read_document(file)
    with Workshop(spare=False) as workshop:
        message = workshop.wait(workshop.views(document))
    if not isinstance(message, Viewed):
        raise LathedError(getattr(message, "message", "the part could not be proven"))
    write_inspection(out, document, message.report, message.views, blank=blank)
    click.echo(f"{out} written")
    return OK


@cli.command("suspects")
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--jobs", type=click.IntRange(1, 64), help="Workers at once; one for each core when not given.")
@click.option("--pairs", is_flag=True, help="Try two slips together, too.")
@click.option("--json", "as_json", is_flag=True, help="Print them as JSON (mm3).")
def suspects_command(file: Path, jobs: int | None, pairs: bool, as_json: bool) -> int:
    """Which single slip explains that mass or volume is not as stated; exit 1 when it is not."""
    from lathed_solid.kernel.crew import Crew
    from lathed_solid.proof.expected import expected
    from lathed_solid.proof.suspects import hunt, suspect_json

    document, reply = _built(file)
    wanted = expected(document)
    if wanted is None:
        raise LathedError("there is no mass or volume to compare with", hint="state the mass or volume of the drawing")
    if not reply.summary["ok"]:
        raise LathedError(
            "the part is not complete, so that its volume says nothing", hint="mend the failed step first"
        )
    volume = float(reply.summary["volume_mm3"])
    with Crew(jobs) as crew:
        found = crew.answer(hunt(document, volume, wanted, pairs=pairs))
    if as_json:
        data = {"ok": wanted.fits(volume), "volume_mm3": volume, "expected_mm3": wanted.volume,
                "band_mm3": wanted.band, "suspects": [suspect_json(s) for s in found]}  # fmt: skip
        click.echo(json.dumps(data, ensure_ascii=False, indent=1))
    else:
        printing.print_suspects(document, volume, wanted, found)
    return OK if wanted.fits(volume) else NOT_PROVEN


@cli.command("sensitivities")
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--jobs", type=click.IntRange(1, 64), help="Workers at once; one for each core when not given.")
@click.option("--json", "as_json", is_flag=True, help="Print them as JSON.")
def sensitivities_command(file: Path, jobs: int | None, as_json: bool) -> int:
    """How much volume and mass depend on each driving size, the one that matters most first."""
    import dataclasses

    from lathed_solid.files import read_document
    from lathed_solid.kernel.crew import Crew
    from lathed_solid.proof.sensitivity import sensitivities

    document = read_document(file)
    with Crew(jobs) as crew:
        found = crew.answer(sensitivities(document))
    if as_json:
        click.echo(json.dumps([dataclasses.asdict(s) for s in found], ensure_ascii=False, indent=1))
    else:
        printing.print_sensitivities(document, found)
    return OK


@cli.command("audit")
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--stack", nargs=3, metavar="ALONG FROM TO", help="The tolerance stack from one place to another.")
@click.option("--json", "as_json", is_flag=True, help="Print it as JSON (mm, rad).")
def audit_command(file: Path, stack: tuple[str, str, str] | None, as_json: bool) -> int:
    """What the dimensions contradict, leave open, or say twice; exit 1 when they contradict or leave something open."""
    import dataclasses

    from lathed_solid.files import read_document
    from lathed_solid.proof.chain import chains, stack_of
    from lathed_solid.proof.chain_words import findings

    document = read_document(file)
    found = findings(document)
    ok = not any(f.kind in ("contradiction", "open") for f in found)
    stacked = stack_of(document, *stack) if stack else None
    if as_json:
        data: dict[str, Any] = {
            "ok": ok,
            "chains": {t.chain.along: [list(g) for g in t.chain.groups] for t in chains(document)},
            "findings": [dataclasses.asdict(f) for f in found],
        }
        if stack:
            data["stack"] = None if stacked is None else dataclasses.asdict(stacked)
        click.echo(json.dumps(data, ensure_ascii=False, indent=1))
    elif stack:
        printing.print_stack(document, stacked)
        return OK if stacked is not None else NOT_PROVEN
    else:
        printing.print_audit(document, found)
    return OK if ok else NOT_PROVEN


@cli.command("export")
@click.argument("file", type=click.Path(path_type=Path))
@click.argument("out", type=click.Path(path_type=Path))
def export_command(file: Path, out: Path) -> int:
    """Write the solid as STEP (AP242) or binary STL, by the ending of OUT."""
    from lathed_solid.files import read_document
    from lathed_solid.kernel.client import Failed, Workshop

    document = read_document(file)
    with Workshop(spare=False) as workshop:
        message = workshop.wait(workshop.export(document, out))
    if isinstance(message, Failed):
        raise LathedError(message.message)
    click.echo(f"{out} written")
    return OK


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
        for unread in meaning.unread:
            click.echo(f"  not understood: {unread}")
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
    """Render the real window with a part to a PNG picture."""
    from lathed_solid.files import read_document

    document = read_document(file)
    try:
        width, height = (int(x) for x in size.lower().split("x"))
    except ValueError:
        raise LathedError("the size is not understood", received=size, hint="--size 1280x800") from None
    if not (640 <= width <= 8000 and 400 <= height <= 8000):
        raise LathedError("the size is out of range", received=size, rule="640x400 to 8000x8000")
    shot = _desk("shot")
    shot.take_shot(document, out, desk.lower(), width, height, dark=dark)
    click.echo(f"{out} written")
    return OK


def _built(file: Path) -> tuple[Document, BuildReply]:
    """Read and build in a worker, so that a crash of the kernel is an error and not the end."""
    from lathed_solid.files import read_document
    from lathed_solid.kernel.client import BuildReply, Failed, Workshop

    document = read_document(file)
    with Workshop(spare=False) as workshop:
        message = workshop.wait(workshop.build(document, shape=False))
    if isinstance(message, Failed):
        raise LathedError(message.message)
    assert isinstance(message, BuildReply)
    return document, message


def _desk(module: str) -> Any:
    """A module of the desk; a plain error when Qt is not there."""
    import importlib

    try:
        return importlib.import_module(f"lathed_solid.desk.{module}")
    except ImportError as exc:
        raise LathedError("the window's libraries are missing", rule=str(exc), hint="run ./run --setup") from None


def _window(path: Path | None, document: Document | None = None) -> int:
    return int(_desk("app").run(path, document))


def main() -> None:
    """Console entry point."""
    try:
        result = cli.main(standalone_mode=False)
    except LathedError as exc:
        click.echo(f"lathed-solid: {exc.message}", err=True)
        sys.exit(ERROR)
    except click.ClickException as exc:
        click.echo(f"lathed-solid: {exc.format_message()}", err=True)
        sys.exit(ERROR)
    except (click.Abort, KeyboardInterrupt):
        click.echo("lathed-solid: stopped", err=True)
        sys.exit(ERROR)
    except BrokenPipeError:
        sys.exit(ERROR)
    except Exception as exc:  # noqa: BLE001 - one line instead of a traceback; the log has the rest
        _log_failure(exc)
        click.echo(f"lathed-solid: unexpected failure: {type(exc).__name__}: {exc}".split("\n")[0], err=True)
        sys.exit(ERROR)
    sys.exit(result if isinstance(result, int) else OK)


def _log_failure(exc: Exception) -> None:
    import logging

    from lathed_solid.files.state import start_logging

    start_logging()
    logging.getLogger(__name__).error("unexpected failure", exc_info=exc)
