"""Cross products, and what triangles make of them."""

from __future__ import annotations

from typing import TypeVar

import numpy as np

from altana.core.conventions import Floats, Floats32

#: The directions of the axes.
EAST, NORTH, UP = np.eye(3)
for _axis in (EAST, NORTH, UP):
    _axis.flags.writeable = False

#: Which coordinates a cross product multiplies for each of its own.
AFTER, BEFORE = [1, 2, 0], [2, 0, 1]

Vectors = TypeVar("Vectors", Floats, Floats32)


def crossed(a: Vectors, b: Vectors) -> Vectors:
    """(..., 3) the cross products of (..., 3) vectors; NumPy's own takes three times as long, and ten times
    for a few."""
    product: Vectors = a[..., AFTER] * b[..., BEFORE] - a[..., BEFORE] * b[..., AFTER]
    return product


def area_normals(corners: Vectors) -> Vectors:
    """(n, 3) normals of triangles (n, 3 corners, 3) by their winding, each as long as twice the area."""
    first: Vectors = corners[:, 0]
    one: Vectors = corners[:, 1] - first
    two: Vectors = corners[:, 2] - first
    return crossed(one, two)
