"""The shot list from the command line."""

from __future__ import annotations

import json
import math
from pathlib import Path

import pytest
from PIL import Image

from altana.storage.project_file import read_project, write_project
from tests.cli.test_commands import good, sentence

HALL = "Waiting hall to the water"


@pytest.fixture
def bare(demo_copy: Path) -> Path:
    """The demo without its shot list."""
    project = read_project(demo_copy)
    good("shots", "remove", demo_copy, *(item.id for item in project.shots))
    return demo_copy


def test_the_demos_list_has_a_row_of_every_kind(demo_copy: Path) -> None:
    rows = json.loads(good("shots", "list", demo_copy, "--json"))
    assert len(rows) == 16
    assert {row["kind"] for row in rows} == {"still", "panorama", "film"}
    assert {row["rendition"] for row in rows} == {"materials", "lines", "pencil"}
    assert [row["wrong"] for row in rows] == [""] * 16
    assert len({row["file_name"] for row in rows}) == 16
    assert max(row["dpi"] for row in rows) == 600.0
    dusk = next(row for row in rows if row["lamps"])
    assert dusk["quality"] == "final" and dusk["hour"] > 21
    assert len({row["hour"] for row in rows if row["folder"].startswith("shade")}) == 3
    assert all(row["seconds"] > 0 and row["bytes"] > 0 for row in rows)


def test_rows_are_added_set_moved_and_made(bare: Path, tmp_path: Path) -> None:
    good(
        "shots",
        "add",
        bare,
        "--camera",
        HALL,
        "--format",
        "Square 1:1",
        "--width",
        "120",
        "--quality",
        "proof",
        "--dpi",
        "200",
    )
    good("shots", "add", bare, "--walk", "Round the terminal", "--panorama", HALL, "--quality", "proof")
    rows = json.loads(good("shots", "list", bare, "--json"))
    assert [(row["kind"], row["format_index"]) for row in rows] == [
        ("still", 1),
        ("film", 0),
        ("panorama", 0),
    ]
    assert rows[0]["size"] == [120, 120]
    good("shots", "move", bare, "1", "3")
    assert [row["kind"] for row in json.loads(good("shots", "list", bare, "--json"))] == [
        "film",
        "panorama",
        "still",
    ]
    good(
        "shots",
        "set",
        bare,
        "3",
        "--drawn",
        "lines",
        "--style",
        "outline_px=3",
        "--name",
        "{camera}-{kind}",
        "--folder",
        "x/{project}",
    )
    good("shots", "set", bare, "1", "2", "--off")
    answer = json.loads(good("render", bare, "--shots", "--out", tmp_path / "out", "--json"))
    (path,) = (Path(name) for name in answer["files"])
    assert (
        path.relative_to(tmp_path / "out").as_posix()
        == "x/larkwater-ferry-terminal/waiting-hall-to-the-water-lines.png"
    )
    with Image.open(path) as image:
        assert image.size == (120, 120)
        assert image.info["dpi"][0] == pytest.approx(200, abs=0.02)
    record = json.loads(good("remembered", path, "--json"))
    assert (record["camera"]["name"], record["project"]) == (HALL, "Larkwater ferry terminal")
    assert "set aside" not in json.dumps(answer)


def test_tone_presets_and_print_width(bare: Path, tmp_path: Path) -> None:
    good(
        "shots", "add", bare, "--camera", HALL, "--camera", "Lookout", "--print-width", "100", "--dpi", "300"
    )
    good("shots", "tone", bare, "contrast=0.2", "exposure_ev=-0.5", "curve=0.25:0.2/0.75:0.8")
    good("shots", "set", bare, "1", "--print-width", "4in")
    assert [shot.width_px for shot in read_project(bare).shots] == [1200, 1181]
    assert "not a length" in sentence("shots", "set", bare, "1", "--print-width", "wide")
    assert read_project(bare).tone.curve == ((0.25, 0.2), (0.75, 0.8))
    good("shots", "set", bare, "1", "--tone", "glow=0.1", "--region", "0.1,0.1,0.5,0.5", "--hour", "9")
    project = read_project(bare)
    assert (project.tone.contrast, project.tone.exposure_ev) == (0.2, -0.5)
    assert project.shots[0].tone is not None and project.shots[0].tone.contrast == 0.2
    assert (project.shots[0].width_px, project.shots[0].hour, project.shots[0].region) == (
        1200,
        9.0,
        (0.1, 0.1, 0.5, 0.5),
    )
    good("shots", "preset", bare, "1", "--save", tmp_path / "p.altana-preset")
    good("shots", "preset", bare, "2", "--use", tmp_path / "p.altana-preset")
    assert read_project(bare).shots[1].hour == 9.0
    good("shots", "set", bare, "1", "--tone", "project", "--region", "whole", "--hour", "project")
    assert (read_project(bare).shots[0].tone, read_project(bare).shots[0].region) == (None, None)


def test_what_cannot_be_is_said_in_one_sentence(bare: Path, tmp_path: Path) -> None:
    good("shots", "add", bare, "--camera", HALL)
    assert "no row “7”" in sentence("shots", "set", bare, "7", "--off")
    assert "no field of a name" in sentence("shots", "set", bare, "1", "--name", "{weather}")
    assert "no format" in sentence("shots", "set", bare, "1", "--format", "Round")
    assert "is none of" in sentence("shots", "tone", bare, "mood=1")
    assert "LEFT,TOP,RIGHT,BOTTOM" in sentence("shots", "set", bare, "1", "--region", "1,2")
    assert "Nothing of the shot list" in sentence("shots", "pages", bare, "--out", tmp_path)
    good(
        "shots",
        "set",
        bare,
        "1",
        "--background",
        "picture",
        "--background-file",
        "gone.png",
        "--width",
        "64",
        "--quality",
        "proof",
    )
    assert "set aside" in sentence("render", bare, "--shots", "--out", tmp_path)
    good("shots", "set", bare, "1", "--off")
    assert "No row of the shot list is on" in sentence("render", bare, "--shots", "--out", tmp_path)


def test_a_panorama_without_a_row_and_a_command_at_the_end(bare: Path, tmp_path: Path) -> None:
    before = read_project(bare)
    done = tmp_path / "done"
    ask = (
        "render",
        bare,
        "--panorama",
        HALL,
        "--size",
        "256x128",
        "--quality",
        "proof",
        "--kind",
        "jpg",
        "--faces",
    )
    answer = json.loads(good(*ask, "--out", tmp_path, "--after", f"touch {done}", "--json"))
    assert len(answer["files"]) == 7
    with Image.open(tmp_path / "waiting-hall-to-the-water-panorama.jpg") as image:
        assert image.size == (256, 128)
        assert b"equirectangular" in image.info["xmp"]
    assert done.exists()
    # The project is as it was.
    assert read_project(bare) == before
    write_project(bare, before)


def test_line_styles_by_name_and_as_files(bare: Path, tmp_path: Path) -> None:
    good(
        "shots",
        "add",
        bare,
        "--camera",
        HALL,
        "--camera",
        "Lookout",
        "--drawn",
        "pencil",
        "--line-style",
        "Soft pencil",
    )
    assert [shot.style.name for shot in read_project(bare).shots] == ["Soft pencil"] * 2
    good("shots", "set", bare, "1", "--style", "ink=#102030", "--style", "seed=7")
    assert "changed" in good("shots", "style", bare, "1")
    good("shots", "style", bare, "1", "--save", tmp_path / "blue hand")
    good("shots", "set", bare, "2", "--line-style", tmp_path / "blue hand.altana-style")
    style = read_project(bare).shots[1].style
    assert (style.name, style.ink, style.seed, style.hatching) == ("blue hand", "#102030", 7, 0.9)
    assert len(json.loads(good("shots", "style", bare, "--json"))) >= 6
    assert "no line style" in sentence("shots", "set", bare, "1", "--line-style", "chalk")
    (tmp_path / "bad.altana-style").write_text(json.dumps({"kind": "altana-style", "outline_px": 900}))
    assert "0.2 to 40 px" in sentence(
        "shots", "set", bare, "1", "--line-style", tmp_path / "bad.altana-style"
    )
    (tmp_path / "other.altana-style").write_text(json.dumps({"kind": "altana-preset"}))
    assert "no line style of Altana" in sentence(
        "shots", "set", bare, "1", "--line-style", tmp_path / "other.altana-style"
    )


def test_the_figures_behind_a_word_are_set_and_count(bare: Path) -> None:
    good("shots", "add", bare, "--camera", HALL, "--quality", "review")
    before = json.loads(good("shots", "list", bare, "--json"))[0]["seconds"]
    good("shots", "quality", bare, "review", "passes=80")
    assert json.loads(good("shots", "quality", bare, "--json"))["review"]["passes"] == 80
    assert json.loads(good("shots", "list", bare, "--json"))[0]["seconds"] > 3.0 * before
    assert "80 passes" in good("shots", "quality", bare)
    good("shots", "quality", bare, "review", "usual")
    assert read_project(bare).qualities.review.passes == 8
    assert "256" in sentence("shots", "quality", bare, "final", "passes=9999")


def test_ground_front_and_what_a_row_alone_leaves_out(bare: Path) -> None:
    good(
        "shots",
        "add",
        bare,
        "--camera",
        "Quay, morning",
        "--ground",
        "plain",
        "--ground-colour",
        "#445566",
        "--background",
        "paper white",
    )
    good("shots", "add", bare, "--panorama", HALL, "--front", "Lookout")
    good("leave-out", bare, "--row", "1", "--category", "Furniture")
    project = read_project(bare)
    still, pano = project.shots
    assert (still.ground, still.ground_colour, still.background) == ("plain", "#445566", "paper white")
    assert still.left_out.categories == ("Furniture",)
    assert not project.left_out and not project.cameras[0].left_out
    hall, lookout = (project.camera_named(name) for name in (HALL, "Lookout"))
    east, north = (lookout.eye[axis] - hall.eye[axis] for axis in (0, 1))
    assert pano.front_deg == pytest.approx(math.degrees(math.atan2(east, north)) % 360.0, abs=0.01)
    good("shots", "set", bare, "2", "--front", f"{hall.eye[0] - 5},{hall.eye[1]}")
    assert read_project(bare).shots[1].front_deg == pytest.approx(270.0)
    good("shots", "set", bare, "2", "--front", "45")
    assert read_project(bare).shots[1].front_deg == 45.0
    good("shots", "set", bare, "2", "--front", "camera")
    assert read_project(bare).shots[1].front_deg is None
    assert "Only a panorama" in sentence("shots", "set", bare, "1", "--front", "45")


def test_exposure_is_taken_from_the_picture(bare: Path) -> None:
    before = read_project(bare)
    exposure = json.loads(good("camera", "expose", bare, HALL, "Quay, morning", "--only-say", "--json"))
    assert read_project(bare) == before
    hall, quay = (item["ev"] for item in exposure)
    assert hall < quay
    assert exposure[0]["as"].startswith("f/")
    good("camera", "expose", bare, HALL)
    after = read_project(bare)
    assert after.camera_named(HALL).ev == hall
    assert after.camera_named("Quay, morning").ev == before.camera_named("Quay, morning").ev
