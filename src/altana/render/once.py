"""Surfaces that stand in a model many times go to the card once: which corners and triangles those are, and
where their copies stand."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Bools, Ints, Ints32
from altana.core.geometry.copies import Copies, copies_of, vertex_ranges
from altana.core.model import Model

if TYPE_CHECKING:
    from altana.render.upload import Batches

#: Copies are worth their reckoning where they are at least this share of all triangles.
WORTH_WHILE = 0.2
PLACE = np.dtype([("rows", "12f4"), ("copy", "u4")])


@dataclass(frozen=True, slots=True)
class Once:
    """``corners`` (n,) numbers of the vertices that are kept; ``shift`` (objects,) how far those of an object
    have moved forward; ``first`` (objects,) the first triangle of each object among those that are kept, that
    of its original for copies."""

    copies: Copies
    kept: Bools
    corners: Ints
    shift: Ints
    first: Ints
    face_count: int

    def ids(self, model: Model) -> npt.NDArray[np.uint32]:
        """(n, 2) material and object of each kept vertex."""
        ids = np.zeros((len(self.corners), 2), np.uint32)
        for number in np.flatnonzero(self.kept).tolist():
            item = model.objects[number]
            mine = slice(item.first_face, item.first_face + item.face_count)
            faces = model.faces[mine] - self.shift[number]
            ids[faces, 0] = model.face_material[mine, None]
            ids[faces, 1] = number
        return ids

    def faces(self, model: Model, owner: Ints32, some: slice | Ints) -> Ints:
        """(k, 3) corners, counted among those that are kept, of the kept ones among some triangles.  owner :
        ``model.face_objects``."""
        owner = owner[some]
        kept = self.kept[owner]
        own_faces: Ints = model.faces[some][kept] - self.shift[owner[kept], None]
        return own_faces

    def moved(self, faces: npt.NDArray[np.integer], counts: Ints) -> Ints:
        """(k, 3) the same for triangles that lie object after object, so many of each."""
        moved_faces: Ints = faces - np.repeat(self.shift, counts)[:, None]
        return moved_faces

    def shared(self, batches: Batches, model: Model) -> Batches:
        """Index ranges with those of their originals for copies."""
        begins = np.array([item.first_face for item in model.objects], np.int64)
        within = batches.first // 3 - begins[batches.owner]
        original = self.copies.of[batches.owner]
        # The coarser version of a copy is that of its original, which has only one range where it has one at
        # all.
        alone = np.full(len(model.objects), -1, np.int64)
        alone[batches.owner] = np.arange(len(batches.owner))
        coarse = alone[original]
        return replace(
            batches,
            first=3 * (self.first[batches.owner] + within),
            coarse_first=batches.coarse_first[coarse],
            coarse_count=batches.coarse_count[coarse],
            place=np.where(self.kept[batches.owner], 0, 1 + batches.owner),
        )

    def rows(self) -> npt.NDArray[np.void]:
        """A row for what stands as it is, and one for each object."""
        rows = np.zeros(1 + len(self.kept), PLACE)
        rows["rows"][0] = np.eye(3, 4).reshape(-1)
        rows["rows"][1:] = self.copies.place.reshape(-1, 12)
        rows["copy"][1:] = np.arange(1, 1 + len(self.kept))
        return rows


def packed_once(model: Model) -> Once | None:
    """What of a model is kept; None where hardly anything stands in it twice."""
    copies = copies_of(model)
    kept = copies.own
    faces = np.array([item.face_count for item in model.objects], np.int64)
    if faces[~kept].sum() < WORTH_WHILE * max(1, len(model.faces)):
        return None
    low, high = vertex_ranges(model)
    gone = np.zeros(len(model.vertices) + 1, np.int64)
    np.add.at(gone, low[~kept], 1)
    np.add.at(gone, high[~kept], -1)
    away: Bools = np.cumsum(gone)[:-1] > 0
    before: Ints = np.cumsum(away)
    # Objects that share vertices with others are never copies, and nothing of theirs is gone.
    begins = np.array(
        [int(model.faces[item.first_face].min()) if item.face_count else 0 for item in model.objects],
        np.int64,
    )
    shift = before[np.minimum(begins, len(before) - 1)]
    first = np.cumsum(np.where(kept, faces, 0)) - np.where(kept, faces, 0)
    return Once(copies, kept, np.flatnonzero(~away), shift, first[copies.of], int(faces[kept].sum()))
