"""Commands that make the program known to the desktop: menu entry, icon, file type, manual, completion."""

from __future__ import annotations

import shutil
import subprocess
import sys
from pathlib import Path

import click

from lathed_solid.cli.manual import manual
from lathed_solid.cli.root import OK, cli
from lathed_solid.errors import LathedError

NAME = "org.lathedsolid.LathedSolid"
ASSETS = Path(__file__).parents[1] / "assets" / "desktop"
#: where each file goes below a data folder (XDG Base Directory, Icon Theme, Shared MIME-info, AppStream)
PLACES = {
    f"{NAME}.desktop": "applications",
    f"{NAME}.svg": "icons/hicolor/scalable/apps",
    f"{NAME}.xml": "mime/packages",
    f"{NAME}.metainfo.xml": "metainfo",
}
#: where a shell looks for its completions, below a data folder
SHELLS = {"bash": "bash-completion/completions/lathed-solid", "zsh": "zsh/site-functions/_lathed-solid",
          "fish": "fish/vendor_completions.d/lathed-solid.fish"}  # fmt: skip
MANUAL = "man/man1/lathed-solid.1"


def data_folder() -> Path:
    """The user's data folder."""
    import platformdirs

    return Path(platformdirs.user_data_dir()).expanduser()


def program() -> str:
    """The program as the desktop is to call it: its path, since a session's PATH may lack that of an environment."""
    return shutil.which("lathed-solid") or str(Path(sys.argv[0]).resolve())


def completion(shell: str) -> str:
    """The script that completes commands and options in a shell."""
    from click.shell_completion import get_completion_class

    found = get_completion_class(shell)
    if found is None:
        raise LathedError(f"there is no completion for {shell!r}", hint=", ".join(SHELLS))
    return str(found(cli, {}, "lathed-solid", "_LATHED_SOLID_COMPLETE").source())


def files() -> dict[str, bytes]:
    """All that is to be laid below a data folder: place and content."""
    made = {f"{place}/{name}": (ASSETS / name).read_bytes() for name, place in PLACES.items()}
    entry = f"applications/{NAME}.desktop"
    path = program()
    called = path.replace("\\", "\\\\").replace('"', '\\"')
    text = made[entry].decode("utf-8").replace("Exec=lathed-solid %f", f'Exec="{called}" %f')
    made[entry] = text.replace("TryExec=lathed-solid", f"TryExec={path}").encode("utf-8")
    made[MANUAL] = manual(cli).encode("utf-8")
    made |= {place: completion(shell).encode("utf-8") for shell, place in SHELLS.items()}
    return made


@cli.command("integrate")
@click.option("--remove", is_flag=True, help="Take all of it away again.")
@click.option("--into", type=click.Path(path_type=Path), help="Another data folder than the user's own.")
def integrate_command(remove: bool, into: Path | None) -> int:
    """Make the program known to the desktop: menu entry, icon, file type of .lathed, manual page, completion."""
    from lathed_solid.files.atomic import write_atomic

    folder = into or data_folder()
    for place, content in files().items():
        file = folder / place
        if remove:
            file.unlink(missing_ok=True)
            continue
        try:
            file.parent.mkdir(parents=True, exist_ok=True)
        except OSError as exc:
            raise LathedError(
                "the folder cannot be made", where=str(file.parent), rule=exc.strerror or str(exc)
            ) from None
        write_atomic(file, content)
    for command in (["update-mime-database", str(folder / "mime")],
                    ["update-desktop-database", str(folder / "applications")]):  # fmt: skip
        if shutil.which(command[0]):
            subprocess.run(command, check=False, capture_output=True, timeout=60)
    click.echo(f"{'removed from' if remove else 'known to the desktop by'} {folder}")
    return OK


@cli.command("completion")
@click.argument("shell", type=click.Choice(list(SHELLS)))
def completion_command(shell: str) -> int:
    """Print the script that completes commands and options in a shell."""
    click.echo(completion(shell))
    return OK
