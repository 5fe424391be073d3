"""What adjoins the hall: ticket office, wing, tower with its spiral stair, cabin."""

from __future__ import annotations

import numpy as np
import shapely

from altana.demo.furnishing import chair, table
from altana.demo.pieces import _counter_clockwise, _normal, glazed
from altana.demo.shapes import Hole, Mesh, WallRun, beam, box, cylinder, prism, quads
from altana.demo.site import GROUND, LOOKOUT, LOOKOUT_M, OFFICE, OFFICE_HIGH_M, TOWER, TOWER_TOP_M, Site, rect


def office(site: Site) -> None:
    x0, y0, x1, y1 = OFFICE
    thick, high = 0.12, OFFICE_HIGH_M
    half = thick / 2
    # The shelf lies on the sill.
    counter = (Hole(1.0, 2.6, 0.96, 1.95),)
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
    _bookshelves(site, x0, y0)
    chair(site, "Clerk's chair", GROUND, (1.35, y0 + 1.7, 0.0), 90.0)


def _bookshelves(site: Site, x0: float, y0: float) -> None:
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


def wing(site: Site) -> None:
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
            glazed(site, f"{name} window {index + 1}", "Window", GROUND, a, along, hole, 2, 1)
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
    _luggage(site)
    table(site, "Staff table", GROUND, (17.0, 9.8, 0.0), 1.6, 0.8)
    for index, (x, y, turn) in enumerate(
        ((16.5, 9.1, 0.0), (17.5, 9.1, 0.0), (16.5, 10.5, 180.0), (17.5, 10.5, 180.0))
    ):
        chair(site, f"Staff chair {index + 1}", GROUND, (x, y, 0.0), turn)


def _luggage(site: Site) -> None:
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


def tower(site: Site) -> None:
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
                glazed(site, f"{name} slot {index + 1}", "Window", GROUND, a, along, hole, 1, 2, "Dark steel")
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
        # The last ends a little below the floor that it reaches, not in its plane.
        top = min(rise * (step + 1), LOOKOUT_M - 0.005)
        treads.append(prism(np.array(ring), top - 0.04, top))
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
        glazed(
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
