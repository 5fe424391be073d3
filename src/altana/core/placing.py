"""A model of the project at another place: turned about its own zero and moved, with its rooms, storeys,
lines, cameras and lamps."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from altana.core.conventions import Floats, Vec3, wrap_heading
from altana.core.model import FoundCamera, Lamp, Linework, Model, Room, Storey


def placed(model: Model, move: Vec3, turn_deg: float) -> Model:
    """The model moved by metres east, north and up, after it was turned clockwise (seen from above) about its
    zero.

    The model itself where nothing moves.
    """
    if not turn_deg and not any(move):
        return model
    angle = math.radians(-turn_deg)
    turned = np.array(
        [[math.cos(angle), -math.sin(angle), 0.0], [math.sin(angle), math.cos(angle), 0.0], [0.0, 0.0, 1.0]]
    )
    away = np.asarray(model.offset) if turn_deg else np.zeros(3)
    # What lies far from the origin is turned about the model's own zero, which lies as far from its shown
    # one.
    shift = turned @ away - away + np.asarray(move)
    x, y, z = shift.tolist()

    def point(at: Vec3) -> Vec3:
        a, b, c = (turned @ np.asarray(at) + shift).tolist()
        return (a, b, c)

    lines = model.linework
    return replace(
        model,
        vertices=(model.vertices @ turned.T.astype(np.float32) + shift.astype(np.float32)).astype(np.float32),
        normals=(model.normals @ turned.T.astype(np.float32)).astype(np.float32),
        linework=Linework((lines.points @ turned.T + shift).astype(np.float32), lines.layer, lines.layers),
        storeys=tuple(Storey(item.id, item.name, item.elevation_m + z) for item in model.storeys),
        rooms=tuple(_room(item, turned, x, y, z) for item in model.rooms),
        cameras=tuple(_camera(item, point(item.eye), turn_deg) for item in model.cameras),
        lamps=tuple(_lamp(item, point(item.place), turned) for item in model.lamps),
    )


def _room(room: Room, turned: Floats, x: float, y: float, z: float) -> Room:
    flat = np.asarray(room.outline) @ turned[:2, :2].T + (x, y)
    outline = tuple((float(a), float(b)) for a, b in flat)
    return replace(room, outline=outline, floor_m=room.floor_m + z, ceiling_m=room.ceiling_m + z)


def _lamp(lamp: Lamp, place: Vec3, turned: Floats) -> Lamp:
    if lamp.direction is None:
        return replace(lamp, place=place)
    x, y, z = (turned @ np.asarray(lamp.direction)).tolist()
    return replace(lamp, place=place, direction=(x, y, z))


def _camera(camera: FoundCamera, eye: Vec3, turn_deg: float) -> FoundCamera:
    return replace(camera, eye=eye, heading_deg=wrap_heading(camera.heading_deg + turn_deg))
