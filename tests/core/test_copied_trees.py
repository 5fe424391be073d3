"""Rays into models in which the same surfaces stand many times: what they meet is what they meet among all
triangles."""

from __future__ import annotations

import numpy as np
import pytest
import trimesh

from altana.core.conventions import Bools, Floats32
from altana.core.geometry import copied_trees, copies, edges
from altana.core.geometry.copied_trees import CopiedSurfaces, CopiedTree, can_ask
from altana.core.geometry.copies import Copies, copies_of
from altana.core.geometry.edges import edges_of
from altana.core.geometry.rays import RayScene
from altana.core.geometry.trees import Tree
from altana.core.model import Material, Model
from tests.conftest import box_between, model_of

PLAIN = Material("Plain", (0.7, 0.7, 0.7, 1.0))


@pytest.fixture(scope="module")
def grove() -> Model:
    """Rocks of one shape, turned and of three sizes, on a ground, and one that is like no other."""
    random = np.random.default_rng(8)
    rock = trimesh.creation.icosphere(2, 0.5)
    rock.vertices *= random.uniform(0.7, 1.3, (len(rock.vertices), 1))
    parts = [
        ("Ground", box_between((-12, -12, -0.3), (12, 12, 0.0)), PLAIN),
        ("Ball", trimesh.creation.icosphere(3, 0.8), PLAIN),
    ]
    for number in range(24):
        one = rock.copy()
        one.apply_transform(trimesh.transformations.random_rotation_matrix(random.random(3)))
        one.apply_scale((0.5, 1.0, 1.7)[number % 3])
        one.apply_translation((*random.uniform(-10, 10, 2), random.uniform(0.2, 3.0)))
        parts.append((f"Rock {number}", one, PLAIN))
    model = model_of(*parts)
    model.face_material[:] = 0
    return model


def found(model: Model, monkeypatch: pytest.MonkeyPatch) -> Copies:
    """Its copies, looked for although it is small."""
    monkeypatch.setattr(copies, "MANY", 0)
    return copies_of(model)


def all_round(count: int) -> tuple[Floats32, Floats32]:
    random = np.random.default_rng(3)
    start = random.uniform((-12, -12, 0.1), (12, 12, 5), (count, 3)).astype(np.float32)
    along = random.normal(size=(count, 3))
    return start, (along / np.linalg.norm(along, axis=1, keepdims=True)).astype(np.float32)


@pytest.mark.parametrize("which", ["all", "some objects", "some triangles"])
def test_rays_meet_what_they_meet_among_all_triangles(
    grove: Model, which: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    assert can_ask()
    same = found(grove, monkeypatch)
    assert (~same.own).sum() == 23
    surfaces = CopiedSurfaces(
        np.array([item.first_face for item in grove.objects]),
        np.array([item.face_count for item in grove.objects]),
        same,
    )
    chosen: Bools | None = None
    if which != "all":
        chosen = np.isin(grove.face_objects() % 3, (0, 1))
    if chosen is not None and which == "some triangles":
        # Of some copies other triangles count than of their original.
        chosen[::5] = False
    numbers = np.arange(len(grove.faces)) if chosen is None else np.flatnonzero(chosen)
    plain = Tree(grove.vertices, np.ascontiguousarray(grove.faces[numbers]))
    tree = CopiedTree(grove.vertices, grove.faces, surfaces, chosen)
    # Not a whole number of calls.
    start, along = all_round(20_011)
    wanted, far = plain.nearest(start, along)
    face, away = tree.nearest(start, along)
    wanted = np.where(wanted >= 0, numbers[wanted], -1)
    met = wanted >= 0
    assert 0.3 < met.mean() < 1.0
    # Where two triangles touch either is met.
    assert (face == wanted).mean() > 0.999
    assert np.array_equal(face >= 0, met)
    assert away[met] == pytest.approx(far[met], abs=2e-3)
    assert np.isinf(away[~met]).all()
    assert np.array_equal(tree.covered(start, along), met)
    short = np.full(len(start), 2.0, np.float32)
    assert (tree.covered(start, along, short) == plain.covered(start, along, short)).mean() > 0.999


def test_large_models_ask_so_and_others_do_not(grove: Model, monkeypatch: pytest.MonkeyPatch) -> None:
    same = found(grove, monkeypatch)
    assert CopiedSurfaces.of(grove, same) is None
    monkeypatch.setattr(copied_trees, "MANY", 1_000)
    assert CopiedSurfaces.of(grove, None) is None
    start, along = all_round(3_000)
    plain = RayScene(grove.vertices, grove.faces).cast(start, along)
    scene = RayScene.of(grove)
    hits = scene.cast(start, along)
    assert isinstance(scene._blocks.tree(scene._blocks.all[0]), CopiedTree)
    assert (hits.face == plain.face).mean() > 0.999
    assert hits.distance_m == pytest.approx(plain.distance_m, abs=2e-3)
    # Where the library cannot be asked, all triangles are in the tree.
    monkeypatch.setattr(copied_trees, "can_ask", lambda: False)
    assert CopiedSurfaces.of(grove, same) is None


def test_nothing_counts_and_nothing_is_met(grove: Model, monkeypatch: pytest.MonkeyPatch) -> None:
    same = found(grove, monkeypatch)
    monkeypatch.setattr(copied_trees, "MANY", 1_000)
    surfaces = CopiedSurfaces.of(grove, same)
    assert surfaces is not None
    tree = CopiedTree(grove.vertices, grove.faces, surfaces, np.zeros(len(grove.faces), bool))
    start, along = all_round(50)
    face, away = tree.nearest(start, along)
    assert (face == -1).all()
    assert np.isinf(away).all()
    none = np.zeros((0, 3), np.float32)
    assert len(tree.nearest(none, none)[0]) == 0


def test_edges_of_copies_are_those_of_their_original_moved(
    grove: Model, monkeypatch: pytest.MonkeyPatch
) -> None:
    each = edges_of(grove)
    found(grove, monkeypatch)
    copies._known.pop(grove)
    edges._known.pop(grove)
    once = edges_of(grove)
    assert once.figures[:3] == pytest.approx(each.figures[:3])
    assert once.figures[3] == pytest.approx(each.figures[3], rel=1e-3, abs=1e-4)
    for number in range(len(grove.objects)):
        lines, others = (item.points[item.object_index == number].reshape(-1, 6) for item in (once, each))
        assert len(lines) == len(others)
        ends, wanted = (
            np.sort(part.reshape(-1, 3).astype(float) @ np.array([1.0, 1.7, 0.3])) for part in (lines, others)
        )
        assert ends == pytest.approx(wanted, abs=2e-3)
