"""Composing from the command line: the same edits as the window's, on the same core."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np
import pytest

from altana.core.staging import object_points
from altana.jobs.models import Opened
from altana.storage.project_file import read_project
from tests.cli.test_commands import good, sentence


@pytest.mark.slow
def test_place_by_the_walls(demo_copy: Path) -> None:
    good("camera", "add", demo_copy, "--name", "Staff", "--stand", "16.2,10.4", "--heading", "11")
    good("camera", "place", demo_copy, "Staff", "square")
    assert read_project(demo_copy).camera_named("Staff").heading_deg == pytest.approx(0.0, abs=1e-6)
    good("camera", "place", demo_copy, "Staff", "between")
    checks = json.loads(good("camera", "check", demo_copy, "Staff", "--json"))
    assert checks["room"] == "Staff room"
    assert checks["trouble"] is None
    assert checks["stretch_grade"] == "calm"
    assert sum(checks["shares"].values()) <= 1.0
    assert "no middle" in sentence("camera", "place", demo_copy, "Forecourt", "between")


def test_fit_and_hold_subject(demo_copy: Path, demo_opened: Opened) -> None:
    good("camera", "fit", demo_copy, "Forecourt", "--object", "Lookout roof", "--by", "lens")
    camera = read_project(demo_copy).camera_named("Forecourt")
    number = next(
        index for index, item in enumerate(demo_opened.model.objects) if item.name == "Lookout roof"
    )
    px, py, _ = camera.view().project(object_points(demo_opened.model, number).astype(float)).T
    assert min(px.min(), py.min(), 1920 - px.max(), 1080 - py.max()) == pytest.approx(54.0, abs=1.0)
    before = read_project(demo_copy).camera_named("Quay, morning")
    good("camera", "set", demo_copy, "Quay, morning", "--focal", "50", "--hold-subject")
    after = read_project(demo_copy).camera_named("Quay, morning")
    assert after.focal_mm == 50.0
    assert after.aim == pytest.approx(before.aim, abs=1e-9)
    side = before.pose.axes()[0] * 0.5
    ends = np.array([np.asarray(before.aim) - side, np.asarray(before.aim) + side])
    widths = [float(np.diff(item.view().project(ends)[:, 0])[0]) for item in (before, after)]
    assert widths[0] == pytest.approx(widths[1], abs=1e-6)
    assert "no object" in sentence("camera", "fit", demo_copy, "Forecourt", "--object", "Nothing")


def test_formats_variants_and_copies(demo_copy: Path) -> None:
    name = "Forecourt"
    good("camera", "format", demo_copy, name, "--add", "Square 1:1")
    good("camera", "format", demo_copy, name, "--add", "900x1600")
    listed = json.loads(good("camera", "format", demo_copy, name, "--json"))
    assert [(item["width_px"], item["height_px"]) for item in listed] == [
        (1920, 1080),
        (1080, 1080),
        (900, 1600),
    ]
    good("camera", "format", demo_copy, name, "--use", "1")
    good("camera", "format", demo_copy, name, "--remove", "2")
    assert [item.width_px for item in read_project(demo_copy).camera_named(name).all_formats] == [1920, 900]
    assert "has 2 formats" in sentence("camera", "format", demo_copy, name, "--use", "7")
    good("camera", "variant", demo_copy, name, "--ladder", "exposure")
    good("camera", "variant", demo_copy, name, "--take", "1")
    assert read_project(demo_copy).camera_named(name).ev == pytest.approx(12.4)
    good("camera", "copy", demo_copy, name, "--to", "Lookout", "--what", "exposure", "--what", "lens")
    lookout = read_project(demo_copy).camera_named("Lookout")
    assert (lookout.ev, lookout.focal_mm) == (pytest.approx(12.4), 28.0)
    good(
        "camera",
        "set",
        demo_copy,
        name,
        "--intent",
        "Arriving",
        "--group",
        "Meeting one",
        "--lock",
        "--guides",
        "golden, horizon",
    )
    kept = read_project(demo_copy).camera_named(name)
    assert (kept.intent, kept.group, kept.locked, kept.guides) == (
        "Arriving",
        "Meeting one",
        True,
        ("golden", "horizon"),
    )
    assert "no guide" in sentence("camera", "set", demo_copy, name, "--guides", "spiral")


def test_leaving_out_nudging_and_taking(demo_copy: Path, demo_files: Path) -> None:
    good("leave-out", demo_copy, "--category", "Planting", "--storey", "Lookout")
    good("leave-out", demo_copy, "--camera", "Forecourt", "--object", "Bench 1")
    good("leave-out", demo_copy, "--walk", "Up the stair to the gallery", "--category", "Railing")
    project = read_project(demo_copy)
    assert project.left_out.categories == ("Planting",)
    assert len(project.left_out.storeys) == 1
    assert project.walks[0].left_out.categories == ("Railing",)
    assert json.loads(good("camera", "check", demo_copy, "Forecourt", "--json"))["left_out"] > 9
    good("leave-out", demo_copy, "--category", "Planting", "--storey", "Lookout", "--back")
    assert not read_project(demo_copy).left_out
    assert "has no “Clouds”" in sentence("leave-out", demo_copy, "--category", "Clouds")
    good("camera", "nudge", demo_copy, "Forecourt", "Bench 2", "--move", "1,0,0.5", "--turn", "20")
    assert read_project(demo_copy).camera_named("Forecourt").nudges[0].move == (1.0, 0.0, 0.5)
    good("camera", "nudge", demo_copy, "Forecourt", "Bench 2")
    assert read_project(demo_copy).camera_named("Forecourt").nudges == ()
    count = len(read_project(demo_copy).cameras)
    assert "Model view 02" in good("camera", "take", demo_copy)
    good("camera", "take", demo_copy, "--name", "Model view 02")
    assert len(read_project(demo_copy).cameras) == count + 1
    good("plan-shot", demo_copy, "The lake at night")
    facts = json.loads(good("inspect", demo_copy, "--json"))
    assert facts["planned"][-1]["intent"] == "The lake at night"
    assert {"Boundary", "Grid"} <= set(facts["linework"]["layers"])
    assert [item.get("camera", item.get("walk")) for item in facts["shots"]][:3] == [
        "Waiting hall to the water",
        "Tower from the forecourt",
        "Waiting hall to the water",
    ]
    assert facts["shots"][-1]["walk"] == "Up the stair to the gallery"
    assert any(problem["code"] == "holes" and problem["object_ids"] for problem in facts["problems"])
    assert (
        good("changes", demo_files / "larkwater.glb", demo_files / "larkwater.glb").strip()
        == "Nothing changed."
    )


def test_a_camera_is_added_by_its_room(demo_copy: Path) -> None:
    good("camera", "add", demo_copy, "--room", "Waiting hall", "--name", "First", "--focal", "20")
    camera = read_project(demo_copy).camera_named("First")
    assert camera.focal_mm == 20.0 and camera.inside and camera.eye[2] == pytest.approx(1.6, abs=0.01)
    refused = sentence("camera", "add", demo_copy, "--room", "Ballroom")
    assert "There is no room called “Ballroom”. Rooms: Waiting hall" in refused


def test_a_front_is_fitted_squarely_and_a_wall_passed_by_a_cut(demo_copy: Path) -> None:
    good("camera", "fit", demo_copy, "Forecourt", "--target", "facade", "--square", "--by", "distance")
    camera = read_project(demo_copy).camera_named("Forecourt")
    assert camera.heading_deg % 90.0 == pytest.approx(0.0, abs=0.02) and camera.tilt_deg == 0.0
    listed = json.loads(good("camera", "candidates", demo_copy, "Glass front from the quay", "--json"))
    oblique = next(number for number, item in enumerate(listed, 1) if item["cut"] is not None)
    good("camera", "bound", demo_copy, "Glass front from the quay", "--past", str(oblique), "--by-wall-cut")
    assert len(read_project(demo_copy).camera_named("Glass front from the quay").wall_cuts) == 1
    back = json.loads(good("camera", "back", demo_copy, "Ticket office", "--whole", "width", "--json"))
    assert back["out_of_picture"] == []
