"""What a reloaded model changed, as a whole and in each camera's view."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from altana.core.distinct import distinct
from altana.core.model import Model

#: Fewer pixels than this share of a picture are no change one could see.
VISIBLE_SHARE = 0.0004

#: What a camera sees: object id to the share of the picture it takes.
Seen = Mapping[str, float]


@dataclass(frozen=True, slots=True)
class Changes:
    """Names by id of the objects that came, went, or have another shape, place or material."""

    added: dict[str, str]
    removed: dict[str, str]
    altered: dict[str, str]

    def __bool__(self) -> bool:
        return bool(self.added or self.removed or self.altered)


@dataclass(frozen=True, slots=True)
class ViewChange:
    """One camera: what changed in its view, in words, and the share of the picture concerned (0 to 1)."""

    camera_id: str
    lines: tuple[str, ...]
    share: float


def fingerprints(model: Model) -> dict[str, str]:
    """A digest of every object's triangles and materials, by id."""
    materials = [f"{m.name}|{m.colour}|{m.kind}".encode() for m in model.materials]
    prints = {}
    for item in model.objects:
        faces = slice(item.first_face, item.first_face + item.face_count)
        corners = np.round(model.vertices[model.faces[faces]].astype(float) + np.asarray(model.offset), 3)
        digest = hashlib.blake2b(np.ascontiguousarray(corners).tobytes(), digest_size=12)
        for index in distinct(model.face_material[faces]).tolist():
            digest.update(materials[index])
        prints[item.id] = digest.hexdigest()
    return prints


def compare(before: Model, after: Model) -> Changes:
    """What came, went and was altered between two readings of a project's models."""
    old, new = fingerprints(before), fingerprints(after)
    old_names = {item.id: item.name for item in before.objects}
    new_names = {item.id: item.name for item in after.objects}
    return Changes(
        {i: n for i, n in new_names.items() if i not in old},
        {i: n for i, n in old_names.items() if i not in new},
        {i: n for i, n in new_names.items() if i in old and old[i] != new[i]},
    )


def seen_shares(model: Model, object_index: np.ndarray) -> dict[str, float]:
    """The share of a picture of object numbers that each object takes."""
    counts = np.bincount(object_index[object_index >= 0].ravel(), minlength=len(model.objects))
    return {
        model.objects[number].id: float(counts[number]) / object_index.size
        for number in np.flatnonzero(counts).tolist()
    }


def in_view(camera_id: str, changes: Changes, before: Seen, after: Seen) -> ViewChange:
    """What of the changes one camera sees, and what else is newly hidden or uncovered by them."""
    lines: list[str] = []
    share = 0.0
    for words, names, seen in (("new", changes.added, after), ("gone", changes.removed, before)):
        for object_id, name in names.items():
            if seen.get(object_id, 0.0) >= VISIBLE_SHARE:
                lines.append(f"{name}: {words}, {seen[object_id] * 100:.1f} % of the picture")
                share += seen[object_id]
    for object_id, name in changes.altered.items():
        most = max(before.get(object_id, 0.0), after.get(object_id, 0.0))
        if most >= VISIBLE_SHARE:
            lines.append(f"{name}: altered, {most * 100:.1f} % of the picture")
            share += most
    return ViewChange(camera_id, tuple(lines), min(1.0, share))
