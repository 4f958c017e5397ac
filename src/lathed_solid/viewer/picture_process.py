"""Pictures taken in a process of their own: a renderer that fails takes nobody with it.

It is told a line of JSON (finish, shot, coats) and the solid's bytes on its standard input, tells on its standard
output how many pictures of a turn are done, and writes the file it was given; or ends with 1 and says why, in words, on
its standard error.
"""

from __future__ import annotations

import contextlib
import json
import os
import subprocess
import sys
import tempfile
import threading
from collections.abc import Callable, Sequence
from dataclasses import asdict
from pathlib import Path

from lathed_solid.errors import LathedError
from lathed_solid.viewer.finishes import Coated, Finish
from lathed_solid.viewer.gl_context import ViewError
from lathed_solid.viewer.shots import Shot

#: a picture that takes longer is given up, s
LONGEST = 900.0
#: begins the line that says how many are done
DONE = b"done "


def taken(
    data: bytes,
    finish: Finish,
    shot: Shot,
    started: Callable[[subprocess.Popen[bytes]], object] | None = None,
    tell: Callable[[int], object] | None = None,
    coats: Sequence[Coated] = (),
) -> bytes:
    """A PNG or GIF, as ``picture.picture`` makes it. ``started`` takes the process, to end it by; ``tell`` how many
    pictures of a turn are done. Raises ViewError.
    """
    told = {"finish": asdict(finish), "shot": asdict(shot), "coats": [asdict(c) for c in coats]}
    head = json.dumps(told).encode() + b"\n"
    env = {**os.environ, "PYTHONPATH": os.pathsep.join(p for p in sys.path if p)}
    pipe = subprocess.PIPE
    with tempfile.TemporaryDirectory(prefix="lathed-solid-picture-") as folder, tempfile.TemporaryFile() as errors:
        out = Path(folder) / "picture"
        command = [sys.executable, "-m", "lathed_solid.viewer.picture_process", str(out)]
        with subprocess.Popen(command, stdin=pipe, stdout=pipe, stderr=errors, env=env) as process:
            longest = threading.Timer(LONGEST, process.kill)
            longest.start()
            try:
                if started is not None:
                    started(process)
                assert process.stdin is not None and process.stdout is not None
                with contextlib.suppress(BrokenPipeError):
                    process.stdin.write(head + data)
                    process.stdin.close()
                for line in process.stdout:
                    if tell is not None and line.startswith(DONE):
                        tell(int(line[len(DONE) :]))
                process.wait()
            finally:
                longest.cancel()
                process.kill()
        if process.returncode == 0:
            return out.read_bytes()
        if process.returncode < 0:
            raise ViewError("no picture was made", rule=f"the renderer was ended ({process.returncode})")
        errors.seek(0)
        words = (errors.read().decode(errors="replace").strip().splitlines() or [""])[-1]
        raise ViewError(words[:300] or "the picture cannot be drawn here")


def main(out: str) -> int:
    """The process."""
    from lathed_solid.viewer.picture import picture

    def tell(done: int) -> None:
        sys.stdout.buffer.write(DONE + b"%d\n" % done)
        sys.stdout.buffer.flush()

    told = json.loads(sys.stdin.buffer.readline())
    shot = Shot(**{**told["shot"], "eye": tuple(told["shot"]["eye"])})
    try:
        coats = [Coated(Finish(**c["finish"]), tuple(c["faces"]), tuple(c["solids"])) for c in told["coats"]]
        made = picture(sys.stdin.buffer.read(), Finish(**told["finish"]), shot, tell, coats)
        Path(out).write_bytes(made)
    except (LathedError, OSError) as exc:
        print(exc, file=sys.stderr)
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1]))
