"""Plans at scale in three formats, the list as an edit and as captions, and the model as others read it."""

from __future__ import annotations

import io
import itertools
import json
import re
from dataclasses import replace
from pathlib import Path

import ezdxf
import numpy as np
import opentimelineio as otio
import pytest
import trimesh
from lxml import etree
from pxr import Usd, UsdGeom, UsdShade
from pypdf import PageObject, PdfReader

from altana.core.edits.left_out import leave_out, nudge
from altana.core.errors import UserError
from altana.core.patching import PANEL, add_patch
from altana.core.project import Project
from altana.jobs.models import Opened
from altana.jobs.sending import send
from altana.jobs.sending_edit import send_timeline
from altana.jobs.sending_plan import send_plan
from altana.storage.project_file import write_project
from tests.cli.test_commands import good

SVG = "{http://www.w3.org/2000/svg}"


def wall_ends(points: np.ndarray) -> float:
    """How wide the widest filled thing is."""
    return float(np.ptp(points[:, 0]))


#: A point is a 72nd of an inch.
MM_A_POINT = 25.4 / 72.0


@pytest.mark.slow
@pytest.mark.parametrize("scale", [100.0, pytest.param(200.0, marks=pytest.mark.slow)])
def test_the_bar_is_as_long_as_it_says(
    scale: float, demo_copy: Path, demo_project: Project, tmp_path: Path
) -> None:
    cameras = demo_project.cameras[:4]
    for kind in ("svg", "dxf", "pdf"):
        out = tmp_path / f"plan.{kind}"
        sent = send_plan(demo_project, demo_copy, cameras, out, scale)
        assert sent.cameras and sent.title.endswith("Ground storey")
        if kind == "svg":
            page = etree.parse(str(out)).getroot()
            wide, high = (float(page.get(side).removesuffix("mm")) for side in ("width", "height"))
            assert (wide, high) == sent.page_mm and page.get("viewBox") == f"0 0 {wide:g} {high:g}"
            lines = [
                np.array([[float(v) for v in pair.split(",")] for pair in item.get("points").split()])
                for item in page.iter(f"{SVG}polyline")
            ]
            names = [item.text for item in page.iter(f"{SVG}text")]
        elif kind == "dxf":
            document = ezdxf.readfile(out)
            assert document.units == 4
            drawing = document.modelspace()
            lines = [
                np.array([p[:2] for p in item.get_points()])
                for item in drawing.query('LWPOLYLINE[layer=="table"]')
            ]
            names = [item.dxf.text for item in drawing.query("TEXT")]
            # The terminal's outer wall, 14.6 m between its outer faces, by what is drawn of it.
            cut = np.concatenate(
                [
                    np.array([p[:2] for p in item.get_points()])
                    for item in drawing.query('LWPOLYLINE[layer=="cut"]')
                ]
            )
            assert float(np.ptp(cut[:, 0])) > 10.0 * 1000.0 / scale
        else:
            page = PdfReader(out).pages[0]
            assert [float(v) for v in page.mediabox[2:]] == pytest.approx(
                [side / MM_A_POINT for side in sent.page_mm], abs=0.01
            )
            assert out.read_bytes() == _again(demo_project, demo_copy, cameras, tmp_path, scale)
            lines = _lines_of(page)
            names = page.extract_text().splitlines()
        bars = [line for line in lines if len(line) == 2 and abs(line[0, 1] - line[1, 1]) < 1e-6]
        (said,) = (name for name in names if name and re.fullmatch(r"[\d.]+ m", name))
        wanted = float(said.removesuffix(" m")) * 1000.0 / scale
        # As long as there is room for below the table, and no longer.
        assert 30.0 < wanted <= 92.0
        assert any(abs(abs(line[1, 0] - line[0, 0]) - wanted) < 1e-3 for line in bars)
        assert any(name and "Waiting hall to the water" in name for name in names)
        assert any(name == "1.60" for name in names)


def _lines_of(page: PageObject) -> list[np.ndarray]:
    """The lines of a page in millimetres, from its drawing commands."""
    contents = page.get_contents()
    assert contents is not None
    lines: list[list[list[float]]] = []
    for operands, operator in contents.operations:
        if operator == b"m":
            lines.append([])
        if operator in (b"m", b"l"):
            lines[-1].append([float(v) * MM_A_POINT for v in operands])
    return [np.array(line) for line in lines]


@pytest.mark.slow
def test_names_in_any_letters_are_on_paper(demo_copy: Path, demo_project: Project, tmp_path: Path) -> None:
    told = "Στο νερό — “Łąka”, двор"
    project = replace(demo_project, cameras=(replace(demo_project.cameras[0], name=told),))
    for kind in ("pdf", "svg", "dxf"):
        out = tmp_path / f"plan.{kind}"
        send_plan(project, demo_copy, project.cameras, out)
        if kind == "pdf":
            words = PdfReader(out).pages[0].extract_text()
        elif kind == "svg":
            words = "".join(etree.parse(str(out)).getroot().itertext())
        else:
            words = "\n".join(item.dxf.text for item in ezdxf.readfile(out).modelspace().query("TEXT"))
        assert told in words


def _again(project: Project, path: Path, cameras: tuple, folder: Path, scale: float) -> bytes:  # type: ignore[type-arg]
    out = folder / "again.pdf"
    send_plan(project, path, cameras, out, scale)
    return out.read_bytes()


def test_two_cameras_lie_on_paper_as_far_apart_as_they_stand(
    demo_copy: Path, demo_project: Project, tmp_path: Path
) -> None:
    out = tmp_path / "plan.dxf"
    cameras = [
        demo_project.camera_named(name) for name in ("Waiting hall to the water", "Hall from the quay doors")
    ]
    send_plan(demo_project, demo_copy, cameras, out, 100.0)
    circles = [
        np.array([p[:2] for p in item.get_points()]).mean(axis=0)
        for item in ezdxf.readfile(out).modelspace().query('LWPOLYLINE[layer=="cameras"]')
        if item.closed
    ]
    apart = (np.asarray(cameras[1].eye) - np.asarray(cameras[0].eye))[:2]
    assert circles[1] - circles[0] == pytest.approx(apart * 10.0, abs=0.02)


@pytest.mark.slow
def test_what_reaches_beyond_the_paper_ends_at_its_frame(
    demo_copy: Path, demo_project: Project, tmp_path: Path
) -> None:
    """The quay runs on past the sheet, and the ferry lies half on it: nothing stops short of the frame,
    nothing crosses it."""
    out = tmp_path / "plan.dxf"
    send_plan(demo_project, demo_copy, demo_project.cameras, out, 100.0)
    drawing = ezdxf.readfile(out).modelspace()
    # The paper's own edge is one, too.
    rims = [
        np.array([p[:2] for p in item.get_points()])
        for item in drawing.query('LWPOLYLINE[layer=="frame"]')
        if item.closed
    ]
    rim = min(rims, key=lambda points: float(np.ptp(points[:, 0])))
    low, high = rim.min(axis=0), rim.max(axis=0)
    drawn = [
        np.array([p[:2] for p in item.get_points()])
        for layer in ("cut", "glass", "beyond")
        for item in drawing.query(f'LWPOLYLINE[layer=="{layer}"]')
    ]
    points = np.concatenate(drawn)
    assert (points > low - 1e-3).all() and (points < high + 1e-3).all()
    for side in (points[:, 0] - low[0], high[0] - points[:, 0], high[1] - points[:, 1]):
        assert np.abs(side).min() < 1e-3


def test_sections_and_refusals(demo_copy: Path, demo_project: Project, tmp_path: Path) -> None:
    hall = demo_project.cameras[0]
    sent = send_plan(demo_project, demo_copy, (), tmp_path / "s.svg", 100.0, section=hall)
    assert sent.cameras == (hall.name,) and (tmp_path / "s.svg").read_text().count("<polygon") > 5
    for more, why in (
        ({"scale": 2.0}, "outside 1:5"),
        ({"scale": 10.0}, "more than A0. From 1:"),
        ({"storey": "Attic"}, "There is no storey “Attic”"),
    ):
        with pytest.raises(UserError, match=why):
            send_plan(demo_project, demo_copy, demo_project.cameras, tmp_path / "p.pdf", **more)  # type: ignore[arg-type]
    with pytest.raises(UserError, match="no file that plans are written to"):
        send_plan(demo_project, demo_copy, (), tmp_path / "p.png")
    assert not (tmp_path / "p.pdf").exists()


def test_the_list_is_an_edit_with_exact_seconds(
    demo_copy: Path, demo_project: Project, tmp_path: Path
) -> None:
    out = tmp_path / "list.otio"
    clips = send_timeline(demo_project, demo_copy, out, 4.0)
    timeline = otio.adapters.read_from_file(str(out))
    (track,) = timeline.tracks
    assert len(track) == len(clips) > 5
    begin = 0.0
    for clip, otio_clip in zip(clips, track, strict=True):
        assert otio_clip.name == clip.name and otio_clip.media_reference.target_url == clip.file
        assert otio_clip.duration().to_seconds() == pytest.approx(clip.seconds, abs=1e-9)
        assert clip.begin_s == pytest.approx(begin, abs=1e-9)
        begin += clip.seconds
        if clip.moves:
            walk = demo_project.walk_named(clip.name)
            assert otio_clip.duration().value == round(walk.seconds * otio_clip.duration().rate)
        else:
            assert clip.seconds == pytest.approx(4.0)


@pytest.mark.parametrize("kind", ["vtt", "srt"])
def test_captions_are_intents_one_after_the_other(
    kind: str, demo_copy: Path, demo_project: Project, tmp_path: Path
) -> None:
    tricky = replace(demo_project.cameras[0], intent="A --> B\n\n<b>& 1\n")
    project = replace(demo_project, cameras=(tricky, *demo_project.cameras[1:]))
    write_project(demo_copy, project)
    out = tmp_path / f"list.{kind}"
    good("export", demo_copy, "--timeline", "--still-seconds", "2.5", "--to", out)
    text = out.read_text()
    assert text.startswith("WEBVTT\n") is (kind == "vtt")
    mark = "[.]" if kind == "vtt" else ","
    cues = re.findall(rf"(\d\d:\d\d:\d\d{mark}\d{{3}}) --> (\d\d:\d\d:\d\d{mark}\d{{3}})\n(.+)\n", text)
    assert cues[0][0].endswith("00:00.000" if kind == "vtt" else "00:00,000") and cues[0][1][6:8] == "02"
    assert all(one[1] == other[0] for one, other in itertools.pairwise(cues))
    words = "A → B &lt;b&gt;&amp; 1" if kind == "vtt" else "A → B <b>& 1"
    assert cues[0][2] == words and text.count("-->") == len(cues)


def changed(project: Project, opened: Opened) -> tuple[Project, str, str]:
    """A project that leaves a bench out, moves another by two metres for its first camera, and mends with a
    panel."""
    first, second = (
        next(item for item in opened.model.objects if item.name == f"Bench {number}") for number in (1, 2)
    )
    project = leave_out(project, [], "objects", first.id)
    project = nudge(project, "cam-01", second.id, (2.0, 0.0, 0.0))
    corners = ((1.0, 1.0, 1.0), (3.0, 1.0, 1.0), (3.0, 1.0, 2.0), (1.0, 1.0, 2.0))
    return add_patch(project, PANEL, corners, "Ours")[0], first.name, second.name


def test_the_model_as_it_is_shown_read_by_others(
    demo_copy: Path, demo_project: Project, demo_opened: Opened, tmp_path: Path
) -> None:
    project, gone, moved = changed(demo_project, demo_opened)
    write_project(demo_copy, project)
    camera = project.cameras[0]
    out = tmp_path / "whole.glb"
    sent = send(project, demo_copy, (camera,), (), out, whole=True)
    scene = trimesh.load(out)
    names = {re.sub(r" \d+$", "", name) for name in scene.geometry}
    assert gone not in names and moved in names and "Ours" in names
    assert sent.objects == len(names)
    # z up of the project is y up there.
    part = demo_opened.model.objects[[item.name for item in demo_opened.model.objects].index(moved)]
    used = np.unique(demo_opened.model.faces[part.first_face : part.first_face + part.face_count])
    wanted = demo_opened.model.vertices[used] + (2.0, 0.0, 0.0)
    low, high = wanted.min(axis=0), wanted.max(axis=0)
    points = np.concatenate(
        [
            trimesh.transform_points(scene.geometry[scene.graph[name][1]].vertices, scene.graph[name][0])
            for name in scene.graph.nodes_geometry
            if re.sub(r" \d+$", "", name) == moved
        ]
    )
    assert points[:, 0].min() == pytest.approx(low[0], abs=2e-3) and points[:, 0].max() == pytest.approx(
        high[0], abs=2e-3
    )
    assert points[:, 1].max() == pytest.approx(high[2], abs=2e-3)
    textured = [
        item for item in scene.geometry.values() if getattr(item.visual.material, "baseColorTexture", None)
    ]
    assert textured
    document = json.loads(out.read_bytes()[20 : 20 + int.from_bytes(out.read_bytes()[12:16], "little")])
    assert [item["name"] for item in document["cameras"]] == [camera.name]
    triangles = sum(len(item.faces) for item in scene.geometry.values())
    shown = sum(item.face_count for item in demo_opened.model.objects if item.name != gone)
    assert triangles >= shown


def test_the_model_in_usd(
    demo_copy: Path, demo_project: Project, demo_opened: Opened, tmp_path: Path
) -> None:
    project, gone, moved = changed(demo_project, demo_opened)
    write_project(demo_copy, project)
    out = tmp_path / "whole.usdc"
    sent = send(project, demo_copy, (project.cameras[0],), project.walks[:1], out, whole=True)
    stage = Usd.Stage.Open(str(out))
    meshes = [UsdGeom.Mesh(prim) for prim in stage.Traverse() if prim.IsA(UsdGeom.Mesh)]
    names = {mesh.GetPrim().GetDisplayName() for mesh in meshes}
    assert gone not in names and moved in names and "Ours" in names and sent.objects == len(names)
    for mesh in meshes:
        bound = UsdShade.MaterialBindingAPI(mesh.GetPrim()).ComputeBoundMaterial()[0]
        assert bound and bound.GetSurfaceOutput().HasConnectedSource()
        counts = mesh.GetFaceVertexCountsAttr().Get()
        assert len(mesh.GetFaceVertexIndicesAttr().Get()) == 3 * len(counts)
    files = {
        prim.GetAttribute("inputs:file").Get().path
        for prim in stage.Traverse()
        if prim.HasAttribute("inputs:file")
    }
    assert files and all((tmp_path / name).is_file() for name in files)
    cameras = [prim.GetDisplayName() for prim in stage.Traverse() if prim.IsA(UsdGeom.Camera)]
    assert project.cameras[0].name in cameras and project.walks[0].name in cameras
    with pytest.raises(UserError, match="The model is written to"):
        send(project, demo_copy, (), (), tmp_path / "x.csv", whole=True)


def test_by_command(demo_copy: Path, tmp_path: Path) -> None:
    told = json.loads(
        good(
            "export", demo_copy, "--plan", "--storey", "Gallery storey", "--to", tmp_path / "p.svg", "--json"
        )
    )
    assert told["paper"] in ("A4", "A3", "A2") and told["title"].endswith("Gallery storey")
    told = json.loads(good("export", demo_copy, "--model", "--to", tmp_path / "m.glb", "--json"))
    assert told["objects"] > 200 and told["cameras"] == []
    assert io.BytesIO((tmp_path / "m.glb").read_bytes()).read(4) == b"glTF"
