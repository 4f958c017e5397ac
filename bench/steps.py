"""What names, checks and the cache cost, and what patterns and threads save: ratios within one run.

Run: python bench/steps.py. The references are plain calls of the same kernel operations, without names or checks.
"""

from __future__ import annotations

import math
import statistics
import time
from collections.abc import Callable

from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge, BRepBuilderAPI_MakePolygon, BRepBuilderAPI_MakeWire
from OCP.BRepLib import BRepLib
from OCP.BRepOffsetAPI import BRepOffsetAPI_MakePipeShell
from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox, BRepPrimAPI_MakeCylinder
from OCP.Geom import Geom_CylindricalSurface
from OCP.Geom2d import Geom2d_Line
from OCP.gp import gp_Ax2, gp_Ax3, gp_Dir, gp_Dir2d, gp_Pnt, gp_Pnt2d

from lathed_solid import scripting as ls
from lathed_solid.engine.rebuild import Engine
from lathed_solid.kernel.topology import shape_list
from lathed_solid.part import Document, Table, edits
from lathed_solid.part.steps.pattern_layout import GridLayout


def seconds(run: Callable[[], object], repeats: int = 3) -> float:
    """Median time of a call."""
    out = []
    for _ in range(repeats):
        start = time.perf_counter()
        run()
        out.append(time.perf_counter() - start)
    return statistics.median(out)


def drilled_plate(holes: int, pitch: float = 12.0, columns: int = 20) -> Document:
    """A plate with ``holes`` hole steps, one hole each."""
    rows = -(-holes // columns)
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), ((columns + 1) * pitch, (rows + 1) * pitch))
    part = ls.extrude(ls.sketch(ls.new_part("plate"), d), 10, "10")
    for k in range(holes):
        x, y = (k % columns + 1) * pitch, (k // columns + 1) * pitch
        part = ls.hole(part, "20/end", "5", places=Table(rows=((f"{x}", f"{y}"),)))
    return part


def plain_plate(holes: int, pitch: float = 12.0, columns: int = 20) -> object:
    """The same cuts, as bare kernel calls one after another."""
    rows = -(-holes // columns)
    shape = BRepPrimAPI_MakeBox((columns + 1) * pitch, (rows + 1) * pitch, 10.0).Shape()
    for k in range(holes):
        x, y = (k % columns + 1) * pitch, (k // columns + 1) * pitch
        tool = BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(x, y, -1), gp_Dir(0, 0, 1)), 2.5, 12.0).Shape()
        cut = BRepAlgoAPI_Cut()
        cut.SetArguments(shape_list([shape]))
        cut.SetTools(shape_list([tool]))
        cut.Build()
        shape = cut.Shape()
    return shape


def rebuild() -> None:
    part = drilled_plate(38)
    ours = seconds(lambda: Engine().build(part))
    plain = seconds(lambda: plain_plate(38))
    print(f"40 steps: {ours / plain:.2f} x bare kernel calls ({ours * 1000:.0f} ms)")


def last_of_many() -> None:
    part = drilled_plate(198)
    engine = Engine()
    engine.build(part)
    alone, ratios = 0.0, []
    for k in range(5):
        changed = edits.put_step(part, edits.changed(part.steps[-1], diameter=f"{4 + 0.1 * k}"))
        start = time.perf_counter()
        built = engine.build(changed)
        whole = time.perf_counter() - start
        alone = built.steps[-1].ms / 1000
        ratios.append(whole / alone)
    start = time.perf_counter()
    engine.build(part)
    undo = (time.perf_counter() - start) * 1000
    print(f"edit of the last of 200 steps: {statistics.median(ratios):.2f} x that step alone ({alone * 1000:.0f} ms)")
    print(f"undo, from the cache: {undo:.0f} ms")


def patterns() -> None:
    def pattern(columns: int, rows: int) -> Document:
        d = ls.Draft()
        ls.shapes.rectangle(d, (0, 0), ((columns + 1) * 12, (rows + 1) * 12))
        part = ls.extrude(ls.sketch(ls.new_part("plate"), d), 10, "10")
        part = ls.hole(part, "20/end", "4", cbore_diameter="7", cbore_depth="3", places=Table(rows=(("12", "12"),)))
        layout = GridLayout(spacing="12", count=columns, spacing2="12", count2=rows)
        return ls.step(part, "pattern", steps=(30,), layout=layout)

    def sequential() -> object:
        shape = BRepPrimAPI_MakeBox(252.0, 132.0, 10.0).Shape()
        for k in range(200):
            at = gp_Pnt((k % 20 + 1) * 12.0, (k // 20 + 1) * 12.0, -1)
            for radius, z, height in ((2.0, -1.0, 12.0), (3.5, 7.0, 4.0)):
                axes = gp_Ax2(gp_Pnt(at.X(), at.Y(), z), gp_Dir(0, 0, 1))
                tool = BRepPrimAPI_MakeCylinder(axes, radius, height).Shape()
                shape = BRepAlgoAPI_Cut(shape, tool).Shape()
        return shape

    ours = seconds(lambda: Engine().build(pattern(20, 10)), 1)
    one_by_one = seconds(sequential, 1)
    print(f"200 counterbored holes: {one_by_one / ours:.1f} x faster than sequential cuts ({ours * 1000:.0f} ms)")
    times = {n: seconds(lambda n=n: Engine().build(pattern(20, n)), 1) for n in (5, 10, 20)}  # type: ignore[misc]
    growth = math.log(times[20] / times[5]) / math.log(4)
    print(f"growth from 100 to 400 holes: n^{growth:.2f}")


def threads() -> None:
    def rod(length: int) -> Document:
        stations = [ls.Station(key="A", diameter="18", length=f"{length + 16}")]
        return ls.turned(ls.new_part("rod"), stations)

    def threaded(length: int) -> Document:
        return ls.step(rod(length), "thread", face="10/sA", designation="M18x1.5", length=f"{length}", real=True)

    def swept() -> object:
        """A 60 degree groove along a helix by a pipe shell, and a general cut."""
        depth, turns, pitch = 0.92, 31, 1.5
        surface = Geom_CylindricalSurface(gp_Ax3(gp_Pnt(0, 0, -1), gp_Dir(0, 0, 1)), 9.0)
        line = Geom2d_Line(gp_Pnt2d(0, 0), gp_Dir2d(2 * math.pi, pitch))
        edge = BRepBuilderAPI_MakeEdge(line, surface, 0.0, math.hypot(2 * math.pi, pitch) * turns).Edge()
        BRepLib.BuildCurves3d_s(edge)
        outline = BRepBuilderAPI_MakePolygon(
            gp_Pnt(9.05, 0, -1.6), gp_Pnt(9 - depth, 0, -1.1), gp_Pnt(9 - depth, 0, -0.9), gp_Pnt(9.05, 0, -0.4), True
        ).Wire()
        pipe = BRepOffsetAPI_MakePipeShell(BRepBuilderAPI_MakeWire(edge).Wire())
        pipe.SetMode(True)
        pipe.Add(outline)
        pipe.Build()
        pipe.MakeSolid()
        bar = BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1)), 9.0, 60.0).Shape()
        return BRepAlgoAPI_Cut(bar, pipe.Shape()).Shape()

    def one(length: int) -> float:
        engine = Engine()
        engine.build(rod(length))
        return engine.build(threaded(length)).steps[-1].ms / 1000

    ours = statistics.median(one(44) for _ in range(9))
    long = statistics.median(one(88) for _ in range(9))
    reference = seconds(swept, 3)
    print(f"M18x1.5, 44 long: {reference / ours:.0f} x faster than a pipe sweep and a cut ({ours * 1000:.0f} ms, "
          f"reference {reference:.1f} s); twice the length takes {long / ours:.2f} x")  # fmt: skip


if __name__ == "__main__":
    rebuild()
    last_of_many()
    patterns()
    threads()
