"""The shot list made: right files, same bytes again, rows set aside, full disks, pauses, orders, kills, tone
without drawing."""

from __future__ import annotations

import errno
import io
import json
import random
import re
import subprocess
import sys
import threading
import time
import zipfile
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
import tifffile
from PIL import Image
from pypdf import PdfReader

from altana.core.conventions import Vec3
from altana.core.edits.shots import add_shots, change_shots, set_making, set_tone, start_values
from altana.core.errors import UserError
from altana.core.geometry.rays import RayScene
from altana.core.project import (
    FILM,
    LINES,
    PANORAMA,
    PAPER,
    PENCIL,
    PICTURE,
    PLAIN,
    SKY,
    TRANSPARENT,
    WHITE_CARD,
    Making,
    Project,
    Tone,
)
from altana.core.staging import Lookup
from altana.jobs import estimates, paces
from altana.jobs import item_files as item_files_module
from altana.jobs import run as run_module
from altana.jobs.behind import horizon_row, over
from altana.jobs.estimates import doubts
from altana.jobs.job_files import BEFORE_FOLDER, ORDER_FILE, PAUSE_FILE, master_path
from altana.jobs.light import light_of
from altana.jobs.models import Opened
from altana.jobs.pages import client_zip, contact_sheet, write_pages
from altana.jobs.picture import PictureWork
from altana.jobs.presentation import presentation
from altana.jobs.remembered import remembered
from altana.jobs.requests import Film, Pano, Picture, Request
from altana.jobs.rows import shared as rows_module
from altana.jobs.rows.panoramas import Panoramas
from altana.jobs.rows.shared import Rows
from altana.jobs.rows.stills import Stills
from altana.jobs.run import Run
from altana.jobs.shotlist import chosen_rows, fitted, near_things, rows_of, shot_request, sized, trial
from altana.jobs.shown import ClientPicture, shown_of
from altana.render.encode import exr_light
from altana.render.quality import Quality
from altana.render.renderer import Renderer
from altana.storage.files import write_atomically
from altana.storage.presets import preset_json, read_preset
from altana.storage.project_file import read_project, write_project
from tests.conftest import picture_at


@pytest.fixture(scope="module")
def small(demo_project: Project) -> Project:
    """The demo with a shot list of small proofs, one of each kind."""
    walks = tuple(
        replace(walk, seconds=0.5, rate="12", width_px=96, height_px=54) for walk in demo_project.walks
    )
    project = replace(
        demo_project,
        shots=(),
        walks=walks,
        cameras=tuple(replace(c, in_shot_list=False) for c in demo_project.cameras),
    )
    hall, quay = (project.camera_named(name).id for name in ("Waiting hall to the water", "Quay, morning"))
    base = replace(start_values(project, "still", hall), width_px=96, quality="proof")
    rows = [
        base,
        replace(base, rendition=WHITE_CARD, keep_master=False, file="png16", dpi=300.0),
        replace(base, rendition=LINES, keep_master=False, folder="drawings"),
        replace(base, rendition=PENCIL, keep_master=False, folder="drawings"),
        replace(base, subject=quay, background=TRANSPARENT, file="tif", dpi=600.0),
        replace(
            base, subject=quay, background=PLAIN, background_colour="#ffcc00", file="jpg", keep_master=False
        ),
        replace(base, file="exr", region=(0.25, 0.25, 0.75, 0.75), keep_master=False),
        replace(start_values(project, PANORAMA, hall), width_px=128, quality="proof", faces=True),
        replace(start_values(project, FILM, "walk-01"), quality="proof"),
    ]
    return add_shots(project, rows)


def made(project: Project, opened: Opened, out: Path, job: Path | None = None, **values: object) -> Run:
    request = shot_request(chosen_rows(rows_of(project, opened.model)), project)
    run = Run(request, opened, out, job, **values)  # type: ignore[arg-type]
    run.go()
    return run


def files_of(out: Path) -> dict[str, bytes]:
    return {
        path.relative_to(out).as_posix(): path.read_bytes()
        for path in sorted(out.rglob("*"))
        if path.is_file()
    }


def unlike(one: dict[str, bytes], other: dict[str, bytes]) -> list[str]:
    """The files that only one has, or that are not the same, by name: bytes tell a reader nothing."""
    return sorted(name for name in one.keys() | other.keys() if one.get(name) != other.get(name))


@pytest.fixture(scope="module")
def whole(small: Project, demo_opened: Opened, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The whole list, made once."""
    out = tmp_path_factory.mktemp("whole")
    run = made(small, demo_opened, out, out.parent / "whole-job")
    assert run.aside == {}
    return out


def test_every_row_becomes_its_file(whole: Path) -> None:
    names = {name for name in files_of(whole) if not name.endswith(".camera.json")}
    assert names == {
        "stills/inside/01-waiting-hall-to-the-water-screen-16-9.png",
        "stills/inside/02-waiting-hall-to-the-water-screen-16-9.png",
        "drawings/03-waiting-hall-to-the-water-screen-16-9.png",
        "drawings/04-waiting-hall-to-the-water-screen-16-9.png",
        "stills/inside/05-quay-morning-screen-16-9.tif",
        "stills/inside/06-quay-morning-screen-16-9.jpg",
        "stills/inside/07-waiting-hall-to-the-water-screen-16-9.exr",
        "panoramas/08-waiting-hall-to-the-water-panorama.jpg",
        *(
            f"panoramas/08-waiting-hall-to-the-water-panorama-{face}.jpg"
            for face in ("front", "right", "back", "left", "up", "down")
        ),
        "films/09-up-the-stair-to-the-gallery.mp4",
        "masters/stills/inside/01-waiting-hall-to-the-water-screen-16-9.exr",
        "masters/stills/inside/05-quay-morning-screen-16-9.exr",
        "masters/panoramas/08-waiting-hall-to-the-water-panorama.exr",
    }
    plain = picture_at(whole / "stills/inside/01-waiting-hall-to-the-water-screen-16-9.png")
    assert plain.shape == (54, 96, 3)
    with Image.open(whole / "stills/inside/02-waiting-hall-to-the-water-screen-16-9.png") as image:
        assert image.info["dpi"][0] == pytest.approx(300, abs=0.02)
    lines, pencil = (
        picture_at(whole / f"drawings/0{number}-waiting-hall-to-the-water-screen-16-9.png").astype(int)
        for number in (3, 4)
    )
    # Paper, with ink on it.
    for drawing in (lines, pencil):
        assert np.median(drawing) > 200
        assert drawing.min() < 215
    cut_out = tifffile.imread(whole / "stills/inside/05-quay-morning-screen-16-9.tif")
    assert cut_out.shape[2] == 4 and cut_out.dtype == np.uint16
    assert (cut_out[..., 3] == 0).mean() > 0.1 and (cut_out[..., 3] == 65535).mean() > 0.1
    sky = picture_at(whole / "stills/inside/06-quay-morning-screen-16-9.jpg")
    assert np.abs(sky[2, 5].astype(int) - (255, 204, 0)).max() < 12
    region = exr_light(whole / "stills/inside/07-waiting-hall-to-the-water-screen-16-9.exr")
    assert region.shape == (27, 48, 3)
    assert picture_at(whole / "panoramas/08-waiting-hall-to-the-water-panorama.jpg").shape == (64, 128, 3)


@pytest.mark.slow
def test_made_again_all_bytes_are_the_same(
    whole: Path, small: Project, demo_opened: Opened, tmp_path: Path
) -> None:
    made(small, demo_opened, tmp_path / "again")
    assert unlike(files_of(tmp_path / "again"), files_of(whole)) == []


def test_pictures_remember_their_camera(whole: Path, small: Project, tmp_path: Path) -> None:
    hall = small.camera_named("Waiting hall to the water")
    for name in (
        "stills/inside/01-waiting-hall-to-the-water-screen-16-9.png",
        "stills/inside/02-waiting-hall-to-the-water-screen-16-9.png",
        "stills/inside/06-quay-morning-screen-16-9.jpg",
        "stills/inside/05-quay-morning-screen-16-9.tif",
        "stills/inside/07-waiting-hall-to-the-water-screen-16-9.exr",
        "panoramas/08-waiting-hall-to-the-water-panorama.jpg",
    ):
        # Without the file beside it: what is written into it is enough.
        copy = tmp_path / Path(name).name
        copy.write_bytes((whole / name).read_bytes())
        record = remembered(copy)
        assert record.project == "Larkwater ferry terminal"
        wanted = hall if "hall" in name else small.camera_named("Quay, morning")
        assert record.camera.view() == wanted.view()
    stripped = tmp_path / "stripped.png"
    Image.new("RGB", (4, 4)).save(stripped)
    with pytest.raises(UserError, match="remembers no camera"):
        remembered(stripped)
    (tmp_path / "stripped.png.camera.json").write_text('{"camera": {"id": 1}}')
    with pytest.raises(UserError, match="remembers no camera"):
        remembered(stripped)
    (tmp_path / "torn.jpg").write_bytes(b"\xff\xd8\xff\xe0")
    with pytest.raises(UserError, match="cannot be read"):
        remembered(tmp_path / "torn.jpg")


def masters_counted(monkeypatch: pytest.MonkeyPatch) -> list[int]:
    """Grows by one with every master that is drawn from now on."""
    drawn: list[int] = []
    master = Renderer.master

    def counted(self: Renderer, *args: object, **values: object) -> object:
        drawn.append(1)
        return master(self, *args, **values)  # type: ignore[arg-type]

    monkeypatch.setattr(Renderer, "master", counted)
    return drawn


def test_tone_is_changed_without_drawing_again(
    whole: Path, small: Project, demo_opened: Opened, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    one = replace(small, shots=small.shots[:1])
    made(one, demo_opened, tmp_path)
    drawn = masters_counted(monkeypatch)
    name = small.shots[0]
    path = tmp_path / "stills/inside/01-waiting-hall-to-the-water-screen-16-9.png"
    before = picture_at(path).astype(int)
    brighter = set_tone(one, Tone(exposure_ev=1.0))
    made(brighter, demo_opened, tmp_path)
    assert drawn == []
    after = picture_at(path).astype(int)
    assert after.mean() > before.mean() + 10
    # The last version stays beside it.
    assert (picture_at(path.parent / BEFORE_FOLDER / path.name).astype(int) == before).all()
    # The same bytes as if it had been drawn under that tone at once.
    fresh = tmp_path / "fresh"
    made(brighter, demo_opened, fresh)
    assert drawn == [1]
    assert (fresh / path.relative_to(tmp_path)).read_bytes() == path.read_bytes()
    # Another camera is another picture.
    moved = replace(
        brighter,
        cameras=tuple(
            replace(c, heading_deg=c.heading_deg + 5.0) if c.id == name.subject else c
            for c in brighter.cameras
        ),
    )
    made(moved, demo_opened, tmp_path)
    assert drawn == [1, 1]
    assert master_path(tmp_path, "a/b.png") == tmp_path / "masters" / "a" / "b.exr"


@pytest.mark.slow
@pytest.mark.parametrize(
    "behind", [{"background": SKY, "ground": PLAIN}, {"background": TRANSPARENT}, {"background": PLAIN}]
)
def test_masters_with_coverage_are_used_again_too(
    small: Project,
    demo_opened: Opened,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
    behind: dict[str, str],
) -> None:
    quay = next(shot for shot in small.shots if shot.background == TRANSPARENT)
    row = replace(quay, file="png", dpi=0.0, pattern="quay", **behind)  # type: ignore[arg-type]
    project = add_shots(replace(small, shots=()), [row])
    made(project, demo_opened, tmp_path)
    first = files_of(tmp_path)
    assert any(name.startswith("masters/") for name in first)
    drawn = masters_counted(monkeypatch)
    made(project, demo_opened, tmp_path)
    assert (drawn, files_of(tmp_path)) == ([], first)
    # Another colour behind is no other picture of the building.
    other = change_shots(project, [project.shots[0].id], background_colour="#112233", ground_colour="#445566")
    made(other, demo_opened, tmp_path)
    assert drawn == []
    made(other, demo_opened, tmp_path / "fresh")
    name = f"{row.folder}/quay.png"
    assert drawn == [1] and (tmp_path / name).read_bytes() == (tmp_path / "fresh" / name).read_bytes()


def test_a_row_that_fails_is_set_aside_and_the_rest_goes_on(
    small: Project, demo_opened: Opened, tmp_path: Path
) -> None:
    rows = change_shots(
        replace(small, shots=small.shots[:3]), ["shot-02"], background=PICTURE, background_file="gone.png"
    )
    run = made(rows, demo_opened, tmp_path / "out", tmp_path / "job")
    assert list(run.aside) == ["stills/inside/02-waiting-hall-to-the-water-screen-16-9.png"]
    assert "gone.png cannot be read" in next(iter(run.aside.values()))
    assert len(list((tmp_path / "out").rglob("0*.png"))) == 2
    events = [json.loads(line) for line in (tmp_path / "job" / "journal.jsonl").read_text().splitlines()]
    assert [event["file"] for event in events if event["event"] == "aside"] == list(run.aside)
    assert events[-1]["event"] == "done"


def test_what_breaks_inside_is_tried_three_times_and_told(
    small: Project, demo_opened: Opened, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    tries: list[int] = []

    def broken(self: Stills, item: Picture, told: object) -> None:
        tries.append(1)
        raise ZeroDivisionError("inside")

    monkeypatch.setattr(Stills, "still", broken)
    run = made(replace(small, shots=small.shots[:2]), demo_opened, tmp_path)
    assert len(tries) == 6
    assert all(
        "could not be made" in sentence and "Traceback" not in sentence for sentence in run.aside.values()
    )


def test_a_full_disk_pauses_and_goes_on_when_there_is_room(
    small: Project, demo_opened: Opened, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    full = threading.Event()
    full.set()

    def write(path: Path, data: bytes, kept: str = "") -> None:
        if full.is_set() and path.suffix == ".png":
            cause = OSError(errno.ENOSPC, "full")
            raise UserError(f"{path.name} was not written: the disk is full.") from cause
        write_atomically(path, data, kept)

    monkeypatch.setattr(item_files_module, "write_atomically", write)
    usage = run_module.shutil.disk_usage
    monkeypatch.setattr(
        run_module.shutil,
        "disk_usage",
        lambda path: usage(path)._replace(free=0) if full.is_set() else usage(path),
    )
    journal = tmp_path / "job" / "journal.jsonl"

    def make_room() -> None:
        while not (journal.is_file() and '"paused"' in journal.read_text()):
            time.sleep(0.05)
        full.clear()

    threading.Thread(target=make_room, daemon=True).start()
    run = made(
        replace(small, shots=small.shots[:1]), demo_opened, tmp_path / "out", tmp_path / "job", patient=True
    )
    assert run.aside == {}
    assert len(list((tmp_path / "out").rglob("0*.png"))) == 1
    events = [json.loads(line) for line in journal.read_text().splitlines()]
    paused = next(event for event in events if event["event"] == "paused")
    assert "disk is full" in paused["sentence"] and "Waiting for room" in paused["sentence"]
    assert "going" in {event["event"] for event in events}


def test_a_run_pauses_and_takes_another_order(small: Project, demo_opened: Opened, tmp_path: Path) -> None:
    job = tmp_path / "job"
    job.mkdir()
    project = replace(small, shots=small.shots[:3])
    rows = rows_of(project, demo_opened.model)
    (job / ORDER_FILE).write_text(json.dumps([rows[2].file]))
    (job / PAUSE_FILE).touch()
    threading.Timer(1.0, lambda: (job / PAUSE_FILE).unlink()).start()
    started = time.monotonic()
    run = made(project, demo_opened, tmp_path / "out", job)
    assert time.monotonic() - started > 0.9
    pieces = [path.name for path in run.written if path.suffix == ".png"]
    assert pieces[0] == Path(rows[2].file).name
    assert len(pieces) == 3


def test_test_pictures_are_small_proofs_with_names_of_their_own(
    small: Project, demo_opened: Opened, tmp_path: Path
) -> None:
    request = trial(rows_of(small, demo_opened.model), small)
    sizes = {item.file: (item.width_px, item.height_px) for item in request.items}
    assert sizes["tests/01-waiting-hall-to-the-water-screen-16-9-test.png"] == (24, 16)
    assert all(file.startswith("tests/") for file in sizes)
    assert {type(item) for item in request.items} == {Picture, Pano, Film}


def test_rows_fit_into_a_size_in_their_own_proportion(small: Project, demo_opened: Opened) -> None:
    """Stills, panoramas and films: as large as the width and height allow, names and everything else as in
    the list; films even."""
    for row in rows_of(small, demo_opened.model):
        item = row.item
        assert item is not None
        picture = fitted(item, (480, 270))
        assert (picture.width_px, picture.height_px) <= (480, 270)
        assert picture.width_px == 480 or picture.height_px == 270 or isinstance(item, Film)
        assert picture.width_px / picture.height_px == pytest.approx(item.width_px / item.height_px, rel=0.02)
        assert replace(picture, width_px=item.width_px, height_px=item.height_px) == item
        half = sized(item, 0.5)
        assert half.width_px == pytest.approx(item.width_px / 2, abs=1.0)
        if isinstance(item, Film):
            assert picture.width_px % 2 == picture.height_px % 2 == half.width_px % 2 == 0
    # Nothing becomes smaller than can be looked at, or larger than can be made.
    assert sized(item, 1e-9).width_px == 16 and sized(item, 1e9).height_px == 32768


def test_names_that_clash_are_told_before_the_night(small: Project, demo_opened: Opened) -> None:
    clash = change_shots(small, ["shot-01", "shot-02"], pattern="{camera}", file="png")
    rows = rows_of(clash, demo_opened.model)
    assert "written twice" in rows[0].wrong and "written twice" in rows[1].wrong
    with pytest.raises(UserError, match="Row 1"):
        shot_request(chosen_rows(rows), clash)
    off = change_shots(clash, ["shot-02"], on=False)
    assert rows_of(off, demo_opened.model)[0].wrong == ""
    roomy = change_shots(small, ["shot-01"], pattern="{storey}-{room}-{camera}-{date}-{version}")
    (first, *_) = rows_of(roomy, demo_opened.model, "2026-11-25", "b")
    assert first.file == "stills/inside/ground-storey-waiting-hall-waiting-hall-to-the-water-2026-11-25-b.png"
    with pytest.raises(UserError, match="no row “99”"):
        chosen_rows(rows, ["99"])
    with pytest.raises(UserError, match="No row"):
        shot_request((), replace(small, shots=()))


def test_a_background_picture_lies_on_the_horizon(
    small: Project, demo_opened: Opened, tmp_path: Path
) -> None:
    half = np.zeros((40, 80, 3), np.uint8)
    half[:20] = (40, 80, 200)
    half[20:] = (20, 120, 20)
    Image.fromarray(half).save(tmp_path / "lake.png")
    quay = small.camera_named("Quay, morning")
    shot = replace(small.shots[0], subject=quay.id, background=PICTURE, background_file="lake.png")
    item = Picture(shot, quay, 96, 54, "x.png")
    work = PictureWork(Rows(small, demo_opened, Lookup(demo_opened.model), None, tmp_path))  # type: ignore[arg-type]
    behind = work.backgrounds.of(item.view(), item.shot, item.camera.ev, work.rows.light_of(item))
    row = round(horizon_row(item.view()))
    assert behind[row - 4, 40, 2] > 0.6 > 0.3 > behind[row + 4, 40, 2]
    assert (
        over(
            np.ones((1, 1, 3), np.float32), np.full((1, 1), 0.25, np.float32), np.zeros((1, 1, 3), np.float32)
        )[0, 0, 0]
        == 0.25
    )
    for name in ("../lake.png", "/etc/passwd", ""):
        with pytest.raises(UserError, match="project's folder"):
            work.backgrounds.of(
                item.view(), replace(shot, background_file=name), 10.0, work.rows.project.light
            )


def test_sky_and_ground_are_set_apart(small: Project, demo_opened: Opened, tmp_path: Path) -> None:
    quay = next(shot for shot in small.shots if shot.background == TRANSPARENT)
    low = replace(quay, file="png", keep_master=False, dpi=0.0, width_px=192)
    kinds = {
        "whole": replace(low, background=SKY),
        "apart": replace(low, background=SKY, ground=PLAIN, ground_colour="#204060"),
        "paper": replace(low, background=PAPER),
        "cut out": replace(low, ground=PLAIN, ground_colour="#204060"),
    }
    # Looking out over the edge of the model, so that there is sky and ground beyond it.
    edge = replace(
        small.camera(quay.subject),
        eye=(2000.0, 2000.0, 12.0),
        heading_deg=45.0,
        tilt_deg=0.0,
        near_m=None,
        far_m=None,
        rise_mm=0.0,
    )
    cameras = tuple(edge if item.id == edge.id else item for item in small.cameras)
    rows = [replace(row, pattern=name) for name, row in kinds.items()]
    project = add_shots(replace(small, shots=(), cameras=cameras), rows)
    made(project, demo_opened, tmp_path)
    shown = {
        name: picture_at(tmp_path / quay.folder / f"{name.replace(' ', '-')}.png").astype(int)
        for name in kinds
    }
    high = shown["whole"].shape[0]
    # The sky behind is the one that is drawn with the building; below it the ground is plain.
    assert np.abs(shown["apart"][: high // 2 - 2] - shown["whole"][: high // 2 - 2]).max() <= 2
    assert np.abs(shown["apart"][high // 2 + 2 :] - (0x20, 0x40, 0x60)).max() <= 1
    assert np.abs(shown["paper"] - (0xFB, 0xFA, 0xF6)).max() <= 1
    with Image.open(tmp_path / quay.folder / "cut-out.png") as image:
        cut = np.asarray(image.convert("RGBA")).astype(int)
    assert cut[: high // 2 - 2, :, 3].max() == 0 and cut[high // 2 + 2 :, :, 3].min() == 255
    assert np.abs(cut[high // 2 + 2 :, :, :3] - (0x20, 0x40, 0x60)).max() <= 1


def test_a_film_has_its_own_background(small: Project, demo_opened: Opened, tmp_path: Path) -> None:
    Image.new("RGB", (64, 64), (200, 30, 40)).save(tmp_path / "red.png")
    row = next(shot for shot in small.shots if shot.kind == FILM)
    row = replace(
        row, subject="walk-02", background=PICTURE, background_file="red.png", file="png-frames", step=6
    )
    made(add_shots(replace(small, shots=()), [row]), demo_opened, tmp_path / "out", base=tmp_path)
    first = picture_at(min((tmp_path / "out").rglob("*.png"))).astype(int)
    # The turntable looks at the terminal under the sky, which is red now.
    assert np.abs(first[1] - (200, 30, 40)).max(axis=1).min() <= 2


def test_a_colour_table_is_read_from_the_projects_folder_alone(
    small: Project, demo_opened: Opened, tmp_path: Path
) -> None:
    base, out = tmp_path / "project", tmp_path / "out"
    (base / "tables").mkdir(parents=True)
    turned = "LUT_1D_SIZE 2\n1 1 1\n0 0 0\n"
    (base / "tables/turned.cube").write_text(turned)
    (tmp_path / "outside.cube").write_text(turned)
    row = small.shots[0]
    shots = [
        replace(row, pattern="plain", tone=Tone()),
        replace(row, pattern="turned", tone=Tone(table="tables/turned.cube")),
        replace(row, pattern="outside", tone=Tone(table="../outside.cube")),
        replace(row, pattern="gone", tone=Tone(table="tables/gone.cube")),
    ]
    project = replace(small, shots=())
    project = add_shots(project, shots)
    run = made(project, demo_opened, out, base=base)
    plain, other = (picture_at(out / row.folder / f"{name}.png").astype(int) for name in ("plain", "turned"))
    # A grain of half a step lies over both.
    assert np.abs(other - (255 - plain)).max() <= 1
    assert {Path(file).stem: "project's folder" in said for file, said in run.aside.items()} == {
        "outside": True,
        "gone": True,
    }


@pytest.mark.slow
def test_the_figures_behind_a_word_decide_the_passes(
    small: Project, demo_opened: Opened, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    passes: list[tuple[int, int]] = []
    drawn = Renderer.master

    def counted(self: Renderer, view: object, sky: object, quality: Quality, *rest: object) -> object:
        passes.append((quality.passes, quality.shadow_px))
        return drawn(self, view, sky, quality, *rest)  # type: ignore[arg-type]

    monkeypatch.setattr(Renderer, "master", counted)
    row = replace(small.shots[0], keep_master=False)
    project = set_making(add_shots(replace(small, shots=()), [row]), "proof", Making(5, 2, 1024))
    made(project, demo_opened, tmp_path)
    assert passes == [(5, 1024)]
    film = replace(next(shot for shot in small.shots if shot.kind == FILM), rendition=WHITE_CARD)
    passes.clear()
    made(
        set_making(add_shots(replace(small, shots=()), [film]), "proof", Making(5, 4, 1024)),
        demo_opened,
        tmp_path,
    )
    assert set(passes) == {(4, 1024)}


def test_a_panorama_faces_its_own_front(small: Project, demo_opened: Opened, tmp_path: Path) -> None:
    row = replace(
        next(shot for shot in small.shots if shot.kind == PANORAMA), faces=False, file="png", width_px=256
    )
    camera = small.camera(row.subject)
    turned = (camera.heading_deg + 90.0) % 360.0
    project = add_shots(
        replace(small, shots=()),
        [replace(row, pattern="as-it-stands"), replace(row, pattern="turned", front_deg=turned)],
    )
    made(project, demo_opened, tmp_path)
    plain, other = (
        picture_at(tmp_path / row.folder / f"{name}.png").astype(float) for name in ("as-it-stands", "turned")
    )
    # A quarter to the right: what was at three quarters of the width is in the middle.
    assert np.abs(np.roll(plain, -64, axis=1) - other).mean() < 2.0 < np.abs(plain - other).mean()
    packet = (tmp_path / row.folder / "turned.png").read_bytes().decode("latin-1")
    assert re.search(rf"PoseHeadingDegrees\W+{turned:g}\b", packet)
    # The camera it remembers is the one that stands there, not turned.
    assert remembered(tmp_path / row.folder / "turned.png").camera.heading_deg == camera.heading_deg


def test_a_panorama_is_toned_from_its_master(
    small: Project, demo_opened: Opened, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Another tone draws nothing again and gives the bytes that a fresh run gives; another front is another
    picture."""
    row = replace(
        next(shot for shot in small.shots if shot.kind == PANORAMA),
        faces=False, file="png", width_px=128, pattern="round", keep_master=True, tone=None,
    )  # fmt: skip
    project = add_shots(replace(small, shots=()), [row])
    made(project, demo_opened, tmp_path)
    assert (tmp_path / "masters" / row.folder / "round.exr").is_file()
    drawn: list[int] = []
    whole = Panoramas._drawn_round
    monkeypatch.setattr(
        Panoramas, "_drawn_round", lambda self, item, told: (drawn.append(1), whole(self, item, told))[1]
    )
    toned = replace(project, tone=Tone(exposure_ev=1.0, glow=0.3, vignette=0.7))
    made(toned, demo_opened, tmp_path)
    assert drawn == []
    made(toned, demo_opened, tmp_path / "fresh")
    name = f"{row.folder}/round.png"
    assert drawn == [1] and (tmp_path / name).read_bytes() == (tmp_path / "fresh" / name).read_bytes()
    made(change_shots(toned, [toned.shots[0].id], front_deg=33.0), demo_opened, tmp_path)
    assert drawn == [1, 1]


def test_presets_are_files(small: Project, tmp_path: Path) -> None:
    path = tmp_path / "lines.altana-preset"
    path.write_bytes(preset_json(small.shots[2]))
    assert read_preset(path)["rendition"] == LINES
    for wrong in ("", "{}", '{"kind": "altana-preset", "scale": "big"}', "[" * 5000):
        path.write_text(wrong)
        with pytest.raises(UserError, match="cannot be used as a preset"):
            read_preset(path)


# ---------------------------------------------------------------------- pages


def test_pages_for_the_client(whole: Path, small: Project, demo_opened: Opened, tmp_path: Path) -> None:
    rows = rows_of(small, demo_opened.model)
    pictures = shown_of(small, rows, whole)
    assert len(pictures) == 8  # EXR is no picture for a page
    sheet = contact_sheet(small, pictures)
    assert sheet == contact_sheet(small, pictures)
    untold = tuple(replace(item, caption="") for item in pictures)
    with (
        Image.open(io.BytesIO(sheet)) as image,
        Image.open(io.BytesIO(contact_sheet(small, untold))) as other,
    ):
        assert image.width > 1500
        # What pictures are to say stands below their names, where anything is said.
        assert image.height == other.height + 2 * 22
    for template, count in (("one", 9), ("grid", 3)):
        data = presentation(small, pictures, demo_opened.model, template)
        assert data.startswith(b"%PDF") and data.count(b"/Type /Page\n") == count
        assert data == presentation(small, pictures, demo_opened.model, template)
    told = "Παρουσίαση — “Łąka”, двор"
    page = PdfReader(
        io.BytesIO(presentation(replace(small, name=told), pictures, demo_opened.model, "one"))
    ).pages[0]
    assert told in page.extract_text() and "8 pictures" in page.extract_text()
    path = client_zip(small, pictures, [], tmp_path / "c.zip")
    with zipfile.ZipFile(path) as archive:
        assert archive.testzip() is None
        assert {"index.html", pictures[0].row.file} <= set(archive.namelist())
    with pytest.raises(UserError, match="Nothing of the shot list"):
        shown_of(small, rows, tmp_path)
    with pytest.raises(UserError, match="no template"):
        presentation(small, pictures, demo_opened.model, "three")


def test_the_first_page_shows_every_camera_on_every_storey(
    whole: Path, small: Project, demo_opened: Opened
) -> None:
    def at(shown: ClientPicture, eye: Vec3) -> ClientPicture:
        item = shown.row.item
        assert isinstance(item, Picture)
        moved = replace(item, camera=replace(item.camera, eye=eye))
        return replace(shown, row=replace(shown.row, item=moved))

    pages = [
        item
        for item in shown_of(small, rows_of(small, demo_opened.model), whole)
        if isinstance(item.row.item, Picture)
    ]
    hall, gallery, lookout = (7.0, 5.0, 1.6), (1.1, 16.9, 4.8), (-8.4, 7.4, 18.6)
    eyes = (hall, gallery, hall, lookout, hall, hall)
    taken = [at(pages[number % len(pages)], eye) for number, eye in enumerate(eyes)]
    document = PdfReader(io.BytesIO(presentation(small, taken, demo_opened.model, "grid")))
    # Two plans have room on the first page; the third has one of its own.
    words = [page.extract_text().splitlines() for page in document.pages]
    assert len(words) == 4
    assert {"Ground storey", "Gallery storey"} <= set(words[0]) and "Lookout" in words[1]
    # Those that were taken from one place have one mark.
    assert {"1, 3, 5, 6", "2"} <= set(words[0]) and "4" in words[1]


PROBE = """<script>
window.addEventListener("load", () => setTimeout(() => {
  const canvas = document.getElementById("view"), look = window.altana, told = {};
  canvas.setPointerCapture = () => {};
  const send = (kind, x, y) => canvas.dispatchEvent(new PointerEvent(kind, { clientX: x, clientY: y, pointerId: 1, bubbles: true }));
  const mean = () => {
    look.draw();
    const gl = canvas.getContext("webgl"), data = new Uint8Array(4 * canvas.width * canvas.height);
    gl.readPixels(0, 0, canvas.width, canvas.height, gl.RGBA, gl.UNSIGNED_BYTE, data);
    let sum = [0, 0, 0];
    for (let at = 0; at < data.length; at += 4) for (let c = 0; c < 3; c++) sum[c] += data[at + c];
    return sum.map((value) => value / (data.length / 4));
  };
  told.ready = look.state.ready;
  told.before = mean();
  const heading = look.state.heading;
  send("pointerdown", 500, 300); send("pointermove", 100, 300); send("pointerup", 100, 300);
  told.turned = look.state.heading - heading;
  told.after = mean();
  told.links = document.querySelectorAll("#links button").length;
  document.querySelector("#links button").click();
  told.scene = look.state.scene;
  document.querySelectorAll("#plan circle")[0].dispatchEvent(new Event("click"));
  told.back = look.state.scene;
  told.requests = performance.getEntriesByType("resource").filter((entry) => !entry.name.startsWith("data:")).length;
  document.body.dataset.told = JSON.stringify(told);
}, 1200));
</script></body>"""


@pytest.mark.slow
def test_the_page_that_turns_panoramas_works_offline_in_a_browser(
    small: Project, demo_opened: Opened, tmp_path: Path
) -> None:
    camera = small.camera_named("Hall from the quay doors").id
    first = replace(small.shots[7], faces=False, width_px=512)
    rows = add_shots(replace(small, shots=()), [first, replace(first, subject=camera)])
    made(rows, demo_opened, tmp_path)
    (path,) = write_pages(rows, rows_of(rows, demo_opened.model), demo_opened.model, tmp_path, ["look-round"])
    text = path.read_text()
    assert "http://" not in text.replace("http://www.w3.org", "") and "https://" not in text
    probe = tmp_path / "probe.html"
    probe.write_text(text.replace("</body>", PROBE))
    browser = [
        "chromium",
        "--headless",
        "--no-sandbox",
        "--disable-gpu",
        "--use-angle=swiftshader",
        "--enable-unsafe-swiftshader",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--no-first-run",
        f"--user-data-dir={tmp_path / 'browser'}",
        "--window-size=800,600",
        "--virtual-time-budget=9000",
        "--dump-dom",
        probe.as_uri(),
    ]
    page = subprocess.run(browser, capture_output=True, text=True, timeout=600).stdout
    told = json.loads(page.partition('data-told="')[2].partition('"')[0].replace("&quot;", '"'))
    assert told["ready"] is True
    # 400 of 800 pixels of 75 degrees, the picture going along with the pointer.
    assert told["turned"] == pytest.approx(37.5, abs=2.0)
    assert np.abs(np.subtract(told["after"], told["before"])).max() > 2.0
    assert (told["links"], told["scene"], told["back"], told["requests"]) == (1, 1, 0, 0)


# ---------------------------------------------------------------------- kills


@pytest.mark.slow
@pytest.mark.parametrize("tries", [2, 20])
def test_killed_again_and_again_nothing_is_lost_and_the_end_is_the_same(
    whole: Path, small: Project, demo_copy: Path, tmp_path: Path, tries: int
) -> None:
    write_project(demo_copy, small)
    assert read_project(demo_copy) == small
    out, job = tmp_path / "out", tmp_path / "job"
    command = [
        sys.executable,
        "-m",
        "altana",
        "render",
        str(demo_copy),
        "--shots",
        "--out",
        str(out),
        "--job",
        str(job),
        "--json",
        "--resume",
    ]
    rng = random.Random(5)
    kills = 0
    lasted = 1.5
    for _ in range(tries):
        child = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE)
        time.sleep(lasted * rng.uniform(0.3, 1.2))
        kills += child.poll() is None
        child.kill()
        child.communicate(timeout=600)
        whole_now = files_of(whole)
        for name, data in files_of(out).items() if out.is_dir() else ():
            # What is visible under its name is whole, and what it will be in the end.
            if not Path(name).name.startswith(".") and BEFORE_FOLDER not in name:
                assert whole_now[name] == data, name
    assert kills >= max(1, tries * 2 // 5)
    last = subprocess.run(command, capture_output=True, text=True, timeout=600)
    assert last.returncode == 0, last.stderr
    end = {
        name: data
        for name, data in files_of(out).items()
        if BEFORE_FOLDER not in name and not Path(name).name.startswith(".")
    }
    assert unlike(end, files_of(whole)) == []


def test_a_row_is_named_by_what_it_shows(small: Project) -> None:
    item = Picture(small.shots[0], small.cameras[0], 96, 54, "x.png")
    assert Request(small, (item,)).digest() != Request(small, (replace(item, width_px=97),)).digest()


def test_what_a_panorama_sets_aside_and_what_is_too_near_is_told(small: Project, demo_opened: Opened) -> None:
    tilted = replace(small, cameras=tuple(replace(c, tilt_deg=5.0, near_m=0.4) for c in small.cameras))
    row = next(row for row in rows_of(tilted, demo_opened.model) if row.shot.kind == PANORAMA)
    assert row.note == "Set aside: the 24 mm lens, its tilt, its bounds. The camera keeps them."
    model = demo_opened.model
    rays, camera = RayScene(model.vertices, model.faces), small.camera_named("Waiting hall to the water")
    assert near_things(rays, model.face_objects(), model, camera) == ()
    low = replace(camera, eye=(camera.eye[0], camera.eye[1], 0.3))
    (nearest, *_) = near_things(rays, model.face_objects(), model, low)
    assert nearest.away_m == pytest.approx(0.3, abs=0.01)
    assert nearest.towards[2] < -0.95


def test_too_little_disk_or_memory_is_told_before(
    small: Project, demo_opened: Opened, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    items = [row.item for row in rows_of(small, demo_opened.model) if row.item is not None]
    assert doubts(items, "review", tmp_path / "not" / "yet") == ()
    monkeypatch.setattr(estimates, "free_memory", lambda: 1e9)
    huge = replace(items[0], width_px=16000, height_px=9000)
    assert "GB of memory" in doubts([huge], "review", tmp_path)[0]
    monkeypatch.setattr(estimates.shutil, "disk_usage", lambda path: type("Usage", (), {"free": 10})())
    assert "are free in" in doubts(items, "review", tmp_path)[0]
    assert estimates.memory_for(huge) > estimates.memory_for(items[0])


def test_the_last_version_stays_when_the_same_is_made_again(
    small: Project, demo_opened: Opened, tmp_path: Path
) -> None:
    one = replace(small, shots=(replace(small.shots[1], file="png"),))
    made(one, demo_opened, tmp_path)
    (path,) = tmp_path.rglob("0*.png")
    first = path.read_bytes()
    moved = replace(
        one, cameras=tuple(replace(camera, heading_deg=camera.heading_deg + 4.0) for camera in one.cameras)
    )
    made(moved, demo_opened, tmp_path)
    # A run that was broken off after the file was written makes it again: that is no other version.
    made(moved, demo_opened, tmp_path)
    assert (path.parent / BEFORE_FOLDER / path.name).read_bytes() == first


def test_the_light_of_a_row_is_put_on_once(
    small: Project, demo_opened: Opened, monkeypatch: pytest.MonkeyPatch
) -> None:
    put: list[object] = []
    monkeypatch.setattr(
        rows_module,
        "light_of",
        lambda opened, light, *_: put.append(light.hour) or light_of(opened, small.light),
    )

    class Fake:
        def relight(self, pixels: object) -> None:
            put.append("on")

    work = PictureWork(
        Rows(
            small, demo_opened, Lookup(demo_opened.model), Fake(), Path(), light_of(demo_opened, small.light)
        )
    )  # type: ignore[arg-type]
    for hour in (None, 9.0, 9.0, None, None):
        work.rows.sky(small.light if hour is None else replace(small.light, hour=hour), lambda share: True)
    assert put == [9.0, "on", "on"]


@pytest.mark.slow
def test_progress_counts_what_pieces_take(
    small: Project, demo_opened: Opened, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    # What this machine has learnt while it was busy with other tests would decide the shares.
    monkeypatch.setattr(paces, "_path", lambda: tmp_path / "nothing-learnt.json")
    rows = [
        replace(small.shots[0], keep_master=False, width_px=64, pattern=f"{{order}}-{number}")
        for number in range(3)
    ]
    rows.append(replace(small.shots[0], keep_master=False, width_px=960, pattern="{order}-large"))
    made(add_shots(replace(small, shots=()), rows), demo_opened, tmp_path / "out", tmp_path / "job")
    events = [json.loads(line) for line in (tmp_path / "job" / "journal.jsonl").read_text().splitlines()]
    shares = [event["share"] for event in events if event["event"] == "progress"]
    assert shares == sorted(shares) and shares[-1] <= 1.0
    large = next(
        event["share"] for event in events if event["event"] == "progress" and "(4 of 4)" in event["label"]
    )
    # Three small pictures are no three quarters of the work.
    assert large < 0.97 - 0.02 and 1.0 - large > 3.0 * (large - shares[0]) / 3.0
    parts = [
        event["part"] for event in events if event["event"] == "progress" and "(4 of 4)" in event["label"]
    ]
    assert parts[0] == 0.0 and max(parts) > 0.5
