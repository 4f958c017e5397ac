"""The desktop's files: valid by the desktops' own checkers where those are, laid and taken away, never stale."""

from __future__ import annotations

import configparser
import shutil
import subprocess
import xml.etree.ElementTree as ET
from pathlib import Path

import pytest
from click.testing import CliRunner

from lathed_solid.cli import cli
from lathed_solid.cli.integration import ASSETS, MANUAL, NAME, SHELLS, files
from lathed_solid.cli.manual import manual
from lathed_solid.cli.root import names_a_file

MIME = "application/vnd.lathed-solid.part+zip"


def test_the_manual_page_in_the_package_is_that_of_the_commands() -> None:
    page = manual(cli)
    assert (ASSETS / "lathed-solid.1").read_text("utf-8") == page, "write it anew: tools/manual_page.py"
    for name in cli.commands:
        assert f".SS {name}".replace("-", "\\-") in page
    assert not [line for line in page.splitlines() if line.startswith("'")]


def checked(*command: str) -> None:
    """A checker's word, where it is installed (it is where the project is tested as a whole)."""
    if shutil.which(command[0]) is None:
        pytest.skip(f"{command[0]} is not installed")
    found = subprocess.run(command, capture_output=True, text=True, timeout=60)
    assert found.returncode == 0, found.stdout + found.stderr


def test_the_desktop_s_own_checkers_agree(tmp_path: Path) -> None:
    checked("desktop-file-validate", str(ASSETS / f"{NAME}.desktop"))
    checked("appstreamcli", "validate", "--no-net", str(ASSETS / f"{NAME}.metainfo.xml"))
    (tmp_path / "packages").mkdir()
    shutil.copy(ASSETS / f"{NAME}.xml", tmp_path / "packages")
    checked("update-mime-database", str(tmp_path))
    assert MIME in (tmp_path / "globs2").read_text()


def test_the_files_say_the_same_of_name_type_and_icon() -> None:
    entry = configparser.ConfigParser(interpolation=None)
    entry.read_string((ASSETS / f"{NAME}.desktop").read_text("utf-8"))
    keys = entry["Desktop Entry"]
    assert keys["MimeType"] == MIME + ";" and keys["Icon"] == NAME and keys["Exec"].endswith("%f")
    info = ET.parse(ASSETS / f"{NAME}.metainfo.xml").getroot()
    assert info.findtext("id") == NAME and info.findtext("provides/mediatype") == MIME
    space = "{http://www.freedesktop.org/standards/shared-mime-info}"
    kind = ET.parse(ASSETS / f"{NAME}.xml").getroot().find(f"{space}mime-type")
    assert kind is not None and kind.get("type") == MIME
    assert ET.parse(ASSETS / f"{NAME}.svg").getroot().get("viewBox") == "0 0 128 128"


def test_it_is_laid_and_taken_away(tmp_path: Path) -> None:
    run = lambda *told: CliRunner().invoke(cli, ["integrate", "--into", str(tmp_path), *told], standalone_mode=False)  # noqa: E731
    assert run().return_value == 0
    laid = {str(p.relative_to(tmp_path)) for p in tmp_path.rglob("*") if p.is_file()}
    assert set(files()) <= laid and MANUAL in laid and set(SHELLS.values()) <= laid
    entry = (tmp_path / "applications" / f"{NAME}.desktop").read_text("utf-8")
    assert 'Exec="/' in entry and '" %f' in entry
    assert run("--remove").return_value == 0
    assert not [p for p in files() if (tmp_path / p).exists()]
    (tmp_path / "man").rmdir() if not any((tmp_path / "man").iterdir()) else shutil.rmtree(tmp_path / "man")
    (tmp_path / "man").write_text("in the way")
    assert "cannot be made" in str(run().exception)


@pytest.mark.parametrize("shell", list(SHELLS))
def test_completion_is_printed(shell: str) -> None:
    found = CliRunner().invoke(cli, ["completion", shell], standalone_mode=False)
    assert found.return_value == 0 and "_LATHED_SOLID_COMPLETE" in found.output


def test_bash_completes_a_command(tmp_path: Path) -> None:
    if shutil.which("bash") is None:
        pytest.skip("no bash")
    from click.shell_completion import BashComplete

    found = BashComplete(cli, {}, "lathed-solid", "_LATHED_SOLID_COMPLETE").get_completions([], "sus")
    assert [c.value for c in found] == ["suspects"]


def test_a_file_in_the_place_of_a_command_is_opened(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    opened: list[Path] = []

    def window(path: Path, document: object = None) -> int:
        opened.append(path)
        return 0

    monkeypatch.setattr("lathed_solid.cli.part_commands.window", window)
    monkeypatch.chdir(tmp_path)
    CliRunner().invoke(cli, ["demo", "--save", "a part.lathed"])
    for word in ("a part.lathed", str(tmp_path / "a part.lathed"), "./a part.lathed"):
        assert CliRunner().invoke(cli, [word], standalone_mode=False).return_value == 0
    assert [p.name for p in opened] == ["a part.lathed"] * 3
    wrong = CliRunner().invoke(cli, ["biuld"], standalone_mode=False)
    assert "No such command" in str(wrong.exception) and not names_a_file("biuld")
    assert "no such file" in str(CliRunner().invoke(cli, ["nothing.lathed"], standalone_mode=False).exception)
