"""Commands about the proof of a part: verdicts, the inspection sheet, suspects, sensitivities, chains, comparing."""

from __future__ import annotations

import dataclasses
import json
from contextlib import ExitStack
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from lathed_solid.cli import printing
from lathed_solid.cli.root import (
    ERROR,
    LANGUAGE,
    NOT_PROVEN,
    OK,
    built,
    built_by,
    cli,
    printed_in,
    read_part,
    time_limit,
    worker,
)
from lathed_solid.errors import LathedError

if TYPE_CHECKING:
    from lathed_solid.engine.client import KernelClient


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
    document, reply = built(files[0])
    if csv_out is not None:
        from lathed_solid.reports.verdict_csv import write_verdict_csv

        write_verdict_csv(csv_out, reply.report, document.unit)
    if as_json:
        click.echo(json.dumps(reply.report.as_json(), ensure_ascii=False, indent=1))
    else:
        printing.print_verdicts(document, reply)
    return OK if reply.report.ok else NOT_PROVEN


def _prove_many(files: tuple[Path, ...], as_json: bool, jobs: int) -> int:
    """A summary of many files; a file that cannot be read or built is a row with its error, and exit 2."""
    from concurrent.futures import ThreadPoolExecutor
    from queue import SimpleQueue

    idle: SimpleQueue[KernelClient] = SimpleQueue()

    def one(file: Path) -> dict[str, Any]:
        kernel = idle.get()
        try:
            document, reply = built_by(kernel, file)
        except LathedError as exc:
            return {"file": str(file), "error": exc.message}
        finally:
            idle.put(kernel)
        return {"file": str(file), "name": document.name, **reply.report.as_json()}

    with ExitStack() as workers, ThreadPoolExecutor(jobs) as pool:
        for _ in range(min(jobs, len(files))):
            idle.put(workers.enter_context(worker()))
        rows = list(pool.map(one, files))
    if as_json:
        click.echo(json.dumps(rows, ensure_ascii=False, indent=1))
    else:
        printing.print_summary(rows)
    if any("error" in r for r in rows):
        return ERROR
    return OK if all(r["ok"] for r in rows) else NOT_PROVEN


@cli.command("inspect")
@click.argument("file", type=click.Path(path_type=Path))
@click.argument("out", type=click.Path(path_type=Path))
@click.option("--blank", is_flag=True, help="Without the readings of the log, to be filled in.")
@LANGUAGE
def inspect_command(file: Path, out: Path, blank: bool, language: str) -> int:
    """Write the inspection sheet as PDF, CSV or JSON, by the ending of OUT."""
    from lathed_solid.engine.protocol import DrawViews, Viewed
    from lathed_solid.reports.inspection import write_inspection

    document = read_part(file)
    with worker() as kernel:
        message = kernel.answer(DrawViews(document=document), Viewed)
    with printed_in(language) as edition:
        write_inspection(out, document, message.report, message.views, blank=blank, spoken=edition.spoken)
    click.echo(f"{out} written")
    return OK


@cli.command("witness")
@click.argument("file", type=click.Path(path_type=Path))
@click.argument("sheet", type=click.Path(path_type=Path))
@click.option("--page", type=click.IntRange(1, 9999), default=1, help="Of a PDF with several pages.")
@click.option("--json", "as_json", is_flag=True, help="Print it as JSON; places in shares of the page.")
def witness_command(file: Path, sheet: Path, page: int, as_json: bool) -> int:
    """Lay the drawing over the part's own views, and say what neither explains; exit 1 when they differ."""
    from lathed_solid.engine.protocol import DrawSides, Sides
    from lathed_solid.sheets.client import read_linework
    from lathed_solid.sheets.pictorial import views_of
    from lathed_solid.sheets.witness import sides_of, witness

    document = read_part(file)
    lines = read_linework(sheet, page)
    with worker() as kernel:
        message = kernel.answer(DrawSides(document=document, ways=views_of(lines)), Sides)
    found = witness(lines, sides_of(message.sides))
    if as_json:
        click.echo(json.dumps(found.as_json(), ensure_ascii=False, indent=1))
    else:
        printing.print_witness(found)
    return OK if found.agrees else NOT_PROVEN


@cli.command("suspects")
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--jobs", type=click.IntRange(1, 64), help="Workers at once; one for each core when not given.")
@click.option("--pairs", is_flag=True, help="Try two slips together, too.")
@click.option("--json", "as_json", is_flag=True, help="Print them as JSON (mm3).")
def suspects_command(file: Path, jobs: int | None, pairs: bool, as_json: bool) -> int:
    """Which single slip explains that mass or volume is not as stated; exit 1 when it is not."""
    from lathed_solid.engine.worker_pool import WorkerPool
    from lathed_solid.proof.expected import expected
    from lathed_solid.proof.suspects import hunt, suspect_json

    document, reply = built(file)
    wanted = expected(document)
    if wanted is None:
        raise LathedError("there is no mass or volume to compare with", hint="state the mass or volume of the drawing")
    if not reply.summary["ok"]:
        raise LathedError(
            "the part is not complete, so that its volume says nothing", hint="mend the failed step first"
        )
    volume = float(reply.summary["volume_mm3"])
    with WorkerPool(jobs, time_limit()) as crew:
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
    from lathed_solid.engine.worker_pool import WorkerPool
    from lathed_solid.proof.sensitivity import sensitivities

    document = read_part(file)
    with WorkerPool(jobs, time_limit()) as crew:
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
    from lathed_solid.proof.chain import chains, stack_of
    from lathed_solid.proof.chain_words import findings

    document = read_part(file)
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


@cli.command("compare")
@click.argument("old", type=click.Path(path_type=Path))
@click.argument("new", type=click.Path(path_type=Path))
@click.option("--json", "as_json", is_flag=True, help="Print the differences as JSON.")
def compare_command(old: Path, new: Path, as_json: bool) -> int:
    """What differs between two parts: callouts, parameters, steps, mass and faces; exit 1 when anything does."""
    from lathed_solid.engine.protocol import Compare, Compared
    from lathed_solid.part.compare import compare

    before, after = read_part(old), read_part(new)
    found = compare(before, after)
    with worker() as kernel:
        message = kernel.answer(Compare(old=before, document=after), Compared)
    faces = dataclasses.asdict(message.faces)
    differs = bool(found or any(faces.values()))
    if as_json:
        rows = [dataclasses.asdict(d) for d in found]
        data = {"ok": not differs, "differences": rows, "faces": faces, "mass_g": list(message.masses)}
        click.echo(json.dumps(data, ensure_ascii=False, indent=1))
        return NOT_PROVEN if differs else OK
    for d in found:
        click.echo(f"{d.kind:8} {d.what}: {d.before or '-'} -> {d.after or '-'}")
    for kind, names in faces.items():
        if names:
            click.echo(f"faces {kind}: {', '.join(names[:8])}{' ...' if len(names) > 8 else ''}")
    masses = " -> ".join("not known" if m is None else f"{m:.2f} g" for m in message.masses)
    click.echo(f"mass: {masses}" if differs else "nothing differs")
    return NOT_PROVEN if differs else OK
