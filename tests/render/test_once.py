"""What stands in a model many times goes to the card once: the same pictures, from a fraction of the
memory."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

import numpy as np
import pytest
import trimesh

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.geometry import copies as copies_module
from altana.core.geometry.copies import copies_of, joined_copies, keep_copies, no_copies
from altana.core.light.sky import sky_of
from altana.core.model import GLASS, Material, Model, join
from altana.core.project import Light
from altana.core.staging import MovedObject, Staging
from altana.render import coarse
from altana.render.quality import COARSE, FULL, Quality
from altana.render.renderer import Renderer
from tests.conftest import box_between, model_of

SKY = sky_of(Light(47.5, 9.4, 2.0, "2026-06-21", 12.0))
VIEW = View(Pose((0.0, -14.0, 3.0), 0.0, -6.0), Lens(24), 240, 136)
TREES, GLOBES = 30, 8
#: Two metres to the right and half a metre up.
MOVE = (1.0, 0.0, 0.0, 2.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.5, 0.0, 0.0, 0.0, 1.0)


def tree() -> trimesh.Trimesh:
    """A crown that looks the same from nowhere, on a stem."""
    crown = trimesh.creation.icosphere(2, 1.0)
    crown.vertices *= 1.0 + 0.25 * np.sin(7.0 * crown.vertices[:, :1] + 3.0 * crown.vertices[:, 1:2])
    return trimesh.util.concatenate(
        [crown, trimesh.creation.cylinder(0.12, 2.0).apply_translation((0, 0, -1.5))]
    )


def one_material(model: Model, *numbers: int) -> Model:
    """Every object in the material of its kind instead of one of its own."""
    return replace(
        model, face_material=np.repeat(np.array(numbers, np.int32), [o.face_count for o in model.objects])
    )


@pytest.fixture(scope="module")
def park() -> Model:
    """Turned and scaled trees of one shape, globes of one shape half of which is glass, two things alone, and
    a ground."""
    drawn = np.random.default_rng(5)
    leaves, pane = (
        Material("Leaves", (0.2, 0.5, 0.15, 1.0)),
        Material("Pane", (0.6, 0.8, 0.9, 0.3), kind=GLASS),
    )
    plain = Material("Plain", (0.7, 0.65, 0.6, 1.0))
    parts: list[tuple[str, trimesh.Trimesh, Material]] = [
        ("Ground", box_between((-40, -30, -0.2), (40, 60, 0)), plain)
    ]
    for number in range(TREES):
        trees = tree()
        trees.apply_scale(float(drawn.uniform(0.6, 1.4)))
        trees.apply_transform(trimesh.transformations.rotation_matrix(drawn.uniform(0, 6.28), (0, 0, 1)))
        place = (float(drawn.uniform(-12, 12)), float(drawn.uniform(0, 25)), 2.0)
        parts.append((f"Tree {number}", trees.apply_translation(place), leaves))
    for number in range(GLOBES):
        ball = trimesh.creation.icosphere(2, 0.4)
        parts.append((f"Globe {number}", ball.apply_translation((3.0 * number - 10.0, -6.0, 1.0)), pane))
    bent = tree()
    bent.apply_transform(np.diag([1.0, 1.6, 1.0, 1.0]))
    parts.append(("Bent", bent.apply_translation((0.0, -3.0, 2.0)), leaves))
    model = one_material(model_of(*parts), 0, *([1] * TREES), *([1 + TREES] * GLOBES), 1)
    # The upper half of every globe is solid: an object that is drawn in two ways.
    material = model.face_material.copy()
    for item in model.objects[1 + TREES : 1 + TREES + GLOBES]:
        material[item.first_face : item.first_face + item.face_count // 2] = 0
    return replace(model, face_material=material)


@pytest.fixture
def renderers(park: Model, monkeypatch: pytest.MonkeyPatch) -> Iterator[tuple[Renderer, Renderer]]:
    """Without copies and with them."""
    monkeypatch.setattr(copies_module, "MANY", 0)
    monkeypatch.setattr(coarse, "MANY", 0)
    apart = replace(park, source="apart")
    keep_copies(apart, no_copies(len(park.objects)))
    pair = Renderer(apart, None), Renderer(replace(park, source="once"), None)
    yield pair
    for renderer in pair:
        renderer.close()


def test_copies_are_found_by_their_surfaces(park: Model, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(copies_module, "MANY", 0)
    copies = copies_of(replace(park, source="looked for"))
    assert copies.of.tolist() == [0, *([1] * TREES), *([1 + TREES] * GLOBES), len(park.objects) - 1]
    for number, item in enumerate(park.objects):
        original = park.objects[copies.of[number]]
        own, there = (
            park.vertices[park.faces[one.first_face : one.first_face + one.face_count]]
            for one in (item, original)
        )
        moved = there @ copies.place[number][:, :3].T + copies.place[number][:, 3]
        assert np.allclose(moved, own, atol=3e-4)


def test_small_models_are_left_as_they_are(park: Model) -> None:
    assert copies_of(replace(park, source="small")).own.all()


def test_objects_that_share_corners_are_no_copies(park: Model, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(copies_module, "MANY", 0)
    faces = park.faces.copy()
    tied = park.objects[3]
    # A corner of the third tree is one of the ground's.
    faces[tied.first_face, 0] = 0
    copies = copies_of(replace(park, faces=faces))
    assert copies.of[3] == 3 and (copies.of[2:3] == 2).all()


def test_copies_hold_in_a_scene_of_several_models(park: Model, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(copies_module, "MANY", 0)
    away = replace(park, offset=(100.0, 50.0, 0.0))
    shifts = [np.zeros(3), np.array([100.0, 50.0, 0.0])]
    # Not looked for yet: in the whole, by who draws it.
    assert joined_copies([replace(park, source="new"), away], shifts) is None
    for model in (park, away):
        copies_of(model)
    both, whole = joined_copies([park, away], shifts), join([park, away])
    assert both is not None
    count = len(park.objects)
    for number in (5, count + 5):
        item, original = whole.objects[number], whole.objects[both.of[number]]
        own, there = (
            whole.vertices[whole.faces[one.first_face : one.first_face + one.face_count]]
            for one in (item, original)
        )
        assert np.allclose(there @ both.place[number][:, :3].T + both.place[number][:, 3], own, atol=3e-4)


@pytest.mark.parametrize(
    "staging",
    [Staging(), Staging(omitted=(1, 7, 33)), Staging(moved=(MovedObject(4, MOVE),), faint=(9,))],
    ids=["whole", "left out", "moved and faint"],
)
def test_pictures_are_the_same(renderers: tuple[Renderer, Renderer], staging: Staging) -> None:
    for quality in (FULL, Quality(passes=3)):
        one, two = (item.picture(VIEW, SKY, 14.0, quality, staging=staging) for item in renderers)
        assert one is not None and two is not None
        off = np.abs(one.astype(int) - two.astype(int)).max(axis=2)
        # Along outlines a corner may round to the next pixel.
        assert (off > 8).mean() < 0.004 and off.mean() < 0.3
    facts = [item.facts(VIEW, staging) for item in renderers]
    assert (facts[0].object_index != facts[1].object_index).mean() < 0.004
    assert len(np.unique(facts[1].object_index)) > 20
    same = facts[0].object_index == facts[1].object_index
    seen = same & np.isfinite(facts[0].depth_m)
    assert np.allclose(facts[0].depth_m[seen], facts[1].depth_m[seen], atol=0.02)
    assert (facts[0].pane != facts[1].pane).mean() < 0.004


def test_far_away_copies_are_coarser_as_their_original_is(renderers: tuple[Renderer, Renderer]) -> None:
    far = replace(VIEW, pose=Pose((0.0, -220.0, 30.0), 0.0, -6.0), lens=Lens(150))
    one, two = (item.picture(far, SKY, 14.0, COARSE) for item in renderers)
    assert one is not None and two is not None
    assert (np.abs(one.astype(int) - two.astype(int)).max(axis=2) > 12).mean() < 0.01


def test_the_card_holds_each_surface_once(renderers: tuple[Renderer, Renderer], park: Model) -> None:
    apart, once = (item._shown.scene for item in renderers)
    own = copies_of(renderers[1]._shown.model).own
    assert once.places is not None and apart.places is None
    kept = sum(item.face_count for item, mine in zip(park.objects, own, strict=True) if mine)
    assert kept < 0.2 * len(park.faces)
    assert once.vertices.size < 0.25 * apart.vertices.size
    assert once.indices.size < 0.4 * apart.indices.size


def test_another_model_without_copies_is_drawn_as_before(
    renderers: tuple[Renderer, Renderer], park: Model, room: Model, monkeypatch: pytest.MonkeyPatch
) -> None:
    inside = View(Pose((1.0, 2.0, 1.6), 90.0), Lens(24), 120, 68)
    once = renderers[1]
    once.show(room, None)
    shown = once.picture(inside, SKY, 9.0, FULL, inside=True)
    fresh = Renderer(room, None)
    wanted = fresh.picture(inside, SKY, 9.0, FULL, inside=True)
    fresh.close()
    assert shown is not None and wanted is not None and np.array_equal(shown, wanted)
    once.show(replace(park, source="again"), None)
    assert once.facts(VIEW).object_index.max() > 20
