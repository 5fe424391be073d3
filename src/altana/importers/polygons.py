"""Faces of any number of corners as triangles: concave ones and ones with holes as they are drawn, not as a
fan.

A face is laid flat along the direction of its area (Newell's formula) and cut into triangles by clipping its
ears; the winding stays.
"""

from __future__ import annotations

from collections.abc import Sequence

import mapbox_earcut
import numpy as np

from altana.core.conventions import Floats, Ints
from altana.core.distinct import distinct
from altana.core.geometry.cross import crossed


def triangles_of(points: Floats, counts: Ints, corners: Ints) -> tuple[Ints, Ints]:
    """Triangles of many faces.

    points : (n, 3).  counts : (faces,) corners of each face.  corners : (sum of counts,) point numbers, face
    after face. Returns (m, 3) places in ``corners`` and (m,) the face each triangle came from; faces of fewer
    than three corners give none.
    """
    counts = np.asarray(counts, np.int64)
    corners = np.asarray(corners, np.int64)
    starts = np.cumsum(counts) - counts
    three = np.flatnonzero(counts == 3)
    parts = [starts[three][:, None] + np.arange(3)]
    owner = [three]
    for count in distinct(counts[counts > 3]).tolist():
        faces = np.flatnonzero(counts == count)
        at = starts[faces][:, None] + np.arange(count)
        place = np.asarray(points, float)[corners[at]]
        bulging = _convex(place)
        fan = np.stack([np.zeros(count - 2, np.int64), np.arange(1, count - 1), np.arange(2, count)], axis=1)
        parts.append(at[bulging][:, fan].reshape(-1, 3))
        owner.append(np.repeat(faces[bulging], count - 2))
        for row in np.flatnonzero(~bulging).tolist():
            cut = ear_clipped(place[row], ())
            parts.append(at[row][cut])
            owner.append(np.full(len(cut), faces[row]))
    triangles, face = np.concatenate(parts), np.concatenate(owner)
    order = np.argsort(face, kind="stable")
    return triangles[order], face[order]


def area_vector(ring: Floats) -> Floats:
    """(3,) twice the area of a ring of (n, 3) points, along the side it is seen from anticlockwise
    (Newell)."""
    middle = ring - ring.mean(axis=0)
    total: Floats = crossed(middle, np.roll(middle, -1, axis=0)).sum(axis=0)
    return total


def _convex(place: Floats) -> np.ndarray:
    """(faces,) bool: faces (faces, corners, 3) that bulge out all round, in one plane or nearly."""
    following = np.arange(1, place.shape[1] + 1) % place.shape[1]
    ahead = place[:, following] - place
    turn = crossed(ahead, ahead[:, following])
    middle = place - place.mean(axis=1, keepdims=True)
    whole = crossed(middle, middle[:, following]).sum(axis=1)
    size = np.sqrt(np.einsum("fk,fk->f", whole, whole))[:, None]
    bulge = np.einsum("fck,fk->fc", turn, whole / np.maximum(size, 1e-300))
    # Corners that turn the same way may still wind twice round (a star); its area then falls short of its
    # turns.  Four corners cannot.
    is_convex: np.ndarray = (bulge >= -1e-9 * size).all(axis=1)
    if place.shape[1] > 4 and is_convex.any():
        is_convex &= _turns(ahead, turn, whole / np.maximum(size, 1e-300), following) < 1.5
    return is_convex


def _turns(ahead: Floats, turn: Floats, up: Floats, following: Ints) -> Floats:
    """(faces,) how often the edges (faces, corners, 3) of faces turn round ``up`` (faces, 3)."""
    sine = np.einsum("fck,fk->fc", turn, up)
    cosine = np.einsum("fck,fck->fc", ahead, ahead[:, following])
    turns: Floats = np.abs(np.arctan2(sine, cosine).sum(axis=1)) / (2 * np.pi)
    return turns


def ear_clipped(outer: Floats, holes: Sequence[Floats]) -> Ints:
    """(m, 3) corner numbers of a face with holes, wound as the outer ring; corners count on from ring to
    ring.

    outer : (n, 3), holes : rings of (k, 3).  A ring without area gives no triangles.
    """
    whole = area_vector(outer)
    size = np.linalg.norm(whole)
    if not size > 0:
        return np.zeros((0, 3), np.int64)
    axis = int(np.argmax(np.abs(whole)))
    # Seen along the axis of the largest share; the order of the other two keeps the sense.
    across, up = ((1, 2), (2, 0), (0, 1))[axis]
    if whole[axis] < 0:
        across, up = up, across
    rings = [outer, *holes]
    flat = np.concatenate(rings)[:, [across, up]]
    ends = np.cumsum([len(ring) for ring in rings]).astype(np.uint32)
    cut = np.asarray(
        mapbox_earcut.triangulate_float64(np.ascontiguousarray(flat - flat.mean(axis=0), np.float64), ends),
        np.int64,
    ).reshape(-1, 3)
    a, b, c = (flat[cut[:, k]] for k in range(3))
    clockwise = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0]) < 0
    cut[clockwise] = cut[clockwise][:, ::-1]
    return cut
