"""A sheet of 40 A3 pages opened in the window: the longest gap in its event loop, and how long the page takes.

Run under X. The reference is the same heartbeat in the idle window, in the same run; and the page is compared with
reading it outside the window.
"""

from __future__ import annotations

import os
import subprocess
import tempfile
import time
from pathlib import Path

import pypdfium2
from PyQt6.QtWidgets import QApplication
from stall import beat

from lathed_solid import scripting as ls
from lathed_solid.demo.sheets import SHEETS
from lathed_solid.desk import theme
from lathed_solid.desk.app import settle
from lathed_solid.desk.gl_format import set_default_format
from lathed_solid.desk.window import MainWindow
from lathed_solid.engine.client import KernelClient
from lathed_solid.sheets import command
from lathed_solid.workbench.session import Session

PAGES = 40


def many(folder: Path) -> Path:
    """All demo drawings, over and over."""
    out, names = pypdfium2.PdfDocument.new(), sorted(SHEETS.glob("*.pdf"))
    for n in range(PAGES):
        out.import_pages(pypdfium2.PdfDocument(names[n % len(names)]))
    path = folder / "forty.pdf"
    out.save(path)
    return path


def main() -> None:
    folder = Path(tempfile.mkdtemp())
    os.environ["XDG_CONFIG_HOME"] = os.environ["XDG_STATE_HOME"] = str(folder)
    path = many(folder)
    begin = time.perf_counter()
    subprocess.run(command(path, 1, folder / "p.bmp"), check=True, capture_output=True)
    bare = time.perf_counter() - begin
    set_default_format()
    app = QApplication([])
    theme.apply(app, dark=False)
    with KernelClient() as kernel:
        session = Session(kernel)
        window = MainWindow(session)
        window.resize(1280, 800)
        window.show()
        session.open_value(ls.new_part("forty pages"))
        window.bench.show_desk("read")
        beat(app, lambda: not session.builds.busy and not window.panes.solid.waiting, 10)
        settle()
        idle = beat(app, lambda: False, 2)
        page = window.panes.read_page.sheets
        gaps, begin = [], time.perf_counter()
        begun = time.perf_counter()
        page.commands.lay(path)
        gaps.append((time.perf_counter() - begun) * 1000)
        gaps += beat(app, lambda: page.commands.found is not None, 60)
        took = time.perf_counter() - begin
        gaps += beat(app, lambda: False, 1)
        print(
            f"idle: longest gap {max(idle):.0f} ms; opening {page.commands.pages} pages: longest gap {max(gaps):.0f} ms"
        )
        print(f"the first page is there after {took / bare:.2f} x reading it outside the window ({took:.1f} s)")
        turns = []
        for _ in range(3):
            page.commands.found = None
            page.commands.turn_page(1)
            turns += beat(app, lambda: page.commands.found is not None, 60)
            turns += beat(app, lambda: False, 0.5)
        print(f"turning pages: longest gap {max(turns):.0f} ms")
        session.open_value(ls.new_part("done"))
        window.close()


if __name__ == "__main__":
    main()
