"""The terminal in one description: what stands where, of what, on which storey.

Everything the two model files contain comes from :func:`terminal`; its measures stand in :mod:`altana.demo.site`.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Sequence

import numpy as np
import shapely

from altana.demo.furnishing import cafe, chair, furniture, table
from altana.demo.outside import far_shore, ferry, forecourt, quay, sheds
from altana.demo.shapes import Array, Hole, Mesh, WallRun, beam, box, cylinder, prism, quads
from altana.demo.site import (
    GALLERY,
    GALLERY_EDGE_X,
    GALLERY_M,
    GALLERY_SOUTH_Y,
    GROUND,
    HALL_M,
    LAKE_M,
    LOOKOUT,
    LOOKOUT_M,
    OFFICE,
    OFFICE_HIGH_M,
    QUAY_M,
    ROOFS,
    TOWER,
    TOWER_TOP_M,
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
        _office,
        _wing,
        _tower,
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
    for index, part in enumerate(_parts(grass)):
        site.slab(f"Lawn {index + 1}", "Terrain", GROUND, "Grass", part, QUAY_M - 0.5, QUAY_M)
    for index, part in enumerate(_parts(paved)):
        site.slab(f"Terminal paving {index + 1}", "Terrain", GROUND, "Quay stone", part, QUAY_M - 0.4, QUAY_M)
    for index, part in enumerate(_parts(quay)):
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


def _parts(shape: shapely.Geometry) -> list[shapely.Polygon]:
    found = (
        [shape]
        if isinstance(shape, shapely.Polygon)
        else [p for p in shapely.get_parts(shape).tolist() if isinstance(p, shapely.Polygon)]
    )
    return sorted(found, key=lambda p: p.bounds)


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
        _glazed(site, f"{name} {index + 1}", "Window", storey, origin, along, hole, panes, 1)
    _glazed(
        site, "Forecourt doors", "Door", GROUND, (-WALL, -half), (1.0, 0.0), Hole(4.36, 7.16, 0.0, 2.6), 4, 1
    )
    for index, hole in enumerate((Hole(8.4, 9.4, 0.0, 2.1), Hole(3.4, 4.8, 0.0, 2.1))):
        leaf = box((14.20, hole.start + 0.05, 0.01), (14.25, hole.end - 0.05, 2.05))
        frame = _frame((14.18, 0.0), (0.0, 1.0), hole, 0.0, 0.06, 0.12)
        site.add(f"Room door {index + 1}", "Door", GROUND, ("Green lacquer", [leaf]), ("Oak", frame))


def _local_box(
    origin: Sequence[float], along: Sequence[float], s0: float, s1: float, z0: float, z1: float, depth: float
) -> Mesh:
    """A box in a wall's own directions: from s0 to s1 along it, centred on its axis."""
    ox, oy = origin
    ax, ay = along
    a = np.array([ox + ax * s0 - abs(ay) * depth / 2, oy + ay * s0 - abs(ax) * depth / 2, z0])
    b = np.array([ox + ax * s1 + abs(ay) * depth / 2, oy + ay * s1 + abs(ax) * depth / 2, z1])
    return box(a.tolist(), b.tolist())


def _frame(
    origin: Sequence[float], along: Sequence[float], hole: Hole, base: float, width: float, depth: float
) -> list[Mesh]:
    z0, z1 = hole.sill + base, hole.head + base
    bars = [
        (hole.start, hole.start + width, z0, z1),
        (hole.end - width, hole.end, z0, z1),
        (hole.start + width, hole.end - width, z1 - width, z1),
    ]
    if hole.sill > 0.05:
        bars.append((hole.start + width, hole.end - width, z0, z0 + width))
    return [_local_box(origin, along, *bar, depth) for bar in bars]


def _glazed(
    site: Site,
    name: str,
    category: str,
    storey: str,
    origin: Sequence[float],
    along: Sequence[float],
    hole: Hole,
    columns: int,
    rows: int,
    surface: str = "Oak",
) -> None:
    bars = _frame(origin, along, hole, 0.0, 0.07, 0.12)
    xs = np.linspace(hole.start, hole.end, columns + 1)
    zs = np.linspace(hole.sill, hole.head, rows + 1)
    for x in xs[1:-1]:
        bars.append(_local_box(origin, along, x - 0.03, x + 0.03, hole.sill + 0.07, hole.head - 0.07, 0.09))
    for z in zs[1:-1]:
        bars.append(_local_box(origin, along, hole.start + 0.07, hole.end - 0.07, z - 0.03, z + 0.03, 0.09))
    pieces: list[tuple[str, Iterable[Mesh]]] = [(surface, bars)]
    if category == "Door":
        for x in xs[1:-1]:
            for side in (-0.12, 0.12):
                handle = [_local_box(origin, along, x + side - 0.015, x + side + 0.015, 0.85, 1.35, 0.16)]
                pieces.append(("Dark steel", handle))
        pieces.append(
            (surface, [_local_box(origin, along, hole.start + 0.07, hole.end - 0.07, 0.0, 0.18, 0.08)])
        )
    pane = _local_box(
        origin, along, hole.start + 0.05, hole.end - 0.05, hole.sill + 0.03, hole.head - 0.05, 0.016
    )
    pieces.append(("Clear glass", [pane]))
    site.add(name, category, storey, *_by_surface(pieces))


def _by_surface(pieces: Sequence[tuple[str, Iterable[Mesh]]]) -> list[tuple[str, list[Mesh]]]:
    grouped: dict[str, list[Mesh]] = {}
    for surface, meshes in pieces:
        grouped.setdefault(surface, []).extend(meshes)
    return list(grouped.items())


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
    _railing(site, "Gallery railing", GALLERY, [(edge - 0.06, south + 0.05), (edge - 0.06, 17.95)], GALLERY_M)
    _railing(
        site, "Stairhead railing", GALLERY, [(2.1, south + 0.05), (edge - 0.06, south + 0.05)], GALLERY_M
    )


def _railing(site: Site, name: str, storey: str, path: Sequence[tuple[float, float]], floor: float) -> None:
    steel: list[Mesh] = []
    oak: list[Mesh] = []
    for (x0, y0), (x1, y1) in itertools.pairwise(path):
        length = float(np.hypot(x1 - x0, y1 - y0))
        ux, uy = (x1 - x0) / length, (y1 - y0) / length
        for s in np.arange(0.0, length + 1e-6, length / max(1, round(length / 0.115))):
            x, y = x0 + ux * s, y0 + uy * s
            steel.append(box((x - 0.007, y - 0.007, floor + 0.08), (x + 0.007, y + 0.007, floor + 0.98)))
        for s in np.linspace(0.0, length, max(2, round(length / 1.6) + 1)):
            x, y = x0 + ux * s, y0 + uy * s
            steel.append(box((x - 0.02, y - 0.02, floor), (x + 0.02, y + 0.02, floor + 1.0)))
        steel.append(beam((x0, y0, floor + 0.09), (x1, y1, floor + 0.09), 0.03, 0.02))
        oak.append(
            beam(
                (x0 - ux * 0.03, y0 - uy * 0.03, floor + 1.02),
                (x1 + ux * 0.03, y1 + uy * 0.03, floor + 1.02),
                0.07,
                0.05,
            )
        )
    site.add(name, "Railing", storey, ("Dark steel", steel), ("Oak", oak))


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
    _railing(site, "Landing railing", GROUND, path, LANDING_M)
    _railing(site, "Landing gap railing", GROUND, [(2.0, y1 - 0.05), (2.3, y1 - 0.05)], LANDING_M)


# ------------------------------------------------------------------ rooms


def _office(site: Site) -> None:
    x0, y0, x1, y1 = OFFICE
    thick, high = 0.12, OFFICE_HIGH_M
    half = thick / 2
    counter = (Hole(1.0, 2.6, 1.0, 1.95),)
    site.wall(
        "Ticket office front",
        GROUND,
        "Larch boards",
        WallRun((x1 + half, y0 - thick), (x1 + half, y1 + thick), thick, 0.0, high, counter),
    )
    door = (Hole(0.7, 1.55, 0.0, 2.05),)
    site.wall(
        "Ticket office south",
        GROUND,
        "Larch boards",
        WallRun((x0 + 0.02, y0 - half), (x1, y0 - half), thick, 0.0, high, door),
    )
    site.wall(
        "Ticket office north",
        GROUND,
        "Larch boards",
        WallRun((x1, y1 + half), (x0 + 0.02, y1 + half), thick, 0.0, high),
    )
    site.slab(
        "Ticket office ceiling",
        "Covering",
        GROUND,
        "Plaster",
        rect(x0 + 0.02, y0 - thick, x1 + thick, y1 + thick),
        high,
        high + 0.1,
    )
    leaf = box((x0 + 0.76, y0 - 0.09, 0.01), (x0 + 1.53, y0 - 0.05, 2.0))
    site.add("Ticket office door", "Door", GROUND, ("Green lacquer", [leaf]))
    shelf = [box((x1 - 0.35, y0 + 0.75, 0.96), (x1 + 0.4, y0 + 2.6, 1.0))]
    site.add("Ticket counter", "Furniture", GROUND, ("Oak", shelf))
    pane = box((x1 + half - 0.006, y0 + 0.9, 1.15), (x1 + half + 0.006, y0 + 2.46, 1.93))
    site.add("Ticket window", "Glazing", GROUND, ("Clear glass", [pane]))
    shelves = [box((x0 + 0.02, y0 + 0.6, z), (x0 + 0.32, y0 + 3.3, z + 0.03)) for z in (0.5, 0.95, 1.4, 1.85)]
    shelves += [
        box((x0 + 0.02, y, 0.0), (x0 + 0.32, y + 0.03, 2.0)) for y in (y0 + 0.57, y0 + 1.95, y0 + 3.3)
    ]
    random = np.random.default_rng(4)
    books = []
    for z in (0.53, 0.98, 1.43):
        y = y0 + 0.65
        while y < y0 + 3.1:
            width = random.uniform(0.03, 0.09)
            if not y0 + 1.86 < y < y0 + 2.0 and random.random() > 0.2:
                books.append(
                    box(
                        (x0 + 0.04, y, z),
                        (x0 + random.uniform(0.2, 0.28), y + width, z + random.uniform(0.2, 0.34)),
                    )
                )
            y += width + 0.006
    site.add(
        "Ticket office shelves",
        "Furniture",
        GROUND,
        ("Oak", shelves),
        ("Paper", books[::3]),
        ("Felt", books[1::3]),
        ("Red lacquer", books[2::3]),
    )
    chair(site, "Clerk's chair", GROUND, (1.35, y0 + 1.7, 0.0), 90.0)


def _wing(site: Site) -> None:
    x0, y0, x1, y1 = 14.36, 2.0, 20.0, 12.0
    half, top = 0.15, 3.4
    site.slab("Wing floor", "Floor", GROUND, "Floor tile", rect(x0, y0, x1, y1), -0.25, 0.0)
    outside = (
        ("Wing south wall", (x0, y0 - half), (x1 + 0.3, y0 - half), (Hole(1.8, 3.8, 0.9, 2.3),)),
        (
            "Wing east wall",
            (x1 + half, y0),
            (x1 + half, y1),
            (Hole(1.4, 3.6, 0.9, 2.3), Hole(6.4, 8.6, 0.9, 2.3)),
        ),
        ("Wing north wall", (x1 + 0.3, y1 + half), (x0, y1 + half), (Hole(2.0, 4.0, 0.9, 2.3),)),
    )
    for name, a, b, holes in outside:
        site.wall(name, GROUND, "Larch boards", WallRun(a, b, 0.3, 0.0, top, holes))
        length = float(np.hypot(b[0] - a[0], b[1] - a[1]))
        along = ((b[0] - a[0]) / length, (b[1] - a[1]) / length)
        for index, hole in enumerate(holes):
            _glazed(site, f"{name} window {index + 1}", "Window", GROUND, a, along, hole, 2, 1)
    site.wall(
        "Wing partition",
        GROUND,
        "Plaster",
        WallRun((x0, 7.1), (x1, 7.1), 0.2, 0.0, 3.0, (Hole(2.0, 2.9, 0.0, 2.1),)),
    )
    site.slab("Wing ceiling", "Covering", GROUND, "Plaster", rect(x0, y0, x1, y1), 3.0, 3.05)
    site.slab(
        "Wing roof", "Roof", GROUND, "Roof zinc", rect(x0, y0 - 0.7, x1 + 1.0, y1 + 0.7), top, top + 0.25
    )
    racks = []
    for y in (2.3, 4.4):
        for z in (0.15, 0.75, 1.35, 1.95):
            racks.append(box((18.9, y, z), (19.8, y + 1.8, z + 0.04)))
        racks += [
            box((x, yy, 0.0), (x + 0.05, yy + 0.05, 2.0)) for x in (18.9, 19.75) for yy in (y, y + 1.75)
        ]
    bags = [
        box((19.0 + 0.02 * i, 2.4 + 0.62 * i, 0.79), (19.6, 2.85 + 0.62 * i, 1.2 + 0.05 * (i % 2)))
        for i in range(3)
    ]
    site.add(
        "Luggage racks",
        "Furniture",
        GROUND,
        ("Dark steel", racks),
        ("Felt", bags[:2]),
        ("Red lacquer", bags[2:]),
    )
    table(site, "Staff table", GROUND, (17.0, 9.8, 0.0), 1.6, 0.8)
    for index, (x, y, turn) in enumerate(
        ((16.5, 9.1, 0.0), (17.5, 9.1, 0.0), (16.5, 10.5, 180.0), (17.5, 10.5, 180.0))
    ):
        chair(site, f"Staff chair {index + 1}", GROUND, (x, y, 0.0), turn)


# ------------------------------------------------------------------ tower


def _tower(site: Site) -> None:
    x0, y0, x1, y1 = TOWER
    thick, top = 0.3, LOOKOUT_M - 0.3
    half = thick / 2
    slots = tuple(Hole(2.25, 2.75, z, z + 1.6) for z in (3.4, 6.4, 9.4, 12.4))
    door = (Hole(2.0, 3.0, 0.0, 2.2), *slots)
    site.slab("Tower floor", "Floor", GROUND, "Concrete", rect(x0, y0, x1, y1), -0.5, 0.0)
    runs = (
        ("Tower south wall", (x0, y0 + half), (x1, y0 + half), door),
        (
            "Tower east wall",
            (x1 - half, y0 + thick),
            (x1 - half, y1 - thick),
            tuple(Hole(1.95, 2.45, h.sill + 1.5, h.head + 1.5) for h in slots[:3]),
        ),
        ("Tower north wall", (x1, y1 - half), (x0, y1 - half), slots),
        (
            "Tower west wall",
            (x0 + half, y1 - thick),
            (x0 + half, y0 + thick),
            tuple(Hole(1.95, 2.45, h.sill + 1.5, h.head + 1.5) for h in slots[:3]),
        ),
    )
    for name, a, b, holes in runs:
        site.wall(name, GROUND, "Brick", WallRun(a, b, thick, 0.0, top, holes))
        length = float(np.hypot(b[0] - a[0], b[1] - a[1]))
        along = ((b[0] - a[0]) / length, (b[1] - a[1]) / length)
        for index, hole in enumerate(holes):
            if hole.sill > 0.0:
                _glazed(
                    site, f"{name} slot {index + 1}", "Window", GROUND, a, along, hole, 1, 2, "Dark steel"
                )
    leaf = [box((x0 + 2.03, y0 + 0.13, 0.01), (x0 + 2.97, y0 + 0.18, 2.18))]
    site.add("Tower door", "Door", GROUND, ("Green lacquer", leaf))
    _spiral(site, (-6.5, 9.5), 2.0)
    cabin = rect(x0 - 0.6, y0 - 0.6, x1 + 0.6, y1 + 0.6)
    site.slab(
        "Lookout floor",
        "Floor",
        LOOKOUT,
        "Larch boards",
        cabin.difference(shapely.Point(-6.5, 9.5).buffer(1.15, 10).intersection(rect(-7.6, 8.4, -6.5, 10.6))),
        LOOKOUT_M - 0.3,
        LOOKOUT_M,
    )
    _cabin(site, x0 - 0.6, y0 - 0.6, x1 + 0.6, y1 + 0.6)


def _spiral(site: Site, centre: tuple[float, float], radius: float) -> None:
    treads = []
    count = 94
    rise = LOOKOUT_M / count
    for step in range(count):
        angle = np.radians(270.0 + step * 20.0)
        spread = np.radians(23.0)
        ring = [
            (centre[0] + r * np.cos(a), centre[1] + r * np.sin(a))
            for r, a in ((0.1, angle), (1.1, angle), (1.1, angle + spread), (0.1, angle + spread))
        ]
        treads.append(prism(np.array(ring), rise * (step + 1) - 0.04, rise * (step + 1)))
    pole = cylinder((*centre, 0.0), 0.11, LOOKOUT_M + 1.0, 14)
    site.add("Tower stair", "Stair", GROUND, ("Oak", treads), ("Dark steel", [pole]))


def _cabin(site: Site, x0: float, y0: float, x1: float, y1: float) -> None:
    floor, head = LOOKOUT_M, 20.4
    sides = (((x0, y0), (x1, y0)), ((x1, y0), (x1, y1)), ((x1, y1), (x0, y1)), ((x0, y1), (x0, y0)))
    for index, (a, b) in enumerate(sides):
        length = float(np.hypot(b[0] - a[0], b[1] - a[1]))
        along = ((b[0] - a[0]) / length, (b[1] - a[1]) / length)
        inner = (a[0] - along[1] * 0.08 * 1.0, a[1] + along[0] * 0.08)
        site.wall(
            f"Lookout parapet {index + 1}",
            LOOKOUT,
            "Larch boards",
            WallRun(
                inner,
                (inner[0] + along[0] * length, inner[1] + along[1] * length),
                0.14,
                floor - 0.3,
                floor + 0.95,
            ),
        )
        _glazed(
            site,
            f"Lookout window {index + 1}",
            "Window",
            LOOKOUT,
            inner,
            along,
            Hole(0.0, length, floor + 0.95, head),
            5,
            1,
        )
    site.slab(
        "Lookout ceiling", "Covering", LOOKOUT, "Larch ceiling", rect(x0, y0, x1, y1), head, head + 0.06
    )
    eaves = rect(x0 - 0.7, y0 - 0.7, x1 + 0.7, y1 + 0.7)
    site.slab("Lookout eaves", "Roof", LOOKOUT, "Larch boards", eaves, head + 0.06, head + 0.26)
    apex, low = np.array([(x0 + x1) / 2, (y0 + y1) / 2, TOWER_TOP_M]), head + 0.26
    ring = [np.array([*xy, low]) for xy in list(eaves.exterior.coords)[:4]]
    ring = ring if _counter_clockwise(ring) else ring[::-1]
    roof = quads(np.array([[ring[i], ring[(i + 1) % 4], apex, apex] for i in range(4)]))
    flat = Mesh(
        roof.vertices,
        np.repeat([_normal(ring[i], ring[(i + 1) % 4], apex) for i in range(4)], 4, axis=0),
        roof.uvs,
        roof.faces.reshape(-1, 2, 3)[:, 0],
    )
    base = quads(np.array([ring[::-1]]))
    ribs = [beam(corner.tolist(), apex.tolist(), 0.06, 0.08) for corner in ring]
    site.add("Lookout roof", "Roof", LOOKOUT, ("Roof zinc", [flat, base, *ribs]))


def _counter_clockwise(ring: Sequence[Array]) -> bool:
    points = np.array(ring)
    x, y = points[:, 0], points[:, 1]
    return bool(np.dot(x, np.roll(y, -1)) > np.dot(y, np.roll(x, -1)))


def _normal(a: Array, b: Array, c: Array) -> Array:
    normal = np.cross(b - a, c - a)
    unit: Array = normal / np.linalg.norm(normal)
    return unit
