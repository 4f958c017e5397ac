"""Draw the exercises' sheets back from their answers, and write down the answers' figures beside them."""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
from dataclasses import asdict
from pathlib import Path

from lathed_solid import scripting as ls
from lathed_solid.exercises import EXERCISES, Figures
from lathed_solid.exercises.tasks import SHEETS
from lathed_solid.files import write_document


def main() -> None:
    SHEETS.mkdir(exist_ok=True)
    for task in EXERCISES:
        answer = task.answer()
        figures = Figures.of(ls.build(answer).summary)
        (SHEETS / f"{task.name}.json").write_text(json.dumps(asdict(figures), indent=1) + "\n", "utf-8")
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "answer.lathed"
            stated = answer.model_copy(update={"stated_mass": None})
            write_document(file, stated)
            command = [sys.executable, "-m", "lathed_solid.cli", "drawing", str(file), str(task.sheet), "--size", "A4"]
            subprocess.run(command, check=True)


if __name__ == "__main__":
    main()
