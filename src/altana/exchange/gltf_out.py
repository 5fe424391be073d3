"""Cameras as nodes and walks as animations in glTF 2.0 (Khronos specification 2.0, chapters 3.10 and 3.11):
metres, y up."""

from __future__ import annotations

import base64
import json
import struct
from collections.abc import Sequence
from typing import Any

import numpy as np
import scipy

from altana.core.conventions import Floats, Vec3
from altana.exchange.travelling import Frame, Travelling, placement

#: From metres with z up to metres with y up.
TURN = np.array([[1.0, 0, 0], [0, 0, 1.0], [0, -1.0, 0]])
NEAREST_M = 0.01
FLOAT, SCALAR = 5126, "SCALAR"


def gltf_bytes(items: Sequence[Travelling], offset: Vec3, binary: bool) -> bytes:
    """A glTF file, text with its numbers inside, or binary (GLB).  offset : metres, what the model's file has
    been moved by.

    Eyes stand relative to one node that carries the offset, so that far from the origin nothing is lost in
    single precision.
    """
    blob = bytearray()
    root: dict[str, Any] = {
        "name": "Cameras",
        "translation": (TURN @ np.asarray(offset, float)).tolist(),
        "children": [],
    }
    document: dict[str, Any] = {
        "asset": {"version": "2.0", "generator": "Altana"},
        "scene": 0,
        "scenes": [{"nodes": [0]}],
        "nodes": [root],
        "cameras": [],
    }
    for item in items:
        node = len(document["nodes"])
        root["children"].append(node)
        eye, turn = _standing(item.first)
        document["nodes"].append(
            {
                "name": item.name,
                "camera": len(document["cameras"]),
                "translation": eye.tolist(),
                "rotation": turn.tolist(),
                "extras": _extras(item),
            }
        )
        document["cameras"].append(_camera(item))
        if len(item.frames) > 1:
            _animate(document, blob, item, node)
    return _written(document, bytes(blob), binary)


def _standing(frame: Frame) -> tuple[Floats, Floats]:
    """Place (3,) and turn (4,) as a quaternion x, y, z, w, y up."""
    world = placement(frame.view, (0.0, 0.0, 0.0))
    return TURN @ world[:3, 3], scipy.spatial.transform.Rotation.from_matrix(TURN @ world[:3, :3]).as_quat()


def _camera(item: Travelling) -> dict[str, Any]:
    view = item.first.view
    left, right, bottom, top = view.edges()
    # Without shift the frame lies evenly about the axis; with it this is the frame of the same size that
    # does.
    high = (top - bottom) / 2.0
    lens: dict[str, Any] = {
        "yfov": 2.0 * float(np.arctan(high)),
        "aspectRatio": (right - left) / (top - bottom),
        "znear": view.near_m or NEAREST_M,
    }
    if view.far_m is not None:
        lens["zfar"] = view.far_m
    return {"type": "perspective", "name": item.name, "perspective": lens}


def _extras(item: Travelling) -> dict[str, Any]:
    """What the format does not hold, in plain numbers."""
    view, lens = item.first.view, item.first.view.lens
    values: dict[str, Any] = {
        "focal_mm": lens.focal_mm,
        "sensor_mm": list(view.sensor_mm),
        "rise_mm": lens.rise_mm,
        "cross_mm": lens.cross_mm,
        "size_px": [view.width_px, view.height_px],
        "ev": item.first.ev,
    }
    values |= {name: value for name, value in (("intent", item.intent), ("note", item.note)) if value}
    values |= {
        name: value for name, value in (("near_m", view.near_m), ("far_m", view.far_m)) if value is not None
    }
    if item.focus_m is not None:
        values |= {"f_number": item.f_number, "focus_m": item.focus_m}
    if len(item.frames) > 1:
        values["rate"] = str(item.rate)
        if len({frame.view.lens for frame in item.frames}) > 1:
            values["frames"] = [
                [frame.view.lens.focal_mm, frame.view.lens.rise_mm, frame.view.lens.cross_mm]
                for frame in item.frames
            ]
    return values


def _animate(document: dict[str, Any], blob: bytearray, item: Travelling, node: int) -> None:
    """Keys at every film frame, with straight lines between."""
    both = [_standing(frame) for frame in item.frames]
    turns = np.array([turn for _, turn in both])
    # A turn and its negative are the same; the shorter way is between those that lie on the same side.
    flips = np.cumprod(np.where(np.einsum("ij,ij->i", turns[1:], turns[:-1]) < 0, -1.0, 1.0))
    turns[1:] *= flips[:, None]
    times = _accessor(document, blob, np.array([frame.seconds for frame in item.frames]), SCALAR, True)
    places = _accessor(document, blob, np.array([eye for eye, _ in both]), "VEC3")
    ways = _accessor(document, blob, turns, "VEC4")
    document.setdefault("animations", []).append(
        {
            "name": item.name,
            "samplers": [
                {"input": times, "output": output, "interpolation": "LINEAR"} for output in (places, ways)
            ],
            "channels": [
                {"sampler": number, "target": {"node": node, "path": path}}
                for number, path in enumerate(("translation", "rotation"))
            ],
        }
    )


def _accessor(
    document: dict[str, Any], blob: bytearray, values: Floats, kind: str, bounds: bool = False
) -> int:
    data = np.ascontiguousarray(values, "<f4")
    view = {"buffer": 0, "byteOffset": len(blob), "byteLength": data.nbytes}
    blob += data.tobytes()
    document.setdefault("bufferViews", []).append(view)
    accessor: dict[str, Any] = {
        "bufferView": len(document["bufferViews"]) - 1,
        "componentType": FLOAT,
        "count": len(data),
        "type": kind,
    }
    if bounds:
        accessor |= {"min": [float(data.min())], "max": [float(data.max())]}
    document.setdefault("accessors", []).append(accessor)
    return len(document["accessors"]) - 1


def _written(document: dict[str, Any], blob: bytes, binary: bool) -> bytes:
    if blob:
        document["buffers"] = [{"byteLength": len(blob)}]
        if not binary:
            text = base64.b64encode(blob).decode()
            document["buffers"][0]["uri"] = f"data:application/octet-stream;base64,{text}"
    data = json.dumps(document, ensure_ascii=False, allow_nan=False, indent=None if binary else 1).encode()
    if not binary:
        return data + b"\n"
    data += b" " * (-len(data) % 4)
    blob += b"\0" * (-len(blob) % 4)
    chunks = struct.pack("<II", len(data), 0x4E4F534A) + data
    if blob:
        chunks += struct.pack("<II", len(blob), 0x004E4942) + blob
    return struct.pack("<III", 0x46546C67, 2, 12 + len(chunks)) + chunks
