"""Mutations: part files that were changed at random, most of them still valid, through reading, saving and building.

A mutation of the JSON exchanges a value for a neighbour of its own kind (numbers beyond any size, expressions that
name each other, other steps' faces, strange texts, lists doubled, emptied or mixed), so that most of what comes out is
a document; a tenth are bytes turned, cut or repeated. What opens must be saved, and read again as the same; what is
built is built in a worker with a limit on its memory and its time. Nothing may end in anything but a ``LathedError``.

python bench/endurance/mutations.py 20000 7201 [400]    # files, seed, how many of them are built
"""

from __future__ import annotations

import copy
import io
import json
import random
import re
import resource
import sys
import tempfile
import time
import zipfile
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

if __name__ == "__main__":
    import paths

from random_edits import STRANGE

from lathed_solid.demo import DEMOS
from lathed_solid.engine.client import KernelClient
from lathed_solid.engine.protocol import Build, BuildReply
from lathed_solid.errors import LathedError
from lathed_solid.files import document_json, read_document, write_document
from lathed_solid.part import Document
from lathed_solid.part.scope import scope

#: how many files have likely values in place of others; fields that name or count something, or lie between bounds
GENTLE = 0.85
NAMES = frozenset(
    {"number", "balloon", "schema_version", "sketch", "kind", "count", "page", "sheet", "share", "x", "y", "sign",
     "sides", "starts", "start", "end", "points", "of", "low", "high", "file"}
)  # fmt: skip
SIZE = re.compile(r"\d+(?:\.\d+)?")
MAX_S = 10.0
MAX_BYTES = 1 << 30
NUMBERS = (0, -1, 1, 1e-9, -1e-9, 1e9, 1e300, -1e300, 5e-324, 2**53, 10**30, 0.1, 1e6, True, None)
EXPRESSIONS = (
    "0", "-5", "1e300", "1/0", "#1", "#1 + #2", "#99", "sqrt(-1)", "1e9", "0.0000001", "w", "(1", "", "9" * 380,
    "999^999", "tan(90)", "#3/#3", "1in", "12°", "⌀5", "a\u2028b",
)  # fmt: skip


@dataclass
class Found:
    """What a campaign came to."""

    files: int = 0
    opened: int = 0
    built: int = 0
    slowest_s: float = 0.0
    wrong: list[str] = field(default_factory=list)
    refused: Counter[str] = field(default_factory=Counter)


def places(value: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    """Where something stands within JSON."""
    if path:
        yield path
    items = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, item in items:
        yield from places(item, (*path, key))


def mutated(records: Any, rng: random.Random) -> Any:
    """The same with a few values exchanged."""
    records = copy.deepcopy(records)
    for _ in range(rng.choice((1, 1, 1, 2, 4))):
        everywhere = list(places(records))
        leaves = [p for p in everywhere if not isinstance(_at(records, p), (dict, list))]
        path = rng.choice(leaves if rng.random() < 0.9 else everywhere)
        holder = records
        for key in path[:-1]:
            holder = holder[key]
        alike = [p for p in everywhere if p[-1] == path[-1] and isinstance(path[-1], str)]
        donor = _at(records, rng.choice(alike)) if alike and rng.random() < 0.85 else None
        holder[path[-1]] = copy.deepcopy(donor) if donor is not None else _instead(holder[path[-1]], records, rng)
    return records


def gentle(records: Any, rng: random.Random) -> Any:
    """The same with a few sizes and words exchanged for likely ones: most of it passes what is checked on reading, and
    meets the steps.
    """
    records = copy.deepcopy(records)
    for _ in range(rng.choice((1, 1, 2, 3))):
        everywhere = [
            p for p in places(records) if p[-1] not in NAMES and not isinstance(_at(records, p), (dict, list))
        ]
        sizes = [p for p in everywhere if SIZE.fullmatch(str(_at(records, p)))]
        path = rng.choice(sizes if sizes and rng.random() < 0.7 else everywhere)
        holder = _at(records, path[:-1])
        value = holder[path[-1]]
        if isinstance(value, bool):
            holder[path[-1]] = not value
        elif path in sizes:
            more = float(value) * rng.choice((0.1, 0.5, 0.9, 1.1, 2, 10))
            holder[path[-1]] = f"{more:.6g}" if isinstance(value, str) else type(value)(more)
        else:
            holder[path[-1]] = _at(records, rng.choice([p for p in everywhere if p[-1] == path[-1]]))
    return records


def _instead(value: Any, records: Any, rng: random.Random) -> Any:
    if isinstance(value, bool):
        return not value
    if isinstance(value, (int, float)):
        return rng.choice((value * rng.choice((-1, 0.5, 2, 1e3)), value + rng.choice((-1, 1, 10)), rng.choice(NUMBERS)))
    if isinstance(value, str):
        other = rng.choice([p for p in places(records) if isinstance(_at(records, p), str)])
        return rng.choice((_at(records, other), rng.choice(EXPRESSIONS), value + rng.choice(STRANGE), value * 30))
    if isinstance(value, list):
        return rng.choice((value * rng.choice((2, 50)), value[::-1], value[:1], [], [*value, rng.choice(NUMBERS)]))
    if isinstance(value, dict):
        return rng.choice(({**value, "strange": {"deep": [1, 2]}}, dict(list(value.items())[::2]), {}, [value]))
    return rng.choice((0, "", [], {}))


def _at(records: Any, path: tuple[Any, ...]) -> Any:
    for key in path:
        records = records[key]
    return records


def torn(data: bytes, rng: random.Random) -> bytes:
    """Bytes turned, cut, repeated or dropped."""
    out = bytearray(data)
    for _ in range(rng.randrange(1, 5)):
        at, length = rng.randrange(len(out) or 1), rng.choice((1, 4, 64))
        kind = rng.randrange(4)
        if kind == 0 and out:
            out[at] ^= 1 << rng.randrange(8)
        elif kind == 1:
            del out[at : at + length]
        elif kind == 2:
            out[at:at] = out[at : at + length] * rng.choice((1, 1000))
        else:
            out[at : at + length] = rng.randbytes(length)
    return bytes(out)


def archived(text: bytes) -> bytes:
    """As an archive."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("part.json", text)
    return out.getvalue()


def inputs(count: int, seed: int) -> Iterator[bytes]:
    """Files of all kinds."""
    rng = random.Random(seed)
    bases = [json.loads(document_json(make())) for make in DEMOS.values()]
    for _ in range(count):
        change = gentle if rng.random() < GENTLE else mutated
        text = json.dumps(change(rng.choice(bases), rng)).encode()
        kind = rng.random()
        yield (
            torn(archived(text) if kind < 0.05 else text, rng) if kind < 0.1 else archived(text) if kind < 0.3 else text
        )


def read_and_saved(file: Path) -> Document | None:
    """What opens must be saved, and be the same when it is read again. Raises LathedError for what does not open, and
    AssertionError.
    """
    document = read_document(file)
    again = file.with_name("again.lathed")
    write_document(again, document, incomplete=True)
    assert read_document(again) == document, "what was saved is not what was read"
    try:
        scope(document)
    except LathedError:
        return None
    return document


def campaign(count: int, seed: int, build: int = 0, keep: Path | None = None) -> Found:
    """``count`` files, the first ``build`` that open built too; what went wrong is kept in that folder."""
    found = Found()
    kernel = KernelClient() if build else None
    try:
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "x.lathed"
            for k, data in enumerate(inputs(count, seed)):
                file.write_bytes(data)
                before = len(found.wrong)
                begun = time.perf_counter()
                try:
                    document = read_and_saved(file)
                    found.opened += 1
                    if kernel is not None and document is not None and found.built < build:
                        found.built += 1
                        _build(kernel, document)
                except LathedError as exc:
                    found.refused[type(exc).__name__] += 1
                except Exception as exc:  # noqa: BLE001 - that is what is looked for
                    found.wrong.append(f"{k}: {type(exc).__name__}: {str(exc)[:160]}")
                took = time.perf_counter() - begun
                found.slowest_s = max(found.slowest_s, took)
                if took > MAX_S:
                    found.wrong.append(f"{k}: {took:.1f} s")
                if keep is not None and len(found.wrong) > before:
                    (keep / f"{seed}-{k}.bin").write_bytes(data)
                found.files += 1
    finally:
        if kernel is not None:
            kernel.close()
    return found


def _build(kernel: KernelClient, document: Document) -> None:
    """Build and prove in the worker. Raises LathedError for what it refuses, TimeoutError, AssertionError."""
    message = kernel.wait(kernel.ask(Build(document=document)), timeout=3 * MAX_S)
    if not isinstance(message, BuildReply):
        raise AssertionError(f"no build: {getattr(message, 'message', message)}")


def main() -> int:
    """The exit code."""
    count, seed = paths.count_and_seed(500, 1)
    build = int(sys.argv[3]) if len(sys.argv) > 3 else count // 50
    resource.setrlimit(resource.RLIMIT_NPROC, (4000, 4000))
    begun = time.monotonic()
    keep = Path(tempfile.mkdtemp(prefix="mutations-"))
    found = campaign(count, seed, build, keep)
    most = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss * 1024
    if most > MAX_BYTES:
        found.wrong.append(f"{most >> 20} MiB")
    print("\n".join([*found.wrong[:40], f"kept in {keep}"]) if found.wrong else "")
    print(f"{found.files} files: {found.opened} opened, saved and read again alike; refused: {dict(found.refused)}; "
          f"{found.built} built; slowest {found.slowest_s:.1f} s; most memory {most >> 20} MiB; "
          f"{len(found.wrong)} wrong; {time.monotonic() - begun:.0f} s")  # fmt: skip
    return int(bool(found.wrong))


if __name__ == "__main__":
    sys.exit(main())
