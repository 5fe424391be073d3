"""What stands in the way ahead: near bounds and wall cuts just past it, and bounds moved until they open
nothing."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from altana.core.camera.wall_cut import HAIR_M, WallCut
from altana.core.checks.cut_faces import Bodies, opened_objects
from altana.core.conventions import turn_between
from altana.core.edits.bounds import add_wall_cut, with_near
from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.model import Model
from altana.core.project import Camera
from altana.core.wall_headings import wall_heading
from altana.core.walls import NO_WALLS, THICKEST_M, WALL_PARTS, passages, pick_wall, wall_cut_at

MOST_CANDIDATES = 6
#: Seen more obliquely than this a wall is cut along its face: a bound across the view would open what stands
#: beside.
OBLIQUE_DEG = 1.0
#: A bound may come back towards the eye where so little of the picture is covered by what it hid.
LITTLE = 0.01


@dataclass(frozen=True, slots=True)
class Candidate:
    """A near bound just past what stands ahead: its name, the distance, and the objects it would open
    (id, name).

    cut : where it is a wall that stands obliquely, the wall cut along its inner face, and in ``cut_opened``
    what that would open.
    """

    name: str
    near_m: float
    opened: tuple[tuple[str, str], ...]
    cut: WallCut | None = None
    cut_opened: tuple[tuple[str, str], ...] = ()

    @property
    def by_cut(self) -> bool:
        """Whether the wall cut is the better way past it: it opens no more than the bound."""
        return self.cut is not None and len(self.cut_opened) <= len(self.opened)


def candidates(model: Model, rays: RayScene, bodies: Bodies, camera: Camera) -> tuple[Candidate, ...]:
    """Near bounds just past each thing that stands on the line of sight before what is looked at, nearest
    first.

    Things that lie against each other (a wall and its lining) count as one, named after the thicker.
    """
    eye, ahead = np.asarray(camera.eye, float), camera.pose.forward
    spans: dict[int, list[float]] = {}
    for item in passages(model, rays, eye, ahead, max(camera.aim_m - 0.05, 0.1)):
        spans.setdefault(item.owner, []).append(item.distance_m)
    stops: list[tuple[float, float, int]] = sorted(
        (min(values), max(values), number) for number, values in spans.items()
    )
    ways: list[tuple[float, int, float]] = []
    for first, last, number in stops:
        if ways and first <= ways[-1][0] + 0.03:
            kept = ways[-1]
            thicker = number if last - first > kept[2] else kept[1]
            ways[-1] = (max(last, kept[0]), thicker, max(last - first, kept[2]))
        else:
            ways.append((last, number, last - first))
    choices = []
    plain = replace(camera, wall_cuts=())
    for last, number, _ in ways[:MOST_CANDIDATES]:
        bound = round(last + HAIR_M, 4)
        opened = _named(model, opened_objects(model, bodies, with_near(plain, bound).view()))
        cut = _oblique_cut(model, rays, camera, number, spans[number][0])
        by_cut = (
            _named(
                model, opened_objects(model, bodies, replace(with_near(plain, None), wall_cuts=(cut,)).view())
            )
            if cut is not None
            else ()
        )
        choices.append(Candidate(model.objects[number].name, bound, opened, cut, by_cut))
    return tuple(choices)


def _named(model: Model, numbers: tuple[int, ...]) -> tuple[tuple[str, str], ...]:
    return tuple((model.objects[index].id, model.objects[index].name) for index in numbers)


def _oblique_cut(model: Model, rays: RayScene, camera: Camera, number: int, away_m: float) -> WallCut | None:
    """The wall cut past a wall that is not seen squarely; None for what is no wall, and for one that is."""
    if model.objects[number].category not in WALL_PARTS - NO_WALLS:
        return None
    try:
        cut = pick_wall(model, rays, camera.eye, camera.pose.point_ahead(away_m))
    except Refused:
        return None
    return cut if abs(turn_between(camera.heading_deg, cut.heading_deg)) > OBLIQUE_DEG else None


def just_clear(model: Model, rays: RayScene, bodies: Bodies, camera: Camera) -> Camera:
    """The near bound moved as little as needed until it opens nothing, and never before what it is there to
    hide.

    It comes back towards the eye only where hardly anything of what it hid comes back into the picture.
    Raises Refused where no place before what is looked at is clear.
    """
    if camera.near is None:
        raise Refused("There is no near bound to move.")
    ahead = camera.pose.forward
    depths = model.vertices.astype(float) @ ahead - float(np.asarray(camera.eye) @ ahead)
    clear_from = _hidden_from(rays, camera)
    tried: list[float] = []

    def try_ends(numbers: tuple[int, ...]) -> None:
        for number in numbers:
            item = model.objects[number]
            mine = depths[model.faces[item.first_face : item.first_face + item.face_count]]
            tried.extend((float(mine.max()) + HAIR_M, float(mine.min()) - HAIR_M))

    try_ends(opened_objects(model, bodies, camera.view()))
    # Leaving one object may enter another, so the ends of those are tried as well.
    for step in range(2):
        usable = sorted(
            {round(value, 5) for value in tried if max(0.02, clear_from) < value < camera.aim_m},
            key=lambda value: abs(value - (camera.near or 0)),
        )
        for value in usable[:40]:
            moved = with_near(camera, value)
            opened = opened_objects(model, bodies, moved.view())
            if not opened:
                return moved
            if step == 0:
                try_ends(opened)
    raise Refused("No near bound before what is looked at opens nothing. Use a wall cut, or cap the cut.")


def _hidden_from(rays: RayScene, camera: Camera) -> float:
    """How near to the eye the near bound may come: from there on to where it is now hardly anything of the
    picture is covered."""
    near = camera.near or 0.0
    view = camera.view()
    across, up = np.meshgrid(
        (np.arange(24) + 0.5) / 24 * view.width_px, (np.arange(16) + 0.5) / 16 * view.height_px
    )
    along = view.rays(np.column_stack([across.ravel(), up.ravel()]))
    slant = along @ camera.pose.forward
    # From the bound back towards the eye: the first thing that such a ray meets is the last that the bound
    # hides.
    start = np.asarray(camera.eye) + along * (near / slant)[:, None]
    back = rays.cast(start, -along).distance_m * slant
    depth = np.sort(np.where(back < near, near - back, 0.0))[::-1]
    return float(depth[int(LITTLE * len(depth))])


def bound_as_wall_cut(model: Model, rays: RayScene, camera: Camera) -> Camera:
    """The near bound turned into a wall cut on the last wall it stands in or behind.  Raises Refused without
    one."""
    if camera.near is None:
        raise Refused("There is no near bound to turn into a wall cut.")
    eye, ahead = np.asarray(camera.eye, float), camera.pose.forward
    walls = [
        item
        for item in passages(model, rays, eye, ahead, camera.near + THICKEST_M)
        if model.objects[item.owner].category in WALL_PARTS - NO_WALLS
        and wall_heading(rays, item.face) is not None
    ]
    entered = [item for item in walls if item.distance_m <= camera.near]
    if not entered:
        raise Refused(
            "No wall stands before the near bound on the line of sight. Pick a wall for a wall cut."
        )
    last = entered[-1]
    x, y, z = (eye + ahead * last.distance_m).tolist()
    cut = wall_cut_at(model, rays, last.face, (x, y, z), camera.eye)
    return add_wall_cut(with_near(camera, None), cut)
