"""What of a model one picture shows: objects left out, and objects nudged for one camera.

Leaving out belongs to the project or the camera and changes pictures; hiding while working belongs to the
window and never does.  Both end here as lists of objects.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace

import numpy as np

from altana.core.conventions import Bools, Floats, Floats32
from altana.core.distinct import distinct
from altana.core.model import Model
from altana.core.project import Camera, LeftOut, Nudge, Project, Walk


@dataclass(frozen=True, slots=True)
class MovedObject:
    """One object (by its number in the model) and the (4, 4) matrix, row by row, that moves it."""

    index: int
    matrix: tuple[float, ...]

    def array(self) -> Floats:
        """(4, 4) float64."""
        return np.array(self.matrix, float).reshape(4, 4)


@dataclass(frozen=True, slots=True)
class Staging:
    """Numbers of the objects that are not drawn at all, drawn faintly, or drawn elsewhere; each in rising
    order."""

    omitted: tuple[int, ...] = ()
    faint: tuple[int, ...] = ()
    moved: tuple[MovedObject, ...] = ()
    #: Objects that throw no sun shadow (they lie wholly beyond a far bound that also rules the light).
    unlit: tuple[int, ...] = ()
    #: Whether cut faces are filled with poché.
    cap: bool = False


WHOLE = Staging()


class Lookup:
    """Finds the objects that a LeftOut names; built once a model."""

    def __init__(self, model: Model) -> None:
        self._model = model
        self.index = {item.id: number for number, item in enumerate(model.objects)}
        self._category = np.array([item.category for item in model.objects], object)
        self._storey = np.array([item.storey_id for item in model.objects], object)

    def mask(self, left_out: LeftOut) -> Bools:
        """(objects,) bool: what is named; names that the model does not have are passed over."""
        out = np.zeros(len(self._model.objects), bool)
        if left_out.categories:
            out |= np.isin(self._category, list(left_out.categories))
        if left_out.storeys:
            out |= np.isin(self._storey, list(left_out.storeys))
        for name in left_out.objects:
            if name in self.index:
                out[self.index[name]] = True
        return out

    def numbers(self, left_outs: Iterable[LeftOut]) -> tuple[int, ...]:
        """The objects that any of these names."""
        out = np.zeros(len(self._model.objects), bool)
        for item in left_outs:
            if item:
                out |= self.mask(item)
        return tuple(np.flatnonzero(out).tolist())

    def for_walk(self, project: Project, walk: Walk | None) -> Staging:
        """What a walk's film shows: the project's and the walk's own left out."""
        left_out = [project.left_out] if walk is None else [project.left_out, walk.left_out]
        return Staging(self.numbers(left_out)) if any(left_out) else WHOLE

    def staging(self, project: Project, camera: Camera | None) -> Staging:
        """What a camera's picture shows: the project's and the camera's own left out, and its nudges."""
        if camera is None:
            return Staging(self.numbers([project.left_out])) if project.left_out else WHOLE
        unlit = self._beyond(camera) if camera.far_dark and camera.far is not None else ()
        if not (project.left_out or camera.left_out or camera.nudges or camera.cap or unlit):
            return WHOLE
        omitted = set(self.numbers([project.left_out, camera.left_out]))
        moved = []
        for item in camera.nudges:
            number = self.index.get(item.object_id)
            if number is None:
                continue
            if item.out:
                omitted.add(number)
            elif number not in omitted:
                moved.append(
                    MovedObject(number, tuple(nudge_matrix(self._model, number, item).ravel().tolist()))
                )
        return Staging(tuple(sorted(omitted)), (), tuple(moved), unlit, camera.cap)

    def _beyond(self, camera: Camera) -> tuple[int, ...]:
        """The objects that lie wholly beyond a camera's far bound."""
        far = camera.far
        assert far is not None
        depth = self._model.vertices.astype(float) @ camera.pose.forward - float(
            np.asarray(camera.eye) @ camera.pose.forward
        )
        nearest = np.full(len(self._model.objects), np.inf)
        np.minimum.at(nearest, np.repeat(self._model.face_objects(), 3), depth[self._model.faces.reshape(-1)])
        return tuple(np.flatnonzero(nearest > far).tolist())


def nudge_matrix(model: Model, number: int, nudge: Nudge) -> Floats:
    """(4, 4) float64: turned clockwise (seen from above) about the object's middle, then moved."""
    middle = object_points(model, number).astype(float)
    low, high = middle.min(axis=0), middle.max(axis=0)
    cx, cy = ((low + high) / 2)[:2]
    angle = math.radians(-nudge.turn_deg)
    cos, sin = math.cos(angle), math.sin(angle)
    matrix = np.eye(4)
    matrix[:2, :2] = [[cos, -sin], [sin, cos]]
    matrix[:2, 3] = (cx - cos * cx + sin * cy + nudge.move[0], cy - sin * cx - cos * cy + nudge.move[1])
    matrix[2, 3] = nudge.move[2]
    return matrix


def object_points(model: Model, number: int) -> Floats32:
    """(k, 3) float32: the vertices that an object uses."""
    item = model.objects[number]
    used = distinct(model.faces[item.first_face : item.first_face + item.face_count])
    points: Floats32 = model.vertices[used]
    return points


def without(model: Model, omitted: Iterable[int]) -> Model:
    """The model with these objects' faces gone; objects, rooms and storeys keep their numbers and ids."""
    gone = np.zeros(len(model.objects), bool)
    gone[list(omitted)] = True
    if not gone.any():
        return model
    kept = ~gone[model.face_objects()]
    objects = []
    first = 0
    for number, item in enumerate(model.objects):
        count = 0 if gone[number] else item.face_count
        objects.append(replace(item, first_face=first, face_count=count))
        first += count
    return replace(
        model, faces=model.faces[kept], face_material=model.face_material[kept], objects=tuple(objects)
    )
