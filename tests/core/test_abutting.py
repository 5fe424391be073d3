"""Planes that lie side by side are one; those apart, above each other, or round something are not."""

from __future__ import annotations

import numpy as np

from altana.core.light.abutting import abutting


def numbers(
    low: list[tuple[float, float]], high: list[tuple[float, float]], level: list[float] | None = None
) -> list[int]:
    """What becomes of rectangles of one direction, all of which may be joined."""
    corner, far = np.array(low, float), np.array(high, float)
    count = len(corner)
    one = abutting(
        np.tile((0, 0, 40), (count, 1)),
        np.zeros(count) if level is None else np.array(level, float),
        corner,
        far,
        (far - corner).prod(axis=1),
        np.ones(count, bool),
    )
    return [int(number) for number in one]


def test_tiles_that_touch_are_one_plane_and_others_are_not() -> None:
    # Two with a joint of 3 mm; one a hand away; one on them but 4 mm higher.
    one = numbers(
        [(0, 0), (0.603, 0), (1.4, 0), (0, 0.3)],
        [(0.6, 0.6), (1.2, 0.6), (2.0, 0.6), (0.6, 0.9)],
        [2.0, 2.0, 2.0, 2.004],
    )
    assert one[0] == one[1]
    assert len(set(one)) == 3


def test_a_frame_of_bars_and_wide_floors_stay_apart() -> None:
    frame = numbers([(0, 0), (0, 1.9), (0, 0), (1.9, 0)], [(2, 0.1), (2, 2), (0.1, 2), (2, 2)])
    assert len(set(frame)) == 4
    floors = numbers([(0, 0), (4, 0)], [(4, 4), (8, 4)])
    assert len(set(floors)) == 2


def test_what_stands_in_one_place_ten_thousand_times_is_soon_told() -> None:
    one = numbers([(0.0, 0.0)] * 10_000 + [(1.0, 0.0)], [(1.0, 1.0)] * 10_000 + [(2.0, 1.0)])
    assert len(set(one)) == 1


def test_nothing_and_one_plane() -> None:
    assert numbers([(0, 0)], [(1, 1)]) == [0]
    none = abutting(
        np.zeros((0, 3), int), np.zeros(0), np.zeros((0, 2)), np.zeros((0, 2)), np.zeros(0), np.zeros(0, bool)
    )
    assert len(none) == 0
