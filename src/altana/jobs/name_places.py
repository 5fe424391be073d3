"""Where names stand beside marks on a drawing, so that they cover neither each other nor what matters."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely

from altana.core.conventions import Floats, Vec2

#: Ways a name may stand to its mark, the first being the best where all are free: to the right, left, above,
#: below, and between them.
WAYS = ((1.0, 0.0), (-1.0, 0.0), (0.0, 1.0), (0.0, -1.0), (1.0, 1.0), (1.0, -1.0), (-1.0, 1.0), (-1.0, -1.0))
#: And so many times as far away, the nearer the better.
TIMES = (1.0, 2.2, 4.0)
#: How bad it is to lie over another name or mark, or to reach over the edge; to lie farther away; and to take
#: a later way.
OVER_NAME, OVER_EDGE, FARTHER, LATER = 20.0, 50.0, 0.3, 0.02


def places_beside(
    marks: Floats,
    sizes: Floats,
    off: float,
    box: tuple[Vec2, Vec2],
    covered: Sequence[tuple[shapely.Geometry, float]] = (),
) -> Floats:
    """(n, 2) lower left corners of names of ``sizes`` (n, 2) beside ``marks`` (n, 2), their rims ``off`` away
    from the middle of the mark.

    box : lowest and highest corner that names stay within.  covered : surfaces and lines that they should not
    lie over, and how bad it is to lie on such a surface as a whole, or over a line as long as the name is
    wide. All in one unit of length.
    """
    low, high = box
    whole = shapely.box(*low, *high)
    discs = [shapely.Point(mark).buffer(0.6 * off) for mark in marks.tolist()]
    taken: list[shapely.Geometry] = []
    corners = np.zeros((len(marks), 2))
    for number, (mark, size) in enumerate(zip(marks, sizes, strict=True)):
        area = float(size.prod()) or 1.0
        others = [*taken, *(disc for other, disc in enumerate(discs) if other != number)]
        reach = size + off * TIMES[-1]
        # Of a whole town only what lies about the mark is looked at again and again.
        about = [
            (shapely.clip_by_rect(shape, *(mark - reach), *(mark + reach)), bad) for shape, bad in covered
        ]
        best = np.inf
        for away, (way, times) in enumerate((way, times) for times in TIMES for way in WAYS):
            corner = mark + np.array(way) * (off * times + size / 2) - size / 2
            name = shapely.box(*corner, *(corner + size))
            worth = FARTHER * (times - 1.0) + LATER * away
            worth += OVER_EDGE * (1.0 - whole.intersection(name).area / area)
            worth += OVER_NAME * sum(name.intersection(other).area for other in others) / area
            worth += sum(bad * _share(name.intersection(shape), size) for shape, bad in about)
            if worth < best:
                best, corners[number] = worth, corner
        taken.append(shapely.box(*corners[number], *(corners[number] + size)))
    return corners


def _share(covered: shapely.Geometry, size: Floats) -> float:
    """How much of a name something covers, or how long lines below it are in its widths."""
    area = shapely.area(covered)
    return float(area / (size.prod() or 1.0) if area else shapely.length(covered) / (size[0] or 1.0))
