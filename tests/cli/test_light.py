"""The light, lamps and final pictures on the command line."""

from __future__ import annotations

import json
import time
from dataclasses import replace
from pathlib import Path

import numpy as np
import OpenEXR
import pytest
from click.testing import CliRunner
from PIL import Image

from altana.cli.main import commands
from altana.core.camera.pose import Pose
from altana.core.camera.view import Lens, View
from altana.core.errors import UserError
from altana.core.light.transport import Cancelled
from altana.core.project import USUAL_QUALITIES, Walk, WalkKey
from altana.core.staging import WHOLE
from altana.jobs import run as run_module
from altana.jobs.paces import START, Job
from altana.jobs.traced_orders import Traced, TracePicture
from altana.jobs.tracing import Tracing
from altana.render.traced.engine import llvm_library
from altana.render.traced.sights import FlatSights
from altana.storage.project_file import read_project, write_project
from tests.conftest import box_between


@pytest.fixture
def house(tmp_path: Path) -> Path:
    """A wall with a courtyard, as a project."""
    import trimesh

    scene = trimesh.Scene()
    scene.add_geometry(box_between((-12, -12, -0.3), (12, 12, 0)), node_name="Ground")
    scene.add_geometry(box_between((-5, -1, 0), (5, 0, 4)), node_name="South wall")
    scene.add_geometry(box_between((1, 3, 2), (1.4, 3.4, 2.4)), node_name="Lantern 1")
    scene.export(tmp_path / "yard.glb")
    ok("new", str(tmp_path / "yard.glb"), "--out", str(tmp_path / "yard.altana"), "--up", "z", "--unit", "1")
    return tmp_path / "yard.altana"


def ok(*arguments: str) -> str:
    result = CliRunner().invoke(commands, list(arguments), catch_exceptions=False)
    assert result.exit_code == 0, result.output
    return result.stdout


def told(*arguments: str) -> dict[str, object]:
    answer: dict[str, object] = json.loads(ok(*arguments, "--json"))
    return answer


def refused(*arguments: str) -> str:
    with pytest.raises(UserError) as caught:
        CliRunner().invoke(commands, list(arguments), catch_exceptions=False)
    return caught.value.sentence


def opened(path: Path) -> np.ndarray:
    with Image.open(path) as image:
        return np.asarray(image)


def test_the_light_is_set_and_said(house: Path) -> None:
    path = str(house)
    answer = told(
        "light", path, "--place", "Konstanz", "--date", "2026-12-21", "--time", "12:00", "--north", "10",
        "--sky", "hazy",
    )  # fmt: skip
    assert (answer["zone"], answer["offset_h"], answer["time"], answer["sky"]) == (
        "Europe/Berlin",
        1.0,
        "12:00",
        "hazy",
    )
    assert answer["place"] == "Konstanz, DE"
    assert 15.0 < float(answer["elevation_deg"]) < 20.0  # type: ignore[arg-type]
    assert read_project(house).light.north_deg == 10.0
    assert told("light", path, "--place", "47°30'N 9°24'E", "--zone", "+2")["utc_offset_h"] == 2.0
    sun = told("light", "sun", path, "--at", "2026-06-21,12:00")
    assert set(sun) >= {"azimuth_deg", "elevation_deg", "direction"}
    assert np.linalg.norm(sun["direction"]) == pytest.approx(1.0, abs=1e-5)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("arguments", "word"),
    [
        (("--place", "Nowhere at all"), "no town"),
        (("--place", "99, 9"), "latitude"),
        (("--time", "25:30"), "time of day"),
        (("--date", "tomorrow"), "date"),
        (("--zone", "Mars/Base"), "time zone"),
        (("--from-model",), "does not say where"),
        (("--surroundings", "gone.hdr"), "not there"),
    ],
)
def test_what_makes_no_light_is_refused_and_changes_nothing(
    house: Path, arguments: tuple[str, ...], word: str
) -> None:
    before = house.read_bytes()
    assert word in refused("light", str(house), *arguments)
    assert house.read_bytes() == before


def test_surroundings_are_copied_into_the_folder_and_taken_away(house: Path, tmp_path: Path) -> None:
    elsewhere = tmp_path / "elsewhere"
    elsewhere.mkdir()
    pixels = np.full((32, 64, 3), 0.5, np.float32)
    pixels[0] = -1.0
    with OpenEXR.File(
        {"compression": OpenEXR.ZIP_COMPRESSION, "type": OpenEXR.scanlineimage}, {"RGB": pixels}
    ) as file:
        file.write(str(elsewhere / "sky.exr"))
    Image.new("RGB", (64, 64)).save(elsewhere / "square.png")
    outside = elsewhere / "yard"
    outside.mkdir()
    for name in (house.name, "yard.glb"):
        (outside / name).write_bytes((tmp_path / name).read_bytes())
    project = outside / house.name
    answer = told(
        "light", str(project), "--surroundings", str(elsewhere / "sky.exr"), "--turn", "30", "--as", "light"
    )
    assert answer["surroundings"] == {
        "sun_of_hour": False,
        "file": "surroundings/sky.exr",
        "use": "light",
        "turn_deg": 30.0,
        "strength_ev": 0.0,
    }
    assert (outside / "surroundings" / "sky.exr").is_file()
    assert told("light", str(project), "--sun", "hour")["surroundings"]["sun_of_hour"] is True  # type: ignore[index]
    assert "twice as wide" in refused("light", str(project), "--surroundings", str(elsewhere / "square.png"))
    (elsewhere / "broken.hdr").write_bytes(b"#?RADIANCE\nrubbish")
    assert "cannot be read" in refused("light", str(project), "--surroundings", str(elsewhere / "broken.hdr"))
    assert told("light", str(project), "--surroundings", "none")["surroundings"]["file"] == ""  # type: ignore[index]


def test_shade_says_hours_of_sun_and_what_shades(house: Path) -> None:
    path = str(house)
    told("light", path, "--place", "47.5, 9.4", "--date", "2026-03-20")
    behind = told("light", "shade", path, "--point", "0,0.5,0.1")
    free = told("light", "shade", path, "--point", "0,-6,0.1")
    assert float(behind["hours"]) < float(free["hours"]) < 12.6  # type: ignore[arg-type]
    assert {span["by"] for span in behind["shaded"]} >= {"South wall"}  # type: ignore[attr-defined]
    assert behind["sunrise"] == free["sunrise"]
    longest = told("light", "shade", path, "--point", "0,-6,0.1", "--date", "2026-06-21")
    assert float(longest["hours"]) > 15.0  # type: ignore[arg-type]


def test_lamps_are_listed_marked_and_switched(house: Path) -> None:
    path = str(house)
    assert told("lamps", path)["groups"] == []
    answer = told("lamps", path, "--mark", "Lantern 1", "--lumens", "600", "--on")
    assert answer["on"] is True
    (group,) = answer["groups"]  # type: ignore[misc]
    assert (group["group"], group["lamps"][0]["lumens"]) == ("Lantern", 600.0)  # type: ignore[index]
    answer = told("lamps", path, "set", "Lantern", "--strength", "1", "--kelvin", "2700")
    assert answer["groups"][0]["lamps"][0]["lumens"] == 1200.0  # type: ignore[index]
    assert told("lamps", path, "--level", "0.4")["level"] == 0.4
    assert "0 to 1" in refused("lamps", path, "--level", "1.5")
    assert "no group" in refused("lamps", path, "set", "Chandelier", "--off")
    assert "no object" in refused("lamps", path, "--mark", "Moon")
    assert told("lamps", path, "--unmark", "Lantern 1")["groups"] == []


def test_cameras_and_rows_have_light_of_their_own(house: Path) -> None:
    path = str(house)
    ok("camera", "add", path, "--eye", "0,-8,1.6", "--name", "Front")
    ok(
        "camera",
        "set",
        path,
        "Front",
        "--date",
        "2026-12-21",
        "--time",
        "9:30",
        "--sky",
        "overcast",
        "--lamps",
        "on",
    )
    camera = read_project(house).camera_named("Front")
    assert (camera.light.date, camera.light.hour, camera.light.sky, camera.light.lamps) == (
        "2026-12-21",
        9.5,
        "overcast",
        True,
    )
    ok("camera", "set", path, "Front", "--f-number", "2.8", "--focus", "4.5", "--blur")
    camera = read_project(house).camera_named("Front")
    assert (camera.f_number, camera.focus_m, camera.blur) == (2.8, 4.5, True)
    ok("camera", "set", path, "Front", "--time", "project", "--focus", "subject", "--no-blur")
    camera = read_project(house).camera_named("Front")
    assert (camera.light.hour, camera.focus_m, camera.blur) == (None, None, False)
    ok(
        "shots",
        "add",
        path,
        "--camera",
        "Front",
        "--hour",
        "17:30",
        "--sky",
        "hazy",
        "--quality",
        "final",
        "--samples",
        "4",
    )
    row = read_project(house).shots[0]
    assert (row.hour, row.sky, row.quality, row.samples) == (17.5, "hazy", "final", 4)
    assert "f-number" in refused("camera", "set", path, "Front", "--f-number", "0.1")


@pytest.mark.slow
@pytest.mark.skipif(not llvm_library(), reason="LLVM 19 is not installed")
def test_final_pictures_of_every_kind_come_by_path_tracing(house: Path, tmp_path: Path) -> None:
    path, out = str(house), tmp_path / "out"
    ok("camera", "add", path, "--eye", "0,-11.5,1.6", "--name", "Front", "--size", "96x54")
    ok(
        "walk",
        "add",
        path,
        "--through",
        "-3,-8",
        "--through",
        "3,-8",
        "--seconds",
        "0.2",
        "--rate",
        "10",
        "--name",
        "Past",
    )
    ok(
        "shots",
        "add",
        path,
        "--camera",
        "Front",
        "--quality",
        "final",
        "--samples",
        "3",
        "--background",
        "transparent",
        "--name",
        "cut-out",
        "--folder",
        "",
    )
    ok(
        "shots",
        "add",
        path,
        "--panorama",
        "Front",
        "--quality",
        "final",
        "--samples",
        "2",
        "--width",
        "128",
        "--name",
        "round",
        "--folder",
        "",
        "--stereo",
        "0.064",
    )
    job = tmp_path / "job"
    answer = told(
        "render",
        path,
        "--camera",
        "Front",
        "--walk",
        "Past",
        "--quality",
        "final",
        "--samples",
        "2",
        "--size",
        "96x54",
        "--out",
        str(out),
        "--job",
        str(job),
    )
    assert len(answer["files"]) == 2  # type: ignore[arg-type]
    pixels = opened(out / "front.png")
    # The camera is made as its row says.
    assert pixels.shape == (54, 96, 4) and pixels.std() > 5
    ok("shots", "set", path, "1", "--passes")
    answer = told("render", path, "--shots", "--out", str(out))
    assert str(out / "cut-out.passes.exr") in answer["files"]  # type: ignore[operator]
    with OpenEXR.File(str(out / "cut-out.passes.exr"), separate_channels=True) as file:
        layers = {name: np.array(item.pixels) for name, item in file.channels().items()}
    assert layers["albedo.R"].shape == (54, 96) and layers["A"].min() == 0.0
    assert np.array_equal(layers["CryptoObject00.G"][0] > 0.0, layers["depth.Z"][0] < 1e9)
    cut = opened(out / "cut-out.png")
    assert cut.shape[2] == 4 and cut[..., 3].min() == 0 and cut[..., 3].max() == 255
    assert opened(out / "round.jpg").shape == (128, 128, 3)
    # Rows are made as small as they are asked for, the same way; nonsense is refused.
    little = tmp_path / "little"
    told("render", path, "--shots", "--size", "64x64", "--quality", "proof", "--out", str(little))
    assert opened(little / "cut-out.png").shape == (36, 64, 4)
    told("render", path, "--shots", "--scale", "50", "--quality", "proof", "--out", str(little))
    assert opened(little / "cut-out.png").shape == (27, 48, 4)
    assert "outside 1 to 400" in refused("render", path, "--shots", "--scale", "0", "--out", str(little))
    # The same samples once more: the same bytes.
    first = (out / "front.png").read_bytes()
    told(
        "render",
        path,
        "--camera",
        "Front",
        "--quality",
        "final",
        "--samples",
        "2",
        "--size",
        "96x54",
        "--out",
        str(tmp_path / "again"),
    )
    assert (tmp_path / "again" / "front.png").read_bytes() == first


@pytest.mark.slow
@pytest.mark.slow
def test_without_the_compiler_final_says_what_to_install(
    house: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("ALTANA_TRACE_PLAIN", "1")
    ok("camera", "add", str(house), "--eye", "0,-8,1.6", "--name", "Front", "--size", "64x36")
    sentence = refused(
        "render", str(house), "--camera", "Front", "--quality", "final", "--out", str(tmp_path / "o")
    )
    assert "libllvm19" in sentence


def test_a_still_of_review_looks_for_the_light_of_its_places_and_a_proof_does_not(
    house: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("ALTANA_PIXEL_LIGHT", "1")
    monkeypatch.setenv("ALTANA_CACHE", str(tmp_path / "cache"))
    ok("camera", "add", str(house), "--eye", "0,-8,1.6", "--name", "Front", "--size", "64x36")

    def made(quality: str, out: str) -> bytes:
        told("render", str(house), "--camera", "Front", "--quality", quality, "--out", str(tmp_path / out))
        return (tmp_path / out / "front.png").read_bytes()

    made("proof", "one")
    assert not (tmp_path / "cache" / "pixels").exists()
    first = made("review", "two")
    (kept,) = (tmp_path / "cache" / "pixels").iterdir()
    written = kept.stat().st_mtime_ns
    assert made("review", "three") == first and kept.stat().st_mtime_ns == written
    ok("shots", "quality", str(house), "review", "light_rays=0")
    assert made("review", "four") != first


def test_projects_of_before_get_the_light_of_what_review_shows(house: Path) -> None:
    content = json.loads(house.read_text())
    del content["qualities"]["review"]["light_rays"]
    house.write_text(json.dumps(content))
    assert read_project(house).qualities == USUAL_QUALITIES
    # What somebody had set stays as it was, and no rays where none are wanted.
    house.write_text(json.dumps({**content, "qualities": {"review": {"passes": 9, "film_passes": 8}}}))
    assert read_project(house).qualities.review.light_rays == 0
    ok("shots", "quality", str(house), "review", "light_rays=0", "passes=8")
    assert read_project(house).qualities.review == replace(USUAL_QUALITIES.review, light_rays=0)
    assert "0 rays of light" in ok("shots", "quality", str(house))


def test_projects_of_before_get_what_final_stands_for_now(house: Path) -> None:
    content = json.loads(house.read_text())
    content["version"] = 6
    content["qualities"]["final"] = {"passes": 32, "film_passes": 32, "shadow_px": 4096}
    for field in ("place", "zone", "north_deg", "sky", "surroundings", "lamps"):
        del content["light"][field]
    house.write_text(json.dumps(content))
    project = read_project(house)
    assert project.qualities.final.samples == 64
    write_project(house, project)
    assert json.loads(house.read_text())["version"] == 7


@pytest.mark.slow
def test_hours_of_sun_come_as_picture_and_figures(house: Path, tmp_path: Path) -> None:
    """At noon's side of a wall there is sun all day, behind it hardly any; open ground has the whole day."""
    path = str(house)
    ok("light", path, "--place", "47.7 N 9.2 E", "--zone", "Europe/Berlin", "--date", "2026-12-21")
    out = tmp_path / "sheets" / "plan.png"
    answer = told("light", "hours", path, "--storey", first_storey(path), "--out", str(out))
    picture = opened(out)
    assert picture.shape[1] > 900 and answer["files"] == [str(out), str(out.with_suffix(".csv"))]
    rows = np.loadtxt(out.with_suffix(".csv"), delimiter=",", skiprows=1)
    behind = rows[(np.abs(rows[:, 2]) < 3) & (rows[:, 3] > 0.3) & (rows[:, 3] < 1.5)]
    before = rows[(np.abs(rows[:, 2]) < 3) & (rows[:, 3] < -1.5) & (rows[:, 3] > -4.0)]
    assert behind[:, 5].max() < 1.1 and before[:, 5].min() > 6.5
    assert answer["most"] == pytest.approx(before[:, 5].max(), abs=0.51)
    row, other = behind[len(behind) // 2], before[len(before) // 2]
    dark, bright = (picture[int(item[1]), int(item[0]), :3].astype(int) for item in (row, other))
    assert dark[2] > dark[0] and bright[0] > bright[2]


def test_hours_of_sun_in_a_camera_s_view(house: Path, tmp_path: Path) -> None:
    path, out = str(house), tmp_path / "view.png"
    ok("light", path, "--place", "47.7 N 9.2 E", "--zone", "Europe/Berlin", "--date", "2026-03-20")
    ok("camera", "add", path, "--name", "South", "--eye", "0,-9,1.6", "--aim", "0,0,1.6")
    answer = told("light", "hours", path, "--camera", "South", "--width", "160", "--out", str(out))
    rows = np.loadtxt(out.with_suffix(".csv"), delimiter=",", skiprows=1)
    wall = rows[(rows[:, 4] > 0.5) & (rows[:, 4] < 3.5) & (np.abs(rows[:, 2]) < 4.5)]
    assert len(wall) > 20 and wall[:, 5].min() > 11.0  # a south wall at the equinox: the whole day
    year = told("light", "hours", path, "--camera", "South", "--width", "64", "--year", "--out", str(out))
    assert isinstance(year["mean"], float) and year["mean"] != answer["mean"]
    both = CliRunner().invoke(commands, ["light", "hours", path, "--out", str(out)])
    assert both.exit_code == 2
    assert "no camera" in refused("light", "hours", path, "--camera", "None", "--out", str(out))


def first_storey(path: str) -> str:
    said = refused("light", "hours", path, "--storey", "no such storey", "--out", "x.png")
    return said.split("Storeys: ")[1].split(",")[0].rstrip(".")


def test_a_shade_study_of_the_plan(house: Path) -> None:
    answer = told(
        "light", "study", str(house), "--above", "--from", "10:00", "--to", "14:00", "--step", "2:00"
    )
    assert [row["time"] for row in answer] == ["10:00", "12:00", "14:00"]  # type: ignore[index]
    told("light", "study", str(house), "--above", "--from", "16:00", "--to", "16:00")
    project = read_project(house)
    assert [item.name for item in project.cameras] == ["From above"] and len(project.shots) == 4
    assert "no storey" in refused("light", "study", str(house), "--above", "--storey", "Attic").lower()
    for odd in (["--above", "--camera", "x"], ["--camera", "x", "--storey", "Attic"], []):
        assert CliRunner().invoke(commands, ["light", "study", str(house), *odd]).exit_code == 2


def an_hour(walk: Walk) -> tuple[WalkKey, ...]:
    """The keys of a walk, with the sun moving from twelve to one."""
    return tuple(
        replace(key, hour=12.0 + number) if key.hour is not None else key
        for number, key in enumerate(walk.keys)
    )


@pytest.mark.slow
def test_a_shade_study_is_rows_and_a_film_of_the_day(
    house: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    # Every hour has a soft light of its own; few points will do for a yard.
    monkeypatch.setenv("ALTANA_LIGHT_POINTS", "1500")
    path = str(house)
    ok("light", path, "--place", "47.7 N 9.2 E", "--zone", "Europe/Berlin", "--date", "2026-03-20")
    ok("camera", "add", path, "--name", "Yard", "--eye", "0,-9,4", "--aim", "0,0,1")
    told(
        "light",
        "study",
        path,
        "--camera",
        "Yard",
        "--from",
        "9:00",
        "--to",
        "17:00",
        "--step",
        "4:00",
        "--film",
    )
    project = read_project(house)
    assert [row.hour for row in project.shots] == [9.0, 13.0, 17.0, None]
    walk = project.walks[-1]
    assert project.shots[-1].kind == "film" and walk.keys[0].hour < 7.0 and walk.keys[1].hour > 18.0
    write_project(
        house,
        replace(
            project,
            cameras=tuple(replace(item, width_px=192, height_px=108) for item in project.cameras),
            # An hour of the day is enough to be filmed: each hour has a light of its own, which is reckoned
            # first.
            walks=(replace(walk, seconds=1.0, rate="4", width_px=192, height_px=108, keys=an_hour(walk)),),
        ),
    )
    for place in (1, 2, 3, 4):
        ok("shots", "set", path, str(place), "--quality", "review")
    answer = told("render", path, "--shots", "--out", str(tmp_path / "out"))
    assert answer
    stills = sorted((tmp_path / "out").rglob("2026-03-20-*.png"))
    assert [item.stem[-4:] for item in stills] == ["0900", "1300", "1700"]
    morning, noon, evening = (opened(item)[60:, :, :3].astype(float).mean() for item in stills)
    # The front that fills the picture looks south: the sun stands before it at noon, and aside in the morning
    # and in the evening.
    assert noon > morning + 10.0
    assert noon > evening + 10.0
    assert list((tmp_path / "out").rglob("*.mp4"))


@pytest.mark.slow
@pytest.mark.skipif(not llvm_library(), reason="final needs LLVM")
def test_until_clean_stops_when_hardly_any_grain_is_left(house: Path, tmp_path: Path) -> None:
    """Sixteen samples at least, as many as are allowed at most; then the same bytes as with just so many."""
    project = read_project(house)
    view = View(Pose((0.0, -9.0, 1.6)), Lens(24.0), 64, 36)
    tracing = Tracing(project, house.parent, tmp_path)
    try:

        def samples(grain: float, most: int) -> Traced:
            order = TracePicture(FlatSights(view), project.light, WHOLE, 13.0, most, grain=grain)
            return tracing.trace(order, lambda _: True)

        few, all_of_them = samples(100.0, 40), samples(1e-9, 20)
        assert few.samples == 16 and all_of_them.samples == 20
        assert (samples(0.0, 16).light == few.light).all()
    finally:
        tracing.close()
    ok("camera", "add", str(house), "--name", "South", "--eye", "0,-9,1.6", "--size", "32x18")
    ok("shots", "add", str(house), "--camera", "South", "--quality", "final", "--until-clean")
    assert read_project(house).shots[0].until_clean
    ok("render", str(house), "--shots", "--out", str(tmp_path / "out"))
    assert opened(next((tmp_path / "out").rglob("*.png"))).shape[:2] == (18, 32)


@pytest.mark.slow
@pytest.mark.skipif(not llvm_library(), reason="final needs LLVM")
def test_a_traced_picture_broken_off_goes_on_where_it_was(house: Path, tmp_path: Path) -> None:
    """Another process takes the samples that were kept, adds the rest, and ends with the same bytes."""
    project = read_project(house)
    view = View(Pose((0.0, -9.0, 1.6)), Lens(24.0), 96, 54)
    order = TracePicture(FlatSights(view), project.light, WHOLE, 13.0, 24)
    whole = Tracing(project, house.parent)
    straight = whole.trace(order, lambda _: True)
    whole.close()
    job = tmp_path / "job"
    job.mkdir()
    first = Tracing(project, house.parent, job)
    with pytest.raises(Cancelled):
        first.trace(order, lambda share: share < 0.3)
    deadline = time.monotonic() + 120.0
    while not list(job.glob("traced-*.npz")):
        assert time.monotonic() < deadline, "what was gathered is kept"
        time.sleep(0.05)
    with np.load(next(job.glob("traced-*.npz"))) as kept:
        assert 7 <= int(kept["samples"]) < 24
    second, shares = Tracing(project, house.parent, job), []
    again = second.trace(order, lambda share: shares.append(share) is None)
    second.close()
    assert (again.light == straight.light).all() and again.samples == 24
    assert min(share for share in shares if share > 0.0) >= 8 / 24
    assert not list(job.glob("traced-*.npz"))


@pytest.mark.slow
@pytest.mark.skipif(not llvm_library(), reason="final needs LLVM")
def test_a_picture_with_other_samples_teaches_no_pace(
    house: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """What ends early by time or grain says nothing of how long samples take; what got its samples does."""
    learnt: list[str] = []

    def learn(job: Job, *_: object) -> None:
        # How long starting takes says nothing of samples.
        learnt.extend([job.name] if job.name != START else [])

    monkeypatch.setattr(run_module, "learn", learn)
    ok(
        "camera",
        "add",
        str(house),
        "--name",
        "South",
        "--eye",
        "0,-9,1.6",
        "--aim",
        "0,0,1",
        "--size",
        "32x18",
    )
    ok("shots", "add", str(house), "--camera", "South", "--quality", "final", "--minutes", "0.01")
    ok("render", str(house), "--shots", "--out", str(tmp_path / "by-time"))
    assert learnt == []
    ok("shots", "set", str(house), "1", "--minutes", "0", "--samples", "3")
    ok("render", str(house), "--shots", "--out", str(tmp_path / "counted"))
    assert len(learnt) == 1 and learnt[0].startswith("traced")
    counted = json.loads(ok("shots", "list", str(house), "--json"))[0]["seconds"]
    ok("shots", "set", str(house), "1", "--until-clean")
    assert json.loads(ok("shots", "list", str(house), "--json"))[0]["seconds"] > counted


@pytest.mark.slow
def test_hours_of_sun_over_ground_alone(tmp_path: Path) -> None:
    """Where nothing is cut the plan shows the whole model, wherever it lies."""
    import trimesh

    trimesh.Scene(box_between((300, 200, -0.5), (340, 220, 0))).export(tmp_path / "field.glb")
    path = str(tmp_path / "field.altana")
    ok("new", str(tmp_path / "field.glb"), "--out", path, "--up", "z", "--unit", "1")
    out = tmp_path / "sun.png"
    ok("light", "hours", path, "--storey", first_storey(path), "--out", str(out))
    rows = np.loadtxt(out.with_suffix(".csv"), delimiter=",", skiprows=1)
    assert rows[:, 2].min() > 299.0 and rows[:, 2].max() < 341.0
    assert rows[:, 5].min() > 6.0
