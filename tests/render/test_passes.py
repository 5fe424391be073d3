"""Layers for compositing: coverage by name, depth and directions, read back from the file by its library."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np
import OpenEXR
import pytest

from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.light.transport import Cancelled
from altana.core.model import Material, Model
from altana.render.passes import FAR_M, RANKS, coverage, covered_by, name_hash, passes_bytes, told_apart
from altana.render.renderer import Renderer
from tests.conftest import box_between, model_of

VIEW = View(Pose((0.0, 0.0, 1.5)), Lens(24), 240, 160)


def scene() -> Model:
    """A block 0.73 m wide in front of a wall; two things called Block."""
    return model_of(
        ("Block", box_between((-0.365, 4, 0.5), (0.365, 5, 2.0)), Material("Oak")),
        ("Wall", box_between((-30, 9, -20), (0, 10, 20)), Material("Plaster")),
        ("Block", box_between((-3, 6, 0.5), (-2.5, 7, 2.0)), Material("Oak")),
    )


def test_shares_are_counted_largest_first() -> None:
    ids = np.array([[[3, 3, -1, 5], [-1, -1, -1, -1], [2, 2, 2, 2]]], np.int32)
    cover = coverage(ids)
    assert cover.ids.shape == (1, 3, RANKS)
    assert cover.ids[0, 0, :3].tolist() == [3, 5, -1]
    assert cover.shares[0, 0, :3].tolist() == [0.5, 0.25, 0.0]
    assert cover.ids[0, 1].tolist() == [-1] * RANKS
    assert (cover.ids[0, 2, 0], cover.shares[0, 2, 0]) == (2, 1.0)


@pytest.mark.parametrize(("name", "wanted"), [("hello", 0x248BFA47), ("Block", None), ("", None)])
def test_hashes_are_those_of_the_specification_and_floats_that_all_can_hold(
    name: str, wanted: int | None
) -> None:
    digest = name_hash(name)
    assert wanted is None or digest == wanted
    value = np.array([digest], np.uint32).view(np.float32)[0]
    assert np.isfinite(value) and abs(value) >= np.finfo(np.float32).tiny


def test_things_called_the_same_are_told_apart() -> None:
    assert told_apart(["Block", "Wall", "Block"], ["o1", "o2", "o3"]) == ["Block o1", "Wall", "Block o3"]


def test_the_layers_say_what_covers_each_pixel(tmp_path: Path) -> None:
    model = scene()
    renderer = Renderer(model)
    try:
        facts = renderer.facts(VIEW)
        covered = covered_by(VIEW, model, renderer.facts, lambda share: True)
        with pytest.raises(Cancelled):
            covered_by(VIEW, model, renderer.facts, lambda share: False)
    finally:
        renderer.close()
    objects, materials = covered
    # The block's front is 0.73 by 1.5 m at 4 m: so many pixels, whole or in part.
    wide, high = 0.73 * 24 / 4 / 36 * 240, 1.5 * 24 / 4 / 36 * 240
    share = objects.shares * (objects.ids == 0)
    assert share.sum() == pytest.approx(wide * high, rel=0.01)
    assert ((share > 0.0) & (share < 1.0)).any()
    assert objects.shares.sum(axis=2).max() <= 1.0 + 1e-6
    # Both blocks are of one material, or of two called the same.
    both = objects.shares * ((objects.ids == 0) | (objects.ids == 2))
    assert both.sum() > share.sum()
    assert (materials.shares * (materials.ids == materials.ids[80, 120, 0])).sum() == pytest.approx(
        both.sum()
    )
    light = np.full((160, 240, 3), 100.0, np.float32)
    path = tmp_path / "picture.passes.exr"
    path.write_bytes(passes_bytes(light, None, light / 200.0, facts, covered, model))
    with OpenEXR.File(str(path), separate_channels=True) as file:
        header = {name: value for name, value in file.header().items() if isinstance(value, str)}
        channels = {name: np.array(item.pixels) for name, item in file.channels().items()}
    assert channels["R"].max() == 100.0 and channels["albedo.G"].max() == 0.5
    depth = channels["depth.Z"]
    assert depth[80, 120] == pytest.approx(4.0, abs=0.01)
    assert depth[20, 20] == pytest.approx(9.0, abs=0.01)
    assert depth[80, 235] == FAR_M
    assert channels["normal.Y"][80, 120] == pytest.approx(-1.0, abs=0.01)
    (key,) = {name.rsplit("/", 1)[0] for name in header if header[name] == "CryptoObject"}
    manifest = json.loads(header[f"{key}/manifest"])
    assert set(manifest) == {f"Block {model.objects[0].id}", "Wall", f"Block {model.objects[2].id}"}
    middle = np.array([channels["CryptoObject00.R"][80, 120]], np.float32).view(np.uint32)[0]
    assert f"{middle:08x}" == manifest[f"Block {model.objects[0].id}"]
    assert channels["CryptoObject00.G"][80, 120] == 1.0
    assert {f"CryptoMaterial{layer:02d}.A" for layer in range(3)} <= set(channels)
