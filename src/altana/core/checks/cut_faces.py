"""What a bound opens: the objects it cuts through inside the frame, and the share of the frame that shows
their insides.

Sight begins on the bound.  Where that place lies inside a body, one would see a cut face, or through it into
the hollow body.  A closed body holds a place when a ray from there leaves it once more than it enters it; so
cut faces are counted from the surfaces along each line of sight (the renderer does that for every pixel),
whatever else lies there.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
import numpy.typing as npt

from altana.core.camera.bounds import sight_passes
from altana.core.camera.view import View
from altana.core.checks.survey import SHEET_SHARE, edges_and_volumes
from altana.core.conventions import Bools, Floats, Floats32, Ints
from altana.core.distinct import distinct
from altana.core.geometry.cross import crossed
from altana.core.geometry.runs import object_boxes, runs_of
from altana.core.geometry.sections import cut_triangles
from altana.core.model import GLASS, Model
from altana.core.staging import WHOLE, Staging


@dataclass(frozen=True, slots=True)
class Bodies:
    """Per object: whether it encloses space (``sound``), and +1, or -1 for a body turned inside out
    (``sense``).

    ``owner`` (faces,) is the object of each triangle; panes belong to no body.
    """

    sound: Bools
    sense: npt.NDArray[np.int8]
    owner: npt.NDArray[np.int32]
    solid: Bools
    low: Floats
    high: Floats


def bodies_of(model: Model) -> Bodies:
    """The bodies of a model; sheets (leaves, terrain, single faces) are none."""
    open_edges, edges, volume = edges_and_volumes(model)
    panes = np.array([material.kind == GLASS for material in model.materials], bool)
    low, high = object_boxes(model)
    return Bodies(
        (edges > 0) & (open_edges < SHEET_SHARE * edges),
        np.where(volume < 0, -1, 1).astype(np.int8),
        model.face_objects(),
        ~panes[model.face_material],
        low,
        high,
    )


@dataclass(frozen=True, slots=True)
class CutFaces:
    """``opened`` object ids with their names, and the share of the frame (0 to 1) that shows cut faces;
    ``mask`` (height, width) bool says where, None where nothing does."""

    opened: tuple[tuple[str, str], ...] = ()
    share: float = 0.0
    mask: Bools | None = field(default=None, compare=False)


@dataclass(frozen=True, slots=True)
class _Plane:
    """A plane of a bound: unit normal, its place along it, and the wall cut that limits it, if any."""

    normal: Floats
    at_m: float
    cut: int = -1


def _planes(view: View) -> list[_Plane]:
    """The planes on which sight may begin; a wall cut with the eye in its room is none."""
    planes = []
    if view.near_m is not None:
        forward = view.pose.forward
        planes.append(_Plane(forward, float(np.asarray(view.pose.eye) @ forward) + view.near_m))
    for index, cut in enumerate(view.cuts):
        if float(np.asarray(view.pose.eye) @ cut.normal) < cut.at_m:
            planes.append(_Plane(cut.normal, cut.at_m, index))
    return planes


def _met(model: Model, bodies: Bodies, plane: _Plane, gone: Bools) -> Ints:
    """The solid triangles that a plane may meet, in rising order.  gone : (objects,) those left out of
    account."""
    runs = runs_of(model)
    near = runs.beside(plane.normal * plane.at_m, plane.normal, 1e-6)
    faces = runs.triangles(near[~gone[runs.owner[near]]])
    return faces[bodies.solid[faces]]


def crossed_bodies(
    model: Model, bodies: Bodies, view: View, staging: Staging = WHOLE
) -> tuple[tuple[int, ...], tuple[int, ...]]:
    """The objects a bound cuts within the frame, and the bodies in which sight may begin; both in rising
    order."""
    omitted = np.zeros(len(model.objects), bool)
    omitted[list(staging.omitted)] = True
    moved = {item.index: item.array() for item in staging.moved}
    gone = omitted.copy()
    gone[list(moved)] = True
    opened: set[int] = set()
    begun: set[int] = set()
    for plane in _planes(view):
        faces = _met(model, bodies, plane, gone)
        extra = [
            np.flatnonzero((bodies.owner == number) & bodies.solid) for number in moved if not omitted[number]
        ]
        corners = [model.vertices[model.faces[faces]]]
        corners += [
            _placed(model.vertices[model.faces[mine]], moved[int(bodies.owner[mine[0]])])
            for mine in extra
            if len(mine)
        ]
        ids = np.concatenate([faces, *[mine for mine in extra if len(mine)]])
        segments = cut_triangles(np.concatenate(corners), ids, plane.normal, plane.at_m)
        if not len(segments.face):
            continue
        owner = bodies.owner[segments.face]
        inside = _in_sight(view, plane, segments.points)
        opened |= set(owner[inside].tolist())
        # A body without an outline in the frame may still fill it.
        begun |= set(distinct(owner[bodies.sound[owner]]).tolist())
    opened |= _filling(model, bodies, view, begun - opened - set(moved))
    return tuple(sorted(opened)), tuple(sorted(begun))


def _filling(model: Model, bodies: Bodies, view: View, numbers: set[int]) -> set[int]:
    """Which of these bodies hold the place where sight begins in the middle of the frame: they fill all of
    it."""
    along = view.rays(np.array([[view.width_px / 2, view.height_px / 2]]))
    place = np.asarray(view.pose.eye) + along[0] * sight_passes(view, along)[0]
    solids = set()
    for number in numbers:
        if (bodies.low[number] <= place).all() and (bodies.high[number] >= place).all():
            item = model.objects[number]
            corner = model.vertices[model.faces[item.first_face : item.first_face + item.face_count]].astype(
                float
            )
            if surfaces_left(corner, place, along[0]) * int(bodies.sense[number]) > 0:
                solids.add(number)
    return solids


def surfaces_left(corner: Floats, place: Floats, along: Floats) -> int:
    """How many more of (m, 3, 3) triangles a ray leaves by their back than it enters by their front.

    One for a place in a closed body, none outside (Moeller and Trumbore's test of a ray against a triangle).
    """
    first, second = corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0]
    across = crossed(along, second)
    facing = np.einsum("ij,ij->i", first, across)
    usable = np.abs(facing) > 1e-14
    inverse = 1.0 / np.where(usable, facing, 1.0)
    towards = place - corner[:, 0]
    u = np.einsum("ij,ij->i", towards, across) * inverse
    other = crossed(towards, first)
    v = (other @ along) * inverse
    away = np.einsum("ij,ij->i", second, other) * inverse
    met = usable & (u >= 0) & (v >= 0) & (u + v <= 1) & (away > 0)
    # Seen from the front a triangle's normal runs against the ray, and then its determinant is positive.
    return int((met & (facing < 0)).sum()) - int((met & (facing > 0)).sum())


def _placed(corners: Floats32, matrix: Floats) -> Floats32:
    places: Floats32 = (corners @ matrix[:3, :3].T + matrix[:3, 3]).astype(np.float32)
    return places


def _in_sight(view: View, plane: _Plane, points: Floats) -> Bools:
    """(k,) bool: which (k, 2, 3) cut lines begin a line of sight within the frame."""
    if plane.cut >= 0:
        points, there = _within_cut(view, plane, points)
    else:
        there = np.ones(len(points), bool)
    right, up, forward = view.pose.axes()
    offsets = points - np.asarray(view.pose.eye)
    depth = offsets @ forward
    there &= (depth > 1e-6).all(axis=1)
    flat = np.stack([offsets @ right, offsets @ up], axis=2) / np.maximum(depth, 1e-6)[..., None]
    there &= _in_frame(flat, view.edges())
    if len(_planes(view)) > 1 and there.any():
        # Another bound may lie further on this line of sight; then this one opens nothing here.
        middle = points.mean(axis=1) - np.asarray(view.pose.eye)
        away = np.linalg.norm(middle, axis=1)
        there &= sight_passes(view, middle / np.maximum(away, 1e-12)[:, None]) <= away + 1e-6
    return there


def _within_cut(view: View, plane: _Plane, points: Floats) -> tuple[Floats, Bools]:
    """Cut lines shortened to a wall cut's rectangle, less a hair, so that what it merely touches is not
    opened."""
    cut = view.cuts[plane.cut]
    offsets = points - np.asarray(cut.place)
    flat = np.stack([offsets @ cut.along, offsets[..., 2]], axis=2)
    share, there = _clipped(
        flat, (-cut.left_m + 1e-3, cut.right_m - 1e-3, -cut.down_m + 1e-3, cut.up_m - 1e-3)
    )
    run = points[:, 1] - points[:, 0]
    return np.stack([points[:, 0] + run * share[:, :1], points[:, 0] + run * share[:, 1:]], axis=1), there


def _clipped(lines: Floats, edges: tuple[float, float, float, float]) -> tuple[Floats, Bools]:
    """Shares (k, 2) between which (k, 2, 2) lines run in the rectangle left, right, bottom, top, and whether
    they do."""
    left, right, bottom, top = edges
    run = lines[:, 1] - lines[:, 0]
    enter, leave = np.zeros(len(lines)), np.ones(len(lines))
    missed = np.zeros(len(lines), bool)
    for axis, low, high in ((0, left, right), (1, bottom, top)):
        for direction, room in (
            (-run[:, axis], lines[:, 0, axis] - low),
            (run[:, axis], high - lines[:, 0, axis]),
        ):
            still = np.abs(direction) < 1e-12
            missed |= still & (room < 0)
            share = room / np.where(still, 1.0, direction)
            enter = np.where(~still & (direction < 0), np.maximum(enter, share), enter)
            leave = np.where(~still & (direction > 0), np.minimum(leave, share), leave)
    passes: Bools = ~missed & (enter < leave)
    return np.stack([enter, leave], axis=1), passes


def _in_frame(lines: Floats, edges: tuple[float, float, float, float]) -> Bools:
    """(k,) bool: which (k, 2, 2) lines pass through the rectangle left, right, bottom, top."""
    return _clipped(lines, edges)[1]


def opened_objects(model: Model, bodies: Bodies, view: View, staging: Staging = WHOLE) -> tuple[int, ...]:
    """The numbers of the objects whose surface a bound cuts within the frame, in rising order."""
    return crossed_bodies(model, bodies, view, staging)[0]


def named(model: Model, numbers: tuple[int, ...], mask: Bools) -> CutFaces:
    """What is opened as ids and names, with where the frame shows cut faces."""
    names = tuple((model.objects[number].id, model.objects[number].name) for number in numbers)
    return CutFaces(names, float(mask.mean()), mask if mask.any() else None)
