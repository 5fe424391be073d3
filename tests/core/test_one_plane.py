"""Things in one plane: the smaller is seen, what is larger recedes by less than a millimetre."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from altana.core.conventions import Floats
from altana.core.geometry.one_plane import APART_M, receded
from altana.core.model import Material, Model
from tests.conftest import box_between, model_of

STONE, CLOTH, PAINT = (Material(name, (0.5, 0.5, 0.5, 1.0)) for name in ("Stone", "Cloth", "Paint"))
FLOOR = ("Floor", box_between((0, 0, -0.2), (6, 5, 0)), STONE)
RUG = ("Rug", box_between((1.5, 1.5, -0.01), (3.5, 3.2, 0)), CLOTH)
STRIP = ("Strip", box_between((0.5, 2.2, -0.02), (5.5, 2.5, 0)), PAINT)


def tops(model: Model, vertices: Floats) -> list[float]:
    """How high the upper side of each object is, metres."""
    owner, upper = model.face_objects(), (model.vertices[model.faces][..., 2] == 0.0).all(axis=1)
    sides = [vertices[model.faces[upper & (owner == number)]][..., 2] for number in range(len(model.objects))]
    assert all(np.ptp(side) == 0.0 for side in sides)
    return [float(side.max()) for side in sides]


def test_the_larger_lies_deeper_by_as_many_steps_as_things_cover_it() -> None:
    model = model_of(FLOOR, RUG, STRIP)
    floor, rug, strip = tops(model, receded(model))
    assert strip == 0.0
    assert (rug, floor) == (pytest.approx(-APART_M), pytest.approx(-2 * APART_M))
    # Nothing but the tops moves, and straight down.
    moved = receded(model) - model.vertices
    assert (moved[:, :2] == 0).all() and (moved[model.vertices[:, 2] < 0] == 0).all()


def test_what_fights_with_nothing_stays_the_same_array() -> None:
    beside = ("Rug", box_between((7, 1.5, -0.01), (9, 3.2, 0)), CLOTH)
    above = ("Rug", box_between((1.5, 1.5, -0.01), (3.5, 3.2, 0.001)), CLOTH)
    # A wall stands on the floor: they meet face to face, and neither is seen there.
    standing = ("Wall", box_between((1, 1, 0), (5, 1.2, 2)), CLOTH)
    for other in (beside, above, standing):
        model = model_of(FLOOR, other)
        assert receded(model) is model.vertices
    one = model_of(FLOOR, RUG)
    same = replace(one, face_material=np.zeros_like(one.face_material))
    assert receded(same) is same.vertices
    empty = replace(one, faces=one.faces[:0], face_material=one.face_material[:0], objects=())
    assert receded(empty) is empty.vertices


def test_bodies_wound_inside_out_recede_inward_too() -> None:
    floor, rug = FLOOR[1].copy(), RUG[1].copy()
    floor.invert()
    rug.invert()
    model = model_of(("Floor", floor, STONE), ("Rug", rug, CLOTH))
    assert tops(model, receded(model)) == [pytest.approx(-APART_M), 0.0]


@settings(max_examples=40)
@given(
    turn=st.floats(0.0, 360.0),
    lean=st.floats(0.0, 90.0),
    away=st.tuples(st.floats(-400.0, 400.0), st.floats(-400.0, 400.0)),
)
def test_wherever_and_however_they_stand(turn: float, lean: float, away: tuple[float, float]) -> None:
    """A sign flush with a wall, turned and far from the origin, as far as single precision tells one plane
    there."""
    a, b = np.radians([turn, lean])
    about = np.array([[np.cos(a), -np.sin(a), 0], [np.sin(a), np.cos(a), 0], [0, 0, 1]]) @ np.array(
        [[1, 0, 0], [0, np.cos(b), -np.sin(b)], [0, np.sin(b), np.cos(b)]]
    )
    matrix = np.eye(4)
    matrix[:3, :3], matrix[:3, 3] = about, (*away, 0.0)
    wall, sign = box_between((-3, 0, -1), (3, 0.2, 2)), box_between((-0.5, 0, 0), (0.5, 0.05, 1))
    for mesh in (wall, sign):
        mesh.apply_transform(matrix)
    model = model_of(("Wall", wall, STONE), ("Sign", sign, PAINT))
    moved = (receded(model).astype(float) - model.vertices) @ (about @ [0.0, 1.0, 0.0])
    owner = np.zeros(len(moved), int)
    owner[np.unique(model.faces[model.face_objects() == 1])] = 1
    # Single precision holds 0.03 mm there.
    assert moved[owner == 0].max() == pytest.approx(APART_M, abs=5e-5)
    assert np.abs(moved[owner == 1]).max() == 0.0
