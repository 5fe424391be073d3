"""Where points of soft light are spent, and that walls between them keep light apart."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
import trimesh

from altana.core.conventions import Floats
from altana.core.geometry.rays import RayScene
from altana.core.light import corners, gathering, lightmap, lonely, painting, transport
from altana.core.light.finer import FINER
from altana.core.light.joined import joined
from altana.core.light.lightmap import LightPoints, spread
from altana.core.light.priority import far_off, under_sky
from altana.core.light.shape import Shape
from altana.core.light.sky import sky_of
from altana.core.light.transport import Cancelled, Lighting, LightMap, solve
from altana.core.model import GLASS, EncodedImage, Material, Model
from altana.core.project import Light
from altana.jobs.models import Opened
from tests.conftest import box_between, light_at, model_of

GREY = Material("Grey", (0.7, 0.7, 0.7, 1.0), roughness=0.9)
Part = tuple[str, trimesh.Trimesh, Material]


def room_parts(east: float = 6.0, opening: bool = True) -> list[Part]:
    """A room of 6 x 4 x 2.7 m; with an opening in its south."""
    walls = [
        ("Floor", box_between((0, 0, -0.2), (east, 4, 0))),
        ("Ceiling", box_between((0, 0, 2.7), (east, 4, 2.9))),
        ("North", box_between((0, 4, -0.2), (east, 4.2, 2.9))),
        ("West", box_between((-0.2, -0.2, -0.2), (0, 4.2, 2.9))),
        ("East", box_between((east, -0.2, -0.2), (east + 0.2, 4.2, 2.9))),
        ("South", box_between((0, -0.2, -0.2), (3 if opening else east, 0, 2.9))),
    ]
    return [(name, mesh, GREY) for name, mesh in walls]


def hills(count: int = 240) -> list[Part]:
    """Slopes of 30 m, 400 m away, as one thing."""
    slopes = []
    for number in range(count):
        slope = trimesh.Trimesh([(0, 0, 0), (30, 0, 0), (15, 25, 12)], [(0, 1, 2)])
        slope.apply_translation((400.0 + 31.0 * (number % 20), 300.0 + 26.0 * (number // 20), 0.7 * number))
        slopes.append(slope)
    return [("Hills", trimesh.util.concatenate(slopes), GREY)]


def on_floor(points: LightPoints) -> int:
    low = (points.normal[:, 2] > 0.9) & (np.abs(points.position[:, 2]) < 0.01)
    return int((low & (np.abs(points.position[:, :2] - (3, 2)).max(axis=1) < 3.0)).sum())


def test_a_room_loses_no_points_to_hills_round_it() -> None:
    alone = spread(model_of(*room_parts()))
    hilly = model_of(*room_parts(), *hills())
    assert len(spread(hilly, 10**6).position) > 100_000
    limited = spread(hilly, 12_000)
    assert len(limited.position) <= 12_000
    assert on_floor(limited) == on_floor(alone) > 100


def test_houses_that_are_one_object_have_points_as_others_have() -> None:
    """Their floors lie in one plane, which is mostly holes."""
    parts = [(name, mesh.copy(), look) for name, mesh, look in room_parts()]
    for name, mesh, look in room_parts():
        parts.append((f"{name} of the other", mesh.apply_translation((60.0, 0.0, 0.0)), look))
    whole = trimesh.util.concatenate([mesh for _, mesh, _ in parts])
    one, many = spread(model_of(("All", whole, GREY))), spread(model_of(*parts))
    assert on_floor(one) == on_floor(many) > 100


def test_what_lies_open_gives_way_to_rooms() -> None:
    pavings = [
        (f"Paving {n}", box_between((8.0 + 5.1 * n, -20, -0.2), (13.0 + 5.1 * n, 20, 0)), GREY)
        for n in range(8)
    ]
    model = model_of(*room_parts(), *pavings)
    limited = spread(model, int(0.55 * len(spread(model).position)))
    assert on_floor(limited) == on_floor(spread(model_of(*room_parts())))


def test_far_is_told_by_what_belongs_together() -> None:
    ground = trimesh.Trimesh([(-900, -900, 0), (900, -900, 0), (0, 900, 0)], [(0, 1, 2)])
    model = model_of(*room_parts(), *hills(2), ("Ground", ground, GREY))
    far, owner = far_off(Shape.of(model)), model.face_objects()
    names = [model.objects[number].name for number in owner]
    assert all(value == 1.0 for value, name in zip(far, names, strict=True) if name != "Hills")
    assert min(value for value, name in zip(far, names, strict=True) if name == "Hills") > 10.0
    assert far_off(Shape.of(model_of(("Ground", ground, GREY)))) == pytest.approx([1.0])


def test_rooms_are_told_from_what_lies_open_and_foliage_is_never_one() -> None:
    leaf = replace(GREY, alpha="mask", image=0)
    card = trimesh.Trimesh([(1, 1, 1), (2, 1, 1), (2, 1, 2)], [(0, 1, 2)])
    paving = box_between((20, 0, -0.2), (30, 10, 0))
    model = replace(
        model_of(*room_parts(), ("Paving", paving, GREY), ("Leaf", card, leaf)),
        images=(EncodedImage("leaf", b""),),
    )
    owner = model.face_objects().astype(np.int64)
    open_ = under_sky(model, Shape.of(model), owner, np.zeros(len(owner), bool))
    told = {model.objects[number].name: bool(open_[owner == number][0]) for number in np.unique(owner)}
    assert told["Paving"] and told["Leaf"]
    assert not told["Floor"] and not told["Ceiling"] and not told["North"]


def test_books_on_a_shelf_lie_in_their_room(demo_opened: Opened) -> None:
    """They stand so close that most of them look at each other; they are no more under the sky than the room
    is."""
    model = demo_opened.model
    shape = Shape.of(model)
    surface, small = lightmap._Planes.of(model, shape).surfaces(shape.owner)
    open_ = under_sky(model, shape, surface, small)
    names = np.array([model.objects[number].name for number in shape.owner])
    books = small & (names == "Ticket office shelves")
    assert books.sum() > 100 and not open_[books].any()
    outside = names == "Tree 7"
    assert outside.any() and open_[outside].all()


def across_a_wall(thick: float) -> tuple[Model, LightPoints, LightMap]:
    """A room whose floor and ceiling go on into a closed one behind a wall."""
    parts = room_parts(12.0)
    parts.append(("Between", box_between((6.0, -0.2, -0.2), (6.0 + thick, 4.2, 2.9)), GREY))
    parts[-2] = ("South", box_between((4.0, -0.2, -0.2), (12.0, 0, 2.9)), GREY)
    model = model_of(*parts)
    points = spread(model)
    return model, points, solve(model, points, np.full((len(model.materials), 3), 0.7), sky_of(Light()))


@pytest.mark.parametrize("thick", [0.06, pytest.param(0.3, marks=pytest.mark.slow)])
def test_light_does_not_shine_under_a_wall(thick: float) -> None:
    model, points, light = across_a_wall(thick)
    for name, z in (("Floor", 0.0), ("Ceiling", 2.7)):
        index = next(number for number, item in enumerate(model.objects) if item.name == name)
        own = np.flatnonzero((points.owner == index) & (np.abs(points.position[:, 2] - z) < 0.01))
        face = np.full(2, points.face[own[0]])
        bright, dark = light_at(
            light, model, face, np.array([(5.8, 2.0, z), (6.0 + thick + 0.12, 2.0, z)])
        ).mean(axis=1)
        assert bright > 100.0
        assert dark < 0.002 * bright


@pytest.mark.slow
def test_points_of_a_plane_are_told_by_the_room_they_lie_in() -> None:
    model, points, _ = across_a_wall(0.3)
    rooms = joined(points, points.position, RayScene.of(model))
    floor = next(number for number, item in enumerate(model.objects) if item.name == "Floor")
    low = (points.owner == floor) & (np.abs(points.position[:, 2]) < 0.01)
    own = np.flatnonzero(low[: len(points.texel)])
    x, y = points.position[own, :2].T
    inner = (y > 0.1) & (y < 3.9)
    front, behind = (
        {int(rooms[0, number]) for number in own[inner & side]}
        for side in ((x > 0.1) & (x < 5.9), (x > 6.4) & (x < 11.9))
    )
    assert len(front) == len(behind) == 1 and front != behind


def test_grain_goes_and_what_falls_off_evenly_stays() -> None:
    model = model_of(("Floor", box_between((0, 0, -0.2), (8, 8, 0)), GREY))
    points = spread(model)
    count = len(points.texel)
    place = points.position[:count]
    rooms = np.where(place[:, 0] < 4.0, 0, 1)
    top = (np.abs(place[:, 2]) < 0.01) & (points.normal[:count, 2] > 0.9)
    # Light that falls off to one side, and far more of it beyond a wall across the middle.
    true = np.where(rooms == 0, 100.0 + 40.0 * place[:, 1], 5000.0)
    noise = np.random.default_rng(3).normal(0.0, 0.3, count) * true
    evened = painting._evened(points, np.repeat((true + noise)[:, None], 3, axis=1), 0.3 * true, rooms)[:, 0]
    error = (evened - true) / true
    inner = top & (np.abs(place[:, 1] - 4.0) < 2.0)
    assert np.sqrt((error[inner] ** 2).mean()) < 0.08
    # Before the wall there is no light from beyond it, and the rim keeps most of its fall.
    assert abs(error[inner & (rooms == 0) & (place[:, 0] > 3.0)].mean()) < 0.05
    assert abs(error[top & (rooms == 0) & (place[:, 1] < 0.5)].mean()) < 0.15


@pytest.mark.slow
def test_a_lintel_over_a_pane_has_its_light(monkeypatch: pytest.MonkeyPatch) -> None:
    """The pane ends in the middle of the lintel's underside, just where its only row of points would
    stand."""
    glass = Material("Glass", (0.9, 0.9, 0.9, 0.1), roughness=0.1, kind=GLASS)
    model = model_of(
        ("Ground", box_between((-8, -8, -0.2), (8, 8, 0)), GREY),
        ("Lintel", box_between((-1.0, -0.06, 2.0), (1.0, 0.06, 2.3)), GREY),
        ("Pane", box_between((-1.0, -0.005, 0.0), (1.0, 0.005, 1.99)), glass),
    )
    points, albedo = spread(model), np.full((3, 3), 0.5)
    lintel = np.flatnonzero((points.owner == 1) & (points.normal[:, 2] < -0.9))
    below = points.position[lintel]

    def stand_free() -> float:
        return 1.0 - float(Lighting.of(model, points, albedo).seen.bad[lintel].mean())

    light = solve(model, points, albedo, sky_of(Light()))
    assert light_at(light, model, points.face[lintel], below).mean() > 500.0 and stand_free() == 1.0
    monkeypatch.setattr(gathering, "BESIDE", ())
    assert stand_free() == 0.0


@pytest.mark.slow
def test_only_what_something_stands_on_is_drawn_finer() -> None:
    """A paving alone keeps a place a point; with a wall across it it has sixteen."""
    paving = ("Paving", box_between((0, 0, -0.2), (10, 10, 0)), GREY)
    wall = ("Wall", box_between((5, -1, -0.3), (5.2, 11, 3)), GREY)
    sizes = []
    for parts in ([paving], [paving, wall]):
        model = model_of(*parts)
        points = spread(model)
        light = solve(model, points, np.full((len(parts), 3), 0.5), sky_of(Light()))
        top = np.flatnonzero((model.face_objects() == 0) & (model.normals[model.faces[:, 0], 2] > 0.9))
        sizes.append(np.ptp(light.uv[top].reshape(-1, 2), axis=0))
    assert sizes[1] == pytest.approx(FINER * sizes[0], rel=0.01)


def hollow(low: float, high: float) -> list[Part]:
    """A box of boards, open to the wall that it stands against: dark inside."""
    boards = [
        ((0.5, -0.5, low), (5.5, -0.48, high)),
        ((0.5, -0.5, low), (0.52, 0.002, high)),
        ((5.48, -0.5, low), (5.5, 0.002, high)),
        ((0.5, -0.5, low), (5.5, 0.002, low + 0.03)),
        ((0.5, -0.5, high - 0.03), (5.5, 0.002, high)),
    ]
    return [(f"Board {low} {n}", box_between(*corners), GREY) for n, corners in enumerate(boards)]


@pytest.mark.slow
def test_a_strip_between_two_cupboards_has_light_of_its_own(monkeypatch: pytest.MonkeyPatch) -> None:
    """14 cm of wall that no point of the wall's grid can reach: as light as the sky in the gap makes it, not
    as dark as behind the boards."""
    model = model_of(
        ("Wall", box_between((0, 0, 0), (6, 0.2, 3)), GREY), *hollow(0.1, 1.33), *hollow(1.47, 2.9)
    )

    def in_strip() -> Floats:
        points = spread(model)
        own = np.flatnonzero(
            (points.owner == 0) & (points.normal[:, 1] < -0.9) & (points.position[:, 1] < 0.01)
        )
        assert not ((points.position[own, 2] > 1.33) & (points.position[own, 2] < 1.47)).any()
        light = solve(model, points, np.full((len(model.materials), 3), 0.5), sky_of(Light()))
        places = np.column_stack([np.linspace(0.9, 5.1, 40), np.zeros(40), np.full(40, 1.4)])
        return light_at(light, model, np.repeat(points.face[own[:1]], 40), places).mean(axis=1)

    seen = in_strip()
    assert seen.min() > 300.0
    # Where there are too many of such places, some of them speak for the others, which lie alike.
    monkeypatch.setattr(lonely, "MOST", 30)
    few = in_strip()
    assert few.min() > 300.0 and few == pytest.approx(seen, rel=0.2)
    monkeypatch.setattr(
        transport, "with_lonely", lambda _m, points, place, off, places, *_: (points, place, off, places)
    )
    assert in_strip().max() < 0.2 * seen.mean()


@pytest.mark.slow
def test_more_rays_where_there_is_much_grain_change_no_mean(monkeypatch: pytest.MonkeyPatch) -> None:
    """A room lit by a slit: with four times the rays as light as with few, and more even."""
    walls = [part for part in room_parts(opening=False) if part[0] != "South"]
    slit = ("South", box_between((0, -0.2, -0.2), (6, 0, 2.4)), GREY)
    model = model_of(*walls, slit)
    points = spread(model)
    low = (points.normal[:, 2] > 0.9) & (np.abs(points.position[:, 2]) < 0.01)
    floor = np.flatnonzero(low & (np.abs(points.position[:, :2] - (3, 2)).max(axis=1) < 1.5))
    levels = []
    # The grain of the rays themselves, before any of it is taken out.
    monkeypatch.setattr(painting, "_evened", lambda _points, light, *_: light)
    for much in (1e9, 0.0):
        monkeypatch.setattr(transport, "MUCH_GRAIN", much)
        solved = solve(model, points, np.full((len(model.materials), 3), 0.5), sky_of(Light()))
        levels.append(light_at(solved, model, points.face[floor], points.position[floor]).mean(axis=1))
    assert levels[1].mean() == pytest.approx(levels[0].mean(), rel=0.06)
    # Along the slit nothing changes: what differs in a row is grain.
    rows = np.round(points.position[floor, 1], 2)
    grain = [np.mean([light[rows == row].std() for row in np.unique(rows)]) for light in levels]
    assert grain[1] < 0.8 * grain[0]


@pytest.mark.slow
def test_hours_that_need_rays_of_their_own_do_not_change_each_other() -> None:
    """A room with a slit: which surfaces get more rays is another matter at every hour, and so is the order
    in which they were asked."""
    walls = [part for part in room_parts(opening=False) if part[0] != "South"]
    model = model_of(*walls, ("South", box_between((0, -0.2, -0.2), (6, 0, 2.4)), GREY))
    points, albedo = spread(model, 2_500), np.full((len(model.materials), 3), 0.5)
    kept, asked, lights = Lighting.of(model, points, albedo), [], []
    hours = (5.2, 18.0, 12.0)
    for hour in hours:
        lights.append(kept.lit(sky_of(Light(hour=hour))).pixels)
        asked.append(int(kept.asked.sum()))
    assert 0 < asked[0] < asked[-1]
    for hour, light in zip(hours, lights, strict=True):
        assert np.array_equal(light, Lighting.of(model, points, albedo).lit(sky_of(Light(hour=hour))).pixels)


@pytest.mark.slow
def test_a_dark_room_on_a_floor_that_runs_on_into_a_bright_one_gets_more_rays() -> None:
    """The floor as a whole is known well; what of it lies in the dark room is not."""
    parts = [
        ("Floor", box_between((0, 0, -0.2), (12, 4, 0)), GREY),
        ("Ceiling", box_between((6, 0, 2.7), (12, 4, 2.9)), GREY),
        ("North", box_between((0, 4, -0.2), (12, 4.2, 2.9)), GREY),
        ("South", box_between((6, -0.2, -0.2), (12, 0, 2.9)), GREY),
        ("Between", box_between((6, 0, -0.2), (6.2, 4, 2.9)), GREY),
        ("East", box_between((12, -0.2, -0.2), (12.2, 4.2, 2.5)), GREY),
    ]
    model = model_of(*parts)
    points = spread(model)
    kept = Lighting.of(model, points, np.full((len(model.materials), 3), 0.5))
    kept.lit(sky_of(Light()))
    floor = (points.owner == 0) & (np.abs(points.position[:, 2]) < 0.01) & (points.normal[:, 2] > 0.9)
    inner = floor & (np.abs(points.position[:, 1] - 2.0) < 1.8)
    east = points.position[:, 0]
    asked = kept.asked[: len(points.position)]
    assert asked[inner & (east > 6.4) & (east < 11.8)].mean() > 0.9
    assert asked[inner & (east < 5.8)].mean() < 0.1


def test_no_light_comes_round_the_corner_of_a_room_within_a_room(monkeypatch: pytest.MonkeyPatch) -> None:
    """A wall behind a closed box, in the open: where two of the box's sides meet on it, light of the outside
    has come from neither of them."""
    east, low, thick = 2.05, 0.2, 0.08
    boards = [
        ((east, -1.5, low), (east + thick, 0.0, low + 2.4)),
        ((east + 3.0 - thick, -1.5, low), (east + 3.0, 0.0, low + 2.4)),
        ((east, -1.5, low + 2.4 - thick), (east + 3.0, 0.0, low + 2.4)),
        ((east, -1.5, low), (east + 3.0, 0.0, low + thick)),
        ((east, -1.5 - thick, low), (east + 3.0, -1.5, low + 2.4)),
    ]
    model = model_of(
        ("Wall", box_between((-7, 0, -2.0), (11, 0.2, 5)), GREY),
        *((f"Board {number}", box_between(*ends), GREY) for number, ends in enumerate(boards)),
    )
    points = spread(model)
    own = np.flatnonzero((points.owner == 0) & (points.normal[:, 1] < -0.9))
    inset = thick + 0.03
    corners = np.array(
        [(x, 0.0, z) for x in (east + inset, east + 3.0 - inset) for z in (low + inset, low + 2.4 - inset)]
    )

    def brightest() -> float:
        light = solve(model, points, np.full((len(model.materials), 3), 0.5), sky_of(Light()))
        at = light_at(light, model, points.face[own[:1]].repeat(len(corners)), corners)
        outside = light_at(light, model, points.face[own[:1]], np.array([(1.0, 0.0, 3.0)]))
        return float(at.max() / outside.mean())

    assert brightest() < 0.03
    monkeypatch.setattr(painting, "NEIGHBOURS", painting.NEIGHBOURS[:4])
    assert brightest() > 0.5


def test_light_of_what_is_kept_can_be_stopped_too() -> None:
    model = model_of(*room_parts())
    kept = Lighting.of(model, spread(model, 1_500), np.full((len(model.materials), 3), 0.5))
    told: list[float] = []

    def once(share: float) -> bool:
        told.append(share)
        return len(told) < 2

    with pytest.raises(Cancelled):
        kept.lit(sky_of(Light()), once)
    assert len(told) == 2
    told.clear()
    kept.lit(sky_of(Light()), lambda share: told.append(share) is None)
    assert told == sorted(told)


def test_what_has_no_surface_has_an_empty_light() -> None:
    """A drawing without surfaces, and one triangle without an area."""
    flat = trimesh.Trimesh([(0, 0, 0), (1, 0, 0), (2, 0, 0)], [(0, 1, 2)], process=False)
    sliver = model_of(("Sliver", flat, GREY))
    nothing = replace(
        sliver,
        faces=sliver.faces[:0],
        face_material=sliver.face_material[:0],
        objects=(),
        vertices=sliver.vertices[:0],
    )
    for model in (sliver, nothing):
        light = solve(model, spread(model), np.full((1, 3), 0.5), sky_of(Light()))
        assert np.isfinite(light.pixels).all() and light.uv.shape == (len(model.faces), 3, 2)


def test_a_side_of_a_small_block_in_a_large_model_has_one_light(monkeypatch: pytest.MonkeyPatch) -> None:
    """Where each triangle has one even value, its neighbours in the same plane have the same: no diagonal
    runs across a wall."""
    monkeypatch.setattr(corners, "MOST_PATCHES", 0)
    plaster = Material("Plaster")
    # Two blocks of one object, whose fronts lie in one plane but do not touch.
    pair = trimesh.util.concatenate(
        [box_between((0.0, 0.0, 0.0), (0.5, 0.55, 0.9)), box_between((0.7, 0.0, 0.0), (1.2, 0.5, 0.8))]
    )
    model = model_of(("Pair", pair, plaster), ("Far", box_between((0.0, 5.0, 0.0), (0.5, 5.5, 1.0)), plaster))
    points = spread(model)
    shape = Shape.of(model)
    places: dict[tuple[object, ...], set[tuple[float, float]]] = {}
    for face, (normal, corner) in enumerate(zip(shape.normal, shape.corners, strict=True)):
        side = (bool(corner[:, 1].min() > 2.0), bool(corner[:, 0].min() > 0.6), *np.round(normal).tolist())
        # One value all over.
        assert (points.uv[face] == points.uv[face][0]).all()
        places.setdefault(side, set()).add(tuple(points.uv[face][0].tolist()))
    assert len(places) == 3 * 6
    assert all(len(uv) == 1 for uv in places.values())
    assert len(set.union(*places.values())) == 3 * 6
    # What a piece shows is a whole mean, of points of its own object.
    assert points.mix.sum(axis=1) == pytest.approx(np.ones(18))


def test_light_does_not_run_along_a_sill_under_its_window_frame() -> None:
    """A sill is a small thing: lit at its corners alone, the light outside would go over evenly into the dark
    inside."""

    model = model_of(
        ("Sill", box_between((0.0, 0.0, -0.1), (1.2, 0.3, 0.0)), GREY),
        ("Frame", box_between((-0.2, 0.13, 0.0), (1.4, 0.17, 1.2)), GREY),
        ("Roof", box_between((-0.2, 0.13, 1.0), (1.4, 2.0, 1.2)), GREY),
        ("Floor", box_between((-0.2, 0.13, -0.4), (1.4, 2.0, -0.2)), GREY),
        ("Under", box_between((-0.2, 0.13, -0.2), (1.4, 0.17, -0.1)), GREY),
        ("West", box_between((-0.2, 0.13, -0.4), (0.0, 2.0, 1.2)), GREY),
        ("East", box_between((1.2, 0.13, -0.4), (1.4, 2.0, 1.2)), GREY),
        ("North", box_between((-0.2, 1.9, -0.4), (1.4, 2.0, 1.2)), GREY),
    )
    points = spread(model)
    light = solve(model, points, np.full((len(model.materials), 3), 0.5), sky_of(Light()))
    up = np.flatnonzero(
        (model.face_objects() == 0) & (model.vertices[model.faces][:, :, 2].min(axis=1) > -1e-6)
    )
    across = np.array([0.05, 0.2, 0.25, 0.28])
    places = np.column_stack([np.full(4, 0.6), across, np.zeros(4)])
    inside = np.array([points_in(model, up, place) for place in places])
    seen = light_at(light, model, inside, places).mean(axis=1)
    assert seen[1:].max() < 0.03 * seen[0]


def points_in(model: Model, faces: np.ndarray, place: np.ndarray) -> int:
    """The triangle of some level ones that a place lies in."""
    for face in faces.tolist():
        a, b, c = model.vertices[model.faces[face]][:, :2].astype(float)
        s, t = np.linalg.solve(np.column_stack([b - a, c - a]), place[:2] - a)
        if s >= -1e-6 and t >= -1e-6 and s + t <= 1.0 + 1e-6:
            return face
    raise AssertionError("no triangle there")
