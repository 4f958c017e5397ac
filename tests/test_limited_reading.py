"""Foreign bodies: read with a bound on memory, and nothing left behind."""

from __future__ import annotations

import resource
import subprocess
import sys
from pathlib import Path

import pytest

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.kernel import assembly
from lathed_solid.kernel.builders import imported
from lathed_solid.kernel.errors import ExchangeError
from lathed_solid.kernel.limited_reading import nameless_file, within_memory


@pytest.fixture(scope="module")
def step(tmp_path_factory: pytest.TempPathFactory) -> Path:
    out = tmp_path_factory.mktemp("step") / "spindle.step"
    ls.export(ls.build(DEMOS["winch-spindle"]()), out)
    return out


def test_a_nameless_file_ends_with_its_block() -> None:
    data = b"ISO-10303-21;" * 100_000
    with nameless_file(data) as path:
        assert Path(path).read_bytes() == data
    assert not Path(path).exists() or Path(path).read_bytes() != data


def test_memory_is_bounded_inside_and_not_after() -> None:
    before = resource.getrlimit(resource.RLIMIT_AS)
    with pytest.raises(MemoryError), within_memory(64 << 20):
        bytearray(256 << 20)
    assert resource.getrlimit(resource.RLIMIT_AS) == before
    with within_memory(512 << 20):
        assert len(bytearray(64 << 20)) == 64 << 20


def test_a_body_that_asks_for_too_much_is_told(step: Path, monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setenv("TMPDIR", str(tmp_path / "tmp"))
    (tmp_path / "tmp").mkdir()
    part = ls.import_body(ls.new_part("imported"), step)
    assert ls.build(part).ok and not list((tmp_path / "tmp").iterdir())

    def none(*_told: object) -> None:
        raise MemoryError

    monkeypatch.setattr(imported, "within_memory", none)
    monkeypatch.setattr(assembly, "within_memory", none)
    again = ls.build(ls.import_body(ls.new_part("again", material="CuSn8"), step_with_remark(step, tmp_path)))
    assert not again.ok and "needs too much memory" in again.messages[0] and "MiB" in again.messages[0]
    with pytest.raises(ExchangeError, match="needs too much memory"):
        assembly.read_assembly(step)


def step_with_remark(step: Path, folder: Path) -> Path:
    """The same body by other bytes, so that it is read anew."""
    out = folder / "remarked.step"
    out.write_bytes(step.read_bytes() + b"/* again */\n")
    return out


def test_a_reader_short_of_memory_ends_by_itself(step: Path) -> None:
    """With next to no room the kernel's reader fails in its own process: by an error, or by that process's end."""
    code = (
        "import sys; from OCP.STEPControl import STEPControl_Reader as R\n"
        "from lathed_solid.kernel.limited_reading import within_memory\n"
        "r = R()\n"
        "with within_memory(1 << 20):\n    done = r.ReadFile(sys.argv[1]), r.TransferRoots()\nprint('read')"
    )
    found = subprocess.run([sys.executable, "-c", code, str(step)], capture_output=True, text=True, timeout=60)
    assert found.returncode != 0 and "read" not in found.stdout
