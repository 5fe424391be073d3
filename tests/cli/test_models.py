"""Model files of a project from the command line: listed, added, placed, hidden; what is missing, elsewhere
or write-protected."""

from __future__ import annotations

import json
import shutil
from pathlib import Path

import numpy as np
import pytest
import trimesh

from altana.jobs.models import open_project_models
from altana.storage.project_file import read_project
from tests.cli.test_commands import good, sentence
from tests.conftest import box_between
from tests.importers.samples import Y_UP


def block(path: Path, size: float = 1.0, at: float = 0.0) -> Path:
    scene = trimesh.Scene()
    scene.add_geometry(box_between((at, 0, 0), (at + 4 * size, 3 * size, 2 * size)), node_name="Block")
    if path.suffix == ".glb":
        scene.apply_transform(Y_UP)
    path.write_bytes(
        data if isinstance(data := scene.export(file_type=path.suffix[1:]), bytes) else data.encode()
    )
    return path


@pytest.fixture
def project(tmp_path: Path) -> Path:
    good(
        "new",
        str(block(tmp_path / "one.glb")),
        str(block(tmp_path / "two.glb")),
        "--out",
        str(tmp_path / "p.altana"),
    )
    return tmp_path / "p.altana"


def test_models_are_placed_turned_and_hidden(project: Path) -> None:
    good("model", "set", str(project), "two.glb", "--move", "10,0,0.5", "--turn", "90")
    models = json.loads(good("model", "list", str(project), "--json"))
    assert [item["move"] for item in models] == [[0, 0, 0], [10, 0, 0.5]] and models[1]["turn_deg"] == 90
    model = open_project_models(read_project(project), project).model
    second = model.vertices[np.unique(model.faces[12:])]
    # A quarter turn clockwise lays its length southwards.
    assert second.min(axis=0) == pytest.approx((10.0, -4.0, 0.5), abs=1e-5) and second.max(
        axis=0
    ) == pytest.approx((13.0, 0.0, 2.5), abs=1e-5)
    good("model", "set", str(project), "model-02", "--hide")
    assert len(open_project_models(read_project(project), project).model.objects) == 1
    assert "At least one model" in sentence("model", "set", str(project), "one.glb", "--hide")
    good("model", "remove", str(project), "two.glb")
    assert len(read_project(project).models) == 1 and (project.parent / "two.glb").is_file()
    assert "needs a model" in sentence("model", "remove", str(project), "one.glb")


def test_a_model_from_elsewhere_is_taken_in(project: Path, tmp_path_factory: pytest.TempPathFactory) -> None:
    other = block(tmp_path_factory.mktemp("elsewhere") / "third.stl", 1000.0)
    answer = json.loads(
        good("model", "add", str(project), str(other), "--unit", "0.001", "--up", "z", "--json")
    )
    assert answer["path"] == "models/third.stl" and answer["unit_m"] == 0.001
    assert open_project_models(read_project(project), project).model.bounds[1] == pytest.approx(
        (4.0, 3.0, 2.0), abs=1e-4
    )


def test_what_is_missing_never_shuts_out_the_rest(project: Path) -> None:
    (project.parent / "two.glb").unlink()
    facts = json.loads(good("inspect", str(project), "--json"))
    told_ = next(item for item in facts["problems"] if item["code"] == "missing-model")
    assert "two.glb" in told_["sentence"] and "made without it" in told_["sentence"]
    good("camera", "add", str(project), "--eye", "2,-8,1.6", "--name", "Front")
    good("shots", "add", str(project), "--camera", "Front")
    row = json.loads(good("shots", "list", str(project), "--json"))[0]
    assert row["wrong"] == "" and "two.glb" in row["about"]
    out = project.parent / "out"
    answer = json.loads(
        good(
            "render",
            str(project),
            "--camera",
            "Front",
            "--size",
            "64x36",
            "--quality",
            "proof",
            "--out",
            str(out),
            "--json",
        )
    )
    assert len(answer["files"]) == 1 and "two.glb" in answer["without"][0]
    (project.parent / "one.glb").write_bytes((project.parent / "one.glb").read_bytes()[:200])
    assert "one.glb" in sentence("inspect", str(project))


@pytest.mark.slow
def test_files_that_belong_together_have_one_unit(tmp_path: Path) -> None:
    """A small thing alone would be taken for metres; beside a building in millimetres it is one of its
    parts."""
    house = trimesh.Scene()
    for number, height in enumerate((0, 3000, 6000)):
        house.add_geometry(
            box_between((0, 0, height - 200), (12_000, 9_000, height)), node_name=f"Deck {number}"
        )
    (tmp_path / "house.stl").write_bytes(house.to_mesh().export(file_type="stl"))
    (tmp_path / "knob.stl").write_bytes(box_between((0, 0, 0), (60, 60, 40)).export(file_type="stl"))
    good("new", str(tmp_path / "house.stl"), str(tmp_path / "knob.stl"), "--out", str(tmp_path / "p.altana"))
    assert [item.unit_m for item in read_project(tmp_path / "p.altana").models] == [0.001, 0.001]


def test_pictures_and_tables_from_elsewhere_are_copied_in(
    demo_copy: Path, tmp_path_factory: pytest.TempPathFactory
) -> None:
    from PIL import Image

    elsewhere = tmp_path_factory.mktemp("elsewhere")
    Image.new("RGB", (40, 20), "orange").save(elsewhere / "sky.png")
    (elsewhere / "warm.cube").write_text(
        "LUT_3D_SIZE 2\n" + "0 0 0\n1 0 0\n0 1 0\n1 1 0\n0 0 1\n1 0 1\n0 1 1\n1 1 1\n"
    )
    good(
        "shots",
        "set",
        str(demo_copy),
        "1",
        "--background",
        "picture",
        "--background-file",
        str(elsewhere / "sky.png"),
    )
    good("shots", "tone", str(demo_copy), f"table={elsewhere / 'warm.cube'}")
    project = read_project(demo_copy)
    assert (
        project.shots[0].background_file == "backgrounds/sky.png" and project.tone.table == "tables/warm.cube"
    )
    assert (demo_copy.parent / "backgrounds/sky.png").is_file() and (
        demo_copy.parent / "tables/warm.cube"
    ).is_file()
    assert "not there" in sentence("shots", "set", str(demo_copy), "1", "--background-file", "../gone.png")
    assert read_project(demo_copy) == project


def test_a_write_protected_project_is_left_alone(project: Path) -> None:
    before = project.read_bytes()
    project.chmod(0o444)
    assert "write-protected" in sentence("camera", "add", str(project), "--eye", "1,2,3")
    assert project.read_bytes() == before
    shutil.copy(project, project.with_name("mine.altana"))
    project.with_name("mine.altana").chmod(0o644)
    good("camera", "add", str(project.with_name("mine.altana")), "--eye", "1,2,3")
