"""The assembly as solids: STL for any program that reads meshes, glTF (binary) with a named node for each part.

Nominal geometry, as it goes together: millimetres in STL, metres in glTF, as that format wants.
"""

from __future__ import annotations

import json
import struct

from notchcore.design.assembly import Assembly
from notchcore.geom.slab import Triangles, triangles_of

MM_PER_M = 1000.0
_FLOAT, _UINT, _VERTICES, _INDICES = 5126, 5125, 34962, 34963


def _parts(assembly: Assembly) -> list[tuple[str, Triangles]]:
    return [(p.label, triangles_of(p.slab(nominal=True))) for p in assembly.parts]


def stl(assembly: Assembly, *, name: str) -> bytes:
    """Return all parts in one binary STL [mm]; parts that touch stay closed bodies of their own."""
    out = bytearray(f"Notch Board, {name}, millimetres".encode()[:80].ljust(80))
    parts = _parts(assembly)
    out += struct.pack("<I", sum(len(t.faces) for _, t in parts))
    for _, t in parts:
        for face in t.faces:
            a, b, c = (t.points[i] for i in face)
            u, v = [b[k] - a[k] for k in range(3)], [c[k] - a[k] for k in range(3)]
            n = (u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0])
            size = (n[0] ** 2 + n[1] ** 2 + n[2] ** 2) ** 0.5 or 1.0
            out += struct.pack("<12fH", *(x / size for x in n), *a, *b, *c, 0)
    return bytes(out)


def gltf(assembly: Assembly, *, name: str) -> bytes:
    """Return the assembly as binary glTF 2.0, y up, a node for each part. Source: the glTF 2.0 specification, chapter 4."""
    data = bytearray()
    views: list[dict[str, object]] = []
    accessors: list[dict[str, object]] = []
    meshes: list[dict[str, object]] = []
    for label, t in _parts(assembly):
        points = [(x / MM_PER_M, z / MM_PER_M, -y / MM_PER_M) for x, y, z in t.points]
        for block, target in (
            (b"".join(struct.pack("<3f", *p) for p in points), _VERTICES),
            (b"".join(struct.pack("<3I", *f) for f in t.faces), _INDICES),
        ):
            views.append({"buffer": 0, "byteOffset": len(data), "byteLength": len(block), "target": target})
            data += block
        low, high = [min(p[k] for p in points) for k in range(3)], [max(p[k] for p in points) for k in range(3)]
        accessors.append({"bufferView": len(views) - 2, "componentType": _FLOAT, "count": len(points), "type": "VEC3", "min": low, "max": high})
        accessors.append({"bufferView": len(views) - 1, "componentType": _UINT, "count": 3 * len(t.faces), "type": "SCALAR"})
        meshes.append({"name": label, "primitives": [{"attributes": {"POSITION": len(accessors) - 2}, "indices": len(accessors) - 1}]})
    tree = {
        "asset": {"version": "2.0", "generator": "Notch Board"},
        "scene": 0,
        "scenes": [{"name": name, "nodes": list(range(len(meshes)))}],
        "nodes": [{"name": m["name"], "mesh": i} for i, m in enumerate(meshes)],
        "meshes": meshes,
        "accessors": accessors,
        "bufferViews": views,
        "buffers": [{"byteLength": len(data)}],
    }
    text = json.dumps(tree).encode()
    text += b" " * (-len(text) % 4)
    data += b"\0" * (-len(data) % 4)
    length = 12 + 8 + len(text) + 8 + len(data)
    return struct.pack("<4sII", b"glTF", 2, length) + struct.pack("<I4s", len(text), b"JSON") + text + struct.pack("<I4s", len(data), b"BIN\0") + bytes(data)
