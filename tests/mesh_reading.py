"""Files of triangles read by other means than the product's: an independent library of meshes, and 3MF as XML."""

from __future__ import annotations

import zipfile
from pathlib import Path
from xml.etree import ElementTree

import trimesh

CORE = {"m": "http://schemas.microsoft.com/3dmanufacturing/core/2015/02"}


def model_of_3mf(path: Path) -> ElementTree.Element:
    """The model of a 3MF file."""
    with zipfile.ZipFile(path) as archive:
        return ElementTree.fromstring(archive.read("3D/3dmodel.model"))


def objects_of_3mf(path: Path) -> dict[str, trimesh.Trimesh]:
    """Every object's mesh by its name, its corners as they are."""
    return {
        str(found.get("name")): trimesh.Trimesh(
            [[float(str(v.get(k))) for k in "xyz"] for v in found.iterfind(".//m:vertex", CORE)],
            [[int(str(t.get(k))) for k in ("v1", "v2", "v3")] for t in found.iterfind(".//m:triangle", CORE)],
            process=False,
        )
        for found in model_of_3mf(path).findall(".//m:object", CORE)
    }
