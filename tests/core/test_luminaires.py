"""Light straight from lamps: past their own shades, as much as leaves them, on small things as sharply as it
falls."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
import trimesh

from altana.core.conventions import Floats, Floats32
from altana.core.geometry.rays import RayScene
from altana.core.light import lamp_shadows
from altana.core.light.lamps import SHINE, lamps_of, with_lamps
from altana.core.light.lightmap import spread
from altana.core.light.luminaires import glowing_faces, luminaires_of
from altana.core.light.sky import sky_of
from altana.core.light.transport import solve
from altana.core.model import Material, Model
from altana.core.project import Lamps, Light
from tests.conftest import box_between, light_at, model_of
from tests.core.test_lamps import BLACK, dark_room

SHADE = Material("Green lacquer", (0.0, 0.0, 0.0, 1.0))
BULB = Material("Bulb", (1.0, 1.0, 1.0, 1.0), emission=(2.0,) * 3, lamp="Lamp")
NIGHT = replace(sky_of(Light(date="2026-12-21", hour=0.0)), lamps=1.0)
LUMINANCE = np.array([0.2126, 0.7152, 0.0722])


def ball(x: float, y: float, z: float, radius: float) -> trimesh.Trimesh:
    mesh = trimesh.creation.icosphere(2, radius)
    mesh.apply_translation((x, y, z))
    return mesh


def can(x: float, y: float, low: float, high: float, radius: float) -> trimesh.Trimesh:
    """A shade of sheet, open below: its wall and its lid."""
    mesh = trimesh.creation.cylinder(radius, high - low, 24)
    mesh.update_faces(mesh.face_normals[:, 2] > -0.5)
    mesh.apply_translation((x, y, (low + high) / 2))
    return mesh


def lux(model: Model, name: str, facing: Floats, at: tuple[float, float, float]) -> float:
    """What falls on the side of an object that faces some way, at a place."""
    light = solve(model, spread(model), np.zeros((len(model.materials), 3)), NIGHT)
    thing = model.objects[model.object_number(name)]
    faces = np.arange(thing.first_face, thing.first_face + thing.face_count)
    a, b, c = (model.vertices[model.faces[faces, k]].astype(float) for k in range(3))
    across = np.cross(b - a, c - a)
    ahead = across @ facing / np.linalg.norm(across, axis=1)
    near = np.linalg.norm((a + b + c) / 3 - at, axis=1) + 100.0 * (ahead < 0.99)
    face = faces[[int(near.argmin())]]
    return float(light_at(light, model, face, np.array([at]))[0] @ LUMINANCE)


UP, NORTH, SOUTH = np.array([0.0, 0.0, 1.0]), np.array([0.0, 1.0, 0.0]), np.array([0.0, -1.0, 0.0])


def candelas(model: Model) -> list[Floats32]:
    rays = RayScene.of(model)
    ways = np.array([[0, 0, -1.0], [1, 0, 0], [0, 0, 1.0], [0.8, 0, -0.6]])
    return [item.towards(ways) for item in luminaires_of(model, 1.0, rays)]


def test_a_ball_throws_as_much_every_way_as_its_disc() -> None:
    (seen,) = candelas(dark_room(("Lamp", ball(3, 2, 2, 0.1), BULB)))
    assert seen == pytest.approx(np.full(4, 2.0 * SHINE * np.pi * 0.1**2), rel=0.06)


def test_a_body_that_glows_keeps_its_own_light_off() -> None:
    """A glowing niche, as a fireplace, throws nothing out through its back and its sides."""
    niche = trimesh.util.concatenate(
        [
            box_between((2.6, 2.0, 1.0), (3.4, 2.1, 2.0)),
            box_between((2.5, 1.4, 1.0), (2.6, 2.1, 2.0)),
            box_between((3.4, 1.4, 1.0), (3.5, 2.1, 2.0)),
        ]
    )
    rays_out = np.zeros(3)
    model = dark_room(("Niche", niche, BULB))
    for item in luminaires_of(model, 1.0, RayScene.of(model)):
        rays_out += item.towards(np.array([[0.0, 1.0, 0.0], [1.0, 0.0, 0.0], [0.0, -1.0, 0.0]]))
    # North it shows the backs of all three, east one side: no more than what is seen of it from there.
    assert rays_out == pytest.approx(2.0 * SHINE * np.array([1.0, 0.7, 1.0]), rel=0.1)


@pytest.mark.slow
def test_a_shade_keeps_light_off_where_it_stands() -> None:
    """It was a quarter of a metre too near to count."""
    parts = [("Lamp", ball(3, 2, 2, 0.05), BULB)]
    shaded = dark_room(*parts, ("Shade", can(3, 2, 1.8, 2.1, 0.2), SHADE))
    (seen,), (bare,) = candelas(shaded), candelas(dark_room(*parts))
    assert seen[0] == pytest.approx(bare[0], rel=0.05) and bare[1:].min() > 0.8 * bare[0]
    # The shade is a thing of its own, beyond the body of the lamp: what is thrown at it stays there.
    below, beside = (3.0, 2.0, 0.0), (0.3, 2.0, 0.0)
    assert lux(shaded, "Floor", UP, below) > 12.0 > 0.5 > lux(shaded, "Floor", UP, beside)
    one = dark_room(("Lamp", ball(3, 2, 2, 0.05), BULB))
    assert lux(one, "Floor", UP, beside) > 2.0


def test_what_a_lamp_gives_is_what_leaves_it() -> None:
    """A panel let into the ceiling throws all its lumens down; a bulb in its socket all of them by what looks
    out."""
    fixture = Material("Panel", (1.0, 1.0, 1.0, 1.0))
    for low, high in ((2.98, 3.15), (2.95, 3.0)):
        model = dark_room(("Panel", box_between((2.7, 1.7, low), (3.3, 2.3, high)), fixture))
        panel = replace(model.objects[-1], category="Light fixture", lumens=1000.0)
        model = replace(model, objects=(*model.objects[:-1], panel))
        assert [item.lumens for item in lamps_of(model, Lamps())] == [1000.0]
        burning = with_lamps(model, Lamps(True))
        glowing = glowing_faces(burning, 1.0)
        a, b, c = (burning.vertices[burning.faces[glowing, k]].astype(float) for k in range(3))
        down = np.cross(b - a, c - a)[:, 2] < -1e-9
        assert down.sum() == 2 and glowing.sum() == (2 if low > 2.96 else 10)
        # About 1000 lm over pi ahead of a panel that throws by the cosine, from 3 m less its own height.
        if glowing.sum() == 2:
            assert lux(burning, "Floor", UP, (3.0, 2.0, 0.0)) == pytest.approx(
                1000.0 / np.pi / 2.98**2, rel=0.1
            )


def test_parts_of_a_thing_that_lie_near_each_other_have_their_own_light() -> None:
    """A slat over a seat that is lit, and one beneath it that is not, both facing the lamp."""
    chair = trimesh.util.concatenate(
        [
            box_between((2.8, 2.0, 0.75), (3.2, 2.02, 0.85)),
            box_between((2.8, 2.0, 0.30), (3.2, 2.02, 0.40)),
            box_between((2.7, 1.5, 0.45), (3.3, 2.02, 0.48)),
        ]
    )
    model = dark_room(("Lamp", ball(3, 1.4, 2.5, 0.1), BULB), ("Chair", chair, BLACK))
    above, below = (lux(model, "Chair", SOUTH, (3.0, 2.0, z)) for z in (0.80, 0.35))
    assert above > 5.0 and below < 0.1 * above


def test_a_post_is_bright_near_its_lamp_alone() -> None:
    post = trimesh.creation.cylinder(0.03, 2.6, 8)
    post.apply_transform(trimesh.transformations.rotation_matrix(np.pi / 8, UP))
    post.apply_translation((3.0, 2.0, 1.3))
    model = dark_room(("Lamp", ball(3.0, 2.3, 2.5, 0.1), BULB), ("Post", post, BLACK))
    # Round to the eye, so that it is lit at its corners, of which there are none but at its ends.
    thing = model.objects[-1]
    own = np.unique(model.faces[thing.first_face : thing.first_face + thing.face_count])
    normals = model.normals.copy()
    normals[own] = (model.vertices[own] - (3.0, 2.0, 0.0)) * (1.0, 1.0, 0.0) / 0.03
    model = replace(model, normals=normals)
    near, far = (lux(model, "Post", NORTH, (3.0, 2.03, z)) for z in (2.4, 0.2))
    assert 600.0 > near > 5.0 * max(far, 1.0)


def test_a_wall_is_lit_down_to_the_floor_that_meets_it() -> None:
    """Within the floor's thickness begins the dark room below; its darkness is not seen above."""
    floor = ("Floor", box_between((-0.2, -0.2, -0.3), (6.2, 4.2, 0.0)), BLACK)
    wall = ("Wall", box_between((0.0, 4.0, 0.0), (6.0, 4.2, 6.0)), BLACK)
    slab = ("Slab", box_between((-0.2, -0.2, 2.85), (6.2, 4.05, 3.15)), BLACK)
    lamp = ("Lamp", ball(3.0, 2.0, 4.4, 0.1), BULB)
    model = model_of(floor, wall, slab, lamp)
    foot, higher, below = (lux(model, "Wall", SOUTH, (3.0, 4.0, z)) for z in (3.17, 3.6, 2.6))
    assert foot > 0.5 * higher > 5.0 and below < 0.05 * higher


@pytest.mark.slow
def test_a_table_throws_a_shadow_with_an_edge(monkeypatch: pytest.MonkeyPatch) -> None:
    """Its shadow ends at 2.05 m; the points of the floor lie 0.3 m apart."""
    table = trimesh.util.concatenate(
        [box_between((2.5, 1.6, 0.7), (3.3, 2.4, 0.73)), box_between((2.88, 1.98, 0.0), (2.92, 2.02, 0.7))]
    )
    lamp = ball(3.5, 2.0, 2.4, 0.06)
    model = dark_room(("Table", table, BLACK), ("Lamp", lamp, BULB))

    def across() -> list[float]:
        return [lux(model, "Floor", UP, (x, 1.9, 0.0)) for x in (1.9, 2.0, 2.2, 2.3)]

    run = np.array([3.5, 2.0, 2.4]) - [(1.9, 1.9, 0.0), (2.0, 1.9, 0.0)]
    free = 2.0 * SHINE * np.pi * 0.06**2 * run[:, 2] / np.linalg.norm(run, axis=1) ** 3
    before, at_edge, *shade = across()
    assert [before, at_edge] == pytest.approx(free, rel=0.15)
    assert max(shade) < 0.02 * before
    # So few places that nothing of it is left.
    monkeypatch.setattr(lamp_shadows, "MOST", 0)
    before, at_edge, *shade = across()
    assert at_edge < 0.75 * free[1] and min(shade) > 0.2 * before


@pytest.mark.slow
def test_a_large_body_throws_no_shadow_with_an_edge(monkeypatch: pytest.MonkeyPatch) -> None:
    """In the light of a glowing wall single places would see it or not, by one line each: blots, where light
    goes over softly."""
    glow = Material("Glow", (1.0, 1.0, 1.0, 1.0), emission=(0.05,) * 3, lamp="Wall")
    board = box_between((2.8, 1.2, 0.0), (2.9, 1.6, 1.2))
    model = dark_room(("Glow", box_between((4.5, 0.4, 0.1), (4.6, 3.6, 2.4)), glow), ("Board", board, BLACK))
    assert not any(item.small for item in luminaires_of(model, 1.0, RayScene.of(model)))
    ball_model = dark_room(("Lamp", ball(3.0, 2.0, 2.0, 0.1), BULB))
    assert [item.small for item in luminaires_of(ball_model, 1.0, RayScene.of(ball_model))] == [True]
    spread_out = [lux(model, "Floor", UP, (1.0, y, 0.0)) for y in (1.0, 1.4, 1.8)]
    monkeypatch.setattr(lamp_shadows, "MOST", 0)
    assert [lux(model, "Floor", UP, (1.0, y, 0.0)) for y in (1.0, 1.4, 1.8)] == spread_out


def test_a_floor_in_two_heights_that_are_nearly_one_is_lit_on_both(monkeypatch: pytest.MonkeyPatch) -> None:
    """Its points lie in one plane, 19 mm below the higher half; from there no lamp is seen."""
    halves = trimesh.util.concatenate(
        [
            box_between((-0.2, -0.2, -0.3), (1.0, 4.2, -0.0095)),
            box_between((1.0, -0.2, -0.3), (6.2, 4.2, 0.0095)),
        ]
    )
    table = trimesh.util.concatenate(
        [box_between((2.5, 1.6, 0.7), (3.3, 2.4, 0.73)), box_between((2.88, 1.98, 0.0), (2.92, 2.02, 0.7))]
    )
    lamp = ball(3.5, 2.0, 2.4, 0.06)
    model = model_of(("Floor", halves, BLACK), ("Table", table, BLACK), ("Lamp", lamp, BULB))

    def outside() -> float:
        return min(lux(model, "Floor", UP, (x, 1.9, 0.0095)) for x in (1.8, 1.9, 2.0))

    assert outside() > 6.0
    monkeypatch.setattr(
        lamp_shadows,
        "landed",
        lambda _m, _r, at, *_: (at, np.zeros(len(at), bool), np.zeros(len(at), np.int32)),
    )
    assert outside() < 1.0


def test_the_work_on_lamplight_never_goes_back() -> None:
    model = dark_room(
        ("Lamp", ball(3.5, 2.0, 2.4, 0.06), BULB), ("Board", box_between((2, 1, 0), (3, 2, 1)), BLACK)
    )
    told: list[float] = []
    solve(
        model,
        spread(model),
        np.zeros((len(model.materials), 3)),
        NIGHT,
        lambda share: told.append(share) is None,
    )
    assert told == sorted(told) and told[-1] > 0.9
