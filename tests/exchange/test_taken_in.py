"""What is written comes back as it was, or it is said what is lost; files of others are looked into before
anything is taken."""

from __future__ import annotations

import json
import math
import os
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from altana.core.errors import UserError
from altana.core.project import Camera, Project
from altana.exchange.gltf_in import read_gltf_cameras
from altana.exchange.incoming import CAMERA, WALK, Offer
from altana.jobs.brought import held_by, look_into
from altana.jobs.models import Opened
from altana.jobs.sending import send
from altana.jobs.taking import AS_CAMERAS, AS_PLANNED, AS_WALKS, take_in_all
from altana.storage.project_file import read_project, write_project
from tests.cli.test_commands import good, sentence

KINDS = (".gltf", ".glb", ".usda", ".usdc", ".csv", ".json")
#: The same as another kind, written another way.
TWINS = (".glb", ".usdc")
#: What a file for other tools is asked to hold of a camera.
HELD = ("name", "eye", "heading_deg", "tilt_deg", "roll_deg", "focal_mm", "sensor_width_mm", "rise_mm", "cross_mm", "width_px", "height_px", "near", "far")  # fmt: skip


def alike(one: Camera, other: Camera, fields: tuple[str, ...] = HELD) -> list[str]:
    """The fields in which two cameras differ by more than a hair."""
    pairs = []
    for field in fields:
        a, b = getattr(one, field), getattr(other, field)
        same = (
            a == b
            if a is None or b is None or isinstance(a, str)
            else np.allclose(np.asarray(a, float), np.asarray(b, float), atol=2e-4)
        )
        if field == "heading_deg":
            same = abs((float(a) - float(b) + 180.0) % 360.0 - 180.0) < 1e-4
        if not same:
            pairs.append(f"{field}: {a} {b}")
    return pairs


@pytest.mark.parametrize(
    "kind", [pytest.param(kind, marks=pytest.mark.slow) if kind in TWINS else kind for kind in KINDS]
)
def test_cameras_come_back_as_they_were(
    kind: str, demo_copy: Path, demo_project: Project, demo_opened: Opened, tmp_path: Path
) -> None:
    out = tmp_path / f"sent{kind}"
    close = replace(demo_project.cameras[0], near_m=0.05, near_at=None, far_m=30.0, far_at=None)
    demo_project = replace(demo_project, cameras=(close, *demo_project.cameras[1:]))
    write_project(demo_copy, demo_project)
    send(demo_project, demo_copy, demo_project.cameras, (), out)
    offers = look_into(out, demo_opened.model.offset)
    assert [item.kind for item in offers] == [CAMERA] * len(demo_project.cameras)
    for item, camera in zip(offers, demo_project.cameras, strict=True):
        assert item.camera is not None
        # Wall cuts are told as lost when they are written; all else is there.
        assert alike(camera, item.camera) == [], camera.name
        if kind != ".csv":
            assert item.camera.intent == camera.intent
        if kind not in (".usda", ".usdc") or camera.ev:
            assert item.camera.ev == pytest.approx(camera.ev, abs=1e-3)
    # Offered first: nothing of it is in the project yet.
    assert read_project(demo_copy) == demo_project


@pytest.mark.slow
@pytest.mark.parametrize(
    "kind", [pytest.param(kind, marks=pytest.mark.slow) if kind in TWINS else kind for kind in KINDS]
)
def test_a_walk_comes_back_near_its_film_frames_and_says_how_near(
    kind: str, demo_copy: Path, demo_project: Project, demo_opened: Opened, tmp_path: Path
) -> None:
    out = tmp_path / f"sent{kind}"
    walk = demo_project.walks[0]
    sent = send(demo_project, demo_copy, (), (walk,), out)
    (item,) = look_into(out, demo_opened.model.offset)
    assert item.kind == WALK and item.walk is not None
    assert item.walk.name == walk.name
    assert item.walk.seconds == pytest.approx(walk.seconds, abs=0.05)
    assert item.walk.rate == walk.rate
    (frames,) = sent.walks.values()
    assert 2 <= len(item.walk.keys) <= 60 < frames
    project, _, lost = take_in_all(replace(demo_project, walks=()), demo_copy, [item], demo_opened.model)
    again = tmp_path / "again.json"
    write_project(demo_copy, project)
    send(project, demo_copy, (), project.walks, again)
    first = tmp_path / "first.json"
    send(demo_project, demo_copy, (), (walk,), first)
    one, two = (
        np.array(
            [
                [frame["x"], frame["y"], frame["z"]]
                for frame in json.loads(path.read_text())["cameras"][0]["frames"]
            ]
        )
        for path in (first, again)
    )
    off = float(np.linalg.norm(one[: len(two)] - two[: len(one)], axis=1).max())
    told = [text for text in lost if "off the film frames" in text]
    assert off < 0.15
    assert told or off < 2e-3
    if told:
        assert off * 100.0 <= float(told[0].split("at most it lies ")[1].split(" cm")[0]) + 0.3


def test_cameras_of_others_have_what_their_file_tells(tmp_path: Path) -> None:
    """A glTF as other tools write it: a lens by its angle, a node within nodes, no extras, an animation by
    three keys."""
    path = tmp_path / "plain.gltf"
    turn = [0.0, math.sin(math.pi / 4), 0.0, math.cos(math.pi / 4)]
    path.write_text(
        json.dumps(
            {
                "asset": {"version": "2.0"},
                "scenes": [{"nodes": [0]}],
                "nodes": [
                    {"name": "Rig", "translation": [10.0, 0.0, -5.0], "children": [1, 2]},
                    {"name": "View", "translation": [0.0, 1.6, 0.0], "rotation": turn, "camera": 0},
                    {"name": "From above", "camera": 1},
                ],
                "cameras": [
                    {
                        "type": "perspective",
                        "perspective": {"yfov": math.radians(40.0), "aspectRatio": 1.5, "znear": 0.1},
                    },
                    {
                        "type": "orthographic",
                        "orthographic": {"xmag": 1, "ymag": 1, "zfar": 10, "znear": 0.1},
                    },
                ],
            }
        )
    )
    view, flat = look_into(path, (0.0, 0.0, 0.0))
    assert view.camera is not None
    # y up becomes z up: ten metres east, five north, 1.6 up; turned a quarter to the left it looks west.
    assert view.camera.eye == pytest.approx((10.0, 5.0, 1.6))
    assert view.camera.heading_deg == pytest.approx(270.0)
    assert view.camera.view().angles_of_view()[1] == pytest.approx(40.0, abs=0.05)
    assert (view.camera.width_px, view.camera.height_px) == (1920, 1280)
    assert view.camera.near_m is None
    assert flat.camera is None and "parallel view" in flat.lost[0]


def test_tables_of_places_are_read_as_people_write_them(tmp_path: Path) -> None:
    path = tmp_path / "places.csv"
    path.write_bytes(
        "\ufeffView;East;North;Height;Heading;Lens\nEntrance;1.5;2;1,6;90;24\nHall;3.0;4;5'3\";180;35\n;;;;;\n".encode()
    )
    entrance, hall = look_into(path, (0.0, 0.0, 0.0))
    assert entrance.camera is not None and hall.camera is not None
    assert entrance.camera.eye == (1.5, 2.0, 1.6) and entrance.camera.focal_mm == 24.0
    assert hall.camera.eye[2] == pytest.approx(1.6002) and hall.camera.heading_deg == 180.0
    # Lines that end in a return alone, found by fuzzing.
    path.write_bytes(b"name,x,y,z\rA,1,2,1.6\rB,3,4,1.6\r")
    assert [item.name for item in look_into(path, (0.0, 0.0, 0.0))] == ["A", "B"]
    for text, why in (
        ("name,x,y,z\na,1,2," + "3" * 140_000 + "\n", "no table that can be read|Line 2"),
        ("name,x,y\na,1,2\n", "no columns x, y and z"),
        ("name,x,y,z\na,1,2,far away\n", "Line 2 of bad.csv"),
        ("name,x,y,z\n", "no rows with a place"),
        ("name,x,y,z,focal_mm\na,1,2,3,nan\n", "is damaged|Line 2|focal length of nan"),
    ):
        (tmp_path / "bad.csv").write_text(text)
        with pytest.raises(UserError, match=why):
            offers = look_into(tmp_path / "bad.csv", (0.0, 0.0, 0.0))
            take_in_all(Project(), tmp_path / "p.altana", offers, None)


@pytest.mark.parametrize(
    "nodes",
    [
        [{"camera": 0, "rotation": [1.0, 0, 1]}],
        [{"camera": 0, "rotation": [1, 0, 0, 0, 1]}],
        [{"camera": 0, "children": {"KHR_lights_punctual": 1}}],
        [{"camera": 0, "children": ["a"]}],
        [{"camera": "b"}],
        [{"camera": 0, "scale": "large"}],
    ],
)
def test_a_gltf_that_names_things_wrongly_is_one_sentence(tmp_path: Path, nodes: list[Any]) -> None:
    path = tmp_path / "views.gltf"
    lens = {"type": "perspective", "perspective": {"yfov": 1, "znear": 0.1}}
    path.write_text(
        json.dumps(
            {"asset": {"version": "2.0"}, "scenes": [{"nodes": [0]}], "nodes": nodes, "cameras": [lens]}
        )
    )
    with pytest.raises(UserError, match=r"views\.gltf is damaged"):
        read_gltf_cameras(path, (0.0, 0.0, 0.0))


@pytest.mark.slow
def test_damaged_files_are_one_sentence(demo_copy: Path, demo_project: Project, tmp_path: Path) -> None:
    chance = np.random.default_rng(4)
    for kind in KINDS:
        # What a damaged binary stage asks for once was 20 GB: only a child may find out.
        look = look_into if kind == ".usdc" else held_by
        out = tmp_path / f"sent{kind}"
        send(demo_project, demo_copy, demo_project.cameras[:3], (), out)
        whole = out.read_bytes()
        for number in range(12):
            data = bytearray(whole)
            for place in chance.integers(0, len(data), 1 + number).tolist():
                data[place] = int(chance.integers(0, 256))
            bad = tmp_path / f"bad{kind}"
            bad.write_bytes(bytes(data[: len(data) // 2]) if number == 0 else bytes(data))
            try:
                offers = look(bad, (0.0, 0.0, 0.0))
                take_in_all(Project(), tmp_path / "p.altana", offers, None)
            except UserError as error:
                assert error.sentence.endswith(".") and "Traceback" not in error.sentence
    with pytest.raises(UserError, match="no file that cameras are taken from"):
        look_into(tmp_path / "x.doc", (0.0, 0.0, 0.0))
    os.mkfifo(tmp_path / "pipe.csv")
    for name in ("gone.gltf", "pipe.csv"):
        with pytest.raises(UserError, match=f"{name} is not there"):
            look_into(tmp_path / name, (0.0, 0.0, 0.0))


def test_things_are_taken_as_is_wished(demo_project: Project, demo_opened: Opened, tmp_path: Path) -> None:
    home = tmp_path / "p.altana"
    camera = Offer(CAMERA, "View", replace(demo_project.cameras[0], id="", name="View"))
    walk = Offer(WALK, "Way", walk=replace(demo_project.walks[0], id="", name="Way"), lost=("A little.",))
    project, ids, lost = take_in_all(Project(), home, [camera, walk], demo_opened.model)
    assert [item.name for item in project.cameras] == ["View"] and [item.name for item in project.walks] == [
        "Way"
    ]
    assert len(ids) == 2 and lost == ["A little."]
    project, _, _ = take_in_all(Project(), home, [camera, walk], demo_opened.model, AS_CAMERAS)
    assert [item.name for item in project.cameras] == ["View", "Way"] and project.walks == ()
    project, _, lost = take_in_all(Project(), home, [camera, walk], demo_opened.model, AS_WALKS)
    assert project.cameras == () and any("is no walk" in text for text in lost)
    project, _, _ = take_in_all(Project(), home, [camera], demo_opened.model, AS_PLANNED)
    assert [item.intent for item in project.planned] == ["View"] and project.cameras == ()


@pytest.mark.slow
def test_by_command(demo_copy: Path, tmp_path: Path) -> None:
    out = tmp_path / "views.gltf"
    good("export", demo_copy, "--cameras", "--walks", "--to", out)
    before = read_project(demo_copy)
    listed = json.loads(good("import", demo_copy, out, "--list", "--json"))
    assert [item["kind"] for item in listed].count("camera") == len(before.cameras)
    assert read_project(demo_copy) == before
    answer = json.loads(good("import", demo_copy, out, "--take", "Forecourt", "--take", "1", "--json"))
    assert answer["cameras"] == ["Waiting hall to the water 2", "Forecourt 2"] or set(answer["cameras"]) == {
        "Waiting hall to the water 2",
        "Forecourt 2",
    }
    assert len(read_project(demo_copy).cameras) == len(before.cameras) + 2
    assert "nothing called “Attic”" in sentence("import", demo_copy, out, "--take", "Attic")
    assert "There is no file" in sentence("import", demo_copy, tmp_path / "gone.bcf", "--all")
