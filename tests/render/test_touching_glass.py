"""Glass that touches what stands beside it, in final pictures: nothing black, and its edges are seen."""

from __future__ import annotations

from types import ModuleType

import numpy as np
import pytest
import trimesh

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.conventions import Floats32
from altana.core.light.sky import sky_of
from altana.core.model import GLASS, Material, Model
from altana.core.project import Light
from altana.core.staging import WHOLE
from altana.render.traced.engine import llvm_library, start_engine
from altana.render.traced.scene import SceneMaker
from altana.render.traced.sights import FlatSights
from altana.render.traced.touching import ENOUGH, MOST_M, STEP, THICK, drawn_in
from altana.render.traced.tracer import Tracer
from tests.conftest import box_between, model_of
from tests.small_pictures import live_light, traced_light

GREY = Material("Wall", (0.8, 0.8, 0.8, 1.0), roughness=1.0)
PANE = Material("Pane", (0.4, 0.7, 0.5, 0.12), kind=GLASS, roughness=0.02)
NOON = sky_of(Light(hour=12.0))
VIEW = View(Pose((0.0, 0.0, 0.0)), Lens(24.0), 60, 60)
WALL = ("Wall", box_between((-6, 5, -6), (6, 5.2, 6)), GREY)
#: A strip of glass on the wall, its back in the wall's plane.
STRIP = box_between((-1, 4.95, -1), (1, 5, 1))


def sheet(y: float) -> trimesh.Trimesh:
    return trimesh.Trimesh([(-1, y, -1), (1, y, -1), (1, y, 1), (-1, y, 1)], [(0, 1, 2), (0, 2, 3)])


@pytest.fixture(scope="module")
def engine() -> ModuleType:
    if not llvm_library():
        pytest.skip("LLVM 19 is not installed")
    return start_engine()[0]


def behind_and_beside(light: Floats32) -> tuple[float, float]:
    level = light.mean(axis=2)
    return float(level[26:34, 26:34].mean()), float(level[26:34, 2:8].mean())


@pytest.mark.parametrize("what", [STRIP, sheet(5.0)], ids=["a body", "a sheet"])
def test_a_wall_is_seen_through_glass_that_lies_on_it(what: trimesh.Trimesh, engine: ModuleType) -> None:
    model = model_of(WALL, ("Strip", what, PANE))
    behind, beside = behind_and_beside(traced_light(engine, model, VIEW, NOON, 32))
    shown, free = behind_and_beside(live_light(model, VIEW, NOON))
    # Black before: rays that had gone through the glass began anew behind the wall.
    assert behind / beside > 0.5
    assert behind / beside == pytest.approx(shown / free, abs=0.15)


def test_what_touches_is_drawn_in_and_nothing_else() -> None:
    def moves(model: Model) -> tuple[set[float], Floats32]:
        which, move = drawn_in(model, model.vertices)
        corners = model.vertices[model.faces[which]]
        return {round(float(y), 3) for y in corners.mean(axis=1)[:, 1]}, move

    rows, move = moves(model_of(WALL, ("Strip", STRIP, PANE)))
    # Its back moves towards its front, by little more than the tracer's step.
    assert rows == {5.0} and np.allclose(move, (0.0, -ENOUGH * STEP * 6.0, 0.0), atol=1e-5)
    # A hand before the wall it stays; beside nothing but glass, too; and without any there is nothing to do.
    assert not len(moves(model_of(WALL, ("Pane", box_between((-1, 4.8, -1), (1, 4.9, 1)), PANE)))[1])
    assert not len(
        moves(model_of(("One", STRIP, PANE), ("Two", box_between((-1, 5, -1), (1, 5.05, 1)), PANE)))[1]
    )
    assert not len(moves(model_of(WALL))[1])
    # However thin, it does not come out on its other side.
    _, thin = moves(model_of(WALL, ("Film", box_between((-1, 4.9997, -1), (1, 5, 1)), PANE)))
    assert len(thin) and np.abs(thin[:, 1]).max() <= 0.0003 / THICK + 1e-6
    # However far from the origin, nobody sees that it was moved.
    far = [part.copy() for part in (WALL[1], STRIP)]
    for part in far:
        part.apply_translation((300.0, 0.0, 0.0))
    _, moved = moves(model_of(("Wall", far[0], GREY), ("Strip", far[1], PANE)))
    assert len(moved) and np.linalg.norm(moved, axis=1).max() == pytest.approx(MOST_M, rel=1e-3)
    # A frame that covers no more than the rim of a pane is enough.
    rows, _ = moves(
        model_of(
            WALL,
            ("Bead", box_between((-1.05, 4.0, -1.05), (-0.985, 4.2, 1.05)), GREY),
            ("Pane", box_between((-1, 4.2, -1), (1, 4.22, 1)), PANE),
        )
    )
    assert rows == {4.2}


def test_the_edges_of_glass_guide_the_denoiser(engine: ModuleType) -> None:
    """What is seen through more glass is darker and greener: without a guide its edges were cleaned away."""
    model = model_of(WALL, ("Pane", box_between((-1, 3, -1), (0, 3.02, 1)), PANE))
    scenes = SceneMaker(engine, model).make(NOON, WHOLE)
    guides = Tracer(engine, scenes, NOON, 5000.0).guides(FlatSights(VIEW))
    through, free = (
        guides.albedo[28:32, 20:28].mean(axis=(0, 1)),
        guides.albedo[28:32, 40:55].mean(axis=(0, 1)),
    )
    assert (through < 0.95 * free).all() and through[1] / through[0] > 1.1 * free[1] / free[0]
    # How far away it is and which way it faces are of the wall.
    assert np.allclose(guides.normal[30, 24], guides.normal[30, 50], atol=0.02)
