"""Runs: right files, cancel, resume; films that read back exactly; services that come back after they
died."""

from __future__ import annotations

import json
import os
import signal
import time
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest

from altana.core.errors import UserError
from altana.core.light.transport import Cancelled
from altana.core.project import Project
from altana.core.staging import WHOLE
from altana.jobs.estimates import job_of
from altana.jobs.models import Opened, open_project_models
from altana.jobs.orders import (
    DrawPicture,
    DrawPlan,
    Failure,
    ModelsOpened,
    OpenModels,
    PictureDrawn,
    PlanDrawn,
)
from altana.jobs.requests import Part, file_stem, fitted, parse_size, request_for
from altana.jobs.run import Run
from altana.jobs.service import Answer, Service, Task
from altana.render.encode import still_bytes, write_film
from altana.render.film_file import film_facts
from altana.render.quality import BLUR_PASSES
from altana.storage.files import make_folder
from tests.conftest import picture_at


@pytest.fixture(scope="module")
def short(demo_project: Project) -> Project:
    """The demo with a walk of one second."""
    return replace(
        demo_project,
        walks=(replace(demo_project.walks[0], seconds=1.0, rate="12", width_px=96, height_px=54),),
    )


@pytest.mark.slow
@pytest.mark.slow
def test_stills_of_several_proportions(short: Project, demo_opened: Opened, tmp_path: Path) -> None:
    cameras = tuple(
        short.camera_named(name) for name in ("Waiting hall to the water", "Tower from the forecourt")
    )
    request = request_for(short, cameras, (), (160, 90), None, "proof", "png")
    told: list[float] = []
    files = Run(
        request, demo_opened, tmp_path, tmp_path / "job", telling=lambda share, label: told.append(share)
    ).go()
    assert [path.name for path in files] == ["waiting-hall-to-the-water.png", "tower-from-the-forecourt.png"]
    assert [picture_at(path).shape[:2] for path in files] == [(90, 160), (90, 72)]
    assert told == sorted(told)
    assert not [path for path in tmp_path.iterdir() if path.name.endswith(".part")]
    events = [
        json.loads(line)["event"] for line in (tmp_path / "job" / "journal.jsonl").read_text().splitlines()
    ]
    assert (events[0], events[-1], events.count("piece")) == ("start", "done", 2)
    assert picture_at(files[0]).std() > 20


@pytest.mark.parametrize("rate", [pytest.param("12", marks=pytest.mark.slow), "24000/1001"])
def test_a_film_reads_back_exactly(short: Project, demo_opened: Opened, tmp_path: Path, rate: str) -> None:
    request = request_for(short, (), short.walks, None, rate, "proof", "png")
    (path,) = Run(request, demo_opened, tmp_path).go()
    facts = film_facts(path)
    exact = Fraction(rate)
    assert (facts.frames, facts.rate) == (round(exact), exact)
    assert facts.seconds == pytest.approx(float(facts.frames / exact), abs=1e-3)
    assert (facts.width, facts.height, facts.pixel_format) == (96, 54, "yuv420p")
    assert [item.name for item in tmp_path.iterdir()] == [path.name]


@pytest.mark.slow
def test_a_part_of_a_film_with_its_strip_and_frames(
    short: Project, demo_opened: Opened, tmp_path: Path
) -> None:
    whole = Run(
        request_for(short, (), short.walks, None, None, "proof", "png"), demo_opened, tmp_path / "whole"
    ).go()
    part = Part(0.25, 0.75, step=2, strip_every=2, keep_frames=True)
    request = request_for(short, (), short.walks, None, None, "proof", "png", part=part)
    kept = make_folder(tmp_path / "out" / f"{whole[0].stem}-frames")
    (kept / "000001.png").write_bytes(b"of an earlier film")
    (kept / "notes.txt").write_text("mine")
    film, strip, folder = sorted(
        Run(request, demo_opened, tmp_path / "out").go(),
        key=lambda path: (path.suffix != ".mp4", not path.suffix),
    )
    facts = film_facts(film)
    # Frames 3, 5 and 7 of 12 a second, at 6 a second.
    assert (facts.frames, facts.rate, facts.seconds) == (3, Fraction(6), pytest.approx(0.5, abs=1e-3))
    assert sorted(path.name for path in folder.iterdir()) == [
        "000003.png",
        "000005.png",
        "000007.png",
        "notes.txt",
    ]
    apart = np.abs(film_pixels(whole[0]) - picture_at(folder / "000005.png").astype(int)).mean(axis=(1, 2, 3))
    assert int(apart.argmin()) == 5 and apart[5] < 0.8 * np.sort(apart)[1]
    sheet = picture_at(strip)
    assert sheet.shape[:2] == (12 + 180 + 24 + 12, 12 + 2 * 332)
    assert sheet[20:180, 20:320].std() > 10 and tuple(sheet[2, 2]) == (252, 251, 247)
    assert not [path for path in (tmp_path / "out").iterdir() if path.name.startswith(".")]


@pytest.mark.parametrize(
    ("part", "words"),
    [
        (Part(0.8, 0.2), "nothing of it lies"),
        (Part(0.0, 2.0), "lasts 1 s"),
        (Part(-1.0), "nothing of it lies"),
        (Part(0.5, 0.51), "nothing of it lies"),
        (Part(step=0), "step of 1 to 12"),
        (Part(step=13), "less than one a second"),
        (Part(strip_every=-1), "every n-th film frame"),
    ],
)
def test_parts_that_cannot_be_made_are_refused(short: Project, part: Part, words: str) -> None:
    with pytest.raises(UserError, match=words):
        request_for(short, (), short.walks, None, None, "proof", "png", part=part)


def film_pixels(path: Path) -> np.ndarray:
    """All film frames as one array."""
    with av.open(str(path)) as container:
        return np.stack([frame.to_ndarray(format="rgb24") for frame in container.decode(video=0)]).astype(int)


@pytest.mark.slow
def test_cancel_keeps_what_is_finished_and_resume_makes_the_rest(
    short: Project, demo_opened: Opened, tmp_path: Path
) -> None:
    cameras = short.cameras[:3]
    request = request_for(short, cameras, short.walks, (96, 54), None, "proof", "png")
    undisturbed = Run(request, demo_opened, tmp_path / "whole", tmp_path / "j0").go()

    def stop() -> bool:
        return any((tmp_path / "out").glob("*.png"))

    run = Run(request, demo_opened, tmp_path / "out", tmp_path / "job", stop=stop)
    with pytest.raises(Cancelled):
        run.go()
    assert 1 <= len(run.written) < 4
    kept = {path: path.stat().st_mtime_ns for path in run.written}
    again = Run(request, demo_opened, tmp_path / "out", tmp_path / "job", resume=True).go()
    assert len(again) == 4
    assert all(path.stat().st_mtime_ns == stamp for path, stamp in kept.items())
    for one, two in zip(sorted(undisturbed), sorted(again), strict=True):
        if one.suffix == ".png":
            assert one.read_bytes() == two.read_bytes()
        else:
            # Encoded films have differed in bytes under load; what they show may not.
            assert np.abs(film_pixels(one) - film_pixels(two)).mean() < 1.0


def test_a_changed_request_is_made_anew(short: Project, demo_opened: Opened, tmp_path: Path) -> None:
    request = request_for(short, short.cameras[:1], (), (96, 54), None, "proof", "png")
    (path,) = Run(request, demo_opened, tmp_path, tmp_path / "job").go()
    first = path.read_bytes()
    moved = replace(short.cameras[0], heading_deg=40.0)
    other = request_for(replace(short, cameras=(moved,)), (moved,), (), (96, 54), None, "proof", "png")
    Run(other, demo_opened, tmp_path, tmp_path / "job", resume=True).go()
    assert path.read_bytes() != first


def test_names_sizes_and_wrong_words(short: Project) -> None:
    assert parse_size("1920x1080") == parse_size(" 1920 × 1080 ") == (1920, 1080)
    assert file_stem("Café – Gallery / 2") == "cafe-gallery-2"
    assert fitted(short.camera_named("Tower from the forecourt"), (1000, 1000)) == (800, 1000)
    # A typed width stays as it was typed, whatever its height rounds to.
    wide = replace(short.camera_named("Tower from the forecourt"), width_px=1920, height_px=1080)
    assert fitted(wide, (200, 112)) == (200, 112) and fitted(wide, (200, 114)) == (200, 112)
    # So does a typed height, of a tall picture too.
    tall = replace(wide, width_px=1080, height_px=1920)
    assert fitted(tall, (112, 200)) == (112, 200) and fitted(tall, (114, 200)) == (112, 200)
    two = request_for(short, (short.cameras[0],) * 2, (), None, None, "proof", "jpg")
    assert len({item.file for item in two.items}) == 2
    for wrong in ("12", "0x0", "99999x10", "a x b"):
        with pytest.raises(UserError, match="size"):
            parse_size(wrong)
    for values in (
        (None, None, "best", "png"),
        (None, None, "proof", "bmp"),
        ((97, 54), None, "proof", "png"),
        (None, "0", "proof", "png"),
    ):
        with pytest.raises(UserError, match=r"\.$"):
            request_for(short, (), short.walks, *values)
    with pytest.raises(UserError, match="scale"):
        request_for(short, short.cameras, (), None, None, "proof", "png", 9.0)


def test_film_tags_key_frames_and_header_first(tmp_path: Path) -> None:
    frames = [np.full((64, 96, 3), (10 * (i % 25), 120, 200), np.uint8) for i in range(60)]
    path = tmp_path / "f.mp4"
    assert write_film(path, frames, Fraction(25), 96, 64) == 60
    data = path.read_bytes()
    assert 0 < data.find(b"moov") < data.find(b"mdat")
    with av.open(str(path)) as container:
        stream = container.streams.video[0]
        context = stream.codec_context
        assert (context.color_primaries, context.color_trc, context.colorspace, context.color_range) == (
            1,
            1,
            1,
            1,
        )
        keys = [
            packet.pts * packet.time_base
            for packet in container.demux(stream)
            if packet.is_keyframe and packet.pts is not None
        ]
    assert max(np.diff([float(key) for key in keys])) <= 1.0
    with av.open(str(path)) as container:
        frame = next(container.decode(video=0))
        shown = frame.reformat(format="rgb24", src_colorspace="ITU709").to_ndarray()
    assert shown[32, 48].astype(int) == pytest.approx((0, 120, 200), abs=6)
    with pytest.raises(UserError, match="even"):
        write_film(tmp_path / "odd.mp4", frames, Fraction(25), 97, 64)


def test_an_unwritable_folder_is_said(short: Project, demo_opened: Opened, tmp_path: Path) -> None:
    (tmp_path / "file").write_text("x")
    request = request_for(short, short.cameras[:1], (), (96, 54), None, "proof", "png")
    with pytest.raises(UserError, match=r"not written.*\."):
        Run(request, demo_opened, tmp_path / "file").go()
    with pytest.raises(UserError, match="65500"):
        still_bytes(np.zeros((1, 65_501, 3), np.uint8), "jpg")


def test_a_project_without_a_model(tmp_path: Path) -> None:
    with pytest.raises(UserError, match="no model yet"):
        open_project_models(Project(), tmp_path / "p.altana")


def wait_for(service: Service, seconds: float = 300.0) -> Answer:
    assert service.connection.poll(seconds)
    answer = service.connection.recv()
    assert isinstance(answer, Answer)
    return answer


def test_pictures_come_from_another_process_and_it_can_be_restarted(
    demo_files: Path, demo_project: Project
) -> None:
    service = Service("altana.jobs.children.pictures:pictures", pictures=True)
    try:
        scene = Task("models", 1, -10, OpenModels(demo_project, str(demo_files / "larkwater.altana")))
        camera = demo_project.cameras[0]
        ask = Task(
            "frame",
            2,
            0,
            DrawPicture("coarse", camera.view(96, 54), demo_project.light, camera.ev, True, WHOLE),
        )
        for _ in range(2):
            service.send(scene)
            assert isinstance(wait_for(service).reply, ModelsOpened)
            service.send(ask)
            answer = wait_for(service)
            assert isinstance(answer.reply, PictureDrawn)
            pixels = service.take_picture(answer.reply)
            assert (answer.channel, answer.revision, pixels.shape) == ("frame", 2, (54, 96, 3))
            assert pixels.std() > 10
            os.kill(service.process_id, signal.SIGKILL)
            time.sleep(0.3)
            service.restart()
        assert service.restarts == 2
    finally:
        service.close()


def test_the_newest_request_of_a_channel_wins(demo_files: Path, demo_project: Project) -> None:
    service = Service("altana.jobs.children.drafting:drafting")
    try:
        service.send(Task("models", 1, -10, OpenModels(demo_project, str(demo_files / "larkwater.altana"))))
        for revision, cut in ((2, 1.0), (3, 1.1), (4, 1.2)):
            service.send(Task("plan", revision, 0, DrawPlan(0.0, cut)))
        assert wait_for(service).channel == "models"
        answer = wait_for(service)
        assert isinstance(answer.reply, PlanDrawn)
        assert (answer.revision, answer.reply.drawing.cut_m) == (4, 1.2)
        service.send(Task("plan", 5, 0, DrawPlan("nonsense", None)))  # type: ignore[arg-type]
        failed = wait_for(service)
        assert isinstance(failed.reply, Failure) and failed.revision == 5
        assert failed.reply.order == "DrawPlan" and "Traceback" not in failed.reply.sentence
        # Whoever mends it gets the stack, down to the line.
        assert "Traceback" in failed.reply.trace and "drawing.py" in failed.reply.trace
        # What a person can mend comes as a sentence alone.
        service.send(
            Task(
                "models",
                6,
                -10,
                OpenModels(replace(demo_project, models=()), str(demo_files / "larkwater.altana")),
            )
        )
        refused = wait_for(service)
        assert (
            isinstance(refused.reply, Failure)
            and "no model" in refused.reply.sentence
            and not refused.reply.trace
        )
    finally:
        service.close()


def test_blur_is_expected_to_take_its_passes(demo_project: Project) -> None:
    camera = demo_project.cameras[0]
    plain, blurred = (
        job_of(request_for(demo_project, (item,), (), None, None, "proof", "png").items[0], "proof")
        for item in (camera, replace(camera, blur=True))
    )
    passes = demo_project.qualities.of("proof").passes
    assert (plain.effort, blurred.effort) == (1.0, BLUR_PASSES / passes)
