"""Walks and turntables from the command line."""

from __future__ import annotations

import csv
import json
from pathlib import Path

import pytest

from altana.storage.project_file import read_project
from tests.cli.test_commands import good, sentence

WALK = "Up the stair to the gallery"


def test_a_walk_is_set_and_checked(demo_copy: Path) -> None:
    clean = json.loads(good("walk", "check", demo_copy, WALK, "--json"))
    assert (clean["frames"], clean["flags"], clean["kind"]) == (600, [], "walkthrough")
    assert len(clean["key_seconds"]) == 13
    good(
        "walk",
        "set",
        demo_copy,
        WALK,
        "--dwell",
        "7:2",
        "--ease-in",
        "1",
        "--ease-out",
        "1.5",
        "--seconds",
        "30",
    )
    checks = json.loads(good("walk", "check", demo_copy, WALK, "--json"))
    assert checks["frames"] == 750
    assert len(checks["dwells"]) == 1
    good("walk", "set", demo_copy, WALK, "--seconds", "12", "--dwell", "7:0")
    hurried = json.loads(good("walk", "check", demo_copy, WALK, "--json"))
    assert {"pace", "turn"} <= {flag["code"] for flag in hurried["flags"]}
    assert hurried["flags"][0]["sentence"].startswith("At ")
    assert "longer than the walk" in sentence("walk", "set", demo_copy, WALK, "--dwell", "3:40")
    assert read_project(demo_copy).walks[0].keys[2].dwell_s == 0.0


@pytest.mark.slow
def test_pace_frames_bends_moments_and_looks(demo_copy: Path) -> None:
    good("walk", "set", demo_copy, WALK, "--pace", "1.0", "--bend", "3:corner", "--bend", "4:even")
    checks = json.loads(good("walk", "check", demo_copy, WALK, "--json"))
    assert checks["pace_m_s"] == pytest.approx(1.0, abs=1e-3)
    good(
        "walk",
        "set",
        demo_copy,
        WALK,
        "--frames",
        "900",
        "--rate",
        "30",
        "--at",
        "4:12",
        "--look-at",
        "0.2-0.4:2.4,10.8,1.2",
    )
    walk = read_project(demo_copy).walks[0]
    assert (walk.seconds, walk.keys[3].at_s, walk.keys[2].bend, len(walk.looks)) == (30.0, 12.0, "corner", 1)
    rows = list(csv.DictReader(good("walk", "sample", demo_copy, WALK).splitlines()))
    assert len(rows) == 900
    good(
        "walk", "set", demo_copy, WALK, "--at", "4:free", "--reverse", "--keep-plumb", "--name", "Down again"
    )
    turned = read_project(demo_copy).walks[0]
    assert (turned.name, turned.kept_plumb) == ("Down again", True)
    assert turned.keys[0].eye == walk.keys[-1].eye
    assert "no place 99" in sentence("walk", "set", demo_copy, "Down again", "--dwell", "99:1")
    assert "FROM-TO" in sentence("walk", "set", demo_copy, "Down again", "--look-at", "here")


def test_a_turntable_with_stills(demo_copy: Path) -> None:
    good(
        "walk",
        "turntable",
        demo_copy,
        "--object",
        "Lookout roof",
        "--eye",
        "24",
        "--frames",
        "120",
        "--stills",
        "6",
    )
    project = read_project(demo_copy)
    walk = project.walks[-1]
    assert walk.turntable is not None
    assert walk.turntable.eye_m == 24.0
    assert len([camera for camera in project.cameras if camera.group == "Turntable"]) == 6
    rows = list(csv.DictReader(good("walk", "sample", demo_copy, "Turntable").splitlines()))
    assert len(rows) == 120
    assert float(rows[30]["heading"]) == pytest.approx(90.0, abs=1e-6)
    assert json.loads(good("walk", "check", demo_copy, "Turntable", "--json"))["kind"] == "turntable"
    good(
        "walk",
        "turntable",
        demo_copy,
        "--centre",
        "0,0,5",
        "--radius",
        "40",
        "--keep-plumb",
        "--name",
        "Plumb",
    )
    shifted = list(csv.DictReader(good("walk", "sample", demo_copy, "Plumb", "--frames", "0-1").splitlines()))
    assert float(shifted[0]["tilt"]) == 0.0
    assert "no object" in sentence("walk", "turntable", demo_copy, "--object", "Nothing")
    assert "radius" in sentence("walk", "turntable", demo_copy, "--centre", "0,0,0", "--radius", "0.001")


@pytest.mark.slow
def test_places_keep_their_own_camera_and_flags_are_mended(demo_copy: Path) -> None:
    good(
        "walk",
        "set",
        demo_copy,
        WALK,
        "--key",
        "4:focal=35,ev=11.2,hour=18.5,near=0.4,lamps=0.6",
        "--key",
        "5:handle=0.5/-1,rise=2",
        "--heights",
        "set",
    )
    good("walk", "set", demo_copy, WALK, "--look-at", "0.1-0.3:2,10,1>4,9,1.5", "--look", "0.5-0.6:ahead")
    walk = read_project(demo_copy).walks[0]
    key = walk.keys[3]
    assert (key.focal_mm, key.ev, key.hour, key.near_m, key.lamps) == (35.0, 11.2, 18.5, 0.4, 0.6)
    assert (walk.keys[4].handle, walk.keys[4].rise_mm, walk.follow_floor) == ((0.5, -1.0), 2.0, False)
    assert (walk.looks[0].to, walk.looks[1].kind) == ((4.0, 9.0, 1.5), "ahead")
    good(
        "walk",
        "set",
        demo_copy,
        WALK,
        "--no-looks",
        "--heights",
        "floor",
        "--key",
        "4:near=off,hour=off,lamps=off",
        "--key",
        "5:handle=off",
    )
    walk = read_project(demo_copy).walks[0]
    assert (walk.looks, walk.keys[3].near_m, walk.keys[3].hour, walk.keys[4].handle) == ((), None, None, None)
    assert walk.keys[3].lamps is None
    assert "0 to 1" in sentence("walk", "set", demo_copy, WALK, "--key", "4:lamps=3")
    assert "no field" in sentence("walk", "set", demo_copy, WALK, "--key", "4:shoe=43")
    assert "no value for ev" in sentence("walk", "set", demo_copy, WALK, "--key", "4:ev=bright")
    good("walk", "set", demo_copy, WALK, "--seconds", "16")
    flags = json.loads(good("walk", "check", demo_copy, WALK, "--json"))["flags"]
    number = next(index for index, flag in enumerate(flags, 1) if flag["code"] == "pace")
    assert flags[number - 1]["mends"] == ["slow"]
    good("walk", "mend", demo_copy, WALK, str(number))
    after = json.loads(good("walk", "check", demo_copy, WALK, "--json"))
    assert after["seconds"] > 16.0
    assert "pace" not in {flag["code"] for flag in after["flags"]}
    assert "there is no flag 99" in sentence("walk", "mend", demo_copy, WALK, "99")
