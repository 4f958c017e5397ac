"""Command that takes a picture of a part: a still one, or one that turns."""

from __future__ import annotations

from pathlib import Path

import click

from lathed_solid.cli.root import NOT_PROVEN, OK, cli, read_part, worker
from lathed_solid.errors import LathedError

#: pictures of a turn when none are told
FRAMES = 36


@cli.command("picture")
@click.argument("file", type=click.Path(path_type=Path))
@click.argument("out", type=click.Path(path_type=Path))
@click.option("--finish", default="turned", show_default=True, help="Its name, or 'paint #336699'.")
@click.option("--size", default="1280x800", show_default=True, help="Dots, up to 7680 a side.")
@click.option("--from", "side", default="iso left", show_default=True, help="A side by name, or x,y,z to the eye.")
@click.option("--clear", is_flag=True, help="The ground is left out.")
@click.option("--floor", is_flag=True, help="It stands on a floor with its shadow.")
@click.option("--rays", is_flag=True, help="Trace rays.")
@click.option("--frames", type=int, default=FRAMES, show_default=True, help="Pictures of a turn, for a GIF.")
def picture_command(
    file: Path, out: Path, finish: str, size: str, side: str, clear: bool, floor: bool, rays: bool, frames: int
) -> int:
    """A picture of the part as PNG, or of its turn as GIF, by the ending of OUT. Exit 1 when it is not proven."""
    from lathed_solid.engine.protocol import Build, BuildReply
    from lathed_solid.files.atomic import write_atomic
    from lathed_solid.standards.materials import material
    from lathed_solid.viewer.finishes import finish_named
    from lathed_solid.viewer.picture_process import taken
    from lathed_solid.viewer.shots import Shot, eye_of, size_of

    wide, tall = size_of(size)
    moving = out.suffix.lower() == ".gif"
    shot = Shot(wide, tall, eye_of(side), clear, floor, rays, frames if moving else 1)
    if not moving and out.suffix.lower() != ".png":
        raise LathedError("a picture is written as PNG or GIF", received=out.name, hint="part.png, turn.gif")
    document = read_part(file)
    wanted = finish_named(finish, material(document.material).finish_colour)
    with worker() as kernel:
        reply = kernel.answer(Build(document=document, shape=True), BuildReply)
    if not reply.shape:
        raise LathedError("there is no solid to take a picture of", where=str(file), hint="lathed-solid prove FILE")
    write_atomic(out, taken(reply.shape, wanted, shot))
    click.echo(f"{out} written: {wide} x {tall}" + (f", {frames} pictures" if moving else ""))
    return OK if reply.report.ok else NOT_PROVEN
