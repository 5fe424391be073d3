"""Coarser versions of finely meshed objects, for when they are small in the picture.

Corners of an object that lie in the same cell of a grid over its box become one of them (J. Rossignac and P.
Borrel, "Multi-resolution 3D approximations for rendering complex scenes", 1993); triangles that lose a corner
so are gone.  No corner is new, so the same buffers serve.
"""

from __future__ import annotations

import numpy as np

from altana.core.conventions import Bools, Floats, Ints, Ints32
from altana.core.model import Model

#: Cells along each side of an object's box, and from how many triangles on an object has a coarser version.
CELLS, FINE = 7, 160
#: Only models of more triangles than this need them.
MANY = 600_000


def coarser(model: Model, low: Floats, high: Floats, wanted: Bools | None = None) -> tuple[Ints32, Ints]:
    """Faces (k, 3) of all coarser versions, object after object, and how many each object has (0 for none).

    low, high : (objects, 3) boxes of the objects.  wanted : (objects,) which are looked at, where not all
    are.
    """
    counts = np.zeros(len(model.objects), np.int64)
    if len(model.faces) < MANY:
        return np.zeros((0, 3), np.int32), counts
    groups = []
    for number, item in enumerate(model.objects):
        if item.face_count < FINE or (wanted is not None and not wanted[number]):
            continue
        faces = _clustered(
            model, model.faces[item.first_face : item.first_face + item.face_count], low[number], high[number]
        )
        if len(faces) < 0.5 * item.face_count:
            groups.append(faces)
            counts[number] = len(faces)
    return (np.concatenate(groups) if groups else np.zeros((0, 3), np.int32)), counts


def _clustered(model: Model, faces: Ints32, low: Floats, high: Floats) -> Ints32:
    # A large thing that is finely meshed gets a finer grid, so that about a twentieth of its triangles stay.
    cells = max(CELLS, round((len(faces) / 20.0 / 6.0) ** 0.5))
    step = np.maximum((high - low) / cells, 1e-9)
    first, last = int(faces.min()), int(faces.max()) + 1
    at = np.clip(((model.vertices[first:last] - low) / step).astype(np.int64), 0, cells - 1)
    cell = (at[:, 2] * cells + at[:, 1]) * cells + at[:, 0]
    own = np.zeros(cells**3, np.int64) if cells <= 200 else None
    if own is not None:
        own[cell[::-1]] = np.arange(last - 1, first - 1, -1)
        corners = own[cell[faces - first]]
    else:
        _, where, index = np.unique(cell, return_index=True, return_inverse=True)
        corners = (where[index] + first)[faces - first]
    kept = corners[
        (corners[:, 0] != corners[:, 1]) & (corners[:, 1] != corners[:, 2]) & (corners[:, 2] != corners[:, 0])
    ]
    ordered = np.sort(kept, axis=1)
    _, once = np.unique(
        ordered[:, 0] * np.int64(last) * 3 + ordered[:, 1] * np.int64(2) + ordered[:, 2] * np.int64(7919),
        return_index=True,
    )
    faces32: Ints32 = kept[once].astype(np.int32)
    return faces32
