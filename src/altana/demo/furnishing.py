"""Benches, tables, chairs and the café of the terminal."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from altana.demo.shapes import Mesh, ball, beam, box, cylinder, tube
from altana.demo.site import GALLERY, GALLERY_M, GROUND, HALL_M, Site


def bench_mesh() -> tuple[list[Mesh], list[Mesh]]:
    oak, steel = [], []
    for side in (-1, 1):
        for i in range(5):
            y = side * (0.09 + 0.085 * i)
            oak.append(box((-1.2, y - 0.035, 0.42), (1.2, y + 0.035, 0.45)))
        for i in range(4):
            z = 0.52 + 0.10 * i
            y = side * (0.055 - 0.008 * i)
            oak.append(box((-1.2, y - 0.012, z), (1.2, y + 0.012, z + 0.085)))
    for x in (-0.95, 0.0, 0.95):
        steel.append(box((x - 0.03, -0.42, 0.37), (x + 0.03, 0.42, 0.415)))
        steel.append(box((x - 0.03, -0.03, 0.0), (x + 0.03, 0.03, 0.9)))
        steel.append(box((x - 0.03, -0.30, 0.0), (x + 0.03, 0.30, 0.03)))
    return oak, steel


def moved(meshes: Iterable[Mesh], place: Sequence[float], turn: float = 0.0) -> list[Mesh]:
    return [mesh.moved(place, turn) for mesh in meshes]


def chair(site: Site, name: str, storey: str, place: Sequence[float], turn: float) -> None:
    oak = [box((-0.21, -0.21, 0.43), (0.21, 0.21, 0.46))]
    oak += [box((-0.20, -0.215, z), (0.20, -0.195, z + 0.09)) for z in (0.62, 0.75)]
    legs = [box((x - 0.016, -0.2 - 0.016, 0.0), (x + 0.016, -0.2 + 0.016, 0.86)) for x in (-0.19, 0.19)]
    legs += [box((x - 0.016, 0.184, 0.0), (x + 0.016, 0.216, 0.43)) for x in (-0.19, 0.19)]
    site.add(
        name, "Furniture", storey, ("Oak", moved(oak, place, turn)), ("Dark steel", moved(legs, place, turn))
    )


def table(site: Site, name: str, storey: str, place: Sequence[float], wide: float, deep: float) -> None:
    x, y, z = place
    top = [box((x - wide / 2, y - deep / 2, z + 0.71), (x + wide / 2, y + deep / 2, z + 0.74))]
    legs = [
        box(
            (x + sx * (wide / 2 - 0.06) - 0.02, y + sy * (deep / 2 - 0.06) - 0.02, z),
            (x + sx * (wide / 2 - 0.06) + 0.02, y + sy * (deep / 2 - 0.06) + 0.02, z + 0.71),
        )
        for sx in (-1, 1)
        for sy in (-1, 1)
    ]
    site.add(name, "Furniture", storey, ("Oak", top), ("Dark steel", legs))


def furniture(site: Site) -> None:
    oak, steel = bench_mesh()
    number = 1
    for y in (5.2, 8.0, 10.8, 13.6):
        for x in (7.2, 11.2):
            site.add(
                f"Bench {number}",
                "Furniture",
                GROUND,
                ("Oak", moved(oak, (x, y, 0.0))),
                ("Dark steel", moved(steel, (x, y, 0.0))),
            )
            number += 1
    for index, (x, y) in enumerate((x, y) for y in (4.5, 9.0, 13.5) for x in (7.2, 11.2)):
        rod = tube([(x, y, 4.5), (x, y, HALL_M - 0.02)], [0.008, 0.008], 6)
        shade = tube([(x, y, 4.12), (x, y, 4.40), (x, y, 4.5)], [0.38, 0.30, 0.06], 24)
        bulb = ball((x, y, 4.14), 0.1, 6, 12)
        site.add(
            f"Hall lamp {index + 1}",
            "Light fixture",
            GALLERY,
            ("Dark steel", [rod]),
            ("Green lacquer", [shade]),
            ("Lamp shade", [bulb]),
        )
    _on_the_walls(site)
    for index, (x, y) in enumerate(((5.4, 16.9), (13.4, 12.2), (9.2, 1.0))):
        body = [tube([(x, y, 0.0), (x, y, 0.75)], [0.19, 0.22], 18)]
        site.add(f"Bin {index + 1}", "Furniture", GROUND, ("Green lacquer", body))
    _kiosk(site)


def _on_the_walls(site: Site) -> None:
    """Departures board and clock."""
    frame = [box((9.4, 0.03, 3.0), (13.2, 0.09, 3.5))]
    text = [box((9.5 + 0.61 * i, 0.085, 3.1), (9.5 + 0.61 * i + 0.5, 0.095, 3.4)) for i in range(6)]
    site.add("Departures board", "Furniture", GROUND, ("Dark steel", frame), ("Paper", text))
    face = [cylinder((0, 0, 0), 0.45, 0.06, 32)]
    turned = [
        Mesh(m.vertices[:, [0, 2, 1]] + (7.0, 0.03, 6.2), m.normals[:, [0, 2, 1]], m.uvs, m.faces[:, ::-1])
        for m in face
    ]
    hands = [
        beam((7.0, 0.1, 6.2), (7.0, 0.1, 6.52), 0.02, 0.02),
        beam((7.0, 0.1, 6.2), (7.2, 0.1, 6.1), 0.02, 0.03),
    ]
    site.add("Hall clock", "Furniture", GALLERY, ("White lacquer", turned), ("Dark steel", hands))


def _kiosk(site: Site) -> None:
    kiosk = [box((1.0, 13.6, 0.0), (3.0, 14.2, 0.95)), box((0.95, 13.55, 0.95), (3.05, 14.25, 1.0))]
    rack = [box((0.05, 13.4, 0.3 + 0.45 * i), (0.35, 16.8, 0.33 + 0.45 * i)) for i in range(4)]
    papers = [
        box((0.08, 13.5 + 0.32 * i, 0.33 + 0.45 * j), (0.28, 13.74 + 0.32 * i, 0.58 + 0.45 * j))
        for i in range(10)
        for j in range(3)
        if (i * 7 + j * 5) % 4
    ]
    site.add(
        "News kiosk",
        "Furniture",
        GROUND,
        ("Oak", kiosk + rack),
        ("Paper", papers[::2]),
        ("Felt", papers[1::2]),
    )


def cafe(site: Site) -> None:
    z = GALLERY_M
    number = 1
    for y in (9.2, 11.4, 13.6, 15.8):
        top = [cylinder((2.9, y, z + 0.72), 0.36, 0.03, 24)]
        foot = [cylinder((2.9, y, z + 0.02), 0.03, 0.7, 10), cylinder((2.9, y, z), 0.22, 0.02, 20)]
        site.add(f"Café table {number}", "Furniture", GALLERY, ("Oak", top), ("Dark steel", foot))
        for turn, dx, dy in ((0.0, 0.0, -0.62), (180.0, 0.0, 0.62), (90.0, 0.66, 0.0)):
            chair(site, f"Café chair {number}-{int(turn)}", GALLERY, (2.9 + dx, y + dy, z), turn)
        number += 1
    front = [box((0.9, 6.4, z), (1.5, 9.0, z + 1.0))]
    top = [box((0.86, 6.36, z + 1.0), (1.54, 9.04, z + 1.04))]
    back = [box((0.03, 6.4, z + 0.4 + 0.4 * i), (0.3, 9.0, z + 0.43 + 0.4 * i)) for i in range(5)]
    cups = [
        cylinder((0.17, 6.55 + 0.14 * i, z + 0.83 + 0.4 * j), 0.04, 0.09, 10)
        for i in range(17)
        for j in range(2)
    ]
    jars = [cylinder((0.17, 6.6 + 0.22 * i, z + 1.63), 0.07, 0.2, 12) for i in range(11)]
    site.add(
        "Café counter",
        "Furniture",
        GALLERY,
        ("Larch boards", front),
        ("Oak", top + back),
        ("White lacquer", cups),
        ("Green lacquer", jars),
    )
    for index, y in enumerate((9.2, 11.4, 13.6, 15.8)):
        rod = tube([(2.9, y, z + 1.95), (2.9, y, HALL_M - 0.02)], [0.006, 0.006], 6)
        shade = tube([(2.9, y, z + 1.72), (2.9, y, z + 1.92), (2.9, y, z + 1.96)], [0.17, 0.1, 0.03], 20)
        site.add(
            f"Café lamp {index + 1}",
            "Light fixture",
            GALLERY,
            ("Dark steel", [rod]),
            ("White lacquer", [shade]),
        )
