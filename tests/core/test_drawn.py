"""Sections, snapping, staging, survey, changes, composition, hiding: on models small enough to know the
answer."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
import trimesh

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.checks.changes import compare, in_view, seen_shares
from altana.core.checks.composition import compose, wider
from altana.core.checks.survey import survey
from altana.core.geometry.drawing import Drafter
from altana.core.geometry.snapping import snap_grid
from altana.core.hiding import Hiding
from altana.core.model import GLASS, Material, Model, SceneObject
from altana.core.project import Camera, LeftOut, Nudge, Project
from altana.core.staging import WHOLE, Lookup, without
from tests.conftest import box_between, model_of
from tests.core.test_standing_tools import turned_room

PLASTER = Material("Plaster", (0.8, 0.8, 0.8, 1.0))


def area(points: np.ndarray) -> float:
    x, y = points[:-1].T
    return abs(float(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1)))) / 2


@pytest.mark.parametrize("degrees", [0.0, 17.3, 200.0])
def test_a_section_cuts_what_stands_on_the_line_of_sight(degrees: float) -> None:
    model = turned_room(degrees)
    turn = np.radians(degrees)
    origin = (3.0 * np.cos(turn) + 1.0 * np.sin(turn), -3.0 * np.sin(turn) + 1.0 * np.cos(turn))
    drawing = Drafter(model).section((float(origin[0]), float(origin[1])), degrees)
    cut = {model.objects[item.object_index].name: item for item in drawing.outlines}
    assert set(cut) == {"Floor", "Ceiling", "South", "North"}
    assert all(item.closed for item in cut.values())
    north = cut["North"].points
    # Along the line of sight the north wall's inner face lies 3 m ahead of the eye.
    assert north[:, 0].min() == pytest.approx(3.0, abs=1e-4)
    assert (north[:, 1].min(), north[:, 1].max()) == (
        pytest.approx(0.0, abs=1e-4),
        pytest.approx(3.0, abs=1e-4),
    )
    assert area(cut["Floor"].points) == pytest.approx(4.4 * 0.3, rel=1e-3)
    quick = Drafter(model).section((float(origin[0]), float(origin[1])), degrees, quick=True)
    assert (len(quick.outlines), len(quick.beyond), quick.quick) == (4, 0, True)


def test_a_section_is_looked_at_from_the_right() -> None:
    """What stands to the left of the line of sight is drawn beyond the cut, what stands to the right is
    not."""
    parts = [(item, box_between(low, high), PLASTER) for item, low, high in (
        ("Floor", (-5, 0, -0.2), (5, 10, 0)), ("Left post", (-2, 5, 0), (-1.8, 5.2, 2)), ("Right post", (1.8, 7, 0), (2, 7.2, 2)), ("Screen", (-1, 2, 0), (-0.9, 4, 2)))]  # fmt: skip
    drafter = Drafter(model_of(*parts))
    lines = drafter.section((0.0, 0.0), 0.0).beyond
    upright = lines[np.abs(lines[:, 0, 0] - lines[:, 1, 0]) < 1e-6]
    places = set(np.round(upright[:, 0, 0], 2).tolist())
    assert {5.0, 5.2} <= places
    assert not {7.0, 7.2} & places
    drafter.hide((1,))
    hidden = drafter.section((0.0, 0.0), 0.0).beyond
    assert not {5.0, 5.2} & set(np.round(hidden[:, 0, 0], 2).tolist())


def test_plans_leave_hidden_things_out(room: Model) -> None:
    drafter = Drafter(room)
    assert len(drafter.plan(0.0, 1.2).outlines) == 4
    drafter.hide((2,))
    assert {item.object_index for item in drafter.plan(0.0, 1.2).outlines} == {3, 4, 5}


@pytest.mark.parametrize("degrees", [0.0, 17.3])
def test_the_pointer_is_held_by_corners_faces_and_centre_lines(degrees: float) -> None:
    model = turned_room(degrees)
    grid = snap_grid(Drafter(model).plan(0.0, 1.2).outlines)
    assert grid.grid_deg == pytest.approx(degrees, abs=0.01)
    turn = np.radians(degrees)

    def world(x: float, y: float) -> tuple[float, float]:
        return float(x * np.cos(turn) + y * np.sin(turn)), float(-x * np.sin(turn) + y * np.cos(turn))

    corner = grid.hold(world(0.05, 0.04), 0.1)
    assert corner is not None
    assert (corner.kind, corner.place) == ("corner", pytest.approx(world(0.0, 0.0), abs=1e-4))
    face = grid.hold(world(3.0, 3.95), 0.1)
    assert face is not None
    assert (face.kind, face.place) == ("wall face", pytest.approx(world(3.0, 4.0), abs=1e-4))
    centre = grid.hold(world(6.1, 2.0), 0.05)
    assert centre is not None
    assert (centre.kind, centre.place) == ("wall centre", pytest.approx(world(6.1, 2.0), abs=1e-4))
    assert grid.hold(world(3.0, 2.0), 0.2) is None
    assert grid.hold_heading(degrees + 46.2) == pytest.approx(degrees + 45.0, abs=0.01)
    assert grid.hold_heading(degrees + 50.0) == degrees + 50.0
    assert snap_grid([]).hold((0.0, 0.0), 1.0) is None


def test_staging_finds_what_is_named(room: Model) -> None:
    lookup = Lookup(room)
    project = Project(left_out=LeftOut(objects=("o2",)))
    camera = Camera(
        "",
        "x",
        left_out=LeftOut(categories=("Nothing",)),
        nudges=(Nudge("o4", (1.0, 0.0, 0.0), 90.0), Nudge("o5", out=True)),
    )
    assert lookup.staging(Project(), Camera("", "x")) is WHOLE
    staging = lookup.staging(project, camera)
    assert staging.omitted == (2, 5)
    assert [item.index for item in staging.moved] == [4]
    matrix = staging.moved[0].array()
    low, high = np.array((0.0, -0.2, 0.0)), np.array((6.0, 0.0, 3.0))
    middle = (low + high) / 2
    assert (matrix @ [*middle, 1.0])[:3] == pytest.approx(middle + (1.0, 0.0, 0.0))
    # A quarter turn clockwise takes the east end to the south.
    east = (matrix @ [6.0, middle[1], 0.0, 1.0])[:3]
    assert east == pytest.approx((middle[0] + 1.0, middle[1] - 3.0, 0.0))
    smaller = without(room, (2,))
    assert len(smaller.faces) == len(room.faces) - 12
    assert [item.id for item in smaller.objects] == [item.id for item in room.objects]


def test_hiding_never_changes_a_picture(room: Model) -> None:
    lookup = Lookup(room)
    picture = lookup.staging(Project(left_out=LeftOut(objects=("o0",))), None)
    hiding = Hiding().turned("objects", "o1", True)
    assert hiding.applied(picture, lookup).omitted == (0, 1)
    assert hiding.differs(picture, lookup) == 1
    assert hiding.turned("objects", "o1", False) == Hiding()
    alone = Hiding(only=LeftOut(objects=("o3",)))
    assert alone.applied(picture, lookup).omitted == (0, 1, 2, 4, 5)
    faint = replace(alone, faint=True).applied(picture, lookup)
    assert (faint.omitted, faint.faint) == ((0,), (1, 2, 4, 5))
    assert picture.omitted == (0,)
    assert Hiding().applied(picture, lookup) is picture


def test_the_survey_finds_holes_flips_and_stand_ins(room: Model) -> None:
    assert survey(room) == ()
    cube = box_between((0, 0, 0), (1, 1, 1))
    holed, flipped, inside_out = cube.copy(), cube.copy(), cube.copy()
    holed.update_faces(np.arange(len(holed.faces)) != 3)
    faces = flipped.faces.copy()
    faces[4] = faces[4][::-1]
    flipped.faces = faces
    inside_out.invert()
    sheet = trimesh.Trimesh([(0, 0, 0), (1, 0, 0), (1, 1, 0)], [(0, 1, 2)])
    model = model_of(
        ("Whole", cube, PLASTER), ("Holed", holed, PLASTER), ("Flipped", flipped, PLASTER), ("Inside out", inside_out, PLASTER), ("Sheet", sheet, Material("Plain"))
    )  # fmt: skip
    problems = {problem.code: problem for problem in survey(model)}
    assert problems["holes"].object_ids == ("o1",)
    assert problems["flipped-faces"].object_ids == ("o2",)
    assert problems["inside-out"].object_ids == ("o3",)
    assert problems["no-material"].object_ids == ("o4",)
    assert all(problem.sentence.endswith(".") for problem in problems.values())


def test_changes_between_two_readings() -> None:
    cube, ball = box_between((0, 0, 0), (1, 1, 1)), box_between((4, 0, 0), (5, 1, 1))
    before = model_of(("A", cube, PLASTER), ("B", ball, PLASTER))
    moved = ball.copy()
    moved.apply_translation((0, 0.5, 0))
    after = model_of(
        ("A", cube, PLASTER), ("B", moved, PLASTER), ("C", box_between((8, 0, 0), (9, 1, 1)), PLASTER)
    )
    changes = compare(before, after)
    assert (changes.added, changes.removed, changes.altered) == ({"o2": "C"}, {}, {"o1": "B"})
    assert compare(after, before).removed == {"o2": "C"}
    assert not compare(before, before)
    glass = replace(before, materials=(PLASTER, Material("Glass", kind=GLASS)))
    assert set(compare(before, glass).altered) == {"o1"}
    told = in_view("cam-01", changes, {"o1": 0.1}, {"o1": 0.08, "o2": 0.02})
    assert told.share == pytest.approx(0.12)
    assert [line.split(":")[0] for line in told.lines] == ["C", "B"]
    assert in_view("cam-02", changes, {"o0": 0.5}, {"o0": 0.5}).lines == ()
    seen = seen_shares(before, np.array([[0, 0, 1], [-1, -1, 1]]))
    assert seen == {"o0": pytest.approx(1 / 3), "o1": pytest.approx(1 / 3)}


def test_shares_and_edges_of_a_frame() -> None:
    names = (("Floor", "Floor"), ("Ceiling", "Covering"), ("Chair", "Furniture"), ("Lamp", "Light fixture"))
    objects = tuple(
        SceneObject(f"o{i}", name, category, "g", i, 1) for i, (name, category) in enumerate(names)
    )
    empty = np.zeros((0, 3), np.float32)
    model = Model(empty, empty, empty[:, :2], np.zeros((0, 3), np.int32), np.zeros(0, np.int32), objects, ())
    numbers = np.full((60, 120), -1, np.int32)
    numbers[40:] = 0
    numbers[:15] = 1
    numbers[30:50, 100:120] = 2
    numbers[15:40, 4:40] = 3
    facing = np.zeros((60, 120, 3), np.float32)
    facing[40:, :, 2], facing[:15, :, 2] = 1.0, -1.0
    depth = np.where(numbers == 2, 2.0, np.where(numbers == 3, 20.0, 10.0)).astype(np.float32)
    composition = compose(model, numbers, depth, facing, 10, 5)
    assert composition.ceiling == pytest.approx(10 / 50)
    assert composition.floor == pytest.approx((15 * 100 - 10 * 10) / 5000)
    assert composition.depth_ratio == pytest.approx(10.0)
    edges = {edge.object_id: edge for edge in composition.edges}
    assert edges["o2"].share_inside == pytest.approx(0.5)
    assert not edges["o2"].grazes
    assert edges["o3"].share_inside == pytest.approx(30 / 36)
    view = View(Pose((0.0, 0.0, 1.6)), Lens(24.0, rise_mm=3.0), 1920, 1080)
    around, across, up = wider(view, 240)
    corner = view.rays(np.array([[0.0, 0.0]]))
    assert around.project(corner * 5 + (0.0, 0.0, 1.6))[0, :2] == pytest.approx((across, up), abs=0.6)
