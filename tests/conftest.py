"""Models and projects that many tests share; the demo is written once a run and kept between runs."""

from __future__ import annotations

import fcntl
import gc
import hashlib
import os
import shutil
from collections import deque
from collections.abc import Iterator
from pathlib import Path

import hypothesis
import numpy as np
import pytest
import trimesh
from PIL import Image

from altana.core.conventions import Bools
from altana.core.geometry.rays import RayScene
from altana.core.light.transport import LightMap
from altana.core.model import Material, Model, SceneObject, Storey, corner_normals
from altana.core.project import Project
from altana.demo.project import DRAWING, PROJECT, write_demo
from altana.jobs.light import light_of
from altana.jobs.models import Opened, open_project_models
from altana.storage.project_file import read_project
from tests.shared_card import shared

ROOT = Path(__file__).parents[1]
BUILD = ROOT / "build"

# How long an example takes says how busy the machine is, not whether it is right.
hypothesis.settings.register_profile("untimed", deadline=None)
hypothesis.settings.load_profile("untimed")


@pytest.fixture(scope="session", autouse=True)
def _surroundings(tmp_path_factory: pytest.TempPathFactory) -> None:
    os.environ.setdefault("ALTANA_CACHE", str(BUILD / "test-cache"))
    # Resting pictures of windows are drawn twice over instead of eight times: the tests look at what is
    # shown, not at its grain.
    os.environ.setdefault("ALTANA_FRAME_PASSES", "2")
    # Soft light from few points: how it looks is tested on models of its own.
    os.environ.setdefault("ALTANA_LIGHT_POINTS", "6000")
    # Pictures at rest stay as they are, but for the tests that are about their light.
    os.environ.setdefault("ALTANA_PIXEL_LIGHT", "0")
    # The children of one test do not wait for another test.
    os.environ.setdefault("ALTANA_EQUAL", "1")
    os.environ.setdefault("ALTANA_STATE", str(BUILD / "test-state"))
    os.environ["ALTANA_AUTOSAVE"] = str(tmp_path_factory.mktemp("autosave"))
    # What was loaded is no garbage, and not looked through again and again.
    gc.freeze()
    # Whatever a test does, the machine stays on.
    os.environ["ALTANA_SWITCH_OFF"] = "pretend"
    # And the desktop's own lists are left alone.
    os.environ["XDG_DATA_HOME"] = str(tmp_path_factory.mktemp("data"))


@pytest.fixture(scope="session", autouse=True)
def _shared_card() -> Iterator[None]:
    card = shared()
    yield
    card.close()


@pytest.fixture(scope="session", autouse=True)
def _kept_rays() -> Iterator[None]:
    """Tests that look into the same model use the same trees: the last few are held for them."""
    of, in_use = RayScene.of, deque[RayScene](maxlen=8)

    def kept(model: Model, chosen: Bools | None = None) -> RayScene:
        own = of(model, chosen)
        if own not in in_use:
            in_use.append(own)
        return own

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(RayScene, "of", kept)
        yield


def _digest() -> str:
    sources = sorted((ROOT / "src/altana/demo").glob("*.py"))
    sources += sorted((ROOT / "src/altana/core/project").glob("*.py"))
    sources += [
        ROOT / "src/altana/core" / name
        for name in ("lens.py", "edits/formats.py", "edits/settings.py", "edits/variants.py")
    ]
    return hashlib.sha256(b"".join(path.read_bytes() for path in sources)).hexdigest()[:12]


@pytest.fixture(scope="session")
def demo_files() -> Path:
    """The demo's folder, which tests only read."""
    folder = BUILD / f"demo-{_digest()}"
    BUILD.mkdir(exist_ok=True)
    with (BUILD / "demo.lock").open("w") as lock:
        # Tests run in several processes; one of them writes it.
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not (folder / PROJECT).is_file():
            for old in BUILD.glob("demo-*"):
                shutil.rmtree(old)
            write_demo(folder)
        # Its light too: the window's child that computes it gives way to everything else, and would be waited
        # for.
        project = read_project(folder / PROJECT)
        light_of(open_project_models(project, folder / PROJECT), project.light)
    return folder


@pytest.fixture
def demo_copy(demo_files: Path, tmp_path: Path) -> Path:
    """A copy of the demo project (with its GLB) that a test may change; its path."""
    folder = tmp_path / "demo"
    folder.mkdir()
    for name in (PROJECT, "larkwater.glb", DRAWING):
        shutil.copyfile(demo_files / name, folder / name)
    return folder / PROJECT


@pytest.fixture(scope="session")
def demo_project(demo_files: Path) -> Project:
    return read_project(demo_files / PROJECT)


@pytest.fixture(scope="session")
def demo_opened(demo_files: Path, demo_project: Project) -> Opened:
    return open_project_models(demo_project, demo_files / PROJECT)


def picture_at(path: Path) -> np.ndarray:
    """The pixels of a picture file, which is closed again."""
    with Image.open(path) as image:
        return np.asarray(image.convert("RGB"))


def model_of(*parts: tuple[str, trimesh.Trimesh, Material]) -> Model:
    """A Model from named meshes, one object each."""
    vertices, normals, faces, materials, objects = [], [], [], [], []
    start = first = 0
    for index, (name, mesh, _) in enumerate(parts):
        normal, triangles, corner = corner_normals(
            np.asarray(mesh.vertices, np.float32), np.asarray(mesh.faces, np.int32)
        )
        vertices.append(np.asarray(mesh.vertices, np.float32)[corner])
        normals.append(normal)
        faces.append(triangles + np.int32(start))
        materials.append(np.full(len(triangles), index, np.int32))
        objects.append(SceneObject(f"o{index}", name, "Thing", "g", first, len(triangles)))
        start += len(corner)
        first += len(triangles)
    stacked = np.concatenate(vertices)
    return Model(
        stacked,
        np.concatenate(normals),
        stacked[:, :2].copy(),
        np.concatenate(faces),
        np.concatenate(materials),
        tuple(objects),
        tuple(material for _, _, material in parts),
        storeys=(Storey("g", "Ground", 0.0),),
        source="test",
    )


def light_at(made: LightMap, model: Model, face: np.ndarray, place: np.ndarray) -> np.ndarray:
    """(n, 3) what a light map has on the front of triangles (n,) towards places (n, 3) in their planes,
    lux."""
    a, b, c = (model.vertices[model.faces[face, k]].astype(float) for k in range(3))
    across = np.stack([b - a, c - a], axis=-1)
    share = np.einsum("ijk,ik->ij", np.linalg.pinv(across), place - a)
    uv = made.uv[face].astype(float)
    at = uv[:, 0] + share[:, :1] * (uv[:, 1] - uv[:, 0]) + share[:, 1:] * (uv[:, 2] - uv[:, 0])
    column, row = np.rint(at - 0.5).astype(int).T
    return np.asarray(made.pixels[row, column])


def box_between(low: tuple[float, float, float], high: tuple[float, float, float]) -> trimesh.Trimesh:
    """A box by two corners."""
    size = np.subtract(high, low)
    return trimesh.creation.box(size, trimesh.transformations.translation_matrix(np.add(low, size / 2)))


@pytest.fixture(scope="session")
def room() -> Model:
    """A closed room of 6 x 4 x 3 m inside, walls 0.2 m, turned by nothing; its floor is at 0."""
    plaster = Material("Plaster", (0.8, 0.8, 0.8, 1.0))
    return model_of(
        ("Floor", box_between((-0.2, -0.2, -0.3), (6.2, 4.2, 0.0)), plaster),
        ("Ceiling", box_between((-0.2, -0.2, 3.0), (6.2, 4.2, 3.2)), plaster),
        ("West", box_between((-0.2, -0.2, 0.0), (0.0, 4.2, 3.0)), plaster),
        ("East", box_between((6.0, -0.2, 0.0), (6.2, 4.2, 3.0)), plaster),
        ("South", box_between((0.0, -0.2, 0.0), (6.0, 0.0, 3.0)), plaster),
        ("North", box_between((0.0, 4.0, 0.0), (6.0, 4.2, 3.0)), plaster),
    )
