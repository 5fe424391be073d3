"""Cameras and walks as other tools read them: points fall on the same pixels, at every film frame."""

from __future__ import annotations

import base64
import csv
import io
import json
import struct
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import trimesh
from click.testing import CliRunner
from pxr import Usd, UsdGeom
from scipy.spatial.transform import Rotation

from altana.cli.main import commands
from altana.core.camera.view import View
from altana.core.errors import UserError
from altana.core.project import Camera, Project
from altana.core.standing import standable
from altana.exchange.gltf_out import gltf_bytes
from altana.exchange.tables_out import HEADINGS, csv_text
from altana.exchange.travelling import Travelling, camera_travelling, unheld, walk_travelling
from altana.exchange.usd_out import write_usd
from altana.jobs.models import Opened

FAR_AWAY = (512_345.25, 5_401_234.5, 312.75)
UP_TO_Z = np.array([[1.0, 0, 0], [0, 0, -1.0], [0, 1.0, 0]])


@pytest.fixture(scope="module")
def walk(demo_project: Project, demo_opened: Opened) -> Travelling:
    return walk_travelling(demo_project.walks[0], standable(demo_opened.model))


def points_before(view: View) -> np.ndarray:
    """Points that lie in the picture, from near to far."""
    chance = np.random.default_rng(3)
    pixels = chance.uniform((0.02, 0.02), (0.98, 0.98), (40, 2)) * (view.width_px, view.height_px)
    return np.asarray(view.pose.eye) + view.rays(pixels) * chance.uniform(0.8, 60.0, (40, 1))


def pixels_by_matrix(view_projection: np.ndarray, points: np.ndarray, view: View) -> np.ndarray:
    whole = np.concatenate([points, np.ones((len(points), 1))], axis=1) @ view_projection
    x, y = (whole[:, :2] / whole[:, 3:]).T
    return np.stack([(x + 1) / 2 * view.width_px, (1 - y) / 2 * view.height_px], axis=1)


# ---------------------------------------------------------------------- USD


def usd_pixels(camera: UsdGeom.Camera, when: Usd.TimeCode, points: np.ndarray, view: View) -> np.ndarray:
    """As the library itself projects them."""
    frustum = camera.GetCamera(when).frustum
    matrix = np.array(frustum.ComputeViewMatrix()) @ np.array(frustum.ComputeProjectionMatrix())
    return pixels_by_matrix(matrix, points, view)


@pytest.mark.parametrize("suffix", [".usda", ".usdc"])
@pytest.mark.parametrize("offset", [(0.0, 0.0, 0.0), FAR_AWAY])
def test_usd_cameras_show_the_same_shift_included(
    suffix: str, offset: tuple[float, float, float], demo_project: Project, tmp_path: Path
) -> None:
    items = [camera_travelling(camera) for camera in demo_project.cameras]
    path = tmp_path / f"cameras{suffix}"
    write_usd(path, items, offset)
    stage = Usd.Stage.Open(str(path))
    assert UsdGeom.GetStageUpAxis(stage) == "Z" and UsdGeom.GetStageMetersPerUnit(stage) == 1.0
    cameras = [UsdGeom.Camera(prim) for prim in stage.Traverse() if prim.IsA(UsdGeom.Camera)]
    assert len(cameras) == len(items) and any(item.first.view.lens.rise_mm for item in items)
    for camera, item in zip(cameras, items, strict=True):
        view = item.first.view
        points = points_before(view)
        seen = usd_pixels(camera, Usd.TimeCode.Default(), points + np.asarray(offset), view)
        assert np.abs(seen - view.project(points)[:, :2]).max() < 0.05, item.name
        assert camera.GetPrim().GetMetadata("displayName") == item.name
        near, far = camera.GetClippingRangeAttr().Get()
        assert near == pytest.approx(view.near_m or 0.01) and far == pytest.approx(view.far_m or 100_000.0)


def test_every_film_frame_of_a_walk_in_usd(walk: Travelling, tmp_path: Path) -> None:
    path = tmp_path / "walk.usda"
    write_usd(path, [walk], (0.0, 0.0, 0.0))
    stage = Usd.Stage.Open(str(path))
    camera = UsdGeom.Camera(next(prim for prim in stage.Traverse() if prim.IsA(UsdGeom.Camera)))
    assert stage.GetFramesPerSecond() == 25.0 and len(walk.frames) == 600
    for number, frame in enumerate(walk.frames):
        points = points_before(frame.view)
        seen = usd_pixels(camera, Usd.TimeCode(frame.seconds * 25.0), points, frame.view)
        assert np.abs(seen - frame.view.project(points)[:, :2]).max() < 0.05, number


def test_what_is_in_focus_and_how_bright_travels_in_usd(tmp_path: Path) -> None:
    camera = Camera(
        "c",
        "In focus",
        aim_m=4.0,
        blur=True,
        f_number=2.8,
        focus_m=3.5,
        intent="The door.",
        note="soft",
        ev=9.0,
    )
    write_usd(
        tmp_path / "c.usda",
        [camera_travelling(camera), camera_travelling(replace(camera, name="In focus"))],
        (0.0, 0.0, 0.0),
    )
    stage = Usd.Stage.Open(str(tmp_path / "c.usda"))
    first, second = (prim for prim in stage.Traverse() if prim.IsA(UsdGeom.Camera))
    read = UsdGeom.Camera(first)
    assert (read.GetFStopAttr().Get(), read.GetFocusDistanceAttr().Get()) == pytest.approx((2.8, 3.5))
    assert read.GetExposureAttr().Get() == pytest.approx(-9.263, abs=1e-3)
    assert (
        first.GetMetadata("documentation") == "The door."
        and first.GetCustomDataByKey("altana:note") == "soft"
    )
    assert (first.GetName(), second.GetName()) == ("In_focus", "In_focus_2")
    # 35 mm are 0.35 tenths of a metre.
    assert read.GetFocalLengthAttr().Get() == pytest.approx(0.35)


# ---------------------------------------------------------------------- glTF


def opened_gltf(data: bytes) -> tuple[dict[str, Any], bytes]:
    if data[:4] != b"glTF":
        document = json.loads(data)
        uri = document.get("buffers", [{}])[0].get("uri", ",")
        return document, base64.b64decode(uri.partition(",")[2])
    length, kind = struct.unpack_from("<II", data, 12)
    assert kind == 0x4E4F534A and struct.unpack_from("<I", data, 8)[0] == len(data)
    return json.loads(data[20 : 20 + length]), data[28 + length :]


def gltf_pixels(
    document: dict[str, Any],
    node: dict[str, Any],
    points: np.ndarray,
    view: View,
    place: object = None,
    turn: object = None,
) -> np.ndarray:
    """By the specification: the camera's node under the node of all, then its perspective matrix."""
    lens = document["cameras"][node["camera"]]["perspective"]
    world = np.eye(4)
    world[:3, :3] = Rotation.from_quat(np.asarray(turn if turn is not None else node["rotation"])).as_matrix()
    world[:3, 3] = (
        np.asarray(place if place is not None else node["translation"]) + document["nodes"][0]["translation"]
    )
    high = 1.0 / np.tan(lens["yfov"] / 2.0)
    near = lens["znear"]
    projection = np.array(
        [[high / lens["aspectRatio"], 0, 0, 0], [0, high, 0, 0], [0, 0, -1, -2 * near], [0, 0, -1, 0]]
    )
    standing = points @ UP_TO_Z
    return pixels_by_matrix((projection @ np.linalg.inv(world)).T, standing, view)


@pytest.mark.parametrize("binary", [False, True])
@pytest.mark.parametrize("offset", [(0.0, 0.0, 0.0), FAR_AWAY])
def test_gltf_cameras_show_the_same(
    binary: bool, offset: tuple[float, float, float], demo_project: Project
) -> None:
    items = [camera_travelling(camera) for camera in demo_project.cameras]
    document, _ = opened_gltf(gltf_bytes(items, offset, binary))
    nodes = [node for node in document["nodes"] if "camera" in node]
    for node, item in zip(nodes, items, strict=True):
        view = item.first.view
        straight = replace(view, lens=replace(view.lens, rise_mm=0.0, cross_mm=0.0))
        points = points_before(straight)
        seen = gltf_pixels(document, node, points + np.asarray(offset), straight)
        assert np.abs(seen - straight.project(points)[:, :2]).max() < 0.05, item.name
        # What the format lacks stands beside it.
        assert node["extras"]["rise_mm"] == view.lens.rise_mm and node["extras"]["size_px"] == [
            view.width_px,
            view.height_px,
        ]
    told = unheld(items, shift=False, lens=False)
    assert any("Rise and cross" in sentence and "Forecourt" in sentence for sentence in told)
    assert not any("Rise" in sentence for sentence in unheld(items, shift=True, lens=True))


def test_another_library_reads_the_same_camera_from_gltf(demo_project: Project) -> None:
    for camera in demo_project.cameras:
        view = camera.view()
        straight = replace(view, lens=replace(view.lens, rise_mm=0.0, cross_mm=0.0))
        written = io.BytesIO(gltf_bytes([camera_travelling(camera)], (0.0, 0.0, 0.0), True))
        scene = trimesh.load(written, file_type="glb")
        high = 1.0 / np.tan(np.radians(scene.camera.fov[1]) / 2.0)
        # It keeps the proportion as that of its two angles.
        wide = high / (scene.camera.fov[0] / scene.camera.fov[1])
        projection = np.array([[wide, 0, 0, 0], [0, high, 0, 0], [0, 0, -1, -0.02], [0, 0, -1, 0]])
        points = points_before(straight)
        seen = pixels_by_matrix(
            (projection @ np.linalg.inv(scene.camera_transform)).T, points @ UP_TO_Z, straight
        )
        assert np.abs(seen - straight.project(points)[:, :2]).max() < 0.05, camera.name


def test_every_film_frame_of_a_walk_in_gltf(walk: Travelling) -> None:
    document, blob = opened_gltf(gltf_bytes([walk], (0.0, 0.0, 0.0), False))
    assert len(blob) == document["buffers"][0]["byteLength"]

    def values(number: int) -> np.ndarray:
        accessor = document["accessors"][number]
        view = document["bufferViews"][accessor["bufferView"]]
        wide = {"SCALAR": 1, "VEC3": 3, "VEC4": 4}[accessor["type"]]
        data = np.frombuffer(blob, "<f4", accessor["count"] * wide, view["byteOffset"])
        return data.reshape(-1, wide).astype(float)

    (animation,) = document["animations"]
    by_path = {
        item["target"]["path"]: animation["samplers"][item["sampler"]] for item in animation["channels"]
    }
    seconds = values(by_path["translation"]["input"])[:, 0]
    places, turns = values(by_path["translation"]["output"]), values(by_path["rotation"]["output"])
    assert np.allclose(seconds, [frame.seconds for frame in walk.frames], atol=1e-6)
    # Neighbouring turns lie on the same side, so that a straight line between them is the short way.
    assert np.einsum("ij,ij->i", turns[1:], turns[:-1]).min() > 0.9
    node = document["nodes"][1]
    for number, frame in enumerate(walk.frames):
        points = points_before(frame.view)
        seen = gltf_pixels(document, node, points, frame.view, places[number], turns[number])
        assert np.abs(seen - frame.view.project(points)[:, :2]).max() < 0.05, number


# ---------------------------------------------------------------------- tables, the command


def test_tables_have_a_row_a_film_frame(walk: Travelling, demo_project: Project) -> None:
    rows = list(
        csv.DictReader(
            io.StringIO(csv_text([walk, camera_travelling(demo_project.cameras[0])], (1.0, 2.0, 3.0)))
        )
    )
    assert len(rows) == 601 and tuple(rows[0]) == HEADINGS
    x, y, z = walk.frames[250].view.pose.eye
    assert [float(rows[250][name]) for name in "xyz"] == pytest.approx([x + 1, y + 2, z + 3], abs=1e-5)
    assert rows[600]["near_m"] == "" and float(rows[600]["focal_mm"]) == 24.0


@pytest.mark.slow
def test_the_command_writes_them_all_and_says_what_is_lost(demo_copy: Path, tmp_path: Path) -> None:
    for suffix in (".gltf", ".glb", ".usda", ".usdc", ".csv", ".json"):
        out = tmp_path / "new folder" / f"all{suffix}"
        result = CliRunner().invoke(
            commands,
            ["export", str(demo_copy), "--cameras", "--walks", "--to", str(out), "--json"],
            catch_exceptions=False,
        )
        assert result.exit_code == 0, result.output
        facts = json.loads(result.stdout)
        assert len(facts["cameras"]) == 20 and facts["walks"] == {
            "Up the stair to the gallery": 600,
            "Round the terminal": 240,
        }
        assert out.is_file() and any("Wall cuts" in told for told in facts["not_held"])
        assert sorted(path.name for path in out.parent.iterdir() if path.name.startswith(".")) == []
    half = CliRunner().invoke(
        commands,
        [
            "export",
            str(demo_copy),
            "--walk",
            "Round the terminal",
            "--rate",
            "12",
            "--to",
            str(tmp_path / "w.csv"),
        ],
        catch_exceptions=False,
    )
    assert half.exit_code == 0 and len((tmp_path / "w.csv").read_text().splitlines()) == 1 + round(9.6 * 12)
    with pytest.raises(UserError, match=r"ends in \.gltf"):
        CliRunner().invoke(
            commands, ["export", str(demo_copy), "--cameras", "--to", "x.fbx"], catch_exceptions=False
        )
    assert CliRunner().invoke(commands, ["export", str(demo_copy), "--to", "x.gltf"]).exit_code == 2
