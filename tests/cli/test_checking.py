"""Bounds, checks, mends, coverage and the list of gaps from the command line."""

from __future__ import annotations

import csv
import json
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest

from altana.storage.project_file import read_project, write_project
from tests.cli.test_commands import good, sentence
from tests.conftest import picture_at


def check(path: Path, name: str) -> dict[str, Any]:
    answer: dict[str, Any] = json.loads(good("camera", "check", path, name, "--json"))
    return answer


def test_check_tells_every_figure(demo_copy: Path) -> None:
    tower = check(demo_copy, "Tower from the forecourt")
    assert tower["perspective"]["points"] == 3
    assert tower["perspective"]["missing_deg"] == pytest.approx(22.21, abs=0.01)
    assert tower["verticals"]["worst_px"] == pytest.approx(41.0, abs=1.5)
    assert len(tower["verticals"]["edges"]) == tower["verticals"]["count"] > 5
    assert [item["code"] for item in tower["troubles"]] == ["verticals"]
    assert tower["troubles"][0]["mends"] == ["plumb"]
    assert tower["near"] == {"distance_m": None, "fixed": False}
    assert (tower["cut_faces"], tower["opened"]) == (0.0, [])
    assert set(tower["gaps"]) == {"out", "ground_ends", "background", "gaps", "mask"}
    names = {item["name"]: item for item in tower["vanishing_points"]}
    assert names["verticals"]["place"] is not None
    good("camera", "mend", demo_copy, "Tower from the forecourt", "plumb")
    after = check(demo_copy, "Tower from the forecourt")
    assert after["verticals"]["worst_px"] < 0.01
    assert after["perspective"]["points"] == 2


def test_bounds_by_distance_fixed_and_past_a_thing(demo_copy: Path) -> None:
    name = "Waiting hall to the water"
    good("camera", "bound", demo_copy, name, "--near", "3", "--near-fixed", "--far", "40", "--far-dark")
    camera = read_project(demo_copy).camera_named(name)
    assert camera.near_at == pytest.approx((7.0, 4.3, 1.6))
    good("camera", "set", demo_copy, name, "--eye", "7.0,0.5,1.6")
    moved = check(demo_copy, name)
    assert moved["near"] == {"distance_m": pytest.approx(3.8), "fixed": True}
    assert moved["far"]["light_too"] is True
    assert moved["far"]["removed"][0]["back_at_m"] > 40
    good("camera", "bound", demo_copy, name, "--near-at-distance", "--far", "off")
    assert read_project(demo_copy).camera_named(name).near_m == pytest.approx(3.8)
    assert "neither a distance" in sentence("camera", "bound", demo_copy, name, "--near", "close")
    assert "beyond the near" in sentence("camera", "bound", demo_copy, name, "--far", "2")


@pytest.mark.slow
def test_an_angled_camera_looks_past_the_glass_front(demo_copy: Path) -> None:
    good(
        "camera",
        "add",
        demo_copy,
        "--name",
        "Front",
        "--eye",
        "16,27,1.5",
        "--heading",
        "215",
        "--focal",
        "24",
    )
    good("camera", "set", demo_copy, "Front", "--aim", "4.5,10.6,1.5")
    listed = json.loads(good("camera", "candidates", demo_copy, "Front", "--json"))
    number = next(index for index, item in enumerate(listed, 1) if "Glass front" in item["name"])
    assert len(listed[number - 1]["opened"]) >= 2
    good("camera", "bound", demo_copy, "Front", "--past", str(number))
    assert check(demo_copy, "Front")["cut_faces"] > 0.01
    assert "lists them" in sentence("camera", "bound", demo_copy, "Front", "--past", "99")
    good("camera", "mend", demo_copy, "Front", "wall-cut")
    through = check(demo_copy, "Front")
    assert through["cut_faces"] == 0.0
    assert through["opened"] == []
    assert through["wall_cuts"][0]["heading_deg"] == 180.0
    good("camera", "wall-cut", demo_copy, "Front", "--cut", "1", "--offset", "0.5", "--off")
    cut = read_project(demo_copy).camera_named("Front").wall_cuts[0]
    assert (cut.offset_m, cut.on) == (0.5, False)
    good("camera", "wall-cut", demo_copy, "Front", "--cut", "1", "--turn-over", "--depth", "0")
    assert read_project(demo_copy).camera_named("Front").wall_cuts[0].depth_m > 1000
    good("camera", "wall-cut", demo_copy, "Front", "--cut", "1", "--remove")
    good("camera", "wall-cut", demo_copy, "Front", "--at", "9.8,18.1,1.5")
    good(
        "camera",
        "wall-cut",
        demo_copy,
        "Front",
        "--place",
        "0,10,0",
        "--heading",
        "270",
        "--width",
        "3",
        "--height",
        "2",
    )
    assert [item.name for item in read_project(demo_copy).camera_named("Front").wall_cuts][1:] == [""]
    assert "no wall cut 9" in sentence("camera", "wall-cut", demo_copy, "Front", "--cut", "9", "--on")
    assert "no wall here" in sentence("camera", "wall-cut", demo_copy, "Front", "--at", "16,40,30")


@pytest.mark.slow
def test_back_through_the_wall_of_the_ticket_office(demo_copy: Path) -> None:
    good(
        "camera",
        "add",
        demo_copy,
        "--name",
        "Across",
        "--eye",
        "1.1,10.8,1.6",
        "--heading",
        "270",
        "--focal",
        "35",
    )
    answer = json.loads(good("camera", "back", demo_copy, "Across", "--whole", "width", "--json"))
    assert answer["outside_m"] == pytest.approx(1.32, abs=0.05)
    assert answer["camera"]["near_at"] is not None
    checks = check(demo_copy, "Across")
    assert (checks["cut_faces"], checks["opened"], checks["room"]) == (0.0, [], "Ticket office")
    assert checks["eye_above_floor_m"] == pytest.approx(1.6, abs=1e-3)
    assert checks["trouble"] is None
    assert "fits already" in good("camera", "back", demo_copy, "Across", "--width", "2")
    assert "m wide" in sentence("camera", "back", demo_copy, "Across", "--width", "9")


def test_rise_by_share_and_kept_plumb(demo_copy: Path) -> None:
    good("camera", "set", demo_copy, "Forecourt", "--rise", "25%", "--cross", "-2", "--keep-plumb")
    camera = read_project(demo_copy).camera_named("Forecourt")
    assert camera.rise_mm == pytest.approx(0.25 * 20.25)
    assert (camera.cross_mm, camera.kept_plumb) == (-2.0, True)
    good("camera", "set", demo_copy, "Forecourt", "--rise", "3.5", "--let-tilt")
    assert read_project(demo_copy).camera_named("Forecourt").rise_mm == 3.5


@pytest.mark.slow
def test_check_of_all_cameras(demo_copy: Path) -> None:
    answer = json.loads(good("check", demo_copy, "--json"))
    assert len(answer["cameras"]) == 20
    with_trouble = {row["name"] for row in answer["cameras"] if row["troubles"]}
    assert answer["with_trouble"] == len(with_trouble)
    assert "Tower from the forecourt" in with_trouble
    assert "Waiting hall to the water" not in with_trouble


def test_coverage_as_a_table(demo_copy: Path, tmp_path: Path) -> None:
    out = tmp_path / "coverage.csv"
    answer = json.loads(
        good(
            "coverage", demo_copy, "--camera", "Lookout", "--camera", "Ticket office", "--out", out, "--json"
        )
    )
    rows = list(csv.DictReader(out.read_text().splitlines()))
    assert answer["pictures"] == 2
    assert len(rows) == len(answer["objects"])
    shelves = next(row for row in rows if row["name"] == "Ticket office shelves")
    assert (shelves["seen"], shelves["largest_in"]) == ("yes", "Ticket office")
    assert 0.3 < float(shelves["nearest_m"]) < 2.5
    assert answer["never_seen"] == sum(row["seen"] == "no" for row in rows)
    assert "no walk" in sentence("coverage", demo_copy, "--walk", "Nowhere")


@pytest.mark.slow
def test_gaps_are_listed_with_pictures_and_mended(demo_copy: Path, tmp_path: Path) -> None:
    project = read_project(demo_copy)
    write_project(demo_copy, replace(project, cameras=project.cameras[:4]))
    # Without its panes the glass front is a row of holes.
    panes = [f"Glass front bay {number}" for number in range(1, 11)]
    for name in panes:
        good("leave-out", demo_copy, "--object", name)
    name = "Waiting hall to the water"
    assert check(demo_copy, name)["gaps"]["out"] > 0.05
    answer = json.loads(good("gaps", demo_copy, "--out", tmp_path / "gaps", "--json"))
    page, table, *_pictures = (Path(item) for item in answer["files"])
    assert page.name == "gaps.html"
    assert name in page.read_text()
    rows = list(csv.DictReader(table.read_text().splitlines()))
    mine = [row for row in rows if row["camera"] == name]
    assert mine
    assert all(row["kind"] in ("hole", "ground") and row["picture"] for row in rows)
    picture = picture_at(tmp_path / "gaps" / mine[0]["picture"])
    assert picture.shape == (720, 1280, 3)
    # The box round the first gap is drawn where the table says.
    left, top = int(mine[0]["left_px"]) * 1280 // 1920, int(mine[0]["top_px"]) * 720 // 1080
    edge = picture[max(top - 6, 0) : top + 40, max(left - 6, 0) : left + 40]
    assert (abs(edge.astype(int) - (180, 69, 47)).sum(axis=2) < 30).sum() > 20
    good("camera", "mend", demo_copy, name, "panel")
    assert read_project(demo_copy).patches
    assert check(demo_copy, name)["gaps"]["out"] < 0.05


def test_mends_of_ours_are_listed_switched_and_taken_back(demo_copy: Path) -> None:
    good("patch", "add", demo_copy, "ground")
    corners = ["--corner", "0,0,3", "--corner", "2,0,3", "--corner", "2,2,3"]
    good("patch", "add", demo_copy, "ceiling", *corners, "--name", "Over the door")
    listed = json.loads(good("patch", "list", demo_copy, "--json"))
    assert [item["kind"] for item in listed] == ["ground", "ceiling"]
    facts = json.loads(good("inspect", demo_copy, "--json"))
    assert facts["model"]["categories"]["Mend of ours"] == 2
    assert [item["name"] for item in facts["patches"]] == ["Plain ground to the horizon", "Over the door"]
    good("patch", "set", demo_copy, "Over the door", "--off")
    assert not read_project(demo_copy).patches[1].on
    good("patch", "set", demo_copy, "Over the door", "--remove")
    assert "no mend" in sentence("patch", "set", demo_copy, "Over the door", "--remove")
    assert "already" in sentence("patch", "add", demo_copy, "ground")
    assert "corners" in sentence("patch", "add", demo_copy, "panel", "--corner", "0,0,0")
