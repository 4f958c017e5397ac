"""Files of solids, measured: demo, practice and random parts written in every format, read by independent libraries.

python bench/exchange.py 100 9100001     # what is not closed, not wound outward, off in volume, or not the same again

STL, 3MF and GLB are judged by a library of meshes: closed, wound one way, the volume within area times chord error.
STEP is read back: volume and area to 1e-7, as many faces, each with its name. The outline of two sides encloses what
the triangles laid flat cover.
"""

from __future__ import annotations

import re
import sys
import tempfile
from collections import Counter
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np
import shapely
import trimesh

sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))

from mesh_reading import objects_of_3mf
from practice import PARTS
from truth_parts import truth

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.errors import LathedError
from lathed_solid.kernel.drawing.flat import FLATS
from lathed_solid.kernel.exchange import CHORD
from lathed_solid.kernel.shadow import side_loops
from lathed_solid.kernel.triangles import finely, triangles


def faults(solid: ls.Solid, folder: Path) -> list[str]:
    """What is wrong with the files of one part."""
    out = []
    for ending in ("stl", "3mf", "glb"):
        path = folder / f"part.{ending}"
        ls.export(solid, path)
        if ending == "3mf":
            found = trimesh.util.concatenate(list(objects_of_3mf(path).values()))
        elif ending == "glb":
            found = trimesh.load_scene(path, process=False).to_mesh()
            found.apply_scale(1000)
        else:
            found = trimesh.load_mesh(path)
        # bodies that touch share edges in a format that tells no bodies: each edge is run as often one way as the other
        sound = found.is_watertight and found.is_winding_consistent
        if not sound and not (ending == "stl" and _both_ways(found)):
            out.append(f"{ending} is not closed")
        if abs(found.volume - solid.volume) > found.area * CHORD + 1e-6 * solid.volume:
            out.append(f"{ending} encloses {found.volume:.3f}, the solid {solid.volume:.3f} mm3")
    path = folder / "part.step"
    ls.export(solid, path)
    out += [f"STEP: {words}" for words in _step_faults(solid, path)]
    out += [f"outline: {words}" for side in ("front", "top") for words in _outline_faults(solid, side)]
    return out


def _both_ways(mesh: trimesh.Trimesh) -> bool:
    there = Counter(map(tuple, mesh.edges.tolist()))
    return all(there[a, b] == there[b, a] for a, b in there)


def _outline_faults(solid: ls.Solid, side: str) -> list[str]:
    """The outline against the shadow of triangles, as wide and high, and as large."""
    body = solid.built.body
    assert body is not None
    try:
        loops = side_loops(body, side)
    except LathedError as exc:
        return [f"{side}: {exc.message}"]
    flat = FLATS[side]
    axes = np.array([flat.right, flat.up])
    rings = np.vstack([(t.points @ axes.T)[t.corners] for t in triangles(finely(body.shape, 1 / 2000, 0.1))])
    shadow = shapely.union_all(shapely.buffer(shapely.polygons(rings), 0), grid_size=1e-6)
    off = sum(loop.area for loop in loops) / shadow.area - 1
    return [f"{side}: {off:+.2%} of the shadow"] if abs(off) > 2e-3 else []


def _step_faults(solid: ls.Solid, path: Path) -> list[str]:
    from OCP.BRepGProp import BRepGProp
    from OCP.GProp import GProp_GProps
    from OCP.STEPControl import STEPControl_Reader

    from lathed_solid.kernel.properties import volume
    from lathed_solid.kernel.topology import faces

    reader = STEPControl_Reader()
    reader.ReadFile(str(path))
    reader.TransferRoots()
    back, body = reader.OneShape(), solid.built.body
    assert body is not None

    def area(shape: Any) -> float:
        g = GProp_GProps()
        BRepGProp.SurfaceProperties_s(shape, g, 1e-9)  # the other one strays by where a face's seam lies: 4e-7
        return float(g.Mass())

    out = []
    if abs(volume(back) / volume(body.shape) - 1) > 1e-7:
        out.append("another volume")
    if abs(area(back) / area(body.shape) - 1) > 1e-7:
        out.append("another area")
    if len(faces(back)) != len(faces(body.shape)):
        out.append(f"{len(faces(back))} faces of {len(faces(body.shape))}")
    text = path.read_text("utf-8", "replace").replace("\n", "")
    named = Counter(re.findall(r"ADVANCED_FACE\('([^']*)'", text))
    if named != Counter(body.labels):
        out.append(f"names {sorted((named - Counter(body.labels)).elements())[:3]} instead")
    return out


def _random(seed: int) -> ls.Document:
    return truth(seed).document


def main() -> int:
    count, seed = int(sys.argv[1]), int(sys.argv[2])
    tally: Counter[str] = Counter()
    with tempfile.TemporaryDirectory() as folder:
        known = {**DEMOS, **PARTS} if count > 1 else {}
        parts = [*known.items(), *((str(seed + i), partial(_random, seed + i)) for i in range(count))]
        for name, make in parts:
            solid = ls.build(make())
            if not solid.ok:
                tally["not built"] += 1
                continue
            found = faults(solid, Path(folder))
            tally["with faults" if found else "sound"] += 1
            for words in found:
                print(f"{name}: {words}", flush=True)
    print(f"{len(parts)} parts: {dict(tally)}")
    return 1 if tally["with faults"] else 0


if __name__ == "__main__":
    sys.exit(main())
