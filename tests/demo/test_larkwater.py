"""The demo building: its promised measures, its determinism, its shapes."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest
import shapely
import trimesh

from altana.core.standing import floor_under, standable
from altana.demo.larkwater import terminal
from altana.demo.project import AROUND_COUNT, demo_project
from altana.demo.shapes import Hole, Mesh, WallRun, ball, beam, box, cylinder, foliage, prism, quads
from altana.demo.site import LOOKOUT_M, OFFICE, OFFICE_HIGH_M, SPACES, TOWER_TOP_M
from altana.demo.textures import SIDE, SURFACES, picture
from altana.demo.write_glb import write_glb
from altana.demo.write_ifc import write_ifc


def _solid(mesh: Mesh) -> trimesh.Trimesh:
    whole_mesh = trimesh.Trimesh(mesh.vertices, mesh.faces, process=False)
    whole_mesh.merge_vertices(merge_tex=True, merge_norm=True)
    return whole_mesh


@pytest.mark.parametrize(
    ("mesh", "volume"),
    [
        (box((0, 0, 0), (2, 3, 4)), 24.0),
        (beam((0, 0, 0), (5, 0, 0), 0.2, 0.4), 0.4),
        (prism(np.array([(0, 0), (2, 0), (2, 2), (0, 2)]), 1.0, 3.0), 8.0),
        (prism(shapely.box(0, 0, 4, 4).difference(shapely.box(1, 1, 2, 2)), 0.0, 1.0), 15.0),
        (cylinder((0, 0, 0), 1.0, 2.0, 64), 6.273),
        (ball((1, 1, 1), 1.0, 32, 64), 4.17),
        (
            WallRun((0, 0), (6, 0), 0.3, 0.0, 3.0, (Hole(1, 2, 0.9, 2.1), Hole(3, 4, 0.0, 2.1))).mesh(),
            0.3 * (18 - 1.2 - 2.1),
        ),
    ],
    ids=["box", "beam", "prism", "prism with a hole", "cylinder", "ball", "wall"],
)
def test_shapes_are_closed_and_face_outwards(mesh: Mesh, volume: float) -> None:
    solid = _solid(mesh)
    # A ball's poles are tiny rings, which leave pinholes.
    assert solid.is_watertight or solid.faces.shape[0] == 4096
    assert solid.volume == pytest.approx(volume, rel=0.01)
    facing = np.einsum("ij,ij->i", solid.face_normals, mesh.normals[mesh.faces[:, 0]])
    assert (facing > 0.5).mean() > 0.97


def test_quads_carry_their_grain() -> None:
    tall = quads(np.array([[(0, 0, 0), (1, 0, 0), (1, 0, 5), (0, 0, 5)]]), along=2)
    assert np.ptp(tall.uvs[:, 0]) == pytest.approx(5.0)
    crown = foliage(np.array([(0.0, 0.0, 5.0, 1.0)]), 50, 0.1, 3)
    assert len(crown.faces) == 100
    assert np.linalg.norm(crown.normals, axis=1) == pytest.approx(np.ones(200))


def test_promised_measures() -> None:
    assert (OFFICE[2] - OFFICE[0], OFFICE[3] - OFFICE[1], OFFICE_HIGH_M) == pytest.approx((2.2, 3.6, 2.4))
    elements = terminal()
    highest = max(
        piece.mesh.vertices[:, 2].max()
        for item in elements
        if item.name.startswith("Lookout")
        for piece in item.pieces
    )
    assert highest == pytest.approx(TOWER_TOP_M, abs=0.08)
    names = [item.name for item in elements]
    assert len(set(names)) == len(names)
    assert {piece.surface for item in elements for piece in item.pieces} <= set(SURFACES)
    hall = next(space for space in SPACES if space.name == "Waiting hall")
    gallery = next(space for space in SPACES if space.name == "Café gallery")
    assert hall.ceiling - hall.floor > 1.9 * (gallery.ceiling - gallery.floor)


@pytest.mark.slow
def test_the_same_files_every_time(tmp_path: Path) -> None:
    some = terminal()[::9]
    for write, name in ((write_glb, "a.glb"), (write_ifc, "a.ifc")):
        contents = []
        for run in ("one", "two"):
            path = tmp_path / run / name
            path.parent.mkdir(exist_ok=True)
            write(path, some)
            contents.append(path.read_bytes())
        assert contents[0] == contents[1], name


@pytest.mark.slow
def test_the_same_drawing_from_every_process(tmp_path: Path) -> None:
    """Sets are ordered otherwise in every process; the file is not."""
    write = "import sys, pathlib; from altana.demo.write_dxf import write_dxf; write_dxf(pathlib.Path(sys.argv[1]))"
    for seed in ("1", "2", "3"):
        subprocess.run(
            [sys.executable, "-c", write, str(tmp_path / seed)],
            check=True,
            env={**os.environ, "PYTHONHASHSEED": seed},
        )
    assert len({(tmp_path / seed).read_bytes() for seed in ("1", "2", "3")}) == 1


@pytest.mark.parametrize("name", [name for name, surface in SURFACES.items() if surface.pattern])
def test_textures_tile_without_a_seam(name: str) -> None:
    pixels = np.asarray(picture(SURFACES[name]).convert("L")).astype(float)
    assert pixels.shape == (SIDE, SIDE)
    for turned in (pixels, pixels.T):
        inner = np.abs(np.diff(turned, axis=0)).mean(axis=1)
        border = np.abs(turned[0] - turned[-1]).mean()
        assert border <= max(inner.max() * 1.15, 6.0)


def test_cameras_stand_where_people_can(demo_opened) -> None:  # type: ignore[no-untyped-def]
    project = demo_project()
    floors = standable(demo_opened.model)
    people = [camera for camera in project.cameras if not camera.name.startswith("Around")]
    assert len(people) >= 6
    assert len(project.cameras) - len(people) == AROUND_COUNT
    for camera in people:
        floor = floor_under(floors, camera.eye)
        assert floor is not None
        assert camera.eye[2] - floor == pytest.approx(1.2 if "seated" in camera.name else 1.6, abs=0.04), (
            camera.name
        )
    assert any(camera.eye[2] > LOOKOUT_M for camera in people)
    assert {camera.inside for camera in people} == {True, False}
    eyes = [np.array(camera.eye[:2]) for camera in project.cameras if camera.name.startswith("Around")]
    middle = np.mean(eyes, axis=0)
    assert [np.linalg.norm(eye - middle) for eye in eyes] == pytest.approx([52.0] * AROUND_COUNT)
