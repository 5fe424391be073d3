"""Grain on rafters and other narrow parts: gone where the boards beside them say so, and nothing else is."""

from __future__ import annotations

import numpy as np

from altana.core.light.lightmap import LightPoints, spread
from altana.core.light.narrow import without_grain
from altana.core.model import Material
from tests.conftest import box_between, model_of

GREY = Material("Grey", (0.7, 0.7, 0.7, 1.0), roughness=0.9)


def under_a_roof() -> tuple[LightPoints, np.ndarray, np.ndarray]:
    """Boards with rafters between them, 5 mm lower than the boards' underside; which points of fronts look
    down, and which of those are of rafters."""
    boards, rafters = [], []
    for number in range(6):
        west = 0.8 * number
        boards.append((f"Boards {number}", box_between((west + 0.08, 0, 2.5), (west + 0.8, 6, 2.7)), GREY))
        rafters.append((f"Rafter {number}", box_between((west, 0, 2.495), (west + 0.08, 6, 2.7)), GREY))
    points = spread(model_of(*boards, *rafters))
    down = (points.normal[:, 2] < -0.9) & (np.abs(points.position[:, 2] - 2.5) < 0.01)
    return points, down, down & (points.owner >= len(boards))


def both_sides(front: np.ndarray) -> np.ndarray:
    """(2 n, 3) light of this much on fronts and none behind."""
    return np.repeat(np.concatenate([front, np.zeros(len(front))])[:, None], 3, axis=1)


def test_a_rafter_in_a_dim_room_is_as_light_as_the_boards_beside_it() -> None:
    points, down, rafter = under_a_roof()
    assert 50 < rafter.sum() < down.sum() / 2
    true = 10.0 + 2.0 * points.position[:, 1]
    noise = np.random.default_rng(5).normal(0.0, 0.4, len(true)) * true * rafter
    grain = np.concatenate([np.where(rafter, 0.4, 0.04) * true, true])
    bad = np.concatenate([~down, np.ones(len(down), bool)])
    calm = without_grain(points, both_sides(true + noise), grain, bad)[: len(true), 0]
    off = (calm - true) / true
    # Half the grain, hardly brighter or darker as a whole, and it still falls off along the rafter.
    assert np.sqrt((off[rafter] ** 2).mean()) < 0.25
    assert abs(off[rafter].mean()) < 0.08
    assert np.corrcoef(calm[rafter], true[rafter])[0, 1] > 0.65
    assert np.array_equal(calm[down & ~rafter], true[down & ~rafter])


def test_what_is_known_well_stays_as_it_is() -> None:
    points, down, rafter = under_a_roof()
    level = np.where(rafter, 30.0, 10.0)
    bad = np.concatenate([~down, np.ones(len(down), bool)])
    for share, least in ((0.1, 30.0), (0.2, 27.0)):
        # Three times as light as the boards, as a rafter by a window is: little grain is left alone, and with
        # more of it, it is no grain.
        calm = without_grain(points, both_sides(level), np.tile(share * level, 2), bad)[: len(level), 0]
        assert calm[rafter].min() > least - 1e-9 and calm[rafter].max() < 30.0 + 1e-9


def test_sides_inside_bodies_say_nothing() -> None:
    points, down, rafter = under_a_roof()
    level = np.where(rafter, 10.0, 12.0)
    grain = np.tile(0.5 * level, 2)
    alone = np.concatenate([~rafter, np.ones(len(down), bool)])
    calm = without_grain(points, both_sides(level), grain, alone)
    assert np.allclose(calm[: len(level)][rafter, 0], 10.0)
    assert np.array_equal(calm[alone], both_sides(level)[alone])
    none = np.ones(2 * len(down), bool)
    assert np.array_equal(without_grain(points, both_sides(level), grain, none), both_sides(level))
