"""Pictures taken in a process of their own: a renderer that fails takes nobody with it.

It is told a line of JSON (finish, colour, shot) and the solid's bytes on its standard input, and answers with the
file's bytes on its standard output; or ends with 1 and says why, in words, on its standard error.
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
from collections.abc import Callable
from dataclasses import asdict

from lathed_solid.errors import LathedError
from lathed_solid.viewer.finishes import Finish
from lathed_solid.viewer.gl_context import ViewError
from lathed_solid.viewer.shots import Shot

#: a picture that takes longer is given up, s
LONGEST = 900.0


def taken(
    data: bytes,
    finish: Finish,
    colour: str,
    shot: Shot,
    started: Callable[[subprocess.Popen[bytes]], object] | None = None,
) -> bytes:
    """A PNG or GIF, as ``picture.picture`` makes it. ``started`` takes the process, to end it by. Raises ViewError."""
    head = json.dumps({"finish": asdict(finish), "colour": colour, "shot": asdict(shot)}).encode() + b"\n"
    command = [sys.executable, "-m", "lathed_solid.viewer.picture_process"]
    pipe = subprocess.PIPE
    path = os.pathsep.join(p for p in sys.path if p)
    env = {**os.environ, "PYTHONPATH": path}
    with subprocess.Popen(command, stdin=pipe, stdout=pipe, stderr=pipe, env=env) as process:
        try:
            if started is not None:
                started(process)
            out, told = process.communicate(head + data, timeout=LONGEST)
        except subprocess.TimeoutExpired:
            raise ViewError(f"the picture took more than {LONGEST:g} s", hint="a smaller one") from None
        finally:
            process.kill()
    if process.returncode == 0:
        return out
    words = (told.decode(errors="replace").strip().splitlines() or [""])[-1]
    if process.returncode == 1 and words:
        raise ViewError(words[:300])
    raise ViewError("the picture cannot be drawn here", rule=f"the renderer ended with {process.returncode}")


def main() -> int:
    """The process."""
    from lathed_solid.viewer.picture import picture

    told = json.loads(sys.stdin.buffer.readline())
    shot = told["shot"]
    try:
        made = picture(sys.stdin.buffer.read(), Finish(**told["finish"]), told["colour"],
                       Shot(**{**shot, "eye": tuple(shot["eye"])}))  # fmt: skip
    except LathedError as exc:
        print(exc.message, file=sys.stderr)
        return 1
    sys.stdout.buffer.write(made)
    return 0


if __name__ == "__main__":
    sys.exit(main())
