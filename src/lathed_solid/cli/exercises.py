"""Commands about the exercises: begun as a file or in the window, and marked."""

from __future__ import annotations

import json
from dataclasses import asdict
from pathlib import Path

import click

from lathed_solid.cli.root import LANGUAGE, NOT_PROVEN, OK, built, cli, printed_in, shown_or_saved
from lathed_solid.errors import LathedError


@cli.command("exercise")
@click.argument("name", default="")
@click.option("--save", type=click.Path(path_type=Path), help="Write the part that is to be built to a file instead.")
def exercise_command(name: str, save: Path | None) -> int:
    """Begin an exercise in the window; without a name, say which there are."""
    from lathed_solid.exercises import EXERCISES, begun, exercise

    if not name:
        for task in EXERCISES:
            click.echo(f"{task.name:16}{task.number}  {task.title}: {task.teaches}")
        return OK
    return shown_or_saved(begun(exercise(name)), save)


@cli.command("mark")
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--json", "as_json", is_flag=True, help="Print the marks as JSON.")
def mark_command(file: Path, as_json: bool) -> int:
    """Mark an exercise: callouts, verdicts and the solid against the drawn part; exit 1 while something is left."""
    from lathed_solid.exercises import exercise, mark, words_of

    document, reply = built(file)
    if not document.exercise:
        raise LathedError(f"{file.name} is not an exercise", hint="begin one with lathed-solid exercise NAME")
    marks = mark(exercise(document.exercise), document, reply.summary, reply.report)
    ok = all(m.ok for m in marks)
    if as_json:
        click.echo(json.dumps({"ok": ok, "marks": [asdict(m) for m in marks]}, ensure_ascii=False, indent=1))
    else:
        for m in marks:
            click.echo(f"{'○' if m.ok else '■'} {m.words}" + (f" - {m.hint}" if m.hint and not m.ok else ""))
        click.echo(words_of(marks))
    return OK if ok else NOT_PROVEN


@cli.command("guide")
@click.argument("out", type=click.Path(path_type=Path))
@LANGUAGE
def guide_command(out: Path, language: str) -> int:
    """Write the guide as HTML or PDF, by the ending of OUT."""
    from lathed_solid.files.atomic import write_atomic
    from lathed_solid.guide.written import written

    with printed_in(language) as edition:
        write_atomic(out, written(out.suffix, edition))
    click.echo(f"{out} written")
    return OK
