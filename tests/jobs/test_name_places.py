"""Names beside marks on a drawing cover neither each other nor what matters."""

from __future__ import annotations

import numpy as np
import shapely

from altana.jobs.name_places import places_beside

BOX = ((0.0, 0.0), (200.0, 100.0))


def boxes(places: np.ndarray, sizes: np.ndarray) -> list[shapely.Polygon]:
    return [shapely.box(*place, *(place + size)) for place, size in zip(places, sizes, strict=True)]


def test_a_name_alone_stands_to_the_right() -> None:
    places = places_beside(np.array([[50.0, 50.0]]), np.array([[20.0, 2.0]]), 2.4, BOX)
    assert places.tolist() == [[52.4, 49.0]]


def test_names_of_marks_close_together_do_not_cover_each_other() -> None:
    marks = np.array([[50.0 + 3.0 * x, 50.0 + 3.0 * y] for x in range(3) for y in range(2)])
    sizes = np.full((6, 2), (20.0, 2.0))
    names = boxes(places_beside(marks, sizes, 2.4, BOX), sizes)
    assert all(a.intersection(b).area == 0.0 for n, a in enumerate(names) for b in names[:n])


def test_a_name_stays_on_the_drawing_and_off_walls_views_and_lines() -> None:
    wall, view = shapely.box(52.0, 0.0, 54.0, 100.0), shapely.box(20.0, 49.0, 49.0, 51.0)
    line = shapely.MultiLineString([[(30.0, 53.0), (49.0, 53.0)]])
    sizes = np.array([[20.0, 2.0], [20.0, 2.0]])
    places = places_beside(
        np.array([[50.0, 50.0], [198.0, 50.0]]), sizes, 2.4, BOX, [(wall, 6.0), (view, 1.0), (line, 1.0)]
    )
    near, rim = boxes(places, sizes)
    assert not any(near.intersects(thing) for thing in (wall, view, line))
    assert shapely.box(0, 0, 200, 100).covers(rim) and places[1, 0] < 178.0


def test_where_nothing_is_free_the_least_is_covered() -> None:
    everywhere = shapely.box(0, 0, 200, 100)
    places = places_beside(np.array([[50.0, 50.0]]), np.array([[20.0, 2.0]]), 2.4, BOX, [(everywhere, 6.0)])
    assert places.tolist() == [[52.4, 49.0]]
