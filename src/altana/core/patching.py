"""Mends of ours on the model: plain panels, a ceiling carried on, ground to the horizon.

They join the model as objects of their own category, so that pictures, light, drawings and checks take them
as they take everything else; the model's files are never changed, and each mend can be taken back.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from altana.core.checks.gaps import Gap, ground_level
from altana.core.conventions import Vec3
from altana.core.errors import Refused
from altana.core.geometry.cross import crossed
from altana.core.model import Material, Model, SceneObject, corner_normals
from altana.core.project import CEILING, GROUND, PANEL, Patch, Project, free_name, next_id

CATEGORY = "Mend of ours"
LOOKS = {
    PANEL: Material("Plain panel", (0.82, 0.80, 0.76, 1.0), roughness=0.9),
    CEILING: Material("Plain ceiling", (0.86, 0.85, 0.83, 1.0), roughness=0.9),
    GROUND: Material("Plain ground", (0.47, 0.49, 0.42, 1.0), roughness=0.95),
}
#: Plain ground reaches this far from the model's middle: at eye height it ends within a pixel of the horizon.
HORIZON_M = 3_000.0
FEWEST_CORNERS, MOST_CORNERS = 3, 64


def checked_patch(patch: Patch) -> Patch:
    """The patch itself, or Refused with a sentence."""
    if patch.kind not in LOOKS:
        raise Refused(f"“{patch.kind}” is no kind of mend. Kinds: {', '.join(LOOKS)}.")
    if not FEWEST_CORNERS <= len(patch.corners) <= MOST_CORNERS:
        raise Refused(f"A mend has {FEWEST_CORNERS} to {MOST_CORNERS} corners.")
    if (
        not all(abs(value) < 1e6 for corner in patch.corners for value in corner)
        or not 0.0 < patch.thickness_m < 100.0
    ):
        raise Refused("A mend has finite corners and a thickness.")
    if np.linalg.norm(_normal(np.array(patch.corners))) < 1e-9:
        raise Refused("The corners of a mend span a surface.")
    return patch


def _normal(corners: np.ndarray) -> np.ndarray:
    """Newell's sum over the edges: twice the area along the normal."""
    following = np.roll(corners, -1, axis=0)
    return np.asarray(crossed(corners - corners[0], following - corners[0]).sum(axis=0))


def _body(patch: Patch) -> tuple[np.ndarray, np.ndarray]:
    """Vertices and triangles of the closed flat body, behind the side on which the corners run
    counter-clockwise."""
    front = np.array(patch.corners, float)
    normal = _normal(front)
    normal = normal / np.linalg.norm(normal)
    count = len(front)
    back = front - normal * patch.thickness_m
    fan = [(0, i, i + 1) for i in range(1, count - 1)]
    faces = [*fan, *[(count + a, count + c, count + b) for a, b, c in fan]]
    for i in range(count):
        j = (i + 1) % count
        faces += [(i, count + i, count + j), (i, count + j, j)]
    return np.concatenate([front, back]).astype(np.float32), np.array(faces, np.int32)


def with_patches(model: Model, patches: Sequence[Patch]) -> Model:
    """The model with the mends that are on as further objects."""
    wanted = [item for item in patches if item.on]
    if not wanted:
        return model
    vertices, normals, faces, looks, objects = (
        [model.vertices],
        [model.normals],
        [model.faces],
        [model.face_material],
        [],
    )
    materials = list(model.materials)
    at, first = len(model.vertices), len(model.faces)
    for patch in wanted:
        points, triangles = _body(patch)
        normal, corners, source = corner_normals(points, triangles)
        look = LOOKS[patch.kind]
        if look not in materials:
            materials.append(look)
        vertices.append(points[source])
        normals.append(normal)
        faces.append(corners + np.int32(at))
        looks.append(np.full(len(corners), materials.index(look), np.int32))
        storey = model.storey_below(float(points[:, 2].min()) + 0.5)
        objects.append(
            SceneObject(
                f"mend:{patch.id}", patch.name, CATEGORY, storey.id if storey else "", first, len(corners)
            )
        )
        at += len(source)
        first += len(corners)
    stacked = np.concatenate(vertices)
    added = len(stacked) - len(model.uvs)
    return replace(
        model,
        vertices=stacked,
        normals=np.concatenate(normals),
        uvs=np.concatenate([model.uvs, np.zeros((added, 2), np.float32)]),
        faces=np.concatenate(faces),
        face_material=np.concatenate(looks),
        objects=(*model.objects, *objects),
        materials=tuple(materials),
    )


def add_patch(project: Project, kind: str, corners: Sequence[Vec3], name: str = "") -> tuple[Project, str]:
    """Put a mend on the model; the project and the mend's id.  Raises Refused."""
    patch_id = next_id("mend", tuple(item.id for item in project.patches))
    label = free_name(name or kind.capitalize(), tuple(item.name for item in project.patches))
    thickness = 1.0 if kind == GROUND else 0.02
    patch = checked_patch(Patch(patch_id, label, kind, tuple(corners), thickness))
    return replace(project, patches=(*project.patches, patch)), patch_id


def remove_patch(project: Project, patch_id: str) -> Project:
    """Take a mend back.  Raises Refused where there is none of that id or name."""
    kept = tuple(item for item in project.patches if patch_id not in (item.id, item.name))
    if len(kept) == len(project.patches):
        known = ", ".join(f"“{item.name}”" for item in project.patches) or "none"
        raise Refused(f"There is no mend “{patch_id}”. Mends: {known}.")
    return replace(project, patches=kept)


def turn_patch(project: Project, patch_id: str, on: bool) -> Project:
    """A mend on or off."""
    return replace(
        project,
        patches=tuple(replace(item, on=on) if item.id == patch_id else item for item in project.patches),
    )


def patch_gap(project: Project, gap: Gap) -> tuple[Project, str]:
    """A plain panel (or the ceiling carried on) across a gap.  Raises Refused where its rim lies in no
    plane."""
    if not gap.corners:
        raise Refused(
            "The rim of this gap lies in no plane, so no panel can be put across it. List it for whoever models."
        )
    label = "Ceiling carried on" if gap.panel == CEILING else "Plain panel"
    return add_patch(project, gap.panel, gap.corners, f"{label}, {gap.beside}" if gap.beside else label)


def ground_to_horizon(project: Project, model: Model) -> tuple[Project, str]:
    """Plain ground to the horizon, just below the lowest ground of the model.  Raises Refused when it is
    there."""
    if any(item.kind == GROUND and item.on for item in project.patches):
        raise Refused("There is plain ground to the horizon already.")
    z = ground_level(model)
    middle = model.vertices[model.faces].mean(axis=(0, 1)).astype(float)
    x, y = float(middle[0]), float(middle[1])
    far = HORIZON_M
    ring = ((x - far, y - far, z), (x + far, y - far, z), (x + far, y + far, z), (x - far, y + far, z))
    return add_patch(project, GROUND, ring, "Plain ground to the horizon")
