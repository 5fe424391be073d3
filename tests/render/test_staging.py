"""Pictures with things left out, faint, or moved for one camera."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import pytest

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.light.sky import sky_of
from altana.core.model import Material, Model
from altana.core.project import Camera, LeftOut, Light, Nudge, Project
from altana.core.staging import WHOLE, Lookup, Staging
from altana.render.quality import FULL, STILL
from altana.render.renderer import Renderer
from tests.conftest import box_between, model_of

SKY = sky_of(Light(hour=12.0))
VIEW = View(Pose((0.0, -8.0, 1.6)), Lens(30.0), 320, 180)


@pytest.fixture(scope="module")
def yard() -> Model:
    """Ground, a wall at the back, a red and a blue block in front of it."""
    return model_of(
        ("Ground", box_between((-20, -20, -1), (20, 20, 0)), Material("Grey", (0.6, 0.6, 0.6, 1.0))),
        ("Wall", box_between((-6, 5, 0), (6, 5.3, 4)), Material("White", (0.9, 0.9, 0.9, 1.0))),
        ("Red", box_between((-1.5, 0, 0), (-0.5, 1, 2)), Material("Red", (0.8, 0.1, 0.1, 1.0))),
        ("Blue", box_between((0.5, 0, 0), (1.5, 1, 2)), Material("Blue", (0.1, 0.1, 0.8, 1.0))),
    )


@pytest.fixture(scope="module")
def renderer(yard: Model) -> Iterator[Renderer]:
    fresh = Renderer(yard)
    yield fresh
    fresh.close()


def red_of(pixels: np.ndarray) -> np.ndarray:
    return (pixels[..., 0].astype(int) - pixels[..., 2] > 60) & (
        pixels[..., 0].astype(int) - pixels[..., 1] > 60
    )


def test_what_is_left_out_is_gone_with_its_shadow(renderer: Renderer) -> None:
    whole = renderer.picture(VIEW, SKY, 14.0, FULL)
    without = renderer.picture(VIEW, SKY, 14.0, FULL, staging=Staging(omitted=(2,)))
    assert whole is not None
    assert without is not None
    assert red_of(whole).sum() > 300
    assert red_of(without).sum() == 0
    facts = renderer.facts(VIEW, Staging(omitted=(2,)))
    assert set(np.unique(facts.object_index)) == {-1, 0, 1, 3}
    # Its shadow on the ground is gone as well: the ground is lit where it was dark.
    ground = facts.object_index == 0
    brighter = without.astype(int).sum(axis=2) - whole.astype(int).sum(axis=2)
    assert (brighter[ground] > 60).sum() > 50
    assert renderer.picture(VIEW, SKY, 14.0, FULL, staging=WHOLE).tobytes() == whole.tobytes()  # type: ignore[union-attr]


def test_a_nudged_object_is_drawn_where_it_was_put(renderer: Renderer, yard: Model) -> None:
    camera = Camera("", "x", nudges=(Nudge("o2", (2.0, 3.0, 0.5), 45.0),))
    staging = Lookup(yard).staging(Project(), camera)
    facts, before = renderer.facts(VIEW, staging), renderer.facts(VIEW)
    corners = np.array([[x, y, z] for x in (-1.5, -0.5) for y in (0, 1) for z in (0, 2)], float)
    moved = np.column_stack([corners, np.ones(8)]) @ staging.moved[0].array().T
    px, py, depth = VIEW.project(moved[:, :3]).T
    rows, columns = np.nonzero(facts.object_index == 2)
    assert columns.min() == pytest.approx(px.min(), abs=1.0)
    assert columns.max() == pytest.approx(px.max(), abs=1.0)
    assert rows.min() == pytest.approx(py.min(), abs=1.0)
    assert facts.depth_m[facts.object_index == 2].min() == pytest.approx(depth.min(), abs=0.02)
    assert (before.object_index == 2).sum() > 0
    blue = np.count_nonzero(facts.object_index == 3)
    assert blue == np.count_nonzero(before.object_index == 3)


def test_faint_things_let_others_through(renderer: Renderer) -> None:
    quality = STILL
    whole = renderer.picture(VIEW, SKY, 14.0, quality)
    faint = renderer.picture(VIEW, SKY, 14.0, quality, staging=Staging(faint=(2,)))
    without = renderer.picture(VIEW, SKY, 14.0, quality, staging=Staging(omitted=(2,)))
    assert whole is not None
    assert faint is not None
    assert without is not None
    block = red_of(whole)
    mean = [float(np.abs(faint[block].astype(float) - other[block]).mean()) for other in (whole, without)]
    # Nearer to the picture without it, but not the same as it.
    assert mean[1] < mean[0]
    assert mean[1] > 4.0


def test_the_projects_own_left_out_goes_into_every_picture(yard: Model) -> None:
    lookup = Lookup(yard)
    project = Project(left_out=LeftOut(categories=("Thing",)))
    assert lookup.staging(project, None).omitted == (0, 1, 2, 3)
    assert lookup.staging(project, Camera("", "x")).omitted == (0, 1, 2, 3)
