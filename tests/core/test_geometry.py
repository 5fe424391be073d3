"""Cuts, outlines, rays and drawings against figures that follow from the shapes."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
import shapely
import trimesh
from hypothesis import given
from hypothesis import strategies as st

from altana.core.geometry import blocks
from altana.core.geometry.drawing import Drafter
from altana.core.geometry.edges import edges_of
from altana.core.geometry.rays import RayScene
from altana.core.geometry.runs import joined_runs, object_boxes, runs_of
from altana.core.geometry.sections import SortedTriangles, chain, plane_axes
from altana.core.geometry.trees import Tree
from altana.core.model import GLASS, Material, Model
from altana.jobs.models import Opened
from tests.conftest import box_between, model_of

STONE = Material("Stone")


def _area(outlines: list[np.ndarray]) -> float:
    return sum(float(np.dot(p[:-1, 0], p[1:, 1]) - np.dot(p[:-1, 1], p[1:, 0])) / 2 for p in outlines)


@given(st.floats(-1.2, 1.2))
def test_outline_of_a_ball_is_closed_and_of_the_right_size(height: float) -> None:
    ball = trimesh.creation.icosphere(4, 1.0)
    cut = SortedTriangles(ball.vertices.astype(np.float32), ball.faces.astype(np.int32), (0, 0, 1)).cut(
        height
    )
    outlines = chain(cut.points[:, :, :2])
    if abs(height) > 1.0:
        assert outlines == []
        return
    assert all(np.abs(line[0] - line[-1]).max() < 2e-4 for line in outlines)
    assert abs(_area(outlines)) == pytest.approx(np.pi * (1 - height**2), abs=0.03)


def test_vertices_on_the_plane_still_close() -> None:
    """A pyramid cut exactly through its base corners and a box cut along its lid."""
    box = trimesh.creation.box((2, 2, 2))
    sorted_box = SortedTriangles(box.vertices.astype(np.float32), box.faces.astype(np.int32), (0, 0, 1))
    low = chain(sorted_box.cut(-1.0).points[:, :, :2])
    assert low == [] or abs(_area(low)) == pytest.approx(4.0)
    assert abs(_area(chain(sorted_box.cut(1.0).points[:, :, :2]))) == pytest.approx(4.0)
    octahedron = trimesh.Trimesh(
        [(1, 0, 0), (-1, 0, 0), (0, 1, 0), (0, -1, 0), (0, 0, 1), (0, 0, -1)],
        [(0, 2, 4), (2, 1, 4), (1, 3, 4), (3, 0, 4), (2, 0, 5), (1, 2, 5), (3, 1, 5), (0, 3, 5)],
    )
    middle = chain(
        SortedTriangles(octahedron.vertices.astype(np.float32), octahedron.faces.astype(np.int32), (0, 0, 1))
        .cut(0.0)
        .points[:, :, :2]
    )
    assert len(middle) == 1
    assert abs(_area(middle)) == pytest.approx(2.0)


def test_cut_in_any_direction_agrees_with_another_library() -> None:
    mesh = trimesh.creation.torus(2.0, 0.6)
    direction = np.array([0.48, 0.6, 0.64])
    ours = (
        SortedTriangles(mesh.vertices.astype(np.float32), mesh.faces.astype(np.int32), direction)
        .cut(0.3)
        .points
    )
    theirs = trimesh.intersections.mesh_plane(mesh, direction, direction * 0.3)
    assert np.linalg.norm(ours[:, 1] - ours[:, 0], axis=1).sum() == pytest.approx(
        np.linalg.norm(theirs[:, 1] - theirs[:, 0], axis=1).sum(), rel=1e-4
    )
    assert np.abs(ours @ direction - 0.3).max() < 1e-6


def test_cut_of_the_demo_agrees_with_another_library(demo_opened) -> None:  # type: ignore[no-untyped-def]
    model = demo_opened.model
    mesh = trimesh.Trimesh(model.vertices, model.faces, process=False)
    ours = SortedTriangles(model.vertices, model.faces, (0, 0, 1)).cut(1.2034).points
    theirs = trimesh.intersections.mesh_plane(mesh, (0, 0, 1), (0, 0, 1.2034))
    assert np.linalg.norm(ours[:, 1] - ours[:, 0], axis=1).sum() == pytest.approx(
        np.linalg.norm(theirs[:, 1] - theirs[:, 0], axis=1).sum(), rel=1e-5
    )


def test_axes_of_a_plan_and_a_section() -> None:
    assert [axis.tolist() for axis in plane_axes((0, 0, 1))] == [[1, 0, 0], [0, 1, 0]]
    along, up = plane_axes((1, 0, 0))
    assert abs(along[1]) == pytest.approx(1)
    assert up.tolist() == [0, 0, 1]


def test_rays_meet_walls_where_they_stand(room: Model) -> None:
    rays = RayScene(room.vertices, room.faces)
    hit = rays.cast(np.array([(2.0, 1.0, 1.5)] * 3), np.array([(1, 0, 0), (0, -1, 0), (0, 0, -1)], float))
    assert hit.distance_m == pytest.approx([4.0, 1.0, 1.5], abs=1e-6)
    assert rays.floors_below(np.array([(2.0, 1.0, 1.5)]))[0] == pytest.approx(0.0, abs=1e-6)
    assert np.isnan(rays.floors_below(np.array([(50.0, 1.0, 1.5)]))[0])
    assert rays.face_normal(int(hit.face[2])) == pytest.approx((0, 0, 1))


def test_many_rays_at_once_agree_with_single_ones(room: Model) -> None:
    rays = RayScene(room.vertices, room.faces)
    random = np.random.default_rng(1)
    out = random.normal(size=(9000, 3))
    out /= np.linalg.norm(out, axis=1, keepdims=True)
    start = np.tile((3.0, 2.0, 1.4), (9000, 1))
    assert rays.meet(start, out).distance_m == pytest.approx(rays.cast(start, out).distance_m, abs=1e-4)
    assert rays.shaded(start, out).all()
    assert not rays.shaded(start + (0, 0, 9), np.abs(out)).any()


def test_indoors_and_outdoors(room: Model) -> None:
    rays = RayScene(room.vertices, room.faces)
    assert rays.roofed((3.0, 2.0, 1.2))
    assert not rays.roofed((12.0, 2.0, 1.2))
    assert not rays.roofed((3.0, 2.0, 5.0))


def test_plan_of_a_room(room: Model) -> None:
    plan = Drafter(room).plan(0.0, 1.2)
    assert all(outline.closed and not outline.glass for outline in plan.outlines)
    walls = shapely.union_all([shapely.Polygon(outline.points) for outline in plan.outlines])
    assert walls.area == pytest.approx(6.4 * 4.4 - 24.0, abs=1e-4)
    assert {room.objects[outline.object_index].name for outline in plan.outlines} == {
        "West",
        "East",
        "South",
        "North",
    }


def test_plan_hides_what_lies_under_something_and_tells_glass() -> None:
    model = model_of(
        ("Table", box_between((0, 0, 0.7), (2, 1, 0.75)), STONE),
        ("Box under it", box_between((0.5, 0.2, 0.0), (1.0, 0.6, 0.4)), STONE),
        ("Box beside it", box_between((4, 0, 0), (5, 1, 0.5)), STONE),
        ("Pane", box_between((0, 3, 0), (2, 3.02, 2)), Material("Glass", (0.9, 0.9, 0.9, 0.2), kind=GLASS)),
    )
    plan = Drafter(model).plan(0.0, 1.2)
    lines = plan.beyond.reshape(-1, 2)
    hidden = (np.abs(lines - (0.75, 0.4)) < (0.26, 0.21)).all(axis=1)
    assert not hidden.any()
    assert (np.abs(lines - (4.5, 0.5)) < 0.51).all(axis=1).any()
    assert [outline.glass for outline in plan.outlines] == [True]


def test_a_box_has_twelve_edges(room: Model) -> None:
    edges = edges_of(model_of(("Box", box_between((0, 0, 0), (1, 1, 1)), STONE)))
    assert len(edges.points) == 12
    assert len(edges_of(room).points) == 12 * 6


def test_a_ray_caster_in_pieces_finds_the_same(demo_opened: Opened, monkeypatch: pytest.MonkeyPatch) -> None:
    """However the model is parted, the nearest hit, what lies below and what shades are the same."""
    model = demo_opened.model
    whole = RayScene(model.vertices, model.faces)
    monkeypatch.setattr("altana.core.geometry.blocks.BLOCK", 3_000)
    parted = RayScene(model.vertices, model.faces)
    assert len(parted._blocks.all) > 20
    random = np.random.default_rng(3)
    start = random.uniform((-20, -25, 0.2), (30, 30, 9), (3000, 3))
    along = random.normal(size=(3000, 3))
    along /= np.linalg.norm(along, axis=1, keepdims=True)
    one, other = whole.cast(start, along), parted.cast(start, along)
    assert other.distance_m == pytest.approx(one.distance_m, abs=2e-3)
    same = one.face == other.face
    # Where two surfaces lie in one plane either may be met.
    assert same.mean() > 0.97
    assert np.nan_to_num(parted.floors_below(start)) == pytest.approx(
        np.nan_to_num(whole.floors_below(start)), abs=2e-3
    )
    assert (parted.shaded(start, along) == whole.shaded(start, along)).mean() > 0.999
    assert parted.meet(start, along).distance_m == pytest.approx(
        whole.meet(start, along).distance_m, abs=2e-3
    )
    nothing = RayScene(model.vertices, model.faces[:0])
    nothing.warm()
    assert nothing.cast(start[:2], along[:2]).face.tolist() == [-1, -1]
    assert not nothing.shaded(start[:2], along[:2]).any()


def boxes_in_a_row() -> Model:
    """Thirty boxes ten metres apart, each a little higher than the one before."""
    return model_of(
        *((f"Box {n}", box_between((n * 10, 0, 0), (n * 10 + 2, 2, 2 + n * 0.1)), STONE) for n in range(30))
    )


def onto_the_row(scene: RayScene, first: int = 0, last: int = 30) -> None:
    """Rays down onto some of the boxes meet them where they are."""
    numbers = np.arange(first, last)
    places = np.column_stack([numbers * 10 + 1.0, np.ones(len(numbers)), np.full(len(numbers), 50.0)])
    hits = scene.cast(places, np.tile((0.0, 0.0, -1.0), (len(numbers), 1)))
    assert hits.distance_m == pytest.approx(50.0 - 2.0 - numbers * 0.1, abs=1e-5)
    assert (hits.face // 12).tolist() == numbers.tolist()


def trees_of(scene: RayScene) -> int:
    return sum(block.tree is not None for block in scene._blocks.all)


def test_trees_are_built_where_rays_go_and_the_oldest_are_given_up(monkeypatch: pytest.MonkeyPatch) -> None:
    """A row of blocks as far apart as rays see: each finds its own, whatever was given up meanwhile, and
    together they find what one tree finds."""
    monkeypatch.setattr(blocks, "BLOCK", 24)
    monkeypatch.setattr(blocks, "MOST_TREES", 3)
    monkeypatch.setattr(blocks, "WHOLE", 100)
    model = boxes_in_a_row()
    many = RayScene.of(model)
    assert len(many._blocks.all) >= 15 and not trees_of(many)
    onto_the_row(many)
    assert 0 < trees_of(many) <= 3
    many.warm()
    assert len(many._blocks.all) >= 15 and trees_of(many) <= 3
    random = np.random.default_rng(4)
    start = random.uniform((-5, -5, 0), (300, 7, 8), (400, 3))
    along = random.normal(size=(400, 3))
    along /= np.linalg.norm(along, axis=1, keepdims=True)
    monkeypatch.setattr(blocks, "BLOCK", 1_000_000)
    # The same one while somebody has it; of a model that only looks the same another.
    assert RayScene.of(model) is many
    one = RayScene.of(replace(model, vertices=model.vertices.copy()))
    assert len(one._blocks.all) == 1
    assert many.cast(start, along).distance_m == pytest.approx(one.cast(start, along).distance_m)
    assert (many.shaded(start, along) == one.shaded(start, along)).all()


def test_blocks_become_one_once_most_of_them_are_asked(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(blocks, "BLOCK", 24)
    parted = RayScene.of(boxes_in_a_row())
    count = len(parted._blocks.all)
    onto_the_row(parted, 0, 6)
    assert len(parted._blocks.all) == count and 2 <= trees_of(parted) <= 4
    onto_the_row(parted)
    onto_the_row(parted)
    assert len(parted._blocks.all) == 1 == trees_of(parted)
    # Of many rays at once it is known before.
    at_once = RayScene.of(boxes_in_a_row())
    monkeypatch.setattr(blocks, "MANY", 30)
    onto_the_row(at_once)
    assert len(at_once._blocks.all) == 1
    warmed = RayScene.of(boxes_in_a_row())
    warmed.warm()
    assert len(warmed._blocks.all) == 1 == trees_of(warmed)
    onto_the_row(warmed)
    # Where there is no room for one tree they stay blocks.
    narrow = RayScene.of(boxes_in_a_row())
    built = narrow._blocks._built

    def small_ones(block: blocks.Block) -> Tree:
        if len(block.numbers) > 24:
            raise MemoryError
        return built(block)

    monkeypatch.setattr(narrow._blocks, "_built", small_ones)
    onto_the_row(narrow)
    assert len(narrow._blocks.all) == count
    # What was chosen of it stays chosen.
    model = boxes_in_a_row()
    chosen = RayScene.of(model, np.arange(len(model.faces)) < 12 * 20)
    chosen.warm()
    onto_the_row(chosen, 0, 20)
    over = chosen.cast(np.array([(251.0, 1.0, 50.0)]), np.array([(0.0, 0.0, -1.0)]))
    assert over.face.tolist() == [-1]


def test_runs_find_what_is_near() -> None:
    model = model_of(
        *((f"Box {n}", box_between((n * 10, 0, 0), (n * 10 + 2, 2, 2)), STONE) for n in range(6))
    )
    near = runs_of(model).within(np.array([19.0, 0.0, 0.0]), np.array([23.0, 1.0, 1.0]))
    assert set(model.face_objects()[near].tolist()) == {2}
    low, high = object_boxes(model)
    assert low[3].tolist() == [30.0, 0.0, 0.0] and high[3].tolist() == [32.0, 2.0, 2.0]
    both = joined_runs([model, model], [np.zeros(3), np.array([0.0, 100.0, 0.0])])
    assert (
        both.owner.tolist() == list(range(12))
        and both.low[6].tolist() == [0.0, 100.0, 0.0]
        and both.first[6] == len(model.faces)
    )


@given(st.floats(-3.0, 45.0), st.floats(0.0, 360.0), st.floats(0.01, 2.0))
def test_what_lies_beside_a_plane_is_found_as_by_going_through_the_whole_model(
    at: float, turn: float, within: float
) -> None:
    boxes = [(f"Box {n}", box_between((2.0 * n, 0, 0), (2.0 * n + 1, 1, 1)), STONE) for n in range(20)]
    model = model_of(*boxes)
    normal = np.array([np.cos(np.radians(turn)), np.sin(np.radians(turn)), 0.0])
    runs = runs_of(model)
    faces = runs.triangles(runs.beside(np.array([at, 0.5, 0.5]), normal, within))
    away = ((model.vertices[model.faces] - [at, 0.5, 0.5]) @ normal).reshape(20, -1)
    # What lies within a hair of the distance may count either way.
    surely, perhaps = (
        set(np.flatnonzero((away.min(axis=1) <= reach) & (away.max(axis=1) >= -reach)).tolist())
        for reach in (within - 1e-5, within + 1e-5)
    )
    assert surely <= set(model.owners_of(faces).tolist()) <= perhaps
    assert model.owners_of(faces).tolist() == model.face_objects()[faces].tolist()
    assert model.owners_of(np.array([-1, 0, len(model.faces) - 1])).tolist() == [-1, 0, 19]
