"""Which side of a triangle is outside: boxes as they should be, turned inside out, with single faces turned,
with holes."""

from __future__ import annotations

import numpy as np
import pytest
import trimesh

from altana.core.geometry.shells import outsides
from altana.core.model import Material
from tests.conftest import box_between, model_of

PLAIN = Material("Plain")


def wound(*turned: int, hole: bool = False) -> trimesh.Trimesh:
    """A box with some triangles turned over."""
    box = box_between((10, 20, 0), (11, 22, 3))
    faces = np.array(box.faces)
    for number in turned:
        faces[number] = faces[number, ::-1]
    return trimesh.Trimesh(box.vertices, faces[1:] if hole else faces, process=False)


def test_a_box_faces_outward_and_one_inside_out_inward() -> None:
    model = model_of(("Box", wound(), PLAIN), ("Out", wound(*range(12)), PLAIN))
    assert outsides(model).tolist() == [1] * 12 + [-1] * 12


@pytest.mark.parametrize("turned", [(3,), (0, 5, 6), tuple(range(7))])
def test_single_faces_turned_over_are_told_apart(turned: tuple[int, ...]) -> None:
    outside = outsides(model_of(("Box", wound(*turned), PLAIN)))
    assert outside.tolist() == [-1 if number in turned else 1 for number in range(12)]


def test_what_has_a_hole_or_is_a_sheet_has_no_inside() -> None:
    sheet = trimesh.Trimesh([(0, 0, 0), (1, 0, 0), (1, 1, 0)], [(0, 1, 2)])
    model = model_of(("Holed", wound(hole=True), PLAIN), ("Sheet", sheet, PLAIN), ("Box", wound(), PLAIN))
    assert outsides(model).tolist() == [0] * 12 + [1] * 12


def test_each_shell_of_an_object_has_its_own_sense() -> None:
    far = box_between((50, 0, 0), (51, 1, 1))
    far.invert()
    model = model_of(("Both", trimesh.util.concatenate([wound(), far]), PLAIN))
    assert outsides(model).tolist() == [1] * 12 + [-1] * 12
