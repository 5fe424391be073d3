"""A model's triangles as the placing of points of light needs them, and frames about directions."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from altana.core.conventions import Floats, Ints
from altana.core.geometry.cross import area_normals, crossed
from altana.core.model import Model


@dataclass(frozen=True, slots=True)
class Shape:
    """Per triangle: ``corners`` (m, 3, 3), ``normal`` (m, 3), ``area``, ``owner`` (m,)."""

    corners: Floats
    normal: Floats
    area: Floats
    owner: Ints

    @classmethod
    def of(cls, model: Model) -> Shape:
        """The triangles of a model, metres."""
        corners = model.vertices[model.faces].astype(float)
        cross = area_normals(corners)
        area = np.linalg.norm(cross, axis=1) / 2
        normal = cross / np.maximum(2 * area, 1e-20)[:, None]
        return cls(corners, normal, area, model.face_objects().astype(np.int64))


def frames(normal: Floats) -> Floats:
    """(n, 3, 3) two sides and the direction itself, as rows, of unit directions (n, 3)."""
    helper = np.where(np.abs(normal[:, 2:3]) > 0.9, (1.0, 0.0, 0.0), (0.0, 0.0, 1.0))
    side = crossed(helper, normal)
    side /= np.maximum(np.linalg.norm(side, axis=1, keepdims=True), 1e-12)
    return np.stack([side, crossed(normal, side), normal], axis=1)


def fan(count: int) -> Floats:
    """(count, 3) directions about +Z, denser towards it by the cosine: one even spiral (H. Vogel's)."""
    index = np.arange(count) + 0.5
    radius = np.sqrt(index / count)
    turn = index * np.pi * (3.0 - np.sqrt(5.0))
    return np.stack([radius * np.cos(turn), radius * np.sin(turn), np.sqrt(1.0 - radius**2)], axis=-1)
