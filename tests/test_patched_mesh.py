"""Triangles carried over from one plate to the next: closed, of the face's own area, as a mesh made anew."""

from __future__ import annotations

import random
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
import trimesh

pytest.importorskip("OCP")

from prove import plate

from lathed_solid.engine.rebuild import Engine
from lathed_solid.kernel import triangles as meshing
from lathed_solid.kernel.face_mesh import FaceMesh
from lathed_solid.kernel.patched_mesh import Change
from lathed_solid.kernel.topology import Key
from lathed_solid.kernel.triangles import Meshed, bare, mesh, triangles
from lathed_solid.part import Document, Table, edits

HOLES = 40


def with_hole(part: Document, diameter: float, x: float, y: float) -> Document:
    """The same with its last hole of another size at another place."""
    return edits.put_step(
        part, edits.changed(part.steps[-1], diameter=f"{diameter:.6f}", places=Table(rows=((f"{x:.6f}", f"{y:.6f}"),)))
    )


def shown(shape: object) -> trimesh.Trimesh:
    (found,) = triangles(shape)
    return trimesh.Trimesh(found.points, found.corners, process=False)


def anew(shape: object) -> trimesh.Trimesh:
    copy = bare(shape)
    mesh(copy, angle=meshing.FINE, quick=True)
    return shown(copy)


def level(of: trimesh.Trimesh, z: float) -> float:
    """The area of what lies at that height, by the triangles."""
    return float(of.area_faces[(abs(of.triangles[:, :, 2] - z) < 1e-9).all(axis=1)].sum())


def twice_the_areas(of: np.ndarray) -> np.ndarray:
    """Of triangles (m, 3, 3) in a plane square to z, with their sense."""
    return np.cross(of[:, 1] - of[:, 0], of[:, 2] - of[:, 0])[:, 2]


def test_a_hole_that_grows_shrinks_and_moves_keeps_the_plate_closed(monkeypatch: pytest.MonkeyPatch) -> None:
    carried: list[bool] = []
    carry = meshing.carry

    def watched(change: Change, had: FaceMesh, walls: Mapping[Key, Any]) -> bool:
        carried.append(carry(change, had, walls))
        return carried[-1]

    monkeypatch.setattr(meshing, "carry", watched)
    part, engine, kept = plate(HOLES), Engine(), Meshed()
    rng = random.Random(20261202)
    body = engine.build(part).body
    assert body is not None
    kept.mesh(body.shape)
    most = len(shown(body.shape).vertices)
    for _ in range(8):
        # a row above those that are there, or a small one between four of them
        x, y = rng.choice([(rng.uniform(20, 240), rng.uniform(50, 140)), (14 + 12 * rng.randrange(19), 14.0)])
        changed = with_hole(part, rng.uniform(2, 9) if y != 14 else rng.uniform(2, 8), x, y)
        built = engine.build(changed)
        assert built.ok and built.body is not None
        kept.mesh(built.body.shape)
        found, fresh = shown(built.body.shape), anew(built.body.shape)
        assert found.is_watertight and found.is_winding_consistent and found.area_faces.min() > 0
        assert found.volume == pytest.approx(fresh.volume, rel=1e-12)
        for z in (0, 10):
            assert level(found, z) == pytest.approx(level(fresh, z), rel=1e-12)
        # corners of rims that went are taken again: the mesh does not grow with every edit
        assert len(found.vertices) <= most + 60
    assert carried == [True] * 16


def test_the_face_before_has_no_triangles_left_and_is_meshed_again_when_it_is_wanted() -> None:
    part, engine, kept = plate(HOLES), Engine(), Meshed()
    bodies = [engine.build(p).body for p in (part, with_hole(part, 7, 100, 80), part)]
    assert bodies[0] is bodies[2]
    for body in bodies:
        assert body is not None
        kept.mesh(body.shape)
        assert shown(body.shape).is_watertight


def test_another_outline_is_no_rim() -> None:
    """The plate's own corners bevelled: its face differs in the outline, which the mesher sees to."""
    from lathed_solid import scripting as ls

    part, kept = plate(HOLES), Meshed()
    for p in (part, ls.step(part, "chamfer", leg="3", pick=ls.EdgePick(edges=("20/end|20/l1",)))):
        built = ls.build(p).built
        assert built.ok and built.body is not None
        kept.mesh(built.body.shape)
        assert shown(built.body.shape).volume == pytest.approx(anew(built.body.shape).volume, rel=1e-12)


def test_rims_that_cross_are_left_to_the_mesher() -> None:
    """A rim laid over a standing one is no polygon with holes: nothing is changed."""
    from lathed_solid.kernel import patched_mesh as patched

    square = np.array([(0.0, 0, 0), (10, 0, 0), (10, 10, 0), (0, 10, 0)])
    ring = np.array([(4.0, 4, 0), (4, 6, 0), (6, 6, 0), (6, 4, 0)])
    nodes = np.concatenate([square, ring])
    corners = np.array([(0, 1, 4), (4, 1, 7), (1, 2, 7), (7, 2, 6), (2, 3, 6), (6, 3, 5), (3, 0, 5), (5, 0, 4)])
    flat = FaceMesh(None, nodes, corners)
    none, there = np.zeros(0, np.intp), patched.Rim(np.add(ring, (1, 1, 0)), ())
    assert patched.filled(flat, none, [there], lambda p: p[:, :2]) is None
    assert patched.filled(flat, none, [replace(there, places=np.add(ring, (8, 0, 0)))], lambda p: p[:, :2]) is None
    beside = replace(there, places=np.add(ring / 10, (1, 1, 0)))
    went, come = patched.filled(flat, none, [beside], lambda p: p[:, :2]) or pytest.fail("left to the mesher")
    every = np.concatenate([nodes, beside.places])
    old, new = twice_the_areas(nodes[corners[went]]), twice_the_areas(every[np.array(come)])
    assert (new > 0).all() and (old > 0).all()
    assert old.sum() - new.sum() == pytest.approx(2 * 0.04)
