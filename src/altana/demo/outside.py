"""What lies round the terminal: forecourt and trees, quay and ferry, sheds, the far shore."""

from __future__ import annotations

import numpy as np
import shapely

from altana.demo.furnishing import bench_mesh, moved
from altana.demo.shapes import Array, Mesh, beam, box, cylinder, foliage, merged, prism, quads, tube
from altana.demo.site import GROUND, LAKE_M, QUAY_M, WALL, Site


def _tree(seed: int, high: float, leaves: int) -> tuple[list[Mesh], Mesh]:
    random = np.random.default_rng(seed)
    fork = high * 0.34
    bark = [
        tube(
            [(0, 0, -0.2), (0.03, 0.0, fork * 0.5), (0.0, 0.06, fork), (0.05, 0.0, high * 0.75)],
            [0.2, 0.15, 0.12, 0.03],
            9,
        )
    ]
    blobs = [(0.0, 0.0, high * 0.74, high * 0.2)]
    for branch in range(9):
        angle = branch * 2.39996 + random.uniform(-0.3, 0.3)
        reach = high * random.uniform(0.16, 0.27)
        start = (0.0, 0.03, fork + high * 0.03 * branch)
        end = np.array(
            [
                np.cos(angle) * reach,
                np.sin(angle) * reach,
                fork + high * random.uniform(0.14, 0.36) + 0.02 * branch * high,
            ]
        )
        middle = (end + start) / 2 + (0, 0, -0.12)
        bark.append(tube([start, tuple(middle), tuple(end)], [0.07, 0.045, 0.015], 6, caps=False))
        blobs.append((*end, high * random.uniform(0.10, 0.155)))
    return bark, foliage(np.array(blobs), leaves, 0.115, seed + 1)


def forecourt(site: Site) -> None:
    kinds = [
        (_tree(11, 8.6, 3000), "Lime leaves"),
        (_tree(23, 7.2, 2600), "Birch leaves"),
        (_tree(37, 9.4, 3200), "Lime leaves"),
    ]
    places = (
        (-14.5, -6.5),
        (-6.5, -20.0),
        (4.5, -20.5),
        (15.5, -19.5),
        (23.5, -5.5),
        (27.5, 6.0),
        (-17.0, 16.0),
        (30.0, 15.5),
    )
    for index, (x, y) in enumerate(places):
        (bark, crown), leaves = kinds[index % 3]
        size = 0.92 + 0.05 * (index % 4)
        moved = [mesh.moved((x, y, QUAY_M), 47.0 * index, size) for mesh in (*bark, crown)]
        site.add(f"Tree {index + 1}", "Planting", GROUND, ("Bark", moved[:-1]), (leaves, moved[-1:]))
    _lamp_posts(site)
    for index, x in enumerate((-3.5, 10.0, 17.5)):
        seat = [box((x - 0.9, -4.0 + 0.13 * i, 0.28), (x + 0.9, -3.9 + 0.13 * i, 0.32)) for i in range(4)]
        feet = [box((x + s * 0.7 - 0.1, -3.98, QUAY_M), (x + s * 0.7 + 0.1, -3.52, 0.28)) for s in (-1, 1)]
        site.add(f"Forecourt seat {index + 1}", "Furniture", GROUND, ("Oak", seat), ("Concrete", feet))
    _entrance(site)


def _lamp_posts(site: Site) -> None:
    street, quay_side = (-2.0, 4.0, 10.0, 16.0), (-10.5, 2.0, 12.0, 24.0)
    for index, (x, y) in enumerate([*((x, -7.0) for x in street), *((x, 22.5) for x in quay_side)]):
        post = [
            tube([(x, y, QUAY_M), (x, y, 0.5), (x, y, 4.2)], [0.09, 0.06, 0.05], 12),
            cylinder((x, y, QUAY_M), 0.16, 0.12, 14),
        ]
        head = [tube([(x, y, 4.2), (x, y, 4.28), (x, y, 4.36)], [0.06, 0.34, 0.3], 20)]
        globe = [cylinder((x, y, 4.08), 0.16, 0.13, 16)]
        site.add(
            f"Lamp post {index + 1}",
            "Light fixture",
            GROUND,
            ("Dark steel", post),
            ("Green lacquer", head),
            ("Lamp shade", globe),
        )


def _entrance(site: Site) -> None:
    """Step, canopy and cycle stands."""
    steps = [box((3.0, -1.0, QUAY_M), (8.0, -WALL, -0.0)), box((3.0, -1.4, QUAY_M), (8.0, -1.0, -0.075))]
    site.add("Entrance step", "Stair", GROUND, ("Concrete", steps))
    canopy = [box((3.4, -2.6, 2.85), (7.8, -WALL, 3.0))]
    rods = [tube([(x, -2.4, 2.98), (x, -WALL, 4.4)], [0.015, 0.015], 6) for x in (3.7, 7.5)]
    site.add("Entrance canopy", "Roof", GROUND, ("Roof zinc", canopy), ("Dark steel", rods))
    racks = [
        tube(
            [
                (19.0 + 0.7 * i, -4.6, QUAY_M),
                (19.0 + 0.7 * i, -4.6, 0.6),
                (19.0 + 0.7 * i, -3.9, 0.6),
                (19.0 + 0.7 * i, -3.9, QUAY_M),
            ],
            [0.025] * 4,
            8,
        )
        for i in range(6)
    ]
    site.add("Cycle stands", "Furniture", GROUND, ("Dark steel", racks))


def quay(site: Site) -> None:
    boards = [box((-12.0, y, QUAY_M), (26.0, y + 0.135, QUAY_M + 0.03)) for y in np.arange(24.0, 27.3, 0.15)]
    site.add("Quay deck", "Floor", GROUND, ("Weathered deck", boards))
    for index, x in enumerate(np.arange(-20.0, 33.0, 6.0)):
        body = [
            tube(
                [(x, 26.4, QUAY_M), (x, 26.4, 0.12), (x, 26.4, 0.2), (x, 26.4, 0.32)],
                [0.16, 0.13, 0.24, 0.2],
                18,
            )
        ]
        site.add(f"Bollard {index + 1}", "Furniture", GROUND, ("Dark steel", body))
    piles = [cylinder((x, 27.25, -4.0), 0.16, 4.4, 12) for x in np.arange(-18.0, 32.0, 4.0)]
    site.add("Fender piles", "Column", GROUND, ("Bark", piles))
    step = [box((3.6, 18.36, QUAY_M), (10.4, 19.2, -0.02)), box((3.6, 19.2, QUAY_M), (10.4, 19.6, -0.085))]
    site.add("Quay step", "Stair", GROUND, ("Concrete", step))
    for index, x in enumerate((-6.0, 18.0)):
        oak, steel = bench_mesh()
        site.add(
            f"Quay bench {index + 1}",
            "Furniture",
            GROUND,
            ("Oak", moved(oak, (x, 22.0, QUAY_M))),
            ("Dark steel", moved(steel, (x, 22.0, QUAY_M))),
        )


def _hull(x: float, wide: float) -> float:
    """Half the breadth of the ferry's deck, x metres from its middle of 32."""
    return float(wide * (1.0 - abs(x / 16.4) ** 3.5))


def ferry(site: Site) -> None:
    cx, cy = 12.0, 31.4
    xs = np.linspace(-16.0, 16.0, 33)
    deck = [(cx + x, cy + _hull(x, 3.3)) for x in xs] + [(cx + x, cy - _hull(x, 3.3)) for x in xs[::-1]]
    keel = [(cx + x * 0.94, cy + _hull(x, 2.7)) for x in xs] + [
        (cx + x * 0.94, cy - _hull(x, 2.7)) for x in xs[::-1]
    ]
    low, mid, high = LAKE_M - 0.3, LAKE_M + 0.35, LAKE_M + 1.6
    top, bottom = np.array(deck), np.array(keel)
    share = (mid - low) / (high - low)
    band = bottom + (top - bottom) * share
    nxt = np.roll(np.arange(len(top)), -1)

    def skirt(a: Array, za: float, b: Array, zb: float) -> Mesh:
        lift = np.ones((len(a), 1))
        ring = np.stack(
            [
                np.hstack([a, lift * za]),
                np.hstack([a[nxt], lift * za]),
                np.hstack([b[nxt], lift * zb]),
                np.hstack([b, lift * zb]),
            ],
            axis=1,
        )
        return quads(ring[:, ::-1])

    plate = prism(shapely.Polygon(deck).buffer(0), high - 0.08, high)
    site.add(
        "Ferry hull",
        "Vessel",
        GROUND,
        ("Red lacquer", [skirt(bottom, low, band, mid)]),
        ("White lacquer", [skirt(band, mid, top, high)]),
        ("Weathered deck", [plate]),
    )
    _saloon(site, cx, cy, high)
    _rails(site, cx, cy, high)


def _saloon(site: Site, cx: float, cy: float, high: float) -> None:
    """What stands on the ferry's deck.  cx, cy : its middle; high : the deck."""
    saloon, roof = shapely.box(cx - 9, cy - 2.2, cx + 8, cy + 2.2), high + 2.5
    posts = [
        box(
            (cx - 9 + 1.7 * i - 0.06, cy + s * 2.2 - 0.05, high),
            (cx - 9 + 1.7 * i + 0.06, cy + s * 2.2 + 0.05, roof),
        )
        for i in range(11)
        for s in (-1, 1)
    ]
    walls = [
        box((cx - 9, cy + s * 2.2 - 0.04, high), (cx + 8, cy + s * 2.2 + 0.04, high + 0.95)) for s in (-1, 1)
    ]
    walls += [box((x, cy - 2.2, high), (x + 0.1, cy + 2.2, roof)) for x in (cx - 9.0, cx + 7.9)]
    panes = [
        box((cx - 9, cy + s * 2.2 - 0.01, high + 0.95), (cx + 8, cy + s * 2.2 + 0.01, roof - 0.3))
        for s in (-1, 1)
    ]
    lids = [prism(saloon.buffer(0.4, join_style="mitre"), roof, roof + 0.14)]
    bridge, glass = _bridge(cx, cy, roof)
    funnel = [tube([(cx - 3, cy, roof + 0.1), (cx - 3.2, cy, roof + 2.2)], [0.55, 0.5], 20)]
    site.add(
        "Ferry saloon",
        "Vessel",
        GROUND,
        ("White lacquer", posts + walls + lids + bridge),
        ("Clear glass", panes + glass),
        ("Green lacquer", funnel),
    )


def _bridge(cx: float, cy: float, roof: float) -> tuple[list[Mesh], list[Mesh]]:
    """The wheelhouse on the saloon's roof, and its panes."""
    bridge = [
        prism(shapely.box(cx + 2, cy - 1.6, cx + 6, cy + 1.6), roof + 0.14, roof + 1.0),
        prism(shapely.box(cx + 1.8, cy - 1.9, cx + 6.4, cy + 1.9), roof + 2.2, roof + 2.32),
    ]
    bridge += [
        box((x - 0.05, cy + s * 1.5 - 0.05, roof + 1.0), (x + 0.05, cy + s * 1.5 + 0.05, roof + 2.2))
        for x in (cx + 2.1, cx + 3.4, cx + 4.7, cx + 5.9)
        for s in (-1, 1)
    ]
    glass = [
        box((cx + 2.05, cy + s * 1.55 - 0.01, roof + 1.0), (cx + 5.95, cy + s * 1.55 + 0.01, roof + 2.2))
        for s in (-1, 1)
    ]
    return bridge, glass


def _rails(site: Site, cx: float, cy: float, high: float) -> None:
    rail = [
        box(
            (cx + x - 0.015, cy + s * (_hull(x, 3.3) - 0.08) - 0.015, high),
            (cx + x + 0.015, cy + s * (_hull(x, 3.3) - 0.08) + 0.015, high + 1.0),
        )
        for x in np.arange(-15.0, 15.5, 0.6)
        for s in (-1, 1)
    ]
    lines = [
        tube(
            [(cx + x, cy + s * (_hull(x, 3.3) - 0.08), high + z) for x in np.arange(-15.0, 15.5, 1.5)],
            [0.02] * 21,
            6,
        )
        for s in (-1, 1)
        for z in (0.5, 1.0)
    ]
    site.add("Ferry rails", "Vessel", GROUND, ("White lacquer", rail + lines))


def sheds(site: Site) -> None:
    for number, (x0, y0, x1, y1, eave, ridge) in enumerate(
        (
            (-34.0, 4.0, -24.0, 22.0, 3.6, 7.0),
            (-48.0, 6.0, -38.0, 22.0, 3.2, 6.4),
            (34.0, 6.0, 44.0, 21.0, 3.4, 6.6),
        )
    ):
        boards: list[Mesh] = []
        for x in (x0, x1):
            for y in np.arange(y0, y1, 0.24):
                boards.append(box((x - 0.02, y, QUAY_M), (x + 0.02, y + 0.22, eave)))
        middle = (x0 + x1) / 2
        for y in (y0, y1):
            for x in np.arange(x0, x1, 0.25):
                rise = eave + (ridge - eave) * (1.0 - abs(x + 0.12 - middle) / ((x1 - x0) / 2))
                gate = y == y1 and abs(x + 0.12 - middle) < 2.6
                boards.append(
                    box((x, y - 0.02, 2.9 if gate else QUAY_M), (x + 0.23, y + 0.02, max(rise, 3.0)))
                )
        roof = _shed_roof(x0, y0, x1, y1, eave, ridge)
        gates = [
            box(
                (middle - 2.6 + 0.27 * i, y1 + 0.03, QUAY_M), (middle - 2.6 + 0.27 * i + 0.25, y1 + 0.07, 2.9)
            )
            for i in range(19)
        ]
        site.add(
            f"Boat shed {number + 1}",
            "Building",
            GROUND,
            ("Larch boards", boards),
            ("Red lacquer", gates),
            ("Roof zinc", roof),
        )


def _shed_roof(x0: float, y0: float, x1: float, y1: float, eave: float, ridge: float) -> list[Mesh]:
    """Two slopes with their seams."""
    middle = (x0 + x1) / 2
    slope = np.array(
        [
            [
                (x0 - 0.5, y0 - 0.6, eave - 0.2),
                (middle, y0 - 0.6, ridge + 0.15),
                (middle, y1 + 0.6, ridge + 0.15),
                (x0 - 0.5, y1 + 0.6, eave - 0.2),
            ],
            [
                (middle, y0 - 0.6, ridge + 0.15),
                (x1 + 0.5, y0 - 0.6, eave - 0.2),
                (x1 + 0.5, y1 + 0.6, eave - 0.2),
                (middle, y1 + 0.6, ridge + 0.15),
            ],
        ]
    )
    seams = [
        beam((x, y, eave - 0.18), (middle, y, ridge + 0.17), 0.03, 0.05)
        for x in (x0 - 0.5, x1 + 0.5)
        for y in np.arange(y0 - 0.4, y1 + 0.6, 0.8)
    ]
    return [merged([quads(slope), quads(slope[:, ::-1] - (0, 0, 0.12))]), *seams]


def far_shore(site: Site) -> None:
    for name, surface, distance, height, seed, step in (
        ("Far woods", "Far woods", 420.0, 16.0, 3, 6.0),
        ("Far hills", "Far hills", 860.0, 95.0, 8, 24.0),
    ):
        random = np.random.default_rng(seed)
        xs = np.arange(-900.0, 900.0 + step, step)
        profile = height * (
            0.55
            + 0.3 * np.sin(xs / 210.0 + seed)
            + 0.16 * np.sin(xs / 71.0)
            + 0.06 * random.uniform(-1, 1, len(xs))
        )
        top = np.column_stack([xs, np.full(len(xs), distance + 12.0), LAKE_M + np.maximum(profile, 1.0)])
        foot = np.column_stack([xs, np.full(len(xs), distance), np.full(len(xs), LAKE_M - 0.5)])
        site.add(
            name,
            "Terrain",
            GROUND,
            (surface, [quads(np.stack([foot[:-1], foot[1:], top[1:], top[:-1]], axis=1))]),
        )
    for index, (x, wide, deep, high) in enumerate(
        ((-60, 18, 10, 7), (-20, 12, 9, 9), (30, 26, 12, 6), (75, 14, 10, 11), (130, 30, 12, 7))
    ):
        body = box((x, 396, LAKE_M), (x + wide, 396 + deep, high))
        lid = box((x - 0.6, 395.4, high), (x + wide + 0.6, 396.6 + deep, high + 1.6))
        site.add(f"Far house {index + 1}", "Building", GROUND, ("Plaster", [body]), ("Roof zinc", [lid]))
