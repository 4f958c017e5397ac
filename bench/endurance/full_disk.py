"""Full disks: a save that can write only so many bytes leaves the old file as it was, and says so.

The system's limit on the size of a file stands in for the disk (setrlimit(2), RLIMIT_FSIZE): at each number of bytes in
turn a part with a sheet is saved over another, and a journal goes on. What is there after a refusal must be the old
part; once there is room, the journal must hold all edits.

python bench/endurance/full_disk.py 200 7301     # limits tried, seed
"""

from __future__ import annotations

import logging
import random
import resource
import shutil
import signal
import sys
import tempfile
from pathlib import Path

if __name__ == "__main__":
    import paths

from random_edits import edited

from lathed_solid.demo import DEMOS
from lathed_solid.errors import LathedError
from lathed_solid.files import read_document, write_document
from lathed_solid.files.journal import lines
from lathed_solid.part import Document, History
from lathed_solid.workbench.filed import Filed
from lathed_solid.workbench.recording import Recording
from lathed_solid.workbench.signal import Signal


def campaign(count: int, seed: int) -> tuple[int, list[str]]:
    """How many limits refused something, and what was lost."""
    signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
    rng = random.Random(seed)
    folder = Path(tempfile.mkdtemp(prefix="full-"))
    soft, hard = resource.getrlimit(resource.RLIMIT_FSIZE)
    lost: list[str] = []
    refused = 0
    try:
        old, new = DEMOS["crank-hub"](), DEMOS["winch-spindle"]()
        file = folder / "part.lathed"
        for k in range(count):
            write_document(file, old)
            room = rng.randrange(1, 9000)
            resource.setrlimit(resource.RLIMIT_FSIZE, (room, hard))
            try:
                write_document(file, new)
                wanted = new
            except LathedError as exc:
                refused += 1
                wanted = old
                if not exc.message:
                    lost.append(f"{k}: refused without words")
            finally:
                resource.setrlimit(resource.RLIMIT_FSIZE, (soft, hard))
            if read_document(file) != wanted:
                lost.append(f"{k}: with {room} bytes something else is there")
            lost += [f"{k}: {words}" for words in _journal(folder / "journal", rng, (soft, hard))]
        left = [p.name for p in folder.iterdir() if p.suffix == ".part"]
        lost += [f"left behind: {name}" for name in left]
    finally:
        shutil.rmtree(folder)
    return refused, lost


def _journal(folder: Path, rng: random.Random, whole: tuple[int, int]) -> list[str]:
    """A journal that runs out of room for a while."""
    shutil.rmtree(folder, ignore_errors=True)
    recording = Recording(folder, Signal())
    history: History[Document] = History.start(DEMOS["crank-hub"]())
    recording.start(history, Filed())
    size = next(folder.glob("*.journal")).stat().st_size
    for k in range(8):
        limit = size + rng.randrange(1, 4000) if 2 <= k < 5 else whole[0]
        resource.setrlimit(resource.RLIMIT_FSIZE, (limit, whole[1]))
        try:
            history = history.commit(edited(history.document, rng), f"edit {k}")
            recording.append(f"edit {k}", history)
            recording.flush()
            recording.check()
        finally:
            resource.setrlimit(resource.RLIMIT_FSIZE, whole)
    recording.check()
    recording.flush()
    (file,) = folder.glob("*.journal")
    records = [r for r, _ in lines.records_in(file.read_bytes())]
    found = _last(file)
    recording.discard()
    out = []
    if recording.trouble:
        out.append(f"still not recorded: {recording.trouble}")
    if None in records or found != history.document:
        out.append("the journal does not hold the last edit")
    return out


def _last(file: Path) -> Document | None:
    """The last value of a journal that is still being written."""
    from lathed_solid.files.journal import recovery

    read = recovery._read(file)
    found = read.recovered(file) if read is not None else None
    return found.history.document if found is not None and found.history is not None else None


def main() -> int:
    """The exit code."""
    count, seed = paths.count_and_seed(50, 1)
    logging.disable(logging.CRITICAL)  # what cannot be written is logged each time
    refused, lost = campaign(count, seed)
    print("\n".join(lost[:20]))
    print(f"{count} limits, {refused} saves refused: {len(lost)} lost or left behind")
    return int(bool(lost))


if __name__ == "__main__":
    sys.exit(main())
