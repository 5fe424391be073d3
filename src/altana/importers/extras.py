"""What mesh files hold besides meshes: lines and points as linework, and cameras, which are offered and never mixed in."""

from __future__ import annotations

import io
import json
import math
import struct
import warnings
from typing import Any

import collada
import numpy as np

from altana.core.conventions import FULL_FRAME_WIDTH_MM, Floats, wrap_heading
from altana.core.model import FoundCamera, Problem
from altana.importers.build import RawModel

#: A point is drawn as a small cross of this half length.
CROSS_M = 0.05
MOST_FOUND = 200


def as_camera(name: str, world: Floats, across_deg: float, aspect: float) -> FoundCamera | None:
    """A camera from its (4, 4) placement (x right, y up, looking along -z) and its angle of view across; None when damaged."""
    axes = world[:3, :3] / np.maximum(np.linalg.norm(world[:3, :3], axis=0), 1e-12)
    right, ahead = axes[:, 0], -axes[:, 2]
    if not (np.isfinite(world).all() and 1.0 < across_deg < 170.0 and 0.02 < aspect < 50.0):
        return None
    heading = math.degrees(math.atan2(ahead[0], ahead[1])) if math.hypot(ahead[0], ahead[1]) > 1e-9 else 0.0
    tilt = math.degrees(math.asin(max(-1.0, min(1.0, float(ahead[2])))))
    turn, lift = math.radians(heading), math.radians(tilt)
    level = np.array([math.cos(turn), -math.sin(turn), 0.0])
    up = np.array([-math.sin(turn) * math.sin(lift), -math.cos(turn) * math.sin(lift), math.cos(lift)])
    roll = math.degrees(math.atan2(-float(right @ up), float(right @ level)))
    focal = FULL_FRAME_WIDTH_MM / (2.0 * math.tan(math.radians(across_deg) / 2))
    width, height = (1920, max(16, round(1920 / aspect))) if aspect >= 1 else (max(16, round(1920 * aspect)), 1920)
    x, y, z = world[:3, 3].tolist()
    clean = [0.0 if abs(value) < 1e-6 else value for value in (tilt, roll)]
    return FoundCamera(name, (x, y, z), wrap_heading(round(heading, 9)), clean[0], clean[1], focal, width, height)


def crosses(points: Floats) -> Floats:
    """(2n, 2, 3): a small level cross for each of (n, 3) points."""
    arms = np.array([[[-CROSS_M, 0, 0], [CROSS_M, 0, 0]], [[0, -CROSS_M, 0], [0, CROSS_M, 0]]])
    return (np.asarray(points, float)[:, None, None, :] + arms[None]).reshape(-1, 2, 3)


def _chained(points: Floats) -> Floats:
    """(n - 1, 2, 3): the segments of a chain of (n, 3) points."""
    return np.stack([points[:-1], points[1:]], axis=1)


def read_gltf_extras(suffix: str, data: bytes, scene: Any, matrix: Floats, raw: RawModel) -> None:
    """Lines, points and cameras of a glTF file."""
    for node in scene.graph.nodes_geometry:
        transform, geometry = scene.graph[node]
        if geometry not in scene.drawn:
            continue
        world = matrix @ transform
        vertices, chains = scene.drawn[geometry]
        points = np.asarray(vertices, float) @ world[:3, :3].T + world[:3, 3]
        if chains is None:
            raw.add_lines(str(node), crosses(points))
        else:
            for chain in chains:
                raw.add_lines(str(node), _chained(points[np.asarray(chain.points, int)]))
    _gltf_cameras(suffix, data, matrix, raw)


def _gltf_cameras(suffix: str, data: bytes, matrix: Floats, raw: RawModel) -> None:
    head = data if suffix == "gltf" else data[20 : 20 + struct.unpack_from("<I", data, 12)[0]]
    tree = json.loads(head)
    nodes, lenses = tree.get("nodes") or [], tree.get("cameras") or []
    if not lenses:
        return
    waiting = [(index, np.eye(4), 0) for scene in tree.get("scenes") or [] for index in scene.get("nodes") or []]
    while waiting and len(raw.cameras) < MOST_FOUND:
        index, above, depth = waiting.pop()
        node = nodes[index]
        world = above @ _gltf_matrix(node)
        if depth < 100:
            waiting += [(child, world, depth + 1) for child in node.get("children") or []]
        if "camera" not in node:
            continue
        lens = lenses[node["camera"]].get("perspective")
        if lens is None:
            raw.problems.append(
                Problem("camera-skipped", f"“{node.get('name', 'A camera')}” in the file is a parallel view and is not offered.")
            )
            continue
        aspect = float(lens.get("aspectRatio") or 16 / 9)
        across = 2 * math.degrees(math.atan(math.tan(float(lens["yfov"]) / 2) * aspect))
        made = as_camera(str(node.get("name") or lenses[node["camera"]].get("name") or "Camera"), matrix @ world, across, aspect)
        if made is not None:
            raw.cameras.append(made)


def _gltf_matrix(node: dict[str, Any]) -> Floats:
    if "matrix" in node:
        return np.array(node["matrix"], float).reshape(4, 4).T
    x, y, z, w = (float(value) for value in node.get("rotation", (0, 0, 0, 1)))
    matrix = np.eye(4)
    matrix[:3, :3] = np.array(
        [
            [1 - 2 * (y * y + z * z), 2 * (x * y - z * w), 2 * (x * z + y * w)],
            [2 * (x * y + z * w), 1 - 2 * (x * x + z * z), 2 * (y * z - x * w)],
            [2 * (x * z - y * w), 2 * (y * z + x * w), 1 - 2 * (x * x + y * y)],
        ]
    ) * np.asarray(node.get("scale", (1, 1, 1)), float)
    matrix[:3, 3] = node.get("translation", (0, 0, 0))
    return matrix


def read_obj_lines(data: bytes, matrix: Floats, raw: RawModel) -> None:
    """The ``l`` and ``p`` elements of an OBJ file, by the group they stand in."""
    if b"\nl " not in data and b"\np " not in data:
        return
    points: list[list[float]] = []
    found: dict[str, list[Floats]] = {}
    layer = "Lines"
    for line in data.decode("utf-8", "replace").splitlines():
        words = line.split()
        if not words:
            continue
        if words[0] == "v":
            points.append([float(value) for value in words[1:4]])
        elif words[0] in ("o", "g") and len(words) > 1:
            layer = " ".join(words[1:])
        elif words[0] in ("l", "p"):
            numbers = [int(word.split("/")[0]) for word in words[1:]]
            place = np.array([points[n - 1 if n > 0 else n] for n in numbers], float).reshape(-1, 3)
            found.setdefault(layer, []).append(_chained(place) if words[0] == "l" else crosses(place))
    for name, parts in found.items():
        joined = np.concatenate(parts)
        raw.add_lines(name, joined @ matrix[:3, :3].T + matrix[:3, 3])


def read_dae_extras(data: bytes, matrix: Floats, raw: RawModel) -> None:
    """Lines and cameras of a COLLADA file."""
    if b"<lines" not in data and b"<linestrips" not in data and b"<library_cameras" not in data:
        return
    with warnings.catch_warnings():
        # The library still places cameras with a class of matrices that its own base warns of.
        warnings.simplefilter("ignore", PendingDeprecationWarning)
        _dae_scene(collada.Collada(io.BytesIO(data), ignore=[collada.common.DaeError]).scene, matrix, raw)


def _dae_scene(scene: Any, matrix: Floats, raw: RawModel) -> None:
    if scene is None:
        return
    for bound in scene.objects("geometry"):
        for part in bound.primitives():
            if isinstance(part, collada.lineset.BoundLineSet) and part.vertex is not None and part.vertex_index is not None:
                points = np.asarray(part.vertex, float)[np.asarray(part.vertex_index, int)]
                raw.add_lines(str(bound.original.name or "Lines"), points @ matrix[:3, :3].T + matrix[:3, 3])
    for bound in scene.objects("camera"):
        _dae_camera(bound, matrix, raw)


def _dae_camera(bound: Any, matrix: Floats, raw: RawModel) -> None:
    if not hasattr(bound, "xfov"):
        return
    aspect = float(bound.aspect_ratio or 16 / 9)
    across = bound.xfov
    if across is None and bound.yfov is not None:
        across = 2 * math.degrees(math.atan(math.tan(math.radians(float(bound.yfov)) / 2) * aspect))
    if across is None or len(raw.cameras) >= MOST_FOUND:
        return
    world = matrix @ np.asarray(bound.matrix, float)
    made = as_camera(str(bound.original.id or "Camera"), world, float(across), aspect)
    if made is not None:
        raw.cameras.append(made)
