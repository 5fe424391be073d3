"""Planes of several things that lie side by side in one plane: the panels of a ceiling, tiles, boards.

Each with points of its own shows its own grain, and a plain ceiling looks like a chessboard.  Those that
touch are one plane, with one grid of points.
"""

from __future__ import annotations

import numpy as np
import scipy
import shapely

from altana.core.conventions import Bools, Floats, Ints
from altana.core.light.corners import folded

#: Planes wider than this both ways stay alone: their points are enough for themselves.
WIDE_M = 3.0
#: They lie in one plane to this, and touch when they are no farther apart than this.
LEVEL_M, TOUCH_M = 0.001, 0.015
#: What they fill together less than this of is a frame or a row round something, and no plane.
FILLED_SHARE = 0.6


def abutting(facing: Ints, level: Floats, low: Floats, high: Floats, area: Floats, chosen: Bools) -> Ints:
    """(p,) a number for each plane, the same for those that are one.

    facing : (p, 3) their directions, rounded.  level : (p,) how far they lie along them, metres.  low, high :
    (p, 2) their corners on axes that go by the direction alone.  area : (p,) m2.  chosen : (p,) those that
    may be joined to others.
    """
    count = len(level)
    alone = np.arange(count, dtype=np.int64)
    some = np.flatnonzero(chosen & ((high - low).min(axis=1, initial=np.inf) < WIDE_M))
    if len(some) < 2:
        return alone
    step = np.round(level[some] / LEVEL_M).astype(np.int64)
    _, plane = np.unique(folded([*facing[some].T, step]), return_inverse=True)
    left, right = low[some] - TOUCH_M / 2, high[some] + TOUCH_M / 2
    # What stands in one place many times over is looked at once: each would touch all the others.
    place = np.round(np.column_stack([left, right]) / TOUCH_M).astype(np.int64)
    _, first, one = np.unique(
        folded(list(place[:, 2:].T), folded([plane, *place[:, :2].T])), return_index=True, return_inverse=True
    )
    # Each plane has a place of its own in one large map.
    shift = plane[first] * (float((right - left[:, :1].min()).max()) + 1.0)
    boxes = shapely.box(left[first, 0] + shift, left[first, 1], right[first, 0] + shift, right[first, 1])
    pairs = shapely.STRtree(boxes).query(boxes, predicate="intersects")
    links = scipy.sparse.coo_array((np.ones(pairs.shape[1], np.int8), tuple(pairs)), shape=(len(boxes),) * 2)
    each = scipy.sparse.csgraph.connected_components(links, directed=False)[1]
    label = each[one]
    groups = int(each.max()) + 1
    corner, far = np.full((groups, 2), np.inf), np.full((groups, 2), -np.inf)
    np.minimum.at(corner, label, low[some])
    np.maximum.at(far, label, high[some])
    filled = np.bincount(each, weights=area[some][first]) / np.maximum((far - corner).prod(axis=1), 1e-9)
    together = (filled[label] > FILLED_SHARE) & (np.bincount(label)[label] > 1)
    alone[some[together]] = count + label[together]
    return np.unique(alone, return_inverse=True)[1].astype(np.int64)
