"""The command group, exit codes, and what the commands share: a built file, the window, plain errors."""

from __future__ import annotations

import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from lathed_solid import __version__
from lathed_solid.errors import LathedError

if TYPE_CHECKING:
    from lathed_solid.engine.client import KernelClient
    from lathed_solid.engine.protocol import BuildReply
    from lathed_solid.fit.document import Fit
    from lathed_solid.guide.edition import Edition
    from lathed_solid.part import Document

OK, NOT_PROVEN, ERROR = 0, 1, 2
#: of commands that print what people read
LANGUAGE = click.option("--language", type=click.Choice(["en", "de"]), default="en", show_default=True,
                        help="Of what is printed on paper.")  # fmt: skip


class Program(click.Group):
    """A file in the place of a command is opened, as a file manager asks for it."""

    def resolve_command(
        self, ctx: click.Context, args: list[str]
    ) -> tuple[str | None, click.Command | None, list[str]]:
        """The command that is meant."""
        if args and args[0] not in self.commands and names_a_file(args[0]):
            args = ["open", *args]
        return super().resolve_command(ctx, args)


def names_a_file(word: str) -> bool:
    """Whether a word is the name of a file rather than a mistyped command."""
    path = Path(word)
    return path.suffix.lower() in (".lathed", ".json") or path.name != word or path.is_file()


@click.group(cls=Program, invoke_without_command=True, context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="lathed-solid")
@click.option(
    "--time-limit",
    type=click.FloatRange(0.1, 86_400),
    metavar="S",
    help="Give a build up that takes longer, in seconds; 600 when not given.",
)
@click.pass_context
def cli(context: click.Context, time_limit: float | None) -> int:
    """From a dimensioned drawing or a caliper log to a solid model that is proven.

    Without a command, opens the window.
    """
    if context.invoked_subcommand is None:
        return window(None)
    return OK


@contextmanager
def printed_in(language: str) -> Iterator[Edition]:
    """The words of a language while something is printed in it. Raises LathedError where they are not installed."""
    from lathed_solid.desk.language import edition, speak

    try:
        speak(language)
    except ImportError as exc:
        raise LathedError(f"this installation has no words in {language}", hint="lathed-solid[desk]") from exc
    try:
        yield edition()
    finally:
        speak("en")


def read_part(file: Path) -> Document:
    """The part in a file; what it says beyond this version is kept, and told on stderr."""
    from lathed_solid.files import read_document
    from lathed_solid.record import strangers

    document = read_document(file)
    unknown = list(strangers(document))
    if unknown:
        click.echo(f"{file.name}: not known to this version, kept as it is: {', '.join(unknown[:5])}", err=True)
    return document


def built(file: Path) -> tuple[Document, BuildReply]:
    """Read and build in a worker, so that a crash of the kernel is an error and not the end."""
    with worker() as kernel:
        return built_by(kernel, file)


def built_by(kernel: KernelClient, file: Path) -> tuple[Document, BuildReply]:
    """Read and build in this worker."""
    from lathed_solid.engine.protocol import Build, BuildReply

    document = read_part(file)
    return document, kernel.answer(Build(document=document, shape=False), BuildReply)


def worker() -> KernelClient:
    """A worker that answers each request within the time limit of the command line."""
    _load_kernel_beside()
    from lathed_solid.engine.client import KernelClient

    limit = time_limit()
    return KernelClient() if limit is None else KernelClient(patience=limit)


def _load_kernel_beside() -> None:
    """Before what else a worker or a window needs is loaded."""
    from lathed_solid.engine.starter import Starter

    Starter.here().prepare()


def time_limit() -> float | None:
    """The time limit of the command line, s; None for none."""
    context = click.get_current_context(silent=True)
    told = context.find_root().params.get("time_limit") if context is not None else None
    return None if told is None else float(told)


def desk(module: str) -> Any:
    """A module of the desk; a plain error when Qt is not there."""
    import importlib

    try:
        return importlib.import_module(f"lathed_solid.desk.{module}")
    except ImportError as exc:
        raise _without_window(exc) from None


def _without_window(exc: ImportError) -> LathedError:
    hint = "run ./run --setup, or install lathed-solid[desk]"
    return LathedError("the window's libraries are missing", rule=str(exc), hint=hint)


def read_either(file: Path) -> Document | Fit:
    """The part or the fit in a file."""
    from lathed_solid.files.fit_document import is_fit, read_fit

    return read_fit(file) if is_fit(file) else read_part(file)


def shown_or_saved(part: Document, save: Path | None) -> int:
    """Open the window on a part that was made, or write it to a file. Raises LathedError."""
    if save is None:
        return window(None, part)
    from lathed_solid.files import write_document

    write_document(save, part)
    click.echo(f"{save} written")
    return OK


def window(path: Path | None, document: Document | Fit | None = None) -> int:
    """Open the window; its exit code. Raises LathedError where there is no screen or no toolkit."""
    _load_kernel_beside()
    try:
        return int(desk("app").run(path, document))
    except ModuleNotFoundError as exc:
        raise _without_window(exc) from None


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

    from lathed_solid.files.user_settings import start_logging

    start_logging()
    logging.getLogger(__name__).error("unexpected failure", exc_info=exc)
