"""What the command line prints for people: tables and sums."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from lathed_solid.engine.protocol import BuildReply
    from lathed_solid.engine.results import Summary
    from lathed_solid.ledger.chains import Stack
    from lathed_solid.part import Document
    from lathed_solid.proof.chain_words import Finding
    from lathed_solid.proof.expected import Expected
    from lathed_solid.proof.sensitivity import Sensitivity
    from lathed_solid.proof.suspects import Suspect
    from lathed_solid.reports.machinist.model import MachinistSheet
    from lathed_solid.sheets.client import SheetPage
    from lathed_solid.sheets.witness import Piece, Witness
    from lathed_solid.standards.lookup import Found


def print_build(document: Document, s: Summary) -> None:
    """A build's steps, volume and area in the sheet's unit, mass (g) and centre (mm)."""
    from rich.console import Console
    from rich.table import Table

    from lathed_solid.quantity.formatting import area, volume

    console = Console()
    table = Table("step", "kind", "state", "ms", "message", title=document.name)
    for step in s["steps"]:
        state = "suspended" if step["suspended"] else "built" if step["ok"] else "failed"
        table.add_row(str(step["number"]), step["kind"], state, f"{step['ms']:.0f}", step["message"])
    console.print(table)
    if s["solids"]:
        figures = f"volume {volume(s['volume_mm3'], document.unit, 3)}   area {area(s['area_mm2'], document.unit, 3)}"
        console.print(figures, highlight=False)
        mass = "-" if s["mass_g"] is None else f"{s['mass_g']:.2f} g"
        centre = ", ".join(f"{x:.3f}" for x in s["centre_mm"])
        console.print(f"mass {mass} ({document.material})   centre {centre} mm", highlight=False)


def print_verdicts(document: Document, reply: BuildReply) -> None:
    """The verdict of every callout, the duties of those that are not in, failed steps, and the mass."""
    from rich.console import Console
    from rich.table import Table

    from lathed_solid.proof import SIGNS
    from lathed_solid.quantity.formatting import angle, fixed

    console = Console()
    table = Table("balloon", "note", "meaning", "nominal", "measured", "deviation", "verdict", title=document.name)
    for row in reply.report.rows:

        def show(x: float | None, is_angle: bool = row.kind == "angle", taper: bool = row.kind == "taper") -> str:
            if x is None:
                return "-"
            if taper:
                return f"1:{x:.5g}"
            return angle(x) if is_angle else fixed(x, document.unit)

        cells = (show(row.nominal), show(row.measured), show(row.deviation))
        why = "; ".join(w for w in (row.reason, row.redress) if w)
        words = f"{SIGNS[row.verdict]} {row.verdict}" + (f": {why}" if why else "")
        table.add_row(str(row.balloon), row.note, row.meaning, *cells, words)
        if row.verdict != "in":
            for duty in row.duties[1:]:
                table.add_row("", "", duty.what, duty.said, duty.measured, "", duty.sign)
    console.print(table, highlight=False)
    console.print("   ".join(f"{n} {word}" for word, n in reply.report.counts.items()), highlight=False)
    for step in reply.steps:
        if not step.ok:
            console.print(f"step {step.number}: {step.message}", highlight=False)
    for standing in reply.report.standing:
        console.print(standing.words, highlight=False)
    for wall in reply.report.thin:
        console.print(wall.words(document.unit), highlight=False)
    mass = reply.report.mass
    if mass is not None:
        against = (
            "" if mass.stated is None else f", {mass.source} {mass.stated:g} g ± {mass.band or 0:.2f}: {mass.verdict}"
        )
        console.print(f"mass {mass.model:.2f} g{against}", highlight=False)


def print_standard(found: Found, unit: str) -> None:
    """The figures of a standard with their sources, in the unit asked for."""
    from rich.console import Console
    from rich.table import Table

    table = Table("", "from", "to", "", "by", title=found.title)
    for f in found.figures:
        table.add_row(f.label, *f.texts("in" if unit == "in" else "mm"), f.source)
    console = Console()
    console.print(table, highlight=False)
    for words in found.assumed:
        console.print(f"assumed: {words}", highlight=False)


def print_audit(document: Document, found: Sequence[Finding]) -> None:
    """The findings of all chains, a line each."""
    from rich.console import Console
    from rich.table import Table

    placed = sum(1 for c in document.callouts if c.span is not None)
    table = Table(
        "", "along", "what", title=f"{document.name}: {placed} of {len(document.callouts)} callouts have places"
    )
    for f in found:
        table.add_row(f.kind, f.along, f.words)
    if not found:
        table.add_row("-", "-", "no dimension is told twice, and nothing is left open")
    Console().print(table, highlight=False)


def print_stack(document: Document, found: Stack | None) -> None:
    """A tolerance stack: its sum, worst case, and root of squares."""
    from rich.console import Console

    from lathed_solid.proof.chain_words import link_words, stack_words

    console = Console()
    if found is None:
        console.print("no dimensions join these places: a link is missing", highlight=False)
        return
    console.print(link_words(document, [(b.balloon, b.factor) for b in found.bars]), highlight=False)
    for words in stack_words(document, found):
        console.print(words, highlight=False)


def print_suspects(document: Document, volume: float, wanted: Expected, found: Sequence[Suspect]) -> None:
    """What explains the difference, most likely first."""
    from rich.console import Console
    from rich.table import Table

    from lathed_solid.quantity.formatting import volume as shown_volume
    from lathed_solid.quantity.formatting import volume_change

    console = Console()
    off = volume - wanted.volume
    verdict = "in" if wanted.fits(volume) else "out"
    unit = document.unit
    stated = f"{shown_volume(wanted.volume, unit, 1)} ± {shown_volume(wanted.band, unit, 1)}"
    against = f"{wanted.source}: {stated}, off by {volume_change(off, unit)}: {verdict}"
    console.print(f"volume {shown_volume(volume, unit, 1)}, {against}", highlight=False)
    if verdict == "in":
        return
    table = Table("where", "slip", "in the model", "as drawn", "left over", "share", title=document.name)
    for s in found[:12]:
        for slip in s.slips:
            left, share = (volume_change(s.residual, unit), f"{s.share:.0%}") if slip is s.slips[-1] else ("", "and")
            table.add_row(slip.target, f"{slip.kind}: {slip.why}", slip.was, slip.now, left, share)
    console.print(table if found else "no single slip explains it (--pairs tries two)", highlight=False)


def print_sensitivities(document: Document, found: Sequence[Sensitivity]) -> None:
    """Volume and mass by size, and the band that the tolerances make."""
    from rich.console import Console
    from rich.table import Table

    from lathed_solid.proof import density
    from lathed_solid.proof.sensitivity import nudge, nudge_words, volume_band
    from lathed_solid.quantity.formatting import angle, fixed, volume_change
    from lathed_solid.quantity.formatting import volume as shown_volume
    from lathed_solid.standards import StandardError

    try:
        rho = density(document)
    except StandardError:
        rho = None
    unit = document.unit
    table = Table("size", "kind", "value", "volume moves", "g moves", "between its limits", title=document.name)
    for s in found:
        moves = s.slope * nudge(s, unit)
        grams = "-" if rho is None else f"{moves * rho:+.3f}"
        spread = "-" if s.spread is None else shown_volume(s.spread, unit, 1)
        value = angle(s.value) if s.kind == "angle" else fixed(s.value, unit)
        table.add_row(s.target, s.kind, value, volume_change(moves, unit, 2), grams, spread)
    console = Console()
    console.print(table, highlight=False)
    worst, root = volume_band(found)
    mass = "" if rho is None else f"; mass ± {worst * rho:.2f} g, ± {root * rho:.2f} g"
    console.print(
        f"by the tolerances: volume ± {shown_volume(worst, unit, 1)} at worst, ± {shown_volume(root, unit, 1)} root of "
        f"squares{mass}; in the table {nudge_words(unit)}", highlight=False
    )  # fmt: skip


def print_summary(rows: Sequence[dict[str, Any]]) -> None:
    """Many proofs, a line each."""
    from rich.console import Console
    from rich.table import Table

    from lathed_solid.proof import SIGNS

    table = Table("file", *SIGNS, "mass", "", title=f"{len(rows)} parts")
    for r in rows:
        if "error" in r:
            table.add_row(r["file"], *("" for _ in SIGNS), "", r["error"])
            continue
        counts, mass = r["counts"], r["mass"]
        grams = "-" if mass is None else f"{mass['model_g']:.2f} g, {mass['verdict']}"
        numbers = [str(counts[k]) for k in SIGNS]
        table.add_row(r["file"], *numbers, grams, "proven" if r["ok"] else "not proven")
    console = Console()
    console.print(table, highlight=False)
    bad = sum(1 for r in rows if "error" in r)
    proven = sum(1 for r in rows if r.get("ok"))
    console.print(f"{proven} proven, {len(rows) - proven - bad} not, {bad} with errors", highlight=False)


def print_sheet(found: SheetPage) -> None:
    """The notes of a drawing with what their lines say of them, and the texts that are no notes."""
    from rich.console import Console
    from rich.table import Table

    from lathed_solid.sheets.client import ratio

    console = Console()
    table = Table("note", "means", "from - to", "", box=None, pad_edge=False)
    for o in found.offers:
        said = "" if o.sure == "sure" else f"{o.sure}: {o.why}"
        span = "" if o.span is None else f"{o.span.start} - {o.span.end}"
        table.add_row(o.text.replace("\n", " ; "), o.plain, span, said)
    if found.offers:
        console.print(table, highlight=False)
    scale = f"; its dimension lines agree on {ratio(found.scale)}" if found.scale else ""
    console.print(f"{len(found.offers)} notes found{scale}", highlight=False)
    if found.lettering == "absent":
        console.print("its lettering is not read: pip install 'lathed-solid[lettering]'", highlight=False)
    if found.title.words:
        console.print(f"the title block says {found.title.words}", highlight=False)
    for t in found.left:
        console.print(f"  left: {t.text.splitlines()[0]} ({t.why})", highlight=False)


#: pieces of the model that are not drawn are told up to so many a view
SHOWN_PIECES = 5


def print_witness(found: Witness) -> None:
    """The views that were found with what is not explained, and where on the sheet."""
    from rich.console import Console

    from lathed_solid.sheets.client import ratio

    console = Console()
    if not found.views:
        console.print("no view of the part was found on the sheet", highlight=False)
    for n, view in enumerate(found.views, 1):
        turned = f", turned by {view.turn}°" if view.turn else ""
        console.print(
            f"view {n}: {view.side}{turned}, {ratio(view.scale)}, {view.explained:.1%} explained", highlight=False
        )
        for piece in view.drawn:
            console.print(f"  drawn, not in the model: {_at(found, piece)}", highlight=False)
        for piece in view.model[:SHOWN_PIECES]:
            console.print(f"  in the model, not drawn: {_at(found, piece)}", highlight=False)
        if len(view.model) > SHOWN_PIECES:
            console.print(f"  and {len(view.model) - SHOWN_PIECES} more that are not drawn", highlight=False)
    if found.others:
        console.print(f"{len(found.others)} groups of lines are no view of the part", highlight=False)
    if not found.by_width:
        console.print("outlines and dimensions are drawn alike: what is told here may be a dimension", highlight=False)


def _at(found: Witness, piece: Piece) -> str:
    left, low, right, high = piece.box
    x, y = (left + right) / 2, found.height - (low + high) / 2
    return f"{piece.length:.0f} mm of line at {x:.0f}, {y:.0f} mm from the top left"


def print_machinist(sheet: MachinistSheet) -> None:
    """Zero, stock, settings, tables, tools, troubles."""
    import click

    from lathed_solid.reports.machinist.saying import sayer

    say = sayer("in" if sheet.unit == "in" else "mm")
    stock = sheet.stock
    grams = "" if stock.grams is None else f", {stock.grams / 1000:.3f} kg"
    click.echo(f"{sheet.name}: zero at {sheet.zero.words}" + (f"  {sheet.status}" if sheet.status else ""))
    size = " x ".join(map(say, stock.size))
    click.echo(f"stock {stock.kind} {size} {sheet.unit}{grams}, {stock.cut_away:.0%} cut away")
    for n, s in enumerate(sheet.settings, 1):
        click.echo(f"{n}. {s.side}: {'; '.join(s.does)} (held {s.held}; {s.why})")
    for h in sheet.holes:
        deep = "through" if h.depth is None else f"deep {say(h.depth)}"
        more = "  ".join(filter(None, (h.thread, h.entry, h.fit)))
        place = "X {} Y {} Z {}".format(*map(say, h.at))
        click.echo(f"{h.id:>4}  {place}  {h.side}  ⌀{say(h.diameter)} {deep}  {more}")
    for r in sheet.stations:
        wide = say(r.first) if abs(r.first - r.last) < 1e-9 else f"{say(r.first)} to {say(r.last)}"
        where = "inside" if r.inner else "outside"
        click.echo(f"{r.id:>4}  {r.end} {where}  {say(r.start)} to {say(r.stop)}  ⌀{wide}  {r.thread}")
    for t in sheet.tools:
        click.echo(f"tool: {t.name} for {t.use}" + (f" ({t.remark})" if t.remark else ""))
    for c in sheet.cannot:
        click.echo(f"{'△' if c.hard else '■'} {c.what}: {c.where}: {c.why}")
