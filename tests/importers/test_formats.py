"""Every format: metres, Z up, names, materials; units and axes that are missing; damage of twenty kinds."""

from __future__ import annotations

import io
import os
import re
import resource
import subprocess
import sys
import time
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import trimesh
from PIL import Image
from trimesh.visual import TextureVisuals
from trimesh.visual.material import PBRMaterial

from altana.core.errors import Refused, UserError
from altana.core.geometry.rays import RayScene
from altana.core.model import GLASS, WATER, join
from altana.importers import ifc_kernel, levels
from altana.importers.finish import kind_of
from altana.importers.levels import with_found_storeys
from altana.importers.table import read_model
from altana.jobs.models import Opened, open_model
from tests.conftest import box_between
from tests.importers.samples import MESHES, SUFFIXES, Y_UP, scene, write
from tests.importers.test_compare import HOUSE


@pytest.mark.parametrize("suffix", MESHES)
def test_metres_and_z_up(suffix: str, tmp_path: Path) -> None:
    model, _ = read_model(write(tmp_path, suffix))
    assert model.bounds == pytest.approx(np.array([(0, 0, -0.3), (8, 6, 3)]), abs=1e-5)
    assert len(model.faces) == 24
    length = np.linalg.norm(model.normals, axis=1)
    assert length == pytest.approx(np.ones(len(length)), abs=1e-3)
    assert model.storeys


@pytest.mark.parametrize("suffix", [".glb", ".gltf", ".obj", ".usda", ".usdz", ".json"])
def test_names_and_stable_ids(suffix: str, tmp_path: Path) -> None:
    path = write(tmp_path, suffix)
    first, second = read_model(path)[0], read_model(path)[0]
    assert first.objects == second.objects
    if suffix != ".obj":
        # The writer of OBJ names no objects.
        assert {item.name for item in first.objects} == {"Slab", "Post 1"}
        assert {item.category for item in first.objects} == (
            {"Building"} if suffix == ".json" else {"Slab", "Post"}
        )


def test_ifc_of_the_demo(demo_files: Path) -> None:
    model = open_model(demo_files / "larkwater.ifc")[0]
    assert [storey.name for storey in model.storeys] == [
        "Ground storey",
        "Gallery storey",
        "Roofs",
        "Lookout",
    ]
    assert {room.name for room in model.rooms} >= {"Waiting hall", "Ticket office", "Café gallery"}
    office = next(room for room in model.rooms if room.name == "Ticket office")
    size = np.ptp(np.array(office.outline), axis=0)
    assert size == pytest.approx((2.2, 3.6), abs=1e-6)
    assert office.ceiling_m - office.floor_m == pytest.approx(2.4, abs=1e-6)
    assert {"Wall", "Door", "Window", "Stair", "Railing", "Furniture", "Planting"} <= {
        item.category for item in model.objects
    }
    glass = [material for material in model.materials if material.kind == GLASS]
    assert [material.name for material in glass] == ["Clear glass"]
    roof = next(item for item in model.objects if item.name == "Lookout roof")
    used = model.faces[roof.first_face : roof.first_face + roof.face_count]
    assert model.vertices[used, 2].max() == pytest.approx(22.0, abs=0.08)


@pytest.mark.slow
@pytest.mark.skipif(not HOUSE.is_file(), reason="the house lies beside the project")
def test_an_ifc_file_is_the_same_model_on_any_number_of_processors(monkeypatch: pytest.MonkeyPatch) -> None:
    """A real house, several of whose walls are cut by half-spaces."""
    models, asked, threads = [], [], ifc_kernel._threads

    def noted(group: list[Any], kernel: Any) -> int:
        asked.append(threads(group, kernel))
        return asked[-1]

    monkeypatch.setattr(ifc_kernel, "_threads", noted)
    for processors in (1, 4):
        monkeypatch.setattr(os, "sched_getaffinity", lambda _, n=processors: set(range(n)))
        models.append(read_model(HOUSE)[0])
    assert max(asked) == 4
    one, four = models
    assert one.objects == four.objects and one.materials == four.materials and one.rooms == four.rooms
    for name in ("vertices", "faces", "normals", "face_material"):
        assert np.array_equal(getattr(one, name), getattr(four, name))


def test_both_demo_models_are_the_same_building(demo_files: Path, demo_opened) -> None:  # type: ignore[no-untyped-def]
    ifc, glb = open_model(demo_files / "larkwater.ifc")[0], demo_opened.model
    assert {item.name for item in ifc.objects} == {item.name for item in glb.objects}
    assert ifc.bounds == pytest.approx(glb.bounds, abs=1e-3)
    assert 85_000 < len(glb.faces) < 115_000
    for name in ("West wall", "South wall", "Hall floor", "Bench 3", "Tree 2"):
        boxes = []
        for model in (ifc, glb):
            item = next(o for o in model.objects if o.name == name)
            corners = model.vertices[
                model.faces[item.first_face : item.first_face + item.face_count]
            ].reshape(-1, 3)
            boxes.append(np.stack([corners.min(axis=0), corners.max(axis=0)]))
        assert boxes[0] == pytest.approx(boxes[1], abs=2e-3), name


def test_openings_are_really_open_in_ifc(demo_files: Path, demo_opened) -> None:  # type: ignore[no-untyped-def]
    """The volume of a wall with windows agrees between the kernel's and our own openings."""
    volumes = []
    for model in (open_model(demo_files / "larkwater.ifc")[0], demo_opened.model):
        item = next(o for o in model.objects if o.name == "South wall")
        faces = model.faces[item.first_face : item.first_face + item.face_count]
        volumes.append(abs(trimesh.Trimesh(model.vertices, faces, process=False).volume))
    assert volumes[0] == pytest.approx(volumes[1], rel=1e-3)


def test_texture_is_the_right_way_up(tmp_path: Path) -> None:
    """The upper half of the picture lies at v above one half, on the upper half of the wall."""
    pixels = np.zeros((8, 8, 3), np.uint8)
    pixels[:4] = (255, 0, 0)
    wall = trimesh.Trimesh(
        [(0, 0, 0), (2, 0, 0), (2, 0, 2), (0, 0, 2)], [(0, 1, 2), (0, 2, 3)], process=False
    )
    wall.visual = TextureVisuals(
        np.array([(0, 0), (1, 0), (1, 1), (0, 1)]),
        material=PBRMaterial(name="Flag", baseColorTexture=Image.fromarray(pixels)),
    )
    wall_scene = trimesh.Scene({"Wall": wall})
    wall_scene.apply_transform(Y_UP)
    (tmp_path / "w.glb").write_bytes(wall_scene.export(file_type="glb"))
    model, _ = read_model(tmp_path / "w.glb")
    high = model.vertices[:, 2] > 1
    assert model.uvs[high, 1] == pytest.approx(np.ones(high.sum()))
    decoded = np.asarray(Image.open(io.BytesIO(model.images[0].data)).convert("RGB"))
    assert decoded[0, 0].tolist() == [255, 0, 0]


def test_millimetres_without_a_unit_are_noticed(tmp_path: Path) -> None:
    model, _ = read_model(write(tmp_path, ".stl", 1000.0))
    assert model.bounds[1] == pytest.approx((8, 6, 3), abs=1e-4)
    told = next(problem for problem in model.problems if problem.code == "unit-assumed")
    assert "taken as millimetres" in told.sentence and told.remedy.startswith("unit:")
    feet, _ = read_model(write(tmp_path, ".stl"), 0.3048)
    assert feet.bounds[1, 0] == pytest.approx(8 * 0.3048, abs=1e-5)


def test_unit_and_axis_of_dae(tmp_path: Path) -> None:
    path = write(tmp_path, ".dae", 100.0)
    head, rest = path.read_text().split("<up_axis>", 1)
    path.write_text(head.replace("<asset>", '<asset><unit name="cm" meter="0.01"/>', 1) + "<up_axis>" + rest)
    assert read_model(path)[0].bounds[1] == pytest.approx((8, 6, 3), abs=1e-4)


def test_far_from_the_origin(tmp_path: Path) -> None:
    shapes = scene()
    shapes.apply_translation((512_345.25, 5_234_567.5, 400.0))
    (tmp_path / "far.ply").write_bytes(shapes.to_mesh().export(file_type="ply", vertex_normal=False))
    text = shapes.to_mesh()
    (tmp_path / "far.obj").write_text(
        "".join(f"v {x} {z} {-y}\n" for x, y, z in text.vertices)
        + "".join(f"f {a + 1} {b + 1} {c + 1}\n" for a, b, c in text.faces)
    )
    model, _ = read_model(tmp_path / "far.obj")
    assert np.ptp(model.bounds, axis=0) == pytest.approx((8, 6, 3.3), abs=1e-3)
    assert model.bounds[0] + model.offset == pytest.approx((512_345.25, 5_234_567.5, 399.7), abs=0.01)
    assert any(problem.code == "far-away" for problem in model.problems)


def test_storeys_are_found_from_floors(tmp_path: Path) -> None:
    floors = trimesh.Scene()
    for index, z in enumerate((0.0, 3.2, 6.4, 9.6)):
        floors.add_geometry(box_between((0, 0, z - 0.3), (9, 7, z)), node_name=f"Deck {index}")
    floors.apply_transform(Y_UP)
    (tmp_path / "s.glb").write_bytes(floors.export(file_type="glb"))
    model, _ = read_model(tmp_path / "s.glb")
    assert [storey.elevation_m for storey in model.storeys] == pytest.approx([0.0, 3.2, 6.4], abs=0.01)
    assert {item.storey_id for item in model.objects} <= {storey.id for storey in model.storeys}


def test_storeys_of_a_large_model_are_those_of_a_small_one(
    demo_opened: Opened, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Looking up meets only what lies over the places looked up from; the same storeys, and nothing over a
    place is passed by."""
    bare = replace(demo_opened.model, storeys=())
    whole = with_found_storeys(bare)
    monkeypatch.setattr(levels, "FEW_TRIANGLES", 0)
    assert with_found_storeys(bare)[0].storeys == whole[0].storeys
    # Some triangles at a time, as of large models.
    monkeypatch.setattr(levels, "AT_A_TIME", 4_321)
    in_parts = with_found_storeys(bare)
    assert in_parts[0].storeys == whole[0].storeys
    assert in_parts[0].objects == whole[0].objects
    random = np.random.default_rng(4)
    low, high = bare.bounds
    places = random.uniform(low, high, (300, 3)) * (0.1, 0.1, 0.0) + (0.0, 0.0, -50.0)
    over = levels.over_places(bare, places)
    met = RayScene.of(bare).cast(places, np.tile((0.0, 0.0, 1.0), (300, 1))).face
    assert (met >= 0).sum() > 100 and over[met[met >= 0]].all() and over.mean() < 0.7


def test_storeys_of_the_demo_are_found_too(demo_opened) -> None:  # type: ignore[no-untyped-def]
    storeys = with_found_storeys(replace(demo_opened.model, storeys=()))[0].storeys
    heights = [storey.elevation_m for storey in storeys]
    for wanted in (0.0, 3.6, 17.0):
        assert min(abs(height - wanted) for height in heights) < 0.02, heights


def test_two_models_in_one_scene(tmp_path: Path) -> None:
    model, _ = read_model(write(tmp_path, ".glb"))
    both = join([model, model])
    assert len(both.faces) == 2 * len(model.faces)
    assert both.objects[2].first_face == len(model.faces)
    assert len({item.id for item in both.objects}) == 4
    with pytest.raises(Refused, match="no model"):
        join([])


def test_kinds_of_material() -> None:
    assert (kind_of("Clear", 0.2), kind_of("Lake water", 1.0), kind_of("Waterproof", 1.0)) == (
        GLASS,
        WATER,
        "solid",
    )


def test_files_outside_the_folder_are_not_read(tmp_path: Path) -> None:
    (tmp_path / "in").mkdir()
    (tmp_path / "secret.mtl").write_text("newmtl Gold\nKd 1 0 0\n")
    (tmp_path / "in" / "a.obj").write_text(
        "mtllib ../secret.mtl\nusemtl Gold\nv 0 0 0\nv 9 0 0\nv 9 0 9\nf 1 2 3\n"
    )
    model, others = read_model(tmp_path / "in" / "a.obj")
    assert others == []
    assert model.materials[0].colour[:3] != pytest.approx((1.0, 0.0, 0.0), abs=0.05)
    assert any(problem.code == "missing-files" for problem in model.problems)


def test_materials_beside_the_file_are_read(tmp_path: Path) -> None:
    (tmp_path / "a.mtl").write_text("newmtl Gold\nKd 1 0.5 0\n")
    (tmp_path / "a.obj").write_text("mtllib a.mtl\nusemtl Gold\nv 0 0 0\nv 9 0 0\nv 9 0 9\nf 1 2 3\n")
    model, others = read_model(tmp_path / "a.obj")
    assert others == ["a.mtl"]
    assert model.materials[0].colour[:3] == pytest.approx((1.0, 0.5, 0.0), abs=0.01)


def test_what_cannot_be_opened(tmp_path: Path) -> None:
    with pytest.raises(UserError, match="no kind"):
        read_model(tmp_path / "a.xyz")
    with pytest.raises(UserError, match="not there"):
        read_model(tmp_path / "a.glb")
    for suffix in SUFFIXES:
        (tmp_path / f"e{suffix}").write_bytes(b"")
        with pytest.raises(UserError, match="empty"):
            read_model(tmp_path / f"e{suffix}")


def damaged(data: bytes) -> list[bytes]:
    """Twenty variants: cut off, overwritten, shuffled, blown up, mixed with something else."""
    random = np.random.default_rng(7)
    size = len(data)
    variants = [data[: max(1, size * share // 100)] for share in (1, 5, 20, 50, 80, 97)]
    for count in (1, 10, 100, 2000):
        flipped = bytearray(data)
        for place in random.integers(0, size, count):
            flipped[place] ^= int(random.integers(1, 256))
        variants.append(bytes(flipped))
    for share in (0, 30, 60, 90):
        hole = bytearray(data)
        start = size * share // 100
        hole[start : start + size // 20 + 8] = bytes(len(hole[start : start + size // 20 + 8]))
        variants.append(bytes(hole))
    variants += [
        random.bytes(size),
        b"\n" * 500,
        data[size // 2 :],
        data + data,
        data.replace(b"0", b"9"),
        b"\xef\xbb\xbf" + data[: size // 3] + b"\xff" * 400,
    ]
    return variants


SCRIPT = """
import resource, sys, time
from pathlib import Path
from altana.core.errors import Refused, UserError
from altana.core.geometry.rays import RayScene
from altana.importers.table import read_model
resource.setrlimit(resource.RLIMIT_DATA, (2 << 30, 2 << 30))
for name in sys.argv[1:]:
    started = time.monotonic()
    try:
        model, _ = read_model(Path(name))
        said = "ok " + str(len(model.faces))
    except UserError as error:
        said = "sentence " + error.sentence.replace("\\n", " ")
    print(round(time.monotonic() - started, 2), said, flush=True)
# What getrusage says holds the most that whoever started this process ever had, too.
print("peak", next(int(line.split()[1]) // 1024 for line in open("/proc/self/status") if line.startswith("VmHWM")))
"""


def damaged_files(folder: Path, suffix: str, every: int = 1) -> list[str]:
    """Damaged files of a kind; of twenty ways every so many, other ones of each kind, so that all of them are
    tried each time."""
    variants = damaged(write(folder, suffix).read_bytes())
    assert len(variants) == 20
    names = []
    for index, data in enumerate(variants[SUFFIXES.index(suffix) % every :: every]):
        path = folder / f"v{index}{suffix}"
        path.write_bytes(data)
        names.append(str(path))
    return names


@pytest.mark.slow
@pytest.mark.parametrize("suffix", SUFFIXES)
def test_twenty_damaged_variants(suffix: str, tmp_path: Path, demo_files: Path) -> None:
    read_in_a_child(damaged_files(tmp_path, suffix))


def test_damaged_variants_of_every_kind(tmp_path: Path, demo_files: Path) -> None:
    names = [name for suffix in SUFFIXES for name in damaged_files(tmp_path, suffix, 7)]
    assert len(names) >= 2 * len(SUFFIXES)
    read_in_a_child(names)


def read_in_a_child(names: list[str]) -> None:
    """Each is read or refused in one sentence, within 20 s and 2 GiB."""
    left, peak = names, 0
    while left:
        result = subprocess.run(
            [sys.executable, "-c", SCRIPT, *left],
            capture_output=True,
            text=True,
            timeout=600,
            env={**os.environ, "PYTHONWARNINGS": "ignore"},
        )
        lines = result.stdout.splitlines()
        answers = [line for line in lines if not line.startswith("peak")]
        for line in answers:
            seconds, kind, rest = line.split(" ", 2)
            assert kind in ("ok", "sentence"), line
            assert float(seconds) < 20.0
            assert kind == "ok" or (
                rest.endswith(".") and not re.search(r"Traceback|[A-Za-z]+(Error|Exception)\b", rest)
            ), line
        assert "Traceback" not in result.stderr, result.stderr[-2000:]
        if result.returncode == 0:
            peak = int(lines[-1].split()[1])
        # A parser written in C may fall over altogether; that is why the application reads in a child
        # process.
        else:
            with pytest.raises(UserError, match=r"sudden end|damaged"):
                open_model(Path(left[len(answers)]))
        left = left[len(answers) + (1 if result.returncode else 0) :]
    assert peak < 2048


def test_a_reader_that_falls_over_harms_nothing(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A child that is killed while reading is told in one sentence."""
    path = write(tmp_path, ".ply")
    monkeypatch.setenv("ALTANA_CACHE", str(tmp_path / "cache"))
    monkeypatch.setattr("altana.jobs.reader.sys.executable", "/bin/false")
    with pytest.raises(UserError, match="sudden end"):
        open_model(path)
    monkeypatch.undo()
    started = time.monotonic()
    monkeypatch.setenv("ALTANA_CACHE", str(tmp_path / "cache2"))
    with pytest.raises(UserError, match="stopped"):
        open_model(write(tmp_path, ".stl"), waiting=lambda seconds: False)
    assert time.monotonic() - started < 200
    assert resource.getrlimit(resource.RLIMIT_DATA)[0] == resource.RLIM_INFINITY


def test_one_stray_object_never_moves_the_origin(tmp_path: Path) -> None:
    shapes = trimesh.Scene()
    for number in range(6):
        shapes.add_geometry(
            box_between((number * 3, 0, 0), (number * 3 + 2, 2, 3)), node_name=f"Wall {number}"
        )
    shapes.add_geometry(
        box_between((3_400_000, 5_000_000, 0), (3_400_001, 5_000_001, 1)), node_name="Lost survey point"
    )
    shapes.apply_transform(Y_UP)
    (tmp_path / "s.glb").write_bytes(shapes.export(file_type="glb"))
    model, _ = read_model(tmp_path / "s.glb")
    assert model.offset == (0.0, 0.0, 0.0)
    assert model.bounds == pytest.approx(np.array([(0, 0, 0), (17, 2, 3)]), abs=1e-4)
    told = next(problem for problem in model.problems if problem.code == "stray-objects")
    assert "Lost survey point" in told.sentence and len(told.object_ids) == 1


def test_an_engine_is_no_building(tmp_path: Path) -> None:
    """Hundreds of small parts in a heap: one level, no rooms, and soon."""
    random = np.random.default_rng(5)
    engine = trimesh.Scene()
    for number in range(400):
        part = trimesh.creation.cylinder(random.uniform(0.02, 0.3), random.uniform(0.05, 0.8), 24)
        part.apply_transform(trimesh.transformations.random_rotation_matrix(random.random(3)))
        part.apply_translation(random.uniform(-1.5, 1.5, 3) * (1.0, 1.0, 8.0))
        engine.add_geometry(part, node_name=f"Part {number}")
    (tmp_path / "e.glb").write_bytes(engine.export(file_type="glb"))
    started = time.process_time()
    model, _ = read_model(tmp_path / "e.glb")
    assert len(model.storeys) == 1 and not model.rooms
    assert time.process_time() - started < 20.0


def test_unit_and_axis_can_be_chosen_for_every_kind(tmp_path: Path) -> None:
    for suffix in (*MESHES, ".ifc", ".laz"):
        path = write(tmp_path, suffix)
        usual = np.ptp(read_model(path, 1.0)[0].bounds, axis=0)
        assert np.ptp(read_model(path, 0.1)[0].bounds, axis=0) == pytest.approx(usual * 0.1, rel=1e-3), suffix
