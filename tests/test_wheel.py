"""The wheel, built as for others, installed into an environment of its own, and used: all data is in it.

Its dependencies are those of the tests, lent to that environment, which is much quicker; ``LONG=1`` installs them too.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import sysconfig
import venv
import zipfile
from pathlib import Path

import pytest
from effort import LONG

ROOT = Path(__file__).parent.parent
SOURCE = ROOT / "src" / "lathed_solid"


def run(cwd: Path, *command: str) -> str:
    """What a command prints; its environment knows nothing of the one that tests."""
    kept = {k: v for k, v in os.environ.items() if k.startswith(("PIP_", "http", "HTTP", "no_proxy", "LANG", "LC_"))}
    clean = {**kept, "PATH": "/usr/bin:/bin", "HOME": os.environ.get("HOME", str(cwd)), "QT_QPA_PLATFORM": "offscreen",
             "XDG_STATE_HOME": str(cwd / "state"), "XDG_DATA_HOME": str(cwd / "data"), "PYTHONUTF8": "1"}  # fmt: skip
    found = subprocess.run(command, cwd=cwd, capture_output=True, encoding="utf-8", timeout=500, env=clean)
    assert found.returncode == 0, found.stdout[-2000:] + found.stderr[-2000:]
    return found.stdout


def data_files() -> set[str]:
    """What is no module, and no by-product, of the package."""
    files = (p for p in SOURCE.rglob("*") if p.is_file() and "__pycache__" not in p.parts)
    return {str(p.relative_to(SOURCE.parent)) for p in files if p.suffix not in (".py", ".pyc")}


@pytest.mark.timeout(600)
def test_the_wheel_is_whole_and_runs_by_itself(tmp_path: Path) -> None:
    tree = tmp_path / "tree"
    tree.mkdir()
    for name in ("pyproject.toml", "README.md", "LICENSE"):
        shutil.copy(ROOT / name, tree)
    shutil.copytree(SOURCE, tree / "src" / "lathed_solid", ignore=shutil.ignore_patterns("__pycache__"))
    run(tmp_path, sys.executable, "-m", "build", "--wheel", "--outdir", str(tmp_path), str(tree))
    (wheel,) = tmp_path.glob("*.whl")
    names = set(zipfile.ZipFile(wheel).namelist())
    assert data_files() <= names
    assert {n.partition(".data/data/")[2] for n in names if ".data/data/" in n} >= {
        "share/applications/org.lathedsolid.LathedSolid.desktop",
        "share/icons/hicolor/scalable/apps/org.lathedsolid.LathedSolid.svg",
        "share/mime/packages/org.lathedsolid.LathedSolid.xml",
        "share/metainfo/org.lathedsolid.LathedSolid.metainfo.xml", "share/man/man1/lathed-solid.1",
    }  # fmt: skip

    clean = tmp_path / "clean"
    venv.create(clean, symlinks=True)
    python = str(clean / "bin" / "python")
    lent = [] if LONG else ["--no-deps"]
    pip = (sys.executable, "-m", "pip", "--python", python, "install", "--quiet", "--disable-pip-version-check")
    run(tmp_path, *pip, *lent, str(wheel))
    if not LONG:
        (own,) = clean.glob("lib/python*/site-packages")
        (own / "lent.pth").write_text(sysconfig.get_path("purelib") + "\n")
    program = str(clean / "bin" / "lathed-solid")
    where = run(tmp_path, python, "-c", "import lathed_solid; print(lathed_solid.__file__)")
    assert where.startswith(str(clean))
    assert "0.1.0" in run(tmp_path, program, "--version")
    assert "written" in run(tmp_path, program, "demo", "pedestal", "--save", "p.lathed")
    assert "22 in" in run(tmp_path, program, "prove", "p.lathed")
    run(tmp_path, program, "guide", "guide.pdf")
    run(tmp_path, program, "integrate")
    assert f'Exec="{program}" %f' in (
        tmp_path / "data" / "applications" / "org.lathedsolid.LathedSolid.desktop"
    ).read_text("utf-8")
    told = subprocess.run([program, "p.lathed"], cwd=tmp_path, capture_output=True, encoding="utf-8", timeout=60,
                          env=os.environ | {"QT_QPA_PLATFORM": "offscreen"})  # fmt: skip
    assert told.returncode == 2 and "libraries are missing" in told.stderr  # the window is an extra
