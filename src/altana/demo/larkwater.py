"""The terminal in one description: what stands where, of what, on which storey.

Everything the two model files contain comes from :func:`terminal`; its measures stand in
:mod:`altana.demo.site`.
"""

from __future__ import annotations

import itertools

import numpy as np
import shapely

from altana.demo.annexes import office, tower, wing
from altana.demo.furnishing import cafe, furniture
from altana.demo.outside import far_shore, ferry, forecourt, quay, sheds
from altana.demo.pieces import framed, glazed, parts_of, railing
from altana.demo.shapes import Hole, Mesh, WallRun, beam, box, quads
from altana.demo.site import (
    GALLERY,
    GALLERY_EDGE_X,
    GALLERY_M,
    GALLERY_SOUTH_Y,
    GROUND,
    HALL_M,
    LAKE_M,
    QUAY_M,
    ROOFS,
    TOWER,
    WALL,
    Element,
    Site,
    rect,
)


def terminal() -> list[Element]:
    """All elements of the demo, in a fixed order."""
    site = Site()
    for part in (
        _ground,
        _hall_shell,
        _glass_front,
        _hall_roof,
        _gallery,
        _stair,
        office,
        wing,
        tower,
        furniture,
        cafe,
        forecourt,
        quay,
        ferry,
        sheds,
        far_shore,
    ):
        part(site)
    return site.elements


# ------------------------------------------------------------------ ground and shell


def _ground(site: Site) -> None:
    land = shapely.Polygon([(-90, -70), (90, -70), (90, 27), (-90, 27)])
    building = shapely.union_all(
        [rect(-WALL, -WALL, 14.36, 18.36), rect(14.36, 1.7, 20.3, 12.3), rect(*TOWER)]
    )
    paved = rect(-12, -9, 26, 27).difference(building)
    drive = rect(-60, -16, 60, -9)
    grass = land.difference(building).difference(paved).difference(drive).difference(rect(-90, 20, 90, 27))
    quay = land.intersection(rect(-90, 20, 90, 27)).difference(paved)
    for index, part in enumerate(parts_of(grass)):
        site.slab(f"Lawn {index + 1}", "Terrain", GROUND, "Grass", part, QUAY_M - 0.5, QUAY_M)
    for index, part in enumerate(parts_of(paved)):
        site.slab(f"Terminal paving {index + 1}", "Terrain", GROUND, "Quay stone", part, QUAY_M - 0.4, QUAY_M)
    for index, part in enumerate(parts_of(quay)):
        site.slab(f"Quay paving {index + 1}", "Terrain", GROUND, "Quay stone", part, QUAY_M - 0.4, QUAY_M)
    site.slab("Forecourt drive", "Terrain", GROUND, "Gravel", drive, QUAY_M - 0.4, QUAY_M)
    site.add(
        "Lake bed wall", "Terrain", GROUND, ("Concrete", [box((-90, 26.6, -4), (90, 27.0, QUAY_M - 0.4))])
    )
    water = quads(
        np.array([[(-900, 27, LAKE_M), (900, 27, LAKE_M), (900, 900, LAKE_M), (-900, 900, LAKE_M)]])
    )
    site.add("Lake", "Water", GROUND, ("Lake water", [water]))
    far_land = quads(
        np.array([[(-900, -600, -0.8), (900, -600, -0.8), (900, 26.9, -0.8), (-900, 26.9, -0.8)]])
    )
    site.add("Land around", "Terrain", GROUND, ("Grass", [far_land]))


def _hall_shell(site: Site) -> None:
    site.slab("Hall floor", "Floor", GROUND, "Floor tile", rect(0, 0, 14, 18), -0.25, 0.0)
    site.slab(
        "Hall plinth",
        "Floor",
        GROUND,
        "Concrete",
        rect(-WALL, -WALL, 14.36, 18.36).difference(rect(0, 0, 14, 18)),
        -0.6,
        0.0,
    )
    half = WALL / 2
    south = (
        Hole(4.36, 7.16, 0.0, 2.6),
        Hole(8.56, 11.36, 0.9, 2.6),
        Hole(1.4, 3.2, 0.9, 2.6),
        Hole(4.36, 7.16, 3.6, 5.4),
        Hole(8.56, 11.36, 3.6, 5.4),
        Hole(1.4, 3.2, 3.6, 5.4),
    )
    site.wall(
        "South wall", GROUND, "Brick", WallRun((-WALL, -half), (14.36, -half), WALL, 0.0, HALL_M, south)
    )
    east = (
        tuple(Hole(y, y + 1.6, 0.9, 2.9) for y in (13.0, 15.4))
        + tuple(Hole(y, y + 1.6, 4.2, 6.2) for y in (1.6, 4.6, 7.6, 10.6, 13.6))
        + (Hole(8.4, 9.4, 0.0, 2.1), Hole(3.4, 4.8, 0.0, 2.1))
    )
    site.wall("East wall", GROUND, "Brick", WallRun((14.18, 0.0), (14.18, 18.0), WALL, 0.0, HALL_M, east))
    west = (Hole(2.0, 4.2, 0.9, 2.3), Hole(6.0, 9.0, 4.5, 6.4), Hole(12.0, 15.0, 4.5, 6.4))
    # Drawn from north to south, so that its outer face looks west.
    site.wall("West wall", GROUND, "Brick", WallRun((-half, 18.0), (-half, 0.0), WALL, 0.0, HALL_M, west))
    inner = tuple(Hole(h.start - WALL, h.end - WALL, h.sill, h.head) for h in south)
    site.wall("South lining", GROUND, "Plaster", WallRun((0.0, 0.01), (14.0, 0.01), 0.02, 0.0, HALL_M, inner))
    site.wall("West lining", GROUND, "Plaster", WallRun((0.01, 18.0), (0.01, 0.0), 0.02, 0.0, HALL_M, west))
    _windows(site)


def _windows(site: Site) -> None:
    half = WALL / 2
    rows: list[tuple[str, tuple[float, float], tuple[float, float], Hole, int]] = []
    for h in (
        Hole(8.56, 11.36, 0.9, 2.6),
        Hole(1.4, 3.2, 0.9, 2.6),
        Hole(4.36, 7.16, 3.6, 5.4),
        Hole(8.56, 11.36, 3.6, 5.4),
        Hole(1.4, 3.2, 3.6, 5.4),
    ):
        rows.append(("South window", (-WALL, -half), (1.0, 0.0), h, 2))
    for y in (13.0, 15.4):
        rows.append(("East window", (14.18, 0.0), (0.0, 1.0), Hole(y, y + 1.6, 0.9, 2.9), 1))
    for y in (1.6, 4.6, 7.6, 10.6, 13.6):
        rows.append(("East clerestory", (14.18, 0.0), (0.0, 1.0), Hole(y, y + 1.6, 4.2, 6.2), 1))
    for h in (Hole(2.0, 4.2, 0.9, 2.3), Hole(6.0, 9.0, 4.5, 6.4), Hole(12.0, 15.0, 4.5, 6.4)):
        rows.append(("West window", (-half, 18.0), (0.0, -1.0), h, 2))
    for index, (name, origin, along, hole, panes) in enumerate(rows):
        storey = GROUND if hole.sill < 3.0 else GALLERY
        glazed(site, f"{name} {index + 1}", "Window", storey, origin, along, hole, panes, 1)
    glazed(
        site, "Forecourt doors", "Door", GROUND, (-WALL, -half), (1.0, 0.0), Hole(4.36, 7.16, 0.0, 2.6), 4, 1
    )
    for index, hole in enumerate((Hole(8.4, 9.4, 0.0, 2.1), Hole(3.4, 4.8, 0.0, 2.1))):
        leaf = box((14.20, hole.start + 0.05, 0.01), (14.25, hole.end - 0.05, 2.05))
        frame = framed((14.18, 0.0), (0.0, 1.0), hole, 0.0, 0.06, 0.12)
        site.add(f"Room door {index + 1}", "Door", GROUND, ("Green lacquer", [leaf]), ("Oak", frame))


def _glass_front(site: Site) -> None:
    y = 18.18
    posts = np.linspace(0.0, 14.0, 11)
    levels = (0.0, 2.4, 3.6, 5.4, HALL_M - 0.1)
    oak = [box((x - 0.035, y - 0.11, 0.0), (x + 0.035, y + 0.11, HALL_M)) for x in posts[1:-1]]
    oak += [
        box((0.0, y - 0.11, 0.0), (0.07, y + 0.11, HALL_M)),
        box((13.93, y - 0.11, 0.0), (14.0, y + 0.11, HALL_M)),
    ]
    oak += [box((0.0, y - 0.08, z), (14.0, y + 0.08, z + 0.07)) for z in levels]
    site.add("Glass front frame", "Curtain wall", GROUND, ("Oak", oak))
    for column, (x0, x1) in enumerate(itertools.pairwise(posts)):
        panes = [
            box((x0 + 0.03, y - 0.01, z0 + 0.05), (x1 - 0.03, y + 0.01, z1 + 0.02))
            for z0, z1 in itertools.pairwise(levels)
            if not (column in (4, 5) and z0 == 0.0)
        ]
        site.add(f"Glass front bay {column + 1}", "Glazing", GROUND, ("Clear glass", panes))
    leaves = [box((x, y - 0.04, 0.02), (x + 0.08, y + 0.04, 2.38)) for x in (5.63, 6.92, 7.0, 8.29)]
    leaves += [
        box((x, y - 0.04, z), (x + 1.37, y + 0.04, z + 0.12)) for x in (5.63, 7.0) for z in (0.02, 2.26)
    ]
    glass = [box((x + 0.07, y - 0.01, 0.12), (x + 1.30, y + 0.01, 2.3)) for x in (5.63, 7.0)]
    handles = [box((x, y - 0.10, 0.8), (x + 0.03, y + 0.10, 1.5)) for x in (6.86, 7.10)]
    site.add("Quay doors", "Door", GROUND, ("Oak", leaves), ("Clear glass", glass), ("Dark steel", handles))
    corners = [box((-WALL, 18.0, 0.0), (0.0, 18.36, HALL_M)), box((14.0, 18.0, 0.0), (14.36, 18.36, HALL_M))]
    site.add("Front piers", "Column", GROUND, ("Brick", corners))


def _hall_roof(site: Site) -> None:
    for index, y in enumerate(np.arange(3.0, 18.0, 3.0)):
        glulam = box((0.02, y - 0.1, HALL_M - 0.62), (14.0, y + 0.1, HALL_M - 0.02))
        site.add(f"Glulam beam {index + 1}", "Beam", GALLERY, ("Glulam", [glulam]))
    site.slab(
        "Hall ceiling", "Covering", GALLERY, "Larch ceiling", rect(0, 0.02, 14, 18.36), HALL_M - 0.02, HALL_M
    )
    outline = rect(-1.2, -1.2, 15.2, 20.2)
    site.slab("Hall roof", "Roof", ROOFS, "Roof zinc", outline, HALL_M, HALL_M + 0.32)
    site.slab(
        "Eaves boards",
        "Covering",
        ROOFS,
        "Larch ceiling",
        outline.buffer(-0.05, join_style="mitre").difference(rect(-WALL, -WALL, 14.36, 18.36)),
        HALL_M - 0.06,
        HALL_M,
    )
    ribs = [
        box((x - 0.02, -1.2, HALL_M + 0.32), (x + 0.02, 20.2, HALL_M + 0.37))
        for x in np.arange(-1.0, 15.2, 0.6)
    ]
    site.add("Roof seams", "Roof", ROOFS, ("Roof zinc", ribs))


# ------------------------------------------------------------------ gallery and stair


def _gallery(site: Site) -> None:
    edge, south = GALLERY_EDGE_X, GALLERY_SOUTH_Y
    site.slab(
        "Gallery floor",
        "Floor",
        GALLERY,
        "Larch boards",
        rect(0.02, south, edge, 18.0),
        GALLERY_M - 0.06,
        GALLERY_M,
    )
    site.slab(
        "Gallery deck",
        "Floor",
        GALLERY,
        "Glulam",
        rect(0.02, south, edge, 18.0),
        GALLERY_M - 0.3,
        GALLERY_M - 0.06,
    )
    for index, y in enumerate((5.6, 8.7, 11.8, 14.9, 17.7)):
        post = box((edge - 0.26, y - 0.11, 0.0), (edge - 0.04, y + 0.11, GALLERY_M - 0.3))
        foot = box((edge - 0.28, y - 0.13, 0.0), (edge - 0.02, y + 0.13, 0.06))
        site.add(f"Gallery post {index + 1}", "Column", GROUND, ("Glulam", [post]), ("Dark steel", [foot]))
    railing(site, "Gallery railing", GALLERY, [(edge - 0.06, south + 0.05), (edge - 0.06, 17.95)], GALLERY_M)
    railing(site, "Stairhead railing", GALLERY, [(2.1, south + 0.05), (edge - 0.06, south + 0.05)], GALLERY_M)


#: Stair: ten rises of 0.18 m to the landing and ten to the gallery, treads 0.29 m.
RISE, TREAD, RISES = 0.18, 0.29, 10
LANDING = (0.6, 1.4, 3.7, 2.8)
LANDING_M = RISE * RISES


def _stair(site: Site) -> None:
    run = TREAD * (RISES - 1)
    south_x, north_x = (2.3, 3.7), (0.6, 2.0)
    treads: list[Mesh] = []
    for step in range(RISES - 1):
        z, y = RISE * (step + 1), LANDING[3] + run - TREAD * step
        treads.append(box((south_x[0], y - TREAD - 0.02, z - 0.05), (south_x[1], y, z), 0))
        z, y = LANDING_M + RISE * (step + 1), LANDING[3] + TREAD * step
        treads.append(box((north_x[0], y, z - 0.05), (north_x[1], y + TREAD + 0.02, z), 0))
    strings = []
    for x in south_x:
        strings.append(
            beam((x, LANDING[3] + run, RISE * 0.6), (x, LANDING[3], LANDING_M - RISE * 0.4), 0.06, 0.3)
        )
    for x in north_x:
        strings.append(
            beam(
                (x, LANDING[3], LANDING_M + RISE * 0.6),
                (x, LANDING[3] + run, GALLERY_M - RISE * 0.4),
                0.06,
                0.3,
            )
        )
    site.add("Stair", "Stair", GROUND, ("Oak", treads), ("Glulam", strings))
    site.slab("Stair landing", "Floor", GROUND, "Oak", rect(*LANDING), LANDING_M - 0.16, LANDING_M)
    posts = [
        box((x - 0.08, y - 0.08, 0.0), (x + 0.08, y + 0.08, LANDING_M - 0.16))
        for x in (0.75, 3.55)
        for y in (1.55, 2.6)
    ]
    site.add("Landing posts", "Column", GROUND, ("Glulam", posts))
    _stair_railings(site, run, south_x, north_x)


def _stair_railings(
    site: Site, run: float, south_x: tuple[float, float], north_x: tuple[float, float]
) -> None:
    steel: list[Mesh] = []
    oak: list[Mesh] = []
    bottom, top = LANDING[3] + run, LANDING[3]
    flights = [(x, bottom, top, 0.0, LANDING_M) for x in south_x] + [
        (x, top, bottom, LANDING_M, GALLERY_M) for x in north_x
    ]
    for x, y0, y1, z0, z1 in flights:
        for step in range(RISES * 2):
            share = (step + 0.5) / (RISES * 2)
            y, z = y0 + (y1 - y0) * share, z0 + (z1 - z0) * share
            steel.append(box((x - 0.007, y - 0.007, z), (x + 0.007, y + 0.007, z + 0.95)))
        oak.append(beam((x, y0, z0 + 0.97 + RISE * 0.3), (x, y1, z1 + 0.97 + RISE * 0.3), 0.07, 0.05))
    site.add("Stair railings", "Railing", GROUND, ("Dark steel", steel), ("Oak", oak))
    x0, y0, x1, y1 = LANDING
    path = [(x0 + 0.05, y1), (x0 + 0.05, y0 + 0.05), (x1 - 0.05, y0 + 0.05), (x1 - 0.05, y1)]
    railing(site, "Landing railing", GROUND, path, LANDING_M)
    railing(site, "Landing gap railing", GROUND, [(2.0, y1 - 0.05), (2.3, y1 - 0.05)], LANDING_M)
