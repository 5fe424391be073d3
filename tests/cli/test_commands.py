"""The command line from outside: what it prints, what it writes, its exit codes."""

from __future__ import annotations

import csv
import io
import json
import subprocess
import sys
from pathlib import Path

import pytest
from click.testing import CliRunner, Result

from altana.cli.main import commands
from altana.core.errors import UserError
from altana.render.film_file import film_facts
from altana.storage.project_file import read_project
from tests.conftest import picture_at


def altana(*arguments: object) -> Result:
    return CliRunner().invoke(commands, [str(item) for item in arguments], prog_name="altana")


def good(*arguments: object) -> str:
    result = altana(*arguments)
    assert result.exit_code == 0, (result.output, result.exception)
    return result.stdout


def sentence(*arguments: object) -> str:
    result = altana(*arguments)
    assert isinstance(result.exception, UserError), (result.output, result.exception)
    return result.exception.sentence


def rows(text: str) -> list[dict[str, str]]:
    return list(csv.DictReader(io.StringIO(text)))


def test_worked_examples_through_the_command_line(demo_copy: Path, tmp_path: Path) -> None:
    points = tmp_path / "p.csv"
    points.write_text("x,y,z\n0,10,1.6\n0,10,21.6\n3,10,1.6\n-4,8,0\n")
    good(
        "camera",
        "add",
        demo_copy,
        "--name",
        "T",
        "--eye",
        "0,0,1.6",
        "--heading",
        0,
        "--tilt",
        20,
        "--focal",
        24,
        "--size",
        "1920x1080",
    )
    lines = rows(good("camera", "project", demo_copy, "T", "--points", points))
    wanted = [(960, 1005.882), (960, -671.916), (1368.644, 1005.882), (225.456, 1318.556)]
    assert [(float(row["px"]), float(row["py"])) for row in lines] == [
        pytest.approx(pair, abs=6e-4) for pair in wanted
    ]
    good("camera", "plumb", demo_copy, "T", "--keep-size")
    camera = read_project(demo_copy).camera_named("T")
    assert (camera.tilt_deg, camera.focal_mm, camera.rise_mm) == pytest.approx((0, 22.5526, 8.2085), abs=6e-5)
    points.write_text("2,5,1\n")
    good(
        "camera",
        "set",
        demo_copy,
        "T",
        "--eye",
        "1,-3,1.55",
        "--heading",
        30,
        "--tilt",
        -6,
        "--roll",
        2,
        "--focal",
        28,
        "--rise",
        3,
        "--cross",
        -2,
        "--size",
        "1600x1200",
    )
    (row,) = rows(good("camera", "project", demo_copy, "T", "--points", points))
    assert (float(row["px"]), float(row["py"]), float(row["depth"])) == pytest.approx(
        (364.0203, 713.2822, 7.445), abs=6e-4
    )


def test_cameras_stand_on_real_floors(demo_copy: Path) -> None:
    answer = json.loads(
        good(
            "camera",
            "add",
            demo_copy,
            "--stand",
            "2,14.5",
            "--storey",
            "Gallery storey",
            "--heading",
            180,
            "--json",
        )
    )
    assert answer["eye"] == pytest.approx([2, 14.5, 5.2], abs=1e-3)
    assert answer["name"] == "Café gallery, south"
    assert answer["inside"] is True
    low = json.loads(
        good(
            "camera",
            "add",
            demo_copy,
            "--stand",
            "7,3",
            "--eye-height",
            "1.2",
            "--aim",
            "7,12,0",
            "--name",
            "Low",
            "--json",
        )
    )
    assert low["eye"][2] == pytest.approx(1.2, abs=1e-3)
    assert (low["heading_deg"], low["tilt_deg"]) == pytest.approx((0, 0))
    facts = json.loads(good("camera", "check", demo_copy, "Low", "--json"))
    assert facts["eye_above_floor_m"] == pytest.approx(1.2, abs=1e-3)
    assert facts["room"] == "Waiting hall"
    assert facts["angle_of_view_deg"] == pytest.approx([73.740, 45.747], abs=1e-3)
    assert "no floor" in sentence("camera", "add", demo_copy, "--stand", "9000,0")


def test_set_list_and_remove(demo_copy: Path) -> None:
    good(
        "camera",
        "set",
        demo_copy,
        "Forecourt",
        "--near",
        "2.5",
        "--far",
        "90",
        "--ev",
        "12",
        "--name",
        "Front",
    )
    front = read_project(demo_copy).camera_named("Front")
    assert (front.near_m, front.far_m, front.ev) == (2.5, 90.0, 12.0)
    good("camera", "set", demo_copy, "Front", "--near", "off")
    assert read_project(demo_copy).camera_named("Front").near_m is None
    assert "Front" in {item["name"] for item in json.loads(good("camera", "list", demo_copy, "--json"))}
    good("camera", "remove", demo_copy, "Front")
    assert "no camera “Front”" in sentence("camera", "set", demo_copy, "Front", "--ev", "1")
    before = demo_copy.read_bytes()
    assert "focal length" in sentence("camera", "set", demo_copy, "Lookout", "--focal", "0.5")
    assert demo_copy.read_bytes() == before


def test_inspect_demo(demo_copy: Path, demo_files: Path) -> None:
    facts = json.loads(good("inspect", demo_copy, "--json"))
    assert [storey["name"] for storey in facts["storeys"]] == [
        "Ground storey",
        "Gallery storey",
        "Roofs",
        "Lookout",
    ]
    assert len(facts["cameras"]) >= 14
    assert facts["model"]["triangles"] > 85_000
    names = " ".join(camera["name"] for camera in facts["cameras"])
    for place in ("hall", "Ticket office", "Gallery", "Tower", "Lookout", "Around the terminal 8"):
        assert place in names
    assert "Waiting hall" in good("inspect", demo_files / "larkwater.glb")


def test_walks_are_sampled_exactly(demo_copy: Path) -> None:
    walk = read_project(demo_copy).walks[0]
    lines = rows(good("walk", "sample", demo_copy, walk.name))
    assert len(lines) == 600
    assert list(lines[0]) == "frame seconds x y z heading tilt roll focal rise cross".split()
    assert float(lines[-1]["seconds"]) == pytest.approx(599 / 25)
    assert float(lines[0]["z"]) == pytest.approx(1.6, abs=0.02)
    assert float(lines[-1]["z"]) == pytest.approx(5.2, abs=0.02)
    assert len(rows(good("walk", "sample", demo_copy, walk.name, "--rate", "30000/1001"))) == round(
        24 * 30000 / 1001
    )
    assert [
        row["frame"] for row in rows(good("walk", "sample", demo_copy, walk.name, "--frames", "10-12"))
    ] == ["10", "11", "12"]
    assert "0 to 599" in sentence("walk", "sample", demo_copy, walk.name, "--frames", "10-999")
    facts = json.loads(good("walk", "check", demo_copy, walk.name, "--json"))
    assert facts["pace_m_s"] == pytest.approx(facts["length_m"] / 24.0)
    assert facts["fastest_climb_m_s"] < 1.2


def test_walks_from_cameras_and_places(demo_copy: Path) -> None:
    answer = json.loads(
        good(
            "walk",
            "add",
            demo_copy,
            "--cameras",
            "Waiting hall to the water,Hall from the quay doors",
            "--seconds",
            "5",
            "--json",
        )
    )
    assert (len(answer["keys"]), answer["looking"]) == (2, "keyed")
    answer = json.loads(
        good(
            "walk",
            "add",
            demo_copy,
            "--name",
            "Quay",
            "--through",
            "0,22",
            "--through",
            "8,22",
            "--through",
            "9,20",
            "--json",
        )
    )
    assert [key["eye"][2] for key in answer["keys"]] == pytest.approx([1.45] * 3, abs=1e-3)
    assert "Quay" in good("walk", "list", demo_copy)
    good("walk", "remove", demo_copy, "Quay")
    assert "no walk" in sentence("walk", "check", demo_copy, "Quay")
    assert "rate" in sentence(
        "walk", "add", demo_copy, "--through", "0,22", "--through", "8,22", "--rate", "0"
    )


@pytest.mark.slow
def test_a_walk_up_a_stair(demo_copy: Path) -> None:
    answer = json.loads(
        good("walk", "add", demo_copy, "--up", "Tower stair", "--eye-height", "1.5", "--json")
    )
    assert answer["name"] == "Up Tower stair" and answer["eye_height_m"] == 1.5
    assert answer["keys"][-1]["eye"][2] == pytest.approx(17.0 + 1.5, abs=1e-3)
    told = json.loads(good("walk", "check", demo_copy, "Up Tower stair", "--json"))
    # Five turns in a narrow tower: slower than a metre a second, and nothing to be said of it.
    assert told["flags"] == [] and told["pace_m_s"] < 0.9 and told["fastest_turn_deg_s"] <= 45.0
    assert "no stair" in sentence("walk", "add", demo_copy, "--up", "Bench 1")
    assert "no object" in sentence("walk", "add", demo_copy, "--up", "Lift")
    assert altana("walk", "add", demo_copy, "--up", "Stair", "--through", "0,0").exit_code == 2


def test_render_pictures_and_a_film(demo_copy: Path, tmp_path: Path) -> None:
    good(
        "walk",
        "add",
        demo_copy,
        "--name",
        "Short",
        "--through",
        "0,22",
        "--through",
        "8,22",
        "--seconds",
        "0.5",
        "--rate",
        "12",
    )
    out = tmp_path / "out"
    told = json.loads(
        good(
            "render",
            demo_copy,
            "--camera",
            "Forecourt",
            "--camera",
            "Tower from the forecourt",
            "--walk",
            "Short",
            "--size",
            "96x54",
            "--quality",
            "proof",
            "--out",
            out,
            "--json",
        )
    )
    assert [Path(name).name for name in told["files"]] == [
        "forecourt.png",
        "tower-from-the-forecourt.png",
        "short.mp4",
    ]
    assert picture_at(out / "forecourt.png").shape == (54, 96, 3)
    facts = film_facts(out / "short.mp4")
    assert (facts.frames, facts.rate, facts.width) == (6, 12, 96)
    good(
        "render",
        demo_copy,
        "--camera",
        "Forecourt",
        "--scale",
        "5",
        "--kind",
        "jpg",
        "--quality",
        "proof",
        "--out",
        out,
    )
    assert picture_at(out / "forecourt.jpg").shape == (54, 96, 3)


def test_new_projects_take_their_model_along(demo_files: Path, tmp_path: Path) -> None:
    path = tmp_path / "own" / "own.altana"
    good("new", demo_files / "larkwater.glb", "--out", path)
    project = read_project(path)
    assert project.models[0].path == "models/larkwater.glb"
    assert (path.parent / project.models[0].path).is_file()
    assert "already there" in sentence("new", demo_files / "larkwater.glb", "--out", path)
    assert "not there" in sentence("new", tmp_path / "none.glb", "--out", tmp_path / "n.altana")


@pytest.mark.parametrize(
    "arguments",
    [
        ["nothing-here", "--out", "x"],
        ["camera", "add", "P"],
        ["camera", "add", "P", "--eye", "1,2"],
        ["camera", "add", "P", "--eye", "1,2,x"],
        ["render", "P", "--out", "o"],
        ["walk", "add", "P"],
        ["render", "P", "--camera", "A"],
        ["new", "--out", "a.altana"],
        ["camera", "set", "P", "Forecourt", "--near", "close"],
    ],
)
def test_wrong_usage_is_exit_code_2(arguments: list[str], demo_copy: Path) -> None:
    assert altana(*[demo_copy if item == "P" else item for item in arguments]).exit_code == 2


def real(*arguments: object) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-m", "altana", *map(str, arguments)], capture_output=True, text=True, timeout=600
    )


def test_exit_codes_of_the_real_command(tmp_path: Path) -> None:
    damaged = tmp_path / "a.altana"
    damaged.write_text("{")
    failed = real("inspect", damaged, "--json")
    assert (failed.returncode, failed.stdout) == (1, "")
    assert failed.stderr.count("\n") == 1
    assert "damaged" in failed.stderr
    assert real("camera", "list").returncode == 2
    done = real("--version")
    assert (done.returncode, done.stdout.split()[0]) == (0, "altana,")


@pytest.mark.slow
def test_the_interface_library_is_loaded_by_the_window_only() -> None:
    script = (
        "import importlib, pkgutil, sys, altana\n"
        "for module in pkgutil.walk_packages(altana.__path__, 'altana.'):\n"
        "    if not module.name.startswith(('altana.app', 'altana.__main__')):\n"
        "        importlib.import_module(module.name)\n"
        "print('PySide6' in sys.modules)"
    )
    result = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, timeout=600)
    assert result.stdout.strip() == "False", result.stderr


def test_what_takes_long_to_load_is_loaded_where_it_is_used() -> None:
    script = (
        "import sys, altana.jobs.run, altana.cli.main, altana.cli.render\n"
        "import altana.jobs.children.pictures, altana.jobs.children.looking, altana.jobs.children.lighting\n"
        "slow = {'scipy.special', 'scipy.spatial', 'scipy.ndimage', 'trimesh', 'ifcopenshell', 'mitsuba', 'distributed', 'av', 'reportlab'}\n"
        "print(sorted(slow & set(sys.modules)))"
    )
    result = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, timeout=600)
    assert result.stdout.strip() == "[]", result.stderr
