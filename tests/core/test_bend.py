"""A route is bent by pulling at it: it runs through where it was pulled to, whatever its places are like."""

from __future__ import annotations

import numpy as np
import pytest

from altana.core.errors import Refused
from altana.core.project import CORNER, Walk, WalkKey
from altana.core.walk.bend import bent, stretch_at
from altana.core.walk.sample import resolve


def walk_through(*places: tuple[float, float], bend: str = "smooth") -> Walk:
    return Walk("w", "W", tuple(WalkKey((x, y, 1.6), bend=bend) for x, y in places), 10.0)


def away(walk: Walk, place: tuple[float, float]) -> float:
    points = resolve(walk, None).route.points[:, :2]
    return float(np.hypot(*(points - place).T).min())


@pytest.mark.parametrize("share", [0.2, 0.35, 0.5, 0.8])
@pytest.mark.parametrize("to", [(5.0, 6.0), (-3.0, 2.0), (5.0, -12.0)])
def test_the_route_runs_through_where_it_was_pulled_to(share: float, to: tuple[float, float]) -> None:
    walk = walk_through((0.0, 0.0), (10.0, 0.0))
    pulled = bent(walk, 0, share, to)
    assert away(walk, to) > 1.0
    assert away(pulled, to) < 0.02
    # Its places stay where they are.
    assert [key.eye for key in pulled.keys] == [key.eye for key in walk.keys]


def test_in_the_middle_both_handles_turn_alike() -> None:
    """Four thirds of the pull, since the middle of a cubic follows each of its handles by three eighths."""
    first, second = bent(walk_through((0.0, 0.0), (9.0, 0.0)), 0, 0.5, (4.5, 3.0)).keys
    assert first.handle == pytest.approx((3.0, 4.0), abs=1e-3)
    assert second.handle == pytest.approx((3.0, -4.0), abs=1e-3)


def test_only_the_stretch_that_is_pulled_and_its_neighbours_change() -> None:
    walk = walk_through((0.0, 0.0), (10.0, 0.0), (20.0, 4.0), (30.0, 0.0), (40.0, 0.0))
    assert stretch_at(walk, (15.0, 2.5))[0] == 1
    pulled = bent(walk, 1, 0.5, (15.0, 9.0))
    assert away(pulled, (15.0, 9.0)) < 0.02
    changed = [number for number, key in enumerate(pulled.keys) if key != walk.keys[number]]
    assert changed == [1, 2]


def test_a_pull_to_where_it_is_leaves_it_there() -> None:
    walk = walk_through((0.0, 0.0), (10.0, 0.0))
    index, share, off = stretch_at(walk, (4.0, 0.3))
    assert (index, share) == (0, pytest.approx(0.4, abs=0.01)) and off == pytest.approx(0.3, abs=0.01)
    assert away(bent(walk, 0, 0.5, (5.0, 0.0)), (5.0, 0.0)) < 1e-3


def test_a_corner_stays_a_corner_and_two_refuse() -> None:
    walk = walk_through((0.0, 0.0), (10.0, 0.0))
    keys = (walk.keys[0], WalkKey((10.0, 0.0, 1.6), bend=CORNER))
    pulled = bent(Walk("w", "W", keys, 10.0), 0, 0.5, (5.0, 3.0))
    assert pulled.keys[1] == keys[1] and away(pulled, (5.0, 3.0)) < 0.02
    with pytest.raises(Refused, match="sharp corners"):
        bent(walk_through((0.0, 0.0), (10.0, 0.0), bend=CORNER), 0, 0.5, (5.0, 3.0))


def test_a_pull_out_of_all_measure_keeps_handles_that_can_be_saved() -> None:
    far = bent(walk_through((0.0, 0.0), (10.0, 0.0)), 0, 0.5, (5.0, 4000.0))
    assert all(np.hypot(*key.handle) <= 100.0 for key in far.keys if key.handle is not None)


def test_a_long_route_is_taken_at_once() -> None:
    """Two hundred places: each stretch is looked at once, not all of them for each."""
    walk = walk_through(*[(float(number), float(number % 3)) for number in range(200)])
    index, _, off = stretch_at(walk, (150.5, 0.6))
    assert index in (149, 150) and off < 0.5
