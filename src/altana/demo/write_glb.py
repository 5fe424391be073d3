"""The demo as one textured binary glTF.

Each element is a node named after it, with its category and storey as extras; the scene's extras carry
storeys and rooms (see docs/formats.md).  glTF is Y up, so the root node turns the model.
"""

from __future__ import annotations

import json
import math
import struct
from collections.abc import Sequence
from pathlib import Path

import numpy as np
import trimesh
from trimesh.visual import TextureVisuals
from trimesh.visual.material import PBRMaterial

from altana.core.camera.pose import Pose
from altana.demo.site import SPACES, STOREYS, Element
from altana.demo.textures import SURFACES, Surface, picture

Y_UP_FROM_Z_UP = np.array([[1.0, 0, 0, 0], [0, 0, 1, 0], [0, -1, 0, 0], [0, 0, 0, 1]])


def _material(surface: Surface) -> PBRMaterial:
    clear = surface.colour[3] < 1.0
    linear = [*(value**2.2 for value in surface.colour[:3]), surface.colour[3]]
    return PBRMaterial(  # type: ignore[no-untyped-call]
        name=surface.name,
        baseColorFactor=None if surface.pattern else [round(v * 255) for v in linear],
        baseColorTexture=picture(surface) if surface.pattern else None,
        roughnessFactor=surface.roughness,
        metallicFactor=0.0,
        alphaMode="BLEND" if clear else "OPAQUE",
        doubleSided="leaves" in surface.name,
    )


def write_glb(path: Path, elements: Sequence[Element]) -> None:
    """Write the elements; the same description always gives the same bytes."""
    materials = {name: _material(surface) for name, surface in SURFACES.items()}
    scene = trimesh.Scene(base_frame="Larkwater")
    scene.metadata["altana"] = {
        "storeys": [{"name": name, "elevation_m": elevation} for name, elevation in STOREYS],
        "rooms": [
            {
                "name": s.name,
                "storey": s.storey,
                "floor_m": s.floor,
                "ceiling_m": s.ceiling,
                "outline": _outline(s.rect),
            }
            for s in SPACES
        ],
    }
    scene.graph.update("Terminal", matrix=Y_UP_FROM_Z_UP)  # type: ignore[no-untyped-call]
    for element in elements:
        for index, piece in enumerate(element.pieces):
            surface = SURFACES[piece.surface]
            scale = surface.tile_m or 1.0
            mesh = trimesh.Trimesh(
                piece.mesh.vertices,
                piece.mesh.faces,
                vertex_normals=piece.mesh.normals,
                visual=TextureVisuals(piece.mesh.uvs / scale, material=materials[piece.surface]),  # type: ignore[no-untyped-call]
                process=False,
                metadata={"object": element.name, "category": element.category, "storey": element.storey},
            )
            name = element.name if index == 0 else f"{element.name} · {piece.surface}"
            scene.add_geometry(mesh, node_name=name, geom_name=name, parent_node_name="Terminal")
    data = trimesh.exchange.gltf.export_glb(scene, include_normals=True, extension_webp=False)  # type: ignore[no-untyped-call]
    path.write_bytes(_with_cameras(data))


#: Cameras that came with the model: name, eye, heading, tilt (degrees), focal length (mm).
CAMERAS = (
    ("Architect's view of the forecourt", (18.0, -16.0, 1.45), 322.0, 4.0, 30.0),
    ("Model view 02", (11.6, 2.2, 1.7), 318.0, 0.0, 20.0),
)


def _with_cameras(data: bytes) -> bytes:
    """The same file with the cameras that an architect left in it."""
    length = struct.unpack_from("<I", data, 12)[0]
    tree = json.loads(data[20 : 20 + length])
    terminal = next(node for node in tree["nodes"] if node.get("name") == "Terminal")
    for name, eye, heading, tilt, focal in CAMERAS:
        right, up, forward = Pose(eye, heading, tilt).axes()
        matrix = np.eye(4)
        matrix[:3, :4] = np.column_stack([right, up, -forward, eye])
        high = 2 * math.atan(36.0 * 9 / 16 / 2 / focal)
        tree.setdefault("cameras", []).append(
            {
                "type": "perspective",
                "name": name,
                "perspective": {"yfov": high, "aspectRatio": 16 / 9, "znear": 0.1},
            }
        )
        tree["nodes"].append(
            {"name": name, "camera": len(tree["cameras"]) - 1, "matrix": matrix.T.ravel().tolist()}
        )
        terminal.setdefault("children", []).append(len(tree["nodes"]) - 1)
    head = json.dumps(tree, separators=(",", ":")).encode()
    head += b" " * (-len(head) % 4)
    rest = data[20 + length :]
    return struct.pack("<4sIIII", b"glTF", 2, 20 + len(head) + len(rest), len(head), 0x4E4F534A) + head + rest


def _outline(rect: tuple[float, float, float, float]) -> list[list[float]]:
    x0, y0, x1, y1 = rect
    return [[x0, y0], [x1, y0], [x1, y1], [x0, y1]]
