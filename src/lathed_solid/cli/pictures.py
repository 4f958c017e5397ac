"""Command that takes a picture of a part: a still one, or one that turns."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

import click

from lathed_solid.cli.root import NOT_PROVEN, OK, cli, read_part, worker
from lathed_solid.errors import LathedError

if TYPE_CHECKING:
    from lathed_solid.part import Document
    from lathed_solid.viewer.shots import Shot

#: pictures of a turn when none are told
FRAMES = 36


@cli.command("picture")
@click.argument("file", type=click.Path(path_type=Path))
@click.argument("out", type=click.Path(path_type=Path))
@click.option("--named", default="", help="As the part remembers it by this name; what else is said goes before.")
@click.option("--finish", help="Its name, or 'paint #336699'; turned when none is told.")
@click.option(
    "--coat",
    "coats",
    multiple=True,
    help="A face, a step or a body of its own finish: 'step 90=brass'.",
)
@click.option("--size", help="Dots, up to 7680 a side; 1280x800 when none is told.")
@click.option("--from", "side", help="A side by name, or x,y,z to the eye; iso left when none is told.")
@click.option("--lens", help="Focal length, mm of a frame 24 mm high; a parallel view when none is told.")
@click.option("--clear", is_flag=True, default=None, help="The ground is left out.")
@click.option("--floor", is_flag=True, default=None, help="It stands on a floor with its shadow.")
@click.option("--rays", is_flag=True, default=None, help="Trace rays.")
@click.option("--frames", type=int, default=FRAMES, show_default=True, help="Pictures of a turn.")
def picture_command(
    file: Path, out: Path, named: str, frames: int, coats: tuple[str, ...], **told: str | bool | None
) -> int:
    """A picture of the part as PNG, or of its turn as GIF or APNG, by the ending of OUT. Exit 1: it is not proven."""
    from lathed_solid.engine.protocol import Build, BuildReply
    from lathed_solid.files.atomic import write_atomic
    from lathed_solid.standards.materials import material
    from lathed_solid.viewer.finishes import coats_of, finish_named
    from lathed_solid.viewer.picture_process import taken
    from lathed_solid.viewer.shots import FILMS

    film = FILMS.get(out.suffix.lower())
    moving = film is not None
    if not moving and out.suffix.lower() != ".png":
        raise LathedError("a picture is written as PNG, GIF or APNG", received=out.name, hint="part.png, turn.gif")
    document = _coated(read_part(file), coats)
    finish, shot = _wanted(document, named, told, frames if moving else 1)
    shot = replace(shot, film=film or shot.film)
    wanted = finish_named(finish, material(document.material).finish_colour)
    with worker() as kernel:
        reply = kernel.answer(Build(document=document, shape=True), BuildReply)
    if not reply.shape:
        raise LathedError("there is no solid to take a picture of", where=str(file), hint="lathed-solid prove FILE")
    write_atomic(out, taken(reply.shape, wanted, shot, coats=coats_of(document, reply.labels, reply.owners)))
    click.echo(f"{out} written: {shot.width} x {shot.height}" + (f", {frames} pictures" if moving else ""))
    return OK if reply.report.ok else NOT_PROVEN


def _coated(document: Document, coats: tuple[str, ...]) -> Document:
    """With faces and bodies of their own finish. Raises LathedError for words that say none."""
    from lathed_solid.hand_over_scripting import coated

    for words in coats:
        of, _, finish = (part.strip() for part in words.partition("="))
        if not of or not finish:
            raise LathedError("a finish of its own is told as FACE=FINISH", received=words, hint="3/end=polished")
        document = coated(document, of, finish)
    return document


def _wanted(document: Document, named: str, told: dict[str, str | bool | None], frames: int) -> tuple[str, Shot]:
    """The finish and the shot: as remembered, but for what is told. Raises LathedError."""
    from lathed_solid.part.pictures import RememberedPicture
    from lathed_solid.viewer.shots import Shot, eye_of, lens_of, size_of

    base = next((p for p in document.pictures if p.name == named), None)
    if base is None:
        if named:
            known = ", ".join(p.name for p in document.pictures)
            raise LathedError("the part remembers no such picture", received=named, hint=known or "it remembers none")
        base = RememberedPicture(name="plain", eye=Shot().eye)
    size, side, lens, finish = (str(told[k] or "") for k in ("size", "side", "lens", "finish"))
    wide, tall = size_of(size) if size else (base.width, base.height)
    clear, floor, rays = (bool(told[k]) or bool(getattr(base, k)) for k in ("clear", "floor", "rays"))
    shot = Shot(wide, tall, eye_of(side) if side else base.eye, clear, floor, rays, frames,
                lens_of(lens) if lens else base.lens)  # fmt: skip
    return finish or base.finish, shot
