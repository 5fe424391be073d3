"""Closed shells: which side of each triangle is outside, however its winding was left."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt
import scipy

from altana.core.conventions import Bools, Floats, Floats32, Ints, Ints32
from altana.core.geometry.cross import crossed
from altana.core.geometry.edges import welded
from altana.core.model import Model

#: Less volume than this says nothing of which side is outside, m3.
LEAST_M3 = 1e-7


def outsides(model: Model) -> npt.NDArray[np.int8]:
    """(m,) for each triangle of a closed shell +1 where its winding faces outward, -1 where it faces inward;
    0 where there is no inside: sheets, shells with holes."""
    return shells_of(model)[0]


def shells_of(model: Model) -> tuple[npt.NDArray[np.int8], Ints]:
    """What ``outsides`` says, and (m,) the number of the shell that each triangle is of."""
    return shells_of_faces(model.vertices, model.faces, model.face_objects())


def shells_of_faces(vertices: Floats32, faces: Ints32, owner: Ints32) -> tuple[npt.NDArray[np.int8], Ints]:
    """The same of some triangles (m, 3) of objects ``owner`` (m,).

    Triangles that share an edge are brought to one winding first, as neighbours of a surface that can be
    oriented; then the sign of the volume (divergence theorem) says which way is out.
    """
    count = len(faces)
    if not count:
        return np.zeros(0, np.int8), np.zeros(0, np.int64)
    points, joined = welded(vertices, faces, owner)
    edge, runs_up, face = _edges(joined)
    _, number, uses = np.unique(edge, return_inverse=True, return_counts=True)
    first, second = _pairs(number, uses)
    turned, shell, fits = _wound(count, face[first], face[second], runs_up[first] == runs_up[second])
    shells = int(shell.max()) + 1
    # One lone edge anywhere, and the shell has no inside; where more than two triangles meet, it cannot be
    # told what belongs together.
    holed = np.bincount(shell[face], weights=uses[number] != 2, minlength=shells) > 0
    volume = _volume(points, joined) * turned
    whole = np.bincount(shell, weights=volume, minlength=shells)
    sense = np.where(np.abs(whole) < LEAST_M3, 0.0, np.sign(whole))
    sense[holed] = 0.0
    result: npt.NDArray[np.int8] = (sense[shell] * turned * fits[shell]).astype(np.int8)
    return result, shell


def _edges(faces: Ints) -> tuple[Ints, Bools, Ints]:
    """Every side of every triangle: its edge as one number, whether it runs from the lower to the higher
    corner, and its triangle."""
    start = faces.reshape(-1)
    end = faces[:, [1, 2, 0]].reshape(-1)
    low, high = np.minimum(start, end), np.maximum(start, end)
    return low * (int(faces.max()) + 1) + high, start < end, np.repeat(np.arange(len(faces)), 3)


def _pairs(number: Ints, uses: Ints) -> tuple[Ints, Ints]:
    """The two sides of every edge that has just two."""
    order = np.argsort(number, kind="stable")
    twice = uses == 2
    start = np.cumsum(uses) - uses
    return order[start[twice]], order[start[twice] + 1]


def _wound(count: int, first: Ints, second: Ints, against: Bools) -> tuple[Floats, Ints, Bools]:
    """(m,) +1 or -1 that brings neighbours to one winding; (m,) the shell of each triangle; per shell whether
    it can be done.

    Each triangle stands twice in one graph, as it is and turned over; neighbours that run against each other
    are joined crosswise.
    """
    a, b = np.concatenate([first, first + count]), np.concatenate([second, second + count])
    crosswise = np.concatenate([against, against])
    b = np.where(crosswise, (b + count) % (2 * count), b)
    graph = scipy.sparse.coo_array((np.ones(len(a), np.int8), (a, b)), shape=(2 * count, 2 * count))
    _, label = scipy.sparse.csgraph.connected_components(graph, directed=False)
    as_is, turned_over = label[:count].astype(np.int64), label[count:].astype(np.int64)
    low = np.minimum(as_is, turned_over)
    _, shell = np.unique(low, return_inverse=True)
    fits = np.ones(int(shell.max()) + 1, bool)
    # A band with a twist meets itself turned over: it has no sides.
    fits[shell[as_is == turned_over]] = False
    return np.where(as_is == low, 1.0, -1.0), shell.astype(np.int64), fits


def _volume(points: Floats, faces: Ints) -> Floats:
    # About a place near by, since far from the origin the volumes of single triangles would drown their sum.
    a, b, c = (points[faces[:, k]] - points.mean(axis=0) for k in range(3))
    volume: Floats = np.einsum("ij,ij->i", a, crossed(b, c)) / 6.0
    return volume
