"""Storeys and rooms where a file names none, and neither in things that are no buildings."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from altana.core.conventions import Bools, Floats, Floats32, Ints
from altana.core.geometry.cross import crossed
from altana.core.geometry.rays import RayScene
from altana.core.geometry.rooms import found_rooms
from altana.core.geometry.runs import keep_runs, runs_of
from altana.core.model import Model, Problem, SceneObject, Storey

SMALLEST_FLOOR_M2 = 8.0
#: The largest floor under cover fills at least this share of a building's plan; in an engine or a tree none
#: does.
LEAST_SHARE = 0.06
#: Heights looked at, largest areas first, and how many triangles are looked up from at each.
MOST_HEIGHTS, LOOKS = 60, 200
#: Clear height over a floor, metres.
LOWEST_M, HIGHEST_M = 1.9, 30.0
#: What is as large as this share of the largest level surface, and lies within that share of the height over
#: the foot, is land to stand on.
LAND_SHARE, LAND_RISE, LAND_RISE_M = 0.25, 0.15, 0.5
#: What rises no more than this share of its width, and this, is land all over.
FLAT_SHARE, FLAT_M = 0.05, 2.0
#: The share of corners that may lie below the foot of things, per cent: a stray point is not where they
#: stand.
BELOW_FOOT = 0.5
#: Of larger models only level and large triangles are kept for looking up to.
MANY_TRIANGLES = 1_500_000
#: Of models with more triangles than this only those over the places looked up from are met, found by a grid
#: of so many cells a side.
FEW_TRIANGLES, CELLS = 100_000, 1024
#: Triangles looked at together.
AT_A_TIME = 1_000_000


def with_levels(model: Model, rooms_wanted: bool) -> Model:
    """The model with storeys and rooms found where it names none."""
    building, before = True, model
    if not model.storeys:
        model, building = with_found_storeys(model)
        # Only words changed, so what is known of the triangles holds.
        keep_runs(model, runs_of(before))
    if model.rooms or not rooms_wanted or not building:
        return model
    rooms = found_rooms(model)
    if not rooms:
        return model
    problem = Problem(
        "rooms-found", f"The file names no rooms; {len(rooms)} were found from what its walls enclose."
    )
    roomy = replace(model, rooms=rooms, problems=(*model.problems, problem))
    keep_runs(roomy, runs_of(model))
    return roomy


def with_found_storeys(model: Model) -> tuple[Model, bool]:
    """The model with storeys found from its large level surfaces, and whether it looks like a building.

    A storey is an upward-facing level surface of at least 8 square metres (and 1 % of the largest) under
    cover, at least 2 m above the one below; a model without such a floor gets one storey where one stands
    beside its things.
    """
    lie = _Lie.of(model)
    middle, area = lie.middle, lie.area
    floors = _floors(model, lie)
    building = bool(floors)
    if not floors:
        floors = [_standing(middle[:, 2], area, model.vertices)]
    storeys = tuple(
        Storey(f"level-{i + 1}", f"Level {i}" if i else "Ground level", z) for i, z in enumerate(floors)
    )
    bottoms = np.array([z.elevation_m for z in storeys])
    objects = []
    for item in model.objects:
        if item.storey_id:
            objects.append(item)
            continue
        used = model.faces[item.first_face : item.first_face + item.face_count]
        bottom = float(model.vertices[used, 2].min())
        index = max(0, int(np.searchsorted(bottoms, bottom + 0.5)) - 1)
        objects.append(
            SceneObject(
                item.id, item.name, item.category, storeys[index].id, item.first_face, item.face_count
            )
        )
    count = f"{len(storeys)} were" if len(storeys) > 1 else "one was"
    sentence = f"The file names no storeys; {count} found from its level floors."
    if not building:
        sentence = (
            "The file names no storeys, and no floor under a roof was found in it; it stands on one level."
        )
    problem = Problem("storeys-found", sentence)
    return replace(
        model, objects=tuple(objects), storeys=storeys, problems=(*model.problems, problem)
    ), building


@dataclass(frozen=True, slots=True)
class _Lie:
    """How triangles lie: twice their areas, ``size`` (m,) float32, and how much of that faces up, ``up``
    (m,); of the level ones ``middle`` (n, 3) and ``area`` (n,); and ``plan_m2``, what most of the model
    covers on plan, as a box."""

    size: Floats32
    up: Floats32
    middle: Floats
    area: Floats
    plan_m2: float

    @classmethod
    def of(cls, model: Model) -> _Lie:
        """Of all of a model, some triangles at a time: a large one takes no more memory for it."""
        count = len(model.faces)
        size, up = np.empty(count, np.float32), np.empty(count, np.float32)
        # What most of it covers is told by a part of very many as well.
        every = 1 + count // MANY_TRIANGLES
        middles, areas, plans = [np.zeros((0, 3))], [np.zeros(0)], [np.zeros((0, 2))]
        for start in range(0, count, AT_A_TIME):
            some = slice(start, start + AT_A_TIME)
            a, b, c = (model.vertices[model.faces[some, corner]].astype(float) for corner in range(3))
            normal = crossed(b - a, c - a)
            length = np.linalg.norm(normal, axis=1)
            size[some], up[some] = length, normal[:, 2]
            level = normal[:, 2] > 0.999 * 2 * np.maximum(length / 2, 1e-12)
            middle = (a + b + c) / 3
            middles.append(middle[level])
            areas.append(length[level] / 2)
            plans.append(middle[::every, :2])
        low, high = np.percentile(np.concatenate(plans), [3, 97], axis=0)
        plan_m2 = float(np.prod(np.maximum(high - low, 1e-6)))
        return cls(size, up, np.concatenate(middles), np.concatenate(areas), plan_m2)


def _standing(middle: Floats, area: Floats, corners: Floats32) -> float:
    """The height at which one stands beside things without floors: their lowest large level surface, where it
    lies as low as land does or all is as flat as land, or else their foot; a roof is no ground.  middle :
    (n,) heights of level triangles.  corners : (m, 3)."""
    low, high = np.percentile(corners, [BELOW_FOOT, 100.0 - BELOW_FOOT], axis=0)
    foot, rise = float(low[2]), float(high[2] - low[2])
    if not len(middle):
        return foot
    height = np.round(middle / 0.05).astype(int)
    totals = np.bincount(height - height.min(), weights=area)
    lowest = np.flatnonzero(totals >= LAND_SHARE * totals.max())[0] + height.min()
    mine = height == lowest
    land = float(np.average(middle[mine], weights=area[mine]))
    flat = rise <= min(FLAT_SHARE * float((high - low)[:2].max()), FLAT_M)
    return land if flat or land <= foot + max(LAND_RISE * rise, min(LAND_RISE_M, 0.5 * rise)) else foot


def _covers(model: Model, lie: _Lie, places: Floats) -> RayScene:
    """What may lie over (n, 3) places."""
    if len(model.faces) <= FEW_TRIANGLES:
        return RayScene.of(model)
    chosen = over_places(model, places)
    if len(model.faces) > MANY_TRIANGLES:
        large = lie.size > np.partition(lie.size, -MANY_TRIANGLES)[-MANY_TRIANGLES] * np.float32(0.999)
        chosen &= large & (np.abs(lie.up) > np.float32(0.3) * lie.size)
    return RayScene.of(model, chosen=chosen)


def over_places(model: Model, places: Floats) -> Bools:
    """(faces,) bool: the triangles whose box on plan may hold one of (n, 3) places, and a few more."""
    low = places[:, :2].min(axis=0)
    cell = max(float(np.ptp(places[:, :2], axis=0).max()) / CELLS, 1e-6)
    count = np.zeros((CELLS + 2, CELLS + 2), np.int32)
    index = ((places[:, :2] - low) / cell).astype(np.int64)
    np.add.at(count, (index[:, 0] + 1, index[:, 1] + 1), 1)
    # How many places lie in all cells up to one: four of these tell how many lie in any box.
    upto = count.cumsum(axis=0).cumsum(axis=1)
    over = np.zeros(len(model.faces), bool)
    for start in range(0, len(over), AT_A_TIME):
        faces = model.faces[start : start + AT_A_TIME]
        a, b, c = (
            np.floor((model.vertices[faces[:, corner], :2] - low) / cell).clip(-1, CELLS + 1).astype(np.int32)
            for corner in range(3)
        )
        first = np.maximum(np.minimum(np.minimum(a, b), c), 0)
        last = np.minimum(np.maximum(np.maximum(a, b), c), CELLS)
        meets = (first <= last).all(axis=1)
        (x0, y0), (x1, y1) = first[meets].T, last[meets].T + 1
        held = upto[x1, y1] - upto[x0, y1] - upto[x1, y0] + upto[x0, y0]
        over[start : start + AT_A_TIME][meets] = held > 0
    return over


def _floors(model: Model, lie: _Lie) -> list[float]:
    """The heights of level surfaces under cover."""
    middle, area = lie.middle, lie.area
    if not len(middle):
        return []
    height = np.round(middle[:, 2] / 0.05).astype(int)
    totals = np.bincount(height - height.min(), weights=area)
    large = np.flatnonzero(totals >= SMALLEST_FLOOR_M2)
    looks: list[tuple[float, Ints]] = []
    for index in large[np.argsort(-totals[large])][:MOST_HEIGHTS]:
        mine = np.flatnonzero(height == index + height.min())
        looks.append((float((index + height.min()) * 0.05), mine[np.argsort(-area[mine])[:LOOKS]]))
    if not looks:
        return []
    places = middle[np.concatenate([mine for _, mine in looks])] + (0.0, 0.0, 0.05)
    up = _covers(model, lie, places).cast(places, np.tile((0.0, 0.0, 1.0), (len(places), 1))).distance_m
    candidates = []
    for (z, mine), over in zip(
        looks, np.split(up, np.cumsum([len(mine) for _, mine in looks])[:-1]), strict=True
    ):
        covered = float(area[mine][(over > LOWEST_M) & (over < HIGHEST_M)].sum())
        exact = float(np.average(middle[mine, 2], weights=area[mine]))
        if covered >= SMALLEST_FLOOR_M2 * 0.5:
            candidates.append((exact, covered, z))
    # What counts is measured against the largest floor under cover, not against the land around.
    largest = max((covered for _, covered, _ in candidates), default=0.0)
    if largest < LEAST_SHARE * lie.plan_m2:
        return []
    enough = 0.01 * largest
    floors: list[tuple[float, float]] = []
    for z, covered, _ in sorted(item for item in candidates if item[1] >= enough):
        if floors and z - floors[-1][0] < 2.0:
            if covered > floors[-1][1]:
                floors[-1] = (z, covered)
            continue
        floors.append((z, covered))
    return [z for z, _ in floors]
