"""The eye on stairs of every kind: at its height over the treads, without a jump."""

from __future__ import annotations

import math

import numpy as np
import pytest
import trimesh
from shapely.geometry import Polygon

from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.model import Material, Model
from altana.core.project import Limits, Walk, WalkKey
from altana.core.standing import standable
from altana.core.walk.checks import check_walk
from altana.core.walk.sample import WalkSamples, resolve, sample
from altana.core.walk.stair import walk_up
from altana.core.walk.timing import seconds_for_pace
from tests.conftest import box_between, model_of

PLASTER = Material("Plaster", (0.8, 0.8, 0.8, 1.0))
RISE_M, RADIUS_M, STEPS = 0.18, 0.7, 16
TOP_M = RISE_M * STEPS


def tread(number: int, thick: float, outer: float = 1.1) -> trimesh.Trimesh:
    """A wedge of a turning stair; ``thick`` metres from its upper face down."""
    begin = 2 * math.pi * number / STEPS
    angles = np.linspace(begin, begin + 2 * math.pi / STEPS, 4)
    points = [(outer * math.cos(a), outer * math.sin(a)) for a in angles]
    points += [(0.15 * math.cos(a), 0.15 * math.sin(a)) for a in angles[::-1]]
    top = RISE_M * (number + 1)
    mesh = trimesh.creation.extrude_polygon(Polygon(points), min(thick, top))
    mesh.apply_translation((0, 0, top - min(thick, top)))
    return mesh


def at_one_metre_a_second(model: Model, keys: list[WalkKey]) -> WalkSamples:
    floors = standable(model)
    walk = Walk("w", "Up", tuple(keys), seconds=10.0, rate="25")
    length = resolve(walk, floors).route.length_m
    line = resolve(
        Walk("w", "Up", tuple(keys), seconds=seconds_for_pace(walk, length, 1.0), rate="25"), floors
    )
    return sample(line)


@pytest.mark.parametrize("thick", [0.04, 0.25, 5.0], ids=["open treads", "closed", "solid"])
def test_a_spiral_is_climbed_at_the_height_over_its_treads(thick: float) -> None:
    parts = [("Floor", box_between((-4, -4, -0.3), (4, 4, 0)), PLASTER)]
    parts += [(f"Tread {number}", tread(number, thick), PLASTER) for number in range(STEPS)]
    parts.append(("Upper floor", box_between((1.1, -4, TOP_M - 0.3), (4, 0, TOP_M)), PLASTER))
    keys = [WalkKey((2.5, -0.8, 1.6)), WalkKey((RADIUS_M, -0.25, 1.6))]
    for turn in np.linspace(0.0, 2 * math.pi, 9):
        up = turn / (2 * math.pi) * TOP_M
        keys.append(WalkKey((RADIUS_M * math.cos(turn), RADIUS_M * math.sin(turn), 1.6 + up)))
    keys.append(WalkKey((2.5, -0.6, 1.6 + TOP_M)))
    rows = at_one_metre_a_second(model_of(*parts), keys)
    x, y, z = rows.eye.T
    angle = np.degrees(np.arctan2(y, x)) % 360.0
    # Between the first and the last two treads the eye keeps its height over the line through the middles of
    # the treads.
    on_stair = (np.hypot(x, y) < 1.0) & (angle > 45.0) & (angle < 315.0)
    ramp = 1.6 + angle / 360.0 * TOP_M + RISE_M / 2
    assert on_stair.sum() > 40
    assert np.abs(z - ramp)[on_stair].max() < 0.06
    # It climbs no faster than the stair does at this pace, and nowhere suddenly.
    assert np.abs(np.diff(z)).max() < 0.04 * TOP_M / (2 * math.pi * RADIUS_M) * 1.05
    assert np.abs(np.diff(z, 2)).max() < 0.004
    assert z[0] == pytest.approx(1.6, abs=1e-3) and z[-1] == pytest.approx(1.6 + TOP_M, abs=1e-3)


@pytest.mark.parametrize(("rise", "going"), [(0.17, 0.29), (0.2, 0.22), (0.15, 0.36)])
@pytest.mark.parametrize("thick", [0.04, 5.0], ids=["open", "solid"])
def test_a_straight_flight_steep_or_flat(rise: float, going: float, thick: float) -> None:
    count = 14
    parts = [("Floor", box_between((-4, -2, -0.3), (4, 2, 0)), PLASTER)]
    for number in range(count):
        top = rise * (number + 1)
        low = max(0.0, top - thick)
        parts.append(
            (
                f"Tread {number}",
                box_between((number * going, -0.6, low), ((number + 1) * going, 0.6, top)),
                PLASTER,
            )
        )
    height, end = rise * count, going * count
    parts.append(("Landing", box_between((end, -2, height - 0.3), (end + 4, 2, height)), PLASTER))
    keys = [
        WalkKey((-3.0, 0.0, 1.6)),
        WalkKey((-0.4, 0.0, 1.6)),
        WalkKey((end + 0.4, 0.0, 1.6 + height)),
        WalkKey((end + 3.0, 0.0, 1.6 + height)),
    ]
    rows = at_one_metre_a_second(model_of(*parts), keys)
    x, _, z = rows.eye.T
    middle = (x > 3 * going) & (x < end - 3 * going)
    assert np.abs(z - (1.6 + x / going * rise + rise / 2))[middle].max() < 0.06
    assert np.abs(np.diff(z)).max() < 0.04 * rise / going * 1.05
    assert np.abs(np.diff(z, 2)).max() < 0.004


def test_a_ramp_is_climbed_as_it_is() -> None:
    ramp = trimesh.creation.extrude_polygon(Polygon([(0, 0), (6, 0), (6, 0.6), (0, 0.0001)]), 1.2)
    ramp.apply_transform(trimesh.transformations.rotation_matrix(math.pi / 2, (1, 0, 0)))
    ramp.apply_translation((0, 0.6, 0))
    parts = [
        ("Floor", box_between((-4, -2, -0.3), (0, 2, 0)), PLASTER),
        ("Incline", ramp, PLASTER),
        ("Landing", box_between((6, -2, 0.3), (10, 2, 0.6)), PLASTER),
    ]
    keys = [WalkKey((-3.0, 0.0, 1.6)), WalkKey((9.0, 0.0, 2.2))]
    rows = at_one_metre_a_second(model_of(*parts), keys)
    x, _, z = rows.eye.T
    on = (x > 1.5) & (x < 4.5)
    assert np.abs(z - (1.6 + 0.1 * x))[on].max() < 0.02 and np.abs(np.diff(z)).max() < 0.02


def joined(*parts: trimesh.Trimesh) -> trimesh.Trimesh:
    mesh = trimesh.util.concatenate(list(parts))
    assert isinstance(mesh, trimesh.Trimesh)
    return mesh


def board(x: float, y: float, top: float, going: float = 0.29, wide: float = 1.2) -> trimesh.Trimesh:
    """A tread from ``x`` on, thin, with a nosing over the one below."""
    return box_between((x - 0.02, y - wide / 2, top - 0.04), (x + going, y + wide / 2, top))


def walked(model: Model, called: str) -> tuple[Walk, WalkSamples, list[str]]:
    """The walk up an object, its film frames, and what is flagged on it."""
    rays, floors = RayScene.of(model), standable(model)
    walk = walk_up(model, model.object_number(called), rays, floors)
    line = resolve(walk, floors)
    return walk, sample(line), [flag.code for flag in check_walk(line, rays, floors, Limits())]


def spiral_house(thick: float, *, apart: bool = False) -> Model:
    parts = [("Floor", box_between((-4, -4, -0.3), (4, 4, 0)), PLASTER)]
    treads = [tread(number, thick) for number in range(STEPS)]
    if apart:
        parts += [(f"Tread {number}", item, PLASTER) for number, item in enumerate(treads)]
    else:
        parts.append(("Stair", joined(*treads), PLASTER))
    parts.append(("Upper floor", box_between((1.1, -4, TOP_M - 0.3), (4, 4, TOP_M)), PLASTER))
    return model_of(*parts)


@pytest.mark.parametrize("thick", [0.04, 0.25, 5.0], ids=["open treads", "closed", "solid"])
@pytest.mark.parametrize("apart", [False, True], ids=["one object", "an object a tread"])
def test_a_walk_up_a_spiral_is_found(thick: float, apart: bool) -> None:
    model = spiral_house(thick, apart=apart)
    walk, rows, flags = walked(model, "Tread 7" if apart else "Stair")
    assert walk.keys[0].eye[2] == pytest.approx(1.6) and walk.keys[-1].eye[2] == pytest.approx(1.6 + TOP_M)
    x, y, z = rows.eye.T
    angle = np.degrees(np.arctan2(y, x)) % 360.0
    on_stair = (np.hypot(x, y) < 0.95) & (angle > 45.0) & (angle < 315.0)
    assert on_stair.sum() > 60
    # It goes in the middle of where feet find room, at its height over the line of the treads.
    assert np.hypot(x, y)[on_stair].min() > 0.5
    assert np.abs(z - (1.6 + angle / 360.0 * TOP_M + RISE_M / 2))[on_stair].max() < 0.06
    assert np.abs(np.diff(z)).max() < 0.02
    assert not set(flags) & {"solid", "void", "turn", "jump"}


def test_a_walk_up_two_flights_crosses_the_landing_between() -> None:
    rise, going, count = 0.17, 0.29, 8
    first = [board(number * going, 0.0, rise * (number + 1)) for number in range(count)]
    end = count * going
    landing = rise * (count + 1)
    second = [
        board(end - (number + 1) * going, 1.5, landing + rise * (number + 1)) for number in range(count)
    ]
    top = landing + rise * (count + 1)
    model = model_of(
        ("Floor", box_between((-4, -3, -0.3), (6, 5, 0)), PLASTER),
        ("Stair", joined(*first, *second), PLASTER),
        ("Landing", box_between((end, -0.6, landing - 0.2), (end + 1.2, 2.1, landing)), PLASTER),
        ("Gallery", box_between((-4, 0.9, top - 0.2), (0.0, 2.1, top)), PLASTER),
    )
    walk, rows, flags = walked(model, "Stair")
    x, y, z = rows.eye.T
    assert walk.keys[0].eye == pytest.approx((-0.855, 0.0, 1.6), abs=0.02)
    assert walk.keys[-1].eye == pytest.approx((-0.855, 1.5, 1.6 + top), abs=0.02)
    # Its turn lies on the landing, away from its edges.
    assert end + 0.3 < x.max() < end + 1.0
    assert np.abs(z[np.abs(y - 0.75) < 0.3] - (1.6 + landing)).max() < 0.06
    assert np.abs(np.diff(z)).max() < 0.02 and flags == []


def test_a_walk_up_a_winding_stair_whatever_its_windings() -> None:
    """Straight, a quarter turn of wedges, straight again; some triangles turned the wrong way."""
    rise, going = 0.18, 0.27
    boards = [board(number * going, 0.5, rise * (number + 1), wide=1.0) for number in range(5)]
    corner, level = 5 * going, 5 * rise
    for number in range(3):
        begin = math.radians(-90.0 + 30.0 * number)
        fan = [(0.0, 0.0)] + [
            (1.0 * math.cos(begin + math.radians(a)), 1.0 * math.sin(begin + math.radians(a)))
            for a in (0.0, 15.0, 30.0)
        ]
        wedge = trimesh.creation.extrude_polygon(Polygon(fan), 0.04)
        wedge.apply_translation((corner, 1.0, level + rise * (number + 1) - 0.04))
        boards.append(wedge)
    level += 3 * rise
    for number in range(5):
        top = level + rise * (number + 1)
        boards.append(
            box_between(
                (corner, 1.0 + number * going, top - 0.04), (corner + 1.0, 1.0 + (number + 1) * going, top)
            )
        )
    stair = joined(*boards)
    stair.faces[::2] = stair.faces[::2, ::-1]
    top = level + 6 * rise
    model = model_of(
        ("Floor", box_between((-4, -3, -0.3), (6, 6, 0)), PLASTER),
        ("Stair", stair, PLASTER),
        ("Gallery", box_between((corner, 1.0 + 5 * going, top - 0.2), (corner + 2, 6, top)), PLASTER),
    )
    walk, rows, flags = walked(model, "Stair")
    assert walk.keys[0].eye[2] == pytest.approx(1.6) and walk.keys[-1].eye[2] == pytest.approx(1.6 + top)
    assert np.abs(np.diff(rows.eye[:, 2])).max() < 0.02
    # The eye stays over the stair: never nearer than a hand to its sides.
    x, y, _ = rows.eye.T
    turning = (x > corner) & (y < 1.0)
    assert turning.any() and np.hypot(x - corner, y - 1.0)[turning].max() < 0.9
    assert not set(flags) & {"solid", "void", "turn"}


def test_what_is_no_stair_is_refused() -> None:
    slats = [
        box_between((0, number * 0.05, 0.4 + 0.1 * number), (1.5, number * 0.05 + 0.1, 0.42 + 0.1 * number))
        for number in range(5)
    ]
    model = model_of(
        ("Floor", box_between((-4, -4, -0.3), (4, 4, 0)), PLASTER), ("Bench", joined(*slats), PLASTER)
    )
    for called in ("Bench", "Floor"):
        with pytest.raises(Refused, match="no stair"):
            walk_up(model, model.object_number(called), RayScene.of(model), standable(model))


def test_under_a_low_slab_the_eye_stays_over_the_treads() -> None:
    """The storey above begins a hand over the eye on the first treads; it is not the floor that is walked
    on."""
    rise, going, count = 0.18, 0.27, 15
    treads = [board(number * going, 0.0, rise * (number + 1)) for number in range(count)]
    top = rise * (count + 1)
    model = model_of(
        ("Floor", box_between((-4, -3, -0.3), (8, 3, 0)), PLASTER),
        ("Stair", joined(*treads), PLASTER),
        ("Upper floor", box_between((-4, -3, top - 0.2), (1.3, 3, top)), PLASTER),
        ("Upper floor, far", box_between((count * going, -3, top - 0.2), (8, 3, top)), PLASTER),
    )
    # The route's own line lies higher than the treads, as where somebody presses places before and behind a
    # stair.
    keys = (
        WalkKey((-1.0, 0.0, 1.6)),
        WalkKey((0.3, 0.0, 2.3)),
        WalkKey((count * going + 1.0, 0.0, 1.6 + top)),
    )
    rows = sample(resolve(Walk("w", "Up", keys, seconds=8.0), standable(model)))
    x, _, z = rows.eye.T
    low = (x > 2 * going) & (x < 1.25)
    assert low.sum() > 10
    assert np.abs(z - (1.6 + x / going * rise + rise / 2))[low].max() < 0.1
