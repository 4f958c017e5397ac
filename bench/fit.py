"""Fits, measured: assemblies of known construction, speed against a reference solver, a crowd of members, files.

python bench/fit.py campaign 2000 70001     # places, freedoms, fights, linkages driven through their travel
python bench/fit.py speed                   # ratios against scipy's trf in the same run; growth; a drag's frames
python bench/fit.py crowd                   # 200 members of 20 kinds: opened, all pairs judged, as ratios
python bench/fit.py files 500 2000 71001    # kills of a journal, mutated archives
"""

from __future__ import annotations

import json
import math
import os
import random
import signal
import subprocess
import sys
import tempfile
import time
import zipfile
from collections import Counter
from collections.abc import Callable
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))

from fit import assemblies
from fit.assemblies import FAMILIES, Made, worst

from lathed_solid.fit.assemble import assemble
from lathed_solid.fit.freedoms import drive_of
from lathed_solid.fit.motion import Grip, sweep
from lathed_solid.fit.placement import placed, turns
from lathed_solid.fit.solve import HOLDS, settle, solve
from lathed_solid.fit.solved import solved
from lathed_solid.fit.system import Poses, System


def median(run: Callable[[], object], times: int = 5) -> float:
    """The median of several runs, s."""
    out = []
    for _ in range(times):
        start = time.perf_counter()
        run()
        out.append(time.perf_counter() - start)
    return sorted(out)[len(out) // 2]


# campaign --------------------------------------------------------------------------------------
def campaign(count: int, seed: int) -> int:
    """Assemblies that were never used while developing; what is not as it was made is counted and named."""
    tally: Counter[str] = Counter()
    bad: list[str] = []
    worst_place = 0.0
    for i in range(count):
        family = list(FAMILIES)[i % len(FAMILIES)]
        made = FAMILIES[family](seed + i)
        if i % 40 == 7:
            made = assemblies.tree(seed + i, 60 + i % 140)
        found = solved(made.fit, made.features)
        tally[family] += 1
        if not found.solution.ok:
            bad.append(f"{seed + i} {made.what}: not solved: {found.solution.reason} {found.solution.error:.2e}")
            continue
        off = worst(made, found.placements) / found.assembled.system.size
        worst_place = max(worst_place, off)
        if off > 1e-9:
            bad.append(f"{seed + i} {made.what}: off by {off:.2e} of its size")
        if len(found.freedoms) != made.freedoms:
            bad.append(f"{seed + i} {made.what}: {len(found.freedoms)} freedoms, {made.freedoms} by construction")
        if family == "four-bar":
            bad += _driven(made, seed + i)
        if i % 5 == 0:
            bad += _planted(made, seed + i)
            tally["contradictions"] += 1
    print(f"{count} assemblies ({dict(tally)}), worst place {worst_place:.2e} of the size; {len(bad)} not as made")
    for line in bad[:20]:
        print("  ", line)
    return len(bad)


def _driven(made: Made, seed: int) -> list[str]:
    """A linkage through its travel: it holds at every moment and nothing leaps."""
    found = solved(made.fit, made.features)
    if len(found.freedoms) != 1:
        return []
    free = found.freedoms[0]
    drive = drive_of(found.assembled, found.solution, free)
    travel = sweep(found.fit, found.features, drive, 0.0, 2 * math.pi, 72)
    out = []
    before = None
    for frame in travel.frames:
        if worst(made, frame.placements) > 1e-7:
            out.append(f"{seed} linkage: does not hold at {frame.value:.3f}")
            break
        now = assemblies.bend(made, frame.placements)
        if before is not None and now * before < 0 and min(abs(now), abs(before)) > 0.25:
            out.append(f"{seed} linkage: turned over at {frame.value:.3f}, from {before:.2f} to {now:.2f}")
            break
        before = now
    return out


def _planted(made: Made, seed: int) -> list[str]:
    """One relation contradicted: found, with both in a smallest set."""
    draw = np.random.default_rng(seed)
    held = [r for r in made.fit.relations if r.kind in ("touch", "gap", "level")]
    if not held:
        return []
    victim = held[int(draw.integers(len(held)))]
    size = "23" if victim.kind == "gap" else "17"
    planted = victim.model_copy(update={"number": 9999, "kind": "gap", "size": size, "flip": victim.kind == "level"})
    stood = solved(made.fit, made.features)
    fit = stood.fit.model_copy(update={"relations": (*made.fit.relations, planted)})
    found = solved(fit, made.features)
    if found.state != "fighting" or not found.fights:
        return [f"{seed} {made.what}: a planted contradiction was not found"]
    fight = found.fights[0]
    if 9999 not in fight.relations:
        return [f"{seed} {made.what}: the fight {fight.relations} lacks the planted one"]
    out = []
    others = {r.number for r in fit.relations} - set(fight.relations)
    if settle(assemble(fit, made.features, without=others).system).ok:
        out.append(f"{seed} {made.what}: the fight {fight.relations} can hold by itself")
    for n in fight.relations:
        if not settle(assemble(fit, made.features, without=others | {n}).system).ok:
            out.append(f"{seed} {made.what}: {n} can be spared from the fight {fight.relations}")
        if n in fight.ways and not settle(assemble(fit, made.features, without=[n]).system).ok:
            out.append(f"{seed} {made.what}: {n} is no way out")
    return out


# speed -----------------------------------------------------------------------------------------
def _flat(system: System, x: np.ndarray) -> Poses:
    """Poses of the reference's unknowns: the same shifts and turns from the start, all at once."""
    return system.moved(system.start, x)


class Arrived(Exception):
    """The stop rule is met."""


def reference(system: System) -> float:
    """scipy's trf with the same residuals, the same Jacobian, start and stop; s."""
    from scipy.optimize import least_squares

    limit = HOLDS * system.size

    def residual(x: np.ndarray) -> np.ndarray:
        r = system.evaluate(_flat(system, x))[0]
        if np.abs(r).max() <= limit:
            raise Arrived
        return r

    def slope(x: np.ndarray) -> np.ndarray:
        """The chain rule through the exponential: the left Jacobian of the turn (Sola 2018, eq. 145)."""
        _, slopes = system.evaluate(_flat(system, x))
        full = system.jacobian(slopes)
        for body in range(system.count - 1):
            v = x[6 * body + 3 : 6 * body + 6] / system.reach[body + 1]
            full[:, 6 * body + 3 : 6 * body + 6] = full[:, 6 * body + 3 : 6 * body + 6] @ _left(v)
        return full

    start = time.perf_counter()
    try:
        least_squares(residual, np.zeros(system.n), jac=slope, method="trf", xtol=1e-15, ftol=1e-15, gtol=1e-15,
                      max_nfev=200)  # fmt: skip
    except Arrived:
        return time.perf_counter() - start
    raise AssertionError("the reference did not arrive")


def _left(v: np.ndarray) -> np.ndarray:
    angle = float(np.linalg.norm(v))
    if angle < 1e-8:
        return np.eye(3)
    k = np.array([[0, -v[2], v[1]], [v[2], 0, -v[0]], [-v[1], v[0], 0]])
    return np.asarray(np.eye(3) + (1 - math.cos(angle)) / angle**2 * k + (angle - math.sin(angle)) / angle**3 * k @ k)


def speed() -> int:
    """Ratios, growth, and a drag's frames."""
    print("members  unknowns  ours ms  trf ms  ratio")
    spent = {}
    for count in (5, 10, 30, 100):
        made = assemblies.tree(5, count, spread=4.0)
        system = assemble(made.fit, made.features).system
        ours = median(lambda s=system: solve(s, tolerance=HOLDS), 9)  # type: ignore[misc]
        assert solve(system).ok
        trf = median(lambda s=system: reference(s), 3 if count < 100 else 1)  # type: ignore[misc]
        spent[count] = ours
        print(f"{count:7} {system.n:9} {ours * 1e3:8.2f} {trf * 1e3:8.1f} {trf / ours:6.1f}")
    for count in (200, 400):
        made = assemblies.tree(5, count, spread=4.0)
        system = assemble(made.fit, made.features).system
        spent[count] = median(lambda s=system: solve(s), 5)  # type: ignore[misc]
        print(f"{count:7} {system.n:9} {spent[count] * 1e3:8.2f}   {solve(system).ok}")
    sizes = np.log([30, 100, 200, 400])
    grown = np.polyfit(sizes, np.log([spent[n] for n in (30, 100, 200, 400)]), 1)[0]
    print(f"growth from 30 to 400 members: n^{grown:.2f}")
    made = assemblies.tree(9, 50)
    found = solved(made.fit, made.features)
    loose = found.freedoms[-1].member
    at = np.array(found.placements[loose].at)
    grip = Grip(found.fit, made.features, loose, at)
    frames = []
    for k in range(200):
        start = time.perf_counter()
        grip.to(at + 20 * np.array([math.sin(k / 20), math.cos(k / 17) - 1, math.sin(k / 31)]))
        frames.append((time.perf_counter() - start) * 1e3)
    print(f"a drag of 50 members: median {np.percentile(frames, 50):.1f} ms, 95 % {np.percentile(frames, 95):.1f} ms")
    return 0


# crowd -----------------------------------------------------------------------------------------
def crowd() -> int:
    """200 members of 20 kinds of parts: opening against the sum of the builds, all pairs against those that meet."""
    from lathed_solid import scripting as ls
    from lathed_solid.engine.crew import cores
    from lathed_solid.engine.fits import FitEngine
    from lathed_solid.engine.rebuild import Engine
    from lathed_solid.files.fit_document import read_fit, write_fit
    from lathed_solid.fit import edits

    fit = ls.new_fit("crowd")
    draw = np.random.default_rng(3)
    for kind in range(20):
        part = ls.turned(ls.new_part(f"kind {kind}"), [
            ls.Station(key="A", diameter=f"{30 + kind}", length="20"), ls.Station(key="B", diameter="20", length="15"),
        ])  # fmt: skip
        holes = ls.OnCircle(bolt_circle="24", count=4)
        part = ls.hole(part, "10/face.left", "3", depth="8", places=holes)
        fit, name = edits.with_part(fit, part)
        for _ in range(10):
            at = np.array([45.0 * (len(fit.members) % 14), 45.0 * (len(fit.members) // 14), 0.0])
            fit = edits.with_member(fit, name, placement=placed(turns(draw.normal(size=(1, 3)))[0], at))
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "crowd.lathed"
        write_fit(path, fit)
        fresh = Engine()
        start = time.perf_counter()
        for source in fit.parts:
            fresh.build(source.document)
        builds = time.perf_counter() - start
        start = time.perf_counter()
        back = read_fit(path)
        shop = FitEngine()
        found = shop.solve(back)
        opened = time.perf_counter() - start
    print(f"{len(back.members)} members of {len(back.parts)} kinds: builds {builds:.2f} s, opened {opened:.2f} s, "
          f"ratio {opened / builds:.2f}")  # fmt: skip
    pairs = shop.meeting(found.whole)
    start = time.perf_counter()
    shop.overlaps(found.whole, pairs)
    alone = time.perf_counter() - start
    shop = FitEngine()  # one that remembers no pair
    found = shop.solve(back)
    start = time.perf_counter()
    over = shop.overlaps(found.whole)
    every = time.perf_counter() - start
    print(f"{len(pairs)} of {200 * 199 // 2} pairs meet by their boxes, {len(over)} overlap: {alone:.2f} s; "
          f"all pairs {every:.2f} s, ratio {every / alone:.2f}")  # fmt: skip
    shop = FitEngine(jobs=cores())
    found = shop.solve(back)
    start = time.perf_counter()
    same = [o for o, _ in shop.overlaps(found.whole)] == [o for o, _ in over]
    shared = time.perf_counter() - start
    print(f"shared out to {cores()} children: {shared:.2f} s, {every / shared:.2f} times as fast, "
          f"{'the same overlaps' if same else 'OTHER OVERLAPS'}")  # fmt: skip
    return 0 if same else 1


# files -----------------------------------------------------------------------------------------
WRITER = """
import sys, time
from pathlib import Path
sys.path.insert(0, sys.argv[3])
from lathed_solid.files import Journal
from lathed_solid.files.fit_document import read_fit
from lathed_solid.fit import edits
from lathed_solid.part import History
fit = read_fit(Path(sys.argv[1]))
journal = Journal(Path(sys.argv[2]))
history = History.start(fit)
journal.start(history, None)
print("ready", flush=True)
for k in range(100000):
    name = history.document.members[k % len(history.document.members)].name
    history = history.commit(edits.put_member(history.document, name, finish=f"#{k % 256:02X}AA77"), f"edit {k}")
    journal.append(f"edit {k}", history.document)
    print(k, flush=True)
"""


def files(kills: int, mutations: int, seed: int) -> int:
    """Killed while it writes: every edit that was told as written is there. Mutated: a fit or an error of ours."""
    from lathed_solid.files import FileError, recoverable
    from lathed_solid.files.fit_document import read_fit, write_fit

    draw = random.Random(seed)
    lost = tracebacks = 0
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        fit = assemblies.bolted(seed, 6).fit
        write_fit(folder / "f.lathed", fit)
        for i in range(kills):
            place = folder / f"journal {i} ü\u2028"
            src = Path(__file__).parents[1] / "src"
            command = [sys.executable, "-c", WRITER, str(folder / "f.lathed"), str(place), str(src)]
            child = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
            try:
                assert child.stdout is not None
                child.stdout.readline()
                time.sleep(draw.uniform(0, 0.05))
                child.send_signal(signal.SIGKILL)
                told = [line for line in child.stdout.read().split("\n") if line.strip().isdigit()]
            finally:
                child.kill()
                child.wait()
            found = next(iter(recoverable(place)), None)
            have = found.edits if found is not None and found.fits is not None else -1
            if have < len(told):
                lost += 1
        raw = (folder / "f.lathed").read_bytes()
        records = json.loads(zipfile.ZipFile(folder / "f.lathed").read("fit.json"))
        for _ in range(mutations):
            target = folder / "m.lathed"
            if draw.random() < 0.5:
                data = bytearray(raw)
                for _ in range(draw.randint(1, 12)):
                    data[draw.randrange(len(data))] = draw.randrange(256)
                target.write_bytes(bytes(data[: draw.randint(1, len(data))]) if draw.random() < 0.3 else bytes(data))
            else:
                with zipfile.ZipFile(target, "w") as archive:
                    archive.writestr("fit.json", json.dumps(_mutated(records, draw)))
            try:
                read_fit(target)
            except FileError:
                pass
            except Exception as exc:  # noqa: BLE001 - counted
                tracebacks += 1
                print("  ", type(exc).__name__, str(exc)[:100])
    print(f"{kills} kills: {lost} lost an edit; {mutations} mutated archives: {tracebacks} tracebacks")
    return lost + tracebacks


JUNK: list[object] = [None, True, -1, 1e308, float("nan"), "", "x" * 5000, [], {}, [[[]]], "\ud800", 2**70]


def _mutated(value: object, draw: random.Random) -> object:
    """The value with one thing in it changed."""
    value = json.loads(json.dumps(value))
    here: object = value
    for _ in range(draw.randint(1, 6)):
        key: object
        if isinstance(here, dict) and here:
            key = draw.choice(sorted(here))
        elif isinstance(here, list) and here:
            key = draw.randrange(len(here))
        else:
            break
        if draw.random() < 0.4 or not isinstance(here[key], (dict, list)):  # type: ignore[index]
            here[key] = draw.choice(
                [None, True, -1, 1e308, float("nan"), "", "x" * 5000, [], {}, [[[]]], "\ud800", 2**70]
            )  # type: ignore[index]
            break
        here = here[key]  # type: ignore[index]
    return value


def main(argv: list[str]) -> int:
    """Which measurement, and its numbers."""
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
    what = argv[1] if len(argv) > 1 else "speed"
    numbers = [int(a) for a in argv[2:]]
    runs: dict[str, Callable[..., int]] = {"campaign": campaign, "speed": speed, "crowd": crowd, "files": files}
    if what not in runs:
        print(__doc__)
        return 2
    return min(runs[what](*numbers), 1)


if __name__ == "__main__":
    sys.exit(main(sys.argv))
