"""Plans for pages: what would be cut off is left out as a whole."""

from __future__ import annotations

import numpy as np

from altana.core.geometry.drawing import Outline
from altana.jobs.models import Opened
from altana.jobs.plans import Plans, whole_outlines, whole_things


def box(x: float, y: float, wide: float, high: float, number: int = 0) -> Outline:
    points = np.array([[x, y], [x + wide, y], [x + wide, y + high], [x, y + high], [x, y]], float)
    return Outline(points, number, True, False)


def test_a_building_that_reaches_beyond_the_page_is_left_out_whole() -> None:
    house = [box(0, 0, 10, 0.3, 0), box(9.7, 0.3, 0.3, 8, 1)]
    # A shed of two walls that meet; one of them lies on the page.
    shed = [box(14, 0, 0.3, 6, 2), box(14.3, 5.7, 20, 0.3, 3)]
    bollard = [box(12, 2, 0.3, 0.3, 4)]
    shown, gone = whole_outlines([*house, *shed, *bollard], (-1, -1), (16, 10), (5, 4))
    assert [item.object_index for item in shown] == [0, 1, 4]
    assert gone.bounds[0] < 14.0 and gone.bounds[2] > 34.0
    # The building that the page is about is drawn whatever it reaches to.
    shown, _ = whole_outlines(house, (-1, -1), (9, 10), (5, 4))
    assert [item.object_index for item in shown] == [0, 1]


def test_lines_that_hang_together_are_kept_or_left_out_together() -> None:
    lines = np.array([[[0, 0], [5, 0]], [[5, 0], [5, 5]], [[8, 0], [9, 0]], [[9, 0], [30, 0]]], float)
    assert whole_things(lines, (-1, -1), (20, 20)).tolist() == [True, True, False, False]
    assert whole_things(np.zeros((0, 2, 2)), (0, 0), (1, 1)).tolist() == []


def test_the_demos_rooms_tell_how_far_a_plan_reaches(demo_opened: Opened) -> None:
    plans = Plans(demo_opened.model)
    storey = plans.storey_of((7.0, 5.0, 1.6))
    assert storey is not None
    extent = plans.rooms_extent(storey)
    assert extent is not None
    (x0, y0), (x1, y1) = extent
    assert x1 - x0 < 45.0 and y1 - y0 < 30.0
    assert plans.drawing(storey) is plans.drawing(storey)
    assert plans.drawing(storey, 2.2).cut_m != plans.drawing(storey).cut_m
