"""The campaign: are lies ever in, and truths found? ``python bench/truth.py [N] [SEED] [--jobs J]``.

N parts from SEED on, each as noted and with one duty broken by its construction (``tests/truth_parts.py``). Printed are
lies that were in, truths that were not, by family and kind; the exit code is 1 when a lie was in or a truth out.
"""

from __future__ import annotations

import argparse
import sys
import time
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent / "tests"))


def one(seed: int) -> tuple[int, list[tuple[str, str, str, str]], Counter[str]]:
    """Lines of what went wrong with one seed: (kind, family, lie or note, reason), and counts."""
    import truth_parts

    from lathed_solid import scripting as ls
    from lathed_solid.errors import LathedError

    wrong: list[tuple[str, str, str, str]] = []
    counts: Counter[str] = Counter()
    for make in (truth_parts.truth, truth_parts.lie):
        word = make.__name__
        try:
            case = make(seed)
            solid = ls.build(case.document)
            report = ls.prove(case.document)
        except LathedError as exc:
            counts[f"{word}s refused on entry"] += 1
            if word == "truth":
                wrong.append(("truth refused", "", "", exc.message))
            continue
        if not solid.ok:
            counts[f"{word}s not built"] += 1
            if word == "truth":
                wrong.append(("truth not built", case.family, "", "; ".join(solid.messages)))
            continue
        counts[f"{word}s"] += 1
        if word == "truth":
            rows = [r for r in report.rows if not document_reference(case.document, r.balloon)]
            counts["callouts"] += len(rows)
            for r in rows:
                if r.verdict != "in":
                    counts[f"truth {r.verdict}"] += 1
                    wrong.append((f"truth {r.verdict}", case.family, f"{r.balloon}: {r.note}", r.reason))
        elif all((row := report.row(b)) is not None and row.verdict == "in" for b in case.balloons):
            counts["lies in"] += 1
            note = report.row(case.balloons[0])
            wrong.append(("LIE IN", case.family, case.lie, note.note if note else ""))
    return seed, wrong, counts


def document_reference(document: object, balloon: int) -> bool:
    callout = document.callout(balloon)  # type: ignore[attr-defined]
    return callout is not None and callout.reference


def main() -> int:
    parser = argparse.ArgumentParser()
    parser.add_argument("n", nargs="?", type=int, default=100)
    parser.add_argument("seed", nargs="?", type=int, default=1)
    parser.add_argument("--jobs", type=int, default=2)
    given = parser.parse_args()
    start, totals, kinds = time.perf_counter(), Counter(), Counter()  # type: ignore[var-annotated]
    with ProcessPoolExecutor(given.jobs) as pool:
        for seed, wrong, counts in pool.map(one, range(given.seed, given.seed + given.n), chunksize=4):
            totals += counts
            for kind, family, what, why in wrong:
                kinds[(kind, family, why if kind.startswith("truth") else what)] += 1
                print(f"{seed} {kind} [{family}] {what} | {why}")
    print(f"\n{given.n} parts in {time.perf_counter() - start:.0f} s: {dict(totals)}")
    found = totals["callouts"]
    bad = sum(totals[f"truth {v}"] for v in ("out", "not found", "no limit", "near"))
    if found:
        print(f"truths in: {100 * (found - bad) / found:.2f} of 100 callouts")
    return 1 if totals["lies in"] or totals["truth out"] else 0


if __name__ == "__main__":
    raise SystemExit(main())
