"""What a near bound opens: the objects it cuts through inside the frame, and the share of the frame that shows their insides.

The bound is a plane across the line of sight.  An object is opened when the plane cuts its surface within the frame; where a
body is opened, sight meets the back of its far surface, and that is what one sees as a cut face.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from altana.core.camera.view import View
from altana.core.conventions import Bools, Floats
from altana.core.geometry.rays import RayScene
from altana.core.geometry.sections import cut_triangles
from altana.core.geometry.sight import passed_faces, see
from altana.core.model import Model

#: Surfaces closer than this along a ray lie in one plane.
TIE_M = 5e-4


@dataclass(frozen=True, slots=True)
class CutFaces:
    """``opened`` object ids with their names, and the share of the frame (0 to 1) that shows cut faces."""

    opened: tuple[tuple[str, str], ...] = ()
    share: float = 0.0


def _crossing(model: Model, view: View) -> tuple[npt.NDArray[np.intp], float]:
    """The triangles that the bound's plane meets, anywhere, and where it lies along the line of sight (metres)."""
    forward = view.pose.forward
    at = float(np.asarray(view.pose.eye) @ forward) + (view.near_m or 0.0)
    heights = model.vertices.astype(float) @ forward
    corner = heights[model.faces]
    return np.flatnonzero((corner.min(axis=1) <= at) & (corner.max(axis=1) >= at)), at


def opened_objects(model: Model, view: View, omitted: tuple[int, ...] = ()) -> tuple[int, ...]:
    """The numbers of the objects whose surface the near bound cuts within the frame, in rising order."""
    if view.near_m is None:
        return ()
    forward = view.pose.forward
    crossing, at = _crossing(model, view)
    segments = cut_triangles(model.vertices[model.faces[crossing]], crossing, forward, at)
    if not len(segments.face):
        return ()
    right, up, _ = view.pose.axes()
    offsets = segments.points - np.asarray(view.pose.eye)
    flat = np.stack([offsets @ right, offsets @ up], axis=2) / view.near_m
    inside = _in_frame(flat, view.edges())
    owner = model.face_objects()[segments.face[inside]]
    return tuple(sorted(set(owner.tolist()) - set(omitted)))


def _in_frame(lines: Floats, edges: tuple[float, float, float, float]) -> Bools:
    """(k,) bool: which (k, 2, 2) lines pass through the rectangle left, right, bottom, top (clipped against each side in turn)."""
    left, right, bottom, top = edges
    run = lines[:, 1] - lines[:, 0]
    enter, leave = np.zeros(len(lines)), np.ones(len(lines))
    missed = np.zeros(len(lines), bool)
    for axis, low, high in ((0, left, right), (1, bottom, top)):
        for direction, room in ((-run[:, axis], lines[:, 0, axis] - low), (run[:, axis], high - lines[:, 0, axis])):
            still = np.abs(direction) < 1e-12
            missed |= still & (room < 0)
            share = room / np.where(still, 1.0, direction)
            enter = np.where(~still & (direction < 0), np.maximum(enter, share), enter)
            leave = np.where(~still & (direction > 0), np.minimum(leave, share), leave)
    passes: Bools = ~missed & (enter < leave)
    return passes


def cut_faces(model: Model, rays: RayScene, view: View, width_px: int, omitted: tuple[int, ...] = ()) -> CutFaces:
    """What the view's near bound opens, and the share of a grid of rays, ``width_px`` wide, that see a body's inside.

    A ray sees the inside of a body when it starts in it (the first of the body's surfaces it meets is met from the
    back) and nothing solid comes before that surface.  Each body is asked by itself, because bodies often share a plane.
    """
    if view.near_m is None:
        return CutFaces()
    owner = model.face_objects()
    bodies = sorted(set(owner[_crossing(model, view)[0]].tolist()) - set(omitted))
    opened = set(opened_objects(model, view, omitted))
    if not bodies:
        return CutFaces()
    height_px = max(2, round(width_px * view.height_px / view.width_px))
    x, y = np.meshgrid((np.arange(width_px) + 0.5) / width_px, (np.arange(height_px) + 0.5) / height_px)
    along = view.rays(np.column_stack([x.ravel() * view.width_px, y.ravel() * view.height_px]))
    start = np.asarray(view.pose.eye) + along * (view.near_m / (along @ view.pose.forward))[:, None]
    seen_to = see(rays, start, along, passed_faces(model, omitted)).distance_m
    inside = np.zeros(len(along), bool)
    for number in bodies:
        item = model.objects[number]
        body = RayScene(model.vertices, model.faces[item.first_face : item.first_face + item.face_count])
        hit = body.cast(start, along)
        met = np.flatnonzero((hit.face >= 0) & (hit.distance_m <= seen_to + TIE_M))
        back = met[np.einsum("ij,ij->i", body.normals_of(hit.face[met]), along[met]) > 0]
        inside[back] = True
        if len(back):
            opened.add(number)
    named = tuple((model.objects[number].id, model.objects[number].name) for number in sorted(opened))
    return CutFaces(named, float(inside.mean()))
