"""The eye on stairs of every kind: at its height over the treads, without a jump."""

from __future__ import annotations

import math

import numpy as np
import pytest
import trimesh
from shapely.geometry import Polygon

from altana.core.model import Material, Model
from altana.core.project import Walk, WalkKey
from altana.core.standing import standable
from altana.core.walk.sample import WalkSamples, resolve, sample
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
    made = trimesh.creation.extrude_polygon(Polygon(points), min(thick, top))
    made.apply_translation((0, 0, top - min(thick, top)))
    return made


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
    # Between the first and the last two treads the eye keeps its height over the line through the middles of the treads.
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
