"""Commands about fits: how they stand, what they are judged by, their parts list, travels, files for others."""

from __future__ import annotations

import json
import math
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from lathed_solid.cli.root import LANGUAGE, NOT_PROVEN, OK, cli, printed_in, worker
from lathed_solid.errors import LathedError

if TYPE_CHECKING:
    from lathed_solid.engine.client import KernelClient
    from lathed_solid.engine.fit_protocol import BuiltPartNews
    from lathed_solid.fit.document import Fit
    from lathed_solid.fit.freedoms import Freedom
    from lathed_solid.fit.solved import Solved

AS_JSON = click.option("--json", "as_json", is_flag=True, help="Print the figures as JSON.")
FILE = click.argument("file", type=click.Path(path_type=Path))


@cli.group("fit")
def fit_group() -> None:
    """Parts put together: how they stand, what is free, what overlaps, which fits have play."""


class _Stood:
    """A fit of a file, its parts built in a worker, solved."""

    def __init__(self, file: Path, kernel: KernelClient) -> None:
        from lathed_solid.engine.fit_protocol import BuildParts, PartsBuilt
        from lathed_solid.files.fit_document import changed_parts, read_fit
        from lathed_solid.fit.solved import solved

        self.fit: Fit = read_fit(file)
        for changed in changed_parts(self.fit, file):
            click.echo(f"{file.name}: {changed.words}; what is kept in the fit counts", err=True)
        built = kernel.answer(BuildParts(parts=self.fit.parts), PartsBuilt)
        self.parts: dict[str, BuiltPartNews] = {p.name: p for p in built.parts}
        self.solved: Solved = solved(self.fit, {n: p.features for n, p in self.parts.items()})
        self.masses = {n: p.mass for n, p in self.parts.items() if p.mass is not None}
        self.failed = {n: p.message for n, p in self.parts.items() if p.message}


@fit_group.command("build")
@FILE
@AS_JSON
def build_command(file: Path, as_json: bool) -> int:
    """Where every member stands, what is free, what fights; the mass of all."""
    from lathed_solid.fit.judged import mass
    from lathed_solid.fit.words import mass_json, state_json

    with worker() as kernel:
        stood = _Stood(file, kernel)
    s, total = stood.solved, mass(stood.solved.whole, stood.masses)
    if as_json:
        told = state_json(s) | {"mass": mass_json(total), "failed": stood.failed}
        click.echo(json.dumps(told, ensure_ascii=False, indent=1))
    else:
        click.echo(f"{s.fit.name}: {s.words}")
        for m in s.whole.members:
            at = ", ".join(f"{x:.3f}" for x in m.placement.at)
            click.echo(f"  {m.name:28} {at}{'  held' if m.held else ''}")
        for f in s.freedoms:
            click.echo(f"  free: {f.member} {f.words}" + (f", with {', '.join(f.others)}" if f.others else ""))
        for n, why in s.lost.items():
            click.echo(f"  relation {n} is left out: {why}")
        for name, message in stood.failed.items():
            click.echo(f"  {name} is not whole: {message}")
        click.echo(f"  mass {total.grams:.2f} g, centre {', '.join(f'{c:.3f}' for c in total.centre)} mm")
    good = s.state != "fighting" and not (s.lost or s.trouble or stood.failed)
    return OK if good else NOT_PROVEN


@fit_group.command("prove")
@FILE
@AS_JSON
@click.option("--stack", nargs=4, multiple=True, metavar="MEMBER FACE MEMBER FACE",
              help="A tolerance stack from one flat face to another.")  # fmt: skip
@click.option("--clearance", nargs=2, multiple=True, metavar="MEMBER MEMBER", help="The least distance of two members.")
def prove_command(
    file: Path, as_json: bool, stack: tuple[tuple[str, str, str, str], ...], clearance: tuple[tuple[str, str], ...]
) -> int:
    """Judge a fit: overlaps, fits by both ledgers, stacks and clearances; exit 1 when something is out."""
    from lathed_solid.engine.fit_protocol import ClearanceFound, FitJudged, JudgeFit, MeasureClearance
    from lathed_solid.fit import words
    from lathed_solid.fit.document import Ref
    from lathed_solid.fit.ledger_fits import ledger_fits, pressed
    from lathed_solid.fit.stacks import stack as stacked

    with worker() as kernel:
        stood = _Stood(file, kernel)
        s = stood.solved
        judged = kernel.answer(JudgeFit(fit=s.whole), FitJudged)
        clear = [kernel.answer(MeasureClearance(fit=s.whole, a=a, b=b), ClearanceFound).clearance for a, b in clearance]
    reports = {n: p.report for n, p in stood.parts.items()}
    fits = ledger_fits(s, reports)
    stacks = [stacked(s, reports, Ref(member=a, feature=f), Ref(member=b, feature=g)) for a, f, b, g in stack]
    explained = pressed(fits)
    bare = [o for o in judged.overlaps if frozenset((o.a, o.b)) not in explained]
    ok = not bare and s.state != "fighting" and not s.lost and not stood.failed and all(
        f.verdict in ("in", "no limit") for f in fits)  # fmt: skip
    if as_json:
        told: dict[str, Any] = {
            "name": s.fit.name, "ok": ok, "state": s.state, "pairs": judged.pairs,
            "overlaps": [words.overlap_json(o) | {"press_fit": o not in bare} for o in judged.overlaps],
            "fits": [words.fit_row_json(f) for f in fits],
            "clearances": [words.clearance_json(c) for c in clear],
            "stacks": [words.stack_json(k) for k in stacks],
        }  # fmt: skip
        click.echo(json.dumps(told, ensure_ascii=False, indent=1))
        return OK if ok else NOT_PROVEN
    click.echo(f"{s.fit.name}: {s.words}; {judged.pairs} pairs looked at")
    for o in judged.overlaps:
        sign = "■ overlap" if o in bare else "○ press fit"
        click.echo(f"  {sign}: {o.a} and {o.b}, {'about ' * o.about}{o.volume_mm3:.3f} mm3")
    for f in fits:
        click.echo(f"  {f.verdict:8} {words.fit_words(f, s.fit.unit)}{': ' * bool(f.reason)}{f.reason}")
    for c in clear:
        click.echo(f"  clearance of {c.a} and {c.b}: {c.mm:.6f} mm")
    for k in stacks:
        click.echo(f"  {k.start.words} to {k.end.words}: {k.nominal:.4f}, worst {k.low:.4f} to {k.high:.4f}, "
                   f"root {k.middle:.4f} ± {k.root:.4f} mm")  # fmt: skip
    return OK if ok else NOT_PROVEN


@fit_group.command("parts")
@FILE
@click.argument("out", type=click.Path(path_type=Path), required=False)
@AS_JSON
@LANGUAGE
def parts_command(file: Path, out: Path | None, as_json: bool, language: str) -> int:
    """The parts list; to OUT as PDF, CSV or JSON by its ending."""
    from lathed_solid.fit.judged import mass, parts_list
    from lathed_solid.fit.words import mass_json, rows_json

    with worker() as kernel:
        stood = _Stood(file, kernel)
    whole = stood.solved.whole
    rows = parts_list(whole, stood.masses)
    if out is not None:
        from lathed_solid.reports.parts_list import write_parts_list

        with printed_in(language) as edition:
            write_parts_list(out, whole, rows, stood.masses, spoken=edition.spoken)
        click.echo(f"{out} written")
    elif as_json:
        told = {"name": whole.name, "parts": rows_json(rows), "whole": mass_json(mass(whole, stood.masses))}
        click.echo(json.dumps(told, ensure_ascii=False, indent=1))
    else:
        for r in rows:
            each = "-" if r.grams is None else f"{r.grams:.1f} g"
            click.echo(f"{r.number:4} {r.count:4} x  {r.part:32} {r.material:16} {each}")
    return OK


@fit_group.command("sweep")
@FILE
@click.argument("member")
@click.option("--from", "start", default=0.0, show_default=True, help="Degrees, or mm of a slide.")
@click.option("--to", "stop", default=360.0, show_default=True, help="Degrees, or mm of a slide.")
@click.option("--steps", default=24, show_default=True, type=click.IntRange(1, 720))
@click.option("--pair", nargs=2, metavar="MEMBER MEMBER", help="Whose clearance is wanted at each moment.")
@AS_JSON
def sweep_command(
    file: Path, member: str, start: float, stop: float, steps: int, pair: tuple[str, str] | None, as_json: bool
) -> int:
    """Move the first free movement of MEMBER through a travel and judge every moment."""
    from lathed_solid.engine.fit_protocol import JudgeTravel, TravelJudged
    from lathed_solid.fit import words
    from lathed_solid.fit.freedoms import drive_of
    from lathed_solid.fit.motion import sweep
    from lathed_solid.fit.solved import standing, with_followers

    with worker() as kernel:
        stood = _Stood(file, kernel)
        s = stood.solved
        freedom = _freedom(s, member)
        drive = drive_of(s.assembled, s.solution, freedom)
        k = 1.0 if drive.kind == "slide" else math.pi / 180
        travel = sweep(standing(s), s.features, drive, start * k, stop * k, steps)
        frames = tuple(with_followers(s, f.placements) for f in travel.frames)
        moving = (freedom.member, *freedom.others)
        request = JudgeTravel(fit=s.whole, frames=frames, moving=moving, pair=pair or None)
        judged = kernel.answer(request, TravelJudged)
    told = words.travel_json(travel)
    for i, frame in enumerate(told["frames"]):
        frame["overlaps"] = [words.overlap_json(o) for o in judged.overlaps[i]]
        if judged.clearances:
            frame["clearance_mm"] = judged.clearances[i]
    if as_json:
        click.echo(json.dumps(told, ensure_ascii=False, indent=1))
    else:
        click.echo(f"{freedom.member} {freedom.words}, {told['unit']}")
        for frame in told["frames"]:
            pairs = ", ".join(f"{o['a']} and {o['b']}" for o in frame["overlaps"])
            clear = f"  clearance {frame['clearance_mm']:.4f} mm" if judged.clearances else ""
            click.echo(f"  {frame['value']:10.3f}{clear}  {pairs}")
        if travel.stopped:
            click.echo(f"  it stops {travel.stopped}")
    return OK if not travel.stopped else NOT_PROVEN


def _freedom(s: Solved, member: str) -> Freedom:
    if s.state == "fighting":
        raise LathedError("the relations fight, so nothing can be moved", rule=s.words)
    if member not in s.whole.by_name:
        raise LathedError(f"there is no member {member}", hint=", ".join(s.whole.by_name))
    found = next((f for f in s.freedoms if f.member == member), None)
    found = found or next((f for f in s.freedoms if member in f.others), None)
    if found is None:
        raise LathedError(f"{member} does not move", hint=", ".join(dict.fromkeys(f.member for f in s.freedoms)))
    return found


@fit_group.command("export")
@FILE
@click.argument("out", type=click.Path(path_type=Path))
def export_command(file: Path, out: Path) -> int:
    """Write a STEP assembly (AP242) or GLB with names, colours and places, by the ending of OUT."""
    from lathed_solid.engine.fit_protocol import ExportFit
    from lathed_solid.engine.protocol import Exported

    with worker() as kernel:
        stood = _Stood(file, kernel)
        kernel.answer(ExportFit(fit=stood.solved.whole, path=str(out.absolute())), Exported)
    click.echo(f"{out} written")
    return OK
