"""Triangles written as binary STL and 3MF, in mm, and as GLB, in metres.

All hold coordinates in single precision. Corners that it does not tell apart are one before they are written, so that
what is closed stays closed.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from lathed_solid.kernel.triangles import Triangles, joined, triangles


def _single(shape: Any) -> list[Triangles]:
    """The triangles of each solid of a meshed shape in single precision."""
    return [joined(t.points.astype("<f4").astype(float), t.corners, 0.0) for t in triangles(shape)]


def write_stl(shape: Any, path: str, name: str) -> bool:
    """One file of all solids, whether it was written."""
    three = np.concatenate([t.points[t.corners] for t in _single(shape)])
    across = np.cross(three[:, 1] - three[:, 0], three[:, 2] - three[:, 0])
    length = np.linalg.norm(across, axis=1, keepdims=True)
    records = np.zeros(len(three), [("normal", "<f4", 3), ("corners", "<f4", (3, 3)), ("none", "<u2")])
    records["normal"], records["corners"] = across / np.where(length > 0, length, 1.0), three
    title = f"binary STL in mm, {name}".encode("ascii", "replace")[:80].ljust(80)
    Path(path).write_bytes(title + len(records).to_bytes(4, "little") + records.tobytes())
    return True


def write_3mf(bodies: Sequence[tuple[Any, str, str, str]], path: str) -> bool:
    """3MF core specification 1.3: an object for each solid, with its name and material; whether it was written.

    Each body by its meshed shape, its name, its material's name and colour (#RRGGBB).
    """
    import lib3mf

    wrapper = lib3mf.get_wrapper()
    model = wrapper.CreateModel()
    model.SetUnit(lib3mf.ModelUnit.MilliMeter)
    group = model.AddBaseMaterialGroup()
    position, triangle = lib3mf.Position, lib3mf.Triangle
    kinds: dict[tuple[str, str], int] = {}
    for shape, name, material, colour in bodies:
        if (material, colour) not in kinds:
            r, g, b = (int(colour[i : i + 2], 16) for i in (1, 3, 5))
            kinds[material, colour] = group.AddMaterial(material or "unknown", wrapper.RGBAToColor(r, g, b, 255))
        for number, t in enumerate(_single(shape), 1):
            solid = model.AddMeshObject()
            solid.SetName(name if number == 1 else f"{name} {number}")
            solid.SetGeometry(
                [position(type(position().Coordinates)(*p)) for p in t.points.tolist()],
                [triangle(type(triangle().Indices)(*k)) for k in t.corners.tolist()],
            )
            solid.SetObjectLevelProperty(group.GetResourceID(), kinds[material, colour])
            model.AddBuildItem(solid, wrapper.GetIdentityTransform())
    model.QueryWriter("3mf").WriteToFile(path)
    return True


@dataclass(frozen=True, slots=True)
class Product:
    """A meshed shape with its name and finish (#RRGGBB), and where it stands: names and placements (4, 4), mm."""

    name: str
    shape: Any
    finish: str
    places: tuple[tuple[str, Any], ...]


def write_glb(products: Sequence[Product], path: str, name: str) -> bool:
    """GLB (glTF 2.0, Khronos 2017): a mesh for each product, a node for each of its places; whether it was written.

    Without normals, so that every viewer shades it flat and its corners stay one. Its Y is up, as the format has it.
    """
    import pygltflib as gltf

    found = gltf.GLTF2(asset=gltf.Asset(version="2.0", generator="Lathed Solid"), scene=0)
    blob = b""

    def kept(data: Any, target: int, component: int, kind: str, **bounds: Any) -> int:
        nonlocal blob
        found.bufferViews.append(gltf.BufferView(buffer=0, byteOffset=len(blob), byteLength=data.nbytes, target=target))
        found.accessors.append(gltf.Accessor(
            bufferView=len(found.bufferViews) - 1, componentType=component, count=len(data), type=kind, **bounds,
        ))  # fmt: skip
        blob += data.tobytes()  # of four bytes each, so every view begins at a multiple of four
        return len(found.accessors) - 1

    for product in products:
        r, g, b = (_linear(int(product.finish[i : i + 2], 16) / 255) for i in (1, 3, 5))
        shine = gltf.PbrMetallicRoughness(baseColorFactor=[r, g, b, 1.0], metallicFactor=0.6, roughnessFactor=0.5)
        found.materials.append(gltf.Material(name=product.finish, pbrMetallicRoughness=shine))
        pieces = []
        for t in _single(product.shape):
            p, k = (t.points / 1000).astype("<f4"), t.corners.astype("<u4").ravel()
            at = kept(
                p, gltf.ARRAY_BUFFER, gltf.FLOAT, gltf.VEC3, min=p.min(axis=0).tolist(), max=p.max(axis=0).tolist()
            )
            indices = kept(k, gltf.ELEMENT_ARRAY_BUFFER, gltf.UNSIGNED_INT, gltf.SCALAR)
            pieces.append(gltf.Primitive(
                attributes=gltf.Attributes(POSITION=at), indices=indices, material=len(found.materials) - 1,
            ))  # fmt: skip
        found.meshes.append(gltf.Mesh(name=product.name, primitives=pieces))
        for called, place in product.places:
            m = np.array(place, float)
            m[:3, 3] /= 1000
            found.nodes.append(gltf.Node(name=called, mesh=len(found.meshes) - 1, matrix=m.T.ravel().tolist()))
    # the whole lies on its side in the format's room, whose Y is up
    up = [1.0, 0.0, 0.0, 0.0, 0.0, 0.0, -1.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 0.0, 1.0]
    found.nodes.append(gltf.Node(name=name, children=list(range(len(found.nodes))), matrix=up))
    found.scenes.append(gltf.Scene(nodes=[len(found.nodes) - 1]))
    found.buffers.append(gltf.Buffer(byteLength=len(blob)))
    found.set_binary_blob(blob)
    Path(path).write_bytes(b"".join(found.save_to_bytes()))
    return True


def _linear(share: float) -> float:
    """A share of a display's colour as a share of light (IEC 61966-2-1)."""
    return share / 12.92 if share <= 0.04045 else ((share + 0.055) / 1.055) ** 2.4
