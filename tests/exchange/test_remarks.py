"""Remarks come in, are answered and go back: read by others' eyes (lxml against schemas, the library of that
name)."""

from __future__ import annotations

import datetime
import io
import math
import zipfile
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from lxml import etree
from PIL import Image

from altana.core.camera.wall_cut import WallCut
from altana.core.edits.bounds import add_wall_cut, with_far, with_near
from altana.core.edits.cameras import add_camera
from altana.core.edits.remarks import answer_remark, drop_remark, keep_remark, remark_of, reopen_remark
from altana.core.errors import Refused, UserError
from altana.core.project import Camera, Comment, LeftOut, Project, Remark
from altana.exchange.bcf_in import read_bcf
from altana.exchange.bcf_out import Sending, own_id, unheld_in_bcf, write_bcf
from altana.jobs.brought import look_into
from altana.jobs.models import Opened, open_model
from altana.jobs.sending_remarks import send_bcf
from altana.jobs.taking import take_in_all
from altana.storage.project_file import read_project, write_project
from tests.cli.test_commands import good

SCHEMAS = Path(__file__).parent / "schemas"
HOUSE = Path(__file__).resolve().parents[3] / "shared/models/real-house.ifc"
NOW = datetime.datetime(2026, 5, 4, 9, 30, tzinfo=datetime.UTC)
GUIDS = ("2O2Fr$t4X7Zf8NOew3FLOH", "1hOSvn6df7F8_7GcBWlRGQ")


def png(wide: int = 64, high: int = 36) -> bytes:
    picture = io.BytesIO()
    Image.new("RGB", (wide, high), (120, 90, 40)).save(picture, "PNG")
    return picture.getvalue()


def parts(path: Path, ending: str) -> list[etree._Element]:
    with zipfile.ZipFile(path) as archive:
        return [etree.fromstring(archive.read(name)) for name in archive.namelist() if name.endswith(ending)]


VIEW = Camera("cam-01", "Hall", (3.0, -2.0, 1.6), 30.0, 4.0, 2.0, focal_mm=28.0, width_px=1500, height_px=1000, intent="The hall", note="Is the beam there?")  # fmt: skip


@pytest.mark.parametrize("version", ["2.1", "3.0"])
def test_what_is_written_is_valid_and_shows_the_same(version: str, tmp_path: Path) -> None:
    offset = (500.0, 200.0, 12.0)
    cut = WallCut((3.5, -1.0, 1.5), 30.0, 2.0, 2.0, 1.5, 1.5)
    camera = add_wall_cut(with_far(with_near(VIEW, 1.25), 40.0), cut)
    path = tmp_path / "sent.bcf"
    write_bcf(
        path, "Terminal", "R. Ferry", [Sending(camera, png(), (*GUIDS, "no guid"))], offset, version, NOW
    )
    short = version.replace(".", "")
    for ending, schema in ((".bcfv", "visinfo"), ("markup.bcf", "markup")):
        checked = etree.XMLSchema(etree.parse(str(SCHEMAS / f"bcf{short}_{schema}.xsd")))
        for element in parts(path, ending):
            checked.assertValid(element)
    (view,) = parts(path, ".bcfv")

    # Projected by what the file says, a point falls on the same pixel.
    def vector(name: str) -> np.ndarray:
        value = view.find(f".//{name}")
        return np.array([float(value.findtext(axis)) for axis in "XYZ"])

    eye, ahead, up = (vector(name) for name in ("CameraViewPoint", "CameraDirection", "CameraUpVector"))
    high = math.tan(math.radians(float(view.findtext(".//FieldOfView"))) / 2.0)
    right = np.cross(ahead, up)
    points = (
        np.asarray(VIEW.eye)
        + VIEW.view().rays(np.random.default_rng(2).uniform((10, 10), (1490, 990), (60, 2))) * 7.0
    )
    away = points + offset - eye
    depth = away @ ahead
    px = 1500 * (0.5 + (away @ right) / depth / (2.0 * high * 1.5))
    py = 1000 * (0.5 - (away @ up) / depth / (2.0 * high))
    wanted = VIEW.view().project(points)
    assert np.abs(np.column_stack([px, py]) - wanted[:, :2]).max() < 0.05
    if version == "3.0":
        assert float(view.findtext(".//AspectRatio")) == pytest.approx(1.5)
    planes = view.findall(".//ClippingPlane")
    assert len(planes) == 3
    # The direction points into what is not seen: for the near bound back to the eye.
    first = np.array([float(planes[0].findtext(f"Direction/{axis}")) for axis in "XYZ"])
    assert first @ ahead == pytest.approx(-1.0, abs=1e-6)
    assert [item.get("IfcGuid") for item in view.findall(".//Exceptions/Component")] == list(GUIDS)


@pytest.mark.parametrize("version", ["2.1", "3.0"])
def test_out_and_in_it_is_the_same_camera(version: str, tmp_path: Path) -> None:
    camera = with_far(with_near(VIEW, 1.25), 40.0)
    path = tmp_path / "sent.bcf"
    write_bcf(path, "Terminal", "", [Sending(camera, png(1500, 1000), GUIDS)], (5.0, 6.0, 7.0), version, NOW)
    again = tmp_path / "again.bcf"
    write_bcf(again, "Terminal", "", [Sending(camera, png(1500, 1000), GUIDS)], (5.0, 6.0, 7.0), version, NOW)
    (item,) = read_bcf(path, (5.0, 6.0, 7.0))
    camera_back, remark = item.camera, item.remark
    assert camera_back is not None and remark is not None
    assert camera_back.eye == pytest.approx(camera.eye) and camera_back.heading_deg == pytest.approx(30.0)
    assert (camera_back.tilt_deg, camera_back.roll_deg) == (pytest.approx(4.0), pytest.approx(2.0))
    assert camera_back.view().angles_of_view() == pytest.approx(camera.view().angles_of_view(), abs=0.01)
    assert (camera_back.near, camera_back.far) == (pytest.approx(1.25), pytest.approx(40.0))
    assert item.hidden == GUIDS and not item.only
    assert (remark.title, remark.words) == ("The hall", "Hall")
    assert [said.text for said in remark.comments] == ["Is the beam there?"]
    # The same thing sent twice is the same topic.
    assert remark.id == own_id("Terminal", "cam-01") == read_bcf(again, (5.0, 6.0, 7.0))[0].remark.id  # type: ignore[union-attr]


def test_what_the_format_does_not_hold_is_said_before() -> None:
    shifted = replace(VIEW, rise_mm=6.0)
    cut = replace(VIEW, wall_cuts=(WallCut((0, 0, 0), 0.0),))
    wide = replace(VIEW, name="Wide", focal_mm=14.0)
    told = unheld_in_bcf([shifted, cut, wide], "2.1")
    assert any("no shifted lenses" in text for text in told) and any(
        "planes have no ends" in text for text in told
    )
    assert any("45° to 60°" in text and "Wide" in text for text in told)
    assert unheld_in_bcf([VIEW], "3.0") == []


def others_file(path: Path) -> None:
    """Ten remarks as another tool writes them, by the library: two with clipping planes and hidden things."""
    from bcf.v2 import model as mdl
    from bcf.v2.bcfxml import BcfXml
    from bcf.v2.visinfo import VisualizationInfoHandler

    file = BcfXml.create_new("House")
    for number in range(10):
        topic = file.add_topic(
            f"Remark {number + 1}", f"Words {number + 1}", "site@example.org", "Issue", "Open"
        )
        heading = math.radians(36.0 * number)
        seen = mdl.VisualizationInfo(
            guid=own_id("seen", str(number)),
            perspective_camera=mdl.PerspectiveCamera(
                camera_view_point=mdl.Point(
                    x=5.0 - 9.0 * math.sin(heading), y=4.0 - 9.0 * math.cos(heading), z=1.7
                ),
                camera_direction=mdl.Direction(x=math.sin(heading), y=math.cos(heading), z=0.0),
                camera_up_vector=mdl.Direction(x=0.0, y=0.0, z=1.0),
                field_of_view=50.0,
            ),
        )
        if number < 2:
            seen.clipping_planes = mdl.VisualizationInfoClippingPlanes(
                clipping_plane=[
                    mdl.ClippingPlane(
                        location=mdl.Point(x=0.0, y=3.0, z=0.0), direction=mdl.Direction(x=0.0, y=-1.0, z=0.0)
                    ),
                    mdl.ClippingPlane(
                        location=mdl.Point(x=0.0, y=0.0, z=2.5), direction=mdl.Direction(x=0.0, y=0.0, z=1.0)
                    ),
                ]
            )
            hidden = [mdl.Component(ifc_guid=guid) for guid in GUIDS]
            seen.components = mdl.Components(
                visibility=mdl.ComponentVisibility(
                    default_visibility=True, exceptions=mdl.ComponentVisibilityExceptions(component=hidden)
                )
            )
        topic.add_visinfo_handler(VisualizationInfoHandler(seen, png(80, 60)), f"snap-{number}.png")
    file.save(path)


def test_ten_remarks_of_another_tool(tmp_path: Path) -> None:
    path = tmp_path / "site.bcf"
    others_file(path)
    remarks = look_into(path, (0.0, 0.0, 0.0))
    assert sorted(item.name for item in remarks) == sorted(f"Remark {number + 1}" for number in range(10))
    one = next(item for item in remarks if item.name == "Remark 1")
    assert one.camera is not None and one.remark is not None
    # No proportion in 2.1: that of the picture.
    assert one.camera.width_px / one.camera.height_px == pytest.approx(4.0 / 3.0, abs=0.01)
    assert one.camera.view().angles_of_view()[1] == pytest.approx(50.0, abs=0.1)
    assert one.camera.near == pytest.approx(3.0 + 5.0) and one.hidden == GUIDS
    assert any("leans or lies level" in text for text in one.lost)
    second = next(item for item in remarks if item.name == "Remark 2")
    assert second.camera is not None and len(second.camera.wall_cuts) == 1
    assert second.camera.wall_cuts[0].heading_deg == pytest.approx(0.0)
    home = tmp_path / "p.altana"
    project, ids, _ = take_in_all(Project(), home, remarks, None)
    assert len(project.cameras) == len(project.remarks) == len(ids) == 10
    remark = remark_of(project, "Remark 1")
    assert remark.camera and (tmp_path / remark.picture).is_file() and remark.author == "site@example.org"
    write_project(home, project)
    assert read_project(home).remarks == project.remarks
    # Taken once more, nothing is there twice, and an answer is kept.
    answered = answer_remark(project, remark.id, remark.camera, "Moved.")
    again, _, _ = take_in_all(answered, home, [one], None)
    assert len(again.remarks) == 10 and remark_of(again, remark.id).answered
    assert not remark_of(reopen_remark(answered, remark.id), remark.id).answered
    assert len(drop_remark(answered, remark.id).remarks) == 9
    with pytest.raises(Refused, match="There is no remark “Nothing”"):
        remark_of(project, "Nothing")
    with pytest.raises(Refused, match="no camera cam-99"):
        answer_remark(project, remark.id, "cam-99")


@pytest.mark.slow
def test_an_answer_goes_back_under_the_same_topic(
    demo_copy: Path, demo_project: Project, tmp_path: Path
) -> None:
    remark = Remark(own_id("theirs"), "Too dark?", "The counter", "site@example.org", "2026-05-01T08:00:00Z", comments=(Comment("site@example.org", "2026-05-01T08:00:00Z", "Please look"),))  # fmt: skip
    project = keep_remark(demo_project, replace(remark, camera="cam-01"))
    project = answer_remark(project, remark.id, "cam-01", "A lamp was added.")
    write_project(demo_copy, project)
    out = tmp_path / "answers.bcf"
    told = good("export", demo_copy, "--remarks", "--to", out, "--bcf-version", "3.0")
    assert "1 answered remark" in told
    (item,) = read_bcf(out, (0.0, 0.0, 0.0))
    assert item.remark is not None and item.remark.id == remark.id and item.remark.title == "Too dark?"
    assert [said.text for said in item.remark.comments] == ["Please look", "A lamp was added."]
    # With a new picture, which is no plain one.
    with Image.open(io.BytesIO(item.snapshot)) as image:
        assert image.width == 1280 and np.asarray(image).std() > 10
    listed = good("remarks", "list", demo_copy)
    assert "Too dark?" in listed and "answered" in listed
    with pytest.raises(UserError, match="has no camera that answers it"):
        send_bcf(demo_project, demo_copy, (), [remark], tmp_path / "no.bcf")


def test_hostile_archives_take_nothing(tmp_path: Path) -> None:
    good_one = tmp_path / "good.bcf"
    write_bcf(good_one, "T", "", [Sending(VIEW, png())], (0.0, 0.0, 0.0), "3.0", NOW)

    def changed(name: str, change: dict[str, bytes]) -> Path:
        path = tmp_path / name
        with zipfile.ZipFile(good_one) as source, zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as target:
            for item in source.namelist():
                key = next((part for part in change if item.endswith(part)), None)
                target.writestr(item, change[key] if key else source.read(item))
        return path

    bomb = b'<?xml version="1.0"?><!DOCTYPE a [<!ENTITY b "bbbb">]><Markup>&b;</Markup>'
    cases = (
        (changed("entity.bcf", {"markup.bcf": bomb}), "declares entities"),
        (changed("huge.bcf", {"markup.bcf": b" " * 9_000_000}), "unpacks to more"),
        (changed("torn.bcf", {"markup.bcf": b"<Markup><Topic>"}), "is damaged"),
        (changed("version.bcf", {"bcf.version": b'<Version VersionId="9.9"/>'}), "is damaged"),
    )
    for path, why in cases:
        with pytest.raises(UserError, match=why):
            look_into(path, (0.0, 0.0, 0.0))
    (tmp_path / "no.bcf").write_bytes(b"PK\x03\x04 nothing")
    with pytest.raises(UserError, match="cannot be read as a BCF"):
        look_into(tmp_path / "no.bcf", (0.0, 0.0, 0.0))
    # Names that lead out of the archive, and a snapshot that is none, do no harm.
    outside = changed("outside.bcf", {".png": b"no picture", "markup.bcf": _led_out(good_one)})
    (item,) = look_into(outside, (0.0, 0.0, 0.0))
    project, _, _ = take_in_all(Project(), tmp_path / "in" / "p.altana", [item], None)
    assert project.remarks[0].picture == "" and not (tmp_path / "evil.png").exists()


def _led_out(path: Path) -> bytes:
    with zipfile.ZipFile(path) as archive:
        name = next(item for item in archive.namelist() if item.endswith("markup.bcf"))
        text = archive.read(name).decode()
    guid = own_id("T", "cam-01")
    return text.replace(f'Guid="{guid}"', f'Guid="../../{guid[6:]}"', 1).encode()


@pytest.mark.parametrize("what", ["name", "unpacking"])
def test_archives_bent_by_fuzzing_are_one_sentence(what: str, tmp_path: Path) -> None:
    """Found by coverage-guided fuzzing: a name that is no text, and a part that cannot be unpacked."""
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("bcf.version", '<Version VersionId="2.1"/>')
        archive.writestr("é/markup.bcf", "<Markup>" + "word " * 400 + "</Markup>")
    data = bytearray(buffer.getvalue())
    if what == "name":
        for at in [k for k in range(len(data)) if data[k : k + 2] == "é".encode()]:
            data[at : at + 2] = b"\xff\xfe"
    else:
        at = data.index(b"markup.bcf") + len("markup.bcf")
        data[at : at + 12] = b"\xff" * 12
    path = tmp_path / "bent.bcf"
    path.write_bytes(bytes(data))
    with pytest.raises(UserError, match="cannot be read as a BCF"):
        read_bcf(path, (0.0, 0.0, 0.0))


@pytest.mark.skipif(
    not HOUSE.is_file(), reason="the real house lies beside the project on the founders' machines only"
)
def test_on_the_real_house_hidden_things_are_left_out(tmp_path: Path) -> None:
    model = open_model(HOUSE)[0]
    roof = [item.id for item in model.objects if item.category == "Roof"][:2] or [model.objects[0].id]
    camera = Camera(
        "cam-01", "From the garden", (5.0, -12.0, 1.7), 0.0, focal_mm=28.0, left_out=LeftOut(tuple(roof))
    )
    path = tmp_path / "house.bcf"
    write_bcf(path, "House", "", [Sending(camera, png(), tuple(roof))], model.offset, "3.0", NOW)
    offers = look_into(path, model.offset)
    project, _, _ = take_in_all(add_camera(Project(), camera)[0], tmp_path / "p.altana", offers, model)
    new_camera = project.cameras[-1]
    assert new_camera.left_out.objects == tuple(roof) and new_camera.eye == pytest.approx(
        camera.eye, abs=1e-6
    )
    assert new_camera.group == "Remarks" and not new_camera.inside


def test_only_what_is_named_is_shown(demo_opened: Opened, tmp_path: Path) -> None:
    model = demo_opened.model
    path = tmp_path / "only.bcf"
    write_bcf(path, "T", "", [Sending(VIEW, png())], (0.0, 0.0, 0.0), "3.0", NOW)
    (item,) = look_into(path, (0.0, 0.0, 0.0))
    kept = tuple(part.id for part in model.objects[:3])
    project, _, _ = take_in_all(
        Project(), tmp_path / "p.altana", [replace(item, hidden=kept, only=True)], model
    )
    assert len(project.cameras[0].left_out.objects) == len(model.objects) - 3
